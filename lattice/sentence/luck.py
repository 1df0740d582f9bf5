"""Luck that steps share, cycles in which they are silent, luck that repeats: in words."""

from collections import Counter

from lattice.document.chance import MAX_RULE_CYCLES, CycleRule
from lattice.document.timing import MAX_BARS_OF_A_PATTERN
from lattice.sentence.setting import Setting, Speech, either, offered, unlabelled
from lattice.sentence.words import Choice, Word, choice, choices, number, text

__all__ = ["LUCK"]


def _say_links(speech: Speech) -> list[Word]:
    awake = [link.letter for link in speech.lane.links if link.step < speech.lane_steps.steps]
    if not speech.lane.links:
        return []
    letters = Counter(awake)
    said = (
        f"{len(awake)}"
        if len(letters) < 2
        else ", ".join(f"{n} {letter}" for letter, n in sorted(letters.items()))
    )
    return [choice(f"{said} linked", "linked")]


def _link_choices(_: Speech) -> list[Choice]:
    return choices(
        [("own", "as they are"), ("plain", "each step for itself")], "own", lambda _: {"links": []}
    )


def _say_rule(speech: Speech) -> list[Word]:
    rule = speech.lane.cycle_rule
    if rule is None:
        return []
    return [
        text("cycle "),
        number("cycle", "cycle_rule.nth", rule.nth, 1, rule.of),
        text(" "),
        choice("of", "cycle rule"),
        text(" "),
        number("of cycles", "cycle_rule.of", rule.of, max(2, rule.nth), MAX_RULE_CYCLES),
    ]


def _rule_choices(speech: Speech) -> list[Choice]:
    return choices(
        [("every", "every cycle"), ("rule", "cycle 1 of 4")],
        "rule" if speech.lane.cycle_rule else "every",
        lambda key: {"cycle_rule": CycleRule().model_dump() if key == "rule" else None},
    )


def _say_step_rules(speech: Speech) -> list[Word]:
    if not speech.lane.step_rules:
        return []
    awake = sum(row.step < speech.lane_steps.steps for row in speech.lane.step_rules)
    return [choice(f"cycles on {awake}", "cycle rules")]


def _step_rule_choices(_: Speech) -> list[Choice]:
    return choices([("own", "as they are"), ("plain", "in every cycle")], "own", lambda _: {"step_rules": []})


def _say_luck(speech: Speech) -> list[Word]:
    bars = speech.lane.luck_bars
    if bars is None:
        return []
    count = number("bars of luck", "luck_bars", bars, 1, MAX_BARS_OF_A_PATTERN)
    return [
        text("luck "),
        choice("repeats", "luck"),
        text(" every "),
        count,
        text(" bar" if bars == 1 else " bars"),
    ]


def _luck_choices(speech: Speech) -> list[Choice]:
    return choices(
        [("new", "new luck each time"), ("repeats", "luck repeats every 2 bars")],
        "repeats" if speech.lane.luck_bars else "new",
        lambda key: {"luck_bars": 2 if key == "repeats" else None},
    )


_LINKS = "Steps of one letter sound together or not at all."
_RULE = "The lane sounds only in one of so many cycles."
_STEP_RULES = "Single steps that sound only in one of so many cycles."
_LUCK = "What the dice gave is given again after so many bars."

LUCK: tuple[Setting, ...] = (
    Setting(
        "links",
        "linked",
        frozenset({"links"}),
        _LINKS,
        _say_links,
        _say_links,  # steps are linked where they are chosen
        red=True,
        alternatives={"linked": _link_choices},
        shown={"links": [{"step": step} for step in (0, 2, 3)], "chance_percent": 50},
    ),
    Setting(
        "cycle rule",
        "cycles",
        frozenset({"cycle_rule"}),
        _RULE,
        _say_rule,
        either(unlabelled(_say_rule), lambda _: [choice("every one", "cycle rule")]),
        red=True,
        alternatives={"cycle rule": _rule_choices},
        offers=offered(
            "cycle 1 of 4",
            _RULE,
            {"cycle_rule": CycleRule().model_dump()},
            lambda speech: speech.lane.cycle_rule is not None,
        ),
    ),
    Setting(
        "cycle rules",
        "cycles of steps",
        frozenset({"step_rules"}),
        _STEP_RULES,
        _say_step_rules,
        _say_step_rules,
        red=True,
        alternatives={"cycle rules": _step_rule_choices},
        shown={"step_rules": [{"step": 3, "rule": {"nth": 2, "of": 2}}]},
    ),
    Setting(
        "luck",
        "luck",
        frozenset({"luck_bars"}),
        _LUCK,
        _say_luck,
        either(unlabelled(_say_luck), lambda _: [choice("new each time", "luck")]),
        red=True,
        alternatives={"luck": _luck_choices},
        offers=offered(
            "luck repeats every 2 bars",
            _LUCK,
            {"luck_bars": 2},
            lambda speech: speech.lane.luck_bars is not None,
        ),
    ),
)
