"""Making a haul, and changing its outfit."""

from __future__ import annotations

from typing import Any

from book.models import Bulk, Configuration, Machine, Trailer, Truck
from hauls.models import Haul
from hauls.tests.yard_case import YardCase
from measures import Quantity
from yards.models import Yard


class Outfits(YardCase):
    def choices(self, **more: Any) -> dict[str, Any]:
        """A filled outfit form."""
        truck = Truck.objects.get(name="Work truck 3")
        trailer = Trailer.objects.get(name="20 ft equipment trailer")
        return {"name": "New one", "hitch": truck.hitches.first().pk, "trailer": trailer.pk, **more}

    def test_a_new_haul_puts_machines_at_their_aims_clear_of_each_other(self) -> None:
        plough = Machine.objects.get(name="Trench plough")
        pipe = Bulk.objects.get(name="Pallet of drain pipe")
        answer = self.client.post(
            "/hauls/new/",
            self.choices(load_1=f"machine-{plough.pk}", load_2=f"bulk-{pipe.pk}"),
        )
        haul = Haul.objects.get(name="New one")
        self.assertRedirects(answer, f"/hauls/{haul.pk}/")
        self.assertEqual([i["id"] for i in haul.document["items"]], ["m1", "m2"])
        self.assertNotIn("overlap", self.client.get(f"/hauls/{haul.pk}/").content.decode())

    def test_a_new_haul_with_nothing_on_it(self) -> None:
        self.client.post("/hauls/new/", self.choices())
        haul = Haul.objects.get(name="New one")
        self.assertContains(self.client.get(f"/hauls/{haul.pk}/"), "Nothing on the deck yet")

    def test_swapping_the_truck_keeps_places(self) -> None:
        other = Truck.objects.get(name="Gooseneck truck").hitches.get(type="ball")
        link = self.haul.links.get()
        answer = self.client.post(
            f"/hauls/{self.haul.pk}/outfit/",
            self.choices(
                hitch=other.pk, load_1=f"machine-{link.machine_id}", base=self.haul.revision
            ),
        )
        self.assertRedirects(answer, f"/hauls/{self.haul.pk}/")
        self.assertEqual(self.reference(), 150)
        self.assertEqual(self.haul.document["truck"]["name"], "Gooseneck truck")

    def test_another_configuration_of_the_same_machine_keeps_its_place(self) -> None:
        forks = Configuration.objects.get(name="with forks")
        self.client.post(
            f"/hauls/{self.haul.pk}/outfit/",
            self.choices(load_1=f"machine-{forks.machine_id}-{forks.pk}", base=self.haul.revision),
        )
        self.assertEqual(self.reference(), 150)
        item = self.haul.document["items"][0]
        self.assertEqual(item["name"], "Harrow 48 tractor with loader, with forks")
        self.assertEqual(item["mass"], 5260)
        self.assertEqual(self.haul.links.get().configuration, forks)
        self.assertEqual(
            [p["name"] for p in item["extra"]["made_of"]], ["whole machine", "Bucket", "Forks"]
        )

    def test_what_the_book_lacks_is_named_and_what_was_chosen_stays(self) -> None:
        Machine.objects.filter(name="Wren 9 mini dumper").update(reach_front=None)
        dumper = Machine.objects.get(name="Wren 9 mini dumper")
        answer = self.client.post("/hauls/new/", self.choices(load_1=f"machine-{dumper.pk}"))
        (wanted,) = answer.context["wanting"]
        self.assertEqual((wanted.name, wanted.stops), (dumper.name, ("reach ahead",)))
        self.assertContains(answer, f'value="machine-{dumper.pk}" selected')
        self.assertFalse(Haul.objects.filter(name="New one").exists())

    def test_what_is_offered_is_the_yards_own(self) -> None:
        theirs = Machine.objects.create(
            yard=Yard.objects.get(name="Another yard"), name="Not yours"
        )
        self.assertNotContains(self.client.get("/hauls/new/"), "Not yours")
        answer = self.client.post("/hauls/new/", self.choices(load_1=f"machine-{theirs.pk}"))
        self.assertContains(answer, "Select a valid choice")

    def test_a_built_up_machine_is_offered_by_its_configurations_alone(self) -> None:
        page = self.client.get("/hauls/new/").content.decode()
        self.assertIn("Harrow 60 backhoe tractor, backhoe on", page)
        self.assertNotIn(">Harrow 60 backhoe tractor<", page)
        self.assertIn(">Harrow 48 tractor with loader<", page)

    def test_swapping_on_an_old_page_is_told(self) -> None:
        answer = self.client.post(f"/hauls/{self.haul.pk}/outfit/", self.choices(base=0))
        self.assertContains(answer, "changed this haul in between")

    def test_a_revision_that_is_none_is_an_old_page_too(self) -> None:
        at, stored = f"/hauls/{self.haul.pk}", self.haul.revision
        for base in ("", "x", "1.5", "-1", "9" * 40):
            with self.subTest(base=base):
                answer = self.client.post(f"{at}/outfit/", self.choices(base=base))
                self.assertContains(answer, "changed this haul in between")
                for address, sent in (("book", {}), ("level/bars", {"bars": "off"})):
                    answer = self.client.post(f"{at}/{address}/", {"base": base, **sent})
                    self.assertEqual(answer.status_code, 302)
        self.haul.refresh_from_db()
        self.assertEqual(self.haul.revision, stored)

    def test_the_book_moving_on_is_told_and_taken_over_on_request(self) -> None:
        truck = Truck.objects.get(name="Work truck 3")
        truck.payload = Quantity.parse("2000 lb")
        truck.save()
        page = self.client.get(f"/hauls/{self.haul.pk}/")
        self.assertContains(page, "The book has moved on for Work truck 3")
        self.haul.refresh_from_db()
        self.assertEqual(self.haul.document["truck"]["payload"], 2700)
        self.client.post(f"/hauls/{self.haul.pk}/book/", {"base": self.haul.revision})
        self.haul.refresh_from_db()
        self.assertEqual(self.haul.document["truck"]["payload"], 2000)
        self.assertEqual(self.reference(), 150)

    def test_removing_a_haul(self) -> None:
        self.client.post(f"/hauls/{self.haul.pk}/remove/")
        self.assertFalse(Haul.objects.filter(pk=self.haul.pk).exists())
