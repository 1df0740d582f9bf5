"""Controllers: keys, pads, knobs and the clock, simulated and outside; what is bound to them."""

import json

from playwright.sync_api import expect

from tests.browser.at_the_ports import play, ports_of, sent, stop


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
    page.wait_for_function("jolly.score().score.tempo > 89.5 && jolly.score().score.tempo < 90.5")
    expect(page.get_by_role("button", name="Stop", exact=True).and_(page.locator(".play"))).to_be_visible()
    assert page.evaluate("jolly.piece().tempo") == 240  # the piece's own stays
    page.evaluate("jolly.controller().stop()")
    expect(page.get_by_role("button", name="Play from bar 1")).to_be_visible()
    lost = page.get_by_text("The clock of “simulated controller” is lost").first
    page.wait_for_timeout(2500)
    expect(lost).to_have_count(0)  # it was stopped
    page.evaluate(
        "() => { const c = jolly.controller(); const began = performance.now(); c.send([0xfa], began);"
        " for (let at = 0; at < 48; at++) c.send([0xf8], began + at * 20) }"
    )
    expect(lost).to_be_visible()
    page.get_by_label("Where the clock comes from").select_option("")
    page.wait_for_function("jolly.score().score.tempo === 240")


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
    # Several times: where it is a hit already, a stroke changes nothing.
    for _ in range(6):
        keyboard.get_by_role("button", name="Pad A♯4").click()
        page.wait_for_timeout(250)
    page.wait_for_function(
        "(before) => JSON.stringify(jolly.piece().patterns[0].lanes.map(({source}) => source)) !== before"
        " || jolly.piece().patterns[0].lanes.some(({edits}) => edits.length > 0)",
        arg=before,
    )
    stop(page)


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
