"""Grounds to begin from: a whole beat on each, to be moved about as one."""

from lattice.document import DOCKSIDE, GroundSource, Lane, Pattern, StepValue
from lattice.starters.starter import Starter
from lattice.steps.ground import ground_meter, place_on, places_of
from lattice.theory.grounds import GROUNDS, PART_NOTES, GroundId, Part, ground_text

__all__ = ["GROUND_BEATS"]

_BARS = 4
# Where each begins: at the stand that says most of what the ground is.
_BEGINNINGS: dict[GroundId, str] = {
    "engine-room": "Bilge pump",
    "quayside": "Handcart",
    "gangway": "Side step",
    "night-watch": "Chain locker",
    "swell": "Rolling",
    "crosswind": "Gust",
}


def _voice(part: Part, taken: set[str]) -> str:
    """Return the voice of Dockside that plays *part*; of a part that has none left, the first that is free."""
    by_note = {voice.pitch: voice.id for voice in DOCKSIDE.voices}
    own = [by_note[note] for note in PART_NOTES[part] if note in by_note]
    return next(voice for voice in (*own, *by_note.values()) if voice not in taken)


def _beat(ground: GroundId) -> Starter:
    text = ground_text(ground)
    names = [stand.name for stand in text.stands]
    x, y = places_of(ground)[names.index(_BEGINNINGS[ground])]
    lanes: list[Lane] = []
    for part in text.parts:
        source = GroundSource(ground=ground, part=part, x=x, y=y)
        if not place_on(source).hits:
            continue
        voice, place = _voice(part, {lane.voice for lane in lanes}), len(lanes)
        lanes.append(
            Lane(id=f"lane-{place + 1}", name=voice.title(), voice=voice, ink=place % 8, source=source)
        )
    pattern = Pattern(
        id="a",
        name="A",
        meter=ground_meter(text),
        bars=_BARS,
        step_value=StepValue.model_validate({"note": text.step}),
        dice=1,
        lanes=tuple(lanes),
    )
    return Starter(name=f"On the {text.name.lower()}", tags=("ground", "beat"), pattern=pattern)


GROUND_BEATS: tuple[Starter, ...] = tuple(map(_beat, GROUNDS))
