"""A haul's plan and the whole yard as files, out and in."""

from __future__ import annotations

import json
from dataclasses import dataclass
from typing import Any

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.utils.text import slugify
from django.views.decorators.http import require_GET, require_http_methods

from book.yardfile import YardFileError
from exchange.forms import ImportForm
from exchange.yard_file import dump_whole, load_whole, read_file
from hauls.models import Haul
from hauls.store import import_haul
from mechanics.errors import MechanicsError
from planfile.draft import Draft
from planfile.errors import PlanFileError
from web.pages import show
from yards.access import YardRequest, in_yard, owners, planners

PROBLEMS = 40
"""Problems of a yard file that the page lists."""


@dataclass(frozen=True, kw_only=True)
class ImportPage:
    """A form for a plan file."""

    form: ImportForm


@dataclass(frozen=True, kw_only=True)
class YardFilePage:
    """The yard as a file: what is wrong with the one sent, and how much more than is shown."""

    problems: list[str]
    more: int


@require_http_methods(["GET", "POST"])
@planners
def bring_in(request: YardRequest) -> HttpResponse:
    """Import a plan file as a haul."""
    form = ImportForm(request.POST, request.FILES) if request.method == "POST" else ImportForm()
    if form.is_bound and form.is_valid():
        file = form.cleaned_data["file"]
        try:
            haul = import_haul(
                yard=request.yard,
                user=request.user,
                draft=Draft.of_file(file.read()),
                fallback_name=str(file.name).removesuffix(".json"),
            )
        except (PlanFileError, MechanicsError) as error:
            form.add_error("file", f"Not a valid plan. {error}. Nothing was stored.")
        else:
            return redirect(haul)
    status = 422 if form.errors else 200
    return show(request, "exchange/import.html", ImportPage(form=form), place="haul", status=status)


@require_GET
@in_yard
def export(request: YardRequest, pk: int) -> HttpResponse:
    """The haul as a plan file, exactly as it is kept."""
    haul = get_object_or_404(Haul.objects.filter(yard=request.yard), pk=pk)
    name = slugify(haul.name) or f"haul-{haul.pk}"
    return _download(haul.document, f"{name}.json", indent=2)


@require_http_methods(["GET", "POST"])
@owners
def yard_file(request: YardRequest) -> HttpResponse:
    """The whole yard as one file, and back."""
    problems: list[str] = []
    if request.method == "POST":
        file = request.FILES.get("file")
        try:
            if file is None:
                raise YardFileError(["choose a file first"])
            counted = load_whole(read_file(file.read()), yard=request.yard, user=request.user)
        except YardFileError as error:
            problems = error.problems
        else:
            words = ", ".join(f"{n} {what}" for what, n in counted.items())
            messages.success(request, f"Taken in: {words}.")
            return redirect("home")
    page = YardFilePage(problems=problems[:PROBLEMS], more=max(len(problems) - PROBLEMS, 0))
    return show(request, "exchange/yard_file.html", page, status=422 if problems else 200)


@require_GET
@owners
def yard_out(request: YardRequest) -> HttpResponse:
    """The yard file itself."""
    document = dump_whole(request.yard, photos=request.GET.get("photos") == "1")
    name = slugify(request.yard.name) or "yard"
    return _download(document, f"{name}.yard.json", indent=1)


def _download(document: Any, name: str, *, indent: int) -> HttpResponse:
    """A document as a file to keep."""
    body = json.dumps(document, indent=indent, ensure_ascii=False)
    response = HttpResponse(body, content_type="application/json; charset=utf-8")
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response
