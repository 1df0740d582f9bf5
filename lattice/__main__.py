"""The engine by itself: `python -m lattice piece.json --pattern A --bars 8 --out crossing.mid`."""

import argparse
import json
from pathlib import Path

from lattice.clips import keep_bars, make_clip, undisturbed
from lattice.document import DocumentError, Piece, read, score_of
from lattice.formats.midi import DEFAULT_RESOLUTION, RESOLUTIONS, midi_file
from lattice.render import Window


def main(arguments: list[str] | None = None) -> None:
    """Render bars of a piece into a MIDI file. Exits with a message if the piece is refused."""
    parser = argparse.ArgumentParser(prog="python -m lattice", description="Render a piece into a MIDI file.")
    parser.add_argument("piece", type=Path, help="a piece as JSON")
    parser.add_argument("--pattern", help="name of the pattern (the first)")
    parser.add_argument("--bars", type=int, default=4, help="how many bars (%(default)s)")
    parser.add_argument("--out", type=Path, required=True, help="the file to write")
    parser.add_argument("--resolution", type=int, default=DEFAULT_RESOLUTION, choices=RESOLUTIONS)
    asked = parser.parse_args(arguments)
    try:
        piece = read(Piece, json.loads(asked.piece.read_bytes()))
        pattern = next((p for p in piece.patterns if asked.pattern in (None, p.name)), None)
        if pattern is None:
            parser.error(f"{piece.name} has no pattern {asked.pattern}")
        score, window = score_of(piece, pattern), read(Window, {"bars": asked.bars})
        tape = undisturbed(score, pattern.dice, window)
    except (OSError, json.JSONDecodeError, DocumentError) as problem:
        parser.error(f"{asked.piece}: {problem}")
    kept = keep_bars(tape, 0, asked.bars, most=asked.bars)
    clip = make_clip(kept, tape, score, pattern.dice, piece=piece.name, pattern=pattern.name)
    asked.out.write_bytes(midi_file(clip, asked.resolution))
    print(f"{asked.out}: {clip.name}, {sum(len(track.notes) for track in clip.tracks)} notes")


if __name__ == "__main__":
    main()
