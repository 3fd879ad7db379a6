"""Making, reading and withdrawing calendar feeds."""

from __future__ import annotations

import secrets
from collections.abc import Callable, Iterable
from datetime import date, datetime, time, timedelta
from typing import Final

from django.db import transaction
from django.utils import timezone
from icalendar import Calendar, Event

from day.clashes import USUAL_MINUTES
from day.models import Feed
from hauls.assigning import where_words
from hauls.models import Haul
from mechanics.checks import Status
from planfile.draft import glance
from wording.statuses import STATUS_WORDS
from yards.models import Membership, User, Yard
from yards.services.people import digest

BACK: Final = timedelta(days=31)
AHEAD: Final = timedelta(days=180)
"""How far back and ahead a feed tells."""

MOST: Final = 12
"""Feeds of one yard; another one is made once one is withdrawn."""

QUIET: Final = timedelta(minutes=10)
"""When a feed was last read is noted no more often than this."""


class FeedError(ValueError):
    """It cannot be made; the message says what to do."""


@transaction.atomic
def make_feed(*, yard: Yard, driver: User | None, made_by: User) -> tuple[Feed, str]:
    """A feed and its secret, which is not kept and cannot be shown again.

    Raises:
        FeedError: the yard has enough of them.
    """
    if Feed.objects.filter(yard=yard).count() >= MOST:
        raise FeedError(f"A yard has at most {MOST} calendar feeds. Withdraw one first.")
    secret = secrets.token_urlsafe(24)
    feed = Feed.objects.create(yard=yard, driver=driver, made_by=made_by, digest=digest(secret))
    return feed, secret


def open_feed(secret: str) -> Feed | None:
    """The feed of a secret, while those it belongs to are people of its yard; ``None`` of any
    other."""
    feed = Feed.objects.select_related("yard", "driver").filter(digest=digest(secret)).first()
    if feed is None:
        return None
    wanted = {feed.made_by_id} | ({feed.driver_id} if feed.driver_id is not None else set())
    there = Membership.objects.filter(yard=feed.yard_id, user__in=wanted)
    if there.count() < len(wanted):
        return None
    now = timezone.now()
    if feed.read_at is None or now - feed.read_at > QUIET:
        Feed.objects.filter(pk=feed.pk).update(read_at=now)
    return feed


def hauls_of(feed: Feed, today: date) -> Iterable[Haul]:
    """What a feed tells: hauls with a day, not long past, that are in the list."""
    found = Haul.objects.filter(
        yard=feed.yard_id, archived=False, day__range=(today - BACK, today + AHEAD)
    )
    if feed.driver_id is not None:
        found = found.filter(driver=feed.driver_id)
    return found.select_related("driver", "fetched_from", "taken_to").order_by("day", "pk")


def calendar(feed: Feed, *, today: date, address: Callable[[Haul], str]) -> bytes:
    """The feed as a calendar's program reads it; ``address`` is a haul's own."""
    found = Calendar()
    found.add("prodid", "-//Eyebolt//Hauls//EN")
    found.add("version", "2.0")
    found.calendar_name = f"{feed.yard.name}: {feed}"
    for haul in hauls_of(feed, today):
        found.add_component(_event(haul, feed.yard, address(haul)))
    found.add_missing_timezones()
    return bytes(found.to_ical())


def _event(haul: Haul, yard: Yard, address: str) -> Event:
    event = Event()
    event.add("uid", f"haul-{haul.pk}@eyebolt")
    event.add("dtstamp", haul.changed_at)
    event.add("last-modified", haul.changed_at)
    event.add("summary", haul.name)
    starts, ends = _span(haul, yard)
    event.add("dtstart", starts)
    event.add("dtend", ends)
    place = haul.taken_to or haul.fetched_from
    if place is not None:
        event.add("location", place.name)
    event.add("description", _described(haul))
    event.add("url", address)
    return event


def _span(haul: Haul, yard: Yard) -> tuple[date | datetime, date | datetime]:
    """From when to when, by the yard's clock; the whole day where no hour is said."""
    day = haul.day or date.min
    if haul.starts is None:
        return day, day + timedelta(days=1)
    starts = datetime.combine(day, time(haul.starts.hour, haul.starts.minute), tzinfo=yard.clock)
    return starts, starts + timedelta(minutes=haul.takes_minutes or USUAL_MINUTES)


def _described(haul: Haul) -> str:
    names = glance(haul.document)
    lines = [
        ", ".join(names.items) or "empty",
        f"{names.truck}, {names.trailer}",
        where_words(haul),
        haul.driver.shown_name if haul.driver else "nobody drives yet",
        haul.purpose,
        STATUS_WORDS[Status(haul.verdict)],
    ]
    return "\n".join(line for line in lines if line)
