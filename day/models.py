"""What the day keeps: calendar feeds, where machines have to be, when people drive and what."""

from __future__ import annotations

from datetime import time
from typing import Final

from django.db import models

from book.fields import MassField
from book.models import Configuration, Machine, Place
from hauls.loads import Load
from yards.models import User, YardOwned

USUAL_START: Final = time(7)
USUAL_END: Final = time(17)
"""When people drive where nobody says otherwise. Common practice, no source."""


class Feed(YardOwned):
    """One secret address that a telephone's calendar reads a yard's hauls from.

    Of the secret only the digest is kept; ``driver`` is whose hauls it tells, ``None`` for all of
    the yard's. It is good for as long as whoever made it, and whoever it is of, are people of the
    yard.
    """

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


class Stay(YardOwned):
    """A machine that has to be at a place from a day on, until another or for good.

    ``since`` without an hour is some time that day; ``until`` is when it may be fetched again.
    """

    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="+")
    configuration = models.ForeignKey(
        Configuration, null=True, blank=True, on_delete=models.CASCADE, related_name="+"
    )
    place = models.ForeignKey(Place, on_delete=models.CASCADE, related_name="+")
    since = models.DateField("there from")
    since_time = models.TimeField("at", null=True, blank=True)
    until = models.DateField(null=True, blank=True)
    until_time = models.TimeField("at", null=True, blank=True)
    note = models.CharField(max_length=120, blank=True)
    version = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["since", "since_time", "pk"]
        indexes = [models.Index(fields=["yard", "since"], name="stays_of_a_day")]

    def __str__(self) -> str:
        return f"{self.configuration or self.machine} at {self.place}"

    @property
    def load(self) -> Load:
        """What has to be there."""
        return Load(machine=self.machine, configuration=self.configuration)


class DriverTerms(YardOwned):
    """When somebody drives as a rule, and what licence and insurance let him drive: the ratings on
    the plates at most. Empty is not said."""

    user = models.ForeignKey(User, on_delete=models.CASCADE, related_name="+")
    drives = models.BooleanField(default=True)
    starts = models.TimeField(default=USUAL_START)
    ends = models.TimeField(default=USUAL_END)
    most_trailer = MassField("heaviest trailer", null=True)
    most_together = MassField("heaviest truck and trailer together", null=True)
    version = models.PositiveIntegerField(default=1)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["yard", "user"], name="terms_of_a_driver_once")
        ]

    def __str__(self) -> str:
        return self.user.shown_name
