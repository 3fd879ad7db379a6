"""Hauls and the board, for programs."""

from __future__ import annotations

from datetime import date
from typing import Any

from django.core.exceptions import ObjectDoesNotExist
from django.shortcuts import get_object_or_404
from django.utils import timezone
from ninja import Router, Status

from api.models import Scope
from api.schemas import (
    Board,
    Card,
    Haul,
    HaulIn,
    Hauls,
    HaulWhole,
    JobIn,
    Key,
    MoveIn,
    Page,
    PlanIn,
)
from api.service import WRONG, Asking, Stale, WrongError, needs, page_of
from book.chain import couples
from book.errors import IncompleteError
from book.models import Hitch, Place, Trailer
from day.board import EARLIEST, LATEST, board, monday
from day.board import Card as BoardCard
from day.services import BY, MoveError, move
from exchange.jobs import dump_job, take_job
from hauls.assigning import LONGEST_MINUTES, AlreadyChangedError, Job, assign, assigned
from hauls.loads import read_load
from hauls.models import PURPOSE
from hauls.models import Haul as HaulRow
from hauls.steps import StaleRevision
from hauls.store import create_haul, import_haul, save_haul
from planfile.draft import Draft, glance

router = Router(tags=["hauls"])
day_router = Router(tags=["board"])


def _rows(request: Asking) -> Any:
    told = ("driver", "fetched_from", "taken_to")
    return HaulRow.objects.filter(yard=request.yard).select_related(*told)


def _out(haul: HaulRow) -> dict[str, Any]:
    names = glance(haul.document)
    return {
        "id": haul.pk,
        "name": haul.name,
        "state": haul.state,
        "verdict": haul.verdict,
        "revision": haul.revision,
        "archived": haul.archived,
        "truck": names.truck or None,
        "trailer": names.trailer or None,
        "driver": haul.driver.username if haul.driver else None,
        "job": dump_job(haul),
        "stamp": assigned(haul),
    }


def _whole(haul: HaulRow) -> HaulWhole:
    return HaulWhole(**_out(haul), plan=haul.document)


@router.get("", response={200: Hauls, **WRONG}, summary="Hauls")
@needs(Scope.HAULS_READ)
def hauls(
    request: Asking,
    page: Page = 1,
    archived: bool = False,
    since: date | None = None,
    until: date | None = None,
) -> Hauls:
    """Hauls in short, the newest first; those of some days only where a first or last day is asked
    for."""
    rows = _rows(request).filter(archived=archived)
    if since is not None:
        rows = rows.filter(day__gte=since)
    if until is not None:
        rows = rows.filter(day__lte=until)
    found = [Haul(**_out(one)) for one in page_of(rows, page)]
    return Hauls(count=rows.count(), page=page, hauls=found)


@router.get("/{int:pk}", response={200: HaulWhole, **WRONG}, summary="A haul with its plan")
@needs(Scope.HAULS_READ)
def haul(request: Asking, pk: Key) -> HaulWhole:
    """One haul."""
    return _whole(get_object_or_404(_rows(request), pk=pk))


@router.post("", response={201: HaulWhole, **WRONG}, summary="Plan a haul from the book")
@needs(Scope.HAULS_WRITE)
def plan_haul(request: Asking, sent: HaulIn) -> Any:
    """Loads stood where they leave most, a single one at its aim."""
    hitch = Hitch.objects.filter(truck__yard=request.yard, pk=sent.hitch).first()
    trailer = Trailer.objects.filter(yard=request.yard, pk=sent.trailer).first()
    if hitch is None or trailer is None:
        raise WrongError("hitch and trailer: expected keys of the book")
    if not couples(hitch, trailer):
        raise WrongError(f"{trailer.name} cannot be coupled to {hitch}")
    try:
        made = create_haul(
            yard=request.yard,
            user=request.user,
            name=sent.name,
            hitch=hitch,
            trailer=trailer,
            loads=[read_load(key, request.yard) for key in sent.loads],
            backward=sent.backward,
        )
    except IncompleteError as error:
        raise WrongError(str(error)) from None
    except (ObjectDoesNotExist, ValueError) as error:
        raise WrongError("loads: expected loads of the book, as machine-3 or bulk-2") from error
    return Status(201, _whole(_rows(request).get(pk=made.pk)))


@router.post("/import", response={201: HaulWhole, **WRONG}, summary="A haul of a plan file")
@needs(Scope.HAULS_WRITE)
def take_plan(request: Asking, sent: PlanIn) -> Any:
    """Kept exactly as it is, with the job that it may say under ``extra.job``."""
    draft = Draft.read(sent.plan)
    made = import_haul(yard=request.yard, user=request.user, draft=draft, fallback_name="")
    take_job(made)
    return Status(201, _whole(_rows(request).get(pk=made.pk)))


@router.put("/{int:pk}/plan", response={200: HaulWhole, **WRONG}, summary="Change a haul's plan")
@needs(Scope.HAULS_WRITE)
def change_plan(request: Asking, pk: Key, sent: PlanIn) -> HaulWhole:
    """As one step that can be undone, on top of the revision it is based on."""
    there = get_object_or_404(_rows(request), pk=pk)
    try:
        save_haul(
            there,
            Draft.read(sent.plan),
            base=sent.revision or 0,
            user=request.user,
            what="a program's plan",
        )
    except StaleRevision:
        raise Stale from None
    return _whole(_rows(request).get(pk=pk))


@router.put(
    "/{int:pk}/job", response={200: HaulWhole, **WRONG}, summary="When and where a haul goes"
)
@needs(Scope.HAULS_WRITE)
def change_job(request: Asking, pk: Key, sent: JobIn) -> HaulWhole:
    """All that is said of it, based on its stamp."""
    there = get_object_or_404(_rows(request), pk=pk)
    problems: list[str] = []
    driver = None
    if sent.driver is not None:
        driver = request.yard.members.filter(username=sent.driver).first()
        if driver is None:
            problems.append("driver: expected the sign-in name of somebody of this yard")
    ends = {}
    for name in ("fetched_from", "taken_to"):
        asked = getattr(sent, name)
        ends[name] = (
            None if asked is None else Place.objects.filter(yard=request.yard, name=asked).first()
        )
        if asked is not None and ends[name] is None:
            problems.append(f"{name}: expected the name of a place of the book")
    if sent.takes_minutes is not None and not 0 < sent.takes_minutes <= LONGEST_MINUTES:
        problems.append(f"takes_minutes: expected a whole number up to {LONGEST_MINUTES}")
    if sent.day is not None and not EARLIEST <= sent.day <= LATEST:
        problems.append("day: expected a day that somebody plans")
    if sent.starts is not None and sent.starts.tzinfo is not None:
        problems.append("starts: expected an hour by the yard's clock, like 14:30")
    if len(sent.purpose) > PURPOSE:
        problems.append(f"purpose: expected at most {PURPOSE} characters")
    if problems:
        raise WrongError(*problems)
    job = Job(
        day=sent.day,
        starts=None if sent.starts is None else sent.starts.replace(second=0, microsecond=0),
        takes_minutes=sent.takes_minutes,
        driver=driver,
        purpose=sent.purpose,
        **ends,
    )
    try:
        assign(there, job, was=sent.stamp)
    except AlreadyChangedError:
        raise Stale from None
    return _whole(_rows(request).get(pk=pk))


@day_router.get("", response={200: Board, **WRONG}, summary="A week of the board")
@needs(Scope.HAULS_READ)
def week(request: Asking, week: date | None = None, by: str = "truck") -> Board:
    """The week that a day is in, this one where none is asked for."""
    today = timezone.localdate()
    first = monday(week if week is not None and EARLIEST <= week <= LATEST else today)
    shown = board(
        request.yard,
        first,
        by=by if by in BY else BY[0],
        today=today,
        units=request.user.unit_system,
        may_move=False,
    )
    cards = [_card(c) for row in shown.rows for _, there in row.days for c in there]
    return Board(
        week=first,
        by=shown.by,
        clashes=list(shown.clashes),
        questions=list(shown.questions),
        cards=cards,
        waiting=[_card(card) for card in shown.waiting],
    )


def _card(card: BoardCard) -> Card:
    return Card(
        haul=card.pk,
        name=card.name,
        day=card.day,
        hours=card.hours,
        who=card.who,
        loads=card.loads,
        status=card.status,
        word=card.word,
        problems=list(card.problems),
        empty=card.empty,
        stamp=card.was,
        revision=card.revision,
    )


@day_router.post("/move", response={200: HaulWhole, **WRONG}, summary="Move a haul on the board")
@needs(Scope.HAULS_WRITE)
def move_card(request: Asking, sent: MoveIn) -> HaulWhole:
    """To another day, truck or driver, as one change."""
    if sent.day is not None and not EARLIEST <= sent.day <= LATEST:
        raise WrongError("day: expected a day that somebody plans")
    there = get_object_or_404(HaulRow.objects.filter(yard=request.yard).with_book(), pk=sent.haul)
    try:
        move(
            there,
            day=sent.day,
            by=sent.by,
            key=sent.key,
            was=sent.stamp,
            base=sent.revision,
            user=request.user,
        )
    except (AlreadyChangedError, StaleRevision):
        raise Stale from None
    except MoveError as error:
        raise WrongError(str(error)) from None
    return _whole(_rows(request).get(pk=sent.haul))
