"""Courses: cases in an order for a crew, and their sheets."""

from __future__ import annotations

from dataclasses import dataclass

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.urls import reverse
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from book.services.things import StaleThing, keep_over
from practice.cases import Grade, UnfitError
from practice.forms import CourseForm, PartForm
from practice.models import Attempt, Course, Part
from practice.page import SheetsPage, sheet
from practice.services import add_part, move_part, owner_sees, remove_part
from practice.sources import Made, made, source_words
from practice.views import PLACE, to_case
from web.pages import show
from yards.access import YardRequest, in_yard, planners
from yards.models import Role, User

IN_BETWEEN = (
    "Somebody else changed it in between. What you entered is still in the boxes. Keep it if it "
    "is still right."
)

MOST_PARTS = 40
"""Cases of one course."""


@dataclass(frozen=True, kw_only=True, slots=True)
class PartLine:
    """One case of a course; ``wrong`` is why it cannot be made any more."""

    part: Part
    made_of: str
    wrong: str


@dataclass(frozen=True, kw_only=True, slots=True)
class CrewLine:
    """How somebody did: the grade of his first answer to each case, ``None`` of one not tried."""

    person: User
    grades: list[Grade | None]


@dataclass(frozen=True, kw_only=True)
class CoursePage:
    """A course with its cases; ``more`` are the boxes of one more, for planners."""

    course: Course
    lines: list[PartLine]
    plans: bool
    more: PartForm | None
    full: bool
    crew: list[CrewLine]


@require_safe
@in_yard
def course(request: YardRequest, pk: int) -> HttpResponse:
    """A course and its cases."""
    found = get_object_or_404(Course, yard=request.yard, pk=pk)
    return _shown(request, found, PartForm(yard=request.yard))


def _shown(
    request: YardRequest, found: Course, more: PartForm, *, status: int = 200
) -> HttpResponse:
    lines = [
        PartLine(part=one, made_of=source_words(request.yard, one.source), wrong=_wrong(one))
        for one in found.parts.all()
    ]
    full = len(lines) >= MOST_PARTS
    page = CoursePage(
        course=found,
        lines=lines,
        plans=request.role.plans,
        more=more if request.role.plans and not full else None,
        full=full,
        crew=_crew(request, [line.part for line in lines]),
    )
    return show(request, "practice/course.html", page, place=PLACE, status=status)


def _crew(request: YardRequest, parts: list[Part]) -> list[CrewLine]:
    """How everybody did who has begun, for owners where the yard lets them see it."""
    if request.role is not Role.OWNER or not owner_sees(request.yard):
        return []
    found: dict[User, dict[int, Grade]] = {}
    rows = Attempt.objects.filter(yard=request.yard, part__in=parts, first=True).exclude(grade="")
    for one in rows.select_related("person").order_by("person__username", "pk"):
        if one.part_id is not None and one.graded is not None:
            found.setdefault(one.person, {}).setdefault(one.part_id, one.graded)
    return [
        CrewLine(person=person, grades=[grades.get(part.pk) for part in parts])
        for person, grades in found.items()
    ]


def _made(part: Part) -> Made | str:
    """A case of a course, or why it cannot be made any more."""
    try:
        return made(part.yard, part.kind, part.seed, part.source)
    except UnfitError as error:
        return str(error)


def _wrong(part: Part) -> str:
    """Why a case that is not invented cannot be made any more; empty where it can."""
    found = _made(part) if part.source else ""
    return found if isinstance(found, str) else ""


@dataclass(frozen=True, kw_only=True)
class CourseFormPage:
    """The boxes of a course, and which version of it they were filled from."""

    form: CourseForm
    pk: int | None
    version: int
    not_kept: str


@require_http_methods(["GET", "HEAD", "POST"])
@planners
def edit_course(request: YardRequest, pk: int | None = None) -> HttpResponse:
    """A new course, or another name for one."""
    one = None if pk is None else get_object_or_404(Course, yard=request.yard, pk=pk)
    version = 0 if one is None else one.version
    sent = request.POST if request.method == "POST" else None
    form = CourseForm(sent, instance=one or Course(yard=request.yard))
    not_kept = ""
    if form.is_bound and form.is_valid():
        try:
            kept = keep_over(form, one, request.POST.get("version"))
        except StaleThing:
            not_kept = IN_BETWEEN
        else:
            return redirect("practice_course", kept.pk)
    page = CourseFormPage(form=form, pk=pk, version=version, not_kept=not_kept)
    status = 409 if not_kept else 422 if form.errors else 200
    return show(request, "practice/course_form.html", page, place=PLACE, status=status)


@require_POST
@planners
def remove_course(request: YardRequest, pk: int) -> HttpResponse:
    """Take a course away; what was tried stays tried."""
    get_object_or_404(Course, yard=request.yard, pk=pk).delete()
    messages.success(request, "Taken away. What was tried stays in the records.")
    return redirect("practice")


@require_POST
@planners
def part_of_course(request: YardRequest, pk: int) -> HttpResponse:
    """One more case for a course."""
    found = get_object_or_404(Course, yard=request.yard, pk=pk)
    form = PartForm(request.POST, yard=request.yard)
    if found.parts.count() >= MOST_PARTS:
        form.add_error(None, f"A course has at most {MOST_PARTS} cases.")
    if not form.is_valid():
        return _shown(request, found, form, status=422)
    kind, seed, source = (form.cleaned_data[name] for name in ("kind", "number", "source"))
    try:
        made(request.yard, kind, seed, source)
    except UnfitError as error:
        form.add_error("source", str(error))
        return _shown(request, found, form, status=422)
    add_part(found, kind=kind, seed=seed, source=source)
    return redirect(f"{reverse('practice_course', args=[found.pk])}#cases")


@require_POST
@planners
def change_part(request: YardRequest, pk: int) -> HttpResponse:
    """A case of a course one up, one down, or out."""
    part = get_object_or_404(Part.objects.select_related("course"), yard=request.yard, pk=pk)
    if request.POST.get("do") == "out":
        remove_part(part)
    else:
        move_part(part, up=request.POST.get("do") == "up")
    return redirect(f"{reverse('practice_course', args=[part.course_id])}#cases")


@require_safe
@in_yard
def take_part(request: YardRequest, pk: int) -> HttpResponse:
    """Go to a case of a course."""
    part = get_object_or_404(Part, yard=request.yard, pk=pk)
    return to_case(part.kind, part.seed, "", part)


@require_safe
@planners
def sheets(request: YardRequest, pk: int) -> HttpResponse:
    """A course on paper, a case to a sheet; with ``answers`` what is right stands below each."""
    found = get_object_or_404(Course, yard=request.yard, pk=pk)
    unit = request.user.unit_system
    answers = request.GET.get("answers") == "1"
    told = []
    for number, part in enumerate(found.parts.all(), start=1):
        told.append(sheet(request.yard, number, part, _made(part), unit))
    page = SheetsPage(course=found, sheets=told, answers=answers)
    return show(request, "practice/sheets.html", page, place=PLACE)
