"""What the page asks of the engine: no more than a hand means."""

from playwright.sync_api import expect


def test_tabs_through_the_words_ask_for_no_alternatives(musician):
    page = musician.open("Night Ferry").page
    musician.number("Bottle: steps").focus()
    asked = []

    def listen(request):
        if "/api/render" in request.url:
            asked.append((request.url.rpartition("/")[2], len(request.post_data or "")))

    page.on("request", listen)
    for _ in range(30):
        page.keyboard.press("Tab")
    expect(page.locator("[role=group] .alternative")).to_have_count(0)
    page.get_by_role("button", name="Bottle: source, in", exact=True).click()
    expect(page.locator("[role=group] .alternative").first).to_be_visible()
    names = [name for name, _ in asked]
    print(asked)
    assert names.count("alternatives") == 1, "asked when a word opens, and not before"
    # Other lanes are chosen on the way, and their benches fetched: once each.
    assert names.count("render") <= 4


def test_an_edit_while_it_plays_is_one_question_about_picture_and_sound(musician):
    page = musician.open("Night Ferry").page
    musician.type_number("Piece: tempo", "60")  # the player has all that it needs for a while
    page.keyboard.press("Escape")
    page.keyboard.press("Space")
    page.keyboard.press("f")  # no page is turned meanwhile
    musician.wait_for_bars(0.5)
    hits = musician.number("Bottle: hits")
    hits.focus()
    # Its bench has come: nothing that is to be drawn is on its way.
    settings = page.get_by_role("region", name="Bench of Bottle").get_by_role("group", name="Settings")
    expect(settings.first).to_be_visible()
    alone = []
    page.on("request", lambda request: alone.append(request) if request.url.endswith("/sounds") else None)

    def is_of_the_edit(request):
        """Whether it is the first question of the score with six hits, and not one that was on its way before."""
        if not request.url.endswith("/api/render"):
            return False
        lanes = request.post_data_json["score"]["lanes"]
        return any(lane["id"] == "bottle" and lane["source"]["hits"] == 6 for lane in lanes)

    with page.expect_request(is_of_the_edit) as asked:
        page.keyboard.press("ArrowUp")
    question = asked.value.post_data_json
    assert question["sounds"]["bars"] > 0
    lane = next(lane for lane in question["score"]["lanes"] if lane["id"] == "bottle")
    assert lane["source"]["hits"] == 6
    # What is asked alone is of the same score, and further on.
    assert all(request.post_data_json["window"] != question["sounds"] for request in alone)
    expect(hits).to_have_attribute("aria-valuenow", "6")
