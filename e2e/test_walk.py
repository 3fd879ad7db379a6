"""From nothing to a first verdict, and the book's pages by hand."""

from __future__ import annotations

import tempfile
from pathlib import Path

from django.test import override_settings
from PIL import Image
from playwright.sync_api import expect

from book.models import Machine, Trailer, Truck
from e2e.case import WAIT, BrowserCase
from e2e.walk import Hands, first_verdict
from hauls.models import Haul


class FirstVerdict(BrowserCase):
    def walk(self, width: int, height: int, **options: object) -> None:
        """Sign up on an empty yard and reach a verdict."""
        context = self.browser.new_context(
            viewport={"width": width, "height": height},
            **options,  # type: ignore[arg-type]
        )
        page = context.new_page()
        page.set_default_timeout(WAIT)
        page.on("console", self._console)
        page.on("pageerror", lambda error: self.seen.append(f"script: {error}"))
        page.on("request", self._request)
        said = first_verdict(Hands(page), self.live_server_url)
        self.assertIn("ok Stop with the rear axle", said)
        haul = Haul.objects.get(name="Tractor to the mill")
        self.assertEqual((haul.yard.name, haul.verdict), ("Alder Farm", "ok"))
        self.assertEqual(str(Truck.objects.get(name="Farm pickup").wheelbase), "160 in")
        checks = page.locator(".headroom").inner_text()
        self.assertNotIn("cannot say", checks)
        self.assert_accessible(page)
        self.assert_nothing_sticks_out(page)
        context.close()

    def test_at_a_desk(self) -> None:
        self.walk(1280, 800)

    def test_on_a_phone(self) -> None:
        self.walk(390, 844, has_touch=True, is_mobile=True)


class BookByHand(BrowserCase):
    def test_a_box_says_what_it_understood_and_keeps_what_it_did_not(self) -> None:
        self.expected = {422}
        with self.page() as page:
            page.goto(f"{self.live_server_url}/book/machines/new/")
            page.fill("#id_mass", "3.5 t")
            page.press("#id_mass", "Tab")
            expect(page.locator("#id_mass ~ .understood")).to_have_text("= 7,716 lb (3.5 t)")
            page.fill("#id_reach_front", "a bit")
            page.press("#id_reach_front", "Tab")
            expect(page.locator("#id_reach_front ~ .understood")).to_contain_text("is not a length")
            page.fill("#id_name", "Something")
            page.get_by_role("button", name="Save machine").click()
            expect(page.locator("#id_reach_front")).to_have_value("a bit")
            expect(page.locator("#id_mass")).to_have_value("3.5 t")
            self.assertFalse(Machine.objects.filter(name="Something").exists())

    def test_only_the_boxes_of_the_chosen_way_are_shown(self) -> None:
        with self.page() as page:
            page.goto(f"{self.live_server_url}/book/machines/new/")
            expect(page.locator("#id_mass")).to_be_visible()
            expect(page.locator("#id_front_axle_mass")).to_be_hidden()
            page.select_option("#id_built", "axles")
            expect(page.locator("#id_mass")).to_be_hidden()
            expect(page.locator("#id_front_axle_mass")).to_be_visible()

    def test_a_machine_built_up_part_by_part_and_its_configurations(self) -> None:
        with self.page() as page:
            page.goto(f"{self.live_server_url}/book/machines/new/")
            page.fill("#id_name", "Built one")
            page.select_option("#id_built", "parts")
            page.locator("summary", has_text="Parts").click()
            for n, (name, kind, mass, ahead) in enumerate(
                (("Base", "base", "4000", "30"), ("Forks", "forks", "300", "96"))
            ):
                if n:
                    page.get_by_role("button", name="Add a row").click()
                row = page.locator("[data-prefix=parts] fieldset").nth(n)
                row.locator("input[name$=name]").fill(name)
                row.locator("select[name$=kind]").select_option(kind)
                row.locator("input[name$='-mass']").fill(mass)
                row.locator("input[name$='-ahead']").fill(ahead)
            row.locator("input[name$=removable]").check()
            page.fill("#id_reach_front", "110")
            page.fill("#id_reach_rear", "40")
            page.get_by_role("button", name="Save machine").click()
            machine = Machine.objects.get(name="Built one")
            page.goto(f"{self.live_server_url}/book/machines/{machine.pk}/")
            expect(page.locator(".build-up tfoot")).to_contain_text("4,300 lb")
            page.get_by_role("link", name="Add one").click()
            page.fill("#id_name", "bare")
            page.get_by_role("button", name="Save configuration").click()
            expect(page.locator(".build-up tfoot")).to_contain_text("4,000 lb")

    def test_a_photo_of_a_plate(self) -> None:
        with self.page() as page, tempfile.TemporaryDirectory() as folder:
            photo = Path(folder) / "plate.png"
            Image.new("RGB", (800, 600), "#777").save(photo)
            trailer = Trailer.objects.get(name="14 ft tilt")
            page.goto(f"{self.live_server_url}/book/trailers/{trailer.pk}/")
            page.set_input_files("#id_file", photo)
            page.fill("#id_caption", "Plate")
            page.get_by_role("button", name="Keep this photo").click()
            expect(page.locator(".photos img")).to_have_attribute("alt", "Plate")
            expect(page.locator(".photos img")).to_have_js_property("naturalWidth", 800)

    def test_a_table_is_tried_and_then_taken_in(self) -> None:
        self.expected = {422}
        with self.page() as page, tempfile.TemporaryDirectory() as folder:
            table = Path(folder) / "machines.csv"
            table.write_text("name,mass (lb)\nNew one,heavy\n", encoding="utf-8")
            page.goto(f"{self.live_server_url}/book/tables/machines/")
            page.set_input_files("#id_file", table)
            page.get_by_role("button", name="Try it").click()
            expect(page.locator(".report")).to_contain_text("“heavy” is not a mass")
            table.write_text("name,mass (lb)\nNew one,1200\n", encoding="utf-8")
            page.set_input_files("#id_file", table)
            page.get_by_role("button", name="Try it").click()
            expect(page.locator(".report")).to_contain_text("new")
            self.assertFalse(Machine.objects.filter(name="New one").exists())
            page.get_by_role("button", name="Take it in").click()
            expect(page.locator("#report-heading")).to_have_text("Taken in")
            self.assertTrue(Machine.objects.filter(name="New one").exists())

    def test_a_haul_says_that_the_book_has_moved_on(self) -> None:
        with self.page() as page:
            self.open_haul(page, "Roller to the Ash Lane yard, with the sleeve")
            page.locator(".note-book summary").click()
            expect(page.locator(".news")).to_contain_text("mass 4,340 lb → 4,580 lb")
            page.get_by_role("button", name="Use the book's numbers").click()
            expect(page.locator(".notes")).to_contain_text("present numbers")
            expect(page.locator(".note-book")).to_have_count(0)


class Matching(BrowserCase):
    def test_from_a_load_over_the_best_pair_to_its_plan(self) -> None:
        with self.page() as page:
            page.goto(self.live_server_url)
            page.get_by_role("link", name="Match").click()
            page.select_option("#id_load_1", label="Harrow 48 tractor with loader")
            page.get_by_role("button", name="Compare all").click()
            first = page.locator(".matches tbody tr").first
            expect(first.locator(".verdict")).to_contain_text("ok")
            place = first.locator("[data-label='stop at']").inner_text().strip()
            first.get_by_role("button").click()
            expect(page.locator(".say mark")).to_have_text(place)
            expect(page.locator(".say .verdict")).to_contain_text("ok")


class Driver(BrowserCase):
    @override_settings(AXES_ENABLED=False)
    def test_a_driver_tries_a_move_and_nothing_is_saved(self) -> None:
        with self.page(login="demo-driver") as page:
            haul = self.open_haul(page, "Orchard tractor to the Quarry Lane block")
            expect(page.locator("#saved")).to_have_text("looking only")
            page.get_by_role("button", name="6 in back").click()
            expect(page.locator(".say mark")).to_have_text("13 ft")
            expect(page.locator("#saved")).to_have_text("looking only")
            self.assertEqual(self.stored_inches(haul), 150)
            page.goto(f"{self.live_server_url}/book/")
            expect(page.get_by_role("link", name="Add a truck")).to_have_count(0)
            truck = Truck.objects.get(name="Work truck 3")
            page.goto(f"{self.live_server_url}/book/trucks/{truck.pk}/")
            expect(page.locator("#id_payload")).to_be_disabled()
            self.assert_accessible(page)
