"""Weighing on the pages: the arithmetic as it fills, tickets, and what the book takes over."""

from __future__ import annotations

import json
from datetime import timedelta
from typing import Any

from django.test import Client
from django.utils import timezone

from book.history import changes_of
from book.models import Machine, Ticket, Trailer, Truck
from hauls.tests.yard_case import YardCase
from measures import Quantity, UnitSystem
from measures.writing import in_units_of
from weighing.methods import HAS, METHODS, WANTS
from weighing.services import offers

GIVEN = {
    "together-and-alone": {"together": "15,360", "alone": "5600 kg"},
    "three-pads": {
        "steer": "3260",
        "drive": "4520",
        "trailer_pad": "6640",
        "steer_alone": "3480",
        "drive_alone": "3420",
    },
    "axle-by-axle": {"choice": "machine", "axle_1": "2620", "axle_2": "4580"},
    "before-and-after": {"with_machine": "15360", "without": "10020"},
    "under-the-ball": {"reading": "175"},
    "at-the-jack": {"reading": "400", "jack": "15", "axles": "16 ft 8 in"},
    "lever": {"reading": "315", "tare": "12", "beam": "33", "arm": "11"},
    "wheel-by-wheel": {"left_1": "700", "right_1": "720", "left_2": "740", "right_2": "720"},
    "two-lifts": {"first": "3854", "second": "3758", "rigging": "20", "apart": "80 in"},
    "gauge": {"reading": "1,120"},
    "squat": {
        "known_1": "0",
        "height_1": "38",
        "known_2": "640",
        "height_2": "37",
        "height": "36.5",
    },
    "hung-at-the-coupler": {"reading": "1352", "rigging": "20"},
    "again": {"choice": "small", "reading_1": "380", "reading_2": "400", "reading_3": "390"},
    "two-placements": {"first": "1129", "second": "648", "moved": "18", "axles": "200"},
}
COMES_TO = {
    "three-pads": "880 lb",
    "axle-by-axle": "4,580 lb",
    "before-and-after": "5,340 lb",
    "under-the-ball": "175 lb",
    "at-the-jack": "370 lb",
    "lever": "909 lb",
    "wheel-by-wheel": "2,880 lb",
    "two-lifts": "7,592 lb",
    "hung-at-the-coupler": "1,332 lb",
    "gauge": "1,120 lb",
    "squat": "960 lb",
    "again": "390 lb",
    "two-placements": "5,344 lb",
}


class WeighCase(YardCase):
    def keep(self, slug: str, client: Client | None = None, **more: Any) -> Any:
        """Fill a method's form and keep the ticket."""
        data = {**GIVEN[slug], "weighed_on": str(timezone.localdate()), "keep": "1", **more}
        return (client or self.client).post(f"/weigh/{slug}/", data)

    def live(self, slug: str, **typed: str) -> Any:
        """The arithmetic as it fills."""
        return self.client.post(f"/weigh/{slug}/", typed, headers={"HX-Request": "true"})


class Picking(WeighCase):
    def test_by_what_one_has_and_wants_to_know(self) -> None:
        page = self.client.get("/weigh/", {"has": "bathroom", "want": "tongue"})
        self.assertContains(page, "Under the jack, corrected to the ball")
        self.assertNotContains(page, "Three pads")
        none = self.client.get("/weigh/", {"has": "gauge", "want": "machine"})
        self.assertContains(none, "No way with that tells that.")
        self.assertContains(self.client.get("/weigh/", {"has": "zebra"}), "Three pads")
        sure = self.client.get("/weigh/", {"want": "sure"})
        self.assertContains(sure, "All readings put together")
        self.assertContains(sure, "The same thing, read again")
        self.assertContains(none, "Live, on the phone")

    def test_every_method_has_its_words_and_every_choice_a_method(self) -> None:
        self.assertEqual(set(METHODS), set(GIVEN))
        self.assertEqual(set(HAS), {h for m in METHODS.values() for h in m.has})
        self.assertEqual(set(WANTS), {w for m in METHODS.values() for w in m.wants})
        for slug, method in METHODS.items():
            page = self.client.get(f"/weigh/{slug}/")
            with self.subTest(slug):
                self.assertTrue(method.steps and method.cautions)
                for text in (*method.steps, *method.cautions):
                    words = in_units_of(text, UnitSystem.US)
                    self.assertIn(words.replace("'", "&#x27;"), page.content.decode())
        self.assertEqual(404, self.client.get("/weigh/by-the-stars/").status_code)


class Arithmetic(WeighCase):
    def test_fills_in_as_it_is_typed(self) -> None:
        for slug, words in COMES_TO.items():
            answer = self.live(slug, **GIVEN[slug])
            with self.subTest(slug):
                self.assertContains(answer, words)
                self.assertContains(answer, "±")
                self.assertNotContains(answer, "<html")
        empty = self.live("lever", reading="315")
        self.assertContains(empty, "fills in as you type")

    def test_looking_keeps_nothing_even_with_the_button_in_it(self) -> None:
        before = Ticket.objects.count()
        day = str(timezone.localdate())
        answer = self.live("gauge", reading="1,120", keep="1", weighed_on=day)
        self.assertContains(answer, "1,120 lb")
        self.assertEqual(before, Ticket.objects.count())

    def test_kilograms_and_pounds_may_be_mixed(self) -> None:
        answer = self.live("together-and-alone", together="15,360 lb", alone="5600 kg")
        self.assertContains(answer, "3,014 lb")

    def test_readings_that_cannot_be_are_said_in_a_sentence(self) -> None:
        before = Ticket.objects.count()
        for slug, typed, words in (
            ("together-and-alone", {"together": "6000", "alone": "7420"}, "cannot weigh more than"),
            ("lever", {**GIVEN["lever"], "arm": "40"}, "no longer than the beam"),
            ("lever", {**GIVEN["lever"], "tare": "-3"}, "is not a mass"),
            ("at-the-jack", {**GIVEN["at-the-jack"], "jack": "300"}, "ahead of the axles"),
            ("gauge", {"reading": "a lot"}, "a lot"),
            ("two-placements", {**GIVEN["two-placements"], "second": "1129"}, "has to change"),
        ):
            with self.subTest(slug=slug, typed=typed):
                self.assertContains(self.live(slug, **typed), words)
                kept = self.client.post(
                    f"/weigh/{slug}/",
                    {**typed, "weighed_on": str(timezone.localdate()), "keep": "1"},
                )
                self.assertEqual(422, kept.status_code)
        self.assertEqual(before, Ticket.objects.count())

    def test_what_is_odd_is_asked_and_not_refused(self) -> None:
        trailer = Trailer.objects.get(name="20 ft equipment trailer")
        of = {"thing": f"trailers-{trailer.pk}", "empty": "on"}
        answer = self.live("under-the-ball", reading="900", **of)
        self.assertContains(answer, "the tongue 31.0 % of the empty trailer")
        offered = self.live("under-the-ball", reading="400", **of)
        self.assertContains(offered, "The book says 380 lb for empty tongue weight")
        trailer.refresh_from_db()
        self.assertEqual("380 lb", str(trailer.empty_tongue_mass))
        low = self.live("under-the-ball", reading="60", **of)
        self.assertContains(low, "does the jack still carry?")
        machine = Machine.objects.get(name="Kestrel T6 compact loader")
        other = self.live(
            "before-and-after", with_machine="9000", without="6000", thing=f"machines-{machine.pk}"
        )
        self.assertContains(other, "The book says 6,480 lb.")


class Tickets(WeighCase):
    def test_kept_with_readings_as_typed_and_offered_to_the_book(self) -> None:
        machine = Machine.objects.get(name="Harrow 48 tractor with loader")
        answer = self.keep(
            "before-and-after",
            thing=f"machines-{machine.pk}",
            place="Mill Ponds scale",
            number="23001",
            fee="12.50",
            aboard="Ida, full tank",
        )
        ticket = Ticket.objects.get(number="23001")
        self.assertRedirects(answer, f"/weigh/tickets/{ticket.pk}/")
        self.assertEqual("5340 lb", str(ticket.whole_mass))
        page = self.client.get(f"/weigh/tickets/{ticket.pk}/")
        for words in ("With the machine on", "15,360", "12.50", "Ida, full tank", "5,340 lb"):
            self.assertContains(page, words)
        machine.refresh_from_db()
        self.assertEqual("5350 lb", str(machine.mass))

    def test_taken_over_it_is_in_the_history_and_hauls_say_so(self) -> None:
        machine = Machine.objects.get(name="Harrow 48 tractor with loader")
        self.keep("before-and-after", thing=f"machines-{machine.pk}", number="23002")
        ticket = Ticket.objects.get(number="23002")
        before = len(changes_of(machine))
        answer = self.client.post(f"/weigh/tickets/{ticket.pk}/book/", follow=True)
        self.assertContains(answer, "now says what was weighed")
        machine.refresh_from_db()
        self.assertEqual("5340 lb", str(machine.mass))
        self.assertEqual("weighed", machine.mass_known)
        self.assertEqual(before + 1, len(changes_of(machine)))
        haul = self.client.get(f"/hauls/{self.haul.pk}/")
        self.assertContains(haul, "The book has moved on for Harrow 48")
        again = self.client.post(f"/weigh/tickets/{ticket.pk}/book/", follow=True)
        self.assertNotContains(again, "now says what was weighed")

    def test_a_trailers_tongue_goes_into_the_book_only_when_it_was_empty(self) -> None:
        trailer = Trailer.objects.get(name="14 ft tilt")
        self.keep("at-the-jack", thing=f"trailers-{trailer.pk}", number="1")
        loaded = Ticket.objects.get(number="1")
        page = self.client.get(f"/weigh/tickets/{loaded.pk}/")
        self.assertContains(page, "It was not weighed empty")
        self.keep("at-the-jack", thing=f"trailers-{trailer.pk}", number="2", empty="on")
        empty = Ticket.objects.get(number="2")
        self.client.post(f"/weigh/tickets/{empty.pk}/book/")
        trailer.refresh_from_db()
        self.assertEqual("370 lb", str(trailer.empty_tongue_mass))
        self.assertIsNone(trailer.tongue_taken_at)

    def test_a_trucks_axles(self) -> None:
        truck = Truck.objects.get(name="Old half-ton")
        key = f"trucks-{truck.pk}"
        self.keep("axle-by-axle", thing=key, number="3", empty="on", choice="truck")
        self.client.post(f"/weigh/tickets/{Ticket.objects.get(number='3').pk}/book/")
        truck.refresh_from_db()
        self.assertEqual(
            ("2620 lb", "1960 lb"), (str(truck.front_axle_mass), str(truck.rear_axle_mass))
        )

    HITCHED = {"choice": "hitched", "axle_1": "3100", "axle_2": "6900", "axle_3": "13600"}

    def test_a_hitched_trucks_axles_stay_out_of_the_book(self) -> None:
        """3,100 / 6,900 / 13,600 with a trailer on: the rear axle has the tongue in it."""
        truck = Truck.objects.get(name="Old half-ton")
        was = (str(truck.front_axle_mass), str(truck.rear_axle_mass))
        key = f"trucks-{truck.pk}"
        self.keep("axle-by-axle", thing=key, number="5", empty="on", **self.HITCHED)
        ticket = Ticket.objects.get(number="5")
        self.assertEqual([], offers(ticket))
        self.assertIsNone(ticket.front_axle_mass)
        self.client.post(f"/weigh/tickets/{ticket.pk}/book/")
        truck.refresh_from_db()
        self.assertEqual(was, (str(truck.front_axle_mass), str(truck.rear_axle_mass)))
        page = self.client.get(f"/weigh/tickets/{ticket.pk}/")
        self.assertContains(page, "Truck&#x27;s rear axle, hitched")
        # a ticket of an earlier version does not say what rolled on
        ticket.readings = {"empty": True, "figures": []}
        ticket.front_axle_mass = Quantity.parse("3100 lb")
        self.assertEqual([], offers(ticket))

    def test_hitched_and_alone_tell_trailer_tongue_and_the_trucks_own_axles(self) -> None:
        trailer = Trailer.objects.get(name="14 ft tilt")
        both = {**self.HITCHED, "alone_1": "3280", "alone_2": "5900"}
        self.keep("axle-by-axle", thing=f"trailers-{trailer.pk}", number="6", empty="on", **both)
        ticket = Ticket.objects.get(number="6")
        self.assertEqual(
            ("7700 lb", "1000 lb", "6700 lb"),
            (str(ticket.whole_mass), str(ticket.tongue_mass), str(ticket.axles_mass)),
        )
        truck = Truck.objects.get(name="Old half-ton")
        self.keep("axle-by-axle", thing=f"trucks-{truck.pk}", number="7", empty="on", **both)
        found = {o.what: str(o.then) for o in offers(Ticket.objects.get(number="7"))}
        self.assertEqual({"Front axle mass": "3280 lb", "Rear axle mass": "2620 lb"}, found)

    def test_what_rolled_on_has_to_be_said_and_to_fit(self) -> None:
        trailer = Trailer.objects.get(name="14 ft tilt")
        machine = Machine.objects.get(name="Kestrel T6 compact loader")
        axles = {"axle_1": "3100", "axle_2": "6900"}
        for more, words in (
            ({**axles}, "Choose this first"),
            ({**axles, "choice": "hitched"}, "there is a third step"),
            ({**self.HITCHED, "alone_1": "3280"}, "two steps"),
            ({**axles, "choice": "truck", "thing": f"trailers-{trailer.pk}"}, "does not roll on"),
            ({**axles, "choice": "truck", "thing": f"machines-{machine.pk}"}, "a machine"),
            ({**self.HITCHED, "thing": f"machines-{machine.pk}"}, "on its own wheels"),
            ({**axles, "choice": "sideways"}, "Select a valid choice"),
        ):
            with self.subTest(more=more):
                answer = self.client.post(
                    "/weigh/axle-by-axle/",
                    {"weighed_on": str(timezone.localdate()), "keep": "1", **more},
                )
                self.assertContains(answer, words, status_code=422)
                self.assertContains(answer, 'value="3100"', status_code=422)

    def test_wheels_of_a_trailer_offer_no_more_than_its_axles(self) -> None:
        """Four wheels of 630 of a 2,900 lb trailer are 2,520 on its axles, not its mass."""
        trailer = Trailer.objects.get(name="14 ft tilt")
        wheels = dict.fromkeys(("left_1", "right_1", "left_2", "right_2"), "630")
        key = f"trailers-{trailer.pk}"
        self.keep("wheel-by-wheel", thing=key, number="8", empty="on", **wheels)
        ticket = Ticket.objects.get(number="8")
        self.assertEqual([], offers(ticket))
        self.assertEqual((None, "2520 lb"), (ticket.whole_mass, str(ticket.axles_mass)))
        live = self.live("wheel-by-wheel", **wheels)
        self.assertContains(live, "The axles together")
        self.keep("wheel-by-wheel", thing=key, number="9", empty="on", **wheels, tongue="380")
        found = {o.what: str(o.then) for o in offers(Ticket.objects.get(number="9"))}
        self.assertEqual({"Empty mass": "2900 lb", "Empty tongue weight": "380 lb"}, found)

    def test_a_reading_over_a_beam_is_handed_to_the_wheels(self) -> None:
        live = self.live("lever", **GIVEN["lever"])
        self.assertContains(live, "Weigh the other wheels the same way")
        address = live.content.decode().split('href="')[1].split('"')[0].replace("&amp;", "&")
        page = self.client.get(address)
        for value in ("315 lb", "12 lb", "33 in", "11 in"):
            self.assertContains(page, f'value="{value}"')
        over = {"left_1": "311", "right_1": "240", "tare": "8", "beam": "33", "arm": "11"}
        answer = self.live("wheel-by-wheel", **over)
        self.assertContains(answer, "1,605 lb")
        for lacking, words in (
            ({"beam": ""}, "two tapes"),
            ({"arm": ""}, "two tapes"),
            ({"beam": "", "arm": ""}, "goes with its two tapes"),
        ):
            self.assertContains(self.live("wheel-by-wheel", **{**over, **lacking}), words)

    def test_a_trailer_lifted_at_two_supports(self) -> None:
        trailer = Trailer.objects.get(name="14 ft tilt")
        self.keep("two-lifts", thing=f"trailers-{trailer.pk}", number="10", empty="on")
        found = {o.what: str(o.then) for o in offers(Ticket.objects.get(number="10"))}
        self.assertEqual({"Empty mass": "7592 lb"}, found)
        self.keep("hung-at-the-coupler", thing=f"trailers-{trailer.pk}", number="11", empty="on")
        found = {o.what: str(o.then) for o in offers(Ticket.objects.get(number="11"))}
        self.assertEqual({"Empty tongue weight": "1332 lb"}, found)

    def test_reading_again_goes_by_its_own_scale(self) -> None:
        """Half a step and a part of 390 lb: 1 and 4 on a small scale, 10 and 1 on a vehicle's."""
        coarse = self.live(
            "again", choice="small", reading_1="390", reading_2="390", reading_3="390"
        )
        self.assertContains(coarse, "± 5 lb")
        vehicle = self.live(
            "again", choice="vehicle", reading_1="390", reading_2="390", reading_3="390"
        )
        self.assertContains(vehicle, "± 11 lb")
        plated = self.live("again", choice="small", reading_1="390", reading_2="390", step="20 lb")
        self.assertContains(plated, "± 14 lb")

    def test_a_tongue_that_reads_like_one_under_the_jack_is_asked_about(self) -> None:
        trailer = Trailer.objects.get(name="20 ft equipment trailer")
        key = f"trailers-{trailer.pk}"
        high = str(float(trailer.empty_tongue_mass.value) * 1.12)
        asked = self.live("under-the-ball", reading=high, thing=key, empty="on")
        self.assertContains(asked, "where did it stand?")
        right = str(trailer.empty_tongue_mass.value)
        calm = self.live("under-the-ball", reading=right, thing=key, empty="on")
        self.assertNotContains(calm, "where did it stand?")

    def test_a_driver_keeps_tickets_and_changes_no_figure(self) -> None:
        driver = Client()
        driver.login(username="demo-driver", password="fernbeck-demo")
        machine = Machine.objects.get(name="Kestrel T6 compact loader")
        self.keep("before-and-after", driver, thing=f"machines-{machine.pk}", number="4")
        ticket = Ticket.objects.get(number="4")
        self.assertContains(driver.get(f"/weigh/tickets/{ticket.pk}/"), "An owner or planner can")
        self.assertEqual(403, driver.post(f"/weigh/tickets/{ticket.pk}/book/").status_code)

    def test_another_yard_sees_none_of_it(self) -> None:
        ticket = Ticket.objects.first()
        other = Client()
        other.force_login(self.stranger)
        self.assertEqual(404, other.get(f"/weigh/tickets/{ticket.pk}/").status_code)
        self.assertEqual(404, other.post(f"/weigh/tickets/{ticket.pk}/book/").status_code)
        machine = Machine.objects.get(name="Kestrel T6 compact loader")
        kept = self.keep("before-and-after", other, thing=f"machines-{machine.pk}")
        self.assertEqual(422, kept.status_code)

    def test_a_date_to_come_a_formula_and_no_date_are_refused(self) -> None:
        day = str(timezone.localdate() + timedelta(days=3))
        for field, value, words in (
            ("weighed_on", day, "still to come"),
            ("weighed_on", "", "required"),
            ("place", "=1+1", "formula"),
        ):
            with self.subTest(field=field, value=value):
                answer = self.keep("gauge", **{field: value})
                self.assertContains(answer, words, status_code=422)
                self.assertContains(answer, 'value="1,120"', status_code=422)

    def test_found_by_place_and_number(self) -> None:
        self.keep("gauge", place="Ford weighbridge", number="777")
        page = self.client.get("/weigh/tickets/", {"q": "ford weigh"})
        self.assertContains(page, "777")
        self.assertNotContains(page, "Mill Ponds scale")
        self.assertContains(self.client.get("/weigh/tickets/", {"q": "<x>"}), "&lt;x&gt;")

    def test_the_readings_are_kept_for_later(self) -> None:
        self.keep("two-lifts", number="9")
        kept = json.loads(json.dumps(Ticket.objects.get(number="9").readings))
        self.assertEqual("3,854 lb", kept["boxes"]["first"])
        self.assertGreater(kept["tolerance_kg"]["whole_mass"], 0)
