"""Calendar feeds: secret addresses that a telephone's calendar reads a yard's hauls from."""

from __future__ import annotations

from django.db import models

from yards.models import User, YardOwned


class Feed(YardOwned):
    """One address. Of its secret only the digest is kept; ``driver`` is whose hauls it tells,
    ``None`` for all of the yard's. It is good for as long as whoever made it, and whoever it is
    of, are people of the yard."""

    digest = models.CharField(max_length=64, unique=True)
    driver = models.ForeignKey(
        User, null=True, blank=True, on_delete=models.CASCADE, related_name="+"
    )
    made_by = models.ForeignKey(User, on_delete=models.CASCADE, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    read_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-pk"]

    def __str__(self) -> str:
        return self.driver.shown_name if self.driver else "the whole yard"
