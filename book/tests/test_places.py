"""Places of the book, and how far apart they are."""

from __future__ import annotations

from decimal import Decimal
from typing import Any

from book.models import Place, PlaceWay
from book.tests.pages import formset
from book.ways import way_between, way_words
from hauls.tests.yard_case import YardCase
from measures import UnitSystem


class Places(YardCase):
    def post(self, **typed: Any) -> Any:
        return self.client.post(
            "/book/places/new/", {"name": "Far field", **formset("ways"), **typed}
        )

    def test_kept_with_its_distance_as_typed(self) -> None:
        self.post(from_yard="12 km", surface="gravel", slope="4.5")
        place = Place.objects.get(name="Far field")
        self.assertEqual((str(place.from_yard), place.slope), ("12 km", Decimal("4.5")))
        page = self.client.get(f"/book/places/{place.pk}/")
        self.assertContains(page, "7.5 mi")

    def test_half_a_coordinate_and_a_second_yard_are_refused(self) -> None:
        answer = self.post(latitude="41.5")
        self.assertContains(answer, "The longitude is wanted too", status_code=422)
        answer = self.post(home="on")
        self.assertContains(answer, "is the yard itself. Untick that one first", status_code=422)
        self.assertContains(self.post(latitude="95", longitude="1"), "90", status_code=422)
        self.assertFalse(Place.objects.filter(name="Far field").exists())

    def test_by_the_odometer_by_the_coordinates_or_not_at_all(self) -> None:
        home = Place.objects.get(yard=self.yard, home=True)
        driven = Place.objects.get(yard=self.yard, name="Low Fields")
        way = way_between(driven, home)
        assert way is not None
        self.assertTrue(way.sure)
        self.assertEqual(way_words(way, UnitSystem.US), "5.0 mi")
        unknown = Place.objects.get(yard=self.yard, name="Spring chamber")
        self.assertIsNone(way_between(home, unknown))
        self.assertIsNone(way_between(driven, unknown))
        home.latitude = home.longitude = unknown.longitude = Decimal(10)
        unknown.latitude = Decimal("10.1")
        about = way_between(home, unknown)
        assert about is not None
        self.assertFalse(about.sure)
        # 11.12 km as the crow flies
        self.assertEqual(way_words(about, UnitSystem.METRIC), "about 12.8 km to 17.8 km")

    def test_ways_between_two_places_are_typed_at_either(self) -> None:
        low, mill = (
            Place.objects.get(yard=self.yard, name=n) for n in ("Low Fields", "Mill Ponds")
        )
        # neither says how far: no farther than by way of the yard
        about = way_between(low, mill)
        assert about is not None
        self.assertEqual(way_words(about, UnitSystem.US), "about 9.0 mi to 19.0 mi")
        answer = self.post(
            **{
                "ways-TOTAL_FORMS": "1",
                "ways-0-name": "Low Fields",
                "ways-0-distance": "4 mi",
            }
        )
        self.assertEqual(answer.status_code, 302)
        far = Place.objects.get(name="Far field")
        for way in (way_between(far, low), way_between(low, far)):
            assert way is not None
            self.assertEqual((way.sure, way_words(way, UnitSystem.US)), (True, "4.0 mi"))
        self.assertContains(self.client.get(f"/book/places/{far.pk}/"), "To Low Fields")

    def test_a_way_to_no_place_of_the_book_is_refused_and_follows_a_new_name(self) -> None:
        rows = {"ways-TOTAL_FORMS": "1", "ways-0-distance": "4 mi"}
        answer = self.post(**rows, **{"ways-0-name": "Nowhere"})
        self.assertContains(answer, "No place of the book is called “Nowhere”", status_code=422)
        self.post(**rows, **{"ways-0-name": "Low Fields"})
        far_ways = PlaceWay.objects.filter(place__name="Far field")
        low = Place.objects.get(yard=self.yard, name="Low Fields")
        low.name = "Lower Fields"
        low.save()
        self.assertEqual(far_ways.get().name, "Lower Fields")
        far = Place.objects.get(name="Far field")
        self.assertIsNotNone(way_between(far, low))
