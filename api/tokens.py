"""Making, finding and withdrawing tokens."""

from __future__ import annotations

import secrets
from collections.abc import Callable, Iterable
from datetime import timedelta
from typing import Any, Final

from django.db import transaction
from django.http import HttpRequest, HttpResponseBase
from django.utils import timezone

from api.models import Scope, Token
from yards.models import Membership, Role, User, Yard
from yards.services.people import digest

MOST: Final = 20
"""Tokens of one person in one yard; another one is made once one is withdrawn."""

QUIET: Final = timedelta(minutes=10)
"""When a token was last used is noted no more often than this."""

BEGINS: Final = "eyebolt_"
"""What every token begins with, so that one that lies about is known for what it is."""

PATH: Final = "/api/v1/"
"""Addresses that are for programs; pages are for people who signed in."""


class TokenError(ValueError):
    """It cannot be made; the message says what to do."""


@transaction.atomic
def make_token(
    *, yard: Yard, user: User, role: Role, name: str, scopes: Iterable[str]
) -> tuple[Token, str]:
    """A token and its secret, which is not kept and cannot be shown again.

    Raises:
        TokenError: without a name or a scope, with one that the person's role does not have, or
            where the person has enough of them.
    """
    asked = [scope for scope in Scope if scope.value in set(scopes)]
    if not name.strip():
        raise TokenError("Say what it is for.")
    if not asked:
        raise TokenError("Tick what it may do.")
    if not role.plans and any(scope.plans for scope in asked):
        raise TokenError("You may not change that yourself, so no program may for you.")
    if Token.objects.filter(yard=yard, user=user).count() >= MOST:
        raise TokenError(f"You have {MOST} tokens. Withdraw one first.")
    secret = BEGINS + secrets.token_urlsafe(30)
    token = Token.objects.create(
        yard=yard,
        user=user,
        name=name.strip()[:80],
        digest=digest(secret),
        scopes=[scope.value for scope in asked],
    )
    return token, secret


def find_token(secret: str) -> tuple[Token, Role] | None:
    """The token of a secret and what its person is in its yard; ``None`` of any other, and of one
    whose person has left or may not sign in."""
    found = Token.objects.select_related("user", "yard").filter(digest=digest(secret)).first()
    if found is None or not found.user.is_active:
        return None
    member = Membership.objects.filter(yard=found.yard_id, user=found.user_id).first()
    if member is None:
        return None
    now = timezone.now()
    if found.used_at is None or now - found.used_at > QUIET:
        Token.objects.filter(pk=found.pk).update(used_at=now)
    return found, Role(member.role)


def secret_of(request: HttpRequest) -> str:
    """The token that a request brings; empty where it brings none."""
    how, _, secret = request.headers.get("Authorization", "").partition(" ")
    return secret.strip() if how.lower() == "bearer" else ""


def signed_in_by_token(
    get_response: Callable[[HttpRequest], HttpResponseBase],
) -> Callable[[HttpRequest], HttpResponseBase]:
    """Sign a program in by its token, for one request, at the addresses that are for programs."""

    def look(request: Any) -> HttpResponseBase:
        request.token = None
        if request.path_info.startswith(PATH) and (secret := secret_of(request)):
            found = find_token(secret)
            if found is not None:
                request.token, role = found
                request.user = request.token.user
                request.yard, request.role = request.token.yard, role
        return get_response(request)

    return look
