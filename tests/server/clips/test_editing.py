"""Working on stored clips: every edit is a moment that can be gone back to."""

from importlib import import_module

import pytest
from clips import services
from clips.models import Clip, ClipMoment
from django.apps import apps
from django.db import IntegrityError

from lattice.document import Piece, score_of
from lattice.render import Window, render
from tests.server.clips.test_clips import BAR, PATTERN, SCORE, keeping, listed

NUDGE = {"kind": "move", "ticks": 30}


@pytest.fixture
def kept(mara):
    return mara.send("POST", "/clips", keeping()).json()


def opened(mara, kept):
    return mara.send("GET", f"/clips/{kept['id']}").json()


def edit(mara, kept, action, revision=1, chosen=()):
    body = {"revision": revision, "action": action, "chosen": list(chosen)}
    return mara.send("POST", f"/clips/{kept['id']}/edits", body)


def tracks(clip):
    return [track["notes"] for track in clip["document"]["tracks"]]


def test_an_open_clip_holds_its_notes_and_what_sounds_them(mara, kept):
    clip = opened(mara, kept)
    assert tracks(clip) == [track["notes"] for track in kept["tracks"]]
    for track, sounds in zip(clip["document"]["tracks"], clip["sounds"], strict=True):
        assert {str(note[2]) for note in track["notes"]} == set(sounds)
    assert clip["document"]["origin"] is None
    assert clip["bars"] == 4
    assert (clip["origin"], clip["undo"], clip["redo"]) == (kept["origin"], "", "")


@pytest.mark.parametrize(
    ("step", "ticks"), [({}, 3360), ({"note": 2, "divisor": 7}, 3840), ({"note": 8, "kind": "triplet"}, 4480)]
)
def test_a_grid_has_steps_of_any_value(mara, step, ticks):
    assert mara.send("POST", "/clips/grid", step).json() == {"ticks": ticks}


def test_an_edit_is_stored_and_says_which_notes_are_chosen_now(mara, kept):
    reply = edit(mara, kept, {"kind": "move", "ticks": 77}, chosen=[[0]]).json()
    before, after = kept["tracks"][0]["notes"], tracks(reply["clip"])[0]
    assert [after[at] for at in reply["chosen"][0]] == [[before[0][0] + 77, *before[0][1:]]]
    assert reply["clip"] == opened(mara, kept)
    assert (reply["clip"]["revision"], reply["clip"]["undo"]) == (2, "1 note moved")


def test_an_edit_says_which_note_each_was(mara, kept):
    first, second = kept["tracks"][0]["notes"][:2]
    assert edit(mara, kept, {"kind": "harder", "by": 1}).json()["came_from"] is None
    past = {"kind": "move", "ticks": second[0] - first[0] + 1}
    assert edit(mara, kept, past, 2, [[0]]).json()["came_from"][:3] == [1, 0, 2]


def test_edits_are_undone_one_by_one_and_done_again(mara, kept):
    states = [tracks(opened(mara, kept))]
    for revision in (1, 2, 3):
        states.append(tracks(edit(mara, kept, NUDGE, revision).json()["clip"]))
    for number, back in enumerate(reversed(states[:-1])):
        reply = mara.send("POST", f"/clips/{kept['id']}/undo", {"revision": 4 + number})
        assert tracks(reply.json()) == back
    assert mara.send("POST", f"/clips/{kept['id']}/undo", {"revision": 7}).status_code == 422
    for number, on in enumerate(states[1:]):
        assert tracks(mara.send("POST", f"/clips/{kept['id']}/redo", {"revision": 7 + number}).json()) == on
    assert opened(mara, kept)["redo"] == ""


def test_what_was_undone_stays_in_the_history_when_another_edit_follows(mara, kept):
    edit(mara, kept, NUDGE, 1)
    mara.send("POST", f"/clips/{kept['id']}/undo", {"revision": 2})
    edit(mara, kept, {"kind": "pace", "pace": "half"}, 3)
    assert list(ClipMoment.objects.values_list("number", "after", "label")) == [
        (1, 0, "Kept"),
        (2, 1, f"{kept['notes']} notes moved"),
        (3, 1, "half pace"),
    ]
    mara.send("POST", f"/clips/{kept['id']}/undo", {"revision": 4})
    assert opened(mara, kept)["redo"] == "half pace"


def test_a_name_is_no_moment_and_outlasts_undoing(mara, kept):
    edit(mara, kept, NUDGE)
    mara.send("PATCH", f"/clips/{kept['id']}", {"name": "Last crossing"})
    undone = mara.send("POST", f"/clips/{kept['id']}/undo", {"revision": 2}).json()
    assert undone["document"]["name"] == "Last crossing"
    assert undone["origin"] == kept["origin"]


def test_two_hands_on_one_clip_do_not_overwrite_each_other(mara, kept):
    edit(mara, kept, NUDGE)
    late = edit(mara, kept, {"kind": "pace", "pace": "half"}, 1)
    assert late.status_code == 409
    assert late.json()["error"]["code"] == "newer-revision"
    assert opened(mara, kept)["revision"] == 2


@pytest.mark.parametrize(
    ("action", "chosen", "says"),
    [
        ({"kind": "delete"}, [], "choose the notes first"),
        ({"kind": "move"}, [[9999]], "no such note"),
        ({"kind": "fly"}, [], "fly"),
        ({"kind": "quantise", "percent": 101}, [], "101"),
    ],
)
def test_a_refused_edit_changes_nothing(mara, kept, action, chosen, says):
    refused = edit(mara, kept, action, chosen=chosen)
    assert refused.status_code == 422
    assert says in refused.json()["error"]["message"]
    assert opened(mara, kept)["revision"] == 1
    assert ClipMoment.objects.count() == 1


def test_an_edit_that_cannot_be_remembered_is_not_half_stored(mara, kept, monkeypatch):
    """As if the server went down between the clip and its moment."""

    def fails(**_fields):
        raise IntegrityError("gone")

    monkeypatch.setattr(ClipMoment.objects, "create", fails)
    assert edit(mara, kept, NUDGE).status_code == 500
    monkeypatch.undo()
    assert opened(mara, kept)["revision"] == 1
    with monkeypatch.context() as broken:
        broken.setattr(services, "ClipMoment", None)
        assert mara.send("POST", "/clips", keeping()).status_code == 500
    assert len(listed(mara)) == 1


def test_another_clip_is_joined_on(mara, kept):
    other = mara.send("POST", "/clips", keeping(bars=2)).json()
    joined = mara.send("POST", f"/clips/{kept['id']}/join", {"revision": 1, "other": other["id"]}).json()
    assert joined["document"]["length_ticks"] == 6 * BAR
    assert sum(map(len, tracks(joined))) == kept["notes"] + other["notes"]
    assert joined["undo"] == f"“{other['name']}” joined on"


def test_another_musicians_clip_cannot_be_joined_on(mara, joon, kept):
    theirs = joon.send("POST", "/clips", keeping()).json()
    reply = mara.send("POST", f"/clips/{kept['id']}/join", {"revision": 1, "other": theirs["id"]})
    assert reply.status_code == 404


def test_a_copy_has_a_history_of_its_own(mara, kept):
    copy = mara.send("POST", f"/clips/{kept['id']}/copy").json()
    assert copy["name"] == f"{kept['name']} copy"
    edit(mara, copy, NUDGE)
    assert opened(mara, kept)["revision"] == 1


def test_the_pattern_is_opened_again_as_it_stood(mara, kept):
    made = mara.send("POST", f"/clips/{kept['id']}/reopen").json()
    piece = Piece.model_validate(mara.send("GET", f"/pieces/{made['piece']}").json()["document"])
    assert piece.name == "Night Ferry as it stood"
    again = render(score_of(piece, piece.patterns[0]), piece.patterns[0].dice, Window(first_bar=2, bars=4))
    then = render(SCORE, PATTERN.dice, Window(first_bar=2, bars=4))
    assert again.starts.tolist() == then.starts.tolist()


def test_a_clip_plays_in_place_of_its_lanes(mara, kept):
    lanes = [lane.id for lane in PATTERN.lanes]
    placed = mara.send("POST", f"/clips/{kept['id']}/in-place", {"lanes": [*lanes, "a-new-one"]}).json()
    assert set(placed) == set(lanes)
    by_lane = {track["lane"]: track["notes"] for track in kept["tracks"]}
    for lane in PATTERN.lanes:
        assert placed[lane.id]["notes"] == by_lane.get(lane.name, [])
    elsewhere = mara.send("POST", f"/clips/{kept['id']}/in-place", {"lanes": ["a-new-one"]})
    assert "came from none of the lanes" in elsewhere.json()["error"]["message"]


def test_notes_become_lanes_of_a_new_piece_or_of_a_pattern(mara, kept):
    offers = mara.send("GET", f"/clips/{kept['id']}/lanes").json()["offers"]
    assert len(offers) >= 5
    assert any(offer["this_is"] for offer in offers)
    made = mara.send("POST", f"/clips/{kept['id']}/lanes", {"shorter": [0]}).json()
    piece = mara.send("GET", f"/pieces/{made['piece']}").json()["document"]
    assert [lane["name"] for lane in piece["patterns"][0]["lanes"]] == [
        offer["lane"]["name"] for offer in offers
    ]
    body = {"pattern_id": "b", "kit": SCORE.kit.model_dump(mode="json"), "swing": {"percent": 60}}
    pattern = mara.send("POST", f"/clips/{kept['id']}/pattern", body).json()
    assert (pattern["id"], pattern["bars"]) == ("b", 4)
    assert all(lane["swing"] for lane in pattern["lanes"])  # as the clip is, not as the piece swings


def test_moments_are_stored_as_what_they_changed_and_each_can_be_gone_back_to(mara, kept):
    """Also those made after an undo, where the moment before in number is not the one that it came after."""
    seen = [opened(mara, kept)]
    for number in range(1, 21):
        seen.append(edit(mara, kept, NUDGE, number, [[number % 5]]).json()["clip"])
    for number in range(21, 24):
        undone = mara.send("POST", f"/clips/{kept['id']}/undo", {"revision": number}).json()
        assert tracks(undone) == tracks(seen[19 - (number - 21)])
    edit(mara, kept, {"kind": "delete"}, 24, [[0, 1, 2]])
    back = mara.send("POST", f"/clips/{kept['id']}/undo", {"revision": 25}).json()
    assert tracks(back) == tracks(seen[17])
    whole = ClipMoment.objects.filter(document__isnull=False).values_list("number", flat=True)
    assert list(whole) == [1, 17]
    for one in ClipMoment.objects.filter(changes__isnull=False):
        assert len(str(one.changes)) < 2000


def test_what_changes_all_notes_is_stored_whole(mara, kept):
    every = [list(range(len(track["notes"]))) for track in kept["tracks"]]
    assert edit(mara, kept, {"kind": "move", "semitones": 1}, 1, every).status_code == 200
    assert ClipMoment.objects.get(number=2).changes is None


def test_clips_from_before_there_were_moments_have_one(mara, kept):
    ClipMoment.objects.all().delete()
    import_module("clips.migrations.0004_first_moments").remember(apps, None)
    assert edit(mara, kept, NUDGE).status_code == 200
    undone = mara.send("POST", f"/clips/{kept['id']}/undo", {"revision": 2}).json()
    assert tracks(undone) == [track["notes"] for track in kept["tracks"]]
    assert Clip.objects.get().document["origin"]
