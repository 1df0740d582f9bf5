"""Melody on the lattice: scale, pitches, chords, contours, voices."""

import re
from itertools import combinations

import numpy as np
from playwright.sync_api import expect

D_DORIAN = "D dorian"
SEVEN_EIGHTHS = 47040  # ticks of a bar of Lantern Quay


def pitches(musician, lane):
    """Return the pitches of a lane's hits in the score that the table holds, in the first bars."""
    return musician.page.evaluate(
        """async (lane) => {
          const body = {...jolly.score(), window: {first_bar: 0, bars: 2}}
          const reply = await fetch('/api/render', {method: 'POST', body: JSON.stringify(body),
            headers: {'Content-Type': 'application/json', 'X-CSRFToken': /csrftoken=([^;]+)/.exec(document.cookie)[1]}})
          return (await reply.json()).lanes.find(({id}) => id === lane).pitches.flat()
        }""",
        lane,
    )


def test_a_lane_becomes_melodic_by_its_voice_and_its_sentence_says_its_pitches(musician):
    page = musician.open("Night Ferry").page
    page.get_by_role("button", name="Lane Bottle", exact=True).click()
    page.get_by_role("button", name="Lantern", exact=True).click()
    page.keyboard.press("Escape")
    expect(page.locator("[data-lane=bottle].melodic")).to_be_visible()
    musician.alternative("Lantern: add a setting", "5 pitches")
    expect(musician.sentence("bottle")).to_contain_text(f"{D_DORIAN}, ")
    expect(musician.sentence("bottle")).to_contain_text("pitches on 5 hits")
    assert len(set(pitches(musician, "bottle"))) > 1


def test_changing_the_scale_moves_everything_with_it_and_can_be_undone(musician):
    page = musician.open("Lantern Quay").page
    before = pitches(musician, "lantern")
    scale = page.locator("[data-test=scale]")
    expect(scale).to_contain_text("E phrygian")
    musician.alternative("Pattern: kind of scale, phrygian", "natural minor")
    expect(scale).to_contain_text("E natural minor")
    expect(page.get_by_role("button", name=re.compile("^Chord 2: II F♯"))).to_be_visible()
    assert pitches(musician, "lantern") != before
    page.keyboard.press("Control+z")
    expect(scale).to_contain_text("E phrygian")
    assert pitches(musician, "lantern") == before


def test_a_scale_without_numerals_gives_the_chords_names(musician):
    page = musician.open("Lantern Quay").page
    musician.alternative("Pattern: kind of scale, phrygian", "minor pentatonic")
    expect(page.get_by_role("button", name=re.compile("^Chord 1: Em"))).to_be_visible()
    musician.wait_until_saved()
    page.reload()
    expect(page.get_by_role("button", name=re.compile("^Chord 1: Em"))).to_be_visible()


def test_a_pattern_may_have_a_scale_of_its_own(musician):
    page = musician.open("Lantern Quay").page
    scale = page.locator("[data-test=scale]")
    scale.get_by_role("button", name="of the piece").click()
    expect(scale).to_contain_text("of this pattern")
    musician.alternative("Pattern: root, E", "A")
    expect(scale).to_contain_text("A phrygian")
    assert page.evaluate("jolly.score().score.scale.root") == 9
    scale.get_by_role("button", name="of this pattern").click()
    expect(scale).to_contain_text("E phrygian")


def test_a_chord_is_written_over_and_all_that_follow_it_change(musician):
    page = musician.open("Lantern Quay").page
    before = {lane: pitches(musician, lane) for lane in ("reed", "lantern", "glass")}
    page.get_by_role("button", name=re.compile("^Chord 2: II")).first.click()
    page.get_by_role("textbox", name="Chord").fill("iv")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name=re.compile("^Chord 2: iv Am"))).to_be_visible()
    after = {lane: pitches(musician, lane) for lane in before}
    assert after["reed"] != before["reed"]
    assert after["lantern"] != before["lantern"]
    assert after["glass"] == before["glass"]  # it plays the keys


def test_what_is_no_chord_is_refused_and_nothing_is_lost(musician, complaints):
    page = musician.open("Lantern Quay").page
    page.get_by_role("button", name=re.compile("^Chord 2: II")).first.click()
    page.get_by_role("textbox", name="Chord").fill("Hx")
    page.keyboard.press("Enter")
    expect(page.locator(".notices").get_by_text("no chord is called 'Hx'")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("button", name=re.compile("^Chord 2: II F")).first).to_be_visible()
    complaints.clear()  # the browser tells of the answer that refused it


def test_a_chord_is_pulled_longer_and_a_starter_taken(musician):
    page = musician.open("Lantern Quay").page
    first = page.get_by_role("button", name=re.compile("^Chord 1: i")).first
    width = first.bounding_box()["width"]
    box = first.bounding_box()
    page.mouse.move(box["x"] + width + 1, box["y"] + 20)
    page.mouse.down()
    page.mouse.move(box["x"] + width - 120, box["y"] + 20, steps=6)
    page.mouse.up()
    expect(page.get_by_text("6 chords over 26/8")).to_be_visible()
    page.wait_for_function("(width) => document.querySelector('.place').offsetWidth < width", arg=width)
    page.get_by_role("button", name="starters", exact=True).click()
    page.get_by_role("button", name=re.compile("^Slow tide")).click()
    expect(page.get_by_text("2 chords over 8 bars")).to_be_visible()


def test_a_bead_is_dragged_up_and_its_neighbours_painted(musician):
    page = musician.open("Lantern Quay").page
    musician.choose("reed")
    before = pitches(musician, "reed")[:3]
    thread = page.locator("[data-lane=reed] svg.thread")
    thread.scroll_into_view_if_needed()
    box = thread.bounding_box()
    at = page.evaluate(
        """() => {
          const path = document.querySelector('[data-lane=reed] .beads .solid').getAttribute('d')
          return [...path.matchAll(/M([\\d.]+) ([\\d.]+)a([\\d.]+)/g)].map(([, x, y, r]) => [+x + +r, +y])
        }"""
    )
    x, y = at[0]
    page.mouse.move(box["x"] + x, box["y"] + y)
    expect(page.locator("[data-lane=reed] .note-name")).to_have_text("E2")
    page.mouse.down()
    page.mouse.move(box["x"] + x, box["y"] + y - 30, steps=5)
    page.mouse.up()
    expect(musician.sentence("reed")).to_contain_text("pitches on 3 hits")
    after = pitches(musician, "reed")[:3]
    assert after[0] > before[0]
    assert after[1:] == before[1:]
    assert "Low reed: pitch 1" in musician.moments()[0]


def test_contours_are_drawn_between_two_notes(musician):
    page = musician.open("Lantern Quay").page
    musician.choose("lantern")
    musician.choose("reed")
    page.get_by_role("tab", name="pitch").click()
    page.get_by_role("button", name="rise: pitches of Low reed").click()
    page.wait_for_function("""() => {
        const { values } = jolly.score().score.lanes[2].pitch_strip
        const drawn = values.filter((value) => value !== null).slice(0, 3)
        return drawn.length === 3 && drawn[0] < drawn[1] && drawn[1] < drawn[2]
    }""")
    expect(musician.sentence("reed")).to_contain_text("3 pitches on 3 hits")
    page.get_by_role("button", name="pitch mirror").click()
    page.wait_for_function("jolly.score().score.lanes[2].pitch_strip.values[0] > 0")


def test_pitched_voices_sound_and_differ_from_each_other(musician):
    page = musician.open("Lantern Quay").page
    page.keyboard.press(" ")
    page.wait_for_function("jolly.log().at(-1)?.nowTick > 20000")
    page.wait_for_function("async () => (await jolly.level()) > 0")
    heard = page.evaluate("jolly.pitched()")
    assert len(heard) >= 6
    for voice, samples in heard.items():
        assert max(map(abs, samples)) > 0.01, voice
    # Two voices are told apart by where the middle of their spectrum lies, or how they fade.
    told = {voice: character(samples) for voice, samples in heard.items()}
    for one, other in combinations(told, 2):
        assert any(abs(a - b) > 0.08 * max(a, b) for a, b in zip(told[one], told[other], strict=True)), (
            one,
            other,
        )


def character(samples):
    """Return the middle of a sound's spectrum in hertz, and how much of its strength is left in its second half."""
    wave = np.array(samples)
    spectrum = np.abs(np.fft.rfft(wave))
    middle = float((spectrum * np.fft.rfftfreq(wave.size, 1 / 44100)).sum() / spectrum.sum())
    half = wave.size // 2
    return middle, float(np.square(wave[half:]).sum() / np.square(wave).sum())


def test_a_pool_that_drifts_is_made_to_fit(musician):
    page = musician.open("Lantern Quay").page
    musician.choose("glass")
    expect(page.get_by_text("10 notes on 5 hits: together again after")).to_be_visible()
    page.get_by_role("button", name="fit the pool to the hits").click()
    expect(page.get_by_text("10 notes on 5 hits: fits each cycle")).to_be_visible()
    expect(musician.sentence("glass")).to_contain_text("anew each cycle")


def test_rate_octaves_and_order_are_turned_while_it_plays(musician):
    page = musician.open("Lantern Quay").page
    musician.choose("glass")
    page.keyboard.press(" ")
    musician.wait_for_bars(1, SEVEN_EIGHTHS)
    musician.type_number("Glass harbour: octaves", "3")
    musician.alternative("Glass harbour: note order, up and down", "down")
    page.keyboard.press("w")
    expect(musician.sentence("glass")).to_contain_text("down over 3 octaves")
    bar = musician.next_bar(SEVEN_EIGHTHS)
    musician.wait_for_bars(bar + 1, SEVEN_EIGHTHS)
    page.keyboard.press(" ")
    due = musician.due(musician.log()[-1])
    last = [note for note in due if note["laneId"] == "glass" and note["start"] >= bar * SEVEN_EIGHTHS]
    assert last
    assert all(note["start"] % 1120 == 0 for note in last)
    score = page.evaluate("jolly.score().score.lanes[0]")
    assert (score["arpeggio"]["order"], score["arpeggio"]["octaves"]) == ("down", 3)
