"""A lane's bursts in words."""

from fractions import Fraction
from typing import Any

from lattice.document.burst import Burst, EveryBars, EveryCycle
from lattice.document.limits import limits
from lattice.document.step_value import StepValue
from lattice.document.timing import MAX_BARS_OF_A_PATTERN, MAX_OFFSET_NOTES
from lattice.sentence.lengths import in_bars
from lattice.sentence.setting import Alternatives, Setting, Speech
from lattice.sentence.step_value import say_step_value
from lattice.sentence.words import Choice, Word, choice, choices, number, text

__all__ = ["BURSTS"]

_EVERY = (1, 2, 4, 8, 16)


def _say_bursts(speech: Speech) -> list[Word]:
    bursts = speech.lane.bursts
    if not bursts:
        return []
    if len(bursts) == 1:
        said = f"a burst of {bursts[0].notes} {_say_where(bursts[0], speech)}"
    else:
        said = f"{len(bursts)} bursts"
    asleep = sum(not _fits(burst, speech) for burst in bursts)
    return [choice(said + (f" ({asleep} beyond the end)" if asleep else ""), "bursts")]


def _round(burst: Burst, speech: Speech) -> Fraction:
    frame = speech.frame
    cycle = speech.lane_steps.clock.cycle_quarters
    return burst.round_quarters(frame.meter.bar_quarters, frame.pass_quarters, cycle)


def _fits(burst: Burst, speech: Speech) -> bool:
    return burst.quarters(speech.frame.meter.bar_quarters)[1] <= _round(burst, speech)


def _say_where(burst: Burst, speech: Speech) -> str:
    """Say where a burst comes.

    "in bar 1 of 16": once in each pass; "in bar 2 of every 4"; "in each cycle".
    """
    if isinstance(burst.comes, EveryCycle):
        return "in each cycle"
    bar = speech.frame.meter.bar_quarters
    within = int(burst.quarters(bar)[0] // bar) + 1
    if burst.comes is None:
        return f"in bar {within} of {speech.frame.bars}"
    return f"in bar {within} of every {burst.comes.bars}" if burst.comes.bars > 1 else "in every bar"


def _bursts_on_bench(speech: Speech) -> list[Word]:
    words: list[Word] = []
    for place, burst in enumerate(speech.lane.bursts):
        path, name = f"bursts.{place}", f"burst {place + 1}"
        words += [text(" · ")] if words else []
        words += [
            number(f"{name} notes", f"{path}.notes", burst.notes, *limits(Burst, "notes")),
            text(" over "),
            number(f"{name} length", f"{path}.length", burst.length, 1, MAX_OFFSET_NOTES),
            text(f" × {say_step_value(burst.value)} from {_start(burst)}, comes "),
            choice(_say_comes(burst, speech), f"{name} comes"),
            text(", fades from "),
            number(f"{name} fades from", f"{path}.fade_from", burst.fade_from, *limits(Burst, "fade_from")),
            text(" % to "),
            number(f"{name} fades to", f"{path}.fade_to", burst.fade_to, *limits(Burst, "fade_to")),
            text(" %, chance "),
            number(
                f"{name} chance",
                f"{path}.chance_percent",
                burst.chance_percent,
                *limits(Burst, "chance_percent"),
            ),
            text(" % "),
            choice("as played", f"{name} stays"),
        ]
    return words


def _start(burst: Burst) -> str:
    into = f" + {burst.count} × {say_step_value(burst.value)}" if burst.count else ""
    if isinstance(burst.comes, EveryCycle) and not burst.bars:
        return f"the cycle's beginning{into}"
    return f"bar {burst.bars + 1}{into}"


def _say_comes(burst: Burst, speech: Speech) -> str:
    if burst.comes is None:
        return f"once in each pass ({in_bars(Fraction(speech.frame.bars))})"
    if isinstance(burst.comes, EveryCycle):
        return "in each cycle"
    return f"every {burst.comes.bars} bars" if burst.comes.bars > 1 else "in every bar"


def _burst_choices(speech: Speech) -> dict[str, Alternatives]:
    bursts = speech.lane.model_dump(mode="json")["bursts"]

    def without(place: int) -> Alternatives:
        return lambda _: choices(
            [("own", "as played"), ("away", "remove it: the lane's own hits come back")],
            "own",
            lambda _: {"bursts": bursts[:place] + bursts[place + 1 :]},
        )

    def coming(place: int) -> Alternatives:
        return lambda speech: _comes_choices(speech, place)

    stays = {f"burst {place + 1} stays": without(place) for place in range(len(bursts))}
    return stays | {f"burst {place + 1} comes": coming(place) for place in range(len(bursts))}


def _comes_choices(speech: Speech, place: int) -> list[Choice]:
    """Return in what a burst may come once: where it begins now, counted from the beginning of that."""
    bursts = speech.lane.bursts
    burst = bursts[place]
    options: list[tuple[str, EveryBars | EveryCycle | None]] = [
        ("pass", None),
        *((f"bars {bars}", EveryBars(bars=bars)) for bars in _EVERY if bars < speech.frame.bars),
        ("cycle", EveryCycle()),
    ]

    def patch(key: str) -> dict[str, Any]:
        moved = _counted_anew(burst.model_copy(update={"comes": dict(options)[key]}), burst, speech)
        changed = (*bursts[:place], moved, *bursts[place + 1 :])
        return {"bursts": [one.model_dump(mode="json") for one in changed]}

    chosen = next((key for key, comes in options if comes == burst.comes), "")
    said = [(key, _say_comes(burst.model_copy(update={"comes": comes}), speech)) for key, comes in options]
    return choices(said, chosen, patch)


def _counted_anew(burst: Burst, before: Burst, speech: Speech) -> Burst:
    """Return *burst* at the same place as *before*, counted from the start of its own pass, bars or cycle."""
    bar, value = speech.frame.meter.bar_quarters, burst.value.quarters
    into = before.quarters(bar)[0] % _round(burst, speech)
    if (into / value).denominator == 1 and into // value <= MAX_OFFSET_NOTES:
        return burst.model_copy(update={"bars": 0, "count": int(into // value)})
    bars = min(int(into // bar), MAX_BARS_OF_A_PATTERN - 1)
    count = min(round((into - bars * bar) / value), MAX_OFFSET_NOTES)
    return burst.model_copy(update={"bars": bars, "count": count})


def _all_burst_choices(_: Speech) -> list[Choice]:
    return choices(
        [("own", "as played"), ("away", "remove all: the lane's own hits come back")],
        "own",
        lambda _: {"bursts": []},
    )


_BURSTS = "Even notes in place of what the lane does for a while; its own hits there are silent, but counted."

BURSTS = Setting(
    "bursts",
    "bursts",
    frozenset({"bursts"}),
    _BURSTS,
    _say_bursts,
    _bursts_on_bench,
    red=True,
    alternatives={"bursts": _all_burst_choices},
    more_alternatives=_burst_choices,
    shown={
        "bursts": [
            Burst(bars=1, count=2, value=StepValue(note=4), length=2, notes=7, fade_from=50).model_dump()
        ]
    },
)
