"""The sheet for the dealer, and whether an advertised trailer would do."""

from __future__ import annotations

from typing import Any

from book.models import Bulk, Machine
from hauls.loads import Load
from hauls.tests.yard_case import YardCase

LOADER = "Kestrel T6 compact loader"


class Buying(YardCase):
    def key(self, name: str = LOADER) -> str:
        return str(Load(machine=Machine.objects.get(yard=self.yard, name=name)).key)

    def ask(self, **more: str) -> Any:
        return self.client.get("/match/buy/", {"load_1": self.key(), **more})

    def test_the_sheet_has_trailer_truck_features_and_classes(self) -> None:
        page = self.ask()
        for words in (
            "GVWR on the plate",
            "Deck width between the fenders",
            "Payload on the door sticker",
            "Brakes on both axles",
            "equipment, 20 ft",
            "Work truck 3, Receiver",
            "as a class",
            "10.0 % of every rating is kept back",
        ):
            self.assertContains(page, words)
        self.assertNotContains(page, "The advertised one")
        self.assertContains(self.ask(trip="long"), "20.0 % of every rating")

    def test_a_long_trip_needs_more_and_a_gooseneck_other_things(self) -> None:
        def gvwr(**more: str) -> float:
            return float(
                self.ask(**more).context["sheet"].trailer[0].figure.split()[0].replace(",", "")
            )

        self.assertGreater(gvwr(trip="long"), gvwr())
        page = self.ask(kind_asked="gooseneck-over")
        self.assertContains(page, "Ball in the bed rated for")
        self.assertContains(page, "raised and lowered")
        self.assertNotContains(page, "equipment, 20 ft")

    def test_an_advertised_trailer(self) -> None:
        page = self.ask(gvwr="16000", own="3,500", deck="20 ft", width="82", axles="2", gawr="8000")
        self.assertContains(page, "The advertised one")
        self.assertEqual(page.context["sheet"].offer.word, "would do")
        small = self.ask(gvwr="7000", own="2,000", deck="16 ft", width="77", axles="2", gawr="3500")
        self.assertEqual(small.context["sheet"].offer.word, "too small")
        unsaid = self.ask(gvwr="16000", own="3500")
        self.assertEqual(unsaid.context["sheet"].offer.word, "cannot say")

    def test_metric_people_get_metric_figures(self) -> None:
        self.user.units = "metric"
        self.user.save()
        page = self.ask(gvwr="3500")
        self.assertContains(page, "180 kg")
        self.assertNotContains(page, " lb")

    def test_bulk_and_several(self) -> None:
        bulk = Bulk.objects.filter(yard=self.yard).first()
        assert bulk is not None
        page = self.client.get(
            "/match/buy/", {"load_1": str(Load(bulk=bulk).key), "kind_asked": "dump"}
        )
        self.assertIn(page.status_code, (200, 422))
        page = self.ask(load_2=self.key("Burrow 17 excavator"))
        self.assertContains(page, "Eight rings")

    def test_what_lacks_figures_or_is_nonsense_is_said(self) -> None:
        bare = Machine.objects.create(yard=self.yard, name="Bare thing")
        page = self.ask(load_1=str(Load(machine=bare).key))
        self.assertContains(page, "Its page in the book takes it", status_code=422)
        self.assertContains(self.ask(gvwr="a lot"), "a lot", status_code=422)
        self.assertEqual(self.ask(load_1="machine-x").status_code, 422)
        self.assertEqual(self.ask(trip="moon").status_code, 422)
        self.assertEqual(self.client.get("/match/buy/").status_code, 200)
