import pytest
from pieces.models import Moment, Piece

from tests.server.pieces.test_pieces import edited, moment


def saved(mara, piece, *velocities, first=2):
    """Save moments, one for each velocity, and return the piece as it then is."""
    documents = [edited(piece, velocity=velocity) for velocity in velocities]
    moments = [
        moment(first + at, document, f"to {velocity}")
        for at, (document, velocity) in enumerate(zip(documents, velocities, strict=True))
    ]
    reply = mara.save(piece, document=documents[-1], moments=moments)
    assert reply.status_code == 200, reply.content
    return piece | reply.json() | {"document": documents[-1]}


def labels(mara, piece):
    return [line["label"] for line in mara.send("GET", f"/pieces/{piece['id']}/moments").json()]


def test_moments_are_numbered_on_and_each_can_be_gone_back_to(mara):
    piece = mara.new_piece()
    after = saved(mara, piece, 90, 80)
    assert after["stands_at"] == 3
    assert labels(mara, piece) == ["New piece", "to 90", "to 80"]
    second = mara.send("GET", f"/pieces/{piece['id']}/moments/2").json()
    assert second["document"] == edited(piece, velocity=90)


def test_standing_at_an_earlier_moment_keeps_the_later_ones(mara):
    piece = mara.new_piece()
    after = saved(mara, piece, 90, 80)
    back = mara.save(after, document=edited(piece, velocity=90), stands_at=2).json()
    assert back["stands_at"] == 2
    opened = mara.send("GET", f"/pieces/{piece['id']}").json()
    assert (opened["stands_at"], opened["document"]) == (2, edited(piece, velocity=90))
    assert labels(mara, piece) == ["New piece", "to 90", "to 80"]


def test_a_movement_that_goes_on_replaces_its_moment(mara):
    piece = mara.new_piece()
    after = saved(mara, piece, 90)
    longer = edited(piece, velocity=95)
    mara.save(after, document=longer, moments=[moment(2, longer, "to 95"), moment(3, longer, "next")])
    assert labels(mara, piece) == ["New piece", "to 95", "next"]


@pytest.mark.parametrize("numbers", [[3], [1], [2, 4], [2, 2], [3, 2]])
def test_moments_that_do_not_go_on_are_refused_and_nothing_is_stored(mara, numbers):
    piece = saved(mara, mara.new_piece(), 90)
    wrong = [number if number < 3 else number + 1 for number in numbers]
    refused = mara.save(piece, moments=[moment(number, piece["document"]) for number in wrong])
    assert refused.status_code == 422
    assert "Moments: need numbers that go on from 2" in refused.json()["error"]["message"]
    assert (Moment.objects.count(), Piece.objects.get().revision) == (2, 2)


def test_a_moment_that_is_not_there_cannot_be_stood_at(mara):
    piece = mara.new_piece()
    refused = mara.save(piece, stands_at=2)
    assert refused.status_code == 422
    assert "there are 1 moments, got 2" in refused.json()["error"]["message"]


def test_renaming_on_the_shelf_is_a_moment_too(mara):
    piece = mara.new_piece()
    mara.send("PATCH", f"/pieces/{piece['id']}", {"name": "Low Tide"})
    assert labels(mara, piece) == ["New piece", "Renamed “Low Tide”"]
    assert Piece.objects.get().stands_at == 2


def test_another_musicians_history_is_not_there(mara, joon):
    piece = mara.new_piece()
    assert joon.send("GET", f"/pieces/{piece['id']}/moments").status_code == 404
    assert joon.send("GET", f"/pieces/{piece['id']}/moments/1").status_code == 404
    assert mara.send("GET", f"/pieces/{piece['id']}/moments/9").status_code == 404


def test_what_was_only_heard_is_a_place_and_the_piece_stays_as_it_was(mara):
    piece = mara.new_piece()
    heard = edited(piece, velocity=50)
    place = moment(2, heard, "Heard: no. 7") | {"heard": True}
    reply = mara.save(piece, document=piece["document"], moments=[place], stands_at=1)
    assert reply.status_code == 200, reply.content
    opened = mara.send("GET", f"/pieces/{piece['id']}").json()
    assert (opened["stands_at"], opened["document"]) == (1, piece["document"])
    lines = mara.send("GET", f"/pieces/{piece['id']}/moments").json()
    assert [(line["label"], line["heard"]) for line in lines] == [
        ("New piece", False),
        ("Heard: no. 7", True),
    ]
    assert mara.send("GET", f"/pieces/{piece['id']}/moments/2").json()["document"] == heard


def test_a_place_has_a_name_and_a_small_picture_of_the_pattern_that_changed(mara, joon):
    piece = mara.new_piece()
    saved(mara, piece, 90)
    at = f"/pieces/{piece['id']}/moments/2"
    assert mara.send("PATCH", at, {"name": " Low tide "}).json()["name"] == "Low tide"
    assert [line["name"] for line in mara.send("GET", f"/pieces/{piece['id']}/moments").json()] == [
        "",
        "Low tide",
    ]
    cover = mara.send("GET", f"{at}/cover").json()
    assert cover["pattern"] == piece["document"]["patterns"][0]["name"]
    assert cover["threads"][0]["velocities"] == [90] * len(cover["threads"][0]["hits"])
    assert mara.send("PATCH", at, {"name": ""}).json()["name"] == ""
    for method, path, body in (("PATCH", at, {"name": "theirs"}), ("GET", f"{at}/cover", None)):
        assert joon.send(method, path, body).status_code == 404
    assert mara.send("PATCH", f"/pieces/{piece['id']}/moments/9", {"name": "x"}).status_code == 404
    assert mara.send("PATCH", at, {"name": "x" * 81}).status_code == 422


def test_moments_are_stored_as_what_they_changed_and_each_opens_as_it_was(mara):
    piece = mara.new_piece()
    velocities = [1 + number % 127 for number in range(70)]
    for at in range(0, 70, 7):
        piece = saved(mara, piece, *velocities[at : at + 7], first=2 + at)
    whole = Moment.objects.filter(document__isnull=False).values_list("number", flat=True)
    assert list(whole) == [1, 17, 33, 49, 65]
    for number, velocity in enumerate(velocities, 2):
        opened = mara.send("GET", f"/pieces/{piece['id']}/moments/{number}").json()["document"]
        assert opened == edited(piece, velocity=velocity)
    change = Moment.objects.get(number=16).changes
    assert change == [{"op": "replace", "path": "/patterns/0/lanes/0/velocity", "value": velocities[14]}]


@pytest.mark.parametrize("last", [15, 16, 17])
def test_a_movement_that_goes_on_replaces_its_moment_wherever_a_whole_one_stands(mara, last):
    piece = saved(mara, mara.new_piece(), *range(1, last))
    longer, later = edited(piece, velocity=101), edited(piece, velocity=102)
    mara.save(piece, document=later, moments=[moment(last, longer), moment(last + 1, later)])
    opened = [
        mara.send("GET", f"/pieces/{piece['id']}/moments/{number}").json()["document"]
        for number in (last - 1, last, last + 1)
    ]
    assert opened == [edited(piece, velocity=last - 2), longer, later]
