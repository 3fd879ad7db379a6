"""What an owner can read about: who came in, who may do what, what left."""

from __future__ import annotations

from datetime import timedelta

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from django.utils import timezone

from book.models import Machine, Removed
from hauls.tests.yard_case import YardCase
from yards.audit import KEPT, sweep
from yards.models import Event, Happened, Membership, Role, User, Yard


class Audit(YardCase):
    def told(self) -> list[tuple[str, str, str]]:
        """What is told, the oldest first, and forgotten."""
        found = [(e.what, e.name, e.about) for e in Event.objects.order_by("pk")]
        Event.objects.all().delete()
        return found

    def test_coming_in_and_not(self) -> None:
        User.objects.create_user("ida", password="long-enough-1", first_name="Ida")
        ida = User.objects.get(username="ida")
        for name in ("One", "Two"):
            Membership.objects.create(yard=Yard.objects.create(name=name), user=ida)
        guest = Client(REMOTE_ADDR="10.0.0.7")
        guest.post("/sign-in/", {"username": "ida", "password": "guess"})
        guest.post("/sign-in/", {"username": "my-password-by-mistake", "password": "x"})
        guest.post("/sign-in/", {"username": "ida", "password": "long-enough-1"})
        self.assertEqual({e.address for e in Event.objects.all()}, {"10.0.0.7"})
        # in each of the person's yards, and of nobody else
        self.assertEqual(
            self.told(),
            [("not_signed_in", "Ida", "")] * 2 + [("signed_in", "Ida", "")] * 2,
        )

    def test_people_and_what_they_may(self) -> None:
        member = Membership.objects.get(user__username="demo-driver")
        name, own = member.user.shown_name, self.user.shown_name
        self.client.post("/people/", {"for_whom": "Tam", "role": "driver"})
        self.client.post(f"/people/{member.pk}/role/", {"role": "planner"})
        self.client.post(f"/people/{member.pk}/password/")
        self.client.post(f"/people/{member.pk}/remove/")
        self.client.post("/people/yard/", {"name": "New name", "time_zone": "UTC"})
        self.assertEqual(
            self.told(),
            [
                ("invited", own, "Tam, driver"),
                ("role", own, f"{name}: planner"),
                ("password_link", own, name),
                ("taken_out", own, name),
                ("yard", own, "New name, UTC"),
            ],
        )

    def test_what_is_refused_did_not_happen(self) -> None:
        mine = Membership.objects.get(user=self.user)
        self.client.post(f"/people/{mine.pk}/role/", {"role": "driver"})
        self.client.post(f"/people/{mine.pk}/remove/")
        self.client.post("/people/yard/", {"name": ""})
        self.assertEqual(self.told(), [])

    def test_removals_and_files(self) -> None:
        machine = Machine.objects.first()
        self.client.post(f"/book/machines/{machine.pk}/remove/", {"version": machine.version})
        self.client.post(f"/book/removed/{Removed.objects.get().pk}/back/")
        self.client.get("/book/tables/machines.csv")
        self.client.get("/yard-file/out/")
        self.client.get(f"/hauls/{self.haul.pk}/plan.json")
        told = self.told()
        own = self.user.shown_name
        self.assertEqual(
            told,
            [
                ("removed", own, f"machine {machine.name}"),
                ("brought_back", own, f"machine {machine.name}"),
                ("written_out", own, "table of machines"),
                ("written_out", own, "the whole yard"),
                ("written_out", own, f"haul {self.haul.name}"),
            ],
        )

    def test_a_table_that_came_in(self) -> None:
        sent = {"file": SimpleUploadedFile("m.csv", b"name,shape\nNew,tractor\n")}
        tried = self.client.post("/book/tables/machines/", sent)
        self.assertEqual(self.told(), [])
        stamp = tried.context["outcome"].stamp
        self.client.post(
            "/book/tables/machines/", {"text": "name,shape\nNew,tractor\n", "stamp": stamp}
        )
        self.assertEqual(
            self.told(), [("taken_in", self.user.shown_name, "table of machines, 1 rows")]
        )

    def test_the_owner_reads_it_and_nobody_else(self) -> None:
        self.client.post("/people/", {"for_whom": "Tam <b>", "role": "driver"})
        page = self.client.get("/people/happened/")
        self.assertContains(page, "made a link to join: Tam &lt;b&gt;, driver")
        self.assertIn("no-store", page["Cache-Control"])
        for login, status in (("demo-planner", 403), ("demo-driver", 403)):
            self.client.force_login(User.objects.get(username=login))
            self.assertEqual(self.client.get("/people/happened/").status_code, status)
        other = User.objects.create_user("s")
        Membership.objects.create(
            yard=Yard.objects.create(name="Other"), user=other, role=Role.OWNER
        )
        self.client.force_login(other)
        self.assertContains(self.client.get("/people/happened/"), "Nothing yet.")

    def test_many_are_leafed_through_and_old_ones_swept(self) -> None:
        Event.objects.bulk_create(
            Event(yard=self.yard, what=Happened.ROLE, name="Ida") for _ in range(130)
        )
        self.assertContains(self.client.get("/people/happened/"), "1 to 100 of 130")
        self.assertContains(self.client.get("/people/happened/?page=2"), "101 to 130 of 130")
        Event.objects.filter(pk__lt=Event.objects.first().pk).update(
            at=timezone.now() - KEPT - timedelta(days=1)
        )
        sweep()
        self.assertEqual(Event.objects.count(), 1)
