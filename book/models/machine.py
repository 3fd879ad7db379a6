"""Machines: weighed whole, by their axles, or built up part by part; configurations."""

from __future__ import annotations

from decimal import Decimal

from django.core.validators import MaxValueValidator, MinValueValidator
from django.db import models
from django.db.models import Q

from book.fields import LengthField, MassField, VolumeField
from book.models.thing import Known, Thing
from mechanics.fluids import FLUIDS


class MachineQuerySet(models.QuerySet["Machine"]):
    """Machines as a page needs them."""

    def perhaps_stopped(self) -> MachineQuerySet:
        """Those that no plan may be possible with; all others lack nothing for one."""
        whole = Q(built="whole") & (Q(mass=None) | Q(balance_ahead=None))
        axles = Q(built="axles") & (
            Q(front_axle_mass=None) | Q(rear_axle_mass=None) | Q(wheelbase=None)
        )
        reach = Q(reach_front=None) | Q(reach_rear=None)
        return self.filter(
            whole | axles | reach | Q(built="parts") | Q(parts__isnull=False)
        ).distinct()


class Machine(Thing):
    """A machine or implement as it is hauled.

    ``built`` says where mass and balance point come from. Whole and axle weights are of
    the machine with those parts on it that are marked as weighed in.
    """

    class Built(models.TextChoices):
        WHOLE = "whole", "One mass for the whole machine"
        AXLES = "axles", "Both axles weighed one by one"
        PARTS = "parts", "Built up from its parts"

    class BalanceKnown(models.TextChoices):
        AXLES = "axles", "Both axles weighed"
        BUILT_UP = "built_up", "Built up from its parts"
        GUESS = "guess", "Guess"

    class Shape(models.TextChoices):
        TRACTOR = "tractor", "Tractor"
        LOADER = "loader", "Skid steer or compact loader"
        EXCAVATOR = "excavator", "Excavator on tracks"
        ROLLER = "roller", "Roller"
        CAR = "car", "Car, cart or truck"
        IMPLEMENT = "implement", "Implement"
        PALLET = "pallet", "Pallet or box"

    class Hung(models.TextChoices):
        NOT_SAID = "", "Not said"
        NOTHING = "nothing", "Nothing"
        FRONT = "front", "In front: loader, forks, plow, front weights"
        REAR = "rear", "Behind: backhoe, mower, box blade"
        BOTH = "both", "In front and behind"

    class Running(models.TextChoices):
        WHEELS = "wheels", "Wheels"
        TRACKS = "tracks", "Tracks"
        SKIDS = "skids", "Skids or none"

    shape = models.CharField(
        "drawn as", max_length=10, choices=Shape.choices, default=Shape.TRACTOR
    )
    built = models.CharField(
        "its weight comes from", max_length=6, choices=Built.choices, default=Built.WHOLE
    )
    mass = MassField(
        null=True,
        help_text="As it is hauled: bucket, ballast, fluid in the tires, fuel. Brochures leave "
        "most of these out.",
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
    brochure_checked = models.BooleanField(
        "that mass counts bucket, fluid, fuel and ballast in", default=False
    )
    hung = models.CharField(
        "what hangs on it",
        max_length=7,
        blank=True,
        choices=Hung.choices,
        help_text="It decides where such a machine usually balances, and what a brochure leaves "
        "out.",
    )
    hung_counted = models.BooleanField("counted in that mass", default=False)
    front_axle_mass = MassField(
        null=True, help_text="Only the front wheels on the platform, as it is hauled."
    )
    rear_axle_mass = MassField(null=True, help_text="Only the rear wheels on the platform.")
    mark_name = models.CharField(
        "reference mark",
        max_length=60,
        default="rear axle",
        help_text="A place a person can see when parking: rear axle, track centre. All lengths "
        "below are taken from it.",
    )
    mark_ahead = LengthField(
        "mark ahead of the rear axle",
        null=True,
        least="any",
        help_text="Where the mark is not the rear axle itself. Empty: it is.",
    )
    balance_ahead = LengthField(
        "balance point ahead of the mark",
        null=True,
        least="any",
        help_text="With a minus where it is behind.",
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
        "reaches ahead of the mark",
        null=True,
        help_text="To the tip of bucket, forks or weights.",
    )
    reach_rear = LengthField(
        "reaches behind the mark", null=True, help_text="To the end of hitch or implement."
    )
    width = LengthField(null=True, help_text="Over the tires or tracks.")
    height = LengthField(null=True, help_text="As hauled, canopy or roll bar included.")
    folded_height = LengthField(
        "height folded",
        null=True,
        help_text="With the roll bar folded or the canopy off. Given, it is the one hauled.",
    )
    running = models.CharField(
        "stands on", max_length=6, choices=Running.choices, default=Running.WHEELS
    )
    wheelbase = LengthField(
        null=True, help_text="Front wheel to rear wheel centre, or length of track on the ground."
    )
    track_width = LengthField(
        null=True, help_text="Middle of the left wheels or track to middle of the right."
    )
    tire_width = LengthField(
        null=True, help_text="Of the widest tire or track: it has to find room on a ramp."
    )
    belly_clearance = LengthField(
        null=True, help_text="Lowest point between the wheels above the ground: belly, mower deck."
    )
    tail_clearance = LengthField(
        null=True,
        help_text="Lowest point of the rear overhang above the ground, carried as on the ramp.",
    )
    nose_clearance = LengthField(
        null=True,
        help_text="Lowest point of bucket, forks or weights above the ground, carried as on the "
        "ramp; parked it may be down.",
    )

    objects = MachineQuerySet.as_manager()

    class Meta(Thing.Meta):
        constraints = [
            models.UniqueConstraint(fields=["yard", "name"], name="machine_name_once_in_yard")
        ]


class MachinePart(models.Model):
    """A part of a machine: its mass or its contents, where it is, how that is known."""

    class Kind(models.TextChoices):
        BASE = "base", "Base machine"
        CAB = "cab", "Cab or canopy"
        LOADER = "loader", "Loader"
        BUCKET = "bucket", "Bucket"
        FORKS = "forks", "Forks"
        GRAPPLE = "grapple", "Grapple"
        BACKHOE = "backhoe", "Backhoe"
        MOWER = "mower", "Mower deck"
        IMPLEMENT = "implement", "Three-point implement"
        WHEEL_WEIGHTS = "wheel_weights", "Wheel weights"
        FRONT_WEIGHTS = "front_weights", "Front weights"
        TIRE_FLUID = "tire_fluid", "Tire fluid"
        FUEL = "fuel", "Fuel"
        OPERATOR = "operator", "Operator's things"
        OTHER = "other", "Other"

    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="parts")
    name = models.CharField(max_length=80)
    kind = models.CharField(max_length=14, choices=Kind.choices, default=Kind.OTHER)
    mass = MassField(null=True)
    known = models.CharField("known by", max_length=10, choices=Known.choices, default=Known.GUESS)
    mass_tolerance = MassField("give or take", null=True, least="not_negative")
    volume = VolumeField("or volume", null=True)
    fill = models.DecimalField(
        "filled, %",
        max_digits=4,
        decimal_places=1,
        null=True,
        blank=True,
        validators=[MinValueValidator(Decimal("0.1")), MaxValueValidator(Decimal(100))],
    )
    fluid = models.CharField(
        "with",
        max_length=24,
        blank=True,
        choices=[(code, fluid.name) for code, fluid in FLUIDS.items()],
    )
    ahead = LengthField("ahead of the mark", null=True, least="any")
    ahead_tolerance = LengthField("give or take", null=True, least="not_negative")
    height = LengthField("above the ground", null=True, least="not_negative")
    reach_front = LengthField("machine then reaches ahead", null=True)
    reach_rear = LengthField("and behind", null=True)
    weighed_in = models.BooleanField("on when the whole was weighed", default=False)
    removable = models.BooleanField("comes off", default=False)

    class Meta:
        ordering = ["pk"]

    def __str__(self) -> str:
        return self.name


class MachinePoint(models.Model):
    """A place of a machine to tie it by, or one that must not be used; or a pair of them.

    One that goes with a part is there while that part is on, or hidden by it.
    """

    class Kind(models.TextChoices):
        EYE = "eye", "Marked tie-down eye"
        FRAME = "frame", "Frame"
        AXLE = "axle", "Axle"
        DRAWBAR = "drawbar", "Drawbar"
        HITCH = "hitch", "Hitch"
        TORQUE_TUBE = "torque_tube", "Torque tube"
        OTHER = "other", "Other strong place"
        HANDLE = "handle", "Never: grab handle or step"
        FLOOR = "floor", "Never: floor"
        SEAT = "seat", "Never: operator's place"
        HOSE = "hose", "Never: hoses or lines"
        ARMS = "arms", "Never: loader arms over the hood"

    FORBIDDEN = (Kind.HANDLE, Kind.FLOOR, Kind.SEAT, Kind.HOSE, Kind.ARMS)
    """Places that give way or are crushed; common practice, no source."""

    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="points")
    name = models.CharField(max_length=60, help_text="Front axle, drawbar.")
    kind = models.CharField(max_length=12, choices=Kind.choices, default=Kind.EYE)
    ahead = LengthField("ahead of the mark", least="any")
    off = LengthField(
        "off the middle",
        least="any",
        help_text="To the machine's own left; with a minus to its right. Of a pair: to either "
        "side.",
    )
    height = LengthField("above the ground", least="not_negative")
    both = models.BooleanField("one on each side", default=True)
    strength = MassField("holds", null=True, help_text="Where the maker says it.")
    with_part = models.CharField(
        "only with the part", max_length=80, blank=True, help_text="A part of the list above."
    )
    hidden_by = models.CharField("out of reach with the part", max_length=80, blank=True)
    guess = models.BooleanField("a guess, not taped", default=False)

    class Meta:
        ordering = ["pk"]

    def __str__(self) -> str:
        return self.name

    @property
    def forbidden(self) -> bool:
        """Whether nothing may be hooked to it."""
        return self.kind in self.FORBIDDEN

    @property
    def usable(self) -> bool:
        """Whether a tie may be hooked to it."""
        return not self.forbidden


class Configuration(models.Model):
    """A machine with some of its removable parts on; the others are off."""

    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="configurations")
    name = models.CharField(max_length=80, help_text="With forks, backhoe on.")
    parts = models.ManyToManyField(MachinePart, related_name="configurations", blank=True)
    front_axle_mass = MassField(
        "weighed so: front axle",
        null=True,
        help_text="Both axles weighed in this configuration replace the sum.",
    )
    rear_axle_mass = MassField("weighed so: rear axle", null=True)
    reach_front = LengthField(
        "reaches ahead of the mark", null=True, help_text="Empty: as its parts say."
    )
    reach_rear = LengthField("reaches behind the mark", null=True)
    height = LengthField("height as hauled", null=True)
    belly_clearance = LengthField(null=True, help_text="Empty: the machine's own.")
    tail_clearance = LengthField(null=True, help_text="Carried as on the ramp.")
    nose_clearance = LengthField(null=True, help_text="Carried as on the ramp.")

    class Meta:
        ordering = ["pk"]
        constraints = [
            models.UniqueConstraint(
                fields=["machine", "name"], name="configuration_name_once_on_a_machine"
            )
        ]

    def __str__(self) -> str:
        return f"{self.machine.name}, {self.name}"
