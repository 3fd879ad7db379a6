"""Every limit of a plan, once as a figure to compare and once as linear constraints.

The two forms serve two questions. :mod:`mechanics.checks` compares ``value`` with
``limit`` where the items stand. :mod:`mechanics.windows` asks where else they might
stand, and needs each limit as a form that is linear in one item's place and bilinear in
its mass and balance point (see :class:`Form`).
"""

from __future__ import annotations

import math
from collections.abc import Callable
from enum import Enum
from typing import NamedTuple

from mechanics.frame import concentration
from mechanics.item import TOUCH_M
from mechanics.loads import Loads, bar_factor_m
from mechanics.plan import Plan
from mechanics.rules import LIGHT, NEAR_HITCH, NEAR_RATING, TrailerGvwrSchool
from mechanics.truck import Truck

ROUNDING = 1e-9
"""Part of a limit by which a value may pass it through rounding alone."""


SAME_SIZE_M = 0.0003
"""Ball and coupler sizes this close are one size: 50 mm is sold as 1 31/32 in, while 2 in,
the next size up, is 0.8 mm larger and is another."""


class Quantity(Enum):
    """What kind of figure a limit compares, so that the edge knows its unit."""

    MASS = "mass"
    LENGTH = "length"
    SHARE = "share"


class Sense(Enum):
    """Which side of the limit is right."""

    AT_MOST = "at_most"
    AT_LEAST = "at_least"
    EQUAL = "equal"


class Form(NamedTuple):
    """``const + me Me + te Te + sum m (a + b x + c y) <= 0`` says that a limit holds.

    ``Me``, ``Te`` are the empty trailer's mass and tongue, ``x`` an item's balance point
    behind the coupler, ``y`` to the left. ``const_tolerance`` is how much worse the
    constant gets when the truck's cargo is as unlucky as its tolerances allow. A
    constant of infinity says that nothing can make the limit hold. ``scale`` is what
    rounding is measured against.
    """

    const: float
    const_tolerance: float = 0.0
    me: float = 0.0
    te: float = 0.0
    a: float = 0.0
    b: float = 0.0
    c: float = 0.0
    scale: float = 1.0


class Limit(NamedTuple):
    """One limit with the value found against it.

    ``read`` takes the value from the loads of this plan with the items elsewhere;
    ``None`` where the value is not a load.
    ``limit`` is ``None`` where the plan does not give it; ``missing`` then names the
    absent input. ``near`` is the part of the limit above which reserve is short, or
    ``None`` for limits that are never near; ``near_below`` the value below which it is
    short of a least allowed one. ``soft`` limits call for a look, not a stop; ``strict``
    ones are passed at the limit itself.
    """

    code: str
    quantity: Quantity
    value: float
    limit: float | None
    read: Callable[[Loads], float] | None = None
    item: str | None = None
    sense: Sense = Sense.AT_MOST
    near: float | None = None
    soft: bool = False
    missing: str | None = None
    forms: tuple[Form, ...] = ()
    near_below: float | None = None
    strict: bool = False

    @property
    def size(self) -> float:
        """What a margin is a part of: the limit, or with a limit of zero the reserve wanted."""
        return abs(self.limit or 0.0) or abs(self.near_below or 0.0) or 1e-6


def load_limits(plan: Plan, loads: Loads) -> list[Limit]:
    """Limits of trailer, truck, combination, hitch and share, in the order of their codes.

    A limit that a practitioner must know is listed even when the plan lacks it; optional
    ones are left out then. An empty trailer is not judged by a share: its tongue is the
    maker's.
    """
    return [
        *_trailer_limits(plan, loads),
        *_truck_limits(plan, loads),
        *_hitch_limits(plan, loads),
        *(_share_limits(plan, loads) if plan.items else ()),
    ]


def deck_limits(plan: Plan) -> list[Limit]:
    """Limits of the deck for each item, then of each pair that cannot pass sideways.

    Deck and neighbour limits say nothing of loads and carry no forms; the windows know
    their geometry.
    """
    deck = plan.trailer.deck
    found = [
        Limit(
            code="deck.front",
            item=item.id,
            quantity=Quantity.LENGTH,
            value=item.foremost_m,
            limit=0.0 - deck.front_overhang_m,
            sense=Sense.AT_LEAST,
        )
        for item in plan.items
    ]
    found += [
        Limit(
            code="deck.rear",
            item=item.id,
            quantity=Quantity.LENGTH,
            value=item.rearmost_m,
            limit=deck.length_m + deck.rear_overhang_m,
        )
        for item in plan.items
    ]
    found += [
        Limit(
            code="deck.width",
            item=item.id,
            quantity=Quantity.LENGTH,
            value=item.width_m + 2 * abs(item.placement.left_m),
            limit=deck.width_m,
            soft=True,
        )
        for item in plan.items
        if item.width_m is not None and deck.width_m is not None
    ]
    found += _concentration_limits(plan)
    for index, first in enumerate(plan.items):
        found += [
            Limit(
                code=f"item.{other.id}",
                item=first.id,
                quantity=Quantity.LENGTH,
                value=first.gap_to_m(other),
                limit=0.0,
                sense=Sense.AT_LEAST,
            )
            for other in plan.items[index + 1 :]
            if not first.clear_sideways_of(other)
        ]
    return found


def _concentration_limits(plan: Plan) -> list[Limit]:
    """The maker's figure for a length of deck, where there is one.

    Soft: it is not linear in an item's place, and makes no end of a window.
    """
    figure = plan.trailer.deck.concentration
    if figure is None or not plan.items:
        return []
    return [
        Limit(
            code="deck.concentration",
            quantity=Quantity.MASS,
            value=concentration(plan, figure.length_m)[0],
            limit=figure.mass_kg,
            near=NEAR_RATING,
            soft=True,
        )
    ]


def passes(
    value: float, limit: float, sense: Sense, quantity: Quantity, *, strict: bool = False
) -> bool:
    """Whether a value is on the right side of its limit, rounding forgiven.

    ``strict`` wants it truly beyond: an axle that carries nothing is off the ground.
    """
    if strict:
        return value < limit if sense is Sense.AT_MOST else value > limit
    if quantity is Quantity.LENGTH:
        slack = TOUCH_M
    elif quantity is Quantity.SHARE:
        slack = ROUNDING
    else:
        slack = ROUNDING * max(abs(limit), 1.0)
    if sense is Sense.EQUAL:
        return abs(value - limit) <= SAME_SIZE_M
    if sense is Sense.AT_MOST:
        return value <= limit + slack
    return value >= limit - slack


def _mass_limit(
    code: str,
    loads: Loads,
    read: Callable[[Loads], float],
    limit: float | None,
    *,
    missing: str | None = None,
    near: float = NEAR_RATING,
    forms: tuple[Form, ...] = (),
) -> Limit:
    return Limit(
        code=code,
        quantity=Quantity.MASS,
        value=read(loads),
        limit=limit,
        read=read,
        near=near,
        missing=missing if limit is None else None,
        forms=forms if limit is not None else (),
    )


def _trailer_limits(plan: Plan, loads: Loads) -> list[Limit]:
    trailer = plan.trailer
    bars = bar_factor_m(plan)
    lever = trailer.couple_lever_m
    factors = trailer.axle_factors_per_m
    count = len(trailer.axles)

    if plan.rules.trailer_gvwr is TrailerGvwrSchool.WHOLE:
        read_gvwr = _trailer_mass
        gvwr_forms = _trailer_mass_forms(trailer.gvwr_kg)
    else:
        read_gvwr = _axles_mass
        gvwr_forms = _axle_forms(trailer.gvwr_kg, 1.0, 1 / lever, bars, lever)
    found = [
        _mass_limit(
            "trailer.gvwr",
            loads,
            read_gvwr,
            trailer.gvwr_kg,
            missing="trailer.gvwr",
            forms=gvwr_forms,
        )
    ]
    for index, (axle, factor) in enumerate(zip(trailer.axles, factors, strict=True)):
        found.append(
            _mass_limit(
                f"trailer.axle_{index + 1}.gawr",
                loads,
                _axle_reader(index),
                axle.gawr_kg,
                missing=f"trailer.axles[{index}].gawr",
                forms=_axle_forms(axle.gawr_kg, 1 / count, factor, bars, lever),
            )
        )
    for index, (axle, factor) in enumerate(zip(trailer.axles, factors, strict=True)):
        if axle.tire_capacity_kg is not None:
            found.append(
                _mass_limit(
                    f"trailer.axle_{index + 1}.tires",
                    loads,
                    _axle_reader(index),
                    axle.tire_capacity_kg,
                    forms=_axle_forms(axle.tire_capacity_kg, 1 / count, factor, bars, lever),
                )
            )
    side_limit = trailer.side_limit_kg
    if side_limit is not None:
        for code, read, sign in (
            ("trailer.side_left", _left_side, 1),
            ("trailer.side_right", _right_side, -1),
        ):
            forms = _axle_forms(
                side_limit, 0.5, 0.5 / lever, bars, lever, c=sign / trailer.track_width_m
            )
            found.append(_mass_limit(code, loads, read, side_limit, forms=forms))
    return found


def _trailer_mass(loads: Loads) -> float:
    return loads.trailer.mass_kg


def _axles_mass(loads: Loads) -> float:
    return loads.trailer.axles_mass_kg


def _left_side(loads: Loads) -> float:
    return loads.trailer.left_kg


def _right_side(loads: Loads) -> float:
    return loads.trailer.right_kg


def _tongue(loads: Loads) -> float:
    return loads.trailer.tongue_kg


def _share(loads: Loads) -> float:
    return loads.trailer.share


def _axle_reader(index: int) -> Callable[[Loads], float]:
    return lambda loads: loads.trailer.axles_kg[index]


def _trailer_mass_forms(limit: float | None) -> tuple[Form, ...]:
    if limit is None:
        return ()
    return (Form(const=-limit, me=1.0, a=1.0, scale=max(limit, 1.0)),)


def _axle_forms(
    limit: float | None, empty: float, factor: float, bars: float, lever: float, c: float = 0.0
) -> tuple[Form, ...]:
    """``empty (Me - Te) + factor (P + bars max(T, 0)) <= limit``.

    The load is convex in the tongue, so it stays below the limit exactly when both of
    its straight pieces do.
    """
    if limit is None:
        return ()
    scale = max(limit, 1.0)
    slack = Form(const=-limit, me=empty, te=-empty, b=factor, c=c, scale=scale)
    if not bars:
        return (slack,)
    pull = factor * bars
    tight = Form(
        const=-limit,
        me=empty,
        te=pull - empty,
        a=pull,
        b=factor - pull / lever,
        c=c,
        scale=scale,
    )
    return (slack, tight)


def _truck_limits(plan: Plan, loads: Loads) -> list[Limit]:
    truck, carried = plan.truck, loads.truck
    lever = plan.trailer.couple_lever_m
    bars = bar_factor_m(plan)
    wheelbase, offset = truck.wheelbase_m, truck.hitch_offset_m
    # what one unit of tongue mass does, without bars (T < 0) and with them (T > 0)
    handed = 1 - bars / lever
    front = (-offset / wheelbase, (bars - handed * offset) / wheelbase)
    if plan.hitch.weight_distribution is not None and bars:
        # full restoration holds the front axle exactly, whatever rounding says
        left_over = 1 - plan.hitch.weight_distribution.front_axle_restoration
        front = (front[0], -left_over * offset / wheelbase)
    rear = ((wheelbase + offset) / wheelbase, (handed * (wheelbase + offset) - bars) / wheelbase)

    tolerances = [(c.mass_tolerance_kg, c.ahead_of_rear_axle_m / wheelbase) for c in truck.cargo]
    cargo_tolerance = sum(t for t, _ in tolerances)
    front_tolerance = truck.front_axle_mass_tolerance_kg + sum(
        abs(t * ahead) for t, ahead in tolerances
    )
    rear_tolerance = truck.rear_axle_mass_tolerance_kg + sum(
        abs(t * (1 - ahead)) for t, ahead in tolerances
    )
    empty_tolerance = truck.front_axle_mass_tolerance_kg + truck.rear_axle_mass_tolerance_kg
    # without a sticker the payload is what GVWR leaves, and as unsure as the empty truck
    payload_tolerance = cargo_tolerance + (empty_tolerance if truck.payload_kg is None else 0.0)

    def on_tongue(
        base: float, slopes: tuple[float, float], limit: float | None, tolerance: float
    ) -> tuple[Form, ...]:
        if limit is None:
            return ()
        return (_tongue_form(base, slopes, limit, tolerance, lever),)

    found = [
        _mass_limit(
            "truck.front_gawr",
            loads,
            _front_axle,
            truck.front_gawr_kg,
            missing="truck.front_gawr",
            forms=on_tongue(
                carried.front_unhitched_kg, front, truck.front_gawr_kg, front_tolerance
            ),
        ),
        _mass_limit(
            "truck.rear_gawr",
            loads,
            _rear_axle,
            truck.rear_gawr_kg,
            missing="truck.rear_gawr",
            forms=on_tongue(carried.rear_unhitched_kg, rear, truck.rear_gawr_kg, rear_tolerance),
        ),
        *_truck_tire_limits(
            truck, loads, on_tongue, (front, rear), (front_tolerance, rear_tolerance)
        ),
        *_light_limits(loads, (front, rear), (front_tolerance, rear_tolerance), lever),
        _mass_limit(
            "truck.gvwr",
            loads,
            lambda at: at.truck.mass_kg,
            truck.gvwr_kg,
            missing="truck.gvwr",
            forms=on_tongue(
                carried.unhitched_mass_kg,
                (1.0, handed),
                truck.gvwr_kg,
                cargo_tolerance + empty_tolerance,
            ),
        ),
        _mass_limit(
            "truck.payload",
            loads,
            lambda at: at.truck.payload_used_kg,
            truck.payload_limit_kg,
            missing="truck.payload",
            forms=on_tongue(
                truck.cargo_mass_kg + plan.hitch.mass_kg,
                (1.0, handed),
                truck.payload_limit_kg,
                payload_tolerance,
            ),
        ),
        _mass_limit(
            "truck.max_trailer_mass",
            loads,
            _trailer_mass,
            truck.max_trailer_mass_kg,
            missing="truck.max_trailer_mass",
            forms=_trailer_mass_forms(truck.max_trailer_mass_kg),
        ),
    ]
    if truck.max_tongue_mass_kg is not None:
        found.append(
            _mass_limit(
                "truck.max_tongue_mass",
                loads,
                _tongue,
                truck.max_tongue_mass_kg,
                forms=on_tongue(0.0, (1.0, 1.0), truck.max_tongue_mass_kg, 0.0),
            )
        )
    gcwr_forms: tuple[Form, ...] = ()
    if truck.gcwr_kg is not None:
        gcwr_forms = (
            Form(
                const=carried.unhitched_mass_kg - truck.gcwr_kg,
                const_tolerance=cargo_tolerance + empty_tolerance,
                me=1.0,
                a=1.0,
                scale=max(truck.gcwr_kg, 1.0),
            ),
        )
    found.append(
        _mass_limit(
            "combination.gcwr",
            loads,
            lambda at: at.combination_kg,
            truck.gcwr_kg,
            missing="truck.gcwr",
            forms=gcwr_forms,
        )
    )
    return found


def _truck_tire_limits(
    truck: Truck,
    loads: Loads,
    on_tongue: Callable[..., tuple[Form, ...]],
    slopes: tuple[tuple[float, float], tuple[float, float]],
    tolerances: tuple[float, float],
) -> list[Limit]:
    """The truck's tires, where their capacity is known."""
    found = []
    if truck.front_tire_capacity_kg is not None:
        found.append(
            _mass_limit(
                "truck.front_tires",
                loads,
                _front_axle,
                truck.front_tire_capacity_kg,
                forms=on_tongue(
                    loads.truck.front_unhitched_kg,
                    slopes[0],
                    truck.front_tire_capacity_kg,
                    tolerances[0],
                ),
            )
        )
    if truck.rear_tire_capacity_kg is not None:
        found.append(
            _mass_limit(
                "truck.rear_tires",
                loads,
                _rear_axle,
                truck.rear_tire_capacity_kg,
                forms=on_tongue(
                    loads.truck.rear_unhitched_kg,
                    slopes[1],
                    truck.rear_tire_capacity_kg,
                    tolerances[1],
                ),
            )
        )
    return found


def _light_limits(
    loads: Loads,
    slopes: tuple[tuple[float, float], tuple[float, float]],
    tolerances: tuple[float, float],
    lever: float,
) -> list[Limit]:
    """Both truck axles stay on the ground, and keep enough of what they carried unhitched.

    A limit of zero takes no part in the aim.
    """
    carried = loads.truck
    found = []
    for code, value, unhitched, read, (below, above), tolerance in (
        (
            "truck.front_light",
            carried.front_kg,
            carried.front_unhitched_kg,
            _front_axle,
            slopes[0],
            tolerances[0],
        ),
        (
            "truck.rear_light",
            carried.rear_kg,
            carried.rear_unhitched_kg,
            _rear_axle,
            slopes[1],
            tolerances[1],
        ),
    ):
        form = _tongue_form(-unhitched, (-below, -above), 0.0, tolerance, lever)
        found.append(
            Limit(
                code=code,
                quantity=Quantity.MASS,
                value=value,
                limit=0.0,
                read=read,
                sense=Sense.AT_LEAST,
                strict=True,
                near_below=LIGHT * unhitched,
                forms=(form._replace(scale=max(abs(unhitched), 1.0)),),
            )
        )
    return found


def _front_axle(loads: Loads) -> float:
    return loads.truck.front_kg


def _rear_axle(loads: Loads) -> float:
    return loads.truck.rear_kg


def _ball_size_limits(plan: Plan) -> list[Limit]:
    """The ball against the coupler; cannot say where only one of the two is known."""
    ball, coupler = plan.hitch.ball_diameter_m, plan.trailer.coupler_size_m
    if ball is None and coupler is None:
        return []
    forms: tuple[Form, ...] = ()
    if ball is not None and coupler is not None:
        forms = (Form(const=abs(ball - coupler) - SAME_SIZE_M),)
    return [
        Limit(
            code="hitch.ball_size",
            quantity=Quantity.LENGTH,
            value=ball or 0.0,
            limit=None if ball is None else coupler,
            sense=Sense.EQUAL,
            missing="hitch.ball_diameter" if ball is None else "trailer.coupler_size",
            forms=forms,
        )
    ]


def _tongue_form(
    base: float, slopes: tuple[float, float], limit: float, tolerance: float, lever: float
) -> Form:
    """``base + slope T <= limit`` as a bound on the tongue mass ``T``.

    ``slopes`` are for ``T < 0`` and ``T > 0``: the bars act only on a tongue that pushes
    down. Both have one sign, or the second is zero, so the load is monotone in the
    tongue and the limit is one bound on it.
    """
    below, above = slopes
    scale = max(limit, 1.0)
    if below == 0:
        return Form(const=base - limit, const_tolerance=tolerance, scale=scale)
    bound = _tongue_bound(limit - base, below, above)
    worst = _tongue_bound(limit - base - tolerance, below, above)
    sign = 1.0 if below > 0 else -1.0
    const = -sign * bound
    return Form(
        const=const,
        const_tolerance=0.0 if math.isinf(const) else -sign * (worst - bound),
        te=sign,
        a=sign,
        b=-sign / lever,
        scale=scale,
    )


def _tongue_bound(room: float, below: float, above: float) -> float:
    """The tongue mass at which ``slope T`` uses up ``room``; infinite where none does."""
    if (room >= 0) == (below > 0):
        return room / above if above else math.inf
    return room / below


def _hitch_limits(plan: Plan, loads: Loads) -> list[Limit]:
    lever = plan.trailer.couple_lever_m
    found = _ball_size_limits(plan)
    for part in plan.hitch.parts:
        limit = plan.hitch.trailer_limit_kg(part)
        if limit is not None:
            found.append(
                _mass_limit(
                    f"hitch.{part.name}.max_trailer_mass",
                    loads,
                    _trailer_mass,
                    limit,
                    near=NEAR_HITCH,
                    forms=_trailer_mass_forms(limit),
                )
            )
    for part in plan.hitch.parts:
        limit = plan.hitch.tongue_limit_kg(part)
        if limit is not None:
            found.append(
                _mass_limit(
                    f"hitch.{part.name}.max_tongue_mass",
                    loads,
                    _tongue,
                    limit,
                    near=NEAR_HITCH,
                    forms=(_tongue_form(0.0, (1.0, 1.0), limit, 0.0, lever),),
                )
            )
    return found


def _share_limits(plan: Plan, loads: Loads) -> list[Limit]:
    least, greatest = plan.share_range
    lever = plan.trailer.couple_lever_m
    share, scale = loads.trailer.share, loads.trailer.mass_kg
    return [
        Limit(
            code="tongue.share_min",
            quantity=Quantity.SHARE,
            value=share,
            limit=least,
            read=_share,
            sense=Sense.AT_LEAST,
            forms=(Form(const=0.0, me=least, te=-1.0, a=least - 1, b=1 / lever, scale=scale),),
        ),
        Limit(
            code="tongue.share_max",
            quantity=Quantity.SHARE,
            value=share,
            limit=greatest,
            read=_share,
            forms=(
                Form(const=0.0, me=-greatest, te=1.0, a=1 - greatest, b=-1 / lever, scale=scale),
            ),
        ),
    ]
