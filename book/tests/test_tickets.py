"""Scale tickets: recorded by anybody of the yard, changing no figure of the book."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.utils import timezone

from book.models import Machine, Ticket, Trailer
from hauls.tests.yard_case import YardCase
from yards.models import User


class Tickets(YardCase):
    def setUp(self) -> None:
        super().setUp()
        self.driver = User.objects.get(username="demo-driver")
        self.machine = Machine.objects.get(name="Trench plough")
        self.client.force_login(self.driver)

    def send(self, **fields: Any) -> Any:
        """A ticket as the page sends it."""
        data = {"weighed_on": "2026-03-04", "whole_mass": "1,540", **fields}
        return self.client.post(
            f"/book/machines/{self.machine.pk}/tickets/",
            {f"ticket-{name}": value for name, value in data.items()},
        )

    def test_a_driver_records_a_weighing_and_no_rating_changes(self) -> None:
        before = Machine.objects.filter(pk=self.machine.pk).values().get()
        answer = self.send(whole_mass="700 kg", place="Mill", number="7", aboard="nobody")
        self.assertRedirects(answer, f"/book/machines/{self.machine.pk}/")
        ticket = Ticket.objects.get(number="7")
        self.assertEqual(str(ticket.whole_mass), "700 kg")
        self.assertEqual((ticket.added_by, ticket.yard), (self.driver, self.yard))
        self.assertEqual(Machine.objects.filter(pk=self.machine.pk).values().get(), before)
        page = self.client.get(f"/book/machines/{self.machine.pk}/")
        self.assertNotContains(page, "with Trench plough")
        trailer = Trailer.objects.get(name="20 ft equipment trailer")
        weighed = self.client.get(f"/book/trailers/{trailer.pk}/")
        self.assertContains(weighed, "with Trench plough")
        self.assertContains(weighed, f"All {trailer.tickets.count()}, over time")
        for words in ("04 Mar 2026", "700 kg", "Mill, no. 7", "aboard: nobody", "Jo Marsh"):
            self.assertContains(page, words)

    def test_bad_tickets_say_what_is_wrong_and_keep_what_was_typed(self) -> None:
        later = timezone.localdate() + timedelta(days=3)
        count = Ticket.objects.count()
        for fields, words in (
            ({"weighed_on": later.isoformat()}, "This date is still to come"),
            ({"weighed_on": "yesterday"}, "Enter a valid date"),
            ({"whole_mass": ""}, "Give at least one reading"),
            ({"whole_mass": "heavy"}, "is not a mass"),
            (
                {"whole_mass": "5000", "front_axle_mass": "2000", "rear_axle_mass": "2000"},
                "Front and rear together are not the whole",
            ),
        ):
            with self.subTest(words=words):
                answer = self.send(place="Mill Ponds", **fields)
                self.assertContains(answer, words, status_code=422)
                self.assertContains(answer, 'value="Mill Ponds"', status_code=422)
        self.assertEqual(Ticket.objects.count(), count)

    def test_a_driver_removes_only_what_the_driver_recorded(self) -> None:
        self.send(number="mine")
        mine = Ticket.objects.get(number="mine")
        theirs = Ticket.objects.create(
            yard=self.yard, thing=self.machine, weighed_on="2026-01-02", added_by=self.user
        )
        self.assertEqual(self.client.post(f"/book/tickets/{theirs.pk}/remove/").status_code, 403)
        self.client.post(f"/book/tickets/{mine.pk}/remove/")
        self.assertFalse(Ticket.objects.filter(pk=mine.pk).exists())
        self.client.force_login(self.user)
        self.client.post(f"/book/tickets/{theirs.pk}/remove/")
        self.assertFalse(Ticket.objects.filter(pk=theirs.pk).exists())

    def test_another_yard_and_things_that_are_not_weighed(self) -> None:
        self.assertEqual(self.client.post("/book/bulk/1/tickets/").status_code, 404)
        self.client.force_login(self.stranger)
        self.assertEqual(self.send().status_code, 404)
        ticket = Ticket.objects.filter(yard=self.yard).first()
        assert ticket is not None
        self.assertEqual(self.client.post(f"/book/tickets/{ticket.pk}/remove/").status_code, 404)
