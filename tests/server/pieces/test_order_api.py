"""The running order over HTTP."""

from io import BytesIO
from typing import Any
from zipfile import ZipFile

import pytest
from mido import MidiFile

from lattice.document import Euclidean, Piece, Rests, score_of
from lattice.document.order import OrderRow, PlacedRow, RowPace
from lattice.document.piece import Pattern
from lattice.order.rows import in_row
from lattice.render import Window, render
from tests.lattice.render.test_movements import moves
from tests.lattice.scores import lane
from tests.server.conftest import Hands

pytestmark = pytest.mark.django_db

BAR = 53760
LANES = (lane("thud"), lane("hiss", voice="hiss", source=Euclidean(hits=5, steps=8), chance_percent=50))
A = Pattern(id="a", name="A", bars=2, dice=3, lanes=LANES)
B = Pattern(
    id="b", name="B", bars=1, lanes=(lane("bell", voice="bell"),), progression={"chords": [{"chord": "ii"}]}
)
ORDER = (
    OrderRow(pattern="a", repeats=2, pace=RowPace(times=2, over=3)),
    OrderRow(pattern="b", mutes=("bell",)),
)
PIECE = Piece(name="Night Ferry", patterns=(A, B), order=ORDER)


def post(client: Any, what: str, body: dict[str, Any]) -> Any:
    if isinstance(client, Hands):
        return client.send("POST", f"/order{what}", body)
    return client.post(f"/api/order{what}", body, content_type="application/json")


def asking(piece: Piece = PIECE, **more: Any) -> dict[str, Any]:
    return {"piece": piece.model_dump(mode="json"), **more}


def test_an_order_is_drawn_in_true_time(client):
    told = post(client, "", asking()).json()
    assert (told["ticks"], told["bars"], told["lasts"]) == (5 * BAR, 5, "0:11")
    first, second = told["rows"]
    assert (first["start"], first["end"], first["bars"], first["repeat_bars"]) == (0, 4 * BAR, 4, 2)
    assert first["pace"] == "at 2/3 of the pace: a step lasts 3/2 as long"
    assert (first["dice"], second["dice"]) == (3, 2)
    said = ["".join(word["text"] for word in part["words"]) for part in second["parts"]]
    assert said == ["B", "1 × 1 bar", "without Bell"]
    assert (second["hits"], second["begins"]) == ([0], "0:09")
    assert [chord["name"] for chord in second["chords"]] == ["Dm"]
    assert told["most_hits"] == max(first["hits"])


def test_a_score_in_a_row_sounds_as_the_row_does(client):
    placed = PlacedRow(row=ORDER[0], place=5)
    body = {
        "score": score_of(PIECE, A).model_dump(mode="json"), "dice": 3, "window": {"bars": 4},
        "row": placed.model_dump(mode="json"),
    }  # fmt: skip
    heard = client.post("/api/render/sounds", body, content_type="application/json").json()
    there, dice = in_row(score_of(PIECE, A), 3, placed)
    assert heard["events"]["starts"] == render(there, dice, Window(bars=4)).starts.tolist()
    assert heard["ends"] == 4 * BAR


def test_a_switch_says_when_and_what_is_heard_from_then_on(client):
    one, other = (score_of(PIECE, pattern).model_dump(mode="json") for pattern in (A, B))
    asked = {
        "leaving": {"score": one, "dice": 3}, "coming": {"score": other, "dice": 1},
        "tick": BAR + 1, "at": "pass", "to": "carry on", "began": BAR, "bars": 2,
    }  # fmt: skip
    told = post(client, "/switch", asked).json()
    assert (told["tick"], told["from_tick"]) == (2 * BAR, 3 * BAR)
    assert (told["sounds"]["first_tick"], told["sounds"]["end_tick"]) == (3 * BAR, 5 * BAR)
    begun = post(client, "/switch", asked | {"to": "begin"}).json()
    assert (begun["from_tick"], begun["sounds"]["first_tick"]) == (0, 0)


def test_an_order_is_one_file_or_a_file_a_row(client):
    whole = post(client, "/midi", asking())
    assert 'filename="Night Ferry, whole.mid"' in whole["Content-Disposition"]
    file = MidiFile(file=BytesIO(whole.content))
    assert [one.text for one in file.tracks[0] if one.type == "marker"] == ["1 A", "2 B"]
    rows = post(client, "/midi", asking(of="rows"))
    with ZipFile(BytesIO(rows.content)) as archive:
        assert len(archive.namelist()) == 2
    one = post(client, "/midi", asking(of="rows", rows=[1]))
    with ZipFile(BytesIO(one.content)) as archive:
        assert archive.namelist() == ["Night Ferry 2 B, bar 1.mid"]


def test_rows_are_kept_as_clips_in_the_set_of_their_piece(mara):
    kept = post(mara, "/keep", asking())
    assert kept.status_code == 201
    assert [one["name"] for one in kept.json()["clips"]] == [
        "Night Ferry 1 A, bars 1–4",
        "Night Ferry 2 B, bar 1",
    ]
    assert {one["set_name"] for one in kept.json()["clips"]} == {"Night Ferry"}
    whole = post(mara, "/keep", asking(of="whole")).json()["clips"]
    assert [one["name"] for one in whole] == ["Night Ferry, whole"]


def test_a_stranger_keeps_nothing(nobody):
    assert post(nobody, "/keep", asking()).status_code == 401


@pytest.mark.parametrize(
    "body", [asking(of="rows", rows=[7]), asking(Piece(name="x", patterns=(A,)), of="whole")]
)
def test_what_is_not_there_is_not_kept(mara, body):
    refused = post(mara, "/keep", body)
    assert refused.status_code == 422
    assert (
        "add one first" in refused.json()["detail"]
        if "detail" in refused.json()
        else refused.content.decode()
    )


def test_movements_are_written_as_controllers_where_that_is_asked_for(client):
    thud = lane("thud", movements=(moves("level_db", (0, -48), (BAR, 6)), moves("pan", (0, -100))))
    piece = PIECE.model_copy(
        update={"patterns": (A.model_copy(update={"lanes": (thud,)}),), "order": ORDER[:1]}
    )

    def sent(export: dict[str, Any]) -> list[tuple[int, int, int]]:
        tick, found = 0, []
        for message in MidiFile(
            file=BytesIO(post(client, "/midi", asking(piece, export=export)).content)
        ).tracks[1]:
            tick += message.time
            if message.type == "control_change":
                found.append((tick, message.control, message.value))
        return sorted(found)

    assert sent({}) == []
    assert sent({"moves": True}) == [(0, 7, 6), (0, 10, 0), (4 * 960, 7, 127)]


def test_fewer_points_play_the_same(client):
    thud = lane("thud", movements=(moves("velocity", *((at * 40, 20 + at) for at in range(90))),))
    score = score_of(PIECE, A.model_copy(update={"lanes": (thud, LANES[1])}))
    body = {"score": score.model_dump(mode="json"), "dice": 1, "lanes": ["thud"]}
    patch = client.post("/api/render/moves/fewer", body, content_type="application/json").json()["patches"][
        "thud"
    ]
    assert [point[0] for point in patch["movements"][0]["points"]] == [0, 3360, 3560]


def test_what_hands_do_to_controls_becomes_movements(client):
    hands = [
        {"lane": "thud", "control": "velocity", "was": 90, "now": 50, "points": [[700, 60], [800, 50]]},
        {"lane": "thud", "control": "pan", "was": 0, "now": 5},
    ]
    body = {"meter": {"numerator": 4, "denominator": 4}, "hands": hands}
    movements = client.post("/api/render/moves", body, content_type="application/json").json()["movements"]
    assert movements[0]["points"] == [[0, 90], [700, 60], [800, 50]]
    assert movements[1] is None


def test_what_was_switched_by_hand_is_written_down_as_rows(client):
    heard = [
        {"pattern": "a", "ticks": 4 * BAR + 100},
        {"pattern": "b", "ticks": 3 * BAR},
        {"pattern": "gone", "ticks": 1},
    ]
    rows = post(client, "/written", asking(heard=heard)).json()["rows"]
    assert [(row["pattern"], row["repeats"], row["bars"]) for row in rows] == [("a", 2, None), ("b", 3, None)]


def test_lanes_strips_and_settings_are_brought_from_one_pattern_into_another(client):
    follower = lane("clink", voice="clink", source=Rests(of="hiss"), velocity=33)
    loud = lane("hiss", voice="hiss", velocity_strip={"values": [9, 8]}, chance_percent=40)
    origin = A.model_copy(update={"lanes": (loud, follower)})
    quiet = lane("hat", voice="hiss", source=Euclidean(hits=1, steps=7))
    piece = PIECE.model_copy(update={"patterns": (origin, B.model_copy(update={"lanes": (quiet,)}))})

    def brought(what: str, *lanes: str) -> Any:
        body = asking(piece, origin="a", into="b", lanes=list(lanes), what=what)
        return post(client, "/bring", body)

    whole = brought("lanes", "clink").json()["lanes"]
    assert [(one["id"], one["source"]["kind"]) for one in whole] == [("hat", "euclidean"), ("clink", "drawn")]
    both = brought("lanes", "hiss", "clink").json()["lanes"]
    assert both[2]["source"] == {"kind": "rests", "of": "hiss"}
    strips = brought("strips", "hiss").json()["lanes"][0]
    assert (strips["id"], strips["velocity_strip"]["values"], strips["chance_percent"]) == (
        "hat",
        [9, 8],
        100,
    )
    settings = brought("settings", "hiss").json()["lanes"][0]
    assert (settings["chance_percent"], settings["source"]["steps"]) == (40, 7)
    assert brought("strips", "clink").status_code == 422
    assert "bring the lane whole" in brought("strips", "clink").content.decode()
    assert brought("lanes", "nobody").status_code == 422


def test_the_words_of_a_row_open_what_it_could_be(client):
    def texts(setting: str, word: str = "", place: int = 0) -> list[str]:
        told = post(client, "/alternatives", asking(place=place, setting=setting, word=word)).json()
        return [one["text"] for one in told]

    assert texts("pattern", "pattern") == ["A", "B"]
    assert "2/3 of the pace" in texts("pace", "pace")
    assert texts("without", "lanes", 1) == ["with Bell again"]
    assert "in C natural minor" in texts("")
    assert "without Thud" in texts("")
    assert len(texts("scale", "root")) == 12
    assert post(client, "/alternatives", asking(place=9)).status_code == 422
    assert post(client, "/alternatives", asking(place=0, setting="swagger")).status_code == 422


def test_a_pattern_is_raised_as_it_moves_too(client):
    moving = B.model_copy(update={"movements": (moves("degrees_up", (0, 1), (BAR, -2)),), "semitones_up": 1})
    piece = PIECE.model_copy(update={"patterns": (A, moving)})
    told = post(client, "/higher", asking(piece, pattern="b", degrees=3, semitones=-2)).json()["pattern"]
    assert (told["degrees_up"], told["semitones_up"]) == (3, -1)
    assert [point[1] for point in told["movements"][0]["points"]] == [4, 1]
    assert post(client, "/higher", asking(piece, pattern="b", semitones=48)).status_code == 422
    assert post(client, "/higher", asking(piece, pattern="z")).status_code == 422
