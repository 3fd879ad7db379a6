"""Plans that a machine is driven onto: one fixed, and any that a yard might have."""

from __future__ import annotations

import random
from dataclasses import replace

from hypothesis import strategies as st

from mechanics.item import BalancePoint, Contact, Facing, Item, Placement, Underside
from mechanics.plan import Plan
from mechanics.site import Site, Surface
from mechanics.tail import Bed, Dovetail, Ramp, RampKind, Stands
from mechanics.tests.outfits import example_plan, inch, lb, random_plan
from mechanics.truck import Drive, Ride


def climbing_plan(**site: object) -> Plan:
    """The example's tractor, truck and trailer with everything known that loading asks for."""
    plan = example_plan()
    trailer = replace(
        plan.trailer,
        coupler_height_m=inch(20),
        deck=replace(plan.trailer.deck, height_m=inch(26)),
        ramp=Ramp(kind=RampKind.RAMPS, length_m=inch(66)),
    )
    tractor = replace(
        plan.items[0],
        cg=BalancePoint(ahead_m=inch(30), height_m=inch(31)),
        contacts=(Contact(ahead_m=0.0), Contact(ahead_m=inch(73))),
    )
    return replace(
        plan,
        trailer=trailer,
        items=(tractor,),
        site=Site(**site),  # type: ignore[arg-type]
    )


def excavator(reference_in: float = 150, *, facing: Facing = Facing.FORWARD) -> Item:
    """A machine on tracks of 60 in, its balance point behind and well above their middle."""
    return Item(
        id="digger",
        mass_kg=lb(3860),
        cg=BalancePoint(ahead_m=inch(-4), height_m=inch(30)),
        front_m=inch(92),
        rear_m=inch(44),
        contacts=(Contact(ahead_m=0.0, length_m=inch(60)),),
        placement=Placement(reference_m=inch(reference_in), facing=facing),
    )


def random_climb(rng: random.Random) -> Plan:
    """A plausible outfit with one or two machines that can be driven on, wheels or tracks."""
    plan = random_plan(rng, items=rng.choice((1, 1, 2)))
    height = rng.uniform(0.45, 0.95)
    length = plan.trailer.deck.length_m
    dovetail = None
    if rng.random() < 0.3:
        dovetail = Dovetail(length_m=rng.uniform(0.6, 1.6), drop_m=rng.uniform(0.05, 0.3))
    tail = plan.trailer.deck.start_m + length
    behind_axles = tail > plan.trailer.couple_lever_m + 0.3
    trailer = replace(
        plan.trailer,
        coupler_height_m=rng.uniform(0.4, 0.6),
        deck=replace(plan.trailer.deck, height_m=height),
        ramp=Ramp(
            kind=RampKind.RAMPS,
            length_m=height + rng.uniform(0.3, 2.0),
            rating_kg=rng.choice((None, 3000.0)),
            feet=rng.random() < 0.15 and behind_axles,
        ),
        dovetail=dovetail,
        stands=Stands(gap_m=rng.choice((0.0, 0.03)), rating_kg=2000.0),
        bed=Bed(hinge_m=tail - 0.4, mass_kg=500.0, balance_m=tail - 2.0)
        if rng.random() < 0.3
        else None,
    )
    items = tuple(_machine(rng, item) for item in plan.items)
    site = Site(
        slope=rng.choice((0.0, rng.uniform(-0.15, 0.15))),
        surface=rng.choice(list(Surface)),
        foot_rise_m=rng.choice((0.0, rng.uniform(0, 0.2))),
        park_four_wheel=rng.random() < 0.3,
        held_trailer_axles=(1,) if rng.random() < 0.3 else (),
        stands_down=rng.random() < 0.4,
    )
    ride = Ride(ball_height_m=0.5, rear_rate_kg_per_m=30000, front_rate_kg_per_m=26000)
    truck = replace(plan.truck, ride=rng.choice((None, ride)), drive=rng.choice((None, *Drive)))
    return replace(plan, truck=truck, trailer=trailer, items=items, site=site)


def _machine(rng: random.Random, item: Item) -> Item:
    span = item.front_m + item.rear_m
    apart = span * rng.uniform(0.3, 0.7)
    rear = -item.rear_m + (span - apart) * rng.random()
    if rng.random() < 0.3:
        contacts: tuple[Contact, ...] = (Contact(ahead_m=rear + apart / 2, length_m=apart),)
    else:
        contacts = (Contact(ahead_m=rear), Contact(ahead_m=rear + apart))
    low = sorted(rng.uniform(-item.rear_m, item.front_m) for _ in range(rng.randint(2, 5)))
    return replace(
        item,
        cg=replace(
            item.cg, ahead_m=rear + apart * rng.uniform(0.2, 0.8), height_m=rng.uniform(0.3, 0.9)
        ),
        contacts=contacts,
        underside=tuple(Underside(ahead_m=at, clearance_m=rng.uniform(0.15, 0.5)) for at in low),
    )


climbs = st.builds(lambda seed: random_climb(random.Random(seed)), st.integers(0, 2**32))
"""Any plausible plan of one or two machines that can be driven on."""
