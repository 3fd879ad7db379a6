"""Who works where. Every row of the application belongs to a yard."""

from __future__ import annotations

from datetime import tzinfo
from typing import Any
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from django.contrib.auth.models import AbstractUser
from django.db import models
from django.utils.timezone import get_default_timezone

from measures.writing import UnitSystem


class Role(models.TextChoices):
    """What a person may do in a yard; each may do what those after it may."""

    OWNER = "owner", "Owner"
    PLANNER = "planner", "Planner"
    DRIVER = "driver", "Driver"

    @property
    def plans(self) -> bool:
        """Whether the book and the hauls may be changed."""
        return self is not Role.DRIVER

    @property
    def may(self) -> str:
        """What the role allows, for the people's page."""
        return {
            Role.OWNER: "everything, people and yard file included",
            Role.PLANNER: "changes the book and plans hauls",
            Role.DRIVER: "sees hauls and the book, records weighings, changes no rating",
        }[self]


class User(AbstractUser):
    """A person who signs in. ``units`` is how figures are shown; it changes nothing stored."""

    units = models.CharField(
        max_length=6,
        choices=[(UnitSystem.US.value, "lb · in"), (UnitSystem.METRIC.value, "kg · mm")],
        default=UnitSystem.US.value,
    )

    chosen_yard = models.ForeignKey(
        "Yard", null=True, blank=True, on_delete=models.SET_NULL, related_name="+"
    )
    """The yard a person of several yards works in."""

    current_yard: Yard | None = None
    """The yard the person works in, set on loading; not a column."""

    current_role: Role | None = None
    """What the person is there, set on loading; not a column."""

    @property
    def unit_system(self) -> UnitSystem:
        """The units this person reads in."""
        return UnitSystem(self.units)

    @property
    def shown_name(self) -> str:
        """The name other people of the yard know."""
        return self.get_full_name() or self.username


class Yard(models.Model):
    """A business with its trucks, trailers, machines and hauls."""

    name = models.CharField(max_length=120)
    tolerances = models.JSONField(default=dict, blank=True)
    """The yard's own doubts where they differ from the usual: see :mod:`book.tolerances`."""
    rules = models.JSONField(default=dict, blank=True)
    """The schools that its new hauls are judged by, where they differ from the usual; the
    ``rules`` object of a plan file."""
    securing_school = models.CharField(max_length=8, blank=True)
    """The rule that ties of its hauls are held against, a word of the plan format; empty: by the
    units of the haul."""
    time_zone = models.CharField(max_length=40, blank=True)
    """Its clock's, a name of the time zone database; empty: the server's."""
    phone = models.CharField(max_length=40, blank=True)
    """Whom a driver calls, as it is to be read on a card."""
    road: Any = models.JSONField(default=dict, blank=True)
    """How it goes on the road, where it differs from the usual: see :mod:`hauls.road_rules`."""
    members = models.ManyToManyField(User, through="Membership", related_name="yards")

    def __str__(self) -> str:
        return self.name

    @property
    def clock(self) -> tzinfo:
        """The zone in which its times are written."""
        try:
            return ZoneInfo(self.time_zone) if self.time_zone else get_default_timezone()
        except (ZoneInfoNotFoundError, ValueError):
            # a zone that this machine does not know any more
            return get_default_timezone()


class Membership(models.Model):
    """One person in one yard."""

    yard = models.ForeignKey(Yard, on_delete=models.CASCADE)
    user = models.ForeignKey(User, on_delete=models.CASCADE)
    role = models.CharField(max_length=8, choices=Role.choices, default=Role.PLANNER)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["yard", "user"], name="one_membership_per_yard")
        ]


class Invitation(models.Model):
    """A link that takes one person into a yard, once.

    Only a digest of the link's token is kept, so that a copy of the database opens no yard.
    """

    yard = models.ForeignKey(Yard, on_delete=models.CASCADE, related_name="invitations")
    role = models.CharField(max_length=8, choices=Role.choices, default=Role.DRIVER)
    for_whom = models.CharField(
        max_length=80, blank=True, help_text="So that you know later whose link this was."
    )
    digest = models.CharField(max_length=64, unique=True)
    made_by = models.ForeignKey(User, null=True, on_delete=models.SET_NULL, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    expires_at = models.DateTimeField()
    used_by = models.ForeignKey(User, null=True, on_delete=models.SET_NULL, related_name="+")

    class Meta:
        ordering = ["-made_at", "-pk"]


class Tries(models.Model):
    """How often something was tried lately that may go wrong; see :mod:`yards.throttle`."""

    key = models.CharField(max_length=64, unique=True)
    count = models.PositiveIntegerField(default=0)
    last_at = models.DateTimeField()


class Happened(models.TextChoices):
    """What an owner can read about."""

    SIGNED_IN = "signed_in", "signed in"
    NOT_SIGNED_IN = "not_signed_in", "a wrong password"
    PASSWORD = "password", "changed the password"
    PASSWORD_LINK = "password_link", "made a password link"
    INVITED = "invited", "made a link to join"
    WITHDRAWN = "withdrawn", "withdrew a link"
    JOINED = "joined", "joined"
    ROLE = "role", "set a role"
    TAKEN_OUT = "taken_out", "took out"
    YARD = "yard", "changed the yard"
    REMOVED = "removed", "removed"
    BROUGHT_BACK = "brought_back", "brought back"
    TAKEN_IN = "taken_in", "took a file in"
    WRITTEN_OUT = "written_out", "wrote a file out"


class Event(models.Model):
    """Something that happened in a yard; see :mod:`yards.audit`."""

    yard = models.ForeignKey(Yard, on_delete=models.CASCADE)
    at = models.DateTimeField(auto_now_add=True)
    what = models.CharField(max_length=20, choices=Happened.choices)
    by = models.ForeignKey(User, null=True, on_delete=models.SET_NULL, related_name="+")
    name = models.CharField(max_length=150, blank=True)
    """Of the person, as others knew it then: a name outlives who bore it."""
    about = models.CharField(max_length=200, blank=True)
    address = models.CharField(max_length=45, blank=True)

    class Meta:
        ordering = ["-pk"]
        indexes = [models.Index(fields=["yard", "-id"], name="events_newest_first")]


class YardOwned(models.Model):
    """Base of every row: it belongs to a yard, and other yards do not see it."""

    yard = models.ForeignKey(Yard, on_delete=models.CASCADE)

    class Meta:
        abstract = True
