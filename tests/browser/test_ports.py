"""Ports: what instruments are sent, what controllers do, the clock, and that nothing is left sounding."""

import base64
import json
from itertools import pairwise

import mido
import numpy as np
import pytest
from playwright.sync_api import expect

from lattice.document.controllers import BEND, PRESSURE
from lattice.document.kit import KITS, Voice
from lattice.document.pitched import PITCHED
from lattice.units import TICKS_PER_QUARTER

BAR = 53760

# A browser's MIDI with one synthesiser and one controller, which remembers what it was sent.
FAKE_MIDI = """
window.fakeMidi = { sent: [], refused: false, hear: null, access: null }
class Input extends EventTarget { constructor() { super(); this.name = 'Eight knobs'; this.state = 'connected' } }
navigator.requestMIDIAccess = async () => {
  if (fakeMidi.refused) throw new DOMException('no', 'NotAllowedError')
  const input = new Input()
  fakeMidi.hear = (bytes) => input.dispatchEvent(
    Object.assign(new Event('midimessage'), { data: Uint8Array.from(bytes) }))
  const out = { name: 'Quay synth', state: 'connected',
    send: (data, stamp) => fakeMidi.sent.push({ data: [...data], stamp, handed: performance.now() }) }
  fakeMidi.out = out
  fakeMidi.access = { outputs: new Map([['1', out]]), inputs: new Map([['2', input]]), onstatechange: null }
  return fakeMidi.access
}
"""


def ports_of(musician, name="Night Ferry"):
    page = musician.open(name).page
    page.get_by_role("link", name="Ports").click()
    expect(page.get_by_role("region", name="Instruments")).to_contain_text("simulated instrument")
    return page


def kit_to(page, port="simulated instrument"):
    page.get_by_label("Port of the kit").select_option(port)


def play(page):
    page.get_by_role("button", name="Play from bar 1").click()


def stop(page):
    page.get_by_role("button", name="Stop", exact=True).and_(page.locator(".play")).click()


def sent(page):
    return page.evaluate(
        "jolly.sent().map(({message, time, handed}) => ({message: [...message], time, handed}))"
    )


def still_sounding(messages):
    sounding = set()
    for one in sorted(messages, key=lambda one: one["time"]):
        status, *data = one["message"]
        if status & 0xF0 == 0x90 and data[1]:
            sounding.add((status & 15, data[0]))
        elif status & 0xF0 in (0x80, 0x90):
            sounding.discard((status & 15, data[0]))
    return sounding


def begun(messages):
    return [one for one in messages if one["message"][0] & 0xF0 == 0x90 and one["message"][2]]


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
    assert (off > 100).sum() <= page.evaluate("jolly.handed()['simulated instrument'].late")
    assert (off <= 1).sum() > len(found) / 4


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
        page.evaluate("window.dispatchEvent(new Event('pagehide'))")
        assert still_sounding(sent(page)) == set()
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
    page.evaluate(
        "Object.defineProperty(document, 'hidden', {value: true, configurable: true}),"
        "document.dispatchEvent(new Event('visibilitychange'))"
    )
    assert still_sounding(sent(page)) == set()
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
    assert min(ahead) >= 0
    # A note stands where the pattern has it: equal distances are equal.
    bottle = [note["start"] for note in musician.log()[-1]["notes"] if note["laneId"] == "bottle"]
    stamps = [one["stamp"] for one in told if one["data"][0] == 0x93][: len(bottle)]
    per_tick = 60_000 / 112 / TICKS_PER_QUARTER
    off = np.array(stamps) - np.array(bottle[: len(stamps)]) * per_tick
    assert np.ptp(off) < 25  # milliseconds, of a machine that does other things

    # Its cable is pulled, and put back.
    page.evaluate("fakeMidi.out.state = 'disconnected', fakeMidi.access.onstatechange()")
    expect(page.get_by_text("“Quay synth” is gone").first).to_be_visible()
    page.evaluate("fakeMidi.out.state = 'connected', fakeMidi.access.onstatechange()")
    expect(page.get_by_text("at this computer").first).to_be_visible()


def test_pads_choose_patterns_and_a_learned_knob_waits_then_moves_and_is_written_down(musician):
    page = ports_of(musician)
    page.get_by_role("button", name="Learn").click()
    page.get_by_role("button", name="Pattern B").click()
    expect(page.get_by_text("it will move pattern B")).to_be_visible()
    page.get_by_role("button", name="Pad 1", exact=True).click()
    expect(
        page.get_by_text("Key 36 on channel 10 of “simulated controller” moves pattern B").first
    ).to_be_visible()
    page.keyboard.press("Escape")
    page.get_by_role("link", name="Lattice", exact=True).click()
    musician.choose("shell")
    page.evaluate("jolly.controller()")
    page.get_by_role("link", name="Ports").click()
    page.get_by_role("button", name="Learn").click()
    page.get_by_role("link", name="Lattice", exact=True).click()
    musician.number("Shell: chance").click()
    page.evaluate("jolly.controller().turn(0, 10)")
    expect(page.get_by_text("Controller 20 on channel 1").first).to_be_visible()
    page.keyboard.press("Escape")

    page.get_by_role("button", name="Record moves").click()
    play(page)
    musician.wait_for_bars(1)
    chance = musician.number("Shell: chance")
    before = chance.get_attribute("aria-valuenow")
    page.evaluate("jolly.controller().turn(0, 20)")
    page.wait_for_timeout(200)
    assert chance.get_attribute("aria-valuenow") == before == "75"  # it waits: the knob stands far below
    for value in (60, 90, 100, 120):
        page.evaluate(f"jolly.controller().turn(0, {value})")
        page.wait_for_timeout(120)
    expect(chance).to_have_attribute("aria-valuenow", "94")
    page.evaluate("jolly.controller().turn(0, 64)")
    expect(chance).to_have_attribute("aria-valuenow", "50")
    page.evaluate("jolly.controller().pad(0, true), jolly.controller().pad(0, false)")
    page.wait_for_function("jolly.log().at(-1)?.patternId !== 'a'")
    stop(page)
    movements = page.evaluate(
        "jolly.piece().patterns[0].lanes.find(({id}) => id === 'shell').movements.map(({control}) => control)"
    )
    assert movements == ["chance_percent"]


def test_a_table_of_what_is_bound_is_exported_imported_and_refused_with_a_sentence(
    musician, tmp_path, complaints
):
    page = ports_of(musician)
    table = [
        {
            "name": "Eight knobs",
            "bindings": [
                {"message": "control", "channel": 1, "number": 7, "target": {"kind": "hand", "place": 2}}
            ],
        }
    ]
    good, bad = tmp_path / "good.json", tmp_path / "bad.json"
    good.write_text(json.dumps(table))
    bad.write_text(json.dumps([table[0] | {"bindings": [table[0]["bindings"][0] | {"channel": 77}]}]))
    page.get_by_label("Tables of controllers").set_input_files(good)
    learned = page.get_by_role("region", name="What controllers move")
    expect(learned).to_contain_text("big control 3")
    page.get_by_label("Tables of controllers").set_input_files(bad)
    expect(
        page.get_by_text("less than or equal to 16").or_(page.get_by_text("at most 16")).first
    ).to_be_visible()
    complaints.clear()
    expect(learned).to_contain_text("big control 3")
    with page.expect_download() as download:
        learned.get_by_role("button", name="Export").click()
    assert json.loads(download.value.path().read_bytes()) == table
    page.reload()
    expect(learned).to_contain_text("Controller 7 on channel 1")


def test_the_controllers_keys_play_an_arpeggio_as_the_computers_do(musician):
    page = musician.open("Lantern Quay").page
    musician.choose("glass")
    page.keyboard.press("j")
    page.get_by_role("button", name="clear the held notes").click()
    expect(page.locator(".pool")).to_contain_text("hold keys to fill it")
    play(page)
    page.evaluate("[64, 67, 71].forEach((key) => jolly.controller().key(key, true, 77))")
    expect(page.locator("[data-test=held]")).to_have_text("E4 G4 B4")
    page.wait_for_function(
        "(jolly.log().at(-1)?.notes ?? []).filter(({laneId}) => laneId === 'glass').length > 6"
    )
    page.evaluate("[64, 67, 71].forEach((key) => jolly.controller().key(key, false))")
    stop(page)
    notes = [note for note in musician.log()[-1]["notes"] if note["laneId"] == "glass"]
    assert {note["pitch"] % 12 for note in notes} == {64 % 12, 67 % 12, 71 % 12}


def test_the_music_follows_a_clock_from_outside_and_says_when_it_is_lost(musician):
    page = ports_of(musician)
    page.get_by_label("Where the clock comes from").select_option("simulated controller")
    page.evaluate("jolly.controller().setTempo(90), jolly.controller().start()")
    page.wait_for_function(
        "jolly.score().score.tempo > 89.5 && jolly.score().score.tempo < 90.5", timeout=20_000
    )
    expect(page.get_by_role("button", name="Stop", exact=True).and_(page.locator(".play"))).to_be_visible()
    assert page.evaluate("jolly.piece().tempo") == 112  # the piece's own stays
    page.evaluate("jolly.controller().stop()")
    expect(page.get_by_role("button", name="Play from bar 1")).to_be_visible()
    expect(page.get_by_text("The clock of “simulated controller” is lost").first).to_be_visible()
    page.get_by_label("Where the clock comes from").select_option("")
    page.wait_for_function("jolly.score().score.tempo === 112")


def test_ten_thousand_messages_a_second_and_broken_ones_hang_nothing(musician):
    page = ports_of(musician)
    page.evaluate(
        "() => { const c = jolly.controller(); const began = performance.now();"
        " for (let i = 0; i < 20000; i++) c.send([0xb0, 20 + i % 8, i % 128], began + i / 10);"
        " c.send([0x90, 60]); c.send([0x80, 1]); c.send([200]); c.send([0xff]); c.send([0x90, 61, 5]) }"
    )
    expect(page.get_by_text("messages a second").first).to_be_visible()
    expect(page.get_by_text("was cut short").first).to_be_visible()
    play(page)
    musician.wait_for_bars(1)
    stop(page)


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


def test_sounds_that_are_dropped_become_a_kit_with_a_lane_each(musician, complaints):
    page = musician.open("Night Ferry").page
    page.evaluate(
        """() => { const dt = new DataTransfer()
        for (const name of ['hull', 'creak', 'notes']) {
          const samples = Int16Array.from({length: 9000}, (_, i) => 9000 * Math.sin(i / 20) * Math.exp(-i / 3000))
          const head = new DataView(new ArrayBuffer(44)), text = (at, s) => [...s].forEach((c, i) => head.setUint8(at + i, c.charCodeAt(0)))
          text(0, 'RIFF'); head.setUint32(4, 36 + samples.byteLength, true); text(8, 'WAVEfmt '); head.setUint32(16, 16, true)
          head.setUint16(20, 1, true); head.setUint16(22, 1, true); head.setUint32(24, 44100, true); head.setUint32(28, 88200, true)
          head.setUint16(32, 2, true); head.setUint16(34, 16, true); text(36, 'data'); head.setUint32(40, samples.byteLength, true)
          dt.items.add(new File(name === 'notes' ? ['no sound'] : [head.buffer, samples.buffer], name + '.wav')) }
        window.dispatchEvent(new DragEvent('drop', {dataTransfer: dt, bubbles: true, cancelable: true})) }"""
    )
    expect(page.get_by_text("notes.wav:").first).to_be_visible()
    complaints.clear()
    dropped = page.get_by_role("region", name="Dropped sounds")
    expect(dropped).to_contain_text("2 sounds of your own")
    dropped.get_by_role("button", name="creak played backward").click()
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


def test_keys_of_the_keyboard_strike_the_kit_and_are_played_into_its_lanes(musician):
    page = musician.open("Night Ferry").page
    musician.choose("chain")
    page.keyboard.press("j")
    keyboard = page.get_by_role("region", name="Keyboard")
    expect(keyboard.get_by_role("group", name="Pads of the kit").get_by_role("button")).to_have_count(12)
    expect(keyboard.get_by_role("button", name="E2, no voice", exact=True)).to_be_visible()
    keyboard.get_by_role("button", name="with the loop").click()
    play(page)
    musician.wait_for_bars(1)
    before = page.evaluate("JSON.stringify(jolly.piece().patterns[0].lanes.map(({source}) => source))")
    keyboard.get_by_role("button", name="Pad A♯4").click()
    page.wait_for_function(
        "(before) => JSON.stringify(jolly.piece().patterns[0].lanes.map(({source}) => source)) !== before"
        " || jolly.piece().patterns[0].lanes.some(({edits}) => edits.length > 0)",
        arg=before,
    )
    stop(page)


def test_a_channel_each_and_back(musician):
    page = ports_of(musician)
    page.get_by_role("button", name="a channel each").click()
    channels = "jolly.piece().patterns[0].lanes.map(({channel}) => channel)"
    page.wait_for_function(f"{channels}[1] === 2")
    assert page.evaluate(channels)[:9] == list(range(1, 10))
    page.get_by_role("button", name="a channel each").click()
    page.wait_for_function(f"{channels}.every((one) => one === null)")


def test_a_key_sounds_at_the_port_and_on_the_channel_of_its_lane(musician):
    page = ports_of(musician, "Lantern Quay")
    page.get_by_label("Port of Low reed").select_option("simulated instrument")
    page.get_by_label("Channel of Low reed").select_option("7")
    page.get_by_role("link", name="Lattice", exact=True).click()
    musician.choose("reed")
    page.keyboard.press("j")
    expect(page.get_by_role("region", name="Keyboard")).to_contain_text("Low reed")
    page.evaluate("jolly.controller().key(50, true, 77)")
    page.wait_for_function("jolly.sent().some(({message}) => message[0] === 0x96)")
    page.evaluate("jolly.controller().key(50, false)")
    page.wait_for_function("jolly.sent().some(({message}) => message[0] === 0x86)")
    assert [one["message"] for one in sent(page)] == [[0x96, 50, 77], [0x86, 50, 0]]
