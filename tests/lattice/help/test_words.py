"""Every setting has a word, and what the word shows can be heard."""

from pathlib import Path

import pytest

from lattice.document import Lane, Score, read
from lattice.help import BASES, GLOSSARY, help_words, words_text
from lattice.help.words import DICE
from lattice.render import Window, render
from lattice.render.pitch_context import pitch_context_of
from lattice.screen.heard import sounds
from lattice.sentence import SETTINGS, Speech, sentence, standing
from lattice.steps.lane_steps import steps_of_lane

PAGES = help_words()
OF_LANES = [word for word in PAGES if word.group != "pattern"]
OF_PATTERNS = [word for word in PAGES if word.group == "pattern"]
# They say where notes go, or what no throw touches: nothing else is heard of them here.
UNHEARD = {"port", "program", "channel", "anchor"}


def with_lane(word, patch):
    score = BASES[word.base]
    lane = read(Lane, score.lanes[0].model_dump(mode="json") | patch)
    return score.model_copy(update={"lanes": (lane, *score.lanes[1:])})


def as_pattern(word, patch):
    fields = {name: value for name, value in patch.items() if name != "dice"}
    return read(Score, BASES[word.base].model_dump(mode="json") | fields), patch.get("dice", DICE)


def heard(score, dice=DICE):
    return sounds(score, dice, Window(bars=8)).model_dump(mode="json")


def test_each_setting_of_the_table_has_a_page_with_an_example():
    assert sorted(word.setting for word in OF_LANES) == sorted(row.name for row in SETTINGS)
    assert [word.setting for word in OF_LANES if not word.examples] == []
    assert len({(word.group == "pattern", word.setting) for word in PAGES}) == len(PAGES)


@pytest.mark.parametrize("word", OF_LANES, ids=lambda word: word.setting)
def test_an_example_says_its_setting_in_the_words_of_the_sentence(word):
    for example in word.examples:
        score = with_lane(word, example.patch)
        speech = Speech(
            steps_of_lane(score, DICE, "shown"), pitch_context_of(score.lanes[0], score, DICE), score
        )
        part = next(part for part in sentence(speech).parts if part.setting == word.setting)
        assert "".join(word.text for word in part.words).strip() == example.text
    assert len({example.text for example in word.examples}) == len(word.examples)


@pytest.mark.parametrize(
    "word", [word for word in OF_LANES if word.setting not in UNHEARD], ids=lambda word: word.setting
)
def test_an_example_sounds_unlike_the_lane_without_its_setting(word):
    first = word.examples[0].patch
    if word.plain is None:
        assert any(heard(with_lane(word, one.patch)) != heard(BASES[word.base]) for one in word.examples)
    else:
        assert heard(with_lane(word, first)) != heard(with_lane(word, first | word.plain))


@pytest.mark.parametrize("word", OF_PATTERNS, ids=lambda word: word.setting)
def test_what_holds_for_a_pattern_is_shown_too(word):
    plain = as_pattern(word, word.plain)
    assert plain[0] == BASES[word.base]
    for example in word.examples:
        score, dice = as_pattern(word, example.patch)
        assert (score, dice) != plain
        said = ["".join(word.text for word in part.words) for part in standing(score, dice)]
        assert example.text in said
        # Tempo is the clock's, and the length of a pass only counts where something is measured by it.
        if word.setting not in ("tempo", "bars"):
            assert heard(score, dice) != heard(*plain)


def test_no_setting_of_a_pattern_is_left_out():
    """Whatever a pattern can say of itself has a word: parts are numbered where there may be several."""
    shown = [as_pattern(word, example.patch) for word in OF_PATTERNS for example in word.examples]
    said = {part.setting.split(" 1")[0] for score, dice in shown for part in standing(score, dice)}
    assert said == {word.setting for word in OF_PATTERNS}


def test_the_bases_sound():
    assert all(len(render(score, DICE, Window(bars=2)).starts) > 8 for score in BASES.values())


def test_the_glossary_names_no_word_twice_and_points_at_pages_that_are_there():
    words = [term.word for term in GLOSSARY]
    assert len(set(words)) == len(words)
    settings = {word.setting for word in PAGES}
    assert {term.shown_by for term in GLOSSARY} - {""} <= settings


def test_the_page_of_words_in_the_documents_is_the_one_that_is_printed():
    assert Path("docs/words.md").read_text() == words_text(), "run scripts/api"


def test_all_of_it_reads_as_one_page():
    text = words_text()
    assert "**rotate**: Every hit moves so many steps later, round the cycle. *rotated 2*" in text
    assert text.count("\n- ") == len(GLOSSARY) + len(PAGES)
