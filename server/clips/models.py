"""Clips."""

from accounts.models import Owned
from django.db import models
from django.db.models.fields.json import KT


class Clip(Owned):
    """Kept notes, independent of the piece they came from. `document` is a lattice.clips.Clip."""

    document = models.JSONField()
    name = models.GeneratedField(
        expression=KT("document__name"), output_field=models.CharField(max_length=80), db_persist=True
    )

    class Meta:
        ordering = ["-created_at", "-pk"]
        indexes = [models.Index(fields=["owner", "-created_at"], name="clip_list")]

    def __str__(self) -> str:
        return str(self.name)
