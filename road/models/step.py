"""What was done of a haul on its way, by whom and when."""

from __future__ import annotations

from django.conf import settings
from django.db import models
from django.utils import timezone

from hauls.models import Haul


class Step(models.TextChoices):
    """The steps of a haul, in their order; the label is what has been done."""

    HOOK_UP = "hook_up", "hooked up"
    LOAD = "load", "loaded"
    TIE_DOWN = "tie_down", "tied down"
    WALK_ROUND = "walk_round", "walked round"
    GO = "go", "set off"
    FIRST_STOP = "first_stop", "stopped and looked"
    UNLOAD = "unload", "unloaded"
    COME_BACK = "come_back", "back in the yard"


ORDER: tuple[Step, ...] = tuple(Step)


class StepDone(models.Model):
    """One step of a haul that somebody has done. ``revision`` is the plan's when it was."""

    haul = models.ForeignKey(Haul, on_delete=models.CASCADE, related_name="steps_done")
    step = models.CharField(max_length=10, choices=Step.choices)
    revision = models.PositiveIntegerField()
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ["pk"]
        constraints = [
            models.UniqueConstraint(fields=["haul", "step"], name="step_done_once_in_a_haul")
        ]

    def __str__(self) -> str:
        return Step(self.step).label


class LookedAgain(models.Model):
    """A stop after the first one: the load was looked at again."""

    haul = models.ForeignKey(Haul, on_delete=models.CASCADE, related_name="looked_again")
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ["at", "pk"]

    def __str__(self) -> str:
        return f"{self.at:%Y-%m-%d %H:%M}"
