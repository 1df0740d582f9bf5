"""All that is a musician's, exported and imported."""

import base64
from io import BytesIO
from zipfile import ZipFile

import numpy as np
import orjson
import pytest
import soundfile
from accounts.models import User
from clips.models import Clip
from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import CommandError, call_command
from operations.bundle import KINDS, read_bundle, write_bundle
from pieces.models import Moment, Piece
from sounds.models import Sound
from takes.models import TakeSheet

from lattice.document import DOCKSIDE, DocumentError
from tests.server.clips.test_clips import keeping
from tests.server.pieces.test_history import saved


def of(name):
    return User.objects.get(username=name)


def bundle(owner):
    file = BytesIO()
    write_bundle(owner, file)
    return file


def rewritten(file, name, change):
    """Return a bundle with the lines of one of its files changed."""
    out = BytesIO()
    with ZipFile(file) as old, ZipFile(out, "w") as new:
        for one in old.namelist():
            content = old.read(one)
            new.writestr(one, change(content) if one == name else content)
    return out


def beep():
    out = BytesIO()
    soundfile.write(out, np.sin(np.arange(2_000) / 9), 8_000, format="WAV")
    return out.getvalue()


def with_own_sound(mara):
    """Return the piece of a musician whose kit has a sound of their own."""
    sound = mara.post("/api/sounds", {"file": SimpleUploadedFile("beep.wav", beep())}).json()["sound"]
    piece = mara.new_piece()
    kit = DOCKSIDE.model_dump(mode="json")
    kit["voices"][0]["sound"] = sound
    document = piece["document"] | {"kit": kit}
    mara.save(piece, document=document, moments=[{"number": 2, "label": "own", "document": document}])
    return sound


def test_all_that_a_musician_has_is_there_elsewhere(demo, joon):
    file = bundle(demo)
    assert file.getbuffer().nbytes > 1_000
    stored = read_bundle(of("joon"), file)
    assert stored["pieces.piece"] == Piece.objects.filter(owner=demo).count() == 3
    for model, fields in (
        (Piece, ("document", "revision", "stands_at", "created_at", "changed_at")),
        (Clip, ("document", "tags", "set_name", "created_at")),
        (TakeSheet, ("score", "bars", "vary", "pattern_name")),
    ):
        ours, theirs = (
            list(model.objects.filter(owner=owner).order_by("pk").values_list(*fields))
            for owner in (demo, of("joon"))
        )
        assert ours == theirs, model
    kept = TakeSheet.objects.filter(owner=of("joon")).values_list("takes__clip__name", flat=True)
    assert any(name and "take" in name for name in kept)


def test_each_moment_opens_there_as_it_did_here(mara, joon):
    piece = saved(mara, mara.new_piece(), *range(1, 40))
    read_bundle(of("joon"), bundle(of("mara")))
    (there,) = Piece.objects.filter(owner=of("joon"))
    for number in (1, 16, 17, 18, 40):
        opened = [
            hands.send("GET", f"/pieces/{number_of}/moments/{number}").json()
            for hands, number_of in ((mara, piece["id"]), (joon, there.pk))
        ]
        assert opened[0] == opened[1]


def test_own_sounds_are_called_as_they_are_numbered_there(mara, joon):
    sound = with_own_sound(mara)
    read_bundle(of("joon"), bundle(of("mara")))
    (there,) = Sound.objects.filter(owner=of("joon"))
    piece = Piece.objects.get(owner=of("joon"))
    assert piece.document["kit"]["voices"][0]["sound"] == f"own-{there.pk}" != sound
    opened = joon.send("GET", f"/pieces/{piece.pk}/moments/2").json()["document"]
    assert opened["kit"]["voices"][0]["sound"] == f"own-{there.pk}"
    assert joon.send("GET", f"/sounds/{there.pk}").content[:4] == b"fLaC"


def test_people_and_other_programs_find_pieces_and_midi_files_in_it(demo):
    with ZipFile(bundle(demo)) as archive:
        names = archive.namelist()
        assert any(name.startswith("pieces/Night Ferry") and name.endswith(".json") for name in names)
        midi = [name for name in names if name.startswith("clips/")]
        assert len(midi) == Clip.objects.count()
        assert archive.read(midi[0])[:4] == b"MThd"


def test_it_goes_by_the_page_too_and_deleted_things_stay_behind(mara, joon):
    first, second = mara.new_piece(), mara.new_piece("Low Tide")
    mara.send("DELETE", f"/pieces/{first['id']}")
    reply = mara.send("GET", "/account/everything.zip")
    assert reply["Content-Disposition"] == 'attachment; filename="jolly-lattice.zip"'
    file = SimpleUploadedFile("jolly-lattice.zip", b"".join(reply.streaming_content))
    brought = joon.post("/api/account/everything", {"file": file}).json()
    assert brought == {"rows": {"pieces.piece": 1, "pieces.moment": 1}}
    assert [one["name"] for one in joon.send("GET", "/pieces").json()["pieces"]] == ["Low Tide"]
    assert second["id"] != Piece.objects.get(owner=of("joon")).pk


def line_changed(**fields):
    def change(content):
        first, *rest = content.splitlines()
        return b"\n".join([orjson.dumps(orjson.loads(first) | fields), *rest])

    return change


@pytest.mark.parametrize(
    ("name", "change", "said"),
    [
        ("about.json", lambda _: b"{}", "no export of an account"),
        ("about.json", lambda _: b'{"format": "jolly-lattice-account", "version": 9}', "1 can be read here, got 9"),
        ("rows/pieces.piece.jsonl", lambda _: b"nonsense\n", "Piece 1: it is no JSON object"),
        ("rows/pieces.piece.jsonl", line_changed(document={"name": 3}), "Piece 1: "),
        ("rows/pieces.piece.jsonl", line_changed(id=[1]), "Piece 1: "),
        ("rows/pieces.piece.jsonl", line_changed(revision=-1), "Piece 1: "),
        ("rows/pieces.moment.jsonl", line_changed(piece_id=99), "Moment 1: Piece: it belongs to something that is not"),
        ("rows/pieces.moment.jsonl", line_changed(document=None, changes=[{"op": "copy", "path": "/a", "from": "/b"}]), "Moment 1: "),
        ("rows/clips.clip.jsonl", line_changed(document={}), "Clip 1: "),
        ("rows/sounds.sound.jsonl", line_changed(data="AAAA"), "Sound 1: Data: it is no WAV"),
        ("rows/takes.take.jsonl", line_changed(dice="many"), "Take 1: "),
    ],
)  # fmt: skip
def test_what_is_wrong_in_it_is_said_with_its_row_and_nothing_is_stored(mara, joon, demo, name, change, said):
    with_own_sound(mara)
    Sound.objects.update(owner=demo)
    wrong = rewritten(bundle(demo), name, change)
    with pytest.raises(DocumentError) as refusal:
        read_bundle(of("joon"), wrong)
    assert said in str(refusal.value)
    assert not any(one.model.objects.filter(owner=of("joon")).exists() for one in KINDS if not one.parent)


def test_what_is_no_zip_and_what_unpacks_without_end_is_refused(mara, settings):
    with pytest.raises(DocumentError, match="no zip"):
        read_bundle(of("mara"), BytesIO(b"MThd"))
    settings.MEGABYTES_EACH = 1
    mara.new_piece()
    bomb = rewritten(bundle(of("mara")), "rows/pieces.piece.jsonl", lambda _: b"0" * 20_000_000)
    with pytest.raises(DocumentError, match="MB unpacked, at most"):
        read_bundle(of("mara"), bomb)


def test_moments_that_do_not_fit_are_said_when_they_are_opened(mara):
    piece = saved(mara, mara.new_piece(), 90)
    Moment.objects.filter(number=2).update(changes=[{"op": "replace", "path": "/nowhere/3", "value": 1}])
    refused = mara.send("GET", f"/pieces/{piece['id']}/moments/2")
    assert refused.status_code == 422
    assert "do not fit the moment before" in refused.json()["error"]["message"]


def test_what_a_clip_was_can_be_gone_back_to_elsewhere(mara, joon):
    kept = mara.send("POST", "/clips", keeping()).json()
    for number in (1, 2):
        mara.send(
            "POST",
            f"/clips/{kept['id']}/edits",
            {"revision": number, "action": {"kind": "delete"}, "chosen": [[0]]},
        )
    read_bundle(of("joon"), bundle(of("mara")))
    theirs = Clip.objects.get(owner=of("joon"))
    assert theirs.moments.filter(document__isnull=True).count() == 2
    for number in (3, 4):
        undone = joon.send("POST", f"/clips/{theirs.pk}/undo", {"revision": number}).json()
    assert [track["notes"] for track in undone["document"]["tracks"]] == [
        track["notes"] for track in kept["tracks"]
    ]
    theirs.moments.filter(number=2).update(changes=[{"op": "replace", "path": "/length_ticks", "value": "x"}])
    refused = joon.send("POST", f"/clips/{theirs.pk}/redo", {"revision": 5})
    assert refused.status_code == 422
    assert "length ticks must be a whole number" in refused.json()["error"]["message"]


def test_it_goes_by_command_too(mara, joon, tmp_path, capsys):
    mara.new_piece()
    file = tmp_path / "mara.zip"
    call_command("export_account", "mara", str(file))
    call_command("import_account", "joon", str(file))
    assert "1 pieces.piece" in capsys.readouterr().out
    for command in (
        ("export_account", "who", str(file)),
        ("import_account", "joon", str(tmp_path / "none")),
        ("export_account", "mara", str(tmp_path)),
    ):
        with pytest.raises(CommandError):
            call_command(*command)
    assert base64.b64encode(file.read_bytes()[:2]) == b"UEs="
