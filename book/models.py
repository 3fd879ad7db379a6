"""What the yard owns, as its plates, stickers and tapes say.

Every mass and length keeps the unit it was entered in. An empty rating is not known,
which is not the same as none. The fields are those of the plan file; help texts say
where a number is read and what it is for.
"""

from __future__ import annotations

from decimal import Decimal

from django.core.validators import MaxValueValidator, MinValueValidator
from django.db import models

from book.fields import LengthField, MassField
from yards.models import YardOwned


class Thing(YardOwned):
    """A truck, trailer or machine: a name, notes, and who changed it last.

    ``version`` counts changes, so that an edit based on an older page is noticed.
    """

    name = models.CharField(max_length=120, help_text="What the yard calls it.")
    notes = models.TextField(blank=True, max_length=4000)
    version = models.PositiveIntegerField(default=1, editable=False)
    changed_at = models.DateTimeField(auto_now=True)

    class Meta:
        abstract = True
        ordering = ["name", "pk"]

    def __str__(self) -> str:
        return self.name


class Truck(Thing):
    """A truck with its ratings. The masses are unhitched, fuelled, nobody aboard."""

    front_axle_mass = MassField(
        help_text="Weighed on its own: fuelled, nobody and nothing aboard. Drive only the front "
        "wheels onto the scale."
    )
    rear_axle_mass = MassField(help_text="The same with only the rear wheels on the scale.")
    wheelbase = LengthField(help_text="Tape from front wheel centre to rear wheel centre.")
    front_gawr = MassField(
        "front axle rating (GAWR)", null=True, help_text="Door sticker, “GAWR front”."
    )
    rear_gawr = MassField(
        "rear axle rating (GAWR)",
        null=True,
        help_text="Door sticker, “GAWR rear”. Often the first to run out.",
    )
    gvwr = MassField(
        "gross vehicle rating (GVWR)",
        null=True,
        help_text="Door sticker. The most the truck itself may weigh, tongue weight included.",
    )
    gcwr = MassField(
        "gross combination rating (GCWR)",
        null=True,
        help_text="Owner's handbook. Truck and loaded trailer together.",
    )
    max_trailer_mass = MassField(
        "tow rating",
        null=True,
        help_text="Owner's handbook. The heaviest trailer; says nothing about payload.",
    )
    payload = MassField(
        null=True,
        help_text="Yellow sticker in the door. People, tools, hitch and tongue weight all use it. "
        "Left empty, GVWR less both axle masses stands in.",
    )
    max_tongue_mass = MassField(
        "tongue limit of the truck", null=True, help_text="Handbook, where it gives one."
    )

    class Meta(Thing.Meta):
        constraints = [
            models.UniqueConstraint(fields=["yard", "name"], name="truck_name_once_in_yard")
        ]


class TruckLoad(models.Model):
    """Who and what usually rides in a truck."""

    truck = models.ForeignKey(Truck, on_delete=models.CASCADE, related_name="loads")
    name = models.CharField(max_length=80, help_text="Driver, tool chest, bed tank.")
    mass = MassField()
    mass_tolerance = MassField("give or take", null=True, least="not_negative")
    ahead_of_rear_axle = LengthField(
        least="any", help_text="Ahead of the rear axle; with a minus where it is behind."
    )

    class Meta:
        ordering = ["pk"]


class Hitch(models.Model):
    """One place on a truck where a trailer is coupled, with its hardware."""

    class Type(models.TextChoices):
        BALL = "ball", "Ball"
        GOOSENECK = "gooseneck", "Gooseneck ball"
        FIFTH_WHEEL = "fifth_wheel", "Fifth wheel"
        PINTLE = "pintle", "Pintle"

    truck = models.ForeignKey(Truck, on_delete=models.CASCADE, related_name="hitches")
    name = models.CharField(max_length=80, default="Hitch", help_text="Receiver, gooseneck ball.")
    type = models.CharField(max_length=12, choices=Type.choices, default=Type.BALL)
    offset = LengthField(
        "behind the rear axle",
        least="any",
        help_text="Tape from rear axle centre back to the ball; with a minus where the ball is "
        "ahead of it, as with a gooseneck.",
    )
    mass = MassField(
        "mass of the hardware",
        null=True,
        least="not_negative",
        help_text="Mount, head and bars, weighed on a bathroom scale. It uses payload.",
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

    class Meta:
        ordering = ["pk"]

    def __str__(self) -> str:
        return f"{self.truck.name}, {self.name}"


class Rating(models.Model):
    """A hitch part's ratings, as stamped on it."""

    name = models.CharField(max_length=80, help_text="Receiver, sleeve, ball mount, ball, coupler.")
    max_trailer_mass = MassField("trailer", null=True, help_text="Stamped on the part.")
    max_tongue_mass = MassField("tongue", null=True, help_text="Stamped on the part.")
    max_trailer_mass_wd = MassField("trailer, with bars", null=True)
    max_tongue_mass_wd = MassField("tongue, with bars", null=True)

    class Meta:
        abstract = True
        ordering = ["pk"]


class HitchPart(Rating):
    """A part of the hitch chain that stays with the truck."""

    hitch = models.ForeignKey(Hitch, on_delete=models.CASCADE, related_name="parts")


class Trailer(Thing):
    """A trailer: two scale readings empty, axles, deck."""

    class Kind(models.TextChoices):
        UTILITY = "utility", "Utility"
        DUMP = "dump", "Dump"
        GOOSENECK = "gooseneck", "Gooseneck"
        FLATBED = "flatbed", "Flatbed"
        TILT = "tilt", "Tilt"
        OTHER = "other", "Other"

    class Suspension(models.TextChoices):
        EQUALIZED = "equalized", "Leaf springs with equalizer"
        INDEPENDENT = "independent", "Torsion or independent"

    kind = models.CharField(max_length=10, choices=Kind.choices, default=Kind.UTILITY)
    empty_mass = MassField(
        help_text="The whole empty trailer, with spare, winch, toolbox: truck and trailer "
        "together, less the truck alone."
    )
    empty_mass_tolerance = MassField("give or take", null=True, least="not_negative")
    empty_tongue_mass = MassField(
        "empty tongue weight",
        help_text="Scale under the coupler, trailer level, wheels chocked, feet clear.",
    )
    empty_tongue_mass_tolerance = MassField("give or take", null=True, least="not_negative")
    gvwr = MassField(
        "gross vehicle rating (GVWR)",
        null=True,
        help_text="Maker's plate, usually on the tongue. The trailer's own weight counts in it.",
    )
    suspension = models.CharField(
        max_length=12, choices=Suspension.choices, default=Suspension.EQUALIZED
    )
    track_width = LengthField(help_text="Tire centre to tire centre across the trailer.")
    deck_start = LengthField(
        "deck begins behind the coupler",
        least="any",
        help_text="Tape from ball to the deck's front edge; with a minus where the deck reaches "
        "over the truck.",
    )
    deck_length = LengthField(help_text="Front edge to rear edge, where machines may stand.")
    deck_width = LengthField(null=True, help_text="Between rails or fenders.")
    deck_height = LengthField(null=True, help_text="Deck above the ground, for the drawing.")
    front_overhang = LengthField(
        "load may reach past the front by",
        null=True,
        least="not_negative",
        help_text="Where a bucket may hang over the front rail. Empty: not at all.",
    )
    rear_overhang = LengthField(
        "load may reach past the tail by",
        null=True,
        least="not_negative",
        help_text="With ramps a little; with a gate not at all.",
    )

    class Meta(Thing.Meta):
        constraints = [
            models.UniqueConstraint(fields=["yard", "name"], name="trailer_name_once_in_yard")
        ]


class TrailerAxle(models.Model):
    """One axle of a trailer."""

    trailer = models.ForeignKey(Trailer, on_delete=models.CASCADE, related_name="axles")
    position = LengthField(
        "behind the coupler", help_text="Tape from ball to the middle of the wheel."
    )
    gawr = MassField("axle rating (GAWR)", null=True, help_text="Maker's plate or axle tag.")
    tire_capacity = MassField(
        "both tires together",
        null=True,
        help_text="Sidewall “max load”, times the tires on the axle.",
    )

    class Meta:
        ordering = ["pk"]


class CouplerPart(Rating):
    """A part of the hitch chain that stays with the trailer: coupler, chains."""

    trailer = models.ForeignKey(Trailer, on_delete=models.CASCADE, related_name="parts")


class Machine(Thing):
    """A machine, implement or pallet as it is hauled."""

    class Known(models.TextChoices):
        WEIGHED = "weighed", "Weighed"
        PLATE = "plate", "Plate"
        BUILT_UP = "built_up", "Built up from its parts"
        BROCHURE = "brochure", "Brochure"
        GUESS = "guess", "Guess"

    class BalanceKnown(models.TextChoices):
        AXLES = "axles", "Both axles weighed"
        BUILT_UP = "built_up", "Built up from its parts"
        GUESS = "guess", "Guess"

    class Shape(models.TextChoices):
        TRACTOR = "tractor", "Tractor"
        LOADER = "loader", "Skid steer or compact loader"
        EXCAVATOR = "excavator", "Excavator on tracks"
        IMPLEMENT = "implement", "Implement"
        PALLET = "pallet", "Pallet or box"

    shape = models.CharField(
        "drawn as", max_length=10, choices=Shape.choices, default=Shape.TRACTOR
    )
    mass = MassField(
        help_text="As it is hauled: bucket, ballast, fluid in the tires, fuel. Brochures leave "
        "most of these out."
    )
    mass_known = models.CharField(
        "mass is", max_length=10, choices=Known.choices, default=Known.GUESS
    )
    mass_tolerance = MassField(
        "give or take",
        null=True,
        least="not_negative",
        help_text="Empty: the yard's usual for how it is known.",
    )
    mark_name = models.CharField(
        "reference mark",
        max_length=60,
        default="rear axle",
        help_text="A place a person can see when parking: rear axle, track centre. "
        "All lengths below are taken from it.",
    )
    balance_ahead = LengthField(
        "balance point ahead of the mark",
        least="any",
        help_text="From both axle weights: front axle mass × wheelbase ÷ mass. With a minus "
        "where it is behind.",
    )
    balance_known = models.CharField(
        "balance point is",
        max_length=10,
        choices=BalanceKnown.choices,
        default=BalanceKnown.GUESS,
    )
    balance_tolerance = LengthField(
        "give or take",
        null=True,
        least="not_negative",
        help_text="Empty: the yard's usual for how it is known.",
    )
    balance_left = LengthField(
        "balance point left of the middle",
        null=True,
        least="any",
        help_text="To the machine's own left. Empty: on the middle.",
    )
    balance_height = LengthField("balance point above the deck", null=True)
    reach_front = LengthField(
        "reaches ahead of the mark", help_text="To the tip of bucket, forks or weights."
    )
    reach_rear = LengthField(
        "reaches behind the mark", help_text="To the end of hitch or implement."
    )
    width = LengthField(null=True, help_text="Over the tires.")
    height = LengthField(null=True, help_text="As hauled, canopy or roll bar included.")
    wheelbase = LengthField(
        null=True, help_text="Front wheel to rear wheel, or length of track; for the drawing."
    )

    class Meta(Thing.Meta):
        constraints = [
            models.UniqueConstraint(fields=["yard", "name"], name="machine_name_once_in_yard")
        ]
