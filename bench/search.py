"""How long the arranging of random loads takes, easy and hard ones."""

from __future__ import annotations

import random
import time
from dataclasses import replace

from mechanics.arrange import Wishes, arrange
from mechanics.item import BalancePoint, Item, Placement
from mechanics.plan import Plan
from mechanics.tests.outfits import example_plan, inch, lb
from mechanics.trailer import Axle, Deck


def long_trailer() -> Plan:
    """The example's truck before a 30 ft trailer on 7,000 lb axles."""
    plan = example_plan()
    trailer = replace(
        plan.trailer,
        gvwr_kg=lb(14000),
        axles=tuple(Axle(position_m=inch(at), gawr_kg=lb(7000)) for at in (260, 294)),
        deck=Deck(start_m=inch(52), length_m=inch(360), width_m=inch(96)),
    )
    truck = replace(plan.truck, gcwr_kg=lb(30000), max_trailer_mass_kg=lb(14000))
    return replace(plan, trailer=trailer, truck=truck)


def random_load(rng: random.Random, count: int) -> tuple[Item, ...]:
    """So many pieces that fill 60 to 102 % of the deck in a row, a third of them narrow."""
    cuts = sorted(rng.random() for _ in range(count - 1))
    parts = [b - a for a, b in zip([0.0, *cuts], [*cuts, 1.0], strict=True)]
    length = 360 * rng.uniform(0.6, 1.02)
    items = []
    for n, part in enumerate(parts):
        size = max(length * part, 6)
        front = rng.uniform(0.3, 0.7) * size
        items.append(
            Item(
                id=f"m{n}",
                mass_kg=lb(rng.uniform(300, 9000 / count)),
                mass_tolerance_kg=lb(30),
                cg=BalancePoint(
                    ahead_m=inch(rng.uniform(-0.2, 0.2) * size), ahead_tolerance_m=inch(2)
                ),
                front_m=inch(front),
                rear_m=inch(size - front),
                width_m=inch(rng.choice([40, 60, 80])),
                placement=Placement(reference_m=1.0),
            )
        )
    return tuple(items)


def bench_arrange(count: int, runs: int) -> tuple[list[float], int]:
    """Seconds of each search, and how many of them were not proved in their time."""
    rng = random.Random(count)
    plan = long_trailer()
    times, unproved = [], 0
    for _ in range(runs):
        load = replace(plan, items=random_load(rng, count))
        begin = time.perf_counter()
        found = arrange(load, Wishes(room_m=0.05))
        times.append(time.perf_counter() - begin)
        unproved += not found.proved
    return times, unproved
