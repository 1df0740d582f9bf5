"""The whole way, from a lane to a MIDI file."""

import math
from itertools import pairwise
from pathlib import Path

import mido
import numpy as np
import pytest
from clips.models import Clip
from playwright.sync_api import expect

from lattice.clips import undisturbed
from lattice.document import Score, read
from lattice.render import Window
from lattice.steps.euclidean import euclidean
from tests.browser.conftest import BAR

RESOLUTION = 960


def file_ticks(ticks: int) -> int:
    return math.floor(ticks * RESOLUTION / 13440 + 0.5)


def notes_of(path: Path) -> list[tuple[int, int, int, int]]:
    notes = []
    for track in mido.MidiFile(path).tracks:
        now, sounding = 0, {}
        for message in track:
            now += message.time
            if message.type == "note_on":
                sounding[message.note] = (now, message.velocity)
            elif message.type == "note_off":
                start, velocity = sounding.pop(message.note)
                notes.append((start, now - start, message.note, velocity))
    return sorted(notes)


def test_from_five_in_sixteen_to_a_midi_file(musician, tmp_path):
    page = musician.open("Night Ferry").page
    musician.expect_hits("Bottle", [3, 6, 9, 12, 15], 16)
    expect(page.locator("[data-test=meeting]")).to_have_text("all lanes first line up after 231 bars")

    musician.type_number("Bottle: steps", "13")
    expect(page.locator("[data-test=meeting]")).to_contain_text("1,287 bars")
    musician.expect_hits("Bottle", sorted((hit + 2) % 13 + 1 for hit in euclidean(5, 13)), 13)

    page.keyboard.press("Escape")
    page.keyboard.press("Space")
    page.wait_for_function("jolly.log().length > 0")
    page.wait_for_function("async () => await jolly.level() > 0.01")  # sound really flows
    musician.wait_for_bars(5)
    page.keyboard.press("k")
    page.keyboard.press("4")
    expect(page.get_by_text("Kept “Night Ferry A, bars")).to_be_visible()
    page.keyboard.press("Space")
    expect(page.get_by_role("button", name="Play from bar 1")).to_be_visible()

    page.get_by_role("link", name="Clips", exact=True).click()
    kept = page.locator(".clip").first
    name = kept.get_by_label("Name of the clip").input_value()
    first = int(name.split("bars ")[1].split("–")[0]) - 1
    kept.get_by_role("button", name=f"Export {name}").click()
    with page.expect_download() as download:
        page.get_by_role("link", name="Export .mid").click()
    path = tmp_path / "kept.mid"
    download.value.save_as(path)

    (stretch,) = musician.log()
    heard = sorted(
        (
            file_ticks(note["start"] - first * BAR),
            min(file_ticks(note["length"]), 4 * 4 * RESOLUTION - file_ticks(note["start"] - first * BAR)),
            note["pitch"],
            note["velocity"],
        )
        for note in stretch["notes"]
        if first * BAR <= note["start"] < (first + 4) * BAR
    )
    written = notes_of(path)
    assert len(written) > 100
    assert [(start, pitch, velocity) for start, _, pitch, velocity in written] == [
        (start, pitch, velocity) for start, _, pitch, velocity in heard
    ]
    # A length is rounded too, and may be a tick shorter where the next note of its pitch begins.
    assert all(abs(one[1] - other[1]) <= 1 for one, other in zip(written, heard, strict=True))

    # What was heard and kept is what the engine makes of the score as it stood.
    document = Clip.objects.get(name=name).document
    origin = document["origin"]
    window = Window(first_bar=origin["first_bar"], bars=origin["bars"])
    again = undisturbed(read(Score, origin["score"]), origin["dice"], window)
    left_out = {(note["start"], note["pitch"]) for note in stretch["leftOut"]}
    assert {track["lane"]: [tuple(note) for note in track["notes"]] for track in document["tracks"]} == {
        track.lane: [
            note._replace(start=note.start - first * BAR)
            for note in track.notes
            if (note.start, note.pitch) not in left_out
        ]
        for track in again.tracks
        if track.notes
    }

    # The lane drifts: it began its cycle on another place in each of the four bars.
    bottle = [start % (4 * RESOLUTION) for start, _, pitch, _ in written if pitch == 39]
    assert len(set(bottle)) > 8


def test_the_voices_of_the_kit_are_never_silent_and_no_two_alike(musician):
    musician.open("Night Ferry")
    musician.page.wait_for_function("window.jolly")
    voices = musician.page.evaluate("jolly.voices()")
    assert len(voices) == 12
    spectra = {}
    for name, samples in voices.items():
        sound = np.array(samples)
        assert np.sqrt((sound**2).mean()) > 0.005, f"{name} is silent"
        assert np.abs(sound).max() <= 1.0
        # How loud in sixteen bands from 40 Hz to 16 kHz, over four stretches of time: what an ear tells voices by.
        sound = np.resize(np.pad(sound, (0, max(0, 44100 - sound.size))), 44100)
        pieces = [sound[:1500], sound[1500:6000], sound[6000:18000], sound[18000:]]
        edges = np.geomspace(40, 16000, 17)
        bands = []
        for piece in pieces:
            power = np.abs(np.fft.rfft(piece)) ** 2
            hertz = np.fft.rfftfreq(piece.size, 1 / 44100)
            bands += [power[(hertz >= low) & (hertz < high)].sum() for low, high in pairwise(edges)]
        spectra[name] = 10 * np.log10(np.array(bands) / np.sum(bands) + 1e-6)
    names = sorted(spectra)
    for at, one in enumerate(names):
        for other in names[at + 1 :]:
            apart = np.abs(spectra[one] - spectra[other]).mean()
            assert apart > 4, f"{one} and {other} are only {apart:.1f} dB apart"


@pytest.mark.parametrize("act", ["mute", "solo"])
def test_silencing_is_immediate_and_on_the_tape(musician, act):
    page = musician.open("Night Ferry").page
    page.keyboard.press("Space")
    musician.wait_for_bars(1)
    # Read and clicked in one go: the machine may pause in between two calls.
    before = page.get_by_role("button", name="Mute Thud" if act == "mute" else "Solo Chain").evaluate(
        "button => { const now = jolly.log()[0].nowTick; button.click(); return now }"
    )
    musician.wait_for_bars(musician.next_bar() + 2)
    page.keyboard.press("Space")
    due = musician.due(musician.log()[0])
    # The position is as old as the player's last tick; two beats later nothing of the silenced lanes begins.
    late = [note["laneId"] for note in due if note["start"] > before + 2 * 13440]
    assert late
    if act == "mute":
        assert "thud" not in late
        assert "chain" in late
    else:
        assert set(late) == {"chain"}
