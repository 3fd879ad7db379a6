"""Calendar feeds: making one, withdrawing one, and what a calendar's program is told."""

from __future__ import annotations

from dataclasses import dataclass

from django.contrib import messages
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from day.feeds import FeedError, calendar, make_feed, open_feed
from day.models import Feed
from web.pages import show
from web.sent import whole_number
from yards.access import YardRequest, in_yard
from yards.models import User


@dataclass(frozen=True, kw_only=True)
class FeedsPage:
    """The feeds that a person may see, and whom one can be made for; ``made`` is the address of the
    one that was just made."""

    feeds: list[Feed]
    people: list[User]
    plans: bool
    made: str
    wrong: str


@require_http_methods(["GET", "HEAD", "POST"])
@in_yard
def feeds(request: YardRequest) -> HttpResponse:
    """See and make them: a driver his own, whoever plans anybody's and the yard's."""
    made, wrong = "", ""
    if request.method == "POST":
        try:
            driver = _asked_for(request)
            _, secret = make_feed(yard=request.yard, driver=driver, made_by=request.user)
        except FeedError as error:
            wrong = str(error)
        else:
            made = request.build_absolute_uri(reverse("calendar_feed", args=[secret]))
    page = FeedsPage(
        feeds=list(_there(request)),
        people=list(request.yard.members.order_by("username")) if request.role.plans else [],
        plans=request.role.plans,
        made=made,
        wrong=wrong,
    )
    return show(request, "day/feeds.html", page, place="day", status=422 if wrong else 200)


def _asked_for(request: YardRequest) -> User | None:
    """Whose hauls a feed is to tell.

    Raises:
        FeedError: nobody of this yard.
    """
    if not request.role.plans:
        return request.user
    sent = request.POST.get("driver", "")
    if not sent:
        return None
    key = whole_number(sent)
    found = None if key is None else request.yard.members.filter(pk=key).first()
    if found is None:
        raise FeedError("Choose somebody of this yard, or the whole yard.")
    return found


def _there(request: YardRequest) -> list[Feed]:
    """Feeds that this person sees: of drivers their own."""
    found = Feed.objects.filter(yard=request.yard).select_related("driver", "made_by")
    return list(found if request.role.plans else found.filter(driver=request.user))


@require_POST
@in_yard
def withdraw_feed(request: YardRequest, pk: int) -> HttpResponse:
    """Make a feed's address useless."""
    there = Feed.objects.filter(yard=request.yard)
    if not request.role.plans:
        there = there.filter(driver=request.user)
    get_object_or_404(there, pk=pk).delete()
    messages.success(request, "The feed is withdrawn: its address tells nothing any more.")
    return redirect("calendar_feeds")


@require_safe
def calendar_feed(request: HttpRequest, secret: str) -> HttpResponse:
    """What a calendar's program is told; whoever has the address needs no password."""
    feed = open_feed(secret)
    if feed is None:
        raise Http404
    body = calendar(
        feed,
        today=timezone.localdate(timezone=feed.yard.clock),
        address=lambda haul: request.build_absolute_uri(haul.get_absolute_url()),
    )
    answer = HttpResponse(body, content_type="text/calendar; charset=utf-8")
    answer["Content-Disposition"] = 'inline; filename="hauls.ics"'
    answer["Cache-Control"] = "private, no-store"
    answer["X-Robots-Tag"] = "noindex"
    return answer
