"""The service itself: who may, what is read of a request, how what is wrong is told."""

from __future__ import annotations

import inspect
import json
from collections.abc import Callable
from functools import wraps
from typing import Any, Final

from django.http import Http404, HttpRequest, HttpResponse
from django.utils import timezone
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, ValidationError
from ninja.parser import Parser
from ninja.security import HttpBearer

from api.models import Scope, Token
from api.schemas import Problem
from mechanics.errors import MechanicsError
from planfile.errors import PlanFileError
from web.budget import TooLongError
from yards.access import YardRequest

PER_PAGE: Final = 50

LARGEST_NUMBER: Final = 2**62

WRONG: Final = dict.fromkeys((400, 401, 403, 404, 409, 422, 503), Problem)
"""What every request may be answered with beside what it asks for."""


class Stale(HttpError):
    """Somebody changed it in between."""

    def __init__(self) -> None:
        super().__init__(409, "Somebody changed it in between. Read it again, then change it.")


class WrongError(Exception):
    """What was sent is not right, each in a sentence."""

    def __init__(self, *problems: str) -> None:
        super().__init__(*problems)
        self.problems = list(problems)


class _Reads(Parser):
    """Reads what is sent; what no database holds is none of it."""

    def parse_body(self, request: HttpRequest) -> Any:
        """The object of a body."""
        found = json.loads(request.body, parse_constant=_no_number)
        _look(found, 0)
        return found


def _no_number(text: str) -> Any:
    raise ValueError(f"{text} is no number")


DEEPEST: Final = 40


def _look(found: Any, depth: int) -> None:
    """Refuse what cannot be kept: half of a character, a nought in a text, a number without end.

    Raises:
        ValueError: there is such a thing.
    """
    if depth > DEEPEST:
        raise ValueError("nested too deeply")
    if isinstance(found, str):
        found.encode()
        if "\x00" in found:
            raise ValueError("a text holds a NUL")
    elif isinstance(found, (int, float)):
        if abs(found) > LARGEST_NUMBER:
            raise ValueError("a number is too large")
    elif isinstance(found, list):
        for one in found:
            _look(one, depth + 1)
    elif isinstance(found, dict):
        for name, one in found.items():
            _look(name, depth + 1)
            _look(one, depth + 1)


class ByToken(HttpBearer):
    """A token in ``Authorization: Bearer``; the middleware has looked it up."""

    def authenticate(self, request: Any, token: str) -> Token | None:
        """The token that was found."""
        found: Token | None = request.token
        return found


service = NinjaAPI(
    title="Eyebolt",
    version="1",
    description="What a yard's own programs read and write. Figures are in the units they carry; "
    "plans and entries are those of the open formats.",
    docs_url=None,
    openapi_url="openapi.json",
    auth=ByToken(),
    parser=_Reads(),
    urls_namespace="api",
)


def needs(scope: Scope) -> Callable[[Callable[..., Any]], Callable[..., Any]]:
    """Let a program through that has a scope, and whose person may still do that; times are those
    of the yard's clock."""

    def mark(view: Callable[..., Any]) -> Callable[..., Any]:
        @wraps(view)
        def gate(request: Any, *args: Any, **kwargs: Any) -> Any:
            if scope.value not in request.token.scopes:
                raise HttpError(403, f"This token may not {scope.label}.")
            if scope.plans and not request.role.plans:
                raise HttpError(403, "Whoever made this token may not do that any more.")
            with timezone.override(request.yard.clock):
                return view(request, *args, **kwargs)

        # what a view takes is read off it, by the names of its own module
        gate.__signature__ = inspect.signature(view, eval_str=True)  # type: ignore[attr-defined]
        return gate

    return mark


def _said(request: HttpRequest, status: int, *problems: str) -> HttpResponse:
    return service.create_response(request, {"problems": list(problems)}, status=status)


@service.exception_handler(ValidationError)
def _not_valid(request: HttpRequest, error: ValidationError) -> HttpResponse:
    found = []
    for one in error.errors:
        where = ".".join(str(part) for part in one.get("loc", ()) if part not in ("body", "sent"))
        found.append(f"{where or 'the body'}: {one.get('msg', 'is not right')}")
    return _said(request, 422, *found)


@service.exception_handler(HttpError)
def _refused(request: HttpRequest, error: HttpError) -> HttpResponse:
    return _said(request, error.status_code, str(error))


@service.exception_handler(WrongError)
def _wrong(request: HttpRequest, error: WrongError) -> HttpResponse:
    return _said(request, 422, *error.problems)


@service.exception_handler(PlanFileError)
def _no_plan(request: HttpRequest, error: PlanFileError) -> HttpResponse:
    return _said(request, 422, str(error))


@service.exception_handler(MechanicsError)
def _no_outfit(request: HttpRequest, error: MechanicsError) -> HttpResponse:
    return _said(request, 422, str(error))


@service.exception_handler(TooLongError)
def _too_long(request: Any, error: TooLongError) -> HttpResponse:
    return _said(request, 503, f"Too large to work out at once. {request.budget.words}")


@service.exception_handler(AuthenticationError)
def _stranger(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
    answer = _said(request, 401, "Send a token of this yard: Authorization: Bearer …")
    answer["WWW-Authenticate"] = "Bearer"
    return answer


@service.exception_handler(Http404)
def _not_here(request: HttpRequest, error: Http404) -> HttpResponse:
    return _said(request, 404, "There is nothing at this address in your yard.")


def page_of(rows: Any, page: int) -> Any:
    """The rows of a page."""
    return rows[(page - 1) * PER_PAGE : page * PER_PAGE]


Asking = YardRequest
"""A program's request: with yard, role and person, as a page's."""
