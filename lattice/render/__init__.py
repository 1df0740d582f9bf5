"""From a score, a dice number and a window to events and to all that is drawn of them."""

from lattice.render.alternatives import Alternative, alternatives_of, offers_of, standing_alternatives
from lattice.render.events import Events
from lattice.render.measured import Measures, measures
from lattice.render.news import news
from lattice.render.notes import silent_lanes
from lattice.render.picture import picture, sounds
from lattice.render.pictures import News, PropertyName, Rendering, Sounds
from lattice.render.pipeline import render
from lattice.render.size import MAX_NOTES_AT_ONCE
from lattice.render.throw import throw_all, throw_lane
from lattice.render.window import MAX_BARS, Window

__all__ = [
    "MAX_BARS",
    "MAX_NOTES_AT_ONCE",
    "Alternative",
    "Events",
    "Measures",
    "News",
    "PropertyName",
    "Rendering",
    "Sounds",
    "Window",
    "alternatives_of",
    "measures",
    "news",
    "offers_of",
    "picture",
    "render",
    "silent_lanes",
    "sounds",
    "standing_alternatives",
    "throw_all",
    "throw_lane",
]
