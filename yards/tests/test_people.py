"""Signing up, inviting, roles, passwords by link, and guessing slowed down."""

from __future__ import annotations

from datetime import timedelta
from unittest.mock import patch

from django.core import signing
from django.test import Client, RequestFactory, TestCase, override_settings
from django.utils import timezone

from aspects.registry import aspects
from book.kinds import KINDS
from book.models import Hitch, Machine, Trailer, Truck
from hauls.models import Haul
from yards.models import Invitation, Membership, Role, Tries, User, Yard
from yards.services.people import digest, invite, join
from yards.tests.addresses import EveryAddress
from yards.throttle import BROWSER, PASSWORDS, SALT, SIGN_UPS, address_of, sweep

NEW = {
    "username": "tam",
    "shown_as": "Tam Reedy",
    "password1": "long-enough-1",
    "password2": "long-enough-1",
}


class SigningUp(TestCase):
    def test_a_new_yard_and_its_owner_signed_in(self) -> None:
        answer = self.client.post("/sign-up/", NEW | {"yard_name": "Home Farm", "units": "metric"})
        self.assertRedirects(answer, "/")
        user = User.objects.get(username="tam")
        self.assertEqual((user.shown_name, user.units), ("Tam Reedy", "metric"))
        self.assertEqual(Membership.objects.get(user=user).role, Role.OWNER)
        self.assertContains(self.client.get("/"), "Add a truck")
        self.assertRedirects(self.client.get("/sign-up/"), "/")

    def test_refusals_keep_what_was_typed_but_the_password(self) -> None:
        User.objects.create_user("taken", password="x")
        for change, words in (
            ({"username": "taken"}, "Somebody signs in with that name already"),
            ({"password2": "other"}, "password fields didn’t match"),
            ({"password1": "short", "password2": "short"}, "too short"),
            ({"yard_name": "  "}, "This field is required"),
            ({"username": "a b"}, "Enter a valid username"),
        ):
            data = NEW | {"yard_name": "Home Farm"} | change
            with self.subTest(words=words):
                answer = self.client.post("/sign-up/", data)
                self.assertContains(answer, words, status_code=422, html=False)
                self.assertContains(answer, 'value="Tam Reedy"', status_code=422)
                self.assertNotContains(answer, "long-enough-1", status_code=422)
        self.assertFalse(Yard.objects.exists())

    @override_settings(SIGN_UP=False)
    def test_where_signing_up_is_closed(self) -> None:
        self.assertEqual(self.client.get("/sign-up/").status_code, 404)
        self.assertNotContains(self.client.get("/sign-in/"), "sign-up")


class Inviting(TestCase):
    def setUp(self) -> None:
        self.yard = Yard.objects.create(name="Home Farm")
        self.owner = User.objects.create_user("ida", password="long-enough-1")
        Membership.objects.create(yard=self.yard, user=self.owner, role=Role.OWNER)
        self.client.force_login(self.owner)

    def link(self) -> str:
        """A driver's link as the owner's page shows it, once."""
        page = self.client.post("/people/", {"for_whom": "Jo", "role": "driver"})
        address = page.content.decode().split('value="http://testserver')[1].split('"')[0]
        self.assertNotContains(self.client.get("/people/"), address)
        return str(address)

    def test_a_link_takes_one_person_in_once(self) -> None:
        address = self.link()
        guest = Client()
        self.assertContains(guest.get(address), "You are invited as driver")
        self.assertRedirects(guest.post(address, NEW), "/")
        member = Membership.objects.get(user__username="tam")
        self.assertEqual((member.yard, member.role), (self.yard, Role.DRIVER))
        self.assertContains(Client().get(address), "no longer good", status_code=410)

    def test_somebody_who_signs_in_already_gets_a_second_yard(self) -> None:
        address = self.link()
        other = Yard.objects.create(name="Other")
        tam = User.objects.create_user("tam")
        Membership.objects.create(yard=other, user=tam, role=Role.OWNER)
        guest = Client()
        guest.force_login(tam)
        self.assertContains(guest.get(address), "You are signed in as tam")
        guest.post(address)
        self.assertContains(guest.get("/"), "Home Farm")
        self.assertEqual(guest.get("/people/").status_code, 403)
        self.assertContains(guest.get("/yards/"), "Other")
        guest.post(f"/yards/{other.pk}/")
        self.assertContains(guest.get("/people/"), "People of Other")
        self.assertEqual(guest.post("/yards/999999/").status_code, 404)

    def test_who_is_in_already_and_a_used_link(self) -> None:
        invitation, token = invite(
            yard=self.yard, role=Role.PLANNER, for_whom="", made_by=self.owner
        )
        answer = self.client.post(f"/join/{token}/")
        self.assertContains(answer, "You are in Home Farm already", status_code=422)
        join(invitation, User(username="first"))
        with self.assertRaisesMessage(ValueError, "This link has been used"):
            join(invitation, User(username="second"))

    def test_old_and_withdrawn_links(self) -> None:
        address = self.link()
        Invitation.objects.update(expires_at=timezone.now() - timedelta(seconds=1))
        self.assertEqual(Client().get(address).status_code, 410)
        address = self.link()
        newest = Invitation.objects.first()
        assert newest is not None
        self.assertEqual(newest.digest, digest(address.strip("/").split("/")[-1]))
        self.client.post(f"/people/invitations/{newest.pk}/withdraw/")
        self.assertEqual(Client().get(address).status_code, 410)

    def test_a_name_that_is_taken_leaves_the_link_good(self) -> None:
        address = self.link()
        answer = Client().post(address, NEW | {"username": "ida"})
        self.assertContains(answer, "Somebody signs in with that name", status_code=422)
        self.assertEqual(Client().get(address).status_code, 200)

    def test_roles_change_and_one_owner_stays(self) -> None:
        tam = User.objects.create_user("tam")
        member = Membership.objects.create(yard=self.yard, user=tam, role=Role.DRIVER)
        self.client.post(f"/people/{member.pk}/role/", {"role": "planner"})
        member.refresh_from_db()
        self.assertEqual(member.role, Role.PLANNER)
        mine = Membership.objects.get(user=self.owner)
        answer = self.client.post(f"/people/{mine.pk}/role/", {"role": "driver"}, follow=True)
        self.assertContains(answer, "A yard needs an owner")
        answer = self.client.post(f"/people/{mine.pk}/remove/", follow=True)
        self.assertContains(answer, "A yard needs an owner")
        wrong = self.client.post(f"/people/{member.pk}/role/", {"role": "king"})
        self.assertEqual(wrong.status_code, 400)
        self.client.post(f"/people/{member.pk}/remove/")
        self.assertFalse(Membership.objects.filter(pk=member.pk).exists())

    def test_people_of_another_yard_are_not_there(self) -> None:
        other = Yard.objects.create(name="Other")
        tam = User.objects.create_user("tam")
        member = Membership.objects.create(yard=other, user=tam, role=Role.OWNER)
        theirs, _ = invite(yard=other, role=Role.DRIVER, for_whom="", made_by=tam)
        for address in (
            f"/people/{member.pk}/role/",
            f"/people/{member.pk}/remove/",
            f"/people/{member.pk}/password/",
            f"/people/invitations/{theirs.pk}/withdraw/",
        ):
            with self.subTest(address=address):
                answer = self.client.post(address, {"role": "driver"})
                self.assertEqual(answer.status_code, 404)
        self.assertTrue(Membership.objects.filter(pk=member.pk, role=Role.OWNER).exists())


class Passwords(TestCase):
    def setUp(self) -> None:
        self.yard = Yard.objects.create(name="Home Farm")
        self.owner = User.objects.create_user("ida", password="long-enough-1")
        Membership.objects.create(yard=self.yard, user=self.owner, role=Role.OWNER)
        self.jo = User.objects.create_user("jo", password="forgotten-1")
        self.member = Membership.objects.create(yard=self.yard, user=self.jo, role=Role.DRIVER)
        self.client.force_login(self.owner)

    def test_a_link_from_the_owner_sets_a_new_password_once(self) -> None:
        page = self.client.post(f"/people/{self.member.pk}/password/")
        address = page.content.decode().split('value="http://testserver')[1].split('"')[0]
        guest = Client()
        opened = guest.get(address, follow=True)
        form = opened.redirect_chain[-1][0]
        self.assertContains(opened, "Choose a new password")
        short = guest.post(form, {"new_password1": "short", "new_password2": "short"})
        self.assertContains(short, "too short")
        new = {"new_password1": "quarry-lane-7", "new_password2": "quarry-lane-7"}
        self.assertRedirects(guest.post(form, new), "/sign-in/")
        self.assertTrue(Client().login(username="jo", password="quarry-lane-7"))
        again = Client().get(address, follow=True)
        self.assertContains(again, "no longer good")

    def test_no_link_for_somebody_who_works_in_another_yard_too(self) -> None:
        Membership.objects.create(yard=Yard.objects.create(name="Other"), user=self.jo)
        answer = self.client.post(f"/people/{self.member.pk}/password/", follow=True)
        self.assertContains(answer, "also works in another yard")
        self.assertNotContains(answer, "made-link")

    def test_changing_ones_own(self) -> None:
        wrong = {
            "old_password": "no",
            "new_password1": "a-new-one-77",
            "new_password2": "a-new-one-77",
        }
        self.assertContains(self.client.post("/password/", wrong), "entered incorrectly")
        right = wrong | {"old_password": "long-enough-1"}
        self.assertRedirects(self.client.post("/password/", right), "/")
        self.assertTrue(Client().login(username="ida", password="a-new-one-77"))

    def test_a_link_is_no_good_once_the_person_works_elsewhere_too(self) -> None:
        page = self.client.post(f"/people/{self.member.pk}/password/")
        address = page.content.decode().split('value="http://testserver')[1].split('"')[0]
        other = Membership.objects.create(yard=Yard.objects.create(name="Other"), user=self.jo)
        self.assertContains(Client().get(address, follow=True), "no longer good")
        # nor when it is opened first and the person joins in between
        other.delete()
        guest = Client()
        form = guest.get(address, follow=True).redirect_chain[-1][0]
        other = Membership.objects.create(yard=Yard.objects.create(name="Third"), user=self.jo)
        new = {"new_password1": "quarry-lane-7", "new_password2": "quarry-lane-7"}
        self.assertContains(guest.post(form, new), "no longer good")
        self.assertFalse(Client().login(username="jo", password="quarry-lane-7"))
        # nor after moving to another yard altogether
        self.member.delete()
        self.assertContains(Client().get(address, follow=True), "no longer good")

    def test_no_password_that_is_easily_guessed(self) -> None:
        for password, words in (
            ("short", "too short"),
            ("1234567890123", "entirely numeric"),
            ("password123", "too common"),
            ("ida.harrowgate", "too similar"),
        ):
            sent = {
                "yard_name": "Home",
                "username": "ida.harrowgate",
                "password1": password,
                "password2": password,
            }
            with self.subTest(password=password):
                answer = Client().post("/sign-up/", sent)
                self.assertContains(answer, words, status_code=422)


class Throttle(TestCase):
    def setUp(self) -> None:
        self.jo = User.objects.create_user("jo", password="forgotten-1")
        self.now = timezone.now()
        clock = patch("yards.throttle.timezone.now", side_effect=lambda: self.now)
        self.enterContext(clock)

    def wrong(self, guest: Client, name: str = "jo") -> int:
        return guest.post("/sign-in/", {"username": name, "password": "guess"}).status_code

    def right(self, guest: Client) -> int:
        sent = {"username": "jo", "password": "forgotten-1"}
        return guest.post("/sign-in/", sent).status_code

    def later(self, seconds: float) -> None:
        self.now += timedelta(seconds=seconds)

    def guessed_at(self) -> None:
        for n in range(PASSWORDS.free):
            self.assertEqual(self.wrong(Client(REMOTE_ADDR=f"10.0.0.{n}")), 200)

    def test_guessing_one_name_from_many_places_is_slowed_more_and_more(self) -> None:
        self.guessed_at()
        waits = []
        for n in range(8):
            elsewhere = Client(REMOTE_ADDR=f"10.1.0.{n}")
            answer = elsewhere.post("/sign-in/", {"username": " JO ", "password": "guess"})
            self.assertContains(answer, "Too many wrong passwords", status_code=429)
            waits.append(int(answer["Retry-After"]))
            self.later(waits[-1])
            self.assertEqual(self.wrong(elsewhere), 200)
        self.assertEqual(waits, sorted(waits))
        self.assertLessEqual(waits[-1], PASSWORDS.most_s + 1)
        self.assertGreater(waits[-1], waits[0])

    def test_nobody_is_kept_out_of_a_browser_that_knows_the_name(self) -> None:
        own = Client(REMOTE_ADDR="10.0.0.99")
        self.assertEqual(self.right(own), 302)
        own.post("/sign-out/")
        # others guess behind the same proxy
        for _ in range(30):
            self.wrong(Client(REMOTE_ADDR="10.0.0.99"))
        self.assertEqual(self.right(Client(REMOTE_ADDR="10.0.0.99")), 429)
        self.assertEqual(self.right(own), 302)

    def test_a_browser_that_knows_the_name_may_not_guess_for_ever_either(self) -> None:
        own = Client()
        self.right(own)
        own.post("/sign-out/")
        found = [self.wrong(own) for _ in range(PASSWORDS.free + 1)]
        self.assertEqual(found[-1], 429)

    def test_others_names_go_on(self) -> None:
        self.guessed_at()
        User.objects.create_user("ida", password="long-enough-1")
        guest = Client(REMOTE_ADDR="10.0.0.1")
        sent = {"username": "ida", "password": "long-enough-1"}
        self.assertEqual(guest.post("/sign-in/", sent).status_code, 302)

    def test_the_right_password_clears_the_count_and_an_hour_forgets_it(self) -> None:
        for _ in range(PASSWORDS.free - 1):
            self.wrong(Client())
        self.assertEqual(self.right(Client()), 302)
        self.assertFalse(Tries.objects.exists())
        self.guessed_at()
        self.later(3601)
        self.assertEqual(self.right(Client()), 302)

    def test_no_name_is_kept_as_it_was_typed(self) -> None:
        self.wrong(Client(), name="my-password-by-mistake")
        kept = str(list(Tries.objects.values()))
        self.assertNotIn("mistake", kept)

    def test_a_forged_cookie_is_no_browser_that_knows(self) -> None:
        self.guessed_at()
        for forged in ("x", "[]", signing.dumps("x", salt=SALT), signing.dumps(["x"])):
            guest = Client()
            guest.cookies[BROWSER] = forged
            self.assertEqual(self.right(guest), 429, forged)

    def test_new_yards_from_one_address_are_limited(self) -> None:
        def sign_up(n: int, address: str) -> int:
            sent = {
                "yard_name": "Home",
                "username": f"person{n}",
                "password1": "a-long-word-7",
                "password2": "a-long-word-7",
            }
            return Client(REMOTE_ADDR=address).post("/sign-up/", sent).status_code

        found = [sign_up(n, "10.0.0.1") for n in range(SIGN_UPS.free + 1)]
        self.assertEqual(found, [302] * SIGN_UPS.free + [429])
        self.assertEqual(sign_up(99, "10.0.0.2"), 302)

    def test_the_address_is_what_the_trusted_proxy_saw(self) -> None:
        request = RequestFactory().get(
            "/", headers={"x-forwarded-for": "6.6.6.6, 10.0.0.5"}, REMOTE_ADDR="127.0.0.1"
        )
        for proxies, address in (
            (0, "127.0.0.1"),
            (1, "10.0.0.5"),
            (2, "6.6.6.6"),
            (3, "127.0.0.1"),
        ):
            with self.settings(PROXIES=proxies):
                self.assertEqual(address_of(request), address)

    def test_the_sweep_takes_old_counters_away(self) -> None:
        self.wrong(Client())
        self.later(3700)
        sweep()
        self.assertFalse(Tries.objects.exists())


class Headers(TestCase):
    def test_pages_of_people_and_secrets_are_kept_nowhere(self) -> None:
        user = User.objects.create_user("ida", password="long-enough-1")
        Membership.objects.create(yard=Yard.objects.create(name="Home"), user=user, role=Role.OWNER)
        self.client.force_login(user)
        for address in ("/people/", "/yards/", "/password/", "/api/tokens/"):
            self.assertIn("no-store", self.client.get(address)["Cache-Control"], address)

    def test_browsers_are_told_what_no_page_asks_for(self) -> None:
        self.assertIn("geolocation=()", self.client.get("/sign-in/")["Permissions-Policy"])


class Rights(EveryAddress):
    """Every address of the application, for each role and for another yard."""

    OWN = {
        "set_units",
        "practice_begin",
        "practice_tows",
        "practice_placed",
        "own_yards",
        "go_to_yard",
        "own_password",
        "withdraw_feed",
        "withdraw_token",
    }
    LOOK = {look for aspect in aspects() for look in aspect.looks} | {
        "home",
        "practice",
        "practice_case",
        "practice_course",
        "practice_done",
        "practice_part",
        "practice_record",
        "practice_record_of",
        "hauls_out",
        "match",
        "truck_alone",
        "trailer_alone",
        "add_ticket",
        "remove_ticket",
        "book",
        "understand",
        "photo",
        "tables",
        "table_out",
        "edit_thing",
        "history",
        "weigh",
        "weigh_by",
        "tickets",
        "tickets_out",
        "weighed",
        "weighings",
        "fit",
        "edit_ticket",
        "add_ticket_photo",
        "remove_ticket_photo",
        "road",
        "road_haul",
        "sways",
        "do_step",
        "take_step_back",
        "haul_stopped",
        "defects",
        "inspections",
        "inspected",
        "road_log",
        "search",
        "share_haul",
        "label",
        "remove_trip",
        "outbox_ready",
        "held_pages",
        "day",
        "calendar_feeds",
        "stays",
        "buy",
        "fleet",
        "api_reference",
        "api_tokens",
    }
    OWNERS = {
        "change_yard",
        "events",
        "people",
        "change_role",
        "remove_person",
        "password_link",
        "withdraw",
        "yard_file",
        "merge_yard_file",
        "yard_out",
        "move_thing",
        "practice_terms",
    }

    def answers(self, name: str) -> set[int]:
        """Status of getting and of posting."""
        address = self.address(name)
        return {
            answer.status_code
            for answer in (self.client.get(address), self.client.post(address, {"commit": "0"}))
        } - {405}

    def test_a_driver_looks_and_changes_nothing(self) -> None:
        self.client.force_login(User.objects.get(username="demo-driver"))
        before = (Machine.objects.count(), Haul.objects.count(), Hitch.objects.count())
        for name in self.names():
            if name in self.OPEN | self.OWN:
                continue
            with self.subTest(name=name):
                found = self.answers(name)
                if name in self.LOOK:
                    self.assertTrue(found & {200, 204, 302, 409, 422, 503}, found)
                else:
                    self.assertEqual(found, {403})
        self.assertEqual(
            (Machine.objects.count(), Haul.objects.count(), Hitch.objects.count()), before
        )

    def test_a_drivers_save_of_a_haul_or_a_rating_is_refused(self) -> None:
        self.client.force_login(User.objects.get(username="demo-driver"))
        reference = self.reference()
        self.assertEqual(self.act("nudge 2").status_code, 403)
        self.assertEqual(self.act("overwrite", theirs=self.haul.revision).status_code, 403)
        self.assertEqual(self.reference(), reference)
        tried = self.act("nudge 2", commit="0")
        self.assertContains(tried, "looking only")
        self.assertEqual(self.reference(), reference)
        truck = Truck.objects.get(name="Work truck 3")
        sent = self.client.post(f"/book/trucks/{truck.pk}/", {"name": "Mine", "version": 1})
        self.assertEqual(sent.status_code, 403)
        page = self.client.get(f"/book/trucks/{truck.pk}/")
        self.assertNotContains(page, "Save truck")
        self.assertNotContains(page, "Remove from the book")

    def test_a_planner_changes_the_book_and_leaves_people_to_the_owner(self) -> None:
        self.client.force_login(User.objects.get(username="demo-planner"))
        for name in self.names():
            if name in self.OPEN | self.OWN:
                continue
            with self.subTest(name=name):
                found = self.answers(name)
                self.assertEqual(found == {403}, name in self.OWNERS, found)

    def test_another_yard_gets_404_everywhere(self) -> None:
        Membership.objects.filter(user=self.stranger).update(role=Role.OWNER)
        for name, needs in self.names().items():
            of_a_thing = set(needs) & {"pk", "truck_pk", "machine_pk"}
            if not of_a_thing or name in self.OPEN:
                continue
            address = self.address(name)
            self.client.force_login(self.stranger)
            with self.subTest(name=name):
                for answer in (self.client.get(address), self.client.post(address)):
                    self.assertIn(answer.status_code, (404, 405))
        for kind in KINDS.values():
            for thing in kind.model._default_manager.filter(yard=self.yard)[:1]:
                answer = self.client.get(f"/book/{kind.slug}/{thing.pk}/")
                self.assertEqual(answer.status_code, 404)
        self.assertTrue(Trailer.objects.filter(yard=self.yard).exists())

    def test_nobody_signed_in_is_sent_to_sign_in(self) -> None:
        self.client.logout()
        for name in set(self.names()) - self.OPEN:
            with self.subTest(name=name):
                answer = self.client.get(self.address(name))
                if answer.status_code != 405:
                    self.assertIn("/sign-in/", answer.headers.get("Location", ""))
