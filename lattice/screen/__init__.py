"""What a page draws: lanes, benches, chords, what words could be instead; and of all that, what is new to it."""

from lattice.screen.alternatives import Alternative, alternatives_of, offers_of, standing_alternatives
from lattice.screen.heard import sounds
from lattice.screen.measured import Measures, measures
from lattice.screen.news import news
from lattice.screen.picture import picture
from lattice.screen.pictures import News, PropertyName, Rendering, Sounds

__all__ = [
    "Alternative",
    "Measures",
    "News",
    "PropertyName",
    "Rendering",
    "Sounds",
    "alternatives_of",
    "measures",
    "news",
    "offers_of",
    "picture",
    "sounds",
    "standing_alternatives",
]
