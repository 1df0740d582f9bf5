"""The words that are no setting: what they mean, and which setting shows them."""

from typing import NamedTuple

__all__ = ["GLOSSARY", "Term"]


class Term(NamedTuple):
    """*shown_by*: the setting whose page shows it; '' for none."""

    word: str
    means: str
    shown_by: str = ""


GLOSSARY: tuple[Term, ...] = (
    Term("piece", "The document: patterns, tempo, scale, kit and the running order."),
    Term("pattern", "Lanes that play together, with a meter, a length and dice."),
    Term("lane", "One voice, and the rule that plays it."),
    Term("step, hit, rest", "A place in the cycle; one that sounds; one that does not.", "source"),
    Term("cycle", "The lane's steps once round.", "source"),
    Term("sentence", "What acts on a lane, in words. Each number and word of it can be changed where it stands."),
    Term("bench", "The chosen lane whole: each setting, in use or not, and its strips."),
    Term("meeting", "When all lanes begin a cycle together.", "step value"),
    Term("repeats every", "How long it takes a lane, with all that acts on it, to start over.", "accent"),
    Term("strip", "A row of values over the steps: velocity, chance, ratchet, nudge, length, pitch ...", "velocity"),
    Term("spread", "A fresh draw at every hit, so far either way.", "velocity"),
    Term("throw", "Moves a share of a lane's hits to other steps.", "source"),
    Term("dice", "The number that all luck comes from: the same number, the same luck.", "dice"),
    Term("settle", "Turns a computed lane into a drawn one.", "by hand"),
    Term("tape", "The last bars that sounded. It never stops."),
    Term("keep", "Makes a clip of the last bars of the tape, to the note."),
    Term("clip", "Notes that were kept. They never change by themselves.", "clip"),
    Term("note sheet", "A clip's notes, drawn and open for editing."),
    Term("take", "Bars thrown by a dice number of their own, made again whenever they are asked for."),
    Term("set", "Clips that belong together."),
    Term("scatter", "Moves some notes to other steps of their span."),
    Term("trail", "All places that were heard, from the day the piece was made."),
    Term("moment", "One change in the history."),
    Term("field", "Patterns near yours: busier up, more off the beat to the right."),
    Term("candidate", "A point of the field: one pattern near yours."),
    Term("way", "How candidates may differ from the pattern."),
    Term("distance", "How much candidates may differ from the pattern."),
    Term("ground", "A plane of grooves: lanes that stand on it move from groove to groove with one drag.", "source"),
    Term("stand", "One groove of a ground.", "source"),
    Term("part", "What a lane plays in a ground: low, back, hat ...", "source"),
    Term("detour", "Plays only as long as it is held; then all is where it would have been.", "detour"),
    Term("movement", "A control moved while it plays, recorded.", "moves"),
    Term("running order", "Which pattern plays when."),
    Term("row", "One line of the running order."),
    Term("pace", "How fast a row goes by, while its bars stay."),
    Term("carry on", "A pattern takes over as if it had been playing all along."),
    Term("port", "Where notes go or come from.", "port"),
    Term("learn", "Binds a control to a thing on a controller."),
    Term("kit", "Voices, and the notes that they answer to."),
    Term("starter", "A ready-made beginning: a lane, a melody, a pattern or a piece."),
    Term("root, degree", "The first note of a scale; the position of a note in it.", "pitch"),
    Term("progression", "The chords that lanes may follow.", "follows"),
    Term("pool", "The notes that an arpeggio reads, one a hit.", "arpeggio"),
    Term("latch", "Notes stay when their keys are let go.", "arpeggio"),
    Term("pedal note", "A note that returns each so-many-th hit.", "arpeggio"),
)  # fmt: skip
"""In the order of the work: what there is, what makes it, what is kept of it, what is around it."""
