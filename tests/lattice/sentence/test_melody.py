"""What melodic lanes say of themselves."""

from typing import Any

import pytest

from lattice.document import (
    Arpeggio,
    ChordPool,
    ChordStrip,
    Drawn,
    Free,
    HeldPool,
    Lane,
    LanePool,
    Pedal,
    PitchStrip,
    PlacedChord,
    Progression,
    Scale,
    ScalePool,
    Spread,
    TypedPool,
    read,
)
from lattice.document.pitched import PITCHED
from lattice.render.pitch_context import pitch_context_of
from lattice.sentence import Speech, alternatives, bench, offers, sentence
from lattice.steps.lane_steps import steps_of_lanes
from tests.lattice.scores import lane, score

D_DORIAN = Scale(root=2, name="dorian")
CHORDS = Progression(chords=(PlacedChord(chord="i"),))


def reed(**fields: Any) -> Lane:
    return lane("reed", **{"voice": "low-reed"} | fields)


def speech_of(one: Lane, *others: Lane, **fields: Any) -> Speech:
    asked = score(*others, one, **{"scale": D_DORIAN, "progression": CHORDS} | fields)
    return Speech(steps_of_lanes(asked, 1)[-1], pitch_context_of(one, asked, 1), asked)


def said(one: Lane, *others: Lane, **fields: Any) -> str:
    parts = sentence(speech_of(one, *others, **fields)).parts
    return " · ".join("".join(word.text for word in part.words) for part in parts)


@pytest.mark.parametrize(
    ("fields", "expected"),
    [
        ({}, "4 in 16"),
        (
            {"pitch_strip": PitchStrip(values=(0, 0, 0, 0, 2, 0, 0, 0, 5, 0, 0, 0, 4))},
            "4 in 16 · D dorian, 4 pitches on 4 hits, leaps up to 3",
        ),
        ({"pitch_strip": PitchStrip(values=(1,))}, "4 in 16 · D dorian, 2 pitches on 4 hits"),
        (
            {"pitch_strip": PitchStrip(values=(0, 2, 4), free=Free(advance="hit"))},
            "4 in 16 · D dorian, 3 pitches at each hit",
        ),
        (
            {"pitch_strip": PitchStrip(values=(3,), unit="semitones", spread=Spread(by=2))},
            "4 in 16 · D dorian, 2 pitches in semitones on 4 hits, leaps up to 3 ±2",
        ),
        ({"scale": Scale(root=4, name="phrygian")}, "4 in 16 · E phrygian"),
        ({"follows": "root"}, "4 in 16 · follows the root"),
        ({"follows": "nearest"}, "4 in 16 · nearest chord tone"),
        ({"degrees_up": 2, "semitones_up": -1}, "4 in 16 · 2 degrees up, -1 semitone"),
        ({"arpeggio": Arpeggio()}, "4 in 16 · up, held keys"),
        (
            {"arpeggio": Arpeggio(pool=HeldPool(latch="replace"), order="up-and-down", octaves=2)},
            "4 in 16 · up and down over 2 octaves, keys latched",
        ),
        ({"arpeggio": Arpeggio(pool=TypedPool(notes=(62, 65, 69)))}, "4 in 16 · up, D4 F4 A4"),
        ({"arpeggio": Arpeggio(pool=TypedPool(chord="Dm7"), order="down")}, "4 in 16 · down, Dm7"),
        (
            {"arpeggio": Arpeggio(pool=ChordPool(), restart="chord", pedal=Pedal())},
            "4 in 16 · up, the chord, anew each chord, pedal note each 4th hit",
        ),
        (
            {"arpeggio": Arpeggio(pool=ScalePool(low=-2, high=5), velocity="keys")},
            "4 in 16 · up, the scale from -2 to 5, keys' velocity",
        ),
        ({"chord_strip": ChordStrip(values=(3, None, 2))}, "4 in 16 · chords on 2"),
        ({"brightness": 80, "release_ms": 900}, "4 in 16 · brightness 80 % · release 900 ms"),
        ({"note": 50}, "4 in 16 · note 50 (D3)"),
    ],
)
def test_melody_is_said_in_musicians_words(fields, expected):
    assert said(reed(**fields)) == expected


def test_what_waits_for_chords_says_so():
    assert (
        said(reed(follows="tones"), progression=None)
        == "4 in 16 · follows the chord tones, when there are chords"
    )
    pool = reed(arpeggio=Arpeggio(pool=ChordPool()))
    assert said(pool, progression=None) == "4 in 16 · up, the chord, when there are chords"


def test_a_cascade_names_the_lane_that_it_reads():
    assert said(reed(arpeggio=Arpeggio(pool=LanePool(of="thud"))), lane()) == "4 in 16 · up, notes of Thud"


def test_a_voice_of_the_kit_says_nothing_of_pitch():
    one = lane(follows="root", arpeggio=Arpeggio(), pitch_strip=PitchStrip(values=(1,)), degrees_up=3)
    assert said(one) == "4 in 16"
    assert not {offer.setting for offer in offers(speech_of(one))} & {
        "5 pitches",
        "arpeggio",
        "follows the root",
    }


def test_the_plus_offers_what_melody_can_begin_with():
    known = {offer.setting for offer in offers(speech_of(reed()))}
    assert {"5 pitches", "follows the root", "arpeggio", "2 degrees up", "chords on 1", "brightness"} <= known
    running = {offer.setting for offer in offers(speech_of(reed(arpeggio=Arpeggio())))}
    assert {"over 2 octaves", "pedal note each 4th hit", "keys' velocity"} <= running
    assert "5 pitches" not in running


WORDS = [
    ("pitch", "root", 12),
    ("pitch", "scale", 19),
    ("follows", "follows", 4),
    ("arpeggio", "note order", 11),
    ("arpeggio", "pool", 7),
    ("arpeggio", "arpeggio begins", 3),
    ("arpeggio", "pedal", 4),
    ("arpeggio", "after the pedal", 2),
    ("arpeggio", "arpeggio velocity", 2),
    ("brightness", "brightness", 2),
]


@pytest.mark.parametrize(("setting", "word", "count"), WORDS)
def test_every_word_of_melody_has_its_alternatives_and_each_can_be_chosen(setting, word, count):
    one = reed(arpeggio=Arpeggio(pedal=Pedal()), pitch_strip=PitchStrip(values=(1,)))
    found = alternatives(speech_of(one, lane()), setting, word)
    assert len(found) == count
    assert sum(choice.chosen for choice in found) == 1
    for choice in found:
        read(Lane, one.model_dump(mode="json") | choice.patch)


def test_a_lane_goes_back_to_the_patterns_scale():
    one = reed(scale=Scale(root=0, name="blues"))
    back = alternatives(speech_of(one), "pitch", "scale")[0]
    assert (back.text, back.patch) == ("the pattern's scale", {"scale": None})


def test_the_bench_names_the_note_and_what_the_voice_has():
    fields = {field.setting: "".join(word.text for word in field.words) for field in bench(speech_of(reed()))}
    assert fields["note"] == "D2"
    assert fields["brightness"] == f"{PITCHED['low-reed'].brightness} %"
    assert fields["arpeggio"] == "none"
    kit = {field.setting for field in bench(speech_of(reed(voice="whole-kit", source=Drawn())))}
    assert "brightness" not in kit
