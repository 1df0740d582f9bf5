"""What CONTRIBUTING names is there: files, and what is said to be in them."""

import ast
import re
from pathlib import Path

import pytest

PAGE = Path("CONTRIBUTING.md").read_text()
# "`name` (`file`)", and "`name` in `file`".
NAMED = re.findall(r"`(\w+)` (?:\(|in )`([\w/.]+)`", PAGE)
FILES = sorted(set(re.findall(r"`((?:lattice|server|web|tests|docs|scripts)/[\w/.-]*)`", PAGE)))


def test_the_page_names_enough_to_be_worth_checking():
    assert len(NAMED) >= 20
    assert len(FILES) >= 20


@pytest.mark.parametrize("path", FILES)
def test_a_file_that_is_named_is_there(path):
    assert Path(path).exists()


@pytest.mark.parametrize(("name", "path"), NAMED)
def test_what_is_named_is_in_its_file(name, path):
    text = Path(path).read_text()
    made = rf"(?:def|class|function|const) {name}\b|^{name}\b.* ="
    assert re.search(made, text, re.MULTILINE) or Path(path).stem == name


# The rooms of the engine, a row of the table each: what a row imports stands above it, or beside it.
ROOMS = [
    re.findall(r"`lattice/(\w+)(?:/|\.py)`", row.split("|")[1])
    for row in PAGE.splitlines()
    if row.startswith("| `lattice/")
]


def rooms_imported(path: Path) -> set[str]:
    tree = ast.walk(ast.parse(path.read_text()))
    modules = [one.module or "" for one in tree if isinstance(one, ast.ImportFrom)]
    return {module.split(".")[1] for module in modules if module.startswith("lattice.")}


def test_every_room_of_the_engine_has_its_place_in_the_table():
    there = {path.stem for path in Path("lattice").iterdir() if path.suffix == ".py" or path.is_dir()}
    assert there - {"__init__", "__main__", "__pycache__"} == {room for row in ROOMS for room in row}


@pytest.mark.parametrize("place", range(len(ROOMS)), ids=lambda place: ROOMS[place][0])
def test_a_room_imports_only_those_above_it_or_beside_it(place):
    above = {room for row in ROOMS[: place + 1] for room in row}
    wrong = [
        f"{path} imports lattice.{room}"
        for name in ROOMS[place]
        for path in [*Path("lattice", name).rglob("*.py"), *Path("lattice").glob(f"{name}.py")]
        for room in sorted(rooms_imported(path) - above)
    ]
    assert not wrong
