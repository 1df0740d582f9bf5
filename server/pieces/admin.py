"""Pieces in Django's admin."""

from django.contrib import admin

from pieces.models import Moment, Piece


@admin.register(Piece)
class PieceAdmin(admin.ModelAdmin):  # type: ignore[type-arg]  # takes none at run time
    """Who has which piece."""

    list_display = ["name", "owner", "revision", "changed_at", "deleted_at"]
    list_filter = ["owner"]
    # A document is changed where what is wrong with it is said: in the application.
    readonly_fields = ["document"]


@admin.register(Moment)
class MomentAdmin(admin.ModelAdmin):  # type: ignore[type-arg]  # takes none at run time
    """What was changed when."""

    list_display = ["label", "piece", "number", "at"]
    # A document is changed where what is wrong with it is said: in the application.
    readonly_fields = ["document"]
