"""A clip's notes as text, to be pasted anywhere."""

from lattice.clips.clip import Clip
from lattice.units import TICKS_PER_QUARTER

__all__ = ["notes_text"]

_COLUMNS = ("track", "channel", "bar:beat:tick", "length", "note", "velocity")


def notes_text(clip: Clip) -> str:
    """Return a line a note, tab between columns: track, channel, place, length in quarters, MIDI note, velocity.

    Bars, beats and ticks are counted from 1, by the clip's first meter; a tick is 1/13440 of a quarter.
    """
    bar, beat = clip.meter.bar_ticks, int(clip.meter.beat_quarters * TICKS_PER_QUARTER)
    meter = f"{clip.meter.numerator}/{clip.meter.denominator}"
    lines = [f"{clip.name}\t{clip.tempo:g} BPM\t{meter}\t{clip.bars} bars", "\t".join(_COLUMNS)]
    notes = sorted(
        (note.start, place, note) for place, track in enumerate(clip.tracks) for note in track.notes
    )
    for start, place, note in notes:
        track = clip.tracks[place]
        where = f"{start // bar + 1}:{start % bar // beat + 1}:{start % bar % beat + 1}"
        length = f"{note.length / TICKS_PER_QUARTER:.4f}".rstrip("0").rstrip(".")
        lines.append(f"{track.lane}\t{track.channel}\t{where}\t{length}\t{note.pitch}\t{note.velocity}")
    return "\n".join(lines) + "\n"
