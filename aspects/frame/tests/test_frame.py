"""The page of the frame."""

from __future__ import annotations

from hauls.models import Haul
from hauls.tests.yard_case import AspectCase

CREW = "Drain crew to the Long Drain"


class Frame(AspectCase):
    def test_bending_shear_and_what_was_assumed(self) -> None:
        page = self.look(CREW, "frame/")
        self.assertContains(page, "as much as its rated load spread over the deck")
        self.assertContains(page, "Where Trench plough stands on the floor is not known")
        self.assertContains(page, "maker&#x27;s figure 11,000 lb")

    def test_a_small_heavy_footprint_is_said(self) -> None:
        haul = Haul.objects.get(name=CREW)
        haul.document["items"] = [
            {
                "id": "roller",
                "name": "Roller",
                "mass": 9000,
                "cg": {"ahead": 0},
                "front": 40,
                "rear": 40,
                "contacts": [{"ahead": 10}, {"ahead": -10}],
                "placement": {"reference": 60},
            }
        ]
        haul.save()
        page = self.look(CREW, "frame/")
        self.assertContains(page, "a small, heavy footprint")

    def test_within_a_length_that_is_typed(self) -> None:
        self.assertContains(self.look(CREW, "frame/", length="5 ft"), "5 ft")
        for typed in ("zebra", "0"):
            page = self.look(CREW, "frame/", length=typed)
            self.assertEqual(422, page.status_code)
            self.assertContains(page, f'value="{typed}"', status_code=422)

    def test_without_a_rating_it_cannot_say(self) -> None:
        haul = Haul.objects.get(name=CREW)
        del haul.document["trailer"]["gvwr"]
        haul.save()
        self.assertContains(self.look(CREW, "frame/"), "Cannot say: without the trailer")
