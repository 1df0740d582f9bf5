"""What was stored by earlier versions is converted where it lies."""

from importlib import import_module

from clips.models import Clip
from django.apps import apps
from pieces.models import Moment, Piece
from takes.models import TakeSheet

from lattice import document as documents
from lattice.document import read


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
    assert mara.send("GET", f"/pieces/{piece['id']}/moments/1").json()["document"]["version"] == 3


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


def test_keys_that_were_held_go_to_the_lanes_that_they_filled_wherever_scores_are_stored(mara):
    """Pieces, where clips came from, and what takes are of: each by its own migration."""
    document = mara.new_piece()["document"]
    pattern = document["patterns"][0]
    lane = {field: pattern["lanes"][0][field] for field in ("id", "name", "source")} | {
        "voice": "low-reed",
        "arpeggio": {"pool": {"kind": "held", "latch": "add"}},
    }
    keys = {"held": [{"start": 0, "end": None, "key": 60, "velocity": 90}]}
    old = {"lanes": [lane], "keys": keys, "bars": 4}
    owner = Piece.objects.get().owner_id
    Piece.objects.update(document=document | {"version": 2, "patterns": [{"id": "a", "name": "A", **old}]})
    score = old | {"tempo": 112, "kit": document["kit"]}
    origin = {"piece": "x", "pattern": "A", "score": score, "dice": 1, "first_bar": 0, "bars": 1}
    clip = {"name": "x", "length_ticks": 53760, "tempo": 112, "meter": {}, "origin": origin}
    Clip.objects.create(owner_id=owner, document=clip)
    TakeSheet.objects.create(
        owner_id=owner, piece_name="x", pattern_name="A", score=score, first_bar=0, bars=1
    )
    import_module("pieces.migrations.0004_keys_of_lanes").upgrade_documents(apps, None)
    import_module("clips.migrations.0006_keys_of_lanes").upgrade_origins(apps, None)
    import_module("takes.migrations.0002_keys_of_lanes").upgrade_scores(apps, None)
    converted = (
        read(documents.Piece, Piece.objects.get().document).patterns[0],
        read(documents.Score, Clip.objects.get().document["origin"]["score"]),
        read(documents.Score, TakeSheet.objects.get().score),
    )
    assert [[held.key for held in one.lanes[0].keys.held] for one in converted] == [[60]] * 3


def test_whole_moments_become_differences_and_open_as_before(mara):
    migration = import_module("pieces.migrations.0008_as_differences")
    piece = mara.new_piece()
    stored = Piece.objects.get()
    documents_then = [piece["document"] | {"tempo": 60 + number} for number in range(2, 40)]
    Moment.objects.bulk_create(
        Moment(piece=stored, number=number, label="x", document=document)
        for number, document in enumerate(documents_then, 2)
    )
    for turn in (migration.to_differences, migration.to_differences, migration.to_whole):
        turn(apps, None)
        whole = Moment.objects.filter(document__isnull=False).count()
        assert whole == (39 if turn is migration.to_whole else 3)
        for number, document in enumerate(documents_then, 2):
            assert mara.send("GET", f"/pieces/{stored.pk}/moments/{number}").json()["document"] == document
