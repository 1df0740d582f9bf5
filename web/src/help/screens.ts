/** How each screen is used. */
export interface Topic {
  readonly name: string
  /** The names of the routes that it is about. */
  readonly of: readonly string[]
  readonly says: readonly string[]
}

export const TOPICS: readonly Topic[] = [
  {
    name: 'First minutes',
    of: [],
    says: [
      'On the Shelf, press New piece. It is empty, and offers three ways to begin: press a starter or a ground and it plays; Begin takes it. Or add an empty lane.',
      'Space plays and stops. Everything can be changed while it plays.',
      'Beside a lane’s name stands what it does: “5 in 16 · rotated 2”. Drag a number up or down, type over it, press a word for what it could be instead; “+” offers what else could act.',
      'Heard something good? Keep 4 bars, at the foot, takes the last bars of the tape as a clip. It has been running all the time.',
      'The notice that follows exports the clip as a MIDI file; on Clips it stays.',
      'For a melody: Starters, melodies. A bass line, a pad and a lead are three presses on “+ lane”; they follow scale and chords.',
    ],
  },
  {
    name: 'Shelf',
    of: ['shelf'],
    says: [
      'All your pieces, the one changed last first. A press opens one; its name can be changed where it stands.',
      'New piece begins an empty one. Import a piece takes one that was exported as JSON.',
      'Delete takes a piece away at once; the notice that says so brings it back.',
    ],
  },
  {
    name: 'Lattice',
    of: ['lattice'],
    says: [
      'Every lane is a thread through true time: equal distances are equal durations. A bead is a hit, a dot a rest; the tinted band is the first cycle in view. Where all lanes begin together again is said at the top left.',
      'A press on a thread turns a step to hit or rest, a drag along it paints. A drag with Shift held chooses a stretch of time, on a touch screen after a press on Choose; so do Shift and the arrows. A melodic bead is dragged up and down.',
      'A lane’s name opens its menu: name, voice, ink, copy, remove. A anchors it against throws, M mutes it, S lets it sound alone.',
      'Up and down choose a lane, left and right walk its steps, Enter turns one. + and − change its hits. N is a new lane.',
      'Chords stand above the lanes: press one to write another, pull its end to resize it. By keys, left and right go from chord to chord, up and down resize.',
      'The bench below has every setting of the chosen lane, and its strips to paint over. B folds it.',
      'P shows one property of all lanes in place of beads. A press on the ruler plays from there.',
      'Throw moves some hits of the lane elsewhere; Throw all those of every lane that is not anchored.',
      'Starters, the kit and the keyboard open above the lanes; Perform lays out big controls for hands.',
    ],
  },
  {
    name: 'Field',
    of: ['field'],
    says: [
      'Each dot is a pattern near yours: further up busier, further right more off the beat. Walk with the arrow keys or press one: it is heard from the next beat. Enter makes it the pattern.',
      'Distance says how far they may be, ways how they may differ. Anchored lanes stay as they are.',
      'Its other face is the ground: put lanes on it, and one drag moves them all.',
    ],
  },
  {
    name: 'Takes',
    of: ['takes'],
    says: [
      'Bars thrown by dice numbers of their own, side by side with their measures. A press hears one at once, in time; one laid over another shows what differs.',
      'Keep those that are worth it: a kept take is a clip. Any take is made again, note for note, from its number.',
    ],
  },
  {
    name: 'Clips',
    of: ['clips'],
    says: [
      'What was kept, to the note. Found by name, piece, set or tag; heard by a press; exported as MIDI, WAV or text, several as one zip.',
      'MIDI files dropped here become clips. Make lanes finds the rule behind notes: “5 in 8, rotated 3”.',
      'Play in place plays a clip where its lanes were; one press brings the lanes back.',
    ],
  },
  {
    name: 'A clip’s notes',
    of: ['clip'],
    says: [
      'The note sheet: drag a note, its end, or a box around several. Delete takes the chosen ones away. Scatter, quantise and the rest stand above.',
      'It goes round while you work, and has an undo of its own.',
    ],
  },
  {
    name: 'Order',
    of: ['order'],
    says: [
      'Which pattern plays when: each row says a pattern, how often, and what is different there. Its words are changed like those of a lane.',
      'Space plays it from the row at hand. Export writes the whole as one MIDI file, with a marker a row.',
    ],
  },
  {
    name: 'Perform',
    of: ['perform'],
    says: [
      'Eight big controls and pads. A press on a control’s name chooses what it moves; pads play detours as long as they are held.',
      'Turn on Record moves, and what you do with the controls is recorded and plays again.',
    ],
  },
  {
    name: 'Ports',
    of: ['ports'],
    says: [
      'Where notes go: built-in sounds, the simulated instrument, or your own by MIDI. The monitor shows every message.',
      'Learn, then a control on any screen, then a knob: from now on the knob moves it.',
      'The clock can come from outside; the music follows it.',
    ],
  },
  {
    name: 'Account',
    of: ['account'],
    says: [
      'Tokens let programs of yours sign in: made here, shown once, revoked here. The page has a first script.',
    ],
  },
  {
    name: 'Keyboard',
    of: [],
    says: [
      'The letter rows play notes, by their place on the keyboard: the lower row from its left end on, the upper row an octave higher. The notes are those of the scale, spelt as it spells them.',
      'A lane whose pool is held keys runs over what you hold. Latch keeps the notes when the keys are let go.',
      'Enter step by step, or record while it plays: notes go onto the lane’s steps.',
    ],
  },
]
