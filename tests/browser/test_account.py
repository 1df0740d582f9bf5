"""The account page: tokens are made, shown once, used, revoked."""

import orjson
from accounts.invitations import invite
from accounts.models import User
from django.test import Client
from playwright.sync_api import expect


def by_token(secret, path):
    return Client().get(f"/api{path}", headers={"Authorization": f"Bearer {secret}"})


def test_a_token_is_made_shown_once_and_revoked(musician, complaints):
    page = musician.page
    page.get_by_role("button", name="Signed in as demo musician").click()
    page.get_by_role("link", name="Account and tokens").click()
    expect(page.get_by_text("No token yet.")).to_be_visible()
    page.get_by_label("Name of the token").fill("night script")
    page.get_by_role("button", name="reads and writes").click()
    page.get_by_role("button", name="Make a token").click()
    secret = page.locator(".made code").text_content()
    names = [piece["name"] for piece in orjson.loads(by_token(secret, "/pieces").content)["pieces"]]
    assert "Night Ferry" in names
    page.get_by_label("Name of the token").fill("night script")
    page.get_by_role("button", name="Make a token").click()
    expect(page.get_by_role("alert")).to_contain_text("a token called “night script” already")
    complaints.clear()  # the browser says that this was refused
    page.reload()
    expect(page.get_by_text("night script")).to_be_visible()
    expect(page.get_by_text(secret)).to_have_count(0)
    page.get_by_role("button", name="Revoke night script").click()
    expect(page.get_by_text("No token yet.")).to_be_visible()
    assert by_token(secret, "/pieces").status_code == 401


def test_the_page_shows_the_script_and_where_to_ask(musician):
    page = musician.page
    page.goto(f"{musician.address}/account")
    expect(page.get_by_label("The script")).to_contain_text("def ask(method, path, body=None):")
    expect(page.get_by_label("The script")).to_contain_text(f"JOLLY_SERVER={musician.address}")
    assert page.request.get(f"{musician.address}/api/openapi.json").ok


def welcome(page, address, secret, name="ines"):
    """Make an account with an invitation, in a browser in which nobody is signed in."""
    page.goto(f"{address}/account/welcome/{secret}")
    page.get_by_label("Name").fill(name)
    page.get_by_label("Password", exact=True).fill("second watch begins")
    page.get_by_label("Password confirmation").fill("second watch begins")
    page.get_by_role("button", name="Make my account").click()
    expect(page.get_by_role("status")).to_have_text(f"You are signed in as {name}.")


def sign_in(page, name, password):
    page.get_by_label("Name").fill(name)
    page.get_by_label("Password").fill(password)
    page.get_by_role("button", name="Sign in").click()


def test_who_is_invited_comes_invites_leaves_and_is_back_within_a_day(musician, complaints):
    page, address = musician.page, musician.address
    _, secret = invite()
    page.context.clear_cookies()
    welcome(page, address, secret)
    User.objects.filter(username="ines").update(is_staff=True)
    page.goto(f"{address}/account")
    page.get_by_label("Whom for").fill("Joon")
    page.get_by_role("button", name="Invite").click()
    link = page.locator(".made code").text_content()
    assert page.request.get(link).ok
    expect(page.get_by_text("not used yet")).to_be_visible()

    # Not without the password.
    page.get_by_role("button", name="Delete my account").click()
    page.get_by_label("Your password").fill("guess")
    page.get_by_role("button", name="Delete it with all that is mine").click()
    expect(page.get_by_role("alert")).to_have_text("It is not your password.")
    complaints.clear()  # the browser says that this was refused
    page.get_by_label("Your password").fill("second watch begins")
    page.get_by_role("button", name="Delete it with all that is mine").click()
    expect(page.get_by_text("Sign in within a day, and it is back")).to_be_visible()
    sign_in(page, "ines", "second watch begins")
    expect(page.get_by_text("Your account is back, with all that is yours.")).to_be_visible()


def test_a_changed_password_ends_what_was_signed_in_elsewhere(musician, complaints):
    page, address = musician.page, musician.address
    _, secret = invite()
    page.context.clear_cookies()
    welcome(page, address, secret)
    other = page.context.browser.new_context()
    elsewhere = other.new_page()
    elsewhere.goto(address)
    sign_in(elsewhere, "ines", "second watch begins")
    expect(elsewhere.get_by_role("heading", name="Shelf", exact=True)).to_be_visible()

    page.goto(f"{address}/account")
    page.get_by_role("link", name="Change the password").click()
    page.get_by_label("Old password").fill("second watch begins")
    page.get_by_label("New password", exact=True).fill("low tide at nine")
    page.get_by_label("New password confirmation").fill("low tide at nine")
    page.get_by_role("button", name="Change the password").click()
    expect(page.get_by_role("heading", name="Your password is changed")).to_be_visible()
    page.get_by_role("link", name="Open Jolly Lattice").click()
    expect(page.get_by_role("heading", name="Shelf", exact=True)).to_be_visible()

    elsewhere.goto(f"{address}/account")
    expect(elsewhere.get_by_role("button", name="Sign in")).to_be_visible()
    other.close()


def test_all_that_is_ones_own_is_exported_and_imported(musician):
    page = musician.page
    page.goto(f"{musician.address}/account")
    with page.expect_download() as download:
        page.get_by_role("link", name="Export all of it").click()
    file = download.value.path()
    page.get_by_label("File to import").set_input_files(
        {"name": "jolly-lattice.zip", "mimeType": "application/zip", "buffer": file.read_bytes()}
    )
    expect(page.get_by_text("Imported: 3 pieces")).to_be_visible()
    page.get_by_role("link", name="Shelf", exact=True).click()
    expect(page.get_by_role("link", name="Open Night Ferry")).to_have_count(2)
