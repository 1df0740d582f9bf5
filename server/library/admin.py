"""The library in Django's admin."""

from config.documents import ReadOnlyDocuments
from django.contrib import admin

from library.models import Kit, Starter


@admin.register(Kit, Starter)
class LibraryAdmin(ReadOnlyDocuments):
    """Who keeps which kits and starters."""

    list_display = ["name", "owner", "created_at"]
