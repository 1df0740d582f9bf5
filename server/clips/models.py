"""Clips, and how they came to be what they are."""

from accounts.models import Owned
from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models.fields.json import KT


def _said(path: str) -> models.GeneratedField:
    """Return a column of what the document says at *path*, to search in without reading documents."""
    return models.GeneratedField(
        expression=KT(f"document__{path}"),
        output_field=models.CharField(max_length=80, null=True),
        db_persist=True,
    )


class Clip(Owned):
    """Kept notes, independent of the piece they came from. `document` is a lattice.clips.Clip."""

    document = models.JSONField()
    name = models.GeneratedField(
        expression=KT("document__name"), output_field=models.CharField(max_length=80), db_persist=True
    )
    from_piece = _said("origin__piece")
    from_pattern = _said("origin__pattern")
    tags = ArrayField(models.CharField(max_length=24), default=list, blank=True)
    set_name = models.CharField(
        max_length=80, blank=True, help_text="What it belongs together with; empty: nothing."
    )
    keeping = models.CharField(  # noqa: DJ001 - none is not one that could be there twice
        max_length=36,
        null=True,
        help_text="Says which keeping made it, so that one tried again is not stored twice.",
    )
    revision = models.PositiveIntegerField(default=1, help_text="Counts every change of its notes.")
    stands_at = models.PositiveIntegerField(default=1, help_text="Number of the moment it stands at.")

    class Meta:
        ordering = ["-created_at", "-pk"]
        indexes = [models.Index(fields=["owner", "-created_at"], name="clip_list")]
        constraints = [
            models.CheckConstraint(condition=models.Q(revision__gte=1), name="clip_revision_counts_from_1"),
            models.UniqueConstraint(fields=["owner", "keeping"], name="clip_is_kept_once"),
        ]

    def __str__(self) -> str:
        return str(self.name)


class ClipMoment(models.Model):
    """One change of a clip: what it was called, the moment that it came after, and what it made of the document.

    It is stored as a piece's moments are (pieces.differences). Moments are only ever added: what is undone can be gone
    back to.
    """

    clip = models.ForeignKey(Clip, models.CASCADE, related_name="moments")
    number = models.PositiveIntegerField(help_text="Counts from 1.")
    after = models.PositiveIntegerField(help_text="Number of the moment before it; 0: none.")
    label = models.CharField(max_length=200)
    document = models.JSONField(null=True, help_text="Whole, once in a while.")
    changes = models.JSONField(
        null=True, help_text="Else: what it changed of the moment with the number before, as JSON Patch."
    )
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["clip_id", "number"]
        constraints = [
            models.UniqueConstraint(fields=["clip", "number"], name="clip_moment_has_one_number"),
            models.CheckConstraint(
                condition=models.Q(after__lt=models.F("number")), name="clip_moment_comes_after"
            ),
            models.CheckConstraint(
                condition=models.Q(document__isnull=False) | models.Q(changes__isnull=False),
                name="clip_moment_has_a_document",
            ),
        ]

    def __str__(self) -> str:
        return self.label
