"""What would open a window that is empty, or widen one that is sure: in plain words."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache

from hauls.services.haul import placed
from hauls.wording import SCHOOL_LABELS
from measures import UnitSystem
from measures.marks import write_width
from measures.writing import write_mass
from mechanics.hitch import HitchType
from mechanics.plan import Plan
from mechanics.report import evaluate
from mechanics.rules import FIXED_RANGES, Rules, TongueSchool
from mechanics.weigh_which import Gain, Weighing, weigh_which

HALVINGS = 12
"""Steps of the search for the mass: to a four-thousandth of the machine's."""

SCHOOLS = {
    True: (
        TongueSchool.GOOSENECK_15_25,
        TongueSchool.GOOSENECK_13_15,
        TongueSchool.FIFTH_WHEEL_15_20,
    ),
    False: (TongueSchool.SHARE_10_15, TongueSchool.SHARE_9_15, TongueSchool.SHARE_10_20),
}
"""Schools that people use over a truck bed, and behind a bumper."""


def ways_out(plan: Plan, index: int, unit: UnitSystem) -> list[str]:
    """Changes that open the item's window, each alone: facing, school, mass.

    None of it depends on where the item itself stands, so a drag asks only once.
    """
    return list(_ways_out(placed(plan, index, reference_m=0.0), index, unit))


@lru_cache(maxsize=256)
def _ways_out(plan: Plan, index: int, unit: UnitSystem) -> tuple[str, ...]:
    found = []
    if evaluate(plan).windows[index].contradiction == ("hitch.ball_size", "hitch.ball_size"):
        return ("Fit the ball that the coupler is made for.",)
    if _opens(placed(plan, index, turn=True), index):
        found.append("Turned round it has a place.")
    over_bed = plan.hitch.type in (HitchType.GOOSENECK, HitchType.FIFTH_WHEEL)
    for school in SCHOOLS[over_bed]:
        if FIXED_RANGES[school] == plan.share_range:
            continue
        if _opens(
            replace(plan, rules=Rules(tongue=school, trailer_gvwr=plan.rules.trailer_gvwr)), index
        ):
            low, high = FIXED_RANGES[school]
            words = f"{SCHOOL_LABELS[school]} school, {low * 100:g}–{high * 100:g} %,"
            found.append(f"Under the {words} it has a place.")
            break
    less = _mass_to_leave(plan, index)
    if less is not None:
        found.append(f"With {write_mass(less, unit)} less it has a place.")
    return tuple(found) or ("Try another trailer or truck.",)


def worth_weighing(plan: Plan, index: int, unit: UnitSystem) -> str:
    """The single weighing that would widen the item's sure window most; empty where none.

    None of it depends on where the item itself stands, so a drag asks only once.
    """
    return _worth_weighing(placed(plan, index, reference_m=0.0), index, unit)


def what_settles(plan: Plan, index: int) -> str:
    """What has to be weighed before a place is sure, with its verb: ``the trailer is``.

    Empty where a place is sure already, and where no single weighing would make one so.
    """
    gains = _gains(placed(plan, index, reference_m=0.0), index)
    if not gains or gains[0].before_m:
        return ""
    best = gains[0]
    name = next((i.name or i.id for i in plan.items if i.id == best.item), "")
    return {
        Weighing.ITEM_AXLES: f"both {'axles' if _wheeled(plan, best.item) else 'ends'} of "
        f"{name} are",
        Weighing.ITEM_WHOLE: f"{name} is",
        Weighing.TRAILER_TONGUE: "the trailer's empty tongue is",
        Weighing.TRAILER_WHOLE: "the empty trailer is",
        Weighing.TRUCK_AXLES: "the truck's two axles are",
    }[best.weighing]


@lru_cache(maxsize=256)
def _gains(plan: Plan, index: int) -> tuple[Gain, ...]:
    return weigh_which(plan, index)


@lru_cache(maxsize=256)
def _worth_weighing(plan: Plan, index: int, unit: UnitSystem) -> str:
    gains = _gains(plan, index)
    if not gains:
        return ""
    best = gains[0]
    names = {item.id: item.name or item.id for item in plan.items}
    what = {
        Weighing.ITEM_AXLES: _both_ends(plan, best.item, names.get(best.item or "", "")),
        Weighing.ITEM_WHOLE: f"{names.get(best.item or '')}: on a floor or pallet scale, or the "
        "trailer with it less without it",
        Weighing.TRAILER_TONGUE: "the empty trailer's tongue, level, on a scale under the coupler",
        Weighing.TRAILER_WHOLE: "the empty trailer: all of it on a platform, unhitched",
        Weighing.TRUCK_AXLES: "the empty truck, fuelled, one axle at a time on a platform",
    }[best.weighing]
    now = write_width(best.before_m, unit) if best.before_m else "nothing"
    return f"Weigh {what}. The sure window grows from {now} to {write_width(best.after_m, unit)}."


def _wheeled(plan: Plan, item_id: str | None) -> bool:
    return bool(item_id) and len(plan.item(item_id or "").contacts) == 2


def _both_ends(plan: Plan, item_id: str | None, name: str) -> str:
    """How an item is weighed at two places: by its axles, on its tracks, or hung."""
    if _wheeled(plan, item_id):
        return f"both axles of {name}, one at a time on a platform"
    if item_id and plan.item(item_id).contacts:
        return f"{name} driven half onto a platform, first one end and then the other"
    return f"{name} lifted at two supports, one end at a time"


def _opens(plan: Plan, index: int) -> bool:
    return bool(evaluate(plan).windows[index].intervals)


def _mass_to_leave(plan: Plan, index: int) -> float | None:
    """The least mass to take off the item that opens its window; ``None`` where none does.

    Found by halving, and rounded up: taking that much off is enough.
    """
    item = plan.items[index]

    def lighter(part: float) -> Plan:
        items = list(plan.items)
        items[index] = replace(item, mass_kg=item.mass_kg * (1 - part))
        return replace(plan, items=tuple(items))

    enough = 0.6
    if not _opens(lighter(enough), index):
        return None
    short = 0.0
    for _ in range(HALVINGS):
        middle = (enough + short) / 2
        if _opens(lighter(middle), index):
            enough = middle
        else:
            short = middle
    return item.mass_kg * enough
