"""Documents in Django's admin."""

from django.contrib import admin

__all__ = ["ReadOnlyDocuments"]


class ReadOnlyDocuments(admin.ModelAdmin):  # type: ignore[type-arg]  # takes none at run time
    """Shows a document and never changes it: that is done where what is wrong with it is said, in the application."""

    readonly_fields = ["document"]
