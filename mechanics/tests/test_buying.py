"""What would do: exactly that does, and 1 % less of anything does not."""

from __future__ import annotations

import unittest
from dataclasses import replace

from hypothesis import given, settings
from hypothesis import strategies as st

from mechanics.buying import (
    ROOM_TO_SHIFT_M,
    TRAILER_CLASSES,
    TRUCK_CLASSES,
    Needs,
    NothingDoesError,
    Offer,
    Wanted,
    held_against,
    needs,
    rated_gvwr,
    stood_on,
    truck_points,
)
from mechanics.checks import Status
from mechanics.errors import InputError
from mechanics.item import BalancePoint, Item, Placement
from mechanics.limits import Quantity
from mechanics.plan import Plan
from mechanics.report import evaluate
from mechanics.typical import TrailerKind, empty_kg

LESS = 0.99


def machine(
    mass: float = 2000.0, front: float = 1.5, rear: float = 1.5, ahead: float = 0.0, n: int = 0
) -> Item:
    """A machine of 2 t and 3 m, as wide as it is."""
    return Item(
        id=f"m{n}",
        mass_kg=mass,
        cg=BalancePoint(ahead_m=ahead),
        front_m=front,
        rear_m=rear,
        width_m=1.6,
        placement=Placement(reference_m=2.0),
    )


def wanted(*items: Item, **more: object) -> Wanted:
    said: dict[str, object] = {
        "items": items or (machine(),),
        "kind": TrailerKind.FLATBED,
        "over_bed": False,
        "reserve": 0.1,
        "aboard_kg": 150.0,
    }
    return Wanted(**{**said, **more})  # type: ignore[arg-type]


def does(plan: Plan, reserve: float) -> bool:
    """Whether nothing is over and every rating has so much left."""
    report = evaluate(plan)
    over = [check for check in report.checks if check.status is Status.OVER]
    least = report.least_reserve()
    return not over and least is not None and least >= reserve - 1e-9


def each_less(plan: Plan) -> dict[str, Plan]:
    """The plan with each of its ratings, and its deck, 1 % less."""
    truck, trailer, part = plan.truck, plan.trailer, plan.hitch.parts[0]
    found = {
        name: replace(plan, truck=replace(truck, **{name: getattr(truck, name) * LESS}))
        for name in ("payload_kg", "max_trailer_mass_kg", "max_tongue_mass_kg", "gcwr_kg")
    }
    for name in ("max_trailer_mass_kg", "max_tongue_mass_kg"):
        less = replace(part, **{name: getattr(part, name) * LESS})
        found[f"hitch {name}"] = replace(plan, hitch=replace(plan.hitch, parts=(less,)))
    assert trailer.gvwr_kg is not None
    found["gvwr"] = replace(plan, trailer=replace(trailer, gvwr_kg=trailer.gvwr_kg * LESS))
    axles = tuple(replace(axle, gawr_kg=(axle.gawr_kg or 0.0) * LESS) for axle in trailer.axles)
    found["axles"] = replace(plan, trailer=replace(trailer, axles=axles))
    return found


machines = st.builds(
    machine,
    mass=st.floats(300, 6000),
    front=st.floats(0.6, 2.5),
    rear=st.floats(0.6, 2.5),
    ahead=st.floats(-0.4, 0.4),
)


class Just(unittest.TestCase):
    def check_just(self, asked: Wanted, found: Needs) -> None:
        kept = asked.reserve
        self.assertTrue(does(found.plan, kept))
        # hitch parts are held to a fifth to spare
        hitched = max(kept, 1 / 6)
        for name, plan in each_less(found.plan).items():
            limit = hitched if name.startswith("hitch") else kept
            codes = "hitch." if name.startswith("hitch") else ""
            least = min(
                check.reserve
                for check in evaluate(plan).checks
                if check.reserve is not None
                and check.code.startswith(codes)
                and check.quantity is Quantity.MASS
            )
            self.assertLess(least, limit - 1e-4, name)

    @settings(max_examples=25, deadline=None)
    @given(machines, st.sampled_from([0.0, 0.1, 0.2]), st.booleans())
    def test_a_trailer_of_just_these_figures_does_and_of_any_less_does_not(
        self, one: Item, reserve: float, over_bed: bool
    ) -> None:
        kind = TrailerKind.GOOSENECK if over_bed else TrailerKind.FLATBED
        asked = wanted(one, reserve=reserve, over_bed=over_bed, kind=kind)
        try:
            found = needs(asked)
        except NothingDoesError:
            return
        self.check_just(asked, found)

    def test_several_stand_in_a_row_with_room_to_shift(self) -> None:
        asked = wanted(machine(n=0), machine(n=1, mass=1200))
        found = needs(asked)
        self.check_just(asked, found)
        items = found.plan.items
        foremost = min(item.foremost_m for item in items)
        rearmost = max(item.rearmost_m for item in items)
        self.assertGreaterEqual(foremost, ROOM_TO_SHIFT_M - 1e-6)
        self.assertLessEqual(rearmost, found.deck_length_m - ROOM_TO_SHIFT_M + 1e-6)
        self.assertEqual(found.deck_width_m, 1.6)

    def test_a_deck_one_part_in_a_hundred_shorter_does_not(self) -> None:

        for one in (machine(), machine(ahead=-0.9), machine(mass=4000, ahead=0.7)):
            asked = wanted(one)
            found = needs(asked)
            self.assertIsNotNone(stood_on(asked, found.deck_length_m))
            self.assertIsNone(stood_on(asked, found.deck_length_m * LESS))

    def test_more_kept_back_needs_more_and_a_heavier_load_too(self) -> None:
        short, long_trip = needs(wanted(reserve=0.1)), needs(wanted(reserve=0.2))
        heavier = needs(wanted(machine(mass=2500)))
        for name in ("gvwr_kg", "gawr_kg", "payload_kg", "behind_kg"):
            self.assertGreater(getattr(long_trip, name), getattr(short, name))
            self.assertGreater(getattr(heavier, name), getattr(short, name))

    def test_what_may_be_off_counts_as_heavy(self) -> None:
        sure = needs(wanted(machine(mass=2200)))
        unsure = needs(wanted(replace(machine(), mass_tolerance_kg=200.0)))
        self.assertAlmostEqual(sure.gvwr_kg, unsure.gvwr_kg, places=6)

    def test_the_rating_carries_the_load_and_the_trailer(self) -> None:
        asked = wanted(reserve=0.2)
        rating = rated_gvwr(asked, 5.5)
        own = empty_kg(TrailerKind.FLATBED, rating, 5.5).most
        self.assertAlmostEqual(rating * 0.8, 2000 + own, places=2)

    def test_bad_questions_are_refused(self) -> None:
        with self.assertRaises(InputError):
            Wanted(items=(), kind=TrailerKind.FLATBED, over_bed=False, reserve=0.1, aboard_kg=0)
        with self.assertRaises(InputError):
            wanted(reserve=0.6)
        with self.assertRaises(InputError):
            wanted(aboard_kg=-1.0)
        with self.assertRaises(NothingDoesError):
            needs(wanted(machine(front=9.0, rear=9.0)))


class Offers(unittest.TestCase):
    def setUp(self) -> None:
        self.asked = wanted()
        self.found = needs(self.asked)
        self.just = Offer(
            gvwr_kg=self.found.gvwr_kg,
            empty_kg=self.found.empty_kg,
            deck_length_m=self.found.deck_length_m,
            deck_width_m=1.6,
            axles=self.found.axles,
            gawr_kg=self.found.gawr_kg,
        )

    def test_just_what_is_needed_does_and_less_of_it_does_not(self) -> None:
        self.assertTrue(all(p.does for p in held_against(self.just, self.found, self.asked)))
        for name in ("gvwr_kg", "deck_length_m", "deck_width_m", "gawr_kg"):
            less = replace(self.just, **{name: getattr(self.just, name) * LESS})
            points = held_against(less, self.found, self.asked)
            self.assertEqual([p.does for p in points].count(False), 1, name)

    def test_what_is_not_said_is_not_known_and_its_own_weight_is_typical(self) -> None:
        nothing = held_against(Offer(), self.found, self.asked)
        self.assertEqual({point.does for point in nothing}, {None})
        guessed = replace(self.just, empty_kg=None)
        carries = held_against(guessed, self.found, self.asked)[0]
        assert carries.has is not None
        self.assertLess(carries.has[0], carries.has[1])
        # the sheet takes it at its heaviest
        self.assertTrue(carries.does)

    def test_passed_even_with_nothing_kept_back(self) -> None:
        small = replace(self.just, gvwr_kg=self.found.gvwr_kg * 0.6)
        self.assertTrue(held_against(small, self.found, self.asked)[0].passes)
        near = replace(self.just, gvwr_kg=self.found.gvwr_kg * 0.95)
        self.assertFalse(held_against(near, self.found, self.asked)[0].passes)

    def test_classes_grow(self) -> None:
        for one in TRAILER_CLASSES:
            self.assertGreaterEqual(one.axles * one.gawr_kg, 0.9 * one.gvwr_kg, one.name)
            self.assertIsNotNone(one.offer.gvwr_kg)
        loads = [one.payload_kg[0] for one in TRUCK_CLASSES]
        self.assertEqual(loads, sorted(loads))
        points = truck_points(TRUCK_CLASSES[0], self.found, over_bed=True, reserve=0.1)
        self.assertTrue(points[1].passes)
