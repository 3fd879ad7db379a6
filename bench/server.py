"""The production server on loopback, with a demo yard of its own."""

from __future__ import annotations

import http.client
import os
import re
import socket
import subprocess
import sys
import threading
import time
from pathlib import Path
from types import TracebackType
from typing import Final
from urllib.parse import urlencode

from playwright.sync_api import Page, sync_playwright

from demo.login import LOGIN, PASSWORD
from e2e.browser import ARGUMENTS, CHROMIUM

ROOT = Path(__file__).resolve().parent.parent
SECONDS = 8
"""Length of one measurement."""


def free_port() -> int:
    """A port that nobody listens on."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


START_S = 180
"""Seconds that a slow machine may take to load the demo yard and serve it."""


class Server:
    """The server as the demo starts it, on a free port, with its data in a scratch folder."""

    def __init__(self, folder: Path) -> None:
        self.port, self.gauge_port = free_port(), free_port()
        self.environment = {
            **os.environ,
            "EYEBOLT_DATA": str(folder),
            "EYEBOLT_HTTPS": "0",
            "PORT": str(self.port),
            "EYEBOLT_GAUGE_PORT": str(self.gauge_port),
        }

    def __enter__(self) -> Server:
        self.process = subprocess.Popen(
            [sys.executable, "-m", "scripts.demo"],
            cwd=ROOT,
            env=self.environment,
            stdout=subprocess.DEVNULL,
        )
        for _ in range(START_S * 10):
            try:
                socket.create_connection(("127.0.0.1", self.port), timeout=1).close()
                return self
            except OSError:
                time.sleep(0.1)
        self.process.kill()
        raise RuntimeError(f"the server did not start within {START_S} s")

    def __exit__(
        self,
        kind: type[BaseException] | None,
        error: BaseException | None,
        trace: TracebackType | None,
    ) -> None:
        self.process.terminate()
        self.process.wait(timeout=20)

    @property
    def address(self) -> str:
        """Where it serves."""
        return f"http://127.0.0.1:{self.port}"


class Client:
    """One person's browser, as far as a drag needs one."""

    def __init__(self, server: Server, like: Client | None = None) -> None:
        """Signed in anew, or ``like`` somebody who is: another browser of the same person."""
        self.connection = http.client.HTTPConnection("127.0.0.1", server.port, timeout=30)
        self.cookies: dict[str, str] = {}
        self.busy = 1
        if like is not None:
            self.cookies = dict(like.cookies)
            return
        page = self.ask("GET", "/sign-in/")[1]
        fields = {"username": LOGIN, "password": PASSWORD, "csrfmiddlewaretoken": token(page)}
        self.ask("POST", "/sign-in/", fields)

    def ask(self, method: str, path: str, fields: dict[str, str] | None = None) -> tuple[int, str]:
        """One request on the kept connection; status and text."""
        headers = {
            "Cookie": "; ".join(f"{k}={v}" for k, v in self.cookies.items()),
            "HX-Request": "true",
        }
        body = None
        if fields is not None:
            body = urlencode(fields)
            headers["Content-Type"] = "application/x-www-form-urlencoded"
        self.connection.request(method, path, body, headers)
        answer = self.connection.getresponse()
        self.busy = int(answer.getheader("Eyebolt-Busy") or 1)
        for header, value in answer.getheaders():
            if header.lower() == "set-cookie":
                name, _, rest = value.partition("=")
                self.cookies[name] = rest.split(";")[0]
        return answer.status, answer.read().decode()


def token(page: str) -> str:
    """The form token of a page."""
    found = re.search(r'name="csrfmiddlewaretoken" value="([^"]+)"', page)
    if found is None:
        raise RuntimeError("the page holds no form token")
    return found[1]


CREW = "Drain crew to the Long Drain"
"""The demo haul with three loads."""


def haul_of_three(server: Server) -> str:
    """Where the haul with three loads is."""
    home = Client(server).ask("GET", "/?q=" + CREW.replace(" ", "+"))[1]
    return str(re.findall(r'href="(/hauls/\d+/)"', home)[0])


BESIDE_S = 0.3
"""What the page leaves between two steps once a strip plays under the hand."""

A_DRAG_S = 4.0
"""How long somebody drags before he lets go and takes it up again."""

ROOM = 3
"""How many times as long as an answer took the page waits for each request in hand."""


def bench_drag(
    server: Server, *, clients: int, paced: bool, only: str | None = None, strips: bool = False
) -> tuple[list[float], int]:
    """Times of drag steps by several people at once, each on a haul, and how many failed.

    ``paced`` keeps the page's own pace: steps at least 33 ms apart, and where several
    requests were in hand ``ROOM`` times as long for each as the last answer took; else each asks
    again as soon as it is answered. ``only`` is one haul that all of them drag. With ``strips``
    each asks as the page does: a strip on taking the load up, steps meanwhile, and ``BESIDE_S``
    between them once it is there.
    """
    times: list[float] = []
    errors = [0]
    first = Client(server)
    people = [first, *(Client(server, first) for _ in range(clients - 1))]
    home = people[0].ask("GET", "/")[1]
    hauls = [only] if only else sorted(set(re.findall(r'href="(/hauls/\d+/)"', home)))
    end = time.perf_counter() + SECONDS * (3 if strips else 1)

    def ask_strip(person: Client, haul: str, fields: dict[str, str], here: threading.Event) -> None:
        status, _ = person.ask("POST", f"{haul}strip/", fields)
        errors[0] += status != 200
        here.set()

    def drag(person: Client, haul: str, number: int) -> None:
        # people do not take their loads up at one and the same moment
        time.sleep(number * A_DRAG_S / clients if strips else 0.0)
        page = person.ask("GET", haul)[1]
        inner = page[page.index('id="planner"') :]
        fields = dict(re.findall(r'type="hidden" name="([^"]+)" value="([^"]*)"', inner))
        fields |= {"do": "drag", "commit": "0"}
        begin_at = float(fields["reference-0"])
        step, taken_up = 0, -A_DRAG_S
        other, here = Client(server, first), threading.Event()
        while (begin := time.perf_counter()) < end:
            step += 1
            if strips and begin - taken_up > A_DRAG_S:
                taken_up, here = begin, threading.Event()
                asked = fields | {"selected": "0", "to": fields["reference-0"]}
                threading.Thread(target=ask_strip, args=(other, haul, asked, here)).start()
            fields["to"] = str(begin_at + step % 40 - 20)
            status, text = person.ask("POST", f"{haul}preview/", fields)
            taken = time.perf_counter() - begin
            times.append(taken)
            errors[0] += status != 200 or 'id="planner"' not in text
            if paced:
                share = ROOM * person.busy if person.busy > 1 else 1
                gap = BESIDE_S if here.is_set() else 0.033
                time.sleep(max(gap - taken, (share - 1) * taken))

    threads = [
        threading.Thread(target=drag, args=(person, hauls[n % len(hauls)], n))
        for n, person in enumerate(people)
    ]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return times, errors[0]


def sign_in(page: Page, server: Server) -> None:
    """Sign in as the demo yard's owner."""
    page.goto(f"{server.address}/sign-in/")
    page.fill("#id_username", LOGIN)
    page.fill("#id_password", PASSWORD)
    page.press("#id_password", "Enter")
    page.wait_for_selector(".cards")


def bench_transfer(server: Server) -> tuple[int, int]:
    """Bytes that a browser receives for the planner page: first visit, and again."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=ARGUMENTS)
        signed_in = browser.new_context()
        page = signed_in.new_page()
        sign_in(page, server)
        haul = page.get_attribute(".card-haul a", "href")
        fresh = browser.new_context(storage_state=signed_in.storage_state())
        page = fresh.new_page()
        received = [0]
        watch = fresh.new_cdp_session(page)
        watch.send("Network.enable")
        watch.on(
            "Network.loadingFinished",
            lambda event: received.__setitem__(0, received[0] + int(event["encodedDataLength"])),
        )
        page.goto(f"{server.address}{haul}", wait_until="networkidle")
        first, received[0] = received[0], 0
        page.goto(f"{server.address}{haul}", wait_until="networkidle")
        again = received[0]
        browser.close()
    return first, again


LISTS = ("/", "/?verdict=over", "/?q=Haul+12", "/book/", "/hauls/new/", "/match/", "/book/tables/")
"""List pages of a yard."""


def bench_lists(server: Server) -> list[tuple[str, float]]:
    """Median seconds of each list page in a yard of 500 machines and 5,000 hauls."""
    subprocess.run(
        [sys.executable, "-m", "bench.fill"], cwd=ROOT, env=server.environment, check=True
    )
    person = Client(server)
    found = []
    for path in LISTS:
        times = []
        for _ in range(25):
            begin = time.perf_counter()
            status, _ = person.ask("GET", path)
            times.append(time.perf_counter() - begin)
            if status != 200:
                raise RuntimeError(f"{path} answered {status}")
        found.append((path, sorted(times)[len(times) // 2]))
    return found


REDRAWN = """() => {
  const times = [];
  let waiting = null;
  document.addEventListener('pointermove', () => { waiting ??= performance.now(); }, true);
  new MutationObserver(() => {
    if (waiting === null) return;
    const begun = waiting;
    waiting = null;
    requestAnimationFrame(() => times.push(performance.now() - begun));
  }).observe(document.getElementById('planner'), {
    subtree: true, attributes: true, characterData: true,
  });
  window.redrawn = times;
}"""


def bench_browser(server: Server) -> tuple[list[float], float]:
    """In Chromium, of the haul with three loads: milliseconds from a pointer's move to the
    figures redrawn, for each redraw of a drag, and to the first content with a cold cache."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=ARGUMENTS)
        signed_in = browser.new_context()
        page = signed_in.new_page()
        sign_in(page, server)
        fresh = browser.new_context(
            storage_state=signed_in.storage_state(), viewport={"width": 1280, "height": 800}
        )
        page = fresh.new_page()
        page.goto(server.address + haul_of_three(server))
        page.wait_for_selector("#machine-0")
        paint = page.evaluate("performance.getEntriesByName('first-contentful-paint')[0].startTime")
        page.evaluate(REDRAWN)
        box = page.locator("#machine-0").bounding_box()
        if box is None:
            raise RuntimeError("the first load is not in the picture")
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        page.mouse.move(x, y)
        page.mouse.down()
        for step in range(150):
            page.mouse.move(x + 3 * (20 - abs(step % 40 - 20)), y)
            page.wait_for_timeout(16)
        page.mouse.up()
        page.wait_for_timeout(300)
        times = page.evaluate("window.redrawn")
        browser.close()
    return times, float(paint)


SLID: Final = """async () => {
  const slider = document.getElementById("climb-at");
  const times = [];
  for (let n = 0; n < 150; n += 1) {
    slider.value = (n * 7) % Number(slider.max);
    const begin = performance.now();
    slider.dispatchEvent(new Event("input"));
    await new Promise(requestAnimationFrame);
    times.push(performance.now() - begin);
  }
  return times;
}"""
"""From the slider's move to the frame that shows it, in ms."""


def bench_slider(server: Server) -> list[float]:
    """Milliseconds from a move of the slider to the frame that shows it, in Chromium."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=ARGUMENTS)
        page = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
        sign_in(page, server)
        page.get_by_role("link", name="Orchard tractor to the Quarry Lane block").click()
        page.get_by_role("link", name="On and off").click()
        page.wait_for_selector("#climb-at")
        times: list[float] = page.evaluate(SLID)
        browser.close()
    return times
