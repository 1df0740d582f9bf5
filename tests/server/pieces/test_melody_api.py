"""What melody asks the engine for over HTTP."""

from typing import Any

import pytest

from lattice.document import Drawn, Pattern, Piece, PlacedChord, Progression, Scale
from lattice.document.pitched import PITCHED
from tests.lattice.scores import lane, score

pytestmark = pytest.mark.django_db


@pytest.fixture
def asked() -> dict[str, Any]:
    reed = lane("reed", voice="low-reed", note=50, source=Drawn(steps=8, hits=(0, 4)))
    return {
        "score": score(reed, lane(), scale=Scale(root=2, name="dorian")).model_dump(mode="json"),
        "dice": 1,
    }


def post(client: Any, what: str, body: dict[str, Any]) -> Any:
    return client.post(f"/api/{what}", body, content_type="application/json")


def test_the_voices_and_the_progressions_are_listed(client):
    voices = client.get("/api/melody/voices").json()
    assert [voice["id"] for voice in voices] == list(PITCHED)
    assert all(voice["explains"] and voice["tone"]["brightness"] > 0 for voice in voices)
    assert len(client.get("/api/melody/progressions").json()) >= 12


def test_what_is_heard_is_what_is_drawn(client, asked):
    window = {"first_bar": 3, "bars": 2}
    heard = post(client, "render/sounds", asked | {"window": window}).json()
    drawn = post(client, "render", asked | {"window": window}).json()
    events = heard["events"]
    assert events["starts"]
    for index, straight in zip(events["lanes"], events["straights"], strict=True):
        assert straight in drawn["lanes"][index]["starts"]
    assert [one["tone"] for one in heard["settings"]] == [lane["tone"] for lane in drawn["lanes"]]
    assert heard["settings"][0]["tone"]["brightness"] == PITCHED["low-reed"].brightness


def test_a_note_a_rest_and_a_tie_are_entered(client, asked):
    note = post(client, "melody/enter", asked | {"lane": "reed", "what": "note", "step": 2, "pitch": 53})
    assert note.json()["patches"]["reed"]["pitch_strip"]["values"] == [None, None, 2]
    rest = post(client, "melody/enter", asked | {"lane": "reed", "what": "rest", "step": 4})
    assert rest.json()["patches"]["reed"]["source"]["hits"] == [0]
    tie = post(client, "melody/enter", asked | {"lane": "reed", "what": "tie", "step": 1})
    assert tie.json()["patches"]["reed"]["length_strip"]["values"] == [200]


@pytest.mark.parametrize(
    ("fields", "said"),
    [
        ({"lane": "reed", "what": "note", "step": 2}, "a note has a pitch"),
        ({"lane": "reed", "what": "note", "step": 9, "pitch": 50}, "there are 8 steps"),
        ({"lane": "gone", "what": "rest", "step": 2}, "there is no lane 'gone'"),
    ],
)
def test_what_cannot_be_entered_says_why(client, asked, fields, said):
    answer = post(client, "melody/enter", asked | fields)
    assert answer.status_code == 422
    assert said.lower() in answer.json()["error"]["message"].lower()


def test_keys_are_played_into_a_lane(client, asked):
    keys = [{"start": 3400, "end": 6700, "key": 57, "velocity": 80}]
    answer = post(
        client, "melody/record", asked | {"lane": "reed", "keys": keys, "over": True, "nudges": False}
    )
    patch = answer.json()["patches"]["reed"]
    assert patch["source"]["hits"] == [1]
    assert patch["pitch_strip"]["values"] == [None, 4]


def test_a_contour_is_drawn_on_several_lanes(client, asked):
    body = asked | {"lanes": ["reed"], "contour": "rise", "low": 0, "high": 7, "leap": 12}
    values = post(client, "melody/contour", body).json()["patches"]["reed"]["pitch_strip"]["values"]
    assert (values[0], values[4]) == (0, 7)
    assert post(client, "melody/contour", body | {"low": 40}).status_code == 422
    assert post(client, "melody/contour", body | {"lanes": ["thud"]}).status_code == 422


def test_a_piece_is_brought_to_another_scale(client):
    progression = Progression(chords=(PlacedChord(chord="iv"),))
    piece = Piece(
        name="Night Ferry",
        scale=Scale(root=2, name="minor"),
        patterns=(Pattern(id="a", name="A", progression=progression),),
    )
    body = {"piece": piece.model_dump(mode="json"), "scale": {"root": 2, "name": "blues"}}
    changed = post(client, "melody/rescale", body).json()
    assert changed["scale"]["name"] == "blues"
    assert changed["patterns"][0]["progression"]["chords"][0]["chord"] == "Gm"
    assert post(client, "melody/rescale", body | {"pattern": "z"}).status_code == 422


def test_the_keys_of_a_scale_are_spelt_and_marked(client):
    keys = post(client, "melody/keyboard", {"scale": {"root": 2, "name": "dorian"}}).json()
    assert len(keys) == 128
    assert keys[62] == {
        "pitch": 62, "name": "D4", "letter": "D", "is_black": False, "in_scale": True, "is_root": True, "voice": None,
    }  # fmt: skip
    assert post(client, "melody/keyboard", {"scale": None}).json()[61]["name"] == "C♯4"
    assert post(client, "melody/keyboard", {"scale": {"root": 12}}).status_code == 422
