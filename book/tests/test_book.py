"""The book through its pages."""

from __future__ import annotations

from typing import Any

from book.models import Hitch, Machine, Trailer, Truck
from book.views import KINDS
from hauls.compose import FileUnits, item_section, trailer_section, truck_section
from hauls.models import Haul
from hauls.tests.test_views import YardCase
from measures import UnitSystem


def formset(prefix: str, *rows: dict[str, Any], initial: int = 0) -> dict[str, Any]:
    """A formset's fields as a browser sends them."""
    data: dict[str, Any] = {
        f"{prefix}-TOTAL_FORMS": len(rows),
        f"{prefix}-INITIAL_FORMS": initial,
        f"{prefix}-MIN_NUM_FORMS": 0,
        f"{prefix}-MAX_NUM_FORMS": 1000,
    }
    for n, row in enumerate(rows):
        data |= {f"{prefix}-{n}-{name}": value for name, value in row.items()}
    return data


TRUCK = {
    "name": "Field truck",
    "front_axle_mass": "3,900",
    "rear_axle_mass": "1.2 t",
    "wheelbase": "12 ft 4",
    "version": "",
}
TRAILER = {
    "name": "Small tilt",
    "kind": "tilt",
    "empty_mass": "1,640",
    "empty_tongue_mass": "205 lb",
    "suspension": "independent",
    "track_width": "76",
    "deck_start": "-3 in",
    "deck_length": "14'",
    "version": "",
}
MACHINE = {
    "name": "Borrowed roller",
    "shape": "implement",
    "mass": "1,2 t",
    "mass_known": "guess",
    "mark_name": "drum",
    "balance_ahead": "-4",
    "balance_known": "guess",
    "reach_front": "40",
    "reach_rear": "2' 6",
    "version": "",
}


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

    def test_a_hitch_with_its_parts(self) -> None:
        truck = Truck.objects.get(name="Old half-ton")
        parts = formset(
            "parts",
            {"name": "Ball", "max_trailer_mass": "3.5 t", "max_tongue_mass": ""},
            {"name": "", "max_trailer_mass": ""},
        )
        data = {"name": "Front ball", "type": "ball", "offset": "-46", "version": truck.version}
        self.client.post(f"/book/trucks/{truck.pk}/hitches/new/", data | parts)
        hitch = truck.hitches.get(name="Front ball")
        self.assertEqual(str(hitch.parts.get().max_trailer_mass), "3.5 t")
        stale = self.client.post(
            f"/book/trucks/{truck.pk}/hitches/{hitch.pk}/", data | formset("parts")
        )
        self.assertContains(stale, "Somebody saved this truck", status_code=409)
        self.client.post(f"/book/trucks/{truck.pk}/hitches/{hitch.pk}/remove/")
        self.assertFalse(Hitch.objects.filter(pk=hitch.pk).exists())

    def test_two_parts_of_one_name(self) -> None:
        truck = Truck.objects.get(name="Old half-ton")
        parts = formset("parts", {"name": "Ball"}, {"name": "ball"})
        data = {"name": "H", "type": "ball", "offset": "46", "version": truck.version}
        answer = self.client.post(f"/book/trucks/{truck.pk}/hitches/new/", data | parts)
        self.assertContains(answer, "Two parts have the same name", status_code=422)

    def test_missing_ratings_show_as_gaps(self) -> None:
        self.assertContains(self.client.get("/book/"), "Cannot say yet: GCWR")


class Layout(YardCase):
    def test_every_field_of_a_thing_stands_in_exactly_one_group_of_its_page(self) -> None:
        for kind in KINDS.values():
            grouped = [name for _, names in kind.groups for name in names]
            with self.subTest(kind=kind.slug):
                self.assertCountEqual(grouped, kind.form.base_fields)


class Refusals(YardCase):
    def test_bad_boxes_say_what_to_write_and_keep_what_was_typed(self) -> None:
        cases = (
            ("trucks", TRUCK, formset("loads"), "front_axle_mass", "heavy", "is not a mass"),
            ("trucks", TRUCK, formset("loads"), "wheelbase", "12 kg", "is not a length"),
            ("trucks", TRUCK, formset("loads"), "wheelbase", "0", "more than zero"),
            ("trucks", TRUCK, formset("loads"), "front_axle_mass", "", "This field is required"),
            ("trucks", TRUCK, formset("loads"), "name", "Work truck 3", "already has a"),
            ("machines", MACHINE, {}, "mass", "-5", "is not a mass"),
            ("machines", MACHINE, {}, "mass_tolerance", "<b>", "is not a mass"),
        )
        for slug, filled, rows, field, typed, words in cases:
            with self.subTest(field=field, typed=typed):
                answer = self.client.post(f"/book/{slug}/new/", filled | rows | {field: typed})
                self.assertContains(answer, words, status_code=422)
                escaped = typed.replace("<", "&lt;").replace(">", "&gt;")
                if typed:
                    self.assertContains(answer, f'value="{escaped}"', status_code=422)
        self.assertFalse(Truck.objects.filter(name="Field truck").exists())

    def test_a_trailer_has_an_axle_and_a_tongue_lighter_than_itself(self) -> None:
        parts = formset("parts")
        answer = self.client.post("/book/trailers/new/", TRAILER | parts | formset("axles"))
        self.assertContains(answer, "Give at least one axle", status_code=422)
        axles = formset("axles", {"position": "136", "gawr": "3,500"})
        answer = self.client.post(
            "/book/trailers/new/", TRAILER | parts | axles | {"empty_tongue_mass": "2,000"}
        )
        self.assertContains(answer, "Are the two swapped", status_code=422)
        answer = self.client.post(
            "/book/trailers/new/", TRAILER | parts | formset("axles", {"position": "behind"})
        )
        self.assertContains(answer, "is not a length", status_code=422)
        self.assertFalse(Trailer.objects.filter(name="Small tilt").exists())

    def test_unknown_lists_and_things(self) -> None:
        self.assertEqual(self.client.get("/book/boats/new/").status_code, 404)
        self.assertEqual(self.client.get("/book/trucks/99999/").status_code, 404)


class TrailersAndMachines(YardCase):
    def test_adding_a_trailer(self) -> None:
        axles = formset("axles", {"position": "136", "gawr": "3,500"}, {"position": "170"})
        parts = formset("parts", {"name": "Coupler", "max_trailer_mass": "7000"})
        self.client.post("/book/trailers/new/", TRAILER | axles | parts)
        trailer = Trailer.objects.get(name="Small tilt")
        self.assertEqual((trailer.axles.count(), trailer.parts.count()), (2, 1))
        section = trailer_section(trailer, FileUnits("lb", "in"))
        self.assertEqual(section["deck"], {"start": -3, "length": 168})
        self.assertEqual(section["axles"], [{"position": 136, "gawr": 3500}, {"position": 170}])
        self.assertContains(self.client.get("/book/"), "Cannot say yet: GVWR, axle rating")

    def test_adding_a_machine_with_usual_tolerances(self) -> None:
        self.client.post("/book/machines/new/", MACHINE)
        machine = Machine.objects.get(name="Borrowed roller")
        section = item_section(machine, "m1", FileUnits.of(UnitSystem.METRIC))
        self.assertEqual(section["mass"], 1200)
        self.assertAlmostEqual(section["mass_tolerance"], 240)
        self.assertAlmostEqual(section["cg"]["ahead_tolerance"], 254)
        self.assertNotIn("width", section)

    def test_a_weighed_machine_is_doubted_by_a_step_of_the_scale(self) -> None:
        self.client.post("/book/machines/new/", MACHINE | {"mass_known": "weighed"})
        machine = Machine.objects.get(name="Borrowed roller")
        self.assertEqual(item_section(machine, "m", FileUnits("lb", "in"))["mass_tolerance"], 20)

    def test_a_bare_number_is_in_the_units_the_person_reads_in(self) -> None:
        self.user.units = "metric"
        self.user.save()
        self.client.post("/book/machines/new/", MACHINE | {"mass": "1200", "reach_front": "900"})
        machine = Machine.objects.get(name="Borrowed roller")
        self.assertEqual((str(machine.mass), str(machine.reach_front)), ("1200 kg", "900 mm"))

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
        self.client.post(f"/book/trucks/{truck.pk}/remove/")
        self.assertFalse(Truck.objects.filter(pk=truck.pk).exists())
        haul = Haul.objects.get(pk=self.haul.pk)
        self.assertEqual(haul.document["truck"]["name"], "Work truck 3")
        self.assertEqual(self.client.get(f"/hauls/{haul.pk}/").status_code, 200)

    def test_absent_ratings_are_absent_in_the_plan(self) -> None:
        truck = Truck.objects.get(name="Old half-ton")
        section = truck_section(truck, truck.hitches.first(), FileUnits("lb", "in"))
        self.assertNotIn("gcwr", section)
        self.assertEqual(section["cargo"][0]["mass_tolerance"], 10)
