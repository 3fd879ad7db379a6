"""A ticket on a phone, from the scale to the corrected book."""

from __future__ import annotations

from playwright.sync_api import Route, expect

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
            expect(page.locator("#outcome .tolerance").first).to_be_visible()
            expect(page.locator("#outcome .tolerance").first).to_contain_text("±")

            # the phone is closed half-way: what was typed is still there
            page.get_by_label("Place", exact=True).fill("Mill Ponds scale")
            page.reload()
            expect(page.get_by_label("With the machine on")).to_have_value("15,360")
            expect(page.get_by_label("Place", exact=True)).to_have_value("Mill Ponds scale")
            expect(page.locator("#outcome")).to_contain_text("5,340 lb")

            # who was aboard: rows that were added come back too
            page.locator("#aboard-fold summary").tap()
            page.get_by_role("button", name="Add a row").tap()
            page.locator("#id_aboard-0-what").select_option("people")
            page.locator("#id_aboard-0-name").fill("Jo")
            page.locator("#id_aboard-1-what").select_option("fuel")
            page.reload()
            expect(page.locator("#id_aboard-1-what")).to_have_value("fuel")
            expect(page.locator("#id_aboard-0-name")).to_have_value("Jo")
            self.assert_nothing_sticks_out(page)

            page.get_by_label("Whose weight is it?").select_option("Harrow 48 tractor with loader")
            page.get_by_role("button", name="Keep the ticket").tap()
            expect(page.locator(".note")).to_contain_text("Nothing in the book has changed.")
            ticket = Ticket.objects.get(method="before-and-after")
            self.assertEqual("5340 lb", str(ticket.whole_mass))
            self.assertEqual(["person", "fuel"], [load.kind for load in ticket.loads.all()])
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

    def test_a_refused_ticket_survives_a_closed_phone_too(self) -> None:
        self.expected = {422}
        with self.page(390, 844, has_touch=True, is_mobile=True) as page:
            address = f"{self.live_server_url}/weigh/gauge/"
            page.goto(address)
            page.locator("#id_reading").fill("1,240")
            page.locator("#id_place").fill("=ford")
            page.get_by_role("button", name="Keep the ticket").tap()
            expect(page.locator(".note-error")).to_contain_text("what you typed is still there")
            page.goto(address)
            expect(page.locator("#id_place")).to_have_value("=ford")
            page.locator("#id_place").fill("The ford")
            page.get_by_role("button", name="Keep the ticket").tap()
            expect(page.locator(".note")).to_contain_text("The ticket is kept.")
            # kept, it is let go: the next one begins empty
            page.goto(address)
            expect(page.locator("#id_reading")).to_have_value("")

    def test_on_a_shared_phone_a_draft_belongs_to_whoever_typed_it(self) -> None:
        with self.page(390, 844, has_touch=True, is_mobile=True) as page:
            address = f"{self.live_server_url}/weigh/gauge/"
            page.goto(address)
            page.locator("#id_place").fill("The ford")
            page.context.add_cookies([self.session_of("demo-driver")])
            page.goto(address)
            expect(page.locator("#id_place")).to_have_value("")
            page.locator("#id_place").fill("The quarry")
            page.context.add_cookies([self.session_of("demo")])
            page.goto(address)
            expect(page.locator("#id_place")).to_have_value("The ford")

    def test_signed_out_in_the_middle_the_whole_page_goes_to_sign_in(self) -> None:
        self.expected = {401}
        with self.page() as page:
            page.goto(f"{self.live_server_url}/weigh/gauge/")
            page.context.clear_cookies(name="sessionid")
            page.locator("#id_reading").fill("1,240")
            page.wait_for_url("**/sign-in/?next=%2Fweigh%2Fgauge%2F")
            expect(page.get_by_role("heading", name="Sign in to your yard")).to_be_visible()

    def test_corrected_at_once_it_is_kept_once(self) -> None:
        """The button is pressed while the arithmetic is still being asked for."""
        with self.page() as page:
            page.goto(f"{self.live_server_url}/weigh/gauge/")
            before = Ticket.objects.count()
            page.locator("#id_reading").fill("1,240")
            page.get_by_role("button", name="Keep the ticket").click()
            expect(page.locator(".note")).to_contain_text("The ticket is kept.")
            self.assertEqual(before + 1, Ticket.objects.count())
            page.get_by_role("link", name="Correct it").click()
            page.locator("#id_reading").fill("1,260")
            page.get_by_role("button", name="Keep the ticket").click()
            expect(page.locator(".ticket-figures")).to_contain_text("1,260 lb")
            self.assertEqual(before + 1, Ticket.objects.count())

    def test_the_arithmetic_never_moves_a_button_that_is_being_pressed(self) -> None:
        """It comes in above the button; here it is there between pressing and letting go."""
        with self.page(390, 844) as page:
            page.goto(f"{self.live_server_url}/weigh/gauge/")
            button = page.get_by_role("button", name="Keep the ticket")
            button.scroll_into_view_if_needed()
            page.evaluate("document.getElementById('id_reading').value = '1,240'")
            held: list[Route] = []

            def hold(route: Route) -> None:
                held.append(route)

            page.route("**/weigh/gauge/", hold, times=1)
            with page.expect_request("**/weigh/gauge/"):
                page.locator("#id_place").fill("The ford")
            where = button.bounding_box()
            assert where is not None
            page.mouse.move(where["x"] + where["width"] / 2, where["y"] + where["height"] / 2)
            page.mouse.down()
            with page.expect_response("**/weigh/gauge/"):
                held[0].continue_()
            page.evaluate(
                "new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))"
            )
            self.assertEqual(where, button.bounding_box())
            expect(page.locator("#outcome")).to_contain_text("fills in as you type")
            # let go elsewhere, it is asked for again
            page.mouse.move(5, 5)
            page.mouse.up()
            expect(page.locator("#outcome")).to_contain_text("1,240 lb")
            button.click()
            expect(page.locator(".note")).to_contain_text("The ticket is kept.")

    def test_a_ticket_on_paper(self) -> None:
        """Black on white, with its readings, and nothing to press."""
        ticket = Ticket.objects.filter(method="haul").first()
        assert ticket is not None
        with self.page(color_scheme="dark") as page:
            page.goto(f"{self.live_server_url}/weigh/tickets/{ticket.pk}/")
            page.emulate_media(media="print")
            expect(page.locator(".bar")).to_be_hidden()
            expect(page.get_by_role("button", name="Remove the ticket")).to_be_hidden()
            expect(page.get_by_role("button", name="Print")).to_be_hidden()
            expect(page.get_by_text("Drive, truck alone")).to_be_visible()
            paper = page.evaluate("getComputedStyle(document.body).backgroundColor")
            self.assertEqual("rgb(255, 255, 255)", paper)

    def test_a_contradiction_left_out_and_the_rest_put_in_the_book(self) -> None:
        with self.page() as page:
            page.goto(f"{self.live_server_url}/weigh/together/")
            page.get_by_role("link", name="20 ft equipment trailer with Kestrel").click()
            expect(page.locator(".fit-agree")).to_contain_text("cannot all be right")
            page.locator(".fit-worst input").check()
            page.get_by_role("button", name="Put together without the ticked ones").click()
            expect(page.locator(".fit-untold .scale-words").last).to_have_text("left out")
            page.get_by_label("Mass of the machine").check()
            page.get_by_role("button", name="Put the ticked ones in the book").click()
            expect(page.locator(".note")).to_contain_text("The book now has the fitted")
            expect(page.get_by_role("heading", name="Taken over before")).to_be_visible()
