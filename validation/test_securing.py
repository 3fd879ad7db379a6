"""Elastic sharing against a root finder on the real geometry, and the table's arithmetic.

Source: ``scipy.optimize`` (``brentq``). Each tie is a spring that only pulls, between a point
that is moved and an anchor that is not; its force follows from how much longer it has become,
measured with Pythagoras. The finder looks for the move at which all of them balance the push.
"""

from __future__ import annotations

import math
from dataclasses import replace
from functools import partial

from django.test import SimpleTestCase
from scipy.optimize import brentq

from mechanics.plan import Plan
from mechanics.securing import secure
from mechanics.securing.hold import LIMITS, WAYS
from mechanics.securing.rope import Rope, Vector
from mechanics.tests.test_securing import random_ties
from mechanics.ties import SecuringSchool

LAYOUTS = 100

SOFT = 1e-5
"""Pushes are scaled down so that the moves are small against the ties, as the model takes them."""


def longer(rope: Rope, way: Vector, moved: float) -> float:
    """How much longer a tie is once its point has moved, by its two ends."""
    total = -rope.length_m
    for anchor in rope.anchors:
        at = (anchor.tape_m, anchor.left_m, anchor.height_m)
        to = tuple(p + moved * w for p, w in zip(rope.point, way, strict=True))
        total += math.dist(at, to)
    return total


def balance(ropes: list[Rope], way: Vector, push: float, moved: float) -> float:
    """Push less what the springs pull back along it."""
    pulled = 0.0
    for rope in ropes:
        stretched = longer(rope, way, moved)
        if stretched <= 0:
            continue
        to = [p + moved * w for p, w in zip(rope.point, way, strict=True)]
        back = 0.0
        for anchor in rope.anchors:
            at = (anchor.tape_m, anchor.left_m, anchor.height_m)
            long = math.dist(at, to)
            back -= sum((a - t) / long * w for a, t, w in zip(at, to, way, strict=True))
        pulled += rope.stiffness * stretched * back
    return push - pulled


class ElasticSharing(SimpleTestCase):
    def plan(self, seed: int) -> Plan:
        plan = random_ties(seed)
        securing = plan.securing
        assert securing is not None
        school = SecuringSchool.STRICT
        return replace(plan, securing=replace(securing, school=school, friction=0.0))

    def test_each_pull_of_a_hundred_layouts(self) -> None:
        checked = 0
        for seed in range(LAYOUTS):
            plan = self.plan(seed)
            item = secure(plan, SecuringSchool.STRICT).items[0]
            ropes = [tie.rope for tie in item.ties]
            for name, way in WAYS.items():
                push = LIMITS[SecuringSchool.STRICT][name] * plan.items[0].mass_kg * SOFT
                # what is barely lengthened at all holds only after a long move
                if max(rope.share(way) for rope in ropes) <= 0.05:
                    continue
                moved = brentq(partial(balance, ropes, way, push), 0.0, 0.5, xtol=1e-15)
                for tie in item.ties:
                    use = tie.use[name]
                    assert use is not None
                    if tie.rope.share(way) < 0.05:
                        continue
                    pulled = tie.rope.stiffness * max(longer(tie.rope, way, moved), 0.0)
                    may = _may(plan, tie.rope)
                    self.assertAlmostEqual(
                        use * SOFT, pulled / may, delta=2e-3 * use * SOFT + 1e-12
                    )
                    checked += 1
        self.assertGreater(checked, LAYOUTS)


def _may(plan: Plan, rope: Rope) -> float:
    """What a tie may pull: in these layouts every tie has an anchor of its own."""
    limits = [rope.tie.wll_kg, *(anchor.wll_kg for anchor in rope.anchors)]
    return min(limit for limit in limits if limit is not None)
