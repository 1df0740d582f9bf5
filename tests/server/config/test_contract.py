"""The API's contract, so that a change to it shows in review."""

from pathlib import Path

import orjson
import pytest
from config.management.commands.openapi import schema_text
from django.core.management import call_command

from lattice.edits.beginnings import beginnings
from lattice.formats.piece_json import controls, plain_values

SNAPSHOT = Path("web/openapi.json")
PLAIN = Path("web/src/api/plain.json")
CONTROLS = Path("web/src/api/controls.json")
BEGINNINGS = Path("web/src/api/beginnings.json")


def test_the_schema_is_the_one_the_front_ends_types_are_made_from():
    assert orjson.loads(SNAPSHOT.read_bytes()) == orjson.loads(schema_text()), "run scripts/api"


def test_the_plain_values_that_the_front_end_leaves_out_are_the_engines():
    assert orjson.loads(PLAIN.read_bytes()) == plain_values(), "run scripts/api"


def test_the_controls_that_the_front_end_moves_are_the_engines():
    assert orjson.loads(CONTROLS.read_bytes()) == controls(), "run scripts/api"


def test_what_the_front_end_begins_with_is_the_engines():
    assert orjson.loads(BEGINNINGS.read_bytes()) == beginnings(), "run scripts/api"


def test_every_endpoint_declares_its_refusals():
    for path, methods in orjson.loads(schema_text())["paths"].items():
        for method, endpoint in methods.items():
            assert {"400", "403"} <= set(endpoint["responses"]), f"{method} {path}"
            for status in endpoint["responses"]:
                if int(status) >= 400:
                    reference = endpoint["responses"][status]["content"]["application/json"]["schema"]["$ref"]
                    assert reference.endswith("/Refusal")


@pytest.mark.django_db
def test_the_migrations_are_complete():
    call_command("makemigrations", check=True, dry_run=True, verbosity=0)


def test_no_address_of_the_api_falls_through_to_the_page(client):
    assert client.get("/api/nothing-here").status_code == 404
