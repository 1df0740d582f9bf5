from fractions import Fraction
from io import BytesIO

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from mido import MidiFile

from lattice.clips.order import markers, order_clip
from lattice.document import (
    DOCKSIDE,
    BarSpan,
    DocumentError,
    Drawn,
    Euclidean,
    Meter,
    Once,
    Piece,
    Scale,
    StepValue,
    read,
    score_of,
)
from lattice.document.movement import CONTROLS, Movement, Point
from lattice.document.order import MAX_BARS_OF_AN_ORDER, OrderRow, PlacedRow, RowPace
from lattice.document.piece import Pattern, Rhythm
from lattice.formats.midi import midi_file
from lattice.order.rows import in_row, order_events, row_score, stands
from lattice.render import Window, render
from lattice.sentence.order import row_choices
from tests.lattice.scores import dice, is_light, lane, score, scores

BAR, BEAT = 53760, 13440
NAMES = ("lanes", "starts", "lengths", "pitches", "velocities", "straights")


def rows_of(piece: Piece, first: int, bars: int) -> list[tuple[int, ...]]:
    found = order_events(piece, Window(first_bar=first, bars=bars))
    columns = [found.rows.tolist(), *(getattr(found.events, name).tolist() for name in NAMES)]
    return list(zip(*columns, strict=True))


def as_pattern(asked, name: str, its_dice: int) -> Pattern:
    shared = {field: getattr(asked, field) for field in Rhythm.model_fields}
    return Pattern(id=name.lower(), name=name, dice=its_dice, scale=asked.scale, **shared)


paces = st.builds(RowPace, times=st.integers(1, 4), over=st.integers(1, 4))
order_rows = st.builds(
    OrderRow,
    pattern=st.sampled_from(["a", "b"]),
    repeats=st.integers(1, 3),
    bars=st.none() | st.integers(1, 3),
    degrees_up=st.integers(-7, 7),
    semitones_up=st.integers(-7, 7),
    pace=paces,
    mutes=st.sampled_from([(), ("lane-0",)]),
)


@st.composite
def ordered(draw: st.DrawFn) -> Piece:
    """Any piece of two patterns with an order that can be rendered at once."""
    patterns = tuple(as_pattern(draw(scores(min_lanes=1)), name, draw(dice)) for name in "AB")
    order = tuple(draw(st.lists(order_rows, min_size=1, max_size=4)))
    piece = Piece(name="Night Ferry", kit=DOCKSIDE, patterns=patterns, order=order)
    for place in range(len(order)):
        assume(is_light(row_score(piece, place)[0], bars=16))
    return piece


@given(ordered())
def test_an_order_is_its_rows_laid_end_to_end(piece):
    bars = tick = 0
    wanted = []
    for place, row in enumerate(piece.order):
        pattern = piece.pattern(row.pattern)
        there, its_dice = in_row(score_of(piece, pattern), pattern.dice, PlacedRow(row=row, place=place))
        count = row.repeats * (row.bars or pattern.bars)
        events = render(there, its_dice, Window(bars=count))
        end = count * pattern.meter.bar_ticks
        assert all(events.starts + events.lengths <= end)
        wanted += [
            (place, row[0], row[1] + tick, *row[2:5], row[5] + tick)
            for row in zip(*(getattr(events, name).tolist() for name in NAMES), strict=True)
        ]
        bars, tick = bars + count, tick + end
    assert rows_of(piece, 0, bars) == wanted
    assert stands(piece)[-1].end == tick


@given(ordered(), st.integers(1, 5))
def test_windows_join(piece, cut):
    bars = sum(stand.bars for stand in stands(piece))
    cut = min(cut, bars)
    whole = rows_of(piece, 0, bars)
    assert whole == rows_of(piece, 0, cut) + (rows_of(piece, cut, bars - cut) if cut < bars else [])


@given(scores(min_lanes=1), dice, paces, paces)
def test_a_pace_of_a_pace_is_their_product(asked, its_dice, one, other):
    both = RowPace(times=one.times * other.times, over=one.over * other.over)
    rate = Fraction(one.times * other.times, one.over * other.over)
    assert in_row(asked, its_dice, placed(pace=both))[0].rate == rate


def placed(place: int = 0, **fields) -> PlacedRow:
    return PlacedRow(row=OrderRow(pattern="a", **fields), place=place)


def starts(asked, **fields) -> list[int]:
    there, its_dice = in_row(asked, 1, placed(**fields))
    return render(there, its_dice, Window(bars=(there.ends_after or 1))).starts.tolist()


@given(scores(min_lanes=1), dice)
def test_a_plain_row_is_its_pattern_until_it_ends(asked, its_dice):
    there, dice_there = in_row(asked, its_dice, placed(repeats=2, bars=2))
    plain = render(asked.model_copy(update={"bars": 2}), its_dice, Window(bars=4))
    assume(not any(one.once for one in asked.lanes))
    assert dice_there == its_dice
    assert render(there, dice_there, Window(bars=4)).starts.tolist() == plain.starts.tolist()


def test_two_thirds_of_the_pace_is_half_as_long_again_and_bars_stay():
    four = score(lane("thud", source=Euclidean(hits=1, steps=1), step_value=StepValue(note=4)), bars=2)
    slow = starts(four, pace=RowPace(times=2, over=3))
    assert slow == list(range(0, 2 * BAR, BEAT * 3 // 2))
    assert starts(four, pace=RowPace(times=2)) == list(range(0, 2 * BAR, BEAT // 2))


def test_spans_and_chords_go_at_the_row_s_pace():
    spun = score(lane("thud", source=Euclidean(hits=3, steps=3), span=BarSpan(bars=1)), bars=2)
    assert starts(spun, pace=RowPace(times=1, over=2)) == [0, 2 * BAR // 3, 4 * BAR // 3]
    chords = {"chords": [{"chord": "C", "lasts": {"kind": "bars", "bars": 1}}, {"chord": "F", "lasts": {"kind": "bars", "bars": 1}}]}  # fmt: skip
    reed = lane(
        "reed",
        voice="low-reed",
        source=Euclidean(hits=1, steps=1),
        step_value=StepValue(note=1),
        follows="root",
    )
    sung = score(reed, bars=4, progression=chords)
    there, its_dice = in_row(sung, 1, placed(pace=RowPace(times=1, over=2)))
    assert render(there, its_dice, Window(bars=4)).pitches.tolist() == [36, 41]
    assert render(sung, 1, Window(bars=4)).pitches.tolist() == [36, 41, 36, 41]


def test_luck_begins_again_in_each_row_with_its_place_added():
    lucky = lane("hiss", voice="hiss", source=Euclidean(hits=16, steps=16), chance_percent=50)
    piece = Piece(name="x", patterns=(Pattern(id="a", name="A", bars=2, dice=7, lanes=(lucky,)),),
                  order=(OrderRow(pattern="a"), OrderRow(pattern="a")))  # fmt: skip
    second = [row[2] - 2 * BAR for row in rows_of(piece, 2, 2)]
    there = score_of(piece, piece.patterns[0])
    assert (
        second == render(there, 8, Window(bars=2)).starts.tolist() != [row[2] for row in rows_of(piece, 0, 2)]
    )


def test_the_minor_version_for_a_row_keeps_the_pattern():
    reed = lane(
        "reed",
        voice="low-reed",
        source=Euclidean(hits=8, steps=8),
        pitch_strip={"values": [0, 1, 2, 3, 4, 5, 6, 7]},
    )
    asked = score(reed, scale=Scale(root=0, name="major"), bars=1)
    there, its_dice = in_row(asked, 1, placed(scale=Scale(root=0, name="minor")))
    low = render(there, its_dice, Window(bars=1)).pitches.tolist()[:8]
    assert [pitch - low[0] for pitch in low] == [0, 2, 3, 5, 7, 8, 10, 12]


def test_what_would_begin_once_after_a_row_s_shorter_repeat_is_silent():
    late = lane("bell", voice="bell", source=Drawn(steps=4, hits=(0,)), once=Once(bars=3))
    assert starts(score(late, bars=4), bars=2) == []


def test_muted_lanes_of_a_row_are_silent_there_alone():
    both = score(lane("thud"), lane("hiss", voice="hiss", source=Drawn(steps=16, hits=(2,))), bars=1)
    assert starts(both, mutes=("thud",)) == [2 * BAR // 16]


def test_row_three_of_ten_thousand_bars_costs_what_the_first_costs():
    piece = Piece(name="x", patterns=(Pattern(id="a", name="A", bars=10, lanes=(lane("thud"),)),),
                  order=(OrderRow(pattern="a", repeats=400), OrderRow(pattern="a", repeats=600)))  # fmt: skip
    assert [row[2] for row in rows_of(piece, 9999, 1)] == [9999 * BAR + at * BEAT for at in range(4)]


@pytest.mark.parametrize(
    ("rows", "said"),
    [
        ([{"pattern": "z"}], "there is no pattern 'z'"),
        ([{"pattern": "a", "repeats": 0}], "repeats"),
        ([{"pattern": "a", "repeats": 999}] * 20, f"{MAX_BARS_OF_AN_ORDER:,} is the most"),
        ([{"pattern": "a", "pace": {"times": 0}}], "times"),
        (
            [{"pattern": "a", "scale": {"root": 0, "name": "whole-tone"}}],
            "chords that this scale cannot read",
        ),
    ],
)
def test_a_row_that_cannot_be_is_refused_with_its_place(rows, said):
    pattern = Pattern(id="a", name="A", bars=2, progression={"chords": [{"chord": "ii"}]})
    piece = Piece(name="x", patterns=(pattern,)).model_dump(mode="json")
    with pytest.raises(DocumentError, match="order") as refusal:
        read(Piece, piece | {"order": rows})
    assert said in str(refusal.value)


def test_the_whole_is_one_file_with_a_marker_a_row():
    sevens = Pattern(
        id="b", name="B", bars=1, meter=Meter(numerator=7, denominator=8), lanes=(lane("hiss", voice="hiss"),)
    )
    piece = Piece(
        name="Night Ferry",
        patterns=(
            Pattern(id="a", name="A", bars=2, lanes=(lane("thud"), lane("hiss", voice="hiss"))),
            sevens,
        ),
        order=(OrderRow(pattern="a"), OrderRow(pattern="b", repeats=2), OrderRow(pattern="a", bars=1)),
    )
    clip = order_clip(piece)
    assert [track.lane for track in clip.tracks] == ["Thud", "Hiss"]
    file = MidiFile(file=BytesIO(midi_file(clip, marked=markers(piece))))
    tick, told = 0, []
    for message in file.tracks[0]:
        tick += message.time
        if message.type in ("marker", "time_signature"):
            told.append((tick, message.type, getattr(message, "text", None)))
    bar = 4 * 960
    assert told == [
        (0, "time_signature", None), (0, "marker", "1 A"), (2 * bar, "time_signature", None), (2 * bar, "marker", "2 B"),
        (2 * bar + 7 * 960, "time_signature", None), (2 * bar + 7 * 960, "marker", "3 A"),
    ]  # fmt: skip
    heard = order_events(piece, Window(bars=5))
    kept = sorted(
        (note.start, note.pitch, note.velocity, note.length) for track in clip.tracks for note in track.notes
    )
    columns = (heard.events.starts, heard.events.pitches, heard.events.velocities, heard.events.lengths)
    assert kept == sorted(zip(*(column.tolist() for column in columns), strict=True))


def test_an_empty_order_says_what_to_do():
    with pytest.raises(DocumentError, match="add one first"):
        order_clip(Piece(name="x", patterns=(Pattern(id="a", name="A"),)))


def test_a_row_keeps_its_length_and_its_silent_lanes_with_another_pattern():
    first, second = (
        Pattern(id=name, name=name, lanes=lanes)
        for name, lanes in (
            ("a", (lane("thud"), lane("bell"))),
            ("b", (lane("bell"), lane("rope"))),
        )
    )
    row = OrderRow(pattern="a", bars=3, mutes=("thud", "bell"))
    piece = Piece(name="Night Ferry", tempo=112, kit=DOCKSIDE, patterns=(first, second), order=(row,))
    other = next(one for one in row_choices(piece, row, "pattern", "pattern") if one.key == "b")
    assert other.patch == {"pattern": "b", "mutes": ["bell"]}


def test_a_row_s_mute_goes_before_moved_muting():
    muting = Movement(control="mute", points=(Point(tick=0, value=CONTROLS["mute"].words[0]),))
    heard = lane("bell", movements=(muting,))
    placed = PlacedRow(row=OrderRow(pattern="a", mutes=("bell",)), place=0)
    there, its_dice = in_row(score(heard), 1, placed)
    assert len(render(there, its_dice, Window(bars=1))) == 0


def test_what_would_begin_once_after_a_repeat_s_end_is_silent_also_where_its_muting_is_moved():
    muting = Movement(control="mute", points=(Point(tick=0, value=CONTROLS["mute"].words[0]),))
    once = lane("bell", once=Once(bars=3), movements=(muting,))
    placed = PlacedRow(row=OrderRow(pattern="a", bars=2, repeats=4), place=0)
    there, its_dice = in_row(score(once, bars=4), 1, placed)
    assert len(render(there, its_dice, Window(bars=8))) == 0
