"""Two musicians, and the pieces that tests begin with."""

from collections.abc import Sequence
from typing import Any
from uuid import uuid4

import jsonpatch
import orjson
import pytest
from accounts.models import User
from django.test import Client

from lattice.document import Drawn, Lane, Pattern, Piece
from tests.kept_demo import KeptDemo
from tests.patience import django_db_modify_db_settings  # noqa: F401 - a fixture


class Hands(Client):
    """A signed-in musician's browser, speaking JSON."""

    def send(self, method: str, path: str, body: Any = None) -> Any:
        return self.generic(method, f"/api{path}", _json(body), content_type="application/json")

    def new_piece(self, name: str = "Night Ferry") -> dict[str, Any]:
        """Return a piece of one lane, four in the bar."""
        thud = Lane(id="lane-1", name="Thud", voice="thud", source=Drawn(steps=16, hits=(0, 4, 8, 12)))
        piece = Piece(name=name, patterns=(Pattern(id="a", name="A", lanes=(thud,)),))
        reply = self.send("POST", "/pieces", {"name": name, "document": piece.model_dump(mode="json")})
        assert reply.status_code == 201, reply.content
        return reply.json()

    def save(
        self,
        piece: dict[str, Any],
        document: Any = None,
        moments: Sequence[dict[str, Any]] = (),
        *,
        attempt: str = "",
        **fields: Any,
    ) -> Any:
        """Save *document*, and the moments that led to it, as differences from *piece* as it was opened."""
        now, changed = piece["document"], []
        for moment in moments:
            told = {name: value for name, value in moment.items() if name != "document"}
            changed.append(told | {"changes": differences(now, moment["document"])})
            now = moment["document"]
        body = {
            "attempt": attempt or str(uuid4()),
            "revision": piece["revision"],
            "moments": changed,
            "changes": differences(now, document or now),
        }
        return self.send("PUT", f"/pieces/{piece['id']}", body | fields)


def differences(one: Any, other: Any) -> list[dict[str, Any]]:
    """Return what makes *other* of *one*, one operation for each field."""
    patch = jsonpatch.make_patch(one, other).patch
    # It moves what it can: the API takes that said plainly.
    return [{"op": "replace", "path": "", "value": other}] if any("from" in step for step in patch) else patch


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


@pytest.fixture(scope="session")
def kept_demo() -> KeptDemo:
    return KeptDemo()


@pytest.fixture
def demo(db: None, kept_demo: KeptDemo) -> User:
    """The demo musician, with pieces, takes and clips."""
    return kept_demo.lay_down()
