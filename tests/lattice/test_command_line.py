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
    main([str(ferry), "--bars", "20", "--out", str(out)])
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
    ],
)
def test_what_cannot_be_is_refused_and_nothing_is_written(ferry, tmp_path, capsys, arguments, says):
    out = tmp_path / "crossing.mid"
    with pytest.raises(SystemExit):
        main([str(ferry), "--out", str(out), *arguments])
    assert says in capsys.readouterr().err
    assert not out.exists()


@pytest.mark.parametrize(
    ("content", "says"),
    [
        ('{"name": "x", "patterns": []}', "patterns"),
        ("{", "Expecting property name"),
        ('{"tempo": 5}', "tempo"),
    ],
)
def test_a_broken_piece_is_refused_naming_what_is_wrong(tmp_path, capsys, content, says):
    path = tmp_path / "broken.json"
    path.write_text(content)
    with pytest.raises(SystemExit):
        main([str(path), "--out", str(tmp_path / "x.mid")])
    assert says in capsys.readouterr().err
