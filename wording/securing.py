"""Words of tying down: each finding with its arithmetic and source, and what ties are called."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import Final

from measures.writing import UnitSystem, write_length, write_mass, write_number, write_percent
from mechanics.checks import Status
from mechanics.plan import Plan
from mechanics.securing import Finding
from mechanics.securing.findings import (
    FIVE_FEET_M,
    HEAVY_KG,
    LIGHT_KG,
    SPARE,
    TEN_FEET_M,
    Tied,
)
from mechanics.securing.hold import (
    EN_FRICTION,
    LIMITS,
    UP_LIMIT,
    WAYS,
    at_most,
    friction_of,
    ideal_kg,
    rubbing_kg,
)
from mechanics.securing.rope import UP
from mechanics.ties import SecuringSchool, TieKind
from wording.arithmetic import Term, Why
from wording.inputs import missing_of

SCHOOLS: Final = {
    SecuringSchool.US_393: "US rule",
    SecuringSchool.STRICT: "stricter",
    SecuringSchool.EN_12195: "EN 12195-1",
}
"""What the rule that ties are held against is called."""

BY_SCHOOL: Final = {
    SecuringSchool.US_393: "by the US rule",
    SecuringSchool.STRICT: "by the stricter rule",
    SecuringSchool.EN_12195: "by EN 12195-1",
}
"""The same in a sentence."""


def _asked_words(school: SecuringSchool) -> str:
    """What a rule asks in each direction."""
    limits = {name: f"{g:g} g" for name, g in LIMITS[school].items()}
    found = f"limits of the gear against {limits['forward']} braking"
    if limits["rearward"] == limits["left"]:
        return f"{found} and {limits['rearward']} else"
    return f"{found}, {limits['rearward']} pulling away, {limits['left']} to the sides"


SCHOOL_NOTES: Final = {
    SecuringSchool.US_393: f"{_asked_words(SecuringSchool.US_393)} "
    "(49 CFR 393.102(a), from memory)",
    SecuringSchool.STRICT: f"{_asked_words(SecuringSchool.STRICT)}, friction not counted "
    "(common practice, no source)",
    SecuringSchool.EN_12195: f"{_asked_words(SecuringSchool.EN_12195)}, "
    f"{write_percent(EN_FRICTION, 0)} of the friction counted (EN 12195-1, from memory)",
}
"""What each rule asks, and where that is from."""

WAY_WORDS: Final = {
    "forward": "Braking, forward",
    "rearward": "Pulling away, rearward",
    "left": "To the left",
    "right": "To the right",
    "up": "Upward",
}
"""The directions a load is pushed in."""

KIND_WORDS: Final = {
    TieKind.CHAIN: "chain",
    TieKind.STRAP: "strap",
    TieKind.WIRE_ROPE: "wire rope",
}
"""What a tie is made of."""

TIP_WORDS: Final = {
    "forward": "Tips forward at",
    "rearward": "Tips rearward at",
    "left": "Tips to the left at",
    "right": "Tips to the right at",
}
"""The edges it could tip over untied."""

SHARING: Final = (
    "The machine moves as one piece and each tie that becomes longer pulls; the first to reach "
    f"its limit ends it. Chain and wire rope {write_percent(TieKind.CHAIN.stretch, 0)} longer at "
    f"their limit, webbing {write_percent(TieKind.STRAP.stretch, 0)}: assumptions."
)
"""How several ties share a push."""


TICK: Final = 41.0
"""Where along a bar of a hundred what is asked is marked."""


@dataclass(frozen=True, kw_only=True, slots=True)
class FindingRow:
    """One check in the list: how many times what is asked is held, the figures behind that, a
    bar whose tick is what is asked, the arithmetic. ``held`` is a part of what is asked, ``None``
    of what has no bar."""

    code: str
    label: str
    status: str
    figure: str
    detail: str
    held: float | None
    note: str
    why: Why

    @property
    def bar(self) -> float | None:
        """How far the bar is filled."""
        return None if self.held is None else min(100.0, max(0.0, TICK * self.held))

    @property
    def tick(self) -> float:
        """Where what is asked is marked on it."""
        return TICK


@dataclass(frozen=True, kw_only=True, slots=True)
class Found:
    """What is told of one finding that has a value."""

    figure: str
    detail: str
    total: str
    limit: str
    note: str = ""
    held: float | None = None
    terms: tuple[Term, ...] = ()


@dataclass(frozen=True, kw_only=True)
class Teller:
    """One item's ties in words: ``numbers`` are what ties are called by."""

    plan: Plan
    tied: Tied
    numbers: Mapping[str, int]
    unit: UnitSystem

    def row(self, finding: Finding) -> FindingRow:
        """The words of one finding."""
        family = _FAMILIES[finding.family]
        found = Found(figure="cannot say", detail="", total="cannot say", limit="")
        if finding.status is Status.UNKNOWN:
            lacking = ", ".join(missing_of(finding.missing, self.plan))
            found = replace(found, note=f"Not known: {lacking}.")
        else:
            found = family.tell(self, finding)
        return FindingRow(
            code=finding.code,
            label=self.label(finding),
            status=finding.status.value,
            figure=found.figure,
            detail=found.detail,
            held=found.held,
            note=found.note,
            why=Why(
                terms=list(found.terms),
                total=found.total,
                limit=found.limit,
                source=family.source(self.tied.securing.school, self.unit),
            ),
        )

    def label(self, finding: Finding) -> str:
        """What a finding is about."""
        which = finding.which
        if finding.family == "without":
            which = self.called(which)
        elif finding.family == "tip":
            which = TIP_WORDS[which]
        return _FAMILIES[finding.family].label.format(which)

    def mass(self, kg: float) -> str:
        """A mass in the person's unit."""
        return write_mass(kg, self.unit)

    def called(self, tie_id: str) -> str:
        """What a tie is called: ``chain 3``."""
        kind = next(r.tie.kind for r in self.tied.own if r.tie.id == tie_id)
        return f"{KIND_WORDS[kind]} {self.numbers[tie_id]}"


def times(ratio: float) -> str:
    """How many times what is asked is held: ``2.4 ×``; never ``1.0`` where it is less."""
    if ratio <= 0:
        return "0 ×"
    if ratio >= 1:
        return f"{write_number(ratio, 1)} ×"
    return f"{write_number(min(ratio, 0.99), 2)} ×"


def _figures(finding: Finding) -> tuple[float, float]:
    """Value and limit of a finding that has both."""
    return finding.value or 0.0, finding.limit or 1.0


def _way(teller: Teller, finding: Finding) -> Found:
    tied, up = teller.tied, finding.family == "up"
    way = UP if up else WAYS[finding.family]
    value, limit = _figures(finding)
    pulls = at_most(tied.own, tied.may, way) or ()
    terms = [
        Term(
            name=f"{teller.called(pull.tie)}: {teller.mass(pull.pull_kg)}, "
            f"{write_percent(pull.part)} of it this way",
            amount=teller.mass(pull.pull_kg * pull.part),
        )
        for pull in pulls
    ]
    mu = 0.0 if up else friction_of(tied.plan)
    if mu:
        rubs = rubbing_kg(tied.own, tied.mass_kg, mu)
        terms.append(Term(name=f"friction {write_number(mu, 2)}", amount=teller.mass(rubs)))
    notes = [] if terms else ["No tie pulls against it."]
    if finding.status is Status.NEAR:
        notes.append(f"Less than {SPARE:g} times what is asked.")
    held, ideal = sum(p.pull_kg * p.part for p in pulls), ideal_kg(tied.own, tied.may, way)
    if ideal is not None and held < UNEVEN * ideal:
        notes.append(
            f"Each at its most they would hold {teller.mass(ideal)}: the stiffest gives first. "
            "Ties of one kind, alike long, share better."
        )
    return Found(
        figure=times(value / limit),
        detail=f"{write_number(value, 2)} g of {limit:g} g",
        held=value / limit,
        note=" ".join(notes),
        terms=tuple(terms),
        total=f"{teller.mass(value * tied.mass_kg)}, {write_number(value, 3)} times its "
        f"{teller.mass(tied.mass_kg)}",
        limit=f"{limit:g} times, {teller.mass(limit * tied.mass_kg)}",
    )


UNEVEN: Final = 0.9
"""Ties that hold less than this part of what each at its most would are told to share badly."""


def _aggregate(teller: Teller, finding: Finding) -> Found:
    tied, (value, limit) = teller.tied, _figures(finding)
    terms = []
    for rope in tied.own:
        may = tied.may[rope.tie.id] or 0.0
        part, words = (may / 2, "half of") if rope.tie.over is None else (may, "all of")
        name = f"{teller.called(rope.tie.id)}: {words} {teller.mass(may)}"
        terms.append(Term(name=name, amount=teller.mass(part)))
    return Found(
        figure=teller.mass(value),
        detail=f"of {teller.mass(limit)} asked",
        held=value / limit,
        terms=tuple(terms),
        total=teller.mass(value),
        limit=f"half of {teller.mass(tied.mass_kg)}, {teller.mass(limit)}",
    )


def _number(teller: Teller, finding: Finding) -> Found:
    tied, value, limit = teller.tied, int(finding.value or 0), int(finding.limit or 0)
    item = tied.item
    terms = [
        Term(name="length over all", amount=write_length(item.front_m + item.rear_m, teller.unit)),
        Term(name="mass", amount=teller.mass(tied.mass_kg)),
    ]
    if tied.securing.bulkhead:
        terms.append(Term(name="a headboard holds it forward", amount="yes"))
    return Found(
        figure=f"{value}",
        detail=f"of {limit} asked",
        note="" if finding.status is Status.OK else f"{limit - value} more.",
        terms=tuple(terms),
        total=f"{value} ties",
        limit=f"{limit}",
    )


def _corners(teller: Teller, finding: Finding) -> Found:
    value, ties, note = int(finding.value or 0), len(teller.tied.own), ""
    if finding.status is Status.NEAR:
        note = "A corner without a tie: when one fails, nothing opposite is left."
    elif finding.status is Status.OVER:
        few = {0: "Nothing ties it down.", 1: "One tie alone."}
        note = few.get(ties, "What stops it under braking pulls from one side only.")
    return Found(
        figure=f"{value}", detail="of 4 held", note=note, total=f"{value} corners", limit="4"
    )


def _without(teller: Teller, finding: Finding) -> Found:
    value, limit = _figures(finding)
    return Found(
        figure=times(value),
        detail="in the hardest direction",
        held=value,
        note="" if finding.status is Status.OK else f"Less than {write_percent(limit)} is left.",
        total=f"{write_number(value, 2)} times what is asked",
        limit=f"{limit:g} times, to be told",
    )


def _tip(teller: Teller, finding: Finding) -> Found:
    value, limit = _figures(finding)
    upright = "It would tip over untied: the ties have to hold it upright too."
    return Found(
        figure=f"{write_number(value, 2)} g",
        detail=f"of {limit:g} g",
        held=value / limit,
        note="" if finding.status is Status.OK else upright,
        total=f"{write_number(value, 2)} g",
        limit=f"{limit:g} g",
    )


def _load(teller: Teller, finding: Finding) -> Found:
    value, limit = _figures(finding)
    return Found(
        figure=teller.mass(value),
        detail=f"of {teller.mass(limit)}",
        note="More than it holds." if finding.status is Status.OVER else "",
        total=f"{teller.mass(value)} in the hardest direction",
        limit=teller.mass(limit),
    )


def _steep(teller: Teller, finding: Finding) -> Found:
    value, limit = _figures(finding)
    steepest = max(teller.tied.own, key=lambda rope: abs(rope.legs[0].z))
    flat = "Steeper than 60°: it holds little along the deck."
    return Found(
        figure=teller.called(steepest.tie.id),
        detail=f"{write_percent(value)} of it goes up and down",
        note=flat if finding.status is Status.NEAR else "",
        total=write_percent(value),
        limit=write_percent(limit),
    )


Source = Callable[[SecuringSchool, UnitSystem], str]


@dataclass(frozen=True, kw_only=True, slots=True)
class Family:
    """What is said of the findings of one family: what they are about, what is told of a value,
    where the limit is from."""

    label: str
    tell: Callable[[Teller, Finding], Found]
    source: Source


def _said(words: str) -> Source:
    """A source that is the same for every school."""
    return lambda school, unit: words


def _number_source(school: SecuringSchool, unit: UnitSystem) -> str:
    if school is SecuringSchool.EN_12195:
        return "Four by the metric rule. Common practice, no source."
    light, heavy = write_mass(LIGHT_KG, unit), write_mass(HEAVY_KG, unit)
    five, ten = (write_length(one, unit, step=1) for one in (FIVE_FEET_M, TEN_FEET_M))
    return (
        f"49 CFR 393.110 and 393.130, from memory: one up to {five} and {light}, two up to {ten}, "
        f"then one for each further {ten} or part; with a headboard that holds it one for each "
        f"{ten} or part; four for a machine of {heavy} or more on its own wheels or tracks."
    )


def _way_source(school: SecuringSchool, unit: UnitSystem) -> str:
    return f"{SCHOOLS[school]}: {SCHOOL_NOTES[school]}. {SHARING}"


PUSHED: Final = _said(
    "The pulls of all ties at it when everything is pushed as the rule says, added up, in the "
    "hardest direction."
)

_FAMILIES: Final = {
    "number": Family(label="Number of ties", tell=_number, source=_number_source),
    "corners": Family(
        label="Four corners",
        tell=_corners,
        source=_said(
            "Two ties forward and two rearward, one of each on either side: common practice, no "
            "source."
        ),
    ),
    "aggregate": Family(
        label="All ties together",
        tell=_aggregate,
        source=_said(
            "49 CFR 393.106, from memory: half of the limit of each direct tie and the whole of "
            "one that runs over the machine, against half its mass."
        ),
    ),
    **{name: Family(label=WAY_WORDS[name], tell=_way, source=_way_source) for name in WAYS},
    "up": Family(
        label=WAY_WORDS["up"],
        tell=_way,
        source=_said(f"{UP_LIMIT:g} g upward: 49 CFR 393.102(b), from memory. {SHARING}"),
    ),
    "without": Family(
        label="If {} fails",
        tell=_without,
        source=_said(
            "One tie left out, the same arithmetic, the worst of the four level directions. "
            "Common practice, no source."
        ),
    ),
    "tip": Family(
        label="{}",
        tell=_tip,
        source=_said(
            "Statics, untied: how far its footing reaches beyond its balance point, over how high "
            "that is. Common practice, no source."
        ),
    ),
    "anchor": Family(label="Anchor {}", tell=_load, source=PUSHED),
    "point": Family(label="Point {}", tell=_load, source=PUSHED),
    "steep": Family(label="Steepest tie", tell=_steep, source=_said("Common practice, no source.")),
}
