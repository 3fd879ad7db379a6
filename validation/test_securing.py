"""Elastic sharing against a general spring solver in three dimensions, the chain table against the
published one.

Sources: ``PyNiteFEA``, tension-only springs between a node that may move along one axis and
supports; 49 CFR 393.108, from memory.
"""

from __future__ import annotations

from dataclasses import replace

from django.test import SimpleTestCase
from Pynite import FEModel3D

from mechanics.gear import CHAIN_LB, WEBBING_LB, chain_limit_kg
from mechanics.plan import Plan
from mechanics.securing import secure
from mechanics.securing.hold import LIMITS, WAYS
from mechanics.securing.rope import Rope, Vector
from mechanics.tests.test_securing import random_ties
from mechanics.ties import SecuringSchool
from mechanics.units import KG_PER_LB, M_PER_IN

LAYOUTS = 100

ONE_PART_IN = 1e8
"""So near to the solver, whose own matrices are conditioned to about that."""


def solved(ropes: list[Rope], way: Vector, push: float) -> dict[str, float]:
    """What each tie pulls when one body that may only move along a way is pushed along it."""
    model = FEModel3D()
    model.add_node("body", 0.0, 0.0, 0.0)
    free = [bool(part) for part in way]
    model.def_support("body", *(not one for one in free), True, True, True)
    for rope in ropes:
        anchor = rope.anchors[0]
        ends = zip((anchor.tape_m, anchor.left_m, anchor.height_m), rope.point, strict=True)
        model.add_node(rope.tie.id, *(to - at for to, at in ends))
        model.def_support(rope.tie.id, *[True] * 6)
        model.add_spring(rope.tie.id, "body", rope.tie.id, rope.stiffness, tension_only=True)
    model.add_load_combo("push", {"push": 1.0})
    axis, part = next((n, p) for n, p in zip("XYZ", way, strict=True) if p)
    model.add_node_load("body", f"F{axis}", push * part, case="push")
    model.analyze(check_statics=False)
    # tension is below zero there; of a spring that went slack it still tells the other sign
    return {name: max(0.0, -float(s.axial("push"))) for name, s in model.springs.items()}


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
            # one direction each: a layout is as good along any of them
            name, way = list(WAYS.items())[seed % 4]
            if not any(rope.share(way) > 0 for rope in ropes):
                continue
            push = LIMITS[SecuringSchool.STRICT][name] * plan.items[0].mass_kg
            pulls = solved(ropes, way, push)
            for tie in item.ties:
                use = tie.use[name]
                assert use is not None
                pulled = use * _may(plan, tie.rope)
                self.assertAlmostEqual(
                    pulled, pulls[tie.rope.tie.id], delta=push / ONE_PART_IN, msg=f"layout {seed}"
                )
                checked += 1
        self.assertGreater(checked, 2 * LAYOUTS)


class PublishedLimits(SimpleTestCase):
    """49 CFR 393.108, from memory: pounds by size in inches."""

    TABLE = """
        30: 1/4 1300, 5/16 1900, 3/8 2650, 7/16 3500, 1/2 4500, 5/8 6900
        43: 1/4 2600, 5/16 3900, 3/8 5400, 7/16 7200, 1/2 9200, 5/8 13000
        70: 1/4 3150, 5/16 4700, 3/8 6600, 7/16 8750, 1/2 11300, 5/8 15800
        80: 1/4 3500, 5/16 4500, 3/8 7100, 1/2 12000, 5/8 18100
        100: 1/4 4300, 5/16 5700, 3/8 8800, 1/2 15000, 5/8 22600
    """

    def test_every_chain(self) -> None:
        checked = 0
        for line in self.TABLE.strip().splitlines():
            grade, _, entries = line.strip().partition(": ")
            for entry in entries.split(", "):
                size, pounds = entry.split()
                over, under = (int(part) for part in size.split("/"))
                found = chain_limit_kg(over / under * M_PER_IN, int(grade))
                self.assertAlmostEqual((found or 0) / KG_PER_LB, float(pounds), msg=entry)
                checked += 1
        self.assertEqual(checked, sum(len(sizes) for sizes in CHAIN_LB.values()))

    def test_webbing(self) -> None:
        self.assertEqual(WEBBING_LB, {1.75: 1750, 2: 2000, 3: 3000, 4: 4000})


def _may(plan: Plan, rope: Rope) -> float:
    """What a tie may pull: in these layouts every tie has an anchor of its own."""
    limits = [rope.tie.wll_kg, *(anchor.wll_kg for anchor in rope.anchors)]
    return min(limit for limit in limits if limit is not None)
