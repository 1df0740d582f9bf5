"""Work on chosen steps and on strips, over HTTP."""

import pytest

LANE = {
    "id": "thud",
    "name": "Thud",
    "voice": "thud",
    "source": {"kind": "drawn", "steps": 8, "hits": [0, 2]},
}


@pytest.fixture
def asked(mara):
    kit = mara.new_piece()["document"]["kit"]
    other = LANE | {"id": "bell", "name": "Bell", "voice": "bell"}
    return {"score": {"tempo": 112, "kit": kit, "lanes": [LANE, other]}, "dice": 1, "lanes": ["thud"]}


def test_steps_are_copied_and_pasted_into_several_lanes(mara, asked):
    stretch = {"first_tick": 0, "end_tick": 3 * 3360}
    copied = mara.send("POST", "/render/steps", asked | stretch | {"action": "copy"}).json()["copied"]
    assert [step["hit"] for step in copied[0]["steps"]] == [True, False, True]
    pasting = {"action": "paste", "copied": copied, "lanes": ["thud", "bell"]}
    later = {"first_tick": 4 * 3360, "end_tick": 5 * 3360}
    patches = mara.send("POST", "/render/steps", asked | later | pasting).json()["patches"]
    assert patches["thud"]["source"]["hits"] == patches["bell"]["source"]["hits"] == [0, 2, 4, 6]


def test_a_strip_is_emptied_and_one_of_a_controller_begun(mara, asked):
    asked["score"]["lanes"][0] = LANE | {
        "velocity_strip": {"values": [10, None, 90]},
        "nudge_strip": {"values": [4], "spread": {"by": 3}},
    }
    empty = {"action": "empty"}
    emptied = mara.send("POST", "/render/strip", asked | empty | {"strip": "velocity"}).json()["patches"][
        "thud"
    ]
    assert emptied == {"velocity_strip": None}
    strays = mara.send("POST", "/render/strip", asked | empty | {"strip": "nudge"}).json()["patches"]["thud"]
    assert (strays["nudge_strip"]["values"], strays["nudge_strip"]["spread"]["by"]) == ([], 3)
    begun = mara.send("POST", "/render/control", asked | {"controller": 10}).json()["patches"]["thud"]
    assert [(one["controller"], one["values"]) for one in begun["control_strips"]] == [(10, [64] * 8)]
    asked["score"]["lanes"][0] = LANE | begun
    again = mara.send("POST", "/render/control", asked | {"controller": 10})
    assert again.json()["error"]["message"] == "Lane “Thud”: 10 pan: there is such a strip already."


def test_a_strip_is_thrown_and_worked_on(mara, asked):
    throwing = {"strip": "velocity", "action": "throw", "low": 60, "high": 70, "throw": 3}
    patch = mara.send("POST", "/render/strip", asked | throwing).json()["patches"]["thud"]
    assert len(patch["velocity_strip"]["values"]) == 8
    assert all(60 <= value <= 70 for value in patch["velocity_strip"]["values"])


@pytest.mark.parametrize(
    ("body", "says"),
    [
        ({"strip": "velocity", "action": "throw", "low": 0, "high": 70}, "velocity: a throw lies between 1"),
        ({"strip": "colour", "action": "reverse"}, "colour: there is no such strip"),
        ({"strip": "velocity", "action": "fold"}, "action"),
        ({"strip": "velocity", "action": "reverse", "lanes": ["gull"]}, "There is no lane 'gull'"),
    ],
)
def test_wrong_work_on_a_strip_is_refused(mara, asked, body, says):
    refused = mara.send("POST", "/render/strip", asked | body)
    assert refused.status_code == 422
    assert says in refused.json()["error"]["message"]


@pytest.mark.parametrize(
    ("body", "says"),
    [
        ({"action": "clear", "first_tick": 10, "end_tick": 10}, "the stretch has no length"),
        ({"action": "paste", "first_tick": 0, "end_tick": 10}, "Nothing was copied"),
        ({"action": "link", "first_tick": 0, "end_tick": 10}, "Lane “Thud”: links: it takes two hits"),
        (
            {
                "action": "paste",
                "first_tick": 0,
                "end_tick": 9,
                "copied": [{"steps": [{"hit": True, "values": {"velocity": 900}}]}],
            },
            "value 1 of velocity strip",
        ),
    ],
)
def test_wrong_work_on_steps_is_refused(mara, asked, body, says):
    refused = mara.send("POST", "/render/steps", asked | body)
    assert refused.status_code == 422
    assert says in refused.json()["error"]["message"]
