import json
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lattice.document import DocumentError, Pattern, Piece, Rests
from lattice.formats.piece_json import MAX_PIECE_BYTES, piece_json, piece_schema, read_piece
from lattice.formats.text import pattern_text
from tests.lattice.scores import dice, lane, score, scores

PUBLISHED = Path(__file__).parents[3] / "docs" / "piece.schema.json"


def piece(score) -> Piece:
    pattern = Pattern(
        id="a", name="A", meter=score.meter, bars=score.bars, step_value=score.step_value, lanes=score.lanes
    )
    return Piece(name="Nachtfähre №2", patterns=(pattern,))


@given(scores())
def test_a_piece_that_is_written_is_read_back_the_same(score):
    assert read_piece(piece_json(piece(score))) == piece(score)


def test_it_is_text_that_people_can_read():
    assert "Nachtfähre №2" in piece_json(piece(score(lane()))).decode()


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"", "line 1, column 1: it is no JSON"),
        (b'{"name": "x",\n "tempo": }', "line 2, column 11: it is no JSON: expecting value"),
        (b"\xff\xfe\x00", "it is no text in UTF-8: byte 1"),
        (b'{"name": NaN}', "NaN is no number"),
        (b"[" * 100_000, "it cannot be read"),
        (b"MThd\x00\x00\x00\x06", "it is no JSON"),
        (
            b'{"name": "x", "patterns": [{"id": "a", "name": "A", "lanes": [{"id": "z"}]}]}',
            "lane “number 1”, name: is missing",
        ),
        (b" " * (MAX_PIECE_BYTES + 1), "a piece has at most 8 MB"),
    ],
    ids=lambda value: value[:30] if isinstance(value, bytes) else value,
)
def test_what_is_no_piece_is_refused_saying_where(data, says):
    with pytest.raises(DocumentError, match=says):
        read_piece(data)


@given(st.binary(max_size=200))
def test_bytes_that_mean_nothing_are_refused_in_words(data):
    with pytest.raises(DocumentError, match=r"."):
        read_piece(data)


def test_the_published_schema_is_that_of_the_document():
    assert json.loads(PUBLISHED.read_text()) == piece_schema()


@given(scores(min_lanes=1), dice)
def test_a_pattern_as_text_has_a_line_a_lane(score, dice):
    lines = pattern_text(score, dice).splitlines()
    assert [line.split()[0] for line in lines] == [one.name for one in score.lanes]


def test_a_pattern_as_text_shows_first_cycles_and_sentences():
    asked = score(lane("thud"), lane("bottle", source=Rests(of="thud")))
    assert pattern_text(asked, 1) == (
        "Thud    x...x...x...x...  4 in 16\nBottle  .xxx.xxx.xxx.xxx  rests of Thud"
    )
