"""The practice yard under hands: a case of each kind to its end, by keys and by finger."""

from __future__ import annotations

from playwright.sync_api import Locator, Page, expect

from demo.login import DRIVER
from demo.practised import COURSE
from e2e.case import BrowserCase
from practice.cases import Case
from practice.kinds import KINDS
from practice.kinds.placing import PLACE
from practice.models import Attempt, Course

SEED = 41
PHONE = {"has_touch": True, "is_mobile": True}


class PracticeCase(BrowserCase):
    def open_case(self, page: Page, kind: str) -> Case:
        """A case of a kind, and what is true of it."""
        page.goto(f"{self.live_server_url}/practice/{kind}/{SEED}/")
        found = next(one for one in KINDS if one.slug == kind)
        expect(page.locator("h1")).to_have_text(found.title)
        return found.make(SEED)

    def wanted(self, page: Page, case: Case) -> list[Locator]:
        """The boxes of the best answer."""
        return [
            page.locator(f"input[name='{name}'][value='{value}']")
            for name, values in case.best().items()
            for value in values
        ]

    def steps_to(self, slider: Locator, case: Case) -> int:
        """How many steps of the slider the best place is away; negative further forward."""
        (place,) = case.best()[PLACE]
        return round(float(place) / (0.0254 / 2)) - int(slider.input_value())


class ByKeys(PracticeCase):
    def test_every_kind_to_its_end(self) -> None:
        with self.page() as page:
            for kind in KINDS:
                case = self.open_case(page, kind.slug)
                slider = page.locator(".practice-slide input[type=range]")
                if slider.count():
                    slider.focus()
                    steps = self.steps_to(slider, case)
                    for _ in range(abs(steps)):
                        page.keyboard.press("ArrowRight" if steps > 0 else "ArrowLeft")
                    expect(page.locator("#placed b")).to_have_text(
                        slider.get_attribute("aria-valuetext") or ""
                    )
                else:
                    for box in self.wanted(page, case):
                        box.focus()
                        page.keyboard.press("Space")
                        expect(box).to_be_checked()
                if case.moves:
                    page.get_by_role("button", name="Move it there and read").focus()
                    page.keyboard.press("Enter")
                    expect(page.locator(".practice-readings")).to_contain_text("Move 1")
                    page.get_by_role("button", name="Leave it where it stands").focus()
                else:
                    page.get_by_role("button", name="That is my answer").focus()
                page.keyboard.press("Enter")
                expect(page.locator(".say .verdict")).to_have_text("Right")
                self.assert_accessible(page)
            rows = Attempt.objects.filter(seed=SEED, person__username="demo")
            self.assertEqual(rows.filter(grade="right").count(), len(KINDS))


class AllMoves(PracticeCase):
    def test_with_no_move_left_it_is_left_where_it_stands(self) -> None:
        with self.page() as page:
            case = self.open_case(page, "gauge")
            for n in range(case.moves):
                page.locator(".practice-slide input[type=range]").press("ArrowLeft")
                page.get_by_role("button", name="Move it there and read").click()
                expect(page.locator(".practice-readings")).to_contain_text(f"Move {n + 1}")
            expect(page.locator(".practice-slide input[type=range]")).to_be_disabled()
            page.get_by_role("button", name="Leave it where it stands").click()
            expect(page.locator(".say .verdict")).to_be_visible()


class ByMouse(PracticeCase):
    def test_the_machine_is_dragged_along_the_deck(self) -> None:
        with self.page() as page:
            self.open_case(page, "eye")
            slider = page.locator(".practice-slide input[type=range]")
            before = int(slider.input_value())
            box = page.locator(".practice-picture").bounding_box()
            assert box is not None
            x, y = box["x"] + box["width"] * 0.75, box["y"] + box["height"] * 0.5
            page.mouse.move(x, y)
            page.mouse.down()
            page.mouse.move(x - 60, y, steps=6)
            page.mouse.up()
            moved = before - int(slider.input_value())
            step = float(page.locator(".practice-hand").get_attribute("data-per-step") or 0)
            self.assertAlmostEqual(moved, 60 * 868 / box["width"] / step, delta=2)
            expect(page.locator("#placed b")).to_have_text(
                slider.get_attribute("aria-valuetext") or ""
            )


class ByFinger(PracticeCase):
    def test_every_kind_to_its_end_on_a_phone(self) -> None:
        with self.page(390, 844, login=DRIVER, **PHONE) as page:
            for kind in KINDS:
                case = self.open_case(page, kind.slug)
                self.assert_nothing_sticks_out(page)
                slider = page.locator(".practice-slide input[type=range]")
                if slider.count():
                    before = slider.input_value()
                    slider.scroll_into_view_if_needed()
                    box = slider.bounding_box()
                    assert box is not None
                    page.touchscreen.tap(box["x"] + box["width"] * 0.3, box["y"] + 10)
                    self.assertNotEqual(slider.input_value(), before)
                else:
                    for one in self.wanted(page, case):
                        one.locator("xpath=..").tap()
                        expect(one).to_be_checked()
                if case.moves:
                    page.get_by_role("button", name="Move it there and read").tap()
                    expect(page.locator(".practice-readings")).to_contain_text("Move 1")
                    page.get_by_role("button", name="Leave it where it stands").tap()
                else:
                    page.get_by_role("button", name="That is my answer").tap()
                expect(page.locator(".say .verdict")).to_be_visible()
                self.assert_nothing_sticks_out(page)

    def test_a_phone_has_it_in_the_menu(self) -> None:
        with self.page(320, 700, login=DRIVER, **PHONE) as page:
            page.goto(f"{self.live_server_url}/road/")
            self.assert_nothing_sticks_out(page)
            expect(page.locator(".bar .nav-wide")).to_be_hidden()
            page.locator(".person-name").tap()
            page.locator(".person-menu").get_by_role("link", name="Practice").tap()
            expect(page.locator("h1")).to_have_text("Practice")
            page.get_by_role("link", name=f"Go on with {COURSE}").tap()
            expect(page.locator(".page-head")).to_contain_text(f"{COURSE}, case 3 of 9")


class Courses(PracticeCase):
    def test_sheets_print_a_case_to_a_page(self) -> None:
        course = Course.objects.get(name=COURSE)
        with self.page() as page:
            page.goto(f"{self.live_server_url}/practice/courses/{course.pk}/sheets/?answers=1")
            expect(page.locator("article")).to_have_count(9)
            self.assert_accessible(page)
            page.emulate_media(media="print")
            expect(page.locator(".practice-running").first).to_be_visible()
            expect(page.locator("header.bar")).to_be_hidden()
            pages = page.pdf(format="Letter").count(b"/Type /Page\n")
            self.assertIn(pages, range(9, 13))

    def test_a_course_is_made_by_keys(self) -> None:
        with self.page() as page:
            page.goto(f"{self.live_server_url}/practice/courses/new/")
            page.get_by_label("Name").fill("Winter")
            page.keyboard.press("Enter")
            for kind in ("Tie it down", "It sways"):
                page.get_by_label("Kind").select_option(label=kind)
                page.get_by_role("button", name="Put it in").press("Enter")
                expect(page.locator(".practice-parts")).to_contain_text(kind)
            page.locator(".practice-change").nth(1).get_by_role("button", name="Up").press("Enter")
            expect(page.locator(".practice-parts li").first).to_contain_text("It sways")
            page.get_by_role("link", name="Start").press("Enter")
            expect(page.locator("h1")).to_have_text("It sways")
