"""Arrangements and changes against brute force.

Every order and facing is gone through one by one. In a row each reserve is taken at both ends
of the way on which all are pushed back together; where the lowest of the lines between them is
highest the loads are computed once more. Where that does not agree, the least reserve is still a
concave function of the way, and a section search finds its top. Side by side, each choice of
relations is a linear program for ``scipy.optimize.linprog``. Neither knows anything of the model
that is tested.
"""

from __future__ import annotations

import itertools
import random
from collections.abc import Callable
from dataclasses import replace

import numpy as np
from django.test import SimpleTestCase
from scipy.optimize import linprog, minimize_scalar

from mechanics.arrange import Wishes, arrange
from mechanics.changes import Kind, changes
from mechanics.checks import Status, judge
from mechanics.item import BalancePoint, Facing, Item, Placement
from mechanics.limits import Sense, load_limits
from mechanics.loads import compute_loads
from mechanics.plan import Plan
from mechanics.tests.outfits import random_plan
from mechanics.trailer import Deck

AGREE = 3e-5
"""Reserves this close are one: the search proves its best to a thousandth of a percent."""


def exact(plan: Plan) -> Plan:
    """The plan with every figure exact, so that sure and right are the same."""
    return replace(
        plan,
        truck=replace(
            plan.truck,
            front_axle_mass_tolerance_kg=0.0,
            rear_axle_mass_tolerance_kg=0.0,
            cargo=tuple(replace(c, mass_tolerance_kg=0.0) for c in plan.truck.cargo),
        ),
        trailer=replace(
            plan.trailer,
            empty_mass_tolerance_kg=0.0,
            empty_tongue_mass_tolerance_kg=0.0,
            axles_tolerance_m=0.0,
            deck=replace(plan.trailer.deck, start_tolerance_m=0.0),
        ),
        items=tuple(
            replace(
                i,
                mass_tolerance_kg=0.0,
                cg=replace(i.cg, ahead_tolerance_m=0.0),
                placement=replace(i.placement, reference_tolerance_m=0.0),
            )
            for i in plan.items
        ),
    )


def changing(plan: Plan) -> set[str]:
    """Codes of the load limits that shoving one item along or across the deck changes."""
    item = plan.items[0]
    here = {c.code: c.value for c in map(judge, load_limits(plan, compute_loads(plan)))}
    codes: set[str] = set()
    for along, across in ((0.5, 0.0), (0.0, 0.5)):
        place = item.placement
        there = plan.with_placement(
            item.id,
            replace(place, reference_m=place.reference_m - along, left_m=place.left_m + across),
        )
        limits = load_limits(there, compute_loads(there))
        codes |= {
            c.code for c in map(judge, limits) if abs(c.value - here[c.code]) > 1e-9 * abs(c.value)
        }
    return codes


def reserves(plan: Plan, codes: set[str]) -> dict[str, float] | None:
    """The reserve of each limit; ``None`` where any limit on a load is passed by itself."""
    checks = [judge(limit) for limit in load_limits(plan, compute_loads(plan))]
    if any(c.status is Status.OVER and c.code not in codes for c in checks):
        return None
    return {c.code: c.reserve for c in checks if c.reserve is not None and c.code in codes}


RAISED = {
    "truck.front_gawr": "front_gawr_kg",
    "truck.rear_gawr": "rear_gawr_kg",
    "truck.max_trailer_mass": "max_trailer_mass_kg",
    "truck.max_tongue_mass": "max_tongue_mass_kg",
    "combination.gcwr": "gcwr_kg",
    "trailer.gvwr": "",
}
"""Limits that are one rating of the plan, and where on the truck it stands."""


def with_more(plan: Plan, code: str, more: float) -> Plan:
    """The plan with one rating raised."""
    rating = limit_of(plan, code) + more
    if code == "trailer.gvwr":
        return replace(plan, trailer=replace(plan.trailer, gvwr_kg=rating))
    return replace(plan, truck=replace(plan.truck, **{RAISED[code]: rating}))


def limit_of(plan: Plan, code: str) -> float:
    """One rating as the plan has it, zero where it has none."""
    if code == "trailer.gvwr":
        return plan.trailer.gvwr_kg or 0.0
    return getattr(plan.truck, RAISED[code]) or 0.0


def in_a_row(plan: Plan) -> float:
    """The best least reserve over all orders and facings of items that cannot pass."""
    deck = plan.trailer.deck
    best = -10.0
    codes = changing(replace(plan, items=tuple(_at(i, 0.3) for i in plan.items)))
    for facings in itertools.product(list(Facing), repeat=len(plan.items)):
        turned = [
            replace(item, placement=replace(item.placement, facing=facing))
            for item, facing in zip(plan.items, facings, strict=True)
        ]
        length = sum(i.front_m + i.rear_m for i in turned)
        free = deck.length_m + deck.rear_overhang_m + deck.front_overhang_m - length
        if free < 0:
            return -10.0
        for order in itertools.permutations(turned):
            row, at = [], -deck.front_overhang_m
            for item in order:
                row.append(_at(item, at + item.reach_forward_m))
                at += item.front_m + item.rear_m

            def at_shift(shift: float, row: list[Item] = row) -> dict[str, float] | None:
                moved = tuple(_at(i, i.placement.reference_m + shift) for i in row)
                return reserves(replace(plan, items=moved), codes)

            best = max(best, _top(at_shift, free))
    return best


def _top(at_shift: Callable[[float], dict[str, float] | None], free: float) -> float:
    """The highest that the least reserve comes to on the way."""

    def passed(shift: float) -> float:
        there = at_shift(shift)
        return 10.0 if there is None else -min(there.values(), default=10.0)

    first, last = at_shift(0.0), at_shift(free)
    if first and last:
        low = np.array([first[code] for code in first])
        slope = np.array([last[code] for code in first]) - low
        steeper = slope[:, None] - slope[None, :]
        with np.errstate(divide="ignore", invalid="ignore"):
            meet = (low[None, :] - low[:, None]) / steeper
        parts = np.concatenate([[0.0, 1.0], meet[(meet > 0) & (meet < 1)]])
        least = (low[:, None] + slope[:, None] * parts).min(axis=0)
        highest = int(least.argmax())
        there = at_shift(free * float(parts[highest])) or {}
        lines = low + slope * parts[highest]
        if all(
            abs(there.get(code, np.inf) - line) < 1e-9
            for code, line in zip(first, lines, strict=True)
        ):
            return min(there.values())
    # not all of them are lines: a kink of one lies within, and the top is searched for
    ends = min(passed(0.0), passed(free))
    if free < 1e-9:
        return -ends
    inner = minimize_scalar(passed, bounds=(0.0, free), method="bounded", options={"xatol": 1e-6})
    return -min(ends, float(inner.fun))


def _at(item: Item, reference_m: float) -> Item:
    return replace(item, placement=replace(item.placement, reference_m=reference_m))


def anyhow(plan: Plan) -> float:
    """The best least reserve where items may stand beside each other, a program for each way."""
    best = -10.0
    for facings in itertools.product(list(Facing), repeat=len(plan.items)):
        turned = replace(
            plan,
            items=tuple(
                replace(i, placement=Placement(reference_m=0.2, facing=f))
                for i, f in zip(plan.items, facings, strict=True)
            ),
        )
        rows, room = _margins(turned)
        pairs = list(itertools.combinations(range(len(plan.items)), 2))
        for ways in itertools.product(range(4), repeat=len(pairs)):
            best = max(best, _best_place(turned, rows, room, dict(zip(pairs, ways, strict=True))))
    return best


def _margins(plan: Plan) -> tuple[np.ndarray, np.ndarray]:
    """Reserves as straight lines over (references, lefts): slopes by shoving each item."""

    def reserves(at: Plan) -> np.ndarray:
        return np.array(
            [
                (1 if limit.sense is Sense.AT_MOST else -1)
                * (limit.limit - limit.read(loads))
                / abs(limit.limit)
                for loads in [compute_loads(at)]
                for limit in load_limits(at, loads)
                if limit.read is not None and limit.limit
            ]
        )

    zero = reserves(plan)
    slopes = []
    for along, across in ((0.1, 0.0), (0.0, 0.1)):
        for item in plan.items:
            place = item.placement
            shoved = plan.with_placement(
                item.id,
                replace(place, reference_m=place.reference_m - along, left_m=across),
            )
            slopes.append((reserves(shoved) - zero) / (across - along))
    rows = np.array(slopes).T
    start = np.array([i.placement.reference_m for i in plan.items] + [0.0] * len(plan.items))
    return rows, zero - rows @ start


def _best_place(
    plan: Plan, rows: np.ndarray, room: np.ndarray, ways: dict[tuple[int, int], int]
) -> float:
    items, deck = plan.items, plan.trailer.deck
    count = len(items)
    wide = deck.width_m or 0.0
    matrix, bounds_to = [], []
    moves = np.abs(rows).max(axis=1) > 1e-12
    for slope, constant, free in zip(rows, room, moves, strict=True):
        matrix.append([*-slope, 1.0 if free else 0.0])
        bounds_to.append(constant)
    for (i, j), way in ways.items():
        if way >= 2 and items[i].width_m + items[j].width_m > wide:
            return -10.0
        near, far = (i, j) if way % 2 == 0 else (j, i)
        row = [0.0] * (2 * count + 1)
        if way < 2:
            row[near], row[far] = 1.0, -1.0
            bounds_to.append(-items[near].reach_rearward_m - items[far].reach_forward_m)
        else:
            row[count + near], row[count + far] = -1.0, 1.0
            bounds_to.append(-(items[near].width_m + items[far].width_m) / 2)
        matrix.append(row)
    bounds = [
        (
            i.reach_forward_m - deck.front_overhang_m,
            deck.length_m + deck.rear_overhang_m - i.reach_rearward_m,
        )
        for i in items
    ]
    for i in items:
        partner = any(o is not i and o.width_m + i.width_m <= wide for o in items)
        half = (wide - i.width_m) / 2 if partner else 0.0
        bounds.append((-half, half))
    if any(low > high for low, high in bounds):
        return -10.0
    cost = [0.0] * (2 * count) + [-1.0]
    found = linprog(cost, A_ub=matrix, b_ub=bounds_to, bounds=[*bounds, (0, 10)])
    return -float(found.fun) if found.status == 0 else -10.0


class InARow(SimpleTestCase):
    def test_two_hundred_hauls(self) -> None:
        fits = 0
        for seed in range(200):
            rng = random.Random(7000 + seed)
            plan = exact(random_plan(rng, items=1 if seed < 30 else 2 if seed < 180 else 3))
            expected = in_a_row(plan)
            result = arrange(plan)
            self.assertTrue(result.proved)
            with self.subTest(seed=seed):
                if expected < 0:
                    self.assertEqual((), result.found)
                    continue
                fits += 1
                self.assertAlmostEqual(expected, result.found[0].least_reserve, delta=AGREE)
        self.assertGreater(fits, 60)


class SideBySide(SimpleTestCase):
    def test_against_a_program_for_each_way(self) -> None:
        fits = beside = 0
        for seed in range(44):
            rng = random.Random(9000 + seed)
            count = 2 if seed < 38 else 3
            plan = exact(random_plan(rng, items=count))
            items = tuple(
                replace(
                    item,
                    front_m=rng.uniform(0.5, 2.6),
                    rear_m=rng.uniform(0.4, 1.8),
                    width_m=rng.uniform(0.6, 1.5),
                    cg=BalancePoint(ahead_m=item.cg.ahead_m, left_m=item.cg.left_m),
                    placement=Placement(reference_m=1.0),
                )
                for item in plan.items
            )
            deck = Deck(start_m=plan.trailer.deck.start_m, length_m=rng.uniform(4, 7), width_m=2.1)
            plan = replace(plan, items=items, trailer=replace(plan.trailer, deck=deck))
            expected = anyhow(plan)
            result = arrange(plan)
            with self.subTest(seed=seed):
                if expected < 0:
                    self.assertEqual((), result.found)
                    continue
                fits += 1
                found = result.found[0]
                self.assertAlmostEqual(expected, found.least_reserve, delta=AGREE)
                pairs = itertools.combinations(found.plan.items, 2)
                beside += any(a.gap_to_m(b) < -0.01 for a, b in pairs)
        self.assertGreater(fits, 12)
        self.assertGreater(beside, 3)


class WhatToChange(SimpleTestCase):
    def test_against_exhaustive_search(self) -> None:
        """What may stay behind, and the least rise of each single rating, by brute force."""
        stuck = left = 0
        for seed in range(60):
            rng = random.Random(4000 + seed)
            plan = exact(random_plan(rng, items=2))
            if in_a_row(plan) >= 0:
                continue
            stuck += 1
            found = changes(plan, Wishes(beside=False))
            alone = {
                gone.id
                for gone in plan.items
                if in_a_row(replace(plan, items=tuple(i for i in plan.items if i is not gone))) >= 0
            }
            with self.subTest(seed=seed):
                self.assertEqual(
                    alone, {c.items[0] for c in found if c.kind is Kind.LEAVE and len(c.items) == 1}
                )
            left += bool(alone)
        self.assertGreater(min(stuck, left), 5)

    def test_a_rating_is_raised_by_just_enough(self) -> None:
        """One rating of a haul that fits is lowered until it does not fit any more."""
        raised = 0
        for seed in range(70):
            rng = random.Random(5000 + seed)
            plan = exact(random_plan(rng, items=2))
            if in_a_row(plan) < 0:
                continue
            code = rng.choice(list(RAISED))
            best = arrange(plan).found[0].plan
            value = {c.code: c.value for c in map(judge, load_limits(best, compute_loads(best)))}
            if code not in value:
                continue
            now = value[code] * 0.9
            plan = with_more(plan, code, now - limit_of(plan, code))
            if in_a_row(plan) >= 0:
                continue
            found = [
                c
                for c in changes(plan, Wishes(beside=False))
                if c.kind is Kind.RATING and c.ratings[0][0] == code
            ]
            with self.subTest(seed=seed, code=code):
                self.assertEqual(1, len(found))
                for part, fits in ((0.999, False), (1.001, True)):
                    more = found[0].ratings[0][1] * part
                    self.assertEqual(fits, in_a_row(with_more(plan, code, more)) >= 0)
            raised += 1
        self.assertGreater(raised, 8)
