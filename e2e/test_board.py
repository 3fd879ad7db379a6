"""The board of a week in the hand: by mouse, by keys, by finger, on paper."""

from __future__ import annotations

from datetime import date, timedelta
from io import BytesIO

from django.utils import timezone
from playwright.sync_api import Locator, Page, expect
from pypdf import PdfReader

from day.board import monday
from e2e.case import BrowserCase
from hauls.models import Haul

NAME = "Compact loader to the Stony Bank culvert"
MARGINS = dict.fromkeys(("top", "bottom", "left", "right"), "10mm")


class OnTheBoard(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.first = monday(timezone.localdate())
        # one haul alone on its day, so that it is seen where it goes
        Haul.objects.exclude(name=NAME).update(day=None)
        Haul.objects.filter(name=NAME).update(day=self.first)

    def stored(self) -> Haul:
        return Haul.objects.get(name=NAME)

    def card(self, page: Page) -> Locator:
        return page.locator(".board-card").filter(has=page.get_by_role("link", name=NAME))

    def field(self, page: Page, day: date, row: str) -> Locator:
        """A day of a row."""
        rows = page.locator(".board tbody tr").filter(
            has=page.get_by_role("rowheader", name=row, exact=True)
        )
        return rows.locator(f"[data-day='{day.isoformat()}']")

    def test_a_card_is_dragged_to_another_day_and_truck_and_off_again(self) -> None:
        with self.page(1400, 1200) as page:
            page.goto(f"{self.live_server_url}/day/")
            there = self.field(page, self.first + timedelta(days=2), "Gooseneck truck")
            self.card(page).drag_to(there)
            expect(there.locator(".board-card")).to_contain_text(NAME)
            moved = self.stored()
            self.assertEqual(moved.day, self.first + timedelta(days=2))
            self.assertEqual(moved.truck.name, "Gooseneck truck")  # type: ignore[union-attr]
            # and what a truck cannot take does not move
            self.expected = {422}
            Haul.objects.filter(name__startswith="Big tractor").update(day=self.first)
            page.reload()
            big = page.locator(".board-card").filter(has_text="Big tractor")
            big.drag_to(self.field(page, self.first, "Old half-ton"))
            expect(page.locator(".note-error")).to_contain_text("has no hitch")
            expect(self.field(page, self.first, "Gooseneck truck")).to_contain_text("Big tractor")
            self.card(page).drag_to(page.locator("#waiting-heading"))
            expect(page.locator(".board-waiting")).to_contain_text(NAME)
            self.assertIsNone(self.stored().day)
            self.assert_accessible(page)

    def test_by_keys_alone(self) -> None:
        with self.page() as page:
            page.goto(f"{self.live_server_url}/day/?by=driver")
            move = self.card(page).locator(".board-move")
            for _ in range(60):
                page.keyboard.press("Tab")
                if move.evaluate("one => one === document.activeElement"):
                    break
            else:
                self.fail("moving the card is not reached by the Tab key")
            page.keyboard.press("Enter")
            expect(page.locator("#moving select[name='day']")).to_be_focused()
            page.keyboard.press("ArrowDown")
            page.keyboard.press("Tab")
            page.keyboard.press("Home")
            page.keyboard.press("Tab")
            page.keyboard.press("Enter")
            tuesday = self.first + timedelta(days=1)
            expect(page.locator(f"[data-day='{tuesday}'] .board-card")).to_contain_text(NAME)
            self.assertEqual(self.stored().day, tuesday)

    def test_by_finger_on_a_phone(self) -> None:
        with self.page(390, 844, has_touch=True, is_mobile=True) as page:
            page.goto(f"{self.live_server_url}/day/")
            self.card(page).locator(".board-move").tap()
            form = page.locator("#moving")
            wednesday = self.first + timedelta(days=2)
            form.get_by_label("Day").select_option(wednesday.isoformat())
            form.get_by_role("button", name="Move it").tap()
            expect(page.locator(f"[data-day='{wednesday}'] .board-card")).to_contain_text(NAME)
            self.assertEqual(self.stored().day, wednesday)
            self.assert_nothing_sticks_out(page)
            self.assert_accessible(page)

    def test_the_week_on_paper(self) -> None:
        with self.page() as page:
            page.goto(f"{self.live_server_url}/day/")
            page.evaluate("document.fonts.ready.then(() => true)")
            paper = PdfReader(BytesIO(page.pdf(format="Letter", margin=MARGINS)))
            self.assertEqual(len(paper.pages), 1)
            box = paper.pages[0].mediabox
            text = " ".join(paper.pages[0].extract_text().split())
            self.assertIn(NAME, text)
            self.assertNotIn("Move it", text)
            self.assertNotIn("To place", text)
            # lying: 11 in of 72 points
            self.assertEqual(round(box.width), 792)
