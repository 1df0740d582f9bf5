"""What a musician keeps for use in any piece: kits and starters."""

from accounts.models import Owned
from django.db import models
from django.db.models.fields.json import KT


class Kept(Owned):
    """Base: a named document of the engine."""

    document = models.JSONField()
    name = models.GeneratedField(
        expression=KT("document__name"), output_field=models.CharField(max_length=80), db_persist=True
    )

    class Meta:
        abstract = True
        ordering = ["name", "pk"]

    def __str__(self) -> str:
        return str(self.name)


class Kit(Kept):
    """A kit of the musician's own. `document` is a lattice.document.Kit."""


class Starter(Kept):
    """A lane or pattern to begin from. `document` is a lattice.starters.Starter."""
