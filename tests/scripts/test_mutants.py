"""Changes made on purpose: where, how, in a copy alone, and what is said of them."""

import random
from dataclasses import replace

import pytest

from scripts import mutants
from scripts.mutants import FILES, LEFT_OUT, Mutant, all_mutants, apply, chosen, python_places, script_places
from scripts.rooms import ROOMS, ROOT, browser_tests


def changed(places, source):
    """Return what the lines would be, one for each place."""
    lines = source.splitlines()
    return [
        (lines[line - 1].encode()[:start] + new.encode() + lines[line - 1].encode()[end:]).decode()
        for line, start, end, new in places(source)
    ]


def test_python_is_changed_at_comparisons_arithmetic_and_whole_numbers():
    assert sorted(changed(python_places, "a = b < c + 2\n")) == [
        "a = b < c + 3", "a = b < c - 2", "a = b <= c + 2",
    ]  # fmt: skip
    assert changed(python_places, "name = 'é' if a == b else c\n") == ["name = 'é' if a != b else c"]


def test_scripts_are_changed_outside_of_words_comments_types_and_templates():
    source = """<script setup lang="ts">
import { a } from 'b'
type Sum = 1 | 2
// less than 3 < 4
const sum = left + 12 // 5 + 6
const word = 'left + 12'
</script>
<template><b v-if="left + 12" /></template>
"""
    assert changed(script_places, source) == [
        "const sum = left - 12 // 5 + 6",
        "const sum = left + 13 // 5 + 6",
    ]


def test_every_part_has_places_and_none_is_in_a_test_or_a_migration():
    for part in FILES:
        paths = {one.path for one in all_mutants(part)}
        assert len(paths) > 30
        assert not [path for path in paths if LEFT_OUT.search(path) or "test" in path.rpartition("/")[2]]


def test_a_seed_chooses_the_same_changes_each_time():
    counts = {"engine": 3, "page": 2}
    one, again, other = (chosen(counts, random.Random(seed)) for seed in (5, 5, 6))
    assert one == again != other
    assert [mutant.part for mutant in one] == ["engine"] * 3 + ["page"] * 2


def test_a_change_is_made_in_the_copy_where_its_line_is_now(tmp_path):
    (tmp_path / "a.py").write_text("x = 1\ny = 2\nz = 3\ny = 2\n")
    one = Mutant("engine", "a.py", line=5, before="y = 2", after="y = 3")
    assert apply(one, tmp_path)
    assert (tmp_path / "a.py").read_text() == "x = 1\ny = 2\nz = 3\ny = 3\n"
    assert not apply(replace(one, before="gone"), tmp_path)
    assert not apply(replace(one, path="gone.py"), tmp_path)


@pytest.mark.parametrize(
    ("body", "noticed"),
    [("assert one() == 1", "test_one.py::test_one"), ("assert one()", "")],
    ids=["noticed", "not noticed"],
)
def test_the_test_that_fails_is_named(tmp_path, monkeypatch, body, noticed):
    (tmp_path / "code.py").write_text("def one():\n    return 1\n")
    (tmp_path / "test_one.py").write_text(f"from code import one\n\ndef test_one():\n    {body}\n")
    (tmp_path / "pytest.ini").write_text("[pytest]\npythonpath = .\n")
    monkeypatch.setattr(
        mutants, "commands", lambda mutant, folder: [[*mutants.pytest_command("test_one.py"), "-n", "0"]]
    )
    monkeypatch.delenv("DJANGO_SETTINGS_MODULE", raising=False)
    one = Mutant("engine", "code.py", 2, "    return 1", "    return 2")
    assert apply(one, tmp_path)
    assert mutants.noticed_by(one, tmp_path) == noticed


def test_every_room_has_browser_tests_that_are_there_and_every_test_has_a_room():
    page = {f"web/src/{path.name}" for path in (ROOT / "web/src").iterdir() if path.is_dir()}
    server = {f"server/{path.parent.name}" for path in (ROOT / "server").glob("*/__init__.py")}
    assert set(ROOMS) == page | server | {"lattice"}
    files = {path.name for path in (ROOT / "tests/browser").glob("test_*.py")}
    assert {f"test_{name}.py" for names in ROOMS.values() for name in names} == files


def test_what_is_changed_brings_its_rooms_tests():
    assert browser_tests(["web/src/takes/TakesView.vue", "README.md"]) == ["test_takes.py"]
    assert browser_tests(["tests/browser/test_keys.py"]) == ["test_keys.py"]
    assert browser_tests(["docs/words.md"]) == []
