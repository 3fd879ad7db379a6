"""A day planned in the hand: by mouse and by keys alone, put on the board, moved, printed."""

from __future__ import annotations

from datetime import date, timedelta
from io import BytesIO

from django.utils import timezone
from playwright.sync_api import Locator, Page, expect
from pypdf import PdfReader

from day.models import Stay
from e2e.case import BrowserCase
from hauls.models import Haul

OUT = ("Burrow 17 excavator", "Fernbeck yard", "Quarry Lane block")
BACK = ("Kestrel T6 compact loader", "Stony Bank culvert", "Fernbeck yard")
MARGINS = dict.fromkeys(("top", "bottom", "left", "right"), "10mm")


class PlanningADay(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        Haul.objects.update(day=None)
        Stay.objects.all().delete()
        # a week of its own, on which nothing stands
        today = timezone.localdate()
        self.day: date = today + timedelta(days=14 - today.weekday())

    def test_by_mouse_and_on_to_the_board(self) -> None:
        with self.page(1300, 1000) as page:
            page.goto(f"{self.live_server_url}/day/plan/?day={self.day}")
            for n, (what, origin, goal) in enumerate((OUT, BACK)):
                row = page.locator(".wanted-row").nth(n)
                row.get_by_label("What").select_option(label=what)
                row.get_by_label("From").select_option(label=origin)
                row.get_by_label("To", exact=True).select_option(label=goal)
            self.assert_accessible(page)
            page.get_by_role("button", name="Plan it").click()
            expect(page.locator("h1")).to_contain_text("1 trip")
            expect(page.locator(".page-head")).to_contain_text("Proved")
            self.assert_accessible(page)
            page.get_by_label("Keep this trip when it is planned again").first.check()
            page.get_by_role("button", name="Plan again, ticked trips kept").click()
            expect(page.locator("h1")).to_contain_text("1 trip")
            paper = PdfReader(BytesIO(page.pdf(format="Letter", margin=MARGINS)))
            text = " ".join(paper.pages[0].extract_text().split())
            self.assertIn("Burrow 17 excavator", text)
            self.assertNotIn("Put it on the board", text)
            page.get_by_role("button", name="Put it on the board").click()
            cards = page.locator(f"[data-day='{self.day}'] .board-card")
            expect(cards).to_have_count(2)
            # and one of them goes a day later
            cards.first.locator(".board-move").click()
            later = self.day + timedelta(days=1)
            form = page.locator("#moving")
            form.get_by_label("Day").select_option(later.isoformat())
            form.get_by_role("button", name="Move it").click()
            expect(page.locator(f"[data-day='{later}'] .board-card")).to_have_count(1)
            self.assertEqual(Haul.objects.filter(day=later).count(), 1)

    def test_by_keys_alone(self) -> None:
        with self.page(1300, 1000) as page:
            page.goto(f"{self.live_server_url}/day/plan/?day={self.day}")
            row = page.locator(".wanted-row").first
            for label, words in zip(("What", "From", "To"), OUT, strict=True):
                self.reach(page, row.get_by_label(label, exact=True))
                page.keyboard.type(words[:8])
            self.reach(page, page.get_by_role("button", name="Plan it"))
            page.keyboard.press("Enter")
            expect(page.locator("h1")).to_contain_text("1 trip")
            self.reach(page, page.get_by_role("button", name="Put it on the board"))
            page.keyboard.press("Enter")
            expect(page.locator(f"[data-day='{self.day}'] .board-card")).to_have_count(1)

    def reach(self, page: Page, wanted: Locator) -> None:
        """Go there by the Tab key."""
        for _ in range(80):
            if wanted.evaluate("one => one === document.activeElement"):
                return
            page.keyboard.press("Tab")
        self.fail(f"{wanted} is not reached by the Tab key")

    def test_by_finger_on_a_phone(self) -> None:
        with self.page(390, 844, has_touch=True, is_mobile=True) as page:
            page.goto(f"{self.live_server_url}/day/plan/?day={self.day}")
            row = page.locator(".wanted-row").first
            for label, words in zip(("What", "From", "To"), OUT, strict=True):
                row.get_by_label(label, exact=True).select_option(label=words)
            self.assert_nothing_sticks_out(page)
            page.get_by_role("button", name="Plan it").tap()
            expect(page.locator("h1")).to_contain_text("1 trip")
            self.assert_nothing_sticks_out(page)
            self.assert_accessible(page)
