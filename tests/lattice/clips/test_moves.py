"""Movements in what is kept: level and pan are heard again, and written where that is asked for."""

from io import BytesIO

from mido import MidiFile

from lattice.clips import take, take_clip
from lattice.clips.back import as_it_stood, in_place
from lattice.clips.moves import with_moves
from lattice.clips.order import order_clip
from lattice.document import Drawn, Piece
from lattice.document.detour import HeldDetour, RepeatDetour
from lattice.document.order import OrderRow, PlacedRow, RowPace
from lattice.document.piece import Pattern
from lattice.formats.midi import Export, midi_file
from lattice.order.rows import in_row
from lattice.render import Window, render
from tests.lattice.render.test_movements import moves
from tests.lattice.scores import lane, score

BAR = 53760
FADED = lane(
    "thud",
    source=Drawn(steps=16, hits=(0, 8)),
    level_db=-3,
    pan=20,
    movements=(moves("level_db", (BAR // 2, -18), (BAR, -48)), moves("brightness", (0, 40))),
)


def clip_of(window: Window):
    return take_clip(take(score(FADED, bars=2), 1, window), "Night Ferry", "A")


def sent(clip, export: Export) -> list[tuple[int, int]]:
    file = MidiFile(file=BytesIO(midi_file(clip, export)))
    return [(one.control, one.value) for one in file.tracks[1] if one.type == "control_change"]


def test_a_level_that_moved_is_in_the_clip_below_the_highest_there_is():
    (track,) = clip_of(Window(bars=2)).tracks
    assert [(point.tick, point.controller, point.value) for point in track.controls] == [
        (0, 7, 76), (BAR // 2, 7, 32), (BAR, 7, 6),
    ]  # fmt: skip
    assert (track.sound.level_db, track.sound.pan, track.moved) == (6, 20, (7,))
    # 40 log10(value / 127) dB below 6: -3 and -18 again, as near as a controller goes.
    (later,) = clip_of(Window(first_bar=1, bars=1)).tracks
    assert [tuple(point) for point in later.controls] == [(0, 7, 6)]


def test_a_file_has_it_on_request_with_all_else_that_the_standard_names():
    clip = clip_of(Window(bars=2))
    assert sent(clip, Export()) == []
    assert sent(clip, Export(moves=True)) == [(7, 76), (7, 32), (7, 6)]
    assert sent(with_moves(clip, score(FADED, bars=2), 0), Export(moves=True)) == [
        (7, 76),
        (74, 51),
        (7, 32),
        (7, 6),
    ]


def test_a_clip_in_place_of_its_lane_leaves_the_level_to_the_lane():
    assert in_place(clip_of(Window(bars=2)), ["thud"])["thud"].controls == ()


def test_a_row_is_opened_again_with_its_pace_and_what_hands_held():
    held = HeldDetour(detour=RepeatDetour(), start=100, end=BAR)
    there, dice = in_row(score(lane("thud"), bars=1).model_copy(update={"held_detours": (held,)}), 7,
                         PlacedRow(row=OrderRow(pattern="a", repeats=2, pace=RowPace(times=2, over=3)), place=3))  # fmt: skip
    clip = take_clip(take(there, dice, Window(bars=2)), "Night Ferry", "4 A")
    piece = as_it_stood(clip.origin)
    assert piece.order == (OrderRow(pattern="a", repeats=2, pace=RowPace(times=2, over=3)),)
    assert piece.patterns[0].moved_detours == (held,)
    again, its_dice = in_row(there.model_copy(update={"pace": RowPace(), "ends_after": None}), piece.patterns[0].dice,
                             PlacedRow(row=piece.order[0], place=0))  # fmt: skip
    assert (
        render(again, its_dice, Window(bars=2)).starts.tolist()
        == render(there, dice, Window(bars=2)).starts.tolist()
    )


def test_a_whole_order_has_the_level_of_each_row():
    still = FADED.model_copy(update={"movements": ()})
    patterns = (
        Pattern(id="a", name="A", bars=1, lanes=(still,)),
        Pattern(id="b", name="B", bars=1, lanes=(FADED,)),
    )
    piece = Piece(
        name="x",
        patterns=patterns,
        order=(OrderRow(pattern="a"), OrderRow(pattern="b"), OrderRow(pattern="a")),
    )
    (track,) = order_clip(piece).tracks
    assert [(point.tick, point.value) for point in track.controls] == [
        (0, 76), (BAR, 76), (BAR + BAR // 2, 32), (2 * BAR, 76),
    ]  # fmt: skip
    assert (track.sound.level_db, track.moved) == (6, (7,))
