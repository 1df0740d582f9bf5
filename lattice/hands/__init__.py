"""What hands do to chosen steps: cleared, copied, pasted, repeated, thrown, rolled, linked, replaced by a burst."""

from lattice.hands.actions import ACTIONS, Action, act
from lattice.hands.chosen import chosen_numbers
from lattice.hands.copied import Copied, CopiedStep, copied, paste
from lattice.hands.entering import enter_note, enter_rest, enter_tie, record_keys
from lattice.hands.rescale import rescaled
from lattice.hands.strip_actions import begin_control, change_strip, draw_contour, empty_strip, throw_strip

__all__ = [
    "ACTIONS",
    "Action",
    "Copied",
    "CopiedStep",
    "act",
    "begin_control",
    "change_strip",
    "chosen_numbers",
    "copied",
    "draw_contour",
    "empty_strip",
    "enter_note",
    "enter_rest",
    "enter_tie",
    "paste",
    "record_keys",
    "rescaled",
    "throw_strip",
]
