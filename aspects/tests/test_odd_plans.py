"""Plans that no sensible person makes, and files that hold them: each view still answers,
the picture still draws, and a sentence says what is wrong."""

from __future__ import annotations

import copy
import re
from collections.abc import Callable
from typing import Any

from hauls.models import Haul
from hauls.tests.yard_case import YardCase

Document = dict[str, Any]

VIEWS = ("", "arrange/", "level/", "frame/", "what-if/?v1_best=1&v2_turned=m1", "figures/")


def longer_than_the_deck(document: Document) -> None:
    """A machine longer than the deck."""
    document["items"][0]["front"] = 400


def rating_of_zero(document: Document) -> None:
    """Ratings that say nothing may be carried."""
    document["trailer"]["gvwr"] = 0
    document["truck"]["payload"] = 0
    document["trailer"]["axles"][0]["gawr"] = 0


def no_ratings(document: Document) -> None:
    """Nobody has read a plate."""
    for name in ("gvwr", "gcwr", "payload", "max_trailer_mass", "front_gawr", "rear_gawr"):
        document["truck"].pop(name, None)
    document["trailer"].pop("gvwr")
    for axle in document["trailer"]["axles"]:
        axle.pop("gawr")


def no_heights(document: Document) -> None:
    """Nothing about heights and springs."""
    document["truck"].pop("ride", None)
    for name in ("coupler_height", "axle_height"):
        document["trailer"].pop(name, None)
    document["trailer"]["deck"].pop("height", None)
    for item in document["items"]:
        item["cg"].pop("height", None)
        item.pop("height", None)
        item.pop("width", None)


def forty_loads(document: Document) -> None:
    """More than any deck takes."""
    one = document["items"][0]
    document["items"] = [
        {**copy.deepcopy(one), "id": f"m{n + 1}", "placement": {"reference": 5 * n}}
        for n in range(40)
    ]


def one_place_alone(document: Document) -> None:
    """A school that leaves one place of no length."""
    document["rules"] = {"tongue": "custom", "share_min": 0.12, "share_max": 0.12}


def a_school_nothing_meets(document: Document) -> None:
    """Shares that no place gives."""
    document["rules"] = {"tongue": "custom", "share_min": 0.9, "share_max": 1}


def all_on_one_spot(document: Document) -> None:
    """Every load on the same place."""
    first = document["items"][0]
    document["items"] += [{**copy.deepcopy(first), "id": f"x{n}"} for n in range(3)]


def far_off_the_deck(document: Document) -> None:
    """A load miles behind the trailer, and one far ahead of the truck."""
    first = document["items"][0]
    document["items"].append({**copy.deepcopy(first), "id": "x", "placement": {"reference": -9e5}})
    first["placement"] = {"reference": 1e6, "facing": "backward", "left": 500}


def a_pebble_and_a_mountain(document: Document) -> None:
    """Masses that differ by twelve figures."""
    document["items"][0]["mass"] = 1e8
    document["items"].append({**copy.deepcopy(document["items"][0]), "id": "pebble", "mass": 1e-4})


def springs_like_jelly(document: Document) -> None:
    """Springs that carry nothing."""
    document["truck"]["ride"] = {"ball_height": 20, "rear_rate": 0.001}


def contacts_beyond_the_machine(document: Document) -> None:
    """Wheels where the machine is not."""
    document["items"][0]["contacts"] = [{"ahead": 900}, {"ahead": 950, "length": 3}]


def a_concentration_of_nothing_much(document: Document) -> None:
    """A maker's figure that anything passes."""
    document["trailer"]["deck"]["concentration"] = {"mass": 1, "length": 0.5}


def names_with_markup(document: Document) -> None:
    """Names that are not words."""
    document["items"][0]["name"] = "<b>&\"'“” {{ 7*7 }}"
    document["trailer"]["name"] = ""
    document["hitch"]["components"][0]["name"] = "a b/c.d"


ODD: dict[Callable[[Document], None], str] = {
    longer_than_the_deck: "No place on this deck is right",
    rating_of_zero: "is passed",
    no_ratings: "Cannot say all is well",
    no_heights: "Taken as level: heights are not known.",
    forty_loads: "overlap by",
    one_place_alone: "12 %",
    a_school_nothing_meets: "90 % is the least",
    all_on_one_spot: "overlap by",
    far_off_the_deck: "past the tail of the deck",
    a_pebble_and_a_mountain: "is passed",
    springs_like_jelly: "Taken as level: with these heights and springs",
    contacts_beyond_the_machine: "Frame",
    a_concentration_of_nothing_much: "Load on one length",
    names_with_markup: "&lt;b&gt;",
}


class OddPlans(YardCase):
    def test_every_view_answers_and_the_picture_draws(self) -> None:
        start = self.haul.document
        for spoil, words in ODD.items():
            document = copy.deepcopy(start)
            spoil(document)
            Haul.objects.filter(pk=self.haul.pk).update(document=document)
            for view in VIEWS:
                answer = self.client.get(f"/hauls/{self.haul.pk}/{view}")
                text = answer.content.decode()
                with self.subTest(spoil.__name__, view=view):
                    self.assertEqual(200, answer.status_code)
                    self.assertIsNone(re.search(r'="[^"]*\b(nan|inf)\b', text))
                    self.assertNotIn("49", re.findall(r"<h1>(.*?)</h1>", text)[0])
                    if not view:
                        self.assertIn(words, text)
                        self.assertIn('id="picture"', text)

    def test_each_can_be_dragged_turned_and_undone(self) -> None:
        start = self.haul.document
        for spoil in ODD:
            document = copy.deepcopy(start)
            spoil(document)
            Haul.objects.filter(pk=self.haul.pk).update(document=document)
            for do, fields in (
                ("drag", {"to": "100"}),
                ("turn", {}),
                ("nudge 1", {}),
                ("undo", {}),
            ):
                with self.subTest(spoil.__name__, do=do):
                    self.assertEqual(200, self.act(do, **fields).status_code)

    def test_the_list_shows_each_with_its_line(self) -> None:
        for spoil in ODD:
            document = copy.deepcopy(self.haul.document)
            spoil(document)
            Haul.objects.create(yard=self.yard, name=spoil.__name__, document=document)
        page = self.client.get("/")
        for spoil in ODD:
            self.assertContains(page, spoil.__name__)
