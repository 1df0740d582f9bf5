"""A save that is sent again since its answer got lost is known by its id."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("pieces", "0004_keys_of_lanes")]

    operations = [
        migrations.AddField(
            "piece",
            "attempt",
            models.CharField(default="", help_text="Id of the save that made this revision.", max_length=36),
        )
    ]
