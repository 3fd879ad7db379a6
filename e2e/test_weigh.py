"""A ticket on a phone, from the scale to the corrected book."""

from __future__ import annotations

from playwright.sync_api import expect

from book.models import Machine, Ticket
from e2e.case import BrowserCase


class OnAPhone(BrowserCase):
    def test_from_the_scale_to_the_book(self) -> None:
        with self.page(390, 844, has_touch=True, is_mobile=True) as page:
            page.goto(f"{self.live_server_url}/weigh/")
            page.select_option("#has", "platform")
            page.select_option("#want", "machine")
            expect(page.locator("#ways .card-haul")).to_have_count(2)
            page.get_by_role("link", name="With the machine, then without").tap()
            page.get_by_label("With the machine on").fill("15,360")
            page.get_by_label("Without it").fill("4545 kg")
            expect(page.locator("#outcome")).to_contain_text("5,340 lb")
            expect(page.locator("#outcome")).to_contain_text("±")

            # the phone is closed half-way: what was typed is still there
            page.get_by_label("Place", exact=True).fill("Mill Ponds scale")
            page.reload()
            expect(page.get_by_label("With the machine on")).to_have_value("15,360")
            expect(page.get_by_label("Place", exact=True)).to_have_value("Mill Ponds scale")
            expect(page.locator("#outcome")).to_contain_text("5,340 lb")

            page.get_by_label("Whose weight is it?").select_option("Harrow 48 tractor with loader")
            page.get_by_role("button", name="Keep the ticket").tap()
            expect(page.locator(".note")).to_contain_text("Nothing in the book has changed.")
            self.assertEqual(
                "5340 lb", str(Ticket.objects.get(method="before-and-after").whole_mass)
            )
            page.get_by_role("button", name="Put it in the book").tap()
            expect(page.locator(".note").first).to_contain_text("now says what was weighed")
            machine = Machine.objects.get(name="Harrow 48 tractor with loader")
            self.assertEqual("5340 lb", str(machine.mass))

    def test_a_reading_that_cannot_be_is_said_as_it_is_typed(self) -> None:
        with self.page() as page:
            page.goto(f"{self.live_server_url}/weigh/together-and-alone/")
            page.get_by_label("Truck and trailer together").fill("6000")
            page.get_by_label("Truck alone").fill("7420")
            expect(page.locator("#outcome")).to_contain_text("cannot weigh more than")
