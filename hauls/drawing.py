"""Geometry of the planner's drawing, computed here and only placed by the templates.

All of it is in the drawing's own units (the viewBox); the side view is true to scale.
What the plan does not say (the truck's outline, a machine's shape) is drawn in usual
proportions and takes no part in any figure.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Any

from book.outlines import machine_outline, pickup_outline
from hauls.tapes import Band, EndLabel, Label, Tape, bands, close_up
from measures.writing import UnitSystem, write_length, write_number, write_percent
from mechanics.hitch import HitchType
from mechanics.item import Item
from mechanics.report import Report
from mechanics.trailer import Deck, Trailer
from mechanics.truck import Truck
from mechanics.units import M_PER_IN
from mechanics.windows import Window

WIDTH = 868
GROUND_Y = 214
SIDE = 24
PAD_TOP, PAD_HEIGHT, PAD_WIDTH = 226, 56, 50
TAPE_Y, TAPE_HEIGHT = 352, 28
ABOVE_LEFT, ABOVE_Y, ABOVE_MAX = 450, 470, 112
BEHIND_BUMPER = (HitchType.BALL, HitchType.PINTLE)
"""Hitches that stand behind the truck, not over its bed."""


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


def path(points: Sequence[tuple[float, float]], *, closed: bool = True) -> str:
    """SVG path data through points."""
    data = "M" + "L".join(f"{x:.1f} {y:.1f}" for x, y in points)
    return data + "Z" if closed else data


@dataclass(frozen=True, kw_only=True, slots=True)
class Wheel:
    """A wheel in side view."""

    x: float
    y: float
    radius: float

    @property
    def hub(self) -> float:
        """Radius of its rim."""
        return self.radius * 0.48


@dataclass(frozen=True, kw_only=True, slots=True)
class Shape:
    """A filled outline and the style class it is drawn with."""

    data: str
    style: str


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
    status: str
    over_height: float


@dataclass(frozen=True, kw_only=True)
class Outfit:
    """Truck and trailer in side view, and the tape's ticks: the same at every place."""

    truck: tuple[Shape, ...]
    truck_wheels: tuple[Wheel, ...]
    trailer: tuple[Shape, ...]
    trailer_wheels: tuple[Wheel, ...]
    ticks: str
    tape_labels: tuple[Label, ...]
    fenders: tuple[tuple[float, float, float, float], ...]
    ball_x: float
    ball_y: float


@dataclass(frozen=True, kw_only=True, slots=True)
class DrawnItem:
    """One item in side view and from above."""

    index: int
    id: str
    name: str
    mass: str
    tolerance: str
    shapes: list[Shape]
    wheels: list[Wheel]
    balance_x: float
    balance_y: float
    label_x: float
    label_y: float
    mark_x: float
    left_x: float
    right_x: float
    top_y: float
    above_x: float
    above_y: float
    above_width: float
    above_tyres: list[tuple[float, float, float, float]]
    above_height: float
    above_balance_x: float
    above_balance_y: float
    selected: bool


@dataclass(frozen=True, kw_only=True, slots=True)
class Drawing:
    """Everything the planner's picture needs."""

    scale: float
    outfit: Outfit
    ball_x: float
    ball_y: float
    deck_y: float
    pads: list[Pad]
    items: list[DrawnItem]
    tape: Tape
    close: Tape
    close_ends: list[EndLabel]
    close_mark: str
    close_sure: str
    above_scale: float
    above_deck: Band
    above_top: float
    above_height: float
    above_tongue: str
    above_fenders: tuple[tuple[float, float, float, float], ...]
    above_sides: str


class Frame:
    """From metres of the outfit to drawing units. ``x`` runs rearward from the coupler.

    ``tallest`` is the height of the tallest item, in metres.
    """

    def __init__(self, truck: Truck, trailer: Trailer, hitch: HitchType, tallest: float) -> None:
        deck = trailer.deck
        nose = truck.wheelbase_m + truck.hitch_offset_m + 1.0
        tail = max(deck.start_m + deck.length_m, *(a.position_m + 0.45 for a in trailer.axles))
        tail += min(deck.rear_overhang_m, 1.5) + 0.3
        self.front = min(-nose, deck.start_m - deck.front_overhang_m)
        self.deck_height = deck.height_m or (0.95 if hitch is not HitchType.BALL else 0.65)
        top = max(2.1, self.deck_height + tallest) + 0.25
        self.scale = min((WIDTH - 2 * SIDE) / (tail - self.front), (GROUND_Y - 24) / top)
        span = (tail - self.front) * self.scale
        self.left = SIDE + (WIDTH - 2 * SIDE - span) / 2

    def x(self, metres: float) -> float:
        """Across, for a place behind the coupler."""
        return self.left + (metres - self.front) * self.scale

    def y(self, metres: float) -> float:
        """Down, for a height above the ground."""
        return GROUND_Y - metres * self.scale


class AboveFrame:
    """The view from above: one scale both ways, in the room right of the close-up."""

    def __init__(self, trailer: Trailer) -> None:
        deck = trailer.deck
        self.front = min(deck.start_m - deck.front_overhang_m, 0.0)
        length = deck.start_m + deck.length_m + deck.rear_overhang_m - self.front
        room = WIDTH - SIDE - ABOVE_LEFT
        self.scale = min(room / length, ABOVE_MAX / (_deck_width(trailer) + 0.3))
        self.left = WIDTH - SIDE - length * self.scale

    def x(self, metres: float) -> float:
        """Across, for a place behind the coupler."""
        return self.left + (metres - self.front) * self.scale


def _height(item: Item) -> float:
    return item.height_m or min(2.4, 0.8 + 0.4 * (item.front_m + item.rear_m))


def draw(
    report: Report,
    *,
    extras: Sequence[dict[str, Any]],
    marks: Sequence[str],
    names: Sequence[str],
    selected: int | None,
    end_texts: Sequence[tuple[str, str]],
    unit: UnitSystem,
    length_per_m: float,
) -> Drawing:
    """The picture of a report.

    ``extras``, ``marks`` and ``names`` run along the plan's items: what a haul knows of
    how each is drawn, the word for its mark, its name. ``end_texts`` holds what makes
    the two ends of each of the selected item's intervals. ``length_per_m`` turns metres
    into the plan's own unit, for wheelbases kept in it.
    """
    truck, trailer, hitch = report.plan.truck, report.plan.trailer, report.plan.hitch.type
    deck = trailer.deck
    tallest = max((_height(i) for i in report.plan.items), default=1.5)
    frame, outfit = draw_outfit(truck, trailer, hitch, tallest, unit)
    above = AboveFrame(trailer)
    items = [
        _item(
            frame, report, index, extras[index], names[index], selected, above, unit, length_per_m
        )
        for index in range(len(report.plan.items))
    ]
    items = _label_rows(items)
    window = report.windows[selected] if selected is not None else None
    mark = None if selected is None else report.plan.items[selected].placement.reference_m
    close, ends, sure_label = close_up(window, mark, end_texts, deck.length_m, unit)
    half = _deck_width(trailer) / 2 * above.scale
    pads = _pads(frame, report, unit)
    return Drawing(
        scale=frame.scale,
        outfit=outfit,
        ball_x=outfit.ball_x,
        ball_y=outfit.ball_y,
        deck_y=frame.y(frame.deck_height),
        pads=pads,
        items=items,
        tape=_main_tape(frame, deck, outfit, window, mark, pads),
        close=close,
        close_ends=ends,
        close_mark=""
        if mark is None or selected is None
        else f"{marks[selected]} {write_length(mark, unit)}",
        close_sure=sure_label,
        above_scale=above.scale,
        above_deck=Band(x=above.x(deck.start_m), width=deck.length_m * above.scale),
        above_top=ABOVE_Y - half,
        above_height=2 * half,
        above_tongue=path(
            [
                (above.x(0), ABOVE_Y),
                (above.x(deck.start_m), ABOVE_Y - half * 0.7),
                (above.x(deck.start_m), ABOVE_Y + half * 0.7),
            ]
        )
        if deck.start_m > 0
        else "",
        above_fenders=outfit.fenders,
        above_sides="left side {}, right side {}".format(
            *(
                f"{write_number(kg / unit.kg)} {unit.mass_unit}"
                for kg in (report.loads.trailer.left_kg, report.loads.trailer.right_kg)
            )
        ),
    )


@lru_cache(maxsize=128)
def draw_outfit(
    truck: Truck, trailer: Trailer, hitch: HitchType, tallest: float, unit: UnitSystem
) -> tuple[Frame, Outfit]:
    """What stays the same wherever the items stand, drawn once and kept."""
    frame, above = Frame(truck, trailer, hitch, tallest), AboveFrame(trailer)
    shapes, wheels = _truck(frame, truck)
    ticks, labels = _ticks(frame, trailer.deck, unit)
    half = _deck_width(trailer) / 2 * above.scale
    return frame, Outfit(
        truck=tuple(shapes),
        truck_wheels=tuple(wheels),
        trailer=tuple(_trailer(frame, trailer, hitch)),
        trailer_wheels=tuple(
            Wheel(x=frame.x(a.position_m), y=frame.y(0.35), radius=0.35 * frame.scale)
            for a in trailer.axles
        ),
        ticks=ticks,
        tape_labels=tuple(labels),
        fenders=tuple(_fenders(above, trailer, half)),
        ball_x=frame.x(0),
        ball_y=frame.y(0.5 if hitch in BEHIND_BUMPER else 1.12),
    )


def _deck_width(trailer: Trailer) -> float:
    return trailer.deck.width_m or trailer.track_width_m


def _truck(frame: Frame, truck: Truck) -> tuple[list[Shape], list[Wheel]]:
    """A pickup about its wheelbase; the bumper stands just ahead of a ball behind it."""
    wheelbase, offset = truck.wheelbase_m, truck.hitch_offset_m
    rear = -(offset - 0.13) if offset > 0.5 else -1.15

    def at(points: Sequence[tuple[float, float]]) -> list[tuple[float, float]]:
        return [(frame.x(-offset - ahead), frame.y(up)) for ahead, up in points]

    shapes = [
        Shape(data=path(at(points)), style=style)
        for style, points in pickup_outline(wheelbase, rear)
    ]
    if offset > 0.5:
        bar = at([(rear, 0.47), (-offset, 0.47)])
        shapes.append(Shape(data=path(bar, closed=False), style="post"))
    wheels = [
        Wheel(x=frame.x(-offset - ahead), y=frame.y(0.42), radius=0.42 * frame.scale)
        for ahead in (wheelbase, 0.0)
    ]
    return shapes, wheels


def _trailer(frame: Frame, trailer: Trailer, hitch: HitchType) -> list[Shape]:
    deck = trailer.deck
    top, start, end = frame.deck_height, deck.start_m, deck.start_m + deck.length_m
    x, y = frame.x, frame.y
    shapes = []
    if hitch in BEHIND_BUMPER:
        shapes.append(
            Shape(
                data=path(
                    [
                        (x(0), y(0.5)),
                        (x(start), y(top)),
                        (x(start), y(top - 0.17)),
                        (x(0.15), y(0.42)),
                    ]
                ),
                style="frame",
            )
        )
        stand = min(0.75, start * 0.6)
        shapes.append(
            Shape(data=path([(x(stand), y(0.43)), (x(stand), y(0.14))], closed=False), style="post")
        )
    else:
        neck = max(1.62, top + 0.2)
        foot = max(start, 0.55)
        shapes.append(
            Shape(
                data=path(
                    [
                        (x(-0.09), y(1.12)),
                        (x(-0.09), y(neck)),
                        (x(foot + 0.2), y(neck)),
                        (x(foot + 0.2), y(top - 0.15)),
                        (x(foot), y(top - 0.15)),
                        (x(foot), y(neck - 0.2)),
                        (x(0.09), y(neck - 0.2)),
                        (x(0.09), y(1.12)),
                    ]
                ),
                style="frame",
            )
        )
    shapes.append(
        Shape(
            data=path(
                [
                    (x(start), y(top)),
                    (x(end), y(top)),
                    (x(end), y(top - 0.17)),
                    (x(start), y(top - 0.17)),
                ]
            ),
            style="frame",
        )
    )
    if trailer.kind == "dump":
        shapes.append(
            Shape(
                data=path(
                    [
                        (x(start), y(top)),
                        (x(start), y(top + 0.55)),
                        (x(end), y(top + 0.55)),
                        (x(end), y(top)),
                    ]
                ),
                style="sideboard",
            )
        )
    else:
        shapes.append(
            Shape(
                data=path([(x(start), y(top)), (x(start), y(top + 0.4))], closed=False),
                style="post",
            )
        )
    first, last = trailer.axles[0].position_m, trailer.axles[-1].position_m
    if first > last:
        first, last = last, first
    if top < 0.85:
        shapes.append(
            Shape(
                data=path(
                    [
                        (x(first - 0.5), y(top)),
                        (x(first - 0.42), y(top + 0.18)),
                        (x(last + 0.42), y(top + 0.18)),
                        (x(last + 0.5), y(top)),
                    ]
                ),
                style="fender",
            )
        )
    return shapes


def _fenders(
    above: AboveFrame, trailer: Trailer, half: float
) -> list[tuple[float, float, float, float]]:
    axles = [a.position_m for a in trailer.axles]
    x, width = above.x(min(axles) - 0.5), (max(axles) - min(axles) + 1.0) * above.scale
    return [(x, ABOVE_Y - half - 7, width, 7), (x, ABOVE_Y + half, width, 7)]


def _item(
    frame: Frame,
    report: Report,
    index: int,
    extra: dict[str, Any],
    name: str,
    selected: int | None,
    above: AboveFrame,
    unit: UnitSystem,
    length_per_m: float,
) -> DrawnItem:
    item = report.plan.items[index]
    start = report.plan.trailer.deck.start_m
    mark = start + item.placement.reference_m
    height = _height(item)
    wheelbase = extra.get("wheelbase")
    wheelbase_m = float(wheelbase) / length_per_m if isinstance(wheelbase, (int, float)) else None
    outline = machine_outline(
        str(extra.get("shape", "tractor")), item.front_m, item.rear_m, height, wheelbase_m
    )

    def at(points: Sequence[tuple[float, float]]) -> list[tuple[float, float]]:
        return [
            (frame.x(mark + item.direction * ahead), frame.y(frame.deck_height + up))
            for ahead, up in points
        ]

    width = item.width_m or 1.5
    balance_up = item.cg.height_m or height * 0.38
    balance = start + item.balance_tape_m
    foremost, rearmost = frame.x(start + item.foremost_m), frame.x(start + item.rearmost_m)
    top = frame.y(frame.deck_height + height)
    # the truck heads to the left of the picture, so its driver's left hand is downwards
    across = ABOVE_Y + item.placement.left_m * above.scale
    tolerance = (
        f" ± {write_number(item.mass_tolerance_kg / unit.kg)}" if item.mass_tolerance_kg else ""
    )
    return DrawnItem(
        index=index,
        id=item.id,
        name=name,
        mass=f"{write_number(item.mass_kg / unit.kg)} {unit.mass_unit}",
        tolerance=tolerance,
        shapes=[Shape(data=path(at(points)), style=style) for style, points in outline.shapes],
        wheels=[
            Wheel(
                x=frame.x(mark + item.direction * ahead),
                y=frame.y(frame.deck_height + radius),
                radius=radius * frame.scale,
            )
            for ahead, radius in outline.wheels
        ],
        balance_x=frame.x(balance),
        balance_y=frame.y(frame.deck_height + balance_up),
        label_x=(foremost + rearmost) / 2,
        label_y=top - 8,
        mark_x=frame.x(mark),
        left_x=foremost,
        right_x=rearmost,
        top_y=top,
        above_x=above.x(start + item.foremost_m),
        above_y=across - width / 2 * above.scale,
        above_tyres=[
            (
                above.x(mark + item.direction * ahead) - radius * above.scale,
                across + side * width / 2 * above.scale - (0 if side < 0 else 0.3 * above.scale),
                2 * radius * above.scale,
                0.3 * above.scale,
            )
            for ahead, radius in outline.wheels
            for side in (-1, 1)
        ],
        above_width=(item.front_m + item.rear_m) * above.scale,
        above_height=width * above.scale,
        above_balance_x=above.x(balance),
        above_balance_y=ABOVE_Y + item.balance_left_m * above.scale,
        selected=index == selected,
    )


def _label_rows(items: list[DrawnItem]) -> list[DrawnItem]:
    """Labels over neighbouring items kept apart, each still inside the picture."""
    if not items:
        return items
    order = sorted(range(len(items)), key=lambda k: items[k].label_x)
    widest = max(len(i.mass + i.tolerance) for i in items)
    gap = max(88.0, 7.6 * widest + 10)
    centres = spread([items[k].label_x for k in order], gap, gap / 2, WIDTH - gap / 2)
    top = min(i.label_y for i in items)
    placed = dict(zip(order, centres, strict=True))
    return [replace(item, label_x=placed[k], label_y=max(top, 12)) for k, item in enumerate(items)]


def _pads(frame: Frame, report: Report, unit: UnitSystem) -> list[Pad]:
    truck, trailer = report.plan.truck, report.plan.trailer
    loads = report.loads
    hitch = report.plan.hitch
    statuses = {c.code: c.status.value for c in report.checks}
    tongue_limits = [
        limit
        for limit in (*(hitch.tongue_limit_kg(p) for p in hitch.parts), truck.max_tongue_mass_kg)
        if limit is not None
    ]
    tongue_status = max(
        (c.status for c in report.checks if c.code.endswith("max_tongue_mass")),
        key=lambda s: s.severity,
        default=None,
    )
    pin = hitch.type in (HitchType.GOOSENECK, HitchType.FIFTH_WHEEL)
    offset = truck.hitch_offset_m
    entries = [
        (
            -offset - truck.wheelbase_m,
            loads.truck.front_kg,
            truck.front_gawr_kg,
            "front axle",
            statuses["truck.front_gawr"],
        ),
        (
            -offset,
            loads.truck.rear_kg,
            truck.rear_gawr_kg,
            "rear axle",
            statuses["truck.rear_gawr"],
        ),
        (
            0.0,
            loads.trailer.tongue_kg,
            min(tongue_limits) if tongue_limits else None,
            "pin" if pin else "tongue",
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
                statuses[f"trailer.axle_{index + 1}.gawr"],
            )
        )
    entries.sort(key=lambda e: e[0])
    wheel_xs = [frame.x(e[0]) for e in entries]
    centres = spread(wheel_xs, PAD_WIDTH + 12, 34, WIDTH - 34)
    pads = []
    for (_, load, limit, name, status), centre, wheel_x in zip(
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
                number=write_number(load / unit.kg).replace("-", "−"),
                limit=f"of {write_number(limit / unit.kg)}" if limit is not None else "no rating",
                name=name,
                status=status,
                over_height=min(max(part - 1.0, 0.0), 0.15) * PAD_HEIGHT,
            )
        )
    return pads


def _ticks(frame: Frame, deck: Deck, unit: UnitSystem) -> tuple[str, list[Label]]:
    """The main tape's ticks as one path, and its numbers: feet, or metres."""
    x0, width = frame.x(deck.start_m), deck.length_m * frame.scale
    bottom = TAPE_Y + TAPE_HEIGHT
    ticks, labels = [], []
    if unit is UnitSystem.US:
        step, per_big, big_label = 3 * M_PER_IN, 4, 2
    else:
        step, per_big, big_label = 0.1, 5, 2
    for n in range(int(deck.length_m / step + 1e-6) + 1):
        x = x0 + n * step * frame.scale
        big = n % per_big == 0
        middle = n % per_big == per_big // 2 and unit is UnitSystem.US
        ticks.append(f"M{x:.1f} {bottom}v{-13 if big else -9 if middle else -5}")
        if n % (per_big * big_label) == 0 and x < x0 + width + 6:
            feet = n // per_big
            text = str(feet) if unit is UnitSystem.US else f"{n * step:.0f}"
            labels.append(Label(x=x, text=text))
    return "".join(ticks), labels


def _main_tape(
    frame: Frame,
    deck: Deck,
    outfit: Outfit,
    window: Window | None,
    mark: float | None,
    pads: Sequence[Pad],
) -> Tape:
    x0, width = frame.x(deck.start_m), deck.length_m * frame.scale
    safe, sure = bands(window, lambda m: x0 + m * frame.scale, x0 - 40, x0 + width + 40)
    return Tape(
        x=x0,
        width=width,
        ticks=outfit.ticks,
        labels=outfit.tape_labels,
        windows=safe,
        sure=sure,
        mark_x=None if mark is None else x0 + mark * frame.scale,
        mark_line=""
        if mark is None
        else _mark_line(x0 + mark * frame.scale, frame.y(frame.deck_height), pads),
    )


def _mark_line(x: float, deck_y: float, pads: Sequence[Pad]) -> str:
    """From the deck down to the tape, leaving out a pad and its figures where they meet."""
    if any(pad.x - 6 <= x <= pad.x + PAD_WIDTH + 6 for pad in pads):
        return f"M{x:.1f} {deck_y:.1f}V{GROUND_Y}M{x:.1f} {PAD_TOP + PAD_HEIGHT + 49}V344"
    return f"M{x:.1f} {deck_y:.1f}V344"


def share_scale(report: Report) -> dict[str, Any]:
    """The share gauge: a bar from nothing to twice the school's middle, band and pointer."""
    least, greatest = report.plan.share_range
    top = max(greatest * 1.5, least + 0.01, 0.05)
    share = report.loads.trailer.share
    return {
        "band_x": least / top * 100,
        "band_width": (greatest - least) / top * 100,
        "pointer": min(max(share / top, 0.0), 1.0) * 100,
        "share": write_percent(share),
        "least": f"{least * 100:g}",
        "greatest": f"{greatest * 100:g}",
    }
