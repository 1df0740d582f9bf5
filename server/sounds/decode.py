"""From a file that somebody sends to a sound that can be played: read for what it is, bounded, written anew."""

from dataclasses import dataclass
from io import BytesIO

import numpy as np
import soundfile  # type: ignore[import-untyped]  # ships no types

__all__ = ["MAX_BYTES", "MAX_SECONDS", "NoSoundError", "Recording", "decode"]

MAX_BYTES = 4 * 2**20
MAX_SECONDS = 10
MAX_CHANNELS = 2
RATES = (8_000, 192_000)
FORMATS = {"WAV", "WAVEX", "OGG", "FLAC"}


class NoSoundError(ValueError):
    """A file that is no sound we can play."""


@dataclass(frozen=True)
class Recording:
    """*flac*: the sound as FLAC of 16 bits."""

    flac: bytes
    seconds: float


def decode(data: bytes) -> Recording:
    """Return the sound in *data*, a WAV, OGG or FLAC file, whatever it is called.

    Only what was decoded is kept, written anew: nothing else of the file goes further.
    Raises NoSoundError saying what is wrong.
    """
    if len(data) > MAX_BYTES:
        raise NoSoundError(
            f"a sound has at most {MAX_BYTES // 2**20} MB, this file has {len(data) / 2**20:.1f}"
        )
    try:
        with soundfile.SoundFile(BytesIO(data)) as file:
            if file.format not in FORMATS:
                raise NoSoundError(f"need a WAV, OGG or FLAC file, this is {file.format}")
            _check(file.channels, file.samplerate)
            rate = int(file.samplerate)
            # What the header says of the length is not believed: one frame more than may be is enough to tell.
            samples = file.read(frames=rate * MAX_SECONDS + 1, dtype="float32", always_2d=True)
    except (soundfile.LibsndfileError, RuntimeError, ValueError, TypeError) as problem:
        if isinstance(problem, NoSoundError):
            raise
        raise NoSoundError("it is no WAV, OGG or FLAC sound, or it is broken") from None
    if len(samples) > rate * MAX_SECONDS:
        raise NoSoundError(f"a sound lasts at most {MAX_SECONDS} seconds")
    if len(samples) == 0:
        raise NoSoundError("there is no sound in it")
    if not np.isfinite(samples).all():
        raise NoSoundError("it holds values that are no sound")
    written = BytesIO()
    soundfile.write(written, np.clip(samples, -1, 1), rate, format="FLAC", subtype="PCM_16")
    return Recording(written.getvalue(), len(samples) / rate)


def _check(channels: int, rate: int) -> None:
    if channels > MAX_CHANNELS:
        raise NoSoundError(f"a sound has at most {MAX_CHANNELS} channels, this one has {channels}")
    if not RATES[0] <= rate <= RATES[1]:
        raise NoSoundError(f"need {RATES[0]:,} to {RATES[1]:,} samples a second, got {rate:,}")
