"""The arithmetic of every way people weigh, with how far the result may be wrong.

Each function takes readings and returns a :class:`Result`, or raises :class:`InputError`
with one sentence where the readings cannot be. Doubts of readings add up at their worst,
as everywhere that a window promises to be sure.
"""

from __future__ import annotations

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
) -> Result:
    """Tongue and trailer from pads hitched and unhitched.

    The tongue is what the truck's two axles gained; the trailer is its pad and that tongue.
    """
    tongue = steer.value + drive.value - steer_alone.value - drive_alone.value
    doubt = steer.tolerance + drive.tolerance + steer_alone.tolerance + drive_alone.tolerance
    _positive(
        tongue,
        "drive",
        "more on the truck's axles hitched than unhitched: the tongue would pull up",
    )
    _positive(trailer_pad.value, "trailer_pad", "a reading of the trailer's axles")
    return Result(
        figures=(
            Figure(of="tongue", value=tongue, tolerance=doubt),
            Figure(
                of="trailer",
                value=trailer_pad.value + tongue,
                tolerance=trailer_pad.tolerance + doubt,
            ),
            Figure(of="trailer_axles", value=trailer_pad.value, tolerance=trailer_pad.tolerance),
        ),
        lines=(
            Line(name="steer axle hitched", value=steer.value),
            Line(name="drive axle hitched", value=drive.value),
            Line(name="steer axle unhitched", value=steer_alone.value, sign="−"),
            Line(name="drive axle unhitched", value=drive_alone.value, sign="−"),
        ),
    )


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


def wheel_by_wheel(wheels: Sequence[Reading]) -> Result:
    """A trailer or machine from its wheels one after the other; the sum."""
    if len(wheels) < 2:
        raise InputError("wheel_2", "at least two wheels")
    for number, wheel in enumerate(wheels, 1):
        _positive(wheel.value, f"wheel_{number}", "a reading greater than zero")
    return Result(
        figures=(
            Figure(
                of="whole",
                value=sum(w.value for w in wheels),
                tolerance=sum(w.tolerance for w in wheels),
            ),
        ),
        lines=tuple(
            Line(name=f"wheel {number}", value=wheel.value)
            for number, wheel in enumerate(wheels, 1)
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


def squat(drop: Reading, *, known_kg: float, known_drop_m: float) -> Result:
    """A tongue from how far the rear arch sank, against a known load's drop at the same place."""
    _positive(known_kg, "known", "a known load greater than zero")
    _positive(known_drop_m, "known_drop", "a drop greater than zero under the known load")
    _positive(drop.value, "drop", "a drop greater than zero")
    rate = known_kg / known_drop_m
    return Result(
        figures=(Figure(of="tongue", value=drop.value * rate, tolerance=drop.tolerance * rate),),
        lines=(
            Line(name="drop of the arch", value=drop.value, length=True),
            Line(name="known load", value=known_kg, sign="×"),
            Line(name="its drop", value=known_drop_m, sign="÷", length=True),
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
