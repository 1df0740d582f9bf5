"""Sounds in Django's admin."""

from django.contrib import admin

from sounds.models import Sound


@admin.register(Sound)
class SoundAdmin(admin.ModelAdmin):  # type: ignore[type-arg]  # takes none at run time
    """Who has which sound of their own."""

    list_display = ["name", "owner", "seconds", "created_at"]
    exclude = ["data"]
