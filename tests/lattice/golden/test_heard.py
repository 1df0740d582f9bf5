"""What was heard once is heard for ever: scores with every kind of luck, and what was heard of them."""

import json

import numpy as np
import pytest

from lattice.cache import forget_all
from lattice.document import Score
from lattice.luck import draws
from lattice.luck.draws import Purpose
from tests.lattice.golden.heard import FOLDER, heard

FILES = sorted(FOLDER.glob("version_*/*.json"))
HEARD = [
    Purpose.CHANCE, Purpose.THROW, Purpose.ORDER, Purpose.MOVE_FROM, Purpose.MOVE_TO, Purpose.STRIP_ORDER, Purpose.SPREAD,
    Purpose.LINK, Purpose.DEVIATION_IN_TIME, Purpose.DEVIATION_IN_VELOCITY, Purpose.BURST, Purpose.NOTE_ORDER, Purpose.NOTE_OF_POOL,
]  # fmt: skip


def stored(path):
    document = json.loads(path.read_text())
    return Score.model_validate_json(json.dumps(document["score"])), document["heard"]


@pytest.mark.parametrize("path", FILES, ids=lambda path: f"{path.parent.name}-{path.stem}")
def test_what_was_heard_is_heard_again(path):
    score, was = stored(path)
    assert heard(score) == was


@pytest.mark.parametrize("purpose", HEARD, ids=lambda purpose: purpose.name.lower())
def test_other_luck_of_each_kind_would_be_noticed(purpose, monkeypatch):
    words = draws._words

    def others(key, asked, first_cycle, cycles):
        drawn = words(key, asked, first_cycle, cycles)
        return np.invert(drawn) if asked & 0xFF == purpose else drawn

    forget_all()
    monkeypatch.setattr(draws, "_words", others)
    try:
        assert any(heard(score) != was for score, was in map(stored, FILES))
    finally:
        forget_all()
