"""One call for how a whole load is tied down."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from mechanics.checks import Status
from mechanics.errors import InputError
from mechanics.plan import Plan
from mechanics.securing.findings import Finding, Tied, findings, unsaid
from mechanics.securing.hold import (
    WAYS,
    all_ropes,
    allowed,
    pushed,
)
from mechanics.securing.rope import Rope
from mechanics.ties import Securing, SecuringSchool


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

    @property
    def verdict(self) -> Status:
        """The worst of its findings."""
        return max((f.status for f in self.findings), key=lambda s: s.severity)

    @property
    def by_family(self) -> dict[str, Finding]:
        """Findings of which an item has one, by their family."""
        return {f.family: f for f in self.findings if not f.which}


@dataclass(frozen=True, kw_only=True, slots=True)
class SecuringReport:
    """What is said of tying down, by the school it is judged by."""

    school: SecuringSchool
    items: tuple[ItemTied, ...]

    @property
    def verdict(self) -> Status:
        """The worst of all items'."""
        found = (item.verdict for item in self.items)
        return max(found, key=lambda s: s.severity, default=Status.OK)


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
    found = []
    for tied in _every_tied(plan, securing):
        uses = _uses(tied)
        found.append(
            ItemTied(
                item=tied.item.id,
                ties=tuple(TieUse(rope=r, use=uses[r.tie.id]) for r in tied.own),
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
    if plan.securing is None:
        raise KeyError("securing")
    index = plan.items.index(plan.item(item_id))
    return _every_tied(plan, plan.securing)[index]


def _every_tied(plan: Plan, securing: Securing) -> tuple[Tied, ...]:
    """Every item with its ties among all of them."""
    every = all_ropes(plan)
    may = allowed(every)
    pulled = _pulled(plan, every, may)
    return tuple(
        Tied(
            plan=plan,
            item=item,
            securing=securing,
            own=tuple(rope for rope in every if rope.tie.item == item.id),
            every=every,
            may=may,
            pulled=pulled,
        )
        for item in plan.items
    )


def _pulled(
    plan: Plan, every: Sequence[Rope], may: dict[str, float | None]
) -> dict[str, dict[str, float | None]]:
    """What each tie pulls when every item is pushed by the rule's g, by direction."""
    found: dict[str, dict[str, float | None]] = {name: {} for name in WAYS}
    for item in plan.items:
        own = [rope for rope in every if rope.tie.item == item.id]
        for name, by_tie in found.items():
            by_tie.update(pushed(plan, item, own, may, name))
    return found


def _uses(tied: Tied) -> dict[str, dict[str, float | None]]:
    """Each tie's pull over what it may pull, by direction, when pushed by the rule's g."""
    found: dict[str, dict[str, float | None]] = {}
    for rope in tied.own:
        one, limit = rope.tie.id, tied.may[rope.tie.id]
        found[one] = {}
        for name, pulled in tied.pulled.items():
            pull = pulled[one]
            found[one][name] = None if pull is None or not limit else pull / limit
    return found
