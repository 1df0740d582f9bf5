"""Nobody reaches what is another's: every route that names something by its number is asked for it by somebody else."""

import re
from uuid import uuid4

import pytest
from accounts.models import User
from accounts.tokens import make
from config.api import api
from config.examples import EXAMPLES
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import transaction

from tests.server.operations.test_bundle import beep

SCHEMA = api.get_openapi_schema()
# What each number in a path is of; for a new one say here how it is made.
NUMBERS = {
    "piece_id": "piece",
    "clip_id": "clip",
    "sheet_id": "sheet",
    "sound_id": "sound",
    ("tokens", "number"): "token",
    ("invitations", "number"): "invitation",
    ("kits", "number"): "kit",
    ("starters", "number"): "starter",
    ("moments", "number"): "moment",
    ("takes", "number"): "take",
}
NOT_DELETED = ("pieces/{piece_id}", "clips/{clip_id}", "takes/{sheet_id}")


def routes():
    """Return the method, the path and the description of every route that names something."""
    return [
        (method.upper(), path, operation)
        for path, methods in SCHEMA["paths"].items()
        for method, operation in methods.items()
        if "{" in path
    ]


def kind_of(path, name):
    before = [part for part in path.split("{" + name)[0].split("/") if part and "{" not in part]
    return NUMBERS.get(name) or NUMBERS[before[-1], name]


def body_of(operation):
    content = operation.get("requestBody", {}).get("content", {}).get("application/json")
    if not content:
        return None
    return EXAMPLES.get(content["schema"].get("$ref", "").rpartition("/")[2], {})


@pytest.fixture
def theirs(mara, demo):
    """The numbers of what is the demo musician's, one of each kind."""
    mara.force_login(demo)
    sound = mara.post("/api/sounds", {"file": SimpleUploadedFile("beep.wav", beep())}).json()["id"]
    kit = mara.send("POST", "/kits", EXAMPLES["KeptKit"]).json()["id"]
    starter = mara.send("POST", "/starters", EXAMPLES["KeptStarter"]).json()["id"]
    sheet = mara.send("GET", "/takes").json()[0]["id"]
    token, _ = make(demo, "night script", "read")
    User.objects.filter(pk=demo.pk).update(is_staff=True)
    invitation = mara.send("POST", "/invitations", {"note": "Ines"}).json()["invitation"]["id"]
    return {
        "piece": mara.send("GET", "/pieces").json()["pieces"][0]["id"],
        "clip": mara.send("GET", "/clips").json()["clips"][0]["id"],
        "sheet": sheet,
        "sound": sound,
        "kit": kit,
        "starter": starter,
        "token": token.pk,
        "invitation": invitation,
        "moment": 1,
        "take": 1,
    }  # fmt: skip


def answers_to(hands, numbers):
    """Return status and code of what each route that names something answers; nothing of it stays."""
    answers = {}
    for method, path, operation in routes():
        named = re.findall(r"\{(\w+)\}", path)
        values = {name: "a" if name == "pattern_id" else numbers[kind_of(path, name)] for name in named}
        sent = body_of(operation)
        if isinstance(sent, dict) and "attempt" in sent:
            sent = sent | {"attempt": str(uuid4())}
        savepoint = transaction.savepoint()
        reply = hands.send(method, path.removeprefix("/api").format(**values), sent)
        transaction.savepoint_rollback(savepoint)
        code = reply.json()["error"]["code"] if reply.status_code >= 400 else ""
        answers[f"{method} {path}"] = reply.status_code, code
    return answers


def test_what_is_anothers_is_not_there(theirs, mara, joon):
    """Whose it is finds it by the same questions: so it is not there for the other, and not for want of a right question."""
    User.objects.filter(username="joon").update(is_staff=True)
    answers = answers_to(joon, theirs)
    assert answers == dict.fromkeys(answers, (404, "not-found"))
    assert len(answers) > 40
    own = answers_to(mara, theirs)  # she is signed in as the owner
    lost = {route for route, (status, _) in own.items() if status in (401, 403, 404) or status >= 500}
    assert lost == {f"POST /api/{one}/restore" for one in NOT_DELETED}  # there is nothing to bring back


def test_the_admin_is_for_those_who_may(mara):
    assert mara.get("/admin/", follow=True).request["PATH_INFO"] == "/admin/login/"
