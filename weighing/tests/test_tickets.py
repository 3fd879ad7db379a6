"""Tickets in full: what was aboard, second weighings, corrections, photos, tables, files."""

from __future__ import annotations

import importlib
import io
from datetime import timedelta
from typing import Any

from django.apps import apps
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from django.utils import timezone
from PIL import Image

from book.models import Machine, Ticket, Trailer
from demo.plate import plate_photo
from exchange.taking_in import load_whole
from exchange.yard_file import dump_whole, read_file
from measures import Quantity
from weighing.services import offers
from weighing.tests.test_weigh import GIVEN, WeighCase
from weighing.ticket_table import take_tickets_in
from yards.models import Yard

ROWS = {
    "aboard-TOTAL_FORMS": "3",
    "aboard-INITIAL_FORMS": "0",
    "aboard-0-what": "person",
    "aboard-0-name": "Jo",
    "aboard-0-mass": "82 kg",
    "aboard-1-what": "fuel",
    "aboard-1-name": "three quarters",
}


class Aboard(WeighCase):
    def rows(self, machine: Machine, **more: str) -> dict[str, str]:
        """People, fuel and a machine at its place."""
        return {
            **ROWS,
            "aboard-2-what": f"machines-{machine.pk}",
            "aboard-2-reference": "12-6",
            "aboard-2-facing": "backward",
            **more,
        }

    def test_people_fuel_and_a_machine_with_its_place(self) -> None:
        trailer = Trailer.objects.get(name="20 ft equipment trailer")
        machine = Machine.objects.get(name="Harrow 48 tractor with loader")
        self.keep("gauge", thing=f"trailers-{trailer.pk}", number="31", **self.rows(machine))
        ticket = Ticket.objects.get(number="31")
        loads = list(ticket.loads.all())
        self.assertEqual(["person", "fuel", "item"], [load.kind for load in loads])
        self.assertEqual(("82 kg", "150 in"), (str(loads[0].mass), str(loads[2].reference)))
        page = self.client.get(f"/weigh/tickets/{ticket.pk}/")
        for words in (
            "People: Jo, 181 lb (82 kg)",
            "Fuel: three quarters",
            "facing backward",
            "12 ft 6 in",
        ):
            self.assertContains(page, words)

    def test_a_row_that_does_not_say_what_it_is(self) -> None:
        answer = self.keep("gauge", **{**ROWS, "aboard-2-mass": "300"})
        self.assertContains(answer, "Choose what this was.", status_code=422)
        self.assertContains(answer, 'value="three quarters"', status_code=422)

    def test_a_machine_of_another_yard_is_no_choice(self) -> None:
        other = Machine.objects.create(yard=Yard.objects.get(name="Another yard"), name="Theirs")
        answer = self.keep("gauge", **self.rows(other))
        self.assertEqual(422, answer.status_code)


class Scales(WeighCase):
    def test_a_reading_above_the_capacity_is_refused(self) -> None:
        answer = self.live("under-the-ball", reading="420", capacity="400")
        self.assertContains(answer, "cannot have shown that")
        self.assertContains(self.live("under-the-ball", reading="180 kg", capacity="400"), "397 lb")

    def test_more_than_a_bathroom_scale_shows_is_asked_about(self) -> None:
        answer = self.live("under-the-ball", reading="520")
        self.assertContains(answer, "Bathroom scales end at 441 lb")
        for fine in ({"reading": "430"}, {"reading": "520", "capacity": "1,000"}):
            self.assertNotContains(self.live("under-the-ball", **fine), "Bathroom scales end")

    def test_a_reading_between_the_steps_is_asked_about(self) -> None:
        answer = self.live("gauge", reading="1,125", step="20 lb")
        self.assertContains(answer, "in steps of 20 lb cannot show 1,125 lb")
        self.assertNotContains(self.live("gauge", reading="1,120", step="20 lb"), "cannot show")

    def test_a_finer_step_is_a_smaller_doubt(self) -> None:
        self.keep("gauge", number="1", step="2 lb")
        self.keep("gauge", number="2")
        fine, coarse = (
            Ticket.objects.get(number=n).readings["tolerance_kg"]["tongue_mass"] for n in "12"
        )
        self.assertLess(fine, coarse)

    def test_bars_hung_and_slack(self) -> None:
        hung = {"steer_tight": "3440", "drive_tight": "4240", "trailer_tight": "6740"}
        answer = self.live("three-pads", **GIVEN["three-pads"], **hung)
        self.assertContains(answer, "81.8 %")
        self.assertContains(answer, "Bars move to the trailer&#x27;s axles")
        half = self.live("three-pads", **GIVEN["three-pads"], steer_tight="3440")
        self.assertContains(half, "all three pads are read")
        other = self.live("three-pads", **GIVEN["three-pads"], **{**hung, "trailer_tight": "7400"})
        self.assertContains(other, "all three together have changed")

    def test_a_decimal_comma_and_mixed_units(self) -> None:
        answer = self.live("lever", reading="142,9 kg", tare="12 lb", beam="83,8 cm", arm="11 in")
        self.assertContains(answer, "909 lb")


class Second(WeighCase):
    def first(self) -> Ticket:
        """A first weighing."""
        machine = Machine.objects.get(name="Harrow 48 tractor with loader")
        self.keep(
            "before-and-after", thing=f"machines-{machine.pk}", number="first", place="Ford", **ROWS
        )
        return Ticket.objects.get(number="first")

    def test_weighed_again_it_is_linked_and_compared(self) -> None:
        first = self.first()
        again = self.client.get(f"/weigh/before-and-after/?again={first.pk}")
        for words in ('value="Ford"', 'value="Jo"', f'value="{first.pk}" selected'):
            self.assertContains(again, words)
        self.keep(
            "before-and-after",
            number="second",
            thing=f"machines-{first.thing.pk}",
            first_weighing=str(first.pk),
            with_machine="15,400",
        )
        second = Ticket.objects.get(number="second")
        self.assertEqual(first, second.first)
        self.assertContains(self.client.get(f"/weigh/tickets/{second.pk}/"), "whole + 40 lb")
        self.assertContains(self.client.get(f"/weigh/tickets/{first.pk}/"), "Weighed again")
        third = self.keep("gauge", first_weighing=str(second.pk))
        self.assertContains(third, "is itself a second weighing", status_code=422)

    def test_corrected_by_whoever_read_it_and_never_over_another(self) -> None:
        first = self.first()
        page = self.client.get(f"/weigh/tickets/{first.pk}/correct/")
        self.assertContains(page, 'value="15,360 lb"')
        data = {
            **GIVEN["before-and-after"],
            "weighed_on": str(timezone.localdate()),
            "keep": "1",
            "number": "first",
            "version": "1",
            "without": "10,000",
        }
        address = f"/weigh/tickets/{first.pk}/correct/"
        self.assertEqual(302, self.client.post(address, data).status_code)
        first.refresh_from_db()
        self.assertEqual(("5360 lb", 2), (str(first.whole_mass), first.version))
        late = self.client.post(address, {**data, "without": "9,000"})
        self.assertContains(late, "Somebody corrected this ticket", status_code=409)
        self.assertContains(late, 'value="9,000"', status_code=409)
        driver = Client()
        driver.login(username="demo-driver", password="fernbeck-demo")
        self.assertEqual(403, driver.get(address).status_code)

    def test_a_photo_is_kept_with_it_and_goes_with_it(self) -> None:
        picture = io.BytesIO()
        Image.new("RGB", (400, 200), "white").save(picture, "PNG")
        photo = SimpleUploadedFile("t.png", picture.getvalue(), "image/png")
        self.keep("gauge", number="41", photo=photo)
        ticket = Ticket.objects.get(number="41")
        kept = ticket.photos.get()
        self.assertEqual(200, self.client.get(f"/book/photos/{kept.pk}/").status_code)
        address = f"/weigh/tickets/{ticket.pk}/photos/"
        self.client.post(address, {"file": plate_photo(("TICKET",))})
        self.assertEqual(2, ticket.photos.count())
        wrong = self.client.post(address, {"file": SimpleUploadedFile("x.txt", b"x")}, follow=True)
        self.assertContains(wrong, "The photo was not kept.")
        self.client.post(f"{address}{kept.pk}/remove/")
        self.assertEqual(1, ticket.photos.count())
        self.client.post(f"/book/tickets/{ticket.pk}/remove/?next=tickets")
        self.assertFalse(Ticket.objects.filter(number="41").exists())

    def test_a_bad_photo_keeps_what_was_typed(self) -> None:
        answer = self.keep("gauge", photo=SimpleUploadedFile("x.png", b"none"), place="Ford")
        self.assertContains(answer, "not a JPEG", status_code=422)
        self.assertContains(answer, 'value="Ford"', status_code=422)
        self.assertFalse(Ticket.objects.filter(place="Ford").exists())


class Narrowed(WeighCase):
    def test_by_thing_way_date_and_who_was_aboard(self) -> None:
        machine = Machine.objects.get(name="Ridge R5 roller")
        self.keep("gauge", number="51", **{**ROWS, "aboard-0-name": "Wilhelmina"})
        for asked, there, gone in (
            ({"thing": f"machines-{machine.pk}"}, "22954", "20419"),
            ({"q": "wilhelmina"}, "51", "22954"),
            ({"method": "haul"}, "51", "nothing"),
            ({"method": "gauge"}, "51", "22954"),
            ({"since": str(timezone.localdate())}, "51", "20419"),
            ({"until": str(timezone.localdate() - timedelta(days=300))}, "16630", "22954"),
        ):
            with self.subTest(asked=asked):
                page = self.client.get("/weigh/tickets/", asked)
                self.assertContains(page, f"ticket {there}")
                self.assertNotContains(page, f"ticket {gone}")


class Table(WeighCase):
    HEADER = "weighed on,list,name,whole mass (lb),tongue mass (lb),place,number,empty,loads\n"

    def send(self, text: str, **more: str) -> Any:
        """A file of tickets."""
        file = SimpleUploadedFile("t.csv", text.encode())
        return self.client.post("/weigh/tickets/in/", {"file": file, **more})

    def test_out_and_in_again_changes_nothing(self) -> None:
        self.keep("three-pads", number="61", place="=1+1 gate", **ROWS)
        self.keep("three-pads", number="62", place="Gate", **ROWS)
        out = self.client.get("/weigh/tickets/out/").content.decode()
        self.assertIn("person | Jo | 82 kg; fuel | three quarters", out)
        before = Ticket.objects.count()
        tried = take_tickets_in(out.lstrip("\ufeff"), yard=self.yard, user=self.user)
        self.assertEqual({"there already"}, {line.outcome for line in tried.lines})
        moved = out.replace("| 138 in |", "| 137 in |", 1)
        self.assertNotEqual(out, moved)
        tried = take_tickets_in(moved.lstrip("\ufeff"), yard=self.yard, user=self.user)
        self.assertEqual(["new"], [r.outcome for r in tried.lines if r.outcome != "there already"])
        there = Yard.objects.get(name="Another yard")
        lines = out.lstrip("\ufeff").splitlines()
        elsewhere = "\n".join([lines[0], *(line for line in lines if ",62," in line)])
        tried = take_tickets_in(elsewhere, yard=there, user=self.stranger)
        done = take_tickets_in(elsewhere, yard=there, user=self.stranger, stamp=tried.stamp)
        self.assertTrue(done.stored)
        copy = Ticket.objects.get(yard=there, number="62")
        self.assertEqual(["Jo", "three quarters"], [load.name for load in copy.loads.all()])
        self.assertEqual("880 lb", str(copy.tongue_mass))
        self.assertEqual(before, Ticket.objects.filter(yard=self.yard).count())

    def test_a_dry_run_first_then_all_of_it(self) -> None:
        text = self.HEADER + (
            "2026-05-04,trailers,20 ft equipment trailer,2910,1.2 t,Ford,71,yes,\n"
            "2026-05-05,machines,Trench plough,1460,,Ford,72,,"
            "item | Harrow 48 tractor with loader | | 150 in | forward; "
            "load | Gravel | 1.2 t | 80 in\n"
        )
        tried = self.send(text)
        self.assertContains(tried, "What it would do")
        self.assertFalse(Ticket.objects.filter(number="71").exists())
        stamp = tried.content.decode().split('name="stamp" value="')[1].split('"')[0]
        done = self.client.post("/weigh/tickets/in/", {"text": text, "stamp": stamp})
        self.assertContains(done, "Taken in")
        ticket = Ticket.objects.get(number="71")
        self.assertEqual(("2910 lb", "1.2 t"), (str(ticket.whole_mass), str(ticket.tongue_mass)))
        self.assertTrue(ticket.readings["empty"])
        aboard = Ticket.objects.get(number="72").loads.all()
        self.assertEqual(["Harrow 48 tractor with loader", "Gravel"], [str(a) for a in aboard])
        self.assertEqual(["item", "item"], [a.kind for a in aboard])
        late = self.client.post("/weigh/tickets/in/", {"text": text, "stamp": stamp})
        self.assertEqual(409, late.status_code)

    def test_each_fault_is_named_with_its_line_and_nothing_comes_in(self) -> None:
        day = timezone.localdate() + timedelta(days=9)
        for row, words in (
            ("2026-05-04,trailers,Nobody,2910,,,,,\n", "not a thing of the book"),
            ("yesterday,,,2910,,,,,\n", "valid date"),
            (f"{day},,,2910,,,,,\n", "still to come"),
            ("2026-05-04,,,heavy,,,,,\n", "not a mass"),
            ("2026-05-04,,,-5,,,,,\n", "not a mass"),
            ("2026-05-04,,,2910,,,,perhaps,\n", "yes or no"),
            ("2026-05-04,,,2910,,,,,spare wheel\n", "kind"),
            ("2026-05-04,,,2910,,,,,item | Nobody | | 3 in\n", "not a machine"),
            ("2026-05-04,,,2910,,,,,,extra\n", "more cells"),
        ):
            with self.subTest(row=row):
                answer = self.send(self.HEADER + row)
                self.assertContains(answer, words, status_code=422)
        for text, words in (
            ("", "empty"),
            ("weighed on\n", "no rows"),
            ("name,whole mass (lb)\nx,3\n", "is missing"),
            ("weighed on,weight\n2026-01-01,3\n", "No column"),
            ("weighed on,whole mass (in)\n2026-01-01,3\n", "needs the unit"),
            ("weighed on,weighed_on\n2026-01-01,3\n", "twice"),
        ):
            with self.subTest(text=text):
                self.assertContains(self.send(text), words, status_code=422)


class InTheYardFile(WeighCase):
    def test_tickets_come_back_whole(self) -> None:
        machine = Machine.objects.get(name="Harrow 48 tractor with loader")
        self.keep("gauge", number="81", fee="3.00", read_by="Jo", **Aboard.rows(self, machine))
        first = Ticket.objects.get(number="81")
        self.keep("gauge", number="82", first_weighing=str(first.pk))
        photo = plate_photo(("TICKET",))
        self.client.post(f"/weigh/tickets/{first.pk}/photos/", {"file": photo})
        document = dump_whole(self.yard, photos=True)
        empty = Yard.objects.create(name="Empty")
        load_whole(read_file(json_bytes(document)), yard=empty, user=self.user)
        back = Ticket.objects.get(yard=empty, number="81")
        self.assertEqual(("3.00", "Jo", "gauge"), (back.fee, back.read_by, back.method))
        self.assertEqual(first.readings, back.readings)
        self.assertEqual("150 in", str(back.loads.get(kind="item").reference))
        self.assertEqual(empty, back.loads.get(kind="item").machine.yard)
        self.assertEqual(back, Ticket.objects.get(yard=empty, number="82").first)
        self.assertEqual(1, back.photos.count())
        self.assertEqual(document["tickets"], dump_whole(empty, photos=False)["tickets"])

    def test_readings_that_are_none_are_refused(self) -> None:
        for readings in (
            [],
            {"boxes": {"a": 3}},
            {"tolerance_kg": {"whole_mass": "much"}},
            {"figures": [["tongue", 3]]},
            {"other": 1},
            {"empty": "yes"},
        ):
            document = dump_whole(self.yard, photos=False)
            ticket = {"weighed_on": "2026-05-04", "readings": readings}
            document = {k: document[k] for k in ("format", "version", "name")}
            with self.subTest(readings=readings), self.assertRaisesMessage(Exception, "readings"):
                load_whole(
                    {**document, "tickets": [ticket]},
                    yard=Yard.objects.create(name="Empty"),
                    user=self.user,
                )


def json_bytes(document: dict[str, Any]) -> bytes:
    """A document as a file holds it."""
    import json

    return json.dumps(document).encode()


class OfEarlierVersions(WeighCase):
    def test_wheels_that_were_kept_as_the_whole_trailer_become_its_axles_load(self) -> None:
        trailer = Trailer.objects.get(name="14 ft tilt")
        machine = Machine.objects.get(name="Kestrel T6 compact loader")
        kept = []
        for thing in (trailer, machine):
            ticket = Ticket(
                yard=self.yard,
                method="wheel-by-wheel",
                weighed_on=timezone.localdate(),
                whole_mass=Quantity.parse("2520 lb"),
                front_axle_mass=Quantity.parse("1260 lb"),
                readings={
                    "figures": [["whole", 1143.0, 9.0], ["left", 571.5, 4.5]],
                    "tolerance_kg": {"whole_mass": 9.0},
                    "empty": True,
                },
            )
            ticket.thing = thing
            ticket.save()
            kept.append(ticket)
        migration = importlib.import_module("book.migrations.0012_wheels_are_not_the_trailer")
        migration.wheels_to_axles(apps, None)
        for ticket in kept:
            ticket.refresh_from_db()
        wheels, whole = kept
        self.assertEqual((None, "2520 lb"), (wheels.whole_mass, str(wheels.axles_mass)))
        self.assertIsNone(wheels.front_axle_mass)
        self.assertEqual(["trailer_axles", 1143.0, 9.0], wheels.readings["figures"][0])
        self.assertEqual({"axles_mass": 9.0}, wheels.readings["tolerance_kg"])
        self.assertEqual([], offers(wheels))
        self.assertEqual("2520 lb", str(whole.whole_mass))
