"""Trailers: two scale readings empty, running gear, deck, and what was added since."""

from __future__ import annotations

from django.db import models

from book.fields import LengthField, MassField, PressureField
from book.models.thing import Known, Thing
from book.tires import date_code


class Trailer(Thing):
    """A trailer."""

    class Kind(models.TextChoices):
        UTILITY = "utility", "Utility"
        DUMP = "dump", "Dump"
        GOOSENECK = "gooseneck", "Gooseneck"
        FLATBED = "flatbed", "Flatbed"
        TILT = "tilt", "Tilt"
        FIFTH_WHEEL = "fifth_wheel", "Fifth wheel"
        CAR_CARRIER = "car_carrier", "Car carrier"
        BOAT = "boat", "Boat trailer, no deck"
        CAMPER = "camper", "Camper or box, no deck"
        OTHER = "other", "Other"

    class Suspension(models.TextChoices):
        EQUALIZED = "equalized", "Leaf springs with equalizer"
        INDEPENDENT = "independent", "Torsion or independent"

    class Sides(models.TextChoices):
        NONE = "none", "Open"
        RAILS = "rails", "Rails"
        STAKES = "stakes", "Stake pockets"
        SOLID = "solid", "Solid sides"

    class Fenders(models.TextChoices):
        BESIDE = "beside", "Beside the deck"
        DRIVE_OVER = "drive_over", "Drive-over"
        UNDER = "under", "Wheels under the deck"

    class Tail(models.TextChoices):
        OPEN = "open", "Open"
        GATE = "gate", "Gate"
        RAMPS = "ramps", "Ramps"
        TILTS = "tilts", "Deck tilts"

    class RampsStored(models.TextChoices):
        UPRIGHT = "upright", "Upright at the tail"
        UNDER = "under", "Slid under the deck"
        BESIDE = "beside", "Along the sides"
        ON_DECK = "on_deck", "Flat on the deck"

    kind = models.CharField(max_length=12, choices=Kind.choices, default=Kind.UTILITY)
    gvwr = MassField(
        "gross vehicle rating (GVWR)",
        null=True,
        help_text="Maker's plate, usually on the tongue. The trailer's own weight counts in it.",
    )
    empty_mass = MassField(
        null=True,
        help_text="The whole empty trailer: truck and trailer together, less the truck alone.",
    )
    empty_known = models.CharField(
        "empty mass is", max_length=10, choices=Known.choices, default=Known.WEIGHED
    )
    empty_mass_tolerance = MassField("give or take", null=True, least="not_negative")
    empty_tongue_mass = MassField(
        "empty tongue weight",
        null=True,
        help_text="Scale under the coupler, trailer level, wheels chocked, feet clear. No scale "
        "at hand: a guess of 10 to 15 % of the empty mass, marked as a guess.",
    )
    tongue_known = models.CharField(
        "tongue weight is", max_length=10, choices=Known.choices, default=Known.WEIGHED
    )
    empty_tongue_mass_tolerance = MassField("give or take", null=True, least="not_negative")
    tongue_taken_at = LengthField(
        "scale stood behind the ball by",
        null=True,
        least="not_negative",
        help_text="Under the jack, not the coupler? The tongue is then corrected to the ball.",
    )
    axles_at = LengthField(
        "coupler to the middle of the axles",
        null=True,
        help_text="Halfway between the hubs. Axles of the list below that have no place of their "
        "own stand about it.",
    )
    suspension = models.CharField(
        max_length=12, choices=Suspension.choices, default=Suspension.EQUALIZED
    )
    tire_pressure = PressureField(
        "tires, cold",
        null=True,
        help_text="Pressure on the trailer's plate, before it is driven.",
    )
    tires_made = models.CharField(
        max_length=4,
        blank=True,
        validators=[date_code],
        help_text="Last four digits behind DOT on the sidewall, of the oldest: week and year, "
        "2319 say.",
    )
    track_width = LengthField(null=True, help_text="Tire centre to tire centre across the trailer.")
    deck_start = LengthField(
        "deck begins behind the coupler",
        null=True,
        least="any",
        help_text="Tape from ball to the deck's front edge; with a minus where the deck reaches "
        "over the truck.",
    )
    deck_length = LengthField(
        null=True, help_text="Front edge to rear edge, where machines may stand."
    )
    deck_width = LengthField(null=True, help_text="Between rails or fenders.")
    deck_height = LengthField(null=True, help_text="Deck above the ground.")
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
        help_text="Open tail: as far as the load is still held. Ramps: a little. Gate: not at all.",
    )
    coupler_height = LengthField(
        "coupler height, level",
        null=True,
        help_text="Ground to the socket's top with the deck level, on the jack.",
    )
    axle_height = LengthField("axle height", null=True, help_text="Ground to the middle of a hub.")
    sink_mass = MassField(
        "known load on one axle",
        null=True,
        help_text="Torsion or independent: what came onto one axle, by a scale or by the lever.",
    )
    sink_drop = LengthField(
        "that axle sinks by",
        null=True,
        help_text="Frame to hub before, less the same with the load on.",
    )
    concentration_mass = MassField(
        "most on one length",
        null=True,
        help_text="Where the maker gives one: {8,000 lb within 6 ft|3,600 kg within 1.8 m}, say.",
    )
    concentration_length = LengthField("that length", null=True)
    dovetail_length = LengthField(
        null=True, least="not_negative", help_text="The sloping part at the tail; in the length."
    )
    dovetail_drop = LengthField(null=True, least="not_negative", help_text="How far it falls.")
    sides = models.CharField(max_length=8, choices=Sides.choices, blank=True)
    fenders = models.CharField(max_length=10, choices=Fenders.choices, blank=True)
    tail = models.CharField(max_length=8, choices=Tail.choices, blank=True)
    ramp_length = LengthField(
        "length of gate or ramps", null=True, help_text="From the tail edge down to the foot."
    )
    ramp_rating = MassField(
        "ramps carry together",
        null=True,
        help_text="Stamped on each: times their number. It has to hold the wheels that stand on "
        "them at once.",
    )
    ramp_width = LengthField("width of one ramp", null=True, help_text="A gate: its whole width.")
    ramp_narrowest = LengthField(
        "ramps at their closest",
        null=True,
        help_text="Middle of one to middle of the other. Fixed ones: the same in both boxes.",
    )
    ramp_widest = LengthField("ramps at their widest", null=True, help_text="Middle to middle.")
    ramp_feet = models.BooleanField(
        "ramps stand on feet",
        default=False,
        help_text="Legs under their upper ends that rest on the ground.",
    )
    ramps_stored = models.CharField(
        "ramps travel", max_length=8, choices=RampsStored.choices, blank=True
    )
    stands = models.BooleanField(
        "support stands at the tail",
        default=False,
        help_text="Dropped before the machine comes, they keep the truck's wheels down.",
    )
    stands_gap = LengthField(
        "gap under the stands",
        null=True,
        least="not_negative",
        help_text="Between foot and ground once they are dropped, trailer empty. On the ground: 0.",
    )
    stands_at = LengthField(
        "stands behind the coupler", null=True, help_text="Empty: at the deck's end."
    )
    stands_rating = MassField("stands carry together", null=True)
    bed_hinge = LengthField(
        "hinge behind the coupler", null=True, help_text="Of a dump bed, or where a deck tilts."
    )
    bed_mass = MassField("mass of the bed", null=True)
    bed_balance = LengthField("bed balances behind the coupler", null=True)
    bed_latched = models.BooleanField(
        "bed is latched down",
        default=False,
        help_text="By a hook at its front; a hoist alone does not hold it down.",
    )
    winch_rating = MassField(
        "winch pulls",
        null=True,
        help_text="First layer on the drum, as its plate says. Each further layer pulls less.",
    )
    winch_height = LengthField("winch above the deck", null=True, least="not_negative")
    winch_anchor = MassField("its mount holds", null=True)

    class Meta(Thing.Meta):
        constraints = [
            models.UniqueConstraint(fields=["yard", "name"], name="trailer_name_once_in_yard")
        ]

    @property
    def over_bed(self) -> bool:
        """Whether it is coupled over the truck's bed, not behind the bumper."""
        return self.kind in (self.Kind.GOOSENECK, self.Kind.FIFTH_WHEEL)

    @property
    def deckless(self) -> bool:
        """Whether it carries one thing only and has no deck to put another on."""
        return self.kind in (self.Kind.BOAT, self.Kind.CAMPER)

    @property
    def most_empty_share(self) -> float:
        """Share of the empty trailer on the hitch above which one asks whether it is right."""
        return 0.30 if self.over_bed else 0.20


class TrailerAxle(models.Model):
    """One axle of a trailer."""

    class Brake(models.TextChoices):
        NONE = "none", "No brake"
        ELECTRIC = "electric", "Electric"
        OVERRUN = "overrun", "Surge or overrun"
        HYDRAULIC = "hydraulic", "Hydraulic"
        AIR = "air", "Air"

    trailer = models.ForeignKey(Trailer, on_delete=models.CASCADE, related_name="axles")
    position = LengthField(
        "behind the coupler",
        null=True,
        help_text="To its hub. Empty: about the middle of the axles, at the usual spacing.",
    )
    gawr = MassField("axle rating (GAWR)", null=True)
    tire_capacity = MassField("its tires together", null=True)
    brake = models.CharField("brakes", max_length=9, choices=Brake.choices, blank=True)

    class Meta:
        ordering = ["pk"]

    def __str__(self) -> str:
        return "axle" if self.position is None else f"axle at {self.position}"


class TrailerAddition(models.Model):
    """Something welded or bolted on, or on board as a rule.

    One that was not on when the trailer was weighed changes its empty mass and tongue.
    """

    class Kind(models.TextChoices):
        FIXED = "fixed", "Welded or bolted on"
        ABOARD = "aboard", "On board as a rule"

    trailer = models.ForeignKey(Trailer, on_delete=models.CASCADE, related_name="additions")
    name = models.CharField(max_length=80)
    kind = models.CharField("is", max_length=8, choices=Kind.choices, default=Kind.FIXED)
    mass = MassField()
    known = models.CharField("mass is", max_length=10, choices=Known.choices, default=Known.WEIGHED)
    mass_tolerance = MassField("give or take", null=True, least="not_negative")
    behind_coupler = LengthField(least="any")
    weighed_in = models.BooleanField("on when the trailer was weighed", default=False)

    class Meta:
        ordering = ["pk"]

    def __str__(self) -> str:
        return self.name


class TrailerAnchor(models.Model):
    """A place to hook a tie to, or a pair of them: one on each side."""

    class Kind(models.TextChoices):
        RING = "ring", "Ring"
        STAKE_POCKET = "stake_pocket", "Stake pocket"
        RAIL = "rail", "Rail"
        WINCH = "winch", "Winch"
        BULKHEAD = "bulkhead", "Headboard"
        OTHER = "other", "Other"

    trailer = models.ForeignKey(Trailer, on_delete=models.CASCADE, related_name="anchors")
    name = models.CharField(max_length=60, help_text="Front ring.")
    kind = models.CharField(max_length=12, choices=Kind.choices, default=Kind.RING)
    tape = LengthField("behind the front edge", least="any")
    off = LengthField(
        "off the middle",
        least="any",
        help_text="To the left; with a minus to the right. Of a pair: to either side.",
    )
    both = models.BooleanField("one on each side", default=True)
    wll = MassField("holds", null=True, help_text="What is stamped on it, each.")
    height = LengthField(
        "above the deck", null=True, least="any", help_text="Below it: with a minus."
    )
    guess = models.BooleanField("a guess, not taped", default=False)

    class Meta:
        ordering = ["pk"]

    def __str__(self) -> str:
        return self.name
