"""What would hold it: each measure tried out on the haul, and told by what it would give."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Final

import msgspec

from book.errors import IncompleteError
from book.models import Configuration
from hauls.climbs import COARSE, climb_of, driven
from hauls.drafting import tape_steps
from hauls.loads import linked_loads
from hauls.models import Haul
from hauls.store import reconfigure, save_haul
from hauls.variants import Otherwise, otherwise
from measures.writing import UnitSystem, write_mass, write_number
from mechanics.checks import Status
from mechanics.errors import InputError
from mechanics.item import Item
from mechanics.loading import Subject, Way, way
from mechanics.loading.blocks import foot_rise_that_clears
from mechanics.placing import traded
from mechanics.plan import Plan
from mechanics.report import evaluate
from mechanics.standing import stood_turned
from mechanics.truck import Drive
from planfile.climbing import Place
from planfile.draft import Draft
from planfile.errors import PlanFileError
from wording.loading import LEVEL
from wording.phrases import tongue_word
from wording.statuses import STATUS_WORDS
from yards.models import User

SHOWN_HOLD: Final = 3.0
"""Hold at which a measure's bar is full."""

WORTH: Final = 0.02
"""A figure that becomes better by less than this part of itself is the same."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Measure:
    """Something to be done, in order of effort; ``made`` gives the haul with it done.

    ``note`` says what it asks for. What makes ``None`` has nothing to do here. With a
    ``configuration`` the machine's link to the book changes too.
    """

    code: str
    title: str
    note: str
    made: Callable[[Draft, Place, int], Draft | None]
    configuration: Configuration | None = None


@dataclass(frozen=True, kw_only=True, slots=True)
class Offered:
    """A measure with what it would give. ``bar`` is how full its bar is, ``tick`` where one
    times the push stands on it, both from 0 to 100."""

    code: str
    title: str
    note: str
    status: str
    word: str
    hold: str
    tongue: str
    also: str
    bar: float
    tick: float
    helps: bool


def _site(**changed: object) -> Callable[[Draft, Place, int], Draft | None]:
    def made(draft: Draft, place: Place, index: int) -> Draft | None:
        site = draft.site(place)
        return draft.with_site(msgspec.structs.replace(site, **changed), place)

    return made


def _brake(draft: Draft, place: Place, index: int) -> Draft | None:
    if draft.site(place).parking_brake:
        return None
    return _site(parking_brake=True)(draft, place, index)


def _four_wheel(draft: Draft, place: Place, index: int) -> Draft | None:
    if draft.site(place).park_four_wheel or draft.plan.truck.drive is not Drive.FOUR_WHEEL:
        return None
    return _site(park_four_wheel=True)(draft, place, index)


def _chocks(draft: Draft, place: Place, index: int) -> Draft | None:
    every = list(range(1, len(draft.plan.trailer.axles) + 1))
    if draft.site(place).held_trailer_axles == every:
        return None
    return _site(held_trailer_axles=every)(draft, place, index)


def _stands(draft: Draft, place: Place, index: int) -> Draft | None:
    if draft.plan.trailer.stands is None or draft.site(place).stands_down:
        return None
    return _site(stands_down=True)(draft, place, index)


def _blocks(draft: Draft, place: Place, index: int) -> Draft | None:
    rise = foot_rise_that_clears(draft.plan_at(place), index)
    if rise is None:
        return None
    return _site(foot_rise=draft.units.metres(rise))(draft, place, index)


def _level(draft: Draft, place: Place, index: int) -> Draft | None:
    if abs(draft.site(place).slope) < LEVEL:
        return None
    return _site(slope=0)(draft, place, index)


def _uphill(draft: Draft, place: Place, index: int) -> Draft | None:
    slope = draft.site(place).slope
    if slope > -LEVEL:
        return None
    return _site(slope=-slope)(draft, place, index)


def _turn(draft: Draft, place: Place, index: int) -> Draft | None:
    return draft.stood(stood_turned(draft.plan, index, tape_steps(draft)))


def _last(draft: Draft, place: Place, index: int) -> Draft | None:
    """Trade places until nothing stands behind it; with loads on top of each other, or out of
    room, that may never be so."""
    plan = draft.plan
    for _ in plan.items:
        if not _behind(plan, index):
            break
        plan = traded(plan, index, ahead=False)
    return None if plan == draft.plan or _behind(plan, index) else draft.stood(plan)


def _behind(plan: Plan, index: int) -> bool:
    """Whether another load begins behind where one begins."""
    here = plan.items[index].foremost_m
    return any(item.foremost_m >= here for item in _others(plan, index))


def _others(plan: Plan, index: int) -> list[Item]:
    return [item for n, item in enumerate(plan.items) if n != index]


def _order(draft: Draft, place: Place, index: int) -> Draft | None:
    """The neighbours that trade places so that the worst of all ways becomes the best it can."""
    if len(driven(draft)) < 2:
        return None
    best, found = climb_of(draft, place).rank, None
    plan = draft.plan
    for n, item in enumerate(plan.items):
        if not any(i.foremost_m >= item.foremost_m for i in _others(plan, n)):
            continue
        tried = draft.stood(traded(plan, n, ahead=False))
        rank = climb_of(tried, place).rank
        if rank < best:
            best, found = rank, tried
    return found


def order_words(plan: Plan) -> str:
    """In which order the machines stand: ``tractor first, then roller``."""
    names = [item.called for item in sorted(plan.items, key=lambda i: i.foremost_m)]
    return f"{names[0]} first, then {', '.join(names[1:])}"


MEASURES: Final = (
    Measure(code="brake", title="Set the parking brake", note="", made=_brake),
    Measure(
        code="four_wheel",
        title="Engage four-wheel drive",
        note="in park or in gear, besides the brake",
        made=_four_wheel,
    ),
    Measure(
        code="chocks",
        title="Chock the trailer's wheels",
        note="every axle, on the downhill side",
        made=_chocks,
    ),
    Measure(code="stands", title="Drop the stands", note="before the machine comes", made=_stands),
    Measure(code="blocks", title="Blocks or a bank under the foot", note="", made=_blocks),
    Measure(code="level", title="Move to level ground", note="", made=_level),
    Measure(code="uphill", title="Turn the truck uphill", note="", made=_uphill),
    Measure(code="turn", title="Turn the machine round", note="", made=_turn),
)
"""What can be done with the machine as it is, in order of effort."""

ORDERS: Final = (
    Measure(code="last", title="Put it on last", note="with the others ahead of it", made=_last),
    Measure(code="order", title="Load them in a gentler order", note="", made=_order),
)
"""What can be done with several."""


def measures_for(haul: Haul, item_id: str) -> tuple[Measure, ...]:
    """Every measure that there is for a machine of a haul, in order of effort."""
    return (*MEASURES, *configured(haul, item_id), *ORDERS)


def measure_of(haul: Haul, item_id: str, code: str) -> Measure | None:
    """The measure of a code, on a machine of a haul."""
    return next((one for one in measures_for(haul, item_id) if one.code == code), None)


def configured(haul: Haul, item_id: str) -> list[Measure]:
    """The machine in another configuration of the book, each a measure: without its bucket, say."""
    load = linked_loads(haul).get(item_id)
    if load is None or load.machine is None:
        return []
    found = []
    for configuration in load.machine.configurations.select_related("machine__yard"):
        if load.configuration is not None and configuration.pk == load.configuration.pk:
            continue
        change = Otherwise(configurations={item_id: configuration})
        found.append(
            Measure(
                code=f"{AS}{configuration.pk}",
                title=f"Haul it otherwise: {configuration.name}",
                note="as the book has it",
                made=lambda draft, place, index, change=change: otherwise(haul, change),  # type: ignore[misc]
                configuration=configuration,
            )
        )
    return found


AS: Final = "as-"
"""How the code of a configuration begins."""


def offered(
    haul: Haul, draft: Draft, place: Place, index: int, now: Way, unit: UnitSystem
) -> list[Offered]:
    """Every measure that there is here, in order of effort, with what it would give."""
    return list(_offered(haul, draft, place, index, now, unit))


def _offered(
    haul: Haul, draft: Draft, place: Place, index: int, now: Way, unit: UnitSystem
) -> Iterator[Offered]:
    item_id = draft.plan.items[index].id
    for measure in measures_for(haul, item_id):
        try:
            made = measure.made(draft, place, index)
        except (PlanFileError, InputError, IncompleteError):
            continue
        if made is None:
            continue
        plan = made.plan_at(place)
        at = next(n for n, item in enumerate(plan.items) if item.id == item_id)
        then = way(plan, at, stations=COARSE)
        if then.path is None:
            continue
        road = _road(draft, made)
        if not _improves(now, then):
            continue
        yield _told(measure, then, plan, unit, helps=_helps(now, then), also=road)


def _road(draft: Draft, made: Draft) -> str:
    """What it does to the plan for the road, where it changes that."""
    if made.plan.items == draft.plan.items:
        return ""
    before, after = evaluate(draft.plan).verdict, evaluate(made.plan).verdict
    if after is before:
        return ""
    better = ", better than now" if after.severity < before.severity else ""
    return f"on the road it is then {STATUS_WORDS[after]}{better}"


def _improves(now: Way, then: Way) -> bool:
    """Whether anything that is not as it should be becomes better."""
    after = {finding.code: finding for finding in then.findings}
    for before in now.findings:
        found = after.get(before.code)
        if before.status is Status.OK or before.margin is None:
            continue
        # what is left out has nothing to be over any more
        if found is None:
            return True
        if found.margin is None:
            continue
        if found.margin - before.margin > WORTH * max(abs(before.value or 0.0), WORTH):
            return True
    return False


def _value(of: Way, subject: Subject) -> float | None:
    finding = of.finding(subject)
    return None if finding is None else finding.value


def _helps(now: Way, then: Way) -> bool:
    """Whether the worst of what is wrong becomes less wrong, or what is wrong becomes fewer."""
    return _badness(then) < _badness(now)


def _badness(of: Way) -> tuple[int, int, float]:
    statuses = [f.status for f in of.findings]
    hold = _value(of, Subject.HOLD)
    return (
        sum(status is Status.OVER for status in statuses),
        sum(status is Status.NEAR for status in statuses),
        -(99.0 if hold is None else hold),
    )


def _told(
    measure: Measure, then: Way, plan: Plan, unit: UnitSystem, *, helps: bool, also: str
) -> Offered:
    hold, tongue = _value(then, Subject.HOLD), _value(then, Subject.TONGUE) or 0.0
    finding = then.finding(Subject.HOLD)
    status = Status.OK if finding is None else finding.status
    word = {Status.OK: "holds", Status.NEAR: "just holds", Status.OVER: "slides"}[status]
    rear = then.finding(Subject.TRUCK_REAR)
    if rear is not None and rear.status is Status.OVER:
        status, word = Status.OVER, "still lifts the truck"
    notes = [measure.note, also]
    if measure.code == "blocks":
        rise = plan.site.foot_rise_m
        notes.insert(0, f"{write_blocks(rise, unit)} high")
    if measure.code == "order":
        notes.insert(0, order_words(plan))
    held = "nothing pushes" if hold is None else f"{write_number(hold, 2)} times the push"
    lifts = tongue < 0
    name = tongue_word(plan.hitch.type)
    return Offered(
        code=measure.code,
        title=measure.title,
        note=", ".join(note for note in notes[:-1] if note),
        status=status.value,
        word=word,
        hold=held,
        tongue=f"{name} {'lifts by' if lifts else 'keeps'} {write_mass(abs(tongue), unit)}",
        also=also,
        bar=100.0 if hold is None else min(hold / SHOWN_HOLD, 1.0) * 100,
        tick=100.0 / SHOWN_HOLD,
        helps=helps,
    )


def write_blocks(rise_m: float, unit: UnitSystem) -> str:
    """How high blocks are: whole inches, or whole centimetres."""
    if unit is UnitSystem.US:
        return f"{write_number(rise_m / unit.m)} in"
    return f"{write_number(rise_m * 1000)} mm"


def do_measure(haul: Haul, place: Place, *, item_id: str, code: str, base: int, user: User) -> bool:
    """Do a measure on one of a haul's machines; whether there was anything to do.

    Raises:
        StaleRevision: the haul has moved on; nothing is stored.
    """
    draft = haul.draft
    measure = measure_of(haul, item_id, code)
    if measure is None or item_id not in draft.item_ids:
        return False
    try:
        made = measure.made(draft, place, draft.item_ids.index(item_id))
    except (PlanFileError, InputError, IncompleteError):
        return False
    if made is None:
        return False
    what = measure.title[:1].lower() + measure.title[1:]
    if measure.configuration is None:
        save_haul(haul, made, base=base, user=user, what=what)
    else:
        reconfigure(haul, made, item_id, measure.configuration, base=base, user=user)
    return True
