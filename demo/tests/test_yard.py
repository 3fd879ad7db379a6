"""The demo yard holds what it should, and its verdicts stand."""

from __future__ import annotations

import msgspec

from book.models import Bulk, Configuration, HitchPart, Machine, Trailer, Truck
from demo.yard import make_demo_yard
from hauls.climbs import climb_of
from hauls.models import Haul
from hauls.tests.yard_case import YardCase
from planfile.climbing import Place

VERDICTS = {
    "Orchard tractor to the Quarry Lane block": ("ok", "Tightest: truck GVWR, 1,346 lb left."),
    "Compact loader to the Stony Bank culvert": ("near", "Tightest: trailer GVWR, 620 lb left."),
    "Excavator home from Low Fields": ("over", "The tongue carries 8.7 %, and 10 % is the least."),
    "Orchard tractor back from Mill Ponds": ("over", "The tongue carries 2.0 %"),
    "Big tractor to Upper Fern on the gooseneck": ("over", "Truck payload is passed by 380 lb."),
    "Plough and pipe to the spring chamber": (
        "unknown",
        "The combination rating (GCWR) is not known.",
    ),
    "Compact loader on the tilt, in a hurry": ("over", "Trailer GVWR is passed by 1,120 lb."),
    "Plough out behind the half-ton": (
        "over",
        "The ball is 2 in and the coupler is made for 2 5/16 in: it can jump off.",
    ),
    "Roller to the Ash Lane yard, with the sleeve": ("over", "Sleeve, tongue is passed by"),
    "Gravel to the ford": ("ok", "Tightest: trailer GVWR, 1,170 lb left."),
    "Gravel to the ford, second trip": ("over", "The tongue lifts: −1.2 %"),
    "Drain crew to the Long Drain": ("near", "Tightest: trailer GVWR,"),
}

CLIMBS = {
    "Orchard tractor to the Quarry Lane block": "slides",
    "Compact loader to the Stony Bank culvert": "holds, tongue lifts",
    "Excavator home from Low Fields": "deck stays down",
    "Roller to the Chapel Field gate": "holds",
    "Compact loader behind the half-ton": "lifts the truck",
    "Backhoe to the Ash Lane trench": "scrapes",
    "Compact loader to clear the ford": "bed lifts",
    "Gravel to the ford": "nothing is driven on",
}


class DemoYard(YardCase):
    def test_each_haul_shows_its_own_verdict(self) -> None:
        page = self.client.get("/").content.decode()
        for name, (verdict, line) in VERDICTS.items():
            with self.subTest(haul=name):
                self.assertEqual(Haul.objects.get(name=name).verdict, verdict)
                self.assertIn(name, page)
                self.assertIn(line, page)

    def test_each_way_of_getting_on_is_there(self) -> None:
        for name, word in CLIMBS.items():
            with self.subTest(haul=name):
                self.assertEqual(climb_of(Haul.objects.get(name=name).draft).word, word)

    def test_only_the_stands_make_the_loader_hold(self) -> None:
        draft = Haul.objects.get(name="Compact loader to the Stony Bank culvert").draft
        site = msgspec.structs.replace(draft.site(Place.LOADING), stands_down=False)
        self.assertEqual(climb_of(draft.with_site(site, Place.LOADING)).word, "slides")

    def test_the_impossible_one_says_what_would_open_it(self) -> None:
        haul = Haul.objects.get(name="Excavator home from Low Fields")
        page = self.client.get(f"/hauls/{haul.pk}/").content.decode()
        self.assertIn("No place on this deck is right", page)
        self.assertIn("it runs past the front of the deck", page)
        self.assertIn("less it has a place", page)

    def test_loading_it_again_touches_nothing(self) -> None:
        self.haul.name = "Renamed by the yard"
        self.haul.save()
        self.assertFalse(make_demo_yard())
        self.assertEqual(Haul.objects.count(), 17)
        self.assertTrue(Haul.objects.filter(name="Renamed by the yard").exists())

    def test_yard_holds_what_it_should(self) -> None:
        self.assertEqual(
            (
                Truck.objects.count(),
                Trailer.objects.count(),
                Machine.objects.count(),
                Configuration.objects.count(),
                Bulk.objects.count(),
                HitchPart.objects.count(),
            ),
            (3, 4, 8, 4, 3, 18),
        )
