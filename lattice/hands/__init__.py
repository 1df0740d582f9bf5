"""What hands do to chosen steps: cleared, copied, pasted, repeated, thrown, rolled, linked, replaced by a burst."""

from lattice.hands.actions import ACTIONS, Action, act
from lattice.hands.chosen import chosen_numbers
from lattice.hands.copied import Copied, CopiedStep, copied, paste
from lattice.hands.strip_actions import change_strip, throw_strip

__all__ = [
    "ACTIONS",
    "Action",
    "Copied",
    "CopiedStep",
    "act",
    "change_strip",
    "chosen_numbers",
    "copied",
    "paste",
    "throw_strip",
]
