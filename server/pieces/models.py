"""Pieces and their history."""

from accounts.models import Owned
from django.db import models
from django.db.models.fields.json import KT


class Piece(Owned):
    """A piece as it stands. `document` is a lattice.document.Piece, validated before it gets here."""

    document = models.JSONField()
    revision = models.PositiveIntegerField(default=1, help_text="Counts every save.")
    stands_at = models.PositiveIntegerField(default=1, help_text="Number of the moment it stands at.")
    changed_at = models.DateTimeField(auto_now=True)
    attempt = models.CharField(max_length=36, default="", help_text="Id of the save that made this revision.")
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
    """One change in a piece's history: what it was called, and the document after it (see pieces.differences).

    Moments are only ever added, so that whatever is undone can be gone back to. What was only *heard*, a point of a
    field, is a place among them that undoing passes by. A place may have a *name* of the musician's.
    """

    piece = models.ForeignKey(Piece, models.CASCADE, related_name="moments")
    number = models.PositiveIntegerField(help_text="Counts from 1.")
    label = models.CharField(max_length=200)
    name = models.CharField(max_length=80, default="", blank=True)
    heard = models.BooleanField(default=False, help_text="Heard only: nothing of the piece was changed.")
    document = models.JSONField(null=True, help_text="Whole, once in a while.")
    changes = models.JSONField(
        null=True, help_text="Else: what it changed of the moment before, as JSON Patch."
    )
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["piece_id", "number"]
        constraints = [
            models.UniqueConstraint(fields=["piece", "number"], name="moment_has_one_number"),
            models.CheckConstraint(condition=models.Q(number__gte=1), name="moment_number_counts_from_1"),
            models.CheckConstraint(
                condition=models.Q(document__isnull=False) | models.Q(changes__isnull=False),
                name="moment_has_a_document",
            ),
        ]

    def __str__(self) -> str:
        return self.label
