"""Readings put together on the pages, a haul's own tickets, what a trailer's tickets teach."""

from __future__ import annotations

import io
import json
from datetime import date

from django.core.management import CommandError, call_command
from django.test import Client, SimpleTestCase

from book.figures import lever_m
from book.history import changes_of
from book.models import Configuration, Machine, MachinePart, Ticket, Trailer
from hauls.models import Haul
from measures import Quantity, UnitSystem
from weighing.chart import HEIGHT, LEFT, WIDTH, Weighed, chart, step_of
from weighing.fitting import accept, estimates, put_together, versions
from weighing.gathering import Subject, believed, gather, subjects_of
from weighing.learning import bias_of
from weighing.models import AcceptedFit, HaulTicket
from weighing.services import offers
from weighing.share import hitch_words, rated_parts
from weighing.tests.test_weigh import WeighCase

ORCHARD = "Orchard tractor to the Quarry Lane block"
STONY = "Compact loader to the Stony Bank culvert"


class FitCase(WeighCase):
    def setUp(self) -> None:
        super().setUp()
        self.trailer = Trailer.objects.get(name="20 ft equipment trailer")
        self.gooseneck = Trailer.objects.get(name="25 ft gooseneck")
        self.harrow = Machine.objects.get(name="Harrow 48 tractor with loader")
        self.big = Machine.objects.get(name="Harrow 90 tractor")
        self.kestrel = Machine.objects.get(name="Kestrel T6 compact loader")

    def page(self, trailer: Trailer | None, machine: Machine | None, **more: str) -> str:
        """The fit of a pair."""
        asked = {"trailer": trailer.pk if trailer else "", "machine": machine.pk if machine else ""}
        return self.client.get("/weigh/together/", asked | more).content.decode()


class Together(FitCase):
    def test_readings_that_agree(self) -> None:
        page = self.page(self.gooseneck, self.big)
        self.assertIn("The 4 readings and the book agree", page)
        self.assertNotIn("What may have happened", page)

    def test_kilograms_taken_for_pounds_are_named_first(self) -> None:
        page = self.page(self.trailer, self.kestrel, since=str(self.gauged()))
        self.assertIn("cannot all be right", page)
        slips = page.split("What may have happened")[1]
        first = slips.split("<li>")[1].split("</li>")[0]
        self.assertIn("would fit if the scale showed kilograms", first)
        whole = self.page(self.trailer, self.kestrel).split("What may have happened")[1]
        first = whole.split("<li>")[1].split("</li>")[0]
        self.assertIn("would fit if the scale showed kilograms", first)
        self.assertIn("there may be a second", whole)
        # without that reading the others agree
        key = page.split("fits least")[0].rsplit('name="without" value="', 1)[1].split('"')[0]
        rest = self.page(self.trailer, self.kestrel, since=str(self.gauged()), without=key)
        self.assertIn("agree within", rest)
        self.assertIn("left out", rest)

    def gauged(self) -> date:
        """When the compact loader stood under the gauge."""
        ticket = Ticket.objects.filter(method="gauge", of_haul__haul__name=STONY).first()
        assert ticket is not None
        return ticket.weighed_on

    def test_what_can_be_put_together_is_listed(self) -> None:
        page = self.client.get("/weigh/together/").content.decode()
        for words in ("20 ft equipment trailer with Harrow 48", "25 ft gooseneck with Harrow 90"):
            self.assertIn(words, page)

    def test_a_ticket_that_does_not_say_what_stood_there_is_told(self) -> None:
        self.keep("gauge", thing=f"trailers-{self.trailer.pk}", number="91")
        page = self.page(self.trailer, self.harrow)
        self.assertIn("does not say what stood on the trailer", page)

    def test_another_yard_and_nonsense(self) -> None:
        other = Client()
        other.force_login(self.stranger)
        address = f"/weigh/together/?trailer={self.trailer.pk}"
        self.assertEqual(404, other.get(address).status_code)
        self.assertEqual(404, other.get(f"/weigh/of/trailers/{self.trailer.pk}/").status_code)
        self.assertEqual(404, self.client.get("/weigh/together/?trailer=x").status_code)
        self.assertEqual(404, self.client.get("/weigh/of/hitch-parts/1/").status_code)
        bad = self.page(self.trailer, self.harrow, since="never", without="nothing")
        self.assertIn("What they come to", bad)

    def test_a_trailer_without_axles_says_what_is_wanting(self) -> None:
        self.trailer.axles.all().delete()
        self.assertIn(
            "lacks its axles", self.page(self.trailer, self.harrow).replace("&#x27;", "'")
        )


class Accepting(FitCase):
    def subject(self) -> Subject:
        """The gooseneck and the big tractor."""
        return Subject(
            trailer=Trailer.objects.get(pk=self.gooseneck.pk),
            machine=Machine.objects.get(pk=self.big.pk),
        )

    def send(self, *names: str, at: str | None = None, readings: str = "4") -> str:
        """Take figures over; the page that follows."""
        data = {
            "trailer": self.gooseneck.pk,
            "machine": self.big.pk,
            "take": names,
            "at": at or versions(self.subject()),
            "readings": readings,
        }
        return self.client.post("/weigh/together/book/", data, follow=True).content.decode()

    def test_into_the_book_with_history_and_hauls_are_told(self) -> None:
        found, _ = put_together(self.subject(), set())
        assert found is not None
        tongue, error = found.fitted.estimate("tongue")
        page = self.send("tongue", "ahead")
        self.assertIn("The book now has the fitted empty tongue, balance point", page)
        self.assertIn("planned on the old figures", page)
        self.gooseneck.refresh_from_db()
        entered = self.gooseneck.empty_tongue_mass
        assert entered is not None
        self.assertAlmostEqual(tongue, float(entered.si), delta=0.5)
        doubt = self.gooseneck.empty_tongue_mass_tolerance
        assert doubt is not None
        self.assertAlmostEqual(2 * error, float(doubt.si), delta=0.5)
        self.assertIn("Fitted to 4 readings", changes_of(self.gooseneck)[0].why)
        haul = Haul.objects.get(name="Big tractor to Upper Fern on the gooseneck")
        self.assertContains(self.client.get(f"/hauls/{haul.pk}/"), "The book has moved on")

    def test_the_same_readings_are_not_counted_twice(self) -> None:
        before, _ = put_together(self.subject(), set())
        self.send("tongue", "ahead", "machine", "trailer")
        self.assertEqual(1, AcceptedFit.objects.count())
        after, _ = put_together(self.subject(), set())
        assert before is not None
        assert after is not None
        for name in ("tongue", "ahead"):
            with self.subTest(unknown=name):
                one, two = before.fitted.estimate(name), after.fitted.estimate(name)
                self.assertAlmostEqual(one[0], two[0], delta=one[1] / 10)
                self.assertAlmostEqual(one[1], two[1], delta=one[1] / 20)

    def test_an_older_page_a_new_ticket_and_nothing_chosen(self) -> None:
        self.assertIn("have changed since", self.send("tongue", at="99-99"))
        self.assertIn("have changed since", self.send("tongue", readings="3"))
        self.assertIn("Nothing was chosen", self.send())
        self.assertIn("Nothing was chosen", self.send("shoe_size"))
        self.assertFalse(AcceptedFit.objects.exists())

    def test_a_driver_may_look_only(self) -> None:
        driver = Client()
        driver.login(username="demo-driver", password="fernbeck-demo")
        asked = {"trailer": self.gooseneck.pk, "machine": self.big.pk}
        self.assertContains(driver.get("/weigh/together/", asked), "An owner or planner can")
        self.assertEqual(403, driver.post("/weigh/together/book/", asked).status_code)

    def test_the_lever_moves_every_axle_by_as_much(self) -> None:
        subject = self.subject()
        for suspension in (Trailer.Suspension.EQUALIZED, Trailer.Suspension.INDEPENDENT):
            with self.subTest(suspension=suspension):
                Trailer.objects.filter(pk=self.gooseneck.pk).update(suspension=suspension)
                subject = self.subject()
                found, _ = put_together(subject, set())
                assert found is not None
                from weighing import fitting

                lever = lever_m(subject.trailer)
                fitting._move_axles(subject.trailer, lever + 0.1, UnitSystem.METRIC)
                moved = lever_m(self.subject().trailer)
                axles = [float(a.position.si) for a in self.subject().trailer.axles.all()]
                self.assertAlmostEqual(lever + 0.1, moved, delta=0.002)
                self.assertAlmostEqual(36 * 0.0254, axles[1] - axles[0], delta=0.004)


class IntoMachines(FitCase):
    """Each way a machine is known takes a fit over so that its sum is the fitted one."""

    def weighed_at(
        self, machine: Machine, pounds: float, configuration: Configuration | None = None
    ) -> None:
        """A ticket of a machine."""
        ticket = Ticket(
            yard=self.yard,
            weighed_on=date(2026, 5, 4),
            whole_mass=Quantity.parse(f"{pounds} lb"),
            configuration=configuration,
        )
        ticket.thing = machine
        ticket.save()

    def take(self, machine: Machine, configuration: Configuration | None = None) -> float:
        """Take the mass over; the machine's mass in pounds by then."""
        subject = Subject(machine=machine, configuration=configuration)
        found, _ = put_together(subject, set())
        assert found is not None
        offered = {e.name for e in estimates(found, UnitSystem.US) if e.offered}
        self.assertIn("machine", offered)
        changed = accept(
            found, {"machine"}, at=versions(subject), user=self.user, system=UnitSystem.US
        )
        self.assertEqual(["mass of the machine"], changed)
        fresh = Subject(machine=Machine.objects.get(pk=machine.pk), configuration=configuration)
        return believed(fresh, [], fresh=True).machine[0] / 0.45359237

    def test_built_from_parts_its_base_takes_the_difference(self) -> None:
        machine = Machine.objects.get(name="Harrow 60 backhoe tractor")
        base = MachinePart.objects.get(machine=machine, kind="base")
        self.weighed_at(machine, 8600)
        self.assertAlmostEqual(8600, self.take(machine), delta=40)
        now = MachinePart.objects.get(pk=base.pk)
        self.assertNotEqual(str(base.mass), str(now.mass))

    def test_in_a_configuration_too(self) -> None:
        machine = Machine.objects.get(name="Harrow 60 backhoe tractor")
        off = machine.configurations.get(name="backhoe off")
        self.weighed_at(machine, 6900, off)
        self.assertAlmostEqual(6900, self.take(machine, off), delta=40)

    def test_by_its_axles_both_change(self) -> None:
        machine = Machine.objects.get(name="Ridge R5 roller")
        Ticket.objects.filter(object_id=machine.pk).delete()
        self.weighed_at(machine, 4700)
        self.assertAlmostEqual(4700, self.take(machine), delta=30)

    def test_as_a_whole(self) -> None:
        machine = Machine.objects.get(name="Trench plough")
        self.weighed_at(machine, 1380)
        self.assertAlmostEqual(1380, self.take(machine), delta=30)
        machine.refresh_from_db()
        self.assertEqual("weighed", machine.mass_known)

    def test_a_front_axle_tells_where_it_balances(self) -> None:
        machine = Machine.objects.get(name="Ridge R5 roller")
        found, _ = put_together(Subject(machine=machine), set())
        assert found is not None
        ahead, error = found.fitted.estimate("ahead")
        self.assertAlmostEqual(2620 / 4580 * 68 * 0.0254, ahead, delta=2 * error)


class HaulTickets(FitCase):
    PADS = {"steer": "3,920", "drive": "4,740", "trailer": "7,200"}
    ABOUT = {"weighed_on": "2026-05-04", "place": "Mill Ponds scale", "number": "4711"}

    def at(self) -> str:
        return f"/hauls/{self.haul.pk}/scale/"

    def test_kept_with_what_was_planned_then(self) -> None:
        alone = {"steer_alone": "4,280", "drive_alone": "3,240"}
        answer = self.client.post(self.at(), {**self.PADS, **alone, **self.ABOUT, "do": "keep"})
        ticket = Ticket.objects.get(number="4711")
        self.assertRedirects(answer, f"/weigh/tickets/{ticket.pk}/")
        self.assertEqual(("1140 lb", "8340 lb"), (str(ticket.tongue_mass), str(ticket.whole_mass)))
        self.assertEqual(self.haul, HaulTicket.objects.get(ticket=ticket).haul)
        rated = hitch_words(
            float(ticket.tongue_mass.si), rated_parts(self.haul.draft.plan.hitch), UnitSystem.US
        )
        self.assertContains(self.client.get(f"/weigh/tickets/{ticket.pk}/"), rated)
        read = self.client.post(self.at(), {**self.PADS, **alone, "do": "compare"})
        self.assertContains(read, rated)
        load = ticket.loads.filter(kind="item").get()
        self.assertEqual((self.harrow, "150 in"), (load.machine, str(load.reference)))
        planned = ticket.readings["planned_kg"]["trailer"]
        self.client.post(f"/hauls/{self.haul.pk}/change/", {})
        self.act("nudge 2")
        page = self.client.get(self.at())
        self.assertContains(page, "Ticket of 4 May 2026")
        self.assertEqual(
            planned, Ticket.objects.get(pk=ticket.pk).readings["planned_kg"]["trailer"]
        )
        subject = Subject(trailer=self.trailer, machine=self.harrow)
        self.assertIn(ticket, [g.ticket for g in gather(subject)[0]])

    def test_axle_by_axle_stands_in_for_the_pad(self) -> None:
        pads = {"steer": "3,920", "drive": "4,740", "axle_1": "3,560", "axle_2": "3,660"}
        page = self.client.post(self.at(), {**pads, "do": "compare"})
        self.assertContains(page, 'value="7,220 lb"')
        self.client.post(self.at(), {**pads, **self.ABOUT, "do": "keep"})
        ticket = Ticket.objects.get(number="4711")
        self.assertEqual("7220 lb", str(ticket.axles_mass))
        planned = ticket.readings["planned_kg"]
        self.assertAlmostEqual(planned["trailer"], planned["axle_1"] + planned["axle_2"])
        self.assertContains(self.client.get(self.at()), "Trailer axle 2")

    def test_comparing_keeps_nothing(self) -> None:
        before = Ticket.objects.count()
        answer = self.client.post(self.at(), {**self.PADS, "do": "compare"})
        self.assertContains(answer, "as planned")
        self.assertEqual(before, Ticket.objects.count())

    def test_bad_readings_are_named_and_kept_in_their_boxes(self) -> None:
        for more, words in (
            ({"drive": "heavy"}, "not a mass"),
            ({"drive": ""}, "all three pads"),
            ({"steer_alone": "4,200"}, "both axles, or neither"),
            ({"axle_1": "3,600"}, "every one by itself, or none"),
            ({"axle_1": "3,600", "axle_2": "2,000"}, "do not add up"),
            ({"drive": "0"}, "more than zero"),
            ({"weighed_on": "2999-01-01"}, "still to come"),
            ({"place": "=1"}, "formula"),
        ):
            with self.subTest(more=more):
                answer = self.client.post(
                    self.at(), {**self.PADS, **self.ABOUT, "do": "keep", **more}
                )
                self.assertContains(answer, words, status_code=422)
                self.assertContains(answer, 'value="7,200"', status_code=422)
        self.assertFalse(Ticket.objects.filter(number="4711").exists())

    def test_a_bias_is_learned_from_three_tickets_on(self) -> None:
        learned = {one.figure: one for one in bias_of(self.trailer, UnitSystem.US)}
        self.assertTrue(learned["trailer axles"].matters)
        self.assertIn("more than planned", learned["trailer axles"].words)
        self.assertFalse(learned["tongue"].matters)
        self.assertContains(self.client.get(self.at()), "as its tickets go")
        for ticket in Ticket.objects.filter(method="haul")[:2]:
            ticket.delete()
        self.assertEqual([], bias_of(self.trailer, UnitSystem.US))
        self.assertNotContains(self.client.get(self.at()), "as its tickets go")

    def figures_read(self, ticket: Ticket) -> list[str]:
        """Which figures of a ticket the fit takes, by what they are."""
        subject = Subject(trailer=self.trailer, machine=self.harrow)
        return [g.figure for g in gather(subject)[0] if g.ticket == ticket]

    def test_with_bars_hung_only_the_whole_trailer_is_what_it_seems(self) -> None:
        """The truck is handed less than the tongue, the axles carry as much more."""
        kept = HaulTicket.objects.filter(haul=self.haul, ticket__method="haul").get().ticket
        self.assertEqual(["tongue_mass", "axles_mass"], self.figures_read(kept))
        kept.readings["bars"] = True
        kept.save()
        self.assertEqual(["whole_mass"], self.figures_read(kept))
        # a ticket of an earlier version does not say; the haul stands in
        del kept.readings["bars"]
        kept.save()
        self.assertEqual(["tongue_mass", "axles_mass"], self.figures_read(kept))
        document = self.haul.document
        document["hitch"]["weight_distribution"] = {"front_axle_restoration": 0.5}
        Haul.objects.filter(pk=self.haul.pk).update(document=document)
        self.assertEqual(["whole_mass"], self.figures_read(kept))

    def test_a_haul_read_with_bars_hung_says_so_for_good(self) -> None:
        document = self.haul.document
        document["hitch"]["weight_distribution"] = {"front_axle_restoration": 0.5}
        Haul.objects.filter(pk=self.haul.pk).update(document=document)
        self.client.post(self.at(), {**self.PADS, **self.ABOUT, "do": "keep"})
        ticket = Ticket.objects.get(number="4711")
        self.assertIs(True, ticket.readings["bars"])

    def test_an_empty_trailer_read_with_bars_hung_offers_no_tongue(self) -> None:
        ticket = Ticket(
            yard=self.yard,
            whole_mass=Quantity.parse("2950 lb"),
            tongue_mass=Quantity.parse("310 lb"),
            readings={"empty": True, "bars": True},
        )
        ticket.thing = self.trailer
        self.assertEqual(["Empty mass"], [offer.what for offer in offers(ticket)])
        ticket.readings["bars"] = False
        self.assertEqual(2, len(offers(ticket)))

    def test_the_scale_house_prints_a_ticket_of_a_haul(self) -> None:
        out = io.StringIO()
        call_command("scale_house", ORCHARD[:18], stdout=out)
        ticket = json.loads(out.getvalue())
        self.assertEqual(ORCHARD, ticket["haul"])
        self.assertEqual(0, int(ticket["drive"].split()[0]) % 20)
        again, other = io.StringIO(), io.StringIO()
        call_command("scale_house", ORCHARD[:18], stdout=again)
        call_command("scale_house", ORCHARD[:18], "--seed", "5", "--kilograms", stdout=other)
        self.assertEqual(out.getvalue(), again.getvalue())
        self.assertIn("kg", other.getvalue())
        with self.assertRaisesMessage(CommandError, "no such haul"):
            call_command("scale_house", "nothing like it")


class OverTime(FitCase):
    def test_what_a_thing_has_a_part_in(self) -> None:
        for thing, partner in ((self.trailer, self.kestrel), (self.kestrel, self.trailer)):
            found = [s for s, _ in subjects_of(self.yard, thing)]
            self.assertTrue(all(thing in (s.trailer, s.machine) for s in found))
            self.assertTrue(any(partner in (s.trailer, s.machine) for s in found))

    def test_the_page_charts_it_and_links_what_can_be_put_together(self) -> None:
        page = self.client.get(f"/weigh/of/machines/{self.harrow.pk}/")
        self.assertContains(page, "The whole over time")
        self.assertContains(page, "mass-chart")
        trailer = self.client.get(f"/weigh/of/trailers/{self.trailer.pk}/")
        self.assertContains(trailer, "The tongue over time")
        self.assertContains(trailer, "more than planned")


class Geometry(SimpleTestCase):
    def weighed(self, *figures: tuple[int, float]) -> list[Weighed]:
        return [
            Weighed(day=date.fromordinal(739000 + day), value=value, tolerance=20, words="", key=n)
            for n, (day, value) in enumerate(figures)
        ]

    def test_every_point_and_its_doubt_lie_inside(self) -> None:
        for figures in (((0, 5000),), ((0, 5000), (400, 5300), (90, 4800)), ((0, 40), (0, 90))):
            drawn = chart(self.weighed(*figures), 5100)
            assert drawn is not None
            for point in drawn.points:
                self.assertTrue(LEFT <= point.x <= WIDTH)
                self.assertTrue(0 <= point.high < point.y < point.low <= HEIGHT)
            self.assertEqual(
                sorted(p.x for p in drawn.points), [p.x for p in drawn.points], "by date"
            )
            assert drawn.book is not None
            self.assertTrue(0 <= drawn.book.at <= HEIGHT)

    def test_twice_as_heavy_is_twice_as_high(self) -> None:
        drawn = chart(self.weighed((0, 1000), (10, 1500), (20, 2000)), None)
        assert drawn is not None
        one, two, three = (p.y for p in drawn.points)
        self.assertAlmostEqual(one - two, two - three)
        self.assertIsNone(drawn.book)

    def test_nothing_weighed_no_chart_and_round_steps(self) -> None:
        self.assertIsNone(chart([], 5000))
        for span, step in ((100, 20), (520, 200), (9, 2), (1, 0.2)):
            self.assertAlmostEqual(step, step_of(span))
        with self.assertRaises(ValueError):
            step_of(0)
