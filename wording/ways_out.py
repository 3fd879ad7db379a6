"""What would open a window that is empty, or widen one that is sure: in plain words."""

from __future__ import annotations

from functools import lru_cache

from measures.marks import write_width
from measures.writing import UnitSystem, write_inches, write_mass
from mechanics.narrowing import narrowing
from mechanics.placing import moved
from mechanics.plan import Plan
from mechanics.rules import FIXED_RANGES
from mechanics.ways_out import Kind, WayOut
from mechanics.ways_out import ways_out as found_ways_out
from mechanics.weigh_which import Gain, Weighing, weigh_which
from wording.schools import SCHOOL_LABELS, range_words


def ways_out(plan: Plan, index: int, unit: UnitSystem) -> list[str]:
    """Changes that open the item's window, each alone: facing, school, mass."""
    return [_way_words(way, unit) for way in found_ways_out(plan, index)]


def _way_words(way: WayOut, unit: UnitSystem) -> str:
    if way.kind is Kind.SCHOOL and way.school is not None:
        school = f"{SCHOOL_LABELS[way.school]} rule, {range_words(*FIXED_RANGES[way.school])},"
        return f"Under the {school} it has a place."
    if way.kind is Kind.LIGHTER:
        return f"With {write_mass(way.less_kg, unit)} less it has a place."
    return {
        Kind.BALL: "Fit the ball that the coupler is made for.",
        Kind.TURN: "Turned round it has a place.",
    }.get(way.kind, "Try another trailer or truck.")


def worth_weighing(plan: Plan, index: int, unit: UnitSystem) -> str:
    """The single weighing that would widen the item's sure window most; empty where none.

    None of it depends on where the item itself stands, so a drag asks only once.
    """
    return _worth_weighing(moved(plan, index, 0.0), index, unit)


def what_settles(plan: Plan, index: int) -> str:
    """What has to be weighed before a place is sure, with its verb: ``the trailer is``.

    Empty where a place is sure already, and where no single weighing would make one so.
    """
    gains = _gains(moved(plan, index, 0.0), index)
    if not gains or gains[0].before_m:
        return ""
    best = gains[0]
    name = next((i.called for i in plan.items if i.id == best.item), "")
    return {
        Weighing.ITEM_AXLES: f"both {'axles' if _wheeled(plan, best.item) else 'ends'} of "
        f"{name} are",
        Weighing.ITEM_WHOLE: f"{name} is",
        Weighing.TRAILER_TONGUE: "the trailer's empty tongue is",
        Weighing.TRAILER_WHOLE: "the empty trailer is",
        Weighing.TRUCK_AXLES: "the truck's two axles are",
        Weighing.TRUCK_TAPE: "the truck is",
        Weighing.TRAILER_TAPE: "the trailer is",
    }[best.weighing]


def says_most(plan: Plan, index: int, unit: UnitSystem) -> str:
    """The single weighing or taping that says most about a plan that rests on estimates, and what
    it would leave; empty where none is worth the way."""
    found = narrowing(plan, index)
    if found is None:
        return ""
    name = next((i.called for i in plan.items if i.id == found.item), "")
    what = _what(plan, found.weighing, found.item, name)
    said = []
    if found.open_after < found.open_before:
        said.append(
            f"{found.open_after} of {found.open_before} open limits are left"
            if found.open_after
            else "no limit is left open"
        )
    if found.band_after_m < found.band_before_m:
        before, after = (
            write_inches(width, unit) for width in (found.band_before_m, found.band_after_m)
        )
        said.append(f"the best place is known within {after} instead of {before}")
    return f"{what}: then {' and '.join(said)}."


@lru_cache(maxsize=256)
def _gains(plan: Plan, index: int) -> tuple[Gain, ...]:
    return weigh_which(plan, index)


@lru_cache(maxsize=256)
def _worth_weighing(plan: Plan, index: int, unit: UnitSystem) -> str:
    gains = _gains(plan, index)
    if not gains:
        return ""
    best = gains[0]
    name = next((i.called for i in plan.items if i.id == best.item), "")
    what = _what(plan, best.weighing, best.item, name)
    now = write_width(best.before_m, unit) if best.before_m else "nothing"
    return f"{what}. The sure part grows from {now} to {write_width(best.after_m, unit)}."


def _what(plan: Plan, weighing: Weighing, item_id: str | None, name: str) -> str:
    """What to do, as an order."""
    return {
        Weighing.ITEM_AXLES: f"Weigh {_both_ends(plan, item_id, name)}",
        Weighing.ITEM_WHOLE: f"Weigh {name}: on a floor or pallet scale, or the "
        "trailer with it less without it",
        Weighing.TRAILER_TONGUE: "Weigh the empty trailer's tongue, level, on a scale under the "
        "coupler",
        Weighing.TRAILER_WHOLE: "Weigh the empty trailer: all of it on a platform, unhitched",
        Weighing.TRUCK_AXLES: "Weigh the empty truck, fuelled, one axle at a time on a platform",
        Weighing.TRUCK_TAPE: "Tape the truck: wheel to wheel, and rear axle to ball",
        Weighing.TRAILER_TAPE: "Tape the trailer: ball to deck, and ball to the middle of the "
        "axles",
    }[weighing]


def _wheeled(plan: Plan, item_id: str | None) -> bool:
    return bool(item_id) and len(plan.item(item_id or "").contacts) == 2


def _both_ends(plan: Plan, item_id: str | None, name: str) -> str:
    """How an item is weighed at two places: by its axles, on its tracks, or hung."""
    if _wheeled(plan, item_id):
        return f"both axles of {name}, one at a time on a platform"
    if item_id and plan.item(item_id).contacts:
        return f"{name} driven half onto a platform, first one end and then the other"
    return f"{name} lifted at two supports, one end at a time"
