"""A haul's plan and the whole yard as files, out and in."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass, field
from types import MappingProxyType
from typing import Any, Final

import msgspec
from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.utils.text import slugify
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from book.yardfile import YardFileError
from exchange.forms import ImportForm
from exchange.jobs import dump_job, take_job
from exchange.merging import Choice, Chosen, Clash, ClashError
from exchange.taking_in import counted_words, load_whole
from exchange.yard_file import MAX_BYTES, dump_whole, read_file
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
class Question:
    """Something that is here and in the file and differs, and what is chosen so far; ``moved``
    where somebody changed it after that was chosen."""

    clash: Clash
    choice: Choice
    moved: bool


@dataclass(frozen=True, kw_only=True)
class MergePage:
    """What has to be decided before a yard file comes in; ``work`` is where it is kept."""

    work: int
    clashes: list[Question]

    @property
    def moved(self) -> bool:
        """Whether anything was changed in between."""
        return any(question.moved for question in self.clashes)


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
            for words in take_job(haul):
                messages.warning(request, f"Of when and where it goes: {words}.")
            return redirect(haul)
    status = 422 if form.errors else 200
    return show(request, "exchange/import.html", ImportPage(form=form), place="haul", status=status)


@require_safe
@in_yard
def export(request: YardRequest, pk: int) -> HttpResponse:
    """The haul as a plan file, exactly as it is kept; with its job, where one is said of it."""
    haul = get_object_or_404(Haul.objects.filter(yard=request.yard), pk=pk)
    happened(
        Happened.WRITTEN_OUT,
        yard=request.yard,
        by=request.user,
        about=f"haul {haul.name}",
        address=address_of(request),
    )
    name = slugify(haul.name) or f"haul-{haul.pk}"
    document = haul.document
    extra = {name: said for name, said in document.get("extra", {}).items() if name != "job"}
    if job := dump_job(haul):
        # beside whatever else of others' is kept there
        extra["job"] = job
    if extra or "extra" in document:
        document = {**document, "extra": extra}
    return _download(document, f"{name}.json", indent=2)


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
    came = take_in(data, yard=request.yard, user=request.user)
    # the file has to be at hand when somebody has decided
    return _begin_apart(request, data) if came.clashes else _taken_in(request, came)


def _begin_apart(
    request: YardRequest, data: bytes, chosen: Mapping[str, Chosen] = MappingProxyType({})
) -> HttpResponse:
    """A large file is worked through apart, and so is one that somebody has to say more about; one
    that is no yard file is refused at once."""
    try:
        read_file(data)
        work = begin(
            kind="yard-file",
            yard=request.yard,
            user=request.user,
            title="Yard file",
            data=data,
            asked_for=msgspec.to_builtins(dict(chosen)),
        )
    except YardFileError as error:
        return _yard_file(request, error.problems)
    except BusyError as error:
        return _yard_file(request, [str(error)])
    return redirect("long_work", work.pk)


@dataclass(frozen=True, kw_only=True, slots=True)
class CameOfIt:
    """What came of a yard file: ``counted`` of what came in; or, with nothing stored, the first
    ``problems`` and how many ``more``, or the ``clashes`` that somebody has to decide."""

    counted: dict[str, int] = field(default_factory=dict)
    problems: tuple[str, ...] = ()
    more: int = 0
    clashes: tuple[Clash, ...] = ()

    @property
    def words(self) -> str:
        """What came in."""
        return counted_words(self.counted)


def take_in(
    data: bytes,
    *,
    yard: Yard,
    user: User,
    progress: Progress = no_progress,
    chosen: Mapping[str, Chosen] = MappingProxyType({}),
) -> CameOfIt:
    """Take a yard file in, with what was ``chosen`` for what the yard has otherwise."""
    try:
        counted = load_whole(
            read_file(data), yard=yard, user=user, progress=progress, chosen=chosen
        )
    except YardFileError as error:
        return CameOfIt(
            problems=tuple(error.problems[:PROBLEMS]), more=max(len(error.problems) - PROBLEMS, 0)
        )
    except ClashError as error:
        return CameOfIt(clashes=error.clashes)
    came = CameOfIt(counted=counted)
    happened(Happened.TAKEN_IN, yard=yard, by=user, about=f"yard file: {came.words}")
    return came


def take_in_apart(work: LongWork, progress: Progress) -> dict[str, Any]:
    """A large yard file, worked through apart."""
    if work.begun_by is None:
        return {"problems": ["whoever sent it is no longer here"]}
    came = take_in(
        work.read(),
        yard=work.yard,
        user=work.begun_by,
        progress=progress,
        chosen=msgspec.convert(work.asked, dict[str, Chosen]),
    )
    return dict(msgspec.to_builtins(came))


def taken_in_apart(request: YardRequest, work: LongWork) -> HttpResponse:
    """The page that shows what came of it: what has to be decided, or what was taken in."""
    came = msgspec.convert(work.result, CameOfIt)
    if not came.clashes:
        return _taken_in(request, came)
    before = msgspec.convert(work.asked, dict[str, Chosen])
    page = MergePage(
        work=work.pk,
        clashes=[
            Question(
                clash=clash,
                choice=before[clash.key].choice if clash.key in before else Choice.MINE,
                moved=clash.key in before and not before[clash.key].answers(clash),
            )
            for clash in came.clashes
        ],
    )
    return show(request, "exchange/merge.html", page, status=409 if page.moved else 200)


@require_POST
@owners
def merge(request: YardRequest, pk: int) -> HttpResponse:
    """Take a yard file in with what was chosen for what the yard has otherwise."""
    there = LongWork.objects.filter(yard=request.yard, kind="yard-file", begun_by=request.user)
    work = get_object_or_404(there, pk=pk)
    came = msgspec.convert(work.result, CameOfIt)
    if not work.file or not came.clashes:
        return _yard_file(request, ["the file is not kept any more; send it again"])
    chosen: dict[str, Chosen] = {}
    for n, clash in enumerate(came.clashes):
        sent = request.POST.get(f"choice-{n}", "")
        if sent in [choice.value for choice in Choice]:
            chosen[clash.key] = Chosen(choice=Choice(sent), stamp=clash.stamp)
    return _begin_apart(request, work.read(), chosen)


def _taken_in(request: YardRequest, came: CameOfIt) -> HttpResponse:
    if came.problems:
        return _yard_file(request, list(came.problems), came.more)
    messages.success(request, f"Taken in: {came.words}.")
    return redirect("taken_in")


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
