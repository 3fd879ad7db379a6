"""Tied down: cases worked by hand, and what holds for any ties."""

from __future__ import annotations

import math
import random
from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given, settings
from hypothesis import strategies as st

from mechanics.checks import Status
from mechanics.errors import InputError
from mechanics.item import BalancePoint, Contact, Facing, Item, Placement
from mechanics.plan import Plan
from mechanics.securing import Finding, ItemTied, secure
from mechanics.securing.findings import least_ties
from mechanics.securing.hold import LIMITS, WAYS, all_ropes, allowed, held_kg, ideal_kg
from mechanics.tests.outfits import example_plan, inch, lb
from mechanics.ties import Anchor, Point, Securing, SecuringSchool, Tie, TieKind

US, STRICT, EN = SecuringSchool.US_393, SecuringSchool.STRICT, SecuringSchool.EN_12195
CORNERS = (("fl", 1, 1), ("fr", 1, -1), ("rl", -1, 1), ("rr", -1, -1))
"""Corners of a machine that faces forward: name, ahead, left."""


def block(item_id: str = "block", mass_kg: float = 1000.0, at_m: float = 3.0) -> Item:
    """A block of 2 x 1 m with a point at each corner, 0.5 m up."""
    return Item(
        id=item_id,
        mass_kg=mass_kg,
        cg=BalancePoint(ahead_m=0.0, height_m=0.5),
        front_m=1.0,
        rear_m=1.0,
        width_m=1.0,
        placement=Placement(reference_m=at_m),
        contacts=(Contact(ahead_m=-0.8), Contact(ahead_m=0.8)),
        points=tuple(
            Point(id=name, ahead_m=float(ahead), left_m=0.5 * left, height_m=0.5)
            for name, ahead, left in CORNERS
        ),
    )


def tied_plan(**changes: object) -> Plan:
    """A block held by four chains that run a metre along and half a metre down, straight along
    the deck from each corner."""
    anchors = tuple(
        Anchor(id=name, tape_m=3.0 - 2.0 * ahead, left_m=0.5 * left)
        for name, ahead, left in CORNERS
    )
    ties = tuple(
        Tie(id=name, item="block", point=name, anchor=name, kind=TieKind.CHAIN, wll_kg=1500.0)
        for name, _, _ in CORNERS
    )
    plan = example_plan()
    return replace(
        plan,
        trailer=replace(plan.trailer, anchors=anchors),
        items=(block(),),
        securing=replace(
            Securing(school=US, ties=ties),
            **changes,  # type: ignore[arg-type]
        ),
    )


def found(plan: Plan, code: str, index: int = 0) -> Finding:
    """One finding of an item."""
    item = secure(plan, US).items[index]
    return next(f for f in item.findings if f.code == f"securing.{code}")


class ByHand(SimpleTestCase):
    """Ties of 1 m along and 0.5 m down: cos is 2 / sqrt 5."""

    COS = 2 / math.sqrt(5)

    def test_two_of_four_pull_in_a_direction_each_with_its_part_along_it(self) -> None:
        plan = tied_plan()
        # pushed forward, the two that run rearward from the rear corners are lengthened
        forward = found(plan, "forward")
        self.assertAlmostEqual(forward.value or 0, 2 * 1500 * self.COS / 1000)
        self.assertAlmostEqual(found(plan, "rearward").value or 0, forward.value or 0)
        # straight along the deck nothing holds sideways
        self.assertEqual(found(plan, "left").value, 0)
        self.assertIs(found(plan, "left").status, Status.OVER)

    def test_friction_and_what_presses_down(self) -> None:
        plan = tied_plan(friction=0.3)
        self.assertAlmostEqual(found(plan, "left").value or 0, 0.3)
        ties = tuple(replace(t, pretension_kg=200.0) for t in plan.securing.ties)  # type: ignore[union-attr]
        pressed = tied_plan(friction=0.3, ties=ties)
        down = 4 * 200 / math.sqrt(5)
        self.assertAlmostEqual(found(pressed, "left").value or 0, 0.3 * (1000 + down) / 1000)
        strict = replace(plan, securing=replace(plan.securing, school=STRICT))  # type: ignore[type-var]
        self.assertEqual(found(strict, "left").value, 0)
        metric = replace(plan, securing=replace(plan.securing, school=EN))  # type: ignore[type-var]
        self.assertAlmostEqual(found(metric, "left").value or 0, 0.75 * 0.3)

    def test_aggregate_counts_direct_ties_half_and_those_that_pass_over_whole(self) -> None:
        plan = tied_plan()
        self.assertAlmostEqual(found(plan, "aggregate").value or 0, 4 * 750)
        over = replace(plan.securing.ties[0], over="fr")  # type: ignore[union-attr]
        passed = tied_plan(ties=(over, *plan.securing.ties[1:]))  # type: ignore[union-attr]
        self.assertAlmostEqual(found(passed, "aggregate").value or 0, 1500 + 3 * 750)
        self.assertAlmostEqual(found(passed, "aggregate").limit or 0, 500)

    def test_an_anchor_shares_what_it_holds_among_its_ties(self) -> None:
        plan = tied_plan()
        anchors = tuple(replace(a, wll_kg=1000.0) for a in plan.trailer.anchors)
        weak = replace(plan, trailer=replace(plan.trailer, anchors=anchors))
        self.assertAlmostEqual(found(weak, "forward").value or 0, 2 * 1000 * self.COS / 1000)
        # both rear ties at one anchor of 1,000: half each
        ties = tuple(
            replace(t, anchor="rl") if t.id == "rr" else t
            for t in plan.securing.ties  # type: ignore[union-attr]
        )
        shared = replace(weak, securing=replace(weak.securing, ties=ties))  # type: ignore[type-var]
        self.assertAlmostEqual(found(shared, "aggregate").value or 0, (500 + 500 + 1000 + 1000) / 2)
        anchor = found(shared, "anchor_rl")
        self.assertAlmostEqual(anchor.limit or 0, 1000)

    def test_use_is_the_pull_over_what_it_may(self) -> None:
        tie = secure(tied_plan(), US).items[0].ties[2]
        # 435 kg between two ties, each along by its cosine
        self.assertAlmostEqual(tie.use["forward"] or 0, 435 / 2 / self.COS / 1500)
        self.assertEqual(tie.use["rearward"], 0.0)
        self.assertAlmostEqual(tie.rope.legs[0].x, self.COS)
        rubbed = secure(tied_plan(friction=0.5), US).items[0].ties[2]
        self.assertEqual(rubbed.use["forward"], 0.0)

    def test_a_rope_over_pulls_in_both_legs(self) -> None:
        """From one anchor over the point to another, both a metre down and a metre aside."""
        plan = tied_plan()
        anchors = (
            Anchor(id="left", tape_m=3.0, left_m=1.5),
            Anchor(id="right", tape_m=3.0, left_m=-0.5),
        )
        item = replace(block(), points=(Point(id="top", ahead_m=0.0, left_m=0.5, height_m=1.0),))
        tie = Tie(
            id="over",
            item="block",
            point="top",
            anchor="left",
            over="right",
            kind=TieKind.STRAP,
            wll_kg=1000.0,
            pretension_kg=300.0,
        )
        over = replace(
            plan,
            trailer=replace(plan.trailer, anchors=anchors),
            items=(item,),
            securing=Securing(school=US, friction=0.4, ties=(tie,)),
        )
        down = 2 * 300 / math.sqrt(2)
        self.assertAlmostEqual(found(over, "forward").value or 0, 0.4 * (1000 + down) / 1000)
        # upward both legs hold, each by its sine
        self.assertAlmostEqual(found(over, "up").value or 0, 2 * 1000 / math.sqrt(2) / 1000)
        self.assertAlmostEqual(secure(over, US).items[0].ties[0].rope.length_m, 2 * math.sqrt(2))

    def test_tipping_by_footing_and_height(self) -> None:
        plan = tied_plan()
        self.assertAlmostEqual(found(plan, "tip_forward").value or 0, 0.8 / 0.5)
        self.assertAlmostEqual(found(plan, "tip_left").value or 0, 0.5 / 0.5)
        tall = replace(block(), cg=BalancePoint(ahead_m=0.0, height_m=2.5))
        tip = found(replace(plan, items=(tall,)), "tip_left")
        self.assertIs(tip.status, Status.NEAR)

    def test_with_one_gone_half_is_left(self) -> None:
        # two chains hold forward; with one gone one is left
        plan = tied_plan(friction=0.25)
        gone = found(plan, "without_rl")
        sides = 0.25 / 0.25
        forward = (1500 * self.COS / 1000 + 0.25) / 0.435
        self.assertAlmostEqual(gone.value or 0, min(sides, forward))

    def test_the_mass_that_may_be_counts(self) -> None:
        plan = tied_plan()
        heavy = replace(block(), mass_tolerance_kg=250.0)
        self.assertAlmostEqual(
            found(replace(plan, items=(heavy,)), "forward").value or 0,
            2 * 1500 * self.COS / 1250,
        )


class Rules(SimpleTestCase):
    """49 CFR 393.110 and 393.130, from memory: sixteen cases."""

    def test_how_many_ties(self) -> None:
        for feet, pounds, bulkhead, ties in (
            (4, 900, False, 1),
            (5, 1100, False, 1),
            (5, 1101, False, 2),
            (5, 3000, False, 2),
            (6, 500, False, 2),
            (10, 1500, False, 2),
            (10.1, 1500, False, 3),
            (20, 4000, False, 3),
            (20.5, 4000, False, 4),
            (30, 4000, False, 4),
            (40, 4000, False, 5),
            (4, 900, True, 1),
            (10, 5000, True, 1),
            (11, 5000, True, 2),
            (40, 5000, True, 4),
            (12, 10000, False, 4),
        ):
            item = replace(block(), front_m=inch(feet * 12) - 0.5, rear_m=0.5)
            with self.subTest(feet=feet, pounds=pounds, bulkhead=bulkhead):
                self.assertEqual(least_ties(item, lb(pounds), US, bulkhead=bulkhead), ties)
        crate = replace(block(), contacts=(), front_m=inch(100))
        self.assertEqual(least_ties(crate, lb(12000), US, bulkhead=False), 3)
        self.assertEqual(least_ties(block(), 500, EN, bulkhead=False), 4)

    def test_corners(self) -> None:
        plan = tied_plan()
        self.assertIs(found(plan, "corners").status, Status.OK)
        ties = plan.securing.ties  # type: ignore[union-attr]
        three = tied_plan(ties=ties[:3])
        # the pair that stops it under braking is gone on one side
        self.assertIs(found(three, "corners").status, Status.OVER)
        front = tied_plan(ties=ties[:2])
        self.assertIs(found(front, "corners").status, Status.NEAR)
        self.assertIs(found(tied_plan(ties=ties[:1]), "corners").status, Status.OVER)
        middle = replace(
            block(), points=tuple(replace(p, left_m=p.left_m * 0.1) for p in block().points)
        )
        both = replace(tied_plan(ties=(ties[0], ties[2])), items=(middle,))
        self.assertIs(found(both, "corners").status, Status.OK)

    def test_statuses_of_a_direction(self) -> None:
        for pounds, status in ((700, Status.OK), (270, Status.NEAR), (200, Status.OVER)):
            ties = tuple(
                replace(t, wll_kg=float(pounds))
                for t in tied_plan().securing.ties  # type: ignore[union-attr]
            )
            self.assertIs(found(tied_plan(ties=ties), "forward").status, status)

    def test_steep(self) -> None:
        plan = tied_plan()
        self.assertIs(found(plan, "steep").status, Status.OK)
        anchors = tuple(
            replace(a, tape_m=3.0 + 1.05 * (a.tape_m - 3.0) / 2.0) for a in plan.trailer.anchors
        )
        steep = replace(plan, trailer=replace(plan.trailer, anchors=anchors))
        self.assertIs(found(steep, "steep").status, Status.NEAR)

    def test_a_point_of_known_strength(self) -> None:
        for strength, status in ((1000.0, Status.OK), (285.0, Status.NEAR), (200.0, Status.OVER)):
            item = replace(
                block(),
                points=tuple(replace(p, strength_kg=strength) for p in block().points),
            )
            # rearward 500 kg between two chains
            self.assertIs(
                found(replace(tied_plan(), items=(item,)), "point_fl").status, status, strength
            )

    def test_unknown_gear_is_never_ok(self) -> None:
        ties = tied_plan().securing.ties  # type: ignore[union-attr]
        plan = tied_plan(ties=(replace(ties[0], wll_kg=None), *ties[1:]))
        self.assertIs(found(plan, "aggregate").status, Status.UNKNOWN)
        self.assertEqual(found(plan, "aggregate").missing, ("securing.ties[0].wll",))
        self.assertIs(found(plan, "rearward").status, Status.UNKNOWN)
        # the front ties do not pull when it is pushed forward
        self.assertIs(found(plan, "forward").status, Status.OK)
        use = secure(plan, US).items[0].ties
        self.assertIsNone(use[0].use["forward"])
        self.assertIsNone(use[1].use["rearward"])
        self.assertEqual(use[1].use["forward"], 0.0)

    def test_nothing_said_is_unknown_and_nothing_tied_is_over(self) -> None:
        plan = tied_plan()
        bare = replace(plan, securing=None)
        report = secure(bare, EN)
        self.assertIs(report.verdict, Status.UNKNOWN)
        self.assertTrue(all(f.missing == ("securing",) for f in report.items[0].findings))
        two = replace(plan, items=(block(), block("other", at_m=6.0)))
        self.assertIs(found(two, "number", 1).status, Status.OVER)
        self.assertIs(found(two, "forward", 1).status, Status.OVER)

    def test_ties_run_between_places_that_there_are(self) -> None:
        plan = tied_plan()
        tie = plan.securing.ties[0]  # type: ignore[union-attr]
        for change, path in (
            ({"item": "nobody"}, "securing.ties[0].item"),
            ({"point": "nowhere"}, "securing.ties[0].point"),
            ({"anchor": "nowhere"}, "securing.ties[0].anchor"),
            ({"over": "nowhere"}, "securing.ties[0].over"),
        ):
            with self.assertRaises(InputError) as refused:
                tied_plan(ties=(replace(tie, **change),))
            self.assertEqual(refused.exception.path, path)
        with self.assertRaises(InputError):
            tied_plan(ties=(tie, tie))


def random_ties(seed: int) -> Plan:
    """A block held by two to eight ties from its corners to anchors about it."""
    rng = random.Random(seed)
    plan = tied_plan()
    anchors = tuple(
        Anchor(
            id=f"a{n}",
            tape_m=rng.uniform(0.0, 6.0),
            left_m=rng.choice((-1.0, 1.0)) * rng.uniform(0.6, 1.2),
            wll_kg=rng.choice((None, rng.uniform(500, 3000))),
        )
        for n in range(8)
    )
    ties = tuple(
        Tie(
            id=f"t{n}",
            item="block",
            point=rng.choice(CORNERS)[0],
            anchor=f"a{n}",
            kind=rng.choice(list(TieKind)),
            wll_kg=rng.uniform(500, 3000),
            pretension_kg=rng.choice((0.0, 100.0)),
        )
        for n in range(rng.randint(2, 8))
    )
    securing = Securing(school=rng.choice(list(SecuringSchool)), friction=0.2, ties=ties)
    return replace(plan, trailer=replace(plan.trailer, anchors=anchors), securing=securing)


layouts = st.builds(random_ties, st.integers(0, 2**32))


def by_code(item: ItemTied) -> dict[str, float | None]:
    """Values by their codes."""
    return {f.code.removeprefix("securing."): f.value for f in item.findings}


class ForAnyTies(SimpleTestCase):
    def plain(self, plan: Plan) -> ItemTied:
        return secure(plan, US).items[0]

    @settings(max_examples=40)
    @given(plan=layouts, wll=st.floats(100, 5000), at=st.floats(0.5, 6.0))
    def test_one_more_tie_never_lowers_what_all_could_hold(
        self, plan: Plan, wll: float, at: float
    ) -> None:
        assert plan.securing is not None
        anchor = Anchor(id="more", tape_m=at, left_m=1.3)
        tie = Tie(
            id="more",
            item="block",
            point="fl",
            anchor="more",
            kind=TieKind.CHAIN,
            wll_kg=wll,
        )
        more = replace(
            plan,
            trailer=replace(plan.trailer, anchors=(*plan.trailer.anchors, anchor)),
            securing=replace(plan.securing, ties=(*plan.securing.ties, tie)),
        )
        for way in WAYS.values():
            before, after = (
                ideal_kg(all_ropes(one), allowed(all_ropes(one)), way) for one in (plan, more)
            )
            assert before is not None
            assert after is not None
            self.assertGreaterEqual(after, before - 1e-9)
            held_now = held_kg(all_ropes(more), allowed(all_ropes(more)), way, 0.0)
            self.assertLessEqual(held_now or 0.0, after * (1 + 1e-12) + 1e-9)

    @settings(max_examples=40)
    @given(layouts)
    def test_mirrored_left_and_right_change_places(self, plan: Plan) -> None:
        item = plan.items[0]
        mirrored = replace(
            plan,
            trailer=replace(
                plan.trailer,
                anchors=tuple(replace(a, left_m=-a.left_m) for a in plan.trailer.anchors),
            ),
            items=(replace(item, points=tuple(replace(p, left_m=-p.left_m) for p in item.points)),),
        )
        one, two = by_code(self.plain(plan)), by_code(self.plain(mirrored))
        for here, there in (("left", "right"), ("forward", "forward"), ("up", "up")):
            if here in one:
                self.assertAlmostEqual(one[here] or 0, two[there] or 0)

    @settings(max_examples=40)
    @given(layouts)
    def test_turned_with_its_anchors_forward_and_rearward_change_places(self, plan: Plan) -> None:
        item = plan.items[0]
        at = item.placement.reference_m
        turned = replace(
            plan,
            trailer=replace(
                plan.trailer,
                anchors=tuple(
                    replace(a, tape_m=2 * at - a.tape_m, left_m=-a.left_m)
                    for a in plan.trailer.anchors
                ),
            ),
            items=(replace(item, placement=replace(item.placement, facing=Facing.BACKWARD)),),
        )
        one, two = by_code(self.plain(plan)), by_code(self.plain(turned))
        for here, there in (("forward", "rearward"), ("left", "right"), ("aggregate",) * 2):
            if here in one:
                self.assertAlmostEqual(one[here] or 0, two[there] or 0)

    @settings(max_examples=40)
    @given(layouts, st.floats(1.1, 5))
    def test_all_limits_scaled_scale_what_is_held(self, plan: Plan, times: float) -> None:
        securing = plan.securing
        assert securing is not None
        free = replace(securing, friction=0.0)
        scaled = replace(
            plan,
            trailer=replace(
                plan.trailer,
                anchors=tuple(
                    replace(a, wll_kg=None if a.wll_kg is None else a.wll_kg * times)
                    for a in plan.trailer.anchors
                ),
            ),
            securing=replace(
                free,
                ties=tuple(replace(t, wll_kg=(t.wll_kg or 0) * times) for t in free.ties),
            ),
        )
        one = by_code(self.plain(replace(plan, securing=free)))
        two = by_code(self.plain(scaled))
        for name in WAYS:
            self.assertAlmostEqual((one[name] or 0) * times, two[name] or 0)

    @settings(max_examples=40)
    @given(layouts)
    def test_at_its_capacity_the_hardest_tie_is_just_used_up(self, plan: Plan) -> None:
        securing = plan.securing
        assert securing is not None
        item = secure(plan, US).items[0]
        for name in WAYS:
            value = by_code(item)[name]
            limit = LIMITS[securing.school][name]
            uses = [tie.use[name] or 0.0 for tie in item.ties]
            if value is None or not max(uses):
                continue
            # what is held is as much over the limit as the hardest tie is under its own
            self.assertEqual(value >= limit - 1e-9, max(uses) <= 1 + 1e-9)
