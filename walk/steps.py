"""The steps of a tape walk, in the order in which a person walks round an outfit.

Each asks for one figure that can be read or taped beside the machine: what to read or hook the
tape on, what of the drawing is lit, and what it costs to leave it out.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum
from typing import Final

from book.models import Machine, Trailer


class Part(Enum):
    """The four parts of a walk."""

    TRUCK = "truck"
    BALL = "ball"
    TRAILER = "trailer"
    MACHINE = "machine"

    @property
    def title(self) -> str:
        """Its word."""
        return self.value.capitalize()


class Answer(Enum):
    """What is answered: a mass or a length typed on a pad, or one of a few large buttons."""

    MASS = "mass"
    LENGTH = "length"
    CHOICE = "choice"


@dataclass(frozen=True, kw_only=True, slots=True)
class Step:
    """One question. ``lit`` names what of the drawing is lit; ``estimate`` is what a plan calls
    the figure that stands in for it, empty where none does; ``without`` then says what cannot be
    said without it. ``needed`` ones a plan cannot do without."""

    slug: str
    part: Part
    title: str
    hook: str
    answer: Answer
    field: str
    lit: str = ""
    estimate: str = ""
    without: str = ""
    needed: bool = False
    choices: tuple[tuple[str, str], ...] = ()


BALLS: Final = (
    ("1.875 in", "1 7/8 in"),
    ("2 in", "2 in"),
    ("2.3125 in", "2 5/16 in"),
    ("50 mm", "50 mm"),
    ("3 in", "3 in"),
)
"""Sizes stamped on balls and couplers."""

IN_BED: Final = "bed 2.3125 in"
"""The ball of a gooseneck hitch in the truck's bed."""

STEPS: Final = (
    Step(
        slug="truck-gvwr",
        part=Part.TRUCK,
        title="GVWR of the truck",
        hook="On the sticker at the driver's door or its frame: gross vehicle weight rating.",
        answer=Answer.MASS,
        field="gvwr",
        lit="door",
        needed=True,
        without="Nothing of the truck can be estimated without it.",
    ),
    Step(
        slug="front-axle",
        part=Part.TRUCK,
        title="Front axle rating",
        hook="The same sticker: GAWR front.",
        answer=Answer.MASS,
        field="front_gawr",
        lit="front",
        without="Then nobody can say whether the front axle carries it.",
    ),
    Step(
        slug="rear-axle",
        part=Part.TRUCK,
        title="Rear axle rating",
        hook="The same sticker: GAWR rear. Often the first to run out.",
        answer=Answer.MASS,
        field="rear_gawr",
        lit="rear",
        without="Then nobody can say whether the rear axle carries it.",
    ),
    Step(
        slug="payload",
        part=Part.TRUCK,
        title="Payload",
        hook="The yellow sticker: combined weight of occupants and cargo should never exceed.",
        answer=Answer.MASS,
        field="payload",
        lit="bed",
        estimate="empty_mass",
    ),
    Step(
        slug="tow-rating",
        part=Part.TRUCK,
        title="Tow rating",
        hook="Handbook or the maker's towing brochure: the heaviest trailer for this truck.",
        answer=Answer.MASS,
        field="max_trailer_mass",
        lit="hitch",
        without="Then nobody can say whether the truck may pull it.",
    ),
    Step(
        slug="gcwr",
        part=Part.TRUCK,
        title="GCWR, truck and trailer together",
        hook="Handbook or towing brochure: gross combination weight rating.",
        answer=Answer.MASS,
        field="gcwr",
        lit="hitch",
        without="Then nobody can say whether both together are too heavy.",
    ),
    Step(
        slug="wheelbase",
        part=Part.TRUCK,
        title="Front wheel to rear wheel",
        hook="Hold the tape at the middle of the front hub. Pull it back to the middle of the "
        "rear one.",
        answer=Answer.LENGTH,
        field="wheelbase",
        lit="wheelbase",
        estimate="wheelbase",
    ),
    Step(
        slug="ball-size",
        part=Part.BALL,
        title="Which ball is on the truck?",
        hook="The size is stamped on top of the ball.",
        answer=Answer.CHOICE,
        field="ball",
        lit="hitch",
        choices=(*BALLS, (IN_BED, "in the bed, 2 5/16 in"), ("", "cannot be read")),
    ),
    Step(
        slug="rear-axle-to-ball",
        part=Part.BALL,
        title="Rear axle to ball",
        hook="Along the ground: from under the middle of the rear hub back to under the ball. "
        "A ball ahead of the axle: with a minus.",
        answer=Answer.LENGTH,
        field="offset",
        lit="offset",
        estimate="hitch_offset",
    ),
    Step(
        slug="hitch-trailer-rating",
        part=Part.BALL,
        title="Least trailer rating on receiver, mount and ball",
        hook="Each has one stamped on it or on a label. The lowest counts.",
        answer=Answer.MASS,
        field="rated",
        lit="hitch",
        without="Then the hitch parts are not judged.",
    ),
    Step(
        slug="hitch-tongue-rating",
        part=Part.BALL,
        title="Least tongue rating on receiver and mount",
        hook="The smaller number beside it: tongue weight, TW or vertical.",
        answer=Answer.MASS,
        field="tongue_rated",
        lit="hitch",
        without="Then the hitch parts are not judged for the tongue.",
    ),
    Step(
        slug="trailer-kind",
        part=Part.TRAILER,
        title="What kind of trailer?",
        hook="It says how heavy such trailers usually are.",
        answer=Answer.CHOICE,
        field="kind",
        choices=(
            (Trailer.Kind.UTILITY, "Utility, open"),
            (Trailer.Kind.FLATBED, "Flatbed or equipment"),
            (Trailer.Kind.TILT, "Tilt"),
            (Trailer.Kind.DUMP, "Dump"),
            (Trailer.Kind.CAR_CARRIER, "Car carrier"),
            (Trailer.Kind.GOOSENECK, "Gooseneck"),
        ),
    ),
    Step(
        slug="trailer-gvwr",
        part=Part.TRAILER,
        title="GVWR of the trailer",
        hook="On the maker's plate, usually on the tongue or its left side.",
        answer=Answer.MASS,
        field="gvwr",
        lit="plate",
        needed=True,
        without="Its weight cannot be estimated without it.",
    ),
    Step(
        slug="axles",
        part=Part.TRAILER,
        title="How many axles?",
        hook="Count the wheels of one side.",
        answer=Answer.CHOICE,
        field="axles",
        lit="axle",
        needed=True,
        choices=(("1", "one"), ("2", "two"), ("3", "three")),
    ),
    Step(
        slug="axle-rating",
        part=Part.TRAILER,
        title="Rating of one axle",
        hook="The plate again: GAWR, of each axle.",
        answer=Answer.MASS,
        field="axle_rating",
        lit="axle",
        without="Then nobody can say whether its axles carry it.",
    ),
    Step(
        slug="coupler-ball",
        part=Part.TRAILER,
        title="Which ball is the coupler made for?",
        hook="Stamped on the coupler, or on the latch.",
        answer=Answer.CHOICE,
        field="coupler",
        lit="ball",
        choices=(*BALLS, ("", "cannot be read")),
    ),
    Step(
        slug="coupler-to-deck",
        part=Part.TRAILER,
        title="Coupler to deck",
        hook="Hook the tape on the ball socket. Pull it back to the front edge of the deck, the "
        "headboard.",
        answer=Answer.LENGTH,
        field="deck_start",
        lit="deck_start",
        estimate="deck.start",
    ),
    Step(
        slug="deck-length",
        part=Part.TRAILER,
        title="Length of the deck",
        hook="From the headboard to the rear edge, where a machine may stand.",
        answer=Answer.LENGTH,
        field="deck_length",
        lit="deck_length",
        needed=True,
        without="No place on a deck without its length.",
    ),
    Step(
        slug="coupler-to-axles",
        part=Part.TRAILER,
        title="Coupler to the middle of the axles",
        hook="Hook the tape on the ball socket. Pull it back along the frame to halfway between "
        "the hubs; of one axle, to its hub.",
        answer=Answer.LENGTH,
        field="axles_at",
        lit="axles_at",
        estimate="axles",
    ),
    Step(
        slug="tire-to-tire",
        part=Part.TRAILER,
        title="Tire to tire across",
        hook="From the middle of the left tire to the middle of the right one.",
        answer=Answer.LENGTH,
        field="track_width",
        estimate="track_width",
    ),
    Step(
        slug="machine-kind",
        part=Part.MACHINE,
        title="What is hauled?",
        hook="It says where such machines usually balance.",
        answer=Answer.CHOICE,
        field="shape",
        needed=True,
        choices=(
            (Machine.Shape.TRACTOR, "Tractor"),
            (Machine.Shape.LOADER, "Skid steer, compact loader"),
            (Machine.Shape.EXCAVATOR, "Excavator on tracks"),
            (Machine.Shape.ROLLER, "Roller"),
            (Machine.Shape.CAR, "Car, cart or truck"),
            (Machine.Shape.IMPLEMENT, "Implement"),
            (Machine.Shape.PALLET, "Pallet or box"),
        ),
    ),
    Step(
        slug="what-hangs-on-it",
        part=Part.MACHINE,
        title="What hangs on it?",
        hook="As it is hauled.",
        answer=Answer.CHOICE,
        field="hung",
        choices=tuple((value, label) for value, label in Machine.Hung.choices if value),
    ),
    Step(
        slug="brochure-weight",
        part=Part.MACHINE,
        title="What does the brochure or its plate say it weighs?",
        hook="Brochures run low: the rest is estimated on top.",
        answer=Answer.MASS,
        field="mass",
        lit="body",
        needed=True,
        without="Nobody can place what has no weight.",
    ),
    Step(
        slug="counted",
        part=Part.MACHINE,
        title="Does that weight count what hangs on it?",
        hook="Loader, bucket, backhoe or implement.",
        answer=Answer.CHOICE,
        field="hung_counted",
        choices=(("yes", "yes, counted"), ("no", "no, or not said")),
    ),
    Step(
        slug="wheel-to-wheel",
        part=Part.MACHINE,
        title="Front wheel to rear wheel",
        hook="Middle of the front hub to the middle of the rear one. Tracks: how long they lie on "
        "the ground.",
        answer=Answer.LENGTH,
        field="wheelbase",
        lit="machine_base",
        without="Then it may balance anywhere about its middle.",
    ),
    Step(
        slug="reach-ahead",
        part=Part.MACHINE,
        title="From the mark to its front end",
        hook="The mark is the rear axle; of tracks or skids their middle. Pull the tape forward to "
        "the tip of bucket, forks or weights.",
        answer=Answer.LENGTH,
        field="reach_front",
        lit="reach_front",
        needed=True,
        without="Nobody can say whether it fits the deck.",
    ),
    Step(
        slug="reach-behind",
        part=Part.MACHINE,
        title="From the mark to its rear end",
        hook="From the same mark back to the end of hitch or implement.",
        answer=Answer.LENGTH,
        field="reach_rear",
        lit="reach_rear",
        needed=True,
        without="Nobody can say whether it fits the deck.",
    ),
)

BY_SLUG: Final = {step.slug: step for step in STEPS}


def steps_of(part: Part) -> tuple[Step, ...]:
    """The steps of one part, in their order."""
    return tuple(step for step in STEPS if step.part is part)
