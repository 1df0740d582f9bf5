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
