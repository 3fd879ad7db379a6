"""All of a long list can be reached, a page at a time."""

from __future__ import annotations

from book.listing import SHOWN
from book.models import Machine
from hauls.tests.yard_case import YardCase


class Pages(YardCase):
    def test_every_machine_stands_on_some_page(self) -> None:
        Machine.objects.bulk_create(
            Machine(yard=self.yard, name=f"Spade {n:03}", mass="30 lb") for n in range(95)
        )
        there = set(Machine.objects.filter(yard=self.yard).values_list("name", flat=True))
        seen: set[str] = set()
        for page in (1, 2, 3):
            answer = self.client.get("/book/", {"machines": page})
            (machines,) = [one for one in answer.context["lists"] if one.kind.slug == "machines"]
            names = {row.name for row in machines.rows}
            self.assertFalse(names & seen)
            self.assertLessEqual(len(names), SHOWN)
            seen |= names
            self.assertContains(answer, f"{machines.begin} to {machines.end} of {len(there)}")
        self.assertEqual(seen, there)
        self.assertEqual(machines.after, 0)

    def test_a_page_that_there_is_none_of_is_the_last(self) -> None:
        for odd in ("99", "0", "-3", "²", "x", "9" * 30):
            answer = self.client.get("/book/", {"machines": odd})
            (machines,) = [one for one in answer.context["lists"] if one.kind.slug == "machines"]
            self.assertTrue(machines.rows, odd)
