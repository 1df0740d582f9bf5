"""Each refusal names the lane and the field, and shows what it got."""

import json
from typing import Any

import pytest
from hypothesis import given

from lattice.document import DOCKSIDE, DocumentError, Lane, Piece, Score, read
from tests.lattice.scores import scores


def piece(
    lane: dict[str, Any] | None = None, pattern: dict[str, Any] | None = None, **fields: Any
) -> dict[str, Any]:
    thud = {
        "id": "thud",
        "name": "Thud",
        "voice": "thud",
        "source": {"kind": "euclidean", "hits": 4, "steps": 16},
    }
    return {
        "name": "Night Ferry",
        "patterns": [{"id": "a", "name": "A", "lanes": [thud | (lane or {})]} | (pattern or {})],
    } | fields


def refusal(document: Any) -> str:
    with pytest.raises(DocumentError) as refused:
        read(Piece, document)
    return str(refused.value)


def test_a_plain_piece_is_read():
    assert read(Piece, piece()).patterns[0].lanes[0].source.steps == 16


@pytest.mark.parametrize(
    ("lane", "says"),
    [
        # hits and steps
        (
            {"source": {"kind": "euclidean", "hits": 129, "steps": 16}},
            "lane “Thud”, source.hits: input should be less than or equal to 128, got 129",
        ),
        (
            {"source": {"kind": "euclidean", "hits": -1, "steps": 16}},
            "lane “Thud”, source.hits: input should be greater than or equal to 0, got -1",
        ),
        (
            {"source": {"kind": "euclidean", "hits": 0, "steps": 129}},
            "lane “Thud”, source.steps: input should be less than or equal to 128, got 129",
        ),
        (
            {"source": {"kind": "drawn", "steps": 4, "hits": [4]}},
            "lane “Thud”, source: a hit on step 5 does not fit into a cycle of 4 steps",
        ),
        (
            {"source": {"kind": "drawn", "steps": 4, "hits": [2, 1]}},
            "must be ascending and each there once, got [2, 1]",
        ),
        ({"source": {"kind": "tossed"}}, "lane “Thud”, source"),
        ({"source": {}}, "lane “Thud”, source: says not what kind it is"),
        # ranges
        ({"velocity": 0}, "lane “Thud”, velocity: input should be greater than or equal to 1, got 0"),
        ({"velocity": 128}, "lane “Thud”, velocity"),
        ({"chance_percent": 101}, "lane “Thud”, chance_percent"),
        ({"length_percent": 0}, "lane “Thud”, length_percent"),
        ({"rotate": 128}, "lane “Thud”, rotate"),
        ({"ink": 16}, "lane “Thud”, ink"),
        ({"step_value": {"note": 3}}, "lane “Thud”, step_value.note: input should be 1, 2, 4"),
        ({"step_value": {"divisor": 17}}, "lane “Thud”, step_value.divisor"),
        # kinds: nothing is read from what merely looks like it
        ({"velocity": "100"}, "lane “Thud”, velocity: input should be a valid integer, got '100'"),
        ({"velocity": 99.5}, "lane “Thud”, velocity"),
        ({"complement": 1}, "lane “Thud”, complement"),
        # clocks and chances
        ({"direction": "sideways"}, "lane “Thud”, direction: input should be 'forward', 'backward'"),
        ({"step_range": {"first": 0, "last": 128}}, "lane “Thud”, step_range.last"),
        ({"restart": {"kind": "bars", "bars": 65}}, "lane “Thud”, restart.bars"),
        ({"once": {"bars": 16}}, "lane “Thud”, once: it would begin after the pattern's end"),
        ({"luck_bars": 0}, "lane “Thud”, luck_bars"),
        # strips
        (
            {"chance_strip": {"values": [100, 101]}},
            "lane “Thud”, chance_strip.values.2: input should be less",
        ),
        (
            {"velocity_strip": {"values": [0]}},
            "lane “Thud”, velocity_strip.values.1: input should be greater",
        ),
        ({"velocity_strip": {"values": [64.5]}}, "lane “Thud”, velocity_strip.values.1"),
        ({"ratchet_strip": {"values": [13]}}, "lane “Thud”, ratchet_strip.values.1"),
        ({"nudge_strip": {"values": [51]}}, "lane “Thud”, nudge_strip.values.1"),
        ({"length_strip": {"values": [12_801]}}, "lane “Thud”, length_strip.values.1"),
        ({"octave_strip": {"values": [-5]}}, "lane “Thud”, octave_strip.values.1"),
        (
            {"velocity_strip": {"values": [64] * 129}},
            "lane “Thud”, velocity_strip.values: at most 128, got 129",
        ),
        ({"velocity_strip": {"free": {}}}, "a strip of its own length needs at least one value"),
        (
            {"velocity_strip": {"spread": {"by": 5, "low": 90, "high": 80}}},
            "a spread from 90 to 80 has nothing between its ends",
        ),
        ({"control_strips": [{"controller": 120}]}, "lane “Thud”, control_strips.1.controller"),
        (
            {"control_strips": [{"controller": 74}, {"controller": 74}]},
            "lane “Thud”: there are two strips for controller 74",
        ),
        # accents, luck that steps share, bursts
        ({"accent": {"every": 3, "first": 4}}, "an accent on each 3th hit cannot begin with the 4th"),
        ({"links": [{"step": 1, "letter": "i"}]}, "lane “Thud”, links.1.letter"),
        (
            {"links": [{"step": 3}, {"step": 3}]},
            "the links must be ascending by step and each step there once, got [3, 3]",
        ),
        ({"cycle_rule": {"nth": 5, "of": 4}}, "there is no 5th of 4 cycles"),
        ({"swing": {"percent": 76}}, "lane “Thud”, swing.percent"),
        ({"bursts": [{"notes": 65}]}, "lane “Thud”, bursts.1.notes"),
        ({"channel": 17}, "lane “Thud”, channel"),
        ({"note": 128}, "lane “Thud”, note"),
        ({"step_chances": []}, "lane “Thud”, step_chances: there is no such field"),
        (
            {"source": {"kind": "numbered", "hits": 1, "steps": 2, "number": "1e9"}},
            "lane “Thud”, source.number",
        ),
        (
            {"source": {"kind": "thrown", "hits": 1, "steps": 2, "moved": {"percent": 101, "of": {}}}},
            "source.moved.percent",
        ),
        # lanes made from lanes
        (
            {"source": {"kind": "rests", "of": "bell"}},
            "lane “Thud”, source: there is no lane 'bell' to follow",
        ),
        (
            {"source": {"kind": "echo", "of": "thud"}},
            "lane “Thud”, source: lanes follow each other in a circle: “Thud” follows “Thud”",
        ),
        (
            {"source": {"kind": "rests", "of": "thud"}, "direction": "backward"},
            "runs on its clock: it has no direction of its own",
        ),
        # fields
        ({"velocitty": 100}, "lane “Thud”, velocitty: there is no such field"),
        ({"name": ""}, "name"),
        ({"name": "a\u0007b"}, "name"),
        ({"voice": "gong"}, "lane “Thud”, voice: the kit 'Dockside' has no voice 'gong'"),
    ],
)
def test_a_wrong_lane_is_refused_naming_lane_and_field(lane, says):
    assert says in refusal(piece(lane))


@pytest.mark.parametrize(
    ("document", "says"),
    [
        (piece(tempo=19.0), "tempo: input should be greater than or equal to 20, got 19.0"),
        (piece(tempo=401), "tempo"),
        (piece(tempo=112.345), "tempo: a tempo has at most two decimals, got 112.345"),
        (piece(tempo=float("nan")), "tempo"),
        (piece(version=4), "version: input should be 3, got 4"),
        (piece(patterns=[]), "patterns: at least 1, got 0"),
        (piece(colour="red"), "colour: there is no such field"),
        ({"patterns": []}, "name: is missing"),
        (piece(pattern={"meter": {"numerator": 33}}), "patterns.A.meter.numerator"),
        (piece(pattern={"meter": {"denominator": 3}}), "patterns.A.meter.denominator"),
        (piece(pattern={"bars": 65}), "patterns.A.bars"),
        (piece(pattern={"dice": -1}), "patterns.A.dice"),
        (piece(pattern={"lanes": piece()["patterns"][0]["lanes"] * 2}), "the lane id 'thud' is there twice"),
        (
            piece(pattern={"lanes": piece()["patterns"][0]["lanes"] * 65}),
            "patterns.A.lanes: at most 64, got 65",
        ),
        (piece(patterns=piece()["patterns"] * 2), "the pattern id 'a' is there twice"),
        ("Night Ferry", "valid dictionary"),
        (None, "valid dictionary"),
    ],
)
def test_a_wrong_piece_is_refused_naming_the_field(document, says):
    assert says in refusal(document)


def test_every_problem_is_told_and_each_once():
    with pytest.raises(DocumentError) as refused:
        read(Piece, piece({"velocity": 0, "rotate": 200}, tempo=1))
    assert [(problem.lane, problem.field) for problem in refused.value.problems] == [
        (None, "tempo"),
        ("Thud", "rotate"),
        ("Thud", "velocity"),
    ]


def test_too_many_are_said_with_how_many_there_may_be_and_how_many_there_are():
    with pytest.raises(DocumentError) as refused:
        read(Piece, piece(pattern={"lanes": piece()["patterns"][0]["lanes"] * 65}))
    assert "must be at most 64, not 65" in refused.value.problems[0].sentence


@given(scores())
def test_a_document_is_read_back_the_same(score):
    assert read(Score, json.loads(score.model_dump_json())) == score


def test_documents_are_frozen():
    with pytest.raises(ValueError, match="frozen"):
        Lane.model_validate(piece()["patterns"][0]["lanes"][0]).velocity = 3


def test_dockside_is_the_kit_of_the_quay():
    assert [voice.pitch for voice in DOCKSIDE.voices] == [36, 38, 39, 42, 46, 37, 43, 51, 70, 56, 41, 49]


def test_a_circle_over_several_lanes_is_refused_by_name():
    lanes = [
        {"id": one, "name": one.title(), "voice": one, "source": {"kind": "rests", "of": of}}
        for one, of in (("thud", "bell"), ("bell", "rope"), ("rope", "thud"))
    ]
    said = "“Thud” follows “Bell” follows “Rope” follows “Thud”"
    assert said in refusal(piece(pattern={"lanes": lanes}))
