"""A channel each: lanes in their order, round again after sixteen, and back."""

from lattice.edits import a_channel_each
from lattice.render.notes import note_of
from tests.lattice.scores import VOICES, lane, score


def spread(whole):
    patches = a_channel_each(whole)
    return whole.model_copy(
        update={
            "lanes": tuple(
                one.model_copy(update={"channel": patches.get(one.id, one.channel)}) for one in whole.lanes
            )
        }
    )


def channels(whole):
    return [note_of(one, whole)[0] for one in whole.lanes]


def test_lanes_have_channels_one_to_sixteen_in_their_order_then_round_again():
    ids = [f"{voice}{again}" for again in ("", "-2") for voice in VOICES][:18]
    whole = score(*(lane(one, voice=one.removesuffix("-2")) for one in ids))
    assert channels(whole) == [10] * 18
    assert channels(spread(whole)) == [*range(1, 17), 1, 2]


def test_a_second_press_brings_back_what_the_voices_say():
    whole = score(lane("thud"), lane("chain", channel=4), lane("reed", voice="low-reed"))
    assert channels(spread(whole)) == [1, 2, 3]
    assert channels(spread(spread(whole))) == [10, 10, 1]
