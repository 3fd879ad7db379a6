"""What programs read and write: who may, what comes back, what is refused."""

from __future__ import annotations

import json
from typing import Any

from api.models import Scope, Token
from api.tokens import MOST, TokenError, make_token
from book.history import changes_of
from book.models import Machine, Ticket, Truck
from hauls.loads import Load
from hauls.models import Haul
from hauls.pairs import pairs_of
from hauls.tests.yard_case import YardCase
from yards.models import Membership, Role, User


class Programs(YardCase):
    def setUp(self) -> None:
        super().setUp()
        self.client.logout()
        self.secret = self.token()

    def token(self, *scopes: Scope, user: User | None = None, role: Role = Role.OWNER) -> str:
        """A token with every scope, or with some."""
        _, secret = make_token(
            yard=self.yard,
            user=user or self.user,
            role=role,
            name="A program",
            scopes=[scope.value for scope in scopes or Scope],
        )
        return secret

    def ask(self, method: str, path: str, sent: Any = None, *, secret: str | None = None) -> Any:
        headers = {"Authorization": f"Bearer {self.secret if secret is None else secret}"}
        body = (
            {} if sent is None else {"data": json.dumps(sent), "content_type": "application/json"}
        )
        return self.client.generic(method, f"/api/v1/{path}", headers=headers, **body)


class Who(Programs):
    def test_a_token_says_whose_it_is(self) -> None:
        said = self.ask("GET", "me").json()
        self.assertEqual((said["person"], said["role"]), ("Ida Fern", "owner"))
        self.assertIsNotNone(Token.objects.get().used_at)

    def test_no_other_is_let_in(self) -> None:
        for secret in ("", "eyebolt_wrong", self.secret[:-1]):
            answer = self.ask("GET", "me", secret=secret)
            self.assertEqual(answer.status_code, 401)
            self.assertEqual(answer["WWW-Authenticate"], "Bearer")
        # a page's session opens nothing here, and a token opens no page
        self.client.force_login(self.user)
        self.assertEqual(self.client.get("/api/v1/me").status_code, 401)
        self.client.logout()
        headers = {"Authorization": f"Bearer {self.secret}"}
        for page in ("/book/", "/api/", "/api/tokens/"):
            self.assertEqual(self.client.get(page, headers=headers).status_code, 302, page)

    def test_one_whose_person_left_or_does_less_by_now_opens_less(self) -> None:
        Membership.objects.filter(user=self.user).update(role=Role.DRIVER)
        answer = self.ask("POST", "book/gear", {"entry": {"name": "Hook", "kind": "hook"}})
        self.assertEqual(answer.status_code, 403)
        self.assertEqual(self.ask("GET", "book/gear").status_code, 200)
        Membership.objects.filter(user=self.user).delete()
        self.assertEqual(self.ask("GET", "me").status_code, 401)

    def test_scopes_bound_it(self) -> None:
        reads = self.token(Scope.BOOK_READ)
        self.assertEqual(self.ask("GET", "book/trucks", secret=reads).status_code, 200)
        for method, path in (("GET", "hauls"), ("GET", "tickets"), ("GET", "board")):
            answer = self.ask(method, path, secret=reads)
            self.assertEqual(answer.status_code, 403, path)
            self.assertIn("may not", answer.json()["problems"][0])

    def test_another_yards_rows_are_not_there(self) -> None:
        theirs = self.stranger.yards.get()
        _, secret = make_token(
            yard=theirs, user=self.stranger, role=Role.PLANNER, name="x", scopes=list(Scope)
        )
        truck = Truck.objects.filter(yard=self.yard)[0]
        for path in (f"book/trucks/{truck.pk}", f"hauls/{self.haul.pk}"):
            self.assertEqual(self.ask("GET", path, secret=secret).status_code, 404)
        self.assertEqual(self.ask("GET", "hauls", secret=secret).json()["count"], 0)


class TheBook(Programs):
    def test_read_add_change_remove(self) -> None:
        listed = self.ask("GET", "book/machines").json()
        self.assertEqual(listed["count"], Machine.objects.filter(yard=self.yard).count())
        entry = {
            "name": "Borrowed roller",
            "built": "whole",
            "mass": "7000 lb",
            "reach_front": "4 ft",
        }
        made = self.ask("POST", "book/machines", {"entry": entry})
        self.assertEqual(made.status_code, 201)
        found = made.json()
        self.assertEqual(found["entry"]["mass"], "7000 lb")
        thing = Machine.objects.get(name="Borrowed roller")
        self.assertEqual(changes_of(thing)[0].why, "by a program")
        changed = {"entry": {**found["entry"], "mass": "3.2 t"}, "version": found["version"]}
        path = f"book/machines/{found['id']}"
        answer = self.ask("PUT", path, changed)
        self.assertEqual(answer.json()["entry"]["mass"], "3.2 t")
        self.assertEqual(self.ask("PUT", path, changed).status_code, 409)
        version = answer.json()["version"]
        self.assertEqual(self.ask("DELETE", f"{path}?version={version - 1}").status_code, 409)
        self.assertEqual(self.ask("DELETE", f"{path}?version={version}").status_code, 204)
        self.assertFalse(Machine.objects.filter(name="Borrowed roller").exists())

    def test_what_is_wrong_is_said_and_nothing_stored(self) -> None:
        for sent, words in (
            ({"entry": {"name": "X", "mass": "heavy"}}, "mass"),
            ({"entry": {"nome": "X"}}, "no such field"),
            ({"entry": {}}, "name"),
            ({"entry": []}, "entry"),
            ({}, "entry"),
            ({"entry": {"name": "X"}, "more": 1}, "more"),
        ):
            answer = self.ask("POST", "book/machines", sent)
            self.assertEqual(answer.status_code, 422, sent)
            self.assertIn(words, " ".join(answer.json()["problems"]))
        self.assertFalse(Machine.objects.filter(name="X").exists())
        self.assertEqual(self.ask("GET", "book/planes").status_code, 422)
        self.assertEqual(self.ask("GET", "book/trucks/99999999").status_code, 404)

    def test_what_no_database_holds_is_refused(self) -> None:
        headers = {"Authorization": f"Bearer {self.secret}"}
        for body in (
            b'{"entry": {"name": "\\ud800"}}',
            b'{"entry": {"name": "a\\u0000b"}}',
            b'{"entry": {"count": 1e400}}',
            b'{"entry": {"count": NaN}}',
            b'{"entry": {"count": 99999999999999999999999}}',
            b"[" * 5000,
            b"\xff",
        ):
            answer = self.client.post(
                "/api/v1/book/gear", body, content_type="application/json", headers=headers
            )
            self.assertEqual(answer.status_code, 400, body[:40])


class TheHauls(Programs):
    def test_planned_from_the_book_changed_and_assigned(self) -> None:
        hitch, trailer = next(
            (h, t) for h, t in pairs_of(self.yard) if t.name == "20 ft equipment trailer"
        )
        machine = Machine.objects.get(yard=self.yard, name="Burrow 17 excavator")
        sent = {
            "name": "By a program",
            "hitch": hitch.pk,
            "trailer": trailer.pk,
            "loads": [str(Load(machine=machine).key)],
        }
        made = self.ask("POST", "hauls", sent)
        self.assertEqual(made.status_code, 201, made.content)
        haul = made.json()
        self.assertEqual(haul["trailer"], trailer.name)
        plan = {**haul["plan"], "name": "Renamed"}
        path = f"hauls/{haul['id']}"
        answer = self.ask("PUT", f"{path}/plan", {"plan": plan, "revision": haul["revision"]})
        self.assertEqual((answer.json()["name"], answer.json()["revision"]), ("Renamed", 2))
        again = self.ask("PUT", f"{path}/plan", {"plan": plan, "revision": haul["revision"]})
        self.assertEqual(again.status_code, 409)
        job = {
            "stamp": haul["stamp"],
            "day": "2026-06-01",
            "starts": "09:30",
            "takes_minutes": 90,
            "taken_to": "Low Fields",
            "driver": "demo-driver",
        }
        answer = self.ask("PUT", f"{path}/job", job)
        self.assertEqual(answer.json()["driver"], "demo-driver")
        self.assertEqual(answer.json()["job"]["to"], "Low Fields")
        self.assertEqual(self.ask("PUT", f"{path}/job", job).status_code, 409)
        wrong = {**job, "taken_to": "Nowhere", "driver": "nobody", "takes_minutes": 0}
        said = self.ask("PUT", f"{path}/job", wrong).json()["problems"]
        self.assertEqual(len(said), 3)

    def test_a_plan_file_is_taken_and_the_list_narrowed(self) -> None:
        made = self.ask("POST", "hauls/import", {"plan": self.haul.document})
        self.assertEqual(made.status_code, 201)
        self.assertEqual(made.json()["plan"], self.haul.document)
        self.assertEqual(self.ask("POST", "hauls/import", {"plan": {}}).status_code, 422)
        Haul.objects.filter(yard=self.yard).update(day=None)
        Haul.objects.filter(pk=self.haul.pk).update(day="2026-06-02")
        found = self.ask("GET", "hauls?since=2026-06-01&until=2026-06-03").json()
        self.assertEqual([one["id"] for one in found["hauls"]], [self.haul.pk])

    def test_loads_and_outfits_that_are_none_are_refused(self) -> None:
        sent = {"name": "x", "hitch": 1, "trailer": 10**9, "loads": []}
        self.assertEqual(self.ask("POST", "hauls", sent).status_code, 422)
        hitch, trailer = pairs_of(self.yard)[0]
        sent = {"name": "x", "hitch": hitch.pk, "trailer": trailer.pk, "loads": ["machine-x"]}
        self.assertEqual(self.ask("POST", "hauls", sent).status_code, 422)

    def test_the_board_is_read_and_a_haul_moved(self) -> None:
        Haul.objects.filter(yard=self.yard).update(day=None)
        Haul.objects.filter(pk=self.haul.pk).update(day="2026-06-02")
        shown = self.ask("GET", "board?week=2026-06-01").json()
        (card,) = shown["cards"]
        self.assertEqual(card["haul"], self.haul.pk)
        sent = {
            "haul": card["haul"],
            "day": "2026-06-04",
            "key": str(self.haul.truck_id),
            "stamp": card["stamp"],
            "revision": card["revision"],
        }
        self.assertEqual(self.ask("POST", "board/move", sent).json()["job"]["day"], "2026-06-04")
        self.assertEqual(self.ask("POST", "board/move", sent).status_code, 409)


class WorkedOut(Programs):
    def test_the_same_documents_as_the_commands_print(self) -> None:
        plan = self.haul.document
        for path, form in (("evaluate", "eyebolt.report"), ("loading", ""), ("securing", "")):
            answer = self.ask("POST", path, {"plan": plan})
            self.assertEqual(answer.status_code, 200, path)
            if form:
                self.assertEqual(answer.json()["format"], form)
        self.assertEqual(self.ask("POST", "evaluate", {"plan": {"a": 1}}).status_code, 422)

    def test_match(self) -> None:
        machine = Machine.objects.get(yard=self.yard, name="Burrow 17 excavator")
        found = self.ask("POST", "match", {"loads": [str(Load(machine=machine).key)]}).json()
        self.assertGreater(len(found["matches"]), 3)
        self.assertEqual(found["matches"][0]["status"], "ok")
        self.assertEqual(self.ask("POST", "match", {"loads": ["bulk-0"]}).status_code, 422)

    def test_tickets(self) -> None:
        entry = {
            "weighed_on": "2026-05-01",
            "list": "trailers",
            "name": "14 ft tilt",
            "whole_mass": "2,140 lb",
        }
        made = self.ask("POST", "tickets", {"entry": entry})
        self.assertEqual(made.status_code, 201, made.content)
        self.assertEqual(self.ask("GET", "tickets").json()["count"], Ticket.objects.count())
        wrong = self.ask("POST", "tickets", {"entry": {**entry, "name": "Nothing"}})
        self.assertEqual(wrong.status_code, 422)


class Pages(Programs):
    def test_a_token_is_shown_once_used_and_withdrawn(self) -> None:
        self.client.force_login(self.user)
        page = self.client.post("/api/tokens/", {"name": "Scale house", "scope": ["tickets:write"]})
        secret = page.context["made"]
        self.assertContains(page, secret)
        self.assertNotContains(self.client.get("/api/tokens/"), secret)
        self.assertEqual(self.ask("GET", "me", secret=secret).json()["scopes"], ["tickets:write"])
        token = Token.objects.get(name="Scale house")
        self.client.force_login(self.stranger)
        self.assertEqual(self.client.post(f"/api/tokens/{token.pk}/withdraw/").status_code, 404)
        self.client.force_login(self.user)
        self.client.post(f"/api/tokens/{token.pk}/withdraw/")
        self.assertEqual(self.ask("GET", "me", secret=secret).status_code, 401)

    def test_what_is_wrong_is_said_and_kept(self) -> None:
        self.client.force_login(self.user)
        answer = self.client.post("/api/tokens/", {"name": "", "scope": ["compute"]})
        self.assertContains(answer, "Say what it is for", status_code=422)
        self.assertContains(answer, 'value="compute" checked', status_code=422)
        answer = self.client.post("/api/tokens/", {"name": "X"})
        self.assertContains(answer, "Tick what it may do", status_code=422)

    def test_a_driver_makes_none_that_plans_and_nobody_too_many(self) -> None:
        jo = User.objects.get(username="demo-driver")
        with self.assertRaises(TokenError):
            self.token(Scope.BOOK_WRITE, user=jo, role=Role.DRIVER)
        for _ in range(MOST):
            self.token(Scope.BOOK_READ, user=jo, role=Role.DRIVER)
        with self.assertRaises(TokenError):
            self.token(Scope.BOOK_READ, user=jo, role=Role.DRIVER)

    def test_the_reference_names_everything_that_can_be_asked(self) -> None:
        self.client.force_login(self.user)
        page = self.client.get("/api/")
        schema = self.client.get("/api/v1/openapi.json").json()
        for path in schema["paths"]:
            self.assertContains(page, path)
        self.assertEqual(schema["info"]["title"], "Eyebolt")
