"""The chosen lane whole."""

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
        "standing",
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
    expect(measures).to_contain_text("moved0 %")
    page.get_by_role("img", name="Thread of Thud:").click(position={"x": 14, "y": 26})
    expect(measures).to_contain_text("hits a bar3")
    expect(measures).to_contain_text("moved6 %")  # one step of sixteen
    page.keyboard.press("Control+z")
    expect(measures).to_contain_text("moved0 %")


def test_a_long_sentence_ends_in_what_it_leaves_out_and_opens_the_bench(musician):
    page = musician.open("Night Ferry").page
    page.keyboard.press("b")
    rail = musician.sentence("rail")
    for part in ("wandering", "chance 60 %", "luck again every 4 bars"):
        expect(rail).to_contain_text(part)  # what bends the result is never folded away
    rail.get_by_role("button", name="more").click()
    expect(page.get_by_role("region", name="Bench of Rail")).to_be_visible()
