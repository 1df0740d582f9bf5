"""Two musicians, and the pieces that tests begin with."""

from typing import Any

import orjson
import pytest
from accounts.models import User
from django.test import Client


class Hands(Client):
    """A signed-in musician's browser, speaking JSON."""

    def send(self, method: str, path: str, body: Any = None) -> Any:
        return self.generic(method, f"/api{path}", _json(body), content_type="application/json")

    def new_piece(self, name: str = "Night Ferry") -> dict[str, Any]:
        reply = self.send("POST", "/pieces", {"name": name})
        assert reply.status_code == 201, reply.content
        return reply.json()

    def save(self, piece: dict[str, Any], **changes: Any) -> Any:
        body = {"revision": piece["revision"], "document": piece["document"], "moments": []} | changes
        return self.send("PUT", f"/pieces/{piece['id']}", body)


def _json(body: Any) -> bytes:
    return b"" if body is None else orjson.dumps(body)


def _musician(name: str) -> Hands:
    hands = Hands()
    hands.force_login(User.objects.create_user(name, password=f"{name} knows the way"))
    return hands


@pytest.fixture(autouse=True)
def fast_passwords(settings: Any) -> None:
    """Passwords of tests guard nothing: hashing them well would take most of the time."""
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]


@pytest.fixture
def mara(db: None) -> Hands:
    return _musician("mara")


@pytest.fixture
def joon(db: None) -> Hands:
    return _musician("joon")


@pytest.fixture
def nobody(db: None) -> Hands:
    return Hands()
