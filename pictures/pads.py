"""Load pads of the planner's drawing: what each axle and the hitch carries, kept apart."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from measures.writing import UnitSystem, write_number
from mechanics.codes import Family
from mechanics.report import Report
from pictures.outfit import GROUND_Y, WIDTH, Frame
from pictures.svg import Attributes, Box
from wording.phrases import tongue_word

PAD_TOP, PAD_HEIGHT, PAD_WIDTH = 226, 56, 50
PAST_OUT = 3

TONGUE_RATINGS = (Family.TRUCK_TONGUE, Family.PART_TONGUE)
"""Limits of what rests on the hitch."""


def spread(centres: Sequence[float], gap: float, low: float, high: float) -> list[float]:
    """Centres moved as little as possible so that neighbours keep ``gap``, in their order.

    Clusters that would overlap are set side by side about their common middle and pushed
    inside ``low`` and ``high``.
    """
    clusters: list[tuple[float, int]] = []  # middle, members
    for centre in centres:
        middle, count = centre, 1
        while True:
            # an edge may push a cluster onto the one before it, so this comes first
            half = gap * (count - 1) / 2
            middle = min(max(middle, low + half), high - half)
            if not clusters:
                break
            before, members = clusters[-1]
            if middle - before >= gap * (members + count) / 2:
                break
            # each side wants its own middle; the common one is the mean of what they want
            clusters.pop()
            middle = (
                members * (before + gap * count / 2) + count * (middle - gap * members / 2)
            ) / (members + count)
            count += members
        clusters.append((middle, count))
    placed: list[float] = []
    for middle, count in clusters:
        placed += [middle + gap * (k - (count - 1) / 2) for k in range(count)]
    return placed


@dataclass(frozen=True, kw_only=True, slots=True)
class Pad:
    """A load as on a scale's pad: the dashed outline is the rating, the fill the load."""

    x: float
    wheel_x: float
    fill_y: float
    fill_height: float
    number: str
    limit: str
    name: str
    code: str
    status: str
    over_height: float

    @property
    def lead(self) -> str:
        """The line from the wheel to the pad."""
        return f"M{self.wheel_x:.1f} {GROUND_Y}L{self.x + PAD_WIDTH / 2:.1f} {PAD_TOP}"

    @property
    def box(self) -> Attributes:
        """The rating's outline."""
        return Box(x=self.x, y=PAD_TOP, width=PAD_WIDTH, height=PAD_HEIGHT).svg

    @property
    def fill(self) -> Attributes:
        """The load within it."""
        return Box(x=self.x, y=self.fill_y, width=PAD_WIDTH, height=self.fill_height).svg

    @property
    def past(self) -> Attributes | None:
        """What is past the rating, standing out on both sides; ``None`` where nothing is."""
        if not self.over_height:
            return None
        wide = PAD_WIDTH + 2 * PAST_OUT
        top = PAD_TOP - self.over_height
        return Box(x=self.x - PAST_OUT, y=top, width=wide, height=self.over_height).svg

    @property
    def middle(self) -> str:
        """Where its texts stand across."""
        return f"{self.x + PAD_WIDTH / 2:.1f}"


def load_pads(frame: Frame, report: Report, unit: UnitSystem) -> list[Pad]:
    """A pad for each axle and the hitch, in their order along the road, none touching another."""
    truck, trailer = report.plan.truck, report.plan.trailer
    loads = report.loads
    hitch = report.plan.hitch
    found = {c.code: c.status for c in report.checks}
    statuses = {code: status.value for code, status in found.items()}

    def truck_axle(end: str) -> str:
        both = (found[Family.TRUCK_AXLE.of(end)], found[Family.TRUCK_LIGHT.of(end)])
        return max(both, key=lambda s: s.severity).value

    tongue_limits = [
        limit
        for limit in (*(hitch.tongue_limit_kg(p) for p in hitch.parts), truck.max_tongue_mass_kg)
        if limit is not None
    ]
    tongue_status = max(
        (c.status for c in report.checks if c.about.family in TONGUE_RATINGS),
        key=lambda s: s.severity,
        default=None,
    )
    offset = truck.hitch_offset_m
    entries = [
        (
            -offset - truck.wheelbase_m,
            loads.truck.front_kg,
            truck.front_gawr_kg,
            "front axle",
            "figure.front",
            truck_axle("front"),
        ),
        (
            -offset,
            loads.truck.rear_kg,
            truck.rear_gawr_kg,
            "rear axle",
            "figure.rear",
            truck_axle("rear"),
        ),
        (
            0.0,
            loads.trailer.tongue_kg,
            min(tongue_limits) if tongue_limits else None,
            tongue_word(hitch.type),
            "figure.tongue",
            tongue_status.value if tongue_status else "ok",
        ),
    ]
    for index, (axle, load) in enumerate(zip(trailer.axles, loads.trailer.axles_kg, strict=True)):
        entries.append(
            (
                axle.position_m,
                load,
                axle.gawr_kg,
                f"axle {index + 1}",
                f"figure.axle_{index + 1}",
                statuses[Family.TRAILER_AXLE.of(index + 1)],
            )
        )
    entries.sort(key=lambda e: e[0])
    wheel_xs = [frame.x(e[0]) for e in entries]
    centres = spread(wheel_xs, PAD_WIDTH + 12, 34, WIDTH - 34)
    pads = []
    for (_, load, limit, name, code, status), centre, wheel_x in zip(
        entries, centres, wheel_xs, strict=True
    ):
        part = load / limit if limit else 0.0
        filled = min(max(part, 0.0), 1.0) * PAD_HEIGHT
        pads.append(
            Pad(
                x=centre - PAD_WIDTH / 2,
                wheel_x=wheel_x,
                fill_y=PAD_TOP + PAD_HEIGHT - filled,
                fill_height=filled,
                number=write_number(load / unit.kg),
                limit=f"of {write_number(limit / unit.kg)}" if limit is not None else "no rating",
                name=name,
                code=code,
                status=status,
                over_height=min(max(part - 1.0, 0.0), 0.15) * PAD_HEIGHT,
            )
        )
    return pads
