"""What was done of a haul on its way, by whom and when."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from book.fields import LengthField, MassField
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
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["pk"]
        constraints = [
            models.UniqueConstraint(fields=["haul", "step"], name="step_done_once_in_a_haul")
        ]

    def __str__(self) -> str:
        return Step(self.step).label


class Stopped(models.Model):
    """Where a haul's loads really stopped, as somebody read it; the newest one counts.

    ``revision`` is the plan's at the time, ``tongue_kg`` what the tongue was to carry by it.
    """

    haul = models.ForeignKey(Haul, on_delete=models.CASCADE, related_name="stops")
    gauge = MassField("gauge", null=True)
    arch_front = LengthField("front wheel arch", null=True)
    arch_rear = LengthField("rear wheel arch", null=True)
    note = models.CharField(max_length=300, blank=True)
    revision = models.PositiveIntegerField()
    tongue_kg = models.FloatField()
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-pk"]

    def __str__(self) -> str:
        return f"{self.haul}, {self.at:%Y-%m-%d %H:%M}"


class StoppedLoad(models.Model):
    """Where one load's mark was taped; ``planned_m`` is where it was to be, in metres behind the
    headboard."""

    stopped = models.ForeignKey(Stopped, on_delete=models.CASCADE, related_name="loads")
    item_id = models.CharField(max_length=100)
    name = models.CharField(max_length=200)
    mark = LengthField("mark", least="any")
    planned_m = models.FloatField()

    def __str__(self) -> str:
        return f"{self.name}: {self.mark}"
