"""One search over everything of a yard, and of no other."""

from __future__ import annotations

from typing import Any

from django.test import SimpleTestCase

from book.models import Machine, Ticket
from finding.results import found
from hauls.tests.yard_case import YardCase
from yards.models import Yard


class Search(YardCase):
    def titles(self, typed: str) -> dict[str, list[str]]:
        return {g.title: [h.name for h in g.hits] for g in found(self.yard, typed)}

    def test_a_word_finds_hauls_things_and_tickets(self) -> None:
        Ticket.objects.create(yard=self.yard, weighed_on="2026-05-04", place="Harrow Lane scale")
        got = self.titles("harrow")
        self.assertIn("Orchard tractor to the Quarry Lane block", got["Hauls"])
        self.assertIn("Harrow 48 tractor with loader", got["Machines"])
        self.assertIn("04 May 2026", got["Tickets"])

    def test_every_word_has_to_stand_there(self) -> None:
        self.assertEqual(
            self.titles("orchard quarry")["Hauls"], [self.titles("quarry")["Hauls"][0]]
        )
        self.assertEqual(self.titles("orchard nowhere"), {})
        self.assertEqual(self.titles("   "), {})

    def test_many_are_cut_and_said(self) -> None:
        Machine.objects.bulk_create(
            Machine(yard=self.yard, name=f"Spade {n}", mass="30 lb") for n in range(20)
        )
        (group,) = [g for g in found(self.yard, "spade") if g.title == "Machines"]
        self.assertEqual((len(group.hits), group.more), (12, True))

    def test_the_page_and_its_part(self) -> None:
        page = self.client.get("/search/", {"q": "tilt"})
        self.assertContains(page, "14 ft tilt")
        part = self.client.get("/search/", {"q": "nothing such"}, headers={"HX-Request": "true"})
        self.assertContains(part, "Nothing with “nothing such” in it.")
        self.assertNotContains(part, "<html")
        for odd in ("²", "%", "_", "\x00", "'" * 500, "🚜"):
            self.assertEqual(self.client.get("/search/", {"q": odd}).status_code, 200)

    def test_another_yard_finds_nothing_of_it(self) -> None:
        self.assertEqual(found(Yard.objects.create(name="Other"), "harrow"), [])


class Nothing(SimpleTestCase):
    def test_no_words_ask_for_nothing(self) -> None:
        nobody: Any = None
        self.assertEqual(found(nobody, "  "), [])
