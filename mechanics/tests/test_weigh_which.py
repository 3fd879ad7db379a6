"""Which single weighing widens the sure window most."""

from __future__ import annotations

from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given, settings

from mechanics.plan import Plan
from mechanics.report import evaluate
from mechanics.tests.outfits import example_plan, inch, lb, loaded_plans
from mechanics.weigh_which import WORTH_M, Gain, Weighing, weigh_which


def sure_length(plan: Plan, index: int = 0) -> float:
    """Deck on which one item stands surely right."""
    return sum(piece.end_m - piece.start_m for piece in evaluate(plan).windows[index].sure)


def unsure(plan: Plan, *, mass: float, balance: float) -> Plan:
    """The plan with its first item less well known."""
    item = plan.items[0]
    return replace(
        plan,
        items=(
            replace(
                item,
                mass_tolerance_kg=mass,
                cg=replace(item.cg, ahead_tolerance_m=balance),
            ),
            *plan.items[1:],
        ),
    )


class WeighWhich(SimpleTestCase):
    def test_a_guessed_balance_point_asks_for_both_axles(self) -> None:
        plan = unsure(example_plan(), mass=lb(250), balance=inch(6))
        best = weigh_which(plan, 0)[0]
        self.assertEqual((best.weighing, best.item), (Weighing.ITEM_AXLES, plan.items[0].id))
        self.assertAlmostEqual(best.before_m, sure_length(plan))
        known = unsure(plan, mass=lb(40), balance=inch(1))
        self.assertAlmostEqual(best.after_m, sure_length(known))

    def test_where_only_the_mass_is_unsure_one_reading_will_do(self) -> None:
        """A share hardly cares for the mass; a rating that binds does."""
        plan = unsure(example_plan(), mass=lb(400), balance=inch(0.5))
        self.assertEqual(weigh_which(plan, 0), ())
        truck = replace(plan.truck, rear_gawr_kg=evaluate(plan).loads.truck.rear_kg + lb(120))
        found = weigh_which(replace(plan, truck=truck), 0)
        self.assertIs(found[0].weighing, Weighing.ITEM_WHOLE)

    def test_an_unsure_tongue_asks_for_the_tongue(self) -> None:
        plan = unsure(example_plan(), mass=lb(20), balance=inch(1))
        trailer = replace(plan.trailer, empty_tongue_mass_tolerance_kg=lb(150))
        best = weigh_which(replace(plan, trailer=trailer), 0)[0]
        self.assertEqual((best.weighing, best.item), (Weighing.TRAILER_TONGUE, None))

    def test_an_unsure_truck_asks_for_the_truck_where_it_binds(self) -> None:
        plan = unsure(example_plan(), mass=lb(20), balance=inch(1))
        report = evaluate(plan)
        truck = replace(
            plan.truck,
            front_axle_mass_tolerance_kg=lb(150),
            rear_axle_mass_tolerance_kg=lb(150),
            rear_gawr_kg=report.loads.truck.rear_kg + lb(170),
        )
        best = weigh_which(replace(plan, truck=truck), 0)[0]
        self.assertIs(best.weighing, Weighing.TRUCK_AXLES)

    def test_a_neighbour_may_be_what_is_worth_weighing(self) -> None:
        plan = unsure(example_plan(), mass=lb(20), balance=inch(1))
        other = replace(
            plan.items[0],
            id="other",
            mass_kg=lb(900),
            mass_tolerance_kg=lb(180),
            cg=replace(plan.items[0].cg, ahead_tolerance_m=inch(10)),
            front_m=inch(20),
            rear_m=inch(20),
            placement=replace(plan.items[0].placement, reference_m=inch(24)),
        )
        found = weigh_which(replace(plan, items=(*plan.items, other)), 0)
        self.assertEqual(found[0].item, "other")

    def test_where_all_is_weighed_nothing_is_worth_it(self) -> None:
        plan = unsure(example_plan(), mass=lb(20), balance=inch(1))
        trailer = replace(
            plan.trailer,
            empty_mass_tolerance_kg=lb(20),
            empty_tongue_mass_tolerance_kg=lb(10),
        )
        self.assertEqual(weigh_which(replace(plan, trailer=trailer), 0), ())

    @given(loaded_plans)
    @settings(max_examples=60)
    def test_knowing_more_never_narrows_and_the_best_comes_first(self, plan: Plan) -> None:
        found = weigh_which(plan, 0)
        self.assertTrue(all(gain.gain_m >= WORTH_M for gain in found))
        gains = [round(gain.gain_m, 4) for gain in found]
        self.assertEqual(gains, sorted(gains, reverse=True))
        both = {g.item: g for g in found if g.weighing is Weighing.ITEM_AXLES}
        for gain in found:
            self.assertIsInstance(gain, Gain)
            if gain.weighing is Weighing.ITEM_WHOLE and gain.item in both:
                # two axle readings leave two steps of mass, and still rarely lose to one
                self.assertGreaterEqual(gain.after_m, gain.before_m)
