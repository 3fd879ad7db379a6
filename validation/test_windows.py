"""Windows against a root finder, a dense sweep and every corner of the tolerances.

Source: ``scipy.optimize.brentq`` for the ends; the sweep and the corners ask the checks
alone, which know nothing of how a window is found.
"""

from __future__ import annotations

import itertools
import random
from collections.abc import Iterator
from dataclasses import replace

from django.test import SimpleTestCase
from scipy.optimize import brentq

from mechanics.certainty import unsettled
from mechanics.checks import Check, Status, judge
from mechanics.limits import Quantity, deck_limits, load_limits
from mechanics.loads import compute_loads
from mechanics.placing import moved
from mechanics.plan import Plan
from mechanics.report import evaluate
from mechanics.tests.outfits import random_plan, rough_plan
from mechanics.windows import Interval

STEP = 0.004
"""Metres between two places of the sweep."""


def checks_at(plan: Plan, index: int, at: float) -> list[Check]:
    """Every check that an item's window asks, with its mark at a place."""
    item = plan.items[index]
    moved = plan.with_placement(item.id, replace(item.placement, reference_m=at))
    found = [judge(limit) for limit in load_limits(moved, compute_loads(moved))]
    for limit in deck_limits(moved):
        about = limit.item == item.id or limit.code == f"item.{item.id}"
        if about and not limit.soft:
            found.append(judge(limit))
    return found


def holds(plan: Plan, index: int, at: float) -> bool:
    """Whether no check is over there."""
    return all(c.status is not Status.OVER for c in checks_at(plan, index, at))


def inside(pieces: tuple[Interval, ...], at: float) -> bool:
    """Whether a place lies in one of the pieces."""
    return any(p.start_m <= at <= p.end_m for p in pieces)


def at_an_end(pieces: tuple[Interval, ...], at: float) -> bool:
    """Whether a place is too near an end to tell the two sides apart."""
    return any(abs(at - e) < 1e-6 for p in pieces for e in (p.start_m, p.end_m))


class SafeWindow(SimpleTestCase):
    def test_against_a_dense_sweep(self) -> None:
        seen_open = 0
        for seed in range(28):
            plan = random_plan(random.Random(1000 + seed), items=1 + seed % 3)
            for index, window in enumerate(evaluate(plan).windows):
                length = plan.trailer.deck.length_m
                seen_open += bool(window.intervals)
                for n in range(int((length + 2) / (STEP * 8))):
                    at = -1 + n * STEP * 8
                    if at_an_end(window.intervals, at):
                        continue
                    with self.subTest(seed=seed, index=index, at=at):
                        self.assertEqual(holds(plan, index, at), inside(window.intervals, at))
        self.assertGreater(seen_open, 12)

    def test_ends_against_a_root_finder(self) -> None:
        """The named check's own margin is zero at the end, found by bracketing it."""
        found = 0
        for seed in range(60):
            plan = random_plan(random.Random(2000 + seed))
            for window in evaluate(plan).windows:
                for piece in window.intervals:
                    ends = ((piece.start_m, piece.start_limit), (piece.end_m, piece.end_limit))
                    for at, code in ends:

                        def margin(x: float, plan: Plan = plan, code: str = code) -> float:
                            check = next(c for c in checks_at(plan, 0, x) if c.code == code)
                            return check.margin or 0.0

                        root = brentq(margin, at - 0.5, at + 0.5, xtol=1e-12)
                        self.assertAlmostEqual(root, at, delta=1e-8)
                        found += 1
        self.assertGreater(found, 40)


class SureWindow(SimpleTestCase):
    def corners(self, plan: Plan) -> list[Plan]:
        """The plan at every combination of the ends of its tolerances."""
        trailer, made = plan.trailer, []
        signs = (-1, 1)
        # the taped places shift together, the weighed figures stay
        axles, deck = trailer.axles_tolerance_m, trailer.deck.start_tolerance_m
        shifts = itertools.product(signs if axles else (1,), signs if deck else (1,))
        for (by, to), me, te in itertools.product(list(shifts), signs, signs):
            at_corner = replace(
                trailer,
                axles=tuple(
                    replace(a, position_m=a.position_m + by * axles) for a in trailer.axles
                ),
                deck=replace(trailer.deck, start_m=trailer.deck.start_m + to * deck),
                empty_mass_kg=trailer.empty_mass_kg + me * trailer.empty_mass_tolerance_kg,
                empty_tongue_mass_kg=trailer.empty_tongue_mass_kg
                + te * trailer.empty_tongue_mass_tolerance_kg,
            )
            for cargo_sign, front_sign, rear_sign in itertools.product(
                signs,
                signs if plan.truck.front_axle_mass_tolerance_kg else (1,),
                signs if plan.truck.rear_axle_mass_tolerance_kg else (1,),
            ):
                cargo = tuple(
                    replace(c, mass_kg=c.mass_kg + cargo_sign * c.mass_tolerance_kg)
                    for c in plan.truck.cargo
                )
                truck = plan.truck
                if truck.payload_kg is None and truck.gvwr_kg is None:
                    raise AssertionError("the sample gives a payload or a GVWR")
                for boxes in itertools.product(
                    itertools.product(signs, signs), repeat=len(plan.items)
                ):
                    items = tuple(
                        replace(
                            i,
                            mass_kg=i.mass_kg + m * i.mass_tolerance_kg,
                            cg=replace(i.cg, ahead_m=i.cg.ahead_m + a * i.cg.ahead_tolerance_m),
                        )
                        for i, (m, a) in zip(plan.items, boxes, strict=True)
                    )
                    made.append(
                        replace(
                            plan,
                            trailer=at_corner,
                            truck=replace(
                                truck,
                                cargo=cargo,
                                front_axle_mass_kg=truck.front_axle_mass_kg
                                + front_sign * truck.front_axle_mass_tolerance_kg,
                                rear_axle_mass_kg=truck.rear_axle_mass_kg
                                + rear_sign * truck.rear_axle_mass_tolerance_kg,
                            ),
                            items=items,
                        )
                    )
        return [shaped for corner in made for shaped in self.shapes(corner)]

    def shapes(self, plan: Plan) -> Iterator[Plan]:
        """The same at every end of what nobody taped: wheelbase, ball, seats, track."""
        truck, trailer = plan.truck, plan.trailer
        tolerances = (
            truck.wheelbase_tolerance_m,
            truck.hitch_offset_tolerance_m,
            max(c.ahead_tolerance_m for c in truck.cargo),
            trailer.track_width_tolerance_m,
        )
        ends = [(-one, one) if one else (0.0,) for one in tolerances]
        for wheelbase, offset, seat, track in itertools.product(*ends):
            yield replace(
                plan,
                truck=replace(
                    truck,
                    wheelbase_m=truck.wheelbase_m + wheelbase,
                    hitch_offset_m=truck.hitch_offset_m + offset,
                    cargo=tuple(
                        replace(c, ahead_of_rear_axle_m=c.ahead_of_rear_axle_m + seat)
                        for c in truck.cargo
                    ),
                    wheelbase_tolerance_m=0.0,
                ),
                trailer=replace(
                    trailer,
                    track_width_m=trailer.track_width_m + track,
                    track_width_tolerance_m=0.0,
                ),
            )

    def test_against_every_corner_of_guessed_lengths(self) -> None:
        """The same where wheelbase, ball, seats and track are guessed: sure places hold at every
        corner, and a check that is called settled answers alike at all of them."""
        sure, settled, split = 0, 0, 0
        for seed in range(30):
            rng = random.Random(7000 + seed)
            plan = rough_plan(rng)
            item = plan.items[0]
            stops = replace(item.placement, reference_tolerance_m=0.0)
            plan = replace(plan, items=(replace(item, placement=stops),))
            corners = self.corners(plan)
            corners = rng.sample(corners, min(len(corners), 160))
            window = evaluate(plan).windows[0]
            for piece in window.sure:
                sure += 1
                for at in (piece.start_m, piece.end_m):
                    for corner in corners:
                        over = [c for c in checks_at(corner, 0, at) if c.status is Status.OVER]
                        self.assertEqual(over, [], (seed, at))
            if not window.intervals:
                continue
            # at an end of the safe window something is decided by where figures lie
            at = window.intervals[0].start_m
            placed = moved(plan, 0, at)
            open_checks = unsettled(placed, load_limits(placed, compute_loads(placed)))
            found: dict[str, set[bool]] = {}
            for corner in corners:
                for check in checks_at(corner, 0, at):
                    if check.quantity is not Quantity.LENGTH:
                        found.setdefault(check.code, set()).add(check.status is Status.OVER)
            for code, answers in found.items():
                # each figure is at its own worst for each check: open is never called settled
                if code not in open_checks:
                    settled += 1
                    self.assertEqual(len(answers), 1, (seed, code))
                split += len(answers) > 1
        self.assertGreater(min(settled, split), 10)
        self.assertGreater(sure, 5)

    def test_against_every_corner(self) -> None:
        """Sure exactly where no check is over at any corner of all tolerances at once, the
        taped places and how the item stops among them."""
        seen = 0
        for seed in range(18):
            # of two items some with a sure window each, and few enough corners
            plan = random_plan(random.Random(3000 + seed), items=2 if seed % 13 in (1, 2) else 1)
            corners = self.corners(plan)
            for index, window in enumerate(evaluate(plan).windows):
                seen += bool(window.sure)
                if not window.intervals:
                    self.assertFalse(window.sure)
                    continue
                places = [
                    edge + off
                    for piece in (*window.intervals, *window.sure)
                    for edge in (piece.start_m, piece.end_m)
                    for off in (-1e-4, 1e-4)
                ]
                first, last = window.intervals[0].start_m, window.intervals[-1].end_m
                places += [first + (last - first) * n / 4 for n in range(5)]
                missed = plan.items[index].placement.reference_tolerance_m
                for at in places:
                    if at_an_end(window.sure, at):
                        continue
                    stops = (at - missed, at + missed) if missed else (at,)
                    expected = all(
                        holds(corner, index, stop) for stop in stops for corner in corners
                    )
                    with self.subTest(seed=seed, index=index, at=at):
                        self.assertEqual(inside(window.sure, at), expected)
        self.assertGreater(seen, 9)

    def test_no_figure_inside_its_tolerance_breaks_a_sure_place(self) -> None:
        rng = random.Random(7)
        for seed in range(60):
            plan = random_plan(random.Random(4000 + seed))
            window = evaluate(plan).windows[0]
            for piece in window.sure:
                for _ in range(20):
                    item, trailer = plan.items[0], plan.trailer
                    drawn = replace(
                        plan,
                        trailer=replace(
                            trailer,
                            empty_mass_kg=trailer.empty_mass_kg
                            + rng.uniform(-1, 1) * trailer.empty_mass_tolerance_kg,
                            empty_tongue_mass_kg=trailer.empty_tongue_mass_kg
                            + rng.uniform(-1, 1) * trailer.empty_tongue_mass_tolerance_kg,
                        ),
                        items=(
                            replace(
                                item,
                                mass_kg=item.mass_kg + rng.uniform(-1, 1) * item.mass_tolerance_kg,
                                cg=replace(
                                    item.cg,
                                    ahead_m=item.cg.ahead_m
                                    + rng.uniform(-1, 1) * item.cg.ahead_tolerance_m,
                                ),
                            ),
                        ),
                    )
                    off = item.placement.reference_tolerance_m
                    at = rng.uniform(piece.start_m - off, piece.end_m + off)
                    by = rng.uniform(-1, 1) * trailer.axles_tolerance_m
                    to = rng.uniform(-1, 1) * trailer.deck.start_tolerance_m
                    taped = drawn.trailer.with_axles_shifted(by)
                    deck = replace(taped.deck, start_m=taped.deck.start_m + to)
                    drawn = replace(drawn, trailer=replace(taped, deck=deck))
                    self.assertTrue(holds(drawn, 0, at))
