"""How it rides, and spring bars."""

from __future__ import annotations

from book.models import HitchPart
from hauls.models import Haul
from hauls.tests.yard_case import AspectCase
from measures import Quantity

CREW = "Drain crew to the Long Drain"


class Level(AspectCase):
    def test_how_it_rides_before_and_after_and_what_to_do(self) -> None:
        page = self.look("Orchard tractor to the Quarry Lane block", "level/")
        self.assertContains(page, "Nose 1 in low as loaded")
        self.assertContains(page, "Raise the ball by 1 in and it rides level loaded.")
        self.assertContains(page, "Rear arch sinks")

    def test_a_high_nose_asks_for_the_next_hole(self) -> None:
        haul = Haul.objects.get(name="Orchard tractor to the Quarry Lane block")
        haul.document["truck"]["ride"]["ball_height"] = 24.5
        haul.save()
        page = self.look(haul.name, "level/")
        self.assertContains(page, "Nose 2 1/2 in high as loaded")
        self.assertContains(page, "Drop the ball mount one hole, 2 in, and it rides level loaded.")

    def test_mount_of_the_book_that_would_level_it_is_named(self) -> None:
        haul = Haul.objects.get(name="Orchard tractor to the Quarry Lane block")
        assert haul.hitch is not None
        mount = haul.hitch.links.get(part__kind="mount").part
        mount.drop = Quantity.parse("2 in")
        mount.save()
        page = self.look(haul.name, "level/")
        self.assertContains(page, "Mount: 2 in of drop now; 1 in of drop would ride level.")
        HitchPart.objects.create(
            yard=haul.yard,
            name="Flat mount",
            kind="mount",
            drop=Quantity.parse("1 in"),
            shank_size=mount.shank_size,
        )
        page = self.look(haul.name, "level/")
        self.assertContains(page, "and the book has one: Flat mount.")
        haul.document["truck"]["ride"]["ball_height"] = 24.5
        haul.save()
        self.assertContains(self.look(haul.name, "level/"), "4 in of drop would ride level")

    def test_it_is_drawn_before_it_is_tabled(self) -> None:
        page = self.look("Orchard tractor to the Quarry Lane block", "level/")
        text = page.content.decode()
        self.assertIn("drawn 8 times as large as they are", text)
        self.assertLess(text.index('class="riding"'), text.index("<table"))
        # nose low: the trailer turns that way about its axles
        tilt = page.context["picture"].tilt.trailer
        self.assertRegex(tilt, r"^rotate\(-\d")

    def test_what_is_wanting_is_named(self) -> None:
        page = self.look("Plough and pipe to the spring chamber", "level/")
        self.assertContains(page, "ball height and springs")
        self.assertContains(page, "Taken as level: heights are not known.")

    def test_as_it_rides_a_limit_may_be_passed_that_holds_when_level(self) -> None:
        haul = Haul.objects.get(name="Orchard tractor to the Quarry Lane block")
        haul.document["truck"]["ride"]["ball_height"] = 34
        haul.document["items"][0]["placement"]["reference"] = 161
        haul.document["items"][0]["cg"]["height"] = 60
        haul.save()
        page = self.look(haul.name, "level/")
        self.assertContains(page, "Level it would hold; as it rides it does not")
        self.assertContains(page, "the share is below the least")

    def test_bars_slack_and_set(self) -> None:
        page = self.look("Orchard tractor to the Quarry Lane block", "level/", restore="50")
        self.assertContains(page, "Handbooks commonly ask for bars here")
        self.assertContains(page, "A gauge under the ball shows")
        self.assertContains(page, "12,000 lb / 1,500 lb")
        self.assertContains(page, "14,000 lb / 1,750 lb")
        partial = self.client.get(
            page.request["PATH_INFO"], {"restore": "100"}, headers={"HX-Request": "true"}
        )
        self.assertNotContains(partial, "<html")
        self.assertContains(partial, "100 %")
        wrong = self.look("Orchard tractor to the Quarry Lane block", "level/", restore="zebra")
        self.assertContains(wrong, "is not a percentage", status_code=422)
        most = self.look("Orchard tractor to the Quarry Lane block", "level/", restore="140")
        self.assertContains(most, "0 to 100 %", status_code=422)

    def test_the_worst_trailer_axle_is_shown_its_tires_too(self) -> None:
        """Axle 2's tires are made the weakest: 3,500 lb under 3,561."""
        document = self.haul.document
        document["trailer"]["axles"][1]["tire_capacity"] = 3500
        Haul.objects.filter(pk=self.haul.pk).update(document=document)
        page = self.look(self.haul.name, "level/", restore="0")
        self.assertContains(page, "axle 2 tires, 61 lb over")
        row = page.content.decode().split("Trailer axles together")[1].split("</tr>")[0]
        self.assertIn("verdict-over", row)

    def test_bars_are_set_to_a_wanted_gauge_reading(self) -> None:
        """The gauge is read back off the page that setting it gives."""
        page = self.look(self.haul.name, "level/", gauge="1,700")
        self.assertContains(page, "a gauge under the ball then reads 1,700 lb")
        for wanted, words in (("5000", "Choose a reading between"), ("much", "is not a mass")):
            wrong = self.look(self.haul.name, "level/", gauge=wanted)
            self.assertContains(wrong, words, status_code=422)
            self.assertContains(wrong, f'value="{wanted}"', status_code=422)
        self.assertNotContains(self.look(CREW, "level/", gauge="1700"), "Choose a reading")

    def test_the_length_of_the_bars_counts_before_any_give_back_is_chosen(self) -> None:
        document = self.haul.document
        document["hitch"]["extra"] = {"bar_length": 26}
        Haul.objects.filter(pk=self.haul.pk).update(document=document)
        self.assertContains(self.look(self.haul.name, "level/", restore="50"), "2 ft 2 in behind")
        address = f"/hauls/{self.haul.pk}/level/bars/"
        self.client.post(address, {"restore": "50", "base": self.haul.revision})
        self.haul.refresh_from_db()
        bars = self.haul.document["hitch"]["weight_distribution"]
        self.assertEqual({"front_axle_restoration": 0.5, "bar_length": 26}, bars)
        self.client.post(address, {"bars": "off", "base": self.haul.revision})
        self.assertContains(self.look(self.haul.name, "level/", restore="50"), "2 ft 2 in behind")

    def test_a_torsion_group_asks_for_its_springs(self) -> None:
        words = "loads its front axle more than shown"
        self.assertNotContains(self.look(self.haul.name, "level/"), words)
        document = self.haul.document
        document["trailer"]["suspension"] = "independent"
        Haul.objects.filter(pk=self.haul.pk).update(document=document)
        self.assertContains(self.look(self.haul.name, "level/"), words)
        document["trailer"]["axle_rate"] = 2000
        Haul.objects.filter(pk=self.haul.pk).update(document=document)
        page = self.look(self.haul.name, "level/")
        self.assertNotContains(page, words)
        self.assertContains(page, "as their springs say")

    def test_a_gooseneck_has_no_bars(self) -> None:
        self.assertContains(self.look(CREW, "level/"), "This hitch has none.")

    def test_bars_are_hung_on_the_haul_and_taken_off(self) -> None:
        address = f"/hauls/{self.haul.pk}/level/bars/"
        self.client.post(address, {"restore": "75", "base": self.haul.revision})
        self.haul.refresh_from_db()
        self.assertEqual(
            {"front_axle_restoration": 0.75}, self.haul.document["hitch"]["weight_distribution"]
        )
        late = self.client.post(address, {"restore": "10", "base": 1}, follow=True)
        self.assertContains(late, "Somebody changed this haul in between")
        self.client.post(address, {"bars": "off", "base": self.haul.revision})
        self.haul.refresh_from_db()
        self.assertNotIn("weight_distribution", self.haul.document["hitch"])
        wrong = self.client.post(address, {"restore": "x", "base": self.haul.revision}, follow=True)
        self.assertContains(wrong, "is not a percentage")
