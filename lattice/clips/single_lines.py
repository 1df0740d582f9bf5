"""The notes of a clip as single lines: what one lane each can play."""

from collections import defaultdict
from collections.abc import Iterator

from lattice.clips.clip import Clip, Note, Track
from lattice.clips.guess import is_melodic
from lattice.document.base import MAX_NAME
from lattice.theory.scales import OCTAVE

__all__ = ["single_lines"]


def single_lines(clip: Clip) -> Iterator[tuple[str, Track, list[Note]]]:
    """Yield what one lane each can play: a name, the track that it is of, and notes that begin one at a time.

    Of drums one for each note number, or for a track of a single one in octaves; of pitches one for each layer.
    """
    for track in clip.tracks:
        if is_melodic(track):
            yield from _layers(track)
            continue
        pitches = sorted({note.pitch for note in track.notes})
        starts = {note.start for note in track.notes}
        octaves = {pitch % OCTAVE for pitch in pitches}
        if len(octaves) == 1 and len(starts) == len(track.notes) and pitches[-1] - pitches[0] <= 4 * OCTAVE:
            yield track.lane, track, list(track.notes)
            continue
        by_pitch: dict[int, list[Note]] = defaultdict(list)
        for note in track.notes:
            by_pitch[note.pitch].append(note)
        for pitch, notes in sorted(by_pitch.items()):
            yield f"{track.lane[: MAX_NAME - 4]} {pitch}", track, notes


def _layers(track: Track) -> Iterator[tuple[str, Track, list[Note]]]:
    """Yield the notes of a melodic track in layers, each of which begins one note at a time: the highest ones first."""
    layers: list[list[Note]] = []
    by_start: dict[int, list[Note]] = defaultdict(list)
    for note in track.notes:
        by_start[note.start].append(note)
    for together in by_start.values():
        for place, note in enumerate(sorted(together, key=lambda one: -one.pitch)):
            if place == len(layers):
                layers.append([])
            layers[place].append(note)
    for place, notes in enumerate(layers):
        name = track.lane if len(layers) == 1 else f"{track.lane[: MAX_NAME - 4]} {place + 1}"
        yield name, track, sorted(notes)
