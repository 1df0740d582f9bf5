"""Takes on the screen: thrown, heard in time, laid over each other, kept, and played in place of their lanes."""

from playwright.sync_api import expect

from tests.browser.conftest import BAR


def throw(musician, count=4, bars=2):
    page = musician.open("Night Ferry").page
    page.get_by_role("link", name="Takes", exact=True).click()
    page.get_by_label("Takes", exact=True).fill(str(count))
    page.get_by_label("Bars of a take").fill(str(bars))
    page.get_by_role("button", name="Throw", exact=True).click()
    expect(page.locator("[data-take]")).to_have_count(count)
    return page


def struck(page):
    return page.evaluate("jolly.struck()")


def drawn(page):
    """Return what the API says of the takes of the sheet that is open, by number."""
    sheet = page.url.rsplit("/", 1)[1].split("?")[0]
    takes = page.request.get(f"{page.url.split('/takes')[0]}/api/takes/{sheet}/drawn").json()["takes"]
    return {one["number"]: one for one in takes}


def notes_of(one):
    return sorted(
        (note[0], track["channel"], note[2], note[3]) for track in one["tracks"] for note in track["notes"]
    )


def passes(notes, length):
    """Return what was struck, pass by pass of a loop of that length."""
    found = {}
    for note in notes:
        turn, place = divmod(note["start"], length)
        found.setdefault(turn, []).append((place, note["channel"], note["pitch"], note["velocity"]))
    return {turn: sorted(rows) for turn, rows in found.items()}


def wait_for_ticks(page, ticks):
    page.wait_for_function(f"jolly.struck().at(-1)?.start > {ticks}")


def expect_passes(page, first, notes):
    """From pass *first* on nothing else is heard; what a machine that stalls leaves out is there another time."""
    missing = set(notes)
    for turn in range(first, first + 40):
        wait_for_ticks(page, (turn + 1.2) * BAR)
        heard = passes(struck(page), BAR).get(turn, [])
        assert set(heard) <= set(notes)
        assert len(heard) <= len(notes)
        missing -= set(heard)
        if not missing:
            return
    raise AssertionError(f"never heard: {missing}")


def test_a_take_is_heard_at_a_click_and_another_takes_over_in_time(musician):
    page = throw(musician, bars=1)
    takes = drawn(page)
    page.get_by_role("button", name="Hear take 2").click()
    expect_passes(page, 0, notes_of(takes[2]))
    page.wait_for_function("async () => (await jolly.level()) > 0.001")
    page.keyboard.press("ArrowRight")
    expect(page.get_by_role("button", name="Hear take 3")).to_have_attribute("aria-pressed", "true")
    later = int(struck(page)[-1]["start"] // BAR) + 1
    expect_passes(page, later, notes_of(takes[3]))
    page.keyboard.press("Space")
    expect(page.get_by_role("button", name="Hear take 3")).to_have_attribute("aria-pressed", "false")
    count = len(struck(page))
    page.wait_for_timeout(600)
    assert len(struck(page)) == count


def test_takes_are_sorted_dropped_and_picked_up(musician):
    page = throw(musician)
    page.get_by_label("Sorted by").select_option("notes")
    counts = [one["measures"]["notes"] for one in drawn(page).values()]
    shown = page.locator("[data-take] .facts").all_text_contents()
    assert [int(text.split()[0]) for text in shown] == sorted(counts)
    page.get_by_role("button", name="Drop take 2").click()
    expect(page.locator("[data-take]")).to_have_count(3)
    page.get_by_role("button", name="Undo").click()
    expect(page.locator("[data-take]")).to_have_count(4)
    page.get_by_label("More takes").fill("9")
    page.get_by_role("button", name="Throw more").click()
    expect(page.locator("[data-take]")).to_have_count(13)
    page.reload()
    expect(page.locator("[data-take]")).to_have_count(13)


def test_a_take_laid_over_another_shows_only_what_differs(musician):
    page = throw(musician)
    page.get_by_role("button", name="Hear take 1").click()
    page.get_by_role("button", name="Lay take 2 over").click()
    expect(page.locator("[data-take='1'] .pale").first).to_be_attached()
    expect(page.locator("[data-take='1'] .outline").first).to_be_attached()
    page.get_by_role("button", name="Take 2 off again").click()
    expect(page.locator("[data-take='1'] .pale")).to_have_count(0)


def test_a_kept_take_plays_in_place_of_its_lanes_and_they_come_back(musician):
    page = throw(musician, bars=1)
    kept = notes_of(drawn(page)[3])
    page.locator("[data-take='3']").get_by_role("button", name="Keep").click()
    expect(page.get_by_text("Kept “Night Ferry A, bar 1, take 3”")).to_be_visible()
    page.get_by_role("button", name="Play in place").click()
    page.get_by_role("link", name="Lattice", exact=True).click()
    expect(page.get_by_text("“Night Ferry A, bar 1, take 3” plays in place of")).to_be_visible()
    expect(musician.sentence("thud")).to_contain_text("plays clip")
    page.keyboard.press("Space")
    musician.wait_for_bars(3)
    page.keyboard.press("Space")
    (stretch,) = musician.log()
    for bar in (0, 1):
        due = sorted(
            (note["start"] - bar * BAR, note["channel"], note["pitch"], note["velocity"])
            for note in musician.due(stretch)
            if bar * BAR <= note["start"] < (bar + 1) * BAR
        )
        assert due == kept
    page.get_by_role("button", name="Bring the lanes back").click()
    expect(page.get_by_text("plays in place of")).to_have_count(0)
    expect(musician.sentence("thud")).not_to_contain_text("plays clip")
    page.keyboard.press("Control+z")
    expect(page.get_by_text("“Night Ferry A, bar 1, take 3” plays in place of")).to_be_visible()


def test_chosen_lanes_are_thrown_alone(musician):
    page = musician.open("Night Ferry").page
    page.get_by_role("link", name="Takes", exact=True).click()
    page.get_by_role("button", name="Lanes that take part").click()
    page.get_by_role("button", name="Bottle", exact=True).click()
    page.keyboard.press("Escape")
    page.get_by_label("Takes", exact=True).fill("2")
    page.get_by_role("button", name="Throw", exact=True).click()
    expect(page.locator("[data-take]")).to_have_count(2)
    expect(page.get_by_text("only Bottle")).to_be_visible()
    assert {track["lane"] for one in drawn(page).values() for track in one["tracks"]} == {"Bottle"}


def test_sheets_are_deleted_and_brought_back(musician):
    page = musician.page
    page.get_by_role("link", name="Takes", exact=True).click()
    expect(page.locator(".sheet-line")).to_have_count(3)
    page.get_by_role("button", name="Delete these").click()
    expect(page.locator(".sheet-line")).to_have_count(2)
    page.get_by_role("button", name="Undo").click()
    expect(page.locator(".sheet-line")).to_have_count(3)
