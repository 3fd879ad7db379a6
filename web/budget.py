"""How long the working out of one request may take before it is given up, kindly."""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Final, TypeVar

from django.http import HttpRequest, HttpResponse, HttpResponseBase

from mechanics.patience import asked
from web.views import refusal

USUAL_S: Final = 8.0
"""Seconds that any page may take."""

USUAL_WORDS: Final = "Ask for less of it at once."


class TooLongError(Exception):
    """What was asked for is not worked out in the time that it may take."""


@dataclass(frozen=True, kw_only=True)
class Budget:
    """Seconds that a view may take, and what to do where they are not enough."""

    seconds: float = USUAL_S
    words: str = USUAL_WORDS


View = TypeVar("View", bound=Callable[..., HttpResponseBase])


def costly(seconds: float, words: str) -> Callable[[View], View]:
    """Mark a view that may take longer than others; ``words`` say how to ask for less."""

    def mark(view: View) -> View:
        view.budget = Budget(seconds=seconds, words=words)  # type: ignore[attr-defined]
        return view

    return mark


class WithinBudget:
    """Middleware that ends what takes too long: calculations ask on each round."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.get_response = get_response

    def __call__(self, request: Any) -> HttpResponseBase:
        request.budget, begun = Budget(), time.monotonic()

        def may_go_on() -> None:
            if time.monotonic() - begun > request.budget.seconds:
                raise TooLongError

        with asked(may_go_on):
            return self.get_response(request)

    def process_view(self, request: Any, view: Any, args: Any, kwargs: Any) -> None:
        """Note what the view that is about to begin may take."""
        request.budget = getattr(view, "budget", Budget())

    def process_exception(self, request: Any, error: Exception) -> HttpResponse | None:
        """Say what was given up."""
        if not isinstance(error, TooLongError):
            return None
        return refusal(request, 503, "Too large to work out at once", request.budget.words)
