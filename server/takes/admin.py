"""Takes in Django's admin."""

from django.contrib import admin

from takes.models import TakeSheet


@admin.register(TakeSheet)
class TakeSheetAdmin(admin.ModelAdmin):  # type: ignore[type-arg]  # takes none at run time
    """Who threw takes of what, when."""

    list_display = ["__str__", "owner", "bars", "created_at", "deleted_at"]
    list_filter = ["owner"]
    # A document is changed where what is wrong with it is said: in the application.
    readonly_fields = ["score", "lanes"]
