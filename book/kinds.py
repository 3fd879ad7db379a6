"""The lists of the book: what each is called, its form, its groups of boxes, its rows."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from django.db.models import QuerySet
from django.http import Http404

from book.forms import (
    BulkForm,
    GearForm,
    HitchPartForm,
    MachineForm,
    PlaceForm,
    ThingForm,
    TrailerForm,
    TruckForm,
)
from book.models import Bulk, Gear, HitchPart, Machine, Place, Thing, Trailer, Truck
from book.row_forms import (
    AdditionRows,
    AnchorRows,
    AxleFormSet,
    LoadRows,
    MachinePartRows,
    NewPartFormSet,
    PointFormSet,
    WayFormSet,
)
from yards.models import Yard


@dataclass(frozen=True, kw_only=True)
class Group:
    """Boxes under one heading.

    ``folded`` groups open on demand; ``when`` (``field=value``) shows the group only for
    one choice of another box.
    """

    heading: str
    fields: tuple[str, ...]
    help: str = ""
    folded: bool = False
    when: str = ""


@dataclass(frozen=True, kw_only=True)
class Rows:
    """An inner list on a thing's page. ``after`` is the heading it follows."""

    prefix: str
    heading: str
    help: str
    formset: Any
    folded: bool = False


@dataclass(frozen=True, kw_only=True)
class Kind:
    """A kind of thing that the book lists."""

    slug: str
    one: str
    many: str
    model: type[Thing]
    form: type[ThingForm]
    needs: str
    groups: tuple[Group, ...]
    rows: tuple[Rows, ...] = ()
    prefetch: tuple[str, ...] = ()

    @property
    def labelled(self) -> bool:
        """Whether it is something that a label can be stuck on."""
        return self.model in (Truck, Trailer, Machine)


RUNNING = "kind=chain strap wire_rope"
"""The kinds of gear that have a length to reach with."""

NOTES = Group(heading="Notes", fields=("notes",), folded=True)

KINDS = {
    kind.slug: kind
    for kind in (
        Kind(
            slug="trucks",
            one="truck",
            many="trucks",
            model=Truck,
            form=TruckForm,
            needs="The door sticker or papers, and a tape.",
            prefetch=("loads", "hitches__links__part"),
            groups=(
                Group(
                    heading="The truck",
                    fields=("name", "plate", "wheelbase", "drive", "cab", "rear_wheels"),
                ),
                Group(
                    heading="Its ratings",
                    fields=(
                        "gvwr",
                        "front_gawr",
                        "rear_gawr",
                        "payload",
                        "gcwr",
                        "max_trailer_mass",
                    ),
                    help="From the door sticker, the plate or the handbook. An empty box is not "
                    "known, and what depends on it cannot be said.",
                ),
                Group(
                    heading="What it weighs empty",
                    fields=("empty_from",),
                    help="Fuelled, nobody and nothing aboard.",
                ),
                Group(
                    heading="Scale ticket",
                    fields=("front_axle_mass", "rear_axle_mass", "aboard_mass", "aboard_ahead"),
                    when="empty_from=axles",
                ),
                Group(
                    heading="Curb mass",
                    fields=("kerb_mass", "kerb_with_driver"),
                    when="empty_from=kerb",
                ),
                Group(
                    heading="Split over the axles",
                    fields=("front_share",),
                    when="empty_from=kerb sticker",
                ),
                Group(
                    heading="Tires and tongue limit",
                    fields=("front_tire_capacity", "rear_tire_capacity", "max_tongue_mass"),
                    folded=True,
                ),
                Group(
                    heading="How it squats",
                    fields=(
                        "arch_front",
                        "arch_rear",
                        "arch_load_mass",
                        "arch_load_ahead",
                        "arch_front_loaded",
                        "arch_rear_loaded",
                    ),
                    help="A tape at the wheel arches, without and with a load you know, gives "
                    "the springs. With the ball's height the planner then says how the outfit "
                    "rides.",
                    folded=True,
                ),
                NOTES,
            ),
            rows=(
                Rows(
                    prefix="loads",
                    heading="Usual load of the truck",
                    help="Driver, mate, tools, bed tank: all that rides in it uses payload.",
                    formset=LoadRows,
                ),
            ),
        ),
        Kind(
            slug="hitch-parts",
            one="hitch part",
            many="hitch parts",
            model=HitchPart,
            form=HitchPartForm,
            needs="The figures stamped on the part.",
            prefetch=("on_hitches__hitch__truck", "on_trailers__trailer"),
            groups=(
                Group(heading="The part", fields=("name", "kind", "ball_size")),
                Group(
                    heading="Its ratings",
                    fields=("max_trailer_mass", "max_tongue_mass"),
                    help="Every part has its own; the weakest of the chain governs.",
                ),
                Group(
                    heading="With weight-distributing bars",
                    fields=("max_trailer_mass_wd", "max_tongue_mass_wd"),
                    folded=True,
                ),
                Group(
                    heading="Size and mass",
                    fields=("shank_size", "drop", "mass"),
                    folded=True,
                ),
                NOTES,
            ),
        ),
        Kind(
            slug="trailers",
            one="trailer",
            many="trailers",
            model=Trailer,
            form=TrailerForm,
            needs="The maker's plate, a tape, and a scale ticket of the empty trailer.",
            prefetch=("axles", "additions", "anchors", "links__part"),
            groups=(
                Group(heading="The trailer", fields=("name", "kind", "gvwr")),
                Group(
                    heading="Empty, on the scale",
                    fields=("empty_mass", "empty_known", "empty_tongue_mass", "tongue_known"),
                    help="Two readings describe it exactly.",
                ),
                Group(
                    heading="How sure, and where the scale stood",
                    fields=(
                        "empty_mass_tolerance",
                        "empty_tongue_mass_tolerance",
                        "tongue_taken_at",
                    ),
                    folded=True,
                ),
                Group(
                    heading="Deck",
                    fields=("deck_start", "deck_length", "deck_width", "deck_height", "axles_at"),
                ),
                Group(heading="Running gear", fields=("track_width", "suspension", "fenders")),
                Group(
                    heading="Tires",
                    fields=("tire_pressure", "tires_made"),
                    help="The walk round holds the tires against them.",
                    folded=True,
                ),
                Group(
                    heading="Coupler and chains",
                    fields=("parts_on",),
                    help="What stays with the trailer. Tick what the book has, or add below.",
                ),
                Group(
                    heading="Ends, sides and ramps",
                    fields=(
                        "tail",
                        "rear_overhang",
                        "front_overhang",
                        "ramp_length",
                        "ramps_stored",
                        "dovetail_length",
                        "dovetail_drop",
                        "sides",
                    ),
                    folded=True,
                ),
                Group(
                    heading="What the ramps carry, and how far apart they go",
                    fields=(
                        "ramp_rating",
                        "ramp_width",
                        "ramp_narrowest",
                        "ramp_widest",
                        "ramp_feet",
                    ),
                    when="tail=ramps gate",
                    folded=True,
                ),
                Group(
                    heading="Stands and winch",
                    fields=(
                        "stands",
                        "stands_gap",
                        "stands_at",
                        "stands_rating",
                        "winch_rating",
                        "winch_height",
                        "winch_anchor",
                    ),
                    help="They decide whether the truck stays down while a machine climbs, and "
                    "whether one that does not run comes up at all.",
                    folded=True,
                ),
                Group(
                    heading="Heights, and load on one length",
                    fields=(
                        "coupler_height",
                        "axle_height",
                        "concentration_mass",
                        "concentration_length",
                    ),
                    help="The two heights say how it rides behind a truck.",
                    folded=True,
                ),
                Group(
                    heading="How torsion axles give",
                    fields=("sink_mass", "sink_drop"),
                    help="A torsion group that rides nose-low loads its front axle more; this "
                    "says by how much.",
                    when="suspension=independent",
                ),
                Group(
                    heading="Where the bed or the deck turns",
                    fields=("bed_hinge",),
                    help="Taped from the coupler to the hinge.",
                    when="kind=dump tilt",
                ),
                Group(
                    heading="Dump bed",
                    fields=("bed_mass", "bed_balance", "bed_latched"),
                    help="A machine behind the hinge can lift an empty bed.",
                    when="kind=dump",
                ),
                NOTES,
            ),
            rows=(
                Rows(
                    prefix="axles",
                    heading="Axles",
                    help="From the front one back: tape from the ball to the middle of the wheel.",
                    formset=AxleFormSet,
                ),
                Rows(
                    prefix="new",
                    heading="New hitch parts on it",
                    help="Coupler with the ball it is made for, safety chains, with the ratings "
                    "stamped on them.",
                    formset=NewPartFormSet,
                ),
                Rows(
                    prefix="additions",
                    heading="Added since, and on board as a rule",
                    help="Toolbox, winch, spare; chains, binders, blocks. Each that was not on "
                    "the scale changes empty mass and tongue.",
                    formset=AdditionRows,
                ),
                Rows(
                    prefix="anchors",
                    heading="Anchors: where ties are hooked to",
                    help="Rings, stake pockets, rails, headboard: tape from the deck's front edge "
                    "back, and from its middle out. Or tap the drawing: a pair each time.",
                    formset=AnchorRows,
                    folded=True,
                ),
            ),
        ),
        Kind(
            slug="machines",
            one="machine",
            many="machines",
            model=Machine,
            form=MachineForm,
            needs="Its mass, its length and where it balances.",
            prefetch=("parts", "points", "configurations__parts"),
            groups=(
                Group(
                    heading="The machine", fields=("name", "shape", "hung", "built", "mark_name")
                ),
                Group(
                    heading="What it weighs",
                    fields=(
                        "mass",
                        "mass_known",
                        "mass_tolerance",
                        "brochure_checked",
                        "hung_counted",
                    ),
                    when="built=whole",
                ),
                Group(
                    heading="Where it balances",
                    fields=("balance_ahead", "balance_known", "balance_tolerance"),
                    when="built=whole",
                ),
                Group(
                    heading="Its two axles",
                    fields=("front_axle_mass", "rear_axle_mass", "mark_ahead"),
                    help="Gives mass and balance point exactly; needs the wheelbase below.",
                    when="built=axles",
                ),
                Group(
                    heading="How big it is",
                    fields=("reach_front", "reach_rear", "width", "wheelbase"),
                    help="From the mark. Of a machine built up: without what its parts add.",
                ),
                Group(
                    heading="Heights, clearances and sides",
                    fields=(
                        "height",
                        "folded_height",
                        "balance_height",
                        "balance_left",
                        "running",
                        "track_width",
                        "tire_width",
                        "belly_clearance",
                        "tail_clearance",
                        "nose_clearance",
                    ),
                    folded=True,
                ),
                NOTES,
            ),
            rows=(
                Rows(
                    prefix="parts",
                    heading="Parts",
                    help="Base, cab, loader, bucket, weights, tire fluid, fuel. For a machine "
                    "weighed whole: only what comes off or was added since.",
                    formset=MachinePartRows,
                    folded=True,
                ),
                Rows(
                    prefix="points",
                    heading="Points: where it is tied by, and where never",
                    help="The maker's eyes first, then frame, axle, drawbar, torque tube. Mark "
                    "what must not be used too: handles, floor, seat, hoses, arms over the hood.",
                    formset=PointFormSet,
                    folded=True,
                ),
            ),
        ),
        Kind(
            slug="gear",
            one="piece of gear",
            many="gear",
            model=Gear,
            form=GearForm,
            needs="What is marked on chains, binders and straps, and how many hang on the rack.",
            groups=(
                Group(heading="The gear", fields=("name", "kind", "count")),
                Group(
                    heading="What it holds",
                    fields=("wll", "grade", "size"),
                    help="The marked limit counts. Without one a chain holds what is published "
                    "for its grade and size; anything else without a mark counts nothing.",
                ),
                Group(heading="How it runs", fields=("length", "ratchet"), when=RUNNING),
                Group(
                    heading="Looked over",
                    fields=("inspected_on", "inspected_by", "retired"),
                    help="Kinked chain, cut webbing and a stretched hook are retired: they stay "
                    "in the book and hold nothing.",
                ),
                NOTES,
            ),
        ),
        Kind(
            slug="places",
            one="place",
            many="places",
            model=Place,
            form=PlaceForm,
            needs="Where machines are hauled to and from, and how far that is.",
            groups=(
                Group(heading="The place", fields=("name", "home", "from_yard")),
                Group(
                    heading="Where it is",
                    fields=("latitude", "longitude"),
                    help="As a telephone shows them. Without a distance typed, about how far it is "
                    "by road follows from these.",
                ),
                Group(heading="How it is to load there", fields=("surface", "slope")),
                NOTES,
            ),
            prefetch=("ways",),
            rows=(
                Rows(
                    prefix="ways",
                    heading="Ways to other places",
                    help="By road, where a machine goes from here without coming home between. "
                    "Empty: by the coordinates, or at most by way of the yard.",
                    formset=WayFormSet,
                    folded=True,
                ),
            ),
        ),
        Kind(
            slug="bulk",
            one="bulk load",
            many="bulk loads",
            model=Bulk,
            form=BulkForm,
            needs="How much of it, and of what.",
            groups=(
                Group(heading="The load", fields=("name", "measured")),
                Group(
                    heading="How much",
                    fields=("material", "volume", "density"),
                    when="measured=volume",
                ),
                Group(
                    heading="How many",
                    fields=("count", "piece_mass"),
                    when="measured=count",
                ),
                Group(heading="How it lies", fields=("heap", "length", "width")),
                Group(
                    heading="How sure, and how high",
                    fields=("mass_tolerance", "height"),
                    folded=True,
                ),
                NOTES,
            ),
        ),
    )
}


def kind_of(slug: str) -> Kind:
    """The kind of an address.

    Raises:
        Http404: there is none of that name.
    """
    try:
        return KINDS[slug]
    except KeyError:
        raise Http404(slug) from None


def things_of(kind: Kind, yard: Yard) -> QuerySet[Any]:
    """A yard's things of a kind, with all that belongs to them."""
    found = kind.model._default_manager.filter(yard=yard).select_related("yard")
    return found.prefetch_related(*kind.prefetch)


def slug_of(thing: Thing) -> str:
    """The list that a thing stands in."""
    return next(kind.slug for kind in KINDS.values() if isinstance(thing, kind.model))
