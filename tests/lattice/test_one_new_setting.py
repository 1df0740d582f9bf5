"""One new setting of a lane is a field, a row of the table and a line in a stage: tried on a copy of the engine."""

import json
import os
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

# What CONTRIBUTING says is needed for a setting "late", which moves every step by so many % of its length.
CHANGES = {
    "lattice/document/lane.py": [
        (
            "    rotate: Annotated[",
            "    late_percent: Annotated[int, Field(ge=0, le=80)] = 0\n    rotate: Annotated[",
        )
    ],
    "lattice/sentence/table.py": [
        (
            "\n_ROWS = {",
            '\nSETTINGS = (*SETTINGS, one_number("late", "late_percent", 20, explains="Plays later", unit=" %"))'
            '\nGROUPS = {**GROUPS, "time": (*GROUPS["time"], "late")}\n_ROWS = {',
        ),
        ("import Setting, Speech, either, offered", "import Setting, Speech, either, offered, one_number"),
    ],
    "lattice/render/stages/nudge.py": [
        (
            "return with_spread(values_at(strip, NUDGE, step_window, 0), strip, NUDGE, step_window)",
            "nudges = with_spread(values_at(strip, NUDGE, step_window, 0), strip, NUDGE, step_window)\n"
            "    return nudges + step_window.lane_steps.lane.late_percent",
        ),
        (
            "max(0, extent(lane_steps.lane.nudge_strip, NUDGE, 0).high) / 100",
            "(max(0, extent(lane_steps.lane.nudge_strip, NUDGE, 0).high) + lane_steps.lane.late_percent) / 100",
        ),
        ('frozenset({"nudge_strip"})', 'frozenset({"nudge_strip", "late_percent"})'),
    ],
}
LATE = 80
TRIED = f"""
import json
from lattice.document import DOCKSIDE, Euclidean, Lane, Score
from lattice.document.limits import limits
from lattice.render import Window, render
from lattice.render.feel import feel_of
from lattice.render.stages import earliest_and_latest
from lattice.screen import picture
from lattice.sentence import Speech, offers
from lattice.steps.lane_steps import steps_of_lanes

def score(**fields):
    lane = Lane(id="a", name="A", voice="thud", source=Euclidean(hits=16, steps=16), **fields)
    return Score(tempo=112.0, kit=DOCKSIDE, bars=4, lanes=(lane,))

plain, late = score(), score(late_percent={LATE})
drawn = picture(late, 1, Window(bars=1), ["a"])
lane_steps = steps_of_lanes(late, 1)[0]
before = steps_of_lanes(plain, 1)[0]
refused = ""
try:
    score(late_percent=81)
except ValueError as error:
    refused = str(error)
print(json.dumps({{
    "starts": [render(one, 1, Window(bars=1)).starts.tolist()[:4] for one in (plain, late)],
    "lanes_picture": drawn.lanes[0].onsets[:2],
    "said": [[word.text for part in drawn.lanes[0].sentence.parts for word in part.words]],
    "bench": [one.label for one in drawn.benches[0].fields],
    "offered": [one.text for one in offers(Speech(before))],
    "latest": earliest_and_latest(lane_steps, feel_of(lane_steps.lane, late))[1],
    "limits": limits(Lane, "late_percent"),
    "refused": refused,
}}))
"""


@pytest.fixture(scope="module")
def engine(tmp_path_factory):
    """A copy of the engine, its tests and what they read, with the setting in it."""
    copy = tmp_path_factory.mktemp("engine")
    for name in ("lattice", "tests", "docs"):
        shutil.copytree(
            name, copy / name, ignore=shutil.ignore_patterns("__pycache__", "browser", "screenshots")
        )
    for name in ("pyproject.toml", "CONTRIBUTING.md"):
        shutil.copy(name, copy)
    for path, changes in CHANGES.items():
        text = (copy / path).read_text()
        for old, new in changes:
            assert text.count(old) == 1, f"{path}: {old}"
            text = text.replace(old, new)
        (copy / path).write_text(text)
    return copy


def run(engine: Path, *arguments: str) -> subprocess.CompletedProcess[str]:
    there = os.environ | {"PYTHONPATH": str(engine)}
    return subprocess.run(
        [sys.executable, *arguments], cwd=engine, env=there, capture_output=True, text=True, check=False
    )


def test_it_is_played_drawn_said_offered_bounded_and_limited(engine):
    done = run(engine, "-c", TRIED)
    assert done.returncode == 0, done.stderr
    found = json.loads(done.stdout)
    step, moved = 3360, 3360 * LATE // 100
    assert found["starts"] == [
        [0, step, 2 * step, 3 * step],
        [moved, step + moved, 2 * step + moved, 3 * step + moved],
    ]
    assert found["lanes_picture"] == [moved, step + moved]
    assert "late" in " ".join(found["said"][0])
    assert "late" in found["bench"]
    assert "late 20 %" in found["offered"]
    assert found["latest"] >= moved
    assert found["limits"] == [0, 80]
    assert "late_percent" in found["refused"]


OF_FIELDS = ("tests/lattice/sentence/test_table.py", "tests/lattice/render/test_stages.py")


def tried(engine: Path, *tests: str) -> int:
    alone = ("-c", os.devnull, "--rootdir", ".", "-p", "no:django", "-p", "no:cacheprovider")
    return run(engine, "-m", "pytest", "-q", *alone, *tests, "-k", "field").returncode


def test_a_setting_without_a_row_or_a_stage_is_found(engine):
    """The tests that hold the tables together pass, and fail without the row, or without the stage's word for it."""
    assert tried(engine, *OF_FIELDS) == 0
    for path, old, test in (
        ("lattice/sentence/table.py", 'one_number("late", "late_percent"', OF_FIELDS[0]),
        ("lattice/render/stages/nudge.py", '"nudge_strip", "late_percent"', OF_FIELDS[1]),
    ):
        text = (engine / path).read_text()
        (engine / path).write_text(text.replace(old, old.replace("late_percent", "rotate")))
        assert tried(engine, test) == 1
        (engine / path).write_text(text)
