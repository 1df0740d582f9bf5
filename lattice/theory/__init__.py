"""Scales, chords and their names: below the documents, which speak of them."""
