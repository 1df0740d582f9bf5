"""Whatever is sent, the answer is a sentence in the one shape of errors; what fails is in the log."""

from time import monotonic
from typing import Any

import orjson
import pytest
from accounts.models import User
from clips import services as clip_services
from clips.models import Clip
from config import middleware
from django.conf import settings
from django.db import OperationalError
from django.http import HttpResponse
from django.test import Client, RequestFactory
from pieces import services
from pieces.models import Piece

from lattice.clips import Note
from lattice.clips.drawn import MOST_DRAWN
from lattice.document import Score
from tests.lattice.clips.clips import clip
from tests.lattice.scores import lane, score

NESTED = b"[" * 5000 + b"]" * 5000


def told(reply: Any, status: int) -> str:
    """Return the sentence of an error answer, which has the declared shape."""
    assert reply.status_code == status, (reply.status_code, reply.content[:300])
    error = reply.json()["error"]
    assert set(error) == {"code", "message", "problems"}
    assert error["message"]
    return str(error["message"])


def document(asked: Score) -> dict[str, Any]:
    return asked.model_dump(mode="json")


def keeping(**fields: Any) -> dict[str, Any]:
    asked = score(lane())
    tape = {"from_tick": 0, "now_tick": 53760, "meter": {}, "tracks": [{"lane": "Thud", "lane_id": "thud"}]}
    tape["tracks"][0]["notes"] = [[0, 100, 36, 90]]
    return {
        "piece": "Night Ferry",
        "pattern": "A",
        "score": document(asked),
        "dice": 1,
        "tape": tape,
        "bars": 1,
    } | fields


# ---- Signs that cannot be stored ----


@pytest.mark.parametrize(
    ("method", "path", "body"),
    [
        ("POST", "/session", {"name": "a\x00b", "password": "x"}),
        ("POST", "/pieces", {"name": "a\x00b"}),
        ("PATCH", "/clips/1", {"tags": ["a\x00b"]}),
        ("PATCH", "/clips/1", {"set_name": "a\x00b"}),
        ("PUT", "/pieces/1", {"revision": 1, "moments": [{"label": "a\x00b"}]}),
        ("POST", "/clips", {"keeping": "12345678\x00"}),
        ("GET", "/clips?words=%00", None),
        ("GET", "/clips?set_name=%00", None),
        ("GET", "/clips?tag=%00", None),
    ],
)
def test_a_sign_that_cannot_be_stored_is_refused_in_a_sentence(mara, method, path, body):
    assert "NUL" in told(mara.send(method, path, body), 422)


def test_a_text_that_only_looks_like_one_is_no_such_sign(mara):
    assert mara.send("POST", "/pieces", {"name": r"a\u0000b"}).status_code == 201


# ---- Bodies that are none ----


@pytest.mark.parametrize("path", ["/api/render", "/api/pieces", "/api/clips", "/api/pieces/import"])
def test_what_is_nested_too_deep_is_refused(mara, path):
    for body in (NESTED, b'{"score":' + NESTED + b"}"):
        reply = mara.post(path, body, content_type="application/json")
        assert reply.status_code in (400, 422), reply.content[:200]
        assert reply.json()["error"]["message"]


def test_a_form_where_json_is_read_is_refused(mara):
    for path in ("/api/pieces", "/api/render", "/api/session"):
        assert told(mara.post(path, {"name": "x"}), 400)


@pytest.mark.parametrize("asked", ["split=thirds", "each=perhaps", "name=" + "x" * 300])
def test_a_wrong_word_in_an_address_is_named(mara, asked):
    reply = mara.post(f"/api/clips/import?{asked}", b"MThd\xff", content_type="audio/midi")
    assert asked.split("=")[0] in told(reply, 422)


def test_a_sound_without_its_file_is_refused(mara):
    assert "file" in told(mara.post("/api/sounds", {}), 422)
    assert told(mara.post("/api/sounds", b"x", content_type="multipart/form-data"), 400)


def test_a_take_beyond_the_last_bar_is_refused(mara):
    far = 1_000_001 * 53760
    tape = {"from_tick": far, "now_tick": far + 53760, "meter": {}, "tracks": []}
    assert "first bar" in told(mara.send("POST", "/takes/tape", keeping(tape=tape)), 422)


def test_keeping_once_more_what_was_deleted_stores_nothing_twice(mara):
    body = keeping(keeping="1234-5678")
    kept = mara.send("POST", "/clips", body).json()
    assert mara.send("DELETE", f"/clips/{kept['id']}").status_code == 204
    again = mara.send("POST", "/clips", body)
    assert (again.status_code, again.json()["id"]) == (201, kept["id"])
    assert Clip.objects.count() == 1


# ---- Sizes ----


def test_what_is_too_large_is_refused_before_it_is_read_and_before_signing_in():
    class Unread:
        def read(self, *_: Any) -> bytes:
            raise AssertionError("the body was read")

    for path, limit in middleware.LIMITS:
        request = RequestFactory().generic("POST", path, b"")
        request.META |= {"CONTENT_LENGTH": str(limit + 2**20), "wsgi.input": Unread()}
        reply = middleware.limited_bodies(lambda _: pytest.fail("it was let in"))(request)
        assert reply.status_code == 413
        assert "too large" in orjson.loads(reply.content)["error"]["message"]
        assert reply["Connection"] == "close"


def test_every_body_that_a_page_sends_fits():
    files = (
        "/api/account/everything",
        "/api/sounds",
        "/api/clips/import",
    )  # they go through no memory, or are bytes
    assert all(
        limit <= settings.DATA_UPLOAD_MAX_MEMORY_SIZE
        for path, limit in middleware.LIMITS
        if path not in files
    )


# ---- Time ----


def test_what_takes_too_long_is_stopped_with_a_sentence(monkeypatch):
    monkeypatch.setattr(middleware, "SECONDS", 0.05)
    went_on = []

    def endless(_: Any) -> HttpResponse:
        while True:
            went_on.append(1)
            went_on.clear()

    reply = middleware.limited_time(endless)(RequestFactory().get("/api/render"))
    assert reply.status_code == 503
    assert "stopped" in orjson.loads(reply.content)["error"]["message"]


def test_a_short_deadline_does_not_wait_for_a_long_one(monkeypatch):
    def endless(_: Any) -> HttpResponse:
        while True:
            pass

    def short_within(request: Any) -> Any:
        monkeypatch.setattr(middleware, "SECONDS", 0.05)
        return middleware.limited_time(endless)(request)

    reply = middleware.limited_time(short_within)(RequestFactory().get("/api/render"))
    assert reply.status_code == 503


def test_a_deadline_that_was_met_stops_nothing(monkeypatch):
    monkeypatch.setattr(middleware, "SECONDS", 2)  # much longer than a machine stands still
    answer = middleware.limited_time(lambda _: HttpResponse("done"))
    for _ in range(50):
        assert answer(RequestFactory().get("/")).content == b"done"
    past = monotonic() + 2.2
    while monotonic() < past:  # a thread is stopped between two of its steps
        pass


# ---- What fails ----


def test_a_database_that_is_gone_is_said_and_may_be_tried_again(mara, monkeypatch, caplog):
    def gone(*_: Any) -> None:
        raise OperationalError("the connection is lost")

    monkeypatch.setattr(services, "shelf", gone)
    reply = mara.send("GET", "/pieces")
    assert "database" in told(reply, 503)
    assert int(reply["Retry-After"]) > 0
    assert "the connection is lost" in caplog.text


def test_what_fails_answers_in_the_same_shape_and_leaves_a_traceback(mara, monkeypatch, caplog):
    def broken(*_: Any) -> None:
        raise ZeroDivisionError("of our own making")

    monkeypatch.setattr(services, "shelf", broken)
    assert "went wrong" in told(mara.send("GET", "/pieces"), 500)
    assert "Traceback" in caplog.text
    assert "of our own making" in caplog.text


def test_what_fails_outside_of_an_endpoint_has_the_same_shape(mara, monkeypatch):
    def broken(_: Any, __: Any) -> None:
        raise ZeroDivisionError

    monkeypatch.setattr("django.contrib.sessions.middleware.SessionMiddleware.process_request", broken)
    browser = Client(raise_request_exception=False)
    assert "went wrong" in told(browser.get("/api/pieces"), 500)
    assert "Please try again" in browser.get("/shelf").content.decode()


def test_an_address_of_the_api_at_which_nothing_is_says_so(mara):
    assert told(mara.get("/api/nowhere"), 404)
    assert told(
        Client(enforce_csrf_checks=True).post("/api/render", b"{}", content_type="application/json"), 403
    )


def test_no_page_of_the_api_fetches_scripts_from_elsewhere(mara):
    assert told(mara.get("/api/docs"), 404)


# ---- What is stored and cannot be read ----


def test_one_unreadable_piece_hides_no_other_and_can_be_exported_and_deleted(mara):
    good, bad = mara.new_piece("Slack Water"), mara.new_piece("Low Tide")
    broken = {**bad["document"], "tempo": "fast"}
    Piece.objects.filter(pk=bad["id"]).update(document=broken)
    listed = {one["id"]: one for one in mara.send("GET", "/pieces").json()["pieces"]}
    assert listed[good["id"]]["unreadable"] == ""
    assert "tempo" in listed[bad["id"]]["unreadable"]
    assert listed[bad["id"]]["name"] == "Low Tide"
    assert orjson.loads(mara.send("GET", f"/pieces/{bad['id']}.json").content) == broken
    assert told(mara.send("GET", f"/pieces/{bad['id']}"), 422)
    assert mara.send("DELETE", f"/pieces/{bad['id']}").status_code == 204


def test_one_unreadable_clip_hides_no_other(mara):
    one, other = (mara.send("POST", "/clips", keeping()).json() for _ in range(2))
    Clip.objects.filter(pk=one["id"]).update(document={"name": "Torn"})
    listed = {row["id"]: row for row in mara.send("GET", "/clips").json()["clips"]}
    assert listed[one["id"]]["unreadable"]
    assert listed[other["id"]]["unreadable"] == ""


def test_a_clip_of_many_notes_is_listed_as_it_is(mara):
    notes = tuple(Note(at * 90, 80, 36 + at % 5, 90) for at in range(1_100))
    clip_services.store(User.objects.get(username="mara"), clip(notes))
    (listed,) = mara.send("GET", "/clips").json()["clips"]
    assert (listed["unreadable"], listed["notes"], listed["bars"]) == ("", 1_100, 2)
    assert 0 < len(listed["tracks"][0]["notes"]) <= MOST_DRAWN


def test_a_fault_of_ours_is_not_said_to_be_the_clips(mara, monkeypatch):
    mara.send("POST", "/clips", keeping())

    def broken(*_of):
        raise ValueError("not enough values to unpack")

    monkeypatch.setattr("clips.schemas.drawn_notes", broken)
    assert told(mara.send("GET", "/clips"), 500)


# ---- How much may be asked for ----


def all_at_once(bars: int = 64) -> dict[str, Any]:
    """A small question for very many notes: a pool of 24 over octaves at every 1,024th of a bar."""
    pool = {"kind": "typed", "notes": list(range(40, 64))}
    one = lane(voice="low-reed", source={"kind": "drawn", "steps": 1, "hits": [0]})
    fast = one.model_dump(mode="json") | {
        "step_value": {"note": 64, "divisor": 16},
        "arpeggio": {"pool": pool, "order": "all", "octaves": 2},
    }
    return {"score": document(score()) | {"lanes": [fast]}, "dice": 1, "window": {"bars": bars}}


@pytest.mark.parametrize("path", ["/render", "/render/sounds"])
def test_a_small_question_for_millions_of_notes_is_refused(nobody, path):
    nobody.cookies["csrftoken"] = "x" * 32
    assert "50,000 is the most" in told(nobody.send("POST", path, all_at_once()), 422)


def test_alternatives_of_what_is_large_come_without_threads(nobody):
    nobody.cookies["csrftoken"] = "x" * 32
    asked = all_at_once() | {"lane": "thud", "setting": "arpeggio", "word": "note order"}
    found = nobody.send("POST", "/render/alternatives", asked).json()
    assert len(found) > 5
    assert [one["thread"] for one in found] == [None] * len(found)


def test_takes_of_it_are_refused_too(mara):
    asked = all_at_once()
    body = {"piece": "x", "pattern": "A", "score": asked["score"], "dice": 1, "bars": 64}
    reply = mara.send("POST", "/takes", body)
    sheet = reply.json()["sheet"]["id"] if reply.status_code == 201 else None
    refused = mara.send("GET", f"/takes/{sheet}/drawn") if sheet else reply
    assert "is the most" in told(refused, 422)
