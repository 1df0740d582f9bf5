"""The running order: played, edited while it plays, kept, written down from what hands switch."""

import re
from io import BytesIO
from itertools import pairwise
from pathlib import Path

from mido import MidiFile
from playwright.sync_api import expect

from lattice.document import Piece, read
from lattice.order.rows import row_score
from lattice.render import Window, render
from tests.browser.conftest import BAR, Musician


def order_of(musician, tempo="400"):
    page = musician.open("Night Ferry").page
    musician.type_number("Piece: tempo", tempo)
    page.keyboard.press("Escape")
    page.keyboard.press("o")
    expect(page.locator("[data-test=whole]")).to_contain_text("11 rows · 84 bars")
    return page


def due_of(stretch):
    return sorted(
        (note["laneId"], note["start"], note["length"], note["pitch"], note["velocity"])
        for note in Musician.due(stretch)
    )


def said_by_the_engine(document, place):
    piece = read(Piece, document)
    score, dice = row_score(piece, place)
    events = render(score, dice, Window(bars=score.ends_after))
    ids = [lane.id for lane in score.lanes]
    columns = (events.lanes, events.starts, events.lengths, events.pitches, events.velocities)
    return sorted((ids[row[0]], *row[1:]) for row in zip(*(one.tolist() for one in columns), strict=True))


def test_rows_follow_without_a_gap_each_as_the_engine_renders_it(musician):
    page = order_of(musician)
    page.get_by_role("button", name="Play the order").click()
    page.wait_for_function("jolly.log().length >= 3")
    page.wait_for_function(f"jolly.log()[2].nowTick > {BAR}")
    expect(page.get_by_role("button", name="Row 3: plays", exact=True)).to_be_visible()
    expect(page.get_by_role("button", name="Pattern B", exact=True)).to_have_attribute("aria-pressed", "true")
    document = page.evaluate("jolly.piece()")
    page.keyboard.press("Space")
    log = musician.log()
    for place in (0, 1):
        assert log[place]["row"]["place"] == place
        assert log[place]["nowTick"] == 8 * BAR
        assert due_of(log[place]) == said_by_the_engine(document, place)
    seconds_a_bar = 4 * 60 / 400
    firsts = [stretch["notes"][0] for stretch in log]
    begins = [first["time"] - first["start"] / BAR * seconds_a_bar for first in firsts]
    assert all(abs(later - earlier - 8 * seconds_a_bar) < 1e-4 for earlier, later in pairwise(begins))


def test_what_a_busy_machine_leaves_out_is_known_and_the_row_goes_on(musician):
    page = order_of(musician)
    page.get_by_role("button", name="Play the order").click()
    page.wait_for_function(f"jolly.log().length && jolly.log()[0].nowTick > {BAR}")
    page.evaluate("for (const end = performance.now() + 1500; performance.now() < end; );")
    page.wait_for_function("jolly.log().length >= 2")
    document = page.evaluate("jolly.piece()")
    page.keyboard.press("Space")
    stretch = musician.log()[0]
    assert stretch["leftOut"]
    assert due_of(stretch) == said_by_the_engine(document, 0)


def test_an_order_is_edited_while_it_plays(musician):
    page = order_of(musician)
    page.get_by_role("button", name="Play the order").click()
    page.wait_for_function(f"jolly.log().length && jolly.log()[0].nowTick > {BAR}")
    # What comes next goes: the row after it follows. And the row that plays grows shorter under the hand.
    page.get_by_role("button", name="Row 2: take out").click()
    expect(page.locator("[data-test=whole]")).to_contain_text("10 rows")
    page.wait_for_function("jolly.log().length > 1")
    assert musician.log()[1]["patternId"] == "b"
    page.get_by_role("button", name="Row 3: from here", exact=True).click()
    page.wait_for_function("jolly.log().at(-1).patternId === 'c' && jolly.log().at(-1).row.place === 2")
    # A hand on top of it: the order is left.
    page.get_by_role("button", name="Pattern A", exact=True).click()
    page.wait_for_function("jolly.log().at(-1).row === null")
    assert musician.log()[-1]["patternId"] == "a"
    page.keyboard.press("Space")
    page.keyboard.press("Control+z")
    expect(page.locator("[data-test=whole]")).to_contain_text("11 rows")


def test_rows_are_walked_moved_copied_and_changed_by_words(musician):
    page = order_of(musician)
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Alt+ArrowDown")
    words = page.locator("[data-place='2'] .sentence")
    expect(words).to_contain_text("A")
    page.keyboard.press("d")
    expect(page.locator("[data-test=whole]")).to_contain_text("12 rows")
    musician.type_number("Row 4: repeats", "3")
    page.keyboard.press("Escape")
    expect(page.locator("[data-test=whole]")).to_contain_text("108 bars")
    page.locator("[data-place='3'] .sentence button", has_text="+").click()
    page.get_by_role("button", name="at 2/3 of the pace").click()
    expect(page.locator("[data-place='3']")).to_contain_text("a step lasts 3/2 as long")
    page.keyboard.press("Escape")
    musician.wait_until_saved()
    page.reload()
    expect(page.locator("[data-test=whole]")).to_contain_text("108 bars")
    # A row is dragged by its number.
    grips = page.locator("[data-grip]")
    grips.nth(0).drag_to(grips.nth(2))
    expect(page.locator("[data-place='2'] .sentence")).to_contain_text(
        "without Hiss, Shell, Winch, Rope and Rail"
    )


def test_an_order_is_exported_as_one_file_with_a_marker_a_row_and_kept_as_clips(musician, tmp_path: Path):
    page = order_of(musician)
    page.get_by_role("button", name="Keep the order").click()
    with page.expect_download() as fetched:
        page.get_by_role("button", name="Export as one MIDI file, a marker a row").click()
    fetched.value.save_as(tmp_path / "whole.mid")
    file = MidiFile(file=BytesIO((tmp_path / "whole.mid").read_bytes()))
    named = [message.text for message in file.tracks[0] if message.type == "marker"]
    assert named[:4] == ["1 A", "2 A", "3 B", "4 C"]
    assert len(named) == 11
    page.get_by_role("button", name="Keep the order").click()
    page.get_by_role("button", name="Keep a clip of each row").click()
    expect(page.get_by_text("11 clips are kept in the set “Night Ferry”.")).to_be_visible()
    kept = page.evaluate("fetch('/api/clips?set_name=Night Ferry').then((reply) => reply.json())")
    assert "Night Ferry 7 A, bars 1–4" in [clip["name"] for clip in kept["clips"]]


def test_takes_of_a_row_are_of_the_row(musician):
    page = order_of(musician)
    for _ in range(6):
        page.keyboard.press("ArrowDown")
    page.get_by_role("button", name="Keep the order").click()
    page.get_by_role("button", name="Throw 8 takes of row 7").click()
    expect(page).to_have_url(re.compile(r"/takes/\d+$"))
    expect(page.get_by_text("7 A", exact=False).first).to_be_visible()


def test_rows_go_round_and_the_order_is_over_after_its_last(musician):
    page = order_of(musician)
    page.keyboard.press("End")
    for _ in range(9):
        page.keyboard.press("ArrowDown")
    # Rows 7 (four bars) round and round: a stretch is dragged over on the map.
    box = page.locator("svg.map").bounding_box()
    at = box["x"] + box["width"] * 46 / 84
    page.mouse.move(at, box["y"] + 60)
    page.mouse.down()
    page.mouse.move(at + box["width"] * 4 / 84, box["y"] + 60, steps=4)
    page.mouse.up()
    expect(page.get_by_role("button", name="rows 6–7 go round")).to_be_visible()
    page.get_by_role("button", name="Row 7: from here", exact=True).click()
    page.wait_for_function("jolly.log().length >= 2")
    assert [stretch["row"]["place"] for stretch in musician.log()[:2]] == [6, 5]
    page.get_by_role("button", name="rows 6–7 go round").click()
    # By keys: the chosen row, and all up to another.
    page.keyboard.press("l")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Shift+l")
    expect(page.get_by_role("button", name="go round")).to_be_visible()
    page.keyboard.press("l")
    expect(page.get_by_role("button", name="go round")).to_have_count(0)
    page.get_by_role("button", name="Row 11: from here", exact=True).click()
    expect(page.get_by_text("End of the order.")).to_be_visible()
    assert musician.log()[-1]["nowTick"] == 8 * BAR


def test_what_is_switched_by_hand_is_written_down(musician):
    page = order_of(musician)
    page.get_by_role("button", name="Play along").click()
    page.keyboard.press("1")
    page.get_by_role("button", name="Play from bar 1").click()
    page.wait_for_function(f"jolly.log().length && jolly.log()[0].nowTick > {BAR * 3 // 2}")
    page.keyboard.press("2")
    page.wait_for_function(f"jolly.log().length === 2 && jolly.log()[1].nowTick > {BAR * 3 // 2}")
    page.keyboard.press("3")
    page.wait_for_function(f"jolly.log().length === 3 && jolly.log()[2].nowTick > {BAR}")
    page.get_by_role("button", name="Stop", exact=True).click()
    expect(page.get_by_text("3 rows are written down")).to_be_visible()
    rows = page.evaluate("jolly.piece().order.slice(-3).map(({pattern, bars}) => [pattern, bars])")
    assert [row[0] for row in rows] == ["a", "b", "c"]
    assert rows[0][1] == musician.log()[0]["nowTick"] // BAR


def test_a_pattern_that_rows_play_stays_until_it_goes_with_them(musician):
    page = order_of(musician)
    page.keyboard.press("2")
    page.get_by_role("button", name="This pattern", exact=True).click()
    page.get_by_role("button", name="Delete this pattern").click()
    expect(page.get_by_text("Pattern B stays: in the order, rows 3, 6 and 10 play it.")).to_be_visible()
    page.get_by_role("button", name="Delete it with those rows").click()
    expect(page.locator("[data-test=whole]")).to_contain_text("8 rows")
    expect(page.get_by_role("button", name="Pattern B", exact=True)).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(page.locator("[data-test=whole]")).to_contain_text("11 rows")
    expect(page.get_by_role("button", name="Pattern B", exact=True)).to_be_visible()
