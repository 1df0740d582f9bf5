"""Scores that takes are of are told as pieces of version 3 tell them."""

from typing import Any

from django.db import migrations

from lattice.formats.upgrade import upgraded_rhythm


def upgrade_scores(apps: Any, schema_editor: Any) -> None:
    stored = apps.get_model("takes", "TakeSheet").objects
    for sheet in stored.only("pk", "score").iterator(chunk_size=100):
        stored.filter(pk=sheet.pk).update(score=upgraded_rhythm(sheet.score))


class Migration(migrations.Migration):
    dependencies = [("takes", "0001_initial")]

    operations = [migrations.RunPython(upgrade_scores, migrations.RunPython.noop)]
