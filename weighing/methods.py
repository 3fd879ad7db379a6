"""The ways people weigh: what each needs, what to do, and the arithmetic that follows."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Final

from mechanics.errors import InputError
from mechanics.units import KG_PER_LB, M_PER_IN
from mechanics.weighing import (
    Reading,
    Result,
    again,
    at_the_ball,
    at_the_jack,
    axle_by_axle,
    before_and_after,
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

TRUCK_SCALE: Final = (20 * KG_PER_LB, 0.002)
"""Step and part of a vehicle scale (NIST Handbook 44, from memory)."""

SMALL_SCALE: Final = (2 * KG_PER_LB, 0.01)
"""Step and part of a bathroom or tongue scale. Common practice, no source."""

CRANE_SCALE: Final = (2 * KG_PER_LB, 0.002)
"""Step and part of a load cell. Common practice, no source."""

GAUGE: Final = (20 * KG_PER_LB, 0.01)
"""Step and part of a gauge in the hitch. Common practice, no source."""

TAPE_M: Final = 0.5 * M_PER_IN
"""How far a tape reading may be wrong. Common practice, no source."""

Readings = dict[str, float]

NOT_ON_SCALE: Final = ("known_1", "known_2")
"""Masses of a method that no scale showed: loads one knows."""


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
    takes the readings in SI that were given; ``drawing`` names the picture of the set-up.
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
    compute: Callable[[Readings], Result]
    scale: tuple[float, float] = TRUCK_SCALE

    @property
    def read_on_scale(self) -> tuple[str, ...]:
        """Names of the boxes that hold what the scale showed."""
        return tuple(
            box.name for box in self.boxes if box.kind == "mass" and box.name not in NOT_ON_SCALE
        )

    def worked_out(self, found: Readings) -> Result:
        """The result of readings in SI, ``step`` and ``capacity`` of the scale among them.

        Raises:
            InputError: a reading cannot be.
        """
        if "capacity" in found:
            for name in self.read_on_scale:
                if name in found:
                    within_capacity(found[name], found["capacity"], name)
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


def _read(kind: tuple[float, float], found: Readings, name: str) -> Reading:
    step, part = kind
    return scale_reading(found[name], step_kg=found.get("step", step), part=part)


def _named(kind: tuple[float, float], found: Readings, prefix: str) -> list[Reading]:
    names = [name for name in sorted(found) if name.startswith(prefix)]
    return [_read(kind, found, name) for name in names]


def _pads(found: Readings) -> Result:
    tight = ("steer_tight", "drive_tight", "trailer_tight")
    given = [name for name in tight if name in found]
    if given and len(given) < len(tight):
        lacking = next(name for name in tight if name not in found)
        raise InputError(lacking, "given too: with the bars hung all three pads are read")
    names = ("steer", "drive", "trailer_pad", "steer_alone", "drive_alone")
    read = {name: _read(TRUCK_SCALE, found, name) for name in (*names, *given)}
    hung = (read["steer_tight"], read["drive_tight"], read["trailer_tight"]) if given else None
    return segmented(**{name: read[name] for name in names}, tight=hung)


def _two_lifts(found: Readings) -> Result:
    return lifts(
        _read(CRANE_SCALE, found, "first"),
        _read(CRANE_SCALE, found, "second"),
        rigging=Reading(value=found["rigging"], tolerance=CRANE_SCALE[0] / 2),
        apart_m=found.get("apart"),
    )


def _arches(found: Readings) -> Result:
    def taped(name: str) -> Reading:
        return Reading(value=found[name], tolerance=TAPE_M / 2)

    return squat(
        taped("height"),
        first_kg=found["known_1"],
        first_height=taped("height_1"),
        second_kg=found["known_2"],
        second_height=taped("height_2"),
    )


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
                "Drop the trailer, drive on with the truck alone. The second weighing is cheap.",
            ),
            cautions=(SAME, TELL),
            boxes=(
                Box(name="together", label="Truck and trailer together"),
                Box(name="alone", label="Truck alone"),
            ),
            compute=lambda f: together_and_alone(
                _read(TRUCK_SCALE, f, "together"), _read(TRUCK_SCALE, f, "alone")
            ),
        ),
        Method(
            slug="three-pads",
            title="Three pads, hitched and unhitched",
            has=("truck_stop",),
            wants=("tongue", "trailer", "axles"),
            of=("trailers",),
            drawing="pads",
            steps=(
                "Hitched: steer axle, drive axle and trailer each on their own pad. With spring "
                "bars, weigh with them hung, slack them, and weigh once more.",
                "Drop the trailer and weigh the truck again on the first two pads.",
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
            wants=("axles", "truck", "machine"),
            of=("trucks", "machines"),
            drawing="platform",
            steps=(
                "Roll on until the first axle stands on the platform; read.",
                "Roll on until the next axle stands on it too; read again, and so on.",
            ),
            cautions=(TELL, "The approaches must be level with the platform."),
            boxes=(
                Box(name="axle_1", label="First axle on"),
                Box(name="axle_2", label="First and second axle on"),
                Box(name="axle_3", label="With the third", optional=True),
                Box(name="axle_4", label="With the fourth", optional=True),
            ),
            compute=lambda f: axle_by_axle(_named(TRUCK_SCALE, f, "axle_")),
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
            compute=lambda f: before_and_after(
                _read(TRUCK_SCALE, f, "with_machine"), _read(TRUCK_SCALE, f, "without")
            ),
        ),
        Method(
            slug="under-the-ball",
            title="Straight under the coupler",
            has=("bathroom", "tongue"),
            wants=("tongue",),
            of=("trailers",),
            drawing="tongue",
            scale=SMALL_SCALE,
            steps=(
                "Stand the scale under the coupler, at the height it is towed at.",
                "Lower the coupler on it, jack off the ground, and read.",
            ),
            cautions=(LEVEL, FEET, "A bathroom scale ends at 300 to 400 lb (135 to 180 kg)."),
            boxes=(Box(name="reading", label="Scale under the coupler"),),
            compute=lambda f: at_the_ball(_read(SMALL_SCALE, f, "reading")),
        ),
        Method(
            slug="at-the-jack",
            title="Under the jack, corrected to the ball",
            has=("bathroom", "tongue"),
            wants=("tongue",),
            of=("trailers",),
            drawing="jack",
            scale=SMALL_SCALE,
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
                _read(SMALL_SCALE, f, "reading"), jack_m=f["jack"], axles_m=f["axles"]
            ),
        ),
        Method(
            slug="lever",
            title="A beam on a small scale",
            has=("lever",),
            wants=("tongue", "axles"),
            of=("trailers",),
            drawing="lever",
            scale=SMALL_SCALE,
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
                _read(SMALL_SCALE, f, "reading"),
                tare=Reading(value=f["tare"], tolerance=SMALL_SCALE[0] / 2),
                beam_m=f["beam"],
                arm_m=f["arm"],
            ),
        ),
        Method(
            slug="wheel-by-wheel",
            title="One wheel at a time",
            has=("lever", "bathroom"),
            wants=("trailer", "machine", "sides", "axles"),
            of=("trailers", "machines"),
            drawing="wheels",
            scale=SMALL_SCALE,
            steps=(
                "Put each wheel in turn on the scale, the others on blocks of the same height.",
                "Write down every wheel; with a beam, its load and not the scale's reading.",
                "Left and right as the driver sits.",
            ),
            cautions=("Blocks keep it level: a leaning trailer shifts its weight.", FEET),
            boxes=(
                Box(name="left_1", label="First axle, left"),
                Box(name="right_1", label="First axle, right"),
                Box(name="left_2", label="Second axle, left", optional=True),
                Box(name="right_2", label="Second axle, right", optional=True),
                Box(name="left_3", label="Third axle, left", optional=True),
                Box(name="right_3", label="Third axle, right", optional=True),
            ),
            compute=lambda f: wheel_by_wheel(
                _named(SMALL_SCALE, f, "left_"), _named(SMALL_SCALE, f, "right_")
            ),
        ),
        Method(
            slug="two-lifts",
            title="Lifted at two supports",
            has=("crane",),
            wants=("machine",),
            of=("machines",),
            drawing="lifts",
            steps=(
                "Lift one end straight up until it just hangs; read.",
                "Lift the other end at the second support; read.",
                "Weigh the rigging of both lifts together. With the distance between the "
                "supports the balance point follows too.",
            ),
            cautions=(
                "Lift straight above each support, a hand's breadth at most, nobody under it.",
            ),
            boxes=(
                Box(name="first", label="First lift"),
                Box(name="second", label="Second lift"),
                Box(name="rigging", label="Rigging of both lifts"),
                Box(name="apart", label="Between the supports", kind="length", optional=True),
            ),
            compute=_two_lifts,
            scale=CRANE_SCALE,
        ),
        Method(
            slug="gauge",
            title="Read off the hitch's gauge",
            has=("gauge",),
            wants=("tongue",),
            of=("trailers",),
            drawing="tongue",
            scale=GAUGE,
            steps=("Ramps up, jack up, trailer level: read the gauge.",),
            cautions=(
                "Look which unit it shows.",
                "At its rating it shows no more, whatever stands on it.",
            ),
            boxes=(Box(name="reading", label="Gauge"),),
            compute=lambda f: at_the_ball(_read(GAUGE, f, "reading")),
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
            scale=GAUGE,
            steps=(
                "Read the tongue with the machine where it stands; mark the place.",
                "Move the machine along the deck by a foot or two, read again, tape how far.",
            ),
            cautions=(LEVEL, "The tape decides: half an inch of it is worth 3 % in 18 in."),
            boxes=(
                Box(name="first", label="Tongue, first place"),
                Box(name="second", label="Tongue, second place"),
                Box(name="moved", label="Moved by", kind="length"),
                Box(name="axles", label="Ball to middle of the axles", kind="length"),
            ),
            compute=lambda f: two_placements(
                _read(GAUGE, f, "first"),
                _read(GAUGE, f, "second"),
                moved_m=Reading(value=f["moved"], tolerance=TAPE_M),
                axles_m=f["axles"],
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
            compute=lambda f: again(_named(TRUCK_SCALE, f, "reading_")),
        ),
    )
}
"""Ways to weigh, by their address."""
