"""What acts on a lane or a pattern, in words that can be taken hold of."""

from lattice.sentence.standing import standing
from lattice.sentence.step_value import say_step_value
from lattice.sentence.table import SETTINGS, sentence
from lattice.sentence.words import Choice, Offer, Part, Sentence, Word

__all__ = [
    "SETTINGS",
    "Choice",
    "Offer",
    "Part",
    "Sentence",
    "Word",
    "say_step_value",
    "sentence",
    "standing",
]
