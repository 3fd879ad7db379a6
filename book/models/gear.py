"""Gear on the rack: chains, binders, straps, hooks, shackles, wire rope."""

from __future__ import annotations

from django.core.validators import MaxValueValidator, MinValueValidator
from django.db import models

from book.fields import LengthField, MassField
from book.models.thing import Thing


class Gear(Thing):
    """A kind of gear of which the yard has so many, or one piece of it."""

    class Kind(models.TextChoices):
        CHAIN = "chain", "Chain"
        BINDER = "binder", "Binder"
        STRAP = "strap", "Strap"
        WIRE_ROPE = "wire_rope", "Wire rope"
        HOOK = "hook", "Hook"
        SHACKLE = "shackle", "Shackle"

    RUNS = (Kind.CHAIN, Kind.STRAP, Kind.WIRE_ROPE)
    """Kinds that run from a machine to the trailer; the others join or tighten."""

    class Grade(models.TextChoices):
        UNMARKED = "", "No grade to be read"
        G30 = "30", "30, proof coil"
        G43 = "43", "43, high test"
        G70 = "70", "70, transport"
        G80 = "80", "80, alloy"
        G100 = "100", "100, alloy"

    class Retired(models.TextChoices):
        IN_USE = "", "No, in use"
        KINKED = "kinked", "Kinked or twisted"
        CUT = "cut", "Cut, frayed or gouged"
        STRETCHED = "stretched", "Stretched link or opened hook"
        WORN = "worn", "Worn or rusted"
        BROKEN = "broken", "Ratchet or binder broken"
        OTHER = "other", "Another reason: see the notes"

    kind = models.CharField(max_length=9, choices=Kind.choices, default=Kind.CHAIN)
    size = LengthField(
        null=True, help_text="A chain's or rope's thickness ({3/8|8 mm}), a strap's width."
    )
    grade = models.CharField(
        max_length=3,
        blank=True,
        choices=Grade.choices,
        help_text="Stamped on the links. Chain without one counts as grade 30.",
    )
    wll = MassField(
        "working load limit (WLL)",
        null=True,
        help_text="As marked on tag or link, never the breaking strength. Empty: chain as "
        "published for its grade and size, anything else counts nothing.",
    )
    length = LengthField(null=True, help_text="Hook to hook.")
    ratchet = models.BooleanField(
        "ratchet or tensioner on it",
        default=False,
        help_text="Without one it needs a binder to be tightened.",
    )
    count = models.PositiveIntegerField(
        "how many",
        default=1,
        validators=[MinValueValidator(1), MaxValueValidator(1000)],
        help_text="Pieces that are alike.",
    )
    inspected_on = models.DateField("last looked over", null=True, blank=True)
    inspected_by = models.CharField("by", max_length=80, blank=True)
    retired = models.CharField(max_length=9, blank=True, choices=Retired.choices)

    class Meta(Thing.Meta):
        verbose_name_plural = "gear"
        constraints = [
            models.UniqueConstraint(fields=["yard", "name"], name="gear_name_once_in_yard")
        ]

    @property
    def runs(self) -> bool:
        """Whether it runs from a machine to the trailer."""
        return self.kind in self.RUNS

    @property
    def unmarked(self) -> bool:
        """Whether neither a limit nor a grade can be read on it."""
        return self.wll is None and not self.grade

    @property
    def needs_binder(self) -> bool:
        """Whether it holds only with something that tightens it."""
        return self.runs and not self.ratchet
