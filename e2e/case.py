"""A real Chromium against a real server, with what every page must keep to."""

from __future__ import annotations

import json
import os
import time
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from pathlib import Path
from typing import TYPE_CHECKING, Any, ClassVar

from django.conf import settings
from django.test import Client, LiveServerTestCase, tag
from playwright.sync_api import Browser, Page, Playwright, expect, sync_playwright

from demo.login import LOGIN
from demo.tests.planted import plant_demo_yard
from e2e.browser import ARGUMENTS, CHROMIUM
from hauls.models import Haul
from web.middleware import in_hand
from yards.models import User

if TYPE_CHECKING:
    from _typeshed.wsgi import WSGIApplication
    from playwright.sync_api import SetCookieParam

AXE = (Path(__file__).parent / "vendor" / "axe.min.js").read_text(encoding="utf-8")
AXE_RULES = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]
WAIT = 20_000
"""Milliseconds that a busy machine may take for anything; what comes sooner ends the wait."""

OVERLAPPING = """() => {
  const boxes = [...document.querySelectorAll('.pictures text')]
    .filter(t => getComputedStyle(t).display !== 'none' && t.textContent.trim())
    .map(t => ({t: t.textContent, b: t.getBoundingClientRect()}));
  const hits = [];
  boxes.forEach((one, i) => boxes.slice(i + 1).forEach(two => {
    const w = Math.min(one.b.right, two.b.right) - Math.max(one.b.left, two.b.left);
    const h = Math.min(one.b.bottom, two.b.bottom) - Math.max(one.b.top, two.b.top);
    if (w > 1 && h > 4) hits.push(one.t + ' / ' + two.t);
  }));
  return hits;
}"""
"""Texts of the planner's pictures that lie on each other."""


def as_it_is(application: WSGIApplication) -> WSGIApplication:
    """No handler of its own for styles and scripts: they are served as in the yard, and kept."""
    return application


@tag("browser")
class BrowserCase(LiveServerTestCase):
    """The demo yard in a browser. Errors and foreign requests fail the test that saw them."""

    static_handler = staticmethod(as_it_is)  # type: ignore[assignment]

    playwright: ClassVar[Playwright]
    browser: ClassVar[Browser]

    @classmethod
    def setUpClass(cls) -> None:
        # the driver keeps an event loop in this thread, which Django takes for async code
        os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "true"
        super().setUpClass()
        # a busy machine is slow, not wrong: what is waited for ends the wait
        expect.set_options(timeout=WAIT)
        cls.playwright = sync_playwright().start()
        cls.browser = cls.playwright.chromium.launch(executable_path=CHROMIUM, args=ARGUMENTS)

    @classmethod
    def tearDownClass(cls) -> None:
        cls.browser.close()
        cls.playwright.stop()
        super().tearDownClass()

    def setUp(self) -> None:
        plant_demo_yard()
        self.seen: list[str] = []
        self.expected: set[int] = set()

    def tearDown(self) -> None:
        self.assertEqual(self.seen, [])

    @contextmanager
    def page(
        self, width: int = 1280, height: int = 800, *, login: str = LOGIN, **options: Any
    ) -> Iterator[Page]:
        """A signed-in page of that size in a browser of its own."""
        context = self.browser.new_context(viewport={"width": width, "height": height}, **options)
        page = context.new_page()
        page.set_default_timeout(WAIT)
        page.on("console", self._console)
        page.on("pageerror", lambda error: self.seen.append(f"script: {error}"))
        page.on("request", self._request)
        context.add_cookies([self.session_of(login)])
        try:
            yield page
        finally:
            context.close()
            self._until_answered()

    def _until_answered(self) -> None:
        """Wait for what a page that is closed had asked for: nothing may be read while the next
        test empties the database."""
        patience = time.monotonic() + WAIT / 1000
        while in_hand() and time.monotonic() < patience:
            time.sleep(0.01)

    def session_of(self, login: str) -> SetCookieParam:
        """The cookie of somebody who has signed in; that it can be done is tested once."""
        client = Client()
        client.force_login(User.objects.get(username=login))
        name = settings.SESSION_COOKIE_NAME
        return {"name": name, "value": client.cookies[name].value, "url": self.live_server_url}

    def _console(self, message: Any) -> None:
        # a page that is refused is told so by the browser, whatever the page says itself
        refusals = {409, 422, *self.expected} if self.expected else set()
        refused = any(f"status of {status}" in message.text for status in refusals)
        if message.type in ("error", "warning") and not refused:
            self.seen.append(f"console: {message.text}")

    def _request(self, request: Any) -> None:
        if not request.url.startswith((self.live_server_url, "data:")):
            self.seen.append(f"foreign request: {request.url}")

    def open_haul(self, page: Page, name: str) -> Haul:
        """Open a haul by its name."""
        haul = Haul.objects.get(name=name)
        page.goto(f"{self.live_server_url}/hauls/{haul.pk}/")
        page.wait_for_selector("#picture")
        return haul

    def assert_accessible(self, page: Page, *, only: Sequence[str] = ()) -> None:
        """No violation of WCAG 2.2 AA that axe can find; ``only`` asks for some rules alone."""
        page.wait_for_load_state()
        page.evaluate(AXE)
        kind, values = ("rule", list(only)) if only else ("tag", AXE_RULES)
        asked = {"type": kind, "values": values}
        found = page.evaluate("asked => axe.run(document, {runOnly: asked})", asked)
        problems = [
            {"rule": v["id"], "where": [n["target"] for n in v["nodes"]][:4], "what": v["help"]}
            for v in found["violations"]
        ]
        self.assertEqual(problems, [], json.dumps(problems, indent=1))

    def assert_nothing_sticks_out(self, page: Page) -> None:
        """No sideways scrolling, once the page's styles and fonts are there."""
        page.wait_for_load_state()
        wide = page.evaluate("document.documentElement.scrollWidth - window.innerWidth")
        self.assertLessEqual(wide, 0)

    def stored_inches(self, haul: Haul) -> float:
        """Where the first item's mark is stored."""
        haul.refresh_from_db()
        return float(haul.document["items"][0]["placement"]["reference"])
