"""Read a ticket and find the slip: what was planned, what was printed, what went wrong.

Each slip is a way to print a plan's pads. Right is the one whose pads are the printed ones within
what a vehicle scale may be off; a case is fair if no other one is.
"""

from __future__ import annotations

import random
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from typing import Final

from measures import UnitSystem
from measures.writing import write_mass
from mechanics.checks import Status
from mechanics.limits import Quantity
from mechanics.loads import compute_loads
from mechanics.plan import Plan
from mechanics.report import evaluate
from mechanics.scalehouse import Pads, pads, printed, scale_doubt_kg
from mechanics.units import KG_PER_LB, M_PER_IN
from planfile.draft import Draft
from practice.cases import (
    Answer,
    Case,
    Grade,
    Kind,
    Maker,
    Option,
    Question,
    Situation,
    Table,
    UnfitError,
    Verdict,
    chosen,
    one_of_each,
    passed,
    words_of,
)
from practice.invented import loaded
from practice.kinds.placing import heaviest, plates
from practice.kinds.standing import best_placed
from wording.phrases import signed_mass
from wording.schools import range_words

APART: Final = 3.0
"""So many times what a scale may be off are two readings apart that nobody takes for one."""

HEAVIER: Final = 0.18
"""What a machine weighs more than its book has it: a bucket, fluid in the tires."""

CLEAR: Final = 0.02
"""A limit with less left or over than this is nobody's to judge off a ticket."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Slip:
    """Something that goes wrong: ``really`` is what stood on the scale beside what was planned,
    ``weighed`` what its pads make of that, in kg."""

    value: str
    words: str
    why: str
    weighed: Callable[[Plan], Pads]
    really: Callable[[Plan], Plan] = lambda plan: plan

    def pads(self, plan: Plan) -> Pads:
        """What the pads carry of a plan after it."""
        return self.weighed(self.really(plan))


def _true(plan: Plan) -> Pads:
    return pads(compute_loads(plan))


def _swapped(plan: Plan) -> Pads:
    true = _true(plan)
    return replace(true, steer_kg=true.drive_kg, drive_kg=true.steer_kg)


def _nobody(plan: Plan) -> Pads:
    """Without people and things in the truck."""
    return _true(replace(plan, truck=replace(plan.truck, cargo=())))


def _axle_off(plan: Plan) -> Pads:
    """The trailer's foremost axle stands on the drive pad still."""
    true, loads = _true(plan), compute_loads(plan)
    first = loads.trailer.axles_kg[0]
    return replace(true, drive_kg=true.drive_kg + first, trailer_kg=true.trailer_kg - first)


def _kilograms(plan: Plan) -> Pads:
    """Kilograms read as pounds: every figure is 0.45 of itself."""
    true = _true(plan)
    return Pads(
        steer_kg=true.steer_kg * KG_PER_LB,
        drive_kg=true.drive_kg * KG_PER_LB,
        trailer_kg=true.trailer_kg * KG_PER_LB,
    )


def _unhitched(plan: Plan) -> Pads:
    """The truck alone on its pads, the trailer on its jack and axles."""
    loads = compute_loads(plan)
    return Pads(
        steer_kg=loads.truck.front_unhitched_kg,
        drive_kg=loads.truck.rear_unhitched_kg,
        trailer_kg=loads.trailer.axles_mass_kg,
    )


def heavier(plan: Plan) -> Plan:
    """A plan with its heaviest load heavier than its book has it."""
    index = heaviest(plan)
    return plan.carrying(
        [
            replace(one, mass_kg=one.mass_kg * (1 + HEAVIER)) if n == index else one
            for n, one in enumerate(plan.items)
        ]
    )


SLIPS: Final = (
    Slip(
        value="none",
        words="none: it agrees with the plan",
        why="every pad is within what the scale may be off",
        weighed=_true,
    ),
    Slip(
        value="swapped",
        words="steer and drive were written the wrong way round",
        why="the two figures of the truck are each other's, and nothing else is off",
        weighed=_swapped,
    ),
    Slip(
        value="people",
        words="nobody sat in the truck",
        why="the truck is short of what rides in it, and the trailer is as planned",
        weighed=_nobody,
    ),
    Slip(
        value="axle",
        words="a trailer axle stood on the drive pad",
        why="what the drive pad has too much, the trailer pad has too little",
        weighed=_axle_off,
    ),
    Slip(
        value="kilograms",
        words="it prints kilograms, read as pounds",
        why="every figure is 0.45 of what it should be",
        weighed=_kilograms,
    ),
    Slip(
        value="unhitched",
        words="the trailer was not hitched",
        why="the trailer's axles are right and its tongue is on no pad",
        weighed=_unhitched,
    ),
    Slip(
        value="heavier",
        words="the machine is heavier than its book says",
        why="the trailer has most of what is too much, as with more on the deck",
        weighed=_true,
        really=heavier,
    ),
)

SLIP: Final = Question(
    name="slip",
    label="What is behind it?",
    options=tuple(Option(value=one.value, words=one.words) for one in SLIPS),
)

HOLDS: Final = Question(
    name="holds",
    label="May the outfit go as it really is?",
    options=(
        Option(value="yes", words="yes, every limit holds"),
        Option(value="no", words="no, a limit is passed"),
    ),
)


@dataclass(frozen=True, kw_only=True)
class TicketCase(Case):
    """A plan, and what was printed after a slip."""

    draft: Draft
    slip: Slip
    ticket: Pads

    @property
    def really(self) -> Plan:
        """The outfit as it really stood on the scale."""
        return self.slip.really(self.draft.plan)

    @property
    def holds(self) -> bool:
        """Whether it may go so."""
        return evaluate(self.really).verdict is not Status.OVER

    def situation(self, unit: UnitSystem) -> Situation:
        true = _true(self.draft.plan)
        truck = self.draft.plan.truck
        aboard = sum(one.mass_kg for one in truck.cargo)
        unhitched = compute_loads(self.draft.plan).truck.unhitched_mass_kg
        return Situation(
            story=(
                "The outfit stood on a scale of three pads. Beside what it printed stands what "
                "the plan says.",
            ),
            facts=(
                ("Truck and trailer", f"{self.draft.truck_name}, {self.draft.trailer_name}"),
                ("Truck unhitched, people and things in it", write_mass(unhitched, unit)),
                ("of which people and things", write_mass(aboard, unit)),
                *((item.called, write_mass(item.mass_kg, unit)) for item in self.draft.plan.items),
                ("Tongue share", f"{range_words(*self.draft.plan.share_range)} asked"),
                *plates(self.draft.plan, unit),
            ),
            table=Table(
                head=("", "planned", "printed", "apart"),
                rows=tuple(
                    (
                        name,
                        write_mass(planned, unit),
                        write_mass(read, unit),
                        signed_mass(read - planned, unit),
                    )
                    for name, planned, read in (
                        ("Steer", true.steer_kg, self.ticket.steer_kg),
                        ("Drive", true.drive_kg, self.ticket.drive_kg),
                        ("Trailer axles", true.trailer_kg, self.ticket.trailer_kg),
                    )
                ),
            ),
            questions=(SLIP, HOLDS),
        )

    def judge(self, answer: Answer, unit: UnitSystem) -> Verdict:
        slip, goes = chosen(answer, SLIP), chosen(answer, HOLDS)
        found = slip == self.slip.value
        judged = (goes == "yes") is self.holds
        grade = Grade.RIGHT if found and judged else Grade.NEARLY if found else Grade.WRONG
        why = f"It was this: {self.slip.words}, for {self.slip.why}."
        if self.slip.value == "none":
            why = f"There is no slip: {self.slip.why}."
        if found and not judged:
            why = f"The slip is found, but {'it may go' if self.holds else 'it may not go'}."
        report = evaluate(self.really)
        best = words_of(SLIP, self.slip.value), words_of(HOLDS, "yes" if self.holds else "no")
        return Verdict(
            grade=grade,
            sentence=f"{why} {passed(report, unit)}",
            best="; ".join(best),
            figures=(
                ("Scale, give or take", write_mass(scale_doubt_kg(self.ticket.drive_kg), unit)),
                ("Trailer's axles really", write_mass(report.loads.trailer.axles_mass_kg, unit)),
                ("Truck really", write_mass(report.loads.truck.mass_kg, unit)),
            ),
        )

    def every(self) -> Iterator[Answer]:
        yield from one_of_each((SLIP, HOLDS))


def explains(ticket: Pads, found: Pads, times: float = 1.0) -> bool:
    """Whether pads are those of a ticket within what its scale may be off."""
    return all(
        abs(one - other) <= times * scale_doubt_kg(other)
        for one, other in (
            (ticket.steer_kg, found.steer_kg),
            (ticket.drive_kg, found.drive_kg),
            (ticket.trailer_kg, found.trailer_kg),
        )
    )


class _Ticket(Maker):
    kind = "ticket"

    def wish(self, rng: random.Random) -> str:
        return f"{rng.choice(SLIPS).value} {rng.choice(('yes', 'no'))}"

    def tried(self, rng: random.Random, haul: Draft | None, wish: str | None) -> TicketCase:
        draft = haul if haul is not None else _somewhere(rng, best_placed(loaded(rng)))
        if not draft.plan.items:
            raise UnfitError("Nothing stands on this deck.")
        slip = rng.choice(SLIPS)
        if wish is not None:
            slip = next(one for one in SLIPS if one.value == wish.split()[0])
        ticket = printed(slip.pads(draft.plan), lambda: rng.uniform(-0.8, 0.8))
        for other in SLIPS:
            if other is not slip and explains(ticket, other.pads(draft.plan), APART):
                raise UnfitError("Two slips would print the same ticket.")
        case = TicketCase(draft=draft, slip=slip, ticket=ticket)
        if not _clear(case.really):
            raise UnfitError("Whether it may go hangs by a thread, or is not known.")
        if wish is not None and case.holds is not wish.endswith("yes"):
            raise UnfitError("Another answer is wished for.")
        return case


def _somewhere(rng: random.Random, draft: Draft) -> Draft:
    """A plan that may not be right: its machine up to two feet from its place."""
    item, deck = draft.plan.items[0], draft.plan.trailer.deck
    low, high = item.reach_forward_m, deck.length_m - item.reach_rearward_m
    at = item.placement.reference_m + rng.choice((-24, -12, 0, 0, 12, 24)) * M_PER_IN
    return draft.put(0, min(max(at, low), high))


def _clear(plan: Plan) -> bool:
    """Whether nothing that decides it lies within a few parts of a hundred of its limit."""
    checks = evaluate(plan).checks
    if any(one.status is Status.UNKNOWN for one in checks):
        return False
    told = [one.reserve for one in checks if one.quantity is not Quantity.LENGTH]
    return all(one is None or abs(one) > CLEAR for one in told)


TICKET: Final = Kind(
    slug="ticket",
    title="Read the ticket",
    about="What was planned and what the scale printed: which slip is behind it?",
    make=_Ticket(),
    of_hauls=True,
)
