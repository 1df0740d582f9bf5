"""Clips in Django's admin."""

from config.documents import ReadOnlyDocuments
from django.contrib import admin

from clips.models import Clip


@admin.register(Clip)
class ClipAdmin(ReadOnlyDocuments):
    """Who kept which clip when."""

    list_display = ["name", "owner", "created_at", "deleted_at"]
    list_filter = ["owner"]
