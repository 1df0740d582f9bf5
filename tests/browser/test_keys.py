"""Keys: held, latched, replayed, played into lanes; what was played is what is kept."""

import re

import mido
from playwright.sync_api import expect

from lattice.document import Score, read
from lattice.render import Window, render

BAR = 47040


def keys_of(musician):
    return musician.open("Lantern Quay").page


def open_keys(musician, lane):
    page = musician.page
    musician.choose(lane)
    page.keyboard.press("j")
    expect(page.get_by_role("region", name="Keyboard")).to_be_visible()
    return page


def hold(page, *codes):
    for code in codes:
        page.keyboard.down(code)


def let_go(page, *codes):
    for code in codes:
        page.keyboard.up(code)


def held(page):
    return page.locator("[data-test=held]")


def notes_of(musician, lane, with_left_out=False):
    stretch = musician.log()[-1]
    now = musician.known_until(stretch)
    return sorted(
        (note["start"], note["pitch"], note["velocity"])
        for note in (musician.due(stretch) if with_left_out else stretch["notes"])
        if note["laneId"] == lane and note["start"] < now
    )


def wait_until_due(musician, lane, *names):
    """Wait until notes of those names, counted up from C, were due on a lane, and one bar more."""
    musician.page.wait_for_function(
        """([lane, names]) => {
          const { notes, leftOut, nowTick } = jolly.log().at(-1)
          const due = [...notes, ...leftOut].filter(({ laneId, start }) => laneId === lane && start < nowTick)
          return names.every((name) => due.some(({ pitch }) => pitch % 12 === name))
        }""",
        arg=[lane, names],
    )
    musician.wait_for_bars(musician.next_bar(BAR), BAR)


def test_a_chord_held_on_the_keys_becomes_a_running_pattern_and_is_kept_exactly(musician):
    page = keys_of(musician)
    open_keys(musician, "glass")
    page.get_by_role("button", name="clear the held notes").click()
    expect(page.locator(".pool")).to_contain_text("hold keys to fill it")
    page.keyboard.press(" ")
    musician.wait_for_bars(1, BAR)
    assert notes_of(musician, "glass") == []
    hold(page, "KeyC", "KeyB", "KeyQ")
    expect(held(page)).to_have_text("E3 G3 C4")
    wait_until_due(musician, "glass", 4, 7, 0)
    let_go(page, "KeyC", "KeyB", "KeyQ")
    musician.wait_for_bars(musician.next_bar(BAR) + 1, BAR)  # it is latched: it goes on
    # Another chord takes its place.
    hold(page, "KeyX", "KeyV")
    wait_until_due(musician, "glass", 2, 5)
    let_go(page, "KeyX", "KeyV")
    page.keyboard.press(" ")

    # What sounded is what the score with those keys renders, to the tick.
    known = page.evaluate("({...jolly.score(), keys: jolly.keysThen('glass')})")
    lanes = [
        lane | ({"keys": known["keys"]} if lane["id"] == "glass" else {}) for lane in known["score"]["lanes"]
    ]
    score = read(Score, known["score"] | {"lanes": lanes})
    now = musician.known_until(musician.log()[-1])
    events = render(score, known["dice"], Window(bars=now // BAR + 1))
    glass = [lane.id for lane in score.lanes].index("glass")
    rows = zip(events.lanes, events.starts, events.pitches, events.velocities, strict=True)
    expected = sorted((int(a), int(b), int(c)) for lane, a, b, c in rows if lane == glass and a < now)
    assert notes_of(musician, "glass", with_left_out=True) == expected
    found = notes_of(musician, "glass")
    assert {pitch % 12 for _, pitch, _ in expected} == {4, 7, 0, 2, 5}

    # And what is kept is what sounded: also in the file.
    page.get_by_role("button", name="Keep 4 bars", exact=True).first.click()
    with page.expect_download() as download:
        page.get_by_role("button", name="Export .mid").click()
    file = mido.MidiFile(download.value.path())
    written = sorted(
        message.note
        for track in file.tracks
        for message in track
        if message.type == "note_on" and message.velocity and message.channel == 4
    )
    first = int(musician.log()[-1]["nowTick"] // BAR) - 4
    assert written == sorted(pitch for start, pitch, _ in found if first * BAR <= start < (first + 4) * BAR)


def test_while_keys_are_open_letters_play_and_only_a_few_are_shortcuts(musician):
    page = keys_of(musician)
    open_keys(musician, "glass")
    page.keyboard.press("m")  # would mute the lane
    expect(page.get_by_role("button", name="Mute Glass harbour")).to_have_attribute("aria-pressed", "false")
    page.keyboard.press("Escape")
    expect(page.get_by_role("region", name="Keyboard")).to_have_count(0)
    page.keyboard.press("m")
    expect(page.get_by_role("button", name="Mute Glass harbour")).to_have_attribute("aria-pressed", "true")


def test_keys_and_pads_are_played_with_the_pointer_and_octaves_turned(musician):
    page = keys_of(musician)
    open_keys(musician, "glass")
    page.get_by_role("button", name="clear the held notes").click()
    page.get_by_role("button", name="Pad G3", exact=True).click()
    expect(held(page)).to_have_text("G3")
    page.get_by_role("button", name="An octave higher").click()
    expect(page.locator("[data-test=octave]")).to_have_text("C4 to E6")
    page.get_by_role("button", name="E5", exact=True).click()
    expect(held(page)).to_have_text("E5")  # the latch replaced the one before
    page.get_by_role("button", name="add", exact=True).click()
    page.get_by_role("button", name="G5", exact=True).click()
    expect(held(page)).to_have_text("E5 G5")
    page.get_by_role("button", name="clear the held notes", exact=True).click()
    expect(held(page)).to_have_text("nothing")


def test_what_is_latched_is_there_after_a_reload(musician):
    page = keys_of(musician)
    open_keys(musician, "glass")
    page.get_by_role("button", name="clear the held notes").click()
    page.get_by_role("button", name="Pad B3", exact=True).click()
    page.wait_for_function("jolly.score().score.lanes[0].keys.held.at(-1)?.end === 0")
    page.wait_for_timeout(500)
    musician.wait_until_saved()
    page.reload()
    expect(page.locator(".thread").first).to_be_visible()
    held_keys = page.evaluate("jolly.score().score.lanes[0].keys.held")
    assert [(key["start"], key["end"], key["key"]) for key in held_keys] == [(0, 0, 59)]
    expect(musician.sentence("glass")).to_contain_text("keys latched B3")


def test_a_chord_takes_the_place_of_the_one_that_was_latched_before(musician):
    """Whether it plays or not; nobody has to clear what the piece came with."""
    page = keys_of(musician)
    open_keys(musician, "glass")
    expect(held(page)).to_have_text("E4 B4 G5")
    page.get_by_role("button", name="Pad B3", exact=True).click()
    expect(held(page)).to_have_text("B3")
    page.keyboard.press(" ")
    musician.wait_for_bars(0.2, BAR)
    page.get_by_role("button", name="Pad E3", exact=True).click()
    expect(held(page)).to_have_text("E3")


def test_a_latched_chord_belongs_to_its_lane(musician):
    """Another lane is chosen and played on: the chord of the first stays, and each says what it holds."""
    page = keys_of(musician)
    musician.choose("lantern")
    musician.alternative("Lantern: pool, the chord", "keys latched")
    open_keys(musician, "glass")
    page.get_by_role("button", name="clear the held notes").click()
    page.get_by_role("button", name="Pad B3", exact=True).click()
    expect(musician.sentence("glass")).to_contain_text("keys latched B3")
    page.keyboard.press("Escape")
    open_keys(musician, "lantern")
    page.get_by_role("button", name="Pad E3", exact=True).click()
    expect(musician.sentence("lantern")).to_contain_text("keys latched E3")
    expect(musician.sentence("glass")).to_contain_text("keys latched B3")
    # Both at once: keys reach all lanes that are chosen.
    page.keyboard.press("Escape")
    musician.choose("glass", "lantern")
    page.keyboard.press("j")
    page.get_by_role("button", name="Pad G3", exact=True).click()
    for lane in ("glass", "lantern"):
        expect(musician.sentence(lane)).to_contain_text("keys latched G3")


def test_adding_after_replacing_brings_no_replaced_chord_back(musician):
    page = keys_of(musician)
    open_keys(musician, "glass")
    page.get_by_role("button", name="clear the held notes").click()
    page.keyboard.press(" ")
    musician.wait_for_bars(0.2, BAR)
    for pad in ("Pad B3", "Pad E3"):
        page.get_by_role("button", name=pad, exact=True).click()
        page.wait_for_timeout(300)
    expect(held(page)).to_have_text("E3")
    page.get_by_role("button", name="add", exact=True).click()
    expect(page.get_by_role("button", name="add", exact=True)).to_have_attribute("aria-pressed", "true")
    page.get_by_role("button", name="Pad G3", exact=True).click()
    expect(held(page)).to_have_text("E3 G3")
    page.keyboard.press(" ")
    expect(held(page)).to_have_text("E3 G3")


def test_the_simulated_keyboard_replays_a_phrase(musician):
    page = keys_of(musician)
    open_keys(musician, "glass")
    page.get_by_role("button", name="clear the held notes").click()
    page.keyboard.press(" ")
    musician.wait_for_bars(0.2, BAR)
    page.get_by_role("button", name="a phrase").click()
    expect(held(page)).to_have_text("E4 G4 B4")
    expect(page.get_by_role("button", name="a phrase")).to_have_attribute("aria-pressed", "false")
    keys = page.evaluate("jolly.score().score.lanes[0].keys")
    struck = {key["key"] for key in keys["held"]}
    assert {64, 67, 71, 65, 69, 72, 62, 76} <= struck
    assert len(keys["sustained"]) == 1


def test_pitches_are_entered_step_by_step_with_rests_and_ties(musician):
    page = keys_of(musician)
    open_keys(musician, "reed")
    page.keyboard.press("Escape")
    musician.alternative("Low reed: follows, follows the root", "keeps its own notes")
    page.keyboard.press("j")
    page.get_by_role("button", name="step by step").click()
    page.keyboard.press("KeyC")
    expect(page.get_by_text("step 2", exact=True)).to_be_visible()
    page.get_by_role("button", name="tie", exact=True).click()
    page.get_by_role("button", name="rest", exact=True).click()
    expect(page.get_by_text("step 4", exact=True)).to_be_visible()
    page.keyboard.press("KeyB")
    expect(page.get_by_text("step 5", exact=True)).to_be_visible()
    lane = page.evaluate("jolly.score().score.lanes[2]")
    assert lane["length_strip"]["values"][0] == 200
    musician.expect_hits("Low reed", [1, 4, 5], 7)


def test_playing_along_lands_on_the_steps_and_is_one_moment(musician):
    page = keys_of(musician)
    musician.alternative("Low reed: follows, follows the root", "keeps its own notes")
    open_keys(musician, "reed")
    page.get_by_role("button", name="with the loop").click()
    page.get_by_role("button", name="over", exact=True).click()
    page.keyboard.press(" ")
    musician.wait_for_bars(1, BAR)
    for code in ("KeyC", "KeyB"):
        page.keyboard.down(code)
        page.wait_for_timeout(200)
        page.keyboard.up(code)
        page.wait_for_timeout(400)
    page.wait_for_function(
        "jolly.score().score.lanes[2].pitch_strip?.values.filter((one) => one !== null).length >= 1"
    )
    expect(musician.sentence("reed")).to_contain_text(re.compile("[12] pitch(es)? on [12] hits?"))
    page.keyboard.press(" ")
    page.keyboard.press("Escape")
    assert musician.moments()[0].startswith("Low reed:")
    assert "played in" in musician.moments()[0]
    assert "played in" not in musician.moments()[1]


def test_a_lane_that_follows_chords_says_why_nothing_can_be_played_in(musician, complaints):
    page = keys_of(musician)
    open_keys(musician, "reed")
    page.get_by_role("button", name="step by step").click()
    page.keyboard.press("KeyC")
    expect(page.get_by_text("let it keep its own notes, then play them in")).to_be_visible()
    complaints.clear()


def test_a_chord_that_is_held_over_a_stop_sounds_from_bar_1_of_the_next_play(musician):
    page = keys_of(musician)
    open_keys(musician, "glass")
    page.get_by_role("button", name="clear the held notes").click()
    page.keyboard.press(" ")
    musician.wait_for_bars(0.6, BAR)
    page.keyboard.down("KeyN")
    wait_until_due(musician, "glass", 9)
    page.keyboard.press(" ")
    page.keyboard.press(" ")
    page.wait_for_function("jolly.log().length === 2")
    musician.wait_for_bars(0.5, BAR)
    first = [note for note in musician.due(musician.log()[-1]) if note["laneId"] == "glass"]
    assert min(note["start"] for note in first) == 0
    assert {note["pitch"] % 12 for note in first} == {9}
    page.keyboard.up("KeyN")
    page.keyboard.press(" ")
