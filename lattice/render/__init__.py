"""score x dice x window -> events: what is heard. `lattice.render.pipeline` is the order of operations."""

from lattice.render.events import render
from lattice.render.overlaps import Events
from lattice.render.size import MAX_NOTES_AT_ONCE
from lattice.render.window import MAX_BARS, Window
from lattice.steps.muting import silent_lanes

__all__ = ["MAX_BARS", "MAX_NOTES_AT_ONCE", "Events", "Window", "render", "silent_lanes"]
