"""A haul's plan and the whole yard as files, out and in."""

from __future__ import annotations

import json
from dataclasses import dataclass
from typing import Any, Final

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.utils.text import slugify
from django.views.decorators.http import require_http_methods, require_safe

from book.yardfile import YardFileError
from exchange.forms import ImportForm
from exchange.yard_file import MAX_BYTES, dump_whole, load_whole, read_file
from hauls.models import Haul
from hauls.store import import_haul
from longwork.models import LongWork
from longwork.running import BusyError, Progress, begin, no_progress
from mechanics.errors import MechanicsError
from planfile.draft import Draft
from planfile.errors import PlanFileError
from web.budget import costly
from web.pages import show
from yards.access import YardRequest, in_yard, owners, planners
from yards.audit import happened
from yards.models import Happened, User, Yard
from yards.throttle import address_of

PROBLEMS = 40
"""Problems of a yard file that the page lists."""

QUICK_BYTES: Final = 300_000
"""A yard file larger than this is worked through apart from the page."""


@dataclass(frozen=True, kw_only=True)
class ImportPage:
    """A form for a plan file."""

    form: ImportForm


@dataclass(frozen=True, kw_only=True)
class YardFilePage:
    """The yard as a file: what is wrong with the one sent, and how much more than is shown."""

    problems: list[str]
    more: int


@require_http_methods(["GET", "HEAD", "POST"])
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


@require_safe
@in_yard
def export(request: YardRequest, pk: int) -> HttpResponse:
    """The haul as a plan file, exactly as it is kept."""
    haul = get_object_or_404(Haul.objects.filter(yard=request.yard), pk=pk)
    happened(
        Happened.WRITTEN_OUT,
        yard=request.yard,
        by=request.user,
        about=f"haul {haul.name}",
        address=address_of(request),
    )
    name = slugify(haul.name) or f"haul-{haul.pk}"
    return _download(haul.document, f"{name}.json", indent=2)


@require_http_methods(["GET", "HEAD", "POST"])
@owners
def yard_file(request: YardRequest) -> HttpResponse:
    """The whole yard as one file, and back."""
    if request.method != "POST":
        return _yard_file(request, [])
    file = request.FILES.get("file")
    if file is None:
        return _yard_file(request, ["choose a file first"])
    data = file.read(MAX_BYTES + 1)
    if len(data) > QUICK_BYTES:
        return _begin_apart(request, data)
    return _taken_in(request, take_in(data, yard=request.yard, user=request.user))


def _begin_apart(request: YardRequest, data: bytes) -> HttpResponse:
    """A large file is worked through apart; one that is no yard file is refused at once."""
    try:
        read_file(data)
        work = begin(
            kind="yard-file",
            yard=request.yard,
            user=request.user,
            title="Yard file",
            data=data,
            asked_for={},
        )
    except YardFileError as error:
        return _yard_file(request, error.problems)
    except BusyError as error:
        return _yard_file(request, [str(error)])
    return redirect("long_work", work.pk)


def take_in(
    data: bytes,
    *,
    yard: Yard,
    user: User,
    progress: Progress = no_progress,
) -> dict[str, Any]:
    """What came of a yard file: ``counted`` of what came in, or the ``problems`` and nothing."""
    try:
        counted = load_whole(read_file(data), yard=yard, user=user, progress=progress)
    except YardFileError as error:
        return {
            "problems": error.problems[:PROBLEMS],
            "more": max(len(error.problems) - PROBLEMS, 0),
        }
    words = ", ".join(f"{n} {what}" for what, n in counted.items())
    happened(Happened.TAKEN_IN, yard=yard, by=user, about=f"yard file: {words}")
    return {"counted": counted}


def take_in_apart(work: LongWork, progress: Progress) -> dict[str, Any]:
    """A large yard file, worked through apart."""
    if work.begun_by is None:
        return {"problems": ["whoever sent it is no longer here"]}
    return take_in(work.read(), yard=work.yard, user=work.begun_by, progress=progress)


def taken_in_apart(request: YardRequest, work: LongWork) -> HttpResponse:
    """The page that shows what came of it; once it came in, the hauls."""
    return _taken_in(request, work.result)


def _taken_in(request: YardRequest, came_of_it: dict[str, Any]) -> HttpResponse:
    if "counted" not in came_of_it:
        return _yard_file(request, came_of_it["problems"], came_of_it.get("more", 0))
    words = ", ".join(f"{n} {what}" for what, n in came_of_it["counted"].items())
    messages.success(request, f"Taken in: {words}.")
    return redirect("home")


def _yard_file(request: YardRequest, problems: list[str], more: int = 0) -> HttpResponse:
    page = YardFilePage(problems=problems[:PROBLEMS], more=more + max(len(problems) - PROBLEMS, 0))
    return show(request, "exchange/yard_file.html", page, status=422 if problems else 200)


@require_safe
@owners
@costly(20, "Write it out without its photos.")
def yard_out(request: YardRequest) -> HttpResponse:
    """The yard file itself."""
    happened(
        Happened.WRITTEN_OUT,
        yard=request.yard,
        by=request.user,
        about="the whole yard",
        address=address_of(request),
    )
    document = dump_whole(request.yard, photos=request.GET.get("photos") == "1")
    name = slugify(request.yard.name) or "yard"
    return _download(document, f"{name}.yard.json", indent=1)


def _download(document: Any, name: str, *, indent: int) -> HttpResponse:
    """A document as a file to keep."""
    body = json.dumps(document, indent=indent, ensure_ascii=False)
    response = HttpResponse(body, content_type="application/json; charset=utf-8")
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response
