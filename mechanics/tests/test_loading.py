"""The way on: cases worked by hand, and what holds for any outfit."""

from __future__ import annotations

import math
from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from mechanics.checks import Status
from mechanics.errors import InputError
from mechanics.item import BalancePoint, Contact, Facing, Underside
from mechanics.loading import Path, State, Station, Subject, Way, loading, missing_for_way, way
from mechanics.loading.outfit import aboard_before
from mechanics.loading.path import EXACT_M, Walk
from mechanics.loading.terrain import Part, terrain
from mechanics.loads import compute_loads
from mechanics.plan import Plan
from mechanics.site import Site, Surface
from mechanics.tail import Bed, Dovetail, Ramp, RampKind, Stands
from mechanics.tests.climbing import climbing_plan, climbs, excavator
from mechanics.tests.outfits import inch, lb, tractor
from mechanics.trailer import Suspension
from mechanics.truck import Drive, Ride

FEW = settings(max_examples=40)


def walked(plan: Plan, index: int = 0) -> tuple[Walk, Path, Way]:
    """One machine's way with nothing missing."""
    found = way(plan, index)
    assert found.walk is not None
    assert found.path is not None
    return found.walk, found.path, found


def on_trailer(plan: Plan, **changes: object) -> Plan:
    """The plan with its trailer otherwise."""
    return replace(plan, trailer=replace(plan.trailer, **changes))  # type: ignore[arg-type]


def on_machine(plan: Plan, **changes: object) -> Plan:
    """The plan with its first machine otherwise."""
    return replace(
        plan,
        items=(replace(plan.items[0], **changes), *plan.items[1:]),  # type: ignore[arg-type]
    )


class Ground(SimpleTestCase):
    def test_ramp_runs_from_the_tail_edge_to_the_ground(self) -> None:
        ground = terrain(climbing_plan())
        self.assertAlmostEqual(ground.edge_m, inch(292))
        self.assertAlmostEqual(ground.foot_m, inch(292 + math.sqrt(66**2 - 26**2)))
        self.assertAlmostEqual(math.sin(ground.angle), 26 / 66)
        self.assertAlmostEqual(ground.height(inch(10)), inch(26))
        self.assertAlmostEqual(ground.height((ground.edge_m + ground.foot_m) / 2), inch(13))
        self.assertEqual(ground.height(ground.foot_m + 1), 0.0)

    def test_blocks_under_the_foot_make_it_flatter_and_the_ground_behind_higher(self) -> None:
        ground = terrain(climbing_plan(foot_rise_m=inch(10)))
        self.assertAlmostEqual(math.sin(ground.angle), 16 / 66)
        self.assertAlmostEqual(ground.height(ground.foot_m + 1), inch(10))

    def test_dovetail_falls_within_the_deck(self) -> None:
        plan = on_trailer(climbing_plan(), dovetail=Dovetail(length_m=inch(60), drop_m=inch(9)))
        ground = terrain(plan)
        self.assertEqual(ground.part(inch(240)), Part.DOVETAIL)
        self.assertAlmostEqual(ground.height(inch(262)), inch(26 - 4.5))
        self.assertAlmostEqual(math.sin(ground.angle), 17 / 66)

    def test_corners_belong_to_deck_and_to_ground(self) -> None:
        ground = terrain(climbing_plan())
        self.assertEqual(ground.part(ground.edge_m), Part.DECK)
        self.assertEqual(ground.part(ground.foot_m), Part.GROUND)
        self.assertEqual(ground.part(ground.foot_m - 0.01), Part.RAMP)

    def test_ramp_no_longer_than_its_rise_is_refused(self) -> None:
        short = Ramp(kind=RampKind.RAMPS, length_m=inch(26))
        with self.assertRaises(InputError) as refused:
            loading(on_trailer(climbing_plan(), ramp=short))
        self.assertEqual(refused.exception.path, "trailer.ramp.length")

    @FEW
    @given(climbs, st.floats(0, 1), st.floats(0.2, 4))
    def test_ahead_undoes_behind(self, plan: Plan, part: float, distance: float) -> None:
        ground = terrain(plan)
        x = ground.edge_m - 2 + part * (ground.foot_m - ground.edge_m + 2)
        back = ground.behind(x, ground.height(x), distance)
        self.assertAlmostEqual(
            math.hypot(back.x - x, back.z - ground.height(x)), distance, places=9
        )
        self.assertAlmostEqual(ground.ahead(back.x, distance).x, x, places=7)


class ByHand(SimpleTestCase):
    """The tractor of 5,350 lb on the 20 ft trailer, its rear wheels at the tail edge."""

    def test_tongue_where_the_rear_wheels_leave_the_ramp(self) -> None:
        # level deck: front wheels 73 in ahead of the edge at 292; 30/73 of the mass on them
        front, rear = 5350 * 30 / 73, 5350 * 43 / 73
        tongue = 380 + 5350 - (front * 219 + rear * 292) / 200
        _, path, _ = walked(climbing_plan())
        self.assertAlmostEqual(path.lowest.tongue_kg, lb(tongue), places=3)
        self.assertAlmostEqual(path.lowest.stance.trail_x, inch(292), places=6)
        self.assertLess(tongue, -1270)

    def test_truck_keeps_by_the_lever_what_the_tongue_takes(self) -> None:
        walk, path, _ = walked(climbing_plan())
        carried = path.lowest.carried
        unhitched = 2940 + 190 * (1 - 70 / 160) + 160 * (1 - 28 / 160) + 55 * 210 / 160
        self.assertAlmostEqual(walk.outfit.rear_kg, lb(unhitched))
        self.assertAlmostEqual(
            carried.rear_kg, lb(unhitched) + path.lowest.tongue_kg * 210 / 160, places=6
        )
        self.assertAlmostEqual(sum(carried.axles_kg) + carried.tongue_kg, carried.mass_kg, places=6)

    def test_on_the_ramp_the_uphill_wheels_shed_by_height_and_slope(self) -> None:
        # both wheels on a long ramp: the share follows from the triangle alone
        plan = on_trailer(climbing_plan(), ramp=Ramp(kind=RampKind.RAMPS, length_m=inch(200)))
        walk, _, _ = walked(plan)
        station = walk.at(walk.ground.edge_m + inch(20))
        angle = walk.ground.angle
        self.assertAlmostEqual(station.stance.pitch, angle)
        expected = (30 * math.cos(angle) - 31 * math.sin(angle)) / (73 * math.cos(angle))
        self.assertAlmostEqual(station.stance.lead_kg / lb(5350), expected)
        self.assertEqual(station.high_share, station.stance.lead_kg / lb(5350))
        # what is q of the way up puts q of itself on the edge
        foot, edge = walk.ground.foot_m, walk.ground.edge_m
        on_edge = sum(
            kg * (foot - x) / (foot - edge)
            for kg, x in (
                (station.stance.lead_kg, station.stance.lead_x),
                (station.stance.trail_kg, station.stance.trail_x),
            )
        )
        self.assertAlmostEqual(station.edge_kg, on_edge)
        self.assertAlmostEqual(station.ramp_kg, lb(5350))

    def test_hold_with_the_parking_brake_on_gravel(self) -> None:
        _, path, found = walked(climbing_plan(surface=Surface.GRAVEL))
        worst = path.worst_hold
        assert worst is not None
        rear = worst.carried.rear_kg
        self.assertAlmostEqual(worst.hold or 0, 0.4 * rear / (0.1 * lb(5350)))
        check = found.finding(Subject.HOLD)
        assert check is not None
        self.assertEqual(check.status, Status.NEAR)

    def test_front_wheels_on_the_ramp_shove_the_outfit_ahead(self) -> None:
        walk, path, _ = walked(climbing_plan())
        at_foot = path.stations[0]
        just_on = walk.at(walk.ground.foot_m - inch(1))
        push = just_on.stance.lead_kg * math.tan(walk.ground.angle)
        self.assertGreater(push, 0.1 * lb(5350))
        self.assertAlmostEqual(just_on.hold or 0, 0.7 * just_on.carried.rear_kg / push)
        # at the foot itself they stand on the ground
        self.assertAlmostEqual(at_foot.hold or 0, 0.7 * at_foot.carried.rear_kg / (0.1 * lb(5350)))

    def test_slope_pulls_on_everything_above_the_coupler(self) -> None:
        _, path, _ = walked(climbing_plan(slope=0.05))
        station = path.lowest
        part = station.carried.mass_kg - lb(2900)
        moment = lb(2900) * inch(26 - 20) + part * (station.stance.balance_z - inch(20))
        self.assertAlmostEqual(
            station.carried.slope_shift_kg or 0, -0.05 * moment / inch(200), places=6
        )

    def test_chocked_trailer_uphill_holds_at_the_ground(self) -> None:
        _, path, _ = walked(climbing_plan(slope=0.05, held_trailer_axles=(1, 2)))
        station = path.lowest
        part = station.carried.mass_kg - lb(2900)
        moment = lb(2900) * inch(26) + part * station.stance.balance_z
        self.assertAlmostEqual(
            station.carried.slope_shift_kg or 0, -0.05 * moment / inch(200), places=6
        )

    def test_slope_without_heights_is_left_out_and_said(self) -> None:
        plan = on_trailer(climbing_plan(slope=0.05), coupler_height_m=None)
        _, path, _ = walked(plan)
        self.assertIsNone(path.lowest.carried.slope_shift_kg)
        _, level, _ = walked(climbing_plan())
        self.assertAlmostEqual(path.lowest.tongue_kg, level.lowest.tongue_kg)

    def test_stands_on_the_ground_hold_the_tongue_where_it_was(self) -> None:
        plan = on_trailer(
            climbing_plan(stands_down=True), stands=Stands(gap_m=0, rating_kg=lb(3000))
        )
        walk, path, found = walked(plan)
        self.assertEqual(path.lowest.tongue_kg, lb(380))
        self.assertIs(path.lowest, path.stations[0])
        station = walk.at(inch(219))
        carried = station.carried
        self.assertEqual(carried.state, State.PROPPED)
        self.assertAlmostEqual(carried.stand_kg, (lb(380) - carried.free_kg) * 200 / 92, places=6)
        stand = found.finding(Subject.STAND)
        assert stand is not None
        self.assertEqual(stand.status, Status.OVER)
        self.assertGreater(stand.value or 0, lb(3000))

    def test_stands_with_a_gap_bear_once_the_ball_has_come_up_by_its_lever(self) -> None:
        plan = on_trailer(
            climbing_plan(stands_down=True), stands=Stands(gap_m=inch(1), position_m=inch(285))
        )
        ride = Ride(ball_height_m=inch(20), rear_rate_kg_per_m=20000, front_rate_kg_per_m=18000)
        plan = replace(plan, truck=replace(plan.truck, ride=ride))
        walk, path, found = walked(plan)
        give = (210 / 160) ** 2 / 20000 + (50 / 160) ** 2 / 18000
        bears_at = lb(380) - inch(1) * 200 / ((285 - 200) * give)
        assert walk.outfit.prop is not None
        self.assertAlmostEqual(walk.outfit.prop.bears_at_kg, bears_at)
        self.assertAlmostEqual(path.lowest.tongue_kg, bears_at)
        self.assertIsNone(found.finding(Subject.STAND))

    def test_stands_that_cannot_bear_count_as_absent(self) -> None:
        for stands in (
            Stands(gap_m=inch(1)),  # a gap, and springs that nobody knows
            Stands(gap_m=0, position_m=inch(200)),  # at the axles
            Stands(gap_m=0, position_m=inch(60)),  # ahead of them
        ):
            plan = on_trailer(climbing_plan(stands_down=True), stands=stands)
            walk, path, found = walked(plan)
            self.assertIsNone(walk.outfit.prop)
            self.assertLess(path.lowest.tongue_kg, lb(-1200))
            self.assertIsNone(found.finding(Subject.STAND))

    def test_footed_ramps_are_stands_at_the_edge(self) -> None:
        footed = Ramp(kind=RampKind.RAMPS, length_m=inch(66), feet=True)
        walk, path, _ = walked(on_trailer(climbing_plan(), ramp=footed))
        assert walk.outfit.prop is not None
        self.assertAlmostEqual(walk.outfit.prop.at_m, inch(292))
        self.assertEqual(path.lowest.tongue_kg, lb(380))
        # stands with a gap besides do not count
        both = on_trailer(
            climbing_plan(stands_down=True), ramp=footed, stands=Stands(gap_m=inch(2))
        )
        walk, _, _ = walked(both)
        assert walk.outfit.prop is not None
        self.assertFalse(walk.outfit.prop.stands)

    def test_four_wheel_park_adds_the_front_axle_but_not_on_a_two_wheel_truck(self) -> None:
        plan = climbing_plan(park_four_wheel=True, parking_brake=False)
        walk, _, _ = walked(plan)
        station = walk.at(inch(219))
        both = station.carried.rear_kg + station.carried.front_kg
        self.assertAlmostEqual(station.hold or 0, 0.7 * both / (0.1 * lb(5350)))
        two = replace(plan, truck=replace(plan.truck, drive=Drive.TWO_WHEEL))
        walk, _, _ = walked(two)
        self.assertEqual(walk.at(inch(219)).hold, 0.0)

    def test_nothing_that_pushes_is_ok(self) -> None:
        plan = on_trailer(
            climbing_plan(push=0.0, foot_rise_m=inch(26)),
            ramp=Ramp(kind=RampKind.RAMPS, length_m=inch(66)),
        )
        _, path, found = walked(plan)
        self.assertIsNone(path.worst_hold)
        hold, tip = found.finding(Subject.HOLD), found.finding(Subject.TIP)
        assert hold is not None
        assert tip is not None
        self.assertEqual((hold.status, hold.value), (Status.OK, None))
        self.assertEqual((tip.status, tip.value), (Status.OK, None))

    def test_dump_bed_lifts_about_its_hinge(self) -> None:
        bed = Bed(hinge_m=inch(280), mass_kg=lb(1150), balance_m=inch(180))
        walk, _, found = walked(on_trailer(climbing_plan(), bed=bed))
        check = found.finding(Subject.BED)
        assert check is not None
        # the rear wheels 12 in behind the hinge at the edge, the front 61 in ahead of it
        front, rear = 5350 * 30 / 73, 5350 * 43 / 73
        at_edge = walk.at(inch(219))
        self.assertAlmostEqual(
            at_edge.bed_margin_kg_m or 0, lb(1) * inch(1) * (1150 * 100 + front * 61 - rear * 12)
        )
        self.assertEqual(check.status, Status.OK)
        light = replace(bed, mass_kg=lb(100))
        _, _, found = walked(on_trailer(climbing_plan(), bed=light))
        check = found.finding(Subject.BED)
        assert check is not None
        self.assertEqual(check.status, Status.OVER)
        self.assertLess(check.value or 0, 0)
        latched = replace(light, latched=True)
        _, _, found = walked(on_trailer(climbing_plan(), bed=latched))
        self.assertIsNone(found.finding(Subject.BED))
        propped = on_trailer(climbing_plan(stands_down=True), bed=light, stands=Stands(gap_m=0))
        _, _, found = walked(propped)
        self.assertIsNone(found.finding(Subject.BED))

    def test_what_is_needed_and_absent_is_named(self) -> None:
        plan = climbing_plan()
        bare = on_machine(
            on_trailer(plan, ramp=None, deck=replace(plan.trailer.deck, height_m=None)),
            cg=BalancePoint(ahead_m=0),
            contacts=(Contact(ahead_m=0),),
        )
        self.assertEqual(
            missing_for_way(bare, 0),
            ("trailer.ramp", "trailer.deck.height", "items[0].contacts", "items[0].cg.height"),
        )
        report = loading(bare)
        self.assertIs(report.verdict, Status.UNKNOWN)
        self.assertIsNone(report.ways[0].path)


class Statuses(SimpleTestCase):
    """Each finding reaches each of its statuses."""

    def status(self, plan: Plan, subject: Subject) -> Status:
        found = walked(plan)[2].finding(subject)
        assert found is not None
        return found.status

    def test_truck_rear_and_tongue(self) -> None:
        light = on_machine(climbing_plan(), mass_kg=lb(900))
        self.assertIs(self.status(light, Subject.TRUCK_REAR), Status.OK)
        self.assertIs(self.status(light, Subject.TONGUE), Status.OK)
        self.assertIs(self.status(climbing_plan(), Subject.TRUCK_REAR), Status.NEAR)
        self.assertIs(self.status(climbing_plan(), Subject.TONGUE), Status.NEAR)
        heavy = on_machine(climbing_plan(), mass_kg=lb(11000))
        self.assertIs(self.status(heavy, Subject.TRUCK_REAR), Status.OVER)
        self.assertIs(self.status(heavy, Subject.TONGUE), Status.NEAR)
        self.assertIs(walked(heavy)[1].lowest.state, State.LIFTED)

    def test_hold(self) -> None:
        self.assertIs(self.status(climbing_plan(), Subject.HOLD), Status.OK)
        gravel = climbing_plan(surface=Surface.GRAVEL)
        self.assertIs(self.status(gravel, Subject.HOLD), Status.NEAR)
        wet = climbing_plan(surface=Surface.GRASS_WET)
        self.assertIs(self.status(wet, Subject.HOLD), Status.OVER)

    def test_ramp_and_stand_ratings(self) -> None:
        for pounds, status in ((6000, Status.OK), (5900, Status.NEAR), (5000, Status.OVER)):
            ramp = Ramp(kind=RampKind.RAMPS, length_m=inch(80), rating_kg=lb(pounds))
            self.assertIs(self.status(on_trailer(climbing_plan(), ramp=ramp), Subject.RAMP), status)
        for pounds, status in ((5000, Status.OK), (3900, Status.NEAR), (3000, Status.OVER)):
            stands = Stands(gap_m=0, rating_kg=lb(pounds))
            plan = on_trailer(climbing_plan(stands_down=True), stands=stands)
            self.assertIs(self.status(plan, Subject.STAND), status)

    def test_axles_are_never_over_at_a_crawl(self) -> None:
        self.assertIs(self.status(climbing_plan(), Subject.AXLE), Status.OK)
        plan = climbing_plan()
        axles = tuple(replace(axle, gawr_kg=lb(2000)) for axle in plan.trailer.axles)
        self.assertIs(self.status(on_trailer(plan, axles=axles), Subject.AXLE), Status.NEAR)

    def test_tip(self) -> None:
        plan = climbing_plan()
        self.assertIs(self.status(plan, Subject.TIP), Status.OK)
        for height, status in ((45, Status.NEAR), (120, Status.OVER)):
            tall = replace(plan.items[0].cg, height_m=inch(height))
            self.assertIs(self.status(on_machine(plan, cg=tall), Subject.TIP), status)

    def test_clearance(self) -> None:
        plan = climbing_plan()
        self.assertIs(self.status(plan, Subject.CLEARANCE), Status.UNKNOWN)
        unknown = walked(plan)[2].finding(Subject.CLEARANCE)
        assert unknown is not None
        self.assertEqual(unknown.missing, ("items[0].underside",))
        for inches, status in ((16, Status.OK), (7.5, Status.NEAR), (4, Status.OVER)):
            belly = (
                Underside(ahead_m=inch(10), clearance_m=inch(inches)),
                Underside(ahead_m=inch(60), clearance_m=inch(inches)),
            )
            self.assertIs(self.status(on_machine(plan, underside=belly), Subject.CLEARANCE), status)

    def test_angle(self) -> None:
        self.assertIs(self.status(climbing_plan(), Subject.ANGLE), Status.NEAR)
        flat = climbing_plan(foot_rise_m=inch(12))
        self.assertIs(self.status(flat, Subject.ANGLE), Status.OK)


class Tracks(SimpleTestCase):
    """An excavator on tracks of 60 in over ramps long enough to lie on."""

    def plan(self, **changes: object) -> Plan:
        plan = on_trailer(climbing_plan(), ramp=Ramp(kind=RampKind.RAMPS, length_m=inch(100)))
        return replace(plan, items=(replace(excavator(), **changes),))  # type: ignore[arg-type]

    def test_lies_along_the_ramp_and_rocks_over_when_its_balance_point_passes_the_edge(
        self,
    ) -> None:
        walk, path, _ = walked(self.plan())
        ground = walk.ground
        angle = ground.angle
        # from the leading end back to the balance point: 34 in along, 30 in up
        behind = inch(34) * math.cos(angle) + inch(30) * math.sin(angle)
        rocks = ground.edge_m - behind
        before, after = walk.at(rocks + 1e-6), walk.at(rocks - 1e-6)
        self.assertAlmostEqual(before.stance.pitch, angle)
        self.assertEqual(after.stance.pitch, 0.0)
        self.assertAlmostEqual(after.stance.balance_x, rocks + inch(34), places=5)
        self.assertAlmostEqual(before.edge_kg, lb(3860), places=2)
        self.assertEqual(after.edge_kg, 0.0)
        leads = [s.lead_m for s in path.stations]
        self.assertTrue(any(0 < lead - rocks < 1e-6 for lead in leads))
        self.assertTrue(any(0 < rocks - lead < 1e-6 for lead in leads))

    def test_halves_only_where_its_centre_is_its_middle(self) -> None:
        _, path, _ = walked(self.plan())
        end = path.stations[-1].stance
        self.assertAlmostEqual(end.trail_kg / lb(3860), 34 / 60)
        plan = self.plan(cg=BalancePoint(ahead_m=0, height_m=inch(30)))
        end = walked(plan)[1].stations[-1].stance
        self.assertAlmostEqual(end.lead_kg, end.trail_kg)

    def test_bridges_the_foot_on_its_two_ends(self) -> None:
        walk, _, _ = walked(self.plan())
        station = walk.at(walk.ground.foot_m - inch(20))
        self.assertFalse(station.stance.lying)
        self.assertAlmostEqual(
            math.sin(station.stance.pitch), 20 * math.tan(walk.ground.angle) / 60, places=3
        )

    def test_bridging_foot_and_crest_at_once_it_stands_on_its_ends(self) -> None:
        plan = on_trailer(self.plan(), ramp=Ramp(kind=RampKind.RAMPS, length_m=inch(40)))
        walk, _, _ = walked(plan)
        station = walk.at(walk.ground.edge_m - inch(4))
        self.assertFalse(station.stance.lying)
        self.assertAlmostEqual(station.stance.trail_z, 0.0)

    def test_dovetail_is_a_ramp_to_a_track(self) -> None:
        plan = on_trailer(self.plan(), dovetail=Dovetail(length_m=inch(90), drop_m=inch(12)))
        walk, _, _ = walked(plan)
        slope = 12 / 90
        on_it = walk.at(inch(292 - 85))
        self.assertAlmostEqual(on_it.stance.pitch, math.atan(slope))
        over = walk.at(inch(292 - 90 - 10))
        self.assertAlmostEqual(over.stance.pitch, math.atan(slope))
        self.assertGreater(over.stance.lead_z, inch(26))
        past = walk.at(inch(292 - 90 - 45))
        self.assertEqual(past.stance.pitch, 0.0)


class TiltingDeck(SimpleTestCase):
    def plan(self, reference: float) -> Plan:
        """The whole deck ahead of 132 in stays; the last 108 in tilt."""
        plan = on_trailer(climbing_plan(), ramp=Ramp(kind=RampKind.TILT, length_m=inch(108)))
        return on_machine(
            plan, placement=replace(plan.items[0].placement, reference_m=inch(reference))
        )

    def test_comes_up_when_the_balance_point_passes_the_hinge(self) -> None:
        walk, path, found = walked(self.plan(120))
        self.assertAlmostEqual(walk.ground.edge_m, inch(292 - 108))
        flips = [
            (one, two)
            for one, two in zip(path.stations, path.stations[1:], strict=False)
            if one.stance.level != two.stance.level
        ]
        self.assertEqual(len(flips), 1)
        self.assertAlmostEqual(flips[0][0].stance.balance_x, inch(184), places=6)
        check = found.finding(Subject.TILT)
        assert check is not None
        self.assertEqual(check.status, Status.OK)
        # level at last: all of it stands where the tape says
        self.assertAlmostEqual(path.stations[-1].stance.balance_x, inch(52 + 120 - 30))

    def test_stays_down_with_the_balance_point_behind_the_hinge(self) -> None:
        _, path, found = walked(self.plan(190))
        check = found.finding(Subject.TILT)
        assert check is not None
        self.assertEqual(check.status, Status.OVER)
        self.assertLess(check.value or 0, 0)
        self.assertFalse(path.stations[-1].stance.level)


class SeveralMachines(SimpleTestCase):
    def two(self, first: float, second: float) -> Plan:
        plan = climbing_plan()
        one = replace(
            plan.items[0], placement=replace(tractor().placement, reference_m=inch(first))
        )
        two = replace(one, id="other", placement=replace(one.placement, reference_m=inch(second)))
        return replace(plan, items=(one, two))

    def test_those_ahead_are_aboard_already(self) -> None:
        plan = self.two(118, 290)
        self.assertEqual([i.id for i in aboard_before(plan, 1)], ["tractor"])
        self.assertEqual(aboard_before(plan, 0), ())
        # listed the other way round it is the same
        turned = replace(plan, items=tuple(reversed(plan.items)))
        self.assertEqual([i.id for i in aboard_before(turned, 0)], ["tractor"])

    def test_touching_is_ahead_and_overlapping_goes_by_the_list(self) -> None:
        touching = self.two(118, 118 + 164)
        self.assertEqual(len(aboard_before(touching, 1)), 1)
        beside = self.two(118, 150)
        self.assertEqual(len(aboard_before(beside, 1)), 1)
        self.assertEqual(aboard_before(beside, 0), ())

    def test_what_stands_ahead_keeps_the_tongue_down(self) -> None:
        alone = walked(self.two(118, 290))[1].lowest.tongue_kg
        behind = walked(self.two(118, 290), 1)[1].lowest.tongue_kg
        self.assertGreater(behind, alone)


class ForAnyOutfit(SimpleTestCase):
    def ways(self, plan: Plan) -> list[tuple[Walk, Path, Way]]:
        return [walked(plan, index) for index in range(len(plan.items))]

    @FEW
    @given(climbs)
    def test_forces_and_moments_balance_at_every_station(self, plan: Plan) -> None:
        for walk, path, _ in self.ways(plan):
            lever = plan.trailer.couple_lever_m
            for station in path.stations:
                carried = station.carried
                scale = carried.mass_kg + abs(carried.stand_kg) + abs(carried.tongue_kg)
                up = carried.tongue_kg + carried.stand_kg + sum(carried.axles_kg)
                self.assertAlmostEqual(up, carried.mass_kg, delta=1e-9 * scale)
                truck = carried.front_kg + carried.rear_kg
                self.assertAlmostEqual(
                    truck, walk.outfit.standing_kg + carried.tongue_kg, delta=1e-9 * scale
                )
                on = station.stance
                self.assertAlmostEqual(on.lead_kg + on.trail_kg, walk.machine.mass_kg)
                if plan.trailer.suspension is Suspension.EQUALIZED:
                    self.assertAlmostEqual(
                        max(carried.axles_kg), min(carried.axles_kg), delta=1e-9 * scale
                    )
                self.assertGreater(lever, 0)

    @FEW
    @given(climbs)
    def test_at_its_mark_the_tongue_is_that_of_the_plan(self, plan: Plan) -> None:
        """Without stands and slope, the last machine on leaves what the plan computes."""
        plan = replace(plan, site=Site(), items=plan.items[:1])
        plan = on_trailer(plan, ramp=replace(plan.trailer.ramp, feet=False), dovetail=None)  # type: ignore[type-var]
        walk, path, _ = walked(plan)
        last = path.stations[-1]
        assume(last.stance.trail_x <= walk.ground.edge_m)
        # one that balances behind the deck's edge lies back over it at its mark
        assume(abs(last.stance.pitch) < 1e-9)
        assume(walk.start_m > walk.end_m)
        self.assertAlmostEqual(last.tongue_kg, compute_loads(plan).trailer.tongue_kg, places=6)

    @FEW
    @given(climbs, st.floats(0, 1))
    def test_continuous_except_where_something_rocks_over(self, plan: Plan, part: float) -> None:
        for walk, _, _ in self.ways(plan):
            assume(not walk.machine.tracked)
            lead = walk.end_m + part * (walk.start_m - walk.end_m)
            places = [lead, *(k for k in walk.kinks() if walk.end_m < k < walk.start_m)]
            for place in places:
                one, two = walk.at(place + 1e-7), walk.at(place - 1e-7)
                scale = walk.machine.mass_kg + plan.trailer.empty_mass_kg
                self.assertAlmostEqual(one.tongue_kg, two.tongue_kg, delta=1e-4 * scale)
                self.assertAlmostEqual(one.stance.pitch, two.stance.pitch, places=4)

    @FEW
    @given(climbs)
    def test_a_machine_turned_round_in_every_way_is_the_same_machine(self, plan: Plan) -> None:
        """Mirrored and facing the other way it is the same on the way on, and so off again."""
        for index, item in enumerate(plan.items):
            mirrored = replace(
                item,
                cg=replace(item.cg, ahead_m=-item.cg.ahead_m),
                front_m=item.rear_m,
                rear_m=item.front_m,
                contacts=tuple(replace(c, ahead_m=-c.ahead_m) for c in item.contacts),
                underside=tuple(replace(p, ahead_m=-p.ahead_m) for p in item.underside),
                placement=replace(item.placement, facing=item.placement.facing.turned),
            )
            items = tuple(mirrored if n == index else i for n, i in enumerate(plan.items))
            one = walked(plan, index)[1].lowest
            two = walked(replace(plan, items=items), index)[1].lowest
            self.assertAlmostEqual(one.tongue_kg, two.tongue_kg, places=6)
            self.assertAlmostEqual(one.lead_m, two.lead_m, delta=2 * EXACT_M)

    @FEW
    @given(climbs, st.floats(0, 0.2), st.floats(0, 0.1))
    def test_more_slope_never_holds_better(self, plan: Plan, slope: float, more: float) -> None:
        """Uphill, where the slope takes load off the tongue too, without stands."""
        base = replace(plan.site, stands_down=False, held_trailer_axles=())
        plan = on_trailer(plan, ramp=replace(plan.trailer.ramp, feet=False))  # type: ignore[type-var]
        flat = replace(plan, site=replace(base, slope=slope))
        steep = replace(plan, site=replace(base, slope=slope + more))
        for index in range(len(plan.items)):
            one, two = walked(flat, index)[1].worst_hold, walked(steep, index)[1].worst_hold
            assert one is not None
            assert two is not None
            assume(one.carried.front_kg > 0)
            if not base.park_four_wheel:
                self.assertLessEqual(two.hold or 0, (one.hold or 0) * (1 + 1e-6))

    @FEW
    @given(climbs, st.floats(1, 1.5))
    def test_a_heavier_machine_never_lifts_less(self, plan: Plan, times: float) -> None:
        plan = replace(plan, site=replace(plan.site, stands_down=False), items=plan.items[:1])
        plan = on_trailer(plan, ramp=replace(plan.trailer.ramp, feet=False))  # type: ignore[type-var]
        light = walked(plan)[1].lowest
        heavy = walked(on_machine(plan, mass_kg=plan.items[0].mass_kg * times))[1].lowest
        self.assertLessEqual(heavy.tongue_kg, light.tongue_kg + 1e-4)

    @FEW
    @given(climbs)
    def test_stands_never_lower_the_tongue(self, plan: Plan) -> None:
        without = replace(plan, site=replace(plan.site, stands_down=False))
        with_them = replace(plan, site=replace(plan.site, stands_down=True))
        for index in range(len(plan.items)):
            walk, _, _ = walked(without, index)
            propped, _, _ = walked(with_them, index)
            for part in (0.1, 0.3, 0.5, 0.7, 0.9):
                lead = walk.end_m + part * (walk.start_m - walk.end_m)
                self.assertGreaterEqual(propped.at(lead).tongue_kg, walk.at(lead).tongue_kg - 1e-9)

    @FEW
    @given(climbs)
    def test_the_least_tongue_is_found_between_the_stations(self, plan: Plan) -> None:
        for walk, path, _ in self.ways(plan):
            span = walk.start_m - walk.end_m
            dense = min(walk.at(walk.end_m + span * n / 1500).tongue_kg for n in range(1501))
            scale = walk.machine.mass_kg
            self.assertLessEqual(path.lowest.tongue_kg, dense + 2e-5 * scale)

    @FEW
    @given(climbs)
    def test_stations_fall_from_foot_to_mark(self, plan: Plan) -> None:
        for walk, path, found in self.ways(plan):
            leads = [s.lead_m for s in path.stations]
            self.assertGreaterEqual(len(leads), 200)
            self.assertEqual(leads, sorted(leads, reverse=True))
            self.assertEqual(leads[0], walk.start_m)
            self.assertEqual(leads[-1], walk.end_m)
            self.assertIn(path.lowest, path.stations)
            codes = [f.code for f in found.findings]
            self.assertEqual(len(codes), len(set(codes)))


def high(station: Station) -> float:
    """The part of the machine on its higher contact."""
    return station.high_share or 0.0


class HeavyEnd(SimpleTestCase):
    def test_heavy_end_uphill_keeps_more_on_the_higher_wheels(self) -> None:
        """Common practice, no source: back a heavy tail on."""
        plan = climbing_plan()
        forward = walked(plan)[2].finding(Subject.TIP)
        placed = replace(plan.items[0].placement, facing=Facing.BACKWARD)
        backward = walked(on_machine(plan, placement=placed))[2].finding(Subject.TIP)
        assert forward is not None
        assert backward is not None
        assert forward.station is not None
        self.assertEqual(high(forward.station), forward.value)
        self.assertGreater(backward.value or 0, forward.value or 0)
