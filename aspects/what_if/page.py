"""Two to four ways of one haul side by side: verdict, tightest limits, windows on one scale."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Final

from book.errors import IncompleteError
from book.models import Configuration, Hitch, Trailer
from hauls.loads import linked_loads
from hauls.models import Haul
from hauls.pairs import pairs_of
from hauls.variants import Otherwise, change_names, otherwise
from measures.marks import write_place
from measures.writing import UnitSystem, write_inches, write_mass, write_percent
from mechanics.checks import Check, Status
from mechanics.errors import MechanicsError
from mechanics.limits import Quantity
from mechanics.report import Report, evaluate
from mechanics.rules import TongueSchool
from pictures.drawing import Drawing, plain_picture
from pictures.tapes import Band, bands
from planfile.draft import Draft
from planfile.errors import PlanFileError
from wording.limits import label
from wording.phrases import Names, begun, names_of
from wording.schools import SCHOOL_LABELS, school_label
from wording.sentences import summary
from wording.statuses import STATUS_WORDS, verdict_of
from yards.models import Yard

VARIANTS: Final = 3
"""Ways beside the haul as it is."""

SCHOOLS: Final = tuple(s for s in TongueSchool if s is not TongueSchool.CUSTOM)
"""Schools that have a name; a yard's own numbers are none."""

LIMITS_SHOWN: Final = 3
SCALE_WIDTH: Final = 300
SCALE_BAR: Final = 12
INSET: Final = 1
"""Room at the left of the scale for a mark at the headboard."""


@dataclass(frozen=True, kw_only=True)
class Box:
    """One choice of a variant: its name, its options, what is chosen."""

    name: str
    label: str
    options: list[tuple[str, str]]
    value: str


@dataclass(frozen=True, kw_only=True)
class AskedVariant:
    """One way asked for: its boxes, and what they come to; ``None`` where all are empty."""

    number: int
    boxes: list[Box]
    change: Otherwise | None
    wrong: str = ""


@dataclass(frozen=True, kw_only=True, slots=True)
class LimitCell:
    """One of the tightest limits of a way."""

    name: str
    figure: str
    status: str


@dataclass(frozen=True, kw_only=True, slots=True)
class WindowRow:
    """One item's windows on the scale that all ways share."""

    name: str
    place: str
    sure: str
    windows: list[Band]
    sures: list[Band]
    mark_x: float


@dataclass(frozen=True, kw_only=True)
class Column:
    """One way, computed."""

    heading: str
    status: str
    word: str
    line: str
    picture: Drawing | None = None
    tongue: str = ""
    limits: list[LimitCell] = field(default_factory=list)
    windows: list[WindowRow] = field(default_factory=list)
    deck_width: float = 0.0
    school: str = ""


def read_variants(sent: Mapping[str, str], haul: Haul, yard: Yard) -> list[AskedVariant]:
    """The ways asked for in the address: ``v1_outfit``, ``v1_with``, ``v1_facing`` and so on."""
    outfits = {}
    if haul.hitch_id is not None:
        outfits = {f"{h.pk}-{t.pk}": (h, t) for h, t in pairs_of(yard)}
    loads = linked_loads(haul)
    ways: dict[str, tuple[str, Configuration]] = {}
    for item_id, load in loads.items():
        if load.machine is None:
            continue
        for configuration in load.machine.configurations.select_related("machine__yard"):
            ways[f"{item_id}-{configuration.pk}"] = (item_id, configuration)
    names = names_of(haul.draft.plan)
    return [_read_variant(sent, n, outfits, ways, names, haul) for n in range(1, VARIANTS + 1)]


def _read_variant(
    sent: Mapping[str, str],
    number: int,
    outfits: dict[str, tuple[Hitch, Trailer]],
    ways: dict[str, tuple[str, Configuration]],
    names: Names,
    haul: Haul,
) -> AskedVariant:
    def chosen(name: str, allowed: Sequence[str]) -> str:
        value = str(sent.get(f"v{number}_{name}", ""))
        return value if value in allowed else ""

    outfit = chosen("outfit", list(outfits))
    configuration = chosen("with", list(ways))
    turned = chosen("turned", list(names))
    school = chosen("school", [s.value for s in SCHOOLS])
    best = chosen("best", ["1"])
    boxes = [
        Box(
            name=f"v{number}_outfit",
            label="Truck and trailer",
            options=[
                (key, f"{hitch}, {trailer.name}") for key, (hitch, trailer) in outfits.items()
            ],
            value=outfit,
        ),
        Box(
            name=f"v{number}_with",
            label="Configuration",
            options=[(key, str(way)) for key, (_, way) in ways.items()],
            value=configuration,
        ),
        Box(
            name=f"v{number}_turned",
            label="Turned round",
            options=list(names.items()),
            value=turned,
        ),
        Box(
            name=f"v{number}_school",
            label="Rule of share",
            options=[(s.value, SCHOOL_LABELS[s]) for s in SCHOOLS],
            value=school,
        ),
        Box(
            name=f"v{number}_best",
            label="Places",
            options=[("1", "arranged anew")],
            value=best,
        ),
    ]
    change = None
    if outfit or configuration or turned or school or best:
        hitch, trailer = outfits.get(outfit, (None, None))
        change = Otherwise(
            hitch=hitch,
            trailer=trailer if trailer is None or trailer.pk != haul.trailer_id else None,
            configurations=dict([ways[configuration]]) if configuration else {},
            turned=frozenset({turned}) if turned else frozenset(),
            school=TongueSchool(school) if school else None,
            best=bool(best),
        )
    return AskedVariant(number=number, boxes=[b for b in boxes if b.options], change=change)


def compare(haul: Haul, asked: Sequence[AskedVariant], unit: UnitSystem) -> list[Column]:
    """The haul as it is, and each way asked for, on one scale."""
    computed: list[tuple[str, Draft | None, str]] = [("As it is", haul.draft, "")]
    for variant in asked:
        if variant.change is None:
            continue
        heading = _heading(haul, variant.change)
        try:
            draft = otherwise(haul, variant.change)
            evaluate(draft.plan)
        except IncompleteError as error:
            computed.append((heading, None, f"{error}."))
        except (PlanFileError, MechanicsError) as error:
            computed.append((heading, None, f"The figures do not fit together. {error}."))
        else:
            computed.append((heading or "The same", draft, ""))
    longest = max(d.plan.trailer.deck.length_m for _, d, _ in computed if d is not None)
    scale = SCALE_WIDTH / longest
    unknown = Status.UNKNOWN
    return [
        Column(heading=heading, status=unknown.value, word=STATUS_WORDS[unknown], line=wrong)
        if draft is None
        else _column(heading, draft, scale, unit)
        for heading, draft, wrong in computed
    ]


def _heading(haul: Haul, change: Otherwise) -> str:
    heading = change_names(haul, change)
    if change.school is None:
        return heading
    school = f"{SCHOOL_LABELS[change.school]} rule"
    return f"{heading}, {school}" if heading else school


def _column(heading: str, draft: Draft, scale: float, unit: UnitSystem) -> Column:
    plan = draft.plan
    report = evaluate(plan)
    verdict = verdict_of(report)
    names = names_of(plan)
    trailer = report.loads.trailer
    return Column(
        heading=begun(heading),
        status=verdict.status.value,
        word=verdict.word,
        line=summary(report, names, unit),
        picture=plain_picture(plan, draft.drawn, draft.look, unit),
        tongue=f"{write_mass(trailer.tongue_kg, unit)}, {write_percent(trailer.share)}",
        limits=[_cell(check, names, unit) for check in _tightest(report)],
        windows=_windows(report, scale, unit),
        deck_width=plan.trailer.deck.length_m * scale,
        school=school_label(plan.rules.tongue, report),
    )


def _tightest(report: Report) -> list[Check]:
    known = [c for c in report.checks if c.quantity is Quantity.MASS and c.reserve is not None]
    return sorted(known, key=lambda c: c.reserve or 0.0)[:LIMITS_SHOWN]


def _cell(check: Check, names: Names, unit: UnitSystem) -> LimitCell:
    margin = check.margin or 0.0
    words = "left" if margin >= 0 else "over"
    return LimitCell(
        name=label(check.code, names, unit),
        figure=f"{write_mass(abs(margin), unit)} {words}",
        status=check.status.value,
    )


def _windows(report: Report, scale: float, unit: UnitSystem) -> list[WindowRow]:
    rows = []
    length = report.plan.trailer.deck.length_m
    for item, window in zip(report.plan.items, report.windows, strict=True):
        safe, sure = bands(
            window, lambda m: INSET + m * scale, INSET, INSET + length * scale, 2, SCALE_BAR
        )
        wide = sum(p.end_m - p.start_m for p in window.intervals)
        rows.append(
            WindowRow(
                name=item.called,
                place=write_place(item.placement.reference_m, unit),
                sure=f"window {write_inches(wide, unit)}, sure "
                + write_inches(sum(p.end_m - p.start_m for p in window.sure), unit)
                if window.intervals
                else "no place is right",
                windows=safe,
                sures=sure,
                mark_x=INSET + item.placement.reference_m * scale,
            )
        )
    return rows
