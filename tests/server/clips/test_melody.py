"""Clips of melody on the server: what is heard in a file, and in which view it opens."""

from lattice.clips import Clip, Note, Track
from lattice.document import Meter
from lattice.formats.midi import midi_file

TUNE = [62, 64, 65, 67, 69, 71, 72, 74, 72, 71, 69, 67, 65, 64, 62]


def tune(channel: int) -> bytes:
    notes = tuple(Note(at * 13440, 13440, pitch, 90) for at, pitch in enumerate(TUNE))
    return midi_file(
        Clip(
            name="From afar",
            length_ticks=16 * 13440,
            tempo=100.0,
            meter=Meter(),
            tracks=(Track(lane="PitchContext", channel=channel, notes=notes),),
        )
    )


def imported(hands, data):
    address = "/api/clips/import?name=From%20afar"
    return hands.generic("POST", address, data, content_type="audio/midi").json()


def test_an_imported_tune_says_what_scale_it_is_likely_in_and_how_sure_that_is(mara):
    answer = imported(mara, tune(1))
    assert "D dorian (" in answer["heard"]
    assert "% sure)" in answer["heard"]
    number = answer["clips"][0]["id"]
    guessed = mara.send("GET", f"/clips/{number}/guess").json()
    assert guessed["says"] == answer["heard"]
    assert mara.send("GET", f"/clips/{number}").json()["is_melody"] is True
    lanes = mara.send("GET", f"/clips/{number}/lanes").json()["offers"]
    assert [lane["lane"]["voice"] for lane in lanes] == ["lantern"]


def test_drums_say_nothing_of_a_scale(mara):
    answer = imported(mara, tune(10))
    assert answer["heard"] == ""
    number = answer["clips"][0]["id"]
    assert mara.send("GET", f"/clips/{number}/guess").json() is None
    assert mara.send("GET", f"/clips/{number}").json()["is_melody"] is False
