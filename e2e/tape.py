"""The tape walk as somebody does it beside the trailer: sticker, plate, tape and brochure.

Tested on a phone, and timed by ``scripts.first_verdict`` at a reading pace.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from playwright.sync_api import Page

LEFT_OUT: Final = None
"""Not at hand: the estimate is taken, or it is gone on without."""

ANSWERS: Final[dict[str, str | None]] = {
    # the door sticker, and the maker's towing brochure
    "GVWR of the truck": "9900",
    "Front axle rating": "5200",
    "Rear axle rating": "6100",
    "Payload": "2600",
    "Tow rating": "13000",
    "GCWR, truck and trailer together": "22000",
    "Front wheel to rear wheel": LEFT_OUT,
    # ball and parts
    "Which ball is on the truck?": "[2 5/16 in]",
    "Rear axle to ball": LEFT_OUT,
    "Least trailer rating on receiver, mount and ball": LEFT_OUT,
    "Least tongue rating on receiver and mount": LEFT_OUT,
    # the trailer's plate, and the tape
    "What kind of trailer?": "[Flatbed or equipment]",
    "GVWR of the trailer": "10000",
    "How many axles?": "[two]",
    "Rating of one axle": "5200",
    "Which ball is the coupler made for?": "[2 5/16 in]",
    "Coupler to deck": "4 ft 4 in",
    "Length of the deck": "20 ft",
    "Coupler to the middle of the axles": "16 ft 8 in",
    "Tire to tire across": LEFT_OUT,
    # the machine, its brochure and the tape
    "What is hauled?": "[Tractor]",
    "What hangs on it?": "[In front: loader, forks, plow, front weights]",
    "What does the brochure or its plate say it weighs?": "3100",
    "Does that weight count what hangs on it?": "[no, or not said]",
    "From the mark to its front end": "9 ft 8 in",
    "From the mark to its rear end": "3 ft 10 in",
}
"""What is said at each step, by its heading: keys of the pad, ``[a button]``, or left out. The
second wheel to wheel is the machine's."""

MACHINE_BASE: Final = "5 ft 5 in"


@dataclass
class Thumb:
    """Presses the keys of the pad; counts boxes, and keeps a reading pace if asked to.

    ``find_ms`` is spent on finding each box and reading the figure, ``type_ms`` on typing it.
    """

    page: Page
    find_ms: float = 0
    type_ms: float = 0
    boxes: int = 0
    steps: int = 0

    def step(self, machine: bool) -> bool:
        """Answer the step in sight; False once the walk is through."""
        page = self.page
        if not page.locator(".walk-step").count():
            return False
        heading = page.locator("#ask").inner_text()
        answer = ANSWERS[heading]
        if machine and heading == "Front wheel to rear wheel":
            answer = MACHINE_BASE
        self.steps += 1
        before = page.url
        page.wait_for_timeout(self.find_ms)
        if answer is LEFT_OUT:
            page.locator(".walk-leave").click()
        else:
            self.boxes += 1
            page.wait_for_timeout(self.type_ms)
            if answer.startswith("["):
                page.locator(".walk-choice", has_text=answer.strip("[]")).first.click()
            else:
                self.press(answer)
                page.locator(".walk-next").click()
        page.wait_for_url(lambda url: url != before)
        return True

    def press(self, text: str) -> None:
        """Press the pad's keys one by one."""
        words = text.replace("ft", "F").replace("in", "I").replace(" ", "")
        for letter in words:
            label = {"F": "ft", "I": "in"}.get(letter, letter)
            self.page.locator(f".walk-key:text-is('{label}')").click()


def walk_round(thumb: Thumb, address: str) -> str:
    """Begin a walk, answer it to the end, and see where it goes; what the verdict says."""
    page = thumb.page
    page.goto(f"{address}/")
    page.get_by_role("link", name="Take the tape walk").click()
    page.get_by_role("button", name="Begin at the truck").click()
    machine = False
    while thumb.step(machine):
        machine = machine or "/machine-kind/" in page.url
    page.get_by_role("button", name="See where it goes").click()
    page.locator("#say").wait_for()
    return " ".join(page.locator(".say-first").inner_text().split())
