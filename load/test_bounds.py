"""What grows, and what hostile files do: bounds that hold however long it goes on."""

import random
import statistics
import subprocess
import sys
import time
from io import BytesIO

import numpy as np
import orjson
import pytest
import soundfile
from accounts.models import User
from accounts.stored import use_of
from django.db import connection
from django.test import Client
from pieces import services
from pieces.changes import Operation
from pieces.models import Piece
from pieces.schemas import MomentIn, Save

from lattice.clips import take, take_clip
from lattice.document import score_of
from lattice.formats.midi import midi_file
from lattice.formats.piece_json import piece_json
from lattice.render import Window
from load.players import piece_of
from timings.conftest import milliseconds, tell

EDITS, FILES, RENDERS = 5_000, 10_000, 100_000


def table_size(name: str) -> float:
    """Return how many MB a table takes with its indexes and what lies beside it."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_total_relation_size(%s)", [name])
        return float(cursor.fetchone()[0]) / 2**20


@pytest.mark.django_db
def test_five_thousand_edits_of_sixteen_lanes():
    owner = User.objects.create_user("mara")
    stored = services.create(owner, piece_of(16))
    luck = random.Random(5)
    fields = ("velocity", "chance_percent", "rotate", "busy")
    for first in range(2, EDITS + 2, 20):
        moments = []
        for number in range(first, min(first + 20, EDITS + 2)):
            path = f"/patterns/0/lanes/{luck.randrange(16)}/{luck.choice(fields)}"
            change = Operation(op="replace", path=path, value=luck.randint(1, 7))
            moments.append(MomentIn(number=number, label=f"{path[-8:]} changed", changes=[change]))
        attempt = f"{first:036d}"
        stored = services.save_changes(
            owner, stored.pk, Save(attempt=attempt, revision=stored.revision, moments=moments)
        )
    opened = [
        milliseconds(lambda at=at: services.document_of(stored.pk, at), 3) for at in range(2, EDITS, 97)
    ]
    last = services.document_of(stored.pk, EDITS + 1)
    assert last == Piece.objects.get(pk=stored.pk).document
    size = use_of(owner)["moments"].bytes / 2**20
    tell(
        f"{EDITS:,} edits of 16 lanes",
        f"{size:.1f} MB, the table {table_size('pieces_moment'):.1f} MB",
        "under 20 MB",
    )
    tell(
        "a moment of them opens in",
        f"p50 {statistics.median(opened):.1f} ms, the longest {max(opened):.1f} ms",
        "under 50 ms",
    )
    assert size < 20


def broken(luck: random.Random, data: bytes) -> bytes:
    """Return *data* with some of it cut, changed, or put in twice."""
    out = bytearray(data)
    for _ in range(luck.randint(1, 12)):
        at, how = luck.randrange(len(out) or 1), luck.randrange(4)
        if how == 0:
            del out[at : at + luck.randint(1, 40)]
        elif how == 1:
            out[at : at + 4] = luck.randbytes(4)
        elif how == 2:
            out[at:at] = out[: luck.randint(1, 200)]
        else:
            out[at:at] = luck.choice([b"\xff" * 8, b"\x00" * 8, b"9" * 30, b"[" * 200, b'"' * 3])
    return bytes(out)


@pytest.mark.django_db
def test_ten_thousand_hostile_files(settings):
    settings.SECONDS_A_MINUTE = 100_000
    browser = Client()
    browser.force_login(User.objects.create_user("mara"))
    piece = piece_of(4)
    clip = take_clip(take(score_of(piece, piece.patterns[0]), 1, Window(bars=4)), "Many hands", "A")
    sound = BytesIO()
    soundfile.write(sound, np.sin(np.arange(800) / 9), 8_000, format="WAV")
    seeds = {
        "/api/clips/import?name=x": ("audio/midi", midi_file(clip)),
        "/api/pieces/import": ("application/json", piece_json(piece)),
        "/api/sounds": ("", sound.getvalue()),
    }
    luck, said, longest = random.Random(10), {}, 0.0
    for number in range(FILES):
        path, (kind, seed) = luck.choice(list(seeds.items()))
        data = broken(luck, seed)
        began = time.perf_counter()
        body, of = (data, {"content_type": kind}) if kind else ({"file": BytesIO(data)}, {})
        reply = browser.post(path, body, **of)
        longest = max(longest, time.perf_counter() - began)
        said[reply.status_code] = said.get(reply.status_code, 0) + 1
        assert reply.status_code < 500, (number, reply.content[:200])
        if reply.status_code >= 400:
            assert orjson.loads(reply.content)["error"]["message"].strip()
    told = ", ".join(f"{count:,} x {status}" for status, count in sorted(said.items()))
    tell(f"{FILES:,} hostile files", f"{told}; the longest {1000 * longest:.0f} ms", "5xx 0, hangs 0")


def _peak(renders: int) -> float:
    command = [sys.executable, "-m", "timings.many_scores", str(renders)]
    return float(subprocess.run(command, capture_output=True, text=True, check=True).stdout)


def test_memory_over_a_hundred_thousand_renders():
    peaks = [_peak(RENDERS // 20), _peak(RENDERS)]
    tell(
        f"memory after {RENDERS // 20:,} and {RENDERS:,} renders",
        " and ".join(f"{one:.0f} MB" for one in peaks),
        "the same",
    )
    assert peaks[1] < peaks[0] + 100
