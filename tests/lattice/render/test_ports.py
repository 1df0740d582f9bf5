"""Where notes go, what instruments choose, and what glides."""

from lattice.clips import take, take_clip
from lattice.document import DOCKSIDE, ControlStrip, Euclidean
from lattice.document.controllers import BEND
from lattice.document.port import BUILT_IN, SIMULATED, Program
from lattice.render import Window
from lattice.render.controls import controls_of
from lattice.render.events import render
from lattice.render.pipeline import play_all
from lattice.render.sounding import port_of
from lattice.screen import sounds
from tests.lattice.scores import lane, score

ONE = Window(bars=1)
QUAY = DOCKSIDE.model_copy(update={"port": "Quay drums"})


def test_a_lane_goes_to_its_port_or_the_kits_or_the_built_in_sounds():
    assert port_of(lane("thud"), DOCKSIDE) == BUILT_IN
    assert port_of(lane("thud"), QUAY) == "Quay drums"
    assert port_of(lane("thud", port=BUILT_IN), QUAY) == BUILT_IN
    assert port_of(lane("reed", voice="low-reed"), QUAY) == BUILT_IN
    assert port_of(lane("all", voice="whole-kit"), QUAY) == "Quay drums"
    assert port_of(lane("reed", voice="low-reed", port=SIMULATED), QUAY) == SIMULATED


def test_what_is_heard_says_where_each_lane_goes_and_what_is_chosen_there():
    chosen = Program(number=12, bank=3)
    whole = score(lane("thud"), lane("reed", voice="low-reed", port="Reed box", channel=5, program=chosen))
    heard = sounds(whole, 1, ONE)
    assert heard.ports == [BUILT_IN, "Reed box"]
    (one,) = heard.programs
    assert (one.lane, one.port, one.channel, one.program) == ("reed", "Reed box", 5, chosen)


def test_notes_of_one_pitch_and_channel_cut_each_other_at_one_port_only():
    long = {"voice": "thud", "length_percent": 400}
    both = [lane("one", **long), lane("other", **long)]
    assert len(render(score(*both), 1, ONE)) == 4
    apart = [both[0], both[1].model_copy(update={"port": SIMULATED})]
    assert len(render(score(*apart), 1, ONE)) == 8


def test_a_lane_that_glides_says_so_by_the_controllers_for_it():
    whole = score(lane("reed", voice="low-reed", glide_ms=2000))
    held = controls_of(whole, ONE, play_all(whole, 1, ONE)).held
    assert dict(zip(held.controllers.tolist(), held.values.tolist(), strict=True)) == {5: 127, 65: 127}
    own = whole.model_copy(
        update={
            "lanes": (
                lane("reed", voice="low-reed", glide_ms=1, control_strips=(ControlStrip(controller=65),)),
            )
        }
    )
    held = controls_of(own, ONE, play_all(own, 1, ONE)).held
    assert dict(zip(held.controllers.tolist(), held.values.tolist(), strict=True)) == {5: 1}


def test_a_clip_knows_port_and_program_and_a_strip_bends():
    bent = ControlStrip(controller=BEND, values=(-8192, 8191))
    one = lane(
        "reed",
        voice="low-reed",
        source=Euclidean(hits=2, steps=2),
        port="Reed box",
        program=Program(number=2),
        control_strips=(bent,),
    )
    (track,) = take_clip(take(score(one), 1, ONE), "Night Ferry", "A").tracks
    assert (track.port, track.program) == ("Reed box", Program(number=2))
    assert {point.value for point in track.controls if point.controller == BEND} == {-8192, 8191}


def test_long_notes_overlap_the_ones_that_follow():
    one = lane("reed", voice="low-reed", length_percent=1600, source=Euclidean(hits=1, steps=4))
    assert set(render(score(one), 1, ONE).lengths.tolist()) == {4 * 3360}
    low = lane("reed", voice="whole-kit", length_percent=1600, source=Euclidean(hits=1, steps=16))
    assert render(score(low), 1, Window(bars=1)).lengths.tolist() == [16 * 3360]
