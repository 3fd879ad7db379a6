"""The gate in front of every page of a yard, and what each role may do behind it."""

from __future__ import annotations

from collections.abc import Callable
from functools import wraps
from typing import Any

from django.contrib.auth.views import redirect_to_login
from django.core.exceptions import PermissionDenied
from django.http import HttpRequest, HttpResponse, HttpResponseBase
from django.shortcuts import render

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
                return HttpResponse("Signed out. Sign in again.", status=401)
            return redirect_to_login(request.get_full_path())
        if request.user.current_yard is None:
            return render(request, "yards/no_yard.html", status=403)
        request.yard = request.user.current_yard
        request.role = request.user.current_role
        return view(request, *args, **kwargs)

    return gate


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
