"""What controllers move is kept for each musician; what a port was sent is a file."""

from io import BytesIO

import mido
from ports.models import Controllers

TABLE = {
    "name": "Eight knobs",
    "bindings": [
        {"message": "control", "channel": 1, "number": 20, "target": {"kind": "hand", "place": 0}},
        {"message": "note", "channel": 10, "number": 36, "target": {"kind": "pattern", "place": 1}},
    ],
}


def test_tables_are_kept_for_their_musician_and_replaced_as_a_whole(mara, joon):
    assert mara.send("GET", "/ports/controllers").json() == []
    assert mara.send("PUT", "/ports/controllers", {"tables": [TABLE]}).json() == [TABLE]
    assert mara.send("GET", "/ports/controllers").json() == [TABLE]
    assert joon.send("GET", "/ports/controllers").json() == []
    other = {"name": "Pads", "bindings": []}
    mara.send("PUT", "/ports/controllers", {"tables": [other]})
    assert mara.send("GET", "/ports/controllers").json() == [other]


def test_a_wrong_table_is_refused_by_its_place_and_changes_nothing(mara):
    mara.send("PUT", "/ports/controllers", {"tables": [TABLE]})
    wrong = TABLE | {"bindings": [TABLE["bindings"][0] | {"channel": 0}]}
    refused = mara.send("PUT", "/ports/controllers", {"tables": [wrong]})
    assert refused.status_code == 422
    assert "channel" in refused.json()["error"]["message"]
    twice = mara.send("PUT", "/ports/controllers", {"tables": [TABLE, TABLE]})
    assert "is there twice" in twice.json()["error"]["message"]
    assert mara.send("GET", "/ports/controllers").json() == [TABLE]


def test_a_table_that_cannot_be_read_any_more_hides_no_other(mara):
    mara.send("PUT", "/ports/controllers", {"tables": [TABLE]})
    stored = Controllers.objects.get()
    stored.tables = [{"name": "Old", "bindings": [{"message": "smoke"}]}, *stored.tables]
    stored.save()
    assert mara.send("GET", "/ports/controllers").json() == [TABLE]


def test_what_a_port_was_sent_is_a_file(mara):
    sent = [[0.0, [0x90, 60, 100]], [0.5, [0x80, 60, 0]]]
    reply = mara.send("POST", "/ports/recorded", {"name": "Night", "tempo": 120, "messages": sent})
    assert reply["Content-Disposition"].endswith('"Night.mid"')
    track = mido.MidiFile(file=BytesIO(reply.content)).tracks[0]
    assert [message.type for message in track if not message.is_meta] == ["note_on", "note_off"]
    refused = mara.send(
        "POST", "/ports/recorded", {"name": "x", "tempo": 120, "messages": [[0.0, [0x90, 60]]]}
    )
    assert refused.status_code == 422
    assert "message 1" in refused.json()["error"]["message"]
