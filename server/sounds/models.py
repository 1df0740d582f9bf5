"""Sounds."""

from accounts.models import Owned
from django.db import models


class Sound(Owned):
    """A musician's own short sound. It lies in the database, so that it is backed up with all else."""

    name = models.CharField(max_length=80)
    seconds = models.FloatField()
    data = models.BinaryField(help_text="FLAC, 16 bits, written by us from what was sent.")

    class Meta:
        ordering = ["name", "pk"]
        constraints = [
            models.CheckConstraint(condition=models.Q(seconds__gt=0), name="sound_has_length"),
        ]

    def __str__(self) -> str:
        return self.name
