"""What to move at the scale, in words."""

from __future__ import annotations

from django.test import TestCase

from book.models import Bulk
from hauls.drafting import bare_draft, with_loads
from hauls.loads import Load
from hauls.models import Haul
from hauls.store import create_haul
from hauls.tests.bare_yard import BareYard, q
from hauls.tests.yard_case import YardCase
from measures import UnitSystem
from weighing.shifting import Shift, shift


class Shifts(TestCase):
    def setUp(self) -> None:
        self.bare = BareYard()

    def bags(self) -> Bulk:
        """40 bags of 25 kg, 2.4 m long."""
        return Bulk.objects.create(
            yard=self.bare.yard,
            name="Seed",
            measured=Bulk.Measured.COUNT,
            count=40,
            piece_mass=q("25 kg"),
            length=q("2400 mm"),
        )

    def said(self, load: Load, tongue: float, trailer: float) -> Shift | None:
        draft = bare_draft("Bags", self.bare.hitch, self.bare.trailer, UnitSystem.METRIC)
        draft = with_loads(draft, [load])
        loads = dict(zip(draft.item_ids, [load], strict=True))
        return shift(
            draft.plan,
            loads,
            tongue_kg=tongue,
            trailer_kg=trailer,
            unit=UnitSystem.METRIC,
        )

    def test_so_many_of_the_pieces_and_the_whole_of_it(self) -> None:
        # the axles' middle is 5 m behind the coupler: 62.5 kg more is 312.5 kg m
        bags = Load(bulk=self.bags())
        self.assertIsNone(self.said(bags, 250, 2500))
        found = self.said(bags, 225, 2500)
        assert found is not None
        self.assertEqual(
            found.words,
            "9.0 % of the trailer is on the tongue, 10–15 % is wanted. To bring it to 12.5 %:",
        )
        # 87.5 kg * 5 m = 437.5 kg m: 0.438 m of 1,000 kg; 10 bags 450 kg m, 9 bags 418.5 kg m
        self.assertEqual(
            found.ways[-1],
            "Seed: carry 10 of its 40 pieces from its rear end onto its front end",
        )
        self.assertIn("Seed: move it 438 mm forward", found.ways)

    def test_too_much_goes_back(self) -> None:
        found = self.said(Load(bulk=self.bags()), 400, 2500)
        assert found is not None
        self.assertIn("from its front end onto its rear end", found.ways[-1])
        self.assertIn(" back", found.ways[0])

    def test_a_heap_in_kilograms_a_machine_only_whole(self) -> None:
        found = self.said(Load(bulk=self.bare.gravel()), 200, 3000)
        assert found is not None
        self.assertRegex(found.ways[-1], r"Gravel: shift \d+ kg of it from its rear end")
        machine = self.said(Load(machine=self.bare.machine), 300, 3700)
        assert machine is not None
        self.assertEqual(len(machine.ways), 1)

    def test_more_than_the_deck_has_is_not_offered(self) -> None:
        found = self.said(Load(bulk=self.bags()), 10, 9000)
        assert found is not None
        self.assertEqual(found.ways, ())

    def test_bars_hide_the_tongue_from_the_scale(self) -> None:
        self.bare.hitch.front_axle_restoration = 50
        self.bare.hitch.bar_length = q("750 mm")
        self.assertIsNone(self.said(Load(bulk=self.bags()), 100, 2500))


class OnThePage(YardCase):
    def test_pads_that_show_too_little_tongue_say_what_to_carry(self) -> None:
        bulk = Bulk.objects.filter(yard=self.yard, measured=Bulk.Measured.COUNT).first()
        assert bulk is not None
        assert self.haul.hitch is not None
        assert self.haul.trailer is not None
        haul = create_haul(
            yard=self.yard,
            user=self.user,
            name="Bags",
            hitch=self.haul.hitch,
            trailer=self.haul.trailer,
            loads=[Load(bulk=bulk)],
        )
        pads = {"steer": "4,280", "drive": "3,425", "trailer": "1,900"}
        alone = {"steer_alone": "4,280", "drive_alone": "3,240"}
        page = self.client.post(f"/hauls/{haul.pk}/scale/", {**pads, **alone, "do": "compare"})
        self.assertContains(page, "8.9 % of the trailer is on the tongue")
        # 1,180 lb, 4 ft long, 16 ft 8 in ahead of the axles: half of it gains 71 lb, 76 are wanted
        self.assertContains(page, f"of its {bulk.count} pieces from its rear end")
        self.assertContains(page, "to 10.0 %; a part is not enough for 12.5 %")
        self.assertContains(page, "Each is enough alone")
        self.assertEqual(Haul.objects.get(pk=haul.pk).revision, haul.revision)
