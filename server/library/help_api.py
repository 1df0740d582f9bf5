"""The help on words: what each means, and the small scores that show and play it."""

from config.answers import answer
from config.refusal import refusals
from django.http import HttpRequest, HttpResponse
from ninja import Router
from pydantic import BaseModel

from lattice.document import Score
from lattice.help import BASES, GLOSSARY, HelpWord, help_words
from lattice.help.words import DICE, Base

router = Router()


class HelpTerm(BaseModel):
    """A word that is no setting. *shown_by*: the setting whose page shows it; '' for none."""

    word: str
    means: str
    shown_by: str


class Help(BaseModel):
    """All of it. *bases*: the scores in which settings are shown, on their first lane, with *dice*."""

    dice: int
    bases: dict[Base, Score]
    words: list[HelpWord]
    terms: list[HelpTerm]


@router.get("", response={200: Help, **refusals()}, auth=None)
def read_help(request: HttpRequest) -> HttpResponse:
    """Every word of the instrument, with examples of each setting."""
    return answer(
        Help(
            dice=DICE,
            bases=BASES,
            words=list(help_words()),
            terms=[HelpTerm(**term._asdict()) for term in GLOSSARY],
        )
    )
