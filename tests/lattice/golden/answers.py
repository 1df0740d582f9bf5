"""Print a fingerprint of all that the engine answers about the scores that luck decides, a line for each answer."""

import json
from collections.abc import Iterator
from hashlib import sha256

from pydantic import BaseModel

from lattice.clips.take import take, take_clip
from lattice.document import Score
from lattice.render import Window
from lattice.screen import alternatives_of, measures, news, offers_of, picture, sounds, standing_alternatives
from tests.lattice.golden.heard import DICE, WINDOW
from tests.lattice.golden.lucky import SCORES

NARROW = Window(first_bar=3, bars=1)


def answers(score: Score) -> Iterator[tuple[str, BaseModel]]:
    """Return what is asked while a piece is open, and what is answered: what words could be for the last lane alone."""
    ids = [one.id for one in score.lanes]
    for shown in ("velocity", "chance", "pitch"):
        seen = picture(score, DICE, WINDOW, tuple(ids), shown)
        yield f"picture of {shown}", news(seen, {})
    yield "sounds", sounds(score, DICE, WINDOW)
    yield "clip", take_clip(take(score, DICE, WINDOW), "Night Ferry", "A")
    for lane_id in ids:
        yield f"measures of {lane_id}", measures(score, DICE, lane_id, score, DICE + 1)
    bench = seen.benches[-1]
    for one in offers_of(score, DICE, bench.id, NARROW):
        yield f"offer of {bench.id}", one
    for field in bench.fields:
        for word in field.words:
            if word.kind == "choice":
                for one in alternatives_of(score, DICE, bench.id, field.setting, word.name, NARROW):
                    yield f"{field.setting} {word.name} of {bench.id}", one
    for part in seen.standing:
        for word in part.words:
            if word.kind == "choice":
                for one in standing_alternatives(score, part.setting, word.name):
                    yield f"{part.setting} {word.name}", one


def main() -> None:
    for name, fields in SCORES.items():
        score = Score.model_validate_json(json.dumps(fields))
        for asked, answer in answers(score):
            print(name, asked, sha256(answer.model_dump_json().encode()).hexdigest()[:16])


if __name__ == "__main__":
    main()
