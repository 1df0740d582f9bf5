"""The shelf."""

from pieces.models import Piece
from playwright.sync_api import expect


def test_a_piece_that_cannot_be_read_hides_none_of_the_others(musician):
    broken = Piece.objects.get(name="Night Ferry")
    broken.document = broken.document | {"tempo": "slow"}
    broken.save()
    page = musician.page
    expect(page.locator("[data-piece]")).to_have_count(3)
    card = page.locator(f"[data-piece='{broken.pk}']")
    expect(card).to_contain_text("It cannot be read any more, and is kept as it is. The tempo must be")
    expect(page.get_by_role("link", name="Open Slack Water")).to_be_visible()
    expect(card.get_by_role("link", name="Open Night Ferry")).to_have_count(0)
    with page.expect_download() as kept:
        card.get_by_role("link", name="Export Night Ferry").click()
    assert '"tempo":"slow"' in kept.value.path().read_text().replace(": ", ":")
    card.get_by_role("button", name="Delete Night Ferry").click()
    expect(page.locator("[data-piece]")).to_have_count(2)
