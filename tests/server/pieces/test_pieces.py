import copy
from uuid import uuid4

import pytest
from pieces.models import Moment, Piece


def edited(piece, **fields):
    """Return the piece's document with its first lane changed."""
    document = copy.deepcopy(piece["document"])
    document["patterns"][0]["lanes"][0] |= fields
    return document


def moment(number, document, label="a change"):
    return {"number": number, "label": label, "document": document}


def test_a_new_piece_lies_first_on_the_shelf(mara):
    mara.new_piece("Slack Water")
    mara.new_piece("Night Ferry")
    assert [piece["name"] for piece in mara.send("GET", "/pieces").json()["pieces"]] == [
        "Night Ferry",
        "Slack Water",
    ]


def test_a_new_piece_is_empty_and_has_its_first_moment(mara):
    piece = mara.send("POST", "/pieces", {"name": "Low Tide"}).json()
    assert [(pattern["name"], pattern["lanes"]) for pattern in piece["document"]["patterns"]] == [("A", [])]
    assert [moment.label for moment in Moment.objects.all()] == ["New piece"]


def test_a_save_is_read_back_and_counts_the_revision(mara):
    piece = mara.new_piece()
    document = edited(piece, velocity=64)
    saved = mara.save(piece, document=document, moments=[moment(2, document)])
    assert saved.json()["revision"] == piece["revision"] + 1
    assert mara.send("GET", f"/pieces/{piece['id']}").json()["document"] == document


def test_mute_and_solo_are_saved_without_a_moment(mara):
    piece = mara.new_piece()
    mara.save(piece, document=edited(piece, mute=True))
    assert Moment.objects.count() == 1
    assert Piece.objects.get().document["patterns"][0]["lanes"][0]["mute"] is True


def test_a_save_over_a_newer_revision_is_refused_and_stores_nothing(mara):
    piece = mara.new_piece()
    theirs = edited(piece, velocity=1)
    mara.save(piece, document=theirs)
    mine = edited(piece, velocity=2)
    refused = mara.save(piece, document=mine, moments=[moment(2, mine, "mine")])
    assert refused.status_code == 409
    assert refused.json()["error"]["code"] == "newer-revision"
    assert "revision 2 is saved, this change was based on revision 1" in refused.json()["error"]["message"]
    assert Piece.objects.get().document == theirs
    assert not Moment.objects.filter(label="mine").exists()


def test_mine_can_be_kept_as_a_copy(mara):
    piece = mara.new_piece()
    copied = mara.send(
        "POST", "/pieces", {"document": edited(piece, velocity=2) | {"name": "Night Ferry, mine"}}
    )
    assert copied.status_code == 201
    assert {stored["name"] for stored in mara.send("GET", "/pieces").json()["pieces"]} == {
        "Night Ferry",
        "Night Ferry, mine",
    }


@pytest.mark.parametrize(
    ("fields", "lane", "field", "says"),
    [
        ({"velocity": 0}, "Thud", "velocity", "greater than or equal to 1, got 0"),
        (
            {"source": {"kind": "drawn", "steps": 8, "hits": [8]}},
            "Thud",
            "source",
            "a hit on step 9 does not fit into a cycle of 8 steps",
        ),
        ({"swung": 50}, "Thud", "swung", "there is no such field"),
    ],
)
def test_a_wrong_document_is_refused_naming_lane_and_field_and_nothing_is_stored(
    mara, fields, lane, field, says
):
    piece = mara.new_piece()
    refused = mara.save(piece, document=edited(piece, **fields))
    assert refused.status_code == 422
    (problem,) = refused.json()["error"]["problems"]
    assert (problem["lane"], problem["field"].removeprefix("document.")) == (lane, field)
    assert says in problem["message"]
    assert Piece.objects.get().revision == 1


def test_a_body_that_is_not_json_is_refused(mara):
    reply = mara.generic("POST", "/api/pieces", b"{", content_type="application/json")
    assert reply.status_code == 400
    assert reply.json()["error"]["message"]


def test_a_piece_is_renamed(mara):
    piece = mara.new_piece()
    assert mara.send("PATCH", f"/pieces/{piece['id']}", {"name": "Low Tide"}).json()["name"] == "Low Tide"
    assert mara.send("GET", f"/pieces/{piece['id']}").json()["document"]["name"] == "Low Tide"
    assert mara.send("PATCH", f"/pieces/{piece['id']}", {"name": ""}).status_code == 422


def test_a_deleted_piece_is_gone_until_it_is_restored(mara):
    piece = mara.new_piece()
    assert mara.send("DELETE", f"/pieces/{piece['id']}").status_code == 204
    assert mara.send("GET", "/pieces").json()["pieces"] == []
    assert mara.send("GET", f"/pieces/{piece['id']}").status_code == 404
    assert mara.save(piece).status_code == 404
    assert mara.send("POST", f"/pieces/{piece['id']}/restore").json()["name"] == "Night Ferry"
    assert mara.send("GET", f"/pieces/{piece['id']}").json()["document"] == piece["document"]


@pytest.mark.parametrize(
    ("method", "path", "body"),
    [
        ("GET", "", None),
        ("PATCH", "", {"name": "Mine now"}),
        ("DELETE", "", None),
        ("POST", "/restore", None),
    ],
)
def test_another_musicians_piece_is_not_there(mara, joon, method, path, body):
    piece = mara.new_piece()
    reply = joon.send(method, f"/pieces/{piece['id']}{path}", body)
    assert reply.status_code == 404
    assert joon.save(piece).status_code == 404
    assert joon.send("GET", "/pieces").json()["pieces"] == []
    assert mara.send("GET", f"/pieces/{piece['id']}").json() == piece


def test_a_save_whose_answer_got_lost_may_be_sent_again(mara):
    piece = mara.new_piece()
    document = edited(piece, velocity=64)
    moments = [moment(2, document, "velocity")]
    attempt = str(uuid4())
    first, again = (mara.save(piece, document, moments, attempt=attempt) for _ in range(2))
    assert (first.status_code, again.status_code) == (200, 200)
    assert first.json()["revision"] == again.json()["revision"] == 2
    assert Moment.objects.count() == 2
    other = mara.save(piece, document, moments)
    assert other.status_code == 409


def test_an_edit_sends_what_it_changed(mara):
    piece = mara.new_piece()
    lane = "/patterns/0/lanes/0"
    changes = [
        {"op": "replace", "path": f"{lane}/velocity", "value": 64},
        {"op": "add", "path": f"{lane}/source/hits/1", "value": 2},
        {"op": "remove", "path": f"{lane}/source/hits/4"},
    ]
    told = {"attempt": str(uuid4()), "revision": 1}
    reply = mara.send("PUT", f"/pieces/{piece['id']}", told | {"changes": changes})
    assert set(reply.json()) == {"id", "revision", "stands_at", "changed_at"}
    now = mara.send("GET", f"/pieces/{piece['id']}").json()["document"]["patterns"][0]["lanes"][0]
    assert (now["velocity"], now["source"]["hits"]) == (64, [0, 2, 4, 8])


NOWHERE = "/patterns/7/lanes/0/velocity"


@pytest.mark.parametrize(
    ("operation", "said"),
    [
        ({"op": "replace", "path": NOWHERE, "value": 1}, f"cannot replace what is at “{NOWHERE}”"),
        ({"op": "remove", "path": "/patterns/0/lanes/0/nothing"}, "cannot remove what is at"),
        ({"op": "add", "path": "/name/first", "value": "x"}, "cannot add what is at"),
        ({"op": "add", "path": "no pointer", "value": 1}, "cannot add what is at"),
        ({"op": "replace", "path": "/tempo", "value": 4000}, "Tempo"),
        ({"op": "replace", "path": "", "value": 3}, "dictionary"),
        ({"op": "copy", "from": "", "path": "/kit", "value": 1}, "Changes"),
    ],
)
def test_changes_that_do_not_fit_are_refused_and_nothing_is_stored(mara, operation, said):
    piece = mara.new_piece()
    good = {"op": "replace", "path": "/patterns/0/lanes/0/velocity", "value": 64}
    refused = mara.send(
        "PUT",
        f"/pieces/{piece['id']}",
        {"attempt": str(uuid4()), "revision": 1, "changes": [good, operation]},
    )
    assert refused.status_code == 422, refused.content
    assert said.lower() in refused.json()["error"]["message"].lower()
    assert mara.send("GET", f"/pieces/{piece['id']}").json() == piece
