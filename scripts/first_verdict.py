"""Time the walk from an empty yard to a first verdict, at the pace of a person.

``python -m scripts.first_verdict`` serves an empty database, signs up, takes the tape walk on a
phone with no more than sticker, plate, tape and brochure, and prints how long that took. Then it
enters a truck, a trailer and a machine page by page with all that can be known, plans a haul, and
prints how long each part took. Every box costs a look before it is filled, and every letter a
keystroke.
"""

from __future__ import annotations

import os
import sys
import tempfile
import time
from pathlib import Path

from playwright.sync_api import Browser, sync_playwright

from bench.server import Server
from e2e.browser import ARGUMENTS, CHROMIUM
from e2e.tape import Thumb, walk_round
from e2e.walk import Hands, enter_machine, enter_trailer, enter_truck, plan_haul, sign_up

KEY_MS = 250
"""Between two keys: four a second, as people type figures with two fingers."""

LOOK_MS = 2500
"""To find the next box or button and read the figure off the plate."""

WITHIN_S = 300


FIND_MS = 2000
TYPE_MS = 3000
"""On the tape walk: to find a box and read its figure, and to type it."""


def with_a_tape(browser: Browser) -> bool:
    """The tape walk on a phone, from an empty yard; whether it takes longer than five minutes."""
    with tempfile.TemporaryDirectory() as folder, Server(Path(folder)) as server:
        context = browser.new_context(
            viewport={"width": 390, "height": 844}, has_touch=True, is_mobile=True
        )
        page = context.new_page()
        sign_up(Hands(page), server.address)
        thumb = Thumb(page, find_ms=FIND_MS, type_ms=TYPE_MS)
        started = time.monotonic()
        said = walk_round(thumb, server.address)
        took = time.monotonic() - started
        print(f"tape walk, phone: {took:.0f} s: {thumb.boxes} boxes in {thumb.steps} steps")
        print(f"  it says: {said}")
        context.close()
    return took > WITHIN_S


def main() -> None:
    """Walk at a desk and on a phone; fail where either takes longer than five minutes."""
    os.environ.setdefault("EYEBOLT_HTTPS", "0")
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=ARGUMENTS)
        late = with_a_tape(browser)
        for name, (width, height) in (("desk", (1280, 800)), ("phone", (390, 844))):
            with tempfile.TemporaryDirectory() as folder, Server(Path(folder)) as server:
                context = browser.new_context(viewport={"width": width, "height": height})
                hands = Hands(context.new_page(), key_ms=KEY_MS, look_ms=LOOK_MS)
                started = time.monotonic()
                print(f"{name}, {width} x {height}")
                for words, part in (
                    ("a yard of one's own", lambda h: sign_up(h, server.address)),
                    ("truck and hitch", enter_truck),
                    ("trailer", enter_trailer),
                    ("machine", enter_machine),
                    ("haul", plan_haul),
                ):
                    before = time.monotonic()
                    part(hands)
                    print(f"  {words:22} {time.monotonic() - before:6.0f} s")
                took = time.monotonic() - started
                said = " ".join(hands.page.locator(".say-first").inner_text().split())
                print(
                    f"  together               {took:6.0f} s: {hands.boxes} boxes, "
                    f"{hands.keys} keys, {hands.presses} buttons"
                )
                print(f"  it says: {said}")
                late |= took > WITHIN_S
                context.close()
        browser.close()
    if late:
        sys.exit("Longer than five minutes.")


if __name__ == "__main__":
    main()
