"""A collection of clips: searched, tagged, grouped, imported, and taken away together."""

import zipfile
from io import BytesIO

import mido
import pytest
from clips.models import Clip

from tests.server.clips.test_clips import keeping, listed


@pytest.fixture
def three(mara):
    """Three clips: two of Night Ferry in a set, one of Slack Water."""
    made = [
        mara.send("POST", "/clips", keeping(piece=piece)).json()
        for piece in ("Night Ferry", "Night Ferry", "Slack Water")
    ]
    for clip, body in zip(
        made,
        (
            {"name": "Last crossing", "set_name": "Verse", "tags": ["kept live"]},
            {"name": "Skerry Light", "set_name": "Verse", "tags": ["fill", "kept live"]},
            {"name": "Slack tide", "tags": ["fast"]},
        ),
        strict=True,
    ):
        assert mara.send("PATCH", f"/clips/{clip['id']}", body).status_code == 200
    return made


def names(hands, query=""):
    return sorted(clip["name"] for clip in hands.send("GET", f"/clips?{query}").json()["clips"])


@pytest.mark.parametrize(
    ("query", "found"),
    [
        ("words=CROSS", ["Last crossing"]),
        ("words=night%20ferry", ["Last crossing", "Skerry Light"]),
        ("words=ferry%20light", ["Skerry Light"]),
        ("words=verse", ["Last crossing", "Skerry Light"]),
        ("words=fil", ["Skerry Light"]),
        ("words=100%25", []),
        ("tag=kept%20live", ["Last crossing", "Skerry Light"]),
        ("tag=kept", []),
        ("set_name=Verse", ["Last crossing", "Skerry Light"]),
        ("set_name=", ["Slack tide"]),
        ("set_name=Verse&words=slack", []),
    ],
)
def test_clips_are_found_by_name_origin_set_and_tag(mara, three, query, found):
    assert names(mara, query) == found


def test_sets_and_tags_are_told_and_nobody_elses(mara, joon, three):
    page = mara.send("GET", "/clips").json()
    assert (page["total"], page["sets"], page["tags"]) == (3, ["Verse"], ["fast", "fill", "kept live"])
    assert joon.send("GET", "/clips").json() == {"clips": [], "total": 0, "sets": [], "tags": []}


def test_a_long_collection_comes_page_by_page(mara, three):
    template = Clip.objects.first()
    Clip.objects.bulk_create(
        Clip(owner_id=template.owner_id, document=template.document | {"name": f"Clip {number}"})
        for number in range(60)
    )
    first, second = (mara.send("GET", f"/clips?first={start}").json() for start in (0, 50))
    assert (len(first["clips"]), len(second["clips"]), first["total"]) == (50, 13, 63)
    assert not {clip["id"] for clip in first["clips"]} & {clip["id"] for clip in second["clips"]}


@pytest.mark.parametrize(
    ("body", "says"),
    [
        ({"name": ""}, "name must have"),
        ({"name": "x" * 81}, "at most 80"),
        ({"tags": ["a,b"]}, "cannot be there"),
        ({"tags": [str(number) for number in range(9)]}, "at most 8"),
        ({"set_name": "x" * 81}, "set name"),
        ({"colour": "red"}, "colour"),
    ],
)
def test_a_description_that_cannot_be_is_refused(mara, three, body, says):
    refused = mara.send("PATCH", f"/clips/{three[0]['id']}", body)
    assert refused.status_code == 422
    assert says in refused.json()["error"]["message"]
    assert "Last crossing" in names(mara)


def test_names_with_markup_slashes_and_emoji_come_out_as_files(mara, three):
    for clip, name in zip(three, ("<b>a/b\\c</b>", "Möwe 🐦", "..."), strict=True):
        mara.send("PATCH", f"/clips/{clip['id']}", {"name": name})
    zipped = mara.send("GET", "/clips/zip?ids=" + ",".join(str(clip["id"]) for clip in three))
    found = zipfile.ZipFile(BytesIO(zipped.content)).namelist()
    assert found == ["-b-a-b-c-b-.mid", "Möwe 🐦.mid", "clip.mid"]
    assert not any(set(name) & set("/\\<>") for name in found)
    alone = mara.send("GET", f"/clips/{three[2]['id']}.mid")
    assert 'filename="clip.mid"' in alone["Content-Disposition"]


def test_a_set_comes_as_one_zip_of_files_that_can_be_read(mara, three):
    mara.send("PATCH", f"/clips/{three[1]['id']}", {"name": "Last crossing"})
    reply = mara.send("GET", "/clips/zip?set_name=Verse&type=0&resolution=480&repeats=2")
    assert reply["Content-Type"] == "application/zip"
    archive = zipfile.ZipFile(BytesIO(reply.content))
    assert sorted(archive.namelist()) == ["Last crossing (2).mid", "Last crossing.mid"]
    midi = mido.MidiFile(file=BytesIO(archive.read("Last crossing.mid")))
    assert (midi.type, midi.ticks_per_beat) == (0, 480)
    assert sum(message.time for message in midi.tracks[0]) == 8 * 4 * 480


def test_a_zip_holds_so_many_clips_and_no_more(mara, three):
    template = Clip.objects.first()
    Clip.objects.bulk_create(Clip(owner_id=template.owner_id, document=template.document) for _ in range(260))
    refused = mara.send("GET", "/clips/zip?set_name=")
    assert "At most 256 clips in one zip" in refused.json()["error"]["message"]


def test_files_are_written_as_asked_and_refused_otherwise(mara, three):
    path = f"/clips/{three[0]['id']}.mid"
    midi = mido.MidiFile(file=BytesIO(mara.send("GET", f"{path}?resolution=96&markers=true&key=Dm").content))
    told = [message.type for message in midi.tracks[0]]
    assert (midi.ticks_per_beat, told.count("marker"), told.count("key_signature")) == (96, 4, 1)
    assert mara.send("GET", f"{path}?resolution=97").status_code == 422
    assert mara.send("GET", f"{path}?repeats=65").status_code == 422


def test_notes_come_as_text(mara, three):
    lines = mara.send("GET", f"/clips/{three[0]['id']}.txt").content.decode().splitlines()
    assert lines[0].startswith("Last crossing\t112 BPM\t4/4\t4 bars")
    assert len(lines) == 2 + three[0]["notes"]


def upload(hands, data, query=""):
    return hands.generic("POST", f"/api/clips/import?{query}", data, content_type="audio/midi")


def test_a_file_that_was_written_is_imported_again(mara, three):
    data = mara.send("GET", f"/clips/{three[0]['id']}.mid?resolution=13440").content
    reply = upload(mara, data, "name=Back%20again&split=track")
    assert reply.status_code == 201
    (clip,) = reply.json()["clips"]
    assert (clip["name"], clip["notes"], clip["origin"]) == ("Back again", three[0]["notes"], None)
    opened = mara.send("GET", f"/clips/{clip['id']}").json()
    assert all(opened["sounds"])
    assert mara.send("POST", f"/clips/{clip['id']}/reopen").status_code == 422


def test_each_track_may_become_a_clip_of_its_own_in_a_set(mara, three):
    data = mara.send("GET", f"/clips/{three[0]['id']}.mid").content
    made = upload(mara, data, "name=Apart&split=note&each=true").json()["clips"]
    pitches = {(track["channel"], note[2]) for track in three[0]["tracks"] for note in track["notes"]}
    assert len(made) == len(pitches)
    assert {clip["set_name"] for clip in made} == {"Apart"}
    assert sum(clip["notes"] for clip in made) == three[0]["notes"]


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"PK\x03\x04 a zip", "a zip archive"),
        (b"", "it is empty"),
        (b"MThd", "ends within its header"),
        (b"x" * (2 * 2**20 + 1), "too large: at most 2 MB"),
    ],
)
def test_what_is_no_midi_file_is_refused_and_nothing_stored(mara, data, says):
    refused = upload(mara, data)
    assert refused.status_code in (413, 422)
    assert says in refused.json()["error"]["message"]
    assert listed(mara) == []
