"""Signing in, headers, error pages, the signing key."""

from __future__ import annotations

import io
import stat
import tempfile
from datetime import UTC, datetime
from pathlib import Path
from typing import Any
from unittest import mock

from django.core.management import CommandError, call_command
from django.test import Client, TestCase, override_settings
from django.utils import timezone
from reversion.models import Revision

from book.history import keep, recorded
from book.models import Machine
from eyebolt.secret_key import secret_key
from yards.models import Membership, Role, User, Yard


class SigningIn(TestCase):
    def setUp(self) -> None:
        self.user = User.objects.create_user("ida", password="long-enough-1", first_name="Ida")
        Membership.objects.create(yard=Yard.objects.create(name="Y"), user=self.user)

    def test_sign_in_and_out(self) -> None:
        page = self.client.post("/sign-in/", {"username": "ida", "password": "wrong"})
        self.assertContains(page, "do not go together")
        self.assertContains(page, 'value="ida"')
        answer = self.client.post(
            "/sign-in/", {"username": "ida", "password": "long-enough-1", "next": "/book/"}
        )
        self.assertRedirects(answer, "/book/")
        self.client.post("/sign-out/")
        self.assertRedirects(self.client.get("/"), "/sign-in/?next=/")

    def test_sign_in_does_not_lead_elsewhere(self) -> None:
        answer = self.client.post(
            "/sign-in/",
            {"username": "ida", "password": "long-enough-1", "next": "https://elsewhere.example"},
        )
        self.assertRedirects(answer, "/")

    def test_headers_of_every_page(self) -> None:
        answer = self.client.get("/sign-in/")
        policy = answer["Content-Security-Policy"]
        self.assertIn("default-src 'none'", policy)
        self.assertIn("frame-ancestors 'none'", policy)
        self.assertNotIn("unsafe", policy)
        self.assertEqual(answer["X-Frame-Options"], "DENY")
        self.assertEqual(answer["X-Content-Type-Options"], "nosniff")

    def test_error_pages_are_in_our_own_words(self) -> None:
        self.client.force_login(self.user)
        self.assertContains(self.client.get("/nothing/"), "There is nothing", status_code=404)
        strict = Client(enforce_csrf_checks=True)
        strict.force_login(self.user)
        self.assertContains(strict.post("/units/"), "too old to be sent", status_code=403)

    @override_settings(DEBUG=False)
    def test_a_fault_of_ours_says_that_nothing_is_lost(self) -> None:
        from django.test import RequestFactory

        from web.views import forbidden, server_error

        request = RequestFactory().get("/")
        self.assertContains(server_error(request), "Nothing you saved is lost", status_code=500)
        self.assertContains(
            forbidden(request, Exception()), "owner if you need this page", status_code=403
        )

    def test_names(self) -> None:
        self.assertEqual(self.user.shown_name, "Ida")
        self.assertEqual(User(username="x").shown_name, "x")
        self.assertEqual(str(Yard.objects.get()), "Y")


class AddingAYard(TestCase):
    def add(self, password: str, person: str = "owner", *more: str, yard: str = "Home Farm") -> str:
        out = io.StringIO()
        with mock.patch("getpass.getpass", return_value=password):
            call_command("add_yard", yard, person, *more, stdout=out)
        return out.getvalue()

    def test_a_yard_and_the_person_who_owns_it(self) -> None:
        self.assertIn("Home Farm is made; owner owns it", self.add("not-so-short-1"))
        self.assertTrue(self.client.login(username="owner", password="not-so-short-1"))
        self.assertContains(self.client.get("/"), "Add a truck")
        self.assertEqual(self.client.get("/people/").status_code, 200)

    def test_a_metric_yard_with_its_clock(self) -> None:
        self.add("not-so-short-1", "owner", "--metric", "--time-zone", "Europe/Berlin")
        yard = Yard.objects.get()
        self.assertEqual((yard.time_zone, yard.rules), ("Europe/Berlin", {"tongue": "nose_4_7"}))

    def test_the_password_from_the_input(self) -> None:
        with mock.patch("sys.stdin", io.StringIO("not-so-short-1\n")):
            self.add("", "owner", "--password-from-input")
        self.assertTrue(self.client.login(username="owner", password="not-so-short-1"))

    def test_what_cannot_be(self) -> None:
        with self.assertRaisesMessage(CommandError, "too short"):
            self.add("short")
        self.assertFalse(Yard.objects.exists())
        self.add("not-so-short-1")
        for person, yard, more, words in (
            ("mate", "Home Farm", (), "There is a yard “Home Farm” already"),
            ("owner", "Other", (), "signs in as owner already"),
            ("mate", " ", (), "need names"),
            ("m te", "Other", (), "valid username"),
            ("mate", "Other", ("--time-zone", "Moon/Sea"), "no time zone"),
        ):
            with self.subTest(words=words), self.assertRaisesMessage(CommandError, words):
                self.add("not-so-short-1", person, *more, yard=yard)


class Clocks(TestCase):
    def setUp(self) -> None:
        self.user = User.objects.create_user("ida", password="long-enough-1")
        self.yard = Yard.objects.create(name="Home")
        Membership.objects.create(yard=self.yard, user=self.user, role=Role.OWNER)
        self.client.force_login(self.user)

    def change(self, **sent: str) -> Any:
        return self.client.post("/people/yard/", sent, follow=True)

    def test_times_are_written_in_the_yards_own_zone(self) -> None:
        at = datetime(2026, 1, 31, 23, 30, tzinfo=UTC)
        Machine.objects.create(yard=self.yard, name="Harrow")
        machine = Machine.objects.get()
        with (
            recorded(yard=self.yard, user=self.user),
            mock.patch("django.utils.timezone.now", return_value=at),
        ):
            machine.save()
            keep(machine)
        page = f"/book/machines/{machine.pk}/history/"
        Revision.objects.update(date_created=at)
        self.assertContains(self.client.get(page), "31 Jan 2026, 23:30")
        answer = self.change(name="Home", time_zone="Asia/Tokyo")
        self.assertContains(answer, "The yard is changed.")
        self.assertContains(self.client.get(page), "01 Feb 2026, 08:30")
        self.change(name="Home", time_zone="America/Chicago")
        self.assertContains(self.client.get(page), "31 Jan 2026, 17:30")
        # and nobody else's: the zone goes with the request
        self.assertEqual(timezone.get_current_timezone_name(), "UTC")

    def test_what_is_no_zone_or_no_name(self) -> None:
        self.assertContains(
            self.change(name="Home", time_zone="Moon/Sea"), "not one of", status_code=422
        )
        self.assertContains(self.change(name=" ", time_zone=""), "required", status_code=422)
        self.yard.refresh_from_db()
        self.assertEqual((self.yard.name, self.yard.time_zone), ("Home", ""))

    def test_a_zone_that_is_known_no_more_is_the_servers(self) -> None:
        for unknown in ("Moon/Sea", "../etc/passwd", "a\x00b"):
            self.assertEqual(str(Yard(time_zone=unknown).clock), "UTC")

    def test_a_new_yards_clock_is_the_browsers(self) -> None:
        for sent, kept in (("Europe/Berlin", "Europe/Berlin"), ("Moon/Sea", "")):
            client = Client()
            client.post(
                "/sign-up/",
                {
                    "yard_name": f"New {sent}",
                    "username": f"p{len(sent)}",
                    "password1": "a-long-word-7",
                    "password2": "a-long-word-7",
                    "time_zone": sent,
                },
            )
            self.assertEqual(Yard.objects.get(name=f"New {sent}").time_zone, kept)


class SigningKey(TestCase):
    def test_made_once_and_private(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            first = secret_key(Path(folder) / "data")
            self.assertEqual(secret_key(Path(folder) / "data"), first)
            self.assertGreaterEqual(len(first), 50)
            mode = (Path(folder) / "data" / "secret_key").stat().st_mode
            self.assertEqual(stat.S_IMODE(mode), 0o600)
            self.assertNotEqual(secret_key(Path(folder) / "other"), first)


class SignedOutInTheMiddle(TestCase):
    def test_a_part_of_a_page_sends_the_whole_page_to_sign_in_and_back(self) -> None:
        for shown, back in (
            ("http://testserver/hauls/3/?selected=1", "%2Fhauls%2F3%2F%3Fselected%3D1"),
            ("http://testserver/", "%2F"),
            ("//elsewhere.example/x", "%2Fx"),
            ("", "%2F"),
        ):
            answer = self.client.get("/", headers={"HX-Request": "true", "HX-Current-URL": shown})
            self.assertEqual(answer.status_code, 401)
            self.assertEqual(answer["HX-Redirect"], f"/sign-in/?next={back}")
