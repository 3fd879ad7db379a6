"""The load card on paper, and who drives."""

from __future__ import annotations

from io import BytesIO

from playwright.sync_api import expect
from pypdf import PdfReader

from e2e.case import BrowserCase

HAUL = "Orchard tractor to the Quarry Lane block"


class Card(BrowserCase):
    def test_printed_it_is_one_sheet_with_nothing_to_press(self) -> None:
        with self.page() as page:
            self.open_haul(page, HAUL)
            page.get_by_role("link", name="Load card").click()
            expect(page.locator(".lc-mark strong")).to_have_text("12 ft 6 in")
            for size in ("Letter", "A4"):
                pages = PdfReader(BytesIO(page.pdf(format=size))).pages
                self.assertEqual(len(pages), 1, size)
                said = " ".join(pages[0].extract_text().split())
                self.assertIn("12 ft 6 in", said)
                self.assertIn("off the accelerator", said)
                self.assertNotIn("Keep both", said)

    def test_a_planner_says_who_drives_and_when(self) -> None:
        with self.page(390, 844) as page:
            haul = self.open_haul(page, HAUL)
            page.goto(f"{self.live_server_url}/hauls/{haul.pk}/card/")
            page.get_by_label("Day").fill("2026-12-01")
            page.get_by_label("Driver").select_option(label="Tam Reedy")
            page.get_by_role("button", name="Keep both").click()
            expect(page.locator(".lc-head")).to_contain_text(
                "Tuesday 1 December 2026, 9:00 · driver Tam Reedy"
            )
            self.assert_nothing_sticks_out(page)
