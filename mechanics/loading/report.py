"""One call for the whole way on: every machine of a plan, with those already aboard."""

from __future__ import annotations

import math
from dataclasses import dataclass

from mechanics.checks import Status
from mechanics.errors import InputError
from mechanics.loading.findings import Finding, Subject, findings
from mechanics.loading.outfit import Outfit, aboard_before
from mechanics.loading.path import STATIONS, Path, Walk
from mechanics.loading.stance import climber
from mechanics.loading.terrain import terrain
from mechanics.plan import Plan


@dataclass(frozen=True, kw_only=True)
class Way:
    """One machine's way on. With something ``missing`` there is nothing else."""

    item: str
    missing: tuple[str, ...] = ()
    walk: Walk | None = None
    path: Path | None = None
    findings: tuple[Finding, ...] = ()

    @property
    def verdict(self) -> Status:
        """The worst of its findings; unknown where something is missing."""
        if self.missing:
            return Status.UNKNOWN
        return max((f.status for f in self.findings), key=lambda s: s.severity)

    def finding(self, subject: Subject) -> Finding | None:
        """The finding about a subject, the worst of several; ``None`` where it is left out."""
        about = [f for f in self.findings if f.subject is subject]
        return max(about, key=lambda f: f.status.severity, default=None)


@dataclass(frozen=True, kw_only=True)
class LoadingReport:
    """What is said of getting on and off."""

    ways: tuple[Way, ...]

    @property
    def verdict(self) -> Status:
        """The worst of all ways."""
        return max((w.verdict for w in self.ways), key=lambda s: s.severity, default=Status.OK)


def missing_for_way(plan: Plan, index: int) -> tuple[str, ...]:
    """Inputs without which nothing can be said of how one item gets on."""
    item = plan.items[index]
    ends = [c.ahead_m + side * c.length_m for c in item.contacts for side in (-0.5, 0.5)]
    found = []
    if plan.trailer.ramp is None:
        found.append("trailer.ramp")
    if plan.trailer.deck.height_m is None:
        found.append("trailer.deck.height")
    if not ends or not max(ends) > min(ends):
        found.append(f"items[{index}].contacts")
    if item.cg.height_m is None:
        found.append(f"items[{index}].cg.height")
    return tuple(found)


def way(plan: Plan, index: int, *, stations: int = STATIONS) -> Way:
    """One item's way on.

    Raises:
        InputError: the ramp is no longer than what it has to rise, or the figures overflow.
    """
    item = plan.items[index]
    missing = missing_for_way(plan, index)
    machine = climber(item)
    if missing or machine is None:
        return Way(item=item.id, missing=missing)
    ground = terrain(plan)
    outfit = Outfit(plan, aboard_before(plan, index), ground.edge_m)
    walk = Walk(plan, machine, outfit, ground)
    path = walk.path(stations)
    if not math.isfinite(sum(s.carried.tongue_kg + s.stance.lead_x for s in path.stations)):
        raise InputError("plan", "figures that a truck and trailer can have; these overflow")
    return Way(item=item.id, walk=walk, path=path, findings=findings(walk, path, index))


def loading(plan: Plan, *, stations: int = STATIONS) -> LoadingReport:
    """Every item's way on.

    Raises:
        InputError: the ramp is no longer than what it has to rise, or the figures overflow.
    """
    trailer = plan.trailer
    if trailer.ramp is not None and trailer.deck.height_m is not None:
        terrain(plan)
    return LoadingReport(
        ways=tuple(way(plan, index, stations=stations) for index in range(len(plan.items)))
    )
