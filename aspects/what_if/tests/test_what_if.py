"""Other ways side by side."""

from __future__ import annotations

from book.models import Hitch, Trailer, Truck
from book.sheet import sheet
from book.workbook import read_workbook
from hauls.models import Haul
from hauls.tests.yard_case import AspectCase
from planfile.tests.test_reading import EXAMPLE

CREW = "Drain crew to the Long Drain"


class WhatIf(AspectCase):
    def test_other_outfits_facings_and_schools_side_by_side(self) -> None:
        hitch = Hitch.objects.get(truck__name="Old half-ton")
        trailer = Trailer.objects.get(name="20 ft equipment trailer")
        page = self.look(
            "Orchard tractor to the Quarry Lane block",
            "what-if/",
            v1_outfit=f"{hitch.pk}-{trailer.pk}",
            v2_turned="m1",
            v3_school="share_9_15",
            v3_best="1",
        )
        self.assertContains(page, '<h3 id="way-', count=4)
        self.assertContains(page, "it can jump off")
        self.assertContains(page, "Harrow 48 tractor with loader turned round")
        self.assertContains(page, "Arranged anew, wide rule")
        self.assertEqual(150.0, self.reference())

    def test_a_way_that_lacks_figures_says_so(self) -> None:
        Truck.objects.filter(name="Old half-ton").update(front_axle_mass=None, gvwr=None)
        hitch = Hitch.objects.get(truck__name="Old half-ton")
        trailer = Trailer.objects.get(name="14 ft tilt")
        page = self.look(
            "Orchard tractor to the Quarry Lane block",
            "what-if/",
            v1_outfit=f"{hitch.pk}-{trailer.pk}",
        )
        self.assertContains(page, "Old half-ton lacks GVWR")

    def test_choices_that_are_not_there_change_nothing(self) -> None:
        page = self.look(CREW, "what-if/", v1_outfit="1-999", v1_school="none", v2_turned="zebra")
        self.assertContains(page, '<h3 id="way-', count=1)

    def test_an_imported_haul_compares_facings_and_schools(self) -> None:
        Haul.objects.create(yard=self.yard, name="Imported", document=EXAMPLE)
        page = self.look("Imported", "what-if/", v1_turned="tractor")
        self.assertEqual(200, page.status_code)

    def test_it_opens_with_what_promises_most(self) -> None:
        page = self.look("Excavator home from Low Fields", "what-if/")
        self.assertContains(page, "These promise most")
        compared = page.context["compared"]
        self.assertGreater(len(compared), 1)
        order = ["ok", "near", "unknown", "over"]
        ranks = [order.index(column.status) for column in compared[1:]]
        self.assertEqual(ranks, sorted(ranks))
        self.assertLess(ranks[0], order.index(compared[0].status))
        # what is chosen stands in the boxes, to be changed
        self.assertContains(
            page,
            " selected",
            count=sum(bool(box.value) for way in page.context["asked"] for box in way.boxes),
        )
        plain = self.look("Excavator home from Low Fields", "what-if/", v1_best="1")
        self.assertNotContains(plain, "These promise most")

    def test_the_ways_go_out_as_a_table(self) -> None:
        page = self.look("Excavator home from Low Fields", "what-if/")
        compared = page.context["compared"]
        sent = self.look("Excavator home from Low Fields", "what-if/", **{"as": "csv"})
        headers, rows, _ = sheet(sent.content.decode("utf-8-sig"))
        self.assertEqual([row[0] for row in rows], [column.heading for column in compared])
        self.assertEqual([row[1] for row in rows], [column.word for column in compared])
        tongue = headers.index("tongue")
        self.assertEqual([row[tongue] for row in rows], [column.tongue for column in compared])
        self.assertIn(compared[0].limits[0].figure, rows[0][headers.index("limit 1")])
        book = self.look("Excavator home from Low Fields", "what-if/", **{"as": "xlsx"})
        self.assertEqual(sheet(read_workbook(book.content))[1], rows)

    def test_a_way_that_lacks_figures_goes_out_with_why(self) -> None:
        Truck.objects.filter(name="Old half-ton").update(front_axle_mass=None, gvwr=None)
        hitch = Hitch.objects.get(truck__name="Old half-ton")
        trailer = Trailer.objects.get(name="14 ft tilt")
        sent = self.look(
            "Orchard tractor to the Quarry Lane block",
            "what-if/",
            v1_outfit=f"{hitch.pk}-{trailer.pk}",
            **{"as": "csv"},
        )
        headers, rows, _ = sheet(sent.content.decode("utf-8-sig"))
        self.assertIn("lacks GVWR", rows[1][headers.index("why")])
        self.assertEqual(rows[1][headers.index("tongue")], "")
