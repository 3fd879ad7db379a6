"""Machines in their configurations, chains of every pair, gaps and doubts."""

from __future__ import annotations

from django.test import SimpleTestCase, TestCase

from book.chain import assemble, couples
from book.doubts import doubts
from book.errors import IncompleteError
from book.figures import built_machine, bulk_body, empty_trailer, si
from book.gaps import gaps
from book.models import (
    Bulk,
    Configuration,
    Hitch,
    HitchLink,
    HitchPart,
    Machine,
    MachinePart,
    Trailer,
    TrailerPart,
    Truck,
)
from book.summary import chain_shown, derived, sums
from book.tolerances import Tolerances
from demo.tests.planted import plant_demo_yard
from measures import Quantity, UnitSystem
from mechanics.fluids import FLUIDS
from mechanics.units import KG_PER_LB, M_PER_IN
from yards.models import Yard

USUAL = Tolerances()


def q(text: str) -> Quantity:
    """A quantity from its own text."""
    return Quantity.parse(text)


class Yards(TestCase):
    """The demo yard's book."""

    @classmethod
    def setUpTestData(cls) -> None:
        plant_demo_yard()
        cls.yard = Yard.objects.get()

    def machine(self, name: str) -> Machine:
        return Machine.objects.get(name=name)


class Configurations(Yards):
    def test_each_is_the_sum_of_its_parts(self) -> None:
        machine = self.machine("Harrow 60 backhoe tractor")
        fluid = 124 * 0.75 * 3.785411784 / 1000 * FLUIDS["calcium_chloride_20"].density_kg_m3
        fuel = 18 * 0.80 * 7.1 * KG_PER_LB
        fixed = {34: 4150, 8: 210, 62: 890, 104: 410}
        for name, more in (("backhoe on", {-58: 1420}), ("backhoe off", {})):
            configuration = machine.configurations.get(name=name)
            built = built_machine(machine, configuration, USUAL)
            pounds = {**fixed, **more}
            mass = sum(pounds.values()) * KG_PER_LB + fluid + fuel
            moment = sum(at * m for at, m in pounds.items()) * KG_PER_LB + fuel * 44
            with self.subTest(configuration=name):
                self.assertAlmostEqual(built.body.mass_kg, mass, places=6)
                self.assertAlmostEqual(built.body.ahead_m, moment / mass * M_PER_IN, places=9)

    def test_a_part_reaches_as_far_as_it_says_and_only_while_it_is_on(self) -> None:
        machine = self.machine("Harrow 60 backhoe tractor")
        for name, rear in (("backhoe on", 104), ("backhoe off", 40)):
            built = built_machine(machine, machine.configurations.get(name=name), USUAL)
            self.assertAlmostEqual(built.outline.rear_m, rear * M_PER_IN)
            self.assertAlmostEqual(built.outline.front_m, 128 * M_PER_IN)

    def test_a_weighed_whole_with_another_attachment(self) -> None:
        """Off with the bucket it was weighed with, on with the forks."""
        machine = self.machine("Harrow 48 tractor with loader")
        forks = machine.configurations.get(name="with forks")
        body = built_machine(machine, forks, USUAL).body
        self.assertAlmostEqual(body.mass_kg, (5350 - 380 + 290) * KG_PER_LB)
        moment = 5350 * 30 - 380 * 102 + 290 * 96
        self.assertAlmostEqual(body.ahead_m, moment / (5350 - 380 + 290) * M_PER_IN)
        self.assertAlmostEqual(body.mass_tolerance_kg, (250 + 20 + 20) * KG_PER_LB)
        whole = built_machine(machine, None, USUAL)
        self.assertTrue(whole.entered)
        self.assertAlmostEqual(whole.body.mass_kg, 5350 * KG_PER_LB)

    def test_axle_weights_of_a_configuration_replace_the_sum(self) -> None:
        machine = self.machine("Harrow 60 backhoe tractor")
        configuration = machine.configurations.get(name="backhoe on")
        configuration.front_axle_mass, configuration.rear_axle_mass = q("2000 lb"), q("6000 lb")
        body = built_machine(machine, configuration, USUAL).body
        self.assertAlmostEqual(body.mass_kg, 8000 * KG_PER_LB)
        self.assertAlmostEqual(body.ahead_m, 20 * M_PER_IN)

    def test_two_axles_weighed(self) -> None:
        machine = self.machine("Ridge R5 roller")
        body = built_machine(machine, None, USUAL).body
        front, rear = 2620, 1960
        self.assertAlmostEqual(body.mass_kg, (front + rear) * KG_PER_LB)
        self.assertAlmostEqual(body.ahead_m, front / (front + rear) * 68 * M_PER_IN)

    def test_what_is_wanting_is_named_all_at_once(self) -> None:
        machine = Machine.objects.create(yard=self.yard, name="New", built="parts")
        MachinePart.objects.create(machine=machine, name="Cab")
        with self.assertRaises(IncompleteError) as caught:
            built_machine(machine, None, USUAL)
        self.assertEqual(
            caught.exception.lacks, ("mass of Cab", "place of Cab", "reach ahead", "reach behind")
        )
        self.assertIn("New lacks mass of Cab", str(caught.exception))

    def test_taking_off_more_than_there_is(self) -> None:
        machine = self.machine("Harrow 48 tractor with loader")
        machine.parts.filter(name="Bucket").update(mass=q("9000 lb"))
        with self.assertRaisesMessage(IncompleteError, "parts that add up"):
            built_machine(machine, machine.configurations.get(name="with forks"), USUAL)

    def test_the_page_shows_the_sum(self) -> None:
        machine = self.machine("Harrow 60 backhoe tractor")
        shown = sums(machine, UnitSystem.US, USUAL)
        self.assertEqual([s.title for s in shown], ["backhoe on", "backhoe off"])
        self.assertEqual(len(shown[0].lines), 7)
        self.assertEqual(shown[0].mass, "8,097 lb")


class BulkLoads(Yards):
    def test_gravel_by_the_yard(self) -> None:
        spread = Bulk.objects.get(name="Gravel, two yards spread")
        body = bulk_body(spread, USUAL)
        self.assertAlmostEqual(body.mass_kg, 2 * 2750 * KG_PER_LB)
        self.assertAlmostEqual(body.mass_tolerance_kg, 2 * 275 * KG_PER_LB)
        dropped = Bulk.objects.get(name="Gravel, two yards dropped at the tail")
        self.assertAlmostEqual(bulk_body(dropped, USUAL).ahead_m, -20 * M_PER_IN)

    def test_own_density_and_own_tolerance_go_first(self) -> None:
        spread = Bulk.objects.get(name="Gravel, two yards spread")
        spread.density, spread.mass_tolerance = q("3000 lb/yd3"), q("50 lb")
        body = bulk_body(spread, USUAL)
        self.assertAlmostEqual(body.mass_kg, 6000 * KG_PER_LB)
        self.assertAlmostEqual(body.mass_tolerance_kg, 50 * KG_PER_LB)

    def test_pieces(self) -> None:
        body = bulk_body(Bulk.objects.get(name="Pallet of drain pipe"), USUAL)
        self.assertAlmostEqual(body.mass_kg, 1180 * KG_PER_LB)

    def test_lacking(self) -> None:
        bare = Bulk(yard=self.yard, name="Something")
        with self.assertRaisesMessage(
            IncompleteError, "Something lacks volume, material or density, length on the deck"
        ):
            bulk_body(bare, USUAL)
        counted = Bulk(yard=self.yard, name="Bales", measured="count")
        with self.assertRaisesMessage(IncompleteError, "how many, mass of each"):
            bulk_body(counted, USUAL)


class Chains(Yards):
    """Every hitch of the yard with every trailer of the yard."""

    def test_all_pairs(self) -> None:
        seen = set()
        for hitch in Hitch.objects.all():
            for trailer in Trailer.objects.all():
                chain = assemble(hitch, trailer)
                parts = [link.part for link in hitch.links.all()]
                on_trailer = [link.part for link in trailer.links.all()]
                with self.subTest(hitch=str(hitch), trailer=trailer.name):
                    # each part of both is in use, but for balls beside the one under the coupler
                    self.assertCountEqual([*chain.parts, *chain.left_off], [*parts, *on_trailer])
                    self.assertTrue(all(p.kind in HitchPart.BALLS for p in chain.left_off))
                    balls = {p.ball_size.si for p in parts if p.kind in HitchPart.BALLS}
                    coupler = next(p for p in on_trailer if p.kind == "coupler").ball_size
                    self.assertEqual(chain.fits, coupler.si in balls)
                    rated = [p.max_trailer_mass.si for p in chain.parts if p.max_trailer_mass]
                    self.assertEqual(chain.weakest_trailer.max_trailer_mass.si, min(rated))
                    tongues = [p.max_tongue_mass.si for p in chain.parts if p.max_tongue_mass]
                    if tongues:
                        self.assertEqual(chain.weakest_tongue.max_tongue_mass.si, min(tongues))
                    names = chain.names().values()
                    self.assertEqual(len(names), len(set(names)))
                    shown = chain_shown(hitch, trailer, UnitSystem.US)
                    self.assertEqual(shown.verdict, "ok" if chain.fits else "over")
                    self.assertIn(chain.weakest_trailer.name, shown.words)
                    seen.add(chain.fits)
        self.assertEqual(seen, {True, False})

    def test_of_two_balls_the_one_that_fits_is_used(self) -> None:
        hitch = Hitch.objects.get(truck__name="Gooseneck truck", name="Receiver")
        for trailer, ball in (
            ("14 ft tilt", "Two-ball mount, 2 in side"),
            ("12 ft dump trailer", "Two-ball mount, 2 5/16 side"),
        ):
            chain = assemble(hitch, Trailer.objects.get(name=trailer))
            self.assertIn(ball, [part.name for part in chain.parts])
            self.assertEqual(len(chain.left_off), 1)

    def test_bars_bring_the_second_pair_in(self) -> None:
        hitch = Hitch.objects.get(truck__name="Work truck 3", name="Receiver")
        hitch.front_axle_restoration = 50
        chain = assemble(hitch, None)
        receiver = next(p for p in chain.parts if p.kind == "receiver")
        self.assertEqual(str(chain.trailer_rating(receiver)), "14000 lb")
        self.assertEqual(str(chain.tongue_rating(receiver)), "1750 lb")

    def test_a_size_that_is_not_known_is_no_fit_and_no_misfit(self) -> None:
        hitch = Hitch.objects.get(truck__name="Old half-ton")
        trailer = Trailer.objects.get(name="14 ft tilt")
        HitchPart.objects.filter(name="Coupler, tilt").update(ball_size=None)
        chain = assemble(hitch, trailer)
        self.assertIsNone(chain.fits)
        self.assertEqual(chain_shown(hitch, trailer, UnitSystem.US).verdict, "unknown")

    def test_two_parts_of_a_kind_go_by_their_names(self) -> None:
        hitch = Hitch.objects.get(truck__name="Old half-ton")
        more = HitchPart.objects.create(yard=self.yard, name="Riser", kind="mount")
        HitchLink.objects.create(hitch=hitch, part=more)
        chain = assemble(hitch, None)
        names = chain.names()
        self.assertEqual(names[more.pk], "Riser")
        self.assertIn("Receiver", names.values())
        TrailerPart.objects.all().delete()
        self.assertIsNone(assemble(hitch, Trailer.objects.first()).coupler_size)


class GapsAndDoubts(Yards):
    def words(self, thing: object) -> list[str]:
        return [gap.words for gap in gaps(thing)]  # type: ignore[arg-type]

    def asked(self, thing: object) -> str:
        return " ".join(d.question for d in doubts(thing, UnitSystem.US, USUAL))  # type: ignore[arg-type]

    def test_the_demo_yard_has_its_gaps_on_purpose(self) -> None:
        self.assertEqual(self.words(Truck.objects.get(name="Old half-ton")), ["GCWR"])
        self.assertEqual(
            self.words(self.machine("Wren 9 mini dumper")),
            ["where it balances, from its mark", "clearances at nose, belly and tail"],
        )
        self.assertEqual(self.words(Trailer.objects.get(name="25 ft gooseneck")), [])

    def test_what_getting_on_and_off_asks_for_is_listed_with_what_it_blocks(self) -> None:
        trailer = Trailer.objects.get(name="12 ft dump trailer")
        self.assertEqual(self.words(trailer), [])
        trailer.ramp_length = trailer.deck_height = trailer.bed_mass = None
        trailer.stands, trailer.stands_gap = True, None
        found = {gap.words: gap.blocks for gap in gaps(trailer)}
        self.assertEqual(found["length of gate or ramps"], "on and off")
        self.assertEqual(found["deck height"], "on and off, level")
        self.assertEqual(found["gap under the stands"], "what the stands hold")
        self.assertIn("hinge, mass and balance point of the bed", found)
        trailer.tail, trailer.bed_hinge = "tilts", None
        self.assertIn("hinge of the deck", self.words(trailer))
        trailer.tail = ""
        self.assertIn("what its tail is", self.words(trailer))
        machine = self.machine("Kestrel T6 compact loader")
        self.assertEqual(self.words(machine), [])
        machine.wheelbase = machine.balance_height = None
        machine.nose_clearance = machine.belly_clearance = machine.tail_clearance = None
        self.assertEqual(
            self.words(machine),
            [
                "how high it balances",
                "wheelbase or length of track",
                "clearances at nose, belly and tail",
            ],
        )

    def test_an_empty_page_lacks_everything_that_matters(self) -> None:
        self.assertEqual(
            self.words(Truck.objects.create(yard=self.yard, name="t"))[:4],
            ["GVWR", "a hitch", "front axle rating", "rear axle rating"],
        )
        trailer = Trailer.objects.create(yard=self.yard, name="t")
        self.assertIn("deck length", self.words(trailer))
        self.assertIn("axles", self.words(trailer))
        self.assertIn("coupler", self.words(trailer))
        self.assertTrue(all(g.stops_plans for g in gaps(trailer)[:3]))
        self.assertIn("ball size", self.words(HitchPart(yard=self.yard, kind="coupler")))
        self.assertIn("volume", self.words(Bulk(yard=self.yard)))

    def test_every_doubt_of_a_truck(self) -> None:
        truck = Truck.objects.get(name="Work truck 3")
        for change, words in (
            ({"payload": q("13000 lb")}, "Is this the tow rating?"),
            ({"payload": q("4000 lb")}, "Are both from this truck?"),
            ({"gvwr": q("7000 lb")}, "weighs its GVWR empty"),
            ({"gcwr": q("9000 lb")}, "no more than the truck alone"),
            ({"front_gawr": q("3000 lb")}, "less than the GVWR"),
            ({"max_trailer_mass": q("17000 lb")}, "more than GCWR less the empty truck"),
            ({"wheelbase": q("16 in")}, "A wheelbase of 1 ft 4 in?"),
            ({"empty_from": "sticker"}, "split over the axles is the usual one"),
        ):
            with self.subTest(words=words):
                for name, value in change.items():
                    setattr(truck, name, value)
                self.assertIn(words, self.asked(truck))
                truck.refresh_from_db()
        self.assertIn("Adapter sleeve is rated 5,000 lb", self.asked(truck))
        truck.loads.all().delete()
        self.assertIn("The driver counts too", self.asked(truck))
        bed = Hitch.objects.get(type="gooseneck")
        bed.offset = q("40 in")
        bed.save()
        self.assertIn("is a minus missing?", self.asked(bed.truck))
        receiver = Hitch.objects.get(truck=bed.truck, type="ball")
        receiver.offset = q("-53 in")
        receiver.save()
        HitchPart.objects.filter(name="Two-ball mount").update(shank_size=q("2 in"))
        asked = self.asked(Truck.objects.get(pk=bed.truck_id))
        self.assertIn("Is the minus meant?", asked)
        self.assertIn("Do they fit?", asked)

    def test_every_doubt_of_a_trailer(self) -> None:
        trailer = Trailer.objects.get(name="20 ft equipment trailer")
        for change, words in (
            ({"empty_tongue_mass": q("700 lb")}, "more than a fifth"),
            ({"empty_tongue_mass": q("90 lb")}, "Was the jack still carrying?"),
            ({"gvwr": q("2900 lb")}, "Is the GVWR the payload?"),
            ({"gvwr": q("20000 lb")}, "far above what its axles carry"),
            ({"empty_known": "brochure"}, "not weighed"),
            ({"deck_start": q("230 in")}, "not under the deck"),
            ({"track_width": q("8 in")}, "A track of 8 in?"),
            ({"tail": "gate"}, "Does it travel open?"),
        ):
            with self.subTest(words=words):
                for name, value in change.items():
                    setattr(trailer, name, value)
                self.assertIn(words, self.asked(trailer))
                trailer.refresh_from_db()
        trailer.axles.update(brake="none", tire_capacity=q("4000 lb"))
        self.assertIn("without brakes?", self.asked(trailer))
        self.assertIn("tires of axle 1 carry less", self.asked(trailer))

    def test_every_doubt_of_machines_parts_and_bulk(self) -> None:
        plough = self.machine("Trench plough")
        self.assertIn("Does it count bucket, tire fluid", self.asked(plough))
        plough.brochure_checked = True
        self.assertNotIn("bucket", self.asked(plough))
        self.assertIn("guessed mass", self.asked(self.machine("Wren 9 mini dumper")))
        tractor = self.machine("Harrow 90 tractor")
        tractor.balance_ahead = q("99 in")
        self.assertIn("not between the wheels", self.asked(tractor))
        tractor.balance_ahead = q("150 in")
        self.assertIn("outside the machine", self.asked(tractor))
        tractor.wheelbase = q("300 in")
        self.assertIn("Swapped?", self.asked(tractor))
        built = self.machine("Harrow 60 backhoe tractor")
        fluid = built.parts.get(name="Rear tire fluid")
        fluid.mass = q("900 lb")
        fluid.save()
        built.parts.filter(name="Base machine").update(known="brochure")
        self.assertIn("has a mass and a volume", self.asked(built))
        self.assertIn("Count each once", self.asked(built))
        fluid.delete()
        self.assertIn("are its tires really empty?", self.asked(built))
        MachinePart.objects.create(machine=built, name="Forks", kind="forks")
        self.assertIn("bucket and forks at once?", self.asked(built))
        built.parts.filter(kind="base").delete()
        self.assertIn("no base machine", self.asked(built))
        Configuration.objects.create(machine=plough, name="short")
        self.assertIn("no parts to choose from", self.asked(plough))
        ball = HitchPart.objects.get(name="Receiver, truck 3")
        ball.ball_size, ball.max_tongue_mass = q("2.1 in"), q("6000 lb")
        self.assertIn("not a usual ball", self.asked(ball))
        self.assertIn("a digit missing?", self.asked(ball))
        self.assertIn("usually the higher one", self.asked(ball))
        gravel = Bulk.objects.get(name="Gravel, two yards spread")
        gravel.density, gravel.volume = q("2700 kg/m3"), q("2000 m3")
        self.assertIn("far from what gravel, dry usually weighs", self.asked(gravel))
        self.assertIn("A volume of 2,616 yd3 (2000 m3)?", self.asked(gravel))

    def test_nothing_is_asked_of_a_plain_entry(self) -> None:
        self.assertEqual(self.asked(Trailer.objects.get(name="25 ft gooseneck")), "")
        self.assertEqual(self.asked(self.machine("Harrow 90 tractor")), "")


class Derived(Yards):
    def test_payload_and_towing_limit_show_their_arithmetic(self) -> None:
        truck = Truck.objects.get(name="Work truck 3")
        rows = {row.name: row for row in derived(truck, UnitSystem.US, USUAL)}
        self.assertEqual(rows["GVWR less the empty truck"].figure, "2,880 lb")
        self.assertIn("10,000 lb − 7,120 lb", rows["GVWR less the empty truck"].arithmetic)
        self.assertEqual(rows["Left for hitch and tongue"].figure, "2,350 lb")
        truck.payload = None
        rows = {row.name: row for row in derived(truck, UnitSystem.US, USUAL)}
        self.assertEqual(rows["Payload"].figure, "2,880 lb")

    def test_a_trailer_carries_its_gvwr_less_its_own_weight(self) -> None:
        trailer = Trailer.objects.get(name="20 ft equipment trailer")
        rows = {row.name: row.figure for row in derived(trailer, UnitSystem.US, USUAL)}
        self.assertEqual(rows["It carries"], "7,100 lb")
        self.assertEqual(rows["Brakes"], "on 2 of 2 axles")

    def test_the_reserve_of_a_hitch_part(self) -> None:
        part = HitchPart.objects.get(name="Bed ball")
        rows = [row.figure for row in derived(part, UnitSystem.US, USUAL)]
        self.assertEqual(rows, ["20,833 lb", "5,208 lb"])


class OddPlaces(Yards):
    def test_an_axle_ahead_of_the_deck_or_beyond_it_is_asked_about(self) -> None:
        trailer = Trailer.objects.get(name="20 ft equipment trailer")
        told = (UnitSystem.US, USUAL)
        asked = " ".join(d.question for d in doubts(trailer, *told))
        self.assertNotIn("Taped from the ball?", asked)
        first, second = trailer.axles.all()
        first.position = q("40 in")
        first.save()
        second.position = q("30 ft")
        second.save()
        trailer = Trailer.objects.get(pk=trailer.pk)
        asked = " ".join(d.question for d in doubts(trailer, *told))
        self.assertIn("Axle 1 stands 3 ft 4 in behind the coupler, ahead of the deck", asked)
        self.assertIn("Axle 2 stands 30 ft behind the coupler, behind the deck's end", asked)

    def test_a_machine_of_half_a_million_pounds_is_asked_about(self) -> None:
        machine = Machine.objects.get(name="Ridge R5 roller")
        machine.mass, machine.built = q("500000 lb"), "whole"
        asked = " ".join(d.question for d in doubts(machine, UnitSystem.US, USUAL))
        self.assertIn("500,000 lb is more than anything", asked)
        metric = " ".join(d.question for d in doubts(machine, UnitSystem.METRIC, USUAL))
        self.assertIn("226,796 kg (500,000 lb)", metric)

    def test_a_fifth_wheel_couples_to_a_fifth_wheel_alone(self) -> None:
        trailer = Trailer.objects.get(name="25 ft gooseneck")
        hitch = Hitch.objects.get(type="gooseneck")
        self.assertTrue(couples(hitch, trailer))
        trailer.kind = Trailer.Kind.FIFTH_WHEEL
        self.assertFalse(couples(hitch, trailer))
        hitch.type = Hitch.Type.FIFTH_WHEEL
        self.assertTrue(couples(hitch, trailer))
        self.assertTrue(trailer.over_bed)
        trailer.kind = Trailer.Kind.GOOSENECK
        self.assertTrue(couples(hitch, trailer))


class UsualTolerances(SimpleTestCase):
    def test_by_how_a_mass_is_known(self) -> None:
        for known, expected in (
            ("plate", 20),
            ("built_up", 50),
            ("brochure", 100),
            ("guess", 200),
            ("weighed", 20 * KG_PER_LB),
            ("", 0),
        ):
            with self.subTest(known=known):
                self.assertAlmostEqual(USUAL.mass_kg(1000, known, None), expected)
        self.assertAlmostEqual(USUAL.mass_kg(1000, "guess", q("5 kg")), 5)
        self.assertAlmostEqual(USUAL.balance_m("guess", None), 0.254)
        self.assertAlmostEqual(USUAL.balance_m("guess", q("1 cm")), 0.01)


class EmptyTrailers(Yards):
    def test_figures_that_cannot_be_together(self) -> None:
        trailer = Trailer.objects.get(name="14 ft tilt")
        trailer.tongue_taken_at = q("20 ft")
        with self.assertRaisesMessage(IncompleteError, "ahead of its axles"):
            empty_trailer(trailer, USUAL)
        trailer.tongue_taken_at = None
        trailer.additions.create(name="Rack", mass=q("900 lb"), behind_coupler=q("20 ft"))
        with self.assertRaisesMessage(IncompleteError, "between nothing and the whole trailer"):
            empty_trailer(trailer, USUAL)
        self.assertGreater(si(trailer.empty_mass), 0)
