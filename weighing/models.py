"""What weighing adds to the book's tickets: which haul one was of."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.db import models

from book.models import Configuration, Machine, Ticket, Trailer
from hauls.models import Haul
from yards.models import YardOwned


class HaulTicket(models.Model):
    """The ticket of a haul as it stood on the scale.

    What was planned then is kept in the ticket's readings, so that a haul that is changed
    or removed later rewrites nothing.
    """

    ticket = models.OneToOneField(Ticket, on_delete=models.CASCADE, related_name="of_haul")
    haul = models.ForeignKey(Haul, on_delete=models.CASCADE, related_name="weighings")

    class Meta:
        ordering = ["-ticket__weighed_on", "-pk"]

    def __str__(self) -> str:
        return f"{self.haul} on {self.ticket}"


class AcceptedFit(YardOwned):
    """A fit that was put into the book: what was believed before it, and what it said.

    The next fit starts from the belief before this one while the book still says what was
    accepted, so that the same readings are not counted twice. ``belief`` and ``accepted``
    hold ``[figure, standard error]`` in SI by the name of the unknown.
    """

    trailer = models.ForeignKey(Trailer, null=True, on_delete=models.CASCADE, related_name="+")
    machine = models.ForeignKey(Machine, null=True, on_delete=models.CASCADE, related_name="+")
    configuration = models.ForeignKey(
        Configuration, null=True, on_delete=models.CASCADE, related_name="+"
    )
    belief: Any = models.JSONField(default=dict)
    accepted: Any = models.JSONField(default=dict)
    readings = models.PositiveIntegerField(default=0)
    accepted_at = models.DateTimeField(auto_now_add=True)
    accepted_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )

    class Meta:
        ordering = ["-accepted_at", "-pk"]

    def __str__(self) -> str:
        return f"{self.readings} readings on {self.accepted_at:%d %b %Y}"
