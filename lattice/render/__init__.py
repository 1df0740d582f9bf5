"""From a score, a dice number and a window to events and to all that is drawn of them."""

from lattice.render.events import Events
from lattice.render.picture import Rendering, picture
from lattice.render.pipeline import render, silent_lanes
from lattice.render.window import MAX_BARS, Window

__all__ = ["MAX_BARS", "Events", "Rendering", "Window", "picture", "render", "silent_lanes"]
