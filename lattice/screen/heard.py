"""What is heard of a window: the notes with the voices that strike them, and what controllers are sent."""

import numpy as np

from lattice.document.kit import Voice
from lattice.document.lane import Lane
from lattice.document.piece import Score
from lattice.render.controls import Controls, controls_of
from lattice.render.events import events_of
from lattice.render.notes import note_of
from lattice.render.overlaps import Events
from lattice.render.pipeline import play_all
from lattice.render.sounding import lane_sound, port_of
from lattice.render.stages.standing import SOUND_STAGE
from lattice.render.window import Window
from lattice.screen.pictures import ChosenProgram, ControlColumns, EventColumns, Sounds, SoundSettings
from lattice.steps.moving import held, moved_lane, moving
from lattice.units import TICKS_PER_QUARTER, Ticks

__all__ = ["sounds"]

_PITCHES = 128


def sounds(score: Score, dice: int, window: Window) -> Sounds:
    """Return what is heard of *window*: what `render` returns. Raises DocumentError as `picture` does."""
    first, end = window.ticks(score.meter.bar_ticks)
    played = play_all(score, dice, window)
    sent = controls_of(score, window, played)
    voices, settings, events = _struck(score, events_of(score, dice, window, played))
    return Sounds.model_construct(
        first_tick=first,
        end_tick=end,
        bar_ticks=score.meter.bar_ticks,
        beat_ticks=int(score.meter.beat_quarters * TICKS_PER_QUARTER),
        lanes=[lane.id for lane in score.lanes],
        ports=[port_of(lane, score.kit) for lane in score.lanes],
        programs=[
            ChosenProgram(
                lane=lane.id,
                port=port_of(lane, score.kit),
                channel=note_of(lane, score)[0],
                program=lane.program,
            )
            for lane in score.lanes
            if lane.program
        ],
        voices=voices,
        settings=settings,
        events=events,
        controls=_columns(sent.sends),
        held=_columns(sent.held),
        ends=score.end_tick,
    )


def _struck(score: Score, events: Events) -> tuple[list[Voice], list[SoundSettings], EventColumns]:
    """Return the voices that notes strike, how, and the notes. One that has no voice strikes none: -1."""
    voices: dict[str, tuple[int, Voice]] = {}
    lane_sounds = [lane_sound(lane, score) for lane in score.lanes]

    def struck(lane: int, pitch: int) -> tuple[int, int]:
        sound = lane_sounds[lane]
        if sound is None:
            return -1, 0
        at = sound.at(pitch)
        number, _ = voices.setdefault(at.voice.id, (len(voices), at.voice))
        return number, at.semitones

    # Thousands of notes, but few of a lane and pitch of their own.
    keys, which = np.unique(events.lanes * _PITCHES + events.pitches, return_inverse=True)
    table = np.array([struck(*divmod(key, _PITCHES)) for key in keys.tolist()], np.int64).reshape(-1, 2)
    names = [name for name in EventColumns.model_fields if hasattr(events, name)]
    settings, set_so = _settings(score, events)
    columns = EventColumns.model_construct(
        **{name: getattr(events, name).tolist() for name in names},
        voices=table[which, 0].tolist(),
        semitones=(table[which, 1] + events.tunes).tolist(),
        settings=set_so.tolist(),
    )
    return [voice for _, voice in voices.values()], settings, columns


def _settings(score: Score, events: Events) -> tuple[list[SoundSettings], Ticks]:
    """Return the settings of built-in sounds, each once, and which of them each note has: as they are moved."""
    settings: list[SoundSettings] = []
    which = np.zeros(len(events), np.int64)
    for index, lane in enumerate(score.lanes):
        mine = np.flatnonzero(events.lanes == index)
        moved = [one for one in moving(lane.movements) if one.control in SOUND_STAGE.of_the_sound]
        if not moved:
            which[mine] = len(settings)
            settings.append(_setting(lane))
            continue
        places = np.stack([held(one, events.straights[mine], score.meter.bar_ticks) for one in moved])
        rows, of = np.unique(places, axis=1, return_inverse=True)
        which[mine] = len(settings) + of.ravel()
        for row in rows.T.tolist():
            values = {
                one.control: one.points[at].value for one, at in zip(moved, row, strict=True) if at >= 0
            }
            settings.append(_setting(moved_lane(lane, values)))
    return settings, which


def _setting(lane: Lane) -> SoundSettings:
    return SoundSettings(level_db=lane.level_db, pan=lane.pan, room=lane.room, tone=lane.tone)


def _columns(of: Controls) -> ControlColumns:
    return ControlColumns.model_construct(
        **{name: getattr(of, name).tolist() for name in ControlColumns.model_fields}
    )
