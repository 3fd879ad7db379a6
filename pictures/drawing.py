"""Geometry of the planner's drawing, computed here and only placed by the templates.

All of it is in the drawing's own units (the viewBox); the side view is true to scale.
What the plan does not say (the truck's outline, a machine's shape) is drawn in usual
proportions and takes no part in any figure.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

from measures.writing import UnitSystem, write_inches, write_number
from mechanics.attitude import Attitude
from mechanics.checks import Status
from mechanics.codes import Family
from mechanics.plan import Plan
from mechanics.report import Report, evaluate
from mechanics.standing import piece_at
from mechanics.trailer import Deck
from mechanics.windows import Window
from pictures.machines import (
    WIDTH_M,
    Body,
    body_of,
    item_height_m,
    outline_of,
    tyres_above,
)
from pictures.outfit import (
    ABOVE_Y,
    GROUND_Y,
    TAPE_HEIGHT,
    TAPE_Y,
    WIDTH,
    AboveFrame,
    Frame,
    Outfit,
    deck_width_m,
    draw_outfit,
)
from pictures.pads import PAD_HEIGHT, PAD_TOP, PAD_WIDTH, Pad, load_pads, spread
from pictures.svg import Attributes, Box, moved, path
from pictures.tapes import WINDOW_OUT, Band, EndLabel, Tape, bands, close_up
from planfile.draft import Drawn, Look
from wording.places import place_words
from wording.road import ROAD

LANE, LANE_BAR = 11, 9
"""Height of one item's lane under the tape, and of the bars in it."""

MOST_LANES = 6
"""Items that get a lane of their own; with more, only the one in hand has its window."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Lane:
    """One item's windows on the tape: its number, its pieces, where its mark stands."""

    index: int
    number: str
    y: float
    windows: list[Band]
    sure: list[Band]
    mark_x: float
    selected: bool
    inside: bool

    @property
    def text_y(self) -> str:
        """Where its number stands."""
        return f"{self.y + 8:.1f}"

    @property
    def ground_y(self) -> str:
        """Where the line lies that the windows stand on."""
        return f"{self.y + 3.5:.1f}"

    @property
    def mark(self) -> str:
        """The line where the item's mark stands."""
        return f"M{self.mark_x:.1f} {self.y - 1}v{LANE}"


@dataclass(frozen=True, kw_only=True, slots=True)
class Dimension:
    """A dimension line with its end ticks (one path) and its text."""

    line: str
    x: float
    y: float
    text: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Overlap:
    """Deck that two items claim at once, in side view and from above: x, y, width, height."""

    side: Box
    above: Box


@dataclass(frozen=True, kw_only=True, slots=True)
class Tilt:
    """How the bodies of truck and trailer are turned and sunk, as SVG transforms."""

    truck: str
    trailer: str
    larger: bool
    words: str
    bumper: tuple[float, float]
    ball: tuple[float, float]


@dataclass(frozen=True, kw_only=True, slots=True)
class DrawnItem:
    """One item in side view and from above."""

    index: int
    id: str
    name: str
    mass: str
    tolerance: str
    body: Body
    balance_x: float
    balance_y: float
    label_x: float
    label_y: float
    mark_x: float
    left_x: float
    right_x: float
    top_y: float
    grip_bottom: float
    above_x: float
    above_y: float
    above_width: float
    above_tyres: tuple[Box, ...]
    above_height: float
    above_balance_x: float
    above_balance_y: float
    selected: bool

    @property
    def number(self) -> int:
        """Its number among the loads, from one."""
        return self.index + 1

    @property
    def grip(self) -> Attributes:
        """What is taken hold of, from its top to the deck."""
        return Box(
            x=self.left_x,
            y=self.top_y,
            width=self.right_x - self.left_x,
            height=self.grip_bottom - self.top_y,
        ).svg

    @property
    def balance(self) -> Attributes:
        """Where its balance point is drawn about, in side view."""
        return moved(self.balance_x, self.balance_y)

    @property
    def name_y(self) -> str:
        """Where its name stands, over its mass."""
        return f"{self.label_y - 15:.1f}"

    @property
    def above(self) -> Attributes:
        """Its outline from above."""
        return Box(
            x=self.above_x, y=self.above_y, width=self.above_width, height=self.above_height
        ).svg

    @property
    def above_balance(self) -> Attributes:
        """Where its balance point is drawn about, from above."""
        return moved(self.above_balance_x, self.above_balance_y)


@dataclass(frozen=True, kw_only=True, slots=True)
class AboveGround:
    """Tongue, deck, fenders and rails from above."""

    tongue: str
    box: Attributes
    fenders: tuple[Box, ...]
    rails: str
    line: str


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
    above_fenders: tuple[Box, ...]
    above_middle: float
    above_sides: str
    above_widths: str
    lanes: list[Lane]
    lanes_y: float
    top: float
    bottom: float
    dimensions: list[Dimension]
    overlaps: list[Overlap]
    tilt: Tilt | None
    bar: str

    @property
    def one(self) -> bool:
        """Whether a single item stands on the deck."""
        return len(self.items) == 1

    @property
    def view_box(self) -> Attributes:
        """What the side view shows."""
        return Attributes(f"0 {self.top:.0f} {WIDTH} {self.bottom - round(self.top):.1f}")

    @property
    def edges(self) -> str:
        """Lines from both ends of the deck down to the tape."""
        ends = (self.tape.x, self.tape.right)
        return "".join(f"M{x:.1f} {self.deck_y:.1f}V{TAPE_Y}" for x in ends)

    @property
    def beside_tape(self) -> str:
        """Where words stand that belong to the tape, ahead of it."""
        return f"{self.tape.x - 8:.1f}"

    @property
    def tilt_words(self) -> str:
        """How often tilt is drawn larger; empty where it is as it is."""
        return self.tilt.words if self.tilt is not None and self.tilt.larger else ""

    @property
    def tilt_words_y(self) -> str:
        """Where they stand."""
        return f"{self.top + 14:.1f}"

    @property
    def close_sure_style(self) -> str:
        """How the width of the sure window is written: as something there is, or not."""
        return "label-sure" if self.close.sure or self.tape.sure else "label-dim"

    @property
    def above_ground(self) -> AboveGround:
        """What of the view from above stays wherever the items stand."""
        deck = self.above_deck
        return AboveGround(
            tongue=self.above_tongue,
            box=Box(x=deck.x, y=self.above_top, width=deck.width, height=self.above_height).svg,
            fenders=self.above_fenders,
            rails=self.outfit.rails,
            line=f"M{deck.x:.1f} {self.above_middle}H{deck.x + deck.width:.1f}",
        )


def side_words(report: Report, unit: UnitSystem) -> str:
    """What either side of the trailer carries."""
    left, right = (
        f"{write_number(kg / unit.kg)} {unit.mass_unit}"
        for kg in (report.loads.trailer.left_kg, report.loads.trailer.right_kg)
    )
    return f"left side {left}, right side {right}"


def framed(plan: Plan, unit: UnitSystem, look: Look) -> tuple[Frame, Outfit]:
    """Where things are in a plan's picture, and the outfit in it: the same wherever its items
    stand."""
    tallest = max((item_height_m(i) for i in plan.items), default=1.5)
    return draw_outfit(plan.truck, plan.trailer, plan.hitch.type, tallest, unit, look)


def draw(
    report: Report,
    *,
    drawn: Sequence[Drawn],
    selected: int | None,
    end_texts: Sequence[tuple[str, str]],
    unit: UnitSystem,
    look: Look | None = None,
    riding: Attitude | None = None,
    times: int = 1,
) -> Drawing:
    """The picture of a report.

    ``drawn`` runs along the plan's items and says how each is drawn. ``end_texts`` holds
    what makes the two ends of each of the selected item's intervals. ``riding`` tilts and
    squats the bodies, ``times`` as much as is true.
    """
    truck, trailer = report.plan.truck, report.plan.trailer
    deck = trailer.deck
    frame, outfit = framed(report.plan, unit, look or Look())
    above = AboveFrame(trailer)
    items = [
        _item(frame, report, index, drawn[index], selected, above, unit)
        for index in range(len(report.plan.items))
    ]
    items = _label_rows(items)
    window = report.windows[selected] if selected is not None else None
    mark = None if selected is None else report.plan.items[selected].placement.reference_m
    close, ends, sure_label = close_up(window, mark, end_texts, deck.length_m, unit)
    half = deck_width_m(trailer) / 2 * above.scale
    lanes = _lanes(frame, report, selected)
    pads = load_pads(frame, report, unit)
    labels = min((i.label_y for i in items), default=40)
    tilt = None if riding is None else _tilt(frame, outfit, report, riding, times)
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
        else f"{drawn[selected].mark} {place_words(report, selected, unit)}",
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
        above_middle=ABOVE_Y,
        above_sides=side_words(report, unit),
        above_widths=_widths(report, unit),
        lanes=lanes,
        lanes_y=TAPE_Y + TAPE_HEIGHT,
        # one item has its name over its mass
        top=max(min(outfit.top, labels - (30 if len(items) == 1 else 15)), 0),
        bottom=TAPE_Y + TAPE_HEIGHT + 8 + LANE * len(lanes),
        dimensions=_overhangs(frame, report, unit, pads),
        overlaps=_overlaps(items, report),
        tilt=tilt,
        bar=_ball_mount(outfit, tilt) if truck.hitch_offset_m > 0.5 else "",
    )


def plain_picture(
    plan: Plan,
    drawn: Sequence[Drawn],
    look: Look,
    unit: UnitSystem,
    *,
    riding: Attitude | None = None,
    times: int = 1,
) -> Drawing:
    """A plan's picture with nothing in hand, for a list or a comparison; ``riding`` as for
    :func:`draw`."""
    return draw(
        evaluate(plan),
        drawn=drawn,
        selected=None,
        end_texts=[],
        unit=unit,
        look=look,
        riding=riding,
        times=times,
    )


def _item(
    frame: Frame,
    report: Report,
    index: int,
    drawn: Drawn,
    selected: int | None,
    above: AboveFrame,
    unit: UnitSystem,
) -> DrawnItem:
    item = report.plan.items[index]
    start = report.plan.trailer.deck.start_m
    mark = start + item.placement.reference_m
    height, outline = item_height_m(item), outline_of(item, drawn)

    def along(ahead: float) -> float:
        return above.x(mark + item.direction * ahead)

    def at(ahead: float, up: float) -> tuple[float, float]:
        return frame.x(mark + item.direction * ahead), frame.y(frame.deck_height + up)

    width = item.width_m or WIDTH_M
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
        name=item.called,
        mass=f"{write_number(item.mass_kg / unit.kg)} {unit.mass_unit}",
        tolerance=tolerance,
        body=body_of(outline, at, frame.scale),
        balance_x=frame.x(balance),
        balance_y=frame.y(frame.deck_height + balance_up),
        label_x=(foremost + rearmost) / 2,
        label_y=top - 8,
        mark_x=frame.x(mark),
        left_x=foremost,
        right_x=rearmost,
        top_y=top,
        grip_bottom=frame.y(frame.deck_height),
        above_x=above.x(start + item.foremost_m),
        above_y=across - width / 2 * above.scale,
        above_tyres=tyres_above(outline, along, across, width, above.scale),
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


def _main_tape(
    frame: Frame,
    deck: Deck,
    outfit: Outfit,
    window: Window | None,
    mark: float | None,
    pads: Sequence[Pad],
) -> Tape:
    x0, width = frame.x(deck.start_m), deck.length_m * frame.scale
    safe, sure = bands(
        window,
        lambda m: x0 + m * frame.scale,
        x0 - 40,
        x0 + width + 40,
        TAPE_Y - WINDOW_OUT,
        TAPE_HEIGHT + WINDOW_OUT,
    )
    return Tape(
        x=x0,
        width=width,
        ticks=outfit.ticks,
        labels=outfit.tape_labels,
        windows=safe,
        sure=sure,
        y=TAPE_Y,
        height=TAPE_HEIGHT,
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


def _lanes(frame: Frame, report: Report, selected: int | None) -> list[Lane]:
    """A lane for each of several items, in their order."""
    items = report.plan.items
    if not 1 < len(items) <= MOST_LANES:
        return []
    deck = report.plan.trailer.deck
    x0, width = frame.x(deck.start_m), deck.length_m * frame.scale

    def to_x(metres: float) -> float:
        return x0 + metres * frame.scale

    lanes = []
    for index, (item, window) in enumerate(zip(items, report.windows, strict=True)):
        y = TAPE_Y + TAPE_HEIGHT + 4 + LANE * index
        safe, sure = bands(window, to_x, x0 - 40, x0 + width + 40, y, LANE_BAR)
        at = item.placement.reference_m
        lanes.append(
            Lane(
                index=index,
                number=str(index + 1),
                y=y,
                windows=safe,
                sure=sure,
                mark_x=to_x(at),
                selected=index == selected,
                inside=piece_at(window.intervals, at) is not None,
            )
        )
    return lanes


def _overhangs(
    frame: Frame, report: Report, unit: UnitSystem, pads: Sequence[Pad]
) -> list[Dimension]:
    """How far the load reaches past either end of the deck, with its dimension lines.

    Under the ground line, lower where a pad and its figures stand in the way.
    """
    deck, items = report.plan.trailer.deck, report.plan.items
    if not items:
        return []
    found = []
    foremost = min(i.foremost_m for i in items)
    rearmost = max(i.rearmost_m for i in items)
    for start, end in ((foremost, 0.0), (deck.length_m, rearmost)):
        if end - start < 0.01:
            continue
        left, right = frame.x(deck.start_m + start), frame.x(deck.start_m + end)
        middle = min(max((left + right) / 2, 44), WIDTH - 44)
        low = any(p.x - 46 <= middle <= p.x + PAD_WIDTH + 46 for p in pads)
        y = PAD_TOP + PAD_HEIGHT + 55 if low else GROUND_Y + 14
        found.append(
            Dimension(
                line=f"M{left:.1f} {y - 5:.1f}v10M{right:.1f} {y - 5:.1f}v10"
                f"M{left:.1f} {y:.1f}H{right:.1f}",
                x=middle,
                y=y + 4 if low else y + 18,
                text=f"{write_inches(end - start, unit)} over",
            )
        )
    return found


def _widths(report: Report, unit: UnitSystem) -> str:
    """The load's overall width against deck and road."""
    plan = report.plan
    edges = [
        (i.placement.left_m - i.width_m / 2, i.placement.left_m + i.width_m / 2)
        for i in plan.items
        if i.width_m is not None
    ]
    if not edges:
        return ""
    wide = max(right for _, right in edges) - min(left for left, _ in edges)
    reach = 2 * max(max(abs(left), abs(right)) for left, right in edges)
    deck = plan.trailer.deck.width_m
    words = f"load {write_inches(wide, unit)} wide"
    if deck is not None:
        words += f", deck {write_inches(deck, unit)}"
    road = ROAD[unit].width_m
    over = ": over width" if reach > road else ""
    return f"{words}, road {write_inches(road, unit)}{over}"


def _overlaps(items: Sequence[DrawnItem], report: Report) -> list[Overlap]:
    """Where neighbours stand in each other, as their checks say."""
    drawn = {item.id: item for item in items}
    found = []
    for check in report.checks:
        if check.about.family is not Family.NEIGHBOUR or check.status is not Status.OVER:
            continue
        one, two = drawn[check.item or ""], drawn[check.about.which]
        left, right = max(one.left_x, two.left_x), min(one.right_x, two.right_x)
        top = max(one.top_y, two.top_y)
        bottom = max(one.grip_bottom, two.grip_bottom)
        x0 = max(one.above_x, two.above_x)
        x1 = min(one.above_x + one.above_width, two.above_x + two.above_width)
        y0 = max(one.above_y, two.above_y)
        y1 = min(one.above_y + one.above_height, two.above_y + two.above_height)
        found.append(
            Overlap(
                side=_between(left, top, right, bottom),
                above=_between(x0, y0, x1, y1),
            )
        )
    return found


def _between(left: float, top: float, right: float, bottom: float) -> Box:
    """A box that can be seen, however little it covers."""
    return Box(x=left, y=top, width=max(right - left, 1.0), height=max(bottom - top, 1.0))


def _ball_mount(outfit: Outfit, tilt: Tilt | None) -> str:
    """The bar between bumper and ball, wherever the two stand."""
    bumper = (outfit.bumper_x, outfit.bumper_y) if tilt is None else tilt.bumper
    ball = (outfit.ball_x, outfit.ball_y + 3) if tilt is None else tilt.ball
    return path([bumper, ball], closed=False)


def turned(
    point: tuple[float, float], degrees: float, about: tuple[float, float], down: float = 0.0
) -> tuple[float, float]:
    """A point turned clockwise about another on the screen, then sunk."""
    angle = math.radians(degrees)
    x, y = point[0] - about[0], point[1] - about[1]
    return (
        about[0] + x * math.cos(angle) - y * math.sin(angle),
        about[1] + x * math.sin(angle) + y * math.cos(angle) + down,
    )


def _tilt(frame: Frame, outfit: Outfit, report: Report, riding: Attitude, times: int) -> Tilt:
    """The bodies as they ride, ``times`` exaggerated; the wheels stay on the ground."""
    loaded, truck = riding.loaded, report.plan.truck
    slope = math.degrees(math.atan(loaded.slope * times))
    sinks, rises = loaded.rear_squat_m * times, loaded.front_rise_m * times
    pitch = math.degrees(math.atan((sinks + rises) / truck.wheelbase_m))
    rear_x = frame.x(-truck.hitch_offset_m)
    axle_x = frame.x(report.plan.trailer.axle_centre_m)
    return Tilt(
        truck=f"translate(0 {sinks * frame.scale:.2f}) rotate({pitch:.3f} {rear_x:.1f} {GROUND_Y})",
        trailer=f"rotate({slope:.3f} {axle_x:.1f} {GROUND_Y})",
        larger=times != 1,
        words="tilt and squat as they are" if times == 1 else f"tilt and squat drawn {times} times",
        bumper=turned(
            (outfit.bumper_x, outfit.bumper_y), pitch, (rear_x, GROUND_Y), sinks * frame.scale
        ),
        ball=turned((outfit.ball_x, outfit.ball_y), slope, (axle_x, GROUND_Y)),
    )
