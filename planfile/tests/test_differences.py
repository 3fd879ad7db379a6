"""What two drafts of one haul say differently."""

from __future__ import annotations

import copy
import json
from pathlib import Path
from typing import Any

from django.test import SimpleTestCase

from mechanics.units import KG_PER_LB, M_PER_IN
from planfile.differences import Amount, Difference, Kind, differences
from planfile.draft import Draft

EXAMPLE = json.loads((Path(__file__).parent / "example.json").read_text(encoding="utf-8"))


def found(change: Any, start: Any = None) -> list[Difference]:
    """What differs after ``change`` has worked on a copy of the document."""
    then = copy.deepcopy(EXAMPLE)
    if start is not None:
        start(then)
    now = copy.deepcopy(then)
    change(now)
    return differences(Draft.read(then), Draft.read(now))


class Differences(SimpleTestCase):
    def test_of_the_same_there_are_none(self) -> None:
        self.assertEqual(found(lambda d: None), [])

    def test_what_is_left_to_the_format_and_what_is_written_out_are_alike(self) -> None:
        self.assertEqual(found(lambda d: d["items"][0]["cg"].pop("left")), [])
        self.assertEqual(found(lambda d: d["items"][0]["placement"].pop("left")), [])

    def test_where_an_item_stands_says_nothing_of_its_weight(self) -> None:
        self.assertEqual(found(lambda d: d["items"][0]["placement"].update(reference=99)), [])

    def test_a_mass_a_length_a_part_and_a_word(self) -> None:
        def change(document: dict[str, Any]) -> None:
            document["truck"]["gvwr"] = 9900
            document["truck"]["wheelbase"] = 161
            document["trailer"]["suspension"] = "independent"
            document["hitch"]["weight_distribution"] = {"front_axle_restoration": 0.5}

        by_path = {(one.thing, *one.path): one for one in found(change)}
        gvwr = by_path["truck", "gvwr"]
        self.assertEqual(gvwr.then, Amount(kind=Kind.MASS, si=10000 * KG_PER_LB))
        self.assertEqual(gvwr.now, Amount(kind=Kind.MASS, si=9900 * KG_PER_LB))
        self.assertEqual(
            by_path["truck", "wheelbase"].now, Amount(kind=Kind.LENGTH, si=161 * M_PER_IN)
        )
        word = by_path["trailer", "suspension"]
        self.assertEqual((word.then, word.now), ("equalized", "independent"))
        self.assertEqual(len(by_path), 4)

    def test_a_figure_that_was_not_known(self) -> None:
        one = found(lambda d: d["truck"].pop("gcwr"))[0]
        self.assertEqual(one.path, ("gcwr",))
        self.assertIsNone(one.now)
        self.assertEqual(one.then, Amount(kind=Kind.MASS, si=22000 * KG_PER_LB))

    def test_parts_are_compared_by_their_names(self) -> None:
        def change(document: dict[str, Any]) -> None:
            parts = document["hitch"]["components"]
            parts.reverse()
            parts[0]["max_trailer_mass"] = 12000
            document["truck"]["cargo"] = [
                {"name": "driver", "mass": 190, "ahead_of_rear_axle": 70},
                {"name": "dog", "mass": 70, "ahead_of_rear_axle": 30},
            ]

        all_found = found(change)
        coupler = next(one for one in all_found if one.thing == "hitch")
        self.assertEqual(coupler.path, ("coupler", "max_trailer_mass"))
        cargo = {one.path: (one.gone, one.new) for one in all_found if one.thing == "truck"}
        self.assertEqual(cargo, {("tool chest",): (True, False), ("dog",): (False, True)})

    def test_axles_have_no_names_and_are_counted(self) -> None:
        one = found(lambda d: d["trailer"]["axles"][1].update(gawr=6000))[0]
        self.assertEqual(one.path, ("axle 2", "gawr"))

    def test_a_springs_rate_has_a_unit_of_its_own(self) -> None:
        def start(document: dict[str, Any]) -> None:
            document["truck"]["ride"] = {"ball_height": 25, "rear_rate": 400}

        one = found(lambda d: d["truck"]["ride"].update(rear_rate=500), start)[0]
        self.assertEqual(one.now, Amount(kind=Kind.RATE, si=500 * KG_PER_LB / M_PER_IN))

    def test_items_that_are_not_in_both_are_not_compared(self) -> None:
        self.assertEqual(found(lambda d: d["items"][0].update(id="another", mass=1)), [])

    def test_an_item_is_called_what_it_was_called(self) -> None:
        one = found(lambda d: d["items"][0].update(name="New name"))[0]
        self.assertEqual((one.thing, one.path), ("tractor", ("name",)))
        self.assertEqual(one.name, "Orchard tractor, loader and ballast")
