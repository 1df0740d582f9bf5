"""The API's contract, so that a change to it shows in review."""

import re
from pathlib import Path

import orjson
import pytest
from config.management.commands.openapi import schema_text
from config.refusal import Refusal
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


def asked_of_each(hands, **what):
    """Ask every operation of the API and return its answer beside what its description says of it."""
    for path, methods in orjson.loads(SNAPSHOT.read_bytes())["paths"].items():
        for method, operation in methods.items():
            address = re.sub(r"\{\w+\}", "1", path)
            reply = hands.generic(method.upper(), address, **what)
            yield f"{method.upper()} {path}", reply, operation


def wrong_with(reply, operation):
    """Return what is wrong with an answer: its code is not declared, or it is a refusal of another shape."""
    declared = operation["responses"].get(str(reply.status_code))
    if declared is None:
        return f"{reply.status_code} is not declared"
    if reply.status_code < 400:
        return None
    said = Refusal.model_validate_json(reply.content).error.message
    name = declared["$ref"].removeprefix("#/components/responses/")
    refused = orjson.loads(SNAPSHOT.read_bytes())["components"]["responses"][name]
    reference = refused["content"]["application/json"]["schema"]["$ref"]
    return None if said.strip() and reference.endswith("/Refusal") else f"{reference}: {said}"


# Whoever asks here leaves files of an answer open, which a server closes.
@pytest.mark.filterwarnings("ignore::pytest.PytestUnraisableExceptionWarning")
def test_whatever_is_asked_badly_is_refused_as_it_is_declared(mara, nobody):
    """By nobody, with a body that is no JSON, without the token against forged requests: what comes is what is said."""
    strict = type(nobody)(enforce_csrf_checks=True)
    strict.cookies = mara.cookies
    json = {"content_type": "application/json"}
    refused, wrong = set(), []
    for hands, what in ((nobody, json), (mara, {"data": b"{", **json}), (strict, {"data": b"{}", **json})):
        for name, reply, operation in asked_of_each(hands, **what):
            refused.add(reply.status_code)
            if found := wrong_with(reply, operation):
                wrong.append(f"{name}: {found}")
    assert wrong == []
    assert {400, 401, 403, 404, 422} <= refused


@pytest.mark.django_db
def test_the_migrations_are_complete():
    call_command("makemigrations", check=True, dry_run=True, verbosity=0)


def test_no_address_of_the_api_falls_through_to_the_page(client):
    assert client.get("/api/nothing-here").status_code == 404
