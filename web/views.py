"""Error pages in the application's own words."""

from __future__ import annotations

from dataclasses import dataclass

from django.http import HttpRequest, HttpResponse

from web.pages import show


@dataclass(frozen=True, kw_only=True)
class ErrorPage:
    """What went wrong, in our own words, with the answer's status."""

    title: str
    words: str
    status: int


def not_found(request: HttpRequest, exception: Exception) -> HttpResponse:
    """What is not there, or belongs to another yard."""
    return _page(request, 404, "Not here", "There is nothing at this address in your yard.")


def forbidden(request: HttpRequest, exception: Exception) -> HttpResponse:
    """Signed in, and still not let through."""
    return _page(
        request, 403, "Not for this sign-in", "Ask the yard's owner if you need this page."
    )


def server_error(request: HttpRequest) -> HttpResponse:
    """A fault of the application's own."""
    return _page(
        request,
        500,
        "Something broke on our side",
        "Nothing you saved is lost. Go back and try once more.",
    )


def csrf_failure(request: HttpRequest, reason: str = "") -> HttpResponse:
    """A form from an old page, or from elsewhere."""
    return refusal(
        request,
        403,
        "This page is too old to be sent",
        "Go back, reload it and send it again. What you typed is still in the form.",
    )


def refusal(request: HttpRequest, status: int, title: str, words: str) -> HttpResponse:
    """What was not done, and what to do: as a page, or in a line where a page asks in the
    background."""
    if request.headers.get("HX-Request") == "true":
        return HttpResponse(f"{title}. {words}", content_type="text/plain", status=status)
    return _page(request, status, title, words)


def _page(request: HttpRequest, status: int, title: str, words: str) -> HttpResponse:
    page = ErrorPage(title=title, words=words, status=status)
    return show(request, "web/error.html", page, status=status)
