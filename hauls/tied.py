"""How a haul's ties are judged: what they hold, by the book as it is now, and what is only a guess.

The page of ties, its choice of machines, the driver's list and the planner's line say the same.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Self

from hauls.models import Haul
from hauls.rack import Rack
from hauls.tying import securing_of
from measures.writing import UnitSystem, write_length
from mechanics.checks import Status
from mechanics.securing import ItemTied, SecuringReport
from mechanics.ties import SecuringSchool
from planfile.convert import usual_school
from planfile.draft import Draft
from wording.statuses import STATUS_WORDS


@dataclass(frozen=True, kw_only=True, slots=True)
class TieJudged:
    """One tie: what is wrong with its gear, why that is not to be trusted, whether it leans on a
    guessed place."""

    faults: tuple[str, ...] = ()
    doubts: tuple[str, ...] = ()
    guess: bool = False


@dataclass(frozen=True, kw_only=True, slots=True)
class Judged:
    """One item's ties, by their ids, and the verdict of all of them.

    Gear that is not what was planned is over, gear not to be trusted at most near; what leans on
    a guess is likely.
    """

    status: Status
    likely: bool
    ties: Mapping[str, TieJudged]

    @classmethod
    def of(cls, found: Status, ties: Mapping[str, TieJudged]) -> Self:
        """The verdict of an item's findings and of its ties' gear."""
        status = found
        if any(tie.faults for tie in ties.values()):
            status = Status.OVER
        elif status is Status.OK and any(tie.doubts for tie in ties.values()):
            status = Status.NEAR
        sure = status is Status.UNKNOWN or any(tie.faults for tie in ties.values())
        return cls(
            status=status,
            likely=not sure and any(tie.guess for tie in ties.values()),
            ties=ties,
        )

    @property
    def word(self) -> str:
        """``likely ok``."""
        word = STATUS_WORDS[self.status]
        return f"likely {word}" if self.likely else word

    @property
    def faults(self) -> tuple[str, ...]:
        """What is wrong with its gear, each once."""
        return tuple(dict.fromkeys(w for tie in self.ties.values() for w in tie.faults))

    @property
    def doubts(self) -> tuple[str, ...]:
        """Why its gear is not to be trusted, each once."""
        return tuple(dict.fromkeys(w for tie in self.ties.values() for w in tie.doubts))


def school_of(haul: Haul) -> SecuringSchool:
    """The rule a haul's ties are held against: its own, else the yard's, else by its units."""
    plan = haul.draft.plan
    if plan.securing is not None:
        return plan.securing.school
    if haul.yard.securing_school:
        return SecuringSchool(haul.yard.securing_school)
    return usual_school(haul.draft.units.mass.value)


def judged(
    draft: Draft, report: SecuringReport, rack: Rack | None, unit: UnitSystem
) -> dict[str, Judged]:
    """Every item's ties, by the items' ids; without a rack as they were planned."""
    return {one.item: _judged(draft, one, rack, unit) for one in report.items}


def whole(items: Mapping[str, Judged]) -> Judged:
    """The verdict of a whole haul."""
    ties = {id: tie for one in items.values() for id, tie in one.ties.items()}
    worst = max((one.status for one in items.values()), key=lambda s: s.severity)
    return Judged.of(worst, ties)


def _judged(draft: Draft, tied: ItemTied, rack: Rack | None, unit: UnitSystem) -> Judged:
    guesses, kg = draft.guesses, draft.units.mass.kg
    lengths = {use.rope.tie.id: use.rope.length_m for use in tied.ties}
    found = {}
    for number, tie in enumerate(securing_of(draft).ties, 1):
        if tie.item != tied.item:
            continue
        faults: list[str] = []
        doubts: list[str] = []
        if rack is not None:
            faults, doubts = rack.faults(tie, kg), rack.doubts(tie)
            if short := rack.too_short(tie, lengths[tie.id]):
                way = write_length(lengths[tie.id], unit, step=1)
                faults.append(f"{short} is too short for tie {number}: the way is {way}.")
        found[tie.id] = TieJudged(
            faults=tuple(faults), doubts=tuple(doubts), guess=guesses.under(tie)
        )
    return Judged.of(tied.verdict, found)
