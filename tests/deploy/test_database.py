"""The database is stopped, started, read-only, full, slow: what is asked meanwhile is told so, and nothing is a fault."""

import pytest
import requests

from tests.deploy.stage import PATIENCE, Musician, until

SCORE = {
    "tempo": 112,
    "kit": {"name": "One", "voices": [{"id": "thud", "name": "Thud", "pitch": 36, "sound": "thud"}]},
    "lanes": [
        {
            "id": "thud",
            "name": "Thud",
            "voice": "thud",
            "source": {"kind": "euclidean", "hits": 5, "steps": 16},
        }
    ],
}
RENDER = {"score": SCORE, "dice": 1, "window": {"first_bar": 0, "bars": 2}}


@pytest.fixture
def at(stage):
    """The demo musician at a stage, with a piece; what was saved before."""
    musician = Musician(stage.address)
    piece = musician.new_piece()
    piece |= musician.save(piece, 90).json()
    return musician, piece


def told(reply):
    """Return what is said of a fault that passes: 503, when to ask again, and a sentence."""
    assert reply.status_code == 503, reply.text[:300]
    assert int(reply.headers["Retry-After"]) > 0
    error = reply.json()["error"]
    assert error["code"] in ("no-database", "no-server")
    return error["message"]


def test_a_database_that_is_stopped_is_said_and_rendering_goes_on_until_it_is_back(stage, at):
    musician, piece = at
    assert musician.ask("POST", "/render", RENDER).status_code == 200
    stage.stop_database()
    try:
        assert "cannot be reached just now" in told(musician.ask("GET", "/pieces"))
        told(musician.save(piece, 50))
        told(musician.ask("GET", "/session"))
        assert musician.ask("POST", "/render", RENDER).status_code == 200
        assert requests.get(f"{stage.address}/", timeout=PATIENCE).status_code == 200
        assert requests.get(f"{stage.address}/health", timeout=PATIENCE).status_code == 200
        assert requests.get(f"{stage.address}/ready", timeout=PATIENCE).status_code == 503
    finally:
        stage.start_database()
    until(lambda: musician.ask("GET", "/pieces").ok, "it is back without anybody's help")
    assert musician.save(piece, 51).json()["revision"] == piece["revision"] + 1


def test_connections_that_are_cut_are_made_anew(stage, at):
    """As when another database server takes over."""
    musician, piece = at
    with stage.database(superuser=True) as one:
        one.execute("SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE usename = 'lattice'")
    assert musician.save(piece, 60).json()["revision"] == piece["revision"] + 1


def test_a_database_that_may_not_be_written_yet_is_said_and_can_be_read(stage, at):
    """As one that has not taken over yet."""
    musician, piece = at
    with stage.database(superuser=True) as one:
        one.execute("ALTER ROLE lattice SET default_transaction_read_only = on")
        one.execute("SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE usename = 'lattice'")
        try:
            assert musician.ask("GET", f"/pieces/{piece['id']}").status_code == 200
            told(musician.save(piece, 61))
        finally:
            one.execute("ALTER ROLE lattice RESET default_transaction_read_only")
            one.execute("SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE usename = 'lattice'")
    assert musician.save(piece, 61).json()["revision"] == piece["revision"] + 1


def test_a_disc_that_is_full_is_said_and_nothing_is_half_stored(stage, at):
    musician, piece = at
    with stage.database() as one:
        one.execute(
            "CREATE FUNCTION full_disc() RETURNS trigger LANGUAGE plpgsql AS "
            "$$BEGIN RAISE EXCEPTION 'no space left on device' USING ERRCODE = '53100'; END$$"
        )
        one.execute("CREATE TRIGGER full_disc BEFORE INSERT ON pieces_moment EXECUTE FUNCTION full_disc()")
        try:
            told(musician.save(piece, 62))
            told(musician.ask("POST", "/pieces", {"name": "No room"}))
        finally:
            one.execute("DROP FUNCTION full_disc CASCADE")
    opened = musician.ask("GET", f"/pieces/{piece['id']}").json()
    assert opened["revision"] == piece["revision"]
    assert "No room" not in [one["name"] for one in musician.ask("GET", "/pieces").json()["pieces"]]
    assert musician.save(piece, 63).ok


def test_a_database_that_is_slow_holds_nobody_for_long(stage, at):
    musician, piece = at
    with stage.database() as one, one.transaction():
        one.execute("LOCK TABLE pieces_piece IN ACCESS EXCLUSIVE MODE")
        reply = musician.save(piece, 64)
        told(reply)
        # The database itself gave up after its two seconds, before anybody lost patience with the server.
        assert reply.json()["error"]["code"] == "no-database"
        assert musician.ask("POST", "/render", RENDER).status_code == 200
    assert musician.save(piece, 64).ok
