"""Limits of the truck: its axles and tires, their staying on the ground, plate, payload, tow
rating, and of truck and trailer together."""

from __future__ import annotations

from collections.abc import Callable

from mechanics.codes import Family
from mechanics.limits.limit import Form, Limit, Quantity, Sense, mass_limit
from mechanics.limits.tongue import tongue, tongue_form, trailer_mass, trailer_mass_forms
from mechanics.loads import Loads, bar_factor_m
from mechanics.plan import Plan
from mechanics.rules import LIGHT
from mechanics.truck import Truck


def truck_limits(plan: Plan, loads: Loads) -> list[Limit]:
    """Axles, tires, axles on the ground, plate, payload, tow rating, nose plate, combination."""
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
    # who sits further forward than thought loads the front axle by as much as it takes off the rear
    elsewhere = sum(
        (c.mass_kg + c.mass_tolerance_kg) * c.ahead_tolerance_m / wheelbase for c in truck.cargo
    )
    front_tolerance = (
        truck.front_axle_mass_tolerance_kg
        + elsewhere
        + sum(abs(t * ahead) for t, ahead in tolerances)
    )
    rear_tolerance = (
        truck.rear_axle_mass_tolerance_kg
        + elsewhere
        + sum(abs(t * (1 - ahead)) for t, ahead in tolerances)
    )
    empty_tolerance = truck.empty_off_kg
    # without a sticker the payload is what GVWR leaves, and as unsure as the empty truck
    payload_tolerance = cargo_tolerance + (empty_tolerance if truck.payload_kg is None else 0.0)

    def on_tongue(
        base: float, slopes: tuple[float, float], limit: float | None, tolerance: float
    ) -> tuple[Form, ...]:
        if limit is None:
            return ()
        return (tongue_form(base, slopes, limit, tolerance, lever),)

    found = [
        mass_limit(
            Family.TRUCK_AXLE.of("front"),
            loads,
            _front_axle,
            truck.front_gawr_kg,
            missing="truck.front_gawr",
            forms=on_tongue(
                carried.front_unhitched_kg, front, truck.front_gawr_kg, front_tolerance
            ),
        ),
        mass_limit(
            Family.TRUCK_AXLE.of("rear"),
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
        mass_limit(
            Family.TRUCK_GVWR.of(),
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
        mass_limit(
            Family.TRUCK_PAYLOAD.of(),
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
        mass_limit(
            Family.TOW_RATING.of(),
            loads,
            trailer_mass,
            truck.max_trailer_mass_kg,
            missing="truck.max_trailer_mass",
            forms=trailer_mass_forms(truck.max_trailer_mass_kg),
        ),
    ]
    if truck.max_tongue_mass_kg is not None:
        found.append(
            mass_limit(
                Family.TRUCK_TONGUE.of(),
                loads,
                tongue,
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
        mass_limit(
            Family.GCWR.of(),
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
    axles = (
        ("front", _front_axle, truck.front_tire_capacity_kg, loads.truck.front_unhitched_kg),
        ("rear", _rear_axle, truck.rear_tire_capacity_kg, loads.truck.rear_unhitched_kg),
    )
    return [
        mass_limit(
            Family.TRUCK_TIRES.of(name),
            loads,
            carried,
            capacity,
            forms=on_tongue(unhitched, slope, capacity, tolerance),
        )
        for (name, carried, capacity, unhitched), slope, tolerance in zip(
            axles, slopes, tolerances, strict=True
        )
        if capacity is not None
    ]


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
    for end, value, unhitched, read, (below, above), tolerance in (
        (
            "front",
            carried.front_kg,
            carried.front_unhitched_kg,
            _front_axle,
            slopes[0],
            tolerances[0],
        ),
        (
            "rear",
            carried.rear_kg,
            carried.rear_unhitched_kg,
            _rear_axle,
            slopes[1],
            tolerances[1],
        ),
    ):
        form = tongue_form(-unhitched, (-below, -above), 0.0, tolerance, lever)
        found.append(
            Limit(
                code=Family.TRUCK_LIGHT.of(end),
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
