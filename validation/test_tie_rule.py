"""How many ties, and what they hold together: cases of the rule worked by hand.

Sources: 49 CFR 393.106 (half of a direct tie-down's working load limit, all of one that passes over
the cargo, at least half the cargo's weight), 393.110 (number by length and weight, with and
without a bulkhead) and 393.130 (machines of 10,000 lb or more), all from memory.
"""

from __future__ import annotations

from dataclasses import replace

from django.test import SimpleTestCase

from mechanics.checks import Status
from mechanics.securing import secure
from mechanics.securing.findings import least_ties
from mechanics.tests.test_securing import block, tied_plan
from mechanics.ties import SecuringSchool, Tie, TieKind
from mechanics.units import KG_PER_LB, M_PER_FT

US = SecuringSchool.US_393

NUMBERS: list[tuple[float, float, bool, bool, int]] = [
    # length in feet, pounds, against a bulkhead, on its own wheels, ties asked for
    (4, 900, False, False, 1),
    (5, 1100, False, False, 1),
    (5, 1101, False, False, 2),
    (5.5, 500, False, False, 2),
    (10, 800, False, False, 2),
    (10, 4000, False, False, 2),
    (10.5, 4000, False, False, 3),
    (20, 4000, False, False, 3),
    (20.5, 4000, False, False, 4),
    (30, 9000, False, False, 4),
    (31, 9000, False, False, 5),
    (9, 4000, True, False, 1),
    (10, 4000, True, False, 1),
    (10.5, 4000, True, False, 2),
    (25, 9000, True, False, 3),
    (12, 9999, False, True, 3),
    (12, 10000, False, True, 4),
    (12, 10000, False, False, 3),
    (45, 30000, False, True, 6),
    (9, 12000, True, True, 4),
]

TOGETHER: list[tuple[float, list[tuple[float, bool]], float, Status]] = [
    # cargo in pounds; limit of each tie, and whether it passes over; pounds that count; status
    (10000, [(4700, False)] * 4, 9400, Status.OK),
    (10000, [(4700, False)] * 2, 4700, Status.OVER),
    (10000, [(2500, False)] * 4, 5000, Status.NEAR),
    (10000, [(3000, False)] * 4, 6000, Status.OK),
    (8000, [(3300, True)], 3300, Status.OVER),
    (8000, [(3300, True)] * 2, 6600, Status.OK),
    (8000, [(3300, True), (4700, False)], 5650, Status.OK),
    (5600, [(6600, False), (6600, False), (4700, False), (4700, False)], 11300, Status.OK),
    (6600, [(6600, False)], 3300, Status.NEAR),
    (20000, [(6600, False)] * 4, 13200, Status.OK),
]


class NumberOfTies(SimpleTestCase):
    def test_by_length_weight_and_bulkhead(self) -> None:
        for feet, pounds, bulkhead, wheels, asked in NUMBERS:
            item = block()
            half = feet * M_PER_FT / 2
            item = replace(item, front_m=half, rear_m=half)
            if not wheels:
                item = replace(item, contacts=())
            found = least_ties(item, pounds * KG_PER_LB, US, bulkhead=bulkhead)
            self.assertEqual(found, asked, (feet, pounds, bulkhead, wheels))


class TiesTogether(SimpleTestCase):
    def test_against_half_the_weight(self) -> None:
        for pounds, ties, counts, status in TOGETHER:
            plan = tied_plan()
            names = [anchor.id for anchor in plan.trailer.anchors]
            made = tuple(
                Tie(
                    id=f"t{n}",
                    item="block",
                    point=names[n],
                    anchor=names[n],
                    over=names[(n + 1) % 4] if over else None,
                    kind=TieKind.CHAIN,
                    wll_kg=limit * KG_PER_LB,
                )
                for n, (limit, over) in enumerate(ties)
            )
            assert plan.securing is not None
            plan = replace(
                plan,
                items=(block(mass_kg=pounds * KG_PER_LB),),
                securing=replace(plan.securing, school=US, ties=made),
            )
            finding = next(
                f for f in secure(plan, US).items[0].findings if f.code == "securing.aggregate"
            )
            self.assertAlmostEqual((finding.value or 0) / KG_PER_LB, counts, places=6)
            self.assertAlmostEqual((finding.limit or 0) / KG_PER_LB, pounds / 2, places=6)
            self.assertIs(finding.status, status, (pounds, ties))
