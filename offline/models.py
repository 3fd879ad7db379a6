"""What came in from phones, so that what is sent twice is taken once."""

from __future__ import annotations

from django.conf import settings
from django.db import models


class Received(models.Model):
    """Something a phone sent that was kept, by the key that the phone gave it."""

    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    key = models.CharField(max_length=36)
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["user", "key"], name="received_once_of_a_person")
        ]

    def __str__(self) -> str:
        return self.key
