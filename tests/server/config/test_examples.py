"""The examples of the API's description: none is missing, and each is what it shows."""

import pytest
from config.api import api
from config.examples import ERRORS, EXAMPLES

SCHEMA = api.get_openapi_schema()
PATHS = SCHEMA["paths"]


def shown(content):
    """Return the example that *content* refers to."""
    name = content["examples"]["shown"]["$ref"].removeprefix("#/components/examples/")
    return SCHEMA["components"]["examples"][name]["value"]


def bodies():
    for path, methods in PATHS.items():
        for method, operation in methods.items():
            content = operation.get("requestBody", {}).get("content", {}).get("application/json")
            if content and "$ref" in content["schema"]:
                yield method.upper(), path, content


BODIES = list(bodies())
# What only computes: nothing has to be there before.
COMPUTES = [
    one
    for one in BODIES
    if one[1].startswith(("/api/render", "/api/melody", "/api/around", "/api/order", "/api/starters/begin"))
]
# What is made anew: nothing has to be there before either.
MAKES = [
    one for one in BODIES if one[1] in ("/api/pieces", "/api/takes", "/api/clips", "/api/kits", "/api/starters", "/api/tokens", "/api/ports/controllers", "/api/ports/recorded")
]  # fmt: skip


def test_every_body_has_an_example_and_no_example_is_left_over():
    assert [path for _, path, content in BODIES if "examples" not in content] == []
    named = {content["schema"]["$ref"].rpartition("/")[2] for _, _, content in BODIES}
    assert named == set(EXAMPLES)


@pytest.mark.parametrize(("method", "path", "content"), [*COMPUTES, *MAKES], ids=lambda one: str(one)[:40])
def test_what_an_example_sends_is_answered(mara, method, path, content):
    reply = mara.send(method, path.removeprefix("/api"), shown(content))
    assert reply.status_code in (200, 201), reply.content


def test_every_error_answer_shows_what_it_looks_like():
    for path, methods in PATHS.items():
        for method, operation in methods.items():
            for status, answer in operation["responses"].items():
                if int(status) < 400:
                    continue
                name = answer["$ref"].removeprefix("#/components/responses/")
                refused = SCHEMA["components"]["responses"][name]
                example = shown(refused["content"]["application/json"])["error"]
                assert example["code"] == ERRORS[int(status)][0], f"{method} {path} {status}"


def test_each_change_of_a_piece_and_of_a_clip_is_taken_as_shown(mara):
    piece = mara.send("POST", "/pieces", EXAMPLES["NewPiece"]).json()
    saved = mara.send("PUT", f"/pieces/{piece['id']}", EXAMPLES["Save"])
    assert saved.status_code == 200, saved.content
    renamed = mara.send("PATCH", f"/pieces/{piece['id']}", EXAMPLES["Naming"])
    assert renamed.status_code == 200, renamed.content
    named = mara.send("PATCH", f"/pieces/{piece['id']}/moments/2", EXAMPLES["PlaceName"])
    assert named.json()["name"] == "the good one"
    clip = mara.send("POST", "/clips", EXAMPLES["Keeping"]).json()["id"]
    for path, model in [
        ("edits", "ClipEdit"),
        ("undo", "Revision"),
        ("in-place", "InPlace"),
        ("lanes", "AsLanes"),
        ("pattern", "AsPattern"),
    ]:
        reply = mara.send("POST", f"/clips/{clip}/{path}", EXAMPLES[model])
        assert reply.status_code in (200, 201), (path, reply.content)
    other = mara.send("POST", "/clips", EXAMPLES["Keeping"]).json()["id"]
    joined = mara.send("POST", f"/clips/{other}/join", EXAMPLES["Join"] | {"other": clip})
    assert joined.status_code == 200, joined.content
    sheet = mara.send("POST", "/takes", EXAMPLES["Throwing"]).json()["sheet"]["id"]
    for path, model in [("more", "More"), ("vary", "Vary"), ("differences", "Opposed")]:
        assert mara.send("POST", f"/takes/{sheet}/{path}", EXAMPLES[model]).status_code == 200, path
