"""Where clips came from is told as pieces of version 3 tell it."""

from typing import Any

from django.db import migrations

from lattice.formats.upgrade import upgraded_rhythm


def upgrade_origins(apps: Any, schema_editor: Any) -> None:
    stored = apps.get_model("clips", "Clip").objects
    for clip in stored.only("pk", "document").iterator(chunk_size=100):
        origin = clip.document.get("origin")
        if origin:
            origin["score"] = upgraded_rhythm(origin["score"])
            stored.filter(pk=clip.pk).update(document=clip.document)


class Migration(migrations.Migration):
    dependencies = [("clips", "0005_kept_once")]

    operations = [migrations.RunPython(upgrade_origins, migrations.RunPython.noop)]
