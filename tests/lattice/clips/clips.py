"""Clips for tests: any at all, with notes that do not overlap, and takes of any score."""

from hypothesis import strategies as st

from lattice.clips import Clip, Note, Track
from lattice.clips.clip import Control
from lattice.document import Meter

BAR = 4 * 13440


def clip(*tracks: tuple[Note, ...], bars: int = 2, **fields: object) -> Clip:
    """Return a clip in 4/4 at 112 with a track for each row of notes, on channel 10."""
    made = tuple(Track(lane=f"Lane {place + 1}", notes=notes) for place, notes in enumerate(tracks))
    return Clip(
        **{
            "name": "Last crossing",
            "length_ticks": bars * BAR,
            "tempo": 112.0,
            "meter": Meter(),
            "tracks": made,
        }
        | fields
    )


tunes = st.sampled_from([0, 0, 3, -12])


@st.composite
def clips(draw: st.DrawFn, max_notes: int = 8) -> Clip:
    """Any clip of whole bars whose notes are in order and do not overlap, on channels of their own."""
    bars = draw(st.integers(1, 4))
    tracks = []
    for place in range(draw(st.integers(1, 3))):
        notes = []
        for pitch in draw(st.sets(st.integers(0, 127), min_size=1, max_size=2)):
            now = 0
            for gap, length in draw(
                st.lists(st.tuples(st.integers(0, BAR), st.integers(1, BAR)), max_size=max_notes)
            ):
                if now + gap < bars * BAR:
                    notes.append(Note(now + gap, length, pitch, draw(st.integers(1, 127)), draw(tunes)))
                now += gap + length
        moves = draw(st.lists(st.tuples(st.integers(0, BAR - 1), st.integers(0, 127)), max_size=3))
        controls = tuple(Control(tick, 74, value) for tick, value in sorted(moves))
        tracks.append(
            Track(lane=f"Lane {place + 1}", channel=place + 1, notes=tuple(sorted(notes)), controls=controls)
        )
    return clip(bars=bars, tracks=tuple(tracks))


@st.composite
def clips_and_chosen(draw: st.DrawFn) -> tuple[Clip, tuple[tuple[int, ...], ...]]:
    """Any clip, and some of its notes chosen; perhaps none."""
    one = draw(clips())
    chosen = tuple(
        tuple(sorted(draw(st.sets(st.integers(0, len(track.notes) - 1)) if track.notes else st.just(set()))))
        for track in one.tracks
    )
    return one, chosen


def starts(one: Clip, track: int = 0) -> list[int]:
    return [note.start for note in one.tracks[track].notes]


def row(*places: int, pitch: int = 36, velocity: int = 100, length: int = 100) -> tuple[Note, ...]:
    return tuple(Note(place, length, pitch, velocity) for place in places)
