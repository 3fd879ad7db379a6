"""Words of tying down: each finding with its arithmetic and source, and what ties are called."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Final

from measures.writing import UnitSystem, write_length, write_mass, write_number, write_percent
from mechanics.checks import Status
from mechanics.plan import Plan
from mechanics.securing import Finding
from mechanics.securing.findings import HEAVY_KG, LEFT_OVER, LIGHT_KG, SPARE, STEEP, Tied
from mechanics.securing.hold import UP_LIMIT, WAYS, at_most, friction_of, ideal_kg, rubbing_kg
from mechanics.securing.rope import UP, Vector
from mechanics.ties import SecuringSchool, TieKind
from wording.arithmetic import Term, Why
from wording.inputs import missing_of

SCHOOLS: Final = {
    SecuringSchool.US_393: "US rule",
    SecuringSchool.STRICT: "stricter",
    SecuringSchool.EN_12195: "EN 12195-1",
}
"""What the rule that ties are held against is called."""

SCHOOL_NOTES: Final = {
    SecuringSchool.US_393: "limits of the gear against 0.435 g braking, 0.5 g pulling away, "
    "0.25 g to the sides (49 CFR 393.102(a), from memory)",
    SecuringSchool.STRICT: "limits of the gear against 0.8 g braking and 0.5 g else, friction not "
    "counted (common practice, no source)",
    SecuringSchool.EN_12195: "limits of the gear against 0.8 g braking and 0.5 g else, three "
    "quarters of the friction counted (EN 12195-1, from memory)",
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
    "its limit ends it. Chain and wire rope 1 % longer at their limit, webbing 5 %: assumptions."
)
"""How several ties share a push."""


@dataclass(frozen=True, kw_only=True, slots=True)
class FindingRow:
    """One check in the list: how many times what is asked is held, the figures behind that, a
    bar whose tick is what is asked, the arithmetic."""

    code: str
    label: str
    status: str
    figure: str
    detail: str
    bar: float
    note: str
    why: Why

    @property
    def has_bar(self) -> bool:
        """Whether it is a figure with a part to be filled."""
        return self.bar >= 0


TICK: Final = 41.0
"""Where along a bar of a hundred what is asked is marked."""


@dataclass(frozen=True, kw_only=True)
class Teller:
    """One item's ties in words: ``numbers`` are what ties are called by."""

    plan: Plan
    tied: Tied
    numbers: Mapping[str, int]
    unit: UnitSystem

    def row(self, finding: Finding) -> FindingRow:
        """The words of one finding."""
        family, _, which = finding.code.removeprefix("securing.").partition("_")
        if finding.status is Status.UNKNOWN:
            return self._unknown(finding, family, which)
        return _ROWS[family](self, finding, which)

    def labelled(self, family: str, which: str = "") -> str:
        """What findings of a family are about."""
        return _LABELS[family](self, which)

    def mass(self, kg: float) -> str:
        """A mass in the person's unit."""
        return write_mass(kg, self.unit)

    def called(self, tie_id: str) -> str:
        """What a tie is called: ``chain 3``."""
        kind = next(r.tie.kind for r in self.tied.own if r.tie.id == tie_id)
        return f"{KIND_WORDS[kind]} {self.numbers[tie_id]}"

    def _unknown(self, finding: Finding, family: str, which: str) -> FindingRow:
        lacking = list(missing_of(finding.missing, self.plan))
        return FindingRow(
            code=finding.code,
            label=self.labelled(family, which),
            status=finding.status.value,
            figure="cannot say",
            detail="",
            bar=-1.0,
            note=f"Not known: {', '.join(lacking)}.",
            why=Why(terms=[], total="cannot say", limit="", source=_SOURCES[family](self)),
        )


def times(ratio: float) -> str:
    """How many times what is asked is held: ``2.4 ×``; never ``1.0`` where it is less."""
    if ratio <= 0:
        return "0 ×"
    if ratio >= 1:
        return f"{write_number(ratio, 1)} ×"
    return f"{write_number(min(ratio, 0.99), 2)} ×"


def _filled(ratio: float) -> float:
    return min(100.0, max(0.0, TICK * ratio))


def _way(teller: Teller, finding: Finding, name: str) -> FindingRow:
    tied, way = teller.tied, UP if name == "up" else WAYS[name]
    value, limit = finding.value or 0.0, finding.limit or 1.0
    terms = [
        Term(
            name=f"{teller.called(pull.tie)}: {teller.mass(pull.pull_kg)}, "
            f"{write_percent(pull.part)} of it this way",
            amount=teller.mass(pull.pull_kg * pull.part),
        )
        for pull in at_most(tied.own, tied.may, way)
    ]
    mu = 0.0 if name == "up" else friction_of(tied.plan)
    if mu:
        rubs = rubbing_kg(tied.own, tied.mass_kg, mu)
        terms.append(Term(name=f"friction {write_number(mu, 2)}", amount=teller.mass(rubs)))
    return FindingRow(
        code=finding.code,
        label=WAY_WORDS[name],
        status=finding.status.value,
        figure=times(value / limit),
        detail=f"{write_number(value, 2)} g of {write_number(limit, 3).rstrip('0')} g",
        bar=_filled(value / limit),
        note=_way_note(teller, finding, terms, way),
        why=Why(
            terms=terms,
            total=f"{teller.mass(value * tied.mass_kg)}, {write_number(value, 3)} times its "
            f"{teller.mass(tied.mass_kg)}",
            limit=f"{write_number(limit, 3)} times, {teller.mass(limit * tied.mass_kg)}",
            source=_SOURCES["up" if name == "up" else "way"](teller),
        ),
    )


def _way_note(teller: Teller, finding: Finding, terms: list[Term], way: Vector) -> str:
    if not terms:
        return "No tie pulls against it."
    found = []
    if finding.status is Status.NEAR:
        found.append(f"Less than {SPARE:g} times what is asked.")
    tied = teller.tied
    pulls = at_most(tied.own, tied.may, way)
    held, ideal = sum(p.pull_kg * p.part for p in pulls), ideal_kg(tied.own, tied.may, way)
    if ideal is not None and held < UNEVEN * ideal:
        found.append(
            f"Each at its most they would hold {teller.mass(ideal)}: the stiffest gives first. "
            "Ties of one kind, alike long, share better."
        )
    return " ".join(found)


UNEVEN: Final = 0.9
"""Ties that hold less than this part of what each at its most would are told to share badly."""


def _aggregate(teller: Teller, finding: Finding, _: str) -> FindingRow:
    tied, value, limit = teller.tied, finding.value or 0.0, finding.limit or 1.0
    terms = []
    for rope in tied.own:
        may = tied.may[rope.tie.id] or 0.0
        direct = rope.tie.over is None
        terms.append(
            Term(
                name=f"{teller.called(rope.tie.id)}: {'half of ' if direct else 'all of '}"
                f"{teller.mass(may)}",
                amount=teller.mass(may / 2 if direct else may),
            )
        )
    return FindingRow(
        code=finding.code,
        label="All ties together",
        status=finding.status.value,
        figure=teller.mass(value),
        detail=f"of {teller.mass(limit)} asked",
        bar=_filled(value / limit),
        note="",
        why=Why(
            terms=terms,
            total=teller.mass(value),
            limit=f"half of {teller.mass(tied.mass_kg)}, {teller.mass(limit)}",
            source=_SOURCES["aggregate"](teller),
        ),
    )


def _number(teller: Teller, finding: Finding, _: str) -> FindingRow:
    tied, value, limit = teller.tied, int(finding.value or 0), int(finding.limit or 0)
    item = tied.item
    terms = [
        Term(name="length over all", amount=write_length(item.front_m + item.rear_m, teller.unit)),
        Term(name="mass", amount=teller.mass(tied.mass_kg)),
    ]
    if tied.securing.bulkhead:
        terms.append(Term(name="a headboard holds it forward", amount="yes"))
    return FindingRow(
        code=finding.code,
        label="Number of ties",
        status=finding.status.value,
        figure=f"{value}",
        detail=f"of {limit} asked",
        bar=-1.0,
        note="" if finding.status is Status.OK else f"{limit - value} more.",
        why=Why(
            terms=terms,
            total=f"{value} ties",
            limit=f"{limit}",
            source=_SOURCES["number"](teller),
        ),
    )


def _corners(teller: Teller, finding: Finding, _: str) -> FindingRow:
    value = int(finding.value or 0)
    note = ""
    if finding.status is Status.OVER:
        note = (
            "One tie alone."
            if len(teller.tied.own) < 2
            else "What stops it under braking pulls from one side only."
        )
        if not teller.tied.own:
            note = "Nothing ties it down."
    elif finding.status is Status.NEAR:
        note = "A corner without a tie: when one fails, nothing opposite is left."
    return FindingRow(
        code=finding.code,
        label="Four corners",
        status=finding.status.value,
        figure=f"{value}",
        detail="of 4 held",
        bar=-1.0,
        note=note,
        why=Why(terms=[], total=f"{value} corners", limit="4", source=_SOURCES["corners"](teller)),
    )


def _without(teller: Teller, finding: Finding, which: str) -> FindingRow:
    value = finding.value or 0.0
    note = "" if finding.status is Status.OK else f"Less than {write_percent(LEFT_OVER)} is left."
    return FindingRow(
        code=finding.code,
        label=f"If {teller.called(which)} fails",
        status=finding.status.value,
        figure=times(value),
        detail="in the hardest direction",
        bar=_filled(value),
        note=note,
        why=Why(
            terms=[],
            total=f"{write_number(value, 2)} times what is asked",
            limit=f"{LEFT_OVER:g} times, to be told",
            source=_SOURCES["without"](teller),
        ),
    )


def _tip(teller: Teller, finding: Finding, which: str) -> FindingRow:
    value, limit = finding.value or 0.0, finding.limit or 1.0
    near = finding.status is not Status.OK
    return FindingRow(
        code=finding.code,
        label=teller.labelled("tip", which),
        status=finding.status.value,
        figure=f"{write_number(value, 2)} g",
        detail=f"of {write_number(limit, 3).rstrip('0')} g",
        bar=_filled(value / limit),
        note="It would tip over untied: the ties have to hold it upright too." if near else "",
        why=Why(
            terms=[],
            total=f"{write_number(value, 2)} g",
            limit=f"{write_number(limit, 3)} g",
            source=_SOURCES["tip"](teller),
        ),
    )


def _load(teller: Teller, finding: Finding, which: str, family: str) -> FindingRow:
    value, limit = finding.value or 0.0, finding.limit or 1.0
    return FindingRow(
        code=finding.code,
        label=teller.labelled(family, which),
        status=finding.status.value,
        figure=teller.mass(value),
        detail=f"of {teller.mass(limit)}",
        bar=-1.0,
        note="More than it holds." if finding.status is Status.OVER else "",
        why=Why(
            terms=[],
            total=f"{teller.mass(value)} in the hardest direction",
            limit=teller.mass(limit),
            source=_SOURCES[family](teller),
        ),
    )


def _steep(teller: Teller, finding: Finding, _: str) -> FindingRow:
    value = finding.value or 0.0
    steepest = max(teller.tied.own, key=lambda rope: abs(rope.legs[0].z))
    return FindingRow(
        code=finding.code,
        label="Steepest tie",
        status=finding.status.value,
        figure=teller.called(steepest.tie.id),
        detail=f"{write_percent(value)} of it goes up and down",
        bar=-1.0,
        note="Steeper than 60°: it holds little along the deck."
        if finding.status is Status.NEAR
        else "",
        why=Why(
            terms=[],
            total=write_percent(value),
            limit=write_percent(STEEP),
            source=_SOURCES["steep"](teller),
        ),
    )


def _direction(name: str) -> Callable[[Teller, Finding, str], FindingRow]:
    def row(teller: Teller, finding: Finding, _: str) -> FindingRow:
        return _way(teller, finding, name)

    return row


_ROWS: Final[dict[str, Callable[[Teller, Finding, str], FindingRow]]] = {
    "number": _number,
    "corners": _corners,
    "aggregate": _aggregate,
    **{name: _direction(name) for name in WAY_WORDS},
    "without": _without,
    "tip": _tip,
    "anchor": lambda teller, finding, which: _load(teller, finding, which, "anchor"),
    "point": lambda teller, finding, which: _load(teller, finding, which, "point"),
    "steep": _steep,
}

_LABELS: Final[dict[str, Callable[[Teller, str], str]]] = {
    "number": lambda teller, which: "Number of ties",
    "corners": lambda teller, which: "Four corners",
    "aggregate": lambda teller, which: "All ties together",
    "forward": lambda teller, which: WAY_WORDS["forward"],
    "rearward": lambda teller, which: WAY_WORDS["rearward"],
    "left": lambda teller, which: WAY_WORDS["left"],
    "right": lambda teller, which: WAY_WORDS["right"],
    "up": lambda teller, which: WAY_WORDS["up"],
    "without": lambda teller, which: f"If {teller.called(which)} fails",
    "tip": lambda teller, which: TIP_WORDS[which],
    "anchor": lambda teller, which: f"Anchor {which}",
    "point": lambda teller, which: f"Point {which}",
    "steep": lambda teller, which: "Steepest tie",
}


def _number_source(teller: Teller) -> str:
    if teller.tied.securing.school is SecuringSchool.EN_12195:
        return "Four by the metric school. Common practice, no source."
    light, heavy, five, ten = (
        teller.mass(LIGHT_KG),
        teller.mass(HEAVY_KG),
        write_length(1.524, teller.unit, step=1),
        write_length(3.048, teller.unit, step=1),
    )
    return (
        f"49 CFR 393.110 and 393.130, from memory: one up to {five} and {light}, two up to {ten}, "
        f"then one for each further {ten} or part; with a headboard that holds it one for each "
        f"{ten} or part; four for a machine of {heavy} or more on its own wheels or tracks."
    )


def _way_source(teller: Teller) -> str:
    school = teller.tied.securing.school
    return f"{SCHOOLS[school]}: {SCHOOL_NOTES[school]}. {SHARING}"


_SOURCES: Final[dict[str, Callable[[Teller], str]]] = {
    "number": _number_source,
    "corners": lambda teller: (
        "Two ties forward and two rearward, one of each on either side: common practice, no source."
    ),
    "aggregate": lambda teller: (
        "49 CFR 393.106, from memory: half of the limit of each direct "
        "tie and the whole of one that runs over the machine, against half its mass."
    ),
    "way": _way_source,
    **dict.fromkeys(WAYS, _way_source),
    "up": lambda teller: (
        f"{write_number(UP_LIMIT, 1)} g upward: 49 CFR 393.102(b), from memory. " + SHARING
    ),
    "without": lambda teller: (
        "One tie left out, the same arithmetic, the worst of the four level "
        "directions. Common practice, no source."
    ),
    "tip": lambda teller: (
        "Statics, untied: how far its footing reaches beyond its balance point, "
        "over how high that is. Common practice, no source."
    ),
    "anchor": lambda teller: (
        "The pulls of all ties at it when everything is pushed as the rule "
        "says, added up, in the hardest direction."
    ),
    "point": lambda teller: (
        "The pulls of all ties at it when the machine is pushed as the rule "
        "says, added up, in the hardest direction."
    ),
    "steep": lambda teller: "Common practice, no source.",
}
