"""Signing in, headers, error pages, the signing key."""

from __future__ import annotations

import io
import stat
import tempfile
from pathlib import Path
from unittest import mock

from django.core.management import CommandError, call_command
from django.test import Client, TestCase, override_settings

from eyebolt.secret_key import secret_key
from yards.models import Membership, User, Yard


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
    def add(self, password: str, person: str = "owner") -> str:
        out = io.StringIO()
        with mock.patch("getpass.getpass", return_value=password):
            call_command("add_yard", "Home Farm", person, stdout=out)
        return out.getvalue()

    def test_a_yard_and_its_first_person(self) -> None:
        self.assertIn("Home Farm is made; owner can sign in", self.add("not-so-short-1"))
        self.assertTrue(self.client.login(username="owner", password="not-so-short-1"))
        self.assertContains(self.client.get("/"), "Add a truck")
        self.assertIn("has one more person", self.add("not-so-short-2", "mate"))

    def test_what_cannot_be(self) -> None:
        with self.assertRaisesMessage(CommandError, "too short"):
            self.add("short")
        self.assertFalse(Yard.objects.exists())
        self.add("not-so-short-1")
        with self.assertRaisesMessage(CommandError, "already"):
            self.add("not-so-short-1")


class SigningKey(TestCase):
    def test_made_once_and_private(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            first = secret_key(Path(folder) / "data")
            self.assertEqual(secret_key(Path(folder) / "data"), first)
            self.assertGreaterEqual(len(first), 50)
            mode = (Path(folder) / "data" / "secret_key").stat().st_mode
            self.assertEqual(stat.S_IMODE(mode), 0o600)
            self.assertNotEqual(secret_key(Path(folder) / "other"), first)
