"""A week in the yard without a mouse: from a new machine over its haul to the scale ticket."""

from __future__ import annotations

from playwright.sync_api import Locator, Page, expect

from book.models import Machine, Ticket
from demo.login import LOGIN, PASSWORD
from e2e.case import BrowserCase
from hauls.models import Haul
from road.models import StepDone

MOST_TABS = 220
"""Presses of Tab after which nothing more is reached."""


class Keyboard(BrowserCase):
    """Only keys are pressed, and what is pressed has the focus, reached by Tab."""

    def reach(self, page: Page, target: Locator) -> None:
        """Tab until it has the focus; it has to be seen then."""
        target.wait_for()
        for _ in range(MOST_TABS):
            if target.evaluate("one => one === document.activeElement"):
                break
            page.keyboard.press("Tab")
        else:
            self.fail(f"the Tab key does not reach {target}")
        expect(target).to_be_in_viewport()

    def go(self, page: Page, name: str, role: str = "link") -> None:
        """A link or button by its name, pressed."""
        self.reach(page, page.get_by_role(role, name=name, exact=True).first)  # type: ignore[arg-type]
        page.keyboard.press("Enter")

    def fill(self, page: Page, box: str, text: str) -> None:
        """A box, filled."""
        self.reach(page, page.locator(box))
        page.keyboard.type(text)

    def pick(self, page: Page, box: str, label: str) -> None:
        """A list, moved along until it says what is wanted."""
        chosen = page.locator(box)
        self.reach(page, chosen)
        page.keyboard.press("Home")
        for _ in range(60):
            if chosen.evaluate("one => one.selectedOptions[0].label.trim()") == label:
                return
            page.keyboard.press("ArrowDown")
        self.fail(f"{box} has no {label}")

    def test_a_week(self) -> None:
        context = self.browser.new_context(viewport={"width": 1280, "height": 800})
        page = context.new_page()
        page.goto(f"{self.live_server_url}/sign-in/")

        # Monday: in, and a machine that was borrowed goes into the book
        self.fill(page, "[name=username]", LOGIN)
        self.fill(page, "[name=password]", PASSWORD)
        page.keyboard.press("Enter")
        expect(page.locator(".card-haul").first).to_be_visible()
        self.go(page, "Book")
        self.go(page, "Add a machine")
        for box, text in (("name", "Borrowed roller"), ("mass", "1.9 t")):
            self.fill(page, f"#id_{box}", text)
        self.pick(page, "#id_mass_known", "Plate")
        for box, text in (
            ("balance_ahead", "1 ft 8"),
            ("reach_front", "6 ft"),
            ("reach_rear", "2 ft 4"),
        ):
            self.fill(page, f"#id_{box}", text)
        self.go(page, "Save machine", "button")
        expect(page.locator(".note").first).to_contain_text("Borrowed roller is saved")
        self.assertEqual(str(Machine.objects.get(name="Borrowed roller").mass), "1.9 t")

        # Tuesday: its haul
        self.go(page, "Haul")
        self.go(page, "New haul")
        self.fill(page, "#id_name", "Roller to the mill")
        self.pick(page, "#id_hitch", "Work truck 3, Receiver")
        self.pick(page, "#id_trailer", "20 ft equipment trailer")
        self.pick(page, "#id_load_1", "Borrowed roller")
        self.go(page, "Plan it", "button")
        expect(page.locator(".say-first")).to_contain_text("rear axle")
        haul = Haul.objects.get(name="Roller to the mill")

        # Wednesday: an inch further back, and what holds it
        self.reach(page, page.locator("#machine-0"))
        before = page.locator("#reading").input_value()
        page.keyboard.press("ArrowRight")
        expect(page.locator("#reading")).not_to_have_value(before)
        expect(page.locator("#saved")).to_have_text("saved")
        self.go(page, "Tied down")
        expect(page).to_have_url(f"{self.live_server_url}/hauls/{haul.pk}/tied-down/")
        self.go(page, "Load card")
        expect(page.locator("main")).to_contain_text("headboard to the rear axle")

        # Thursday: hooked up
        self.go(page, "Road")
        page.goto(f"{self.live_server_url}/hauls/{haul.pk}/road/")
        self.reach(page, page.locator(".way-button:visible"))
        page.keyboard.press("Enter")
        expect(page.locator(".way-now")).to_contain_text("next: load")
        page.wait_for_load_state("networkidle")
        self.assertTrue(StepDone.objects.filter(haul=haul).exists())

        # Friday: over the scale
        self.go(page, "Weigh")
        page.goto(f"{self.live_server_url}/hauls/{haul.pk}/scale/")
        for box, text in (("steer", "3,920"), ("drive", "4,740"), ("trailer", "6,300")):
            self.fill(page, f"[name={box}]", text)
        self.go(page, "Compare", "button")
        expect(page.locator(".scale-table")).to_contain_text("14,960 lb")
        self.fill(page, "[name=number]", "5150")
        self.go(page, "Keep the ticket", "button")
        expect(page.locator("h1")).to_be_visible()
        expect(page).to_have_url(
            f"{self.live_server_url}/weigh/tickets/{Ticket.objects.get(number='5150').pk}/"
        )

        # Saturday: found again, and out
        page.keyboard.press("Home")
        self.go(page, "Find")
        self.fill(page, "#find", "Borrowed")
        page.keyboard.press("Enter")
        self.go(page, "Borrowed roller")
        expect(page.locator("h1").first).to_be_attached()
        self.assertEqual(self.seen, [])
        context.close()
