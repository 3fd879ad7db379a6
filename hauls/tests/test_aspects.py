"""Arranged, level, frame, what if and all figures; and the list narrowed."""

from __future__ import annotations

import random
import re
from dataclasses import replace
from datetime import timedelta
from typing import Any

from django.db import connection
from django.test import SimpleTestCase
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from book.models import Bulk, Hitch, Machine, Trailer, Truck
from hauls.models import Haul
from hauls.services.haul import on_the_tape
from hauls.standing import is_sure
from hauls.tests.test_views import EXAMPLE, YardCase
from mechanics.arrange import DECK_LENGTH, arrange
from mechanics.changes import Change, Kind
from mechanics.checks import Status
from mechanics.report import evaluate
from mechanics.tests.outfits import example_plan, random_plan

CREW = "Drain crew to the Long Drain"
HEAVY = "Compact loader on the tilt, in a hurry"


class AspectCase(YardCase):
    def look(self, name: str, view: str = "", **query: Any) -> Any:
        """A view of a haul."""
        haul = Haul.objects.get(name=name)
        return self.client.get(f"/hauls/{haul.pk}/{view}", query)


class Arranging(AspectCase):
    def test_the_best_and_other_ways_with_what_they_leave(self) -> None:
        page = self.look(CREW, "arrange/")
        self.assertContains(page, "Proved: no other arrangement leaves more.")
        self.assertContains(page, "Stand them like this", count=4)
        self.assertContains(page, "Another way, 3")
        left = [float(n) for n in re.findall(r"<b>([−\d.]+) %</b> of the", page.content.decode())]
        self.assertEqual(4, len(left))
        self.assertEqual(max(left), left[0])

    def test_an_arrangement_is_taken_over_as_one_step(self) -> None:
        haul = Haul.objects.get(name=CREW)
        page = self.look(CREW, "arrange/").content.decode()
        form = page.split("Another way, 1")[1].split("</form>")[0]
        fields = {}
        for piece in form.split('<input type="hidden" ')[1:]:
            name = piece.split('name="')[1].split('"')[0]
            fields[name] = piece.split('value="')[1].split('"')[0]
        answer = self.client.post(f"/hauls/{haul.pk}/change/", fields)
        self.assertRedirects(answer, f"/hauls/{haul.pk}/")
        before, haul.revision = haul.document, 0
        haul.refresh_from_db()
        self.assertNotEqual(before["items"], haul.document["items"])
        self.assertEqual("arranged anew", haul.steps.last().what)

    def test_what_is_held_fast_is_kept(self) -> None:
        haul = Haul.objects.get(name=CREW)
        kept = haul.document["items"][0]["placement"]["reference"]
        page = self.look(CREW, "arrange/", asked=1, keep="m1", turn="1", beside="1", room="4 in")
        self.assertContains(page, f'name="reference-0" value="{kept}"')
        self.assertContains(page, 'value="4 in"')
        first = self.look(CREW, "arrange/", **{"asked": 1, "off-m2": "first"}).content.decode()
        order = first.split("<ol>")[1].split("</ol>")[0]
        self.assertGreater(order.index("Pallet"), order.index("Trench plough"))
        self.assertGreater(order.index("Pallet"), order.index("Harrow 60"))

    def test_room_that_is_no_length_is_said_and_stays_in_its_box(self) -> None:
        for typed, words in (
            ("zebra", "Room between them"),
            ("-3", "between nothing and the deck"),
        ):
            page = self.look(CREW, "arrange/", asked=1, room=typed)
            self.assertContains(page, words, status_code=422)
            self.assertContains(page, f'value="{typed}"', status_code=422)

    def test_where_nothing_fits_the_changes_and_the_yards_other_outfits_are_listed(self) -> None:
        page = self.look(HEAVY, "arrange/")
        self.assertContains(page, "No arrangement helps: trailer GVWR")
        self.assertContains(page, "Work truck 3, Receiver, 20 ft equipment trailer: fits")
        self.assertNotContains(page, "Stand them like this")

    def test_contradicting_locks_say_which_to_let_go(self) -> None:
        haul = Haul.objects.get(name=CREW)
        items = haul.document["items"]
        items[2]["placement"]["reference"] = items[0]["placement"]["reference"]
        haul.save()
        page = self.look(CREW, "arrange/", asked=1, keep=["m1", "m2", "m3"], turn=1)
        self.assertContains(page, "Nothing fits as it is")
        self.assertContains(page, "Let Trench plough move: kept where it is, nothing fits.")
        self.assertNotContains(page, "Stand them like this")
        circle = self.look(
            CREW, "arrange/", **{"asked": 1, "off-m1": "first", "off-m2": "last", "off-m3": "last"}
        )
        self.assertEqual(200, circle.status_code)

    def test_an_empty_deck_and_too_many_loads(self) -> None:
        haul = Haul.objects.get(name=CREW)
        item = haul.document["items"][1]
        haul.document["items"] = []
        haul.save()
        self.assertContains(self.look(CREW, "arrange/"), "Nothing is on the deck.")
        haul.document["items"] = [{**item, "id": f"p{n}"} for n in range(40)]
        haul.save()
        self.assertContains(self.look(CREW, "arrange/"), "With more than 8 loads")


class ChangeWords(AspectCase):
    def test_each_kind_of_change_is_a_sentence(self) -> None:
        from hauls.arranging import change_words
        from measures import UnitSystem
        from mechanics.rules import TongueSchool
        from planfile.reading import read_document

        plan = read_document(Haul.objects.get(name=CREW).document)
        for change, words in (
            (Change(kind=Kind.FREE, items=("m2",)), "Let Pallet of drain pipe move"),
            (Change(kind=Kind.ORDER, items=("m2",)), "Give up that Pallet of drain pipe comes off"),
            (Change(kind=Kind.LESS, items=("m2",), less_kg=100), "Leave 220 lb of Pallet"),
            (Change(kind=Kind.LEAVE, items=("m2", "m3")), "drain pipe and Trench plough behind."),
            (
                Change(kind=Kind.SCHOOL, school=TongueSchool.GOOSENECK_13_15),
                "Go by the gooseneck, short of payload school, 13–15 %",
            ),
            (
                Change(kind=Kind.RATING, ratings=(("truck.payload", 100.0),)),
                "Truck payload is 220 lb too low.",
            ),
            (
                Change(kind=Kind.RATINGS, ratings=(("trailer.gvwr", 50.0), (DECK_LENGTH, 0.254))),
                "Trailer GVWR is 110 lb too low, and the deck is 10 in too short.",
            ),
        ):
            with self.subTest(kind=change.kind):
                self.assertIn(words, change_words(change, plan, UnitSystem.US))


class Level(AspectCase):
    def test_how_it_rides_before_and_after_and_what_to_do(self) -> None:
        page = self.look("Orchard tractor to the Quarry Lane block", "level/")
        self.assertContains(page, "Nose 1 in low as loaded")
        self.assertContains(page, "Raise the ball by 1 in and it rides level loaded.")
        self.assertContains(page, "Rear arch sinks")

    def test_a_high_nose_asks_for_the_next_hole(self) -> None:
        haul = Haul.objects.get(name="Orchard tractor to the Quarry Lane block")
        haul.document["truck"]["ride"]["ball_height"] = 24.5
        haul.save()
        page = self.look(haul.name, "level/")
        self.assertContains(page, "Nose 2 1/2 in high as loaded")
        self.assertContains(page, "Drop the ball mount one hole, 2 in, and it rides level loaded.")

    def test_what_is_wanting_is_named(self) -> None:
        page = self.look("Plough and pipe to the spring chamber", "level/")
        self.assertContains(page, "ball height and springs")
        self.assertContains(page, "Taken as level: heights are not known.")

    def test_as_it_rides_a_limit_may_be_passed_that_holds_when_level(self) -> None:
        haul = Haul.objects.get(name="Orchard tractor to the Quarry Lane block")
        haul.document["truck"]["ride"]["ball_height"] = 34
        haul.document["items"][0]["placement"]["reference"] = 161
        haul.document["items"][0]["cg"]["height"] = 60
        haul.save()
        page = self.look(haul.name, "level/")
        self.assertContains(page, "Level it would hold; as it rides it does not")
        self.assertContains(page, "the share is below the least")

    def test_bars_slack_and_set(self) -> None:
        page = self.look("Orchard tractor to the Quarry Lane block", "level/", restore="50")
        self.assertContains(page, "Handbooks commonly ask for bars here")
        self.assertContains(page, "A gauge under the ball shows")
        self.assertContains(page, "12,000 lb / 1,500 lb")
        self.assertContains(page, "14,000 lb / 1,750 lb")
        partial = self.client.get(
            page.request["PATH_INFO"], {"restore": "100"}, headers={"HX-Request": "true"}
        )
        self.assertNotContains(partial, "<html")
        self.assertContains(partial, "100 %")
        wrong = self.look("Orchard tractor to the Quarry Lane block", "level/", restore="zebra")
        self.assertContains(wrong, "is not a percentage", status_code=422)
        most = self.look("Orchard tractor to the Quarry Lane block", "level/", restore="140")
        self.assertContains(most, "0 to 100 %", status_code=422)

    def test_the_worst_trailer_axle_is_shown_its_tires_too(self) -> None:
        """Axle 2's tires are made the weakest: 3,500 lb under 3,561."""
        document = self.haul.document
        document["trailer"]["axles"][1]["tire_capacity"] = 3500
        Haul.objects.filter(pk=self.haul.pk).update(document=document)
        page = self.look(self.haul.name, "level/", restore="0")
        self.assertContains(page, "axle 2 tires, 61 lb over")
        row = page.content.decode().split("Trailer axles together")[1].split("</tr>")[0]
        self.assertIn("verdict-over", row)

    def test_bars_are_set_to_a_wanted_gauge_reading(self) -> None:
        """The gauge is read back off the page that setting it gives."""
        page = self.look(self.haul.name, "level/", gauge="1,700")
        self.assertContains(page, "a gauge under the ball then reads 1,700 lb")
        for wanted, words in (("5000", "Choose a reading between"), ("much", "is not a mass")):
            wrong = self.look(self.haul.name, "level/", gauge=wanted)
            self.assertContains(wrong, words, status_code=422)
            self.assertContains(wrong, f'value="{wanted}"', status_code=422)
        self.assertNotContains(self.look(CREW, "level/", gauge="1700"), "Choose a reading")

    def test_the_length_of_the_bars_counts_before_any_give_back_is_chosen(self) -> None:
        document = self.haul.document
        document["hitch"]["extra"] = {"bar_length": 26}
        Haul.objects.filter(pk=self.haul.pk).update(document=document)
        self.assertContains(self.look(self.haul.name, "level/", restore="50"), "2 ft 2 in behind")
        address = f"/hauls/{self.haul.pk}/level/bars/"
        self.client.post(address, {"restore": "50", "base": self.haul.revision})
        self.haul.refresh_from_db()
        bars = self.haul.document["hitch"]["weight_distribution"]
        self.assertEqual({"front_axle_restoration": 0.5, "bar_length": 26}, bars)
        self.client.post(address, {"bars": "off", "base": self.haul.revision})
        self.assertContains(self.look(self.haul.name, "level/", restore="50"), "2 ft 2 in behind")

    def test_a_torsion_group_asks_for_its_springs(self) -> None:
        words = "loads its front axle more than shown"
        self.assertNotContains(self.look(self.haul.name, "level/"), words)
        document = self.haul.document
        document["trailer"]["suspension"] = "independent"
        Haul.objects.filter(pk=self.haul.pk).update(document=document)
        self.assertContains(self.look(self.haul.name, "level/"), words)
        document["trailer"]["axle_rate"] = 2000
        Haul.objects.filter(pk=self.haul.pk).update(document=document)
        page = self.look(self.haul.name, "level/")
        self.assertNotContains(page, words)
        self.assertContains(page, "as their springs say")

    def test_a_gooseneck_has_no_bars(self) -> None:
        self.assertContains(self.look(CREW, "level/"), "This hitch has none.")

    def test_bars_are_hung_on_the_haul_and_taken_off(self) -> None:
        address = f"/hauls/{self.haul.pk}/level/bars/"
        self.client.post(address, {"restore": "75", "base": self.haul.revision})
        self.haul.refresh_from_db()
        self.assertEqual(
            {"front_axle_restoration": 0.75}, self.haul.document["hitch"]["weight_distribution"]
        )
        late = self.client.post(address, {"restore": "10", "base": 1}, follow=True)
        self.assertContains(late, "Somebody changed this haul in between")
        self.client.post(address, {"bars": "off", "base": self.haul.revision})
        self.haul.refresh_from_db()
        self.assertNotIn("weight_distribution", self.haul.document["hitch"])
        wrong = self.client.post(address, {"restore": "x", "base": self.haul.revision}, follow=True)
        self.assertContains(wrong, "is not a percentage")


class Frame(AspectCase):
    def test_bending_shear_and_what_was_assumed(self) -> None:
        page = self.look(CREW, "frame/")
        self.assertContains(page, "as much as its rated load spread over the deck")
        self.assertContains(page, "Where Trench plough stands on the floor is not known")
        self.assertContains(page, "maker&#39;s figure 11,000 lb")

    def test_a_small_heavy_footprint_is_said(self) -> None:
        haul = Haul.objects.get(name=CREW)
        haul.document["items"] = [
            {
                "id": "roller",
                "name": "Roller",
                "mass": 9000,
                "cg": {"ahead": 0},
                "front": 40,
                "rear": 40,
                "contacts": [{"ahead": 10}, {"ahead": -10}],
                "placement": {"reference": 60},
            }
        ]
        haul.save()
        page = self.look(CREW, "frame/")
        self.assertContains(page, "a small, heavy footprint")

    def test_within_a_length_that_is_typed(self) -> None:
        self.assertContains(self.look(CREW, "frame/", length="5 ft"), "5 ft")
        for typed in ("zebra", "0"):
            page = self.look(CREW, "frame/", length=typed)
            self.assertEqual(422, page.status_code)
            self.assertContains(page, f'value="{typed}"', status_code=422)

    def test_without_a_rating_it_cannot_say(self) -> None:
        haul = Haul.objects.get(name=CREW)
        del haul.document["trailer"]["gvwr"]
        haul.save()
        self.assertContains(self.look(CREW, "frame/"), "Cannot say: without the trailer")


class WhatIf(AspectCase):
    def test_other_outfits_facings_and_schools_side_by_side(self) -> None:
        hitch = Hitch.objects.get(truck__name="Old half-ton")
        trailer = Trailer.objects.get(name="20 ft equipment trailer")
        page = self.look(
            "Orchard tractor to the Quarry Lane block",
            "what-if/",
            v1_outfit=f"{hitch.pk}-{trailer.pk}",
            v2_turned="m1",
            v3_school="share_9_15",
            v3_best="1",
        )
        self.assertContains(page, '<h3 id="way-', count=4)
        self.assertContains(page, "it can jump off")
        self.assertContains(page, "Harrow 48 tractor with loader turned round")
        self.assertContains(page, "Arranged anew, wide school")
        self.assertEqual(150.0, self.reference())

    def test_a_way_that_lacks_figures_says_so(self) -> None:
        Truck.objects.filter(name="Old half-ton").update(front_axle_mass=None)
        hitch = Hitch.objects.get(truck__name="Old half-ton")
        trailer = Trailer.objects.get(name="14 ft tilt")
        page = self.look(
            "Orchard tractor to the Quarry Lane block",
            "what-if/",
            v1_outfit=f"{hitch.pk}-{trailer.pk}",
        )
        self.assertContains(page, "Old half-ton lacks front axle mass")

    def test_choices_that_are_not_there_change_nothing(self) -> None:
        page = self.look(CREW, "what-if/", v1_outfit="1-999", v1_school="none", v2_turned="zebra")
        self.assertContains(page, '<h3 id="way-', count=1)

    def test_an_imported_haul_compares_facings_and_schools(self) -> None:
        Haul.objects.create(yard=self.yard, name="Imported", document=EXAMPLE)
        page = self.look("Imported", "what-if/", v1_turned="tractor")
        self.assertEqual(200, page.status_code)


class AgainstTheScale(AspectCase):
    GOOD = "Orchard tractor to the Quarry Lane block"

    def test_planned_beside_read(self) -> None:
        page = self.look(self.GOOD, "scale/", steer="3920", drive="2140 kg", trailer="7,600")
        self.assertContains(page, ">as planned<", count=2)
        self.assertContains(page, "+ 479 lb")
        self.assertContains(page, "6.7 % more than planned")

    def test_a_practice_ticket_is_the_same_for_the_same_number(self) -> None:
        def ticket() -> list[str]:
            page = self.look(self.GOOD, "scale/", practice="7")
            self.assertContains(page, "practice=8")
            return re.findall(r'id="pad-\w+" name="\w+" value="([\d,]+ lb)"', page.content.decode())

        self.assertEqual(3, len(ticket()))
        self.assertEqual(ticket(), ticket())

    def test_what_is_no_mass_is_said_and_kept(self) -> None:
        page = self.look(self.GOOD, "scale/", steer="heavy")
        self.assertContains(page, "is not a mass", status_code=422)
        self.assertContains(page, 'value="heavy"', status_code=422)


class AllFigures(AspectCase):
    def test_every_figure_with_its_terms_as_text(self) -> None:
        page = self.look("Orchard tractor to the Quarry Lane block", "figures/")
        for words in ("Tongue weight", "Tongue share", "Truck rear axle", "Trailer axle 2"):
            self.assertContains(page, words)
        self.assertContains(page, "comes to: 1,129 lb")
        self.assertContains(page, "Copy all as text")

    def test_the_terms_of_an_axle_add_up(self) -> None:
        from hauls.reasons import reason
        from measures import UnitSystem
        from mechanics.report import evaluate
        from planfile.reading import read_document

        report = evaluate(read_document(self.haul.document))
        names = {i.id: i.name for i in report.plan.items}
        for code in ("figure.tongue", "figure.front", "figure.rear", "figure.trailer"):
            found = reason(code, report, names, UnitSystem.US)
            assert found is not None
            total = sum(_pounds(t.amount) for t in found.why.terms)
            with self.subTest(code=code):
                self.assertAlmostEqual(_pounds(found.why.total), total, delta=3)
        for code in ("figure.axle_9", "figure.place_7", "nothing.there", "figure.axle_x"):
            self.assertIsNone(reason(code, report, names, UnitSystem.US))


def _pounds(amount: str) -> float:
    sign = -1 if "−" in amount else 1
    return sign * float("".join(c for c in amount if c.isdigit()))


class NarrowingTheList(AspectCase):
    def cards(self, **query: Any) -> int:
        """How many hauls the list shows."""
        answer = self.client.get("/", query, headers={"HX-Request": "true"})
        return answer.content.decode().count("card-haul")

    def test_by_verdict_machine_trailer_and_day(self) -> None:
        plough = Machine.objects.get(name="Trench plough")
        pipe = Bulk.objects.get(name="Pallet of drain pipe")
        tilt = Trailer.objects.get(name="14 ft tilt")
        self.assertEqual(Haul.objects.filter(verdict="near").count(), self.cards(verdict="near"))
        self.assertEqual(3, self.cards(load=f"machine-{plough.pk}"))
        self.assertEqual(2, self.cards(load=f"bulk-{pipe.pk}"))
        self.assertEqual(4, self.cards(trailer=tilt.pk))
        today = timezone.localdate()
        self.assertEqual(12, self.cards(since=str(today - timedelta(days=1))))
        self.assertEqual(0, self.cards(since=str(today + timedelta(days=1))))
        self.assertEqual(1, self.cards(load=f"machine-{plough.pk}", verdict="near"))

    def test_boxes_that_make_no_sense_are_told_and_narrow_nothing(self) -> None:
        page = self.client.get("/", {"since": "2026-02-02", "until": "2026-01-01"})
        self.assertContains(page, "This day is before the first.")
        self.assertEqual(12, self.cards(verdict="zebra", trailer="x", load="machine-0"))

    def test_nothing_left_says_what_to_do(self) -> None:
        page = self.client.get("/", {"verdict": "ok", "since": "2099-01-01"})
        self.assertContains(page, "No haul is left.")

    def test_the_list_takes_the_same_queries_with_more_hauls(self) -> None:
        query = {"verdict": "over", "trailer": Trailer.objects.get(name="14 ft tilt").pk}
        with CaptureQueriesContext(connection) as before:
            self.client.get("/", query)
        Haul.objects.bulk_create(
            Haul(yard=self.yard, name=f"H {n}", document=EXAMPLE, verdict="over") for n in range(30)
        )
        with self.assertNumQueries(len(before)):
            self.client.get("/", query)


class OnTheTape(SimpleTestCase):
    def test_what_was_sure_stays_sure_on_its_mark(self) -> None:
        """An aim lies at an end of its window as often as not: rounded, it may not leave it."""
        moved = 0
        for seed in range(40):
            plan = random_plan(random.Random(seed), items=1 + seed % 3)
            for found in arrange(plan).found[:1]:
                report = evaluate(found.plan)
                sure = {i for i in range(len(plan.items)) if is_sure(report, i)}
                tidy = on_the_tape(found.plan)
                now = evaluate(tidy)
                self.assertEqual([], [c for c in now.checks if c.status is Status.OVER])
                self.assertLessEqual(sure, {i for i in range(len(plan.items)) if is_sure(now, i)})
                moved += tidy != found.plan
        self.assertGreater(moved, 10)

    def test_an_aim_at_the_end_of_the_sure_window_is_rounded_into_it(self) -> None:
        plan = example_plan()
        (piece,) = evaluate(plan).windows[0].sure
        item = plan.items[0]
        for end in (piece.start_m, piece.end_m):
            place = replace(item.placement, reference_m=end)
            tidy = on_the_tape(plan.with_placement(item.id, place))
            self.assertTrue(is_sure(evaluate(tidy), 0))
            self.assertAlmostEqual(0, (tidy.items[0].placement.reference_m / 0.0254 * 16) % 1)
