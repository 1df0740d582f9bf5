"""Musicians, and what they own."""

from typing import ClassVar

from django.conf import settings
from django.contrib.auth.models import AbstractUser
from django.db import models
from django.utils import timezone
from django.utils.crypto import salted_hmac


class User(AbstractUser):
    """A musician who signs in with a name and a password.

    Who deletes the account has a day to take that back, by signing in; then all that is theirs goes with it.
    """

    deleted_at = models.DateTimeField(null=True, blank=True)
    sign_outs = models.PositiveIntegerField(
        default=0, db_default=0, help_text="How often all sign-ins were ended."
    )

    def get_session_auth_hash(self) -> str:
        """Return what a sign-in holds for as long as it lasts: until the password, or the count, is another one."""
        of_password = super().get_session_auth_hash()
        if not self.sign_outs:
            return of_password
        return salted_hmac("jolly.sign-in", f"{of_password}{self.sign_outs}", algorithm="sha256").hexdigest()


class Invitation(models.Model):
    """Lets one person make an account. Only its digest is stored: the link was shown once."""

    digest = models.CharField(max_length=64, unique=True, help_text="SHA-256 of it, in hexadecimal.")
    note = models.CharField(max_length=80, blank=True, help_text="Whom it is for.")
    made_by = models.ForeignKey(User, models.CASCADE, null=True, related_name="invitations")
    made_at = models.DateTimeField(auto_now_add=True)
    expires_at = models.DateTimeField()
    used_by = models.OneToOneField(User, models.SET_NULL, null=True, related_name="invitation")
    used_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering: ClassVar = ["-made_at", "-pk"]

    def __str__(self) -> str:
        return self.note or f"invitation {self.pk}"

    @property
    def has_expired(self) -> bool:
        """Whether its link is too old to make an account with."""
        return self.expires_at <= timezone.now()


class Attempts(models.Model):
    """How often somebody tried something that few may try often: whoever it was, in a digest."""

    key = models.CharField(max_length=64, primary_key=True)
    count = models.PositiveIntegerField()
    until = models.DateTimeField(db_index=True)

    class Meta:
        verbose_name_plural: ClassVar = "attempts"

    def __str__(self) -> str:
        return f"{self.count} until {self.until}"


class Token(models.Model):
    """What a musician's script signs in with. Only its digest is stored: what it is was shown once."""

    class Scope(models.TextChoices):
        READ = "read"
        WRITE = "write"

    owner = models.ForeignKey(User, models.CASCADE, related_name="tokens")
    name = models.CharField(max_length=80)
    digest = models.CharField(max_length=64, unique=True, help_text="SHA-256 of it, in hexadecimal.")
    scope = models.CharField(max_length=5, choices=Scope)
    made_at = models.DateTimeField(auto_now_add=True)
    used_at = models.DateTimeField(null=True, blank=True, help_text="To the minute.")

    class Meta:
        ordering: ClassVar = ["-made_at", "-pk"]
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["owner", "name"], name="token_name_is_once"),
            models.CheckConstraint(
                condition=models.Q(scope__in=["read", "write"]), name="token_scope_is_known"
            ),
        ]

    def __str__(self) -> str:
        return f"{self.name} of {self.owner}"


class Owned(models.Model):
    """Something of a musician's. Deleting it can be undone, so it is only marked."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE)
    created_at = models.DateTimeField(auto_now_add=True)
    deleted_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        abstract = True

    def delete_for_now(self) -> None:
        """Mark as deleted."""
        self.deleted_at = timezone.now()
        self.save(update_fields=["deleted_at"])

    def restore(self) -> None:
        """Take the deletion back."""
        self.deleted_at = None
        self.save(update_fields=["deleted_at"])
