"""What the book lacks, as such things usually are: what follows from what, and what never does."""

from __future__ import annotations

from typing import Any

from django.test import TestCase

from book.estimates import (
    BOXES,
    axle_places,
    balance,
    balance_height,
    deck_start,
    driver,
    empty_mass,
    empty_tongue,
    guesses,
    track_width,
    truck_source,
    whole_mass,
)
from book.figures import built_machine, empty_axles, empty_trailer, machine_lacks, trailer_lacks
from book.gaps import gaps
from book.models import Hitch, Known, Machine, Trailer, Truck
from book.tolerances import Tolerances
from measures import Quantity, UnitSystem
from mechanics.units import KG_PER_LB, M_PER_IN
from wording.estimates import TOLD
from yards.models import Yard


def q(text: str) -> Quantity:
    """A quantity as it is kept."""
    return Quantity.parse(text)


class Estimated(TestCase):
    def setUp(self) -> None:
        self.yard = Yard.objects.create(name="First day")

    def truck(self, **given: Any) -> Truck:
        """A truck with nothing but its sticker."""
        sticker = {"gvwr": q("9900 lb"), "payload": q("2600 lb")}
        return Truck.objects.create(yard=self.yard, **{"name": "T", **sticker, **given})

    def trailer(self, axles: int = 2, **given: Any) -> Trailer:
        """A trailer with nothing but its plate and the length of its deck."""
        plate = {"kind": "flatbed", "gvwr": q("10000 lb"), "deck_length": q("20 ft")}
        made = Trailer.objects.create(yard=self.yard, **{"name": "F", **plate, **given})
        for _ in range(axles):
            made.axles.create(gawr=q("5200 lb"))
        return made

    def machine(self, **given: Any) -> Machine:
        """A tractor with a brochure weight and its lengths."""
        read = {
            "mass": q("2600 lb"),
            "mass_known": Known.BROCHURE,
            "wheelbase": q("65 in"),
            "reach_front": q("100 in"),
            "reach_rear": q("40 in"),
        }
        return Machine.objects.create(yard=self.yard, **{"name": "M", **read, **given})

    def test_every_estimate_has_words_and_a_box(self) -> None:
        self.assertEqual(set(BOXES), set(TOLD))
        fields = {
            "truck": {f.name for f in Truck._meta.get_fields()},
            "trailer": {f.name for f in Trailer._meta.get_fields()},
            "item": {f.name for f in Machine._meta.get_fields()},
        }
        for (of, _), box in BOXES.items():
            self.assertIn(box, fields[of])

    def names(self, thing: Truck | Trailer | Machine) -> list[str]:
        """What is estimated of a thing."""
        return [guess.name for guess in guesses(thing)]


class TheTruck(Estimated):
    def test_a_sticker_says_what_it_weighs_and_not_how_it_stands(self) -> None:
        truck = self.truck()
        Hitch.objects.create(truck=truck, name="Receiver")
        self.assertEqual(truck_source(truck), "sticker")
        self.assertEqual(self.names(truck), ["front_share", "wheelbase", "hitch_offset", "cargo"])
        empty = empty_axles(truck, Tolerances())
        self.assertAlmostEqual((empty.front_kg + empty.rear_kg) / KG_PER_LB, 7300)
        self.assertGreater(empty.front_tolerance_kg, empty.mass_tolerance_kg or 0.0)

    def test_as_said_comes_before_what_is_surest(self) -> None:
        truck = self.truck(front_axle_mass=q("4100 lb"), rear_axle_mass=q("3000 lb"))
        self.assertEqual(truck_source(truck), "axles")
        truck.empty_from = "sticker"
        self.assertEqual(truck_source(truck), "sticker")
        truck.payload = None
        self.assertEqual(truck_source(truck), "axles")

    def test_with_its_rating_alone_it_is_a_part_of_that(self) -> None:
        truck = self.truck(payload=None)
        self.assertIn("empty_mass", self.names(truck))
        self.assertEqual([g.words for g in gaps(truck) if g.stops_plans], ["a hitch"])
        truck.gvwr = None
        self.assertEqual(self.names(truck), [])
        self.assertIn("GVWR", [g.words for g in gaps(truck) if g.stops_plans])

    def test_one_person_is_counted_until_somebody_is_entered(self) -> None:
        truck = self.truck(wheelbase=q("150 in"))
        person = driver(truck)
        assert person is not None
        mass, place = person
        self.assertTrue(mass.least < 185 * KG_PER_LB < mass.most)
        self.assertTrue(50 * M_PER_IN < place.si < 90 * M_PER_IN)
        truck.loads.create(name="Mate", mass=q("200 lb"), ahead_of_rear_axle=q("70 in"))
        self.assertIsNone(driver(Truck.objects.get(pk=truck.pk)))


class TheTrailer(Estimated):
    def test_a_plate_and_a_deck_are_enough(self) -> None:
        trailer = self.trailer()
        self.assertEqual(trailer_lacks(trailer), [])
        self.assertEqual(
            self.names(trailer),
            ["empty_mass", "empty_tongue_mass", "deck.start", "axles", "track_width"],
        )
        empties = empty_trailer(trailer, Tolerances())
        self.assertFalse(empties.as_entered)
        self.assertTrue(2000 < empties.mass_kg / KG_PER_LB < 4200)
        self.assertTrue(0 < empties.tongue_kg < 0.3 * empties.mass_kg)

    def test_what_stops_it_are_a_deck_axles_and_a_rating(self) -> None:
        trailer = self.trailer(axles=0, gvwr=None, deck_length=None)
        self.assertEqual(
            trailer_lacks(trailer), ["deck length", "GVWR, or what it weighs empty", "axles"]
        )
        boat = self.trailer(name="B", kind="boat")
        self.assertEqual(trailer_lacks(boat), ["a deck to put a load on"])

    def test_axles_stand_about_their_taped_middle(self) -> None:
        trailer = self.trailer(axles_at=q("200 in"))
        found = axle_places(trailer)
        assert found is not None
        self.assertAlmostEqual(found.middle, 200 * M_PER_IN)
        self.assertEqual((found.guessed, found.tolerance, found.spaced), (None, 0.0, True))
        self.assertNotIn("axles", self.names(trailer))

    def test_one_taped_axle_places_the_others(self) -> None:
        trailer = self.trailer()
        first = trailer.axles.all()[0]
        first.position = q("183 in")
        first.save()
        found = axle_places(Trailer.objects.get(pk=trailer.pk))
        assert found is not None
        self.assertAlmostEqual(found.places[0], 183 * M_PER_IN)
        self.assertTrue(210 * M_PER_IN < found.places[1] < 226 * M_PER_IN)
        self.assertGreater(found.tolerance, 0)

    def test_a_tape_narrows_the_tongue(self) -> None:
        rough, taped = self.trailer(), self.trailer(name="G", axles_at=q("200 in"))
        taped.deck_start = q("52 in")
        wide, narrow = empty_tongue(rough), empty_tongue(taped)
        assert wide is not None
        assert narrow is not None
        self.assertLess(narrow.tolerance, wide.tolerance)
        self.assertEqual(deck_start(taped).tolerance, 0.0)

    def test_what_was_weighed_stands_beside_what_is_estimated(self) -> None:
        trailer = self.trailer(empty_mass=q("2900 lb"))
        found = empty_mass(trailer)
        assert found is not None
        self.assertIsNone(found.guessed)
        empties = empty_trailer(trailer, Tolerances())
        self.assertAlmostEqual(empties.mass_kg, 2900 * KG_PER_LB)
        self.assertAlmostEqual(empties.mass_tolerance_kg, 20 * KG_PER_LB)

    def test_wheels_stand_beside_the_deck_or_under_it(self) -> None:
        beside = track_width(self.trailer(deck_width=q("82 in")))
        under = track_width(self.trailer(name="U", deck_width=q("96 in"), fenders="under"))
        self.assertGreater(beside.least, 82 * M_PER_IN)
        self.assertLess(under.most, 96 * M_PER_IN)


class TheMachine(Estimated):
    def test_a_brochure_runs_low(self) -> None:
        whole = whole_mass(self.machine(hung="front"))
        counted = whole_mass(self.machine(name="C", hung="front", hung_counted=True))
        assert whole is not None
        assert counted is not None
        self.assertGreater(counted.least, 2600 * KG_PER_LB)
        self.assertGreater(whole.si, counted.si)
        weighed = whole_mass(self.machine(name="W", mass_known=Known.WEIGHED))
        assert weighed is not None
        self.assertEqual((weighed.guessed, weighed.tolerance), (None, 0.0))

    def test_not_said_is_anything_that_may_hang_there(self) -> None:
        unsaid = balance(self.machine())
        assert unsaid is not None
        for hung in ("nothing", "front", "rear", "both"):
            said = balance(self.machine(name=hung, hung=hung))
            assert said is not None
            self.assertGreaterEqual(said.least, unsaid.least - 1e-9)
            self.assertLessEqual(said.most, unsaid.most + 1e-9)

    def test_tracks_balance_about_their_middle(self) -> None:
        digger = self.machine(shape="excavator", running="tracks", hung="nothing")
        found = balance(digger)
        assert found is not None
        self.assertAlmostEqual(found.si, 0.0)
        digger.mark_ahead = q("0 in")
        found = balance(digger)
        assert found is not None
        self.assertAlmostEqual(found.si, 32.5 * M_PER_IN)

    def test_without_a_wheelbase_it_is_somewhere_about_the_middle(self) -> None:
        machine = self.machine(wheelbase=None)
        found = balance(machine)
        assert found is not None
        self.assertAlmostEqual(found.si, 30 * M_PER_IN)
        self.assertGreater(found.tolerance, 20 * M_PER_IN)
        machine.reach_front = None
        self.assertIsNone(balance(machine))
        self.assertEqual(machine_lacks(machine), ["where it balances", "reach ahead"])

    def test_a_height_goes_by_its_own(self) -> None:
        self.assertIsNone(balance_height(self.machine()))
        found = balance_height(self.machine(name="H", height=q("90 in")))
        assert found is not None
        self.assertTrue(25 * M_PER_IN < found.si < 45 * M_PER_IN)

    def test_a_built_machine_names_what_nobody_measured(self) -> None:
        built = built_machine(self.machine(hung="nothing"), None, Tolerances())
        self.assertEqual(built.estimated, ("mass", "cg.ahead"))
        self.assertFalse(built.entered)
        self.assertGreater(built.body.ahead_tolerance_m, 3 * M_PER_IN)

    def test_its_gaps_say_what_stands_in(self) -> None:
        found = {gap.words: gap for gap in gaps(self.machine(), UnitSystem.METRIC)}
        self.assertIn("kg", found["mass as hauled"].estimate)
        self.assertIn("mm", found["where it balances, from its mark"].estimate)
        self.assertEqual(found["where it balances, from its mark"].box, "balance_ahead")
        self.assertFalse(found["where it balances, from its mark"].stops_plans)
