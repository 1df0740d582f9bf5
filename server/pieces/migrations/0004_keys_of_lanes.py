"""Pieces of version 2 become pieces of version 3: what was held on the keys belongs to the lanes that it filled."""

from typing import Any

from django.db import migrations

from lattice.formats.upgrade import upgraded


def upgrade_documents(apps: Any, schema_editor: Any) -> None:
    for name in ("Piece", "Moment"):
        stored = apps.get_model("pieces", name).objects
        for one in stored.only("pk", "document").iterator(chunk_size=100):
            stored.filter(pk=one.pk).update(document=upgraded(one.document))


class Migration(migrations.Migration):
    dependencies = [("pieces", "0003_strips")]

    operations = [migrations.RunPython(upgrade_documents, migrations.RunPython.noop)]
