"""Pages about what programs read and write: the reference, and a person's tokens."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from api.models import Scope, Token
from api.service import service
from api.tokens import TokenError, make_token
from web.pages import show
from yards.access import YardRequest, in_yard


@dataclass(frozen=True, kw_only=True, slots=True)
class Operation:
    """One thing that a program can ask for."""

    method: str
    path: str
    title: str
    words: str
    takes: tuple[str, ...]
    sends: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Group:
    """Operations of one kind."""

    title: str
    operations: tuple[Operation, ...]


@dataclass(frozen=True, kw_only=True)
class ReferencePage:
    """Everything that a program can ask for, as the schema says it."""

    groups: tuple[Group, ...]
    base: str
    scopes: tuple[tuple[str, str], ...]


@require_safe
@in_yard
def reference(request: YardRequest) -> HttpResponse:
    """What programs can ask for."""
    schema: dict[str, Any] = service.get_openapi_schema()
    groups: dict[str, list[Operation]] = {}
    for path, methods in schema["paths"].items():
        for method, said in methods.items():
            groups.setdefault(said["tags"][0], []).append(_operation(method, path, said))
    page = ReferencePage(
        groups=tuple(Group(title=title, operations=tuple(ops)) for title, ops in groups.items()),
        base=request.build_absolute_uri("/")[:-1],
        scopes=tuple((scope.value, str(scope.label)) for scope in Scope),
    )
    return show(request, "api/reference.html", page)


def _operation(method: str, path: str, said: dict[str, Any]) -> Operation:
    return Operation(
        method=method.upper(),
        path=path,
        title=said["summary"],
        words=said.get("description", ""),
        takes=tuple(_takes(said)),
        sends=_sends(said),
    )


def _takes(said: dict[str, Any]) -> Iterator[str]:
    for one in said.get("parameters", ()):
        yield f"{one['name']}{'' if one.get('required') else ' (may be left out)'}"


def _sends(said: dict[str, Any]) -> str:
    body = said.get("requestBody", {}).get("content", {}).get("application/json", {})
    return str(body.get("schema", {}).get("$ref", "")).rpartition("/")[2]


@dataclass(frozen=True, kw_only=True)
class TokensPage:
    """A person's tokens; ``made`` is the secret of the one that was just made."""

    tokens: list[Token]
    scopes: tuple[tuple[str, str], ...]
    made: str
    wrong: str
    name: str
    ticked: tuple[str, ...]


@never_cache
@require_http_methods(["GET", "HEAD", "POST"])
@in_yard
def tokens(request: YardRequest) -> HttpResponse:
    """See and make one's own tokens."""
    made, wrong = "", ""
    name, ticked = request.POST.get("name", "").strip(), tuple(request.POST.getlist("scope"))
    if request.method == "POST":
        try:
            _, made = make_token(
                yard=request.yard, user=request.user, role=request.role, name=name, scopes=ticked
            )
        except TokenError as error:
            wrong = str(error)
        else:
            name, ticked = "", ()
    page = TokensPage(
        tokens=list(Token.objects.filter(yard=request.yard, user=request.user)),
        scopes=tuple(
            (scope.value, str(scope.label))
            for scope in Scope
            if request.role.plans or not scope.plans
        ),
        made=made,
        wrong=wrong,
        name=name,
        ticked=ticked,
    )
    return show(request, "api/tokens.html", page, status=422 if wrong else 200)


@require_POST
@in_yard
def withdraw_token(request: YardRequest, pk: int) -> HttpResponse:
    """It opens nothing from now on."""
    there = Token.objects.filter(yard=request.yard, user=request.user)
    get_object_or_404(there, pk=pk).delete()
    messages.success(request, "Withdrawn. It opens nothing from now on.")
    return redirect("api_tokens")
