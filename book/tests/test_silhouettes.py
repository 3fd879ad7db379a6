"""Things of the book from the side, all of them at one scale."""

from __future__ import annotations

from book.models import Bulk, Gear, Machine, Trailer, Truck
from book.silhouettes import AROUND, PER_M, silhouette
from book.tolerances import Tolerances
from hauls.tests.yard_case import YardCase

USUAL = Tolerances()


class Silhouettes(YardCase):
    def width_m(self, thing: object) -> float:
        found = silhouette(thing, USUAL)  # type: ignore[arg-type]
        assert found is not None, thing
        return (found.width - 2 * AROUND) / PER_M

    def test_twice_as_long_is_twice_as_wide(self) -> None:
        for machine in Machine.objects.filter(yard=self.yard, reach_front__isnull=False):
            with self.subTest(machine=machine.name):
                assert machine.reach_front is not None
                if machine.built == Machine.Built.PARTS or machine.reach_rear is None:
                    continue
                length = float(machine.reach_front.si + machine.reach_rear.si)
                self.assertAlmostEqual(self.width_m(machine), length, delta=0.25)
        pallet = Bulk.objects.get(yard=self.yard, measured=Bulk.Measured.COUNT)
        assert pallet.length is not None
        self.assertAlmostEqual(self.width_m(pallet), float(pallet.length.si))

    def test_a_trailer_from_its_coupler_to_its_tail(self) -> None:
        trailer = Trailer.objects.get(name="20 ft equipment trailer")
        assert trailer.deck_start is not None
        assert trailer.deck_length is not None
        length = float(trailer.deck_start.si + trailer.deck_length.si)
        self.assertAlmostEqual(self.width_m(trailer), length, delta=0.15)

    def test_dual_wheels_are_seen(self) -> None:
        for name, dishes in (("Gooseneck truck", 1), ("Work truck 3", 0)):
            found = silhouette(Truck.objects.get(name=name), USUAL)
            assert found is not None
            self.assertEqual(sum(c.dish is not None for c in found.circles), dishes)

    def test_small_things_and_what_is_not_known_have_none(self) -> None:
        self.assertIsNone(silhouette(Gear.objects.filter(yard=self.yard)[0], USUAL))
        for bare in (
            Truck(yard=self.yard, name="x"),
            Trailer(yard=self.yard, name="x"),
            Bulk(yard=self.yard, name="x"),
        ):
            self.assertIsNone(silhouette(bare, USUAL))

    def test_on_the_page_beside_two_figures(self) -> None:
        page = self.client.get("/book/")
        self.assertContains(page, 'class="silhouette"')
        for list_ in page.context["lists"]:
            for row in list_.rows:
                if row.picture is not None:
                    self.assertEqual(len(row.figures), 2, row.name)
        with_none = [r.name for x in page.context["lists"] for r in x.rows if r.picture is None]
        self.assertNotIn("Work truck 3", with_none)
