"""Trucks: ratings, how the empty truck stands on its axles, and what usually rides in it."""

from __future__ import annotations

from decimal import Decimal

from django.core.validators import MaxValueValidator, MinValueValidator
from django.db import models

from book.fields import LengthField, MassField
from book.models.thing import Known, Thing


class Truck(Thing):
    """A truck with its ratings.

    The empty masses come in one of three ways, by ``empty_from``; the others may stay
    filled and are then not used.
    """

    class Plate(models.TextChoices):
        STICKER = "sticker", "Door sticker: GVWR, GCWR, payload"
        METRIC = "metric", "Metric plate: MAM, gross train mass"

    class Drive(models.TextChoices):
        TWO = "two", "Two-wheel drive"
        FOUR = "four", "Four-wheel drive"

    class Cab(models.TextChoices):
        SINGLE = "single", "Single"
        EXTENDED = "extended", "Extended"
        CREW = "crew", "Crew"

    class RearWheels(models.TextChoices):
        SINGLE = "single", "Single"
        DUAL = "dual", "Dual"

    class EmptyFrom(models.TextChoices):
        AXLES = "axles", "Scale: front and rear axle"
        KERB = "kerb", "Curb or kerb mass"
        STICKER = "sticker", "Door sticker: GVWR less payload"

    plate = models.CharField(
        "its plate", max_length=8, choices=Plate.choices, default=Plate.STICKER
    )
    drive = models.CharField(
        max_length=4,
        choices=Drive.choices,
        blank=True,
        help_text="Four-wheel drive holds on a slope while the tongue is lifted.",
    )
    cab = models.CharField(max_length=8, choices=Cab.choices, blank=True)
    rear_wheels = models.CharField(
        max_length=6, choices=RearWheels.choices, blank=True, help_text="For the drawing."
    )
    empty_from = models.CharField(
        "empty weight from", max_length=8, choices=EmptyFrom.choices, default=EmptyFrom.AXLES
    )
    front_axle_mass = MassField(
        null=True, help_text="Scale ticket: only the front wheels on the platform, fuelled."
    )
    rear_axle_mass = MassField(
        null=True, help_text="The same with only the rear wheels on the platform."
    )
    aboard_mass = MassField(
        "aboard on that ticket",
        null=True,
        least="not_negative",
        help_text="Driver and whatever else was in it on the scale; taken off again.",
    )
    aboard_ahead = LengthField(
        "their place ahead of the rear axle",
        null=True,
        least="any",
        help_text="About half of the wheelbase for people in front.",
    )
    kerb_mass = MassField(
        "curb (kerb) mass", null=True, help_text="Papers or handbook: empty and fuelled."
    )
    kerb_with_driver = models.BooleanField(
        "counts a driver in",
        default=False,
        help_text="Metric papers often do: {165 lb|75 kg}. Taken off again.",
    )
    front_share = models.DecimalField(
        "of it on the front axle, %",
        max_digits=4,
        decimal_places=1,
        null=True,
        blank=True,
        validators=[MinValueValidator(Decimal(1)), MaxValueValidator(Decimal(99))],
        help_text="Empty: 51 to 63, as pickups commonly stand.",
    )
    wheelbase = LengthField(
        null=True, help_text="Tape from front wheel centre to rear wheel centre."
    )
    gvwr = MassField(
        "gross vehicle rating (GVWR)",
        null=True,
        help_text="The most the truck itself may weigh, tongue weight included.",
    )
    front_gawr = MassField("front axle rating (GAWR)", null=True)
    rear_gawr = MassField(
        "rear axle rating (GAWR)", null=True, help_text="Often the first to run out."
    )
    payload = MassField(
        null=True,
        help_text="Yellow sticker in the door. People, tools, hitch and tongue weight all use "
        "it. Empty: GVWR less the empty truck.",
    )
    gcwr = MassField(
        "gross combination rating (GCWR)",
        null=True,
        help_text="Truck and loaded trailer together.",
    )
    max_trailer_mass = MassField(
        "tow rating",
        null=True,
        help_text="The heaviest trailer; says nothing about payload.",
    )
    max_tongue_mass = MassField(
        "tongue limit of the truck", null=True, help_text="Where the handbook gives one."
    )
    front_tire_capacity = MassField(
        "front tires together", null=True, help_text="Sidewall “max load” times two."
    )
    rear_tire_capacity = MassField(
        "rear tires together",
        null=True,
        help_text="Sidewall “max load” times the tires on the axle.",
    )

    arch_front = LengthField(
        "front arch",
        null=True,
        help_text="Ground to the lip of the wheel arch, straight over the wheel; unhitched, "
        "with the usual load aboard.",
    )
    arch_rear = LengthField("rear arch", null=True, help_text="The same over the rear wheel.")
    arch_load_mass = MassField(
        "known load",
        null=True,
        help_text="A load you know: bagged salt, people, a trailer's weighed tongue.",
    )
    arch_load_ahead = LengthField(
        "its place ahead of the rear axle",
        null=True,
        least="any",
        help_text="With a minus behind it. On the ball: minus the distance to the ball.",
    )
    arch_front_loaded = LengthField("front arch with it", null=True)
    arch_rear_loaded = LengthField("rear arch with it", null=True)

    class Meta(Thing.Meta):
        constraints = [
            models.UniqueConstraint(fields=["yard", "name"], name="truck_name_once_in_yard")
        ]


class TruckLoad(models.Model):
    """Who and what usually rides in a truck."""

    truck = models.ForeignKey(Truck, on_delete=models.CASCADE, related_name="loads")
    name = models.CharField(max_length=80, help_text="Driver, tool chest, bed tank.")
    mass = MassField()
    known = models.CharField(
        "known by",
        max_length=10,
        choices=Known.choices,
        blank=True,
        help_text="Empty: exact.",
    )
    mass_tolerance = MassField("give or take", null=True, least="not_negative")
    ahead_of_rear_axle = LengthField(
        "ahead of rear axle",
        null=True,
        least="any",
        help_text="With a minus where it is behind. Empty: on a front seat.",
    )

    class Meta:
        ordering = ["pk"]

    def __str__(self) -> str:
        return self.name
