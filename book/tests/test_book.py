"""The book through its pages."""

from __future__ import annotations

import html
import json
import re
from typing import Any

from django.db import connection
from django.http import HttpResponse
from django.test.utils import CaptureQueriesContext
from msgspec import UNSET

from book.kinds import KINDS
from book.models import Bulk, Configuration, Hitch, HitchPart, Machine, Trailer, Truck
from book.tests.pages import BULK, HITCH, MACHINE, PART, TRAILER, TRUCK, formset
from book.tolerances import PERCENTS, QUANTITIES, Tolerances
from hauls.compose import (
    FileUnits,
    rules_section,
    trailer_section,
    truck_section,
)
from hauls.drafting import figures_of
from hauls.loads import Load
from hauls.models import Haul
from hauls.tests.yard_case import YardCase
from measures import Quantity, UnitSystem
from planfile.document import Axle, Deck, Rules
from yards.models import Yard

LB_IN = FileUnits.of(UnitSystem.US)


class Trucks(YardCase):
    def test_adding_a_truck_leads_to_its_hitch_and_keeps_each_unit(self) -> None:
        loads = formset("loads", {"name": "Driver", "mass": "85 kg", "ahead_of_rear_axle": "60"})
        answer = self.client.post("/book/trucks/new/", TRUCK | loads)
        truck = Truck.objects.get(name="Field truck")
        self.assertRedirects(answer, f"/book/trucks/{truck.pk}/hitches/new/")
        self.assertEqual(str(truck.front_axle_mass), "3900 lb")
        self.assertEqual(str(truck.rear_axle_mass), "1.2 t")
        self.assertEqual(str(truck.wheelbase), "148 in")
        self.assertEqual(str(truck.loads.get().mass), "85 kg")
        self.assertIsNone(truck.payload)
        page = self.client.get(f"/book/trucks/{truck.pk}/")
        for shown in ("3,900 lb", "1.2 t", "85 kg"):
            self.assertContains(page, f'value="{shown}"')

    def test_a_truck_is_saved_with_gaps_and_says_what_they_block(self) -> None:
        self.client.post(
            "/book/trucks/new/",
            {
                "name": "Unknown",
                **TRUCK,
                **{
                    "name": "Unknown",
                    "front_axle_mass": "",
                    "rear_axle_mass": "",
                    "wheelbase": "",
                },
            },
        )
        truck = Truck.objects.get(name="Unknown")
        page = self.client.get(f"/book/trucks/{truck.pk}/")
        self.assertContains(page, "<b>GVWR</b> is not known. No plan can be made with it.")
        self.assertContains(page, "<b>GCWR</b> is not known. Blocks: GCWR.")
        self.assertContains(self.client.get("/"), "cannot be planned with yet")

    def test_a_metric_plate_has_its_own_words_and_its_own_towing_limit(self) -> None:
        data = TRUCK | {
            "plate": "metric",
            "empty_from": "kerb",
            "kerb_mass": "2,150 kg",
            "kerb_with_driver": "on",
            "gvwr": "3,000 kg",
            "gcwr": "6,500 kg",
        }
        self.client.post("/book/trucks/new/", data)
        truck = Truck.objects.get(name="Field truck")
        page = self.client.get(f"/book/trucks/{truck.pk}/")
        for words in ("Maximum authorised mass (MAM)", "Gross train mass", "Nose weight limit"):
            self.assertContains(page, words)
        self.assertContains(page, "gross train mass 14,330 lb (6,500 kg) − MAM 6,614 lb (3,000 kg)")
        hitch = Hitch.objects.create(truck=truck, name="Towbar", offset=truck.wheelbase)
        section = truck_section(truck, hitch, FileUnits.of(UnitSystem.METRIC))
        self.assertEqual(section.max_trailer_mass, 3500)
        total = section.front_axle_mass + section.rear_axle_mass
        self.assertAlmostEqual(total, 2150 - 75)

    def test_a_ticket_with_somebody_aboard(self) -> None:
        data = TRUCK | {
            "aboard_mass": "200",
            "aboard_ahead": "74",
            "front_axle_mass": "4000",
            "rear_axle_mass": "3000",
        }
        self.client.post("/book/trucks/new/", data)
        truck = Truck.objects.get(name="Field truck")
        hitch = Hitch.objects.create(truck=truck, offset=truck.wheelbase)
        section = truck_section(truck, hitch, LB_IN)
        self.assertAlmostEqual(section.front_axle_mass, 3900)
        self.assertAlmostEqual(section.rear_axle_mass, 2900)

    def test_door_sticker_alone(self) -> None:
        data = TRUCK | {
            "empty_from": "sticker",
            "gvwr": "10,000",
            "payload": "3,000",
            "front_axle_mass": "",
            "rear_axle_mass": "",
            "front_share": "60",
        }
        self.client.post("/book/trucks/new/", data)
        truck = Truck.objects.get(name="Field truck")
        hitch = Hitch.objects.create(truck=truck, offset=truck.wheelbase)
        section = truck_section(truck, hitch, LB_IN)
        self.assertEqual((section.front_axle_mass, section.rear_axle_mass), (4200, 2800))

    def test_a_hitch_with_new_parts_and_parts_of_the_book(self) -> None:
        truck = Truck.objects.get(name="Old half-ton")
        mount = HitchPart.objects.get(name="Two-ball mount")
        new = formset(
            "new",
            {"kind": "ball", "max_trailer_mass": "3.5 t", "ball_size": "50 mm", "name": ""},
            {"kind": "", "name": ""},
        )
        data = HITCH | {"version": truck.version, "parts_on": [mount.pk]} | new
        self.client.post(f"/book/trucks/{truck.pk}/hitches/new/", data)
        hitch = truck.hitches.get(name="Front ball")
        made = HitchPart.objects.get(name="Ball, Old half-ton")
        self.assertEqual(str(made.max_trailer_mass), "3.5 t")
        self.assertEqual({link.part for link in hitch.links.all()}, {mount, made})
        stale = self.client.post(f"/book/trucks/{truck.pk}/hitches/{hitch.pk}/", data)
        self.assertContains(stale, "Somebody saved this truck", status_code=409)
        self.client.post(f"/book/trucks/{truck.pk}/hitches/{hitch.pk}/remove/", {"version": 1})
        self.assertTrue(Hitch.objects.filter(pk=hitch.pk).exists())
        truck.refresh_from_db()
        self.client.post(
            f"/book/trucks/{truck.pk}/hitches/{hitch.pk}/remove/", {"version": truck.version}
        )
        self.assertFalse(Hitch.objects.filter(pk=hitch.pk).exists())
        self.assertTrue(HitchPart.objects.filter(pk=made.pk).exists())

    def test_two_new_parts_of_one_name_and_one_the_book_has(self) -> None:
        truck = Truck.objects.get(name="Old half-ton")
        address = f"/book/trucks/{truck.pk}/hitches/new/"
        twice = formset("new", {"kind": "ball", "name": "B"}, {"kind": "ball", "name": "b"})
        answer = self.client.post(address, HITCH | twice | {"version": truck.version})
        self.assertContains(answer, "Two parts have the same name", status_code=422)
        there = formset("new", {"kind": "ball", "name": "Big ball"})
        answer = self.client.post(address, HITCH | there | {"version": truck.version})
        self.assertContains(answer, "The book already has a “Big ball”", status_code=422)
        self.assertFalse(truck.hitches.filter(name="Front ball").exists())

    def test_missing_ratings_show_as_gaps(self) -> None:
        self.assertContains(self.client.get("/book/"), "Not known: GCWR")


class Layout(YardCase):
    def test_every_field_of_a_thing_stands_in_exactly_one_group_of_its_page(self) -> None:
        for kind in KINDS.values():
            grouped = [name for group in kind.groups for name in group.fields]
            form = kind.form(units=UnitSystem.US, yard=self.yard)
            with self.subTest(kind=kind.slug):
                self.assertCountEqual(grouped, form.fields)

    def test_groups_for_one_choice_name_a_choice_that_exists(self) -> None:
        for kind in KINDS.values():
            for group in kind.groups:
                if group.when:
                    name, values = group.when.split("=")
                    choices = dict(kind.model._meta.get_field(name).flatchoices)
                    self.assertLessEqual(set(values.split()), set(choices), group.heading)

    def test_every_page_opens_for_every_thing_of_the_yard(self) -> None:
        for kind in KINDS.values():
            self.assertEqual(self.client.get(f"/book/{kind.slug}/new/").status_code, 200)
            for thing in kind.model._default_manager.filter(yard=self.yard):
                with self.subTest(thing=thing.name):
                    page = self.client.get(f"/book/{kind.slug}/{thing.pk}/")
                    self.assertContains(page, thing.name)
                    self.assertNotContains(page, "None</")


class Finding(YardCase):
    def test_things_are_found_by_a_part_of_their_name(self) -> None:
        page = self.client.get("/book/", {"q": "harrow"})
        self.assertContains(page, "Harrow 60 backhoe tractor")
        self.assertNotContains(page, "Kestrel T6")
        self.assertContains(page, "No truck has “harrow” in its name")

    def test_a_long_list_comes_in_pages_that_reach_all_of_it(self) -> None:
        Machine.objects.bulk_create(Machine(yard=self.yard, name=f"Z {n:03}") for n in range(60))
        page = self.client.get("/book/")
        self.assertContains(page, "1 to 40 of 68")
        self.assertContains(page, "Machines <span>68</span>")
        self.assertNotContains(page, "Z 059")
        self.assertNotContains(page, "Those before")
        (after,) = re.findall(r'href="(\?[^"#]+)[^"]*">Those after', page.text)
        rest = self.client.get(f"/book/{html.unescape(after)}")
        self.assertContains(rest, "41 to 68 of 68")
        self.assertContains(rest, "Z 059")
        self.assertNotContains(rest, "Those after")
        self.assertContains(rest, "Those before")
        for odd, shown in (("999", "41 to 68"), ("0", "1 to 40"), ("two", "1 to 40")):
            self.assertContains(self.client.get("/book/", {"machines": odd}), f"{shown} of 68")
        home = self.client.get("/")
        self.assertContains(home, "And 52 more in the book")

    def test_queries_do_not_grow_with_the_yard(self) -> None:
        def counted(address: str) -> tuple[int, int]:
            """Queries of a first visit after a change, and of the next."""
            numbers = []
            for _ in range(2):
                with CaptureQueriesContext(connection) as found:
                    self.client.get(address)
                numbers.append(len(found))
            return numbers[0], numbers[1]

        def more(first: int) -> list[tuple[int, int]]:
            Machine.objects.bulk_create(
                Machine(yard=self.yard, name=f"A {n:03}") for n in range(first, first + 60)
            )
            return [counted(address) for address in ("/", "/book/", "/hauls/new/")]

        more(0)
        self.assertEqual(more(100), more(200))

    def test_the_list_says_what_is_stored_however_it_came_there(self) -> None:
        """What is kept between visits follows the rows themselves, those of parts too."""

        def shown() -> str:
            return self.client.get("/book/").content.decode().partition('<div class="lists">')[2]

        self.assertEqual(shown(), shown())
        Truck.objects.filter(name="Work truck 3").update(payload="2222 lb")
        self.assertIn("2,222 lb", shown())
        before = shown()
        HitchPart.objects.filter(yard=self.yard, kind="sleeve").update(max_trailer_mass=None)
        self.assertNotEqual(shown(), before)
        self.user.units = "metric"
        self.user.save()
        self.assertNotIn(" lb</dd>", shown())

    def test_the_lists_of_two_yards_are_two(self) -> None:
        self.client.get("/book/")
        self.client.force_login(self.stranger)
        self.assertNotContains(self.client.get("/book/"), "Work truck 3")


class Understanding(YardCase):
    def test_a_telephone_offers_the_keys_that_a_box_wants(self) -> None:
        def pads() -> dict[str, str]:
            page = self.client.get("/book/trucks/new/")
            return {
                name: page.context["form"].fields[name].widget.attrs["inputmode"]
                for name in ("gvwr", "wheelbase", "aboard_ahead")
            }

        # feet and inches want letters, and what may lie behind the axle a minus
        said = {"gvwr": "decimal", "wheelbase": "text", "aboard_ahead": "text"}
        self.assertEqual(pads(), said)
        self.user.units = "metric"
        self.user.save()
        self.assertEqual(pads(), {**said, "wheelbase": "decimal"})

    def test_a_box_says_what_it_understood(self) -> None:
        for kind, text, words in (
            ("mass", "3.5 t", "= 7,716 lb (3.5 t)"),
            ("length", "16 ft 6", "= 16 ft 6 in"),
            ("volume", "82", "= 82 gal"),
            ("density", "1,6 t/m3", "= 2,697 lb/yd3 (1.6 t/m3)"),
            ("mass", "heavy", "is not a mass"),
            ("mass", "", ""),
        ):
            with self.subTest(text=text):
                answer = self.client.get(f"/book/understand/{kind}/", {"any_box": text})
                self.assertContains(answer, words)
        self.assertEqual(self.client.get("/book/understand/colour/").status_code, 404)


class Refusals(YardCase):
    def test_bad_boxes_say_what_to_write_and_keep_what_was_typed(self) -> None:
        cases: tuple[tuple[str, dict[str, Any], str, str, str], ...] = (
            ("trucks", TRUCK, "front_axle_mass", "heavy", "is not a mass"),
            ("trucks", TRUCK, "wheelbase", "12 kg", "is not a length"),
            ("trucks", TRUCK, "wheelbase", "0", "more than zero"),
            ("trucks", TRUCK, "front_share", "120", "less than or equal to 99"),
            ("trucks", TRUCK, "name", "", "This field is required"),
            ("trucks", TRUCK, "name", "Work truck 3", "already has a"),
            ("trucks", TRUCK, "name", "=2+3", "take for a formula"),
            ("machines", MACHINE, "mass", "-5", "is not a mass"),
            ("machines", MACHINE, "mass_tolerance", "<b>", "is not a mass"),
            ("bulk", BULK, "volume", "3 lb", "is not a volume"),
            ("bulk", BULK, "density", "thick", "is not a density"),
            ("bulk", BULK, "count", "0", "greater than or equal to 1"),
            ("hitch-parts", PART, "ball_size", "big", "is not a length"),
        )
        for slug, filled, field, typed, words in cases:
            with self.subTest(field=field, typed=typed):
                answer = self.client.post(f"/book/{slug}/new/", filled | {field: typed})
                self.assertContains(answer, words, status_code=422)
                escaped = typed.replace("<", "&lt;").replace(">", "&gt;")
                if typed:
                    self.assertContains(answer, f'value="{escaped}"', status_code=422)
        self.assertFalse(Truck.objects.filter(name="Field truck").exists())

    def test_a_tongue_lighter_than_its_trailer_and_axles_apart(self) -> None:
        answer = self.client.post("/book/trailers/new/", TRAILER | {"empty_tongue_mass": "2,000"})
        self.assertContains(answer, "Are the two swapped", status_code=422)
        answer = self.client.post(
            "/book/trailers/new/", TRAILER | formset("axles", {"position": "behind"})
        )
        self.assertContains(answer, "is not a length", status_code=422)
        twice = formset("axles", {"position": "136"}, {"position": "136 in"})
        answer = self.client.post("/book/trailers/new/", TRAILER | twice)
        self.assertContains(answer, "Two axles stand at the same place", status_code=422)
        self.assertFalse(Trailer.objects.filter(name="Small tilt").exists())

    def test_contents_of_a_tank_need_all_three(self) -> None:
        parts = formset(
            "parts",
            {"name": "Fuel", "kind": "fuel", "known": "guess", "volume": "18 gal", "fill": "80"},
        )
        answer = self.client.post("/book/machines/new/", MACHINE | parts)
        self.assertContains(answer, "Volume, how full, and with what", status_code=422)

    def test_unknown_lists_and_things(self) -> None:
        self.assertEqual(self.client.get("/book/boats/new/").status_code, 404)
        self.assertEqual(self.client.get("/book/trucks/99999/").status_code, 404)


class TrailersAndMachines(YardCase):
    def test_adding_a_trailer(self) -> None:
        axles = formset("axles", {"position": "136", "gawr": "3,500"}, {"position": "170"})
        new = formset("new", {"kind": "coupler", "ball_size": "2", "max_trailer_mass": "7000"})
        self.client.post("/book/trailers/new/", TRAILER | axles | new)
        trailer = Trailer.objects.get(name="Small tilt")
        self.assertEqual((trailer.axles.count(), trailer.links.count()), (2, 1))
        section = trailer_section(trailer, LB_IN)
        self.assertEqual(section.deck, Deck(start=-3, length=168, start_tolerance=0.5))
        self.assertEqual(section.axles_tolerance, 0.5)
        self.assertEqual(section.axles, [Axle(position=136, gawr=3500), Axle(position=170)])
        self.assertEqual(section.coupler_size, 2)
        self.assertEqual(section.empty_mass_tolerance, 20)
        self.assertContains(self.client.get("/book/"), "Not known: GVWR, rating of axle 2")

    def test_what_is_added_since_changes_mass_and_tongue(self) -> None:
        axles = formset("axles", {"position": "150"})
        additions = formset(
            "additions",
            {
                "name": "Winch",
                "kind": "fixed",
                "mass": "100",
                "known": "weighed",
                "behind_coupler": "30",
            },
            {
                "name": "Spare",
                "kind": "fixed",
                "mass": "90",
                "known": "weighed",
                "behind_coupler": "40",
                "weighed_in": "on",
            },
            {
                "name": "Rear rack",
                "kind": "aboard",
                "mass": "60",
                "known": "guess",
                "behind_coupler": "200",
            },
        )
        self.client.post("/book/trailers/new/", TRAILER | axles | additions)
        section = trailer_section(Trailer.objects.get(name="Small tilt"), LB_IN)
        self.assertAlmostEqual(section.empty_mass, 1640 + 100 + 60)
        tongue = 205 + 100 * (1 - 30 / 150) + 60 * (1 - 200 / 150)
        self.assertAlmostEqual(section.empty_tongue_mass, tongue, places=5)
        self.assertAlmostEqual(section.empty_mass_tolerance, 20 + 20 + 12, places=5)

    def test_a_tongue_taken_at_the_jack_is_corrected_to_the_ball(self) -> None:
        axles = formset("axles", {"position": "150"})
        self.client.post("/book/trailers/new/", TRAILER | axles | {"tongue_taken_at": "15"})
        section = trailer_section(Trailer.objects.get(name="Small tilt"), LB_IN)
        self.assertAlmostEqual(section.empty_tongue_mass, 205 * (150 - 15) / 150)

    def test_a_car_carrier_is_another_kind_in_a_plan(self) -> None:
        axles = formset("axles", {"position": "150"})
        self.client.post("/book/trailers/new/", TRAILER | axles | {"kind": "car_carrier"})
        section = trailer_section(Trailer.objects.get(name="Small tilt"), LB_IN)
        self.assertEqual(section.kind, "other")

    def test_a_balance_point_outside_the_machine_is_refused(self) -> None:
        for ahead, words in (("41", "3 ft 4 in ahead of its mark"), ("-31", "2 ft 6 in behind")):
            answer = self.client.post("/book/machines/new/", MACHINE | {"balance_ahead": ahead})
            self.assertContains(answer, words, status_code=422)
            self.assertContains(answer, f'value="{ahead}"', status_code=422)
        self.assertFalse(Machine.objects.filter(name="Borrowed roller").exists())
        self.client.post("/book/machines/new/", MACHINE | {"balance_ahead": "40"})
        self.assertTrue(Machine.objects.filter(name="Borrowed roller").exists())

    def test_adding_a_machine_with_usual_tolerances(self) -> None:
        self.client.post("/book/machines/new/", MACHINE)
        machine = Machine.objects.get(name="Borrowed roller")
        section = figures_of(Load(machine=machine), "m1", FileUnits.of(UnitSystem.METRIC))
        self.assertEqual(section.mass, 1200)
        self.assertAlmostEqual(section.mass_tolerance, 240)
        self.assertAlmostEqual(section.cg.ahead_tolerance, 254)
        self.assertIs(UNSET, section.width)

    def judging(self, **changes: str) -> HttpResponse:
        """The page of how the yard judges, sent with its usual boxes and these changes."""
        usual = Tolerances()
        boxes = {name: f"{getattr(usual, name):g}" for name in PERCENTS}
        boxes |= {name: str(getattr(usual, name)) for name in QUANTITIES}
        boxes |= {"tongue": "default", "trailer_gvwr": "whole"}
        yard = Yard.objects.get(pk=self.yard.pk)
        boxes["stamp"] = json.dumps(
            [yard.tolerances, yard.rules, yard.securing_school], sort_keys=True
        )
        return self.client.post("/book/tolerances/", boxes | changes)

    def test_the_yards_own_tolerances_go_before_the_usual_ones(self) -> None:
        stamp = json.dumps([{}, {}, ""])
        self.judging(guess_percent="35", stop="5 cm")
        stale = self.judging(guess_percent="30", stamp=stamp)
        self.assertContains(stale, "Somebody changed these in between", status_code=409)
        self.client.post("/book/machines/new/", MACHINE)
        machine = Machine.objects.select_related("yard").get(name="Borrowed roller")
        self.assertEqual(machine.yard.tolerances, {"guess_percent": 35.0, "stop": "5 cm"})
        section = figures_of(Load(machine=machine), "m1", FileUnits.of(UnitSystem.METRIC))
        self.assertAlmostEqual(section.mass_tolerance, 420)
        self.assertEqual(section.placement.reference_tolerance, 50)
        self.assertContains(self.judging(guess_percent="wide"), "Enter a number", status_code=422)
        self.assertContains(self.judging(stop="9 ft"), "No more than 8 ft 4 in", status_code=422)
        self.assertContains(self.judging(tape="-1"), "cannot be less than zero", status_code=422)

    def test_tolerances_of_an_earlier_version_are_read(self) -> None:
        """Bare pounds and inches stood under names that ended in their unit."""
        old = {"scale_step_lb": 50.0, "balance_guess_in": 6, "plate_percent": 3.0}
        read = Tolerances.read(old)
        self.assertEqual(str(read.scale_step), "50 lb")
        self.assertAlmostEqual(read.balance_m("guess", None), 6 * 0.0254)
        self.assertEqual(
            read.own(), {"scale_step": "50 lb", "balance_guess": "6 in", "plate_percent": 3.0}
        )

    def test_tolerances_are_shown_in_the_persons_units(self) -> None:
        self.user.units = "metric"
        self.user.save()
        page = self.client.get("/book/tolerances/")
        self.assertContains(page, "Usual: 9 kg (20 lb).")
        self.assertContains(page, "Usual: 13 mm (1/2 in).")
        self.judging(scale_step="10", stop="20")
        yard = Yard.objects.get(pk=self.yard.pk)
        self.assertEqual(yard.tolerances, {"scale_step": "10 kg", "stop": "20 mm"})

    def test_the_yards_schools_go_into_new_hauls(self) -> None:
        self.judging(tongue="share_9_15", trailer_gvwr="axles")
        hitch = Hitch.objects.filter(truck__yard=self.yard, type="ball").first()
        self.assertEqual(rules_section(hitch), Rules(tongue="share_9_15", trailer_gvwr="axles"))
        self.judging(tongue="custom", share_min="9", share_max="12.5")
        hitch = Hitch.objects.select_related("truck__yard").get(pk=hitch.pk)
        self.assertEqual(
            rules_section(hitch), Rules(tongue="custom", share_min=0.09, share_max=0.125)
        )

    def test_the_nose_plate_school_needs_a_plate_and_a_ball(self) -> None:
        self.judging(tongue="nose_4_7")
        hitch = Hitch.objects.filter(truck__yard=self.yard, type="ball").first()
        truck = hitch.truck
        truck.max_tongue_mass = None
        self.assertEqual(rules_section(hitch), Rules(tongue="default"))
        truck.max_tongue_mass = Quantity.parse("115 kg")
        self.assertEqual(rules_section(hitch), Rules(tongue="nose_4_7"))
        hitch.type = "gooseneck"
        self.assertEqual(rules_section(hitch), Rules(tongue="default"))

    def test_own_shares_have_to_make_a_range(self) -> None:
        for boxes, words in (
            ({"tongue": "custom"}, "Give both shares"),
            ({"tongue": "custom", "share_min": "13", "share_max": "9"}, "below the least"),
            ({"tongue": "custom", "share_min": "x", "share_max": "9"}, "Enter a number"),
            ({"tongue": "fast"}, "Select a valid choice"),
        ):
            with self.subTest(boxes=boxes):
                self.assertContains(self.judging(**boxes), words, status_code=422)
        self.assertEqual(Yard.objects.get(pk=self.yard.pk).rules, {})

    def test_a_weighed_machine_is_doubted_by_a_step_of_the_scale(self) -> None:
        self.client.post("/book/machines/new/", MACHINE | {"mass_known": "weighed"})
        machine = Machine.objects.get(name="Borrowed roller")
        self.assertEqual(figures_of(Load(machine=machine), "m", LB_IN).mass_tolerance, 20)

    def test_a_bare_number_is_in_the_units_the_person_reads_in(self) -> None:
        self.user.units = "metric"
        self.user.save()
        self.client.post("/book/machines/new/", MACHINE | {"mass": "1200", "reach_front": "900"})
        machine = Machine.objects.get(name="Borrowed roller")
        self.assertEqual((str(machine.mass), str(machine.reach_front)), ("1200 kg", "900 mm"))

    def test_a_configuration_is_part_of_its_machine(self) -> None:
        machine = Machine.objects.get(name="Harrow 60 backhoe tractor")
        backhoe = machine.parts.get(name="Backhoe")
        address = f"/book/machines/{machine.pk}/configurations/new/"
        data = {
            "name": "for the drain",
            "parts": [backhoe.pk],
            "version": machine.version,
            "reach_front": "10 ft",
        }
        self.assertEqual(self.client.post(address, data).status_code, 302)
        made = Configuration.objects.get(name="for the drain")
        self.assertEqual(list(made.parts.all()), [backhoe])
        stale = self.client.post(address, data | {"name": "another"})
        self.assertContains(stale, "Somebody saved this machine", status_code=409)
        machine.refresh_from_db()
        twin = self.client.post(address, data | {"version": machine.version})
        self.assertContains(twin, "already has “for the drain”", status_code=422)
        lone = data | {"name": "x", "version": machine.version, "front_axle_mass": "900"}
        self.assertContains(self.client.post(address, lone), "Give both", status_code=422)
        address = f"/book/machines/{machine.pk}/configurations/{made.pk}/remove/"
        self.client.post(address, {"version": machine.version - 1})
        self.assertTrue(Configuration.objects.filter(pk=made.pk).exists())
        self.client.post(address, {"version": machine.version})
        self.assertFalse(Configuration.objects.filter(pk=made.pk).exists())

    def test_editing_on_an_old_page_is_told_and_keeps_the_entries(self) -> None:
        machine = Machine.objects.get(name="Trench plough")
        page = self.client.get(f"/book/machines/{machine.pk}/")
        self.assertContains(page, f'name="version" value="{machine.version}"')
        first = MACHINE | {"name": "Trench plough", "version": machine.version}
        self.assertEqual(self.client.post(f"/book/machines/{machine.pk}/", first).status_code, 302)
        second = first | {"mass": "1,500"}
        answer = self.client.post(f"/book/machines/{machine.pk}/", second)
        self.assertContains(answer, "Somebody saved this machine", status_code=409)
        self.assertContains(answer, 'value="1,500"', status_code=409)
        machine.refresh_from_db()
        self.assertEqual(str(machine.mass), "1.2 t")

    def test_removing_a_thing_leaves_hauls_their_numbers(self) -> None:
        truck = Truck.objects.get(name="Work truck 3")
        stale = self.client.post(f"/book/trucks/{truck.pk}/remove/", {"version": 99}, follow=True)
        self.assertContains(stale, "Somebody changed Work truck 3 in between")
        self.client.post(f"/book/trucks/{truck.pk}/remove/", {"version": truck.version})
        self.assertFalse(Truck.objects.filter(pk=truck.pk).exists())
        haul = Haul.objects.get(pk=self.haul.pk)
        self.assertEqual(haul.document["truck"]["name"], "Work truck 3")
        self.assertEqual(self.client.get(f"/hauls/{haul.pk}/").status_code, 200)

    def test_absent_ratings_are_absent_in_the_plan(self) -> None:
        truck = Truck.objects.get(name="Old half-ton")
        section = truck_section(truck, truck.hitches.first(), LB_IN)
        self.assertIs(UNSET, section.gcwr)
        self.assertEqual(section.cargo[0].mass_tolerance, 10)

    def test_copying_takes_everything_along_but_the_name(self) -> None:
        for model, name in (
            (Machine, "Harrow 60 backhoe tractor"),
            (Truck, "Gooseneck truck"),
            (Trailer, "20 ft equipment trailer"),
            (Bulk, "Gravel to the ford".replace("Gravel to the ford", "Pallet of drain pipe")),
            (HitchPart, "Big ball"),
        ):
            slug = next(kind.slug for kind in KINDS.values() if kind.model is model)
            thing = model._default_manager.get(name=name, yard=self.yard)
            for suffix in ("copy", "copy 2"):
                self.client.post(f"/book/{slug}/{thing.pk}/copy/")
                with self.subTest(name=name, suffix=suffix):
                    made = model._default_manager.get(name=f"{name}, {suffix}")
        made = Machine.objects.get(name="Harrow 60 backhoe tractor, copy")
        configuration = made.configurations.get(name="backhoe on")
        self.assertEqual([part.machine for part in configuration.parts.all()], [made])
        truck = Truck.objects.get(name="Gooseneck truck, copy")
        self.assertEqual(truck.hitches.count(), 2)
        self.assertEqual(truck.hitches.last().links.count(), 4)
