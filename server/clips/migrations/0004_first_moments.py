"""Every clip has a first moment to come back to."""

from typing import Any

from django.db import migrations


def remember(apps: Any, schema_editor: Any) -> None:
    moments = apps.get_model("clips", "ClipMoment").objects
    for clip in apps.get_model("clips", "Clip").objects.only("pk", "document").iterator(chunk_size=100):
        document = {field: value for field, value in clip.document.items() if field != "origin"}
        moments.create(clip_id=clip.pk, number=1, after=0, label="Kept", document=document)


class Migration(migrations.Migration):
    dependencies = [("clips", "0003_editing")]

    operations = [migrations.RunPython(remember, migrations.RunPython.noop)]
