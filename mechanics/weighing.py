"""The arithmetic of every way people weigh, with how far the result may be wrong.

Each function takes readings and returns a :class:`Result`, or raises :class:`InputError`
with one sentence where the readings cannot be. Doubts of readings add up at their worst,
as everywhere that a window promises to be sure.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from mechanics.errors import InputError


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


def scale_reading(kg: float, *, step_kg: float, part: float) -> Reading:
    """A scale's reading with half a step and a part of the load as its tolerance.

    Vehicle scales commonly step by 20 lb and are kept within 0.2 % (NIST Handbook 44, from
    memory).
    """
    return Reading(value=kg, tolerance=step_kg / 2 + part * abs(kg))


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
        # a part of a part: its doubt is the two parts' doubts together
        part = gained / dropped
        spread = _both(tight[0], slack[0]) + abs(part) * _both(steer_alone, slack[0])
        found.append(Figure(of="part_given_back", value=part, tolerance=spread / dropped))
    return [*found, moved]


def _both(one: Reading, two: Reading) -> float:
    return one.tolerance + two.tolerance


def axle_by_axle(readings: Sequence[Reading]) -> Result:
    """Each axle from one platform driven onto axle by axle: this reading less the one before.

    Raises:
        InputError: a reading is not above the one before it, or there is none.
    """
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
        figures.append(
            Figure(
                of=f"axle_{number}", value=gained, tolerance=reading.tolerance + before.tolerance
            )
        )
        before = reading
    whole = Figure(of="whole", value=before.value, tolerance=before.tolerance)
    return Result(
        figures=(whole, *figures),
        lines=tuple(
            Line(name=f"axle {number}", value=figure.value)
            for number, figure in enumerate(figures, 1)
        ),
    )


def at_the_ball(reading: Reading) -> Result:
    """The tongue from a scale straight under the ball, or a gauge in the hitch."""
    _positive(reading.value, "reading", "a reading greater than zero")
    return Result(
        figures=(Figure(of="tongue", value=reading.value, tolerance=reading.tolerance),),
        lines=(Line(name="reading", value=reading.value),),
    )


def at_the_jack(reading: Reading, *, jack_m: float, axles_m: float) -> Result:
    """The tongue from a scale under the jack: ``T = reading (axles - jack) / axles``.

    Both distances are behind the ball.
    """
    _positive(reading.value, "reading", "a reading greater than zero")
    if not 0 <= jack_m < axles_m:
        raise InputError("jack", "behind the ball and ahead of the axles")
    factor = (axles_m - jack_m) / axles_m
    return Result(
        figures=(
            Figure(of="tongue", value=reading.value * factor, tolerance=reading.tolerance * factor),
        ),
        lines=(
            Line(name="reading at the jack", value=reading.value),
            Line(name="axles less jack", value=axles_m - jack_m, sign="×", length=True),
            Line(name="axles behind the ball", value=axles_m, sign="÷", length=True),
        ),
    )


def lever(reading: Reading, *, tare: Reading, beam_m: float, arm_m: float) -> Result:
    """A load on a beam: ``(reading - tare) x beam / arm``.

    The beam lies on a pivot at one end and on the scale at the other; ``arm_m`` is from
    the pivot to where the load presses.
    """
    net = reading.value - tare.value
    if tare.value < 0:
        raise InputError("tare", "zero or more: what the scale shows with the beam alone")
    _positive(net, "reading", "more than the beam alone")
    if not 0 < arm_m <= beam_m:
        raise InputError("arm", "more than nothing and no longer than the beam")
    factor = beam_m / arm_m
    return Result(
        figures=(
            Figure(
                of="load",
                value=net * factor,
                tolerance=(reading.tolerance + tare.tolerance) * factor,
            ),
        ),
        lines=(
            Line(name="reading", value=reading.value),
            Line(name="beam alone", value=tare.value, sign="−"),
            Line(name="factor: beam over pivot to load", value=factor, sign="×", bare=True),
        ),
    )


def wheel_by_wheel(left: Sequence[Reading], right: Sequence[Reading]) -> Result:
    """A trailer or machine from its wheels one after the other: the sum, and each side.

    Raises:
        InputError: a wheel is wanting on one side, or weighs nothing.
    """
    for number in range(1, max(len(left), len(right), 1) + 1):
        for side, wheels in (("left", left), ("right", right)):
            if len(wheels) < number:
                raise InputError(f"{side}_{number}", "given too: every axle has two wheels")
            _positive(wheels[number - 1].value, f"{side}_{number}", "a reading greater than zero")
    sides = [
        Figure(
            of=name, value=sum(w.value for w in wheels), tolerance=sum(w.tolerance for w in wheels)
        )
        for name, wheels in (("left", left), ("right", right))
    ]
    axles = [
        Figure(of=f"axle_{n}", value=one.value + two.value, tolerance=_both(one, two))
        for n, (one, two) in enumerate(zip(left, right, strict=True), 1)
    ]
    whole = Figure(
        of="whole",
        value=sides[0].value + sides[1].value,
        tolerance=sides[0].tolerance + sides[1].tolerance,
    )
    return Result(
        figures=(whole, *sides, *axles),
        lines=tuple(
            Line(name=f"axle {n}, {side}", value=wheel.value)
            for side, wheels in (("left", left), ("right", right))
            for n, wheel in enumerate(wheels, 1)
        ),
    )


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
    first: Reading, second: Reading, *, rigging: Reading, apart_m: float | None = None
) -> Result:
    """A machine lifted at two supports one after the other: the sum less the rigging twice
    hung is ``first + second - rigging``, the rigging being what hung in both lifts together.

    With the distance between the supports, the balance point follows too: how far it is
    from the first support towards the second.
    """
    if rigging.value < 0:
        raise InputError("rigging", "zero or more")
    whole = first.value + second.value - rigging.value
    _positive(whole, "first", "more than the rigging")
    figures = [
        Figure(
            of="machine",
            value=whole,
            tolerance=first.tolerance + second.tolerance + rigging.tolerance,
        )
    ]
    if apart_m is not None:
        _positive(apart_m, "apart", "a distance greater than zero")
        at_second = second.value - rigging.value / 2
        doubt = (first.tolerance + second.tolerance + rigging.tolerance) / whole * apart_m
        figures.append(Figure(of="balance", value=at_second / whole * apart_m, tolerance=doubt))
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
    part = drop / span
    doubt = rate * (
        height.tolerance
        + abs(1 - part) * first_height.tolerance
        + abs(part) * second_height.tolerance
    )
    return Result(
        figures=(Figure(of="tongue", value=load, tolerance=doubt),),
        lines=(
            Line(name="first known load", value=first_kg),
            Line(name="arch sank since by", value=drop, length=True),
            Line(name="second less first load", value=second_kg - first_kg, sign="×"),
            Line(name="arch sank under it by", value=span, sign="÷", length=True),
        ),
    )


def two_placements(first: Reading, second: Reading, *, moved_m: Reading, axles_m: float) -> Result:
    """A machine's mass from two tongue readings: change of tongue x coupler to axles / moved.

    The tape's doubt counts as much as the scale's.
    """
    _positive(axles_m, "axles", "a distance greater than zero")
    _positive(moved_m.value, "moved", "a distance greater than zero")
    change = abs(first.value - second.value)
    _positive(change, "second", "another reading than the first: the tongue has to change")
    mass = change * axles_m / moved_m.value
    doubt = (first.tolerance + second.tolerance) * axles_m / moved_m.value
    doubt += mass * moved_m.tolerance / moved_m.value
    return Result(
        figures=(Figure(of="machine", value=mass, tolerance=doubt),),
        lines=(
            Line(name="change of the tongue", value=change),
            Line(name="coupler to axles", value=axles_m, sign="×", length=True),
            Line(name="moved", value=moved_m.value, sign="÷", length=True),
        ),
    )
