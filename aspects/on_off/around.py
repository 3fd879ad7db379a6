"""What stands around the climb: ramps against wheels, gate and rails, which way round, a winch."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Final

from book.figures import part_mass_kg, parts_on
from book.models import MachinePart
from hauls.climbs import COARSE, clear_by_usual, verdict
from hauls.drafting import tape_steps
from hauls.loads import linked_loads
from hauls.models import Haul
from measures.writing import (
    UnitSystem,
    write_inches,
    write_length,
    write_mass,
    write_number,
    write_percent,
)
from mechanics.checks import Status, worst
from mechanics.errors import InputError
from mechanics.item import Facing, Item
from mechanics.loading import Finding, Subject, Way, way
from mechanics.plan import Plan
from mechanics.report import Report, evaluate
from mechanics.standing import stood_turned
from mechanics.tail import RampKind
from mechanics.units import M_PER_IN
from planfile.climbing import Tread
from planfile.draft import Draft
from wording.phrases import some_inches, tongue_word


@dataclass(frozen=True, kw_only=True, slots=True)
class Fact:
    """One thing said beside the findings, with its status."""

    label: str
    words: str
    status: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Round:
    """One way round: what the way on, the mark and the road come to."""

    facing: str
    now: bool
    best: bool
    way: str
    road: str
    tongue: str
    hold: str
    uphill: str
    clears: str
    share: str
    place: str
    sight: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Around:
    """Everything beside the climb itself."""

    facts: tuple[Fact, ...]
    rounds: tuple[Round, ...]
    advice: str
    reasons: tuple[str, ...]


def around(haul: Haul, draft: Draft, plan: Plan, index: int, now: Way, unit: UnitSystem) -> Around:
    """What is said around one machine's way."""
    rounds, advice = _rounds(draft, plan, index, now, unit)
    return Around(
        facts=tuple(_facts(haul, draft, plan, index, now, unit)),
        rounds=rounds,
        advice=advice,
        reasons=REASONS,
    )


# --- facts ---


def _facts(
    haul: Haul, draft: Draft, plan: Plan, index: int, now: Way, unit: UnitSystem
) -> Iterator[Fact]:
    item = plan.items[index]
    yield from _raised(haul, plan, index, now, unit)
    yield _spacing(draft, plan, item, draft.treads[index], unit)
    yield from _fenders(draft, plan, item, unit)
    yield from _closing(draft, plan, item, unit)
    yield from _over_front(plan, item, unit)


RAISED_M: Final = 48 * M_PER_IN
"""How much higher a loader is carried when it is up: 4 ft. Common practice, no source."""

LIFTED: Final = (
    MachinePart.Kind.LOADER,
    MachinePart.Kind.BUCKET,
    MachinePart.Kind.FORKS,
    MachinePart.Kind.GRAPPLE,
)
"""Parts that go up with the loader."""


def _raised(haul: Haul, plan: Plan, index: int, now: Way, unit: UnitSystem) -> Iterator[Fact]:
    """What carrying the loader up does to the uphill wheels."""
    item = plan.items[index]
    load = linked_loads(haul).get(item.id)
    tip = now.finding(Subject.TIP)
    if load is None or load.machine is None or tip is None or tip.value is None:
        return
    on = parts_on(load.machine, load.configuration)
    goes_up = sum(part_mass_kg(part) or 0.0 for part in on if part.kind in LIFTED)
    height = item.cg.height_m
    if not goes_up or height is None:
        return
    higher = height + RAISED_M * min(goes_up / item.mass_kg, 1.0)
    cg = replace(item.cg, height_m=higher)
    items = tuple(replace(one, cg=cg) if n == index else one for n, one in enumerate(plan.items))
    then = way(plan.carrying(items), index, stations=COARSE).finding(Subject.TIP)
    if then is None or then.value is None:
        return
    words = (
        f"Low as it is reckoned, {write_percent(tip.value)} of it stays on the uphill wheels; with "
        f"the loader {write_length(RAISED_M, unit, step=1)} higher it is "
        f"{write_percent(max(then.value, 0.0))}. Carry it low once the bucket clears."
    )
    yield Fact(label="Loader up or down", words=words, status=then.status.value)


def _spacing(draft: Draft, plan: Plan, item: Item, tread: Tread, unit: UnitSystem) -> Fact:
    """Whether the wheels find room on the ramps, and how far apart to set those."""
    ramp, ramps = plan.trailer.ramp, draft.ramps
    kind = None if ramp is None else ramp.kind
    if kind is RampKind.TILT:
        return _width(item, plan.trailer.deck.width_m, "deck", unit)
    if kind is RampKind.GATE:
        return _width(item, ramps.width_m or plan.trailer.deck.width_m, "gate", unit)
    lacks = [
        words
        for words, value in (
            ("width of one ramp", ramps.width_m),
            ("how far apart the ramps go", ramps.narrowest_m or ramps.widest_m),
            (f"track of {item.called}", tread.track_m),
            ("width of its tires", tread.tire_m),
        )
        if value is None
    ]
    if lacks:
        return Fact(
            label="Wheels on the ramps",
            words=f"Cannot say without {', '.join(lacks)}.",
            status=Status.UNKNOWN.value,
        )
    track, tire, wide = tread.track_m or 0.0, tread.tire_m or 0.0, ramps.width_m or 0.0
    close = ramps.narrowest_m or ramps.widest_m or 0.0
    far = ramps.widest_m or close
    apart = min(max(track, close), far)
    spare = (wide - tire - abs(track - apart)) / 2
    setting = f"{write_inches(apart, unit)} apart, middle to middle"
    if spare < 0:
        return Fact(
            label="Wheels on the ramps",
            words=f"Its wheels run {write_inches(track, unit)} apart; even with the ramps "
            f"{setting}, its tires hang over by {some_inches(-spare, unit)} on each side.",
            status=Status.OVER.value,
        )
    return Fact(
        label="Wheels on the ramps",
        words=f"Set the ramps {setting}, and pin them: {some_inches(spare, unit)} to spare on "
        "each side of a tire.",
        status=Status.OK.value,
    )


def _width(item: Item, wide: float | None, name: str, unit: UnitSystem) -> Fact:
    """A machine's width against a gate or deck that it drives over."""
    label = f"Width on the {name}"
    if wide is None or item.width_m is None:
        return Fact(
            label=label,
            words=f"Cannot say without the width of {item.called} and of the {name}.",
            status=Status.UNKNOWN.value,
        )
    spare = wide - item.width_m
    if spare < 0:
        return Fact(
            label=label,
            words=f"It is {write_inches(item.width_m, unit)} wide and the {name} "
            f"{write_inches(wide, unit)}: {some_inches(-spare, unit)} too much.",
            status=Status.OVER.value,
        )
    return Fact(
        label=label,
        words=f"{some_inches(spare / 2, unit)} to spare on each side.",
        status=Status.OK.value,
    )


def _fenders(draft: Draft, plan: Plan, item: Item, unit: UnitSystem) -> Iterator[Fact]:
    """Whether it passes between fenders, or over them."""
    deck, fenders = plan.trailer.deck.width_m, draft.look.fenders
    if deck is None or item.width_m is None or item.width_m <= deck or not fenders:
        return
    words = {
        "beside": f"It is {some_inches(item.width_m - deck, unit)} wider than the deck: it does "
        "not pass between the fenders.",
        "drive_over": "Wider than the deck: its tires run over the fenders, which are made for it.",
    }.get(fenders)
    if words is not None:
        status = Status.OVER if fenders == "beside" else Status.OK
        yield Fact(label="Fenders", words=words, status=status.value)


def _closing(draft: Draft, plan: Plan, item: Item, unit: UnitSystem) -> Iterator[Fact]:
    """Whether what stands up at the tail on the road closes behind it at its mark."""
    ramp = plan.trailer.ramp
    if not draft.ramps.upright or ramp is None:
        return
    last = max(plan.items, key=lambda i: i.rearmost_m)
    if last is not item:
        return
    name = "gate" if ramp.kind is RampKind.GATE else "ramps"
    past = item.rearmost_m - plan.trailer.deck.length_m
    label = f"{name.capitalize()} behind it"
    verb = "closes" if name == "gate" else "stand up"
    if past > 0:
        yield Fact(
            label=label,
            words=f"At its mark it reaches {some_inches(past, unit)} past the tail: the {name} "
            f"{'does not close' if name == 'gate' else 'do not stand up'}.",
            status=Status.OVER.value,
        )
        return
    yield Fact(
        label=label,
        words=f"The {name} {verb} behind it with {some_inches(-past, unit)} to spare. Hydraulics "
        "sag: whatever is held up rests on it by morning.",
        status=Status.OK.value,
    )


def _over_front(plan: Plan, item: Item, unit: UnitSystem) -> Iterator[Fact]:
    """A bucket or boom over the headboard."""
    over = -item.foremost_m
    if over <= 0:
        return
    allowed = plan.trailer.deck.front_overhang_m
    end = "bucket or boom" if item.placement.facing is Facing.FORWARD else "rear end"
    words = (
        f"At its mark its {end} reaches {some_inches(over, unit)} over the headboard. Carry it "
        "higher than that on the way; when hydraulics sag it rests there, and on whatever is "
        "below."
    )
    status = Status.OK if over <= allowed + 1e-9 else Status.OVER
    yield Fact(label="Over the headboard", words=words, status=status.value)


# --- which way round ---

SIGHT: Final = {
    Facing.FORWARD: "ahead; the ramps lie behind you",
    Facing.BACKWARD: "over the shoulder, with a guide who stands clear",
}
"""What whoever drives sees."""


def _rounds(
    draft: Draft, plan: Plan, index: int, now: Way, unit: UnitSystem
) -> tuple[tuple[Round, ...], str]:
    """Both ways round, and which one is better for what reason."""
    item = plan.items[index]
    try:
        other = stood_turned(plan, index, tape_steps(draft))
        tried = way(other, index, stations=COARSE)
    except InputError:
        return (), ""
    if tried.path is None or now.path is None:
        return (), ""
    pairs = [(plan, now, evaluate(plan)), (other, tried, evaluate(other))]
    ranks = [_rank(one, report) for _, one, report in pairs]
    best = 0 if ranks[0] <= ranks[1] else 1
    rows = tuple(
        _round(
            of,
            index,
            one,
            report,
            unit,
            said=verdict(one, clear_by_usual(of, draft, index)),
            now=n == 0,
            best=n == best,
        )
        for n, (of, one, report) in enumerate(pairs)
    )
    return rows, _advice(item, pairs, ranks, best, unit)


Rank = tuple[int, int, float, int, float]


def _rank(one: Way, report: Report) -> Rank:
    """The worse the higher: what is over on the way and on the road, then how far it slides, then
    what is near, then the hold."""
    statuses = [f.status for f in one.findings if f.subject is not Subject.TONGUE]
    hold = one.finding(Subject.HOLD)
    held = 0.0 if hold is None or hold.value is None else hold.value
    return (
        sum(s is Status.OVER for s in statuses)
        + sum(c.status is Status.OVER for c in report.checks),
        worst(report.checks).severity,
        -min(held, 1.0),
        sum(s is Status.NEAR for s in statuses),
        -held,
    )


def _round(
    plan: Plan,
    index: int,
    one: Way,
    report: Report,
    unit: UnitSystem,
    *,
    said: Status,
    now: bool,
    best: bool,
) -> Round:
    item = plan.items[index]
    path = one.path
    if path is None:
        raise ValueError("a way that cannot be said has no row")
    held, tip, gap = (one.finding(s) for s in (Subject.HOLD, Subject.TIP, Subject.CLEARANCE))
    low = path.lowest.tongue_kg
    hold = "" if held is None or held.value is None else f"{write_number(held.value, 2)} times"
    return Round(
        facing="Drive on forward" if item.placement.facing is Facing.FORWARD else "Back on",
        now=now,
        best=best,
        way=said.value,
        road=report.verdict.value,
        tongue=f"{'lifts by' if low < 0 else 'keeps'} {write_mass(abs(low), unit)}",
        hold=hold or "nothing pushes",
        uphill="" if tip is None or tip.value is None else write_percent(tip.value),
        clears="cannot say"
        if gap is None or gap.value is None
        else f"scrapes by {some_inches(-gap.value, unit)}"
        if gap.value < 0
        else f"{some_inches(gap.value, unit)} to spare",
        share=write_percent(report.loads.trailer.share),
        place=write_length(item.placement.reference_m, unit),
        sight=SIGHT[item.placement.facing],
    )


ALIKE: Final = 0.1
"""Two holds nearer to each other than this are alike to a person."""

Pair = tuple[Plan, Way, Report]


def _advice(
    item: Item,
    pairs: list[Pair],
    ranks: list[Rank],
    best: int,
    unit: UnitSystem,
) -> str:
    """Which way round is better, and why."""
    plan, _, report = pairs[best]
    _, bad, other = pairs[1 - best]
    name = plan.items[[i.id for i in plan.items].index(item.id)].placement.facing
    way_on = "forward" if name is Facing.FORWARD else "backward"
    if ranks[0][:4] == ranks[1][:4] and abs(ranks[0][4] - ranks[1][4]) < ALIKE:
        return "Both ways round do alike: go by what you see from the seat."
    first, second = ranks[best], ranks[1 - best]
    word = tongue_word(plan.hitch.type)
    if first[:2] < second[:2]:
        wrong = next((f for f in bad.findings if f.status is Status.OVER), None)
        road_over = other.verdict.severity > report.verdict.severity
        reason = (
            "the other way round it cannot stand right for the road"
            if road_over
            else f"the other way round {_why(wrong)}"
        )
    elif first[2] < second[2]:
        reason = "both ways it slides, this way less"
    elif first[3] < second[3]:
        reason = "it leaves more in reserve along the way"
    else:
        reason = f"the outfit holds better while the {word} is light"
    return f"Better {way_on}: {reason}."


def _why(finding: Finding | None) -> str:
    """What goes wrong, in the middle of a sentence."""
    if finding is None:
        return MORE_WRONG
    return {
        Subject.HOLD: "the outfit slides",
        Subject.TRUCK_REAR: "the truck's rear wheels lift",
        Subject.CLEARANCE: "it scrapes",
        Subject.TIP: "it tips over backwards",
        Subject.RAMP: "the ramps carry too much",
        Subject.STAND: "the stands carry too much",
        Subject.BED: "the bed lifts",
        Subject.TILT: "the deck stays down",
    }.get(finding.subject, MORE_WRONG)


MORE_WRONG: Final = "more goes wrong on the way"

REASONS: Final = (
    "Heavy end uphill: a machine with a heavy tail is steadier backed on.",
    "The balance point has to end where the tongue wants it; gate, bucket and implement have to "
    "fit at that mark.",
    "A skid steer with its heavy rear often has to go on the other way than is comfortable.",
    "Off again is the same way backwards: what is forward on is backward off.",
)
"""Why practitioners turn a machine round. Common practice, no source."""
