"""Who works in a yard: signing up, inviting, roles, leaving, passwords by link."""

from __future__ import annotations

import hashlib
import secrets
from datetime import timedelta
from typing import Final

from django.contrib.auth.tokens import PasswordResetTokenGenerator
from django.db import transaction
from django.utils import timezone
from django.utils.encoding import force_bytes
from django.utils.http import urlsafe_base64_encode

from measures.writing import UnitSystem
from mechanics.rules import TongueSchool
from yards.audit import happened
from yards.models import Happened, Invitation, Membership, Role, User, Yard

INVITATION_DAYS: Final = 7


class LinkTokens(PasswordResetTokenGenerator):
    """Tokens of password links: good while the person works in one yard alone, the one whose
    owner made the link. Joining another or leaving makes them useless."""

    def _make_hash_value(self, user: User, timestamp: int) -> str:
        yards = Membership.objects.filter(user=user.pk).order_by("yard_id")
        doors = [str(pk) for pk in yards.values_list("yard_id", flat=True)]
        # of several yards no link is good, whatever it was made of
        marked = secrets.token_hex() if len(doors) > 1 else "".join(doors)
        return f"{super()._make_hash_value(user, timestamp)}/{marked}"


link_tokens = LinkTokens()


class PeopleError(ValueError):
    """Something that cannot be done to a yard's people; the message is for the person."""


def digest(token: str) -> str:
    """What is kept of a link's token."""
    return hashlib.sha256(token.encode()).hexdigest()


@transaction.atomic
def sign_up(*, yard_name: str, user: User, time_zone: str = "") -> Yard:
    """A new yard with its first person, who owns it. ``user`` is not stored yet.

    ``time_zone`` is that of its clock; empty, the server's. Who reads in kilograms plans by the
    truck's nose weight plate.
    """
    metric = user.unit_system is UnitSystem.METRIC
    rules = {"tongue": TongueSchool.NOSE_4_7.value} if metric else {}
    yard = Yard.objects.create(name=yard_name, rules=rules, time_zone=time_zone)
    user.save()
    Membership.objects.create(yard=yard, user=user, role=Role.OWNER)
    return yard


@transaction.atomic
def invite(
    *, yard: Yard, role: Role, for_whom: str, made_by: User, address: str = ""
) -> tuple[Invitation, str]:
    """An invitation and the token of its link, which is not kept and cannot be shown again."""
    token = secrets.token_urlsafe(24)
    invitation = Invitation.objects.create(
        yard=yard,
        role=role,
        for_whom=for_whom,
        digest=digest(token),
        made_by=made_by,
        expires_at=timezone.now() + timedelta(days=INVITATION_DAYS),
    )
    about = f"{for_whom or 'somebody'}, {role.label.lower()}"
    happened(Happened.INVITED, yard=yard, by=made_by, about=about, address=address)
    return invitation, token


@transaction.atomic
def withdraw_invitation(invitation: Invitation, *, by: User, address: str = "") -> None:
    """Make an invitation's link useless."""
    invitation.delete()
    happened(
        Happened.WITHDRAWN,
        yard=invitation.yard,
        by=by,
        about=invitation.for_whom,
        address=address,
    )


def open_invitation(token: str) -> Invitation | None:
    """The invitation of a link, if it is still good."""
    return (
        Invitation.objects.select_related("yard")
        .filter(digest=digest(token), used_by=None, expires_at__gt=timezone.now())
        .first()
    )


@transaction.atomic
def join(invitation: Invitation, user: User, *, address: str = "") -> None:
    """Take a person into the yard; the link is used up. ``user`` may be new.

    Raises:
        PeopleError: the link was used in between, or the person is in the yard already.
    """
    if user.pk is None:
        user.save()
    if Membership.objects.filter(yard=invitation.yard, user=user).exists():
        raise PeopleError(f"You are in {invitation.yard.name} already.")
    taken = Invitation.objects.filter(pk=invitation.pk, used_by=None).update(used_by=user)
    if not taken:
        raise PeopleError("This link has been used. Ask for a new one.")
    Membership.objects.create(yard=invitation.yard, user=user, role=invitation.role)
    user.chosen_yard = invitation.yard
    user.save(update_fields=["chosen_yard"])
    happened(Happened.JOINED, yard=invitation.yard, by=user, address=address)


@transaction.atomic
def set_role(membership: Membership, role: Role, *, by: User, address: str = "") -> None:
    """Give a person another role.

    Raises:
        PeopleError: the yard would be left without an owner.
    """
    if membership.role == Role.OWNER and role is not Role.OWNER:
        _another_owner(membership)
    membership.role = role
    membership.save(update_fields=["role"])
    about = f"{membership.user.shown_name}: {role.label.lower()}"
    happened(Happened.ROLE, yard=membership.yard, by=by, about=about, address=address)


@transaction.atomic
def take_out(membership: Membership, *, by: User, address: str = "") -> None:
    """Take a person out of the yard; what the person did stays.

    Raises:
        PeopleError: the yard would be left without an owner.
    """
    if membership.role == Role.OWNER:
        _another_owner(membership)
    membership.delete()
    name = membership.user.shown_name
    happened(Happened.TAKEN_OUT, yard=membership.yard, by=by, about=name, address=address)


@transaction.atomic
def change_the_yard(yard: Yard, *, by: User, address: str = "") -> None:
    """Keep what the yard is called and its clock, as they stand on ``yard``."""
    yard.save(update_fields=["name", "time_zone"])
    about = f"{yard.name}, {yard.time_zone}".rstrip(", ")
    happened(Happened.YARD, yard=yard, by=by, about=about, address=address)


def _another_owner(membership: Membership) -> None:
    others = Membership.objects.filter(yard=membership.yard, role=Role.OWNER)
    if not others.exclude(pk=membership.pk).exists():
        raise PeopleError("A yard needs an owner. Make somebody else owner first.")


@transaction.atomic
def password_link(membership: Membership, *, by: User, address: str = "") -> tuple[str, str]:
    """The two parts of a link that lets the person choose a new password, once.

    Raises:
        PeopleError: the person also works in another yard, whose doors such a link would
            open; that person changes the password while signed in.
    """
    user = membership.user
    if Membership.objects.filter(user=user).exclude(yard=membership.yard).exists():
        raise PeopleError(
            f"{user.shown_name} also works in another yard, so no link can be made here."
        )
    name = user.shown_name
    happened(Happened.PASSWORD_LINK, yard=membership.yard, by=by, about=name, address=address)
    return urlsafe_base64_encode(force_bytes(user.pk)), link_tokens.make_token(user)
