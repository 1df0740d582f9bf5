"""Pieces and their history."""

from accounts.models import Owned
from django.db import models
from django.db.models.fields.json import KT


class Piece(Owned):
    """A piece as it stands. `document` is a lattice.document.Piece, validated before it gets here."""

    document = models.JSONField()
    revision = models.PositiveIntegerField(default=1, help_text="Counts every save.")
    changed_at = models.DateTimeField(auto_now=True)
    name = models.GeneratedField(
        expression=KT("document__name"), output_field=models.CharField(max_length=80), db_persist=True
    )

    class Meta:
        ordering = ["-changed_at", "-pk"]
        indexes = [models.Index(fields=["owner", "-changed_at"], name="piece_shelf")]
        constraints = [
            models.CheckConstraint(condition=models.Q(revision__gte=1), name="piece_revision_counts_from_1"),
        ]

    def __str__(self) -> str:
        return str(self.name)


class Moment(models.Model):
    """One change in a piece's history: what it was called, and the whole document after it."""

    piece = models.ForeignKey(Piece, models.CASCADE, related_name="moments")
    revision = models.PositiveIntegerField(help_text="Of the save that brought it.")
    place = models.PositiveIntegerField(help_text="Order within that save, from 0.")
    label = models.CharField(max_length=200)
    document = models.JSONField()
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["piece", "revision", "place"]
        constraints = [
            models.UniqueConstraint(fields=["piece", "revision", "place"], name="moment_has_one_place"),
        ]

    def __str__(self) -> str:
        return self.label
