"""What the API's description shows of what is sent and refused: one example for each body, one for each error."""

from typing import Any

__all__ = ["ERRORS", "EXAMPLES", "with_examples"]

KIT = {
    "name": "Two voices",
    "voices": [
        {"id": "thud", "name": "Thud", "pitch": 36, "sound": "thud"},
        {"id": "bottle", "name": "Bottle", "pitch": 39, "sound": "bottle"},
    ],
}
_GONG = {"id": "gong", "name": "Gong", "pitch": 48, "sound": "bell"}
LANE = {
    "id": "bottle",
    "name": "Bottle",
    "voice": "bottle",
    "source": {"kind": "euclidean", "hits": 5, "steps": 16},
    "rotate": 2,
}
_REED = {
    "id": "low-reed",
    "name": "Low reed",
    "voice": "low-reed",
    "source": {"kind": "euclidean", "hits": 3, "steps": 8},
}
PATTERN = {"id": "a", "name": "A", "dice": 7, "lanes": [LANE, _REED]}
PIECE = {
    "name": "Night Ferry",
    "tempo": 112,
    "kit": KIT,
    "patterns": [PATTERN, {"id": "b", "name": "B"}],
    "order": [{"pattern": "a", "repeats": 2}],
}
SCORE = {"tempo": 112, "kit": KIT, "bars": 4, "lanes": [LANE, _REED]}
_ASKED = {"score": SCORE, "dice": 7}
_BARS = {"first_bar": 0, "bars": 2}
_BAR = 4 * 13_440
_KEPT = _ASKED | {"piece": "Night Ferry", "pattern": "A"}
_TAPE = {
    "meter": {"numerator": 4, "denominator": 4},
    "from_tick": 0,
    "now_tick": 2 * _BAR,
    "tracks": [
        {"lane": "Bottle", "lane_id": "bottle", "notes": [[6720, 3360, 39, 100], [16800, 3360, 39, 100]]}
    ],
}
_ON_GROUND = {
    "kind": "ground",
    "ground": "quayside",
    "part": "low",
    "was": {"source": {"kind": "euclidean", "hits": 5, "steps": 16}},
}
_STARTER = {"name": "Five crates", "tags": ["against"], "lane": LANE}

EXAMPLES: dict[str, dict[str, Any]] = {
    # Signing in
    "Credentials": {"name": "mara", "password": "mara knows the way"},
    # Accounts
    "WithPassword": {"password": "the tide turns at four"},
    "NewEmail": {"email": "mara@ferry.example", "password": "the tide turns at four"},
    "NewInvitation": {"note": "Ines of the second watch", "days": 7},
    "NewToken": {"name": "night script", "scope": "write"},
    # Pieces
    "NewPiece": {"name": "Slack Water", "document": PIECE},
    "Naming": {"name": "Low Tide"},
    "PlaceName": {"name": "the good one"},
    "Save": {
        "attempt": "9b2f6f0e-6a53-4f3e-9d3e-2f8f2c7a1b10",
        "revision": 1,
        "moments": [
            {
                "number": 2,
                "label": "Bottle: hits 5 → 7",
                "changes": [{"op": "replace", "path": "/patterns/0/lanes/0/source/hits", "value": 7}],
            }
        ],
    },
    # Rendering
    "RenderQuestion": _ASKED | {"window": _BARS, "chosen": ["bottle"]},
    "SoundsQuestion": _ASKED | {"window": _BARS},
    "AlternativesQuestion": _ASKED
    | {"window": _BARS, "lane": "bottle", "setting": "source", "word": "source"},
    "Question": _ASKED,
    "ControlQuestion": _ASKED | {"lanes": ["bottle"], "controller": 74},
    "MeasuresQuestion": _ASKED | {"lane": "bottle", "since": SCORE, "since_dice": 7},
    "FileQuestion": _KEPT | {"window": _BARS},
    "HandsQuestion": {
        "meter": {},
        "hands": [{"lane": "bottle", "control": "velocity", "was": 90, "now": 60, "points": [[_BAR, 60]]}],
    },
    "MovesQuestion": _ASKED | {"lanes": ["bottle"]},
    "StepsQuestion": _ASKED | {"lanes": ["bottle"], "first_tick": 0, "end_tick": _BAR, "action": "throw"},
    "StripQuestion": _ASKED
    | {"lanes": ["bottle"], "strip": "velocity", "action": "throw", "low": 50, "high": 110},
    "ThrowQuestion": _ASKED | {"lane": "bottle", "percent": 30, "throw": 4},
    # Melody
    "ChordsQuestion": {"meter": {}, "scale": {"root": 2, "name": "dorian"}},
    "ContourQuestion": _ASKED | {"lanes": ["low-reed"], "contour": "rise", "low": 0, "high": 7, "leap": 3},
    "EnterQuestion": _ASKED | {"lane": "low-reed", "what": "note", "step": 0, "pitch": 45, "velocity": 96},
    "GatherQuestion": {"lanes": {"low-reed": {"keys": {"held": []}, "latch": "off"}}},
    "KeyboardQuestion": {"scale": {"root": 2, "name": "dorian"}},
    "RecordQuestion": _ASKED
    | {"lane": "low-reed", "keys": [{"start": 0, "end": 3360, "key": 45, "velocity": 96}]},
    "RescaleQuestion": {"piece": PIECE, "scale": {"root": 4, "name": "phrygian"}},
    # Around
    "CandidateQuestion": _ASKED,
    "FieldQuestion": _ASKED | {"count": 20},
    "GroundQuestion": _ASKED | {"lanes": ["bottle"], "ground": "quayside"},
    "OffQuestion": {
        "score": SCORE | {"lanes": [LANE | {"rotate": 0, "source": _ON_GROUND}]},
        "dice": 7,
        "lanes": ["bottle"],
    },
    # The order
    "OrderQuestion": {"piece": PIECE},
    "RowWords": {"piece": PIECE, "place": 0},
    "Bringing": {"piece": PIECE, "origin": "a", "into": "b", "lanes": ["bottle"]},
    "Raising": {"piece": PIECE, "pattern": "a", "degrees": 2},
    "OrderKeeping": {"piece": PIECE},
    "OrderFile": {"piece": PIECE},
    "Switching": {"leaving": _ASKED, "coming": _ASKED | {"dice": 8}, "tick": _BAR},
    "PlayedAlong": {"piece": PIECE, "heard": [{"pattern": "a", "ticks": 4 * _BAR}]},
    # Takes
    "Throwing": _KEPT | {"bars": 4, "count": 8},
    "Vary": {"percent": 30},
    "More": {"count": 8},
    "Opposed": {"one": 1, "other": 2},
    # Clips
    "Keeping": _KEPT | {"tape": _TAPE, "bars": 2},
    "StepValue": {"note": 16},
    "Description": {"name": "Last crossing", "tags": ["fill"]},
    "ClipEdit": {"revision": 1, "action": {"kind": "harder", "by": 10}},
    "InPlace": {"lanes": ["bottle"]},
    "Join": {"revision": 1, "other": 12},
    "AsLanes": {},
    "AsPattern": {"pattern_id": "a"},
    "Revision": {"revision": 2},
    # The library and ports
    "KeptKit": {"kit": KIT},
    "KeptStarter": {"starter": _STARTER},
    "Beginning": {"starter": _STARTER, "pattern": PATTERN, "kit": KIT},
    "PieceBeginning": {"starter": {"name": "Mine", "piece": PIECE}, "piece": PIECE},
    "ExchangedKit": {"piece": PIECE, "kit": KIT},
    "AddedVoices": {"piece": PIECE, "voices": [_GONG]},
    "VoicesWithLanes": {"piece": PIECE, "voices": [_GONG], "pattern": "a"},
    "Bound": {"tables": []},
    "Recorded": {"name": "Night Ferry", "tempo": 112, "messages": []},
}
"""By the name of the body's model. Fields that are plain are left out."""

ERRORS: dict[int, tuple[str, str]] = {
    400: ("refused", "It is no JSON, line 1, column 9: unexpected end of data."),
    401: ("signed-out", "Sign in first."),
    403: ("refused", "The token “night script” may only read: make one that may write."),
    404: ("not-found", "There is nothing of yours here."),
    409: ("newer-revision", "“Night Ferry” was changed elsewhere: revision 5 is saved, this was based on 4."),
    413: ("too-large", "This is too large: at most 8 MB can be sent here, these are 12 MB."),
    408: ("too-slow", "This came too slowly and was not taken: send it again."),
    422: ("document", "Bottle, source: there are 17 hits on 16 steps."),
    429: ("too-often", "This was tried too often: try again in 12 minutes."),
    500: ("failed", "Something went wrong here, and nothing was stored by it. It is in the server's log."),
    503: ("no-database", "The database cannot be reached just now. Nothing was stored by this; it is tried again."),
}  # fmt: skip


def with_examples(schema: dict[str, Any]) -> None:
    """Put the examples into an OpenAPI *schema*: each once among its components, referred to wherever it is shown.

    Refusals, which nearly every operation may answer, are responses among the components.
    """
    refusals: dict[str, Any] = {}
    schema["components"]["responses"] = refusals
    known = schema["components"]["examples"] = {name: {"value": value} for name, value in EXAMPLES.items()}
    for status, (code, message) in ERRORS.items():
        error = {"code": code, "message": message, "problems": []}
        known[f"Refusal{status}"] = {"value": {"error": error}}
    for path in schema["paths"].values():
        for operation in path.values():
            body = _json_of(operation.get("requestBody", {}))
            model = body.get("schema", {}).get("$ref", "").rpartition("/")[2]
            if model in EXAMPLES:
                body["examples"] = _shown(model)
            for status, answer in operation["responses"].items():
                if int(status) in ERRORS:
                    _json_of(answer)["examples"] = _shown(f"Refusal{status}")
                    refused = refusals.setdefault(f"Refused{status}", answer)
                    assert refused == answer, f"two descriptions of {status}"
                    operation["responses"][status] = {"$ref": f"#/components/responses/Refused{status}"}


def _json_of(part: dict[str, Any]) -> dict[str, Any]:
    found: dict[str, Any] = part.get("content", {}).get("application/json", {})
    return found


def _shown(name: str) -> dict[str, Any]:
    return {"shown": {"$ref": f"#/components/examples/{name}"}}
