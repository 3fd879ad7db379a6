"""Planning with gaps: all of them at once, each with its page, which comes back."""

from __future__ import annotations

from typing import Any
from urllib.parse import parse_qs, urlsplit

from django.test import TestCase
from django.urls import reverse

from book.models import Hitch, Machine, Trailer, Truck
from hauls.models import Haul
from hauls.tests.yard_case import YardCase
from yards.models import Membership, Role, User, Yard


class Wanting(YardCase):
    def choice(self, **more: Any) -> dict[str, Any]:
        """A new haul of the demo yard with gaps in trailer and machine."""
        trailer = Trailer.objects.get(name="20 ft equipment trailer")
        machine = Machine.objects.get(name="Kestrel T6 compact loader")
        Trailer.objects.filter(pk=trailer.pk).update(empty_tongue_mass=None, gvwr=None)
        Machine.objects.filter(pk=machine.pk).update(reach_front=None)
        hitch = Hitch.objects.get(truck__name="Work truck 3", name="Receiver")
        return {
            "name": "Loader to the ford",
            "hitch": hitch.pk,
            "trailer": trailer.pk,
            "load_1": f"machine-{machine.pk}",
            **more,
        }

    def test_all_that_is_wanting_is_listed_at_once(self) -> None:
        page = self.client.post("/hauls/new/", self.choice())
        found = {one.name: one for one in page.context["wanting"]}
        self.assertEqual(set(found), {"20 ft equipment trailer", "Kestrel T6 compact loader"})
        trailer = found["20 ft equipment trailer"]
        self.assertEqual(trailer.stops, ())
        self.assertEqual([gap.words for gap in trailer.estimated], ["empty tongue weight"])
        self.assertRegex(trailer.estimated[0].estimate, r"^\d+ to \d+ lb$")
        self.assertEqual(found["Kestrel T6 compact loader"].stops, ("reach ahead",))
        self.assertIn("GVWR", [gap.words for gap in found["20 ft equipment trailer"].others])
        self.assertContains(page, "no plan can be made without it")
        self.assertFalse(Haul.objects.filter(name="Loader to the ford").exists())

    def test_with_nothing_but_estimates_wanting_they_are_agreed_to(self) -> None:
        choice = self.choice()
        Machine.objects.filter(name="Kestrel T6 compact loader").update(reach_front="60 in")
        page = self.client.post("/hauls/new/", choice)
        self.assertContains(page, "some figures would be estimates")
        self.assertContains(page, "with the estimates")
        self.assertFalse(Haul.objects.filter(name="Loader to the ford").exists())
        self.client.post("/hauls/new/", choice | {"estimates": "yes"})
        haul = Haul.objects.get(name="Loader to the ford")
        self.assertEqual(haul.document["trailer"]["estimates"], ["empty_tongue_mass"])
        self.assertGreater(haul.document["trailer"]["empty_tongue_mass_tolerance"], 50)

    def test_what_is_usual_of_every_truck_need_not_be_agreed_to(self) -> None:
        choice = self.choice()
        Trailer.objects.update(empty_tongue_mass="380 lb", gvwr="10000 lb", track_width=None)
        Machine.objects.filter(name="Kestrel T6 compact loader").update(reach_front="60 in")
        Truck.objects.update(empty_from="sticker", front_axle_mass=None, rear_axle_mass=None)
        self.client.post("/hauls/new/", choice)
        haul = Haul.objects.get(name="Loader to the ford")
        self.assertEqual(haul.document["truck"]["estimates"], ["front_share"])
        self.assertEqual(haul.document["trailer"]["estimates"], ["track_width"])

    def test_no_estimate_stands_in_for_what_stops_a_plan(self) -> None:
        page = self.client.post("/hauls/new/", self.choice(estimates="yes"))
        self.assertContains(page, "no plan can be made without it")
        self.assertNotContains(page, "with the estimates")

    def test_the_way_back_keeps_what_was_chosen(self) -> None:
        page = self.client.post("/hauls/new/", self.choice())
        one = page.context["wanting"][0]
        back = parse_qs(urlsplit(one.address).query)["back"][0]
        again = self.client.get(back)
        self.assertContains(again, 'value="Loader to the ford"')
        self.assertContains(again, " selected>20 ft equipment trailer")
        book = self.client.get(one.address)
        self.assertEqual(book.context["back"], back)
        self.assertContains(book, "Leave without saving")

    def test_only_a_page_of_ours_is_come_back_to(self) -> None:
        machine = Machine.objects.get(name="Ridge R5 roller")
        for bad in ("https://elsewhere.example/", "//elsewhere.example/", "javascript:x", "hauls/"):
            page = self.client.get(f"/book/machines/{machine.pk}/", {"back": bad})
            self.assertEqual(page.context["back"], "")

    def test_another_trailer_for_a_haul_lists_them_too(self) -> None:
        choice = self.choice(base=self.haul.revision)
        address = reverse("outfit", args=[self.haul.pk])
        page = self.client.post(address, choice)
        self.assertEqual(len(page.context["wanting"]), 2)
        back = parse_qs(urlsplit(page.context["wanting"][0].address).query)["back"][0]
        self.assertTrue(back.startswith(address))

    def test_an_address_that_chooses_nonsense_chooses_nothing(self) -> None:
        page = self.client.get("/hauls/new/?hitch=x&trailer=99999&load_1=gone&name=A")
        self.assertEqual(page.status_code, 200)
        self.assertContains(page, 'value="A"')


class EmptyYard(TestCase):
    def test_every_empty_list_offers_to_add_one(self) -> None:
        user = User.objects.create_user("newcomer", password="first-day-1")
        Membership.objects.create(
            yard=Yard.objects.create(name="First day"), user=user, role=Role.OWNER
        )
        self.client.force_login(user)
        page = self.client.get("/hauls/new/")
        for words in ("add a truck with its hitch", "add a trailer", "add a machine"):
            self.assertContains(page, words)
        self.assertContains(page, "/book/trailers/new/?back=/hauls/new/")
        page = self.client.get("/match/")
        self.assertContains(page, "/book/machines/new/?back=%2Fmatch%2F")
        self.assertContains(page, "add a bulk load")
        page = self.client.get("/weigh/gauge/")
        self.assertContains(page, "Nothing to choose from yet")
        self.assertContains(page, "/book/trailers/new/")

    def test_a_list_with_something_in_it_offers_nothing(self) -> None:
        user = User.objects.create_user("second", password="second-day-1")
        yard = Yard.objects.create(name="Second day")
        Membership.objects.create(yard=yard, user=user, role=Role.OWNER)
        Machine.objects.create(yard=yard, name="Digger")
        self.client.force_login(user)
        self.assertNotContains(self.client.get("/match/"), "Nothing to choose from yet")


class Aboard(YardCase):
    def seats(self, people: str, base: int | None = None) -> Any:
        """One tap on who rides in the truck."""
        sent = {"people": people, "base": self.haul.revision if base is None else base}
        return self.client.post(reverse("aboard", args=[self.haul.pk]), sent, follow=True)

    def empty_cab(self) -> None:
        """The haul planned with nobody entered."""
        truck = self.haul.truck
        assert truck is not None
        truck.loads.all().delete()
        self.client.post(
            reverse("take_books_numbers", args=[self.haul.pk]), {"base": self.haul.revision}
        )
        self.haul.refresh_from_db()

    def test_nobody_entered_is_one_person_and_one_tap_makes_it_two(self) -> None:
        self.empty_cab()
        (person,) = self.haul.document["truck"]["cargo"]
        self.assertEqual(person["name"], "one person")
        page = self.client.get(f"/hauls/{self.haul.pk}/")
        self.assertContains(page, "so one person is counted")
        self.assertContains(page, "Two people")
        self.seats("2")
        self.haul.refresh_from_db()
        cargo = self.haul.document["truck"]["cargo"]
        self.assertEqual([one["name"] for one in cargo], ["Driver", "Passenger"])
        self.assertEqual(cargo[0]["mass"], 200)
        self.assertEqual(cargo[0]["mass_tolerance"], 80)
        self.assertNotIn("cargo", self.haul.document["truck"].get("estimates", []))
        # nobody has taped the seats: their place stays an estimate and is told as one
        self.assertIn("cargo.ahead_of_rear_axle", self.haul.document["truck"]["estimates"])
        self.assertGreater(cargo[0]["ahead_of_rear_axle_tolerance"], 0)
        self.assertContains(self.client.get(f"/hauls/{self.haul.pk}/"), "where they sit")
        assert self.haul.truck is not None
        self.assertEqual(self.haul.truck.loads.count(), 2)

    def test_who_is_entered_already_stays(self) -> None:
        before = self.haul.document["truck"]["cargo"]
        self.seats("2")
        self.haul.refresh_from_db()
        self.assertEqual(self.haul.document["truck"]["cargo"], before)

    def test_on_an_old_page_nothing_changes(self) -> None:
        self.empty_cab()
        page = self.seats("1", base=0)
        self.assertContains(page, "changed this haul in between")
        assert self.haul.truck is not None
        self.assertEqual(self.haul.truck.loads.count(), 0)
