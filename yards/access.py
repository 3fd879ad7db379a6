"""The gate in front of every page of a yard."""

from __future__ import annotations

from collections.abc import Callable
from functools import wraps
from typing import Any

from django.contrib.auth.decorators import login_required
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render

from yards.models import User, Yard


class YardRequest(HttpRequest):
    """A request of a signed-in person, with the yard the person works in."""

    user: User
    yard: Yard


def in_yard(view: Callable[..., HttpResponse]) -> Callable[..., HttpResponse]:
    """Let signed-in members through, with ``request.yard`` set; send others to sign in."""

    @wraps(view)
    @login_required
    def gate(request: Any, *args: Any, **kwargs: Any) -> HttpResponse:
        if request.user.current_yard is None:
            return render(request, "yards/no_yard.html", status=403)
        request.yard = request.user.current_yard
        return view(request, *args, **kwargs)

    return gate
