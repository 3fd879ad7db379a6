"""Tables out and in: a dry run with a line for each row, then all of it or nothing."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from django import forms
from django.http import Http404, HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_GET, require_http_methods

from book.table_reading import MAX_BYTES, Outcome, TableError, decode, take_in
from book.tables import TABLES, Table, write_table
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


def _table(slug: str) -> Table:
    try:
        return TABLES[slug]
    except KeyError:
        raise Http404(slug) from None


@require_GET
@in_yard
def tables(request: YardRequest) -> HttpResponse:
    """All tables, to write out or take in."""
    return render(request, "book/tables.html", {"tables": TABLES.values(), "place": "book"})


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
    context: dict[str, Any] = {
        "table": table,
        "columns": [
            (
                column.header(request.user.unit_system),
                column.words(request.user.unit_system),
            )
            for column in table.columns
        ],
        "form": TableFileForm(),
        "outcome": None,
        "wrong": "",
        "text": "",
        "place": "book",
    }
    if request.method == "GET":
        return render(request, "book/table_in.html", context)
    status = report(
        request,
        context,
        lambda text: take_in(
            text,
            table,
            yard=request.yard,
            user=request.user,
            stamp=request.POST.get("stamp"),
        ),
    )
    return render(request, "book/table_in.html", context, status=status)


def report(request: YardRequest, context: dict[str, Any], take: Callable[[str], Outcome]) -> int:
    """Take the request's table in or try it, put what happened into ``context``; the status."""
    try:
        text = text_of(request)
        outcome = take(text)
    except TableError as error:
        context["wrong"] = str(error)
        return 422
    lines = sorted(outcome.lines, key=lambda line: (not line.problems, line.number))
    counted: dict[str, int] = {}
    for line in outcome.lines:
        counted[line.outcome] = counted.get(line.outcome, 0) + 1
    moved_on = bool(request.POST.get("stamp")) and not outcome.stored and not outcome.wrong
    context |= {
        "outcome": outcome,
        "lines": lines[:SHOWN],
        "more": max(len(lines) - SHOWN, 0),
        "counted": counted,
        "moved_on": moved_on,
        "text": text,
    }
    return 409 if moved_on else 422 if outcome.wrong else 200


def text_of(request: YardRequest) -> str:
    """The file's text: as uploaded, or as the dry run's page sends it back."""
    if "file" in request.FILES:
        file = request.FILES.get("file")
        return "" if file is None else decode(file.read(MAX_BYTES + 1))
    text = request.POST.get("text", "")
    if not text:
        raise TableError("Choose a file first.")
    return decode(text.encode())
