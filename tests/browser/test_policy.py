"""The application as browsers keep to its content policy: it sounds, is kept and exported (test_views looks at all of it)."""

from playwright.sync_api import expect


def heard(page):
    """Return up to which tick the schedule log tells of what sounds."""
    log = page.evaluate("jolly.log()")
    return log[-1]["nowTick"] if log else 0


def test_it_sounds_is_kept_and_exported(strict):
    page = strict.open("Night Ferry").page
    page.keyboard.press("Space")
    for _ in range(600):
        if heard(page) > 2 * 53760:
            break
        page.wait_for_timeout(100)
    assert heard(page) > 2 * 53760
    page.keyboard.press("k")
    page.keyboard.press("1")
    expect(page.get_by_text("Kept").first).to_be_visible()
    page.keyboard.press("Space")
    page.get_by_role("link", name="Clips", exact=True).click()
    expect(page.locator(".clip").first).to_be_visible()
    page.get_by_role("button", name="Export these as one zip").click()
    with page.expect_download() as download:
        page.get_by_role("link", name="Export .zip").click()
    assert download.value.path().read_bytes()[:2] == b"PK"
