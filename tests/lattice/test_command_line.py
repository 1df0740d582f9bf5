import json

import mido
import pytest

from lattice.__main__ import main


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
