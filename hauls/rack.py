"""The yard's rack for one haul: what is free of it, and what is wrong with the gear of its ties."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Final

from django.utils import timezone

from book.figures import si
from book.gear import gear_limit, overdue
from book.models import Gear
from mechanics.gear import UNMARKED_GRADE, weakest_kg
from mechanics.securing import RackPiece
from mechanics.ties import TieKind
from planfile.document import Securing, Tie
from planfile.tying import kept_of
from yards.models import Yard

RUNS: Final = {
    Gear.Kind.CHAIN: TieKind.CHAIN,
    Gear.Kind.STRAP: TieKind.STRAP,
    Gear.Kind.WIRE_ROPE: TieKind.WIRE_ROPE,
}
"""What the plan format calls gear that runs from a machine to the trailer."""

LESS: Final = 1e-6
"""A limit of the book that is less than a tie's by no more than this part is the same."""


@dataclass(frozen=True, kw_only=True)
class Rack:
    """All gear of a yard by its name, and how much of it the ties of a haul take."""

    gear: Mapping[str, Gear]
    taken: Counter[str]

    @classmethod
    def of(cls, yard: Yard, securing: Securing | None) -> Rack:
        """The yard's gear beside a haul's ties."""
        ties = () if securing is None else securing.ties
        return cls(
            gear={gear.name: gear for gear in Gear.objects.filter(yard=yard)},
            taken=Counter(name for tie in ties for name in kept_of(tie).pieces),
        )

    def free(self, name: str) -> int:
        """How many pieces of a name are still on the rack; none of what is retired."""
        gear = self.gear.get(name)
        return 0 if gear is None or gear.retired else max(0, gear.count - self.taken[name])

    def limit_kg(self, names: Iterable[str]) -> float | None:
        """What pieces in a row hold; ``None`` where one of them counts nothing."""
        there = (self.gear.get(name) for name in names)
        return weakest_kg(None if gear is None else gear_limit(gear).kg for gear in there)

    def pieces(self, back: Iterable[str] = ()) -> list[RackPiece]:
        """What is free for the search, with what some ties of the haul would give ``back``.

        Nothing that is not marked, and nothing that has not been looked over for too long: nobody
        is told to take that.
        """
        today = timezone.localdate()
        returned = Counter(back)
        found = []
        for name, gear in self.gear.items():
            limit, count = gear_limit(gear).kg, self.free(name) + returned[name]
            if limit is None or count < 1 or gear.unmarked or overdue(gear, today):
                continue
            if gear.kind != Gear.Kind.BINDER and not gear.runs:
                continue
            found.append(
                RackPiece(
                    key=name,
                    kind=RUNS.get(Gear.Kind(gear.kind)),
                    wll_kg=limit,
                    count=min(count, gear.count),
                    length_m=None if gear.length is None else si(gear.length),
                    needs_binder=gear.needs_binder,
                )
            )
        return found

    def running(self) -> list[Gear]:
        """What may run from a machine to the trailer, the strongest first."""
        found = [gear for gear in self.gear.values() if gear.runs and not gear.retired]
        return sorted(found, key=lambda gear: (-(gear_limit(gear).kg or 0.0), gear.name))

    def joining(self) -> list[Gear]:
        """Binders, hooks and shackles."""
        found = [gear for gear in self.gear.values() if not gear.runs and not gear.retired]
        return sorted(found, key=lambda gear: (gear.kind, -(gear_limit(gear).kg or 0.0)))

    def faults(self, tie: Tie, kg_per_unit: float) -> list[str]:
        """What is wrong with the gear of a tie by the book as it is now."""
        found = []
        for name in kept_of(tie).pieces:
            words = self._fault(name, tie, kg_per_unit)
            if words:
                found.append(words)
            if name in self.gear and self.taken[name] > self.gear[name].count:
                there = self.gear[name].count
                found.append(f"{self.taken[name]} of {name} are used, the rack has {there}.")
        return found

    def doubts(self, tie: Tie) -> list[str]:
        """What counts and is not to be trusted all the same: chain of which nothing can be read,
        gear that nobody has looked over for too long."""
        today, found = timezone.localdate(), []
        for name in kept_of(tie).pieces:
            gear = self.gear.get(name)
            if gear is None or gear.retired:
                continue
            if gear.unmarked and gear.kind == Gear.Kind.CHAIN:
                found.append(
                    f"{name} is not marked: counted as grade {UNMARKED_GRADE}, the lowest."
                )
            if overdue(gear, today):
                found.append(f"{name} was last looked over {gear.inspected_on:%d %b %Y}.")
        return found

    def too_short(self, tie: Tie, length_m: float) -> str:
        """What runs along a tie and does not reach; empty where it does, or nobody knows."""
        for name in kept_of(tie).pieces[:1]:
            gear = self.gear.get(name)
            if gear is not None and gear.length is not None and si(gear.length) < length_m:
                return name
        return ""

    def _fault(self, name: str, tie: Tie, kg_per_unit: float) -> str:
        gear = self.gear.get(name)
        if gear is None:
            return f"{name} is no longer in the book."
        if gear.retired:
            return f"{name} is retired: {gear.get_retired_display().lower()}."
        limit = gear_limit(gear).kg
        if limit is None:
            return f"{name} is not marked and counts nothing."
        planned = tie.wll if isinstance(tie.wll, (int, float)) else 0.0
        if planned * kg_per_unit > limit * (1 + LESS):
            return f"{name} holds less than was planned: choose it again."
        return ""
