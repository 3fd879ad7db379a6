"""How it tows: the damping over speeds, a run through time, a frame of the moving view."""

from __future__ import annotations

from typing import Final

from playwright.sync_api import sync_playwright

from bench.core import median_seconds
from bench.server import Server, sign_in
from e2e.browser import ARGUMENTS, CHROMIUM
from mechanics.motion import Push, motions
from mechanics.sway import cases, towing_of
from mechanics.tests.outfits import example_plan
from mechanics.units import M_S_PER_MPH

SPEEDS: Final = 40

FRAMES: Final = """() => {
  const at = document.getElementById("sway-at"), picture = document.querySelector(".sway-road");
  const took = [];
  for (let n = 0; n <= Number(at.max); n += 1) {
    const begin = performance.now();
    at.value = n;
    at.dispatchEvent(new Event("input", { bubbles: false }));
    picture.getBoundingClientRect();
    took.push(performance.now() - begin);
  }
  return took;
}"""
"""Puts every frame in place and has the page laid out."""


def bench_damping() -> float:
    """Seconds for the damping at 40 speeds with its band."""
    towing = towing_of(example_plan())
    speeds = [(35 + n) * M_S_PER_MPH for n in range(SPEEDS)]
    most = 80 * M_S_PER_MPH
    return median_seconds(lambda: cases(towing, speeds, most_m_s=most, step_m_s=M_S_PER_MPH), 30)


def bench_motion() -> float:
    """Seconds for a run of twelve seconds on three courses."""
    towing = towing_of(example_plan())
    return median_seconds(
        lambda: motions(towing, 8.0, 55 * M_S_PER_MPH, Push.LANE, seconds=12.0), 20
    )


def bench_frames(server: Server) -> list[float]:
    """Milliseconds of each frame of the moving view put in place and laid out, in Chromium."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=ARGUMENTS)
        page = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
        sign_in(page, server)
        page.get_by_role("link", name="Orchard tractor to the Quarry Lane block").click()
        page.wait_for_selector("#picture")
        page.goto(f"{page.url.rstrip('/')}/sway/?push=lane")
        page.wait_for_selector("#sway-at")
        times: list[float] = page.evaluate(FRAMES)
        browser.close()
    return times
