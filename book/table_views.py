"""Tables out and in: a dry run with a line for each row, then all of it or nothing."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import TypeVar

from django import forms
from django.http import Http404, HttpResponse
from django.views.decorators.http import require_GET, require_http_methods

from book.table_reading import MAX_BYTES, Line, Outcome, TableError, decode, take_in
from book.tables import TABLES, Table, write_table
from web.pages import show
from yards.access import YardRequest, in_yard, planners

SHOWN = 300
"""Lines of a report that the page lists; those with a problem come first."""


class TableFileForm(forms.Form):
    """A table to take in."""

    file = forms.FileField(
        label="CSV file",
        help_text=f"UTF-8, at most {MAX_BYTES // 1_000_000} MB and 5,000 rows.",
        widget=forms.FileInput(attrs={"class": "form-control", "accept": ".csv,text/csv"}),
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


@require_GET
@in_yard
def tables(request: YardRequest) -> HttpResponse:
    """All tables, to write out or take in."""
    return show(request, "book/tables.html", TableList(tables=TABLES.values()), place="book")


@require_GET
@in_yard
def table_out(request: YardRequest, slug: str) -> HttpResponse:
    """A table as a CSV file, in the units the person reads in."""
    table = _table(slug)
    text = write_table(table, request.yard, request.user.unit_system)
    return csv_file(text, table.slug)


def csv_file(text: str, name: str) -> HttpResponse:
    """``text`` as a CSV file ``name`` to keep."""
    # spreadsheets know UTF-8 by its mark
    answer = HttpResponse("\ufeff" + text, content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="{name}.csv"'
    return answer


@require_http_methods(["GET", "POST"])
@planners
def table_in(request: YardRequest, slug: str) -> HttpResponse:
    """Try a table; taken in only when the person says so after seeing what it would do."""
    table = _table(slug)
    unit = request.user.unit_system
    page = TableIn(
        table=table,
        columns=[(column.header(unit), column.words(unit)) for column in table.columns],
        form=TableFileForm(),
    )
    if request.method == "GET":
        return show(request, "book/table_in.html", page, place="book")
    tried, status = report(
        request,
        page,
        lambda text: take_in(
            text,
            table,
            yard=request.yard,
            user=request.user,
            stamp=request.POST.get("stamp"),
        ),
    )
    return show(request, "book/table_in.html", tried, place="book", status=status)


def report(request: YardRequest, page: Taken, take: Callable[[str], Outcome]) -> tuple[Taken, int]:
    """Take the request's table in or try it: the page with what happened, and its status."""
    try:
        text = text_of(request)
        outcome = take(text)
    except TableError as error:
        return replace(page, wrong=str(error)), 422
    lines = sorted(outcome.lines, key=lambda line: (not line.problems, line.number))
    counted: dict[str, int] = {}
    for line in outcome.lines:
        counted[line.outcome] = counted.get(line.outcome, 0) + 1
    moved_on = bool(request.POST.get("stamp")) and not outcome.stored and not outcome.wrong
    tried = replace(
        page,
        outcome=outcome,
        lines=lines[:SHOWN],
        more=max(len(lines) - SHOWN, 0),
        counted=counted,
        moved_on=moved_on,
        text=text,
    )
    return tried, 409 if moved_on else 422 if outcome.wrong else 200


def text_of(request: YardRequest) -> str:
    """The file's text: as uploaded, or as the dry run's page sends it back."""
    if "file" in request.FILES:
        file = request.FILES.get("file")
        return "" if file is None else decode(file.read(MAX_BYTES + 1))
    text = request.POST.get("text", "")
    if not text:
        raise TableError("Choose a file first.")
    return decode(text.encode())
