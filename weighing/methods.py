"""The ways people weigh: what each needs, what to do, and the arithmetic that follows."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Final

from mechanics.errors import InputError
from mechanics.scales import CELL, HITCH_GAUGE, SMALL, VEHICLE, Scale
from mechanics.units import M_PER_IN
from mechanics.weighing import (
    Beam,
    Reading,
    Result,
    again,
    at_the_ball,
    at_the_jack,
    axle_by_axle,
    before_and_after,
    hitched_axle_by_axle,
    hung,
    lever,
    lifts,
    scale_reading,
    segmented,
    squat,
    together_and_alone,
    two_placements,
    wheel_by_wheel,
    within_capacity,
)

TAPE_M: Final = 0.5 * M_PER_IN
"""How far a tape reading may be wrong. Common practice, no source."""

NOT_ON_SCALE: Final = ("known_1", "known_2")
"""Masses of a method that no scale showed: loads one knows."""


@dataclass(frozen=True, kw_only=True)
class Given:
    """What was read: the boxes in SI by their names, and what was chosen beside them.

    ``scale`` is the step in kg and the part of the load by which the scale may be off.
    ``of`` says what of the book it is, ``trailer``, ``machine`` or ``truck``, empty where
    that was not said; ``choice`` answers the method's own question; ``tape_m`` is how far a
    taped length may be wrong.
    """

    si: dict[str, float]
    scale: Scale
    of: str = ""
    choice: str = ""
    tape_m: float = TAPE_M

    def __contains__(self, name: str) -> bool:
        return name in self.si

    def mass(self, name: str) -> Reading:
        """What the scale showed, with its doubt.

        Raises:
            KeyError: the box is empty.
        """
        return scale_reading(self.si[name], self.scale)

    def light(self, name: str) -> Reading:
        """A small mass on the same scale: its step alone counts."""
        return Reading(value=self.si.get(name, 0.0), tolerance=self.scale.step_kg / 2)

    def length(self, name: str) -> Reading:
        """What a tape showed, with its doubt."""
        return Reading(value=self.si[name], tolerance=self.tape_m)

    def masses(self, prefix: str) -> list[Reading]:
        """Every reading whose box begins so, in their order."""
        return [self.mass(name) for name in sorted(self.si) if name.startswith(prefix)]


@dataclass(frozen=True, kw_only=True, slots=True)
class Box:
    """One reading: its name, its label, mass or length, whether it may stay empty."""

    name: str
    label: str
    kind: str = "mass"
    help: str = ""
    optional: bool = False


@dataclass(frozen=True, kw_only=True)
class Method:
    """One way to weigh.

    ``has`` is what it takes, ``wants`` what it tells. ``of`` are the lists of the book its
    result may belong to. ``scale`` is the step in kg and the part of the load by which its
    scale may be off; a ticket may give another step, and the scale's capacity. ``compute``
    takes what was given; ``drawing`` names the picture of the set-up. ``question`` is what
    has to be chosen beside the readings, its ``choices`` by their word; ``scales`` the scale
    that each choice stands for.
    """

    slug: str
    title: str
    has: tuple[str, ...]
    wants: tuple[str, ...]
    of: tuple[str, ...]
    drawing: str
    steps: tuple[str, ...]
    cautions: tuple[str, ...]
    boxes: tuple[Box, ...]
    compute: Callable[[Given], Result]
    scale: Scale = VEHICLE
    question: str = ""
    choices: tuple[tuple[str, str], ...] = ()
    scales: tuple[tuple[str, Scale], ...] = ()

    @property
    def picture(self) -> str:
        """The template of its set-up's picture."""
        return f"weighing/set_ups/_{self.drawing}.html"

    @property
    def has_words(self) -> str:
        """What it takes, in words."""
        return " or ".join(HAS[one] for one in self.has)

    @property
    def wants_words(self) -> str:
        """What it tells, in words."""
        return ", ".join(WANTS[one] for one in self.wants)

    def scale_for(self, choice: str, step_kg: float | None) -> Scale:
        """The scale, by what was chosen and by the step that its plate says."""
        usual = dict(self.scales).get(choice, self.scale)
        return usual if step_kg is None else replace(usual, step_kg=step_kg)

    @property
    def read_on_scale(self) -> tuple[str, ...]:
        """Names of the boxes that hold what the scale showed."""
        return tuple(
            box.name for box in self.boxes if box.kind == "mass" and box.name not in NOT_ON_SCALE
        )

    def worked_out(self, found: Given, capacity_kg: float | None = None) -> Result:
        """The result of readings, none of them beyond the scale's capacity.

        Raises:
            InputError: a reading cannot be, or nothing was chosen.
        """
        if self.choices and found.choice not in dict(self.choices):
            raise InputError("choice", "chosen first: the arithmetic depends on it")
        if capacity_kg is not None:
            for name in self.read_on_scale:
                if name in found:
                    within_capacity(found.si[name], capacity_kg, name)
        return self.compute(found)


HAS: Final = {
    "truck_stop": "a truck-stop scale with three pads",
    "platform": "a single platform",
    "bathroom": "a bathroom scale",
    "tongue": "a tongue scale",
    "lever": "a small scale and a stout beam",
    "crane": "a load cell and something to lift with",
    "gauge": "a gauge in the hitch",
    "tape": "a tape and two loads I know",
    "placements": "nothing but two places to park it",
}
"""What the user has, as the picker asks."""

WANTS: Final = {
    "trailer": "the trailer",
    "tongue": "the tongue",
    "machine": "a machine",
    "axles": "each axle",
    "sides": "left and right",
    "truck": "the truck",
    "sure": "how sure a figure is",
}
"""What the user wants to know."""

LEVEL: Final = "The trailer stands level, as it is towed."
SAME: Final = "The same people, fuel and things aboard both times."
FEET: Final = "Chock the wheels and keep feet clear: scales and jacks tip."
TELL: Final = "Tell the weighmaster first; nobody walks on the scale."
PUBLIC: Final = (
    "At a public scale press the button of the intercom and say that it is a first weighing. Stay "
    "on, still, until they say that the ticket is done: driving off sooner cancels it."
)
"""How a public scale is asked (common practice, no source)."""


def _pads(found: Given) -> Result:
    tight = ("steer_tight", "drive_tight", "trailer_tight")
    given = [name for name in tight if name in found]
    if given and len(given) < len(tight):
        lacking = next(name for name in tight if name not in found)
        raise InputError(lacking, "given too: with the bars hung all three pads are read")
    names = ("steer", "drive", "trailer_pad", "steer_alone", "drive_alone")
    read = {name: found.mass(name) for name in (*names, *given)}
    hung_bars = (read["steer_tight"], read["drive_tight"], read["trailer_tight"]) if given else None
    return segmented(**{name: read[name] for name in names}, tight=hung_bars)


ROLLED: Final = (
    ("truck", "the truck alone"),
    ("hitched", "truck with trailer"),
    ("machine", "a machine on its own wheels"),
)
"""What can be driven onto a platform axle by axle."""

FITS_ROLLED: Final = {"truck": "truck", "machine": "machine"}
"""Which choice goes with a thing of the book that has axles of its own."""


def _axles(found: Given) -> Result:
    rolled = found.masses("axle_")
    if found.choice != "hitched":
        if found.of and found.of != FITS_ROLLED[found.choice]:
            words = {"truck": "the truck alone", "machine": "a machine", "trailer": ""}[found.of]
            raise InputError(
                "choice",
                f"“{words}” for what is chosen below"
                if words
                else "“truck with trailer”: a trailer does not roll on by itself",
            )
        return axle_by_axle(rolled)
    if found.of == "machine":
        raise InputError("choice", "“a machine on its own wheels” for the machine chosen below")
    alone = None
    if "alone_1" in found or "alone_2" in found:
        for name in ("alone_1", "alone_2"):
            if name not in found:
                raise InputError(name, "given too: the truck alone has two steps")
        alone = (found.mass("alone_1"), found.mass("alone_2"))
    return hitched_axle_by_axle(rolled, alone)


def _beam(found: Given) -> Beam | None:
    """The beam of a wheel-by-wheel weighing, where one was used."""
    given = [name for name in ("beam", "arm") if name in found]
    if not given:
        if "tare" in found:
            raise InputError("beam", "given too: the beam's tare goes with its two tapes")
        return None
    if len(given) == 1:
        lacking = "arm" if given == ["beam"] else "beam"
        raise InputError(lacking, "given too: a beam has two tapes")
    return Beam(tare=found.light("tare"), beam_m=found.length("beam"), arm_m=found.length("arm"))


def _wheels(found: Given) -> Result:
    return wheel_by_wheel(
        found.masses("left_"),
        found.masses("right_"),
        of=found.of,
        tongue=found.mass("tongue") if "tongue" in found else None,
        beam=_beam(found),
    )


def _two_lifts(found: Given) -> Result:
    return lifts(
        found.mass("first"),
        found.mass("second"),
        rigging=found.light("rigging"),
        of="trailer" if found.of == "trailer" else "machine" if found.of == "machine" else "whole",
        apart_m=found.length("apart") if "apart" in found else None,
    )


def _arches(found: Given) -> Result:
    def taped(name: str) -> Reading:
        # the same mark on one arch, read thrice: half of what a tape may be off over a trailer
        return Reading(value=found.si[name], tolerance=found.tape_m / 2)

    return squat(
        taped("height"),
        first_kg=found.si["known_1"],
        first_height=taped("height_1"),
        second_kg=found.si["known_2"],
        second_height=taped("height_2"),
    )


SCALES: Final = (
    ("vehicle", "a vehicle scale", VEHICLE),
    ("small", "a bathroom or tongue scale", SMALL),
    ("crane", "a load cell", CELL),
    ("gauge", "a gauge in the hitch", HITCH_GAUGE),
)
"""Kinds of scale, by what they may be off by."""


METHODS: Final = {
    method.slug: method
    for method in (
        Method(
            slug="together-and-alone",
            title="Together, then the truck alone",
            has=("platform",),
            wants=("trailer",),
            of=("trailers",),
            drawing="platform",
            steps=(
                "Drive on with truck and trailer, all wheels on the platform.",
                PUBLIC,
                "Drop the trailer, drive on with the truck alone. Give the first ticket's number "
                "and ask for a re-weigh: it costs a part of the first.",
            ),
            cautions=(SAME, TELL),
            boxes=(
                Box(name="together", label="Truck and trailer together"),
                Box(name="alone", label="Truck alone"),
            ),
            compute=lambda f: together_and_alone(f.mass("together"), f.mass("alone")),
        ),
        Method(
            slug="three-pads",
            title="Three pads, hitched and unhitched",
            has=("truck_stop",),
            wants=("tongue", "trailer", "axles"),
            of=("trailers",),
            drawing="pads",
            steps=(
                "Hitched, drive on until steer axle, drive axle and trailer each stand on a pad of "
                "their own, none on a joint.",
                PUBLIC,
                "With spring bars, weigh with them hung, slack them, and weigh once more.",
                "Drop the trailer and weigh the truck again on the first two pads. Give the first "
                "ticket's number and ask for a re-weigh: it costs a part of the first.",
            ),
            cautions=(
                SAME,
                TELL,
                "Hung bars move load between the pads: the tongue is read with them slack.",
            ),
            boxes=(
                Box(name="steer", label="Steer axle, hitched"),
                Box(name="drive", label="Drive axle, hitched"),
                Box(name="trailer_pad", label="Trailer axles, hitched"),
                Box(name="steer_alone", label="Steer axle, truck alone"),
                Box(name="drive_alone", label="Drive axle, truck alone"),
                Box(name="steer_tight", label="Steer axle, bars hung", optional=True),
                Box(name="drive_tight", label="Drive axle, bars hung", optional=True),
                Box(
                    name="trailer_tight",
                    label="Trailer axles, bars hung",
                    optional=True,
                    help="Without spring bars leave these three empty.",
                ),
            ),
            compute=_pads,
        ),
        Method(
            slug="axle-by-axle",
            title="Axle by axle on one platform",
            has=("platform",),
            wants=("axles", "truck", "machine", "trailer", "tongue"),
            of=("trucks", "machines", "trailers"),
            drawing="platform",
            question="What rolled on?",
            choices=ROLLED,
            steps=(
                "Roll on until the first axle stands on the platform; read.",
                "Roll on until the next axle stands on it too; read again, and so on.",
                "With a trailer hitched: front axle, rear axle, trailer. For the tongue drop the "
                "trailer and do the truck's two steps again.",
            ),
            cautions=(
                TELL,
                "The approaches must be level with the platform.",
                "Hitched, the truck's axles carry the tongue: they are not its empty axles.",
            ),
            boxes=(
                Box(name="axle_1", label="First axle on"),
                Box(name="axle_2", label="First and second axle on"),
                Box(
                    name="axle_3",
                    label="With the third",
                    optional=True,
                    help="Truck with trailer: its axles, all on.",
                ),
                Box(name="axle_4", label="With the fourth", optional=True),
                Box(name="axle_5", label="With the fifth", optional=True),
                Box(
                    name="alone_1",
                    label="Truck alone, front axle on",
                    optional=True,
                    help="After dropping the trailer.",
                ),
                Box(name="alone_2", label="Truck alone, both axles on", optional=True),
            ),
            compute=_axles,
        ),
        Method(
            slug="before-and-after",
            title="With the machine, then without",
            has=("platform",),
            wants=("machine",),
            of=("machines",),
            drawing="platform",
            steps=(
                "Weigh the outfit with the machine on, or the trailer alone.",
                "Take the machine off and weigh the same again.",
            ),
            cautions=(SAME, TELL),
            boxes=(
                Box(name="with_machine", label="With the machine on"),
                Box(name="without", label="Without it"),
            ),
            compute=lambda f: before_and_after(f.mass("with_machine"), f.mass("without")),
        ),
        Method(
            slug="under-the-ball",
            title="Straight under the coupler",
            has=("bathroom", "tongue"),
            wants=("tongue",),
            of=("trailers",),
            drawing="tongue",
            scale=SMALL,
            steps=(
                "Stand the scale under the coupler, at the height it is towed at.",
                "Lower the coupler on it, jack off the ground, and read.",
            ),
            cautions=(LEVEL, FEET, "A bathroom scale ends at {300 to 400 lb|135 to 180 kg}."),
            boxes=(Box(name="reading", label="Scale under the coupler"),),
            compute=lambda f: at_the_ball(f.mass("reading")),
        ),
        Method(
            slug="at-the-jack",
            title="Under the jack, corrected to the ball",
            has=("bathroom", "tongue"),
            wants=("tongue",),
            of=("trailers",),
            drawing="jack",
            scale=SMALL,
            steps=(
                "Stand the scale under the jack's foot and take the weight on it; read.",
                "Tape from the ball back to the jack, and from the ball back to the middle of the "
                "axles.",
            ),
            cautions=(LEVEL, FEET),
            boxes=(
                Box(name="reading", label="Scale under the jack"),
                Box(name="jack", label="Ball to jack", kind="length"),
                Box(name="axles", label="Ball to middle of the axles", kind="length"),
            ),
            compute=lambda f: at_the_jack(
                f.mass("reading"), jack_m=f.length("jack"), axles_m=f.length("axles")
            ),
        ),
        Method(
            slug="lever",
            title="A beam on a small scale",
            has=("lever",),
            wants=("tongue", "axles"),
            of=("trailers",),
            drawing="lever",
            scale=SMALL,
            steps=(
                "Lay a beam with one end on a brick, the other on the scale; read the beam alone.",
                "Lower the coupler on the beam near the brick, and read again.",
                "Tape from the brick's edge to the scale's middle, and to the coupler.",
            ),
            cautions=(LEVEL, FEET, "The load presses on the middle line of the beam."),
            boxes=(
                Box(name="reading", label="Scale with the load"),
                Box(name="tare", label="Scale with the beam alone"),
                Box(name="beam", label="Brick to scale", kind="length"),
                Box(name="arm", label="Brick to load", kind="length"),
            ),
            compute=lambda f: lever(
                f.mass("reading"),
                beam=Beam(tare=f.light("tare"), beam_m=f.length("beam"), arm_m=f.length("arm")),
            ),
        ),
        Method(
            slug="wheel-by-wheel",
            title="One wheel at a time",
            has=("lever", "bathroom"),
            wants=("trailer", "machine", "sides", "axles"),
            of=("trailers", "machines"),
            drawing="wheels",
            scale=SMALL,
            steps=(
                "Put each wheel in turn on the scale, the others on blocks of the same height.",
                "Write down what the scale shows. Over a beam, give its tapes below and the load "
                "is worked out.",
                "Left and right as the driver sits. Of a trailer weigh the tongue too: the wheels "
                "carry all but that.",
            ),
            cautions=("Blocks keep it level: a leaning trailer shifts its weight.", FEET),
            boxes=(
                Box(name="left_1", label="First axle, left"),
                Box(name="right_1", label="First axle, right"),
                Box(name="left_2", label="Second axle, left", optional=True),
                Box(name="right_2", label="Second axle, right", optional=True),
                Box(name="left_3", label="Third axle, left", optional=True),
                Box(name="right_3", label="Third axle, right", optional=True),
                Box(
                    name="tongue",
                    label="Tongue of the trailer",
                    optional=True,
                    help="Its load at the coupler. Without it only the axles' load is known.",
                ),
                Box(
                    name="tare",
                    label="Scale with the beam alone",
                    optional=True,
                    help="Only where the wheels stood on a beam.",
                ),
                Box(name="beam", label="Brick to scale", kind="length", optional=True),
                Box(name="arm", label="Brick to wheel", kind="length", optional=True),
            ),
            compute=_wheels,
        ),
        Method(
            slug="two-lifts",
            title="Lifted at two supports",
            has=("crane",),
            wants=("machine", "trailer"),
            of=("trailers", "machines"),
            drawing="lifts",
            steps=(
                "Lift one end straight up until it just hangs; read. Of a trailer: the coupler's "
                "end.",
                "Lift the other end at the second support; read.",
                "Weigh the rigging of both lifts together. With the distance between the "
                "supports the balance point follows too.",
            ),
            cautions=(
                "Lift straight above each support, a hand's breadth at most, nobody under it.",
                "A trailer's lift at the coupler is its tongue only while its wheels carry the "
                "rest.",
            ),
            boxes=(
                Box(name="first", label="First lift"),
                Box(name="second", label="Second lift"),
                Box(name="rigging", label="Rigging of both lifts"),
                Box(name="apart", label="Between the supports", kind="length", optional=True),
            ),
            compute=_two_lifts,
            scale=CELL,
        ),
        Method(
            slug="hung-at-the-coupler",
            title="Coupler or pin hung on a load cell",
            has=("crane",),
            wants=("tongue",),
            of=("trailers",),
            drawing="hung",
            steps=(
                "Chock the wheels. Hang the load cell straight above the coupler or the pin.",
                "Lift until the jack is just off the ground and the trailer level; read.",
                "Weigh what hangs between hook and coupler, or enter none.",
            ),
            cautions=(
                LEVEL,
                "Lift at the ball's or pin's own place: {a foot|30 cm} behind it reads higher.",
                "Nobody under it, a hand's breadth at most.",
            ),
            boxes=(
                Box(name="reading", label="Load cell"),
                Box(name="rigging", label="Rigging", help="0 for none."),
            ),
            compute=lambda f: hung(f.mass("reading"), rigging=f.light("rigging")),
            scale=CELL,
        ),
        Method(
            slug="gauge",
            title="Read off the hitch's gauge",
            has=("gauge",),
            wants=("tongue",),
            of=("trailers",),
            drawing="tongue",
            scale=HITCH_GAUGE,
            steps=("Ramps up, jack up, trailer level: read the gauge.",),
            cautions=(
                "Look which unit it shows.",
                "At its rating it shows no more, whatever stands on it.",
            ),
            boxes=(Box(name="reading", label="Gauge"),),
            compute=lambda f: at_the_ball(f.mass("reading")),
        ),
        Method(
            slug="squat",
            title="How far the arch sank",
            has=("tape",),
            wants=("tongue",),
            of=("trailers",),
            drawing="squat",
            steps=(
                "Tape the rear wheel arch with one known load on the ball (none will do), and "
                "again with a larger one.",
                "Take it off, hitch the trailer, tape a third time at the same mark.",
            ),
            cautions=(
                "Springs stick: rock the truck before each reading.",
                "A known load near the trailer's tongue gives the best figure.",
                LEVEL,
            ),
            boxes=(
                Box(name="known_1", label="First load I know", help="0 for none."),
                Box(name="height_1", label="Arch under the first load", kind="length"),
                Box(name="known_2", label="Second load I know"),
                Box(name="height_2", label="Arch under the second load", kind="length"),
                Box(name="height", label="Arch under the trailer", kind="length"),
            ),
            compute=_arches,
        ),
        Method(
            slug="two-placements",
            title="From two places on the deck",
            has=("placements",),
            wants=("machine",),
            of=("machines",),
            drawing="placements",
            scale=HITCH_GAUGE,
            steps=(
                "Read the tongue with the machine where it stands; mark the place.",
                "Move the machine along the deck by {a foot or two|30 to 60 cm}, read again, tape "
                "how far.",
            ),
            cautions=(
                LEVEL,
                "The tape decides: {half an inch|12 mm} of it is worth 3 % in {18 in|450 mm}.",
            ),
            boxes=(
                Box(name="first", label="Tongue, first place"),
                Box(name="second", label="Tongue, second place"),
                Box(name="moved", label="Moved by", kind="length"),
                Box(name="axles", label="Ball to middle of the axles", kind="length"),
            ),
            compute=lambda f: two_placements(
                f.mass("first"),
                f.mass("second"),
                moved_m=f.length("moved"),
                axles_m=f.length("axles"),
            ),
        ),
        Method(
            slug="again",
            title="The same thing, read again",
            has=("truck_stop", "platform", "bathroom", "tongue", "gauge", "crane"),
            wants=("sure",),
            of=("trailers", "machines", "trucks"),
            drawing="again",
            steps=(
                "Weigh it, drive off or take the load off the scale, and weigh it again.",
                "Three readings say more than two; nothing on it or in it changes between them.",
            ),
            cautions=(SAME, "A coarse scale stays coarse, however often it is read."),
            boxes=(
                Box(name="reading_1", label="First reading"),
                Box(name="reading_2", label="Second reading"),
                Box(name="reading_3", label="Third reading", optional=True),
                Box(name="reading_4", label="Fourth reading", optional=True),
                Box(name="reading_5", label="Fifth reading", optional=True),
                Box(name="reading_6", label="Sixth reading", optional=True),
            ),
            question="On which scale?",
            choices=tuple((word, label) for word, label, _ in SCALES),
            scales=tuple((word, scale) for word, _, scale in SCALES),
            compute=lambda f: again(f.masses("reading_")),
        ),
    )
}
"""Ways to weigh, by their address."""
