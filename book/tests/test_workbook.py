"""Workbooks out and in again are the same table."""

from __future__ import annotations

import csv
import io
from datetime import date

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import SimpleTestCase
from hypothesis import example, given
from hypothesis import strategies as st
from openpyxl import Workbook, load_workbook

from book.models import Trailer
from book.sheet import TableError, sheet
from book.tables import TABLES, write_table
from book.workbook import MAGIC, is_workbook, read_workbook, write_workbook
from hauls.tests.yard_case import YardCase
from measures import UnitSystem

CELL = st.one_of(
    st.text(st.characters(codec="utf-8", exclude_categories=("Cs", "Cc")), max_size=12),
    st.integers(-(10**9), 10**9).map(str),
    st.decimals(-9999, 9999, places=2).map(str),
    st.sampled_from(("7,000", "12 ft 6 in", "3/8", "0012", "1e5", "=1+1", "yes", "-0")),
)


def bytes_of(rows: list[list[object]]) -> bytes:
    book = Workbook()
    page = book.active
    for row in rows:
        page.append(row)
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


class RoundTrip(SimpleTestCase):
    @given(st.lists(st.lists(CELL, min_size=3, max_size=3), max_size=12))
    @example([["0", "", ""], ["0", "=0", ""]])
    def test_what_is_written_is_read_again(self, rows: list[list[str]]) -> None:
        text = io.StringIO()

        csv.writer(text, lineterminator="\n").writerows([["name", "mass (lb)", "notes"], *rows])
        headers, before, _ = sheet(text.getvalue())
        headers_again, after, _ = sheet(read_workbook(write_workbook(text.getvalue(), "t")))
        self.assertEqual(headers, headers_again)
        self.assertEqual(after, before)

    def test_numbers_days_and_yes_come_as_somebody_would_type_them(self) -> None:
        data = bytes_of(
            [["name", "a", "b", "c"], ["x", 7000.0, date(2026, 5, 4), True], ["y", 0.1]]
        )
        self.assertTrue(is_workbook(data))
        _, rows, _ = sheet(read_workbook(data))
        self.assertEqual(rows, [["x", "7000", "2026-05-04", "yes"], ["y", "0.1", "", ""]])

    def test_what_is_no_workbook_is_said(self) -> None:
        for data in (MAGIC, MAGIC + b"\x00" * 200, bytes_of([["a"]])[:-40]):
            with self.assertRaises(TableError):
                read_workbook(data)
        with self.assertRaises(TableError) as told:
            many: list[list[object]] = [[n] for n in range(5002)]
            read_workbook(bytes_of([["a"], *many]))
        self.assertIn("5,000 rows", str(told.exception))


class OfTheBook(YardCase):
    def test_every_table_goes_out_and_comes_back_unchanged(self) -> None:
        for table in TABLES.values():
            with self.subTest(table=table.slug):
                text = write_table(table, self.yard, UnitSystem.US)
                answer = self.client.get(f"/book/tables/{table.slug}.csv?as=xlsx")
                self.assertIn(".xlsx", answer["Content-Disposition"])
                data = b"".join(answer) if answer.streaming else answer.content
                self.assertEqual(sheet(read_workbook(data))[:2], sheet(text)[:2])

    def test_taken_in_as_a_workbook(self) -> None:
        answer = self.client.get("/book/tables/trailers.csv?as=xlsx")
        book = load_workbook(io.BytesIO(answer.content))
        page = book.active
        page["A2"] = "A new one"
        out = io.BytesIO()
        book.save(out)
        tried = self.client.post(
            "/book/tables/trailers/", {"file": SimpleUploadedFile("t.xlsx", out.getvalue())}
        )
        self.assertContains(tried, "A new one")
        stamp = tried.context["outcome"].stamp
        self.client.post("/book/tables/trailers/", {"text": tried.context["text"], "stamp": stamp})
        self.assertTrue(Trailer.objects.filter(yard=self.yard, name="A new one").exists())

    def test_a_damaged_workbook_is_refused_with_a_word(self) -> None:
        bad = SimpleUploadedFile("t.xlsx", MAGIC + b"nothing")
        answer = self.client.post("/book/tables/trailers/", {"file": bad})
        self.assertContains(answer, "cannot be read", status_code=422)
