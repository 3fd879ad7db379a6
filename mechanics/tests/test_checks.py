"""What each check compares, when it is near, over or unknown, and in which order."""

from __future__ import annotations

from dataclasses import replace

from django.test import SimpleTestCase

from mechanics.checks import Status, judge
from mechanics.errors import InputError
from mechanics.hitch import HitchPart, HitchType, WeightDistribution
from mechanics.item import BalancePoint, Item, Placement
from mechanics.limits import Limit, Quantity, Sense
from mechanics.plan import Plan
from mechanics.report import Report, evaluate
from mechanics.rules import Rules, TongueSchool, TrailerGvwrSchool, resolve_school
from mechanics.tests.outfits import example_plan, inch, lb, tractor, with_bars
from mechanics.trailer import Axle, Deck, Suspension
from mechanics.truck import Cargo


def status(report: Report, code: str) -> str:
    """Status of the first check of a code."""
    return next(c.status.value for c in report.checks if c.code == code)


def rated(plan: Plan, **ratings: float | None) -> Report:
    """The example's report with some of the truck's ratings changed."""
    return evaluate(replace(plan, truck=replace(plan.truck, **ratings)))


class Judging(SimpleTestCase):
    def limit(self, value: float, **more: object) -> Limit:
        return Limit(code="x", quantity=Quantity.MASS, value=value, limit=1000.0, near=0.9, **more)  # type: ignore[arg-type]

    def test_judge_statuses(self) -> None:
        for value, expected in (
            (899.0, Status.OK),
            (900.0, Status.OK),
            (900.1, Status.NEAR),
            (1000.0, Status.NEAR),
            (1000.0 + 1e-10, Status.NEAR),
            (1000.01, Status.OVER),
            (-50.0, Status.OK),
        ):
            with self.subTest(value=value):
                self.assertIs(judge(self.limit(value)).status, expected)

    def test_judge_without_a_limit_is_unknown(self) -> None:
        check = judge(Limit(code="truck.gvwr", quantity=Quantity.MASS, value=5.0, limit=None))
        self.assertIs(check.status, Status.UNKNOWN)
        self.assertEqual(check.missing, ("truck.gvwr",))
        self.assertIsNone(check.margin)

    def test_exactly_at_the_limit_is_not_over(self) -> None:
        report = rated(example_plan(), max_trailer_mass_kg=lb(8250))
        self.assertEqual(status(report, "truck.max_trailer_mass"), "near")


class EveryCode(SimpleTestCase):
    def test_each_rating_passed_is_a_finding(self) -> None:
        """A rating far too small makes its own check over, and the verdict with it."""
        plan = example_plan()
        for field, code in (
            ("front_gawr_kg", "truck.front_gawr"),
            ("rear_gawr_kg", "truck.rear_gawr"),
            ("gvwr_kg", "truck.gvwr"),
            ("payload_kg", "truck.payload"),
            ("max_trailer_mass_kg", "truck.max_trailer_mass"),
            ("max_tongue_mass_kg", "truck.max_tongue_mass"),
            ("gcwr_kg", "combination.gcwr"),
        ):
            with self.subTest(code=code):
                report = rated(plan, **{field: lb(500)})
                self.assertEqual(status(report, code), "over")
                self.assertIs(report.verdict, Status.OVER)

    def test_each_rating_a_practitioner_must_know_is_asked_for(self) -> None:
        plan = example_plan()
        bare = replace(
            plan,
            truck=replace(
                plan.truck,
                front_gawr_kg=None,
                rear_gawr_kg=None,
                gvwr_kg=None,
                gcwr_kg=None,
                max_trailer_mass_kg=None,
                payload_kg=None,
            ),
            trailer=replace(
                plan.trailer,
                gvwr_kg=None,
                axles=tuple(Axle(position_m=a.position_m) for a in plan.trailer.axles),
            ),
        )
        report = evaluate(bare)
        unknown = {c.missing[0] for c in report.checks if c.status is Status.UNKNOWN}
        self.assertEqual(
            unknown,
            {
                "trailer.gvwr",
                "trailer.axles[0].gawr",
                "trailer.axles[1].gawr",
                "truck.front_gawr",
                "truck.rear_gawr",
                "truck.gvwr",
                "truck.payload",
                "truck.max_trailer_mass",
                "truck.gcwr",
            },
        )
        self.assertIs(report.verdict, Status.UNKNOWN)
        self.assertNotIn("trailer.side_left", {c.code for c in report.checks})

    def test_payload_falls_back_to_gvwr_less_the_empty_truck(self) -> None:
        report = rated(example_plan(), payload_kg=None)
        check = next(c for c in report.checks if c.code == "truck.payload")
        self.assertAlmostEqual(check.limit or 0, lb(10000 - 4180 - 2940))

    def test_trailer_parts_and_sides(self) -> None:
        plan = example_plan()
        axles = tuple(
            Axle(position_m=a.position_m, gawr_kg=lb(3000), tire_capacity_kg=lb(2000))
            for a in plan.trailer.axles
        )
        report = evaluate(
            replace(plan, trailer=replace(plan.trailer, axles=axles, gvwr_kg=lb(8000)))
        )
        for code in (
            "trailer.gvwr",
            "trailer.axle_1.gawr",
            "trailer.axle_2.tires",
            "trailer.side_left",
            "trailer.side_right",
        ):
            self.assertEqual(status(report, code), "over")
        side = next(c for c in report.checks if c.code == "trailer.side_left")
        self.assertAlmostEqual(side.limit or 0, lb(2000))

    def test_hitch_parts_are_near_above_five_sixths(self) -> None:
        plan = example_plan()
        for limit, expected in ((8250 * 1.2 + 1, "ok"), (8250 * 1.2 - 1, "near"), (8249, "over")):
            part = HitchPart(
                name="ball", max_trailer_mass_kg=lb(limit), max_tongue_mass_kg=lb(1000)
            )
            report = evaluate(replace(plan, hitch=replace(plan.hitch, parts=(part,))))
            self.assertEqual(status(report, "hitch.ball.max_trailer_mass"), expected)
            self.assertEqual(status(report, "hitch.ball.max_tongue_mass"), "over")

    def test_weight_distributing_ratings_stand_in_one_by_one(self) -> None:
        plan = with_bars(example_plan(), 0.5)
        part = HitchPart(
            name="r", max_trailer_mass_kg=1, max_tongue_mass_kg=2, max_trailer_mass_wd_kg=9000
        )
        hitch = replace(plan.hitch, parts=(part,))
        self.assertEqual(hitch.trailer_limit_kg(part), 9000)
        self.assertEqual(hitch.tongue_limit_kg(part), 2)
        bare = replace(hitch, weight_distribution=None)
        self.assertEqual(bare.trailer_limit_kg(part), 1)

    def test_share_is_over_on_either_side_and_never_near(self) -> None:
        plan = example_plan()
        for reference, low, high in ((130, "ok", "over"), (150, "ok", "ok"), (180, "over", "ok")):
            report = evaluate(
                plan.with_placement("tractor", Placement(reference_m=inch(reference)))
            )
            self.assertEqual(status(report, "tongue.share_min"), low)
            self.assertEqual(status(report, "tongue.share_max"), high)

    def test_deck_ends_and_width(self) -> None:
        plan = example_plan()
        for reference, front, rear in ((117, "over", "ok"), (118, "ok", "ok"), (195, "ok", "over")):
            report = evaluate(
                plan.with_placement("tractor", Placement(reference_m=inch(reference)))
            )
            self.assertEqual(status(report, "deck.front"), front)
            self.assertEqual(status(report, "deck.rear"), rear)
        wide = plan.with_placement("tractor", Placement(reference_m=inch(150), left_m=inch(9)))
        self.assertEqual(status(evaluate(wide), "deck.width"), "near")

    def test_neighbours_are_checked_once_per_pair_and_not_when_clear_sideways(self) -> None:
        plan = replace(example_plan(), items=(tractor("a", 120), tractor("b", 200)))
        pairs = [c for c in evaluate(plan).checks if c.code.startswith("item.")]
        self.assertEqual(
            [(c.item, c.code, c.status.value) for c in pairs], [("a", "item.b", "over")]
        )
        self.assertAlmostEqual(pairs[0].value, inch(200 - 118 - (120 + 46)))
        left = replace(plan.items[0], placement=Placement(reference_m=3.0, left_m=inch(33)))
        right = replace(plan.items[1], placement=Placement(reference_m=3.0, left_m=inch(-33)))
        apart = evaluate(replace(plan, items=(left, right)))
        self.assertFalse([c for c in apart.checks if c.code.startswith("item.")])

    def test_checks_come_in_the_order_of_their_codes(self) -> None:
        codes = [c.code for c in evaluate(example_plan()).checks]
        self.assertEqual(
            codes[:5],
            [
                "trailer.gvwr",
                "trailer.axle_1.gawr",
                "trailer.axle_2.gawr",
                "trailer.axle_1.tires",
                "trailer.axle_2.tires",
            ],
        )
        self.assertEqual(codes[-5:-3], ["tongue.share_min", "tongue.share_max"])

    def test_gvwr_school_axles_counts_what_stands_on_the_axles(self) -> None:
        plan = replace(example_plan(), rules=Rules(trailer_gvwr=TrailerGvwrSchool.AXLES))
        check = next(c for c in evaluate(plan).checks if c.code == "trailer.gvwr")
        self.assertAlmostEqual(check.value, lb(8250 - 1129))


class Schools(SimpleTestCase):
    def test_share_range_of_each_school(self) -> None:
        for school, hitch, axles, expected in (
            (TongueSchool.DEFAULT, HitchType.BALL, 2, (0.10, 0.15)),
            (TongueSchool.DEFAULT, HitchType.PINTLE, 2, (0.10, 0.15)),
            (TongueSchool.DEFAULT, HitchType.GOOSENECK, 2, (0.15, 0.25)),
            (TongueSchool.DEFAULT, HitchType.FIFTH_WHEEL, 2, (0.15, 0.20)),
            (TongueSchool.BY_AXLE_COUNT, HitchType.BALL, 1, (0.12, 0.15)),
            (TongueSchool.BY_AXLE_COUNT, HitchType.BALL, 2, (0.09, 0.11)),
            (TongueSchool.BY_AXLE_COUNT, HitchType.BALL, 5, (0.05, 0.07)),
            (TongueSchool.GOOSENECK_13_15, HitchType.GOOSENECK, 2, (0.13, 0.15)),
        ):
            with self.subTest(school=school, hitch=hitch, axles=axles):
                self.assertEqual(Rules(tongue=school).share_range(hitch, axles), expected)

    def test_resolve_school_leaves_a_named_one(self) -> None:
        self.assertIs(
            resolve_school(TongueSchool.SHARE_9_15, HitchType.GOOSENECK), TongueSchool.SHARE_9_15
        )

    def test_custom_shares(self) -> None:
        rules = Rules(tongue=TongueSchool.CUSTOM, share_min=0.08, share_max=0.11)
        self.assertEqual(rules.share_range(HitchType.BALL, 2), (0.08, 0.11))


class BallSize(SimpleTestCase):
    def report(self, ball: float | None, coupler: float | None) -> Report:
        plan = example_plan()
        return evaluate(
            replace(
                plan,
                hitch=replace(plan.hitch, ball_diameter_m=None if ball is None else inch(ball)),
                trailer=replace(
                    plan.trailer, coupler_size_m=None if coupler is None else inch(coupler)
                ),
            )
        )

    def test_every_pair_of_usual_sizes(self) -> None:
        sizes = (1.875, 2.0, 2.3125, 3.0)
        for ball in sizes:
            for coupler in sizes:
                with self.subTest(ball=ball, coupler=coupler):
                    report = self.report(ball, coupler)
                    check = next(c for c in report.checks if c.code == "hitch.ball_size")
                    self.assertEqual(check.status.value, "ok" if ball == coupler else "over")
                    self.assertAlmostEqual(check.margin or 0.0, -inch(abs(ball - coupler)))
                    self.assertEqual(bool(report.windows[0].intervals), ball == coupler)

    def test_a_wrong_ball_closes_every_window_and_is_named(self) -> None:
        report = self.report(2.0, 2.3125)
        self.assertEqual(report.verdict, Status.OVER)
        self.assertEqual(report.windows[0].contradiction, ("hitch.ball_size", "hitch.ball_size"))

    def test_one_size_alone_cannot_say_and_none_is_left_out(self) -> None:
        for ball, coupler, missing in (
            (None, 2.0, "hitch.ball_diameter"),
            (2.0, None, "trailer.coupler_size"),
        ):
            check = next(
                c for c in self.report(ball, coupler).checks if c.code == "hitch.ball_size"
            )
            self.assertIs(check.status, Status.UNKNOWN)
            self.assertEqual(check.missing, (missing,))
        codes = [c.code for c in self.report(None, None).checks]
        self.assertNotIn("hitch.ball_size", codes)

    def test_50_mm_sold_as_1_31_32_in_is_one_size(self) -> None:
        plan = example_plan()
        report = evaluate(
            replace(
                plan,
                hitch=replace(plan.hitch, ball_diameter_m=0.05),
                trailer=replace(plan.trailer, coupler_size_m=inch(1 + 31 / 32)),
            )
        )
        self.assertEqual(status(report, "hitch.ball_size"), "ok")


class TruckTiresAndDoubts(SimpleTestCase):
    def test_tires_are_held_against_the_axle_that_stands_on_them(self) -> None:
        report = rated(
            example_plan(), front_tire_capacity_kg=lb(3000), rear_tire_capacity_kg=lb(9000)
        )
        checks = {c.code: c for c in report.checks}
        self.assertEqual(checks["truck.front_tires"].value, report.loads.truck.front_kg)
        self.assertEqual(checks["truck.rear_tires"].value, report.loads.truck.rear_kg)
        self.assertEqual(status(report, "truck.rear_tires"), "ok")
        self.assertEqual(status(report, "truck.front_tires"), "over")
        self.assertNotIn("truck.front_tires", [c.code for c in rated(example_plan()).checks])

    def test_tires_make_an_end_of_the_window(self) -> None:
        plan = example_plan()
        loads = evaluate(plan).loads
        report = rated(plan, rear_tire_capacity_kg=loads.truck.rear_kg)
        piece = report.windows[0].intervals[0]
        self.assertEqual(piece.start_limit, "truck.rear_tires")
        self.assertAlmostEqual(piece.start_m, plan.items[0].placement.reference_m)

    def test_an_unsure_empty_truck_narrows_the_sure_window_only(self) -> None:
        plan = example_plan()
        tight = {"payload_kg": None, "gvwr_kg": evaluate(plan).loads.truck.mass_kg + lb(60)}
        sure, unsure = (
            rated(plan, **tight, front_axle_mass_tolerance_kg=t, rear_axle_mass_tolerance_kg=t)
            for t in (0.0, lb(20))
        )
        self.assertEqual(sure.windows[0].intervals, unsure.windows[0].intervals)
        self.assertGreater(unsure.windows[0].sure[0].start_m, sure.windows[0].sure[0].start_m)


class RefusedInputs(SimpleTestCase):
    def test_each_refusal_names_its_field(self) -> None:
        plan = example_plan()
        truck, trailer, item = plan.truck, plan.trailer, plan.items[0]
        for build, message in (
            (lambda: replace(truck, wheelbase_m=0), "truck.wheelbase"),
            (lambda: replace(truck, front_axle_mass_kg=-1), "truck.front_axle_mass"),
            (lambda: replace(truck, rear_axle_mass_kg=0), "truck.rear_axle_mass"),
            (lambda: Cargo(mass_kg=0, ahead_of_rear_axle_m=1), "truck.cargo.mass"),
            (
                lambda: Cargo(mass_kg=1, mass_tolerance_kg=-1, ahead_of_rear_axle_m=1),
                "truck.cargo.mass_tolerance",
            ),
            (lambda: replace(plan.hitch, mass_kg=-1), "hitch.mass"),
            (lambda: replace(plan.hitch, ball_diameter_m=0), "hitch.ball_diameter"),
            (lambda: replace(trailer, coupler_size_m=0), "trailer.coupler_size"),
            (lambda: replace(truck, front_axle_mass_tolerance_kg=-1), "front_axle_mass_tolerance"),
            (lambda: replace(truck, rear_axle_mass_tolerance_kg=-1), "rear_axle_mass_tolerance"),
            (lambda: WeightDistribution(front_axle_restoration=1.1), "front_axle_restoration"),
            (lambda: Axle(position_m=-2), "trailer.axles.position"),
            (lambda: replace(trailer, axles=()), "trailer.axles"),
            (lambda: replace(trailer, track_width_m=0), "trailer.track_width"),
            (lambda: replace(trailer, empty_mass_kg=0), "trailer.empty_mass"),
            (lambda: replace(trailer, empty_tongue_mass_kg=9999), "trailer.empty_tongue_mass"),
            (lambda: replace(trailer, empty_mass_tolerance_kg=-1), "empty_mass_tolerance"),
            (lambda: replace(trailer, empty_tongue_mass_tolerance_kg=-1), "tongue_mass_tolerance"),
            (lambda: Deck(start_m=0, length_m=0), "trailer.deck.length"),
            (lambda: Deck(start_m=0, length_m=1, front_overhang_m=-1), "deck.front_overhang"),
            (lambda: Deck(start_m=0, length_m=1, rear_overhang_m=-1), "deck.rear_overhang"),
            (lambda: replace(item, mass_kg=0), "items.mass"),
            (lambda: replace(item, mass_tolerance_kg=-1), "items.mass_tolerance"),
            (lambda: replace(item, front_m=0), "items.front"),
            (lambda: replace(item, rear_m=-1), "items.rear"),
            (lambda: BalancePoint(ahead_m=0, ahead_tolerance_m=-1), "items.cg.ahead_tolerance"),
            (lambda: replace(plan, items=(item, item)), "items[1].id"),
            (lambda: Rules(tongue=TongueSchool.CUSTOM), "rules.share_min"),
            (lambda: Rules(share_min=0.1), "rules.share_min"),
            (
                lambda: Rules(tongue=TongueSchool.CUSTOM, share_min=0.2, share_max=0.1),
                "rules.share_max",
            ),
            (
                lambda: Rules(tongue=TongueSchool.CUSTOM, share_min=0.2, share_max=1.1),
                "rules.share_max",
            ),
        ):
            with self.subTest(message=message), self.assertRaisesMessage(InputError, message):
                build()

    def test_item_of_an_unknown_id(self) -> None:
        with self.assertRaises(KeyError):
            example_plan().item("nobody")

    def test_a_negative_deck_start_is_allowed(self) -> None:
        self.assertEqual(Deck(start_m=-1.5, length_m=6).start_m, -1.5)

    def test_items_know_their_reach(self) -> None:
        item: Item = tractor()
        turned = replace(
            item, placement=replace(item.placement, facing=item.placement.facing.turned)
        )
        self.assertAlmostEqual(item.foremost_m, inch(32))
        self.assertAlmostEqual(turned.foremost_m, inch(150 - 46))


class AxlesOnTheGround(SimpleTestCase):
    """The hitched axle load against nothing: at or below it is over, below 0.8 of the
    unhitched one is near."""

    def with_tongue(self, plan: Plan, tongue_lb: float) -> Report:
        """The example moved to where the tongue is so much: 1,129 lb at 150 in, 26.75 an inch."""
        item = plan.items[0]
        at = 150 + (1129 - tongue_lb) / (5350 / 200)
        return evaluate(plan.with_placement(item.id, replace(item.placement, reference_m=inch(at))))

    def test_front_axle_loses_tongue_by_the_lever(self) -> None:
        """Unhitched front 4,180 + 190 x 70/160 + 160 x 28/160 - 55 x 50/160 = 4,273.9 lb."""
        front = 4180 + 190 * 70 / 160 + 160 * 28 / 160 - 55 * 50 / 160
        for tongue, expected in (
            (0.19 * front * 160 / 50, "ok"),
            (0.21 * front * 160 / 50, "near"),
            (0.99 * front * 160 / 50, "near"),
            (1.01 * front * 160 / 50, "over"),
        ):
            with self.subTest(tongue=tongue):
                report = self.with_tongue(example_plan(), tongue)
                check = next(c for c in report.checks if c.code == "truck.front_light")
                self.assertEqual(check.status.value, expected)
                self.assertEqual(check.limit, 0.0)
                self.assertAlmostEqual(check.margin or 0, lb(front - tongue * 50 / 160))
                self.assertAlmostEqual(check.near_at or 0, lb(0.8 * front))
                self.assertIsNone(check.reserve)

    def test_a_lifting_tongue_takes_the_rear_axle_off_the_ground(self) -> None:
        """Unhitched rear 2,940 + 190 x 90/160 + 160 x 132/160 + 55 x 210/160 = 3,251.1 lb."""
        rear = 2940 + 190 * 90 / 160 + 160 * 132 / 160 + 55 * 210 / 160
        for tongue, expected in (
            (-0.19 * rear * 160 / 210, "ok"),
            (-0.21 * rear * 160 / 210, "near"),
            (-1.01 * rear * 160 / 210, "over"),
        ):
            with self.subTest(tongue=tongue):
                report = self.with_tongue(example_plan(), tongue)
                self.assertEqual(status(report, "truck.rear_light"), expected)

    def test_an_axle_that_carries_nothing_is_over(self) -> None:
        at_zero = Limit(
            code="truck.rear_light",
            quantity=Quantity.MASS,
            value=0.0,
            limit=0.0,
            sense=Sense.AT_LEAST,
            strict=True,
            near_below=100.0,
        )
        self.assertIs(judge(at_zero).status, Status.OVER)
        self.assertIs(judge(at_zero._replace(value=1e-9)).status, Status.NEAR)
        self.assertIs(judge(at_zero._replace(value=100.0)).status, Status.OK)
        self.assertIs(
            judge(at_zero._replace(sense=Sense.AT_MOST, near_below=None)).status, Status.OVER
        )

    def test_they_stand_between_the_axle_ratings_and_gvwr(self) -> None:
        codes = [c.code for c in evaluate(example_plan()).checks]
        first = codes.index("truck.rear_gawr")
        self.assertEqual(
            codes[first + 1 : first + 4], ["truck.front_light", "truck.rear_light", "truck.gvwr"]
        )


class SidesOfUnequalAxles(SimpleTestCase):
    def limits(self, suspension: Suspension, *ratings: tuple[float | None, float | None]) -> Report:
        plan = example_plan()
        axles = tuple(
            Axle(
                position_m=inch(183 + 34 * n),
                gawr_kg=None if gawr is None else lb(gawr),
                tire_capacity_kg=None if tires is None else lb(tires),
            )
            for n, (gawr, tires) in enumerate(ratings)
        )
        return evaluate(
            replace(plan, trailer=replace(plan.trailer, axles=axles, suspension=suspension))
        )

    def side(self, report: Report) -> float | None:
        found = [c.limit for c in report.checks if c.code == "trailer.side_left"]
        return found[0] if found else None

    def test_equalized_axles_are_governed_by_the_weakest(self) -> None:
        """Half of the least lesser rating, times their number: 5,000 x 2 / 2."""
        report = self.limits(Suspension.EQUALIZED, (5200, 5000), (7000, 8000))
        self.assertAlmostEqual(self.side(report) or 0, lb(5000))

    def test_independent_axles_count_each_with_their_own(self) -> None:
        report = self.limits(Suspension.INDEPENDENT, (5200, 5000), (7000, 8000))
        self.assertAlmostEqual(self.side(report) or 0, lb(6000))

    def test_without_any_rating_of_one_axle_nothing_is_said(self) -> None:
        report = self.limits(Suspension.EQUALIZED, (5200, 5000), (None, None))
        self.assertIsNone(self.side(report))


class NosePlateSchool(SimpleTestCase):
    def test_four_to_seven_percent(self) -> None:
        plan = replace(example_plan(), rules=Rules(tongue=TongueSchool.NOSE_4_7))
        self.assertEqual(plan.share_range, (0.04, 0.07))
        # 13.7 % as it stands
        self.assertEqual(status(evaluate(plan), "tongue.share_max"), "over")
