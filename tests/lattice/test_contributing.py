"""What CONTRIBUTING names is there: files, and what is said to be in them."""

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
