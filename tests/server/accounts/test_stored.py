"""How much is stored of whom: what counts, what is refused, what is removed."""

from datetime import timedelta

import pytest
from accounts.models import Owned, User
from accounts.stored import BACK_AGAIN, STORED, bytes_of, check_room, owned_models, use_of
from django.apps import apps
from django.core.management import call_command
from django.utils import timezone
from library.models import Kit
from pieces import services
from pieces.models import Moment, Piece

from lattice.document import DOCKSIDE, DocumentError
from tests.server.pieces.test_history import saved


def of(name):
    return User.objects.get(username=name)


def kits(owner, *ages):
    """Store kits deleted so many days ago; None: not deleted."""
    now = timezone.now()
    return [
        Kit.objects.create(
            owner=owner,
            document=DOCKSIDE.model_dump(mode="json"),
            deleted_at=None if days is None else now - timedelta(days=days),
        ).pk
        for days in ages
    ]


def test_everything_large_that_leads_to_an_owner_counts():
    counted = {one.model for one in STORED}
    for model in apps.get_models():
        large = {
            field.name for field in model._meta.fields if type(field).__name__ in ("JSONField", "BinaryField")
        }
        if model._meta.app_label in ("accounts", "sessions", "contenttypes", "admin", "auth"):
            continue
        if large:
            assert model._meta.label in counted
    assert {model._meta.label for model in owned_models()} <= counted
    assert all(issubclass(model, Owned) for model in owned_models())


def test_what_is_stored_is_said_by_kind_and_nobody_elses_counts(mara, joon):
    saved(mara, mara.new_piece(), *range(1, 20))
    used = use_of(of("mara"))
    assert (used["pieces"].rows, used["moments"].rows) == (1, 20)
    assert bytes_of(of("mara")) == sum(use.bytes for use in used.values()) > 1_000
    assert bytes_of(of("joon")) == 0


def test_who_stores_too_much_is_told_and_keeps_what_is_there(mara, settings):
    piece = mara.new_piece()
    settings.MEGABYTES_EACH = 0
    refused = mara.send("POST", "/pieces", {"name": "More"})
    assert refused.status_code == 422
    assert "As much is stored of yours as may be" in refused.json()["error"]["message"]
    # Changes go on for a while: what is being worked on is the last thing to be refused.
    assert saved(mara, piece, 90)["revision"] == 2
    assert Piece.objects.count() == 1


def test_there_is_room_for_so_many_and_of_those_deleted_for_as_many(mara):
    owner = of("mara")
    living = kits(owner, None, None)
    deleted = kits(owner, 5, 1, 3, 9)
    with pytest.raises(DocumentError, match="there are 2 kits of yours already"):
        check_room(owner, Kit, 2)
    check_room(owner, Kit, 3)
    kept = set(Kit.objects.values_list("pk", flat=True))
    assert kept == {*living, deleted[0], deleted[1], deleted[2]}


def test_a_trail_has_an_end(mara, monkeypatch):
    monkeypatch.setattr(services, "MAX_MOMENTS", 3)
    piece = saved(mara, mara.new_piece(), 90, 91)
    with pytest.raises(AssertionError, match="go on in a copy of it"):
        saved(mara, piece, 92, first=4)
    assert Moment.objects.count() == 3


def test_what_was_deleted_long_ago_is_removed_and_nothing_else(mara, joon, capsys):
    mara.new_piece()
    owner = of("mara")
    kits(owner, BACK_AGAIN.days + 1, BACK_AGAIN.days - 1, None)
    joon.new_piece()
    User.objects.filter(username="joon").update(deleted_at=timezone.now() - timedelta(days=2))
    call_command("purge")
    assert (Kit.objects.count(), Piece.objects.count()) == (2, 1)
    assert not User.objects.filter(username="joon").exists()
    assert "Removed kits: 1 rows in all" in capsys.readouterr().out
    call_command("purge")
    assert (Kit.objects.count(), capsys.readouterr().out) == (2, "")


def test_who_uses_most_is_named_first(mara, joon, capsys):
    joon.new_piece()
    saved(mara, mara.new_piece(), *range(1, 40))
    call_command("usage")
    first, second = capsys.readouterr().out.splitlines()
    assert first.endswith("MB  mara: 1 pieces, 40 moments")
    assert "joon: 1 pieces, 1 moments" in second
