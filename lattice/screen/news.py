"""Of all that is drawn, what a page does not have yet: an edit sends back what it changed, and nothing else."""

from collections.abc import Mapping
from hashlib import blake2b

from pydantic import BaseModel

from lattice.screen.pictures import Bench, News, Rendering, Sounds

__all__ = ["news"]

_MARK_BYTES = 6


def news(built: Rendering, known: Mapping[str, str], heard: Sounds | None = None) -> News:
    """Return what of *built* is new to a page that has the items of the marks *known*, with what is *heard*."""
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

    new = {
        "standing": [part for part in built.standing if is_new(f"standing {part.setting}", part)],
        "lanes": [lane for lane in built.lanes if is_new(f"lane {lane.id}", lane)],
        "benches": [new for bench in built.benches if (new := new_of(bench))],
        "meeting": built.meeting if is_new("meeting", built.meeting) else None,
    }
    return News.model_construct(**dict(built) | new, marks=marks, sounds=heard)


def _mark_of(item: BaseModel) -> str:
    return blake2b(item.model_dump_json().encode(), digest_size=_MARK_BYTES).hexdigest()
