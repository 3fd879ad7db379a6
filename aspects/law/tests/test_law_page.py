"""Law and room: what triggers a flag on this haul, a yard's own flags, how far it needs to stop."""

from __future__ import annotations

from typing import Any

from demo.login import DRIVER
from hauls.models import Haul
from hauls.outlined import highest_m, on_the_road, widest_m
from hauls.road_rules import RoadRules
from hauls.tests.yard_case import YardCase
from mechanics.law import CANADA, EU, UK, US, Fact
from mechanics.report import evaluate
from wording.law import FACTS, LAWS, WORDS
from yards.models import User, Yard


class Words(YardCase):
    def test_every_rule_and_fact_has_its_words(self) -> None:
        codes = {rule.code for rule in (*US, *CANADA, *EU, *UK)}
        self.assertEqual(codes, set(WORDS))
        self.assertEqual(set(FACTS), set(Fact))
        for words in WORDS.values():
            self.assertNotRegex(words.lower(), r"\b(you may|allowed to|legal to)\b")


class Page(YardCase):
    def page(self, query: str = "", haul: Haul | None = None) -> Any:
        return self.client.get(f"/hauls/{(haul or self.haul).pk}/law/{query}")

    def test_flags_say_what_triggers_them_here(self) -> None:
        page = self.page()
        self.assertContains(page, "Check your local rule.")
        self.assertContains(page, "United States, federal")
        raised = {flag.words: flag for flag in page.context["raised"]}
        commercial = next(flag for words, flag in raised.items() if "Commercial vehicle" in words)
        self.assertIn("from 10,001 lb", commercial.triggers[0])
        self.assertIn("49 CFR 390.5", commercial.source)
        self.assertContains(page, "as of 2025, from memory")

    def test_every_set_opens_in_both_units(self) -> None:
        for units in ("us", "metric"):
            User.objects.filter(pk=self.user.pk).update(units=units)
            for key, law in LAWS.items():
                self.assertContains(self.page(f"?set={key}"), law.name)
        self.assertEqual(self.page("?set=²").context["law"], "eu")
        Yard.objects.filter(pk=self.yard.pk).update(road=RoadRules(law="uk").own())
        self.assertEqual(self.page().context["law"], "uk")

    def test_every_haul_of_the_yard_opens(self) -> None:
        for haul in Haul.objects.all():
            self.assertEqual(self.page(haul=haul).status_code, 200, haul.name)

    def test_how_far_it_needs_to_stop(self) -> None:
        rows = self.page().context["rows"]
        speeds = [row.speed for row in rows]
        self.assertEqual(speeds, ["25 mph", "35 mph", "45 mph", "55 mph", "65 mph"])
        for row in rows:
            alone, level, down = (
                int(words.split()[0].replace(",", ""))
                for words in (row.alone, row.loaded, row.down)
            )
            self.assertTrue(alone <= level < down)
        trailer = self.haul.trailer
        assert trailer is not None
        trailer.axles.update(brake="")
        unsaid = self.page()
        self.assertContains(unsaid, "cannot be said")
        self.assertEqual(unsaid.context["rows"], [])

    def test_what_the_law_looks_at_is_the_outfits_own(self) -> None:
        report = evaluate(self.haul.draft.plan)
        outfit = on_the_road(self.haul, report)
        self.assertEqual(outfit.trailer_plate_kg, report.plan.trailer.gvwr_kg)
        self.assertTrue(outfit.braked)
        item = report.plan.items[0]
        assert item.width_m is not None
        widest = widest_m(report.plan)
        assert widest is not None
        self.assertGreaterEqual(widest, item.width_m)
        deck, high = report.plan.trailer.deck.height_m, highest_m(report.plan)
        assert deck is not None
        assert high is not None
        assert item.height_m is not None
        self.assertAlmostEqual(high, deck + item.height_m)


class OwnFlags(YardCase):
    def send(self, was: str | None = None, **boxes: str) -> Any:
        page = self.client.get(f"/hauls/{self.haul.pk}/law/")
        told = {
            "words": "Escort in our county",
            "fact": "width",
            "limit": "6 ft",
            "source": "county road office",
            "as_of": "March 2026",
            "was": page.context["was"] if was is None else was,
            **boxes,
        }
        return self.client.post(f"/hauls/{self.haul.pk}/law/own/", told)

    def test_added_raised_and_removed(self) -> None:
        self.assertEqual(self.send().status_code, 302)
        page = self.client.get(f"/hauls/{self.haul.pk}/law/")
        self.assertContains(page, "Escort in our county")
        self.assertContains(page, "county road office, as of March 2026")
        own = next(flag for flag in page.context["raised"] if flag.own)
        self.assertIn("from 6 ft", own.triggers[0])
        self.client.post(
            f"/hauls/{self.haul.pk}/law/own/remove/", {"flag": "1", "was": page.context["was"]}
        )
        self.assertEqual(RoadRules.of(Yard.objects.get(pk=self.yard.pk)).own_flags, ())

    def test_a_limit_that_cannot_be_read_is_said_and_not_left_out(self) -> None:
        self.send()
        yard = Yard.objects.get(pk=self.yard.pk)
        for at, strange in ((1, "girth"), (2, "wide")):
            flag = list(RoadRules.of(yard).own_flags[0])
            flag[at] = strange
            Yard.objects.filter(pk=yard.pk).update(road={"own_flags": [flag]})
            page = self.client.get(f"/hauls/{self.haul.pk}/law/")
            (own,) = (flag for flag in page.context["unknown"] if flag.own)
            self.assertIn("cannot be read", own.triggers[0])

    def test_what_cannot_be_a_limit_is_refused_and_kept_in_its_box(self) -> None:
        for box, value, words in (
            ("limit", "wide", "is not a length"),
            ("limit", "0 in", "more than zero"),
            ("fact", "unbraked", "Select a valid choice"),
            ("source", "", "required"),
        ):
            answer = self.send(**{box: value})
            self.assertContains(answer, words, status_code=422)
            self.assertContains(answer, "Escort in our county", status_code=422)
        behind = self.send(was="long ago")
        self.assertContains(behind, "Somebody else changed", status_code=422)

    def test_drivers_look_and_change_nothing(self) -> None:
        self.client.force_login(User.objects.get(username=DRIVER))
        page = self.client.get(f"/hauls/{self.haul.pk}/law/")
        self.assertNotContains(page, "Add a flag of our own")
        self.assertEqual(
            self.client.post(f"/hauls/{self.haul.pk}/law/own/", {"was": ""}).status_code, 403
        )
