"""Accounts: by invitation, with a password that can be changed and forgotten, and an end that can be taken back."""

import re
from datetime import timedelta

import pytest
from accounts.attempts import BY_ADDRESS, BY_NAME
from accounts.invitations import invite
from accounts.models import Attempts, Invitation, User
from accounts.stored import A_DAY, BACK_AGAIN, deleted_accounts
from django.core import mail
from django.test import Client
from django.utils import timezone
from pieces.models import Piece

from tests.server.conftest import Hands

NEW = {
    "username": "ines",
    "password1": "second watch begins",
    "password2": "second watch begins",
    "email": "",
}


def signed_in(hands):
    return hands.send("GET", "/session").json()["user"]


def sign_in(hands, name="mara", password="mara knows the way"):
    return hands.send("POST", "/session", {"name": name, "password": password})


def elsewhere(name="mara"):
    """Return another browser of the same musician."""
    hands = Hands()
    assert sign_in(hands, name, f"{name} knows the way").status_code == 200
    return hands


def test_who_has_an_invitation_makes_an_account_once(nobody):
    made, secret = invite(note="Ines")
    page = nobody.get(f"/account/welcome/{secret}")
    assert "Welcome to Jolly Lattice" in page.content.decode()
    assert nobody.post(f"/account/welcome/{secret}", NEW).status_code == 200
    assert signed_in(nobody) == "ines"
    made.refresh_from_db()
    assert made.used_by.get_username() == "ines"
    again = Client().post(f"/account/welcome/{secret}", NEW | {"username": "other"})
    assert (again.status_code, User.objects.count()) == (410, 1)
    assert secret not in str(Invitation.objects.values())


def test_the_list_of_invitations_says_which_have_expired(mara):
    User.objects.update(is_staff=True)
    for note in ("old", "new"):
        invite(User.objects.get(), note)
    Invitation.objects.filter(note="old").update(expires_at=timezone.now() - timedelta(seconds=1))
    lines = mara.send("GET", "/invitations").json()
    assert {line["note"]: line["has_expired"] for line in lines} == {"old": True, "new": False}


@pytest.mark.parametrize("secret", ["never-made", "expired"])
def test_an_invitation_that_is_none_makes_nothing(nobody, secret):
    if secret == "expired":
        _, secret = invite()
        Invitation.objects.update(expires_at=timezone.now() - timedelta(seconds=1))
    page = nobody.post(f"/account/welcome/{secret}", NEW)
    assert page.status_code == 410
    assert "good for nothing any more" in page.content.decode()
    assert not User.objects.exists()


def test_what_is_wrong_with_a_new_account_is_said_and_the_invitation_still_holds(mara, nobody):
    _, secret = invite()
    for wrong, said in (({"password2": "another"}, "match"), ({"username": "MARA"}, "exists")):
        page = nobody.post(f"/account/welcome/{secret}", NEW | wrong)
        assert said in page.content.decode()
    assert nobody.post(f"/account/welcome/{secret}", NEW).status_code == 200


def test_those_who_may_invite_see_a_link_once_and_can_take_it_back(mara, joon):
    User.objects.filter(username="mara").update(is_staff=True)
    made = mara.send("POST", "/invitations", {"note": "Ines", "days": 2})
    assert re.fullmatch(r"http://testserver/account/welcome/[\w-]{32}", made.json()["link"])
    (line,) = mara.send("GET", "/invitations").json()
    assert (line["note"], line["used_by"]) == ("Ines", None)
    assert mara.send("DELETE", f"/invitations/{line['id']}").status_code == 204
    assert Client().get(made.json()["link"]).status_code == 410
    assert joon.send("POST", "/invitations", {}).status_code == 403
    assert joon.send("GET", "/invitations").status_code == 403


def test_a_changed_password_ends_other_sign_ins_and_revokes_tokens(mara):
    other = elsewhere()
    mara.send("POST", "/tokens", {"name": "night script"})
    wrong = {
        "old_password": "guess",
        "new_password1": "low tide at nine",
        "new_password2": "low tide at nine",
    }
    assert mara.post("/account/password", wrong).status_code == 200
    assert signed_in(other) == "mara"
    right = wrong | {"old_password": "mara knows the way"}
    assert mara.post("/account/password", right).status_code == 302
    assert (signed_in(mara), signed_in(other)) == ("mara", None)
    assert mara.send("GET", "/tokens").json() == []
    assert sign_in(Hands(), password="low tide at nine").status_code == 200


def test_signing_out_everywhere_else_leaves_this_one(mara, joon):
    other = elsewhere()
    mara.send("POST", "/tokens", {"name": "night script"})
    assert mara.send("POST", "/account/end-others").status_code == 204
    assert (signed_in(mara), signed_in(other), signed_in(joon)) == ("mara", None, "joon")
    assert mara.send("GET", "/tokens").json() == []
    assert signed_in(elsewhere()) == "mara"


def test_a_forgotten_password_is_replaced_by_a_link_that_holds_once(mara, nobody):
    User.objects.filter(username="mara").update(email="mara@ferry.example")
    assert nobody.post("/account/reset", {"email": "mara@ferry.example"}).status_code == 302
    (link,) = re.findall(r"http://testserver(/account/reset/\S+)", mail.outbox[0].body)
    form = nobody.get(link, follow=True)
    new = {"new_password1": "low tide at nine", "new_password2": "low tide at nine"}
    assert nobody.post(form.request["PATH_INFO"], new).status_code == 302
    assert sign_in(Hands(), password="low tide at nine").status_code == 200
    assert signed_in(mara) is None
    assert Client().get(link, follow=True).status_code == 410


def test_who_has_no_account_is_told_the_same_and_no_mail_is_sent(mara, nobody):
    reply = nobody.post("/account/reset", {"email": "nobody@ferry.example"}, follow=True)
    assert "If somebody here has that address" in reply.content.decode()
    assert mail.outbox == []


def test_the_address_for_a_link_is_changed_with_the_password(mara):
    body = {"email": "mara@ferry.example", "password": "guess"}
    refused = mara.send("PUT", "/account/email", body)
    assert (refused.status_code, refused.json()["error"]["message"]) == (
        422,
        "It is not your password.",
    )
    assert (
        mara.send("PUT", "/account/email", body | {"password": "mara knows the way"}).json()["email"]
        == body["email"]
    )
    wrong = {"email": "somewhere", "password": "mara knows the way"}
    assert mara.send("PUT", "/account/email", wrong).status_code == 422


def test_a_deleted_account_is_back_with_all_that_is_theirs_within_a_day(mara, nobody):
    mara.new_piece()
    other = elsewhere()
    assert mara.send("POST", "/account/delete", {"password": "guess"}).status_code == 422
    assert mara.send("POST", "/account/delete", {"password": "mara knows the way"}).status_code == 204
    assert (signed_in(mara), signed_in(other)) == (None, None)
    assert not deleted_accounts().exists()
    assert sign_in(nobody).json() == {"user": "mara", "demo": False, "taken_back": True}
    assert len(nobody.send("GET", "/pieces").json()["pieces"]) == 1
    assert sign_in(nobody).json()["taken_back"] is False


def test_after_a_day_a_deleted_account_is_gone(mara, joon, nobody):
    mara.new_piece()
    mara.send("POST", "/account/delete", {"password": "mara knows the way"})
    User.objects.filter(username="mara").update(deleted_at=timezone.now() - A_DAY)
    assert sign_in(nobody).status_code == 401
    deleted_accounts().delete()
    assert list(User.objects.values_list("username", flat=True)) == ["joon"]
    assert not Piece.objects.exists()


def test_a_token_of_a_deleted_account_is_good_for_nothing(mara, nobody):
    secret = mara.send("POST", "/tokens", {"name": "night script"}).json()["secret"]
    User.objects.filter(username="mara").update(deleted_at=timezone.now())
    assert nobody.get("/api/pieces", headers={"Authorization": f"Bearer {secret}"}).status_code == 401


def test_the_demo_musicians_account_is_nobodys_to_change(nobody, settings):
    settings.DEMO = True
    nobody.send("POST", "/session/demo")
    assert nobody.send("GET", "/account").json()["has_password"] is False
    assert nobody.send("POST", "/account/delete", {"password": ""}).status_code == 403
    assert User.objects.get().deleted_at is None


def test_wrong_passwords_are_counted_by_name_and_then_not_even_the_right_one_is_tried(mara, joon):
    for _ in range(BY_NAME.amount):
        assert sign_in(Hands(), "Mara", "guess").status_code == 401
    refused = sign_in(Hands())
    assert refused.status_code == 429
    assert re.fullmatch(
        r"This was tried too often: try again in 1[45] minutes\.", refused.json()["error"]["message"]
    )
    assert 0 < int(refused["Retry-After"]) <= 900
    assert sign_in(Hands(), "joon", "joon knows the way").status_code == 200
    Attempts.objects.update(until=timezone.now() - timedelta(seconds=1))
    assert sign_in(Hands()).status_code == 200


def test_wrong_passwords_are_counted_by_address_whatever_the_name(mara, settings):
    settings.PROXIES = 1
    here = {"X-Forwarded-For": "203.0.113.9, 198.51.100.7"}

    def tried(number, headers):
        body = f'{{"name": "n{number}", "password": "guess"}}'
        reply = Client().post("/api/session", body, content_type="application/json", headers=headers)
        return reply.status_code

    assert {tried(number, here) for number in range(BY_ADDRESS.amount)} == {401}
    # What somebody says of themselves before the proxy changes nothing.
    assert tried(99, {"X-Forwarded-For": "192.0.2.1, 198.51.100.7"}) == 429
    assert tried(99, {"X-Forwarded-For": "198.51.100.8"}) == 401


def test_a_right_password_forgets_the_wrong_ones_before(mara):
    for _ in range(3):
        for _ in range(BY_NAME.amount - 1):
            sign_in(Hands(), "mara", "guess")
        assert sign_in(Hands()).status_code == 200


def test_links_are_asked_for_as_rarely_and_say_so_on_the_page(mara, nobody):
    for _ in range(BY_NAME.amount):
        nobody.post("/account/reset", {"email": "mara@ferry.example"})
    refused = nobody.post("/account/reset", {"email": "mara@ferry.example"})
    assert refused.status_code == 429
    assert "tried too often" in refused.content.decode()


def test_who_tried_is_not_to_be_read_from_what_is_counted(mara):
    sign_in(Hands(), "mara", "guess")
    assert all(re.fullmatch(r"[0-9a-f]{64}", one.key) for one in Attempts.objects.all())
    assert Attempts.objects.count() == 2
    assert BACK_AGAIN > A_DAY
