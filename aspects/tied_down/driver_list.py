"""The driver's list: what to do to each machine, the ties in the order to put them on."""

from __future__ import annotations

import hashlib
from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from typing import Final

from django.urls import reverse
from msgspec import UnsetType

from aspects.tied_down.ticking import Ticks
from book.models import Photo
from book.ties import pair_of
from hauls.loads import linked_loads
from hauls.models import Haul
from hauls.premove import RoadCheck, chores, road_checks
from hauls.rack import Rack
from hauls.tied import Judged, TieJudged, judged, school_of, whole
from hauls.tying import securing_of
from measures.writing import UnitSystem, in_units_of, write_mass
from mechanics.checks import Status
from mechanics.errors import InputError
from mechanics.securing import secure
from planfile.document import Tie
from planfile.tying import JOINED, kept_of
from wording.road import FIRST_STOP, ROAD, STOPS_SOURCE
from wording.securing import BY_SCHOOL

LIMIT_NOT_KNOWN: Final = "limit not known"


@dataclass(frozen=True, kw_only=True, slots=True)
class Line:
    """Something to tick off: who has, and when."""

    key: str
    words: str
    detail: str = ""
    gear: str = ""
    limit: str = ""
    number: int = 0
    photo: int = 0
    todo: tuple[str, ...] = ()
    fault: str = ""
    done: bool = False
    by: str = ""
    at: datetime | None = None
    wants: str = ""


@dataclass(frozen=True, kw_only=True, slots=True)
class MachineList:
    """What to do to one machine, and how it stands against the road."""

    name: str
    lines: tuple[Line, ...]
    road: tuple[RoadCheck, ...]


@dataclass(frozen=True, kw_only=True)
class ListPage:
    """The driver's list whole."""

    status: str
    verdict_words: str
    take: list[Line]
    machines: list[MachineList]
    ties: list[Line]
    again: list[Line]
    again_source: str
    road_source: str
    total: int
    ticked: int
    back: str
    tick_address: str
    missing: str = ""


def list_page(haul: Haul, unit: UnitSystem, missing: str = "") -> ListPage:
    """The list as the haul is planned now; ``missing`` tells of a line that is no longer on it."""
    plan, draft, loads = haul.draft.plan, haul.draft, linked_loads(haul)
    ticks = Ticks(haul)
    machines = []
    for item, drawn in zip(plan.items, draft.drawn, strict=True):
        load = loads.get(item.id)
        lines = tuple(
            _ticked(Line(key=key_of("move", item.id, one.key, one.words), words=one.words), ticks)
            for one in chores(item, drawn, load)
        )
        machines.append(
            MachineList(name=item.called, lines=lines, road=road_checks(plan, item, unit))
        )
    take = [_ticked(line, ticks) for line in _from_the_rack(haul)]
    found, status, words = _judged(haul, unit)
    ties = [_ticked(line, ticks) for line in _ties(haul, found, unit)]
    again = [_ticked(line, ticks) for line in _again(haul, unit)]
    every = [*take, *(line for one in machines for line in one.lines), *ties, *again]
    return ListPage(
        status=status,
        verdict_words=words,
        take=take,
        machines=machines,
        ties=ties,
        again=again,
        again_source=in_units_of(STOPS_SOURCE, unit),
        road_source=f"The road allows {ROAD[unit].source}.",
        total=len(every),
        ticked=sum(line.done for line in every),
        back=reverse("haul_tied", args=[haul.pk]),
        tick_address=reverse("haul_tied_tick", args=[haul.pk]),
        missing=missing,
    )


def key_of(kind: str, *parts: str) -> str:
    """A line's key: changes whenever what it says does."""
    digest = hashlib.sha256("\n".join(parts).encode()).hexdigest()[:16]
    return f"{kind}:{digest}"


def keys_of(page: ListPage) -> frozenset[str]:
    """Every line that can be ticked."""
    machines = [line for one in page.machines for line in one.lines]
    return frozenset(line.key for line in (*page.take, *machines, *page.ties, *page.again))


def _ticked(line: Line, ticks: Ticks) -> Line:
    found = ticks.of(line.key)
    return replace(line, done=found.done, by=found.by, at=found.at, wants=found.wants)


def _judged(haul: Haul, unit: UnitSystem) -> tuple[dict[str, Judged], str, str]:
    """What is said of each item's ties, and of the whole: its status and words."""
    draft = haul.draft
    plan, school = draft.plan, school_of(haul)
    if plan.securing is None or not plan.securing.ties:
        return {}, Status.UNKNOWN.value, "Nothing is planned to tie it down."
    try:
        report = secure(plan, school)
    except InputError as error:
        return {}, Status.UNKNOWN.value, str(error)
    found = judged(draft, report, Rack.of(haul.yard, securing_of(draft)), unit)
    together = whole(found)
    words = f"{together.word} {BY_SCHOOL[school]}"
    if together.faults:
        words = "gear is not as it was planned"
    return found, together.status.value, words


def _from_the_rack(haul: Haul) -> list[Line]:
    """What to take along, so many of each."""
    ties = securing_of(haul.draft).ties
    counted = Counter(name for tie in ties for name in kept_of(tie).pieces)
    return [
        Line(key=key_of("take", words), words=words)
        for name, number in counted.items()
        if (words := f"{number} × {name}")
    ]


def _ties(haul: Haul, found: Mapping[str, Judged], unit: UnitSystem) -> list[Line]:
    draft, securing = haul.draft, securing_of(haul.draft)
    plan, photos, lines = draft.plan, _photos(haul), []
    for number, tie in enumerate(securing.ties, 1):
        kept = kept_of(tie)
        gear = JOINED.join(kept.pieces) or str(tie.name or tie.kind)
        own = next(t for t in plan.securing.ties if t.id == tie.id) if plan.securing else None
        limit = "" if own is None or own.wll_kg is None else write_mass(own.wll_kg, unit)
        item = plan.item(tie.item)
        to = str(tie.anchor) if isinstance(tie.over, UnsetType) else f"{tie.anchor}, {tie.over}"
        words = f"{tie.point} to {to}"
        if len(plan.items) > 1:
            words = f"{item.called}: {words}"
        said = found[tie.item].ties[tie.id] if tie.item in found else TieJudged()
        lines.append(
            Line(
                key=key_of("tie", tie.id, words, gear),
                number=number,
                words=words,
                detail=f"{gear}, {limit or LIMIT_NOT_KNOWN}",
                gear=gear,
                limit=limit or LIMIT_NOT_KNOWN,
                photo=_photo_for(tie, photos),
                todo=_todo(tie, kept.answers),
                fault=" ".join(said.faults),
            )
        )
    return lines


def _todo(tie: Tie, answers: Mapping[str, str]) -> tuple[str, ...]:
    """What practice wants of every tie, less what was said to be so."""
    found = []
    if answers.get("hooks") != "latched":
        found.append("hooks up and over")
    if tie.kind == "strap":
        if answers.get("edge") != "none":
            found.append("pad the edge under it")
        found.append("no twist, loose end tied")
    else:
        found.append("binder over centre and tied, loose chain wrapped")
    return tuple(found)


def _again(haul: Haul, unit: UnitSystem) -> list[Line]:
    if not securing_of(haul.draft).ties:
        return []
    words = in_units_of(f"First stop, {FIRST_STOP}", unit)
    return [
        Line(
            key=key_of("again", words),
            words=f"{words}: tighten every tie, look at every hook",
        )
    ]


def _photos(haul: Haul) -> dict[str, list[Photo]]:
    """Photos of the machines of a haul with captions, by item id."""
    found = {}
    for item_id, load in linked_loads(haul).items():
        if load.machine is not None:
            found[item_id] = [photo for photo in load.machine.photos.all() if photo.caption]
    return found


def _photo_for(tie: Tie, photos: Mapping[str, Sequence[Photo]]) -> int:
    """The photo whose caption names the tie's point, or the pair it belongs to; 0: none."""
    for name in (tie.point.lower(), pair_of(tie.point).lower()):
        for photo in photos.get(tie.item, ()):
            if name in photo.caption.lower():
                return photo.pk
    return 0
