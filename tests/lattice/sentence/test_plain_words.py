"""Every sentence that the engine can make is in plain words."""

import pytest

from lattice.document import Lane, Score, read
from lattice.help import BASES, GLOSSARY, help_words
from lattice.help.words import DICE
from lattice.render.pitch_context import pitch_context_of
from lattice.sentence import SETTINGS, Speech, bench, offers, sentence, standing, standing_choices
from lattice.starters import SHIPPED
from lattice.steps.lane_steps import steps_of_lane
from tests.plain_words import unplain


def speeches():
    """Yield a lane for each example of each setting: together they make every kind of sentence."""
    for word in help_words():
        for example in word.examples if word.group != "pattern" else ():
            score = BASES[word.base]
            lane = read(Lane, score.lanes[0].model_dump(mode="json") | example.patch)
            score = score.model_copy(update={"lanes": (lane, *score.lanes[1:])})
            yield Speech(steps_of_lane(score, DICE, lane.id), pitch_context_of(lane, score, DICE), score)


def said_of(speech):
    for part in (*sentence(speech).parts, *bench(speech)):
        yield "".join(word.text for word in part.words)
        yield from (word.text for word in part.words)
        yield from (word.name for word in part.words)
        yield part.explains
        yield getattr(part, "label", "")
    for offer in offers(speech):
        yield from (offer.text, offer.explains)
    for row in SETTINGS:
        if row.say(speech):
            for choices in {**row.alternatives, **row.more_alternatives(speech)}.values():
                yield from (one.text for one in choices(speech))


def test_every_sentence_offer_and_alternative_of_a_lane_is_plain():
    texts = [text for speech in speeches() for text in said_of(speech)]
    assert len(set(texts)) > 400
    assert unplain(texts) == []


def test_what_is_said_of_patterns_and_words_is_plain():
    texts = []
    for word in help_words():
        texts += [word.label, word.explains, *(example.text for example in word.examples)]
        if word.group == "pattern":
            for example in word.examples:
                fields = {name: value for name, value in example.patch.items() if name != "dice"}
                score = read(Score, BASES[word.base].model_dump(mode="json") | fields)
                texts += ["".join(one.text for one in part.words) for part in standing(score, DICE)]
    for setting, word in [
        ("scale", "root"),
        ("scale", "kind of scale"),
        ("swing", ""),
        ("meter", ""),
        ("step value", ""),
    ]:
        texts += [one.text for one in standing_choices(BASES["melody"], setting, word)]
    texts += [text for term in GLOSSARY for text in (term.word, term.means)]
    texts += [tag for starter in SHIPPED for tag in (starter.name, *starter.tags) if tag != "steady"]
    assert unplain(texts) == []


@pytest.mark.parametrize(
    "text",
    [
        "Rolls on 2",
        "Take away",
        "loops 0.57 bars",
        "50 % off",
        "control 74 on 5, free",
        "Download",
        "swing in",
        "keys",
    ],
)
def test_what_is_not_said_is_found(text):
    assert unplain([text])
