"""Takes: stored as what makes them again."""

import pytest
from takes.models import Take, TakeSheet

from lattice.clips import undisturbed
from lattice.document import Score
from lattice.render import Window
from tests.server.clips.test_clips import PATTERN, SCORE, keeping, listed

THROWING = {
    "piece": "Night Ferry",
    "pattern": "A",
    "score": SCORE.model_dump(mode="json"),
    "dice": PATTERN.dice,
    "first_bar": 1,
    "bars": 2,
    "count": 4,
}


@pytest.fixture
def sheet(mara):
    reply = mara.send("POST", "/takes", THROWING)
    assert reply.status_code == 201, reply.content
    return reply.json()


def path(sheet, rest=""):
    return f"/takes/{sheet['sheet']['id']}{rest}"


def drawn(hands, sheet, query=""):
    return hands.send("GET", path(sheet, f"/drawn{query}")).json()["takes"]


def test_takes_are_thrown_by_dice_that_follow_each_other(mara, sheet):
    assert [(one["number"], one["dice"]) for one in sheet["takes"]] == [
        (number, PATTERN.dice + number - 1) for number in (1, 2, 3, 4)
    ]
    assert (sheet["sheet"]["bars"], sheet["sheet"]["first_bar"], sheet["lane_names"]) == (2, 1, None)
    assert mara.send("GET", "/takes").json() == [sheet["sheet"]]


def test_a_take_is_what_the_score_plays_by_its_dice(mara, sheet):
    for one in drawn(mara, sheet):
        dice = PATTERN.dice + one["number"] - 1
        heard = undisturbed(SCORE, dice, Window(bars=4))
        bar = SCORE.meter.bar_ticks
        expected = {
            track.lane: [
                [max(0, note.start - bar), *note[1:]]
                for note, straight in zip(track.notes, track.straights, strict=True)
                if bar <= straight < 3 * bar
            ]
            for track in heard.tracks
        }
        assert {track["lane"]: track["notes"] for track in one["tracks"]} == {
            lane: notes for lane, notes in expected.items() if notes
        }
        assert one["measures"]["notes"] == sum(map(len, expected.values()))
    assert drawn(mara, sheet)[0]["measures"]["distance"] == 0
    assert drawn(mara, sheet)[1]["measures"]["distance"] > 0


def test_takes_are_made_again_from_what_is_stored_alone(mara, sheet):
    before = drawn(mara, sheet)
    stored = TakeSheet.objects.get()
    assert Score.model_validate(stored.score) == SCORE
    assert not [field.name for field in Take._meta.get_fields() if field.name in ("notes", "document")]
    assert drawn(mara, sheet) == before
    assert drawn(mara, sheet, "?first=2&last=3") == before[1:3]


def test_chosen_lanes_sound_alone(mara):
    lane = PATTERN.lanes[0]
    sheet = mara.send("POST", "/takes", THROWING | {"lanes": [lane.id]}).json()
    assert sheet["lane_names"] == [lane.name]
    assert {track["lane"] for one in drawn(mara, sheet) for track in one["tracks"]} == {lane.name}


def test_more_are_thrown_some_dropped_and_picked_up(mara, sheet):
    more = mara.send("POST", path(sheet, "/more"), {"count": 3}).json()
    assert [one["number"] for one in more["takes"]] == [1, 2, 3, 4, 5, 6, 7]
    assert mara.send("DELETE", path(sheet, "/2")).status_code == 204
    assert [one["number"] for one in mara.send("GET", path(sheet)).json()["takes"]] == [1, 3, 4, 5, 6, 7]
    assert 2 not in [one["number"] for one in drawn(mara, sheet)]
    assert mara.send("POST", path(sheet, "/2/keep")).status_code == 404
    assert len(mara.send("POST", path(sheet, "/2/pick-up")).json()["takes"]) == 7
    # A number is never given to another take.
    mara.send("DELETE", path(sheet, "/7"))
    assert mara.send("POST", path(sheet, "/more"), {"count": 1}).json()["takes"][-1]["number"] == 8


def test_at_most_64_lie_side_by_side(mara, sheet):
    refused = mara.send("POST", path(sheet, "/more"), {"count": 61})
    assert "at most 64 takes" in refused.json()["error"]["message"]
    assert len(mara.send("GET", path(sheet)).json()["takes"]) == 4


def test_a_take_is_kept_as_a_clip_and_marked(mara, sheet):
    clip = mara.send("POST", path(sheet, "/3/keep")).json()
    assert clip["name"] == "Night Ferry A, bars 2–3, take 3"
    assert clip["origin"]["dice"] == PATTERN.dice + 2
    assert [one["notes"] for one in clip["tracks"]] == [
        one["notes"] for one in drawn(mara, sheet)[2]["tracks"]
    ]
    assert mara.send("GET", path(sheet)).json()["takes"][2]["clip"] == clip["id"]
    assert listed(mara) == [clip]


def test_what_differs_between_two_takes_is_told(mara, sheet):
    one, other = drawn(mara, sheet)[:2]
    found = mara.send("POST", path(sheet, "/differences"), {"one": 1, "other": 2}).json()
    theirs = {(track["lane"], note[0], note[2]) for track in other["tracks"] for note in track["notes"]}
    for track, places in zip(one["tracks"], found["only_one"], strict=True):
        only = [
            at for at, note in enumerate(track["notes"]) if (track["lane"], note[0], note[2]) not in theirs
        ]
        assert places == only
    same = mara.send("POST", path(sheet, "/differences"), {"one": 1, "other": 1}).json()
    assert not any(map(len, same["only_one"] + same["only_other"]))


def test_a_sheet_outlasts_its_piece_and_comes_back_when_deleted(mara):
    piece = mara.new_piece()
    sheet = mara.send("POST", "/takes", THROWING | {"piece_id": piece["id"]}).json()
    assert sheet["sheet"]["piece_id"] == piece["id"]
    mara.send("DELETE", f"/pieces/{piece['id']}")
    assert len(drawn(mara, sheet)) == 4
    assert mara.send("DELETE", path(sheet)).status_code == 204
    assert mara.send("GET", "/takes").json() == []
    assert mara.send("POST", path(sheet, "/restore")).json()["takes"] == 4


def test_bars_of_the_tape_become_a_take(mara):
    undisturbed_one = mara.send("POST", "/takes/tape", keeping()).json()
    assert (
        undisturbed_one["differs"],
        undisturbed_one["sheet"]["first_bar"],
        undisturbed_one["sheet"]["bars"],
    ) == (
        False,
        2,
        4,
    )
    disturbed = keeping(stretch={"first_bar": 1, "end_bar": 3})
    disturbed["tape"]["tracks"][0]["notes"] = []
    disturbed["tape"]["tracks"][0]["straights"] = []
    assert mara.send("POST", "/takes/tape", disturbed).json()["differs"] is True


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"bars": 65}, "bars"),
        ({"count": 65}, "count"),
        ({"count": 0}, "count"),
        ({"lanes": ["nobody"]}, "no lane 'nobody'"),
        ({"lanes": []}, "at least one lane"),
    ],
)
def test_takes_that_cannot_be_are_refused_and_no_sheet_is_stored(mara, change, says):
    refused = mara.send("POST", "/takes", THROWING | change)
    assert refused.status_code == 422
    assert says in refused.json()["error"]["message"]
    assert not TakeSheet.objects.exists()


@pytest.mark.parametrize(
    ("method", "rest", "body"),
    [
        ("GET", "", None),
        ("GET", "/drawn", None),
        ("POST", "/more", {"count": 1}),
        ("POST", "/differences", {"one": 1, "other": 2}),
        ("DELETE", "", None),
        ("POST", "/restore", None),
        ("DELETE", "/1", None),
        ("POST", "/1/pick-up", None),
        ("POST", "/1/keep", None),
    ],
)
def test_another_musicians_takes_are_not_there(joon, sheet, method, rest, body):
    assert joon.send(method, path(sheet, rest), body).status_code == 404
    assert joon.send("GET", "/takes").json() == []


def test_takes_without_luck_say_so_and_are_varied(mara, sheet):
    assert sheet["is_lucky"]
    still = SCORE.model_dump(mode="json")
    still["lanes"] = [
        {
            **still["lanes"][0],
            "anchored": False,
            "chance_percent": 100,
            "chance_strip": None,
            "humanise": None,
        }
    ]
    sheet = mara.send("POST", "/takes", THROWING | {"score": still}).json()
    assert (sheet["is_lucky"], sheet["vary"]) == (False, 0)
    same = [one["tracks"] for one in drawn(mara, sheet)]
    assert all(tracks == same[0] for tracks in same)
    varied = mara.send("POST", path(sheet, "/vary"), {"percent": 50}).json()
    assert varied["vary"] == 50
    others = [one["tracks"] for one in drawn(mara, sheet)]
    assert others[0] == same[0]
    assert any(tracks != same[0] for tracks in others[1:])
    kept = mara.send("POST", path(sheet, "/2/keep")).json()
    stored = mara.send("GET", f"/clips/{kept['id']}").json()["document"]
    assert [track["notes"] for track in stored["tracks"]] == [track["notes"] for track in others[1]]
    assert mara.send("POST", path(sheet, "/vary"), {"percent": 101}).status_code == 422
