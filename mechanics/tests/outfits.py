"""Plans for the tests: one fixed, and any that a real outfit might be."""

from __future__ import annotations

import random
from dataclasses import replace

from hypothesis import strategies as st

from mechanics.hitch import Hitch, HitchPart, HitchType, WeightDistribution
from mechanics.item import BalancePoint, Facing, Item, Placement
from mechanics.plan import Plan
from mechanics.rules import Rules, TongueSchool, TrailerGvwrSchool
from mechanics.trailer import Axle, Deck, Suspension, Trailer
from mechanics.truck import Cargo, Truck
from mechanics.units import KG_PER_LB, M_PER_IN


def lb(number: float) -> float:
    """Pounds in kilograms."""
    return number * KG_PER_LB


def inch(number: float) -> float:
    """Inches in metres."""
    return number * M_PER_IN


def example_plan() -> Plan:
    """A three-quarter-ton truck, a 20 ft trailer, a loader tractor: nothing is over."""
    return Plan(
        truck=Truck(
            front_axle_mass_kg=lb(4180),
            rear_axle_mass_kg=lb(2940),
            wheelbase_m=inch(160),
            hitch_offset_m=inch(50),
            front_gawr_kg=lb(5200),
            rear_gawr_kg=lb(6340),
            gvwr_kg=lb(10000),
            gcwr_kg=lb(22000),
            max_trailer_mass_kg=lb(13000),
            payload_kg=lb(2700),
            cargo=(
                Cargo(name="driver", mass_kg=lb(190), ahead_of_rear_axle_m=inch(70)),
                Cargo(name="tools", mass_kg=lb(160), ahead_of_rear_axle_m=inch(28)),
            ),
        ),
        hitch=Hitch(
            type=HitchType.BALL,
            mass_kg=lb(55),
            parts=(
                HitchPart(
                    name="receiver", max_trailer_mass_kg=lb(12000), max_tongue_mass_kg=lb(1500)
                ),
                HitchPart(name="ball", max_trailer_mass_kg=lb(12000)),
            ),
        ),
        trailer=Trailer(
            empty_mass_kg=lb(2900),
            empty_mass_tolerance_kg=lb(40),
            empty_tongue_mass_kg=lb(380),
            empty_tongue_mass_tolerance_kg=lb(20),
            gvwr_kg=lb(10000),
            axles=tuple(
                Axle(position_m=inch(at), gawr_kg=lb(5200), tire_capacity_kg=lb(5560))
                for at in (183, 217)
            ),
            track_width_m=inch(84),
            deck=Deck(start_m=inch(52), length_m=inch(240), width_m=inch(82)),
        ),
        items=(tractor(),),
    )


def tractor(item_id: str = "tractor", reference_in: float = 150) -> Item:
    """The loader tractor of the example."""
    return Item(
        id=item_id,
        mass_kg=lb(5350),
        mass_tolerance_kg=lb(250),
        cg=BalancePoint(ahead_m=inch(30), ahead_tolerance_m=inch(3)),
        front_m=inch(118),
        rear_m=inch(46),
        width_m=inch(66),
        placement=Placement(reference_m=inch(reference_in)),
    )


def with_bars(plan: Plan, restoration: float) -> Plan:
    """The plan with spring bars."""
    bars = WeightDistribution(front_axle_restoration=restoration)
    return replace(plan, hitch=replace(plan.hitch, weight_distribution=bars))


def random_plan(rng: random.Random, *, items: int = 1) -> Plan:
    """A plausible outfit, any hitch, any suspension, tolerances included."""
    gooseneck = rng.random() < 0.3
    axle_at = rng.uniform(3.0, 7.0)
    count = rng.choice((1, 2, 2, 3))
    mass = rng.uniform(500, 2800)
    rated = rng.uniform(0.75, 1.5)
    made = Plan(
        truck=Truck(
            front_axle_mass_kg=rng.uniform(1300, 2100),
            rear_axle_mass_kg=rng.uniform(900, 1500),
            wheelbase_m=rng.uniform(3.2, 4.5),
            hitch_offset_m=rng.uniform(-0.2, 0.1) if gooseneck else rng.uniform(0.9, 1.5),
            front_gawr_kg=2400 * rated,
            rear_gawr_kg=2900 * rated,
            gvwr_kg=4600 * rated,
            gcwr_kg=11000 * rated,
            max_trailer_mass_kg=7000 * rated,
            payload_kg=rng.choice((None, 1300 * rated)),
            max_tongue_mass_kg=rng.choice((None, 900 * rated)),
            cargo=(
                Cargo(
                    mass_kg=rng.uniform(70, 250),
                    mass_tolerance_kg=rng.uniform(0, 30),
                    ahead_of_rear_axle_m=rng.uniform(-0.8, 2.0),
                ),
            ),
        ),
        hitch=Hitch(
            type=HitchType.GOOSENECK if gooseneck else HitchType.BALL,
            mass_kg=rng.uniform(0, 80),
            parts=(
                HitchPart(
                    name="receiver",
                    max_trailer_mass_kg=6000 * rated,
                    max_tongue_mass_kg=700 * rated,
                ),
            ),
            weight_distribution=WeightDistribution(
                front_axle_restoration=rng.choice((0.0, 0.5, 1.0, rng.random()))
            )
            if not gooseneck and rng.random() < 0.5
            else None,
        ),
        trailer=Trailer(
            empty_mass_kg=mass,
            empty_mass_tolerance_kg=rng.uniform(0, 30),
            empty_tongue_mass_kg=mass * rng.uniform(0.05, 0.25),
            empty_tongue_mass_tolerance_kg=rng.uniform(0, 15),
            gvwr_kg=6000 * rated,
            axles=tuple(
                Axle(
                    position_m=axle_at + 0.86 * n,
                    gawr_kg=rng.uniform(2200, 3400) * rated,
                    tire_capacity_kg=rng.choice((None, 3000 * rated)),
                )
                for n in range(count)
            ),
            track_width_m=rng.uniform(1.7, 2.2),
            suspension=rng.choice(list(Suspension)),
            deck=Deck(
                start_m=rng.uniform(0.8, 2.2),
                length_m=rng.uniform(4.5, 8.0),
                rear_overhang_m=rng.choice((0.0, 0.6)),
            ),
        ),
        rules=Rules(
            tongue=rng.choice(
                (TongueSchool.DEFAULT, TongueSchool.SHARE_9_15, TongueSchool.SHARE_10_20)
            ),
            trailer_gvwr=rng.choice(list(TrailerGvwrSchool)),
        ),
    )
    placed = []
    for n in range(items):
        placed.append(
            Item(
                id=f"m{n + 1}",
                mass_kg=rng.uniform(400, 3000) / items,
                mass_tolerance_kg=rng.uniform(0, 120),
                cg=BalancePoint(
                    ahead_m=rng.uniform(-0.5, 1.0),
                    ahead_tolerance_m=rng.uniform(0, 0.2),
                    left_m=rng.uniform(-0.1, 0.1),
                ),
                front_m=rng.uniform(0.6, 2.4) / items**0.5,
                rear_m=rng.uniform(0.4, 1.4) / items**0.5,
                width_m=rng.choice((None, 1.4)),
                placement=Placement(
                    reference_m=rng.uniform(0.5, made.trailer.deck.length_m),
                    facing=rng.choice(list(Facing)),
                    left_m=rng.uniform(-0.2, 0.2),
                ),
            )
        )
    taped = rng.random() < 0.6
    trailer = replace(
        made.trailer,
        axles_tolerance_m=rng.uniform(0, 0.03) if taped else 0.0,
        deck=replace(made.trailer.deck, start_tolerance_m=rng.uniform(0, 0.03) if taped else 0.0),
    )
    placed = [
        replace(
            i,
            placement=replace(
                i.placement, reference_tolerance_m=rng.uniform(0, 0.05) if taped else 0.0
            ),
        )
        for i in placed
    ]
    truck = replace(
        made.truck,
        front_axle_mass_tolerance_kg=rng.choice((0.0, rng.uniform(0, 60))),
        rear_axle_mass_tolerance_kg=rng.choice((0.0, rng.uniform(0, 60))),
        front_tire_capacity_kg=rng.choice((None, 2400 * rated)),
        rear_tire_capacity_kg=rng.choice((None, 2800 * rated)),
    )
    return replace(made, items=tuple(placed), truck=truck, trailer=trailer)


def rough_plan(rng: random.Random, *, items: int = 1) -> Plan:
    """The same with the truck's lengths and the trailer's track no better than guessed."""
    plan = random_plan(rng, items=items)
    truck = replace(
        plan.truck,
        wheelbase_tolerance_m=rng.choice((0.0, rng.uniform(0, 0.3))),
        hitch_offset_tolerance_m=rng.choice((0.0, rng.uniform(0, 0.2))),
        cargo=tuple(
            replace(c, ahead_tolerance_m=rng.choice((0.0, rng.uniform(0, 0.3))))
            for c in plan.truck.cargo
        ),
        estimates=("wheelbase",),
    )
    track = rng.choice((0.0, rng.uniform(0, 0.2)))
    return replace(plan, truck=truck, trailer=replace(plan.trailer, track_width_tolerance_m=track))


plans = st.builds(
    lambda seed, items, rough: (rough_plan if rough else random_plan)(
        random.Random(seed), items=items
    ),
    st.integers(0, 2**32),
    st.integers(0, 3),
    st.booleans(),
)
"""Any plausible plan, with none to three items."""

loaded_plans = plans.filter(lambda plan: bool(plan.items))
"""The same with something on the deck."""
