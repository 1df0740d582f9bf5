"""Takes in Django's admin."""

from config.documents import ReadOnlyDocuments
from django.contrib import admin

from takes.models import TakeSheet


@admin.register(TakeSheet)
class TakeSheetAdmin(ReadOnlyDocuments):
    """Who threw takes of what, when."""

    list_display = ["__str__", "owner", "bars", "created_at", "deleted_at"]
    list_filter = ["owner"]
    readonly_fields = ["score", "lanes"]
