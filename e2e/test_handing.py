"""Found from anywhere, handed on, brought back, and brought together."""

from __future__ import annotations

import json
import tempfile
from pathlib import Path

from playwright.sync_api import expect

from book.models import Intake, Machine, Truck
from e2e.case import BrowserCase
from hauls.models import Haul

GOOD = "Orchard tractor to the Quarry Lane block"

SHARES = "navigator.share = async (what) => console.log(JSON.stringify(what));"
"""A telephone's own sheet, which says what it was handed."""


class Found(BrowserCase):
    def test_a_haul_a_thing_and_a_ticket_from_any_page(self) -> None:
        with self.page(390, 844, has_touch=True, is_mobile=True) as page:
            page.goto(f"{self.live_server_url}/road/log/")
            page.locator(".person-name").tap()
            page.locator(".person-menu").get_by_role("link", name="Find").tap()
            expect(page.locator("#find")).to_be_focused()
            page.keyboard.type("quarry")
            expect(page.locator("main")).to_contain_text(GOOD)
            page.locator("#find").fill("20418")
            expect(page.locator("main")).to_contain_text("Mill Ponds scale")
            page.locator("#find").fill("roller")
            page.get_by_role("link", name="Ridge R5 roller").tap()
            expect(page.locator("h1:visible")).to_have_text("Ridge R5 roller")


class Shared(BrowserCase):
    def test_verdict_mark_and_link_go_to_the_phones_sheet(self) -> None:
        with self.page(390, 844, has_touch=True, is_mobile=True) as page:
            page.add_init_script(SHARES)
            haul = self.open_haul(page, GOOD)
            page.locator(".haul-more summary").tap()
            with page.expect_console_message() as said:
                page.locator("[data-share]:visible").first.tap()
            told = json.loads(said.value.text)
            self.assertIn("12 ft 6 in", told["text"])
            self.assertIn("ok", told["text"])
            self.assertEqual(told["url"], f"{self.live_server_url}/hauls/{haul.pk}/")

    def test_without_such_a_sheet_it_is_copied(self) -> None:
        with self.page() as page:
            page.context.grant_permissions(["clipboard-read", "clipboard-write"])
            page.add_init_script("delete Navigator.prototype.share;")
            self.open_haul(page, GOOD)
            page.locator(".haul-more summary").click()
            button = page.locator("[data-share]:visible").first
            button.click()
            expect(button).to_have_text("Copied")
            self.assertIn("12 ft 6 in", page.evaluate("navigator.clipboard.readText()"))


class BroughtBack(BrowserCase):
    def test_a_machine_that_was_removed(self) -> None:
        with self.page() as page:
            plough = Machine.objects.get(name="Trench plough")
            page.goto(f"{self.live_server_url}/book/machines/{plough.pk}/")
            page.get_by_role("button", name="Remove from the book").click()
            page.get_by_role("button", name="Remove it").click()
            page.get_by_role("link", name="Bring it back").click()
            page.get_by_role("button", name="Bring Trench plough back").click()
            expect(page.locator(".note")).to_contain_text("Trench plough is back")
            self.assertEqual(Machine.objects.get(name="Trench plough").pk, plough.pk)

    def test_an_earlier_version(self) -> None:
        with self.page() as page:
            truck = Truck.objects.get(name="Old half-ton")
            page.goto(f"{self.live_server_url}/book/trucks/{truck.pk}/")
            page.fill("#id_payload", "1,500 lb")
            page.get_by_role("button", name="Save truck").click()
            expect(page.locator(".note").first).to_contain_text("is saved")
            page.goto(f"{self.live_server_url}/book/trucks/{truck.pk}/history/")
            page.get_by_role("button", name="Restore this version").last.click()
            page.get_by_role("button", name="Make it so again").last.click()
            expect(page.locator(".note").first).to_be_visible()
            truck.refresh_from_db()
            self.assertEqual(str(truck.payload), "1610 lb")


class BroughtTogether(BrowserCase):
    def test_a_yard_file_that_differs_is_asked_taken_in_and_undone(self) -> None:
        with self.page() as page, tempfile.TemporaryDirectory() as folder:
            page.goto(f"{self.live_server_url}/yard-file/")
            with page.expect_download() as download:
                page.get_by_role("link", name="Without photos").click()
            document = json.loads(Path(download.value.path()).read_text(encoding="utf-8"))
            theirs = next(one for one in document["trucks"] if one["name"] == "Old half-ton")
            theirs["payload"] = "1500 lb"
            document["machines"].append({"name": "Their sweeper"})
            file = Path(folder) / "theirs.yard.json"
            file.write_text(json.dumps(document), encoding="utf-8")
            page.set_input_files("#id_file", file)
            page.get_by_role("button", name="Take it in").click()
            expect(page.locator("h1")).to_have_text("Some of it is here already")
            expect(page.locator(".choices")).to_contain_text("1,610 lb here, 1,500 lb in the file")
            self.assert_accessible(page)
            page.get_by_role("button", name="Take theirs").click()
            page.get_by_role("button", name="Take it in").click()
            expect(page.locator(".choices")).to_contain_text("1 new, 1 changed")
            truck = Truck.objects.get(name="Old half-ton")
            self.assertEqual(str(truck.payload), "1500 lb")
            self.assertEqual(Haul.objects.count(), 17)
            page.get_by_role("button", name="Undo it").click()
            expect(page.locator(".choices")).to_contain_text("Undone")
            truck.refresh_from_db()
            self.assertEqual(str(truck.payload), "1610 lb")
            self.assertFalse(Machine.objects.filter(name="Their sweeper").exists())
            self.assertIsNotNone(Intake.objects.get().undone_at)
