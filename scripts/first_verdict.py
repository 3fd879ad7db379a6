"""Time the walk from an empty yard to a first verdict, at the pace of a person.

``python -m scripts.first_verdict`` serves an empty database, signs up, enters a truck, a
trailer and a machine, plans a haul, and prints how long each part took. Every box costs a
look before it is filled, and every letter a keystroke.
"""

from __future__ import annotations

import os
import sys
import tempfile
import time
from pathlib import Path

from playwright.sync_api import sync_playwright

from bench.server import Server
from e2e.browser import ARGUMENTS, CHROMIUM
from e2e.walk import Hands, enter_machine, enter_trailer, enter_truck, plan_haul, sign_up

KEY_MS = 250
"""Between two keys: four a second, as people type figures with two fingers."""

LOOK_MS = 2500
"""To find the next box or button and read the figure off the plate."""

WITHIN_S = 300


def main() -> None:
    """Walk at a desk and on a phone; fail where either takes longer than five minutes."""
    os.environ.setdefault("EYEBOLT_HTTPS", "0")
    late = False
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=ARGUMENTS)
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
