"""The ways people weigh: what each needs, what to do, and the arithmetic that follows."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Final

from mechanics.units import KG_PER_LB, M_PER_IN
from mechanics.weighing import (
    Reading,
    Result,
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
    result may belong to. ``compute`` takes the readings in SI that were given; ``drawing``
    names the picture of the set-up.
    """

    slug: str
    title: str
    has: str
    wants: tuple[str, ...]
    of: tuple[str, ...]
    drawing: str
    steps: tuple[str, ...]
    cautions: tuple[str, ...]
    boxes: tuple[Box, ...]
    compute: Callable[[Readings], Result]


HAS: Final = {
    "truck_stop": "a truck-stop scale with three pads",
    "platform": "a single platform",
    "bathroom": "a bathroom or tongue scale",
    "lever": "a small scale and a stout beam",
    "crane": "a load cell and something to lift with",
    "gauge": "a gauge in the hitch",
    "tape": "a tape and a load I know",
    "placements": "nothing but two places to park it",
}
"""What the user has, as the picker asks."""

WANTS: Final = {
    "trailer": "the trailer",
    "tongue": "the tongue",
    "machine": "a machine",
    "axles": "each axle",
    "truck": "the truck",
}
"""What the user wants to know."""

LEVEL: Final = "The trailer stands level, as it is towed."
SAME: Final = "The same people, fuel and things aboard both times."
FEET: Final = "Chock the wheels and keep feet clear: scales and jacks tip."
TELL: Final = "Tell the weighmaster first; nobody walks on the scale."


def _scale(kind: tuple[float, float], kg: float) -> Reading:
    step, part = kind
    return scale_reading(kg, step_kg=step, part=part)


def _axles(found: Readings) -> Result:
    names = [name for name in ("axle_1", "axle_2", "axle_3", "axle_4") if name in found]
    return axle_by_axle([_scale(TRUCK_SCALE, found[name]) for name in names])


def _wheels(found: Readings) -> Result:
    names = [name for name in sorted(found) if name.startswith("wheel_")]
    return wheel_by_wheel([_scale(SMALL_SCALE, found[name]) for name in names])


METHODS: Final = {
    method.slug: method
    for method in (
        Method(
            slug="together-and-alone",
            title="Together, then the truck alone",
            has="platform",
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
                _scale(TRUCK_SCALE, f["together"]), _scale(TRUCK_SCALE, f["alone"])
            ),
        ),
        Method(
            slug="three-pads",
            title="Three pads, hitched and unhitched",
            has="truck_stop",
            wants=("tongue", "trailer", "axles"),
            of=("trailers",),
            drawing="pads",
            steps=(
                "Hitched: steer axle, drive axle and trailer each on their own pad. With spring "
                "bars, hang them slack.",
                "Drop the trailer and weigh the truck again on the first two pads.",
            ),
            cautions=(SAME, TELL, "Bars under tension move load between the pads: slack them."),
            boxes=(
                Box(name="steer", label="Steer axle, hitched"),
                Box(name="drive", label="Drive axle, hitched"),
                Box(name="trailer_pad", label="Trailer axles, hitched"),
                Box(name="steer_alone", label="Steer axle, truck alone"),
                Box(name="drive_alone", label="Drive axle, truck alone"),
            ),
            compute=lambda f: segmented(
                steer=_scale(TRUCK_SCALE, f["steer"]),
                drive=_scale(TRUCK_SCALE, f["drive"]),
                trailer_pad=_scale(TRUCK_SCALE, f["trailer_pad"]),
                steer_alone=_scale(TRUCK_SCALE, f["steer_alone"]),
                drive_alone=_scale(TRUCK_SCALE, f["drive_alone"]),
            ),
        ),
        Method(
            slug="axle-by-axle",
            title="Axle by axle on one platform",
            has="platform",
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
            compute=_axles,
        ),
        Method(
            slug="before-and-after",
            title="With the machine, then without",
            has="platform",
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
                _scale(TRUCK_SCALE, f["with_machine"]), _scale(TRUCK_SCALE, f["without"])
            ),
        ),
        Method(
            slug="under-the-ball",
            title="Straight under the coupler",
            has="bathroom",
            wants=("tongue",),
            of=("trailers",),
            drawing="tongue",
            steps=(
                "Stand the scale under the coupler, at the height it is towed at.",
                "Lower the coupler on it, jack off the ground, and read.",
            ),
            cautions=(LEVEL, FEET, "A bathroom scale ends at 300 to 400 lb (135 to 180 kg)."),
            boxes=(Box(name="reading", label="Scale under the coupler"),),
            compute=lambda f: at_the_ball(_scale(SMALL_SCALE, f["reading"])),
        ),
        Method(
            slug="at-the-jack",
            title="Under the jack, corrected to the ball",
            has="bathroom",
            wants=("tongue",),
            of=("trailers",),
            drawing="jack",
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
                _scale(SMALL_SCALE, f["reading"]), jack_m=f["jack"], axles_m=f["axles"]
            ),
        ),
        Method(
            slug="lever",
            title="A beam on a small scale",
            has="lever",
            wants=("tongue", "axles"),
            of=("trailers",),
            drawing="lever",
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
                _scale(SMALL_SCALE, f["reading"]),
                tare=Reading(value=f["tare"], tolerance=SMALL_SCALE[0] / 2),
                beam_m=f["beam"],
                arm_m=f["arm"],
            ),
        ),
        Method(
            slug="wheel-by-wheel",
            title="One wheel at a time",
            has="lever",
            wants=("trailer", "machine"),
            of=("trailers", "machines"),
            drawing="wheels",
            steps=(
                "Put each wheel in turn on the scale, the others on blocks of the same height.",
                "Write down every wheel; with a beam, its load and not the scale's reading.",
            ),
            cautions=("Blocks keep it level: a leaning trailer shifts its weight.", FEET),
            boxes=(
                Box(name="wheel_1", label="First wheel"),
                Box(name="wheel_2", label="Second wheel"),
                Box(name="wheel_3", label="Third wheel", optional=True),
                Box(name="wheel_4", label="Fourth wheel", optional=True),
            ),
            compute=_wheels,
        ),
        Method(
            slug="two-lifts",
            title="Lifted at two supports",
            has="crane",
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
            compute=lambda f: lifts(
                _scale(CRANE_SCALE, f["first"]),
                _scale(CRANE_SCALE, f["second"]),
                rigging=Reading(value=f["rigging"], tolerance=CRANE_SCALE[0] / 2),
                apart_m=f.get("apart"),
            ),
        ),
        Method(
            slug="gauge",
            title="Read off the hitch's gauge",
            has="gauge",
            wants=("tongue",),
            of=("trailers",),
            drawing="tongue",
            steps=("Ramps up, jack up, trailer level: read the gauge.",),
            cautions=(
                "Look which unit it shows.",
                "At its rating it shows no more, whatever stands on it.",
            ),
            boxes=(Box(name="reading", label="Gauge"),),
            compute=lambda f: at_the_ball(_scale(GAUGE, f["reading"])),
        ),
        Method(
            slug="squat",
            title="How far the arch sank",
            has="tape",
            wants=("tongue",),
            of=("trailers",),
            drawing="squat",
            steps=(
                "Tape the rear wheel arch, put a load you know on the ball, tape again.",
                "Take it off, hitch the trailer, tape a third time.",
            ),
            cautions=("Springs stick: rock the truck before each reading.", LEVEL),
            boxes=(
                Box(name="known", label="The load I know"),
                Box(name="known_drop", label="The arch sank under it", kind="length"),
                Box(name="drop", label="The arch sank under the trailer", kind="length"),
            ),
            compute=lambda f: squat(
                Reading(value=f["drop"], tolerance=TAPE_M / 2),
                known_kg=f["known"],
                known_drop_m=f["known_drop"],
            ),
        ),
        Method(
            slug="two-placements",
            title="From two places on the deck",
            has="placements",
            wants=("machine",),
            of=("machines",),
            drawing="placements",
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
                _scale(GAUGE, f["first"]),
                _scale(GAUGE, f["second"]),
                moved_m=Reading(value=f["moved"], tolerance=TAPE_M),
                axles_m=f["axles"],
            ),
        ),
    )
}
"""Ways to weigh, by their address."""
