"""The gate in front of every page of a yard, and what each role may do behind it."""

from __future__ import annotations

from collections.abc import Callable
from functools import wraps
from typing import Any
from urllib.parse import urlencode, urlsplit

from django.conf import settings
from django.contrib.auth.views import redirect_to_login
from django.core.exceptions import PermissionDenied
from django.http import HttpRequest, HttpResponse, HttpResponseBase
from django.shortcuts import render, resolve_url
from django.utils import timezone

from web.sent import way_back
from yards.models import Role, User, Yard


class YardRequest(HttpRequest):
    """A request of a signed-in person, with the yard the person works in."""

    user: User
    yard: Yard
    role: Role


View = Callable[..., HttpResponseBase]


def in_yard(view: View) -> View:
    """Let signed-in members through, with ``request.yard`` set; send others to sign in.

    A part of a page cannot be a page to sign in on: where htmx asks, the answer is 401.
    """

    @wraps(view)
    def gate(request: Any, *args: Any, **kwargs: Any) -> HttpResponseBase:
        if not request.user.is_authenticated:
            if request.headers.get("HX-Request") == "true":
                return _sign_in_again(request)
            return redirect_to_login(request.get_full_path())
        if request.user.current_yard is None:
            return render(request, "yards/no_yard.html", status=403)
        request.yard = request.user.current_yard
        request.role = request.user.current_role
        with timezone.override(request.yard.clock):
            return view(request, *args, **kwargs)

    return gate


def _sign_in_again(request: HttpRequest) -> HttpResponse:
    """Send the whole page to sign in, and back to where it was."""
    answer = HttpResponse("Signed out. Sign in again.", content_type="text/plain", status=401)
    shown = urlsplit(request.headers.get("HX-Current-URL", ""))
    back = way_back(shown.path + (f"?{shown.query}" if shown.query else ""))
    answer["HX-Redirect"] = f"{resolve_url(settings.LOGIN_URL)}?{urlencode({'next': back or '/'})}"
    return answer


def planners(view: View) -> View:
    """Owners and planners only: whatever changes the book or a haul."""
    return _only(view, lambda role: role.plans)


def owners(view: View) -> View:
    """Owners only: people, the yard's own settings, the yard as a file."""
    return _only(view, lambda role: role is Role.OWNER)


def _only(view: View, may: Callable[[Role], bool]) -> View:
    @wraps(view)
    @in_yard
    def gate(request: Any, *args: Any, **kwargs: Any) -> HttpResponseBase:
        if not may(request.role):
            raise PermissionDenied
        return view(request, *args, **kwargs)

    return gate
