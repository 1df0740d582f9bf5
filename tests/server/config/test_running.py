"""How it runs for others: what the environment says, what is checked, told, logged, counted, and given up."""

import importlib
import logging
import os
import re
import runpy
import subprocess
import sys
from io import BytesIO
from pathlib import Path

import orjson
import pytest
from config import checks, environment, slow
from config.requests import WithRequest
from django.apps import apps
from django.core.checks import Error, Warning
from django.core.management import call_command
from django.db import DatabaseError, connection
from django.db.migrations import AddField, RemoveField
from django.db.migrations.loader import MigrationLoader
from django.db.migrations.operations import DeleteModel, RenameField
from django.db.models import NOT_PROVIDED
from django.test import Client

SERVER = Path(__file__).resolve().parents[3] / "server"
GOOD = {
    "JOLLY_SECRET": "only-of-this-test-and-of-nobody-else-anywhere-but-here",
    "JOLLY_DB_PASSWORD": "secret",
    "JOLLY_HTTPS": "1",
    "JOLLY_PROXIES": "1",
    "JOLLY_MAIL_HOST": "mail.example",
    "JOLLY_NAMES": "lattice.example",
}


def in_process_of_its_own(*command, **of):
    """Run Python with *of* in its environment and nothing else of ours."""
    plain = {name: value for name, value in os.environ.items() if not name.startswith("JOLLY_")}
    of = {"PYTHONPATH": "..:."} | of
    return subprocess.run(
        [sys.executable, *command], cwd=SERVER, env=plain | of, capture_output=True, text=True, check=False
    )


@pytest.fixture
def run_with(monkeypatch, settings):
    """Return a function that reads the settings anew from an environment, for the rest of the test."""

    def read(of):
        for name in [*os.environ]:
            if name.startswith("JOLLY_"):
                monkeypatch.delenv(name)
        for name, value in of.items():
            monkeypatch.setenv(name, value)
        monkeypatch.setattr(environment, "misunderstood", [])
        for name, value in runpy.run_path(str(SERVER / "config/settings.py")).items():
            if name.isupper() and name != "DATABASES":
                setattr(settings, name, value)
            elif name == "DATABASES":  # the connection is the tests' own
                monkeypatch.setitem(settings.DATABASES["default"], "PASSWORD", value["default"]["PASSWORD"])

    return read


def test_what_is_set_as_it_should_be_passes_the_check_and_starts():
    checked = in_process_of_its_own("manage.py", "check", "--deploy", "--fail-level", "WARNING", **GOOD)
    assert checked.returncode == 0, checked.stderr
    started = in_process_of_its_own("-c", "import config.wsgi", **GOOD)
    assert started.returncode == 0, started.stderr


# Name, value, and what is said of it.
WRONG = [
    ("JOLLY_SECRET", "", "JOLLY_SECRET is not set: it signs cookies and links"),
    ("JOLLY_SECRET", "short", "JOLLY_SECRET is too short"),
    ("JOLLY_DB_PASSWORD", "", "JOLLY_DB_PASSWORD is not set"),
    ("JOLLY_LOG", "loud", "JOLLY_LOG is line or json, not “loud”."),
    ("JOLLY_PROXIES", "some", "JOLLY_PROXIES is a whole number from 0 on, not “some”."),
    ("JOLLY_HTTPS", "yes", "JOLLY_HTTPS is 1 or 0, not “yes”."),
]


@pytest.mark.parametrize(("name", "value", "sentence"), WRONG)
def test_what_keeps_it_from_starting_is_said_in_a_sentence(run_with, name, value, sentence):
    run_with(GOOD | {name: value})
    (problem,) = checks.problems()
    assert problem.startswith(sentence)
    assert [one.msg for one in checks.for_others() if isinstance(one, Error)] == [problem]


def test_all_that_keeps_it_from_starting_is_said_at_once_by_the_check_and_the_server():
    of = GOOD | {name: value for name, value, _ in WRONG}
    said = {sentence for name, value, sentence in WRONG if of[name] == value}
    assert len(said) == len(WRONG) - 1  # one name twice
    for command in (("manage.py", "check", "--deploy"), ("-c", "import config.wsgi")):
        ended = in_process_of_its_own(*command, **of)
        assert ended.returncode != 0
        assert [sentence for sentence in said if sentence not in ended.stderr] == []


@pytest.mark.parametrize(
    ("name", "value", "sentence"),
    [
        ("JOLLY_DEMO", "1", "anybody comes in as the demo musician"),
        ("JOLLY_HTTPS", "0", "passwords travel unencrypted"),
        ("JOLLY_PROXIES", "0", "all who sign in seem to come from the proxy's address"),
        ("JOLLY_MAIL_HOST", "", "reaches nobody"),
    ],
)
def test_what_should_not_be_so_for_others_is_a_warning(run_with, name, value, sentence):
    run_with(GOOD)
    assert checks.for_others() == []
    run_with(GOOD | {name: value})
    (warning,) = checks.for_others()
    assert isinstance(warning, Warning)
    assert sentence in warning.msg


def test_behind_a_proxy_that_encrypts_cookies_are_secure_and_browsers_insist(run_with, db):
    run_with(GOOD)
    page = Client(headers={"X-Forwarded-Proto": "https", "Host": "lattice.example"}).get("/")
    assert page.headers["Strict-Transport-Security"] == "max-age=31536000"
    assert page.cookies["csrftoken"]["secure"]
    plain = Client(headers={"Host": "lattice.example"})
    assert (plain.get("/").status_code, plain.get("/health").status_code) == (301, 200)
    assert Client(headers={"Host": "elsewhere.example"}).get("/health").status_code == 400


def test_numbers_and_flags_are_read_from_the_environment(monkeypatch):
    monkeypatch.setattr(environment, "misunderstood", [])
    monkeypatch.setenv("JOLLY_THIS", " 7 ")
    monkeypatch.setenv("JOLLY_THOSE", "a, b,,c")
    assert environment.number("THIS", 3) == 7
    assert environment.number("THAT", 3) == 3
    assert environment.names("THOSE") == ["a", "b", "c"]
    assert environment.number("THIS", 9, least=8) == 9
    assert environment.flag("THIS") is False
    assert len(environment.misunderstood) == 2
    assert checks.understood()[0].msg == environment.misunderstood[0]


def test_it_says_that_it_lives_and_whether_it_can_work(client, db, monkeypatch):
    assert client.get("/health").json() == {"lives": True}
    assert client.get("/ready").json() == {"ready": True}

    def gone(*_of):
        raise DatabaseError

    monkeypatch.setattr("config.health.MigrationExecutor", gone)
    reply = client.get("/ready")
    assert (reply.status_code, reply.json()["said"]) == (503, "The database does not answer.")


def test_a_database_that_is_behind_is_said(client, db, monkeypatch):
    monkeypatch.setattr(
        "django.db.migrations.executor.MigrationExecutor.migration_plan", lambda *_of: ["something"]
    )
    reply = client.get("/ready")
    assert (reply.status_code, reply.json()["said"]) == (503, "The database is to be migrated first.")


def test_each_request_has_an_id_that_a_proxy_may_give(client, db):
    assert re.fullmatch(r"[0-9a-f]{32}", client.get("/health")["X-Request-ID"])
    given = client.get("/health", headers={"X-Request-ID": "abcdef-123456"})
    assert given["X-Request-ID"] == "abcdef-123456"
    wrong = client.get("/health", headers={"X-Request-ID": "a\tb <script>"})
    assert re.fullmatch(r"[0-9a-f]{32}", wrong["X-Request-ID"])


def test_what_is_logged_says_the_route_and_not_who_or_what_words(mara, caplog):
    caplog.handler.addFilter(WithRequest())
    with caplog.at_level(logging.INFO, "jolly.requests"):
        reply = mara.send("GET", "/clips?words=ferryman")
    (line,) = [one for one in caplog.records if one.name == "jolly.requests"]
    told = vars(line)
    assert (told["method"], told["route"], told["status"]) == ("GET", "api/clips", 200)
    assert told["request"] == reply["X-Request-ID"]
    assert "ferryman" not in str(told)
    assert "mara" not in str(told)


def test_no_page_may_run_what_is_not_ours(client, db):
    for path in ("/", "/account/reset", "/api/session", "/nothing-here"):
        policy = client.get(path)["Content-Security-Policy"]
        assert "default-src 'self'" in policy
        assert "unsafe-eval" not in policy
        assert "script-src" not in policy
        assert "frame-ancestors 'none'" in policy


def test_metrics_are_for_who_has_their_token(client, db):
    ask = (
        "import os, django; os.environ['DJANGO_SETTINGS_MODULE'] = 'config.settings'; django.setup()\n"
        "from django.test import Client\n"
        "client = Client(headers={'Host': '127.0.0.1'}); client.get('/health')\n"
        "print(client.get('/metrics').status_code)\n"
        "reply = client.get('/metrics', headers={'Authorization': 'Bearer of-the-watch'})\n"
        "print(reply.status_code, 'django_http_requests_latency_seconds_by_view_method' in reply.content.decode())\n"
    )
    of = {name: value for name, value in os.environ.items() if name.startswith("JOLLY_DB")}
    asked = in_process_of_its_own(
        "-c", ask, **of | {"JOLLY_SECRET": GOOD["JOLLY_SECRET"], "JOLLY_METRICS_TOKEN": "of-the-watch"}
    )
    assert asked.stdout.split("\n")[:2] == ["403", "200 True"], asked.stderr
    assert client.get("/metrics").content == client.get("/nothing-here").content  # the page, without one


# ---- Bodies that come slowly ----


class Dripping:
    """A body of which nothing more comes after so many bytes."""

    def __init__(self, data):
        self.rest = BytesIO(data)

    def read(self, size):
        part = self.rest.read(min(size, 10))
        if not part:
            raise BlockingIOError
        return part


def answered(environ):
    """Return what an application behind `read_first` gets, or the status that it was refused with."""
    seen = []

    def application(environ, start_response):
        seen.append(environ["wsgi.input"].read())
        return [b""]

    said = []
    body = slow.read_first(application)(environ, lambda status, headers: said.append((status, dict(headers))))
    return seen[0] if seen else (said[0], orjson.loads(b"".join(body)))


def test_a_body_is_there_whole_before_anything_is_done():
    data = b"x" * 200_000
    assert answered({"CONTENT_LENGTH": str(len(data)), "wsgi.input": BytesIO(data)}) == data
    assert answered({"CONTENT_LENGTH": "", "wsgi.input": BytesIO(b"not read")}) == b"not read"


def test_a_body_that_stops_is_refused_with_a_sentence():
    (status, headers), said = answered({"CONTENT_LENGTH": "400", "wsgi.input": Dripping(b"x" * 40)})
    assert (status, headers["Connection"]) == ("408 Request Timeout", "close")
    assert said["error"]["message"] == "This came too slowly and was not taken: send it again."


def test_a_body_that_drips_is_refused_when_its_time_is_over(monkeypatch):
    clock = iter(range(0, 10_000, 3))
    monkeypatch.setattr(slow, "monotonic", lambda: next(clock))
    (status, _), _ = answered({"CONTENT_LENGTH": "400", "wsgi.input": Dripping(b"x" * 400)})
    assert status == "408 Request Timeout"


# ---- What may be computed ----


def test_who_has_had_a_minutes_time_is_told_when_to_go_on(mara, joon, settings, monkeypatch):
    clock = iter(range(100_000))
    settings.SECONDS_A_MINUTE = 3
    monkeypatch.setattr("config.budget.thread_time", lambda: next(clock))  # a second for each answer
    replies = [mara.send("GET", "/pieces") for _ in range(4)]
    assert [one.status_code for one in replies] == [200, 200, 200, 429]
    assert 0 < int(replies[3]["Retry-After"]) <= 60
    assert "As much was computed for you as may be in a minute" in replies[3].json()["error"]["message"]
    assert joon.send("GET", "/pieces").status_code == 200
    assert mara.get("/health").status_code == 200


def test_who_is_not_signed_in_pays_by_address(nobody, settings, monkeypatch):
    clock = iter(range(100_000))
    settings.PROXIES, settings.SECONDS_A_MINUTE_UNKNOWN = 1, 1
    monkeypatch.setattr("config.budget.thread_time", lambda: next(clock))

    def asked(address):
        return nobody.get("/api/session", headers={"X-Forwarded-For": address}).status_code

    assert [asked("198.51.100.7"), asked("198.51.100.7"), asked("198.51.100.8")] == [200, 429, 200]


def test_a_token_pays_as_its_owner(mara, nobody, settings, monkeypatch):
    secret = mara.send("POST", "/tokens", {"name": "night script"}).json()["secret"]
    clock = iter(range(100_000))
    settings.SECONDS_A_MINUTE = settings.SECONDS_A_MINUTE_UNKNOWN = 2
    monkeypatch.setattr("config.budget.thread_time", lambda: next(clock))
    asked = [
        nobody.get("/api/pieces", headers={"Authorization": f"Bearer {secret}"}).status_code for _ in range(3)
    ]
    assert asked[-1] == 429
    assert nobody.send("GET", "/session").status_code == 200


# ---- Upgrades ----

FIRST_OF_MANY = {"accounts": 3, "pieces": 7, "clips": 7, "takes": 4, "sounds": 2, "library": 2, "ports": 2}


@pytest.mark.django_db
def test_migrations_leave_what_servers_of_the_version_before_work_with():
    """New columns may be empty or have a value of the database's own; nothing is taken away or called otherwise."""
    for (app, name), migration in MigrationLoader(connection).disk_migrations.items():
        if app not in FIRST_OF_MANY or int(name[:4]) < FIRST_OF_MANY[app]:
            continue
        for operation in migration.operations:
            assert not isinstance(operation, RemoveField | RenameField | DeleteModel), f"{app} {name}"
            if isinstance(operation, AddField):
                field = operation.field
                assert field.null or field.db_default is not NOT_PROVIDED, f"{app} {name} {operation.name}"


def test_every_app_is_looked_at_when_it_is_migrated():
    ours = {one.label for one in apps.get_app_configs() if SERVER in Path(one.path).parents}
    migrated = {app for app in ours if (SERVER / app / "migrations").exists()}
    assert migrated == set(FIRST_OF_MANY)
    assert importlib.import_module("config.settings").SILENCED_SYSTEM_CHECKS == [
        "security.W005",
        "security.W021",
    ]


@pytest.mark.django_db
def test_what_is_checked_passes_here(capsys):
    call_command("check")
    assert "no issues" in capsys.readouterr().out
