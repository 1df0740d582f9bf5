"""How a lane stands: what changes no note of it, but who it is, whether it is heard, and how it sounds."""

from lattice.render.stages.stage import Stage

__all__ = ["SOUND_STAGE", "STANDING_STAGE"]

SOUND_STAGE = Stage(
    "sound",
    frozenset(
        {"level_db", "pan", "room", "brightness", "attack_ms", "release_ms", "port", "program", "channel"}
    ),
    of_the_sound=frozenset({"level_db", "pan", "room", "brightness", "attack_ms", "release_ms"}),
)
STANDING_STAGE = Stage(
    "standing",
    frozenset({"id", "name", "ink", "anchored", "clip", "movements", "mute", "solo"}),
    of_the_sound=frozenset({"mute"}),
)
