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
        def ask(self, **changes):
            return self.post(
                "/api/render", orjson.dumps(question(**changes)), content_type="application/json"
            )

    return Asking()


def test_the_answer_holds_the_engines_events(anybody):
    answer = anybody.ask().json()
    events = render(SCORE, PATTERN.dice, Window(first_bar=4, bars=4))
    assert answer["events"]["starts"] == events.starts.tolist()
    assert answer["events"]["pitches"] == events.pitches.tolist()
    assert [lane["id"] for lane in answer["lanes"]] == [lane.id for lane in PATTERN.lanes]


def test_a_score_that_is_refused_says_where(anybody):
    broken = SCORE.model_dump(mode="json")
    broken["lanes"][3]["source"]["hits"] = 8
    refused = anybody.ask(score=broken)
    assert refused.status_code == 422
    assert refused.json()["error"]["message"] == "lane “Clink”, source: 8 hits do not fit into 7 steps"


def test_a_window_longer_than_a_screen_is_refused(anybody):
    refused = anybody.ask(window={"first_bar": 0, "bars": 65})
    assert refused.status_code == 422
    assert "window.bars: at most 64 bars at once, got 65" in refused.json()["error"]["message"]
