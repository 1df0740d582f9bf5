"""What a port was sent becomes a file, each message at its tick."""

from io import BytesIO

import mido
import pytest

from lattice.document import DocumentError, read
from lattice.formats.recorded import Recorded, recorded_file

ON, OFF, BEND, CLOCK = (0x92, 60, 100), (0x82, 60, 0), (0xE2, 0, 64), (0xF8,)


def recorded(*messages, tempo=120.0):
    return read(Recorded, {"name": "Night", "tempo": tempo, "messages": messages})


def written(*messages, **fields):
    midi = mido.MidiFile(file=BytesIO(recorded_file(recorded(*messages, **fields))))
    now, found = 0, []
    for message in midi.tracks[0]:
        now += message.time
        if not message.is_meta:
            found.append((now, message.bytes()))
    return found


@pytest.mark.parametrize("tempo", [20.0, 111.37, 400.0])
def test_each_message_is_at_its_tick_at_any_tempo(tempo):
    ticks = [0, 1, 13441, 13440 * 4 * 300 + 7]
    seconds = [tick * 60 / tempo / 13440 for tick in ticks]
    found = written(*((second, ON if at % 2 == 0 else OFF) for at, second in enumerate(seconds)), tempo=tempo)
    assert [tick for tick, _ in found] == ticks


def test_clock_and_transport_are_left_out_and_the_order_at_one_time_is_kept():
    messages = [(0.5, OFF), (0.5, BEND), (0.5, ON), (0.0, ON), (0.1, CLOCK)]
    assert written(*messages) == [
        (0, list(ON)),
        (13440, list(OFF)),
        (13440, list(BEND)),
        (13440, list(ON)),
    ]


@pytest.mark.parametrize(
    ("message", "said"),
    [
        ([0.0, [0x90, 60]], "message 1 is not whole"),
        ([0.0, [60, 60, 60]], "message 1 .*no status byte"),
        ([0.0, [0x90, 60, 200]], "message 1 is not whole"),
    ],
)
def test_what_is_no_whole_message_is_refused_by_its_place(message, said):
    with pytest.raises(DocumentError, match=said):
        recorded_file(recorded(message))


@pytest.mark.parametrize("message", [[-1.0, [0xF8]], [0.0, []], [0.0, [300]], [1e9, [0xF8]]])
def test_what_can_be_no_message_is_refused_at_the_door(message):
    with pytest.raises(DocumentError, match="messages"):
        recorded(message)
