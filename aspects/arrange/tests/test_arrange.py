"""The page of arrangements, and what it says."""

from __future__ import annotations

import re
from dataclasses import replace
from unittest import mock

from aspects.arrange.page import ways_to_load
from hauls.climbs import Climb
from hauls.models import Haul
from hauls.tests.yard_case import AspectCase
from measures import UnitSystem
from mechanics.arrange import DECK_LENGTH, Arranged, Arrangement
from mechanics.changes import Change, Kind
from mechanics.checks import Status
from planfile.draft import Draft

CREW = "Drain crew to the Long Drain"


HEAVY = "Compact loader on the tilt, in a hurry"


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

    def test_each_way_says_how_it_is_got_on_and_the_gentlest_of_equals_may_come_first(self) -> None:
        page = self.look(CREW, "arrange/")
        self.assertContains(page, "On and off: holds", count=4)
        gentle = self.look(CREW, "arrange/", asked=1, turn="1", beside="1", gentlest="1")
        self.assertContains(gentle, 'name="gentlest" value="1" checked')
        self.assertContains(gentle, "Stand them like this", count=4)

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
        from aspects.arrange.page import change_words
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
                "Go by the gooseneck, short of payload rule of share, 13–15 %",
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


class GentlestOfEquals(AspectCase):
    def test_only_equals_change_places(self) -> None:
        draft = Haul.objects.get(name=CREW).draft
        best = Arrangement(plan=draft.plan, least_reserve=0.2, sure=True)
        equal = replace(best, plan=draft.turned(0).plan, least_reserve=0.1999)
        less = replace(best, plan=draft.turned(1).plan, least_reserve=0.1)
        found = Arranged(found=(best, equal, less), always_over=(), proved=True)
        climbs = {
            False: Climb(status=Status.OVER, word="slides", hold=0.5),
            True: Climb(status=Status.OK, word="holds", hold=3.0),
        }

        def climb_of(one: Draft) -> Climb:
            turned = one.plan.items[0].placement.facing is not best.plan.items[0].placement.facing
            return climbs[turned or one.plan.items[1] != best.plan.items[1]]

        with mock.patch("aspects.arrange.page.climb_of", climb_of):
            usual = ways_to_load(found, draft, UnitSystem.US)
            gentle = ways_to_load(found, draft, UnitSystem.US, gentlest=True)
        self.assertEqual(["slides", "holds", "holds"], [way.climb.word for way in usual])
        self.assertEqual(["holds", "slides", "holds"], [way.climb.word for way in gentle])
