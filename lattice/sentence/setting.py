"""What a row of the table of settings is, and the kinds of row that recur."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from lattice.document.lane import Lane
from lattice.document.source import Drawn
from lattice.document.step_value import StepValue
from lattice.sentence.words import Offer, Patch, Word, number, text

__all__ = ["Setting", "Speech", "offered_if_plain", "one_number", "ready"]


@dataclass(frozen=True)
class Setting:
    """A row of the table. *fields*: those of a Lane that it speaks of."""

    name: str
    fields: frozenset[str]
    red: bool
    explains: str
    say: Callable[["Speech"], list[Word]]
    offers: Callable[["Speech"], list[Offer]]

    def plain(self) -> Patch | None:
        """Return the patch that sends the setting back to plain; None for what has no plain value."""
        fields = {name: Lane.model_fields[name] for name in self.fields}
        if any(field.is_required() for field in fields.values()):
            return None
        return {name: field.default for name, field in fields.items()}


@dataclass(frozen=True)
class Speech:
    """What a row needs to speak: the lane, what it plays as a drawn source, and the pattern's step value."""

    lane: Lane
    settled: Drawn
    pattern_step: StepValue


def ready(setting: str, text: str, explains: str, patch: Patch) -> list[Offer]:
    """Return the one offer of a setting that is plain."""
    return [Offer(setting=setting, text=text, explains=explains, patch=patch)]


def one_number(
    name: str, field: str, limits: tuple[int, int], first: int, *, explains: str, unit: str = ""
) -> Setting:
    """A row of one number: said when it is not plain, offered when it is."""
    plain = Lane.model_fields[field].default

    def say(speech: Speech) -> list[Word]:
        value = getattr(speech.lane, field)
        if value == plain:
            return []
        return [text(f"{name} "), number(name, field, value, *limits), *([text(unit)] if unit else [])]

    def offers(speech: Speech) -> list[Offer]:
        if getattr(speech.lane, field) != plain:
            return []
        return ready(name, f"{name} {first}{unit}", explains, {field: first})

    return Setting(name, frozenset({field}), name == "chance", explains, say, offers)


def offered_if_plain(
    name: str, field: str, text: str, explains: str, first: Any
) -> Callable[[Speech], list[Offer]]:
    """Return what offers *first* for a field that is plain."""
    plain = Lane.model_fields[field].default
    return lambda speech: (
        ready(name, text, explains, {field: first}) if getattr(speech.lane, field) == plain else []
    )
