"""One current picture of each main view, from a fresh demo yard: ``make screenshots``."""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
from datetime import UTC, datetime, timedelta
from pathlib import Path

from playwright.sync_api import Browser, Page, sync_playwright

from bench.server import ROOT, Server
from demo.login import LOGIN, PASSWORD
from e2e.browser import ARGUMENTS, CHROMIUM
from e2e.tape import Thumb

TARGET = Path(__file__).resolve().parent.parent / "docs" / "screenshots"
DESK, PHONE = (1280, 800), (390, 844)
GAUGED = "Orchard tractor to the Quarry Lane block"
# name, link to follow from the list (or an address), size, colour scheme
VIEWS = (
    ("home", "/", DESK, "light"),
    ("planner", "Orchard tractor to the Quarry Lane block", DESK, "light"),
    ("practice", "/practice/eye/7/", DESK, "light"),
    ("sway", f"{GAUGED} > /sway/?push=lane&shift=4", DESK, "light"),
    ("book", "/book/", DESK, "light"),
    ("book-trailer", "/book/trailers/1/", DESK, "light"),
    ("weigh-phone", "/weigh/three-pads/", PHONE, "light"),
    ("arrange", "Drain crew to the Long Drain > Arrange", DESK, "light"),
    ("on-and-off", "Orchard tractor to the Quarry Lane block > On and off", DESK, "light"),
    ("tied-down", "Orchard tractor to the Quarry Lane block > Tied down", DESK, "light"),
    ("load-card", "Orchard tractor to the Quarry Lane block > Load card", DESK, "light"),
    ("match", "/match/?load_1=machine-2", DESK, "light"),
    ("gauge-phone", f"{GAUGED} > /gauge/", PHONE, "light"),
    ("road-phone", f"{GAUGED} > /road/", PHONE, "light"),
    ("fleet", "/fleet/", DESK, "light"),
    ("buy", "/match/buy/?load_1=machine-2&trip=long", DESK, "light"),
    ("board", "/day/", DESK, "light"),
)


def stand_in(server: Server) -> subprocess.Popen[bytes]:
    """A stand-in for the gauge, sending to that server."""
    return subprocess.Popen(
        [sys.executable, "manage.py", "simulate_gauge", "--haul", GAUGED, "--drop-every", "0"],
        cwd=ROOT,
        env=server.environment,
        stdout=subprocess.DEVNULL,
    )


def signed_in(page: Page, server: Server) -> None:
    """Sign the demo's person in."""
    page.goto(f"{server.address}/sign-in/")
    page.fill("#id_username", LOGIN)
    page.fill("#id_password", PASSWORD)
    page.press("#id_password", "Enter")
    page.wait_for_selector(".cards")


def walked(browser: Browser, server: Server) -> None:
    """The tape walk of somebody new, where the axles are taped."""
    context = browser.new_context(
        viewport={"width": PHONE[0], "height": PHONE[1]}, has_touch=True, is_mobile=True
    )
    page = context.new_page()
    signed_in(page, server)
    page.goto(f"{server.address}/walk/")
    page.get_by_role("button", name="Begin at the truck").click()
    thumb = Thumb(page)
    while "coupler-to-axles" not in page.url:
        thumb.step(machine=False)
    thumb.press("16 ft 8")
    page.evaluate("document.fonts.ready")
    page.screenshot(path=TARGET / "tape-walk-phone.png")
    context.close()


def planned(browser: Browser, server: Server) -> None:
    """A day's plan, of where the demo yard's machines have to be."""
    page = browser.new_context(viewport={"width": DESK[0], "height": DESK[1]}).new_page()
    signed_in(page, server)
    day = datetime.now(tz=UTC).date() + timedelta(days=3)
    page.goto(f"{server.address}/day/plan/?day={day}")
    page.get_by_role("button", name="Plan it").click()
    page.wait_for_selector(".trip", timeout=90_000)
    page.evaluate("document.fonts.ready")
    page.screenshot(path=TARGET / "day-plan.png")
    page.context.close()


def main() -> None:
    """Take every picture anew."""
    TARGET.mkdir(parents=True, exist_ok=True)
    os.environ.setdefault("EYEBOLT_HTTPS", "0")
    with (
        tempfile.TemporaryDirectory() as folder,
        Server(Path(folder)) as server,
        sync_playwright() as playwright,
    ):
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=ARGUMENTS)
        gauge = stand_in(server)
        for name, view, (width, height), scheme in VIEWS:
            context = browser.new_context(
                viewport={"width": width, "height": height},
                color_scheme="dark" if scheme == "dark" else "light",
            )
            page = context.new_page()
            signed_in(page, server)
            if view.startswith("/"):
                page.goto(server.address + view)
            else:
                haul, _, then = view.partition(" > ")
                page.get_by_role("link", name=haul).click()
                page.wait_for_selector("#picture")
                if then.startswith("/"):
                    page.goto(page.url.rstrip("/") + then)
                    if then == "/gauge/":
                        page.get_by_text("Up and pinned").click()
                        page.wait_for_selector("[data-move=rearward], [data-move=forward]")
                elif then:
                    page.get_by_role("link", name=then, exact=True).click()
                    page.wait_for_selector(
                        ".views [aria-current]:not([href$='/']), .page-head, .climb, .tied, "
                        ".load-card"
                    )
            page.evaluate("document.fonts.ready")
            page.screenshot(path=TARGET / f"{name}.png")
            context.close()
        walked(browser, server)
        planned(browser, server)
        browser.close()
        gauge.terminate()
        gauge.wait(10)


if __name__ == "__main__":
    main()
