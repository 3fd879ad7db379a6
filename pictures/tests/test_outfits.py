"""Trucks and trailers from the side: they reach as far as they were taped, and look like their
kind."""

from __future__ import annotations

from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from pictures.outlines import Points, machine_outline
from pictures.trailers import TrailerBody, trailer_outline
from pictures.trucks import truck_outline

PLAIN = TrailerBody(
    kind="flatbed",
    over_bed=False,
    start_m=1.4,
    length_m=6.0,
    top_m=0.7,
    axles=(4.6, 5.5),
)
KINDS = (
    "utility",
    "dump",
    "gooseneck",
    "flatbed",
    "tilt",
    "fifth_wheel",
    "car_carrier",
    "boat",
    "camper",
    "other",
)
MACHINES = ("tractor", "loader", "excavator", "roller", "car", "implement", "pallet", "heap_peaked")


def ends(shapes: list[tuple[str, Points]]) -> tuple[float, float, float]:
    """Least and greatest place, and the highest."""
    places = [place for _, points in shapes for place in points]
    return (
        min(at for at, _ in places),
        max(at for at, _ in places),
        max(up for _, up in places),
    )


class Machines(SimpleTestCase):
    @given(
        st.sampled_from(MACHINES),
        st.floats(0.9, 4.5),
        st.floats(0.5, 1.6),
        st.floats(1.0, 3.2),
    )
    def test_they_reach_as_far_as_they_were_taped(
        self, shape: str, front: float, rear: float, height: float
    ) -> None:
        outline = machine_outline(shape, front, rear, height, 0.4 * (front + rear))
        least, most, high = ends(outline.shapes)
        self.assertAlmostEqual(high, height, delta=0.02)
        # wheels and tracks may stand out of what is drawn of a very short one
        self.assertGreaterEqual(most, front - 1e-9)
        self.assertLessEqual(least, -rear + 1e-9)


class Trucks(SimpleTestCase):
    def test_the_cab_is_as_long_as_it_is_said_and_the_bed_takes_the_rest(self) -> None:
        def bed(cab: str) -> float:
            """From the bed's front to its rear."""
            style, points = truck_outline(4.2, -1.1, cab=cab)[0]
            self.assertEqual(style, "body")
            return max(at for at, _ in points) - min(at for at, _ in points)

        self.assertGreater(bed("single"), bed("extended"))
        self.assertGreater(bed("extended"), bed("crew"))
        panes = {
            cab: sum(style == "glass" for style, _ in truck_outline(4.2, -1.1, cab=cab))
            for cab in ("single", "crew")
        }
        self.assertEqual(panes, {"single": 1, "crew": 2})

    def test_dual_wheels_have_a_fender_of_their_own(self) -> None:
        single, dual = (len(truck_outline(4.0, -1.1, dual=dual)) for dual in (False, True))
        self.assertEqual(dual, single + 1)

    def test_any_wheelbase_ends_at_its_bumper(self) -> None:
        for base in (2.4, 3.2, 4.6):
            least, most, _ = ends(truck_outline(base, -1.2, cab="crew"))
            self.assertAlmostEqual(least, -1.22)
            self.assertAlmostEqual(most, base + 1.0)


class Trailers(SimpleTestCase):
    def test_every_kind_looks_like_no_other(self) -> None:
        drawn = {
            kind: str(
                trailer_outline(
                    replace(PLAIN, kind=kind, over_bed=kind in ("gooseneck", "fifth_wheel"))
                )
            )
            for kind in KINDS
        }
        alike = {"gooseneck", "fifth_wheel"}
        found = [kind for kind in KINDS if kind not in alike]
        self.assertEqual(len({drawn[kind] for kind in found}), len(found))

    def test_the_deck_is_where_it_was_taped(self) -> None:
        for kind in KINDS:
            with self.subTest(kind=kind):
                least, most, _ = ends(trailer_outline(replace(PLAIN, kind=kind)))
                self.assertLess(least, 0.1)
                # a motor hangs over a boat's transom, a bar stands in its pocket
                self.assertAlmostEqual(most, PLAIN.end_m, delta=0.31 if kind == "boat" else 0.03)

    def test_what_stands_at_its_tail(self) -> None:
        styles = {
            tail: [style for style, _ in trailer_outline(replace(PLAIN, tail=tail))]
            for tail in ("", "gate", "ramps")
        }
        self.assertIn("gate", styles["gate"])
        self.assertEqual(styles["ramps"].count("fender"), styles[""].count("fender") + 1)

    def test_a_deck_over_its_wheels_has_no_fenders(self) -> None:
        low, high = (trailer_outline(replace(PLAIN, top_m=top)) for top in (0.7, 0.95))
        self.assertEqual(len(low), len(high) + 1)
