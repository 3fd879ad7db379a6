"""The list of hauls: found, apart from other yards, empty."""

from __future__ import annotations

from django.test import TestCase

from book.models import Trailer, Truck
from hauls.models import Haul
from hauls.tests.yard_case import YardCase
from planfile.tests.test_reading import EXAMPLE, changed
from yards.models import Membership, User, Yard


class UnreadablePlan(YardCase):
    def test_a_stored_plan_that_cannot_be_read_stops_neither_list_nor_export(self) -> None:
        haul = Haul.objects.create(
            yard=self.yard, name="From elsewhere", document=changed("truck.wings", 2)
        )
        self.assertContains(self.client.get("/"), "Its plan cannot be read. truck.wings")
        answer = self.client.get(f"/hauls/{haul.pk}/", follow=True)
        self.assertContains(answer, "export it, mend the file and import it again")
        self.assertEqual(self.client.get(f"/hauls/{haul.pk}/plan.json").status_code, 200)


class Searching(YardCase):
    def test_hauls_are_found_by_name_truck_trailer_and_machine(self) -> None:
        for words, found in (
            ("Low Fields", 1),
            ("half-ton", 3),
            ("gooseneck", 7),
            ("plough", 3),
            ("pipe", 2),
            ("tail", 1),
        ):
            answer = self.client.get("/", {"q": words}, headers={"HX-Request": "true"})
            with self.subTest(words=words):
                self.assertEqual(answer.content.decode().count("card-haul"), found)
                self.assertNotContains(answer, "<html")

    def test_the_list_comes_in_pages(self) -> None:
        Haul.objects.bulk_create(
            Haul(yard=self.yard, name=f"H {n}", document=EXAMPLE) for n in range(50)
        )
        first = self.client.get("/")
        self.assertContains(first, "1 to 48 of 64")
        second = self.client.get("/", {"page": "2"})
        self.assertContains(second, "49 to 64 of 64")
        found = self.client.get("/", {"q": "H ", "page": "zebra"})
        self.assertContains(found, "1 to 48 of")
        self.assertContains(found, "?q=H+&amp;page=2")

    def test_nothing_found_says_what_was_looked_for(self) -> None:
        self.assertContains(self.client.get("/", {"q": "<zebra>"}), "No haul has “&lt;zebra&gt;”")


class YardsApart(YardCase):
    def test_another_yards_rows_are_not_there(self) -> None:
        truck, trailer = Truck.objects.first(), Trailer.objects.first()
        hitch = truck.hitches.first()
        gets = (
            f"/hauls/{self.haul.pk}/",
            f"/hauls/{self.haul.pk}/outfit/",
            f"/hauls/{self.haul.pk}/plan.json",
            f"/book/trucks/{truck.pk}/",
            f"/book/trailers/{trailer.pk}/",
            f"/book/trucks/{truck.pk}/hitches/new/",
            f"/book/trucks/{truck.pk}/hitches/{hitch.pk}/",
        )
        posts = (
            f"/hauls/{self.haul.pk}/change/",
            f"/hauls/{self.haul.pk}/copy/",
            f"/hauls/{self.haul.pk}/book/",
            f"/hauls/{self.haul.pk}/remove/",
            f"/book/trucks/{truck.pk}/remove/",
            f"/book/trucks/{truck.pk}/hitches/{hitch.pk}/remove/",
        )
        self.client.force_login(self.stranger)
        for address in gets:
            with self.subTest(address=address):
                self.assertEqual(self.client.get(address).status_code, 404)
        for address in posts:
            with self.subTest(address=address):
                self.assertEqual(self.client.post(address).status_code, 404)
        self.assertNotIn("Quarry Lane", self.client.get("/").content.decode())
        self.assertNotIn("Work truck", self.client.get("/hauls/new/").content.decode())
        self.assertTrue(Haul.objects.filter(pk=self.haul.pk).exists())

    def test_a_haul_cannot_take_another_yards_things(self) -> None:
        data = {
            "name": "Borrowed",
            "hitch": Truck.objects.first().hitches.first().pk,
            "trailer": Trailer.objects.first().pk,
        }
        self.client.force_login(self.stranger)
        self.client.post("/hauls/new/", data)
        self.assertFalse(Haul.objects.filter(name="Borrowed").exists())

    def test_nobody_signed_in_is_sent_to_sign_in(self) -> None:
        self.client.logout()
        for address in ("/", "/book/", f"/hauls/{self.haul.pk}/", "/hauls/import/"):
            answer = self.client.get(address)
            self.assertRedirects(answer, f"/sign-in/?next={address}")

    def test_a_person_without_a_yard_is_told(self) -> None:
        self.client.force_login(User.objects.create_user("new", password="nowhere-1"))
        answer = self.client.get("/")
        self.assertContains(answer, "You are in no yard yet", status_code=403)


class EmptyYard(TestCase):
    def test_first_steps_lead_through(self) -> None:
        user = User.objects.create_user("first", password="first-steps-1")
        yard = Yard.objects.create(name="New yard")
        Membership.objects.create(yard=yard, user=user)
        self.client.force_login(user)
        page = self.client.get("/")
        for words in ("Add a truck", "Add a trailer", "Add a machine", "Plan a haul"):
            self.assertContains(page, words)
        self.assertContains(self.client.get("/book/"), "The door sticker or papers, and a tape")
