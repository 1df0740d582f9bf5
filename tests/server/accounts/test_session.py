import pytest
from accounts.models import User
from django.test import Client


def test_the_right_password_signs_in_and_out(mara, nobody):
    assert nobody.send("GET", "/session").json() == {"user": None, "demo": False, "taken_back": False}
    reply = nobody.send("POST", "/session", {"name": "mara", "password": "mara knows the way"})
    assert reply.json()["user"] == "mara"
    assert nobody.send("GET", "/session").json()["user"] == "mara"
    nobody.send("DELETE", "/session")
    assert nobody.send("GET", "/session").json()["user"] is None


@pytest.mark.parametrize("name", ["mara", "nobody of that name"])
def test_a_wrong_password_and_a_wrong_name_are_refused_alike(mara, nobody, name):
    reply = nobody.send("POST", "/session", {"name": name, "password": "guess"})
    assert reply.status_code == 401
    assert reply.json()["error"]["message"] == "This name and password do not belong together."


def test_the_demo_musician_is_signed_in_with_pieces_and_clips(nobody, settings):
    settings.DEMO = True
    assert nobody.send("POST", "/session/demo").json()["user"] == "demo musician"
    assert [piece["name"] for piece in nobody.send("GET", "/pieces").json()["pieces"]] == [
        "Night Ferry",
        "Lantern Quay",
        "Slack Water",
    ]
    assert nobody.send("GET", "/clips").json()["total"] >= 3


def test_trying_the_demo_twice_makes_nothing_twice_and_keeps_what_was_done(nobody, settings):
    settings.DEMO = True
    nobody.send("POST", "/session/demo")
    first = nobody.send("GET", "/pieces").json()["pieces"][0]
    nobody.send("DELETE", f"/pieces/{first['id']}")
    nobody.send("POST", "/session/demo")
    assert len(nobody.send("GET", "/pieces").json()["pieces"]) == 2
    assert User.objects.count() == 1


def test_without_the_demo_there_is_no_such_way_in(nobody):
    assert nobody.send("POST", "/session/demo").status_code == 404


@pytest.mark.parametrize(
    ("method", "path"),
    [
        ("GET", "/pieces"),
        ("POST", "/pieces"),
        ("GET", "/pieces/1"),
        ("GET", "/clips"),
        ("GET", "/clips/1.mid"),
    ],
)
def test_what_is_a_musicians_own_needs_a_sign_in(nobody, method, path):
    reply = nobody.send(method, path, None if method == "GET" else {})
    assert reply.status_code == 401
    assert reply.json()["error"]["code"] == "signed-out"


@pytest.mark.parametrize("path", ["session", "session/demo", "render", "pieces", "clips"])
def test_a_forged_request_is_refused(db, path):
    forged = Client(enforce_csrf_checks=True).post(f"/api/{path}", b"{}", content_type="application/json")
    assert forged.status_code == 403


def test_our_own_page_brings_the_token_that_the_api_asks_for(db, tmp_path, settings):
    settings.WEB = tmp_path
    (tmp_path / "index.html").write_text("<title>Jolly Lattice</title>")
    browser = Client(enforce_csrf_checks=True)
    assert browser.get("/lattice/1").content == b"<title>Jolly Lattice</title>"
    token = browser.cookies["csrftoken"].value
    reply = browser.post(
        "/api/session", b"{}", content_type="application/json", headers={"X-CSRFToken": token}
    )
    assert reply.status_code == 422


def test_a_sign_in_lasts_on_from_the_last_day_on_which_it_was_used(mara, settings):
    mara.send("GET", "/session")
    session = mara.session
    session.set_expiry(100)
    session.save()
    mara.send("GET", "/session")
    assert mara.session.get_expiry_age() <= 100  # once a day is enough
    session = mara.session
    session["day"] = "2026-01-01"
    session.set_expiry(0)
    session.save()
    reply = mara.send("GET", "/session")
    assert settings.SESSION_COOKIE_NAME in reply.cookies
