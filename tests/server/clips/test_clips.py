from io import BytesIO

import mido
import pytest
from clips.models import Clip
from demo.pieces import NIGHT_FERRY

from lattice.clips import undisturbed
from lattice.document import score_of
from lattice.render import Window

BAR = 4 * 13440
PATTERN = NIGHT_FERRY.patterns[0]
SCORE = score_of(NIGHT_FERRY, PATTERN)


def keeping(bars_heard=6, **changes):
    tape = undisturbed(SCORE, PATTERN.dice, Window(bars=bars_heard))
    return {
        "piece": "Night Ferry",
        "pattern": "A",
        "score": SCORE.model_dump(mode="json"),
        "dice": PATTERN.dice,
        "tape": tape.model_dump(mode="json"),
        "bars": 4,
    } | changes


def listed(hands):
    return hands.send("GET", "/clips").json()["clips"]


@pytest.fixture
def kept(mara):
    reply = mara.send("POST", "/clips", keeping())
    assert reply.status_code == 201, reply.content
    return {name: value for name, value in reply.json().items() if name != "late"}


def test_the_last_bars_become_a_clip_called_by_where_it_came_from(kept):
    assert (kept["bars"], kept["name"]) == (4, "Night Ferry A, bars 3–6")
    origin = kept["origin"]
    assert (origin["piece"], origin["pattern"], origin["first_bar"], origin["bars"]) == (
        "Night Ferry",
        "A",
        2,
        4,
    )
    stored = Clip.objects.get(pk=kept["id"]).document
    assert stored["origin"]["score"] == SCORE.model_dump(mode="json")
    assert kept["length_ticks"] == 4 * BAR


def test_what_is_kept_is_what_was_heard_to_the_tick(kept):
    heard = undisturbed(SCORE, PATTERN.dice, Window(first_bar=2, bars=4))
    expected = {
        track.lane: [[note.start - 2 * BAR, *note[1:]] for note in track.notes]
        for track in heard.tracks
        if track.notes
    }
    assert {track["lane"]: track["notes"] for track in kept["tracks"]} == expected


def test_the_download_holds_the_same_notes(mara, kept):
    reply = mara.send("GET", f"/clips/{kept['id']}.mid")
    assert reply["Content-Type"] == "audio/midi"
    assert "Night%20Ferry%20A%2C%20bars%203%E2%80%936.mid" in reply["Content-Disposition"]
    midi = mido.MidiFile(file=BytesIO(reply.content))
    onsets = sum(message.type == "note_on" for track in midi.tracks for message in track)
    assert (midi.type, onsets) == (1, kept["notes"])


def test_a_chosen_stretch_is_kept(mara):
    kept = mara.send("POST", "/clips", keeping(stretch={"first_bar": 1, "end_bar": 3})).json()
    assert (kept["bars"], kept["origin"]["first_bar"]) == (2, 1)


def test_fewer_bars_are_kept_where_fewer_sounded(mara):
    assert mara.send("POST", "/clips", keeping(bars_heard=2, bars=8)).json()["bars"] == 2


def test_a_tape_of_less_than_a_bar_is_refused_and_nothing_is_stored(mara):
    short = keeping()
    short["tape"] |= {"now_tick": BAR - 1, "tracks": []}
    refused = mara.send("POST", "/clips", short)
    assert refused.status_code == 422
    assert refused.json()["error"]["code"] == "nothing-to-keep"
    assert listed(mara) == []


def test_a_keeping_that_is_tried_again_is_stored_once(mara, joon):
    body = keeping(keeping="1764064000000-417")
    first, again = (mara.send("POST", "/clips", body).json() for _ in range(2))
    assert first == again
    assert [line["id"] for line in listed(mara)] == [first["id"]]
    assert joon.send("POST", "/clips", body).json()["id"] != first["id"]


def test_a_clip_is_renamed_and_keeps_its_notes(mara, kept):
    renamed = mara.send("PATCH", f"/clips/{kept['id']}", {"name": "Last crossing"}).json()
    assert renamed == kept | {"name": "Last crossing"}


def test_a_clip_never_changes_with_the_piece_it_came_from(mara, kept):
    piece = mara.new_piece()
    mara.save(piece, document=piece["document"] | {"tempo": 60})
    mara.send("DELETE", f"/pieces/{piece['id']}")
    assert listed(mara) == [kept]


def test_a_deleted_clip_is_gone_until_it_is_restored(mara, kept):
    assert mara.send("DELETE", f"/clips/{kept['id']}").status_code == 204
    assert listed(mara) == []
    assert mara.send("GET", f"/clips/{kept['id']}.mid").status_code == 404
    assert mara.send("POST", f"/clips/{kept['id']}/restore").json() == kept


@pytest.mark.parametrize(
    ("method", "path", "body"),
    [
        ("PATCH", "", {"name": "Mine"}),
        ("DELETE", "", None),
        ("POST", "/restore", None),
        ("GET", ".mid", None),
        ("GET", ".txt", None),
        ("GET", "", None),
        ("GET", "/lanes", None),
        ("POST", "/lanes", {}),
        ("POST", "/pattern", {"pattern_id": "b"}),
        ("POST", "/in-place", {"lanes": ["thud"]}),
        ("POST", "/copy", None),
        ("POST", "/reopen", None),
        ("POST", "/undo", {"revision": 1}),
        ("POST", "/redo", {"revision": 1}),
        ("POST", "/join", {"revision": 1, "other": 1}),
        ("POST", "/edits", {"revision": 1, "action": {"kind": "delete"}}),
    ],
)
def test_another_musicians_clip_is_not_there(joon, kept, method, path, body):
    assert joon.send(method, f"/clips/{kept['id']}{path}", body).status_code == 404
    assert listed(joon) == []


def test_a_keep_says_how_many_notes_came_too_late_and_takes_them_where_that_is_wanted(mara):
    body = keeping()
    late = {"late": [[5 * BAR, 100, 50, 90, 0], [0, 100, 50, 90, 0]], "late_straights": [5 * BAR, 0]}
    body["tape"]["tracks"][0] |= late
    without, with_late = (
        mara.send("POST", "/clips", body | {"with_late": one}).json() for one in (False, True)
    )
    assert (without["late"], with_late["late"]) == (1, 0)
    assert with_late["notes"] == without["notes"] + 1
