"""What a browser asks for to install the application, and to open it without signal."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import Final

from django.http import HttpRequest, HttpResponse, JsonResponse
from django.templatetags.static import static
from django.views.decorators.http import require_safe

from web.pages import show

WORKER: Final = Path(__file__).parent / "worker.js"
"""The service worker. It is no static file: its address stays, and it answers for the whole
site."""

START: Final = "/road/"
"""Where an installed application opens."""

INK, PAPER = "#1b2125", "#f5f2e9"
"""The bar on top, and the ground of the pages."""


@dataclass(frozen=True, kw_only=True)
class NoSignalPage:
    """What is said where a page is not on the phone."""

    title: str
    start: str


@require_safe
def manifest(request: HttpRequest) -> HttpResponse:
    """Name, colours and icons of the application."""
    icons = [
        {
            "src": static(f"web/icons/{name}-{size}.png"),
            "sizes": f"{size}x{size}",
            "type": "image/png",
            "purpose": purpose,
        }
        for name, purpose in (("icon", "any"), ("whole", "maskable"))
        for size in (192, 512)
    ]
    told = {
        "id": "/",
        "name": "Eyebolt",
        "short_name": "Eyebolt",
        "description": "Where machines stand on a trailer, and how they get there.",
        "start_url": START,
        "scope": "/",
        "display": "standalone",
        "background_color": PAPER,
        "theme_color": INK,
        "icons": icons,
    }
    answer = JsonResponse(told, content_type="application/manifest+json")
    answer["Cache-Control"] = "max-age=3600"
    return answer


@require_safe
def worker(request: HttpRequest) -> HttpResponse:
    """The service worker, asked for anew every time."""
    answer = HttpResponse(WORKER.read_text(encoding="utf-8"), content_type="text/javascript")
    answer["Cache-Control"] = "no-cache"
    return answer


@require_safe
def no_signal(request: HttpRequest) -> HttpResponse:
    """Said where a page is asked for that is not on the phone."""
    return show(request, "web/no_signal.html", NoSignalPage(title="No signal", start=START))
