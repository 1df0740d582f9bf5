"""The page turns time into pixels and ticks into seconds, and reckons nothing else of the job's.

Two files are there for that; all others ask them, or the engine.
"""

import re
from pathlib import Path

SOURCES = Path("web/src")
TIME_TO_PIXELS, TICKS_TO_SECONDS = "lattice/geometry/scale.ts", "sound/time.ts"
_NAME = r"[A-Za-z_.$]*(?:[tT]icks?|[bB]eats?|[bB]ars?|[dD]egrees?|[sS]emitones?|[oO]ctaves?|OCTAVE)(?:[A-Z]\w*)?(?:\.value|\b)"
# People count from 1: adding one, or taking it away, reckons nothing.
_RECKONED = re.compile(rf"(?<![\w'\"-]){_NAME}\)*\s+[-+*/%]\s+(?!1\b)|\s[-+*/%]\s+\(*{_NAME}(?![\w'-])")


def reckons(text: str) -> bool:
    """Return whether a source has arithmetic with ticks, beats, bars, degrees, semitones or octaves."""
    text = re.sub(r"<style.*?</style>|/\*.*?\*/|//[^\n]*|'[^'\n]*'", "", text, flags=re.DOTALL)
    return any(_RECKONED.search(line) for line in text.splitlines())


def test_what_reckons_is_known_as_such():
    assert reckons("const end = start + 4 * barTicks")
    assert reckons("return degree % 7")
    assert not reckons("const said = bar + 1 // 3 * bars")
    assert not reckons("<style>.bar { left: calc(1 * bars) }</style> const at = width / 2")


def test_the_page_reckons_with_time_and_pitch_in_two_files_alone():
    found = {
        path.relative_to(SOURCES).as_posix()
        for path in SOURCES.rglob("*")
        if path.suffix in {".ts", ".vue"}
        and not path.name.endswith((".test.ts", ".d.ts"))
        and not path.name.startswith("testing")
        and reckons(path.read_text())
    }
    assert found == {TIME_TO_PIXELS, TICKS_TO_SECONDS}


# Bars of a file are asked for in its address, which has no model; a coarse hand slides over a thousandth of any range.
OWN_LIMITS = {"clips/ExportCard.vue": 1, "sentence/CoarseHand.vue": 1}


def test_limits_of_numbers_come_from_the_documents():
    """Without them in the page, as generated in `api/limits.json`, a bound would be said twice."""
    typed = re.compile(r'\bmax="\d|\bmax: \d|numberWord\([^()]*, \d')
    found = {
        path.relative_to(SOURCES).as_posix(): len(typed.findall(path.read_text()))
        for suffix in ("vue", "ts")
        for path in SOURCES.rglob(f"*.{suffix}")
        if not path.name.endswith((".test.ts", ".d.ts"))
    }
    assert {name: count for name, count in found.items() if count} == OWN_LIMITS
