"""Moving things between two yards of one owner."""

from __future__ import annotations

from datetime import date
from typing import Any

from django.contrib.contenttypes.models import ContentType

from book.history import changes_of, keep, recorded
from book.models import HitchLink, HitchPart, Machine, Removed, Ticket, Trailer, Truck
from book.owners import yard_of
from book.services.moving import MoveError, luggage, move_thing, why_not
from book.services.removal import bring_back, remove_together
from day.models import Stay
from hauls.models import Haul, HaulStep
from hauls.tests.yard_case import YardCase
from road.models import Defect, Inspection
from yards.models import Membership, Role, Yard


class Moving(YardCase):
    def setUp(self) -> None:
        super().setUp()
        self.other = Yard.objects.create(name="Lower yard")
        Membership.objects.create(yard=self.other, user=self.user, role=Role.OWNER)
        self.done(Haul.objects.filter(yard=self.yard))

    def done(self, hauls: Any) -> None:
        hauls.update(state=Haul.State.BACK)

    def move(self, thing: Any) -> Any:
        return move_thing(thing, self.other, version=str(thing.version), user=self.user)

    def assert_apart(self) -> None:
        """Nothing of either yard points into the other."""
        for haul in Haul.objects.all():
            for name in ("truck", "hitch", "trailer"):
                one = getattr(haul, name)
                self.assertIn(None if one is None else yard_of(one), (None, haul.yard_id))
            for link in haul.links.all():
                of = link.machine or link.bulk
                self.assertEqual(of.yard_id, haul.yard_id)  # type: ignore[union-attr]
        for link in HitchLink.objects.select_related("hitch__truck", "part"):
            self.assertEqual(link.hitch.truck.yard_id, link.part.yard_id)
        for model in (Defect, Inspection):
            for row in model.objects.all():
                self.assertEqual(row.yard_id, row.thing.yard_id)
        for ticket in Ticket.objects.all():
            self.assertEqual(ticket.yard_id, ticket.thing.yard_id)

    def test_a_trailer_goes_with_its_axles_history_tickets_and_defects(self) -> None:
        trailer = Trailer.objects.get(yard=self.yard, name="12 ft dump trailer")
        trailer.notes = "Painted"
        with recorded(yard=self.yard, user=self.user, why="Painted anew"):
            trailer.save()
            keep(trailer)
        Ticket.objects.create(
            yard=self.yard,
            content_type=ContentType.objects.get_for_model(Trailer),
            object_id=trailer.pk,
            weighed_on=date(2026, 1, 2),
        )
        axles, hauls = trailer.axles.count(), Haul.objects.filter(trailer=trailer).count()
        self.assertGreater(hauls, 0)
        before = Haul.objects.filter(trailer=trailer).values_list("pk", "document")[0]
        packed = self.move(trailer)
        trailer.refresh_from_db()
        self.assertEqual((trailer.yard, trailer.axles.count()), (self.other, axles))
        self.assertTrue(Defect.objects.filter(trailer=trailer, yard=self.other).exists())
        self.assertIn("1 ticket", packed.goes)
        said = [change.why for change in changes_of(trailer)]
        self.assertIn("Painted anew", said)
        # the haul stays and keeps its plan
        haul = Haul.objects.get(pk=before[0])
        self.assertEqual((haul.yard, haul.trailer, haul.document), (self.yard, None, before[1]))
        self.assertFalse(HaulStep.objects.filter(trailer=trailer).exists())
        self.assert_apart()

    def test_a_truck_takes_its_own_parts_and_copies_what_others_use(self) -> None:
        truck = Truck.objects.get(yard=self.yard, name="Work truck 3")
        theirs = Truck.objects.get(yard=self.yard, name="Gooseneck truck")
        links = HitchLink.objects.filter(hitch__truck=truck).select_related("part")
        own, shared = links[0].part, HitchPart.objects.create(yard=self.yard, name="Lent ball")
        for one in (truck, theirs):
            HitchLink.objects.create(hitch=one.hitches.first(), part=shared)
        only_here = not HitchLink.objects.filter(part=own).exclude(hitch__truck=truck).exists()
        self.move(truck)
        copied = HitchPart.objects.get(yard=self.other, name="Lent ball")
        self.assertNotEqual(copied.pk, shared.pk)
        own.refresh_from_db()
        self.assertEqual(own.yard == self.other, only_here)
        self.assert_apart()

    def test_a_machine_leaves_its_hauls_and_stays(self) -> None:
        machine = Machine.objects.get(yard=self.yard, name="Burrow 17 excavator")
        self.assertTrue(Stay.objects.filter(machine=machine).exists())
        packed = self.move(machine)
        self.assertFalse(Stay.objects.filter(machine=machine).exists())
        self.assertTrue(any("stay" in words for words in packed.lost))
        self.assert_apart()

    def test_what_is_needed_or_called_alike_stays(self) -> None:
        Haul.objects.filter(pk=self.haul.pk).update(state=Haul.State.PLANNED)
        self.haul.refresh_from_db()
        trailer = self.haul.trailer
        assert trailer is not None
        with self.assertRaisesMessage(MoveError, "still to be done"):
            self.move(trailer)
        self.done(Haul.objects.all())
        Trailer.objects.create(yard=self.other, name=trailer.name)
        self.assertIn("called", why_not(trailer, self.other))
        trailer.refresh_from_db()
        self.assertEqual(trailer.yard, self.yard)

    def test_what_was_removed_before_comes_back_without_what_has_moved(self) -> None:
        haul = Haul.objects.filter(yard=self.yard, trailer__name="12 ft dump trailer")[0]
        trailer = haul.trailer
        remove_together([haul], what="haul", name=haul.name, yard=self.yard, user=self.user)
        assert trailer is not None
        trailer.refresh_from_db()
        self.move(trailer)
        bring_back(Removed.objects.latest("pk"), user=self.user)
        self.assertIsNone(Haul.objects.get(name=haul.name).trailer)
        self.assert_apart()

    def test_by_the_page(self) -> None:
        trailer = Trailer.objects.get(yard=self.yard, name="12 ft dump trailer")
        self.assertContains(
            self.client.get(f"/book/trailers/{trailer.pk}/"), "Move to another yard"
        )
        address = f"/book/trailers/{trailer.pk}/move/"
        page = self.client.get(address)
        self.assertContains(page, "Move it to Lower yard")
        self.assertContains(page, "Goes along")
        answer = self.client.post(address, {"yard": self.other.pk, "version": "99"})
        self.assertContains(answer, "Nothing was moved", status_code=409)
        answer = self.client.post(address, {"yard": "x", "version": trailer.version})
        self.assertContains(answer, "Choose one", status_code=409)
        self.client.post(address, {"yard": self.other.pk, "version": trailer.version})
        trailer.refresh_from_db()
        self.assertEqual(trailer.yard, self.other)
        self.assertEqual(self.client.get(address).status_code, 404)

    def test_only_an_owner_of_both(self) -> None:
        trailer = Trailer.objects.get(yard=self.yard, name="12 ft dump trailer")
        address = f"/book/trailers/{trailer.pk}/move/"
        Membership.objects.filter(yard=self.other).update(role=Role.PLANNER)
        self.assertEqual(self.client.get(address).status_code, 404)
        self.client.force_login(self.stranger)
        self.assertEqual(self.client.post(address, {"yard": self.other.pk}).status_code, 403)
        self.assertEqual(luggage(trailer).lost, [])
