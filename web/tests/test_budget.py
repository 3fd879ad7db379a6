"""What takes too long is given up, and said with what to do."""

from __future__ import annotations

from unittest.mock import patch

from django.http import HttpResponse
from django.test import RequestFactory, SimpleTestCase, TestCase

from mechanics.patience import asked, go_on
from web.budget import Budget, TooLongError, WithinBudget, costly
from yards.models import Membership, User, Yard


class Patience(SimpleTestCase):
    def test_nobody_asked_lets_it_go_on(self) -> None:
        go_on()

    def test_whoever_asks_is_asked_at_each_round_and_no_more_afterwards(self) -> None:
        rounds = []
        with asked(lambda: rounds.append(1)):
            go_on()
            go_on()
        go_on()
        self.assertEqual(len(rounds), 2)

    def test_it_ends_by_raising(self) -> None:
        def no() -> None:
            raise TooLongError

        with self.assertRaises(TooLongError), asked(no):
            go_on()
        go_on()


class Views(SimpleTestCase):
    def test_a_view_says_its_budget_through_what_is_wrapped_around_it(self) -> None:
        @costly(3, "Ask about less.")
        def view(request):
            return HttpResponse()

        middleware = WithinBudget(view)
        request = RequestFactory().get("/")
        middleware.process_view(request, view, (), {})
        self.assertEqual(request.budget, Budget(seconds=3, words="Ask about less."))

    def test_other_faults_are_left_to_others(self) -> None:
        request = RequestFactory().get("/")
        self.assertIsNone(WithinBudget(HttpResponse).process_exception(request, ValueError()))


class Pages(TestCase):
    def setUp(self) -> None:
        user = User.objects.create_user("fern", password="x")
        Membership.objects.create(yard=Yard.objects.create(name="Home"), user=user, role="owner")
        self.client.force_login(user)

    def test_past_the_budget_a_page_says_what_to_do(self) -> None:
        with patch("matching.views.MatchForm", side_effect=TooLongError):
            whole = self.client.get("/match/")
            part = self.client.get("/match/", headers={"HX-Request": "true"})
        self.assertContains(whole, "Too large to work out at once", status_code=503)
        self.assertContains(whole, "Match fewer loads at once", status_code=503)
        self.assertEqual(part["Content-Type"], "text/plain")
        self.assertIn(b"Match fewer loads", part.content)

    def test_calculations_ask_whether_they_may_go_on(self) -> None:
        """With no time at all the first round of what the core works out is the last."""
        with (
            patch("matching.views.match.budget", Budget(seconds=-1, words="Less.")),
            patch("matching.views.MatchForm", side_effect=lambda *a, **k: go_on()),
        ):
            self.assertEqual(self.client.get("/match/").status_code, 503)
