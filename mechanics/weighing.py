"""The arithmetic of every way people weigh, with how far the result may be wrong.

Each function takes readings and returns a :class:`Result`, or raises :class:`InputError`
with one sentence where the readings cannot be. Doubts of readings add up at their worst,
as everywhere that a window promises to be sure; where a figure is not a sum of readings it
is worked out with each of them at either end of its doubt (:func:`furthest`).
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import product

from mechanics.errors import InputError
from mechanics.scales import Scale


@dataclass(frozen=True, kw_only=True, slots=True)
class Reading:
    """What a scale or a tape showed, in kg or m, and how far that may be from the truth."""

    value: float
    tolerance: float = 0.0

    def __post_init__(self) -> None:
        if not self.tolerance >= 0:
            raise InputError("reading.tolerance", "zero or more")


@dataclass(frozen=True, kw_only=True, slots=True)
class Figure:
    """One figure that follows, in kg or m; ``of`` says what it is a figure of."""

    of: str
    value: float
    tolerance: float


@dataclass(frozen=True, kw_only=True, slots=True)
class Line:
    """One line of the arithmetic: what, its value, and how it is used (+, −, ×, ÷)."""

    name: str
    value: float
    sign: str = "+"
    length: bool = False
    bare: bool = False


@dataclass(frozen=True, kw_only=True, slots=True)
class Result:
    """The figures that follow and the arithmetic behind the first of them."""

    figures: tuple[Figure, ...]
    lines: tuple[Line, ...] = ()

    @property
    def main(self) -> Figure:
        """The figure that was weighed for."""
        return self.figures[0]


def furthest(figure: Callable[..., float], *readings: Reading) -> float:
    """How far a figure may be from what the readings give, each anywhere within its doubt.

    Exact for a figure that rises or falls evenly with each reading while the others stay:
    the furthest is then at a corner of their doubts.
    """
    middle = figure(*(r.value for r in readings))
    ends = [
        (r.value - r.tolerance, r.value + r.tolerance) if r.tolerance else (r.value,)
        for r in readings
    ]
    return max(abs(figure(*corner) - middle) for corner in product(*ends))


def _surely_positive(reading: Reading, path: str, words: str) -> None:
    """Refuse a length or difference to divide by that its own doubt could take to nothing.

    Raises:
        InputError: it may be nothing.
    """
    if not reading.value - reading.tolerance > 1e-9 * abs(reading.value):
        raise InputError(path, words)


def scale_reading(kg: float, scale: Scale) -> Reading:
    """A scale's reading with how far it may be off."""
    return Reading(value=kg, tolerance=scale.doubt_kg(kg))


def within_capacity(kg: float, capacity_kg: float, path: str) -> None:
    """Refuse a reading that the scale cannot have shown.

    Raises:
        InputError: the reading is above the scale's capacity.
    """
    if kg > capacity_kg:
        raise InputError(path, "no more than the scale's capacity: it cannot have shown that")


def off_step(kg: float, step_kg: float) -> bool:
    """Whether a reading lies between the scale's steps, where it can show nothing.

    A hundredth of a step is left to rounding of units.
    """
    steps = kg / step_kg
    return abs(steps - round(steps)) > 0.01


def _positive(value: float, path: str, words: str) -> None:
    if not value > 0:
        raise InputError(path, words)


def difference(more: Reading, less: Reading, of: str, *, path: str, words: str) -> Result:
    """What one reading has over another: trailer, machine, axle.

    Raises:
        InputError: nothing is left; ``words`` say what is then wrong.
    """
    left = more.value - less.value
    _positive(left, path, words)
    return Result(
        figures=(Figure(of=of, value=left, tolerance=more.tolerance + less.tolerance),),
        lines=(
            Line(name="with", value=more.value),
            Line(name="without", value=less.value, sign="−"),
        ),
    )


def together_and_alone(together: Reading, truck: Reading) -> Result:
    """The trailer: truck and trailer together, less the truck alone."""
    return difference(
        together,
        truck,
        "trailer",
        path="alone",
        words="less than together: the truck alone cannot weigh more than truck and trailer",
    )


def before_and_after(with_machine: Reading, without: Reading) -> Result:
    """The machine: the trailer with it, less the trailer without it."""
    return difference(
        with_machine,
        without,
        "machine",
        path="without",
        words="less than with the machine on: are the two tickets swapped?",
    )


def segmented(
    *,
    steer: Reading,
    drive: Reading,
    trailer_pad: Reading,
    steer_alone: Reading,
    drive_alone: Reading,
    tight: tuple[Reading, Reading, Reading] | None = None,
) -> Result:
    """Tongue and trailer from pads hitched (spring bars slack or none) and unhitched.

    The tongue is what the truck's two axles gained; the trailer is its pad and that tongue.
    ``tight`` are the same three pads with the bars hung: how much of the front axle's drop
    they give back, and what they move to the trailer's axles, follow too.

    Raises:
        InputError: the tongue would pull up; the bars would take load off the front axle;
            the outfit would weigh something else with the bars hung.
    """
    tongue = steer.value + drive.value - steer_alone.value - drive_alone.value
    doubt = steer.tolerance + drive.tolerance + steer_alone.tolerance + drive_alone.tolerance
    _positive(
        tongue,
        "drive",
        "more on the truck's axles hitched than unhitched: the tongue would pull up",
    )
    _positive(trailer_pad.value, "trailer_pad", "a reading of the trailer's axles")
    figures = [
        Figure(of="tongue", value=tongue, tolerance=doubt),
        Figure(
            of="trailer",
            value=trailer_pad.value + tongue,
            tolerance=trailer_pad.tolerance + doubt,
        ),
        Figure(of="trailer_axles", value=trailer_pad.value, tolerance=trailer_pad.tolerance),
    ]
    if tight is not None:
        figures += _bars((steer, drive, trailer_pad), tight, steer_alone)
    return Result(
        figures=tuple(figures),
        lines=(
            Line(name="steer axle hitched", value=steer.value),
            Line(name="drive axle hitched", value=drive.value),
            Line(name="steer axle unhitched", value=steer_alone.value, sign="−"),
            Line(name="drive axle unhitched", value=drive_alone.value, sign="−"),
        ),
    )


def _bars(
    slack: tuple[Reading, Reading, Reading],
    tight: tuple[Reading, Reading, Reading],
    steer_alone: Reading,
) -> list[Figure]:
    """What the bars do, from steer, drive and trailer pads slack and hung."""
    before, after = sum(r.value for r in slack), sum(r.value for r in tight)
    doubt = sum(r.tolerance for r in (*slack, *tight))
    if abs(after - before) > doubt:
        raise InputError(
            "trailer_tight",
            "part of the same whole: bars only move load between the pads, and all three "
            "together have changed",
        )
    gained = tight[0].value - slack[0].value
    if gained < -(tight[0].tolerance + slack[0].tolerance):
        raise InputError(
            "steer_tight", "no less than with the bars slack: hung bars load the front axle"
        )
    moved = Figure(
        of="bars_to_trailer",
        value=tight[2].value - slack[2].value,
        tolerance=tight[2].tolerance + slack[2].tolerance,
    )
    found = [Figure(of="front_given_back", value=gained, tolerance=_both(tight[0], slack[0]))]
    dropped = steer_alone.value - slack[0].value
    if dropped > _both(steer_alone, slack[0]):

        def part(hung: float, hanging: float, alone: float) -> float:
            return (hung - hanging) / (alone - hanging)

        found.append(
            Figure(
                of="part_given_back",
                value=gained / dropped,
                tolerance=furthest(part, tight[0], slack[0], steer_alone),
            )
        )
    return [*found, moved]


def _both(one: Reading, two: Reading) -> float:
    return one.tolerance + two.tolerance


def axle_by_axle(readings: Sequence[Reading]) -> Result:
    """Each axle of a truck alone or a machine from one platform driven onto axle by axle: this
    reading less the one before.

    Raises:
        InputError: a reading is not above the one before it, or there is none.
    """
    axles = _rolled_on(readings)
    last = readings[-1]
    whole = Figure(of="whole", value=last.value, tolerance=last.tolerance)
    return Result(
        figures=(whole, *axles),
        lines=tuple(
            Line(name=f"axle {number}", value=figure.value)
            for number, figure in enumerate(axles, 1)
        ),
    )


def _rolled_on(readings: Sequence[Reading]) -> list[Figure]:
    """What each axle that rolled on added."""
    if not readings:
        raise InputError("axle_1", "at least one reading")
    figures, before = [], Reading(value=0.0)
    for number, reading in enumerate(readings, 1):
        gained = reading.value - before.value
        _positive(
            gained,
            f"axle_{number}",
            "more than the reading before: each axle that rolls on adds to it",
        )
        figures.append(Figure(of=f"axle_{number}", value=gained, tolerance=_both(reading, before)))
        before = reading
    return figures


def hitched_axle_by_axle(
    readings: Sequence[Reading], alone: tuple[Reading, Reading] | None = None
) -> Result:
    """Truck and trailer from one platform driven onto axle by axle: front axle, rear axle,
    then each of the trailer's.

    What stands on the truck's axles then has the tongue in it. ``alone`` are the same two
    steps of the truck unhitched: the tongue is what its two axles gained, and the trailer
    its axles and that.

    Raises:
        InputError: fewer than three readings, one not above the one before it, or a truck
            that weighs as much without the trailer.
    """
    if len(readings) < 3:
        raise InputError("axle_3", "given too: with a trailer on there is a third step")
    front, rear, *behind = _rolled_on(readings)
    last, both = readings[-1], readings[1]
    axles = Figure(of="trailer_axles", value=last.value - both.value, tolerance=_both(last, both))
    figures = [
        axles,
        Figure(of="truck_front_hitched", value=front.value, tolerance=front.tolerance),
        Figure(of="truck_rear_hitched", value=rear.value, tolerance=rear.tolerance),
    ]
    figures += [
        Figure(of=f"trailer_axle_{n}", value=one.value, tolerance=one.tolerance)
        for n, one in enumerate(behind, 1)
    ]
    lines = [
        Line(name="with the trailer's last axle on", value=last.value),
        Line(name="with the truck's rear axle on", value=both.value, sign="−"),
    ]
    if alone is not None:
        own_front, own_both = alone
        own = _rolled_on_alone(own_front, own_both)
        tongue = Figure(
            of="tongue", value=both.value - own_both.value, tolerance=_both(both, own_both)
        )
        _positive(
            tongue.value,
            "alone_2",
            "less than the same two axles hitched: the tongue would pull up",
        )
        trailer = Figure(
            of="trailer", value=last.value - own_both.value, tolerance=_both(last, own_both)
        )
        figures = [trailer, tongue, *figures, *own]
        lines = [
            Line(name="with the trailer's last axle on", value=last.value),
            Line(name="truck alone", value=own_both.value, sign="−"),
        ]
    return Result(figures=tuple(figures), lines=tuple(lines))


def _rolled_on_alone(front: Reading, both: Reading) -> list[Figure]:
    rear = both.value - front.value
    _positive(front.value, "alone_1", "a reading greater than zero")
    _positive(rear, "alone_2", "more than the front axle alone")
    return [
        Figure(of="truck_front", value=front.value, tolerance=front.tolerance),
        Figure(of="truck_rear", value=rear, tolerance=_both(both, front)),
    ]


def at_the_ball(reading: Reading) -> Result:
    """The tongue from a scale straight under the ball, or a gauge in the hitch."""
    _positive(reading.value, "reading", "a reading greater than zero")
    return Result(
        figures=(Figure(of="tongue", value=reading.value, tolerance=reading.tolerance),),
        lines=(Line(name="reading", value=reading.value),),
    )


def at_the_jack(reading: Reading, *, jack_m: Reading, axles_m: Reading) -> Result:
    """The tongue from a scale under the jack: ``T = reading (axles - jack) / axles``.

    Both distances are taped behind the ball, and the tape's doubt counts.
    """
    _positive(reading.value, "reading", "a reading greater than zero")
    if not 0 <= jack_m.value < axles_m.value:
        raise InputError("jack", "behind the ball and ahead of the axles")
    _surely_positive(axles_m, "axles", "a distance that the tape's doubt is small beside")

    def tongue(read: float, jack: float, axles: float) -> float:
        return read * (axles - jack) / axles

    return Result(
        figures=(
            Figure(
                of="tongue",
                value=tongue(reading.value, jack_m.value, axles_m.value),
                tolerance=furthest(tongue, reading, jack_m, axles_m),
            ),
        ),
        lines=(
            Line(name="reading at the jack", value=reading.value),
            Line(name="axles less jack", value=axles_m.value - jack_m.value, sign="×", length=True),
            Line(name="axles behind the ball", value=axles_m.value, sign="÷", length=True),
        ),
    )


def hung(reading: Reading, *, rigging: Reading) -> Result:
    """The tongue or pin from a load cell that lifts the coupler: what it shows less what
    hangs between."""
    if rigging.value < 0:
        raise InputError("rigging", "zero or more")
    return difference(
        reading,
        rigging,
        "tongue",
        path="reading",
        words="more than the rigging by itself",
    )


@dataclass(frozen=True, kw_only=True, slots=True)
class Beam:
    """A beam on a pivot at one end and a scale at the other, with the load between them.

    ``tare`` is what the scale shows of the beam alone; ``beam_m`` is from the pivot to the
    scale, ``arm_m`` from the pivot to where the load presses.
    """

    tare: Reading
    beam_m: Reading
    arm_m: Reading

    def __post_init__(self) -> None:
        if self.tare.value < 0:
            raise InputError("tare", "zero or more: what the scale shows with the beam alone")
        if not 0 < self.arm_m.value <= self.beam_m.value:
            raise InputError("arm", "more than nothing and no longer than the beam")
        _surely_positive(self.arm_m, "arm", "a distance that the tape's doubt is small beside")

    @property
    def factor(self) -> float:
        """What a net reading is multiplied by."""
        return self.beam_m.value / self.arm_m.value

    def load(self, reading: Reading, path: str) -> Reading:
        """The load behind a reading: ``(reading - tare) x beam / arm``, doubts of the two
        tapes counted.

        Raises:
            InputError: the scale shows no more than the beam.
        """
        _positive(reading.value - self.tare.value, path, "more than the beam alone")

        def load(read: float, tare: float, beam: float, arm: float) -> float:
            return (read - tare) * beam / arm

        return Reading(
            value=(reading.value - self.tare.value) * self.factor,
            tolerance=furthest(load, reading, self.tare, self.beam_m, self.arm_m),
        )


def lever(reading: Reading, *, beam: Beam) -> Result:
    """A load on a beam: ``(reading - tare) x beam / arm``."""
    load = beam.load(reading, "reading")
    return Result(
        figures=(Figure(of="load", value=load.value, tolerance=load.tolerance),),
        lines=(
            Line(name="reading", value=reading.value),
            Line(name="beam alone", value=beam.tare.value, sign="−"),
            Line(name="factor: beam over pivot to load", value=beam.factor, sign="×", bare=True),
        ),
    )


def wheel_by_wheel(
    left: Sequence[Reading],
    right: Sequence[Reading],
    *,
    of: str = "",
    tongue: Reading | None = None,
    beam: Beam | None = None,
) -> Result:
    """Wheels one after the other: what the axles carry together, each side, each axle.

    ``of`` a ``machine`` that is all of it. Of a ``trailer`` it is the axles' load alone; with
    its ``tongue`` weighed too it is the trailer. Where nobody says what was weighed (``of``
    empty), it is the axles together and nothing more. Over a ``beam`` the wheels' readings
    are the scale's.

    Raises:
        InputError: a wheel is wanting on one side, or weighs nothing; a machine with a tongue.
    """
    if of == "machine" and tongue is not None:
        raise InputError("tongue", "left empty: a machine stands on its wheels alone")
    for number in range(1, max(len(left), len(right), 1) + 1):
        for side, wheels in (("left", left), ("right", right)):
            if len(wheels) < number:
                raise InputError(f"{side}_{number}", "given too: every axle has two wheels")
            _positive(wheels[number - 1].value, f"{side}_{number}", "a reading greater than zero")
    if beam is not None:
        left = [beam.load(wheel, f"left_{n}") for n, wheel in enumerate(left, 1)]
        right = [beam.load(wheel, f"right_{n}") for n, wheel in enumerate(right, 1)]
    sides = [
        Figure(
            of=name, value=sum(w.value for w in wheels), tolerance=sum(w.tolerance for w in wheels)
        )
        for name, wheels in (("left", left), ("right", right))
    ]
    axles = [
        Figure(
            of=f"axle_{n}" if of == "machine" else f"trailer_axle_{n}",
            value=one.value + two.value,
            tolerance=_both(one, two),
        )
        for n, (one, two) in enumerate(zip(left, right, strict=True), 1)
    ]
    together = sides[0].value + sides[1].value
    doubt = sides[0].tolerance + sides[1].tolerance
    lines = [
        Line(name=f"axle {n}, {side}", value=wheel.value)
        for side, wheels in (("left", left), ("right", right))
        for n, wheel in enumerate(wheels, 1)
    ]
    found: list[Figure]
    if tongue is not None:
        _positive(tongue.value, "tongue", "a reading greater than zero")
        found = [
            Figure(of="trailer", value=together + tongue.value, tolerance=doubt + tongue.tolerance),
            Figure(of="tongue", value=tongue.value, tolerance=tongue.tolerance),
            Figure(of="trailer_axles", value=together, tolerance=doubt),
        ]
        lines.append(Line(name="tongue", value=tongue.value))
    else:
        name = {"machine": "whole", "trailer": "trailer_axles"}.get(of, "axles")
        found = [Figure(of=name, value=together, tolerance=doubt)]
    return Result(figures=(*found, *sides, *axles), lines=tuple(lines))


def again(readings: Sequence[Reading]) -> Result:
    """The same thing read several times over: the mean, and how far single readings scatter.

    The tolerance is the scale's own or twice the mean's standard error, whichever is
    larger: reading a coarse scale often does not make it a fine one.

    Raises:
        InputError: fewer than two readings, or one that is nothing.
    """
    if len(readings) < 2:
        raise InputError("reading_2", "a second reading of the same thing")
    for number, reading in enumerate(readings, 1):
        _positive(reading.value, f"reading_{number}", "a reading greater than zero")
    count = len(readings)
    mean = sum(r.value for r in readings) / count
    scatter = math.sqrt(sum((r.value - mean) ** 2 for r in readings) / (count - 1))
    own = max(r.tolerance for r in readings)
    return Result(
        figures=(
            Figure(of="mean", value=mean, tolerance=max(own, 2 * scatter / math.sqrt(count))),
            Figure(of="scatter", value=scatter, tolerance=0.0),
        ),
        lines=(
            *(Line(name=f"reading {n}", value=r.value) for n, r in enumerate(readings, 1)),
            Line(name="how many", value=count, sign="÷", bare=True),
        ),
    )


def lifts(
    first: Reading,
    second: Reading,
    *,
    rigging: Reading,
    of: str = "machine",
    apart_m: Reading | None = None,
) -> Result:
    """Something lifted at two supports one after the other: the sum less the rigging twice
    hung is ``first + second - rigging``, the rigging being what hung in both lifts together.

    With the distance between the supports, the balance point follows too: how far it is
    from the first support towards the second; the tape's doubt counts.
    """
    if rigging.value < 0:
        raise InputError("rigging", "zero or more")
    whole = first.value + second.value - rigging.value
    _positive(whole, "first", "more than the rigging")
    doubt = first.tolerance + second.tolerance + rigging.tolerance
    figures = [Figure(of=of, value=whole, tolerance=doubt)]
    if apart_m is not None:
        _positive(apart_m.value, "apart", "a distance greater than zero")

        def balance(one: float, two: float, hanging: float, apart: float) -> float:
            return (two - hanging / 2) / (one + two - hanging) * apart

        figures.append(
            Figure(
                of="balance",
                value=balance(first.value, second.value, rigging.value, apart_m.value),
                tolerance=furthest(balance, first, second, rigging, apart_m),
            )
        )
    return Result(
        figures=tuple(figures),
        lines=(
            Line(name="first lift", value=first.value),
            Line(name="second lift", value=second.value),
            Line(name="rigging", value=rigging.value, sign="−"),
        ),
    )


def squat(
    height: Reading,
    *,
    first_kg: float,
    first_height: Reading,
    second_kg: float,
    second_height: Reading,
) -> Result:
    """A tongue from the rear arch's height, calibrated by two known loads at the same place.

    ``first_kg + (first height - height) x (second_kg - first_kg) / (first height - second
    height)``; the first load may be none. Heights in m above the ground.

    Raises:
        InputError: the second load is not the larger, or the arch did not sink under it.
    """
    if first_kg < 0:
        raise InputError("known_1", "zero or more")
    _positive(second_kg - first_kg, "known_2", "more than the first known load")
    span = first_height.value - second_height.value
    _positive(span, "height_2", "lower than under the first load: the arch sinks under more")
    drop = first_height.value - height.value
    rate = (second_kg - first_kg) / span
    load = first_kg + drop * rate
    _positive(load, "height", "lower than with nothing on the ball")
    _surely_positive(
        Reading(value=span, tolerance=_both(first_height, second_height)),
        "height_2",
        "lower by more than the tape leaves open: take a heavier known load",
    )

    def tongue(now: float, one: float, two: float) -> float:
        return first_kg + (one - now) * (second_kg - first_kg) / (one - two)

    doubt = furthest(tongue, height, first_height, second_height)
    return Result(
        figures=(Figure(of="tongue", value=load, tolerance=doubt),),
        lines=(
            Line(name="first known load", value=first_kg),
            Line(name="arch sank since by", value=drop, length=True),
            Line(name="second less first load", value=second_kg - first_kg, sign="×"),
            Line(name="arch sank under it by", value=span, sign="÷", length=True),
        ),
    )


def two_placements(
    first: Reading, second: Reading, *, moved_m: Reading, axles_m: Reading
) -> Result:
    """A machine's mass from two tongue readings: change of tongue x coupler to axles / moved.

    The tapes' doubts count as much as the scale's.
    """
    _positive(axles_m.value, "axles", "a distance greater than zero")
    _positive(moved_m.value, "moved", "a distance greater than zero")
    _surely_positive(moved_m, "moved", "further than the tape leaves open: a foot or two")
    change = abs(first.value - second.value)
    _positive(change, "second", "another reading than the first: the tongue has to change")
    more, less = (first, second) if first.value > second.value else (second, first)

    def mass(one: float, two: float, moved: float, axles: float) -> float:
        return (one - two) * axles / moved

    return Result(
        figures=(
            Figure(
                of="machine",
                value=mass(more.value, less.value, moved_m.value, axles_m.value),
                tolerance=furthest(mass, more, less, moved_m, axles_m),
            ),
        ),
        lines=(
            Line(name="change of the tongue", value=change),
            Line(name="coupler to axles", value=axles_m.value, sign="×", length=True),
            Line(name="moved", value=moved_m.value, sign="÷", length=True),
        ),
    )
