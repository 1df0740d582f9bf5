"""What hands, throws and settling do to documents: chosen steps, strips, notes played in, scales, chords."""

from lattice.edits.channels import a_channel_each
from lattice.edits.chosen import chosen_numbers
from lattice.edits.copied import Copied, CopiedStep, copied, paste
from lattice.edits.entering import enter_note, enter_rest, enter_tie, record_keys
from lattice.edits.ground import put_all_on_ground, take_off_ground
from lattice.edits.movement import thinned_lane
from lattice.edits.recording import HandMove, after_hand
from lattice.edits.rescale import rescaled
from lattice.edits.step_actions import ACTIONS, Action, act
from lattice.edits.strip_actions import begin_control, change_strip, draw_contour, empty_strip, throw_strip
from lattice.steps.throwing import throw_all, throw_lane

__all__ = [
    "ACTIONS",
    "Action",
    "Copied",
    "CopiedStep",
    "HandMove",
    "a_channel_each",
    "act",
    "after_hand",
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
    "put_all_on_ground",
    "record_keys",
    "rescaled",
    "take_off_ground",
    "thinned_lane",
    "throw_all",
    "throw_lane",
    "throw_strip",
]
