"""The limits of numbers are said once: by the fields of the documents."""

import ast
from pathlib import Path

import pytest

from lattice.document.burst import Burst
from lattice.document.lane import Lane
from lattice.document.limits import limits
from lattice.document.source import Euclidean


def test_limits_are_those_that_the_document_refuses_beyond():
    low, high = limits(Burst, "fade_from")
    for beyond in (low - 1, high + 1):
        with pytest.raises(ValueError, match="fade_from"):
            Burst(fade_from=beyond)
    assert (Burst(fade_from=low).fade_from, Burst(fade_from=high).fade_from) == (low, high)


def test_a_number_that_may_be_missing_has_limits_too():
    assert limits(Lane, "note") == (0, 127)


def test_what_has_no_limits_is_refused_by_name():
    with pytest.raises(ValueError, match=r"Lane\.name"):
        limits(Lane, "name")
    with pytest.raises(KeyError):
        limits(Euclidean, "nothing")


@pytest.mark.parametrize("path", sorted(Path("lattice/sentence").glob("*.py")), ids=lambda path: path.stem)
def test_no_sentence_says_the_limits_of_a_number_again(path):
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id == "number":
            low, high = [*node.args[3:5], None, None][:2]
            said_again = [isinstance(one, ast.Constant | ast.UnaryOp) for one in (low, high)]
            assert said_again != [True, True], f"{path}, line {node.lineno}"
