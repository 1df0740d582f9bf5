"""A lane's bursts in words."""

from lattice.document.burst import MAX_BURST_NOTES, Burst
from lattice.document.timing import MAX_OFFSET_NOTES
from lattice.sentence.setting import Alternatives, Setting, Speech
from lattice.sentence.step_value import say_step_value
from lattice.sentence.words import Choice, Word, choice, choices, number, text

__all__ = ["BURSTS"]


def _say_bursts(speech: Speech) -> list[Word]:
    count = len(speech.lane.bursts)
    if count == 0:
        return []
    said = f"a burst of {speech.lane.bursts[0].notes}" if count == 1 else f"{count} bursts"
    asleep = sum(
        not burst.fits(speech.frame.meter.bar_quarters, speech.frame.pass_quarters)
        for burst in speech.lane.bursts
    )
    return [choice(said + (f" ({asleep} beyond the end)" if asleep else ""), "bursts")]


def _bursts_on_bench(speech: Speech) -> list[Word]:
    words: list[Word] = []
    for place, burst in enumerate(speech.lane.bursts):
        path, name = f"bursts.{place}", f"burst {place + 1}"
        words += [text(" · ")] if words else []
        words += [
            number(f"{name} notes", f"{path}.notes", burst.notes, 1, MAX_BURST_NOTES),
            text(" over "),
            number(f"{name} length", f"{path}.length", burst.length, 1, MAX_OFFSET_NOTES),
            text(f" × {say_step_value(burst.value)} from {_start(burst)}, fades from "),
            number(f"{name} fades from", f"{path}.fade_from", burst.fade_from, 1, 200),
            text(" % to "),
            number(f"{name} fades to", f"{path}.fade_to", burst.fade_to, 1, 200),
            text(" %, chance "),
            number(f"{name} chance", f"{path}.chance_percent", burst.chance_percent, 0, 100),
            text(" % "),
            choice("as played", f"{name} stays"),
        ]
    return words


def _start(burst: Burst) -> str:
    into = f" + {burst.count} × {say_step_value(burst.value)}" if burst.count else ""
    return f"bar {burst.bars + 1}{into}"


def _burst_choices(speech: Speech) -> dict[str, Alternatives]:
    bursts = speech.lane.model_dump(mode="json")["bursts"]

    def without(place: int) -> Alternatives:
        return lambda _: choices(
            [("own", "as played"), ("away", "take it away: the lane's own hits come back")],
            "own",
            lambda _: {"bursts": bursts[:place] + bursts[place + 1 :]},
        )

    return {f"burst {place + 1} stays": without(place) for place in range(len(bursts))}


def _all_burst_choices(_: Speech) -> list[Choice]:
    return choices(
        [("own", "as played"), ("away", "take all away: the lane's own hits come back")],
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
)
