"""A made-up contractor's week through the real services: planned, hauled, read, told, weighed.

Nothing here writes a row that a person could not have written: days are planned by the solver and
put on the board, each step is noted by whoever drives, gauges are read, defects told, decided and
mended, trips kept with their fuel, a ticket brought home. The same seed gives the same week.
"""

from __future__ import annotations

import random
from collections.abc import Iterator
from dataclasses import dataclass, field
from datetime import date, datetime, time, timedelta
from typing import Any, Final

from django.utils import timezone

from book.models import Machine, Place
from book.ticketfile import read_ticket
from book.ways import way_between
from day.asking import Asked, Driving, Wanted
from day.models import DriverTerms
from day.plan_forms import minutes_of
from day.proposing import find
from day.putting import put_on_board
from day.whereabouts import Moves, moves_of, place_at
from hauls.loads import Load, load_choices, nearest_choice
from hauls.models import Haul, HaulItem
from longwork.models import LongWork
from measures import UnitSystem
from mechanics.report import evaluate
from mechanics.units import KG_PER_LB, M_PER_IN, M_PER_MI
from road.defects import decide, mend, tell
from road.forms import StoppedForm, TripForm
from road.models import ORDER, Defect, Step
from road.services import HeldUpError, do_step, keep_stopped
from road.trips import keep_trip
from yards.models import Role, User, Yard

DAYS: Final = 5
"""Working days of the week."""

A_DAY: Final = (2, 4)
"""Machines that are moved in a day, at least and at most."""

SEARCH_S: Final = 8.0

SLIP_M: Final = 0.03
"""How far off its mark a machine is stopped, as a rule."""

GAUGE_LB: Final = 20
"""Steps in which the gauge in the hitch reads."""

UNEASY: Final = 0.105
"""Share below which a driver of this week feels it, above 45 mph."""

DEFECTS: Final = (
    ("Left marker light out", True),
    ("Breakaway battery low", False),
    ("Right ramp pin bent", True),
    ("Tread low on the left front", True),
)
"""What is found on a walk round, and whether it may go with it."""


class WeekError(ValueError):
    """The yard cannot be made to work; the message says what it lacks."""


@dataclass
class Week:
    """What came of it."""

    hauls: list[Haul] = field(default_factory=list)
    left: int = 0
    defects: int = 0
    tickets: int = 0


def simulate_week(yard: Yard, first: date, *, seed: int = 1) -> Week:
    """Work a week that is over, from a Monday on, through the services.

    Raises:
        WeekError: the yard has no place that is itself, no other with a known distance, no machine,
            nobody who plans or nobody who drives; or the week is not over.
    """
    # the same week again is what is wanted
    return _Simulated(yard, first, random.Random(seed)).run()  # noqa: S311


class _Simulated:
    def __init__(self, yard: Yard, first: date, rng: random.Random) -> None:
        self.yard, self.first, self.rng = yard, first, rng
        self.week = Week()
        places = list(Place.objects.filter(yard=yard).prefetch_related("ways"))
        home = next((one for one in places if one.home), None)
        if home is None:
            raise WeekError("No place of the book is the yard itself.")
        self.home = home
        self.away = [one for one in places if not one.home and way_between(home, one) is not None]
        offered = load_choices(yard)
        machines = Machine.objects.filter(yard=yard).order_by("pk")
        self.keys = {one.pk: nearest_choice(Load(machine=one), offered) for one in machines}
        self.machines = [one for one in machines if self.keys[one.pk]]
        owner = yard.members.filter(membership__role=Role.OWNER).order_by("pk").first()
        terms = DriverTerms.objects.filter(yard=yard, drives=True).select_related("user")
        self.driving = tuple(
            Driving(
                user=one.user_id, starts=minutes_of(one.starts) or 0, ends=minutes_of(one.ends) or 0
            )
            for one in terms.order_by("pk")
        )
        if not self.away or not self.machines or owner is None or not self.driving:
            raise WeekError("It needs places, machines, an owner, and drivers with their hours.")
        if first + timedelta(days=DAYS) > timezone.localdate(timezone=yard.clock):
            raise WeekError("That week is not over yet.")
        self.planner = owner

    def run(self) -> Week:
        """The whole week."""
        for n in range(DAYS):
            self._day(self.first + timedelta(days=n))
        return self.week

    def _day(self, day: date) -> None:
        asked = Asked(day=day, wanted=tuple(self._wanted(day)), driving=self.driving)
        found = find(self.yard, asked, UnitSystem.US, seconds=SEARCH_S)
        work = LongWork.objects.create(
            yard=self.yard,
            kind="day-plan",
            title=f"The plan of {day}",
            asked=asked.json(),
            result=found.json(),
            state=LongWork.State.DONE,
            begun_by=self.planner,
        )
        self.week.left += len(found.plans[0].left)
        made = put_on_board(work, 0, user=self.planner)
        for haul in sorted(made, key=lambda one: (one.starts or time.min, one.pk)):
            self._haul(Haul.objects.with_book().get(pk=haul.pk))
            self.week.hauls.append(haul)

    def _wanted(self, day: date) -> list[Wanted]:
        """What somebody wants moved that day: out to a job, on to another, or home."""
        moves = moves_of(self.yard, [one.pk for one in self.machines])
        morning = datetime.combine(day, time.min)
        if day == self.first + timedelta(days=DAYS - 1):
            return list(self._for_the_weekend(moves, morning))
        chosen = self.rng.sample(self.machines, min(self.rng.randint(*A_DAY), len(self.machines)))
        found = []
        for machine in chosen:
            at = place_at(moves, machine.pk, morning) or self.home
            others = [one for one in self.away if one.pk != at.pk]
            goal = self.rng.choice(others)
            if not at.home and self.rng.random() < 0.6:
                goal = self.home
            found.append(Wanted(load=self.keys[machine.pk], origin=at.pk, goal=goal.pk))
        return found

    def _for_the_weekend(self, moves: Moves, at: datetime) -> Iterator[Wanted]:
        """Everything home on the last day, or where it is fetched from next."""
        coming = (
            HaulItem.objects.filter(
                haul__yard=self.yard,
                haul__day__gte=self.first + timedelta(days=7),
                haul__fetched_from__isnull=False,
            )
            .select_related("haul")
            .order_by("-haul__day", "-haul__starts")
        )
        origins = {one.machine_id: one.haul.fetched_from_id for one in coming}
        known = {one.pk for one in (self.home, *self.away)}
        for machine in self.machines:
            there = place_at(moves, machine.pk, at) or self.home
            goal = origins.get(machine.pk, self.home.pk)
            if goal != there.pk and goal in known:
                yield Wanted(load=self.keys[machine.pk], origin=there.pk, goal=goal)

    # on the road

    def _haul(self, haul: Haul) -> None:
        """One haul as it went, step by step; what holds it up is told, decided and mended first."""
        user = haul.driver or self.planner
        begins = datetime.combine(
            haul.day or self.first, haul.starts or time(8), tzinfo=self.yard.clock
        )
        minutes = haul.takes_minutes or 60
        share = self._read(haul, user, begins)
        if self.rng.random() < 0.25:
            self._defect(haul, user, begins)
        for n, step in enumerate(ORDER):
            at = begins + timedelta(minutes=minutes * n / len(ORDER))
            try:
                do_step(haul, Step(step), user=user, at=at)
            except HeldUpError:
                # decided for the day after: this one stays where it is
                return
        self._trip(haul, user, begins, share)
        if self.rng.random() < 0.2:
            self._ticket(haul, user)
        Haul.objects.filter(pk=haul.pk).update(changed_at=begins)

    def _read(self, haul: Haul, user: User, at: datetime) -> float:
        """Where the machines really stopped, and what the gauge showed; the true share."""
        draft = haul.draft
        slips = [self.rng.gauss(0.0, SLIP_M) for _ in draft.plan.items]
        true = draft.plan
        for item, slip in zip(draft.plan.items, slips, strict=True):
            stood = item.placement
            placement = type(stood)(
                reference_m=stood.reference_m + slip, facing=stood.facing, left_m=stood.left_m
            )
            true = true.with_placement(item.id, placement)
        loads = evaluate(true).loads.trailer
        shown = round(loads.tongue_kg / KG_PER_LB / GAUGE_LB) * GAUGE_LB
        sent: dict[str, Any] = {"gauge": f"{max(shown, 0)} lb"}
        for n, item in enumerate(true.items):
            inches = round(item.placement.reference_m / M_PER_IN * 4) / 4
            sent[f"mark-{n}"] = f"{inches:g} in"
        form = StoppedForm(sent, draft=draft, units=UnitSystem.US)
        if not form.is_valid():
            raise WeekError(f"A reading was refused: {form.errors.as_text()}")
        keep_stopped(haul, evaluate(draft.plan), form, user=user, at=at)
        return loads.share

    def _defect(self, haul: Haul, user: User, at: datetime) -> None:
        """Something found on the walk round: decided by the owner, mended in the evening."""
        thing = haul.trailer
        if thing is None:
            return
        what, may_go = self.rng.choice(DEFECTS)
        found = tell(thing, what=what, note="", key="", haul=haul, photo=None, user=user, at=at)
        decision = Defect.Decision.GO if may_go else Defect.Decision.STOP
        decide(
            found,
            decision,
            reason="By day only, until it is mended." if may_go else "Charge it first.",
            was=Defect.Decision.OPEN,
            user=self.planner,
            at=at + timedelta(minutes=10),
        )
        self.week.defects += 1
        mend(found, user=self.planner, at=at + timedelta(minutes=20 if not may_go else 500))

    def _trip(self, haul: Haul, user: User, at: datetime, share: float) -> None:
        """How far, how fast, what it burnt and how it drove."""
        one, other = haul.fetched_from, haul.taken_to
        way = None if one is None or other is None else way_between(one, other)
        miles = 10.0 if way is None else way.length.value / M_PER_MI
        speed = self.rng.choice((45, 50, 50, 55, 55))
        heavy = evaluate(haul.draft.plan).loads.combination_kg / KG_PER_LB
        per_gallon = self.rng.gauss(17.0 - heavy / 2200, 0.5)
        uneasy = share < UNEASY and speed > 45
        mark = self.rng.choice((1, 2)) if uneasy else self.rng.choice((4, 4, 5, 3))
        sent = {
            "trip-driven_on": at.date().isoformat(),
            "trip-carried": "loaded",
            "trip-distance": f"{miles:.1f} mi",
            "trip-fuel": f"{max(miles, 1.0) / max(per_gallon, 5.0):.1f} gal",
            "trip-speed": f"{speed} mph",
            "trip-weather": self.rng.choice(("dry", "dry", "wet", "wind")),
            "trip-drove": str(mark),
        }
        if uneasy:
            sent["trip-swayed"] = "on"
        form = TripForm(sent, units=UnitSystem.US)
        if not form.is_valid():
            raise WeekError(f"A trip was refused: {form.errors.as_text()}")
        keep_trip(haul, form, user=user, at=at + timedelta(minutes=haul.takes_minutes or 60))

    def _ticket(self, haul: Haul, user: User) -> None:
        """A machine weighed on the way."""
        link = haul.links.select_related("machine").first()
        if link is None or link.machine is None:
            return
        item = haul.draft.plan.item(link.item_id)
        whole = round(self.rng.gauss(item.mass_kg, item.mass_kg * 0.01) / KG_PER_LB / 20) * 20
        problems: list[str] = []
        read = read_ticket(
            {
                "weighed_on": (haul.day or self.first).isoformat(),
                "list": "machines",
                "name": link.machine.name,
                "whole_mass": f"{whole} lb",
                "place": "Public scale on the Fern road",
                "number": f"{self.rng.randint(10_000, 99_999)}",
            },
            yard=self.yard,
            user=user,
            path="ticket",
            problems=problems,
            before=[],
        )
        if read is None:
            raise WeekError("; ".join(problems))
        read.store()
        self.week.tickets += 1
