"""Which notes: scales, chords, progressions and what follows them, arpeggios."""
