"""Tables of what a controller moves."""

import pytest

from lattice.document import DocumentError, read
from lattice.document.binding import ControllerTable

KNOB = {"message": "control", "channel": 1, "number": 20}


def table(*bindings, name="Eight knobs"):
    return read(ControllerTable, {"name": name, "bindings": list(bindings)})


def test_each_kind_of_target_is_read_and_written_as_it_was():
    targets = [
        {"kind": "hand", "place": 7},
        {
            "kind": "control",
            "piece": 3,
            "lane": "clink",
            "field": "chance_percent",
            "name": "Clink: chance",
            "low": 0,
            "high": 100,
        },
        {"kind": "pattern", "place": 2},
        {"kind": "mute", "place": 0},
        {"kind": "detour", "detour": "repeat"},
        {"kind": "act", "act": "keep"},
    ]
    bound = [KNOB | {"number": at, "target": target} for at, target in enumerate(targets)]
    assert [one.target.model_dump(mode="json") for one in table(*bound).bindings] == targets


@pytest.mark.parametrize(
    ("change", "said"),
    [
        ({"target": {"kind": "hand", "place": 8}}, "bindings.1.target.*place"),
        ({"target": {"kind": "act", "act": "explode"}}, "bindings.1.target"),
        ({"target": {"kind": "nothing"}}, "bindings.1.target"),
        ({"channel": 17}, "bindings.1.channel"),
        ({"number": 128}, "bindings.1.number"),
        ({"message": "sysex"}, "bindings.1.message"),
        (
            {"target": {"kind": "control", "piece": 1, "field": "x", "name": "x", "low": 5, "high": 5}},
            "less to more",
        ),
    ],
)
def test_a_wrong_binding_is_refused_by_its_place(change, said):
    with pytest.raises(DocumentError, match=said):
        table(KNOB | {"target": {"kind": "act", "act": "play"}} | change)


def test_one_thing_moves_one_other():
    twice = [KNOB | {"target": {"kind": "mute", "place": place}} for place in (0, 1)]
    with pytest.raises(DocumentError, match="control 20 of channel 1 is bound twice"):
        table(*twice)
