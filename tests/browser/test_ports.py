"""Ports: what instruments are sent, and that nothing is left sounding."""

import mido
import numpy as np
import pytest
from playwright.sync_api import expect

from lattice.units import TICKS_PER_QUARTER
from tests.browser.at_the_ports import (
    FAKE_MIDI,
    SENT,
    begun,
    kit_to,
    play,
    ports_of,
    sent,
    still_sounding,
    stop,
)


def test_what_the_instrument_is_sent_is_the_schedule_log_and_so_is_the_recorded_file(musician):
    page = ports_of(musician)
    kit_to(page)
    page.get_by_role("button", name="record", exact=True).click()
    play(page)
    musician.wait_for_bars(3)
    stop(page)
    page.wait_for_function("jolly.handed()['simulated instrument'].sounding === 0")
    with page.expect_download() as download:
        page.get_by_role("button", name="stop, save the MIDI file").click()
    told = musician.log()[-1]
    drums = [note for note in told["notes"] if note["channel"] == 10]
    messages = sent(page)
    # What was handed over when it stopped could not be taken back: it is ended as it begins.
    after = len(begun(messages)) - len(drums)
    assert len(drums) > 60
    assert 0 <= after < 8
    assert still_sounding(messages) == set()

    midi = mido.MidiFile(download.value.path())
    now, found = 0, []
    for message in midi.tracks[0]:
        now += message.time
        if message.type == "note_on":
            found.append((now, message.note, message.velocity))
    assert midi.ticks_per_beat == TICKS_PER_QUARTER
    wanted = sorted((note["pitch"], note["velocity"], note["start"]) for note in drums)
    found = sorted((pitch, velocity, tick) for tick, pitch, velocity in sorted(found)[: len(drums)])
    assert [row[:2] for row in found] == [row[:2] for row in wanted]
    # Recording began before the music, somewhere between two ticks: all of it is off by the same, a tick more or less.
    apart = np.array(found)[:, 2] - np.array(wanted)[:, 2]
    off = np.abs(apart - np.median(apart))
    # On a busy machine some were handed over late: those sound when they come.
    late = page.evaluate("jolly.handed()['simulated instrument'].late")
    assert (off > 100).sum() <= late
    assert (off <= 1).sum() > len(found) / 4 - late


@pytest.mark.parametrize("ending", ["mute", "solo", "gone", "lane", "panic", "stop", "closed"])
def test_no_note_is_left_sounding(musician, ending):
    page = ports_of(musician)
    page.get_by_label("Port of Thud").select_option("simulated instrument")
    page.get_by_role("link", name="Lattice", exact=True).click()
    musician.choose("thud")
    musician.type_number("Thud on the bench: length", "1600")
    play(page)
    page.wait_for_function("jolly.handed()['simulated instrument'].sounding > 0")
    if ending == "mute":
        page.get_by_role("button", name="Mute Thud").click()
    elif ending == "solo":
        page.get_by_role("button", name="Solo Chain").click()
    elif ending == "gone":
        page.get_by_role("link", name="Ports").click()
        page.get_by_role("button", name="gone", exact=True).click()
        expect(page.get_by_text("is gone: the built-in sounds play for it").first).to_be_visible()
        page.get_by_role("button", name="obeys").click()
        stop(page)
    elif ending == "lane":
        page.keyboard.press("Shift+Delete")
    elif ending == "panic":
        page.keyboard.press("Shift+Escape")
        expect(page.get_by_text("All is silent")).to_be_visible()
    elif ending == "stop":
        page.keyboard.press(" ")
    else:
        # A page that goes does nothing after that: what was sent is looked at before this one plays on.
        told = page.evaluate("window.dispatchEvent(new Event('pagehide')), " + SENT)
        assert still_sounding(told) == set()
        stop(page)
    page.wait_for_function("jolly.handed()['simulated instrument'].sounding === 0")
    page.wait_for_timeout(200)
    assert still_sounding(sent(page)) == set()
    assert begun(sent(page))


def test_a_page_that_is_hidden_has_told_its_notes_when_to_end(musician):
    page = ports_of(musician)
    page.get_by_label("Port of Thud").select_option("simulated instrument")
    page.get_by_role("link", name="Lattice", exact=True).click()
    musician.choose("thud")
    musician.type_number("Thud on the bench: length", "1600")
    play(page)
    page.wait_for_function("jolly.handed()['simulated instrument'].sounding > 0")
    # Looked at at once: it plays on, and ends what begins later when that is over.
    told = page.evaluate(
        "Object.defineProperty(document, 'hidden', {value: true, configurable: true}),"
        "document.dispatchEvent(new Event('visibilitychange')), " + SENT
    )
    assert still_sounding(told) == set()
    page.keyboard.press(" ")


def test_the_browsers_midi_is_asked_for_on_a_press_and_refused_without_harm(musician, complaints):
    page = musician.page
    page.add_init_script(FAKE_MIDI)
    page = ports_of(musician)
    page.reload()
    page.evaluate("fakeMidi.refused = true")
    page.get_by_role("button", name="Use my instruments").click()
    expect(page.get_by_role("alert")).to_contain_text("may not use MIDI here: nothing is changed")
    page.evaluate("fakeMidi.refused = false")
    page.get_by_role("button", name="Use my instruments").click()
    expect(page.get_by_role("region", name="Instruments")).to_contain_text("Quay synth")

    # Lane 3 on channel 4 of that one.
    page.get_by_label("Port of Bottle").select_option("Quay synth")
    page.get_by_label("Channel of Bottle").select_option("4")
    page.get_by_label("Program of Bottle").fill("12")
    page.get_by_label("Program of Bottle").press("Enter")
    play(page)
    musician.wait_for_bars(2)
    stop(page)
    told = page.evaluate("fakeMidi.sent")
    statuses = {one["data"][0] for one in told}
    assert {0x93, 0x83, 0xC3} <= statuses
    ahead = [one["stamp"] - one["handed"] for one in told if one["data"][0] == 0x93]
    assert max(ahead) > 0  # one that a busy machine hands over late is not refused
    # Time goes by as the tempo says; a machine that stands still may only make it longer.
    bottle = [note["start"] for note in musician.log()[-1]["notes"] if note["laneId"] == "bottle"]
    ons = [one for one in told if one["data"][0] == 0x93]
    in_time = [
        (tick, one["stamp"]) for tick, one in zip(bottle, ons, strict=False) if one["stamp"] > one["handed"]
    ]
    assert len(in_time) > 2
    per_tick = 60_000 / 240 / TICKS_PER_QUARTER
    slope, _ = np.polyfit(*zip(*in_time, strict=True), 1)
    assert slope > 0.95 * per_tick

    # Its cable is pulled, and put back.
    page.evaluate("fakeMidi.out.state = 'disconnected', fakeMidi.access.onstatechange()")
    expect(page.get_by_text("“Quay synth” is gone").first).to_be_visible()
    page.evaluate("fakeMidi.out.state = 'connected', fakeMidi.access.onstatechange()")
    expect(page.get_by_text("at this computer").first).to_be_visible()


def test_a_channel_each_and_back(musician):
    page = ports_of(musician)
    page.get_by_role("button", name="a channel each").click()
    channels = "jolly.piece().patterns[0].lanes.map(({channel}) => channel)"
    page.wait_for_function(f"{channels}[1] === 2")
    assert page.evaluate(channels)[:9] == list(range(1, 10))
    page.get_by_role("button", name="a channel each").click()
    page.wait_for_function(f"{channels}.every((one) => one === null)")
