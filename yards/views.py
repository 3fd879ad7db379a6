"""People and yards. Signing in and out, and choosing passwords, are Django's own views."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any, Final

from django.conf import settings
from django.contrib import messages
from django.contrib.auth import login
from django.contrib.auth.decorators import login_required
from django.contrib.auth.forms import AuthenticationForm
from django.contrib.auth.views import (
    LoginView,
    PasswordChangeView,
    PasswordResetConfirmView,
)
from django.core.paginator import Page, Paginator
from django.db import IntegrityError
from django.http import Http404, HttpRequest, HttpResponse, HttpResponseBadRequest
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse, reverse_lazy
from django.utils import timezone
from django.utils.decorators import method_decorator
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from measures.writing import UnitSystem
from web.pages import show
from web.sent import way_back
from yards.access import YardRequest, in_yard, owners
from yards.audit import happened_to
from yards.forms import (
    InvitationForm,
    NewPasswordForm,
    OwnPasswordForm,
    PersonForm,
    SignUpForm,
    YardForm,
)
from yards.models import Event, Happened, Invitation, Membership, Role, User, Yard
from yards.services.people import (
    PeopleError,
    change_the_yard,
    invite,
    join,
    link_tokens,
    open_invitation,
    password_link,
    set_role,
    sign_up,
    take_out,
    withdraw_invitation,
)
from yards.throttle import (
    PASSWORDS,
    SIGN_UPS,
    TooManyError,
    address_of,
    forget,
    key,
    remember,
    sign_in_counter,
    take,
)

EVENTS: Final = 100
"""Events on one page."""

BACKEND = "yards.backend.YardBackend"


@require_POST
@in_yard
def set_units(request: YardRequest) -> HttpResponse:
    """Show figures in the other units from now on; what is stored stays as it is."""
    wanted = request.POST.get("units", "")
    if wanted not in {system.value for system in UnitSystem}:
        return HttpResponseBadRequest("units: expected us or metric")
    request.user.units = wanted
    request.user.save(update_fields=["units"])
    return redirect(way_back(request.POST.get("next")) or "/")


@dataclass(frozen=True, kw_only=True)
class SignUpPage:
    """A new yard and its owner; ``units_sent`` are the ones that were chosen."""

    form: SignUpForm
    units_sent: str


@require_http_methods(["GET", "HEAD", "POST"])
def new_yard(request: HttpRequest) -> HttpResponse:
    """Sign up: a new yard and the person who owns it."""
    if not settings.SIGN_UP:
        raise Http404
    if request.user.is_authenticated:
        return redirect("home")
    form = SignUpForm(request.POST if request.method == "POST" else None)
    if form.is_bound and form.is_valid():
        try:
            take(key("sign-up", address_of(request)), SIGN_UPS)
        except TooManyError as error:
            return slow_down(request, error, passwords=False)
        user = form.save(commit=False)
        user.units = "metric" if request.POST.get("units") == "metric" else "us"
        try:
            sign_up(
                yard_name=form.cleaned_data["yard_name"],
                user=user,
                time_zone=form.cleaned_data["time_zone"],
            )
        except IntegrityError:
            form.add_error("username", "Somebody signs in with that name already. Choose another.")
        else:
            login(request, user, backend=BACKEND)
            return redirect("home")
    status = 422 if form.is_bound else 200
    page = SignUpPage(form=form, units_sent=request.POST.get("units", "us"))
    return show(request, "yards/sign_up.html", page, status=status)


@dataclass(frozen=True, kw_only=True)
class JoinPage:
    """An invitation, and a form for whoever is not signed in."""

    invitation: Invitation
    role_label: str
    form: PersonForm
    wrong: str
    signed_in: bool


@never_cache
@require_http_methods(["GET", "HEAD", "POST"])
def joining(request: HttpRequest, token: str) -> HttpResponse:
    """Come into a yard by an invitation's link, as a new person or as the one signed in."""
    invitation = open_invitation(token)
    if invitation is None:
        return render(request, "yards/link_gone.html", {"place": ""}, status=410)
    signed_in = request.user.is_authenticated
    form = PersonForm(request.POST if request.method == "POST" and not signed_in else None)
    wrong = ""
    if request.method == "POST" and (signed_in or form.is_valid()):
        user: Any = request.user._wrapped if signed_in else form.save(commit=False)  # type: ignore[union-attr]
        try:
            join(invitation, user, address=address_of(request))
        except IntegrityError:
            form.add_error("username", "Somebody signs in with that name already. Choose another.")
        except PeopleError as error:
            wrong = str(error)
        else:
            if not signed_in:
                login(request, user, backend=BACKEND)
            messages.success(request, f"You are in {invitation.yard.name} now.")
            return redirect("home")
    page = JoinPage(
        invitation=invitation,
        role_label=Role(invitation.role).label.lower(),
        form=form,
        wrong=wrong,
        signed_in=signed_in,
    )
    status = 422 if request.method == "POST" else 200
    return show(request, "yards/join.html", page, place="", status=status)


@never_cache
@require_http_methods(["GET", "HEAD", "POST"])
@owners
def people(request: YardRequest) -> HttpResponse:
    """The yard's people and its open invitations; a new link is shown once, here."""
    form = InvitationForm(request.POST if request.method == "POST" else None)
    link = ""
    if form.is_bound and form.is_valid():
        invitation, token = invite(
            yard=request.yard,
            role=Role(form.cleaned_data["role"]),
            for_whom=form.cleaned_data["for_whom"],
            made_by=request.user,
            address=address_of(request),
        )
        link = request.build_absolute_uri(reverse("join", args=[token]))
        form = InvitationForm()
        words = f"Link for {invitation.for_whom or 'a ' + Role(invitation.role).label.lower()}"
        return _people(request, form, link=link, link_words=words)
    return _people(request, form, status=422 if form.is_bound else 200)


@dataclass(frozen=True, kw_only=True)
class PeoplePage:
    """A yard's people and open invitations; ``roles`` are value, name and what each may.

    ``link`` is a new one, shown this once, ``link_words`` what it is for.
    """

    members: Iterable[Membership]
    invitations: Iterable[Invitation]
    roles: list[tuple[str, str, str]]
    form: InvitationForm
    yard_form: YardForm
    link: str
    link_words: str


def _people(
    request: YardRequest,
    form: InvitationForm,
    *,
    link: str = "",
    link_words: str = "",
    yard_form: YardForm | None = None,
    status: int = 200,
) -> HttpResponse:
    members = Membership.objects.filter(yard=request.yard).select_related("user").order_by("pk")
    invitations = Invitation.objects.filter(
        yard=request.yard, used_by=None, expires_at__gt=timezone.now()
    )
    page = PeoplePage(
        members=members,
        invitations=invitations,
        roles=[(role.value, role.label, role.may) for role in Role],
        form=form,
        yard_form=yard_form or YardForm(instance=request.yard),
        link=link,
        link_words=link_words,
    )
    return show(request, "yards/people.html", page, place="", status=status)


@require_POST
@owners
def change_yard(request: YardRequest) -> HttpResponse:
    """What the yard is called, and its clock."""
    # the yard in the head stays as it is while the form is not right
    form = YardForm(request.POST, instance=Yard.objects.get(pk=request.yard.pk))
    if not form.is_valid():
        return _people(request, InvitationForm(), yard_form=form, status=422)
    change_the_yard(form.instance, by=request.user, address=address_of(request))
    messages.success(request, "The yard is changed.")
    return redirect("people")


def _member(request: YardRequest, pk: int) -> Membership:
    found = Membership.objects.filter(yard=request.yard).select_related("user", "yard")
    return get_object_or_404(found, pk=pk)


@require_POST
@owners
def change_role(request: YardRequest, pk: int) -> HttpResponse:
    """Give a person another role."""
    membership = _member(request, pk)
    wanted = request.POST.get("role", "")
    if wanted not in Role.values:
        return HttpResponseBadRequest("role: expected owner, planner or driver")
    try:
        set_role(membership, Role(wanted), by=request.user, address=address_of(request))
    except PeopleError as error:
        messages.error(request, str(error))
    else:
        name, role = membership.user.shown_name, Role(wanted).label.lower()
        messages.success(request, f"{name} is {role} now.")
    return redirect("people" if request.user.pk != membership.user_id else "home")


@require_POST
@owners
def remove_person(request: YardRequest, pk: int) -> HttpResponse:
    """Take a person out of the yard."""
    membership = _member(request, pk)
    try:
        take_out(membership, by=request.user, address=address_of(request))
    except PeopleError as error:
        messages.error(request, str(error))
    else:
        messages.success(request, f"{membership.user.shown_name} is out of the yard.")
    return redirect("people")


@never_cache
@require_POST
@owners
def make_password_link(request: YardRequest, pk: int) -> HttpResponse:
    """A link by which a person who forgot the password chooses a new one; shown once."""
    membership = _member(request, pk)
    try:
        uid, token = password_link(membership, by=request.user, address=address_of(request))
    except PeopleError as error:
        messages.error(request, str(error))
        return redirect("people")
    link = request.build_absolute_uri(reverse("choose_password", args=[uid, token]))
    words = f"New password for {membership.user.shown_name}"
    return _people(request, InvitationForm(), link=link, link_words=words)


@require_POST
@owners
def withdraw(request: YardRequest, pk: int) -> HttpResponse:
    """Make an invitation's link useless."""
    there = Invitation.objects.filter(yard=request.yard, used_by=None)
    invitation = get_object_or_404(there, pk=pk)
    withdraw_invitation(invitation, by=request.user, address=address_of(request))
    messages.success(request, "The link no longer works.")
    return redirect("people")


@dataclass(frozen=True, kw_only=True)
class OwnYards:
    """The yards a person works in, and the one worked in now."""

    memberships: Iterable[Membership]
    current: Yard | None


@never_cache
@require_safe
@login_required
def own_yards(request: Any) -> HttpResponse:
    """The yards a person works in."""
    found = Membership.objects.filter(user=request.user).select_related("yard")
    page = OwnYards(memberships=found, current=request.user.current_yard)
    return show(request, "yards/own_yards.html", page)


@require_POST
@login_required
def go_to_yard(request: Any, pk: int) -> HttpResponse:
    """Work in another of one's yards."""
    membership = get_object_or_404(Membership, yard=pk, user=request.user.pk)
    User.objects.filter(pk=request.user.pk).update(chosen_yard=membership.yard)
    return redirect("home")


@method_decorator(never_cache, name="dispatch")
class OwnPassword(PasswordChangeView):
    """Changing one's own password."""

    form_class = OwnPasswordForm
    template_name = "yards/password.html"
    success_url = reverse_lazy("home")
    extra_context = {"place": "", "title": "Change your password"}

    def form_valid(self, form: Any) -> HttpResponse:
        happened_to(Happened.PASSWORD, form.user, request=self.request)
        messages.success(self.request, "Your password is changed.")
        return super().form_valid(form)


@method_decorator(never_cache, name="dispatch")
class ChoosePassword(PasswordResetConfirmView):
    """Choosing a new password by an owner's link, good once and for three days."""

    token_generator = link_tokens

    form_class = NewPasswordForm
    template_name = "yards/password.html"
    success_url = reverse_lazy("sign_in")
    extra_context = {"place": "", "title": "Choose a new password"}

    def form_valid(self, form: Any) -> HttpResponse:
        happened_to(Happened.PASSWORD, form.user, request=self.request)
        messages.success(self.request, "Your password is changed. Sign in with it.")
        return super().form_valid(form)


@dataclass(frozen=True, kw_only=True)
class SlowDown:
    """Too many tries: of what, and how long to wait."""

    title: str
    seconds: int
    minutes: int
    passwords: bool


def slow_down(request: HttpRequest, error: TooManyError, *, passwords: bool) -> HttpResponse:
    """Too many tries: said plainly, with when to come back."""
    page = SlowDown(
        title="Too many wrong passwords" if passwords else "Too many new yards",
        seconds=error.seconds,
        minutes=-(-error.seconds // 60),
        passwords=passwords,
    )
    answer = show(request, "yards/slow_down.html", page, status=429)
    answer["Retry-After"] = str(error.seconds)
    return answer


class SignIn(LoginView):
    """Signing in; wrong passwords of a name make the next try wait."""

    template_name = "yards/sign_in.html"
    redirect_authenticated_user = True
    extra_context = {"place": ""}

    def post(self, request: HttpRequest, *args: Any, **kwargs: Any) -> HttpResponse:
        self.counter = sign_in_counter(request, request.POST.get("username", ""))
        try:
            take(self.counter, PASSWORDS)
        except TooManyError as error:
            return slow_down(request, error, passwords=True)
        return super().post(request, *args, **kwargs)

    def form_valid(self, form: AuthenticationForm) -> HttpResponse:
        answer = super().form_valid(form)
        forget(self.counter)
        happened_to(Happened.SIGNED_IN, form.get_user(), request=self.request)
        remember(self.request, answer, form.cleaned_data["username"])
        return answer

    def form_invalid(self, form: AuthenticationForm) -> HttpResponse:
        name = self.request.POST.get("username", "").strip()[:150]
        user = User.objects.filter(username=name).first()
        if user is not None:
            happened_to(Happened.NOT_SIGNED_IN, user, request=self.request)
        return super().form_invalid(form)


@dataclass(frozen=True, kw_only=True)
class EventsPage:
    """What happened in the yard, the newest first, and the pages of it."""

    events: Iterable[Event]
    page: Page[Event]


@never_cache
@require_safe
@owners
def events(request: YardRequest) -> HttpResponse:
    """What happened: who came in, who may do what, what left."""
    found = Event.objects.filter(yard=request.yard).select_related("by")
    page = Paginator(found, EVENTS).get_page(request.GET.get("page"))
    shown = EventsPage(events=page.object_list, page=page)
    return show(request, "yards/events.html", shown)
