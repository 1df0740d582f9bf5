"""What can be done without a server: a piece printed, rendered, thrown and varied; lanes made of a MIDI file."""

import argparse
import json
import sys
from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Any, NamedTuple

from lattice.around.candidates import MAX_CANDIDATES, candidates
from lattice.clips import take, take_clip
from lattice.clips.lanes import lane_offers, left_out, pattern_of
from lattice.clips.take import varied
from lattice.document import DocumentError, Pattern, Piece, Score, read, score_of
from lattice.document.detour import WAY_NAMES
from lattice.document.piece import DICE
from lattice.edits.beginnings import beginnings
from lattice.formats.midi import RESOLUTIONS, Export, midi_file
from lattice.formats.midi_reader import read_midi
from lattice.formats.piece_json import controls, piece_json, piece_schema, plain_values, read_piece
from lattice.formats.text import pattern_text
from lattice.help import words_text
from lattice.render import Window
from lattice.starters import SHIPPED

__all__ = ["main"]

_ABOUT = """\
Work with pieces of Jolly Lattice without a server or a screen.

A piece is a JSON file: it has patterns, a pattern has lanes, and each lane has a rule that plays
one voice. The shelf exports pieces; "begin" writes one to start from. What a file must look like is
said by "schema"; what the words mean, by "words".
"""
_FIRST = """\
a first walk:
  python -m lattice begin "Open sea" --out sea.json      a piece to begin with
  python -m lattice print sea.json                       its lanes, each with what it does in words
  python -m lattice render sea.json --bars 8 --out sea.mid
  python -m lattice takes sea.json --count 8 --bars 4    eight throws of the dice, with their measures
  python -m lattice takes sea.json --count 8 --keep 3 --out third.mid
  python -m lattice candidates sea.json --count 5        five patterns near it
  python -m lattice candidates sea.json --take 2 --out near.json
  python -m lattice lanes sea.mid --out again.json       lanes made of the notes of a MIDI file
"""


def main(arguments: list[str] | None = None) -> None:
    """Do what the command line asks. Exits with a message if a file, or what is asked of it, is refused."""
    asked = _parser().parse_args(arguments)
    if not hasattr(asked, "file"):
        print(_PRINTED[asked.command].text().rstrip("\n"))
        return
    try:
        _COMMANDS[asked.command].act(asked)
    except (OSError, DocumentError) as problem:
        print(f"{asked.file}: {problem}", file=sys.stderr)
        sys.exit(1)


# ---- What is done ----


def _pattern(asked: argparse.Namespace) -> tuple[Piece, Pattern, Score, int]:
    piece = read_piece(asked.file.read_bytes())
    pattern = next((p for p in piece.patterns if asked.pattern in (None, p.name)), None)
    if pattern is None:
        names = ", ".join(pattern.name for pattern in piece.patterns)
        raise DocumentError.of("pattern", f"{piece.name} has no pattern {asked.pattern}, only {names}")
    dice = pattern.dice if asked.dice is None else asked.dice
    if not DICE[0] <= dice <= DICE[1]:
        raise DocumentError.of("dice", f"from {DICE[0]} to {DICE[1]:,}, got {dice}")
    return piece, pattern, score_of(piece, pattern), dice


def _window(asked: argparse.Namespace) -> Window:
    return read(Window, {"first_bar": asked.from_bar - 1, "bars": asked.bars})


def _write(score: Score, dice: int, names: tuple[str, str], asked: argparse.Namespace) -> None:
    clip = take_clip(take(score, dice, _window(asked)), *names)
    asked.out.write_bytes(midi_file(clip, Export(resolution=asked.resolution)))
    print(f"{asked.out}: {clip.name}, {clip.note_count} notes")


def _render(asked: argparse.Namespace) -> None:
    piece, pattern, score, dice = _pattern(asked)
    _write(score, dice, (piece.name, pattern.name), asked)


def _print(asked: argparse.Namespace) -> None:
    _, _, score, dice = _pattern(asked)
    print(pattern_text(score, dice))


def _validate(asked: argparse.Namespace) -> None:
    piece = read_piece(asked.file.read_bytes())
    lanes = sum(len(pattern.lanes) for pattern in piece.patterns)
    print(f"{asked.file}: {piece.name}, a piece of {len(piece.patterns)} patterns and {lanes} lanes")


def _takes(asked: argparse.Namespace) -> None:
    piece, pattern, score, dice = _pattern(asked)
    if asked.keep is not None:
        _check_out(asked, "keep")
        number = asked.keep
        if not 1 <= number <= asked.count:
            raise DocumentError.of("keep", f"there are takes 1 to {asked.count}, got {number}")
        _write(varied(score, asked.vary, number), dice + number - 1, (piece.name, pattern.name), asked)
        return
    first = take(score, dice, _window(asked))
    print("take       dice  notes  hits a bar  syncopation  distance")
    for number in range(1, asked.count + 1):
        taken = take(varied(score, asked.vary, number), dice + number - 1, _window(asked))
        of = taken.measures(first)
        print(
            f"{number:4} {dice + number - 1:10,} {of.notes:6} {of.hits_a_bar:11.1f}"
            f" {of.syncopation:12.0%} {of.distance:9.0%}"
        )


def _candidates(asked: argparse.Namespace) -> None:
    piece, pattern, score, _ = _pattern(asked)
    ways = tuple(asked.ways or WAY_NAMES)
    count = asked.count if asked.take is None else max(asked.count, asked.take)
    found = candidates(score, count, asked.distance, ways, asked.throw)
    if asked.take is not None:
        _check_out(asked, "take")
        if not 1 <= asked.take <= len(found.found):
            raise DocumentError.of("take", f"there are candidates 1 to {len(found.found)}, got {asked.take}")
        changes = found.found[asked.take - 1].changes
        lanes = [lane.model_dump(mode="json") | changes.get(lane.id, {}) for lane in pattern.lanes]
        changed = read(Pattern, pattern.model_dump(mode="json") | {"lanes": lanes})
        patterns = tuple(changed if one.id == pattern.id else one for one in piece.patterns)
        _write_piece(piece.model_copy(update={"patterns": patterns}), asked.out)
        return
    names = {lane.id: lane.name for lane in pattern.lanes}
    print("    hits a bar  syncopation  distance  what changes")
    for place, one in enumerate(found.found, 1):
        changed_lanes = ", ".join(names[lane] for lane in one.changes)
        print(
            f"{place:3} {one.hits_a_bar:10.1f} {one.syncopation:12.0%} {one.distance:9.1f}  {changed_lanes}"
        )


def _lanes(asked: argparse.Namespace) -> None:
    heard = read_midi(asked.file.read_bytes(), asked.file.stem, "track", "keep")
    offers = lane_offers(heard.clip)
    for offer in offers:
        print(f"{offer.lane.name}: {offer.this_is or 'drawn'}, step {offer.step}")
    for said in (*heard.remarks, *(f"left out: {one}" for one in left_out(heard.clip))):
        print(said)
    if asked.out is None:
        return
    shorter = frozenset(place for place, offer in enumerate(offers) if offer.shorter)
    pattern = pattern_of(heard.clip, offers, shorter, "a").model_copy(update={"name": "A"})
    tempo = heard.clip.tempo
    _write_piece(Piece(name=heard.clip.name, tempo=tempo, patterns=(pattern,)), asked.out)


def _begin(asked: argparse.Namespace) -> None:
    pieces = {starter.name: starter.piece for starter in SHIPPED if starter.piece}
    found = pieces.get(str(asked.file))
    if found is None:
        raise DocumentError.of("starter", f"there are {', '.join(pieces)}")
    _write_piece(found, asked.out)


def _check_out(asked: argparse.Namespace, option: str) -> None:
    if asked.out is None:
        raise DocumentError.of(option, "say with --out which file to write it to")


def _write_piece(piece: Piece, out: Path) -> None:
    out.write_bytes(piece_json(piece))
    print(f"{out}: {piece.name}, {len(piece.patterns)} patterns")


# ---- What there is ----


class _Command(NamedTuple):
    says: str
    act: Callable[[argparse.Namespace], None]
    #: groups of options that it has
    options: tuple[str, ...]


class _Text(NamedTuple):
    says: str
    text: Callable[[], str]


def _as_json(data: Callable[[], Any], indent: int = 2) -> Callable[[], str]:
    return lambda: json.dumps(data(), indent=indent)


_COMMANDS = {
    "print": _Command("print a pattern as text, each lane with what it does", _print, ("pattern",)),
    "render": _Command("write bars of a pattern as a MIDI file", _render, ("pattern", "bars", "midi")),
    "takes": _Command("throw the dice several times, or write one throw", _takes, ("pattern", "bars", "takes")),
    "candidates": _Command("list patterns near one, or write one of them", _candidates, ("pattern", "candidates")),
    "lanes": _Command("find the lanes behind the notes of a MIDI file", _lanes, ("lanes",)),
    "begin": _Command("write a piece that ships, to begin with", _begin, ("begin",)),
    "validate": _Command("say whether a file is a piece, and what is wrong", _validate, ()),
}  # fmt: skip
_PRINTED = {
    "words": _Text("print what the words mean", words_text),
    "schema": _Text("print the JSON Schema of a piece", _as_json(piece_schema, 1)),
    "controls": _Text(
        "print what of a lane or a pattern can be moved while it plays, as JSON", _as_json(controls)
    ),
    "beginnings": _Text("print what a new lane begins with, as JSON", _as_json(beginnings)),
    "plain": _Text("print the plain value of every setting of a lane, as JSON", _as_json(plain_values)),
}


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(
        prog="python -m lattice",
        description=_ABOUT,
        epilog=_FIRST,
        formatter_class=argparse.RawDescriptionHelpFormatter,
    )
    commands = parser.add_subparsers(dest="command", required=True, title="commands", metavar="COMMAND")
    for name, command in _COMMANDS.items():
        known = commands.add_parser(name, help=command.says, description=f"{command.says.capitalize()}.")
        file = {"lanes": "a Standard MIDI File", "begin": "the name of a starter, as “Open sea”"}
        known.add_argument("file", type=Path, help=file.get(name, "a piece as JSON"))
        for group in command.options:
            _OPTIONS[group](known)
    for name, printed in _PRINTED.items():
        commands.add_parser(name, help=printed.says, description=f"{printed.says.capitalize()}.")
    return parser


def _number(parser: argparse.ArgumentParser, name: str, plain: int, says: str, unit: str = "N") -> None:
    parser.add_argument(name, type=int, default=plain, metavar=unit, help=f"{says} (%(default)s)")


def _out(parser: argparse.ArgumentParser, says: str, *, is_required: bool) -> None:
    parser.add_argument("--out", type=Path, required=is_required, metavar="FILE", help=says)


def _add_pattern(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("--pattern", metavar="NAME", help="name of the pattern (the first)")
    parser.add_argument("--dice", type=int, metavar="N", help="dice in place of the pattern's own")


def _add_bars(parser: argparse.ArgumentParser) -> None:
    _number(parser, "--from-bar", 1, "the first bar, from 1")
    _number(parser, "--bars", 4, "how many bars")


def _add_midi(parser: argparse.ArgumentParser, *, is_required: bool = True) -> None:
    _out(parser, "the MIDI file to write", is_required=is_required)
    parser.add_argument(
        "--resolution",
        type=int,
        default=Export().resolution,
        choices=RESOLUTIONS,
        help="ticks to the quarter in it (%(default)s)",
    )


def _add_takes(parser: argparse.ArgumentParser) -> None:
    _number(parser, "--count", 8, "how many takes")
    _number(parser, "--vary", 0, "move so many of the hits in each take but the first", "PERCENT")
    parser.add_argument("--keep", type=int, metavar="N", help="write take N to the file of --out")
    _add_midi(parser, is_required=False)


def _add_candidates(parser: argparse.ArgumentParser) -> None:
    _number(parser, "--count", 20, f"how many, up to {MAX_CANDIDATES:,}")
    _number(parser, "--distance", 30, "how far from the pattern", "PERCENT")
    _number(parser, "--throw", 1, "another throw finds others")
    ways = f"how they may differ: {', '.join(WAY_NAMES)} (all)"
    parser.add_argument("--ways", nargs="+", choices=WAY_NAMES, metavar="WAY", help=ways)
    parser.add_argument("--take", type=int, metavar="N", help="write candidate N to the file of --out")
    _out(parser, "the piece to write, as JSON", is_required=False)


_OPTIONS: dict[str, Callable[[argparse.ArgumentParser], None]] = {
    "pattern": _add_pattern,
    "bars": _add_bars,
    "midi": _add_midi,
    "takes": _add_takes,
    "candidates": _add_candidates,
    "lanes": partial(_out, says="the piece to write, as JSON", is_required=False),
    "begin": partial(_out, says="the piece to write, as JSON", is_required=True),
}
