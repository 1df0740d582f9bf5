"""The chosen lane whole."""

import re

from playwright.sync_api import expect


def test_the_bench_shows_every_setting_of_the_chosen_lane_and_folds(musician):
    page = musician.open("Night Ferry").page
    musician.choose("bottle")
    bench = page.get_by_role("region", name="Bench of Bottle")
    for label in (
        "hits",
        "rotate",
        "thinned",
        "timing",
        "direction",
        "restart",
        "chance",
        "luck",
        "anchor",
    ):
        expect(bench.locator("dt").get_by_text(label, exact=True)).to_be_visible()
    page.keyboard.press("b")
    expect(bench).to_have_count(0)
    page.keyboard.press("b")
    expect(bench).to_be_visible()


def test_settings_are_changed_on_the_bench_as_in_the_sentence(musician):
    musician.open("Night Ferry")
    musician.choose("bottle")
    musician.type_number("Bottle on the bench: rotated", "-3")
    expect(musician.sentence("bottle")).to_contain_text("rotated -3")
    musician.alternative(
        "Bottle on the bench: only or without, every hit",
        "without each 3rd hit",
    )
    expect(musician.sentence("bottle")).to_contain_text("without each 3rd hit")


def test_a_lane_is_measured_from_when_the_piece_was_opened(musician):
    page = musician.open("Night Ferry").page
    measures = page.get_by_label("Measures", exact=True)
    expect(measures).to_contain_text("hits a bar4")
    expect(measures).to_contain_text("evenness100 %")
    expect(measures).to_contain_text("from the start0 %")
    page.get_by_role("img", name="Thread of Thud:").click(position={"x": 14, "y": 16})
    expect(measures).to_contain_text("hits a bar3")
    expect(measures).to_contain_text("from the start6 %")  # one step of sixteen
    page.keyboard.press("Control+z")
    expect(measures).to_contain_text("from the start0 %")


def test_a_low_lane_has_one_line_what_bends_it_first_and_is_whole_under_the_pointer(musician):
    page = musician.open("Night Ferry").page
    musician.choose("thud")
    rail = musician.sentence("rail")
    assert rail.bounding_box()["height"] <= 28
    last = page.get_by_role("button", name="Rail: add a setting")
    assert last.bounding_box()["x"] > rail.bounding_box()["x"] + rail.bounding_box()["width"]
    lefts = [
        rail.get_by_text(part, exact=True).bounding_box()["x"]
        for part in ("wandering", "chance ", "velocity ")
    ]
    assert lefts == sorted(lefts)  # red before what is not
    rail.hover(position={"x": 20, "y": 14})
    expect(rail).to_have_class(re.compile("under"))
    last.click()
    expect(page.get_by_role("group", name="Rail: what could act")).to_be_visible()


def test_ten_lanes_are_in_view_with_the_bench_open_and_sixteen_without(musician):
    page = musician.open("Night Ferry").page
    page.get_by_role("button", name="medium", exact=True).click()
    musician.choose("bottle")
    for _ in range(8):
        page.keyboard.press("d")
    expect(page.locator(".lanes .row")).to_have_count(18)
    musician.choose("thud")
    whole = """() => {
      const { top, bottom } = document.querySelector('.lanes').getBoundingClientRect()
      return [...document.querySelectorAll('.lanes .row')].filter((row) => {
        const box = row.getBoundingClientRect()
        return box.top >= top - 1 && box.bottom <= bottom + 1
      }).length
    }"""
    page.wait_for_timeout(300)
    assert page.evaluate(whole) >= 10
    page.keyboard.press("b")
    expect(page.get_by_role("region", name="Bench of Thud")).to_have_count(0)
    assert page.evaluate(whole) >= 16


def test_the_bench_has_three_sizes(musician):
    page = musician.open("Night Ferry").page
    bench = page.get_by_role("region", name="Bench of Thud")
    sizes = bench.get_by_role("group", name="Size of the bench")
    heights = []
    for size in ("small", "medium", "large"):
        sizes.get_by_role("button", name=size, exact=True).click()
        expect(bench.get_by_role("slider", name="Thud: step under one hand")).to_be_visible()
        heights.append(bench.bounding_box()["height"])
    assert heights == sorted(set(heights))
    expect(bench.get_by_role("tablist", name="Strips")).to_be_visible()
    page.keyboard.press("Escape")
    page.keyboard.press("Shift+B")
    expect(bench.get_by_role("group", name="Settings: steps")).to_have_count(0)
    page.reload()
    expect(sizes.get_by_role("button", name="small", exact=True)).to_have_attribute("aria-pressed", "true")


def test_the_bench_is_dragged_smaller_larger_and_away_by_its_upper_edge(musician):
    page = musician.open("Night Ferry").page
    bench = page.get_by_role("region", name="Bench of Thud")
    sizes = bench.get_by_role("group", name="Size of the bench")

    def drag(by):
        box = bench.locator(".edge").bounding_box()
        x, y = box["x"] + 40, box["y"] + 4
        page.mouse.move(x, y)
        page.mouse.down()
        page.mouse.move(x, y + by, steps=6)
        page.mouse.up()

    def expect_size(name):
        expect(sizes.get_by_role("button", name=name, exact=True)).to_have_attribute("aria-pressed", "true")

    expect_size("large")
    drag(80)
    expect_size("medium")
    drag(-80)
    expect_size("large")
    drag(160)
    expect_size("small")
    drag(80)
    expect(bench).to_have_count(0)
    page.keyboard.press("b")
    expect_size("small")
