"""What axe cannot see: where the focus is, menus that close, saves that are refused."""

from __future__ import annotations

from playwright.sync_api import expect

from e2e.case import BrowserCase
from e2e.test_pages import HAULS

UNSEEN = """() => {
  const seen = getComputedStyle(document.activeElement);
  const width = parseFloat(seen.outlineWidth);
  const one = document.activeElement;
  return seen.outlineStyle === 'none' || width < 2 ? one.outerHTML.slice(0, 120) : '';
}"""
"""What has the focus without an outline that is seen."""


class Focus(BrowserCase):
    def test_whatever_has_the_focus_is_seen(self) -> None:
        with self.page() as page:
            for address in ("/", "/book/", "/book/trailers/1/", "/road/rules/", "/weigh/"):
                page.goto(self.live_server_url + address)
                for _ in range(25):
                    page.keyboard.press("Tab")
                    self.assertEqual(page.evaluate(UNSEEN), "", address)

    def test_menus_close_on_escape_and_on_a_press_beside_them(self) -> None:
        with self.page() as page:
            self.open_haul(page, HAULS[0])
            menu = page.locator("details.haul-more")
            for leave in (
                lambda: page.keyboard.press("Escape"),
                lambda: page.locator("h1").click(),
            ):
                menu.locator("summary").click()
                expect(menu).to_have_attribute("open", "")
                leave()
                expect(menu).not_to_have_attribute("open", "")

    def test_colours_of_the_browsers_own(self) -> None:
        with self.page(forced_colors="active") as page:
            self.open_haul(page, HAULS[0])
            button = page.get_by_role("button", name="Turn round")
            style = button.evaluate("e => getComputedStyle(e).borderTopStyle")
            self.assertEqual(style, "solid")
            # the drawing keeps its own colours on its own ground
            kept = page.locator("#picture").evaluate("e => getComputedStyle(e).forcedColorAdjust")
            self.assertEqual(kept, "none")


class Forms(BrowserCase):
    def test_a_refused_save_says_what_on_top_and_leads_to_it(self) -> None:
        with self.page() as page:
            page.goto(f"{self.live_server_url}/book/trailers/1/")
            page.get_by_label("gross vehicle rating (GVWR)", exact=False).fill("seven tons or so")
            page.get_by_label("deck length", exact=False).first.fill("long")
            self.expected = {422}
            page.get_by_role("button", name="Save trailer").click()
            faults = page.locator(".faults li")
            expect(faults).to_have_count(2)
            expect(faults.first).to_contain_text("is not a mass")
            self.assertEqual(page.evaluate("document.activeElement.name"), "gvwr")
            page.locator(".faults a").last.click()
            self.assertEqual(page.evaluate("document.activeElement.name"), "deck_length")
            expect(page.locator("#id_gvwr")).to_have_value("seven tons or so")
            self.assert_accessible(page)

    def test_switching_units_keeps_what_was_typed_and_what_it_meant(self) -> None:
        with self.page() as page:
            page.goto(f"{self.live_server_url}/book/trailers/new/")
            page.get_by_label("Name").first.fill("New one")
            page.locator("#id_gvwr").fill("7,000")
            page.get_by_role("button", name="kg · mm").click()
            expect(page.get_by_role("button", name="kg · mm")).to_have_attribute(
                "aria-pressed", "true"
            )
            expect(page.get_by_label("Name").first).to_have_value("New one")
            expect(page.locator("#id_gvwr")).to_have_value("7,000 lb")
