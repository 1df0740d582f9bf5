"""Pieces of version 1 become pieces of version 2: chances of single steps are a chance strip."""

from typing import Any

from django.db import migrations

from lattice.formats.upgrade import upgraded


def upgrade_documents(apps: Any, schema_editor: Any) -> None:
    for name in ("Piece", "Moment"):
        stored = apps.get_model("pieces", name).objects
        for one in stored.only("pk", "document").iterator(chunk_size=100):
            stored.filter(pk=one.pk).update(document=upgraded(one.document))


class Migration(migrations.Migration):
    dependencies = [("pieces", "0002_moments_by_number")]

    operations = [migrations.RunPython(upgrade_documents, migrations.RunPython.noop)]
