"""From entries of the book to the sections of a plan, each worked by hand."""

from __future__ import annotations

from django.test import TestCase
from msgspec import UNSET

from book.errors import IncompleteError
from book.models import HitchPart, Machine, Trailer, TrailerAxle, Truck
from hauls.compose import (
    FileUnits,
    hitch_section,
    load_section,
    rules_section,
    trailer_section,
    truck_section,
)
from hauls.drafting import bare_draft, with_load, with_loads
from hauls.loads import Load, LoadKey
from hauls.tests.bare_yard import BareYard, q
from measures import UnitSystem
from planfile.document import Item, Placement

METRIC = FileUnits.of(UnitSystem.METRIC)
US = FileUnits.of(UnitSystem.US)


class Composed(TestCase):
    def setUp(self) -> None:
        self.bare = BareYard()

    def item(self, load: Load, reference: float = 0) -> Item:
        return load_section(load, "m1", METRIC, Placement(reference=reference))


class TheTruck(Composed):
    def test_figures_that_were_weighed_go_in_as_they_were_entered(self) -> None:
        section = truck_section(self.bare.truck, self.bare.hitch, METRIC)
        self.assertEqual((section.front_axle_mass, section.rear_axle_mass), (1800, 1200))
        self.assertEqual((section.wheelbase, section.hitch_offset), (4000, 1250))
        self.assertEqual(section.front_axle_mass_tolerance, 10)
        self.assertIs(section.gcwr, UNSET)

    def test_in_other_units_they_are_converted_once(self) -> None:
        section = truck_section(self.bare.truck, self.bare.hitch, US)
        self.assertEqual(section.front_axle_mass, 1800 / 0.45359237)
        self.assertEqual(section.wheelbase, 4000 / 25.4)

    def test_people_on_the_ticket_are_taken_off_again(self) -> None:
        self.bare.truck.aboard_mass = q("100 kg")
        self.bare.truck.aboard_ahead = q("2000 mm")
        section = truck_section(self.bare.truck, self.bare.hitch, METRIC)
        self.assertEqual((section.front_axle_mass, section.rear_axle_mass), (1750, 1150))

    def test_papers_spread_over_the_axles_by_the_share_in_front(self) -> None:
        self.bare.front_share("60")
        section = truck_section(self.bare.truck, self.bare.hitch, METRIC)
        self.assertEqual((section.front_axle_mass, section.rear_axle_mass), (1800, 1200))
        self.assertGreater(section.front_axle_mass_tolerance, 0)

    def test_what_is_usually_aboard_is_cargo(self) -> None:
        self.bare.truck.loads.create(
            name="driver", mass=q("90 kg"), ahead_of_rear_axle=q("1900 mm")
        )
        cargo = truck_section(self.bare.truck, self.bare.hitch, METRIC).cargo
        self.assertEqual(
            [(c.name, c.mass, c.ahead_of_rear_axle, c.mass_tolerance) for c in cargo],
            [("driver", 90, 1900, 0)],
        )

    def test_who_has_no_place_sits_on_a_front_seat_give_or_take(self) -> None:
        truck, hitch = self.bare.truck, self.bare.hitch
        truck.wheelbase = q("4000 mm")
        truck.loads.create(name="driver", mass=q("90 kg"))
        truck.loads.create(name="chest", mass=q("60 kg"), ahead_of_rear_axle=q("600 mm"))
        section = truck_section(truck, hitch, METRIC)
        driver, chest = section.cargo
        # between 0.38 and 0.52 of the wheelbase, by ``mechanics.typical``
        self.assertGreater(driver.ahead_of_rear_axle, 1500)
        self.assertLess(driver.ahead_of_rear_axle, 2100)
        self.assertGreater(driver.ahead_of_rear_axle_tolerance, 0)
        self.assertEqual((driver.mass, driver.mass_tolerance), (90, 0))
        self.assertEqual((chest.ahead_of_rear_axle, chest.ahead_of_rear_axle_tolerance), (600, 0))
        self.assertIn("cargo.ahead_of_rear_axle", section.estimates)
        self.assertNotIn("cargo", section.estimates)
        truck.loads.filter(name="driver").update(ahead_of_rear_axle=q("1900 mm"))
        again = truck_section(Truck.objects.get(pk=truck.pk), hitch, METRIC)
        self.assertNotIn("cargo.ahead_of_rear_axle", again.estimates)

    def test_what_is_only_drawn_goes_along(self) -> None:
        truck = self.bare.truck
        self.assertIs(truck_section(truck, self.bare.hitch, METRIC).extra, UNSET)
        truck.cab, truck.rear_wheels = "crew", "dual"
        self.bare.trailer.kind = Trailer.Kind.CAR_CARRIER
        look = bare_draft("Drawn", self.bare.hitch, self.bare.trailer, UnitSystem.METRIC).look
        self.assertEqual((look.kind, look.cab, look.dual), ("car_carrier", "crew", True))

    def test_a_metric_plate_says_what_may_be_towed(self) -> None:
        truck = self.bare.truck
        truck.plate, truck.gcwr = "metric", q("7500 kg")
        self.assertEqual(truck_section(truck, self.bare.hitch, METRIC).max_trailer_mass, 3000)
        truck.max_trailer_mass = q("2800 kg")
        self.assertEqual(truck_section(truck, self.bare.hitch, METRIC).max_trailer_mass, 2800)

    def test_everything_that_is_wanting_is_named_at_once(self) -> None:
        self.bare.trailer.deck_length = None
        self.bare.trailer.axles.all().delete()
        with self.assertRaises(IncompleteError) as caught:
            trailer_section(self.bare.trailer, METRIC)
        self.assertIn("deck length", str(caught.exception))
        self.assertIn("axles", str(caught.exception))

    def test_with_its_rating_all_else_of_a_truck_is_estimated_and_named(self) -> None:
        truck, hitch = self.bare.truck, self.bare.hitch
        truck.wheelbase = truck.front_axle_mass = truck.rear_axle_mass = hitch.offset = None
        truck.gvwr, truck.payload = q("4500 kg"), None
        section = truck_section(truck, hitch, METRIC)
        self.assertEqual(
            sorted(section.estimates),
            ["cargo", "empty_mass", "front_share", "hitch_offset", "wheelbase"],
        )
        self.assertGreater(section.wheelbase_tolerance, 300)
        self.assertGreater(section.hitch_offset_tolerance, 200)
        (person,) = section.cargo
        self.assertEqual(person.name, "one person")
        self.assertGreater(person.ahead_of_rear_axle_tolerance, 0)
        # the whole truck is surer than how it stands
        axles = section.front_axle_mass_tolerance + section.rear_axle_mass_tolerance
        self.assertLess(section.empty_mass_tolerance, axles)
        # a sticker says what it weighs, a tape how long it is
        truck.payload, truck.wheelbase, hitch.offset = q("1200 kg"), q("3900 mm"), q("1270 mm")
        section = truck_section(truck, hitch, METRIC)
        self.assertEqual(sorted(section.estimates), ["cargo", "front_share"])
        self.assertEqual(section.wheelbase_tolerance, 0)
        self.assertAlmostEqual(section.front_axle_mass + section.rear_axle_mass, 3300, places=3)
        truck.gvwr = truck.payload = None
        with self.assertRaisesMessage(IncompleteError, "GVWR"):
            truck_section(truck, hitch, METRIC)


class TheHitch(Composed):
    def test_hardware_weighs_what_its_parts_weigh_but_for_the_receiver(self) -> None:
        self.bare.part(HitchPart.Kind.RECEIVER, "Receiver", "20 kg")
        self.bare.part(HitchPart.Kind.MOUNT, "Mount", "8 kg")
        self.bare.part(HitchPart.Kind.BALL, "Ball", "1.5 kg", ball_size="50 mm")
        section = hitch_section(self.bare.hitch, self.bare.trailer, METRIC)
        self.assertEqual(section.mass, 9.5)
        self.assertEqual(section.ball_diameter, 50)
        self.assertEqual(len(section.components), 3)

    def test_a_mass_that_was_entered_goes_before_that_sum(self) -> None:
        self.bare.part(HitchPart.Kind.MOUNT, "Mount", "8 kg")
        self.bare.hitch.mass = q("25 kg")
        self.assertEqual(hitch_section(self.bare.hitch, self.bare.trailer, METRIC).mass, 25)

    def test_bars_that_hang_slack_are_known_all_the_same(self) -> None:
        self.bare.hitch.bar_length = q("750 mm")
        section = hitch_section(self.bare.hitch, self.bare.trailer, METRIC)
        self.assertIsNone(section.weight_distribution)
        self.assertEqual(section.extra, {"bar_length": 750})


class TheTrailer(Composed):
    def test_as_it_was_entered(self) -> None:
        section = trailer_section(self.bare.trailer, METRIC)
        self.assertEqual((section.empty_mass, section.empty_tongue_mass), (1500, 150))
        self.assertEqual([axle.position for axle in section.axles], [4600, 5400])
        self.assertIs(section.extra, UNSET)

    def test_an_addition_weighs_on_the_tongue_by_its_lever(self) -> None:
        self.bare.trailer.additions.create(
            name="Rack", mass=q("100 kg"), behind_coupler=q("2500 mm")
        )
        section = trailer_section(self.bare.trailer, METRIC)
        self.assertEqual(section.empty_mass, 1600)
        # half way between the ball and the middle of the axles at 5,000 mm
        self.assertEqual(section.empty_tongue_mass, 200)

    def test_kinds_and_brakes_the_format_has_no_word_for(self) -> None:
        self.bare.trailer.kind = Trailer.Kind.FIFTH_WHEEL
        self.assertEqual(trailer_section(self.bare.trailer, METRIC).kind, "other")
        TrailerAxle.objects.update(brake=TrailerAxle.Brake.NONE)
        self.assertEqual(
            trailer_section(self.bare.trailer, METRIC).extra,
            {"drawn": {"kind": "fifth_wheel"}, "brakes": "none"},
        )

    def test_a_torsion_axles_rate_goes_into_the_plan(self) -> None:
        trailer = self.bare.trailer
        trailer.sink_mass, trailer.sink_drop = q("500 kg"), q("25 mm")
        self.assertIs(UNSET, trailer_section(trailer, METRIC).axle_rate)
        trailer.suspension = Trailer.Suspension.INDEPENDENT
        self.assertEqual(20, trailer_section(trailer, METRIC).axle_rate)

    def test_the_yards_tape_leaves_axles_and_deck_in_doubt(self) -> None:
        self.bare.yard.tolerances = {"tape": "15 mm"}
        section = trailer_section(self.bare.trailer, METRIC)
        self.assertEqual((section.axles_tolerance, section.deck.start_tolerance), (15, 15))


class TheLoad(Composed):
    def test_a_machine_that_was_weighed_whole(self) -> None:
        item = self.item(Load(machine=self.bare.machine), 3000)
        self.assertEqual((item.mass, item.cg.ahead, item.front, item.rear), (2200, 800, 2500, 900))
        self.assertEqual(item.placement.reference, 3000)
        self.assertIs(item.width, UNSET)

    def test_a_machine_by_its_axles_balances_by_the_lever(self) -> None:
        machine = self.bare.machine
        machine.built = Machine.Built.AXLES
        machine.front_axle_mass, machine.rear_axle_mass = q("900 kg"), q("1600 kg")
        machine.wheelbase = q("2000 mm")
        machine.running = Machine.Running.WHEELS
        item = self.item(Load(machine=machine))
        self.assertEqual(item.mass, 2500)
        self.assertAlmostEqual(item.cg.ahead, 900 * 2000 / 2500)

    def test_bulk_lies_by_its_middle(self) -> None:
        item = self.item(Load(bulk=self.bare.gravel()))
        self.assertEqual((item.mass, item.mass_tolerance), (3200, 320))
        self.assertEqual((item.cg.ahead, item.front, item.rear), (0, 1500, 1500))

    def test_the_yards_stopping_goes_with_the_placement(self) -> None:
        self.bare.yard.tolerances = {"stop": "40 mm"}
        item = self.item(Load(machine=self.bare.machine), 100)
        self.assertEqual(item.placement.reference_tolerance, 40)

    def test_nothing_is_no_load(self) -> None:
        with self.assertRaises(IncompleteError):
            load_section(Load(), "m1", METRIC, Placement(reference=0))

    def test_keys_of_loads_are_read_as_they_are_written(self) -> None:
        for key in (LoadKey(machine=3), LoadKey(machine=3, configuration=7), LoadKey(bulk=2)):
            self.assertEqual(LoadKey.read(str(key)), key)
        for text in ("", "bulk", "machine-x", "machine-1-2-3", "crate-1", "bulk-1-2"):
            with self.subTest(text=text), self.assertRaises(ValueError):
                LoadKey.read(text)


class TheWhole(Composed):
    def test_a_new_haul_stands_at_its_aim_inside_the_deck(self) -> None:
        bare = bare_draft("Errand", self.bare.hitch, self.bare.trailer, UnitSystem.METRIC)
        self.assertEqual((bare.item_ids, bare.name), ((), "Errand"))
        loaded = with_load(bare, Load(machine=self.bare.machine))
        item = loaded.plan.items[0]
        self.assertGreaterEqual(item.foremost_m, 0)
        self.assertLessEqual(item.rearmost_m, 6.0)

    def test_several_stand_clear_of_each_other(self) -> None:
        bare = bare_draft("Errand", self.bare.hitch, self.bare.trailer, UnitSystem.METRIC)
        small = Machine.objects.get(pk=self.bare.machine.pk)
        small.mass, small.reach_front, small.reach_rear = q("300 kg"), q("600 mm"), q("600 mm")
        small.balance_ahead = q("0 mm")
        loads = [Load(machine=self.bare.machine), Load(machine=small)]
        items = sorted(with_loads(bare, loads).plan.items, key=lambda item: item.foremost_m)
        self.assertLessEqual(items[0].rearmost_m, items[1].foremost_m + 1e-9)

    def test_the_yards_own_school_judges_it(self) -> None:
        self.bare.yard.rules = {"tongue": "share_9_15"}
        self.assertEqual(rules_section(self.bare.hitch).tongue, "share_9_15")
