"""Tables out and in: a dry run with a line for each row, then all of it or nothing."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Any, Final, TypeVar

import msgspec
from django import forms
from django.http import Http404, HttpResponse
from django.shortcuts import redirect
from django.views.decorators.http import require_http_methods, require_safe

from book.sheet import MAX_BYTES, TableError, decode
from book.table_outcome import Line, Outcome, Told
from book.table_reading import take_in
from book.tables import TABLES, Table, write_table
from book.workbook import TYPE, is_workbook, read_workbook, write_workbook
from longwork.models import LongWork
from longwork.running import BusyError, Progress, begin
from web.middleware import takes_long
from web.pages import show
from web.sent import whole_number
from yards.access import YardRequest, in_yard, planners
from yards.audit import happened
from yards.models import Happened, User
from yards.throttle import address_of

QUICK_LINES: Final = 250
"""A file of more lines than this is worked through apart from the page."""


class TableFileForm(forms.Form):
    """A table to take in."""

    file = forms.FileField(
        label="Spreadsheet or CSV file",
        help_text="The first sheet of an .xlsx workbook, or CSV in UTF-8; at most "
        f"{MAX_BYTES // 1_000_000} MB and 5,000 rows.",
        widget=forms.FileInput(
            attrs={"class": "form-control", "accept": f".csv,text/csv,.xlsx,{TYPE}"}
        ),
    )


@dataclass(frozen=True, kw_only=True)
class TakeIn:
    """A page that takes a file of rows in: its columns, and what a try would do or did.

    ``counted`` are lines by their outcome, ``more`` how many beyond those shown; with
    ``moved_on`` somebody else changed one of the entries. ``text`` is the file, to be sent back.
    """

    columns: list[tuple[str, str]]
    form: TableFileForm
    wrong: str = ""
    outcome: Outcome | None = None
    lines: Sequence[Line] = ()
    more: int = 0
    counted: Mapping[str, int] = field(default_factory=dict)
    moved_on: bool = False
    text: str = ""
    work: int | None = None
    """Where the file is kept that was worked through apart, to be taken in from there."""


@dataclass(frozen=True, kw_only=True)
class TableIn(TakeIn):
    """The same of one of the book's tables."""

    table: Table


@dataclass(frozen=True, kw_only=True)
class TableList:
    """Every table that goes out and comes in."""

    tables: Iterable[Table]


Taken = TypeVar("Taken", bound=TakeIn)


def _table(slug: str) -> Table:
    try:
        return TABLES[slug]
    except KeyError:
        raise Http404(slug) from None


@require_safe
@in_yard
def tables(request: YardRequest) -> HttpResponse:
    """All tables, to write out or take in."""
    return show(request, "book/tables.html", TableList(tables=TABLES.values()), place="book")


@takes_long
@require_safe
@in_yard
def table_out(request: YardRequest, slug: str) -> HttpResponse:
    """A table as a CSV file, in the units the person reads in."""
    table = _table(slug)
    text = write_table(table, request.yard, request.user.unit_system)
    return csv_file(request, text, table.slug)


def csv_file(request: YardRequest, text: str, name: str) -> HttpResponse:
    """``text`` as a CSV file ``name`` to keep, or as a workbook where that is asked for."""
    happened(
        Happened.WRITTEN_OUT,
        yard=request.yard,
        by=request.user,
        about=f"table of {name}",
        address=address_of(request),
    )
    if request.GET.get("as") == "xlsx":
        book = HttpResponse(write_workbook(text, name), content_type=TYPE)
        book["Content-Disposition"] = f'attachment; filename="{name}.xlsx"'
        return book
    # spreadsheets know UTF-8 by its mark
    answer = HttpResponse("\ufeff" + text, content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="{name}.csv"'
    return answer


def _page(request: YardRequest, table: Table) -> TableIn:
    unit = request.user.unit_system
    return TableIn(
        table=table,
        columns=[(column.header(unit), column.words(unit)) for column in table.columns],
        form=TableFileForm(),
    )


@require_http_methods(["GET", "HEAD", "POST"])
@planners
def table_in(request: YardRequest, slug: str) -> HttpResponse:
    """Try a table; taken in only when the person says so after seeing what it would do."""
    table = _table(slug)
    page = _page(request, table)
    if request.method != "POST":
        return show(request, "book/table_in.html", page, place="book")
    return tried_or_begun(
        request,
        page,
        template="book/table_in.html",
        place="book",
        kind="table",
        title=f"Table “{table.title}”",
        asked_for={"slug": slug},
        take=lambda text, stamp: take_in(
            text, table, yard=request.yard, user=request.user, stamp=stamp
        ),
    )


def try_table(work: LongWork, progress: Progress) -> dict[str, Any]:
    """A large table of the book, worked through apart."""
    table = TABLES[work.asked["slug"]]
    return try_apart(
        work,
        lambda text, stamp: take_in(
            text,
            table,
            yard=work.yard,
            user=asker(work),
            stamp=stamp,
            progress=progress,
        ),
    )


def table_tried(request: YardRequest, work: LongWork) -> HttpResponse:
    """The page that shows what came of it."""
    table = TABLES[work.asked["slug"]]
    return told_apart(request, _page(request, table), work, template="book/table_in.html")


def tried_or_begun(
    request: YardRequest,
    page: TakeIn,
    *,
    template: str,
    place: str,
    kind: str,
    title: str,
    asked_for: dict[str, Any],
    take: Callable[[str, str | None], Outcome],
) -> HttpResponse:
    """Take the request's table in or try it: at once where it is short, else apart."""
    stamp = request.POST.get("stamp")
    try:
        text = text_of(request, kind)
        if text.count("\n") > QUICK_LINES:
            work = begin(
                kind=kind,
                yard=request.yard,
                user=request.user,
                title=title,
                data=text.encode(),
                asked_for={**asked_for, "stamp": stamp},
            )
            return redirect("long_work", work.pk)
    except (TableError, BusyError) as error:
        return show(request, template, replace(page, wrong=str(error)), place=place, status=422)
    told = Told.of(lambda: take(text, stamp))
    shown, status = with_told(page, told, stamp)
    return show(request, template, replace(shown, text=text), place=place, status=status)


def try_apart(work: LongWork, take: Callable[[str, str | None], Outcome]) -> dict[str, Any]:
    """What is told of a table worked through apart, as a row keeps it."""
    text = work.read().decode()
    told = Told.of(lambda: take(text, work.asked.get("stamp")))
    return dict(msgspec.to_builtins(told))


def told_apart(
    request: YardRequest, page: TakeIn, work: LongWork, *, template: str, place: str = "book"
) -> HttpResponse:
    """The page with what came of a table worked through apart."""
    told = msgspec.convert(work.result, Told)
    shown, status = with_told(page, told, work.asked.get("stamp"))
    return show(request, template, replace(shown, work=work.pk), place=place, status=status)


def asker(work: LongWork) -> User:
    """Who asked for it.

    Raises:
        TableError: that person is not here any more.
    """
    if work.begun_by is None:
        raise TableError("Whoever sent it is no longer here.")
    return work.begun_by


def with_told(page: Taken, told: Told, stamp: str | None) -> tuple[Taken, int]:
    """The page with what happened, and its status."""
    if told.outcome is None:
        return replace(page, wrong=told.wrong), 422
    outcome = told.outcome
    moved_on = bool(stamp) and not outcome.stored and not outcome.wrong
    tried = replace(
        page,
        outcome=outcome,
        lines=outcome.lines,
        more=told.more,
        counted=told.counted,
        moved_on=moved_on,
    )
    return tried, 409 if moved_on else 422 if outcome.wrong else 200


def table_text(data: bytes) -> str:
    """The text of an uploaded table, a workbook's first sheet or CSV.

    Raises:
        TableError: it is neither, or too large.
    """
    if is_workbook(data):
        if len(data) > MAX_BYTES:
            raise TableError("The file is larger than 1 MB. Split it into several.")
        return decode(read_workbook(data).encode())
    return decode(data)


def text_of(request: YardRequest, kind: str) -> str:
    """The file's text: as uploaded, as the dry run's page sends it back, or as it is kept."""
    if "file" in request.FILES:
        file = request.FILES.get("file")
        return "" if file is None else table_text(file.read(MAX_BYTES + 1))
    kept = whole_number(request.POST.get("work"))
    if kept is not None:
        work = LongWork.objects.filter(yard=request.yard, kind=kind, pk=kept).first()
        if work is None or not work.file:
            raise TableError("The file is not kept any more. Send it again.")
        return decode(work.read())
    text = request.POST.get("text", "")
    if not text:
        raise TableError("Choose a file first.")
    return decode(text.encode())
