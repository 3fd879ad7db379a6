"""Tongue, truck rear axle and hold along the way, as curves under one cursor.

The way runs from right to left, as the machine does in the picture: the foot of the ramp at
the right, the mark at the left.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any, Final

from measures.writing import UnitSystem, write_number
from mechanics.loading import Path, Station
from mechanics.loading.findings import REAR_SHARE
from mechanics.loading.path import Walk
from pictures.outfit import WIDTH
from pictures.svg import Attributes, Box, path
from wording.phrases import tongue_word

LEFT, RIGHT = 118.0, WIDTH - 14.0
ROOM: Final = 6.0
"""Free space above and below a curve in its box."""

GAP: Final = 12.0
MOST_HOLD: Final = 4.0
"""The hold is drawn up to so many times the push; above that nobody asks how much."""

WORDS_LONG: Final = 90.0
"""About how long a worst's figure is written."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Curve:
    """One figure along the way; ``base`` is the line below which something happens."""

    name: str
    unit: str
    top: float
    height: float
    line: str
    base_y: float
    below: str
    worst_x: float
    worst_y: float
    worst: str
    bad: bool

    @property
    def box(self) -> Attributes:
        """Its frame."""
        return Box(x=LEFT, y=self.top, width=RIGHT - LEFT, height=self.height).svg

    @property
    def base_line(self) -> str:
        """The line below which something happens."""
        return f"M{LEFT} {self.base_y:.1f}H{RIGHT}"

    @property
    def name_y(self) -> str:
        """Where its name stands."""
        return f"{self.top + self.height / 2:.1f}"

    @property
    def unit_y(self) -> str:
        """Where its unit stands."""
        return f"{self.top + self.height / 2 + 14:.1f}"

    @property
    def below_y(self) -> str:
        """Where it stands what happens below the line."""
        under = self.base_y + 13
        return f"{under if under < self.top + self.height - 2 else self.base_y - 5:.1f}"

    @property
    def anchor(self) -> str:
        """Which side of its point the worst's figure stands."""
        return "end" if self.worst_x > RIGHT - WORDS_LONG else "start"

    @property
    def worst_words_x(self) -> str:
        """Where it stands."""
        return f"{self.worst_x + (-9 if self.anchor == 'end' else 9):.1f}"

    @property
    def worst_words_y(self) -> str:
        """The same: under the curve where there is room, else well above it."""
        under = self.worst_y + 16
        return f"{under if under < self.top + self.height - 3 else self.worst_y - 12:.1f}"


@dataclass(frozen=True, kw_only=True, slots=True)
class Chart:
    """The curves, the words at both ends of the way, and what the cursor is played from."""

    curves: tuple[Curve, ...]
    height: float
    left_words: str
    right_words: str
    at_x: float
    strip: dict[str, Any]

    @property
    def view_box(self) -> Attributes:
        """What is shown."""
        return Attributes(f"0 0 {WIDTH} {self.height:.0f}")

    @property
    def words_y(self) -> str:
        """Where the words at both ends stand."""
        return f"{self.height - 6:.1f}"

    @property
    def cursor(self) -> str:
        """The cursor's line, about its own place."""
        return f"M0 0V{self.height - 20:.1f}"


def chart(
    walk: Walk,
    way: Path,
    stations: Sequence[Station],
    unit: UnitSystem,
    *,
    left_words: str,
    right_words: str,
) -> Chart:
    """The curves of one machine's way, through the stations that are played."""
    first, last = stations[0].lead_m, stations[-1].lead_m
    span = (first - last) or 1.0

    def x(station: Station) -> float:
        return LEFT + (station.lead_m - last) / span * (RIGHT - LEFT)

    word = tongue_word(walk.plan.hitch.type)
    rear_least = REAR_SHARE * walk.outfit.rear_kg
    curves: list[Curve] = []
    places: list[list[float]] = []
    top = 2.0

    def add(
        name: str,
        of: str,
        height: float,
        read: Callable[[Station], float],
        base: float,
        below: str,
        worst: Station,
        words: str,
        bad: bool,
    ) -> None:
        nonlocal top
        values = [read(s) for s in stations]
        low, high = min(*values, base), max(*values, base)
        scale = (height - 2 * ROOM) / ((high - low) or 1.0)
        start = top

        def y(value: float) -> float:
            return start + ROOM + (high - value) * scale

        curves.append(
            Curve(
                name=name,
                unit=of,
                top=start,
                height=height,
                line=_curve([x(s) for s in stations], [y(v) for v in values]),
                base_y=y(base),
                below=below,
                worst_x=x(worst),
                worst_y=y(read(worst)),
                worst=words,
                bad=bad,
            )
        )
        places.append([round(y(v), 1) for v in values])
        top += height + GAP

    lowest, light, held = way.lowest, way.lightest_rear, way.worst_hold
    mass = unit.mass_unit
    add(
        word,
        mass,
        64,
        lambda s: s.tongue_kg,
        0.0,
        "below this line it lifts",
        lowest,
        f"{write_number(lowest.tongue_kg / unit.kg)} {mass}",
        lowest.tongue_kg < 0,
    )
    add(
        "truck rear",
        mass,
        52,
        lambda s: s.carried.rear_kg,
        0.0,
        "at this line the wheels leave the ground",
        light,
        f"{write_number(light.carried.rear_kg / unit.kg)} {mass}",
        light.carried.rear_kg < rear_least,
    )
    if held is not None and held.hold is not None:
        add(
            "hold",
            "times the push",
            52,
            lambda s: min(MOST_HOLD if s.hold is None else s.hold, MOST_HOLD),
            1.0,
            "below this line it slides",
            held,
            f"{write_number(held.hold, 2)} times",
            held.hold < 1,
        )
    return Chart(
        curves=tuple(curves),
        height=top + 12,
        left_words=left_words,
        right_words=right_words,
        at_x=x(lowest),
        strip={"cx": [round(x(s), 1) for s in stations], "cy": places},
    )


def nearest(stations: Sequence[Station], wanted: Station) -> int:
    """The index of a station."""
    return next(n for n, s in enumerate(stations) if s is wanted)


def _curve(across: Sequence[float], down: Sequence[float]) -> str:
    return path(list(zip(across, down, strict=True)), closed=False)
