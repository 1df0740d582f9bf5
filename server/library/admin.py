"""The library in Django's admin."""

from django.contrib import admin

from library.models import Kit, Starter


@admin.register(Kit, Starter)
class LibraryAdmin(admin.ModelAdmin):  # type: ignore[type-arg]  # takes none at run time
    """Who keeps which kits and starters."""

    list_display = ["name", "owner", "created_at"]
    # A document is changed where what is wrong with it is said: in the application.
    readonly_fields = ["document"]
