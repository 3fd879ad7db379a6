"""The tape walk under a thumb: a first verdict with a mark, from what everybody has in the hand."""

from __future__ import annotations

from playwright.sync_api import Page, expect

from book.models import Truck
from e2e.case import WAIT, BrowserCase
from e2e.tape import Thumb, walk_round
from hauls.models import Haul
from yards.models import Membership, Role, User, Yard

BOXES = 22
"""What a first verdict may ask for at most."""


class TapeWalk(BrowserCase):
    def first_day(self) -> User:
        """Somebody with a yard and nothing in it."""
        user = User.objects.create_user("newcomer", password="first-day-1")
        yard = Yard.objects.create(name="First day")
        Membership.objects.create(yard=yard, user=user, role=Role.OWNER)
        return user

    def test_on_a_phone_in_at_most_22_boxes(self) -> None:
        self.first_day()
        with self.page(390, 844, login="newcomer", has_touch=True, is_mobile=True) as page:
            thumb = Thumb(page)
            said = walk_round(thumb, self.live_server_url)
            self.assertIn("likely ok", said)
            self.assertRegex(said, r"Likely right with the rear axle at about \d+ ft")
            self.assertLessEqual(thumb.boxes, BOXES)
            expect(page.locator(".say-advice")).to_contain_text("The best place lies between")
            expect(page.locator(".say-weigh")).to_contain_text("then")
            page.locator(".estimates summary").click()
            expect(page.locator(".estimates li").first).to_be_visible()
            self.assert_accessible(page)
            self.assert_nothing_sticks_out(page)
            # one tap from the estimate to its box, and the way back
            page.locator(".estimates a").first.click()
            expect(page.locator("#id_empty_from")).to_be_visible()
        haul = Haul.objects.get(yard__name="First day")
        self.assertTrue(haul.draft.plan.estimated)

    def test_one_handed_every_key_is_large_and_the_pages_are_sound(self) -> None:
        self.first_day()
        with self.page(390, 844, login="newcomer", has_touch=True, is_mobile=True) as page:
            page.goto(f"{self.live_server_url}/walk/")
            self.assert_accessible(page)
            page.get_by_role("button", name="Begin at the truck").click()
            for selector in (".walk-key", ".walk-next", ".walk-leave"):
                for one in page.locator(selector).all():
                    box = one.bounding_box()
                    assert box is not None
                    self.assertGreaterEqual(min(box["width"], box["height"]), 44, selector)
            expect(page.locator("#answer")).to_have_attribute("inputmode", "none")
            self.assert_accessible(page)
            self.assert_nothing_sticks_out(page)
            self.put(page, "9900", "/front-axle/")
            for slug in ("ball-size", "trailer-kind", "coupler-to-axles", "machine-kind"):
                page.goto(page.url.rsplit("/", 2)[0] + f"/{slug}/")
                self.assert_accessible(page)
                self.assert_nothing_sticks_out(page)

    def test_no_page_is_wider_than_320(self) -> None:
        self.first_day()
        with self.page(320, 640, login="newcomer") as page:
            page.goto(f"{self.live_server_url}/walk/")
            page.get_by_role("button", name="Begin at the truck").click()
            expect(page.locator("#answer")).to_be_visible()
            self.assert_nothing_sticks_out(page)
            page.get_by_role("link", name="The whole walk").click()
            expect(page.locator("#answer")).to_have_count(0)
            self.assert_nothing_sticks_out(page)

    def put(self, page: Page, typed: str, to: str) -> None:
        """Type an answer on a desk's keyboard and press Enter."""
        page.fill("#answer", typed)
        page.press("#answer", "Enter")
        page.wait_for_url(f"**{to}", timeout=WAIT)

    def test_at_a_desk_by_the_keyboard_alone(self) -> None:
        self.first_day()
        self.expected = {422}
        with self.page(login="newcomer") as page:
            page.goto(f"{self.live_server_url}/walk/")
            page.get_by_role("button", name="Begin at the truck").press("Enter")
            expect(page.locator("#answer")).to_be_focused()
            expect(page.locator(".walk-key").first).to_be_hidden()
            page.keyboard.type("heavy")
            page.keyboard.press("Enter")
            expect(page.locator("#wrong")).to_contain_text("is not a mass")
            expect(page.locator("#answer")).to_have_value("heavy")
            self.put(page, "9,900 lb", "/front-axle/")
            expect(page.locator("#answer")).to_be_focused()
            page.keyboard.press("Tab")
            page.keyboard.press("Tab")
            expect(page.locator(".walk-leave")).to_be_focused()
            page.keyboard.press("Enter")
            page.wait_for_url("**/rear-axle/")
            self.assertEqual(str(Truck.objects.get(name="Truck").gvwr), "9900 lb")

    def test_keys_of_the_pad_write_as_people_say_it(self) -> None:
        self.first_day()
        with self.page(390, 844, login="newcomer", has_touch=True, is_mobile=True) as page:
            page.goto(f"{self.live_server_url}/walk/")
            page.get_by_role("button", name="Begin at the truck").click()
            page.goto(page.url.replace("truck-gvwr", "coupler-to-deck"))
            for label in ("1", "6", "ft", "8", "½", "in", "⌫", "⌫"):
                page.locator(f".walk-key:text-is('{label}')").click()
            expect(page.locator("#answer")).to_have_value("16 ft 8 1/")
            page.locator(".walk-key:text-is('⌫')").click()
            page.locator(".walk-key:text-is('⌫')").click()
            page.locator(".walk-key:text-is('in')").click()
            expect(page.locator("#answer")).to_have_value("16 ft 8 in ")
            page.locator(".walk-next").click()
            page.wait_for_url("**/deck-length/")
