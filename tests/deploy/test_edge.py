"""What nginx and the server do about those who send badly, and what they tell those who watch."""

import re
import select
import shutil
import socket
import subprocess
from pathlib import Path

import pytest
import requests

from tests.deploy.stage import PATIENCE, Musician

ROOT = Path(__file__).resolve().parents[2]


def sent(address, data):
    """Return a connection to *address* over which *data* was sent."""
    host, _, port = address.removeprefix("http://").partition(":")
    connection = socket.create_connection((host, int(port)), timeout=PATIENCE)
    connection.sendall(data)
    return connection


HALF = b"POST /api/session HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 4000\r\nContent-Type: application/json\r\n\r\n{"
HALF_HEADER = b"GET /api/session HTTP/1.1\r\nHost: 127.0.0"


@pytest.mark.parametrize("half", [HALF, HALF_HEADER], ids=["body", "header"])
def test_half_sent_requests_hold_nobody_up_behind_nginx(stage, half):
    """Ten times as many as the servers have threads are waited for, all of them, while another is answered."""
    for _ in range(5):  # if the machine stalls, nginx may time out some of them first: try again
        held = [sent(stage.address, half) for _ in range(80)]
        try:
            assert requests.get(f"{stage.address}/api/session", timeout=PATIENCE).status_code == 200
            given_up, _, _ = select.select(held, [], [], 0)
        finally:
            for one in held:
                one.close()
        if not given_up:
            return
    pytest.fail(f"{len(given_up)} of {len(held)} were given up before another was answered")


@pytest.mark.parametrize("half", [HALF, HALF_HEADER], ids=["body", "header"])
def test_half_sent_requests_are_given_up_by_a_server_alone(stage, half):
    address = stage.addresses()[1]
    held = [sent(address, half) for _ in range(6)]
    try:
        assert requests.get(f"{address}/api/session", timeout=PATIENCE).status_code == 200
        answered = [one.recv(2_000) for one in held]
        # With a body it is known what was asked: that is told. Half a header is no request yet.
        if half is HALF:
            assert [answer.partition(b"\r\n")[0] for answer in answered] == [
                b"HTTP/1.1 408 Request Timeout"
            ] * 6
        else:
            assert all(answer == b"" or b" 408 " in answer.partition(b"\r\n")[0] for answer in answered)
    finally:
        for one in held:
            one.close()


def test_what_is_too_large_is_refused_before_it_is_sent_on(stage):
    reply = requests.post(f"{stage.address}/api/session", data=b"x" * 40_000_000, timeout=PATIENCE)
    assert (reply.status_code, reply.json()["error"]["code"]) == (413, "too-large")


def test_files_come_compressed_and_for_ever_and_the_page_comes_anew(stage):
    page = requests.get(f"{stage.address}/", timeout=PATIENCE)
    assert page.headers["Cache-Control"] == "no-cache"
    script = re.search(r"/static/assets/index-[\w-]+\.js", page.text)[0]
    reply = requests.get(f"{stage.address}{script}", headers={"Accept-Encoding": "gzip"}, timeout=PATIENCE)
    assert reply.headers["Content-Encoding"] == "gzip"
    assert "immutable" in reply.headers["Cache-Control"]
    assert "Last-Modified" in reply.headers
    assert reply.headers["Server"] == "nginx"
    # No script but ours, none written into the page.
    policy = page.headers["Content-Security-Policy"]
    assert "default-src 'self'" in policy
    assert "script-src" not in policy
    assert "<script>" not in page.text


def test_each_request_has_an_id_from_the_edge_to_the_log(stage):
    musician = Musician(stage.address)
    reply = musician.ask("GET", "/clips?words=secret")
    named = reply.headers["X-Request-ID"]
    logs = "".join(one.read_text() for one in stage.folder.glob("server-*.log"))
    (line,) = [line for line in logs.splitlines() if named in line]
    assert '"route":"api/clips"' in line
    assert '"status":200' in line
    assert "secret" not in logs
    assert "demo musician" not in logs


def test_what_only_those_see_who_watch_is_not_to_be_had_from_outside(stage):
    assert requests.get(f"{stage.address}/metrics", timeout=PATIENCE).status_code == 404


@pytest.mark.skipif(shutil.which("systemd-analyze") is None, reason="systemd is not here")
def test_the_units_are_what_systemd_understands(tmp_path):
    for unit in (ROOT / "deploy/systemd").iterdir():
        text = (
            unit.read_text()
            .replace("/opt/jolly-lattice/", f"{ROOT}/")
            .replace("=/opt/jolly-lattice", f"={ROOT}")
        )
        (tmp_path / unit.name).write_text(text)
    units = [
        str(tmp_path / unit.name.replace("@.", "@8031.")) for unit in (ROOT / "deploy/systemd").iterdir()
    ]
    (tmp_path / "jolly-lattice@8031.service").symlink_to(tmp_path / "jolly-lattice@.service")
    said = subprocess.run(["systemd-analyze", "verify", *units], capture_output=True, text=True, check=False)
    ours = [line for line in said.stderr.splitlines() if "jolly-lattice" in line]
    assert ours == []


def test_the_site_is_what_nginx_understands(tmp_path):
    certificate = tmp_path / "fullchain.pem"
    subprocess.run(
        ["openssl", "req", "-x509", "-newkey", "rsa:2048", "-nodes", "-subj", "/CN=lattice.example", "-days", "1",
         "-keyout", tmp_path / "key.pem", "-out", certificate], check=True, capture_output=True,
    )  # fmt: skip
    site = (ROOT / "deploy/nginx/site.conf").read_text()
    site = site.replace("/opt/jolly-lattice", str(ROOT)).replace("/etc/ssl/lattice.example", str(tmp_path))
    config = tmp_path / "nginx.conf"
    config.write_text(f"pid {tmp_path}/pid; events {{}} http {{ access_log off; {site} }}")
    said = subprocess.run(
        ["/usr/sbin/nginx", "-t", "-p", tmp_path, "-c", config, "-e", tmp_path / "error.log"],
        capture_output=True, text=True, check=False,
    )  # fmt: skip
    assert said.returncode == 0, said.stderr
