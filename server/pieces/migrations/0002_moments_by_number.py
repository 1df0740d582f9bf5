"""Moments are numbered through, and a piece knows at which of them it stands."""

from typing import Any

from django.db import migrations, models
from django.db.models import F, Max, Window
from django.db.models.functions import RowNumber


def number_moments(apps: Any, schema_editor: Any) -> None:
    Moment = apps.get_model("pieces", "Moment")
    Piece = apps.get_model("pieces", "Piece")
    in_order = Window(RowNumber(), partition_by=F("piece"), order_by=[F("revision"), F("place")])
    numbered = Moment.objects.annotate(counted=in_order).only("pk")
    moments = []
    for moment in numbered.iterator():
        moment.number = moment.counted
        moments.append(moment)
    Moment.objects.bulk_update(moments, ["number"], batch_size=500)
    for piece in Piece.objects.annotate(last=Max("moments__number")):
        Piece.objects.filter(pk=piece.pk).update(stands_at=piece.last or 1)


class Migration(migrations.Migration):
    dependencies = [("pieces", "0001_initial")]

    operations = [
        migrations.AddField(
            "piece",
            "stands_at",
            models.PositiveIntegerField(default=1, help_text="Number of the moment it stands at."),
        ),
        migrations.AddField("moment", "number", models.PositiveIntegerField(null=True)),
        migrations.RunPython(number_moments, migrations.RunPython.noop),
        migrations.RemoveConstraint("moment", "moment_has_one_place"),
        migrations.AlterModelOptions("moment", {"ordering": ["piece", "number"]}),
        migrations.RemoveField("moment", "revision"),
        migrations.RemoveField("moment", "place"),
        migrations.AlterField("moment", "number", models.PositiveIntegerField(help_text="Counts from 1.")),
        migrations.AddConstraint(
            "moment", models.UniqueConstraint(fields=["piece", "number"], name="moment_has_one_number")
        ),
        migrations.AddConstraint(
            "moment",
            models.CheckConstraint(condition=models.Q(number__gte=1), name="moment_number_counts_from_1"),
        ),
    ]
