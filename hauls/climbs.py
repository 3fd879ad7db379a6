"""Getting on and off, of a whole haul in a word: for lists, and what they are sorted by."""

from __future__ import annotations

from dataclasses import dataclass, replace
from itertools import product
from typing import Final

from mechanics.checks import Status
from mechanics.errors import InputError
from mechanics.loading import Subject, Way, way
from mechanics.loading.outfit import aboard_before
from mechanics.plan import Plan
from planfile.climbing import Place
from planfile.draft import Draft
from wording.loading import climb_word, usual_clearance_status
from wording.statuses import LIKELY

COARSE: Final = 60
"""Stations of a way that is only compared: its kinks and its extremes are found all the same."""

LISTED: Final = 16
"""Stations of a way of which a list says one word."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Climb:
    """How a haul's machines get on: the worst of them in a word. ``hold`` is the least, ``None``
    where nothing can be said of it."""

    status: Status
    word: str
    hold: float | None = None

    @property
    def rank(self) -> tuple[int, float]:
        """Sorts them, the best first."""
        return self.status.severity, -(self.hold or 0.0)


NOTHING: Final = Climb(status=Status.OK, word="nothing is driven on")


def driven(draft: Draft) -> list[int]:
    """Which items are driven or pulled on, in the order in which they come."""
    drawn = draft.drawn
    found = [n for n in range(len(draft.plan.items)) if drawn[n].drives]
    return sorted(found, key=lambda n: len(aboard_before(draft.plan, n)))


Usual = tuple[float, float] | None
"""Least clearance by what is usual for a kind, at the least and at the most, in m."""


def clear_by_usual(plan: Plan, draft: Draft, index: int, *, stations: int = COARSE) -> Usual:
    """Least clearance with the usual low points of its kind, at their least and their most;
    ``None`` where its own are known, or there are no usual ones."""
    usual = draft.usual_undersides[index]
    if usual is None or plan.items[index].underside:
        return None
    found = []
    for points in (usual.least, usual.most):
        items = tuple(
            replace(one, underside=points) if n == index else one
            for n, one in enumerate(plan.items)
        )
        closest = None
        tried = way(plan.carrying(items), index, stations=stations)
        if tried.path is not None:
            closest = tried.path.closest
        if closest is None or closest.gap is None:
            return None
        found.append(closest.gap.least_m)
    return found[0], found[1]


def verdict(one: Way, usual: Usual) -> Status:
    """The worst finding of a way; a clearance known only by what is usual counts by that."""
    if one.missing:
        return Status.UNKNOWN
    found = [f.status for f in one.findings if f.subject is not Subject.CLEARANCE]
    clearance = one.finding(Subject.CLEARANCE)
    if usual is not None:
        found.append(usual_clearance_status(*usual))
    elif clearance is not None:
        found.append(clearance.status)
    return max(found, key=lambda status: status.severity)


def unsettled(
    plan: Plan, index: int, status: Status, usual: Usual, *, stations: int = LISTED
) -> bool:
    """Whether a way that is said to be over, or not, would be said otherwise with the machine's
    estimated figures at some end of their bands; never of a plan in which nothing is estimated."""
    if not plan.estimated or status is Status.UNKNOWN:
        return False
    for corner in _corners(plan, index):
        try:
            said = verdict(way(corner, index, stations=stations), usual)
        except InputError:
            continue
        if (said is Status.OVER) != (status is Status.OVER):
            return True
    return False


def _corners(plan: Plan, index: int) -> list[Plan]:
    """The plan with one machine as heavy or light, as far forward or back and as high or low as
    it may balance."""
    item = plan.items[index]
    masses, places, heights = (
        (value - off, value + off) if off else (value,)
        for value, off in (
            (item.mass_kg, item.mass_tolerance_kg),
            (item.cg.ahead_m, item.cg.ahead_tolerance_m),
            (item.cg.height_m or 0.0, item.cg.height_tolerance_m),
        )
    )
    made = []
    for mass, ahead, height in product(masses, places, heights):
        if not mass > 0:
            continue
        cg = replace(item.cg, ahead_m=ahead, height_m=height if item.cg.height_m else None)
        one = replace(item, mass_kg=mass, cg=cg)
        made.append(plan.carrying((*plan.items[:index], one, *plan.items[index + 1 :])))
    return made


def climb_of(draft: Draft, place: Place = Place.LOADING, *, stations: int = LISTED) -> Climb:
    """How a haul's machines get on at one of its ends."""
    plan, found = draft.plan_at(place), []
    for index in driven(draft):
        try:
            one = way(plan, index, stations=stations)
            usual = None
            if not one.missing:
                usual = clear_by_usual(plan, draft, index, stations=stations)
        except InputError as error:
            if error.path == "trailer.ramp.length":
                return Climb(status=Status.OVER, word="ramp too short")
            return Climb(status=Status.UNKNOWN, word="cannot say")
        status = verdict(one, usual)
        open_ended = unsettled(plan, index, status, usual, stations=stations)
        word = climb_word(one, usual)
        hold = one.finding(Subject.HOLD)
        found.append(
            Climb(
                status=Status.NEAR if open_ended and status is Status.OK else status,
                word=f"{LIKELY} {word.removeprefix(LIKELY).strip()}" if open_ended else word,
                hold=None if hold is None else hold.value,
            )
        )
    return max(found, key=lambda climb: climb.rank, default=NOTHING)
