"""The engine by itself: `python -m lattice render|print|validate|schema|plain|controls`."""

import argparse
import json
import sys
from pathlib import Path

from lattice.clips import take, take_clip
from lattice.document import DocumentError, Pattern, Piece, Score, read, score_of
from lattice.document.piece import DICE
from lattice.formats.midi import RESOLUTIONS, Export, midi_file
from lattice.formats.piece_json import controls, piece_schema, plain_values, read_piece
from lattice.formats.text import pattern_text
from lattice.render import Window


def main(arguments: list[str] | None = None) -> None:
    """Do what the command line asks. Exits with a message if the piece, or what is asked of it, is refused."""
    parser = _parser()
    asked = parser.parse_args(arguments)
    if asked.command == "plain":
        print(json.dumps(plain_values(), indent=2))
        return
    if asked.command == "controls":
        print(json.dumps(controls(), indent=2))
        return
    if asked.command == "schema":
        print(json.dumps(piece_schema(), indent=1))
        return
    try:
        piece = read_piece(asked.piece.read_bytes())
        {"render": _render, "print": _print, "validate": _validate}[asked.command](asked, piece)
    except (OSError, DocumentError) as problem:
        print(f"{asked.piece}: {problem}", file=sys.stderr)
        sys.exit(1)


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(
        prog="python -m lattice", description="Work with a piece, without a screen."
    )
    commands = parser.add_subparsers(dest="command", required=True)
    render = commands.add_parser("render", help="write bars of a pattern as a MIDI file")
    printed = commands.add_parser("print", help="print a pattern as text")
    validate = commands.add_parser("validate", help="say whether a file is a piece, and what is wrong")
    commands.add_parser("schema", help="print the JSON Schema of a piece")
    commands.add_parser("controls", help="print what of a lane or a pattern can be moved while it plays")
    commands.add_parser("plain", help="print the plain value of every setting of a lane")
    for command in (render, printed, validate):
        command.add_argument("piece", type=Path, help="a piece as JSON")
    for command in (render, printed):
        command.add_argument("--pattern", help="name of the pattern (the first)")
        command.add_argument("--dice", type=int, help="dice in place of the pattern's own")
    render.add_argument("--from-bar", type=int, default=1, help="the first bar, counted from 1 (%(default)s)")
    render.add_argument("--bars", type=int, default=4, help="how many bars (%(default)s)")
    render.add_argument("--out", type=Path, required=True, help="the file to write")
    render.add_argument("--resolution", type=int, default=Export().resolution, choices=RESOLUTIONS)
    return parser


def _pattern(asked: argparse.Namespace, piece: Piece) -> tuple[Pattern, Score, int]:
    pattern = next((p for p in piece.patterns if asked.pattern in (None, p.name)), None)
    if pattern is None:
        names = ", ".join(pattern.name for pattern in piece.patterns)
        raise DocumentError.of("pattern", f"{piece.name} has no pattern {asked.pattern}, only {names}")
    dice = pattern.dice if asked.dice is None else asked.dice
    if not DICE[0] <= dice <= DICE[1]:
        raise DocumentError.of("dice", f"from {DICE[0]} to {DICE[1]:,}, got {dice}")
    return pattern, score_of(piece, pattern), dice


def _render(asked: argparse.Namespace, piece: Piece) -> None:
    pattern, score, dice = _pattern(asked, piece)
    window = read(Window, {"first_bar": asked.from_bar - 1, "bars": asked.bars})
    clip = take_clip(take(score, dice, window), piece.name, pattern.name)
    asked.out.write_bytes(midi_file(clip, Export(resolution=asked.resolution)))
    print(f"{asked.out}: {clip.name}, {sum(len(track.notes) for track in clip.tracks)} notes")


def _print(asked: argparse.Namespace, piece: Piece) -> None:
    _, score, dice = _pattern(asked, piece)
    print(pattern_text(score, dice))


def _validate(asked: argparse.Namespace, piece: Piece) -> None:
    lanes = sum(len(pattern.lanes) for pattern in piece.patterns)
    print(f"{asked.piece}: {piece.name}, a piece of {len(piece.patterns)} patterns and {lanes} lanes")


if __name__ == "__main__":
    main()
