"""The gauge: from a line received to the figure on the page, with many pages watching; and
the fit of many readings."""

from __future__ import annotations

import random
import re
import socket
import statistics
import subprocess
import sys
import time
from dataclasses import replace

from playwright.sync_api import sync_playwright

from bench.server import ROOT, Client, Server, sign_in
from e2e.browser import ARGUMENTS, CHROMIUM
from mechanics.fit import Belief, Seen, What, fit, predict

ORCHARD = "Orchard tractor to the Quarry Lane block"
WATCH = """() => {
  window.drawn = [];
  const place = document.getElementById('gauge');
  new MutationObserver(() => {
    const figure = place.querySelector('.gauge-figure b');
    if (figure) window.drawn.push([figure.textContent, Date.now()]);
  }).observe(place, {childList: true});
}"""
"""Every figure a page draws, with the wall clock when it stood in the page."""


def bench_gauge(server: Server, *, pages: int = 20, lines: int = 60) -> tuple[list[float], int]:
    """Milliseconds from a line leaving the gauge to its figure in each page, and how many
    figures never came. Every line carries a load of its own, so that it is found again."""
    key = _key(server)
    haul = re.findall(
        r'href="(/hauls/\d+/)"',
        Client(server).ask("GET", "/?q=" + ORCHARD.replace(" ", "+"))[1],
    )[0]
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=ARGUMENTS)
        first = browser.new_context()
        page = first.new_page()
        sign_in(page, server)
        state = first.storage_state()
        watching = []
        # a browser opens six connections to a server: each page is a browser of its own
        for _ in range(pages):
            one = browser.new_context(
                storage_state=state, viewport={"width": 390, "height": 844}
            ).new_page()
            one.goto(f"{server.address}{haul}gauge/")
            one.evaluate(WATCH)
            watching.append(one)
        wire = socket.create_connection(("127.0.0.1", server.gauge_port), timeout=5)
        wire.sendall(
            b'{"eyebolt_gauge": 1, "key": "%s", "unit": "lb", "step": 1, "rating": 4000}\n'
            % key.encode()
        )
        wire.makefile("rb").readline()
        sent: dict[str, float] = {}
        for n in range(lines):
            load = 1000 + n
            sent[f"{load:,}"] = time.time() * 1000
            wire.sendall(b'{"load": %d}\n' % load)
            time.sleep(0.2)
        watching[0].wait_for_timeout(1000)
        times = []
        for one in watching:
            seen: dict[str, float] = {}
            for figure, at in one.evaluate("window.drawn"):
                seen.setdefault(figure, at)
            times += [seen[figure] - at for figure, at in sent.items() if figure in seen]
        wire.close()
        browser.close()
    return times, pages * lines - len(times)


def _key(server: Server) -> str:
    """The demo gauge's key."""
    code = "from gauge.models import Gauge; print(Gauge.objects.first().key)"
    found = subprocess.run(
        [sys.executable, "manage.py", "shell", "-v", "0", "-c", code],
        cwd=ROOT,
        env=server.environment,
        check=True,
        capture_output=True,
        text=True,
    )
    return found.stdout.strip()


def bench_fit(count: int = 200, runs: int = 15) -> float:
    """Median seconds of a fit of so many readings."""
    book = Belief(
        trailer=(1315.0, 20.0),
        tongue=(172.0, 12.0),
        machine=(2427.0, 120.0),
        ahead=(0.762, 0.08),
        lever=(5.08, 0.01),
    )
    rng = random.Random(3)
    kinds = (What.TONGUE_LOADED, What.TRAILER_LOADED, What.MACHINE, What.TONGUE_EMPTY)
    readings = []
    for n in range(count):
        seen = Seen(what=kinds[n % 4], kg=1.0, doubt=8.0, mark_m=rng.uniform(4.4, 5.6))
        readings.append(replace(seen, kg=rng.gauss(predict(book.values(), seen)[0], 8.0)))
    times = []
    for _ in range(runs):
        begin = time.perf_counter()
        fit(readings, book)
        times.append(time.perf_counter() - begin)
    return statistics.median(times)
