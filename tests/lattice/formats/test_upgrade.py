"""Documents of earlier versions are read, and say the same."""

import json

import pytest

from lattice.document import ChanceStrip, DocumentError
from lattice.formats.piece_json import read_piece
from lattice.formats.upgrade import upgraded

OLD = b"""{"version": 1, "name": "Low Tide", "patterns": [{"id": "a", "name": "A", "lanes": [
  {"id": "thud", "name": "Thud", "voice": "thud", "source": {"kind": "euclidean", "hits": 4, "steps": 16},
   "step_chances": [{"step": 1, "percent": 40}, {"step": 3, "percent": 0}]},
  {"id": "bell", "name": "Bell", "voice": "bell", "source": {"kind": "euclidean", "hits": 4, "steps": 16},
   "step_chances": []}]}]}"""


def test_chances_of_steps_become_a_strip():
    thud, bell = read_piece(OLD).patterns[0].lanes
    assert thud.chance_strip == ChanceStrip(values=(None, 40, None, 0))
    assert bell.chance_strip is None


def test_what_is_wrong_with_an_old_document_is_still_said():
    with pytest.raises(DocumentError, match="lane “Thud”, step_chances: there is no such field"):
        read_piece(OLD.replace(b'"step": 1, "percent": 40', b'"stop": 1'))
    with pytest.raises(DocumentError, match=r"lane “Thud”, chance_strip.values.2"):
        read_piece(OLD.replace(b'"percent": 40', b'"percent": 400'))


@pytest.mark.parametrize(
    "document", [[], {"version": 3}, {"version": "1"}, "piece", {"version": 1, "patterns": 3}]
)
def test_what_is_no_old_piece_is_left_to_its_reader(document):
    assert upgraded(document) == (
        document | {"version": 3} if document == {"version": 1, "patterns": 3} else document
    )


def test_what_was_held_belongs_to_the_lanes_that_it_filled():
    lane = {"name": "Reed", "voice": "low-reed", "source": {"kind": "euclidean", "hits": 4, "steps": 16}}
    held = {"arpeggio": {"pool": {"kind": "held", "latch": "add"}}}
    large = {"arpeggio": {"pool": {"kind": "scale", "low": 0, "high": 28}, "octaves": 4}}
    keys = {"held": [{"start": 0, "key": 60, "velocity": 90}]}
    lanes = [{"id": "a", **lane, **held}, {"id": "b", **lane}, {"id": "c", **lane, **large}]
    old = {
        "version": 2,
        "name": "Low Tide",
        "patterns": [{"id": "a", "name": "A", "keys": keys, "lanes": lanes}],
    }
    found = read_piece(json.dumps(old).encode()).patterns[0].lanes
    assert [len(one.keys.held) for one in found] == [1, 0, 0]
    assert found[2].arpeggio is not None
    assert found[2].arpeggio.octaves == 2
