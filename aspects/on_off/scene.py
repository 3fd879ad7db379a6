"""The picture of the climb and the strip it is played from, all in drawing units.

What stands still (ground, pads, names) is drawn once; what moves is a strip with one entry
for each station. The page puts an entry in place and computes nothing.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Any, Final, NamedTuple

from aspects.on_off.stations import Teller, played
from measures.writing import UnitSystem, write_number
from mechanics.item import Item
from mechanics.loading import Path, State, Station, Way
from mechanics.loading.heave import heave
from mechanics.loading.outfit import NOTHING
from mechanics.loading.path import Walk
from mechanics.loading.terrain import Part
from mechanics.plan import Plan
from mechanics.tail import RampKind
from mechanics.trailer import Trailer
from pictures.drawing import turned
from pictures.machines import Body, body_of, item_height_m, outline_of
from pictures.outfit import GROUND_Y, WIDTH, Outfit, Shape, Wheel, draw_outfit
from pictures.pads import PAD_HEIGHT, PAD_TOP, PAD_WIDTH, spread
from pictures.svg import Attributes, Box, path
from planfile.draft import Drawn, Look
from wording.phrases import tongue_word

ARROW_MOST: Final = 58.0
"""Longest arrow at the ball, of the greatest tongue along the way."""

BUCKET_M: Final = 0.5
"""How high a bucket is commonly carried up a ramp. Common practice, no source."""

BEHIND_MACHINE_M: Final = 0.5
"""Room behind a machine that stands before the ramp."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Pad:
    """A load as on a scale's pad; the dashed outline is its rating, or with none the most of the
    way. ``before`` is a line across where it stood before the machine came."""

    x: float
    wheel_x: float | None
    name: str
    limit: str
    before_y: float | None
    fill: float
    number: str
    over: bool

    @property
    def box(self) -> Attributes:
        """Its outline."""
        return Box(x=self.x, y=PAD_TOP, width=PAD_WIDTH, height=PAD_HEIGHT).svg

    @property
    def filled(self) -> Attributes:
        """The load within it."""
        return Box(
            x=self.x, y=PAD_TOP + PAD_HEIGHT - self.fill, width=PAD_WIDTH, height=self.fill
        ).svg

    @property
    def lead(self) -> str:
        """The line from the wheel to the pad; none where the wheel moves."""
        if self.wheel_x is None:
            return ""
        return f"M{self.wheel_x:.1f} {GROUND_Y}L{self.x + PAD_WIDTH / 2:.1f} {PAD_TOP}"

    @property
    def before(self) -> str:
        """The line across."""
        return (
            ""
            if self.before_y is None
            else f"M{self.x - 5:.1f} {self.before_y:.1f}h{PAD_WIDTH + 10}"
        )

    @property
    def middle(self) -> str:
        """Where its texts stand across."""
        return f"{self.x + PAD_WIDTH / 2:.1f}"


class _Load(NamedTuple):
    """What a pad shows: where, its name, its load at a station, its rating, before."""

    at: float | None
    name: str
    read: Callable[[Station], float]
    rating: float | None
    before: float | None


@dataclass(frozen=True, kw_only=True, slots=True)
class Moving:
    """What moves, at one station: transforms, the ramp, the arrow at the ball."""

    machine: Attributes
    trailer: Attributes
    truck: Attributes
    ramp: str
    bar: str
    ball: Attributes
    arrow: str
    tongue: str
    lifts: bool


@dataclass(frozen=True, kw_only=True, slots=True)
class Scene:
    """Everything the picture needs; ``at`` is the station it is drawn at first."""

    top: float
    bottom: float
    outfit: Outfit
    machine: tuple[Shape, ...]
    wheels: tuple[Wheel, ...]
    balance: Attributes
    grip: Attributes
    others: tuple[Body, ...]
    ground: str
    stand: str
    pads: tuple[Pad, ...]
    moving: Moving
    figure_y: float
    words_y: float
    tongue_word: str
    worst_at: Attributes
    leading: str
    at: int
    last: int
    where: str
    moves: bool

    @property
    def view_box(self) -> Attributes:
        """What is shown."""
        return Attributes(f"0 {self.top:.0f} {WIDTH} {self.bottom - round(self.top):.0f}")


def _still(trailer: Trailer) -> Trailer:
    """What of a trailer never tilts by itself: without the part behind a deck's hinge."""
    ramp, deck = trailer.ramp, trailer.deck
    if ramp is None or ramp.kind is not RampKind.TILT or ramp.length_m >= deck.length_m:
        return trailer
    return replace(trailer, deck=replace(deck, length_m=deck.length_m - ramp.length_m))


class Painter:
    """Draws one machine's way; ``times`` is how often larger truck and trailer are tilted."""

    def __init__(
        self,
        plan: Plan,
        index: int,
        way: Way,
        *,
        drawn: Sequence[Drawn],
        look: Look,
        unit: UnitSystem,
        times: int,
    ) -> None:
        if way.walk is None or way.path is None:
            raise ValueError("a way that cannot be said has no picture")
        self.plan, self.unit, self.times = plan, unit, times
        self.walk: Walk = way.walk
        self.path: Path = way.path
        self.item: Item = plan.items[index]
        self.drawn = drawn
        self.index = index
        ground, machine = self.walk.ground, self.walk.machine
        behind = ground.foot_m + machine.apart_m + self._overhang() + BEHIND_MACHINE_M
        tallest = max(item_height_m(self.item), 1.5)
        self.frame, self.outfit = draw_outfit(
            plan.truck,
            _still(plan.trailer),
            plan.hitch.type,
            tallest,
            unit,
            Look(sides=look.sides, ramp_m=look.ramp_m),
            behind,
        )
        before = self.walk.outfit.tongue(NOTHING)[0]
        self.before = self.walk.outfit.carried(NOTHING)
        self.before_kg = before
        most = max(abs(s.tongue_kg) for s in self.path.stations)
        self.per_kg = ARROW_MOST / max(most, abs(before), 1.0)
        self.axle_x = plan.trailer.axle_centre_m
        self.stations = played(self.path)
        self.teller = Teller(self.item, self.walk, unit)

    def _overhang(self) -> float:
        """How far the machine reaches behind its trailing contact."""
        machine, item = self.walk.machine, self.item
        reach = item.reach_rearward_m - machine.mark_m
        return max(reach, 0.0)

    # --- what stands still ---

    def scene(self, at: int) -> Scene:
        """The picture with the machine at one station."""
        frame, item = self.frame, self.item
        body = self._body(item, self.drawn[self.index])
        station = self.stations[at]
        ground = self.walk.ground
        return Scene(
            top=self._top(),
            bottom=PAD_TOP + PAD_HEIGHT + 50,
            outfit=self.outfit,
            machine=body.shapes,
            wheels=body.wheels,
            balance=Attributes(
                f"translate({-self.walk.machine.balance_m * frame.scale:.1f} "
                f"{-self.walk.machine.height_m * frame.scale:.1f})"
            ),
            grip=self._grip(),
            others=tuple(self._standing(i) for i in self.walk.outfit.aboard),
            ground=self._ground(ground.foot_m, self.plan.site.foot_rise_m),
            stand=self._stand(),
            pads=tuple(self._pads(station)),
            moving=self._moving(station),
            figure_y=-ARROW_MOST - 6,
            words_y=-ARROW_MOST - 23,
            tongue_word=tongue_word(self.plan.hitch.type),
            worst_at=self._worst_at(),
            leading=self.teller.wheels.lead,
            at=at,
            last=len(self.stations) - 1,
            where=self.teller.place(station),
            moves=self.plan.truck.ride is not None,
        )

    def _top(self) -> float:
        """How high the picture reaches: over the machine on the deck, and over the words above
        the ball wherever that rises to."""
        frame = self.frame
        over_deck = frame.y(frame.deck_height + item_height_m(self.item) + 0.35)
        rises = min(
            self._turned(0.0, 0.5, self._tilt(s)[0])[1]
            for s in (self.path.lowest, self.path.stations[0])
        )
        return min(self.outfit.top, over_deck, rises - ARROW_MOST - 48) - 6

    def _worst_at(self) -> Attributes:
        """Where the leading wheels stand at the worst: on the ground below them."""
        stance = self.path.lowest.stance
        return Attributes(f"translate({self.frame.x(stance.lead_x):.1f} {GROUND_Y + 1})")

    def _body(self, item: Item, drawn: Drawn) -> Body:
        """The machine about its trailing contact: rearward and down are positive."""
        scale, machine = self.frame.scale, self.walk.machine

        def put(ahead: float, up: float) -> tuple[float, float]:
            return -(machine.mark_m - item.direction * ahead) * scale, -up * scale

        return body_of(outline_of(item, drawn, self._carried(item)), put, scale)

    def _carried(self, item: Item) -> float:
        """How high the bucket is held on the way: as it was taped, or as people usually do."""
        front = max(c.ahead_m + c.length_m / 2 for c in item.contacts)
        nose = [p.clearance_m for p in item.underside if p.ahead_m > front]
        return min(nose, default=BUCKET_M)

    def _grip(self) -> Attributes:
        """What is taken hold of."""
        scale, item, mark = self.frame.scale, self.item, self.walk.machine.mark_m
        left = -(mark + item.reach_forward_m) * scale
        right = -(mark - item.reach_rearward_m) * scale
        height = item_height_m(item) * scale
        return Box(x=left, y=-height, width=right - left, height=height).svg

    def _standing(self, item: Item) -> Body:
        """An item that is aboard already, where it stands."""
        frame = self.frame
        index = next(n for n, one in enumerate(self.plan.items) if one is item)
        mark = self.plan.trailer.deck.start_m + item.placement.reference_m

        def put(ahead: float, up: float) -> tuple[float, float]:
            return frame.x(mark + item.direction * ahead), frame.y(frame.deck_height + up)

        return body_of(outline_of(item, self.drawn[index]), put, frame.scale)

    def _ground(self, foot: float, rise: float) -> str:
        """The ground under the outfit, and the bank or blocks that the ramp's foot stands on."""
        x, y = self.frame.x, self.frame.y
        if not rise:
            return f"M8 {GROUND_Y}H{WIDTH - 8}"
        return f"M8 {GROUND_Y}H{x(foot - 0.25):.1f}L{x(foot - 0.1):.1f} {y(rise):.1f}H{WIDTH - 8}"

    def _stand(self) -> str:
        """Stands at the tail, if they are down."""
        prop = self.walk.outfit.prop
        if prop is None:
            return ""
        x, top = self.frame.x(prop.at_m), self.frame.y(self.frame.deck_height - 0.17)
        gap = 0.0
        stands = self.plan.trailer.stands
        if prop.stands and stands is not None:
            gap = stands.gap_m
        bottom = self.frame.y(gap)
        return f"M{x:.1f} {top:.1f}V{bottom:.1f}M{x - 6:.1f} {bottom:.1f}h12"

    def _bar(self, sinks: float, pitch: float, ball: tuple[float, float]) -> str:
        """The bar between bumper and ball, wherever the two stand."""
        if self.plan.truck.hitch_offset_m <= 0.5:
            return ""
        outfit = self.outfit
        rear = (self.frame.x(-self.plan.truck.hitch_offset_m), float(GROUND_Y))
        bumper = turned((outfit.bumper_x, outfit.bumper_y), pitch, rear, sinks)
        return path([bumper, (ball[0], ball[1] + 3)], closed=False)

    # --- pads ---

    def _loads(self) -> list[_Load]:
        plan, truck, unhitched = self.plan, self.plan.truck, self.before
        offset = truck.hitch_offset_m
        found = [
            _Load(
                -offset - truck.wheelbase_m,
                "front axle",
                lambda s: s.carried.front_kg,
                truck.front_gawr_kg,
                unhitched.front_kg,
            ),
            _Load(
                -offset,
                "rear axle",
                lambda s: s.carried.rear_kg,
                truck.rear_gawr_kg,
                unhitched.rear_kg,
            ),
        ]
        for number, axle in enumerate(plan.trailer.axles):
            found.append(
                _Load(
                    axle.position_m,
                    f"axle {number + 1}",
                    lambda s, n=number: s.carried.axles_kg[n],  # type: ignore[misc]
                    axle.gawr_kg,
                    unhitched.axles_kg[number],
                )
            )
        prop = self.walk.outfit.prop
        if prop is not None:
            stands = plan.trailer.stands
            rating = stands.rating_kg if prop.stands and stands is not None else None
            name = "stands" if prop.stands else "ramp legs"
            found.append(_Load(prop.at_m, name, lambda s: s.carried.stand_kg, rating, 0.0))
        if self.walk.up is None:
            found.append(
                _Load(
                    self.walk.ground.foot_m,
                    "ramp foot",
                    lambda s: s.ramp_kg - s.edge_kg,
                    None,
                    None,
                )
            )
        found.sort(key=lambda load: load.at or 0.0)
        teller = self.teller
        found += [
            _Load(None, teller.wheels.lead_short, lambda s: s.stance.lead_kg, None, None),
            _Load(None, teller.wheels.trail_short, lambda s: s.stance.trail_kg, None, None),
        ]
        return found

    def _full(self, load: _Load) -> float:
        """What fills a pad: the rating, or the whole machine."""
        return load.rating or self.walk.machine.mass_kg

    def _pads(self, station: Station) -> list[Pad]:
        loads = self._loads()
        fixed = [load.at for load in loads if load.at is not None]
        wheels: list[float | None] = [self.frame.x(at) for at in fixed]
        # the machine's own two stand at the right, wherever it is
        wanted = [x for x in wheels if x is not None]
        wanted += [WIDTH - 34 - (PAD_WIDTH + 22), WIDTH - 34]
        wheels += [None, None]
        centres = spread(wanted, PAD_WIDTH + 16, 40, WIDTH - 40)
        pads = []
        for load, centre, wheel in zip(loads, centres, wheels, strict=True):
            full = self._full(load)
            value = load.read(station)
            before = None
            if load.before is not None:
                before = PAD_TOP + PAD_HEIGHT * (1 - min(max(load.before / full, 0.0), 1.0))
            pads.append(
                Pad(
                    x=centre - PAD_WIDTH / 2,
                    wheel_x=wheel,
                    name=load.name,
                    limit=self._limit(load),
                    before_y=before,
                    fill=self._fill(load, value),
                    number=write_number(value / self.unit.kg),
                    over=self._over(load, value),
                )
            )
        return pads

    def _limit(self, load: _Load) -> str:
        """What a pad is out of, or whose wheels stand on it."""
        if load.at is None:
            return "machine"
        return "" if load.rating is None else f"of {write_number(load.rating / self.unit.kg)}"

    def _fill(self, load: _Load, value: float) -> float:
        return min(max(value / self._full(load), 0.0), 1.0) * PAD_HEIGHT

    def _over(self, load: _Load, value: float) -> bool:
        """Past the rating, or a truck's axle off the ground."""
        passed = load.rating is not None and value > load.rating
        return passed or (load.name == "rear axle" and value <= 0)

    # --- what moves ---

    def _tilt(self, station: Station) -> tuple[float, float, float]:
        """Degrees of the trailer, drawing units the truck's rear sinks, degrees of the truck."""
        moved = heave(self.plan, station.tongue_kg - self.before_kg)
        slope = math.degrees(math.atan(moved.slope * self.times))
        sinks = moved.rear_sinks_m * self.times
        rises = moved.front_rises_m * self.times
        pitch = math.degrees(math.atan((sinks + rises) / self.plan.truck.wheelbase_m))
        return slope, sinks * self.frame.scale, pitch

    def _edge(self, degrees: float) -> tuple[float, float]:
        """Where the ramp hangs on, with the trailer tilted."""
        ground = self.walk.ground
        return self._turned(ground.edge_m, ground.height(ground.edge_m), degrees)

    def _turned(self, x: float, z: float, degrees: float) -> tuple[float, float]:
        """A point of the trailer on the drawing, the trailer turned about its axles."""
        axle = (self.frame.x(self.axle_x), float(GROUND_Y))
        return turned((self.frame.x(x), self.frame.y(z)), degrees, axle)

    def _contact(self, x: float, z: float, degrees: float, *, level: bool) -> tuple[float, float]:
        """A contact on the drawing: on the tilted trailer, on the ramp that hangs from it, or on
        the ground."""
        ground = self.walk.ground
        part = Part.DECK if level else ground.part(x)
        if part is Part.GROUND:
            return self.frame.x(x), self.frame.y(z)
        if part is not Part.RAMP:
            return self._turned(x, z, degrees)
        along = (ground.foot_m - x) / (ground.foot_m - ground.edge_m)
        edge_x, edge_y = self._edge(degrees)
        still_x = self.frame.x(ground.edge_m)
        still_y = self.frame.y(ground.height(ground.edge_m))
        return (
            self.frame.x(x) + along * (edge_x - still_x),
            self.frame.y(z) + along * (edge_y - still_y),
        )

    def _machine(self, station: Station, degrees: float) -> tuple[float, float, float]:
        """Where the machine's trailing contact is drawn, and how far it is turned."""
        stance = station.stance
        trail = self._contact(stance.trail_x, stance.trail_z, degrees, level=stance.level)
        if stance.lying:
            # its leading end may hang in the air: it turns with the part it lies on
            turned = degrees if stance.level or stance.pitch == 0 else 0.0
            return *trail, math.degrees(stance.pitch) + turned
        lead = self._contact(stance.lead_x, stance.lead_z, degrees, level=stance.level)
        return *trail, math.degrees(math.atan2(trail[1] - lead[1], trail[0] - lead[0]))

    def _ramp(self, degrees: float, *, level: bool) -> str:
        """The ramp, or the part of a deck that tilts: down, or come up."""
        foot = (
            self.frame.x(self.walk.ground.foot_m),
            self.frame.y(self.plan.site.foot_rise_m),
        )
        if level:
            deck = self.plan.trailer.deck
            foot = self._turned(deck.start_m + deck.length_m, self.walk.ground.deck_z, degrees)
        return path([self._edge(degrees), foot], closed=False)

    def _arrow(self, tongue_kg: float) -> str:
        """An arrow at the ball: down where the tongue presses, up where it lifts."""
        long = tongue_kg * self.per_kg
        if abs(long) < 1:
            return ""
        head = 8 if long > 0 else -8
        if long > 0:
            return f"M0 {-long:.1f}V0m-6 {-head}l6 {head}l6 {-head}"
        return f"M0 0V{long:.1f}m-6 {-head}l6 {head}l6 {-head}"

    def _moving(self, station: Station) -> Moving:
        degrees, sinks, pitch = self._tilt(station)
        x, y, angle = self._machine(station, degrees)
        rear_x = self.frame.x(-self.plan.truck.hitch_offset_m)
        axle_x = self.frame.x(self.axle_x)
        still = (self.outfit.ball_x, self.outfit.ball_y)
        ball = turned(still, degrees, (axle_x, float(GROUND_Y)))
        return Moving(
            machine=Attributes(f"translate({x:.1f} {y:.1f}) rotate({angle:.2f})"),
            trailer=Attributes(f"rotate({degrees:.3f} {axle_x:.1f} {GROUND_Y})"),
            truck=Attributes(
                f"translate(0 {sinks:.2f}) rotate({pitch:.3f} {rear_x:.1f} {GROUND_Y})"
            ),
            ramp=self._ramp(degrees, level=station.stance.level),
            bar=self._bar(sinks, pitch, ball),
            ball=Attributes(f"translate({ball[0]:.1f} {ball[1] - 8:.1f})"),
            arrow=self._arrow(station.tongue_kg),
            tongue=write_number(abs(station.tongue_kg) / self.unit.kg),
            lifts=station.tongue_kg < 0,
        )

    # --- the strip ---

    def strip(self) -> dict[str, Any]:
        """What moves at every station, column by column, ready to be put in place."""
        teller = self.teller
        loads = self._loads()
        stations = self.stations
        moving = [self._moving(s) for s in stations]
        lifted = [n for n, s in enumerate(stations) if s.state is State.LIFTED]
        return {
            "machine": [str(m.machine) for m in moving],
            "trailer": [str(m.trailer) for m in moving],
            "truck": [str(m.truck) for m in moving],
            "ramp": [m.ramp for m in moving],
            "bar": [m.bar for m in moving],
            "ball": [str(m.ball) for m in moving],
            "arrow": [m.arrow for m in moving],
            "tongue": [m.tongue for m in moving],
            "lifts": [int(m.lifts) for m in moving],
            "fills": [
                [round(self._fill(load, load.read(s)), 1) for s in stations] for load in loads
            ],
            "numbers": [
                [write_number(load.read(s) / self.unit.kg) for s in stations] for load in loads
            ],
            "over": [[int(self._over(load, load.read(s))) for s in stations] for load in loads],
            "where": [teller.place(s) for s in stations],
            "x": [round(self.frame.x(s.stance.lead_x), 1) for s in stations],
            "stop_on": lifted[0] if lifted else len(stations) - 1,
            "stop_off": lifted[-1] if lifted else 0,
        }
