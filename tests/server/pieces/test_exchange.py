"""Pieces as files."""

import json

import pytest
from pieces.models import Piece

from lattice.formats.piece_json import piece_schema


def test_an_exported_piece_is_imported_the_same(mara, joon):
    piece = mara.new_piece("Nachtfähre №2")
    exported = mara.send("GET", f"/pieces/{piece['id']}.json")
    assert "attachment" in exported["Content-Disposition"]
    imported = joon.generic("POST", "/api/pieces/import", exported.content, content_type="application/json")
    assert imported.status_code == 201
    assert imported.json()["document"] == piece["document"]
    assert joon.send("GET", f"/pieces/{imported.json()['id']}/moments").json()[0]["label"] == "Imported"


@pytest.mark.parametrize(
    ("content", "says"),
    [
        (b"", "line 1, column 1: it is no JSON"),
        (b'{"name": "x", "patterns": [}', "line 1, column 28: it is no JSON"),
        (b'{"name": "x", "patterns": []}', "patterns"),
        (b"MThd", "it is no JSON"),
        (b'{"version": 4, "name": "x"}', "the version must be 3, not 4"),
    ],
)
def test_what_is_no_piece_is_refused_and_nothing_is_stored(mara, content, says):
    refused = mara.generic("POST", "/api/pieces/import", content, content_type="application/json")
    assert refused.status_code == 422
    assert says.lower() in refused.json()["error"]["message"].lower()
    assert Piece.objects.count() == 0


def test_the_schema_is_there_for_everybody(nobody):
    assert json.loads(nobody.send("GET", "/pieces/schema.json").content) == json.loads(
        json.dumps(piece_schema())
    )


def test_another_musicians_piece_is_not_exported(mara, joon):
    assert joon.send("GET", f"/pieces/{mara.new_piece()['id']}.json").status_code == 404
