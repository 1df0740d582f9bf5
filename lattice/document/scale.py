"""The scale that degrees are counted in."""

from itertools import pairwise
from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from lattice.document.base import Document, Row
from lattice.theory.scales import OCTAVE, SCALES, ScaleName

__all__ = ["LEAST_NOTES", "SCALES_SAID", "Scale"]

LEAST_NOTES = 2  # of one note alone there is nothing to choose from

SCALES_SAID: dict[str, str] = {name: name.replace("-", " ") for name in SCALES} | {
    "minor": "natural minor",
    "diminished-half-whole": "diminished, half first",
    "diminished-whole-half": "diminished, whole first",
    "custom": "own scale",
}


class Scale(Document):
    """A root and a named row of degrees, or one of the musician's own.

    *root*: semitones above C. *degrees*: of a custom scale, semitones above the root, ascending from 0.
    """

    root: Annotated[int, Field(ge=0, lt=OCTAVE)] = 0
    name: ScaleName | Literal["custom"] = "major"
    degrees: Annotated[Row[Annotated[int, Field(ge=0, lt=OCTAVE)]], Field(max_length=OCTAVE)] = ()

    @model_validator(mode="after")
    def _degrees_make_a_scale(self) -> Self:
        said = list(self.degrees)
        if self.name != "custom":
            if said:
                raise ValueError(
                    f"the {self.name} scale has degrees of its own, it takes no others: got {said}"
                )
            return self
        if len(said) < LEAST_NOTES:
            raise ValueError(f"a scale has at least {LEAST_NOTES} notes, got {said}")
        if said[0] != 0 or any(later <= earlier for earlier, later in pairwise(said)):
            raise ValueError(f"a scale's degrees ascend from 0 and each is there once, got {said}")
        return self

    @property
    def semitones(self) -> tuple[int, ...]:
        """Its notes within an octave, in semitones above the root, ascending.

        >>> Scale(root=2, name="dorian").semitones
        (0, 2, 3, 5, 7, 9, 10)
        """
        return self.degrees if self.name == "custom" else SCALES[self.name]
