"""Musicians, and what they own."""

from django.conf import settings
from django.contrib.auth.models import AbstractUser
from django.db import models
from django.utils import timezone


class User(AbstractUser):
    """A musician who signs in with a name and a password."""


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
