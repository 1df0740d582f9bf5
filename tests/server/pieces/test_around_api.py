"""Looking around over HTTP."""

from typing import Any

import pytest

from lattice.document import Drawn, Lane, Score, read
from lattice.document.detour import DETOURS, WAY_NAMES
from lattice.render import Window, render
from lattice.theory.grounds import GROUNDS, PARTS
from tests.lattice.scores import lane, score

pytestmark = pytest.mark.django_db


@pytest.fixture
def asked() -> dict[str, Any]:
    thud = lane("thud", anchored=True)
    chain = lane("chain", source=Drawn(steps=16, hits=(4, 12)))
    return {"score": score(thud, chain, lane("clink")).model_dump(mode="json"), "dice": 1}


def post(client: Any, what: str, body: dict[str, Any]) -> Any:
    return client.post(f"/api/around/{what}", body, content_type="application/json")


def test_all_that_there_is_to_look_around_with_is_listed(client):
    told = client.get("/api/around").json()
    assert [way["name"] for way in told["ways"]] == list(WAY_NAMES)
    assert [ground["id"] for ground in told["grounds"]] == list(GROUNDS)
    assert [one["kind"] for one in told["detours"]] == ["variation", "repeat", "shift", "pace", "only"]
    assert {one["kind"] for one in told["detours"]} == set(DETOURS)
    assert all(one["explains"] for one in (*told["ways"], *told["detours"]))


def test_a_point_of_a_field_is_the_candidate_that_is_seen_and_heard(client, asked):
    field = post(client, "field", asked | {"count": 20, "distance": 40, "throw": 5}).json()
    assert len(field["points"]) == 20
    assert field["says"] == "20 patterns, up to 40 % away · Thud anchored"
    point = field["points"][7]
    variation = {"distance": 40, "throw": 5, "number": point["number"], "ways": list(WAY_NAMES)}
    seen = post(client, "candidate", asked | {"variation": variation}).json()
    assert "thud" not in seen["patches"]
    assert {name: round(value, 3) for name, value in seen["point"].items()} == {
        name: round(value, 3) for name, value in point.items()
    }
    there = read(
        Score,
        asked["score"]
        | {"lanes": [one | seen["patches"].get(one["id"], {}) for one in asked["score"]["lanes"]]},
    )
    starts = render(there, 1, Window(bars=1))
    for index, thread in enumerate(seen["threads"]):
        assert thread["hits"] == starts.starts[starts.lanes == index].tolist()
        assert set(thread["came"]) <= set(thread["hits"])
        assert not set(thread["gone"]) & set(thread["hits"])


def test_the_start_is_seen_as_the_candidate_that_nothing_was_done_to(client, asked):
    field = post(client, "field", asked | {"count": 5}).json()
    seen = post(client, "candidate", asked).json()
    assert seen["patches"] == {}
    assert seen["point"]["number"] == field["start"]["number"] == -1
    assert seen["point"]["hits_a_bar"] == field["start"]["hits_a_bar"]
    assert all(not thread["came"] and not thread["gone"] for thread in seen["threads"])


def test_limits_that_none_meets_say_so_and_offer_the_nearest(client, asked):
    field = post(client, "field", asked | {"count": 10, "least": 500}).json()
    assert field["points"] == []
    assert field["says"].startswith("No pattern within these limits: the nearest has")
    assert "with fewer than 500 hits a bar" in field["says"]
    nearest = field["nearest"]
    assert post(client, "field", asked | {"count": 10, "least": nearest}).json()["points"]


@pytest.mark.parametrize(
    ("what", "body", "said"),
    [
        ("field", {"ways": []}, "choose at least one"),
        ("field", {"distance": 0}, "greater than or equal to 1"),
        ("candidate", {"variation": {"ways": ["count"], "distance": 200}}, "less than or equal to 100"),
        ("ground", {"lanes": ["gone"], "ground": "swell"}, "there is no lane 'gone'"),
        (
            "ground",
            {"lanes": ["thud", "clink"], "ground": "swell", "part": "low"},
            "already: choose another part",
        ),
        ("off", {"lanes": ["thud"]}, "it is on no ground"),
    ],
)
def test_what_cannot_be_is_refused_in_a_sentence(client, asked, what, body, said):
    reply = post(client, what, asked | body)
    assert reply.status_code == 422
    assert said in reply.content.decode()


def test_lanes_are_put_on_a_ground_each_on_a_part_of_its_own_and_taken_off_again(client, asked):
    lanes = ["thud", "chain", "clink"]
    put = post(client, "ground", asked | {"lanes": lanes, "ground": "quayside", "x": 20, "y": 30}).json()[
        "patches"
    ]
    parts = [put[one]["source"]["part"] for one in lanes]
    assert parts == ["low", "back", "hat"]
    assert set(parts) <= set(PARTS)
    on = [one | put[one["id"]] for one in asked["score"]["lanes"]]
    off = post(client, "off", {"score": asked["score"] | {"lanes": on}, "dice": 1, "lanes": lanes}).json()[
        "patches"
    ]
    for was, now in zip(asked["score"]["lanes"], on, strict=True):
        assert read(Lane, now | off[was["id"]]) == read(Lane, was)
