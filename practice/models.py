"""What the practice yard keeps: who tried what, courses, and whether the owner sees records."""

from __future__ import annotations

from typing import Any, Final

from django.db import models

from practice.cases import Grade
from practice.kinds import KINDS, kind_of
from yards.models import User, Yard, YardOwned

MOST_SEED: Final = 999_999
"""Cases are numbered up to this, so that a number can be said across a yard."""


class Asked(YardOwned):
    """Which case: its kind, its number, and what it is made of.

    ``source`` is empty of an invented one, ``own`` of one made of the yard's own book, else
    ``haul-`` and the haul's key.
    """

    kind = models.CharField(max_length=12, choices=[(one.slug, one.title) for one in KINDS])
    seed = models.PositiveIntegerField()
    source = models.CharField(max_length=24, blank=True)

    class Meta(YardOwned.Meta):
        abstract = True

    @property
    def kind_title(self) -> str:
        """What its kind is called."""
        kind = kind_of(self.kind)
        return kind.title if kind else self.kind


class Course(YardOwned):
    """Cases in an order, for a crew."""

    name = models.CharField(max_length=120)
    note = models.CharField(max_length=300, blank=True)
    version = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["name", "pk"]

    def __str__(self) -> str:
        return self.name


class Part(Asked):
    """One case of a course."""

    course = models.ForeignKey(Course, on_delete=models.CASCADE, related_name="parts")
    place = models.PositiveIntegerField()

    class Meta:
        ordering = ["place", "pk"]

    def __str__(self) -> str:
        return f"{self.course}: {self.kind_title}, number {self.seed}"


class Attempt(Asked):
    """Somebody's try at a case; without a grade it is not answered yet.

    ``moves`` are the places a machine was moved to, in metres behind the headboard; ``stamp`` tells
    whether what the case is made of has changed since. Only a person's ``first`` answer to a case
    counts in his record: the next one knows the truth.
    """

    person = models.ForeignKey(User, on_delete=models.CASCADE, related_name="+")
    part = models.ForeignKey(Part, null=True, on_delete=models.SET_NULL, related_name="attempts")
    moves: Any = models.JSONField(default=list)
    answer: Any = models.JSONField(default=dict)
    grade = models.CharField(
        max_length=6, blank=True, choices=[(one.value, one.words) for one in Grade]
    )
    stamp = models.CharField(max_length=64, blank=True)
    first = models.BooleanField(default=True)
    at = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["-pk"]
        indexes = [models.Index(fields=["yard", "person", "-id"], name="attempts_of_a_person")]

    def __str__(self) -> str:
        return f"{self.kind_title}, number {self.seed}"

    @property
    def graded(self) -> Grade | None:
        """How good it was; ``None`` while it is open."""
        return Grade(self.grade) if self.grade else None


class Terms(models.Model):
    """What a yard agreed on: whether its owners see everybody's record."""

    yard = models.OneToOneField(Yard, on_delete=models.CASCADE, related_name="+")
    owner_sees = models.BooleanField(default=False)

    def __str__(self) -> str:
        return f"{self.yard}: practice"
