"""A server that is killed while it keeps: every clip is there whole, with its first moment, or not at all."""

import os
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest
from accounts.models import User
from clips.models import Clip, ClipMoment
from django.db import connection

SERVER = Path(__file__).resolve().parents[3] / "server"
KEEPERS = """
import os, sys, django
sys.path[:0] = [os.getcwd(), os.path.dirname(os.getcwd())]
from config import settings
settings.DATABASES["default"]["NAME"] = sys.argv[1]
os.environ["DJANGO_SETTINGS_MODULE"] = "config.settings"
django.setup()
from accounts.models import User
from clips import services
from tests.lattice.clips.clips import clip
from lattice.clips import Note
long = clip(tuple(Note(at * 100, 50, 36, 90) for at in range(3000)), bars=8)
for line in sys.stdin:
    keeper = os.fork()
    if keeper == 0:
        owner = User.objects.get(username="mara")
        for number in range(10_000):
            name = {"name": f"Clip {number}"}
            services.store(owner, long.model_copy(update=name), keeping=f"keeping-{number}-{os.getpid()}")
            print(os.getpid(), flush=True)
    os.waitpid(keeper, 0)
    print("killed", flush=True)
"""


@pytest.mark.django_db(transaction=True)
def test_a_clip_is_there_whole_or_not_at_all():
    User.objects.create_user("mara", password="knows the way")
    name = connection.settings_dict["NAME"]
    command = [sys.executable, "-c", KEEPERS, str(name)]
    with subprocess.Popen(
        command, cwd=SERVER, stdin=subprocess.PIPE, stdout=subprocess.PIPE, env=dict(os.environ), text=True
    ) as keepers:
        assert keepers.stdin is not None
        assert keepers.stdout is not None
        for wait in (0.05, 0.11, 0.17, 0.23):
            print("next", file=keepers.stdin, flush=True)
            keeper = int(keepers.stdout.readline())  # it has stored one
            time.sleep(wait)
            os.kill(keeper, signal.SIGKILL)
            while keepers.stdout.readline() != "killed\n":
                pass
    while _others_there():  # until the database has let go of what they held
        time.sleep(0.05)
    stored = list(Clip.objects.all())
    assert len(stored) >= 4
    assert sorted(ClipMoment.objects.values_list("clip_id", flat=True)) == sorted(clip.pk for clip in stored)
    for clip in stored:
        assert len(clip.document["tracks"][0]["notes"]) == 3000
        assert clip.keeping


def _others_there() -> bool:
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT count(*) FROM pg_stat_activity WHERE datname = current_database() AND pid <> pg_backend_pid()"
            " AND backend_type = 'client backend'"
        )
        return bool(cursor.fetchone()[0])
