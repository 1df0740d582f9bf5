"""Of all that is drawn, what a page does not have yet: an edit sends back what it changed, and nothing else."""

from collections.abc import Mapping
from hashlib import blake2b

from pydantic import BaseModel

from lattice.render.pictures import Bench, ChordPicture, LanePicture, Meeting, Property, Rendering
from lattice.sentence import Part

__all__ = ["News", "news"]

_MARK_BYTES = 6


class News(BaseModel):
    """A `Rendering` without what a page has already, and without what is heard, which is asked for by itself.

    *marks*: a fingerprint of every item that may be left out, new or not, in order: "lane" and its id; "bench" and a
    lane's id, for all of it but "field" and "strip", each by lane and name; "standing" and its setting; "meeting". The
    page sends those back that it has. *benches* hold the fields and strips alone that are new. *meeting*: none where
    it is known.
    """

    first_tick: int
    end_tick: int
    bar_ticks: int
    beat_ticks: int
    chords: list[ChordPicture]
    progression: str
    pitch_names: list[str]
    scale_notes: list[int]
    scale_chords: list[str]
    property: Property | None
    standing: list[Part]
    lanes: list[LanePicture]
    benches: list[Bench]
    meeting: Meeting | None
    marks: dict[str, str]


_ALWAYS = (
    "first_tick",
    "end_tick",
    "bar_ticks",
    "beat_ticks",
    "chords",
    "progression",
    "pitch_names",
    "scale_notes",
    "scale_chords",
    "property",
)


def news(built: Rendering, known: Mapping[str, str]) -> News:
    """Return what of *built* is new to a page that has the items of the marks *known*."""
    marks: dict[str, str] = {}

    def is_new(key: str, item: BaseModel) -> bool:
        marks[key] = _mark_of(item)
        return known.get(key) != marks[key]

    def new_of(bench: Bench) -> Bench | None:
        core = bench.model_copy(update={"fields": [], "strips": []})
        is_core_new = is_new(f"bench {bench.id}", core)
        fields = [one for one in bench.fields if is_new(f"field {bench.id} {one.setting}", one)]
        strips = [one for one in bench.strips if is_new(f"strip {bench.id} {one.name}", one)]
        if not (is_core_new or fields or strips):
            return None
        return bench.model_copy(update={"fields": fields, "strips": strips})

    return News.model_construct(
        **{name: getattr(built, name) for name in _ALWAYS},
        standing=[part for part in built.standing if is_new(f"standing {part.setting}", part)],
        lanes=[lane for lane in built.lanes if is_new(f"lane {lane.id}", lane)],
        benches=[new for bench in built.benches if (new := new_of(bench))],
        meeting=built.meeting if is_new("meeting", built.meeting) else None,
        marks=marks,
    )


def _mark_of(item: BaseModel) -> str:
    return blake2b(item.model_dump_json().encode(), digest_size=_MARK_BYTES).hexdigest()
