"""Calendar feeds, read by a program that knows nothing of ours."""

from __future__ import annotations

from datetime import date, datetime, time, timedelta
from typing import Any
from zoneinfo import ZoneInfo

import vobject
from django.urls import reverse
from django.utils import timezone

from book.models import Place
from day.feeds import AHEAD, MOST, make_feed
from day.models import Feed
from hauls.assigning import Job, assign, assigned
from hauls.models import Haul
from hauls.tests.yard_case import YardCase
from yards.models import Membership, User


class Feeds(YardCase):
    def setUp(self) -> None:
        super().setUp()
        Haul.objects.filter(yard=self.yard).update(day=None)
        self.haul.refresh_from_db()
        self.driver = User.objects.get(username="demo-driver")
        self.yard.time_zone = "America/Denver"
        self.yard.save()
        self.today = timezone.localdate(timezone=self.yard.clock)

    def say(self, **said: Any) -> None:
        self.haul.refresh_from_db()
        assign(self.haul, Job(**said), was=assigned(self.haul))

    def feed(self, driver: User | None = None) -> str:
        """The address of a new one."""
        _, secret = make_feed(yard=self.yard, driver=driver, made_by=self.user)
        return reverse("calendar_feed", args=[secret])

    def read(self, address: str) -> list[Any]:
        """Its events, as an independent library reads them, without signing in."""
        self.client.logout()
        answer = self.client.get(address)
        self.assertEqual(answer["Content-Type"], "text/calendar; charset=utf-8")
        whole = vobject.readOne(answer.content.decode())
        return list(getattr(whole, "vevent_list", []))

    def test_an_hour_stands_by_the_yards_clock(self) -> None:
        place = Place.objects.get(yard=self.yard, name="Low Fields")
        self.say(
            day=self.today,
            starts=time(9, 30),
            takes_minutes=90,
            driver=self.driver,
            taken_to=place,
            purpose="To dig, then; \\ back",
        )
        (event,) = self.read(self.feed())
        starts = datetime.combine(self.today, time(9, 30), tzinfo=ZoneInfo("America/Denver"))
        self.assertEqual(event.dtstart.value, starts)
        self.assertEqual(event.dtend.value - event.dtstart.value, timedelta(minutes=90))
        self.assertEqual(event.summary.value, self.haul.name)
        self.assertEqual(event.location.value, "Low Fields")
        for words in ("Harrow 48 tractor", "Work truck 3", "Jo Marsh", "To dig, then; \\ back"):
            self.assertIn(words, event.description.value)
        self.assertTrue(event.url.value.endswith(f"/hauls/{self.haul.pk}/"))

    def test_without_an_hour_it_is_the_whole_day(self) -> None:
        self.say(day=self.today)
        (event,) = self.read(self.feed())
        self.assertEqual(event.dtstart.value, self.today)
        self.assertEqual(event.dtend.value, self.today + timedelta(days=1))

    def test_a_drivers_own_and_only_what_is_near(self) -> None:
        self.say(day=self.today, driver=self.driver)
        Haul.objects.exclude(pk=self.haul.pk).update(day=self.today, driver=None)
        address = self.feed(self.driver)
        self.assertEqual([event.summary.value for event in self.read(address)], [self.haul.name])
        self.say(day=self.today + AHEAD + timedelta(days=1), driver=self.driver)
        self.assertEqual(self.read(address), [])
        Haul.objects.filter(pk=self.haul.pk).update(day=date(2001, 1, 1))
        self.assertEqual(self.read(address), [])

    def test_withdrawn_or_gone_it_tells_nothing(self) -> None:
        address = self.feed(self.driver)
        self.assertEqual(self.client.get(address).status_code, 200)
        Membership.objects.filter(user=self.driver).delete()
        self.assertEqual(self.client.get(address).status_code, 404)
        whole = self.feed()
        self.client.force_login(self.user)
        self.client.post(reverse("withdraw_feed", args=[Feed.objects.first().pk]))  # type: ignore[union-attr]
        self.assertEqual(self.client.get(whole).status_code, 404)
        self.assertEqual(self.client.get("/day/calendar/guessed.ics").status_code, 404)

    def test_its_secret_is_shown_once_and_kept_nowhere(self) -> None:
        page = self.client.post(reverse("calendar_feeds"), {"driver": ""})
        made = page.context["made"]
        secret = made.rsplit("/", 1)[1].removesuffix(".ics")
        self.assertGreater(len(secret), 30)
        self.assertNotContains(self.client.get(reverse("calendar_feeds")), secret)
        self.assertNotIn(secret, str(Feed.objects.values_list()))

    def test_who_may(self) -> None:
        self.client.force_login(self.driver)
        self.client.post(reverse("calendar_feeds"), {"driver": str(self.user.pk)})
        own = Feed.objects.get()
        self.assertEqual(own.driver, self.driver)
        whole, _ = make_feed(yard=self.yard, driver=None, made_by=self.user)
        self.assertNotContains(
            self.client.get(reverse("calendar_feeds")), "The whole yard</strong>"
        )
        withdraw = reverse("withdraw_feed", args=[whole.pk])
        self.assertEqual(self.client.post(withdraw).status_code, 404)
        self.client.force_login(self.stranger)
        self.assertEqual(self.client.post(withdraw).status_code, 404)
        self.client.force_login(self.user)
        for key in (str(self.stranger.pk), "x", "99999999999999999999"):
            answer = self.client.post(reverse("calendar_feeds"), {"driver": key})
            self.assertContains(answer, "Choose somebody of this yard", status_code=422)

    def test_there_are_so_many_and_no_more(self) -> None:
        for _ in range(MOST):
            self.feed()
        answer = self.client.post(reverse("calendar_feeds"), {"driver": ""})
        self.assertContains(answer, "Withdraw one first", status_code=422)
