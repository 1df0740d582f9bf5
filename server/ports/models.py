"""What a musician has bound to the things on their controllers."""

from accounts.models import User
from django.db import models


class Controllers(models.Model):
    """`tables` are lattice.document.binding.ControllerTable, one for each controller."""

    owner = models.OneToOneField(User, models.CASCADE, related_name="controllers")
    tables = models.JSONField(default=list)

    class Meta:
        verbose_name_plural = "controllers"

    def __str__(self) -> str:
        return f"controllers of {self.owner}"
