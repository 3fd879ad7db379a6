"""What is removed can be brought back: with all that went with it, under its old number."""

from __future__ import annotations

from datetime import timedelta
from io import StringIO
from typing import Any

from django.core.files.storage import default_storage
from django.core.management import call_command
from django.utils import timezone

from book.history import changes_of
from book.models import Configuration, Hitch, Machine, Removed, Ticket, Trailer, Truck
from book.services.photos import attach
from book.services.removal import KEPT, RemovalError, bring_back, names_kept, remove
from book.yardfile import dump_thing
from demo.plate import plate_photo
from hauls.models import Haul
from hauls.tests.yard_case import YardCase
from weighing.models import HaulTicket
from yards.models import Membership, Role, User, Yard


class BringingBack(YardCase):
    def everything(self) -> dict[str, object]:
        """All that hangs together in the yard, by its numbers."""
        return {
            "hauls": list(
                Haul.objects.order_by("pk").values(
                    "pk", "name", "truck", "hitch", "trailer", "document", "step"
                )
            ),
            "links": [
                list(haul.links.order_by("item_id").values("item_id", "machine", "configuration"))
                for haul in Haul.objects.order_by("pk")
            ],
            "tickets": list(Ticket.objects.order_by("pk").values()),
            "weighings": list(HaulTicket.objects.order_by("pk").values()),
            "book": [
                dump_thing(one)
                for model in (Truck, Trailer, Machine)
                for one in model.objects.order_by("pk")
            ],
            "parts": [
                sorted(c.parts.values_list("pk", flat=True))
                for c in Configuration.objects.order_by("pk")
            ],
        }

    def removed(self, row: Any, what: str = "thing") -> Removed:
        return remove(row, what=what, name=str(row), yard=self.yard, user=self.user)

    def test_every_thing_of_the_demo_yard_goes_and_comes_back_whole(self) -> None:
        for model in (Truck, Trailer, Machine):
            for pk in model.objects.values_list("pk", flat=True):
                row = model.objects.get(pk=pk)
                with self.subTest(row=str(row)):
                    before, history = self.everything(), len(changes_of(row))
                    removed = self.removed(row)
                    self.assertFalse(model.objects.filter(pk=pk).exists())
                    self.assertNotEqual(self.everything(), before)
                    bring_back(removed, user=self.user)
                    after = self.everything()
                    for part, found in before.items():
                        self.assertEqual(after[part], found, part)
                    self.assertGreaterEqual(len(changes_of(model.objects.get(pk=pk))), history)
                    self.assertFalse(Removed.objects.exists())

    def test_hauls_tickets_hitches_and_configurations(self) -> None:
        for row in (
            Haul.objects.get(pk=self.haul.pk),
            Ticket.objects.filter(loads__isnull=False).first() or Ticket.objects.first(),
            Hitch.objects.first(),
            Configuration.objects.filter(parts__isnull=False).first(),
        ):
            with self.subTest(row=type(row).__name__):
                before = self.everything()
                bring_back(self.removed(row), user=self.user)
                self.assertEqual(self.everything(), before)

    def test_photos_come_back_and_their_files_stay(self) -> None:
        machine = Machine.objects.first()
        photo = attach(machine, plate_photo(("X",)), caption="plate", user=self.user)
        removed = self.removed(machine)
        self.assertIn(photo.file.name, names_kept())
        call_command("sweep", stdout=StringIO())
        self.assertTrue(default_storage.exists(photo.file.name))
        bring_back(removed, user=self.user)
        self.assertEqual(self.client.get(f"/book/photos/{photo.pk}/").status_code, 200)

    def test_a_name_that_was_taken_in_between(self) -> None:
        machine = Machine.objects.first()
        removed = self.removed(machine)
        Machine.objects.create(yard=self.yard, name=machine.name)
        before = self.everything()
        with self.assertRaisesMessage(RemovalError, "Give that another name first"):
            bring_back(removed, user=self.user)
        self.assertEqual(self.everything(), before)
        self.assertTrue(Removed.objects.exists())

    def test_what_it_belonged_to_is_gone_too(self) -> None:
        """A machine on a haul that was removed as well comes back without the haul."""
        machine = self.haul.links.exclude(machine=None).first().machine
        pk = machine.pk
        first = self.removed(machine)
        second = self.removed(Haul.objects.get(pk=self.haul.pk))
        self.user.delete()
        bring_back(first, user=User.objects.get(username="demo-planner"))
        self.assertTrue(Machine.objects.filter(pk=pk).exists())
        bring_back(second, user=User.objects.get(username="demo-planner"))
        self.assertIsNone(Haul.objects.get(pk=self.haul.pk).changed_by)

    def test_a_link_that_was_made_anew_stays(self) -> None:
        trailer = self.haul.trailer
        removed = self.removed(trailer)
        other = Trailer.objects.first()
        Haul.objects.filter(pk=self.haul.pk).update(trailer=other)
        bring_back(removed, user=self.user)
        self.assertEqual(Haul.objects.get(pk=self.haul.pk).trailer, other)

    def test_thirty_days_later_it_is_gone_for_good(self) -> None:
        machine = Machine.objects.first()
        photo = attach(machine, plate_photo(("X",)), caption="", user=self.user)
        self.removed(machine)
        Removed.objects.update(removed_at=timezone.now() - KEPT - timedelta(hours=1))
        page = self.client.get("/book/removed/")
        self.assertNotContains(page, machine.name)
        call_command("sweep", stdout=StringIO())
        self.assertFalse(Removed.objects.exists())
        self.assertFalse(default_storage.exists(photo.file.name))


class Pages(YardCase):
    def test_removed_by_mistake_and_brought_back(self) -> None:
        machine = Machine.objects.first()
        sent = {"version": machine.version}
        page = self.client.post(f"/book/machines/{machine.pk}/remove/", sent, follow=True)
        self.assertContains(page, 'href="/book/removed/">Bring it back</a>')
        page = self.client.get("/book/removed/")
        self.assertContains(page, machine.name)
        removed = Removed.objects.get()
        page = self.client.post(f"/book/removed/{removed.pk}/back/", follow=True)
        self.assertContains(page, f"{machine.name} is back.")
        self.assertContains(page, "Nothing was removed lately.")
        self.assertEqual(self.client.get(f"/book/machines/{machine.pk}/").status_code, 200)

    def test_a_haul_and_a_ticket(self) -> None:
        ticket = Ticket.objects.first()
        for address in (f"/hauls/{self.haul.pk}/remove/", f"/book/tickets/{ticket.pk}/remove/"):
            self.assertContains(self.client.post(address, follow=True), "Bring it back")
        self.assertEqual({one.what for one in Removed.objects.all()}, {"haul", "ticket"})
        for one in Removed.objects.all():
            self.client.post(f"/book/removed/{one.pk}/back/")
        self.assertTrue(Haul.objects.filter(pk=self.haul.pk).exists())
        self.assertTrue(Ticket.objects.filter(pk=ticket.pk).exists())

    def test_what_cannot_be_brought_back_is_said(self) -> None:
        machine = Machine.objects.first()
        removed = remove(machine, what="machine", name=machine.name, yard=self.yard, user=self.user)
        Removed.objects.update(rows=[{"model": "book.cart", "pk": 1, "fields": {}}])
        page = self.client.post(f"/book/removed/{removed.pk}/back/", follow=True)
        self.assertContains(page, "was not brought back. It was removed by another version")

    def test_another_yard_does_not_see_it(self) -> None:
        machine = Machine.objects.first()
        removed = remove(machine, what="machine", name=machine.name, yard=self.yard, user=self.user)
        stranger = User.objects.create_user("s")
        Membership.objects.create(
            yard=Yard.objects.create(name="Other"), user=stranger, role=Role.OWNER
        )
        self.client.force_login(stranger)
        self.assertNotContains(self.client.get("/book/removed/"), machine.name)
        answer = self.client.post(f"/book/removed/{removed.pk}/back/")
        self.assertEqual(answer.status_code, 404)
