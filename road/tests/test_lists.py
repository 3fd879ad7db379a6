"""Lists of an outfit: from its own parts, as the yard wants them, by two people, by the weather."""

from __future__ import annotations

from datetime import date
from typing import Any

from demo.login import DRIVER
from hauls.road_rules import ListRules, RoadRules
from hauls.tests.yard_case import YardCase
from measures import Quantity, UnitSystem
from road.lists import RoadList, lists_of, stop_words
from road.models import Inspection, Step
from yards.models import User, Yard

TODAY = date(2026, 11, 27)


class ListCase(YardCase):
    def list(self, step: Step, unit: UnitSystem = UnitSystem.US) -> RoadList:
        self.haul.yard.refresh_from_db()
        return next(one for one in lists_of(self.haul, unit, TODAY) if one.step == step.value)

    def words(self, step: Step, unit: UnitSystem = UnitSystem.US) -> str:
        return "\n".join(f"{line.words} {line.detail}" for line in self.list(step, unit).every)

    def rules(self, **more: Any) -> None:
        """Rules of the yard that are otherwise than usual."""
        Yard.objects.filter(pk=self.yard.pk).update(road=RoadRules(**more).own())

    def tick(self, words: str, who: User, box: str = "tick") -> Any:
        every = (line for one in lists_of(self.haul, UnitSystem.US, TODAY) for line in one.every)
        line = next(line for line in every if line.words == words)
        self.client.force_login(who)
        return self.client.post(f"/hauls/{self.haul.pk}/road/tick/", {box: line.key})


class OfTheOutfit(ListCase):
    def test_figures_of_this_trailer_stand_on_it(self) -> None:
        self.assertIn("2 5/16 in read on ball and coupler", self.words(Step.HOOK_UP))
        walk = self.words(Step.WALK_ROUND)
        self.assertIn("80 psi on the plate", walk)
        self.assertIn("7 years old: look for fine cracks", walk)
        self.assertIn(
            "552 kPa (80 psi) on the plate", self.words(Step.WALK_ROUND, UnitSystem.METRIC)
        )
        self.assertIn("Stands", self.list(Step.WALK_ROUND).note)
        trailer = self.haul.trailer
        assert trailer is not None
        trailer.tire_pressure, trailer.tires_made = None, ""
        walk = self.words(Step.WALK_ROUND)
        self.assertIn("pressure not in the book", walk)
        self.assertIn("week and year on the sidewall; not in the book", walk)

    def test_old_tires_are_said(self) -> None:
        trailer = self.haul.trailer
        assert trailer is not None
        trailer.tires_made = "0112"
        self.assertIn("14 years old: not to be driven on from 10", self.words(Step.WALK_ROUND))
        trailer.tires_made = "4025"
        self.assertNotIn("Age of the tires", self.words(Step.WALK_ROUND))

    def test_what_was_to_be_inspected_is_looked_at(self) -> None:
        Inspection.objects.create(
            yard=self.yard, trailer=self.haul.trailer, what="Brake shoes", every_days=90
        )
        self.assertIn("Brake shoes inspection due", self.words(Step.WALK_ROUND))

    def test_weather_adds_lines_and_another_takes_them_away(self) -> None:
        address = f"/hauls/{self.haul.pk}/road/weather/"
        self.assertEqual(self.client.post(address, {"weather": "frost"}).status_code, 302)
        before = self.words(Step.WALK_ROUND)
        self.assertIn("Every wheel turns", before)
        self.client.post(address, {"weather": "wet"})
        self.assertIn("Mud off deck", self.words(Step.WALK_ROUND))
        self.assertNotIn("Every wheel turns", self.words(Step.WALK_ROUND))
        self.assertEqual(self.client.post(address, {"weather": "²"}).status_code, 422)


class OfTheYard(ListCase):
    def test_lines_left_out_reworded_and_added(self) -> None:
        self.rules(
            lists={
                "hook_up": ListRules(
                    left_out=("chocks",),
                    reworded=(("plug", "Seven-pin plug, turned home"),),
                    own=("Gate of the yard shut behind us",),
                ),
                "first_stop": ListRules(own=("Call the yard",)),
                "load": ListRules(own=("Key to the office",)),
            }
        )
        words = self.words(Step.HOOK_UP)
        self.assertNotIn("Chocks", words)
        self.assertIn("Seven-pin plug, turned home", words)
        self.assertIn("Gate of the yard shut behind us", words)
        self.assertIn("Call the yard", self.words(Step.FIRST_STOP))
        self.assertIn("Key to the office", self.words(Step.LOAD))
        self.assertContains(self.client.get(f"/hauls/{self.haul.pk}/road/"), "Seven-pin plug")

    def test_edited_on_the_page_and_kept(self) -> None:
        page = self.client.get("/road/rules/")
        boxes = {
            bound.html_name: "on" if bound.value() is True else bound.value() or ""
            for bound in page.context["form"]
            if bound.value() is not False
        }
        boxes |= {
            "was": page.context["was"],
            "own-walk_round": "Horn\nMud flaps",
            "say-hubs": "Hubs by hand",
        }
        boxes.pop("keep-spare")
        sent = {**boxes, "first_way": "60 km", "later_way": "150 mi", "two_people": "on"}
        self.assertEqual(self.client.post("/road/rules/", sent).status_code, 302)
        rules = RoadRules.of(Yard.objects.get(pk=self.yard.pk))
        self.assertTrue(rules.two_people)
        self.assertEqual(rules.of_list("walk_round").own, ("Horn", "Mud flaps"))
        self.assertEqual(rules.of_list("walk_round").left_out, ("spare",))
        self.assertEqual(
            stop_words(rules, UnitSystem.METRIC)[:30], "First after 20 minutes or 60 k"
        )
        walk = self.words(Step.WALK_ROUND)
        self.assertIn("Hubs by hand", walk)
        self.assertNotIn("Spare", walk)
        # the same page once more is behind by now, and keeps what was typed
        late = self.client.post("/road/rules/", {**sent, "own-load": "Late line"})
        self.assertContains(late, "Somebody else changed the rules", status_code=409)
        self.assertContains(late, "Late line", status_code=409)
        wrong = self.client.post("/road/rules/", {**sent, "first_minutes": "soon"})
        self.assertContains(wrong, "Not kept yet", status_code=422)

    def test_too_many_or_too_long_lines_are_refused(self) -> None:
        page = self.client.get("/road/rules/")
        base = {"was": page.context["was"], "first_minutes": "20", "later_hours": "3"}
        base |= {"first_way": "50", "later_way": "150"}
        many = self.client.post("/road/rules/", {**base, "own-load": "\n".join("x" * 60)})
        self.assertContains(many, "No more than 40 lines", status_code=422)
        long = self.client.post("/road/rules/", {**base, "own-load": "x" * 200})
        self.assertContains(long, "no more than 160 characters", status_code=422)

    def test_rules_that_cannot_be_read_are_as_usual(self) -> None:
        usual = RoadRules()
        for kept in (
            {"first_minutes": "soon", "later_hours": -3, "lists": [1], "own_flags": 3},
            {"first_way": "50 lb", "later_way": "x", "two_people": "yes", "lists": {"load": 7}},
            {"first_way": "NaN mi", "first_minutes": True, "own_flags": [[1, 2]]},
        ):
            self.assertEqual(RoadRules.read(kept), usual, kept)
        own = RoadRules(first_way=Quantity.parse("60 km"), law="uk", two_people=True)
        self.assertEqual(RoadRules.read(own.own()), own)


class ByTwo(ListCase):
    def test_a_second_person_has_to_look_where_the_yard_wants_it(self) -> None:
        self.rules(two_people=True)
        driver = User.objects.get(username=DRIVER)
        for _ in range(2):
            self.assertEqual(self.tick("Plug in", driver).status_code, 302)
        self.assertFalse(self.plug().done)
        self.assertIn("one more person", self.plug().wants)
        page = self.client.get(f"/hauls/{self.haul.pk}/road/")
        self.assertContains(page, "one more person has to look")
        self.tick("Plug in", self.user)
        self.assertTrue(self.plug().done)
        self.assertEqual(self.plug().by, "Jo Marsh, Ida Fern")
        self.tick("Plug in", self.user, "untick")
        self.assertFalse(self.plug().done)
        self.assertEqual(self.plug().by, "Jo Marsh")

    def test_one_is_enough_as_a_rule(self) -> None:
        self.tick("Plug in", self.user)
        self.assertTrue(self.plug().done)
        self.assertEqual(self.list(Step.HOOK_UP).left, len(self.list(Step.HOOK_UP).lines) - 1)
        self.assertEqual(
            self.client.post(f"/hauls/{self.haul.pk}/road/tick/", {"tick": "none"}).status_code, 409
        )

    def plug(self) -> Any:
        return next(line for line in self.list(Step.HOOK_UP).lines if line.words == "Plug in")
