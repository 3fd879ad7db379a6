"""A trailer and a machine fitted to readings, by weighted least squares.

Unknown are the empty trailer's mass and tongue, the machine's mass and balance point, and
the lever from coupler to axles. Readings are tongues with the machine at known places,
whole trailers, axles, machines. What the book says enters as readings too, with the book's
own doubt, so that every unknown is held and the fit says how far the readings move it.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from enum import Enum
from typing import Final

import numpy as np
from numpy.typing import NDArray

from mechanics.errors import InputError
from mechanics.patience import go_on

TURNS: Final = 30
"""Turns of the search; the tongue is nearly linear in what is sought, so few are needed."""

SETTLED: Final = 1e-9
"""Part of an unknown's doubt by which a last turn may still move it."""

CONTRADICT: Final = 0.01
"""Readings contradict each other where chance alone spreads them so far this rarely."""

Vector = NDArray[np.float64]


class What(Enum):
    """What a reading is of."""

    TONGUE_EMPTY = "tongue_empty"
    TONGUE_LOADED = "tongue_loaded"
    TRAILER_EMPTY = "trailer_empty"
    TRAILER_LOADED = "trailer_loaded"
    AXLES_LOADED = "axles_loaded"
    MACHINE = "machine"
    MACHINE_FRONT = "machine_front"


UNKNOWNS: Final = ("trailer", "tongue", "machine", "ahead", "lever")
"""Order of the unknowns: kg, kg, kg, m ahead of the mark, m behind the ball."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Seen:
    """One reading. ``mark_m`` is the machine's mark behind the coupler where it was on, and
    ``direction`` -1 facing forward, +1 backward; ``doubt`` is one standard error in kg.

    ``beside_kg`` and ``beside_moment_kg_m`` are what else stood on the trailer and its
    moment about the ball. ``at_coupler`` says that a scale stood under the coupler, where a
    jack may have carried part of it, or the scale have stood under the jack. For the
    machine's own front axle ``base_m`` is its wheelbase and ``mark_m`` the mark ahead of its
    rear axle.
    """

    what: What
    kg: float
    doubt: float
    name: str = ""
    mark_m: float = 0.0
    direction: int = -1
    beside_kg: float = 0.0
    beside_moment_kg_m: float = 0.0
    base_m: float = 0.0
    at_coupler: bool = False

    def __post_init__(self) -> None:
        if not self.doubt > 0:
            raise InputError("reading.doubt", "more than nothing")
        if self.what is What.MACHINE_FRONT and not self.base_m > 0:
            raise InputError("reading.base", "the machine's wheelbase")


MEASURED: Final = frozenset(UNKNOWNS)

RELEASED: Final = 25.0
"""How much wider a figure that nobody measured is held when contradictions are looked for:
so wide that it accuses no reading. The doubt of a guess is itself a guess."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Belief:
    """What the book says of the unknowns, with one standard error each.

    ``measured`` names those that came off a scale or a tape; only they can contradict a
    reading.
    """

    trailer: tuple[float, float]
    tongue: tuple[float, float]
    machine: tuple[float, float]
    ahead: tuple[float, float]
    lever: tuple[float, float]
    measured: frozenset[str] = MEASURED

    @property
    def released(self) -> Belief:
        """The same with everything that nobody measured held so loosely that it says nothing."""
        if self.measured >= MEASURED:
            return self
        loose = {
            name: (getattr(self, name)[0], getattr(self, name)[1] * RELEASED)
            for name in UNKNOWNS
            if name not in self.measured
        }
        return replace(self, **loose)  # type: ignore[arg-type]

    def values(self) -> Vector:
        """The book's figures, in the order of :data:`UNKNOWNS`."""
        return np.array([getattr(self, name)[0] for name in UNKNOWNS], dtype=np.float64)

    def doubts(self) -> Vector:
        """Their standard errors."""
        return np.array([getattr(self, name)[1] for name in UNKNOWNS], dtype=np.float64)


@dataclass(frozen=True, kw_only=True, slots=True)
class Fitted:
    """What the readings and the book say together.

    ``residuals`` run along the readings, each over its own doubt once its part in the fit
    is counted out; ``chi_square`` and ``freedom`` are of the readings against the fit, and
    ``chance`` is how rarely honest readings would lie further apart. ``worst`` is the place
    of the reading that fits least, where they contradict. ``guess`` is the figure that
    nobody measured and that the readings pull at most, where they agree with each other and
    with what was measured but not with it.
    """

    estimates: tuple[float, ...]
    errors: tuple[float, ...]
    predicted: tuple[float, ...]
    residuals: tuple[float, ...]
    chi_square: float
    freedom: int
    chance: float
    guess: str | None = None

    @property
    def contradict(self) -> bool:
        """Whether the readings cannot all be right."""
        return self.chance < CONTRADICT

    @property
    def worst(self) -> int | None:
        """The reading that fits least, where they contradict each other."""
        if not self.contradict:
            return None
        return max(range(len(self.residuals)), key=lambda k: abs(self.residuals[k]))

    def estimate(self, name: str) -> tuple[float, float]:
        """An unknown's estimate and standard error."""
        place = UNKNOWNS.index(name)
        return self.estimates[place], self.errors[place]


def predict(unknown: Vector, seen: Seen) -> tuple[float, Vector]:
    """What a reading should be, and how it moves with each unknown."""
    trailer, tongue, machine, ahead, lever = (float(v) for v in unknown)
    slope = np.zeros(len(UNKNOWNS), dtype=np.float64)
    if seen.what is What.TONGUE_EMPTY:
        slope[1] = 1.0
        return tongue, slope
    if seen.what is What.TRAILER_EMPTY:
        slope[0] = 1.0
        return trailer, slope
    if seen.what is What.MACHINE:
        slope[2] = 1.0
        return machine, slope
    if seen.what is What.MACHINE_FRONT:
        slope[2] = (seen.mark_m + ahead) / seen.base_m
        slope[3] = machine / seen.base_m
        return machine * (seen.mark_m + ahead) / seen.base_m, slope
    if seen.what is What.TRAILER_LOADED:
        slope[0] = slope[2] = 1.0
        return trailer + machine + seen.beside_kg, slope
    at = seen.mark_m + seen.direction * ahead
    moment = machine * at + seen.beside_moment_kg_m
    loaded = tongue + machine + seen.beside_kg - moment / lever
    slope[1] = 1.0
    slope[2] = 1 - at / lever
    slope[3] = -machine * seen.direction / lever
    slope[4] = moment / lever**2
    if seen.what is What.TONGUE_LOADED:
        return loaded, slope
    # what the trailer's axles carry: all of it less the tongue
    slope = -slope
    slope[0] += 1.0
    slope[2] += 1.0
    return trailer + machine + seen.beside_kg - loaded, slope


def fit(readings: Sequence[Seen], belief: Belief) -> Fitted:
    """The most likely unknowns under readings and book, each weighed by its own doubt.

    Readings contradict each other, or a measured figure of the book, or nothing: against a
    guess they only say that it is worth measuring.

    Raises:
        InputError: nothing was read, or the book holds no doubt at all.
    """
    found = _fit(readings, belief)
    if not found.contradict or belief.measured >= MEASURED:
        return found
    apart = _fit(readings, belief.released)
    pulls = {
        name: abs(getattr(belief, name)[0] - found.estimate(name)[0]) / getattr(belief, name)[1]
        for name in UNKNOWNS
        if name not in belief.measured
    }
    return replace(
        found,
        chi_square=apart.chi_square,
        chance=apart.chance,
        residuals=apart.residuals,
        guess=None if apart.contradict else max(pulls, key=lambda name: pulls[name]),
    )


def _fit(readings: Sequence[Seen], belief: Belief) -> Fitted:
    if not readings:
        raise InputError("readings", "at least one reading")
    start, doubts = belief.values(), belief.doubts()
    if not np.all(doubts > 0):
        raise InputError("belief", "some doubt in every figure of the book")
    unknown = start.copy()
    weights = np.array([1 / s.doubt for s in readings], dtype=np.float64)
    read = np.array([s.kg for s in readings], dtype=np.float64)
    for _ in range(TURNS):
        go_on()
        said = [predict(unknown, s) for s in readings]
        rows = np.vstack([[slope for _, slope in said] * weights[:, None], np.diag(1 / doubts)])
        off = np.concatenate(
            [(read - np.array([value for value, _ in said])) * weights, (start - unknown) / doubts]
        )
        step, *_ = np.linalg.lstsq(rows, off, rcond=None)
        unknown = unknown + step
        # no lever shorter than a quarter of the book's: the search stays where trailers are
        unknown[4] = max(unknown[4], start[4] / 4)
        if np.all(np.abs(step) <= SETTLED * doubts):
            break
    said = [predict(unknown, s) for s in readings]
    slopes = np.array([slope for _, slope in said])
    predicted = np.array([value for value, _ in said])
    rows = np.vstack([slopes * weights[:, None], np.diag(1 / doubts)])
    covariance = np.linalg.inv(rows.T @ rows)
    raw = (read - predicted) * weights
    # a reading draws the fit towards itself; its residual is judged without that part
    leverage = np.einsum(
        "ij,jk,ik->i", slopes * weights[:, None], covariance, slopes * weights[:, None]
    )
    apart = raw / np.sqrt(np.maximum(1 - leverage, 1e-6))
    held = (start - unknown) / doubts
    chi_square = float(raw @ raw + held @ held)
    freedom = len(readings)
    return Fitted(
        estimates=tuple(float(v) for v in unknown),
        errors=tuple(float(v) for v in np.sqrt(np.diag(covariance))),
        predicted=tuple(float(v) for v in predicted),
        residuals=tuple(float(v) for v in apart),
        chi_square=chi_square,
        freedom=freedom,
        chance=chance_of_more(chi_square, freedom),
    )


def chance_of_more(chi_square: float, freedom: int) -> float:
    """How often chance alone gives more than this chi-square (upper tail, exact series).

    By the recurrence over the degrees of freedom (Abramowitz and Stegun 26.4, from memory).
    """
    half = chi_square / 2
    if freedom % 2:
        total = math.erfc(math.sqrt(half))
        term = math.sqrt(half / math.pi) * 2 * math.exp(-half)
        for k in range(3, freedom + 1, 2):
            total += term
            term *= chi_square / k
        return min(total, 1.0)
    total, term = 0.0, math.exp(-half)
    for k in range(1, freedom // 2 + 1):
        total += term
        term *= half / k
    return min(total, 1.0)


class Slip(Enum):
    """A likely mistake behind a reading that does not fit."""

    KG_FOR_LB = "kg_for_lb"
    LB_FOR_KG = "lb_for_kg"
    TAPE_EDGE = "tape_edge"
    JACK = "jack"
    UNDER_JACK = "under_jack"
    PEOPLE = "people"


@dataclass(frozen=True, kw_only=True, slots=True)
class Suspect:
    """A reading with the slip that would explain it, and how well the rest then agrees.

    ``all_of_it`` says that nothing is left to explain; else there may be a second slip.
    """

    place: int
    slip: Slip
    chance: float
    size: float
    all_of_it: bool = True


POUND: Final = 0.45359237
MOST_TAPE_M: Final = 0.9
"""A tape hooked on the wrong edge is off by a foot or two: bumper rail, headboard, deck plate."""

JACK_BEHIND_M: Final = (0.12, 1.0)
"""How far behind the ball trailer jacks stand. Common practice, no source."""

PEOPLE_KG: Final = (60.0, 240.0)
"""One to three people more or less aboard."""

WORTH_NAMING: Final = 0.05
"""Chance from which a slip explains the readings well enough to be named."""

MOST_OF_IT: Final = 0.5
"""Part of the chi-square that a slip has to take away where none explains it all."""

LOOKED_AT: Final = 16
"""Readings, those that fit least, on which slips are tried."""

FREE_SIZE: Final = 8.0
"""Chi-square that a slip of free size pays beside one whose size is given."""


def suspects(readings: Sequence[Seen], belief: Belief) -> tuple[Suspect, ...]:
    """Slips that would make contradicting readings agree, the likeliest first.

    Each is tried on each reading by itself; one that needs a size of its own (a tape off by
    so much, people of such a mass) pays for it. Where no single slip explains everything,
    as when there are two, those that explain most of it are named. Empty where nothing
    contradicts.
    """
    belief = replace(belief.released, measured=MEASURED)
    before = fit(readings, belief)
    if not before.contradict:
        return ()
    found, partly = [], []
    # what is far off is where a slip is; of hundreds of readings not each is tried
    far = sorted(range(len(readings)), key=lambda k: -abs(before.residuals[k]))[:LOOKED_AT]
    for place in sorted(far):
        seen = readings[place]
        for slip, changed, size in _slips(readings, belief, place, seen):
            others = [*readings[:place], changed, *readings[place + 1 :]]
            after = fit(others, belief)
            price = _price(slip, seen)
            chance = after.chance * (1.0 if size is None else price)
            enough = chance >= WORTH_NAMING * price
            suspect = Suspect(
                place=place, slip=slip, chance=chance, size=size or 0.0, all_of_it=enough
            )
            if enough:
                found.append(suspect)
            elif after.chi_square <= MOST_OF_IT * before.chi_square:
                score = after.chi_square + (FREE_SIZE / price if price < 1 else 0.0)
                partly.append((score, suspect))
    if found:
        return tuple(sorted(found, key=lambda s: -s.chance))
    return tuple(suspect for _, suspect in sorted(partly, key=lambda one: one[0]))


def _price(slip: Slip, seen: Seen) -> float:
    """What a slip of free size pays: it can explain nearly anything.

    With a machine on, a tongue that is off is more often a tape at the wrong edge; but where
    a scale stood under the coupler, what goes wrong there comes first.
    """
    if slip in (Slip.JACK, Slip.UNDER_JACK):
        loaded = seen.what is What.TONGUE_LOADED
        return 0.15 if loaded and not seen.at_coupler else 0.3
    if slip is Slip.TAPE_EDGE:
        return 0.15 if seen.at_coupler else 0.3
    return 0.3 if slip is Slip.PEOPLE else 1.0


def _slips(
    readings: Sequence[Seen], belief: Belief, place: int, seen: Seen
) -> list[tuple[Slip, Seen, float | None]]:
    """What the reading would have been without each slip it may hold."""
    found: list[tuple[Slip, Seen, float | None]] = [
        (Slip.KG_FOR_LB, replace(seen, kg=seen.kg / POUND), None),
        (Slip.LB_FOR_KG, replace(seen, kg=seen.kg * POUND), None),
    ]
    rest = [*readings[:place], *readings[place + 1 :]]
    if not rest:
        return found
    expected, slope = predict(np.array(fit(rest, belief).estimates, dtype=np.float64), seen)
    missing = expected - seen.kg
    if seen.what in (What.TONGUE_LOADED, What.AXLES_LOADED) and slope[3]:
        # the mark moves the tongue as the balance point does, with the machine's facing; the
        # place is moved until it gives what was read
        shift = -missing / (slope[3] * seen.direction)
        if abs(shift) <= MOST_TAPE_M:
            found.append((Slip.TAPE_EDGE, replace(seen, mark_m=seen.mark_m + shift), shift))
    if seen.what in (What.TONGUE_EMPTY, What.TONGUE_LOADED):
        if missing > 0:
            found.append((Slip.JACK, replace(seen, kg=expected), missing))
        elif expected > 0:
            # under the jack it read T L / (L - jack)
            behind = belief.lever[0] * (1 - expected / seen.kg)
            if JACK_BEHIND_M[0] <= behind <= JACK_BEHIND_M[1]:
                found.append((Slip.UNDER_JACK, replace(seen, kg=expected), behind))
    if (
        seen.what in (What.TRAILER_EMPTY, What.TRAILER_LOADED, What.MACHINE)
        and PEOPLE_KG[0] <= abs(missing) <= PEOPLE_KG[1]
    ):
        found.append((Slip.PEOPLE, replace(seen, kg=expected), missing))
    return found
