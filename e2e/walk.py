"""From signing up on an empty yard to a first verdict, as a person would do it.

The same walk is tested, on a desk and on a phone, and timed by ``scripts.first_verdict``
with the pauses of somebody who reads labels and types with two fingers.
"""

from __future__ import annotations

from dataclasses import dataclass

from playwright.sync_api import Locator, Page


@dataclass
class Hands:
    """Fills boxes and presses buttons; counts both, and keeps a person's pace if asked to.

    ``key_ms`` is the pause between two keys, ``look_ms`` the time to find and read the next
    box or button.
    """

    page: Page
    key_ms: float = 0
    look_ms: float = 0
    boxes: int = 0
    presses: int = 0
    keys: int = 0

    def write(self, label: str, text: str) -> None:
        """Type into the box of that label."""
        self.page.wait_for_timeout(self.look_ms)
        box = self.page.get_by_label(label, exact=True).locator("visible=true").first
        box.click()
        box.press_sequentially(text, delay=self.key_ms)
        self.boxes += 1
        self.keys += len(text)

    def fill_row(self, row: Locator, figures: dict[str, str]) -> None:
        """Type into boxes of a row by the ends of their names."""
        for name, text in figures.items():
            self.page.wait_for_timeout(self.look_ms)
            box = row.locator(f"input[name$={name}]")
            box.press_sequentially(text, delay=self.key_ms)
            self.boxes += 1
            self.keys += len(text)

    def choose(self, label: str, words: str) -> None:
        """Choose from the list of that label."""
        self.page.wait_for_timeout(self.look_ms)
        box = self.page.get_by_label(label, exact=True).locator("visible=true").first
        box.select_option(label=words)
        self.boxes += 1

    def press(self, words: str) -> None:
        """Press the button or link of that name."""
        self.page.wait_for_timeout(self.look_ms)
        link = self.page.get_by_role("link", name=words, exact=True)
        button = self.page.get_by_role("button", name=words, exact=True)
        link.or_(button).locator("visible=true").first.click()
        self.page.wait_for_load_state("load")
        self.presses += 1


def sign_up(hands: Hands, address: str) -> None:
    """A yard of one's own."""
    hands.page.goto(f"{address}/sign-in/")
    hands.press("Make a yard of your own")
    hands.write("Your yard", "Alder Farm")
    hands.write("Name to sign in with", "nell")
    hands.write("Password", "hay-and-barley")
    hands.write("Password again", "hay-and-barley")
    hands.press("Make the yard")


def enter_truck(hands: Hands) -> None:
    """A truck off its door sticker, with its hitch."""
    hands.press("Add a truck")
    hands.write("Name", "Farm pickup")
    hands.write("Wheelbase", "13 ft 4")
    for label, text in (
        ("Gross vehicle rating (GVWR)", "10,000"),
        ("Front axle rating (GAWR)", "5200"),
        ("Rear axle rating (GAWR)", "6340"),
        ("Payload", "2700"),
        ("Gross combination rating (GCWR)", "22000"),
        ("Tow rating", "13000"),
    ):
        hands.write(label, text)
    hands.choose("Empty weight from", "Door sticker: GVWR less payload")
    driver = hands.page.locator("[data-prefix=loads] fieldset").first
    hands.fill_row(driver, {"name": "Driver", "-mass": "190", "ahead_of_rear_axle": "72"})
    hands.press("Save truck")
    hands.write("Behind the rear axle", "50")
    hands.choose("Kind", "Ball")
    hands.write("Ball size", "2 5/16")
    hands.write("Trailer rating", "12,000")
    hands.press("Save hitch")


def enter_trailer(hands: Hands) -> None:
    """A tandem trailer off its plate, taped and weighed."""
    hands.press("Add a trailer")
    hands.write("Name", "Big flat trailer")
    for label, text in (
        ("Gross vehicle rating (GVWR)", "10000"),
        ("Empty mass", "2900"),
        ("Empty tongue weight", "380"),
        ("Deck begins behind the coupler", "52"),
        ("Deck length", "20 ft"),
        ("Track width", "84"),
    ):
        hands.write(label, text)
    rows = hands.page.locator("[data-prefix=axles] fieldset")
    for n, place in enumerate(("183", "217")):
        hands.fill_row(rows.nth(n), {"position": place, "gawr": "5200"})
    hands.choose("Kind", "Utility")
    coupler = hands.page.locator("[data-prefix=new] fieldset").first
    coupler.locator("select").select_option("coupler")
    hands.boxes += 1
    hands.fill_row(coupler, {"ball_size": "2 5/16"})
    hands.press("Save trailer")


def enter_machine(hands: Hands) -> None:
    """A tractor whose two axles were weighed."""
    hands.press("Add a machine")
    hands.write("Name", "Loader tractor")
    hands.choose("Its weight comes from", "Both axles weighed one by one")
    for label, text in (
        ("Front axle mass", "2100"),
        ("Rear axle mass", "3250"),
        ("Reaches ahead of the mark", "118"),
        ("Reaches behind the mark", "46"),
        ("Wheelbase", "76"),
    ):
        hands.write(label, text)
    hands.press("Save machine")


def plan_haul(hands: Hands) -> None:
    """The first haul; with one of each there is nothing to choose but its name."""
    hands.press("Plan the first haul")
    hands.write("Name", "Tractor to the mill")
    hands.press("Plan it")
    hands.page.wait_for_selector(".say-first")


def first_verdict(hands: Hands, address: str) -> str:
    """The whole walk; what the planner says first."""
    sign_up(hands, address)
    enter_truck(hands)
    enter_trailer(hands)
    enter_machine(hands)
    plan_haul(hands)
    return " ".join(hands.page.locator(".say-first").inner_text().split())
