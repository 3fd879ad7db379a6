"""What would make a load fit: each change named does, on its own, and nothing less does."""

from __future__ import annotations

from dataclasses import replace

from django.test import SimpleTestCase

from mechanics.arrange import Wishes, arrange
from mechanics.changes import DECK_LENGTH, Change, Kind, changes
from mechanics.hitch import HitchType
from mechanics.item import BalancePoint
from mechanics.plan import Plan
from mechanics.rules import Rules, TongueSchool
from mechanics.tests.outfits import inch, lb
from mechanics.tests.test_arrange import loaded, piece


def of(found: tuple[Change, ...], kind: Kind) -> list[Change]:
    """The changes of one kind."""
    return [one for one in found if one.kind is kind]


def fits(plan: Plan, wishes: Wishes | None = None) -> bool:
    """Whether some arrangement keeps every limit."""
    return bool(arrange(plan, wishes or Wishes()).found)


class Naming(SimpleTestCase):
    def test_nothing_is_named_where_it_fits_or_nothing_stands(self) -> None:
        self.assertEqual((), changes(loaded()))
        self.assertEqual((), changes(loaded(piece("a", 3000, 60, 60))))

    def test_a_part_of_what_divides_stays_behind_and_hardly_more_than_has_to(self) -> None:
        """7,500 lb of load on a payload of 7,100 lb: the plate wants 400 lb off."""
        plan = loaded(piece("sand", 5000, 60, 60), piece("b", 2500, 50, 60))
        payload = plan.trailer.gvwr_kg - plan.trailer.empty_mass_kg  # type: ignore[operator]
        over = sum(item.mass_kg for item in plan.items) - payload
        self.assertGreater(over, 0)
        (less,) = of(changes(plan, divisible=frozenset({"sand"})), Kind.LESS)
        self.assertEqual(("sand",), less.items)
        self.assertGreaterEqual(less.less_kg, over - 1e-6)
        self.assertAlmostEqual(less.part * lb(5000), less.less_kg)

        def lighter(kg: float) -> Plan:
            sand = replace(plan.items[0], mass_kg=plan.items[0].mass_kg - kg)
            return replace(plan, items=(sand, plan.items[1]))

        self.assertTrue(fits(lighter(less.less_kg)))
        self.assertFalse(fits(lighter(less.less_kg - 0.02 * lb(5000))))
        self.assertEqual([], of(changes(plan), Kind.LESS))

    def test_what_no_part_helps_is_not_named(self) -> None:
        plan = loaded(piece("a", 1500, 300, 60), piece("sand", 500, 20, 20))
        found = changes(plan, divisible=frozenset({"sand"}))
        self.assertEqual([], of(found, Kind.LESS))

    def test_one_is_left_behind_and_two_only_where_one_is_not_enough(self) -> None:
        one = changes(loaded(piece("a", 5000, 60, 60), piece("b", 3000, 50, 60)))
        self.assertEqual([("b",), ("a",)], [c.items for c in of(one, Kind.LEAVE)])
        three = loaded(*(piece(name, 5000, 60, 60) for name in "abc"))
        self.assertEqual(
            [("a", "b"), ("a", "c"), ("b", "c")],
            [c.items for c in of(changes(three), Kind.LEAVE)],
        )
        self.assertEqual([], of(changes(loaded(piece("a", 9000, 60, 60))), Kind.LEAVE))

    def test_leaving_one_behind_drops_the_wishes_about_it(self) -> None:
        plan = loaded(piece("a", 5000, 60, 60), piece("b", 3000, 50, 60))
        wishes = Wishes(locked=frozenset("b"), comes_off=(("b", "a"),))
        gone = [c.items for c in of(changes(plan, wishes), Kind.LEAVE)]
        self.assertIn(("b",), gone)

    def test_locked_ones_are_freed_one_by_one_or_all(self) -> None:
        """Three locked into each other: freeing any single one leaves the other two."""
        plan = loaded(
            *(piece(name, 900, 60, at=at) for name, at in zip("abc", (100, 102, 104), strict=True))
        )
        named = of(changes(plan, Wishes(locked=frozenset("abc"))), Kind.FREE)
        self.assertEqual([("a", "b", "c")], [c.items for c in named])
        self.assertTrue(fits(plan))

    def test_an_order_of_unloading_that_stands_in_the_way_is_named(self) -> None:
        plan = loaded(piece("a", 5000, 120, 60), piece("b", 1500, 90, 60))
        self.assertEqual((), changes(plan, Wishes(comes_off=(("a", "b"),))))
        (first,) = of(changes(plan, Wishes(comes_off=(("b", "a"),))), Kind.ORDER)
        self.assertEqual(("b",), first.items)
        circle = Wishes(comes_off=(("a", "b"), ("b", "a")))
        (named,) = of(changes(plan, circle), Kind.ORDER)
        self.assertEqual(("a", "b"), named.items)


class Ratings(SimpleTestCase):
    def test_a_plate_that_is_too_small_is_named_with_what_it_lacks(self) -> None:
        """9,000 lb on a payload of 7,100 lb: the plate alone is not all that gives."""
        plan = loaded(piece("a", 7500, 60, 60))
        over = lb(7500) + plan.trailer.empty_mass_kg - (plan.trailer.gvwr_kg or 0.0)
        self.assertGreater(over, 0)
        named = of(changes(plan), Kind.RATING)
        (plate,) = [c for c in named if c.ratings[0][0] == "trailer.gvwr"]
        self.assertAlmostEqual(over, plate.ratings[0][1], delta=0.01 * over + 0.5)
        trailer = replace(
            plan.trailer, gvwr_kg=(plan.trailer.gvwr_kg or 0.0) + plate.ratings[0][1] + 0.5
        )
        self.assertTrue(fits(replace(plan, trailer=trailer)))

    def test_a_deck_that_is_too_short_is_named(self) -> None:
        plan = loaded(piece("a", 2000, 150, 60), piece("b", 2000, 120, 60))
        named = of(changes(plan), Kind.RATING)
        short = [dict(c.ratings)[DECK_LENGTH] for c in named if DECK_LENGTH in dict(c.ratings)]
        self.assertAlmostEqual(inch(30), short[0], delta=inch(0.5))

    def test_several_are_named_only_where_no_single_one_does(self) -> None:
        plan = loaded(piece("a", 9000, 150, 60), piece("b", 2000, 120, 60))
        found = changes(plan)
        self.assertEqual([], of(found, Kind.RATING))
        (several,) = of(found, Kind.RATINGS)
        codes = {code for code, _ in several.ratings}
        self.assertLessEqual({"trailer.gvwr", DECK_LENGTH}, codes)

    def test_what_no_rating_could_hold_names_none(self) -> None:
        """A ball too small for the coupler is nothing that a bigger plate helps."""
        plan = loaded(piece("a", 2000, 60, 60))
        hitch = replace(plan.hitch, ball_diameter_m=inch(2))
        trailer = replace(plan.trailer, coupler_size_m=inch(2.3125))
        found = changes(replace(plan, hitch=hitch, trailer=trailer))
        self.assertEqual([], of(found, Kind.RATING) + of(found, Kind.RATINGS))


class Schools(SimpleTestCase):
    def test_a_wider_school_is_named_where_it_opens_a_place(self) -> None:
        for length, school in ((220, TongueSchool.SHARE_9_15), (239, TongueSchool.SHARE_10_15)):
            with self.subTest(length=length):
                ahead = 22 if length == 220 else 0
                item = replace(piece("a", 6000, length, 60), cg=BalancePoint(ahead_m=inch(ahead)))
                plan = replace(loaded(item), rules=Rules(tongue=TongueSchool.SHARE_10_12))
                self.assertFalse(fits(plan))
                (named,) = of(changes(plan), Kind.SCHOOL)
                self.assertIs(school, named.school)
                self.assertTrue(fits(replace(plan, rules=Rules(tongue=school))))

    def test_over_a_bed_only_schools_of_a_bed_are_named(self) -> None:
        plan = loaded(piece("a", 6000, 238, 60))
        bed = replace(
            plan,
            hitch=replace(plan.hitch, type=HitchType.GOOSENECK),
            rules=Rules(tongue=TongueSchool.GOOSENECK_15_25),
        )
        (named,) = of(changes(bed), Kind.SCHOOL)
        self.assertIs(TongueSchool.GOOSENECK_13_15, named.school)
