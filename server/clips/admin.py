"""Clips in Django's admin."""

from django.contrib import admin

from clips.models import Clip


@admin.register(Clip)
class ClipAdmin(admin.ModelAdmin):  # type: ignore[type-arg]  # takes none at run time
    """Who kept which clip when."""

    list_display = ["name", "owner", "created_at", "deleted_at"]
    list_filter = ["owner"]
    # A document is changed where what is wrong with it is said: in the application.
    readonly_fields = ["document"]
