import orjson
import pytest
from demo.pieces import NIGHT_FERRY
from django.test import Client

from lattice.document import score_of
from lattice.render import Window, render

PATTERN = NIGHT_FERRY.patterns[0]
SCORE = score_of(NIGHT_FERRY, PATTERN)


def question(**changes):
    return {
        "score": SCORE.model_dump(mode="json"),
        "dice": PATTERN.dice,
        "window": {"first_bar": 4, "bars": 4},
    } | changes


@pytest.fixture
def anybody(django_db_blocker):
    """Nobody signed in, and no database to be seen."""

    class Asking(Client):
        def ask(self, path="", **changes):
            return self.post(
                f"/api/render{path}", orjson.dumps(question(**changes)), content_type="application/json"
            )

    return Asking()


def test_the_answer_holds_the_engines_events(anybody):
    answer = anybody.ask("/sounds").json()
    events = render(SCORE, PATTERN.dice, Window(first_bar=4, bars=4))
    assert answer["events"]["starts"] == events.starts.tolist()
    assert answer["events"]["pitches"] == events.pitches.tolist()
    assert answer["lanes"] == [lane.id for lane in PATTERN.lanes]


def test_what_is_drawn_and_what_is_heard_are_one_question(anybody):
    ahead = {"first_bar": 8, "bars": 2}
    answer = anybody.ask(sounds=ahead)
    assert answer.json()["sounds"] == anybody.ask("/sounds", window=ahead).json()
    assert answer["Server-Timing"].startswith("engine;dur=")
    assert anybody.ask().json()["sounds"] is None
    assert anybody.ask(sounds={"first_bar": 0, "bars": 65}).status_code == 422


def test_an_edit_is_answered_with_what_it_changed(anybody):
    whole = anybody.ask(chosen=["bottle"])
    known = whole.json()["marks"]
    again = anybody.ask(chosen=["bottle"], known=known).json()
    assert (again["lanes"], again["benches"], again["standing"], again["meeting"]) == ([], [], [], None)
    assert again["marks"] == known
    moved = SCORE.model_dump(mode="json")
    (bottle,) = (lane for lane in moved["lanes"] if lane["id"] == "bottle")
    bottle["velocity"] = 61
    changed = anybody.ask(chosen=["bottle"], known=known, score=moved)
    # Clink is the rests of Bottle, but no harder struck for it.
    assert [lane["id"] for lane in changed.json()["lanes"]] == ["bottle"]
    assert len(changed.content) < len(whole.content) / 4


def test_a_score_that_is_refused_says_where(anybody):
    broken = SCORE.model_dump(mode="json")
    broken["lanes"][2]["source"]["hits"] = 129
    refused = anybody.ask(score=broken)
    assert refused.status_code == 422
    assert refused.json()["error"]["message"] == (
        "Lane “Bottle”: the hits of source must be less than or equal to 128, not 129."
    )


def test_a_window_longer_than_a_screen_is_refused(anybody):
    refused = anybody.ask(window={"first_bar": 0, "bars": 65})
    assert refused.status_code == 422
    assert "at most 64 bars at once, got 65" in refused.json()["error"]["message"]


def asked(anybody, path, **changes):
    body = question(**changes)
    if path in ("/throw", "/measures"):
        del body["window"]
    return anybody.post(f"/api/render{path}", orjson.dumps(body), content_type="application/json")


def test_the_benches_of_chosen_lanes_come_along(anybody):
    answer = anybody.ask(chosen=["chain", "bottle"]).json()
    assert [bench["id"] for bench in answer["benches"]] == ["chain", "bottle"]
    assert answer["meeting"]["of"] == ["chain", "bottle"]


def test_alternatives_come_with_their_threads(anybody):
    found = anybody.ask("/alternatives", lane="thud", setting="direction", word="direction").json()
    assert [one["key"] for one in found][:2] == ["forward", "backward"]
    assert all(one["thread"]["id"] == "thud" for one in found)
    offers = anybody.ask("/alternatives", lane="thud").json()
    assert all(one["explains"] for one in offers)
    assert anybody.ask("/alternatives", setting="meter").json()[0]["thread"] is None
    assert anybody.ask("/alternatives", lane="thud", setting="colour", word="x").status_code == 422
    assert anybody.ask("/alternatives", lane="gong", setting="source", word="source").status_code == 422


def test_lanes_are_thrown_one_by_one_or_all_that_may_be(anybody):
    one = asked(anybody, "/throw", lane="bottle", percent=50, throw=9).json()["sources"]
    assert set(one) == {"bottle"}
    every = asked(anybody, "/throw", percent=50, throw=9).json()["sources"]
    assert one["bottle"] == every["bottle"]
    anchored = {lane.id for lane in PATTERN.lanes if lane.anchored}
    assert anchored
    assert not anchored & set(every)
    refused = asked(anybody, "/throw", lane=min(anchored), percent=50, throw=9)
    assert "anchored" in refused.json()["error"]["message"]
    assert asked(anybody, "/throw", lane="bottle", percent=101, throw=9).status_code == 422


def test_a_lane_is_measured_against_where_it_was(anybody):
    since = {"since": SCORE.model_dump(mode="json"), "since_dice": PATTERN.dice}
    told = asked(anybody, "/measures", lane="thud", **since).json()
    assert (told["hits_a_bar"], told["evenness"], told["distance"]) == (4, 1, 0)
    assert asked(anybody, "/measures", lane="gong", **since).status_code == 422


def test_lanes_are_given_a_channel_each(anybody):
    asked = {name: value for name, value in question().items() if name != "window"}
    reply = anybody.post("/api/render/channels", orjson.dumps(asked), content_type="application/json")
    patches = reply.json()["patches"]
    assert patches[PATTERN.lanes[2].id] == {"channel": 3}
