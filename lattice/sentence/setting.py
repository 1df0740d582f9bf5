"""What a row of the table of settings is, and the kinds of row that recur."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any

from lattice.document.lane import Lane
from lattice.document.limits import limits
from lattice.document.piece import Score
from lattice.render.pitch_context import PitchContext
from lattice.sentence.words import Choice, Offer, Patch, Word, number, text
from lattice.steps.frame import Frame
from lattice.steps.lane_steps import LaneSteps

__all__ = [
    "Alternatives",
    "Setting",
    "Speech",
    "Words",
    "either",
    "no_alternatives",
    "nothing",
    "offered",
    "one_number",
    "unlabelled",
]


@dataclass(frozen=True)
class Speech:
    """What a row needs to speak: the lane's line; of a melodic lane, its context.

    *score*: all of the pattern, for what a lane could become.
    """

    lane_steps: LaneSteps
    context: PitchContext | None = None
    score: Score | None = None

    @property
    def lane(self) -> Lane:
        """The lane that is spoken of."""
        return self.lane_steps.lane

    @property
    def lanes(self) -> tuple[Lane, ...]:
        """All lanes of the pattern."""
        return self.score.lanes if self.score else ()

    @property
    def frame(self) -> Frame:
        """What the lane plays in."""
        return self.lane_steps.frame

    @property
    def is_made(self) -> bool:
        """Whether the lane runs on another one's clock."""
        return self.lane_steps.followed is not None


Words = Callable[[Speech], list[Word]]
Alternatives = Callable[[Speech], list[Choice]]


def nothing(_: Speech) -> list[Any]:
    """Say, offer or list nothing."""
    return []


def no_alternatives(_: Speech) -> Mapping[str, Alternatives]:
    """Return that there are none."""
    return {}


@dataclass(frozen=True)
class Setting:
    """A row of the table. *fields*: those of a Lane that it speaks of.

    *say*: what the sentence says where the setting is not plain, else nothing. *on_bench*: what stands there under its
    label, plain or not. *alternatives*: by the name of a word that opens them; *more_alternatives*: of words that
    depend on the lane. *offers*: what a "+" may begin. *shown*: fields that show in the help what it does, where
    what it offers would not.
    """

    name: str
    label: str
    fields: frozenset[str]
    explains: str
    say: Words
    on_bench: Words
    red: bool = False
    alternatives: Mapping[str, Alternatives] = field(default_factory=dict)
    more_alternatives: Callable[[Speech], Mapping[str, Alternatives]] = no_alternatives
    offers: Callable[[Speech], list[Offer]] = nothing
    shown: Patch = field(default_factory=dict)

    def plain(self) -> Patch | None:
        """Return the patch that sends the setting back to plain; None for what has no plain value."""
        fields = {name: Lane.model_fields[name] for name in sorted(self.fields)}
        if any(known.is_required() for known in fields.values()):
            return None
        return {name: known.default for name, known in fields.items()}


def either(say: Words, plain: Words) -> Words:
    """Return a function that says *say*, or *plain* where *say* is silent."""
    return lambda speech: say(speech) or plain(speech)


def unlabelled(say: Words) -> Words:
    """Return a function that says *say* without its first word: on the bench, that is the label."""
    return lambda speech: say(speech)[1:]


def offered(
    text: str, explains: str, patch: Patch, unless: Callable[[Speech], bool]
) -> Callable[[Speech], list[Offer]]:
    """Return what offers a setting unless it is in use."""
    return lambda speech: (
        [] if unless(speech) else [Offer(setting=text, text=text, explains=explains, patch=patch)]
    )


def one_number(
    name: str,
    field: str,
    first: int,
    *,
    explains: str,
    unit: str = "",
    red: bool = False,
) -> Setting:
    """A row of one number: said when it is not plain, offered when it is."""
    plain = Lane.model_fields[field].default

    def value(speech: Speech) -> list[Word]:
        unit_words = [text(unit)] if unit else []
        return [number(name, field, getattr(speech.lane, field), *limits(Lane, field)), *unit_words]

    def is_plain(speech: Speech) -> bool:
        return bool(getattr(speech.lane, field) == plain)

    return Setting(
        name=name,
        label=name,
        fields=frozenset({field}),
        explains=explains,
        say=lambda speech: [] if is_plain(speech) else [text(f"{name} "), *value(speech)],
        on_bench=value,
        red=red,
        offers=offered(
            f"{name} {first}{unit}", explains, {field: first}, lambda speech: not is_plain(speech)
        ),
    )
