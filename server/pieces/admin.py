"""Pieces in Django's admin."""

from config.documents import ReadOnlyDocuments
from django.contrib import admin

from pieces.models import Moment, Piece


@admin.register(Piece)
class PieceAdmin(ReadOnlyDocuments):
    """Who has which piece."""

    list_display = ["name", "owner", "revision", "changed_at", "deleted_at"]
    list_filter = ["owner"]


@admin.register(Moment)
class MomentAdmin(ReadOnlyDocuments):
    """What was changed when."""

    list_display = ["label", "piece", "number", "at"]
    readonly_fields = ["document", "changes"]
