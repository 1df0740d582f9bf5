"""Scores that luck decides, a kind in each, as JSON holds them."""

import json
from typing import Any

from lattice.document import DOCKSIDE

Fields = dict[str, Any]
KIT = json.loads(DOCKSIDE.model_dump_json())


def euclidean(hits: int, steps: int) -> Fields:
    return {"kind": "euclidean", "hits": hits, "steps": steps}


def thrown(hits: int, steps: int, throw: int, **fields: Any) -> Fields:
    return {"kind": "thrown", "hits": hits, "steps": steps, "throw": throw, **fields}


def lane(name: str, source: Fields, voice: str = "", **fields: Any) -> Fields:
    return {"id": name, "name": name.title(), "voice": voice or name, "source": source, **fields}


def score(*lanes: Fields, **fields: Any) -> Fields:
    return {"tempo": 112, "bars": 4, "kit": KIT, "lanes": lanes, **fields}


def spread(by: int, **fields: Any) -> Fields:
    return {"by": by, **fields}


def free(direction: str, advance: str = "step") -> Fields:
    return {"direction": direction, "advance": advance}


LINKS = [{"step": step, "letter": "ab"[step % 2]} for step in (0, 1, 4, 5, 8, 11)]
E_MINOR = {"root": 4, "name": "minor"}
CHORDS = {
    "leading": "nearest",
    "chords": [
        {"chord": "i", "lasts": {"kind": "bars", "bars": 1}},
        {"chord": "VI7", "inversion": 1, "lasts": {"kind": "bars", "bars": 1}},
        {"chord": "VII", "lasts": {"kind": "bars", "bars": 1}},
    ],
}
BURST = {
    "bars": 1, "count": 2, "value": {"note": 4}, "length": 2, "notes": 7, "comes": {"kind": "bars", "bars": 2},
    "fade_from": 60, "fade_to": 140, "chance_percent": 50,
}  # fmt: skip
HELD = {
    "held": [
        {"start": 3 * 53_760 + 1000 * place, "key": key, "velocity": 60 + 15 * place, "end": 5 * 53_760}
        for place, key in enumerate((52, 59, 67, 55))
    ]
}

SCORES: dict[str, Fields] = {
    "chances": score(
        lane("hiss", euclidean(11, 16), chance_percent=70),
        lane(
            "chain",
            euclidean(9, 13),
            chance_strip={"values": [100, 20, 55, None, 80], "spread": spread(30, low=10, high=90)},
        ),
        lane("clink", euclidean(7, 12), chance_percent=60, luck_bars=2),
        lane("bottle", {"kind": "rests", "of": "hiss"}, chance_percent=45),
    ),
    "linked": score(
        lane(
            "winch", euclidean(16, 16), links=LINKS, chance_percent=50, chance_strip={"values": [90, 40, 100]}
        ),
        lane(
            "bell", euclidean(8, 16), links=LINKS, chance_percent=80, luck_bars=3, restart={"kind": "pass"}
        ),
    ),
    "rules": score(
        lane("thud", euclidean(4, 16), cycle_rule={"nth": 2, "of": 3}, chance_percent=90),
        lane(
            "rail",
            euclidean(5, 7),
            step_rules=[{"step": 0, "rule": {"nth": 1, "of": 4}}, {"step": 3, "rule": {"nth": 2, "of": 2}}],
            chance_percent=75,
        ),
        lane("gull", euclidean(5, 12), once={"count": 1, "note": 8}, chance_percent=50),
    ),
    "directions": score(
        lane("thud", euclidean(5, 11), direction="shuffled"),
        lane("chain", euclidean(9, 16), direction="random", step_range={"first": 12, "last": 5}),
        lane("clink", euclidean(7, 10), direction="wander", luck_bars=2),
        lane("rope", {"kind": "echo", "of": "thud", "shift": 3}, thin={"keeps": "only", "every": 2}),
        lane("plank", {"kind": "reply", "of": "chain", "every": 2}),
        lane(
            "shell",
            euclidean(8, 9),
            direction="shuffled",
            thin={"keeps": "without", "every": 3, "first": 2},
            accent={"every": 4},
        ),
    ),
    "thrown": score(
        lane("thud", thrown(5, 16, 77)),
        lane("chain", thrown(9, 21, 4, was=euclidean(9, 21))),
        lane(
            "clink",
            thrown(
                4,
                16,
                9,
                moved={"percent": 50, "of": {"kind": "drawn", "steps": 16, "hits": [0, 4, 8, 12]}},
            ),
        ),
        lane(
            "hiss", {"kind": "numbered", "hits": 7, "steps": 24, "number": "123456"}, edits=[{"step": 2, "hit": True}]
        ),
        lane("rope", euclidean(6, 16), anchored=True),
    ),
    "strips_of_their_own_length": score(
        lane("thud", euclidean(9, 16), velocity_strip={"values": [30, 60, 90, 120, 75], "free": free("shuffled")}),
        lane("chain", euclidean(11, 16), nudge_strip={"values": [-20, 0, 15], "free": free("random", "hit")}),
        lane("clink", euclidean(7, 9), length_strip={"values": [20, 80, 300, 700], "free": free("wander")}),
        lane(
            "hiss",
            euclidean(13, 16),
            ratchet_strip={"values": [1, 2, 3, 5], "free": free("wander", "hit"), "climb": 2, "fade_to": 40},
        ),
        lane(
            "bell",
            euclidean(5, 8),
            control_strips=[
                {"controller": 74, "values": [10, 90, 64], "free": free("shuffled")},
                {"controller": 11, "values": [100, 20], "spread": spread(30)},
            ],
        ),
    ),
    "spreads": score(
        lane("thud", euclidean(9, 16), velocity_strip={"values": [80, 110], "spread": spread(25, shape="middle")}),
        lane("chain", euclidean(11, 16), nudge_strip={"values": [5], "spread": spread(30)}),
        lane("clink", euclidean(7, 9), length_strip={"values": [50, 120], "spread": spread(60, low=20)}),
        lane("hiss", euclidean(13, 16), ratchet_strip={"values": [2], "spread": spread(2), "fade_from": 50}),
        lane("bell", euclidean(5, 8), octave_strip={"values": [0, 1], "spread": spread(1)}, evened=30),
    ),
    "humanised": score(
        lane("thud", euclidean(9, 16), humanise={"ms": 12, "velocity": 0}),
        lane("chain", euclidean(11, 16), humanise={"ms": 0, "velocity": 15}, evened=40, beat_weight=60),
        lane(
            "clink",
            euclidean(7, 9),
            humanise={"ms": 25, "velocity": 8},
            ratchet_strip={"values": [1, 3]},
            swing={"percent": 66, "note": 8},
        ),
        lane("hiss", euclidean(5, 8), humanise={}, luck_bars=4, length_strip={"values": [700]}),
        tempo=97.31,
        swing={"percent": 58, "note": 16},
    ),
    "bursts": score(
        lane("thud", euclidean(4, 16), bursts=[BURST, {**BURST, "bars": 0, "comes": {"kind": "cycle"}, "count": 0}]),
        lane("chain", euclidean(7, 12), bursts=[{**BURST, "bars": 3, "comes": None}], chance_percent=80),
        lane("low", euclidean(5, 8), "low-reed", bursts=[{**BURST, "chance_percent": 70}], chance_percent=60),
    ),
    "notes_of_a_pool": score(
        lane("lantern", euclidean(11, 16), "lantern", arpeggio={"pool": {"kind": "chord"}, "order": "shuffled"}),
        lane(
            "buoy",
            euclidean(9, 13),
            "buoy",
            arpeggio={
                "pool": {"kind": "scale", "low": -2, "high": 6},
                "order": "random",
                "octaves": 2,
                "pedal": {"every": 4, "first": 2},
            },
        ),
        lane(
            "held",
            euclidean(13, 16),
            "foghorn",
            keys=HELD,
            arpeggio={"pool": {"kind": "held", "latch": "add"}, "order": "shuffled", "velocity": "keys"},
        ),
        lane(
            "cascade",
            euclidean(7, 8),
            "glass-harbour",
            arpeggio={"pool": {"kind": "lane", "of": "lantern"}, "order": "random", "restart": "cycle"},
        ),
        scale=E_MINOR,
        progression=CHORDS,
    ),
    "pitches": score(
        lane(
            "low",
            euclidean(9, 16),
            "low-reed",
            follows="root",
            pitch_strip={"values": [0, 2, 4, -3], "spread": spread(3), "accidentals": [0, 1]},
        ),
        lane(
            "buoy",
            euclidean(7, 12),
            "buoy",
            follows="tones",
            direction="shuffled",
            pitch_strip={"values": [0, 1, 2, 5], "free": free("wander", "hit")},
            chord_strip={"values": [1, 3], "spread": spread(1)},
        ),
        lane(
            "glass",
            euclidean(5, 8),
            "glass-harbour",
            follows="nearest",
            pitch_strip={"unit": "semitones", "values": [0, 7, 3], "spread": spread(4, shape="middle")},
            ratchet_strip={"values": [1, 3], "climb": 2, "climb_unit": "degrees"},
            semitones_up=5,
        ),
        scale=E_MINOR,
        progression=CHORDS,
    ),
    "in_seven": score(
        lane("thud", euclidean(3, 7), chance_percent=80, span={"kind": "bars", "bars": 2}),
        lane(
            "chain",
            euclidean(5, 9),
            direction="random",
            step_value={"note": 2, "divisor": 7},
            humanise={"ms": 8, "velocity": 6},
            chance_strip={"values": [50, 100, 75]},
            velocity_strip={"values": [90, 60], "spread": spread(20)},
        ),
        lane("rope", {"kind": "rests", "of": "chain"}, bursts=[{**BURST, "bars": 0}], chance_percent=60),
        meter={"numerator": 7, "denominator": 8},
        tempo=96,
    ),
}  # fmt: skip
