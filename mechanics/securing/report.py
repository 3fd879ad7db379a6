"""One call for how a whole load is tied down."""

from __future__ import annotations

import math
from dataclasses import dataclass

from mechanics.checks import Status
from mechanics.errors import InputError
from mechanics.plan import Plan
from mechanics.securing.findings import Finding, Tied, findings, unsaid
from mechanics.securing.hold import (
    LIMITS,
    WAYS,
    all_ropes,
    allowed,
    friction_of,
    pulls,
    rubbing_kg,
)
from mechanics.securing.rope import Rope
from mechanics.ties import SecuringSchool


@dataclass(frozen=True, kw_only=True, slots=True)
class TieUse:
    """A tie as it runs, and the part of what it may pull that each direction takes of it.

    ``None`` where that cannot be said.
    """

    rope: Rope
    use: dict[str, float | None]


@dataclass(frozen=True, kw_only=True, slots=True)
class ItemTied:
    """One item's ties and findings."""

    item: str
    ties: tuple[TieUse, ...]
    findings: tuple[Finding, ...]


@dataclass(frozen=True, kw_only=True, slots=True)
class SecuringReport:
    """What is said of tying down, by the school it is judged by."""

    school: SecuringSchool
    items: tuple[ItemTied, ...]

    @property
    def verdict(self) -> Status:
        """The worst of all findings."""
        statuses = [f.status for item in self.items for f in item.findings]
        return max(statuses, key=lambda s: s.severity, default=Status.OK)


def secure(plan: Plan, school: SecuringSchool) -> SecuringReport:
    """How a load is tied down; ``school`` is the one of a plan that says nothing of its ties.

    Raises:
        InputError: a tie between two places that are one, or figures that overflow.
    """
    securing = plan.securing
    if securing is None:
        return SecuringReport(
            school=school,
            items=tuple(
                ItemTied(item=item.id, ties=(), findings=unsaid(school)) for item in plan.items
            ),
        )
    every = all_ropes(plan)
    may = allowed(every)
    found = []
    for item in plan.items:
        own = tuple(rope for rope in every if rope.tie.item == item.id)
        tied = Tied(plan=plan, item=item, securing=securing, own=own, every=every, may=may)
        uses = _uses(tied, may)
        found.append(
            ItemTied(
                item=item.id,
                ties=tuple(TieUse(rope=r, use=uses[r.tie.id]) for r in own),
                findings=findings(tied),
            )
        )
    if not all(
        math.isfinite(f.value) for one in found for f in one.findings if f.value is not None
    ):
        raise InputError("securing", "figures that ties can have; these overflow")
    return SecuringReport(school=securing.school, items=tuple(found))


def tied_of(plan: Plan, item_id: str) -> Tied:
    """One item with its ties, to look into what a finding comes from.

    Raises:
        KeyError: there is no such item, or the plan says nothing of ties.
    """
    item = plan.item(item_id)
    if plan.securing is None:
        raise KeyError("securing")
    every = all_ropes(plan)
    return Tied(
        plan=plan,
        item=item,
        securing=plan.securing,
        own=tuple(rope for rope in every if rope.tie.item == item_id),
        every=every,
        may=allowed(every),
    )


def _uses(tied: Tied, may: dict[str, float | None]) -> dict[str, dict[str, float | None]]:
    """Each tie's pull over what it may pull, by direction, when pushed by the rule's g."""
    mu = friction_of(tied.plan)
    rubbing = rubbing_kg(tied.own, tied.mass_kg, mu)
    found: dict[str, dict[str, float | None]] = {rope.tie.id: {} for rope in tied.own}
    for name, way in WAYS.items():
        pushed = LIMITS[tied.securing.school][name] * tied.mass_kg
        pulled = pulls(tied.own, may, way, pushed, rubbing)
        for rope in tied.own:
            one, limit = pulled[rope.tie.id], may[rope.tie.id]
            found[rope.tie.id][name] = None if one is None or not limit else one / limit
    return found
