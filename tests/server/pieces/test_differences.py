"""What one document changed of another: exact, small where little changed, and quick however large they are."""

from types import SimpleNamespace

import orjson
from hypothesis import given
from hypothesis import strategies as some
from pieces.differences import difference, document_at, kept_as

scalars = some.none() | some.booleans() | some.integers(-99, 99) | some.floats(-9, 9) | some.text(max_size=3)
documents = some.recursive(
    scalars,
    lambda inner: some.lists(inner, max_size=5) | some.dictionaries(some.sampled_from("ab/~"), inner, max_size=4),
    max_leaves=20,
)  # fmt: skip


def put_on(before, changes):
    whole = SimpleNamespace(document=before, changes=None)
    return document_at([whole, SimpleNamespace(document=None, changes=changes)])


@given(documents.filter(lambda one: one is not None), documents)
def test_put_on_what_was_before_they_make_what_is_after(before, after):
    stood = orjson.loads(orjson.dumps(before))
    assert orjson.dumps(
        put_on(stood, difference(before, after)), option=orjson.OPT_SORT_KEYS
    ) == orjson.dumps(after, option=orjson.OPT_SORT_KEYS)


def piece(*lanes):
    return {"patterns": [{"lanes": [dict(lane) for lane in lanes]}]}


def test_a_value_is_one_change_wherever_it_stands():
    before = piece({"id": "thud", "velocity": 1}, {"id": "chain", "velocity": 2})
    after = piece({"id": "thud", "velocity": 1}, {"id": "chain", "velocity": 3})
    change = {"op": "replace", "path": "/patterns/0/lanes/1/velocity", "value": 3}
    assert difference(before, after) == [change]


def test_a_lane_more_or_less_is_one_change():
    thud, chain, bottle = ({"id": name, "velocity": 90} for name in ("thud", "chain", "bottle"))
    gone = difference(piece(thud, chain, bottle), piece(thud, bottle))
    come = difference(piece(thud, bottle), piece(thud, chain, bottle))
    assert gone == [{"op": "remove", "path": "/patterns/0/lanes/1"}]
    assert come == [{"op": "add", "path": "/patterns/0/lanes/1", "value": chain}]


def test_fields_in_another_order_are_no_change():
    assert difference({"a": 1, "b": {"c": 2, "d": 3}}, {"b": {"d": 3, "c": 2}, "a": 1}) == []


def test_what_is_large_is_searched_only_where_it_differs_and_replaced_there():
    notes = [[place * 3360, 3000, 36, 90, 0] for place in range(20_000)]
    before = piece({"id": "thud", "notes": notes, "velocity": 1})
    louder = piece({"id": "thud", "notes": notes, "velocity": 2})
    higher = piece({"id": "thud", "notes": [[*note[:2], 37, *note[3:]] for note in notes], "velocity": 1})
    assert [change["path"] for change in difference(before, louder)] == ["/patterns/0/lanes/0/velocity"]
    assert [change["path"] for change in difference(before, higher)] == ["/patterns/0/lanes/0/notes"]
    assert kept_as(2, higher, before) == {"document": higher, "changes": None}
