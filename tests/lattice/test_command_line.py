import json

import mido
import pytest

from lattice.around.candidates import candidates
from lattice.command_line import main
from lattice.document import Lane, read, score_of
from lattice.document.detour import WAY_NAMES
from lattice.document.piece import Piece
from lattice.help import GLOSSARY
from lattice.starters import PIECES


@pytest.fixture
def ferry(tmp_path):
    lanes = [
        {
            "id": "thud",
            "name": "Thud",
            "voice": "thud",
            "source": {"kind": "euclidean", "hits": 4, "steps": 16},
        }
    ]
    path = tmp_path / "ferry.json"
    path.write_text(
        json.dumps({"name": "Night Ferry", "patterns": [{"id": "a", "name": "A", "lanes": lanes}]})
    )
    return path


def test_a_piece_becomes_a_midi_file(ferry, tmp_path, capsys):
    out = tmp_path / "crossing.mid"
    main(["render", str(ferry), "--bars", "20", "--out", str(out)])
    assert "Night Ferry A, bars 1–20, 80 notes" in capsys.readouterr().out
    midi = mido.MidiFile(out)
    assert sum(message.type == "note_on" for message in midi.tracks[1]) == 80
    assert sum(message.time for message in midi.tracks[1]) == 20 * 4 * 960


@pytest.mark.parametrize(
    ("arguments", "says"),
    [
        (["--bars", "0"], "bars: input should be greater than or equal to 1, got 0"),
        (["--pattern", "Q"], "Night Ferry has no pattern Q"),
        (["--resolution", "97"], "97"),
        (["--dice", "-1"], "dice: from 0 to 999,999,999, got -1"),
        (["--from-bar", "0"], "first_bar"),
    ],
)
def test_what_cannot_be_is_refused_and_nothing_is_written(ferry, tmp_path, capsys, arguments, says):
    out = tmp_path / "crossing.mid"
    with pytest.raises(SystemExit):
        main(["render", str(ferry), "--out", str(out), *arguments])
    assert says in capsys.readouterr().err
    assert not out.exists()


@pytest.mark.parametrize(
    ("content", "says"),
    [
        ('{"name": "x", "patterns": []}', "patterns"),
        ("{", "line 1, column 2: it is no JSON: expecting property name"),
        ('{"tempo": 5}', "tempo"),
    ],
)
def test_a_broken_piece_is_refused_naming_what_is_wrong(tmp_path, capsys, content, says):
    path = tmp_path / "broken.json"
    path.write_text(content)
    with pytest.raises(SystemExit):
        main(["validate", str(path)])
    assert says in capsys.readouterr().err


def test_dice_and_first_bar_can_be_chosen(ferry, tmp_path):
    document = json.loads(ferry.read_text())
    document["patterns"][0]["lanes"][0] |= {"chance_percent": 50}
    ferry.write_text(json.dumps(document))

    def onsets(*arguments):
        out = tmp_path / "x.mid"
        main(["render", str(ferry), "--bars", "8", "--out", str(out), *arguments])
        now, found = 0, []
        for message in mido.MidiFile(out).tracks[1]:
            now += message.time
            found += [now] if message.type == "note_on" else []
        return found

    assert onsets() == onsets()
    assert onsets("--dice", "2") != onsets("--dice", "3")
    assert [tick + 4 * 3840 for tick in onsets("--from-bar", "5")][:5] == [
        tick for tick in onsets() if tick >= 4 * 3840
    ][:5]


def test_a_pattern_is_printed_as_text(ferry, capsys):
    main(["print", str(ferry)])
    assert capsys.readouterr().out == "Thud  x...x...x...x...  4 in 16\n"


def test_a_good_piece_is_said_to_be_one(ferry, capsys):
    main(["validate", str(ferry)])
    assert "Night Ferry, a piece of 1 patterns and 1 lanes" in capsys.readouterr().out


def test_the_schema_is_printed(capsys):
    main(["schema"])
    assert json.loads(capsys.readouterr().out)["title"] == "Jolly Lattice piece"


# ---- The whole walk, without a server ----


@pytest.fixture
def sea(tmp_path, capsys):
    path = tmp_path / "sea.json"
    main(["begin", "Open sea", "--out", str(path)])
    assert "Open sea, 3 patterns" in capsys.readouterr().out
    return path


def piece_in(path):
    return read(Piece, json.loads(path.read_text()))


def test_a_piece_that_ships_is_written_whole_and_another_is_named(sea, tmp_path, capsys):
    assert piece_in(sea) == next(starter.piece for starter in PIECES if starter.name == "Open sea")
    with pytest.raises(SystemExit):
        main(["begin", "Closed sea", "--out", str(tmp_path / "x.json")])
    assert "there are Last car deck" in capsys.readouterr().err


def test_takes_are_listed_with_their_dice_and_one_is_written_as_it_is_rendered(ferry, tmp_path, capsys):
    document = json.loads(ferry.read_text())
    document["patterns"][0]["lanes"][0] |= {"chance_percent": 50}
    ferry.write_text(json.dumps(document))
    main(["takes", str(ferry), "--count", "5", "--bars", "8", "--dice", "40"])
    rows = [row.split() for row in capsys.readouterr().out.splitlines()[1:]]
    assert [row[:2] for row in rows] == [[str(number), str(39 + number)] for number in range(1, 6)]
    assert len({row[2] for row in rows}) > 1
    kept, rendered = tmp_path / "third.mid", tmp_path / "dice 42.mid"
    main(["takes", str(ferry), "--bars", "8", "--dice", "40", "--keep", "3", "--out", str(kept)])
    main(["render", str(ferry), "--bars", "8", "--dice", "42", "--out", str(rendered)])
    assert kept.read_bytes() == rendered.read_bytes()
    assert f"{rows[2][2]} notes" in capsys.readouterr().out


def test_candidates_are_listed_and_one_becomes_a_piece(sea, tmp_path, capsys):
    main(["candidates", str(sea), "--count", "6", "--distance", "40", "--throw", "3"])
    assert len(capsys.readouterr().out.splitlines()) == 7
    out = tmp_path / "near.json"
    main(["candidates", str(sea), "--distance", "40", "--throw", "3", "--take", "2", "--out", str(out)])
    was, near = piece_in(sea), piece_in(out)
    found = candidates(score_of(was, was.patterns[0]), 2, 40, WAY_NAMES, 3).found[1]
    for lane, before in zip(near.patterns[0].lanes, was.patterns[0].lanes, strict=True):
        stored = before.model_dump(mode="json") | found.changes.get(lane.id, {})
        assert lane == read(Lane, stored)
    assert near.patterns[1:] == was.patterns[1:]
    assert near.patterns[0] != was.patterns[0]


def test_the_lanes_behind_a_midi_file_are_said_and_play_the_same_again(ferry, tmp_path, capsys):
    file, again, back = (tmp_path / name for name in ("x.mid", "again.json", "y.mid"))
    main(["render", str(ferry), "--out", str(file)])
    main(["lanes", str(file), "--out", str(again)])
    assert "Thud: a hit on every step, step 1/4" in capsys.readouterr().out
    main(["render", str(again), "--out", str(back)])
    one, other = (
        [message for message in mido.MidiFile(path).tracks[1] if message.type == "note_on"]
        for path in (file, back)
    )
    assert one == other


@pytest.mark.parametrize(
    ("command", "says"),
    [
        (["takes", "--keep", "9", "--out", "x.mid"], "there are takes 1 to 8, got 9"),
        (["takes", "--keep", "1"], "say with --out which file"),
        (["candidates", "--take", "0", "--out", "x.json"], "there are candidates 1 to 20, got 0"),
        (["candidates", "--take", "1"], "say with --out which file"),
        (["candidates", "--count", "0"], "ask for 1 to 1,000"),
        (["candidates", "--ways", "sideways"], "invalid choice"),
        (["lanes"], "MIDI"),
    ],
)
def test_what_cannot_be_done_is_refused_in_a_sentence(sea, capsys, monkeypatch, tmp_path, command, says):
    monkeypatch.chdir(tmp_path)
    with pytest.raises(SystemExit):
        main([command[0], str(sea), *command[1:]])
    assert says in capsys.readouterr().err
    assert sorted(path.name for path in tmp_path.iterdir()) == ["sea.json"]


def test_the_help_names_every_command_and_each_has_its_own(capsys):
    with pytest.raises(SystemExit):
        main(["--help"])
    told = capsys.readouterr().out
    for command in (
        "print",
        "render",
        "takes",
        "candidates",
        "lanes",
        "begin",
        "validate",
        "words",
        "schema",
    ):
        assert f"\n    {command}" in told
        with pytest.raises(SystemExit) as ended:
            main([command, "--help"])
        assert ended.value.code == 0
        assert f"lattice {command}" in capsys.readouterr().out


def test_the_words_are_printed(capsys):
    main(["words"])
    told = capsys.readouterr().out
    assert all(f"**{term.word}**" in told for term in GLOSSARY)
