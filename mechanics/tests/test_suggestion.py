"""The fewest ties of a rack: cases that can be seen by eye."""

from __future__ import annotations

from dataclasses import replace

from django.test import SimpleTestCase

from mechanics.gear import chain_limit_kg, chain_size, weakest_kg
from mechanics.item import BalancePoint, Contact, Item, Placement
from mechanics.plan import Plan
from mechanics.securing import Crossing, RackPiece, Standard, secure, suggest, to_buy
from mechanics.securing.rack import dealt, sets_of
from mechanics.tests.outfits import example_plan
from mechanics.ties import Anchor, Point, Securing, SecuringSchool, Tie, TieKind

US = SecuringSchool.US_393


def chains(count: int, wll_kg: float = 2000.0, **more: object) -> RackPiece:
    """So many chains that need no binder."""
    made = RackPiece(key=f"chain {wll_kg:g}", kind=TieKind.CHAIN, wll_kg=wll_kg, count=count)
    return replace(made, **more)  # type: ignore[arg-type]


def machine_plan(mass_kg: float = 2000.0, *, points: tuple[Point, ...] | None = None) -> Plan:
    """A machine with a point at each corner amid six anchors on both sides of a deck."""
    plan = example_plan()
    anchors = tuple(
        Anchor(id=f"{name} {side}", tape_m=at, left_m=1.0 * sign)
        for name, at in (("front", 0.3), ("middle", 3.0), ("rear", 5.7))
        for side, sign in (("left", 1), ("right", -1))
    )
    corners = tuple(
        Point(id=f"{name} {side}", ahead_m=ahead, left_m=0.45 * sign, height_m=0.45)
        for name, ahead in (("fore", 1.5), ("aft", -0.4))
        for side, sign in (("left", 1), ("right", -1))
    )
    item = Item(
        id="m",
        mass_kg=mass_kg,
        cg=BalancePoint(ahead_m=0.6),
        front_m=2.0,
        rear_m=0.9,
        width_m=1.6,
        contacts=(Contact(ahead_m=0.0), Contact(ahead_m=1.5)),
        placement=Placement(reference_m=3.6),
        points=corners if points is None else points,
    )
    return replace(
        plan,
        trailer=replace(plan.trailer, anchors=anchors),
        items=(item,),
        securing=Securing(school=US),
    )


class Fewest(SimpleTestCase):
    def test_four_corners_of_four_chains(self) -> None:
        found = suggest(machine_plan(), "m", [chains(8)])
        self.assertIs(found.standard, Standard.EVERYTHING)
        self.assertTrue(found.proved)
        self.assertEqual(
            [(t.point, t.anchor.split()[1]) for t in found.ties],
            [
                ("fore left", "left"),
                ("fore right", "right"),
                ("aft left", "left"),
                ("aft right", "right"),
            ],
        )
        self.assertEqual(found.findings, ())

    def test_what_it_says_is_what_the_checks_say(self) -> None:
        plan = machine_plan()
        found = suggest(plan, "m", [chains(8)])
        tied = replace(plan, securing=Securing(school=US, ties=found.ties))
        statuses = {f.code: f.status.value for f in secure(tied, US).items[0].findings}
        self.assertEqual(set(statuses.values()), {"ok"})

    def test_a_heavier_machine_takes_more_of_them(self) -> None:
        light = suggest(machine_plan(2000.0), "m", [chains(12, 1200.0)])
        heavy = suggest(machine_plan(4400.0), "m", [chains(12, 1200.0)])
        self.assertIs(heavy.standard, Standard.EVERYTHING)
        self.assertGreater(len(heavy.ties), len(light.ties))

    def test_chain_goes_before_webbing_and_light_before_heavy(self) -> None:
        strap = RackPiece(key="strap", kind=TieKind.STRAP, wll_kg=3000.0, count=4)
        rack = [strap, chains(4, 5000.0), chains(4, 2000.0)]
        found = suggest(machine_plan(), "m", rack)
        self.assertEqual(set(found.pieces), {("chain 2000",)})

    def test_a_chain_that_does_not_reach_is_not_used(self) -> None:
        rack = [chains(4, 2000.0, length_m=0.5), chains(4, 5000.0, length_m=4.0)]
        found = suggest(machine_plan(), "m", rack)
        self.assertEqual(set(found.pieces), {("chain 5000",)})

    def test_crossed_or_straight_as_wished(self) -> None:
        plan, rack = machine_plan(), [chains(8)]
        crossed = suggest(plan, "m", rack, crossing=Crossing(straight=False))
        for tie in crossed.ties:
            self.assertNotEqual(tie.point.split()[1], tie.anchor.split()[1])
        straight = suggest(plan, "m", rack, crossing=Crossing(crossed=False))
        for tie in straight.ties:
            self.assertEqual(tie.point.split()[1], tie.anchor.split()[1])

    def test_an_anchor_in_use_by_another_machine_is_given_no_more_than_is_left(self) -> None:
        plan = machine_plan()
        anchors = tuple(
            replace(a, wll_kg=2000.0) if a.id == "rear left" else a for a in plan.trailer.anchors
        )
        other = replace(plan.items[0], id="other", placement=Placement(reference_m=4.5))
        tie = Tie(
            id="t9",
            item="other",
            point="aft left",
            anchor="rear left",
            kind=TieKind.CHAIN,
            wll_kg=2000.0,
        )
        plan = replace(
            plan,
            trailer=replace(plan.trailer, anchors=anchors),
            items=(*plan.items, other),
            securing=Securing(school=US, ties=(tie,)),
        )
        found = suggest(plan, "m", [chains(8)])
        self.assertNotIn("rear left", {t.anchor for t in found.ties})
        self.assertNotIn("t9", {t.id for t in found.ties})


class NotEnough(SimpleTestCase):
    def test_what_is_short_of_reserve_is_still_offered(self) -> None:
        # four that hold what is asked, but not a fifth more
        found = suggest(machine_plan(), "m", [chains(4, 700.0)])
        self.assertIs(found.standard, Standard.NOTHING_OVER)
        self.assertTrue(all(f.status.value == "near" for f in found.findings))

    def test_one_strong_point_gets_the_pair_that_resists_braking(self) -> None:
        hook = Point(id="hook", ahead_m=-0.8, left_m=0.0, height_m=0.4)
        found = suggest(machine_plan(900.0, points=(hook,)), "m", [chains(4)])
        self.assertIs(found.standard, Standard.PAIR)
        self.assertEqual({t.anchor for t in found.ties}, {"rear left", "rear right"})
        codes = {f.code for f in found.findings}
        # nothing pulls it forward, so nothing holds it when the outfit pulls away
        self.assertIn("securing.rearward", codes)
        self.assertNotIn("securing.forward", codes)

    def test_the_pair_goes_to_the_stronger_place(self) -> None:
        weak = Point(id="weak", ahead_m=-0.2, left_m=0.0, height_m=0.2, strength_kg=300.0)
        strong = Point(id="strong", ahead_m=-0.8, left_m=0.0, height_m=0.6, strength_kg=4000.0)
        plan = machine_plan(20000.0, points=(weak, strong))
        found = suggest(plan, "m", [chains(2)])
        self.assertIs(found.standard, Standard.PAIR)
        self.assertEqual({t.point for t in found.ties}, {"strong"})

    def test_nothing_without_gear_points_or_anchors(self) -> None:
        plan = machine_plan()
        bare = replace(plan, trailer=replace(plan.trailer, anchors=()))
        for one, rack in (
            (plan, []),
            (machine_plan(points=()), [chains(4)]),
            (bare, [chains(4)]),
            (plan, [chains(1)]),
        ):
            found = suggest(one, "m", rack)
            self.assertIs(found.standard, Standard.NONE)
            self.assertEqual(found.ties, ())

    def test_what_to_buy_is_the_lightest_that_does(self) -> None:
        bought = to_buy(machine_plan(6000.0), "m", [chains(2, 6000.0)])
        assert bought is not None
        self.assertEqual(bought.count + 2, len(bought.suggestion.ties))
        self.assertEqual(len(bought.suggestion.ties), 4)
        # the next lighter would not do with four
        lighter = chain_limit_kg((bought.size - 1) / 16 * 0.0254, 70) or 0.0
        plan = machine_plan(6000.0)
        tried = suggest(plan, "m", [chains(2, 6000.0), chains(2, lighter)])
        self.assertIsNot(tried.standard, Standard.EVERYTHING)
        self.assertIsNone(to_buy(machine_plan(points=()), "m", []))
        hook = Point(id="hook", ahead_m=-0.8, left_m=0.0, height_m=0.4)
        self.assertIsNone(to_buy(machine_plan(points=(hook,)), "m", []))

    def test_no_time_is_not_a_proof(self) -> None:
        found = suggest(machine_plan(), "m", [chains(8)], seconds=0.0)
        self.assertFalse(found.proved)


class Sets(SimpleTestCase):
    LEVER = RackPiece(key="lever", kind=None, wll_kg=1500.0, count=1)
    RATCHET = RackPiece(key="ratchet", kind=None, wll_kg=3000.0, count=1)

    def test_a_chain_holds_what_it_and_its_binder_hold(self) -> None:
        chain = chains(2, 2000.0, needs_binder=True)
        found = sets_of([chain, self.LEVER, self.RATCHET])
        self.assertEqual(
            [(one.wll_kg, one.binders) for one in found],
            [(1500.0, ("lever",)), (2000.0, ("ratchet",))],
        )
        self.assertEqual(sets_of([chain]), ())

    def test_binders_are_dealt_out_so_that_all_are_served(self) -> None:
        weak, strong = chains(1, 1000.0, needs_binder=True), chains(1, 2000.0, needs_binder=True)
        rack = [weak, strong, self.LEVER, self.RATCHET]
        sets = {(one.runs, one.wll_kg): one for one in sets_of(rack)}
        both = [sets["chain 1000", 1000.0], sets["chain 2000", 2000.0]]
        self.assertEqual(dealt(both, rack), (("chain 1000", "lever"), ("chain 2000", "ratchet")))


class Limits(SimpleTestCase):
    def test_sizes_as_measured_are_those_they_are_sold_as(self) -> None:
        self.assertEqual(chain_size(0.008), 5)
        self.assertEqual(chain_size(0.375 * 0.0254), 6)
        self.assertIsNone(chain_size(0.010))
        # no 7/16 of grade 80 is published
        self.assertIsNone(chain_limit_kg(7 / 16 * 0.0254, 80))
        self.assertIsNone(chain_limit_kg(0.375 * 0.0254, 50))

    def test_the_weakest_piece_counts_and_an_unknown_one_spoils_it(self) -> None:
        self.assertEqual(weakest_kg([3.0, 2.0]), 2.0)
        self.assertIsNone(weakest_kg([3.0, None]))
        self.assertIsNone(weakest_kg([]))
