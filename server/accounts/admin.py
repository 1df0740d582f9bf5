"""Musicians in Django's admin."""

from django.contrib import admin
from django.contrib.auth.admin import UserAdmin

from accounts.models import Invitation, Token, User

admin.site.register(User, UserAdmin)


@admin.register(Token)
class TokenAdmin(admin.ModelAdmin):  # type: ignore[type-arg]  # not generic while it runs
    """Who has which tokens. They are made and shown on the account page alone."""

    list_display = ("name", "owner", "scope", "made_at", "used_at")
    readonly_fields = ("digest", "made_at", "used_at")


@admin.register(Invitation)
class InvitationAdmin(admin.ModelAdmin):  # type: ignore[type-arg]  # not generic while it runs
    """Who was invited by whom. They are made and shown on the account page, and by `manage.py invite`."""

    list_display = ("note", "made_by", "made_at", "expires_at", "used_by")
    readonly_fields = ("digest", "made_at", "used_at")
