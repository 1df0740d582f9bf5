"""Tokens: what a script may do with one, and that nobody else comes in by them."""

import os
import subprocess
import sys
from datetime import timedelta
from pathlib import Path

import mido
import orjson
import pytest
from accounts import tokens
from accounts.models import Token, User
from django.test import Client
from django.utils import timezone

SCRIPT = Path("docs/by_script.py").resolve()


class Script(Client):
    """Something without cookies, which sends a token; what a browser could be tricked into is refused."""

    def __init__(self, secret):
        super().__init__(enforce_csrf_checks=True)
        self.secret = secret

    def send(self, method, path, body=None):
        sent = b"" if body is None else orjson.dumps(body)
        headers = {"Authorization": f"Bearer {self.secret}"}
        return self.generic(method, f"/api{path}", sent, content_type="application/json", headers=headers)


def made(hands, scope="write", name="night script"):
    reply = hands.send("POST", "/tokens", {"name": name, "scope": scope})
    assert reply.status_code == 201, reply.content
    return reply.json()


def test_a_token_is_shown_once_and_only_its_digest_is_stored(mara):
    told = made(mara)
    assert told["secret"].startswith("jolly_")
    assert len(told["secret"]) > 40
    stored = Token.objects.get()
    assert told["secret"] not in str(stored.__dict__)
    assert mara.send("GET", "/tokens").json() == [told["token"]]
    assert "secret" not in told["token"]


def test_a_token_that_may_write_does_what_its_musician_may(mara, joon):
    script = Script(made(mara)["secret"])
    piece = script.send("POST", "/pieces", {"name": "Low Tide"}).json()
    assert [one["name"] for one in mara.send("GET", "/pieces").json()["pieces"]] == ["Low Tide"]
    assert joon.send("GET", "/pieces").json()["pieces"] == []
    assert script.send("DELETE", f"/pieces/{piece['id']}").status_code in (200, 204)
    assert Token.objects.get().used_at is not None


def test_a_token_that_may_read_reads_and_computes_and_changes_nothing(mara):
    piece = mara.new_piece()
    script = Script(made(mara, "read")["secret"])
    asked = script.send("GET", f"/pieces/{piece['id']}/patterns/a/score").json()
    sounds = script.send("POST", "/render/sounds", asked | {"window": {"first_bar": 0, "bars": 2}})
    assert len(sounds.json()["events"]["starts"]) == 8
    for method, path, body in [
        ("POST", "/pieces", {"name": "x"}),
        ("DELETE", f"/pieces/{piece['id']}", None),
        ("PATCH", f"/pieces/{piece['id']}", {"name": "x"}),
    ]:
        refused = script.send(method, path, body)
        assert refused.status_code == 403
        assert "may only read" in refused.json()["error"]["message"]
    assert [one["name"] for one in mara.send("GET", "/pieces").json()["pieces"]] == ["Night Ferry"]


@pytest.mark.parametrize("secret", ["", "jolly_", "jolly_nothing", "x" * 5000, "jolly_ä"])
def test_a_token_that_is_not_known_lets_nobody_in(mara, secret):
    reply = Script(secret).send("GET", "/pieces")
    assert reply.status_code == 401


def test_a_revoked_token_and_one_of_somebody_who_is_shut_out_are_good_for_nothing(mara):
    one, other = made(mara), made(mara, name="day script")
    assert mara.send("DELETE", f"/tokens/{one['token']['id']}").status_code == 204
    refused = Script(one["secret"]).send("GET", "/pieces")
    assert (refused.status_code, "revoked" in refused.json()["error"]["message"]) == (401, True)
    assert Script(other["secret"]).send("GET", "/pieces").status_code == 200
    User.objects.filter(username="mara").update(is_active=False)
    assert Script(other["secret"]).send("GET", "/pieces").status_code == 401


def test_no_token_reaches_tokens_and_nobody_those_of_others(mara, joon):
    told = made(mara)
    script = Script(told["secret"])
    assert script.send("GET", "/tokens").status_code in (401, 403)
    assert script.send("POST", "/tokens", {"name": "more", "scope": "write"}).status_code in (401, 403)
    assert joon.send("DELETE", f"/tokens/{told['token']['id']}").status_code == 404
    assert joon.send("GET", "/tokens").json() == []
    assert Token.objects.count() == 1


def test_names_are_once_and_tokens_are_not_without_number(mara):
    made(mara)
    twice = mara.send("POST", "/tokens", {"name": "night script", "scope": "read"})
    assert (twice.status_code, "already" in twice.json()["error"]["message"]) == (422, True)
    for number in range(tokens.MAX_TOKENS - 1):
        made(mara, name=f"script {number}")
    refused = mara.send("POST", "/tokens", {"name": "one more", "scope": "read"})
    assert (refused.status_code, "revoke one first" in refused.json()["error"]["message"]) == (422, True)


def test_its_use_is_written_down_once_a_minute(mara, django_assert_num_queries):
    script = Script(made(mara, "read")["secret"])
    script.send("GET", "/pieces")
    first = Token.objects.get().used_at
    script.send("GET", "/pieces")
    assert Token.objects.get().used_at == first
    Token.objects.update(used_at=timezone.now() - timedelta(minutes=2))
    script.send("GET", "/pieces")
    assert Token.objects.get().used_at > first


@pytest.mark.django_db(transaction=True)
def test_the_script_of_the_documents_makes_a_midi_file(live_server, tmp_path):
    owner = User.objects.create_user("mara")
    _, secret = tokens.make(owner, "night script", "write")
    known = os.environ | {"JOLLY_SERVER": live_server.url, "JOLLY_TOKEN": secret}
    done = subprocess.run(
        [sys.executable, str(SCRIPT)],
        check=False,
        cwd=tmp_path,
        env=known,
        capture_output=True,
        text=True,
        timeout=60,
    )
    assert done.returncode == 0, done.stderr
    notes = [
        one for one in mido.MidiFile(tmp_path / "by script.mid") if one.type == "note_on" and one.velocity
    ]
    assert done.stdout == f"{len(notes)} notes in 4 bars: by script.mid\n"
    assert (
        len(notes) == 25
    )  # 5 in 13 over 64 steps: four whole cycles, and five of the twelve steps after them


def test_the_script_is_as_short_as_it_is_said_to_be():
    lines = [line for line in SCRIPT.read_text().splitlines() if line.strip()]
    assert len(lines) <= 21  # and a line that says what it does
