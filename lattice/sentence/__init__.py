"""What acts on a lane or a pattern, in words that can be taken hold of."""

from lattice.sentence.lane_step import rate_beside, rates
from lattice.sentence.movements import say_value
from lattice.sentence.order import row_choices, row_offers, row_parts, say_pace
from lattice.sentence.setting import Speech
from lattice.sentence.standing import standing, standing_choices
from lattice.sentence.step_value import say_step_value, step_rates
from lattice.sentence.strips import strip_words
from lattice.sentence.table import SETTINGS, alternatives, bench, busy_word, offers, sentence
from lattice.sentence.words import Choice, Field, Offer, Part, Sentence, Word

__all__ = [
    "SETTINGS",
    "Choice",
    "Field",
    "Offer",
    "Part",
    "Sentence",
    "Speech",
    "Word",
    "alternatives",
    "bench",
    "busy_word",
    "offers",
    "rate_beside",
    "rates",
    "row_choices",
    "row_offers",
    "row_parts",
    "say_pace",
    "say_step_value",
    "say_value",
    "sentence",
    "standing",
    "standing_choices",
    "step_rates",
    "strip_words",
]
