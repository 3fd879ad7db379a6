"""Whole planning sessions with three loads, from an empty deck to the sentence: by mouse, by
keyboard alone, and by finger on a phone."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from book.models import Bulk, Hitch, Machine, Trailer
from e2e.case import OVERLAPPING, BrowserCase
from e2e.test_planner import centre, saved
from hauls.loads import Load
from hauls.models import Haul
from hauls.store import create_haul
from yards.models import User, Yard

LOADS = ("Harrow 60 backhoe tractor, backhoe off", "Pallet of drain pipe", "Trench plough")
CREW = "Drain crew to the Long Drain"


class Session(BrowserCase):
    def empty(self) -> Haul:
        """A haul on the gooseneck with nothing on it."""
        yard = Yard.objects.get()
        return create_haul(
            yard=yard,
            user=User.objects.get(username="demo"),
            name="Crew, planned anew",
            hitch=Hitch.objects.get(name="Gooseneck ball"),
            trailer=Trailer.objects.get(name="25 ft gooseneck"),
            loads=[],
        )

    def three_on(self, truck: str, trailer: str) -> Haul:
        """A haul of three loads on a trailer that is too short for them."""
        yard = Yard.objects.get()
        return create_haul(
            yard=yard,
            user=User.objects.get(username="demo"),
            name=f"Three on the {trailer}",
            hitch=Hitch.objects.filter(truck__name=truck, type="ball").first(),
            trailer=Trailer.objects.get(name=trailer),
            loads=[
                Load(machine=Machine.objects.get(name="Trench plough")),
                Load(bulk=Bulk.objects.get(name="Pallet of drain pipe")),
                Load(machine=Machine.objects.get(name="Burrow 17 excavator")),
            ],
        )

    def stored(self, haul: Haul) -> list[str]:
        """What is on the deck, as it is stored."""
        haul.refresh_from_db()
        return [item["name"] for item in haul.document["items"]]

    def reference(self, haul: Haul, index: int) -> float:
        """Where a mark is stored, in inches."""
        haul.refresh_from_db()
        return float(haul.document["items"][index]["placement"]["reference"])


class ByMouse(Session):
    def test_from_an_empty_deck_to_the_sentence(self) -> None:
        haul = self.empty()
        with self.page() as page:
            self.open_haul(page, haul.name)
            expect(page.locator("#say")).to_contain_text("Nothing on the deck yet.")
            page.locator("#more-hands summary").click()
            for count, name in enumerate(LOADS, 1):
                page.select_option("#load", label=name)
                page.get_by_role("button", name="Put on").click()
                saved(page)
                expect(page.locator("[data-item] .balance")).to_have_count(2 * count)
            self.assertEqual(list(LOADS), self.stored(haul))
            expect(page.locator(".chip[aria-pressed=true]")).to_contain_text("Trench plough")

            # dragged away and up to the tractor again, the plough lands behind it by itself
            page.evaluate("scrollTo(0, 0)")
            x, y = centre(page, "#machine-2")
            page.mouse.move(x, y)
            page.mouse.down()
            page.mouse.move(x + 70, y, steps=5)
            page.mouse.up()
            saved(page)
            tractor = page.locator("#machine-0").bounding_box()
            plough = page.locator("#machine-2").bounding_box()
            assert tractor is not None
            assert plough is not None
            x, y = centre(page, "#machine-2")
            page.mouse.move(x, y)
            page.mouse.down()
            gap = plough["x"] - tractor["x"] - tractor["width"]
            page.mouse.move(x - gap + 3, y, steps=5)
            # the drop is stored before the page is left
            with page.expect_response(
                lambda answer: "commit=1" in (answer.request.post_data or "")
            ):
                page.mouse.up()
            saved(page)
            undo = page.locator("[data-undo]")
            expect(undo).to_have_attribute("title", "Undo: moved Trench plough")

            page.get_by_role("link", name="Arrange").click()
            expect(page.locator("main")).to_contain_text("Proved: no other arrangement")
            page.get_by_role("button", name="Stand them like this").first.click()
            page.wait_for_selector("#picture")
            expect(page.locator("#say")).not_to_contain_text("Do not stop with the")
            expect(page.locator("#say .verdict")).to_contain_text("near")
            expect(page.locator(".lane-mark")).to_have_count(3)
            self.assert_nothing_sticks_out(page)

            # all of it can be undone: arranged, dragged, and three loads put on
            expect(undo).to_have_attribute("title", "Undo: arranged anew")
            haul.refresh_from_db()
            for _ in range(haul.step):
                with page.expect_response(lambda answer: answer.request.method == "POST"):
                    undo.click()
                saved(page)
            expect(page.locator("#say")).to_contain_text("Nothing on the deck yet.")
            self.assertEqual([], self.stored(haul))

    def test_figures_open_into_their_arithmetic_and_are_copied(self) -> None:
        with self.page(permissions=["clipboard-read", "clipboard-write"]) as page:
            self.open_haul(page, CREW)
            page.locator("[data-do='open figure.rear']").click()
            expect(page.locator(".why-figure")).to_contain_text("Truck rear axle")
            page.locator(".why-figure [data-copy]").click()
            expect(page.locator(".why-figure [data-copy]")).to_have_text("Copied")
            copied = page.evaluate("navigator.clipboard.readText()")
            self.assertIn("Bed tank, full", copied)
            self.assertIn("comes to: 5,9", copied)
            self.assertIn("open=figure.rear", page.url)
            page.reload()
            expect(page.locator(".why-figure")).to_contain_text("Truck rear axle")

    def test_bars_are_slid_and_hung(self) -> None:
        with self.page() as page:
            haul = self.open_haul(page, "Orchard tractor to the Quarry Lane block")
            page.get_by_role("link", name="Level").click()
            before = page.locator("#bars tbody tr").nth(1).inner_text()
            page.locator("#restore").focus()
            for _ in range(4):
                page.keyboard.press("ArrowRight")
            expect(page.locator("#restore-now")).to_have_text("70 %")
            self.assertNotEqual(before, page.locator("#bars tbody tr").nth(1).inner_text())
            page.get_by_role("button", name="Hang bars in this haul").click()
            expect(page.locator(".note")).to_contain_text("bars give back 70 %")
            haul.refresh_from_db()
            bars = haul.document["hitch"]["weight_distribution"]
            self.assertEqual(0.7, bars["front_axle_restoration"])

    def test_nothing_overlaps_wherever_three_loads_stand(self) -> None:
        haul = Haul.objects.get(name=CREW)
        short = self.three_on("Work truck 3", "12 ft dump trailer")
        tilt = self.three_on("Gooseneck truck", "14 ft tilt")
        places = ((150, 150, 150), (120, 20, 310), (340, 345, 330), (60, 200, 280), (-5, 30, 80))
        for width, height in ((1280, 800), (1024, 768), (390, 844)):
            with self.page(width, height) as page:
                for one, row in ((h, row) for h in (haul, short, tilt) for row in places):
                    query = "&".join(
                        f"id-{n}=m{n + 1}&reference-{n}={at}&facing-{n}=forward"
                        for n, at in enumerate(row)
                    )
                    page.goto(f"{self.live_server_url}/hauls/{one.pk}/?count=3&{query}")
                    with self.subTest(width=width, haul=one.name, places=row):
                        self.assertEqual([], page.evaluate(OVERLAPPING))


class ByKeyboard(Session):
    def press_until(self, page: Page, key: str, script: str) -> None:
        """Press a key until something is so; it is a fault where it never is."""
        for _ in range(90):
            if page.evaluate(script):
                return
            page.keyboard.press(key)
        self.fail(f"{key} does not lead to {script}")

    def test_from_an_empty_deck_to_the_sentence(self) -> None:
        haul = self.empty()
        with self.page() as page:
            self.open_haul(page, haul.name)
            self.press_until(
                page, "Tab", "document.activeElement.closest('#more-hands summary') !== null"
            )
            page.keyboard.press("Enter")
            for count, letter in enumerate(("Harrow 60", "Pallet", "Trench"), 1):
                self.press_until(page, "Tab", "document.activeElement.id === 'load'")
                page.keyboard.type(letter)
                page.keyboard.press("Tab")
                page.keyboard.press("Enter")
                expect(page.locator("[data-item] .balance")).to_have_count(2 * count)
                saved(page)
            self.assertEqual("Trench plough", self.stored(haul)[-1])
            page.keyboard.press("Escape")
            page.locator("h1").click()
            chosen = page.locator(".chip[aria-pressed=true]").inner_text()
            page.keyboard.press("1")
            # a letter or figure outside the drawing asks for nothing
            self.assertEqual(page.locator(".chip[aria-pressed=true]").inner_text(), chosen)
            page.locator(".machine.in-hand").focus()
            page.keyboard.press("1")
            expect(page.locator(".chip[aria-pressed=true]")).to_contain_text("Harrow 60")
            page.keyboard.press("3")
            expect(page.locator(".chip[aria-pressed=true]")).to_contain_text("Trench plough")
            before = self.reference(haul, 2)
            page.keyboard.press("ArrowRight")
            page.keyboard.press("Shift+ArrowLeft")
            saved(page)
            self.assertAlmostEqual(before - 5, self.reference(haul, 2), places=2)
            page.keyboard.press("Control+z")
            page.keyboard.press("Control+z")
            undo = page.locator("[data-undo]")
            expect(undo).to_have_attribute("title", "Undo: put Trench plough on")
            self.assertAlmostEqual(before, self.reference(haul, 2), places=4)
            page.keyboard.press("1")
            expect(page.locator(".chip[aria-pressed=true]")).to_contain_text("Harrow 60")
            page.keyboard.press("]")
            saved(page)
            page.keyboard.press("t")
            expect(page.locator("[data-undo]")).to_have_attribute(
                "title", re.compile("Undo: turned Harrow 60")
            )
            page.keyboard.press("t")
            saved(page)
            expect(page.locator("#say")).to_contain_text("behind the headboard")


class ByFinger(Session):
    def test_from_an_empty_deck_to_the_sentence_on_a_phone(self) -> None:
        haul = self.empty()
        with self.page(390, 844, has_touch=True, is_mobile=True) as page:
            self.open_haul(page, haul.name)
            page.locator("#more-hands summary").tap()
            for count, name in enumerate(LOADS, 1):
                page.select_option("#load", label=name)
                page.get_by_role("button", name="Put on").tap()
                expect(page.locator("[data-item] .balance")).to_have_count(2 * count)
                saved(page)
            page.locator("#more-hands summary").tap()
            page.get_by_role("button", name="2 Pallet of drain pipe").tap()
            expect(page.locator(".chip[aria-pressed=true]")).to_contain_text("Pallet")
            before = self.reference(haul, 1)
            page.get_by_role("button", name="6 in back").tap()
            saved(page)
            self.assertAlmostEqual(before + 6, self.reference(haul, 1), places=2)
            page.get_by_role("button", name="Undo").tap()
            undo = page.locator("[data-undo]")
            expect(undo).to_have_attribute("title", "Undo: put Trench plough on")
            self.assertAlmostEqual(before, self.reference(haul, 1), places=4)
            page.get_by_role("link", name="Arrange").tap()
            page.get_by_role("button", name="Stand them like this").first.tap()
            page.wait_for_selector("#picture")
            expect(page.locator("#say")).to_contain_text("behind the headboard")
            self.assert_nothing_sticks_out(page)
