"""What was stored before pieces became version 2 is converted where it lies."""

from importlib import import_module

from clips.models import Clip
from django.apps import apps
from pieces.models import Moment, Piece


def as_before(document):
    """Return a piece of version 2 as version 1 would have stored it, with chances on steps of its first lane."""
    lanes = document["patterns"][0]["lanes"]
    old = {field: lanes[0][field] for field in ("id", "name", "voice", "source")}
    lane = old | {"step_chances": [{"step": 2, "percent": 40}]}
    return document | {"version": 1, "patterns": [document["patterns"][0] | {"lanes": [lane]}]}


def test_stored_pieces_and_their_moments_are_converted(mara):
    piece = mara.new_piece()
    old = as_before(piece["document"])
    Piece.objects.update(document=old)
    Moment.objects.update(document=old)
    import_module("pieces.migrations.0003_strips").upgrade_documents(apps, None)
    lane = mara.send("GET", f"/pieces/{piece['id']}").json()["document"]["patterns"][0]["lanes"][0]
    assert lane["chance_strip"]["values"] == [None, None, 40]
    assert mara.send("GET", f"/pieces/{piece['id']}/moments/1").json()["document"]["version"] == 2


def test_where_clips_came_from_is_converted(mara):
    document = mara.new_piece()["document"]
    pattern = as_before(document)["patterns"][0]
    score = {"tempo": 112, "kit": document["kit"], "lanes": pattern["lanes"], "bars": 4}
    origin = {"piece": "x", "pattern": "A", "score": score, "dice": 1, "first_bar": 0, "bars": 1}
    clip = {"name": "x", "length_ticks": 53760, "tempo": 112, "meter": {}, "origin": origin}
    Clip.objects.create(owner_id=Piece.objects.get().owner_id, document=clip)
    import_module("clips.migrations.0002_strips").upgrade_origins(apps, None)
    lane = Clip.objects.get().document["origin"]["score"]["lanes"][0]
    assert lane["chance_strip"]["values"] == [None, None, 40]
