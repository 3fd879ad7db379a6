"""Lengths typed on a drawing of the book: by mouse, by keys, wrong and right."""

from __future__ import annotations

from playwright.sync_api import expect

from book.models import Machine, Trailer
from e2e.case import BrowserCase

DECK = '[data-measure="deck_start"]'


class OnTheDrawing(BrowserCase):
    def test_pressed_typed_and_drawn_anew(self) -> None:
        self.expected = {422}
        trailer = Trailer.objects.get(name="20 ft equipment trailer")
        with self.page() as page:
            page.goto(f"{self.live_server_url}/book/trailers/{trailer.pk}/")
            page.fill("#id_deck_width", "83 in")
            page.locator(DECK).click()
            box = page.locator(".typing input")
            expect(box).to_be_focused()
            expect(box).to_have_value("52 in")
            box.fill("far")
            box.press("Enter")
            expect(page.locator(".typing .wrong")).to_contain_text("is not a length")
            box.fill("4 ft 6")
            box.press("Enter")
            expect(page.locator(DECK)).to_contain_text("4 ft 6 in to deck")
            expect(page.locator(DECK)).to_be_focused()
            # the form knows of it, and what was typed in other boxes is still there
            expect(page.locator("#id_deck_start")).to_have_value("54 in")
            expect(page.locator("#id_deck_width")).to_have_value("83 in")
            page.get_by_role("button", name="Save trailer").click()
            page.wait_for_url("**/book/**")
            self.assert_accessible(page)
        trailer.refresh_from_db()
        self.assertEqual((str(trailer.deck_start), str(trailer.deck_width)), ("54 in", "83 in"))

    def test_by_keys_alone_and_given_up(self) -> None:
        machine = Machine.objects.get(name="Kestrel T6 compact loader")
        with self.page() as page:
            page.goto(f"{self.live_server_url}/book/machines/{machine.pk}/")
            one = page.locator('[data-measure="reach_front"]')
            one.focus()
            page.keyboard.press("Enter")
            expect(page.locator(".typing input")).to_be_focused()
            page.keyboard.press("Escape")
            expect(page.locator(".typing")).to_have_count(0)
            expect(one).to_be_focused()
            self.assert_accessible(page)
