"""Long work: begun, told of, called off, ended in every way it can end."""

from __future__ import annotations

import json
from datetime import timedelta
from typing import Any
from unittest.mock import patch

from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import CommandError, call_command
from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.urls import reverse
from django.utils import timezone

from book.models import Machine, Ticket
from book.table_views import QUICK_LINES
from exchange.yard_file import dump_whole
from hauls.models import Haul
from hauls.tests.yard_case import YardCase
from longwork.models import LongWork
from longwork.running import BusyError, _Told, begin, run
from web.budget import TooLongError
from yards.models import Membership, Role, User, Yard

MACHINES, CONFIGURATIONS = (
    reverse("table_in", args=[slug]) for slug in ("machines", "configurations")
)
TICKETS, YARD_FILE = reverse("tickets_in"), reverse("yard_file")

MANY = QUICK_LINES + 20


def table(rows: int = MANY, name: str = "Row") -> bytes:
    lines = [f"{name} {n},tractor,{3000 + n}" for n in range(rows)]
    return "\n".join(["name,shape,mass (lb)", *lines]).encode()


class LargeTables(YardCase):
    def send(self, data: bytes, **more: str) -> Any:
        file = SimpleUploadedFile("machines.csv", data)
        return self.client.post(MACHINES, {"file": file, **more}, follow=True)

    def test_it_is_tried_apart_and_taken_in_from_where_it_is_kept(self) -> None:
        tried = self.send(table())
        self.assertContains(tried, "What it would do")
        self.assertContains(tried, f"{MANY} new")
        self.assertEqual(Machine.objects.filter(name__startswith="Row").count(), 0)
        work = LongWork.objects.get()
        self.assertContains(tried, f'name="work" value="{work.pk}"')
        stamp = work.result["outcome"]["stamp"]
        sent = {"work": str(work.pk), "stamp": stamp}
        done = self.client.post(MACHINES, sent, follow=True)
        self.assertContains(done, "Taken in")
        self.assertEqual(Machine.objects.filter(name__startswith="Row").count(), MANY)

    def test_what_changed_in_between_is_noticed(self) -> None:
        self.send(table())
        work = LongWork.objects.get()
        Machine.objects.create(yard=self.yard, name="Row 7")
        sent = {"work": str(work.pk), "stamp": work.result["outcome"]["stamp"]}
        done = self.client.post(MACHINES, sent, follow=True)
        self.assertContains(done, "Somebody changed one of these", status_code=409)
        self.assertEqual(Machine.objects.filter(name__startswith="Row").count(), 1)

    def test_a_fault_is_listed_first_and_nothing_stored(self) -> None:
        answer = self.send(table() + b"\nLast,tractor,heavy")
        self.assertContains(answer, "Not right yet", status_code=422)
        self.assertContains(answer, "“heavy” is not a mass", status_code=422)

    def test_what_is_no_table_is_said(self) -> None:
        answer = self.send(b"wings\n" + b"1\n" * MANY)
        self.assertContains(answer, "No column of this table is called", status_code=422)

    def test_a_file_that_is_not_kept_any_more(self) -> None:
        for number in ("99", "x", "9" * 40):
            sent = {"work": number, "stamp": "s"}
            answer = self.client.post(MACHINES, sent)
            self.assertEqual(answer.status_code, 422)

    def test_one_name_twice_in_a_list_that_names_once(self) -> None:
        answer = self.client.post(
            CONFIGURATIONS,
            {"text": "machine,name\nHarrow 48 tractor with loader,Both\n"
                     "Harrow 48 tractor with loader,Both\n"},
        )  # fmt: skip
        self.assertContains(answer, "stands in the file twice", status_code=422)

    def test_checking_writes_nothing_of_the_book(self) -> None:
        """A dry run never begins to write: nobody has to wait for it."""
        text = table(40).decode()
        with CaptureQueriesContext(connection) as seen:
            self.client.post(MACHINES, {"text": text})
        writing = ("INSERT", "UPDATE", "DELETE", "SAVE")
        wrote = [q["sql"] for q in seen if q["sql"].startswith(writing)]
        self.assertEqual(wrote, [])


class LargeTickets(YardCase):
    def test_tickets_too(self) -> None:
        before = Ticket.objects.count()
        rows = [f"2026-05-01,{4000 + n}" for n in range(MANY)]
        data = "\n".join(["weighed on,whole mass (lb)", *rows]).encode()
        file = SimpleUploadedFile("t.csv", data)
        tried = self.client.post(TICKETS, {"file": file}, follow=True)
        self.assertContains(tried, f"{MANY} new")
        work = LongWork.objects.get()
        self.client.post(
            TICKETS,
            {"work": work.pk, "stamp": work.result["outcome"]["stamp"]},
        )
        self.assertEqual(Ticket.objects.count() - before, MANY)


class LargeYardFiles(YardCase):
    def test_a_large_file_comes_in_apart(self) -> None:
        document = dump_whole(self.yard, photos=True)
        document["hauls"] = document["hauls"] * 4
        other = Yard.objects.create(name="Other")
        Membership.objects.create(yard=other, user=self.user, role=Role.OWNER)
        self.client.post(f"/yards/{other.pk}/")
        file = SimpleUploadedFile("yard.json", json.dumps(document).encode())
        answer = self.client.post(YARD_FILE, {"file": file}, follow=True)
        self.assertContains(answer, "Taken in: ")
        self.assertEqual(LongWork.objects.get().state, LongWork.State.DONE)
        self.assertEqual(Haul.objects.filter(yard=other).count(), len(document["hauls"]))


class Ends(YardCase):
    def begun(self, data: bytes = b"") -> LongWork:
        """A piece of work that waits."""
        with patch("longwork.running.run"):
            return begin(
                kind="table",
                yard=self.yard,
                user=self.user,
                title="Table",
                data=data or table(3),
                asked_for={"slug": "machines"},
            )

    def test_while_it_goes_on_the_page_says_how_far_it_is(self) -> None:
        work = self.begun()
        LongWork.objects.update(state="running", done=1_300, total=5_000)
        page = self.client.get(f"/long-work/{work.pk}/")
        self.assertContains(page, "1,300 of 5,000")
        self.assertContains(page, 'hx-trigger="every 1s"')
        LongWork.objects.update(state="done")
        part = self.client.get(f"/long-work/{work.pk}/", headers={"HX-Request": "true"})
        self.assertEqual(part["HX-Redirect"], f"/long-work/{work.pk}/")

    def test_called_off_before_it_begins(self) -> None:
        work = self.begun()
        answer = self.client.post(f"/long-work/{work.pk}/end/", follow=True)
        self.assertContains(answer, "Called off")
        run(work)
        self.assertEqual(LongWork.objects.get().state, "cancelled")

    def test_called_off_in_the_middle(self) -> None:
        work = self.begun()

        def work_on(work: LongWork, progress: _Told) -> None:
            LongWork.objects.update(state="cancelled")
            progress.last -= 10
            progress(1, 2)
            self.fail("it went on")

        with patch("longwork.running.kind_of") as kind:
            kind.return_value.seconds = 60
            kind.return_value.run = work_on
            run(work)
        self.assertEqual(LongWork.objects.get().state, "cancelled")

    def test_past_its_time(self) -> None:
        work = self.begun()
        with patch("longwork.running._Told.in_time", side_effect=TooLongError):
            run(work)
        answer = self.client.get(f"/long-work/{work.pk}/")
        self.assertContains(answer, "Split it into several")

    def test_the_time_is_counted(self) -> None:
        work = self.begun()
        told = _Told(work, seconds=60)
        told.in_time()
        told.begun -= 61
        with self.assertRaises(TooLongError):
            told.in_time()

    def test_what_breaks_is_said_and_logged(self) -> None:
        work = self.begun()
        with (
            patch("longwork.running.kind_of") as kind,
            self.assertLogs("longwork.running", "ERROR"),
        ):
            kind.return_value.seconds = 60
            kind.return_value.run.side_effect = RuntimeError
            run(work)
        answer = self.client.get(f"/long-work/{work.pk}/")
        self.assertContains(answer, "Something broke on our side. Nothing was stored.")

    def test_stopped_with_the_server(self) -> None:
        work = self.begun()
        LongWork.objects.update(state="running", heard_at=timezone.now() - timedelta(minutes=5))
        self.assertContains(self.client.get(f"/long-work/{work.pk}/"), "stopped in the middle")
        # and stands in nobody's way
        self.begun()

    def test_one_at_a_time_in_a_yard_and_few_on_the_server(self) -> None:
        self.begun()
        with self.assertRaisesMessage(BusyError, "still going on in your yard"):
            self.begun()
        LongWork.objects.update(yard=Yard.objects.create(name="Other"))
        self.begun()
        LongWork.objects.update(yard=Yard.objects.create(name="Third"))
        with self.assertRaisesMessage(BusyError, "busy with other long work"):
            self.begun()
        file = SimpleUploadedFile("machines.csv", table())
        answer = self.client.post(MACHINES, {"file": file})
        self.assertContains(answer, "busy with other long work", status_code=422)

    def test_another_planner_does_not_see_it(self) -> None:
        work = self.begun()
        other = User.objects.create_user("other")
        Membership.objects.create(yard=self.yard, user=other, role=Role.PLANNER)
        self.client.force_login(other)
        self.assertEqual(self.client.get(f"/long-work/{work.pk}/").status_code, 404)

    def test_a_day_later_it_is_swept_away_with_its_file(self) -> None:
        work = self.begun()
        storage, name = work.file.storage, work.file.name
        LongWork.objects.update(
            begun_at=timezone.now() - timedelta(days=2), state=LongWork.State.DONE
        )
        self.begun()
        self.assertFalse(storage.exists(name))
        self.assertFalse(LongWork.objects.filter(pk=work.pk).exists())

    def test_the_command_does_what_waits(self) -> None:
        work = self.begun()
        with patch("longwork.running.os.nice"):
            call_command("long_work", str(work.pk))
        work.refresh_from_db()
        self.assertEqual(work.state, LongWork.State.DONE)
        with patch("longwork.running.os.nice"), self.assertRaises(CommandError):
            call_command("long_work", "999")
