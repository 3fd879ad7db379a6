"""What a document keeps of getting on and off beside the plan."""

from __future__ import annotations

import copy
from typing import Any

import msgspec
from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from mechanics.units import KG_PER_LB, M_PER_IN
from planfile.climbing import Place, RampSet, Tread
from planfile.document import Site
from planfile.draft import Draft
from planfile.tests.test_loading_file import climbing

anything = st.recursive(
    st.none() | st.booleans() | st.integers(-5, 5) | st.text(max_size=3),
    lambda inner: (
        st.lists(inner, max_size=2)
        | st.dictionaries(
            st.sampled_from(["width", "rating", "least", "most", "track", "upright", "ahead"]),
            inner,
            max_size=3,
        )
    ),
    max_leaves=6,
)


def draft(**trailer_extra: Any) -> Draft:
    """A draft with something beside its trailer."""
    document = climbing()
    document["trailer"]["extra"] = trailer_extra
    return Draft.read(document)


class Beside(SimpleTestCase):
    def test_ramps_and_winch_in_si(self) -> None:
        found = draft(
            ramps={"width": 16, "narrowest": 40, "widest": 70, "upright": True},
            winch={"rating": 5000, "height": 10},
        )
        self.assertAlmostEqual(found.ramps.width_m or 0, 16 * M_PER_IN)
        self.assertTrue(found.ramps.upright)
        winch = found.winch
        assert winch is not None
        self.assertAlmostEqual(winch.rating_kg, 5000 * KG_PER_LB)
        self.assertIsNone(winch.anchor_kg)

    @given(anything)
    def test_whatever_stands_there_reads_as_not_known_at_worst(self, thing: Any) -> None:
        document = climbing()
        document["trailer"]["extra"] = {"ramps": thing, "winch": thing, "drawn": thing}
        document["items"][0]["extra"] = {"tread": thing, "usual_underside": thing}
        document["extra"] = {"unloading_site": thing}
        found = Draft.read(document)
        self.assertIsInstance(found.ramps, RampSet)
        self.assertIsInstance(found.treads[0], Tread)
        self.assertEqual(len(found.usual_undersides), 1)
        self.assertIsInstance(found.site(Place.UNLOADING), Site)
        self.assertEqual(found.plan_at(Place.LOADING), found.plan)
        self.assertIsNotNone(found.plan_at(Place.UNLOADING))
        self.assertTrue(found.winch is None or found.winch.rating_kg > 0)

    def test_usual_undersides_in_si(self) -> None:
        document = climbing()
        points = [{"ahead": 10, "clearance": 5}]
        document["items"][0]["extra"] = {"usual_underside": {"least": points, "most": points}}
        usual = Draft.read(document).usual_undersides[0]
        assert usual is not None
        self.assertAlmostEqual(usual.least[0].ahead_m, 10 * M_PER_IN)


class Sites(SimpleTestCase):
    def test_unloading_is_the_place_of_loading_until_it_has_its_own(self) -> None:
        found = Draft.read(climbing(surface="gravel", slope=0.02))
        self.assertEqual(found.plan_at(Place.UNLOADING).site, found.plan.site)
        other = found.with_site(Site(surface="ice"), Place.UNLOADING)
        self.assertEqual(other.plan_at(Place.UNLOADING).site.surface.value, "ice")
        self.assertEqual(other.plan.site, found.plan.site)
        self.assertEqual(other.json()["extra"]["unloading_site"]["surface"], "ice")

    def test_lengths_of_both_places_are_in_the_documents_unit(self) -> None:
        found = Draft.read(climbing())
        for place in Place:
            at = found.with_site(Site(foot_rise=10), place).plan_at(place)
            self.assertAlmostEqual(at.site.foot_rise_m, 10 * M_PER_IN)

    def test_another_trailer_with_fewer_axles_keeps_what_it_has_of_the_chocks(self) -> None:
        document = climbing(held_trailer_axles=[1, 2])
        found = Draft.read(document)
        found = found.with_site(Site(held_trailer_axles=[1, 2]), Place.UNLOADING)
        trailer = copy.deepcopy(found.parsed().trailer)
        shorter = found.with_outfit(trailer=_with_one_axle(trailer))
        self.assertEqual(shorter.plan.site.held_trailer_axles, (1,))
        self.assertEqual(shorter.plan_at(Place.UNLOADING).site.held_trailer_axles, (1,))


def _with_one_axle(trailer: Any) -> Any:
    return msgspec.structs.replace(trailer, axles=trailer.axles[:1])
