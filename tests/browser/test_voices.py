"""Voices: what of them answers controllers, and sounds of one's own."""

import base64
from itertools import pairwise

import numpy as np
import pytest
from playwright.sync_api import expect

from lattice.document.controllers import BEND, PRESSURE
from lattice.document.kit import KITS, Voice
from lattice.document.pitched import PITCHED
from tests.browser.at_the_ports import play, stop


def features(samples):
    """How loud in bands, and over time: what an ear tells strokes by, in dB."""
    edges = np.geomspace(60, 16000, 13)
    power = np.abs(np.fft.rfft(samples)) ** 2
    hertz = np.fft.rfftfreq(samples.size, 1 / 44100)
    bands = [power[(hertz >= low) & (hertz < high)].sum() for low, high in pairwise(edges)]
    envelope = [(part**2).sum() for part in np.array_split(samples, 24)]
    return 10 * np.log10(np.array([*np.array(bands) / (sum(bands) + 1e-12), *envelope]) + 1e-7)


def strokes(page, voice, tone=None):
    """Return a function that says what a voice sounds like with controllers moved."""

    def stroke(*moves):
        said = page.evaluate("([...asked]) => jolly.stroke(...asked)", [voice, tone, moves])
        return features(np.frombuffer(base64.b64decode(said), np.float32).astype(np.float64))

    return stroke


def test_each_voice_of_both_kits_answers_timbre_attack_brightness_and_decay(musician):
    page = musician.open("Night Ferry").page
    page.wait_for_function("window.jolly")
    for kit in KITS:
        for voice in kit.voices:
            stroke = strokes(page, voice.model_dump(mode="json"))
            plain = stroke()
            assert np.abs(stroke((71, 64), (73, 64), (75, 64)) - plain)[plain > -50].max() < 0.5
            for controller in (71, 73, 74, 75):
                for value in (8, 120):
                    apart = np.abs(stroke((controller, value)) - plain).max()
                    assert apart > 2, f"{voice.name}: {controller} at {value} is only {apart:.2f} dB away"


@pytest.mark.parametrize("name", ["low-reed", "glass-harbour"])
def test_a_pitched_voice_answers_the_controllers_that_the_standard_names(musician, name):
    page = musician.open("Night Ferry").page
    page.wait_for_function("window.jolly")
    known = PITCHED[name]
    voice = Voice(id=name, name=known.name, pitch=known.home).model_dump(mode="json")
    stroke = strokes(page, voice, known.tone.model_dump(mode="json"))
    plain = stroke()
    for moves in (
        [(1, 127)],
        [(7, 60)],
        [(11, 60)],
        [(64, 127)],
        [(5, 40), (65, 127)],
        [(71, 120)],
        [(72, 4)],
        [(73, 120)],
        [(74, 20)],
        [(75, 4)],
        [(91, 127)],
        [(BEND, 8191)],
        [(PRESSURE, 127)],
    ):
        apart = np.abs(stroke(*moves) - plain).max()
        assert apart > 1, f"{moves} is only {apart:.2f} dB away"
    # A time to glide in, and nothing that says to glide. What is nearly silent is never twice the same.
    assert np.abs(stroke((5, 40)) - plain)[plain > -50].max() < 0.5


def drop(page, *names):
    """Drop sounds of these names on the page; "notes" is none."""
    page.evaluate(
        """(names) => { const dt = new DataTransfer()
        for (const name of names) {
          const samples = Int16Array.from({length: 9000}, (_, i) => 9000 * Math.sin(i / 20) * Math.exp(-i / 3000))
          const head = new DataView(new ArrayBuffer(44)), text = (at, s) => [...s].forEach((c, i) => head.setUint8(at + i, c.charCodeAt(0)))
          text(0, 'RIFF'); head.setUint32(4, 36 + samples.byteLength, true); text(8, 'WAVEfmt '); head.setUint32(16, 16, true)
          head.setUint16(20, 1, true); head.setUint16(22, 1, true); head.setUint32(24, 44100, true); head.setUint32(28, 88200, true)
          head.setUint16(32, 2, true); head.setUint16(34, 16, true); text(36, 'data'); head.setUint32(40, samples.byteLength, true)
          dt.items.add(new File(name === 'notes' ? ['no sound'] : [head.buffer, samples.buffer], name + '.wav')) }
        window.dispatchEvent(new DragEvent('drop', {dataTransfer: dt, bubbles: true, cancelable: true})) }""",
        names,
    )


def test_sounds_that_are_dropped_become_a_kit_with_a_lane_each(musician, complaints):
    page = musician.open("Night Ferry").page
    drop(page, "hull", "creak", "notes")
    expect(page.get_by_text("notes.wav:").first).to_be_visible()
    complaints.clear()
    dropped = page.get_by_role("region", name="Dropped sounds")
    expect(dropped).to_contain_text("2 sounds of your own")
    dropped.get_by_role("button", name="creak plays forward").click()
    musician.type_number("hull: from %", "20")
    dropped.get_by_role("button", name="A kit of them, 2 lanes").click()
    expect(page.get_by_text("12 lanes")).to_be_visible()
    kit = page.evaluate("jolly.piece().kit")
    own = [voice for voice in kit["voices"] if voice["sound"]]
    assert [(voice["name"], voice["start_percent"], voice["reverse"]) for voice in own] == [
        ("hull", 20, False),
        ("creak", 0, True),
    ]
    assert len({voice["pitch"] for voice in kit["voices"]}) == len(kit["voices"])
    play(page)
    page.wait_for_function("jolly.log().at(-1)?.notes.some(({lane}) => lane === 'creak')")
    stop(page)
    page.keyboard.press("Control+z")
    expect(page.get_by_text("10 lanes")).to_be_visible()


def test_sounds_that_are_dropped_one_after_the_other_are_different_voices(musician):
    page = musician.open("Night Ferry").page
    dropped = page.get_by_role("region", name="Dropped sounds")
    drop(page, "hull")
    expect(dropped).to_contain_text("A sound of your own")
    drop(page, "creak")
    expect(dropped).to_contain_text("2 sounds of your own")
    dropped.get_by_role("button", name="Add them to the kit").click()
    expect(page.get_by_text("hull, creak are voices of the kit")).to_be_visible()
    expect(dropped).to_have_count(0)
    drop(page, "bilge")
    dropped.get_by_role("button", name="Add them to the kit").click()
    expect(page.get_by_text("bilge is a voice of the kit")).to_be_visible()
    own = [voice for voice in page.evaluate("jolly.piece().kit.voices") if voice["sound"]]
    assert [(voice["name"], voice["pitch"]) for voice in own] == [("hull", 48), ("creak", 50), ("bilge", 52)]
    assert len({voice["id"] for voice in own}) == 3
    musician.wait_until_saved()
