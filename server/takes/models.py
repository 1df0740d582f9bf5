"""Takes, and the sheets that they lie on."""

from accounts.models import Owned
from clips.models import Clip
from django.db import models
from pieces.models import Piece


class TakeSheet(Owned):
    """Takes of one score, side by side. `score` is a lattice.document.Score as it stood; `lanes` ids; null: all.

    A take stores only its dice: score, bars and dice make the same notes again.
    """

    piece = models.ForeignKey(Piece, models.SET_NULL, null=True, related_name="take_sheets")
    piece_name = models.CharField(max_length=80)
    pattern_name = models.CharField(max_length=80)
    score = models.JSONField()
    lanes = models.JSONField(null=True)
    first_bar = models.PositiveIntegerField(help_text="Counted from 0.")
    bars = models.PositiveSmallIntegerField()
    vary = models.PositiveSmallIntegerField(
        default=0,
        help_text="How many % of the hits a throw of each take's own moves, from the second take on.",
    )

    class Meta:
        ordering = ["-created_at", "-pk"]
        indexes = [models.Index(fields=["owner", "-created_at"], name="take_sheet_list")]
        constraints = [models.CheckConstraint(condition=models.Q(bars__gte=1), name="take_sheet_has_bars")]

    def __str__(self) -> str:
        return f"{self.piece_name} {self.pattern_name}"


class Take(models.Model):
    """One take of a sheet. Dropping it can be undone, so it is only marked."""

    sheet = models.ForeignKey(TakeSheet, models.CASCADE, related_name="takes")
    number = models.PositiveIntegerField(help_text="Counts from 1.")
    dice = models.PositiveIntegerField()
    dropped_at = models.DateTimeField(null=True, blank=True)
    clip = models.ForeignKey(
        Clip, models.SET_NULL, null=True, related_name="takes", help_text="What it was kept as."
    )

    class Meta:
        ordering = ["sheet_id", "number"]
        constraints = [
            models.UniqueConstraint(fields=["sheet", "number"], name="take_has_one_number"),
            models.CheckConstraint(condition=models.Q(number__gte=1), name="take_number_counts_from_1"),
        ]

    def __str__(self) -> str:
        return f"{self.sheet}, take {self.number}"
