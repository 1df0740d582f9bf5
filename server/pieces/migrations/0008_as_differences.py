"""What is stored of each moment becomes what it changed, with a whole document once in a while.

Piece by piece, each in a transaction of its own: it can be stopped and run again. Moments that are whole are read as
before, so that a server of the version before goes on storing them meanwhile.
"""

from typing import Any

from django.db import migrations, transaction

from pieces.differences import document_at, kept_as, numbers_for


def to_differences(apps: Any, schema_editor: Any) -> None:
    moments = apps.get_model("pieces", "Moment").objects
    for piece in apps.get_model("pieces", "Piece").objects.values_list("pk", flat=True):
        with transaction.atomic():
            before: Any = None
            for one in moments.filter(piece_id=piece).order_by("number").iterator(chunk_size=100):
                if one.document is None:
                    break
                kept = kept_as(one.number, one.document, before)
                before = one.document
                if kept["document"] is None:
                    moments.filter(pk=one.pk).update(**kept)


def to_whole(apps: Any, schema_editor: Any) -> None:
    moments = apps.get_model("pieces", "Moment").objects
    for one in moments.filter(document__isnull=True).order_by("piece_id", "-number"):
        needed = moments.filter(piece_id=one.piece_id, number__range=numbers_for(one.number)).order_by("number")
        moments.filter(pk=one.pk).update(document=document_at(needed), changes=None)


class Migration(migrations.Migration):
    atomic = False
    dependencies = [("pieces", "0007_differences")]

    operations = [migrations.RunPython(to_differences, to_whole)]
