"""A truck and a trailer asked about by themselves."""

from __future__ import annotations

from book.models import Hitch, Trailer, Truck
from hauls.tests.yard_case import YardCase
from matching.alone import trailer_alone, truck_alone
from measures import Quantity, UnitSystem


def q(text: str) -> Quantity:
    """A quantity as it is kept."""
    return Quantity.parse(text)


class TheTruck(YardCase):
    def hitch(self, name: str) -> Hitch:
        """A hitch by its truck's name."""
        return Hitch.objects.select_related("truck__yard").filter(truck__name=name)[0]

    def test_what_is_left_names_the_tightest(self) -> None:
        found = truck_alone(self.hitch("Work truck 3"), UnitSystem.US)
        self.assertRegex(found.left, r"^[\d,]+ lb$")
        self.assertTrue(found.tightest)
        self.assertEqual(found.rooms[0].left, found.left)
        self.assertIn("at 10 %", found.carries)
        self.assertIn("100 lb", found.squat)

    def test_an_estimated_truck_says_the_least_too(self) -> None:
        hitch = self.hitch("Work truck 3")
        Truck.objects.filter(pk=hitch.truck_id).update(
            wheelbase=None, front_axle_mass=None, rear_axle_mass=None, arch_rear=None
        )
        found = truck_alone(self.hitch("Work truck 3"), UnitSystem.US)
        self.assertTrue(any(room.least for room in found.rooms))
        self.assertTrue(found.squat_estimated)
        self.assertIn(" to ", found.squat)

    def test_without_a_figure_it_says_what_is_wanting(self) -> None:
        hitch = self.hitch("Work truck 3")
        Truck.objects.filter(pk=hitch.truck_id).update(
            gvwr=None, front_axle_mass=None, wheelbase=None
        )
        found = truck_alone(self.hitch("Work truck 3"), UnitSystem.US)
        self.assertIn("lacks GVWR", found.lacks)
        page = self.client.get(f"/match/trucks/{hitch.truck_id}/")
        self.assertContains(page, "lacks GVWR")

    def test_its_page_and_the_way_to_it(self) -> None:
        truck = Truck.objects.get(name="Work truck 3")
        page = self.client.get(f"/match/trucks/{truck.pk}/")
        self.assertContains(page, "what is left for the tongue")
        book = self.client.get(f"/book/trucks/{truck.pk}/")
        self.assertContains(book, f"/match/trucks/{truck.pk}/")
        truck.hitches.all().delete()
        self.assertContains(self.client.get(f"/match/trucks/{truck.pk}/"), "It has no hitch yet")


class TheTrailer(YardCase):
    def test_capacity_and_a_share_from_a_reading(self) -> None:
        trailer = Trailer.objects.get(name="20 ft equipment trailer")
        found = trailer_alone(trailer, UnitSystem.US, tongue=q("900 lb"), loaded=q("7500 lb"))
        self.assertEqual(found.share, "12.0 %")
        self.assertEqual(found.status, "ok")
        self.assertIn("750 lb to 1,125 lb", found.share_words)
        low = trailer_alone(trailer, UnitSystem.US, tongue=q("500 lb"), loaded=q("7500 lb"))
        self.assertEqual(low.status, "over")
        self.assertRegex(found.carries, r"lb$")

    def test_without_its_loaded_mass_the_share_is_a_range(self) -> None:
        trailer = Trailer.objects.get(name="20 ft equipment trailer")
        found = trailer_alone(trailer, UnitSystem.METRIC, tongue=q("400 kg"))
        self.assertRegex(found.share, r"^\d+\.\d % to \d+\.\d %$")
        self.assertEqual(found.status, "unknown")
        self.assertIn("Say what it weighs loaded", found.share_words)

    def test_a_camper_has_no_deck_and_is_asked_about_all_the_same(self) -> None:
        camper = Trailer.objects.create(
            yard=self.yard, name="Camper", kind="camper", gvwr=q("5000 lb")
        )
        page = self.client.get(
            f"/match/trailers/{camper.pk}/", {"tongue": "550", "loaded": "4600 lb"}
        )
        self.assertContains(page, "12.0 %")
        self.assertContains(page, "9 to 16 %")
        self.assertContains(page, "hat it weighs empty is not known")
        boat = Trailer.objects.create(yard=self.yard, name="Boat", kind="boat")
        page = self.client.get(f"/match/trailers/{boat.pk}/", {"tongue": "150"})
        self.assertContains(page, "neither its plate nor its own weight is known")

    def test_what_is_typed_wrong_stays_and_is_said(self) -> None:
        trailer = Trailer.objects.get(name="20 ft equipment trailer")
        address = f"/match/trailers/{trailer.pk}/"
        page = self.client.get(address, {"tongue": "light"})
        self.assertContains(page, "is not a mass", status_code=422)
        self.assertContains(page, 'value="light"', status_code=422)
        page = self.client.get(address, {"tongue": "900", "loaded": "800"})
        self.assertContains(page, "The tongue is a part of it", status_code=422)
