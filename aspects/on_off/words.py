"""The sentences of a way on: what happens, when, and whether the truck holds."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Final

from aspects.on_off.stations import Teller
from hauls.climbs import Usual, unsettled, verdict
from measures.writing import UnitSystem, write_excess, write_mass
from mechanics.checks import Status
from mechanics.loading import Path, State, Subject, Way
from mechanics.plan import Plan
from wording.loading import (
    FindingWords,
    finding_words,
    ground_words,
    holds_words,
    usual_clearance,
)
from wording.phrases import begun, tongue_word

SAME_PLACE_M: Final = 0.05
"""Two places on the way nearer to each other than this are told as one."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Said:
    """The sentence on top: words, a figure, words; then what follows from it."""

    status: str
    before: str
    figure: str
    after: str
    second: str
    likely: bool = False
    """Whether it rests on where estimated figures of the machine lie in their bands."""


def said(plan: Plan, way: Way, teller: Teller, unit: UnitSystem, usual: Usual) -> Said:
    """What is said of one machine's way, which has a path."""
    path = way.path
    if path is None:
        raise ValueError("a way that cannot be said")
    lowest, word = path.lowest, tongue_word(plan.hitch.type)
    moment = teller.moment(lowest)
    lifts = lowest.tongue_kg < 0
    status = verdict(way, usual)
    index = next(n for n, item in enumerate(plan.items) if item.id == way.item)
    return Said(
        status=status.value,
        likely=unsettled(plan, index, status, usual),
        before=f"The {word} lifts by" if lifts else f"The {word} keeps at least",
        figure=write_excess(lowest.tongue_kg, unit)
        if lifts
        else write_mass(lowest.tongue_kg, unit),
        after=f"{moment}." if lifts else ".",
        second=" ".join(
            [_truck(plan, way, path, teller, unit), *_besides(plan, way, teller, unit)]
        ),
    )


def _besides(plan: Plan, way: Way, teller: Teller, unit: UnitSystem) -> list[str]:
    """What else is over along the way, a sentence each."""
    found = []
    for finding in way.findings:
        if finding.status is not Status.OVER or finding.subject in SAID:
            continue
        words = finding_words(finding, plan, unit)
        when = "" if finding.station is None else f" {teller.moment(finding.station)}"
        found.append(f"{words.label}: {words.found}{when}.")
    return found


SAID: Final = (Subject.TRUCK_REAR, Subject.HOLD)
"""What the sentences say anyway."""


def _truck(plan: Plan, way: Way, path: Path, teller: Teller, unit: UnitSystem) -> str:
    """Whether the truck stays down, and whether it holds."""
    light, held = path.lightest_rear, path.worst_hold
    first = next((s for s in path.stations if s.state is State.LIFTED), None)
    if first is not None:
        return (
            f"The truck's rear wheels leave the ground {teller.moment(first)}: the outfit cannot "
            "stay like that."
        )
    words = f"The truck keeps {write_mass(light.carried.rear_kg, unit)} on its rear axle"
    if held is None or held.hold is None:
        return f"{words}, and nothing pushes it."
    holds = begun(holds_words(plan))
    verb = "holds" if held.hold >= 1 else "does not hold"
    if "chocks" in holds or " and " in holds:
        verb = verb.replace("holds", "hold").replace("does not", "do not")
    apart = abs(held.lead_m - path.lowest.lead_m)
    where = "" if apart < SAME_PLACE_M else f", at worst {teller.moment(held)}"
    just = ", only just" if way_status(way, Subject.HOLD) is Status.NEAR else ""
    return f"{words}. {holds} {verb} {ground_words(plan.site)}{just}{where}."


def way_status(way: Way, subject: Subject) -> Status | None:
    """The status of one subject."""
    finding = way.finding(subject)
    return None if finding is None else finding.status


def finding_rows(
    plan: Plan, way: Way, teller: Teller, unit: UnitSystem, usual: Usual
) -> list[FindingWords]:
    """What was found along the way, the worst first; when, of what is not as it should be."""
    found = []
    for finding in way.findings:
        if finding.subject is Subject.CLEARANCE and usual is not None:
            found.append(usual_clearance(*usual, unit))
        else:
            words, station = finding_words(finding, plan, unit), finding.station
            if station is not None and finding.status is not Status.OK:
                words = replace(words, when=f"{begun(teller.moment(station))}.")
            found.append(words)
    return sorted(found, key=lambda row: -Status(row.status).severity)
