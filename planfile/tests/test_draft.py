"""A haul's document as a value: what changes, what stays to the digit, what is refused."""

from __future__ import annotations

import copy
import json
from pathlib import Path
from typing import Any

import msgspec
from django.test import SimpleTestCase
from hypothesis import given, settings
from hypothesis import strategies as st

from mechanics.item import Facing
from mechanics.placing import moved, sideways_reach, turned
from mechanics.rules import TongueSchool, TrailerGvwrSchool
from mechanics.units import KG_PER_LB, M_PER_IN
from planfile.document import BalancePoint, Item, Placement
from planfile.draft import Draft, Held, glance
from planfile.errors import PlanFileError

EXAMPLE = json.loads((Path(__file__).parent / "example.json").read_text(encoding="utf-8"))

FACTORS = {"lb": KG_PER_LB, "kg": 1.0, "in": M_PER_IN, "mm": 0.001}


def example(**changes: Any) -> dict[str, Any]:
    """The example's document with other parts on its top level."""
    return {**copy.deepcopy(EXAMPLE), **changes}


def two() -> Draft:
    """The example with a second, short item behind the first."""
    raw = example()
    short = copy.deepcopy(raw["items"][0])
    short |= {"id": "box", "name": "Box", "front": 20, "rear": 20, "mass": 400}
    short["cg"] = {"ahead": 0}
    short["placement"] = {"reference": 215.25}
    raw["items"].append(short)
    return Draft.read(raw)


numbers = st.floats(-400, 700, allow_nan=False)

documents = st.builds(
    lambda at, facing, left, extra: Draft.read(
        example(
            items=[
                {
                    **EXAMPLE["items"][0],
                    "placement": {"reference": at, "facing": facing, "left": left},
                    "extra": extra,
                }
            ],
            extra=extra,
        )
    ),
    numbers,
    st.sampled_from(["forward", "backward"]),
    st.floats(-40, 40, allow_nan=False),
    st.dictionaries(st.text(max_size=8), st.integers() | st.text(max_size=8), max_size=3),
)


class WhatStays(SimpleTestCase):
    @given(draft=documents, at=numbers, left=numbers)
    @settings(max_examples=40)
    def test_no_change_touches_the_draft_it_was_asked_of(
        self, draft: Draft, at: float, left: float
    ) -> None:
        before, plan = draft.json(), draft.plan
        draft.put(0, at * M_PER_IN, turn=True).put_sideways(0, left * M_PER_IN)
        draft.turned(0).renamed("Otherwise").with_bars(0.5)
        draft.with_school(TongueSchool.CUSTOM, (0.1, 0.2)).keeping([])
        self.assertEqual(draft.json(), before)
        self.assertEqual(draft.plan, plan)

    def test_whoever_gets_the_document_gets_a_copy(self) -> None:
        draft = Draft.read(example())
        draft.json()["items"].clear()
        self.assertEqual(draft.item_ids, ("tractor",))

    @given(draft=documents, at=numbers, left=numbers)
    @settings(max_examples=40)
    def test_the_plan_is_always_the_one_its_document_reads_as(
        self, draft: Draft, at: float, left: float
    ) -> None:
        for changed in (
            draft.put(0, at * M_PER_IN),
            draft.put(0, at * M_PER_IN, turn=True),
            draft.put_sideways(0, left * M_PER_IN),
            draft.turned(0),
            draft.holding([Held(id="tractor", reference=at, facing="backward", left=left)]),
            draft.stood(moved(draft.plan, 0, at * M_PER_IN)),
        ):
            self.assertEqual(changed.plan, Draft.read(changed.json()).plan)

    @given(draft=documents)
    @settings(max_examples=40)
    def test_what_others_wrote_into_it_comes_out_of_every_change(self, draft: Draft) -> None:
        kept = draft.json()
        for changed in (draft.turned(0), draft.with_bars(0.3), draft.stood(turned(draft.plan, 0))):
            self.assertEqual(changed.json()["extra"], kept["extra"])
            self.assertEqual(changed.json()["items"][0]["extra"], kept["items"][0]["extra"])

    def test_an_item_that_does_not_move_keeps_the_digits_it_was_given(self) -> None:
        draft = two()
        there = moved(draft.plan, 0, 3.3333333333)
        items = draft.stood(there).json()["items"]
        self.assertEqual(items[1]["placement"], {"reference": 215.25})
        self.assertAlmostEqual(items[0]["placement"]["reference"], 3.3333333333 / M_PER_IN, 6)

    def test_a_file_is_kept_as_it_was_written(self) -> None:
        text = json.dumps(example(extra={"of": "another program"})).encode()
        self.assertEqual(Draft.of_file(text).json(), json.loads(text))


class WhereItStands(SimpleTestCase):
    @given(draft=documents, at=st.floats(-1e6, 1e6))
    @settings(max_examples=40)
    def test_put_ends_within_reach_of_the_deck(self, draft: Draft, at: float) -> None:
        put = draft.put(0, at)
        low, high = put.reach(0)
        place = put.plan.items[0].placement.reference_m
        self.assertGreaterEqual(place, low - 1e-6)
        self.assertLessEqual(place, high + 1e-6)

    @given(draft=documents, left=st.floats(-1e6, 1e6))
    @settings(max_examples=40)
    def test_sideways_too(self, draft: Draft, left: float) -> None:
        put = draft.put_sideways(0, left)
        most = sideways_reach(draft.plan)
        self.assertLessEqual(abs(put.plan.items[0].placement.left_m), most + 1e-6)

    def test_turned_twice_it_stands_as_before(self) -> None:
        draft = Draft.read(example())
        again = draft.turned(0).turned(0)
        self.assertIs(draft.turned(0).plan.items[0].placement.facing, Facing.BACKWARD)
        self.assertEqual(again.held, draft.held)

    def test_what_is_usual_is_only_written_where_it_was(self) -> None:
        plain = two()
        held = [Held(id="box", reference=200.0, facing="forward", left=0.0)]
        self.assertEqual(plain.holding(held).json()["items"][1]["placement"], {"reference": 200})

    def test_held_items_that_are_not_named_stay(self) -> None:
        draft = two()
        self.assertEqual(draft.holding([Held(id="nobody", reference=1.0)]).json(), draft.json())
        self.assertEqual(draft.holding([]).held, draft.held)

    def test_places_read_in_any_units(self) -> None:
        for mass, length in (("lb", "in"), ("kg", "mm"), ("kg", "in")):
            with self.subTest(mass=mass, length=length):
                draft = Draft.read(example(units={"mass": mass, "length": length}))
                item = draft.plan.items[0]
                self.assertAlmostEqual(item.mass_kg, 5350 * FACTORS[mass], 6)
                self.assertAlmostEqual(item.placement.reference_m, 150 * FACTORS[length], 6)
                self.assertAlmostEqual(draft.units.metres(1.0), 1 / FACTORS[length], 5)


class WithOtherParts(SimpleTestCase):
    def item(self, name: str, reference: float) -> Item:
        return Item(
            id="m1",
            name=name,
            mass=800,
            cg=BalancePoint(ahead=0),
            front=30,
            rear=30,
            placement=Placement(reference=reference),
        )

    def test_an_item_comes_on_once_and_is_then_replaced(self) -> None:
        draft = Draft.read(example())
        self.assertEqual(draft.free_id(), "m1")
        on = draft.with_item(self.item("Crate", 40))
        self.assertEqual(on.item_ids, ("tractor", "m1"))
        self.assertEqual(on.free_id(), "m2")
        again = on.with_item(self.item("Other crate", 50))
        self.assertEqual(again.item_ids, ("tractor", "m1"))
        self.assertEqual(again.json()["items"][1]["name"], "Other crate")

    def test_other_figures_leave_it_where_it_stands(self) -> None:
        on = Draft.read(example()).with_item(self.item("Crate", 40))
        told = on.with_figures(
            replace_item(self.item("Crate, weighed", 99), reference_tolerance=1.5)
        )
        self.assertEqual(
            told.json()["items"][1]["placement"],
            {"reference": 40, "facing": "forward", "left": 0, "reference_tolerance": 1.5},
        )
        self.assertEqual(told.json()["items"][1]["name"], "Crate, weighed")

    def test_keeping_none_leaves_an_empty_deck(self) -> None:
        self.assertEqual(two().keeping(["box"]).item_ids, ("box",))
        self.assertEqual(two().keeping([]).plan.items, ())

    def test_figures_that_make_no_plan_are_refused(self) -> None:
        draft = Draft.read(example())
        with self.assertRaises(PlanFileError):
            draft.with_item(self.item("Crate", float("nan")))
        with self.assertRaises(PlanFileError):
            draft.with_school(TongueSchool.CUSTOM, (0.3, 0.1))


class RulesAndBars(SimpleTestCase):
    def test_the_yards_own_share_goes_with_its_school_alone(self) -> None:
        own = Draft.read(example()).with_school(TongueSchool.CUSTOM, (0.11, 0.14))
        self.assertEqual(own.plan.share_range, (0.11, 0.14))
        other = own.with_school(TongueSchool.SHARE_10_15)
        self.assertEqual(other.json()["rules"], {"tongue": "share_10_15"})

    def test_the_plates_school_is_kept_beside_the_tongues(self) -> None:
        draft = Draft.read(example())
        axles = draft.with_gvwr_school(TrailerGvwrSchool.AXLES)
        self.assertEqual(axles.plan.rules.trailer_gvwr, TrailerGvwrSchool.AXLES)
        self.assertEqual(axles.json()["rules"]["tongue"], "default")
        self.assertIs(draft.with_gvwr_school(draft.plan.rules.trailer_gvwr), draft)

    def test_bars_hung_slack_remember_how_long_they_are(self) -> None:
        raw = example()
        raw["hitch"]["weight_distribution"] = {"front_axle_restoration": 0.4, "bar_length": 30}
        slack = Draft.read(raw).with_bars(None)
        self.assertNotIn("weight_distribution", slack.json()["hitch"])
        self.assertAlmostEqual(slack.bar_length_m or 0, 30 * M_PER_IN)
        hung = slack.with_bars(0.25).json()["hitch"]["weight_distribution"]
        self.assertEqual(hung, {"front_axle_restoration": 0.25, "bar_length": 30})


class AtAGlance(SimpleTestCase):
    def test_names_are_read_of_anything(self) -> None:
        self.assertEqual(glance(example()).items, ("Orchard tractor, loader and ballast",))
        for broken in (None, 7, [], {"truck": 3, "items": "none"}, {"items": [1, {"id": "x"}]}):
            with self.subTest(document=broken):
                found = glance(broken)
                self.assertEqual((found.truck, found.trailer), ("truck", "trailer"))

    def test_what_is_drawn_survives_rubbish(self) -> None:
        raw = example()
        raw["items"][0]["extra"] = {"drawn": {"wheelbase": "long", "shape": "loader"}}
        raw["trailer"]["extra"] = {"drawn": ["no", "object"]}
        draft = Draft.read(raw)
        self.assertIsNone(draft.drawn[0].wheelbase_m)
        self.assertEqual(draft.drawn[0].shape, "loader")
        self.assertEqual(draft.look.tail, "")


def replace_item(item: Item, **placement: float) -> Item:
    """The item with more said of its place."""
    return msgspec.structs.replace(
        item, placement=msgspec.structs.replace(item.placement, **placement)
    )
