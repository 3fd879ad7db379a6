"""Hitch points of trucks, and the parts that are combined into a chain on them."""

from __future__ import annotations

from decimal import Decimal

from django.core.validators import MaxValueValidator, MinValueValidator
from django.db import models

from book.fields import LengthField, MassField
from book.models.thing import Thing
from book.models.trailer import Trailer
from book.models.truck import Truck


class HitchPart(Thing):
    """One part of a hitch chain with the ratings stamped on it.

    It may be put on several trucks or trailers, as a ball mount goes from one receiver
    to the next.
    """

    class Kind(models.TextChoices):
        RECEIVER = "receiver", "Receiver"
        SLEEVE = "sleeve", "Sleeve"
        MOUNT = "mount", "Ball mount or shank"
        HEAD = "head", "Head"
        BALL = "ball", "Ball"
        GOOSENECK_BALL = "gooseneck_ball", "Gooseneck ball"
        FIFTH_WHEEL = "fifth_wheel", "Fifth wheel"
        PINTLE = "pintle", "Pintle hook"
        COUPLER = "coupler", "Coupler"
        CHAINS = "chains", "Safety chains"
        OTHER = "other", "Other"

    kind = models.CharField(max_length=14, choices=Kind.choices, default=Kind.BALL)
    max_trailer_mass = MassField("trailer rating", null=True, help_text="Stamped on the part.")
    max_tongue_mass = MassField("tongue rating", null=True, help_text="Stamped on the part.")
    max_trailer_mass_wd = MassField(
        "trailer rating with bars",
        null=True,
        help_text="Receivers carry two pairs: this one is for weight-distributing bars.",
    )
    max_tongue_mass_wd = MassField("tongue rating with bars", null=True)
    ball_size = LengthField(
        "ball size",
        null=True,
        help_text="Of a ball its diameter, of a coupler the ball it is made for: "
        "{2 5/16 in|50 mm}, as stamped.",
    )
    shank_size = LengthField(
        "shank or opening",
        null=True,
        help_text="Square of the shank or of the opening it goes into.",
    )
    drop = LengthField(
        null=True, least="any", help_text="Of a ball mount. With a minus where it rises."
    )
    mass = MassField(
        "its own mass",
        null=True,
        least="not_negative",
        help_text="On the truck it uses payload.",
    )

    BALLS = (Kind.BALL, Kind.GOOSENECK_BALL)
    ON_TRAILER = (Kind.COUPLER, Kind.CHAINS)

    class Meta(Thing.Meta):
        constraints = [
            models.UniqueConstraint(fields=["yard", "name"], name="hitch_part_name_once_in_yard")
        ]


class Hitch(models.Model):
    """One place on a truck where a trailer is coupled. A truck may have several."""

    class Type(models.TextChoices):
        BALL = "ball", "Ball"
        GOOSENECK = "gooseneck", "Gooseneck ball"
        FIFTH_WHEEL = "fifth_wheel", "Fifth wheel"
        PINTLE = "pintle", "Pintle"

    truck = models.ForeignKey(Truck, on_delete=models.CASCADE, related_name="hitches")
    name = models.CharField(max_length=80, default="Receiver", help_text="Receiver, bed ball.")
    type = models.CharField(max_length=12, choices=Type.choices, default=Type.BALL)
    offset = LengthField(
        "behind the rear axle",
        null=True,
        least="any",
        help_text="Tape from rear axle centre back to the ball; with a minus where the ball is "
        "ahead of it, as with a gooseneck. Empty: as such hitches usually stand.",
    )
    mass = MassField(
        "mass of the hardware",
        null=True,
        least="not_negative",
        help_text="Mount, head and bars on a bathroom scale. Empty: the sum of its parts.",
    )
    ball_height = LengthField(
        null=True,
        help_text="Ground to the top of the ball, or the jaws; unhitched, usual load aboard.",
    )
    bar_length = LengthField(
        "bars hang behind the ball by",
        null=True,
        help_text="Ball back to the chain on the trailer's frame. Empty: about {30 in|750 mm}.",
    )
    front_axle_restoration = models.DecimalField(
        "weight-distributing bars give back, %",
        max_digits=5,
        decimal_places=1,
        null=True,
        blank=True,
        validators=[MinValueValidator(Decimal(0)), MaxValueValidator(Decimal(100))],
        help_text="Part of the front axle's drop that the bars restore, 0 to 100. Empty: no bars.",
    )
    parts = models.ManyToManyField(
        HitchPart, through="HitchLink", related_name="hitches", blank=True
    )

    class Meta:
        ordering = ["pk"]

    def __str__(self) -> str:
        return f"{self.truck.name}, {self.name}"


class HitchLink(models.Model):
    """A part that is on a hitch."""

    hitch = models.ForeignKey(Hitch, on_delete=models.CASCADE, related_name="links")
    part = models.ForeignKey(HitchPart, on_delete=models.CASCADE, related_name="on_hitches")

    class Meta:
        ordering = ["pk"]
        constraints = [
            models.UniqueConstraint(fields=["hitch", "part"], name="part_once_on_a_hitch")
        ]


class TrailerPart(models.Model):
    """A part that stays with a trailer: coupler, safety chains."""

    trailer = models.ForeignKey(Trailer, on_delete=models.CASCADE, related_name="links")
    part = models.ForeignKey(HitchPart, on_delete=models.CASCADE, related_name="on_trailers")

    class Meta:
        ordering = ["pk"]
        constraints = [
            models.UniqueConstraint(fields=["trailer", "part"], name="part_once_on_a_trailer")
        ]
