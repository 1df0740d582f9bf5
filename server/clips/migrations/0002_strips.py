"""Where clips came from is told as pieces of version 2 tell it."""

from typing import Any

from django.db import migrations

from lattice.formats.upgrade import upgraded_lane


def upgrade_origins(apps: Any, schema_editor: Any) -> None:
    stored = apps.get_model("clips", "Clip").objects
    for clip in stored.only("pk", "document").iterator(chunk_size=100):
        origin = clip.document.get("origin")
        if origin:
            score = origin["score"]
            score["lanes"] = [upgraded_lane(lane) for lane in score.get("lanes", [])]
            stored.filter(pk=clip.pk).update(document=clip.document)


class Migration(migrations.Migration):
    dependencies = [("clips", "0001_initial")]

    operations = [migrations.RunPython(upgrade_origins, migrations.RunPython.noop)]
