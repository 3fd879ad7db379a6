"""The practice yard: choose a case, answer it, read what is said of it, look at one's record."""

from __future__ import annotations

from urllib.parse import urlencode

from django.http import Http404, HttpResponse, HttpResponseRedirect
from django.shortcuts import get_object_or_404, redirect
from django.urls import reverse
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from measures.marks import write_place
from practice.cases import AnswerError, Kind, UnfitError
from practice.kinds import kind_of
from practice.models import Attempt, Course, Part
from practice.page import (
    CourseLine,
    PlacedPage,
    PracticePage,
    RecordPage,
    Tried,
    case_page,
    counts_words,
    done_page,
    kind_lines,
)
from practice.reading import answer_sent, per_step, place_sent, seed_sent
from practice.services import Wanted, agree, answer, any_seed, move, owner_sees
from practice.sources import HAUL, haul_of, made, source_choices
from web.pages import show
from web.sent import counted as whole
from yards.access import YardRequest, in_yard, owners
from yards.models import Role, User

PLACE = "practice"

LATEST = 40
"""Answers that a record lists one by one."""

NO_NUMBER = "A case has a number from 1 to 999999. Leave it empty for any."

NO_KIND = "Choose a kind: press Begin at one of them."

TWICE = "That move was made already: here is what it read."


@require_safe
@in_yard
def practice(request: YardRequest) -> HttpResponse:
    """The kinds of cases, the courses, and how far one has come."""
    return show(request, "practice/practice.html", _practice_page(request), place=PLACE)


def _refused(request: YardRequest, wrong: str, *, number: str, source: str) -> HttpResponse:
    """What could not be begun, and why, with what was typed."""
    page = _practice_page(request, wrong=wrong, number=number, source=source)
    return show(request, "practice/practice.html", page, place=PLACE, status=422)


def _practice_page(
    request: YardRequest, *, wrong: str = "", number: str = "", source: str = ""
) -> PracticePage:
    mine = list(_answered(request, request.user))
    tried = {one.part_id for one in mine}
    sources = source_choices(request.yard)
    courses = []
    for course in Course.objects.filter(yard=request.yard).prefetch_related("parts"):
        parts = list(course.parts.all())
        open_ones = [one for one in parts if one.pk not in tried]
        courses.append(
            CourseLine(
                course=course,
                cases=len(parts),
                tried=len(parts) - len(open_ones),
                next=open_ones[0] if open_ones else None,
            )
        )
    return PracticePage(
        lines=kind_lines(mine),
        courses=courses,
        sources=sources,
        hauls=tuple((key, words) for key, words in sources if key.startswith(HAUL)),
        plans=request.role.plans,
        wrong=wrong,
        number=number,
        source=source,
    )


@require_safe
@in_yard
def tows(request: YardRequest) -> HttpResponse:
    """Go to how a haul's outfit tows."""
    haul = haul_of(request.yard, str(request.GET.get("haul", "")))
    if haul is None:
        raise Http404("no such haul")
    return redirect("haul_sway", haul.pk)


@require_safe
@in_yard
def begin(request: YardRequest) -> HttpResponse:
    """Go to the case that was asked for: of a kind, a number or any, made of something."""
    typed = str(request.GET.get("number", "")).strip()
    asked, chosen = str(request.GET.get("kind", "")), str(request.GET.get("source", ""))
    kind = kind_of(asked)
    if kind is None and asked:
        raise Http404("no such kind")
    seed = any_seed() if not typed else seed_sent(typed)
    if kind is None or seed is None:
        wrong = NO_KIND if kind is None else NO_NUMBER
        return _refused(request, wrong, number=typed[:20], source=chosen)
    return to_case(kind.slug, seed, _source(request, kind), None)


def _source(request: YardRequest, kind: Kind) -> str:
    """What a case is to be made of; of a kind that is made up only, nothing else."""
    return str(request.GET.get("source", ""))[:24] if kind.of_hauls else ""


def to_case(slug: str, seed: int, source: str, part: Part | None) -> HttpResponseRedirect:
    """On to the page of a case."""
    query = {"source": source, "part": part.pk if part else ""}
    told = urlencode({name: value for name, value in query.items() if value})
    address = reverse("practice_case", args=[slug, seed])
    return HttpResponseRedirect(f"{address}?{told}" if told else address)


def _wanted(request: YardRequest, slug: str, seed: int) -> Wanted:
    """The case of an address.

    Raises:
        UnfitError: there is none of it.
    """
    kind = kind_of(slug)
    if kind is None or seed_sent(str(seed)) is None:
        raise Http404("no such case")
    source = _source(request, kind)
    part = None
    if request.GET.get("part"):
        part = get_object_or_404(
            Part, yard=request.yard, pk=whole(request.GET["part"]), kind=slug, seed=seed
        )
        source = part.source
    return Wanted(
        yard=request.yard,
        person=request.user,
        made=made(request.yard, slug, seed, source),
        seed=seed,
        source=source,
        part=part,
    )


@require_http_methods(["GET", "HEAD", "POST"])
@in_yard
def case(request: YardRequest, kind: str, seed: int) -> HttpResponse:
    """A case, and the answer to it."""
    unit = request.user.unit_system
    try:
        wanted = _wanted(request, kind, seed)
    except UnfitError as error:
        source = str(request.GET.get("source", ""))
        return _refused(request, str(error), number=str(seed), source=source)
    given, wrong, said = None, ("", ""), ""
    if request.method == "POST":
        questions = wanted.made.case.situation(unit).questions
        try:
            if request.POST.get("do") == "move":
                place = place_sent(request.POST, questions[0], unit)
                if move(wanted, place, moved=whole(request.POST.get("moved"))):
                    return redirect(request.get_full_path())
                said = TWICE
            else:
                given = wanted.stands() or answer_sent(request.POST, questions, unit)
                return redirect("practice_done", answer(wanted, given, unit).pk)
        except AnswerError as error:
            wrong = (error.question, str(error))
    attempt = wanted.open()
    moves = attempt.moves if attempt else ()
    page = case_page(wanted, moves, unit, given=given, wrong=wrong, said=said)
    status = 422 if wrong[1] else 409 if said else 200
    return show(request, "practice/case.html", page, place=PLACE, status=status)


@require_safe
@in_yard
def placed(request: YardRequest, kind: str, seed: int) -> HttpResponse:
    """The picture with the machine where the slider has it."""
    unit = request.user.unit_system
    try:
        wanted = _wanted(request, kind, seed)
        question = wanted.made.case.situation(unit).questions[0]
        place = place_sent(request.GET, question, unit)
    except (UnfitError, AnswerError) as error:
        raise Http404("no such case") from error
    picture = wanted.made.case.pictured(place, unit)
    page = PlacedPage(
        picture=picture, reading=write_place(place, unit), per_step=per_step(picture, unit)
    )
    return show(request, "practice/_placed.html", page)


@require_safe
@in_yard
def done(request: YardRequest, pk: int) -> HttpResponse:
    """What was said of an answer: one's own, or a person's whose record one may see."""
    attempt = get_object_or_404(
        Attempt.objects.filter(yard=request.yard).select_related("person", "part__course"), pk=pk
    )
    grade = attempt.graded
    if grade is None or not _may_see(request, attempt.person):
        raise Http404("no such answer")
    try:
        found = made(request.yard, attempt.kind, attempt.seed, attempt.source)
    except UnfitError:
        found = None
    page = done_page(attempt, grade, found, request.user.unit_system)
    return show(request, "practice/done.html", page, place=PLACE)


def _answered(request: YardRequest, person: User) -> list[Attempt]:
    """A person's answers in the yard, the latest first."""
    rows = Attempt.objects.filter(yard=request.yard, person=person).exclude(grade="")
    return list(rows)


def _may_see(request: YardRequest, person: User) -> bool:
    """One's own record is open, another's to owners where the yard wants that."""
    if person == request.user:
        return True
    return request.role is Role.OWNER and owner_sees(request.yard)


@require_safe
@in_yard
def record(request: YardRequest, pk: int | None = None) -> HttpResponse:
    """A person's record of practice."""
    person = request.user
    if pk is not None:
        person = get_object_or_404(User, yards=request.yard, pk=pk)
    if not _may_see(request, person):
        raise Http404("no such record")
    attempts = _answered(request, person)
    owner, sees = request.role is Role.OWNER, owner_sees(request.yard)
    others: list[tuple[User, str]] = []
    if owner and sees and person == request.user:
        people = User.objects.filter(yards=request.yard).exclude(pk=person.pk)
        others = [(one, counts_words(_answered(request, one))) for one in people]
    page = RecordPage(
        person=person,
        own=person == request.user,
        lines=[line for line in kind_lines(attempts) if line.tried],
        latest=[Tried(attempt=one, grade=g) for one in attempts[:LATEST] if (g := one.graded)],
        others=others,
        owner=owner,
        sees=sees,
    )
    return show(request, "practice/record.html", page, place=PLACE)


@require_POST
@owners
def terms(request: YardRequest) -> HttpResponse:
    """Say whether owners see everybody's record."""
    agree(request.yard, sees=request.POST.get("sees") == "yes")
    return redirect("practice_record")
