"""Every main view: accessible, nothing sticking out, dark, on paper, on a phone."""

from __future__ import annotations

import json
import tempfile
from pathlib import Path

from django.test import Client
from playwright.sync_api import Page, expect

from book.models import Bulk, HitchPart, Machine, Ticket, Trailer, Truck
from demo.login import LOGIN, PASSWORD
from e2e.case import OVERLAPPING, BrowserCase
from e2e.links import kind_of, reached
from e2e.sizes import BROKEN, SMALL, TINY, UNFOLD
from gauge.models import Gauge
from hauls.models import Haul
from yards.models import Role, User, Yard
from yards.services.people import invite

HAULS = (
    "Orchard tractor to the Quarry Lane block",
    "Excavator home from Low Fields",
    "Big tractor to Upper Fern on the gooseneck",
    "Plough and pipe to the spring chamber",
    "Drain crew to the Long Drain",
)


NARROW = ("target-size", "scrollable-region-focusable", "link-in-text-block")
"""Rules of axe for what a narrow screen lays out anew."""


class Visits(BrowserCase):
    """Every page, with no fault that axe finds and nothing sticking out."""

    def addresses(self) -> list[str]:
        """Every main view of the demo yard."""
        truck = Truck.objects.get(name="Work truck 3")
        machine = Machine.objects.get(name="Harrow 60 backhoe tractor")
        roller = Machine.objects.get(name="Ridge R5 roller")
        configuration = machine.configurations.first()
        return [
            "/",
            "/book/",
            f"/book/trucks/{truck.pk}/",
            f"/book/trucks/{truck.pk}/hitches/{truck.hitches.first().pk}/",
            f"/book/trailers/{Trailer.objects.first().pk}/",
            f"/book/machines/{machine.pk}/",
            f"/book/machines/{machine.pk}/configurations/{configuration.pk}/",
            f"/book/machines/{roller.pk}/history/",
            f"/book/hitch-parts/{HitchPart.objects.first().pk}/",
            f"/book/bulk/{Bulk.objects.first().pk}/",
            "/book/machines/new/",
            "/book/trucks/new/",
            "/book/tables/",
            "/book/tables/trailers/",
            "/book/tolerances/",
            "/people/",
            "/yard-file/",
            "/yards/",
            "/password/",
            f"/match/?load_1=machine-{roller.pk}",
            "/hauls/new/",
            "/hauls/import/",
            "/nothing-here/",
            "/?verdict=over",
            "/weigh/",
            "/weigh/three-pads/",
            "/weigh/lever/",
            "/weigh/tickets/",
            f"/weigh/tickets/{Ticket.objects.first().pk}/",
            f"/weigh/tickets/{Ticket.objects.filter(method='haul').first().pk}/",
            f"/weigh/tickets/{Ticket.objects.filter(method='gauge').first().pk}/correct/",
            "/weigh/tickets/in/",
            f"/weigh/of/trailers/{Trailer.objects.get(name='20 ft equipment trailer').pk}/",
            "/weigh/together/",
            f"/weigh/together/?trailer={Trailer.objects.get(name='20 ft equipment trailer').pk}"
            f"&machine={Machine.objects.get(name='Kestrel T6 compact loader').pk}",
            "/road/?who=all",
            "/road/log/",
            "/road/defects/",
            "/road/inspections/",
            "/road/rules/",
            "/gauges/",
            f"/gauges/{Gauge.objects.first().pk}/",
            *(f"/hauls/{Haul.objects.get(name=name).pk}/" for name in HAULS),
            *self.aspects(),
        ]

    def aspects(self) -> list[str]:
        """A haul's other views: with bars, several loads, a comparison, and one that is stuck."""
        good = Haul.objects.get(name=HAULS[0])
        crew = Haul.objects.get(name=HAULS[-1])
        stuck = Haul.objects.get(name="Compact loader on the tilt, in a hurry")
        lifts = Haul.objects.get(name="Compact loader behind the half-ton")
        turned = "v1_turned=m1&v2_school=share_9_15&v3_best=1"
        return [
            f"/hauls/{crew.pk}/arrange/",
            f"/hauls/{stuck.pk}/arrange/",
            f"/hauls/{good.pk}/level/",
            f"/hauls/{crew.pk}/frame/",
            f"/hauls/{good.pk}/on-and-off/",
            f"/hauls/{lifts.pk}/on-and-off/?at=unloading&times=10&roll=tracks",
            f"/hauls/{good.pk}/what-if/?{turned}",
            f"/hauls/{crew.pk}/figures/",
            f"/hauls/{crew.pk}/card/",
            f"/hauls/{crew.pk}/law/",
            f"/hauls/{crew.pk}/road/",
            f"/hauls/{good.pk}/scale/?practice=1",
            f"/hauls/{good.pk}/scale/",
            f"/hauls/{crew.pk}/gauge/",
            f"/hauls/{crew.pk}/?open=figure.rear&tilt=10",
        ]

    def every(self) -> list[str]:
        """Those, and one page of each other kind that links lead to."""
        client = Client()
        client.force_login(User.objects.get(username=LOGIN))
        named = self.addresses()
        there = {kind_of(address.partition("?")[0]) for address in named}
        found = [address for kind, address in reached(client).items() if kind not in there]
        self.assertGreater(len(found), 40)
        return named + found

    def look(self, page: Page, address: str) -> None:
        """A page at the desk, at night, on a telephone, on the narrowest screen it has to fit."""
        page.set_viewport_size({"width": 1280, "height": 800})
        page.emulate_media(color_scheme="light")
        page.goto(self.live_server_url + address)
        self.assert_accessible(page)
        self.assert_nothing_sticks_out(page)
        # only the colours differ from the same page at the desk
        page.emulate_media(color_scheme="dark")
        self.assert_accessible(page, only=("color-contrast", "label-content-name-mismatch"))
        page.emulate_media(color_scheme="light")
        page.set_viewport_size({"width": 390, "height": 844})
        self.assert_accessible(page, only=NARROW)
        self.assert_nothing_sticks_out(page)
        page.evaluate(UNFOLD)
        self.assert_nothing_sticks_out(page)
        self.assertEqual(page.evaluate(SMALL), [])
        self.assertEqual(page.evaluate(TINY), [])
        self.assertEqual(page.evaluate(BROKEN), [])
        page.set_viewport_size({"width": 320, "height": 844})
        self.assert_nothing_sticks_out(page)
        self.assertEqual(page.evaluate(BROKEN), [])

    def visit(self, part: int) -> None:
        """Every other one of the pages: two classes share them, so that they go side by side."""
        faults: list[str] = []
        with self.page(reduced_motion="reduce") as page:
            for address in self.every()[part::2]:
                try:
                    self.look(page, address)
                except AssertionError as fault:
                    faults.append(f"{address}: {fault}")
        self.assertEqual(faults, [], "\n".join(faults))
        self.seen = [line for line in self.seen if "status of 404" not in line]


class SomePages(Visits):
    def test_at_the_desk_at_night_and_on_a_phone(self) -> None:
        self.visit(0)


class OtherPages(Visits):
    def test_at_the_desk_at_night_and_on_a_phone(self) -> None:
        self.visit(1)


class Views(BrowserCase):
    def test_pages_for_people_not_signed_in_are_accessible(self) -> None:
        yard = Yard.objects.get()
        owner = User.objects.get(username="demo")
        _, token = invite(yard=yard, role=Role.DRIVER, for_whom="", made_by=owner)
        context = self.browser.new_context(viewport={"width": 390, "height": 844})
        page = context.new_page()
        for address in ("/sign-in/", "/sign-up/", f"/join/{token}/", "/join/gone/"):
            with self.subTest(address=address):
                page.goto(f"{self.live_server_url}{address}")
                self.assert_accessible(page)
                self.assert_nothing_sticks_out(page)
        context.close()

    def test_what_decides_fits_on_one_screen(self) -> None:
        """At 1280x800 the planner's sentence, picture and controls need no scrolling."""
        with self.page() as page:
            for name in HAULS:
                self.open_haul(page, name)
                for part in ("#say", "#picture", ".picture-close", "#reading", "#saved", ".share"):
                    box = page.locator(part).bounding_box()
                    assert box is not None
                    with self.subTest(haul=name, part=part):
                        self.assertLessEqual(box["y"] + box["height"], 800)

    def test_texts_of_the_drawing_do_not_overlap(self) -> None:
        for width, height in ((1280, 800), (1024, 768), (390, 844)):
            with self.page(width, height) as page:
                for name in HAULS:
                    self.open_haul(page, name)
                    with self.subTest(haul=name, width=width):
                        self.assertEqual(page.evaluate(OVERLAPPING), [])

    def test_printed_page_is_black_on_white_without_controls(self) -> None:
        with self.page(color_scheme="dark") as page:
            self.open_haul(page, HAULS[0])
            page.emulate_media(media="print")
            page.evaluate("window.dispatchEvent(new Event('beforeprint'))")
            expect(page.locator("#dock")).to_be_hidden()
            expect(page.locator("#say")).to_be_visible()
            ground = page.evaluate("getComputedStyle(document.body).backgroundColor")
            self.assertEqual(ground, "rgb(255, 255, 255)")
            for part in (".on-paper", ".print-line", "#more-limits .limit"):
                expect(page.locator(part).first).to_be_visible()


class Journeys(BrowserCase):
    def test_signing_in_leads_home(self) -> None:
        context = self.browser.new_context()
        page = context.new_page()
        page.goto(f"{self.live_server_url}/book/")
        page.fill("#id_username", LOGIN)
        page.fill("#id_password", PASSWORD)
        page.press("#id_password", "Enter")
        expect(page.get_by_role("heading", name="Book", exact=True)).to_be_visible()
        page.get_by_role("link", name="Haul", exact=True).click()
        expect(page.locator(".card-haul").first).to_be_visible()
        context.close()

    def test_import_and_export_through_the_pages(self) -> None:
        source = Path(__file__).parents[1] / "planfile" / "tests" / "example.json"
        self.expected = {422}
        with self.page() as page, tempfile.TemporaryDirectory() as folder:
            page.goto(self.live_server_url)
            page.get_by_role("link", name="Import a plan file").click()
            bad = Path(folder) / "bad.json"
            bad.write_text(source.read_text().replace('"wheelbase": 160', '"wheelbase": 0'))
            page.set_input_files("#id_file", bad)
            page.get_by_role("button", name="Import").click()
            expect(page.locator("main")).to_contain_text("truck.wheelbase: expected a number")
            page.set_input_files("#id_file", source)
            page.get_by_role("button", name="Import").click()
            expect(page.locator(".say mark")).to_have_text("12 ft 6 in")
            with page.expect_download() as download:
                page.locator(".haul-more summary").click()
                page.get_by_role("link", name="Export plan").click()
            exported = json.loads(Path(download.value.path()).read_text(encoding="utf-8"))
            self.assertEqual(exported, json.loads(source.read_text(encoding="utf-8")))

    def test_from_a_new_machine_to_a_verdict_on_a_phone(self) -> None:
        with self.page(390, 844, has_touch=True, is_mobile=True) as page:
            page.goto(self.live_server_url)
            page.get_by_role("link", name="Book").click()
            page.get_by_role("link", name="Add a machine").click()
            for box, text in (
                ("name", "Borrowed digger"),
                ("mass", "1.8 t"),
                ("balance_ahead", "2 in"),
                ("reach_front", "7' 4"),
                ("reach_rear", "1,1 m"),
            ):
                page.fill(f"#id_{box}", text)
            page.select_option("#id_mass_known", "plate")
            page.get_by_role("button", name="Save machine").click()
            expect(page.locator(".note")).to_contain_text("Borrowed digger is saved")
            self.assertEqual(str(Machine.objects.get(name="Borrowed digger").mass), "1.8 t")
            page.get_by_role("link", name="Haul").click()
            page.get_by_role("link", name="New haul").click()
            page.fill("#id_name", "Digger to the bank")
            page.select_option("#id_hitch", label="Work truck 3, Receiver")
            page.select_option("#id_trailer", label="20 ft equipment trailer")
            page.select_option("#id_load_1", label="Borrowed digger")
            page.get_by_role("button", name="Plan it").click()
            expect(page.locator(".say-first")).to_contain_text(
                "As entered it is ok with the rear axle"
            )
            expect(page.locator(".say .verdict")).to_contain_text("ok")

    def test_rows_are_added_in_the_book(self) -> None:
        with self.page() as page:
            truck = Truck.objects.get(name="Old half-ton")
            page.goto(f"{self.live_server_url}/book/trucks/{truck.pk}/")
            before = page.locator(".rows fieldset").count()
            page.get_by_role("button", name="Add a row").click()
            page.keyboard.type("Dog")
            row = page.locator(".rows fieldset").nth(before)
            row.locator("input[name$=mass]").fill("31 kg")
            row.locator("input[name$=ahead_of_rear_axle]").fill("5 ft")
            page.get_by_role("button", name="Save truck").click()
            expect(page.locator(".note")).to_contain_text("Old half-ton is saved")
            self.assertEqual(str(truck.loads.get(name="Dog").mass), "31 kg")

    def test_search_narrows_the_list_in_place(self) -> None:
        with self.page() as page:
            page.goto(self.live_server_url)
            page.get_by_role("searchbox").fill("plough")
            expect(page.locator(".card-haul")).to_have_count(3)
            page.get_by_role("searchbox").fill("zebra")
            expect(page.locator("#cards")).to_contain_text("No haul has")
            page.get_by_role("searchbox").fill("")
            expect(page.locator(".card-haul")).to_have_count(17)

    def test_removing_asks_first(self) -> None:
        with self.page() as page:
            plough = Machine.objects.get(name="Trench plough")
            page.goto(f"{self.live_server_url}/book/machines/{plough.pk}/")
            page.get_by_role("button", name="Remove from the book").click()
            page.get_by_role("button", name="Keep it").click()
            self.assertTrue(Machine.objects.filter(pk=plough.pk).exists())
            page.get_by_role("button", name="Remove from the book").click()
            page.get_by_role("button", name="Remove it").click()
            expect(page.locator(".note")).to_contain_text("is out of the book")
            self.assertFalse(Machine.objects.filter(pk=plough.pk).exists())
