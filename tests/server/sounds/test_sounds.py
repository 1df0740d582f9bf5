"""A musician's own sounds: checked for what they are, bounded, served to nobody else."""

from contextlib import suppress
from io import BytesIO

import numpy as np
import pytest
import soundfile
from django.core.files.uploadedfile import SimpleUploadedFile
from hypothesis import given
from hypothesis import strategies as st
from sounds.decode import MAX_BYTES, NoSoundError, decode
from sounds.models import Sound
from sounds.services import name_of


def recording(seconds=0.2, rate=44100, channels=1, format="WAV", subtype=None):
    """Return a file with a falling tone."""
    times = np.arange(int(seconds * rate)) / rate
    tone = 0.5 * np.sin(2 * np.pi * 440 * times) * np.exp(-8 * times)
    written = BytesIO()
    soundfile.write(written, np.column_stack([tone] * channels), rate, format=format, subtype=subtype)
    return written.getvalue()


def send(hands, data, name="gong.wav"):
    return hands.post("/api/sounds", {"file": SimpleUploadedFile(name, data)})


@pytest.mark.parametrize(
    ("format", "subtype", "name"),
    [
        ("WAV", "PCM_16", "gong.wav"),
        ("WAV", "FLOAT", "gong.wav"),
        ("OGG", "VORBIS", "gong.ogg"),
        ("FLAC", None, "gong.flac"),
    ],
)
def test_wav_ogg_and_flac_are_stored_and_come_back_as_the_same_sound(mara, format, subtype, name):
    reply = send(mara, recording(format=format, subtype=subtype, channels=2), name)
    assert reply.status_code == 201, reply.content
    listed = reply.json()
    assert (listed["name"], round(listed["seconds"], 2)) == ("gong", 0.2)
    assert mara.send("GET", "/sounds").json() == [listed]
    got = mara.send("GET", f"/sounds/{listed['id']}")
    assert got["Content-Type"] == "audio/flac"
    assert got["X-Content-Type-Options"] == "nosniff"
    samples, rate = soundfile.read(BytesIO(got.content))
    original, _ = soundfile.read(BytesIO(recording()))
    assert rate == 44100
    assert np.abs(samples[: len(original), 0] - original).max() < (0.1 if format == "OGG" else 0.001)


def test_what_a_sound_is_called_says_nothing_of_what_it_is(mara):
    assert send(mara, recording(format="FLAC"), "gong.exe").status_code == 201


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"", "it is no WAV, OGG or FLAC sound, or it is broken"),
        (b"<script>alert(1)</script>", "it is no WAV, OGG or FLAC sound, or it is broken"),
        (b"MThd\0\0\0\6\0\1\0\1\1\340", "it is no WAV"),
        (b"PK\3\4" + b"\0" * 60, "it is no WAV"),
        (recording()[:40], "it is no WAV, OGG or FLAC sound, or it is broken"),
        (recording(seconds=0), "there is no sound in it"),
        (recording(seconds=10.5), "a sound lasts at most 10 seconds"),
        (recording(channels=3), "a sound has at most 2 channels, this one has 3"),
        (recording(rate=4000), "need 8,000 to 192,000 samples a second, got 4,000"),
        (recording(format="AIFF"), "need a WAV, OGG or FLAC file, this is AIFF"),
        (b"\0" * (MAX_BYTES + 1), "a sound has at most 4 MB"),
    ],
)
def test_what_is_no_short_sound_is_refused_and_nothing_is_stored(mara, data, says):
    refused = send(mara, data)
    assert refused.status_code in (400, 422)
    assert says in refused.json()["error"]["message"] or not data
    assert Sound.objects.count() == 0


def test_a_header_that_lies_of_its_length_is_not_believed():
    honest = recording()
    lying = honest[:40] + (2**31 - 1).to_bytes(4, "little") + honest[44:]
    assert decode(lying).seconds == pytest.approx(0.2, abs=0.01)


@given(st.data())
def test_broken_files_are_sounds_or_refused(data):
    """Whatever is changed in a file, it is decoded within bounds or refused: nothing else comes of it."""
    whole = bytearray(recording(seconds=0.02, format=data.draw(st.sampled_from(["WAV", "FLAC", "OGG"]))))
    for _ in range(data.draw(st.integers(1, 6))):
        whole[data.draw(st.integers(0, len(whole) - 1))] = data.draw(st.integers(0, 255))
    cut = bytes(whole[: data.draw(st.integers(1, len(whole)))])
    with suppress(NoSoundError):
        assert decode(cut).seconds <= 10


@pytest.mark.parametrize(
    ("file_name", "name"),
    [
        ("gong.wav", "gong"),
        ("../../etc/passwd", "passwd"),
        ("C:\\sounds\\low gong.ogg", "low gong"),
        ("a\u0000\u0007b.wav", "ab"),
        ("x" * 200 + ".wav", "x" * 80),
        ("", "Sound"),
        ("<b>gong</b>.wav", "b>"),
    ],
)
def test_a_sound_is_called_after_its_file_without_a_path(file_name, name):
    assert name_of(file_name) == name


def test_a_sound_is_its_owners_alone(mara, joon, nobody):
    listed = send(mara, recording()).json()
    path = f"/sounds/{listed['id']}"
    assert joon.send("GET", path).status_code == 404
    assert joon.send("DELETE", path).status_code == 404
    assert nobody.send("GET", path).status_code == 401
    assert joon.send("GET", "/sounds").json() == []
    assert mara.send("GET", "/sounds/..%2F..%2Fetc%2Fpasswd").status_code == 404
    assert mara.send("DELETE", path).status_code == 204
    assert mara.send("GET", path).status_code == 404


def test_there_is_an_end_to_how_many(mara, monkeypatch):
    monkeypatch.setattr("sounds.services.MAX_SOUNDS", 1)
    send(mara, recording())
    refused = send(mara, recording())
    assert refused.status_code == 422
    assert "delete one first" in refused.json()["error"]["message"]
