"""Kits and starters that ship, and those that a musician keeps."""

import pytest

from lattice.document import DOCKSIDE


def own_kit(**fields):
    kit = DOCKSIDE.model_dump(mode="json")
    kit["voices"][0]["pitch"] = 35
    return kit | {"name": "My quay"} | fields


def test_the_kits_that_ship_come_first_and_have_the_same_places(mara):
    kits = [listed["kit"] for listed in mara.send("GET", "/kits").json()]
    assert [kit["name"] for kit in kits] == ["Dockside", "Engine room"]
    places = [[voice["id"] for voice in kit["voices"]] for kit in kits]
    assert places[0] == places[1]


def test_a_kit_is_kept_with_its_notes_and_replaced_by_one_of_its_name(mara, joon):
    assert mara.send("POST", "/kits", {"kit": own_kit()}).status_code == 201
    mara.send("POST", "/kits", {"kit": own_kit(channel=9)})
    (kept,) = [one for one in mara.send("GET", "/kits").json() if one["id"]]
    assert (kept["kit"]["channel"], kept["kit"]["voices"][0]["pitch"]) == (9, 35)
    assert not [one for one in joon.send("GET", "/kits").json() if one["id"]]
    assert joon.send("DELETE", f"/kits/{kept['id']}").status_code == 404
    assert mara.send("DELETE", f"/kits/{kept['id']}").status_code == 204
    assert not [one for one in mara.send("GET", "/kits").json() if one["id"]]


def test_a_wrong_kit_is_refused(mara):
    refused = mara.send("POST", "/kits", {"kit": own_kit(channel=17)})
    assert refused.status_code == 422
    assert "channel" in refused.json()["error"]["message"]


def test_a_lane_and_a_pattern_begin_from_starters(mara):
    lane = {
        "id": "thud",
        "name": "Thud",
        "voice": "thud",
        "source": {"kind": "drawn", "steps": 8, "hits": [0]},
    }
    pattern = {"id": "a", "name": "A", "lanes": [lane]}
    listed = [one["starter"] for one in mara.send("GET", "/starters").json()]
    of_lane = next(one for one in listed if one["lane"])
    asked = {"pattern": pattern, "kit": DOCKSIDE.model_dump(mode="json")}
    begun = mara.send("POST", "/starters/begin", asked | {"starter": of_lane, "lane": "thud"}).json()
    assert (begun["lanes"][0]["name"], begun["lanes"][0]["source"]) == ("Thud", of_lane["lane"]["source"])
    of_pattern = next(one for one in listed if one["pattern"])
    begun = mara.send("POST", "/starters/begin", asked | {"starter": of_pattern}).json()
    assert len(begun["lanes"]) == len(of_pattern["pattern"]["lanes"])
    refused = mara.send("POST", "/starters/begin", asked | {"starter": of_lane, "lane": "gone"})
    assert (refused.status_code, "no lane" in refused.json()["error"]["message"]) == (422, True)


def test_starters_are_listed_with_what_a_lane_takes_over(mara):
    listed = mara.send("GET", "/starters").json()
    lanes = [one for one in listed if one["fields"]]
    assert len(lanes) >= 30
    assert len(listed) - len(lanes) >= 12
    assert all("voice" not in one["fields"] for one in lanes)


def test_a_lane_is_kept_as_ones_own_starter(mara, joon):
    lane = mara.new_piece()["document"]["patterns"][0]["lanes"][0]
    body = {"starter": {"name": "My quay", "tags": ["Steady", "low"], "lane": lane}}
    kept = mara.send("POST", "/starters", body)
    assert kept.status_code == 201
    first = mara.send("GET", "/starters").json()[0]
    assert (first["starter"]["name"], first["starter"]["tags"]) == ("My quay", ["steady", "low"])
    assert joon.send("GET", "/starters").json()[0]["id"] is None
    assert joon.send("DELETE", f"/starters/{first['id']}").status_code == 404
    assert mara.send("DELETE", f"/starters/{first['id']}").status_code == 204


def test_a_piece_takes_another_kit_more_voices_or_a_kit_of_sounds(mara):
    piece = mara.new_piece("Mine")["document"]
    engine_room = next(
        one["kit"] for one in mara.send("GET", "/kits").json() if one["kit"]["name"] == "Engine room"
    )
    other = mara.send("POST", "/kits/exchange", {"piece": piece, "kit": engine_room}).json()
    assert (other["kit"]["name"], other["patterns"]) == ("Engine room", piece["patterns"])
    gong = {"id": "gong", "name": "Gong", "pitch": 0}
    added = mara.send("POST", "/kits/add", {"piece": piece, "voices": [gong]}).json()
    assert [(one["id"], one["pitch"]) for one in added["kit"]["voices"][-1:]] == [("gong", 48)]
    pattern = piece["patterns"][0]["id"]
    made = mara.send("POST", "/kits/make", {"piece": piece, "voices": [gong], "pattern": pattern}).json()
    assert (made["kit"]["name"], made["patterns"][0]["lanes"][-1]["voice"]) == ("Kit of Gong", "gong")
    refused = mara.send("POST", "/kits/make", {"piece": piece, "voices": [gong], "pattern": "none"})
    assert refused.status_code == 422
    assert "no pattern" in refused.json()["error"]["message"]


@pytest.mark.parametrize("path", ["/kits", "/starters", "/sounds"])
def test_nobody_has_a_library(nobody, path):
    assert nobody.send("GET", path).status_code == 401


def test_a_piece_begins_from_a_whole_piece_and_a_melody_is_one_more_lane(mara):
    listed = mara.send("GET", "/starters").json()
    piece = mara.new_piece("Mine")["document"]
    whole = next(one["starter"] for one in listed if one["kind"] == "piece")
    begun = mara.send("POST", "/starters/begin-piece", {"starter": whole, "piece": piece}).json()
    assert (begun["name"], begun["tempo"]) == ("Mine", whole["piece"]["tempo"])
    assert len(begun["patterns"]) == len(whole["piece"]["patterns"])
    melody = next(one["starter"] for one in listed if one["kind"] == "melody")
    body = {"starter": melody, "pattern": piece["patterns"][0], "kit": piece["kit"]}
    lanes = mara.send("POST", "/starters/begin", body).json()["lanes"]
    assert [lane["voice"] for lane in lanes] == ["thud", melody["lane"]["voice"]]
