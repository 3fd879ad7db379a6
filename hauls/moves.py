"""The planner's actions: everything a person can do to what they hold, apart from the book."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any, Final

from hauls.holding import ActionError, State, finite, reach
from hauls.services.haul import ROOM_BETWEEN_M, placed
from hauls.standing import best_standing
from measures import ReadingError, UnitSystem, read_length
from measures.writing import write_inches, write_length
from mechanics.item import Item
from mechanics.plan import Plan
from mechanics.rules import TongueSchool
from mechanics.units import LengthUnit

NUDGE_IN: Final = {UnitSystem.US: (1, 6), UnitSystem.METRIC: (25, 150)}
"""A small and a large step, in inches or millimetres."""

SNAP_M: Final = 0.03
"""Within little more than an inch of a place worth standing at, a drag lands on it."""

LOOKING: Final = ("", "show", "overwrite", "open", "tilt", "arranged")
"""Actions that move nothing."""


def act(state: State, action: str, sent: Mapping[str, Any], unit: UnitSystem) -> None:
    """Do one action of the planner to the state.

    Raises:
        ActionError: it cannot be done as asked; the state is as it was.
        PlanFileError: what the page sent does not make a valid plan.
    """
    if action == "open":
        code = str(sent.get("code", ""))
        state.open = "" if state.open == code else code
    elif action == "tilt":
        state.set_times(str(sent.get("times", "")))
    if action in LOOKING:
        return
    if action == "school":
        state.set_school(
            str(sent.get("new_tongue", "")),
            str(sent.get("new_share_min", "")),
            str(sent.get("new_share_max", "")),
        )
        return
    if action == "gvwr":
        state.set_gvwr(str(sent.get("new_gvwr", "")))
        return
    if action == "suggested":
        state.set_school(TongueSchool.NOSE_4_7.value, "", "")
        return
    if state.selected is None:
        raise ActionError("There is nothing on the deck to move. Add a machine first.")
    try:
        move = MOVES[action]
    except KeyError:
        raise ActionError("The planner does not know that action.") from None
    move(state, state.selected, sent, unit)


def done(state: State, action: str) -> str:
    """What an action did, as the list of steps names it."""
    whole = {
        "school": "another school",
        "suggested": "another school",
        "gvwr": "another way to count the plate",
        "overwrite": "mine put in place",
        "arranged": "arranged anew",
    }
    if state.selected is None or action in whole:
        return whole.get(action, "a change")
    name = state.plan().items[state.selected].name or "the load"
    words = {
        "turn": "turned {} round",
        "aim": "{} to its aim",
        "drag_side": "moved {} sideways",
        "side": "moved {} sideways",
        "middle": "{} on the middle",
        "swap": "{} in another order",
        "beside": "{} beside another",
    }
    return words.get(action, "moved {}").format(name)


def _to(state: State, sent: Mapping[str, Any]) -> float:
    """The place a drag asks for, in metres."""
    return finite(sent.get("to")) * LengthUnit(state.document["units"]["length"]).m


def _step(metres: float, unit: UnitSystem) -> float:
    step = 0.0127 if unit is UnitSystem.US else 0.01
    return round(metres / step) * step


def _drag(state: State, index: int, sent: Mapping[str, Any], unit: UnitSystem) -> None:
    at = _to(state, sent)
    if str(sent.get("free", "")) != "1":
        place, words = min(landmarks(state.plan(), index, unit), key=lambda m: abs(m[0] - at))
        if abs(place - at) <= SNAP_M:
            state.put(index, place)
            state.landed = words
            return
    state.put(index, _step(at, unit))


def landmarks(plan: Plan, index: int, unit: UnitSystem) -> list[tuple[float, str]]:
    """Places worth standing at: the aim, the neighbours, the two ends of the deck."""
    item, deck = plan.items[index], plan.trailer.deck
    found = []
    best = best_standing(plan, index, unit)
    if best is not None:
        found.append((best.at_m, "at its aim" if best.right else "at its best place"))
    room = write_inches(ROOM_BETWEEN_M, unit)
    for other in plan.items:
        if other is item or item.clear_sideways_of(other):
            continue
        name = other.name or other.id
        found.append(
            (other.rearmost_m + ROOM_BETWEEN_M + item.reach_forward_m, f"{room} behind {name}")
        )
        found.append(
            (other.foremost_m - ROOM_BETWEEN_M - item.reach_rearward_m, f"{room} ahead of {name}")
        )
    found.append((item.reach_forward_m, "against the headboard"))
    found.append((deck.length_m - item.reach_rearward_m, "flush with the tail"))
    return found


def _nudge(state: State, index: int, sent: Mapping[str, Any], unit: UnitSystem) -> None:
    by = finite(sent.get("by"))
    small, large = NUDGE_IN[unit]
    if abs(by) not in (1.0, 2.0):
        raise ActionError("A nudge is one small or one large step.")
    size = (small if abs(by) == 1.0 else large) * (0.0254 if unit is UnitSystem.US else 0.001)
    here = state.plan().items[index].placement.reference_m
    state.put(index, here + (size if by > 0 else -size))


def _read(state: State, index: int, sent: Mapping[str, Any], unit: UnitSystem) -> None:
    plan = state.plan()
    typed = str(sent.get("reading", ""))
    try:
        reading = read_length(typed, unit.length_unit)
    except ReadingError as error:
        raise ActionError(str(error), typed) from None
    metres = float(reading.si)
    low, high = reach(plan, index)
    if not low <= metres <= high:
        raise ActionError(
            f"{write_length(metres, unit)} is off this deck, which is "
            f"{write_length(plan.trailer.deck.length_m, unit)} long. Nothing was moved.",
            typed,
        )
    state.put(index, metres)


def _drag_side(state: State, index: int, sent: Mapping[str, Any], unit: UnitSystem) -> None:
    to = _to(state, sent)
    if abs(to) <= SNAP_M and str(sent.get("free", "")) != "1":
        to = 0.0
    state.put_sideways(index, _step(to, unit))


def _side(state: State, index: int, sent: Mapping[str, Any], unit: UnitSystem) -> None:
    by = finite(sent.get("by"))
    small = NUDGE_IN[unit][0] * (0.0254 if unit is UnitSystem.US else 0.001)
    if abs(by) != 1.0:
        raise ActionError("A step sideways is one to the left or one to the right.")
    here = state.plan().items[index].placement.left_m
    state.put_sideways(index, here + (small if by > 0 else -small))


def _middle(state: State, index: int, sent: Mapping[str, Any], unit: UnitSystem) -> None:
    state.put_sideways(index, 0.0)


def _turn(state: State, index: int, sent: Mapping[str, Any], unit: UnitSystem) -> None:
    turned = placed(state.plan(), index, turn=True)
    state.put(index, turned.items[index].placement.reference_m, turn=True)


def _to_aim(state: State, index: int, sent: Mapping[str, Any], unit: UnitSystem) -> None:
    best = best_standing(state.plan(), index, unit)
    if best is None:
        raise ActionError("There is no room on this deck for it. Take something off, or turn it.")
    state.put(index, best.at_m)


def _swap(state: State, index: int, sent: Mapping[str, Any], unit: UnitSystem) -> None:
    """Trade places with the next item towards the truck (by -1) or the tail (by 1)."""
    plan = state.plan()
    item, by = plan.items[index], finite(sent.get("by"))
    if abs(by) != 1.0:
        raise ActionError("Items trade places with the next one ahead or behind.")
    ahead = [i for i in plan.items if i.foremost_m < item.foremost_m and i is not item]
    behind = [i for i in plan.items if i.foremost_m >= item.foremost_m and i is not item]
    if by < 0:
        if not ahead:
            raise ActionError("Nothing stands ahead of it.")
        first, second = max(ahead, key=lambda i: i.foremost_m), item
    else:
        if not behind:
            raise ActionError("Nothing stands behind it.")
        first, second = item, min(behind, key=lambda i: i.foremost_m)
    start, end = first.foremost_m, max(first.rearmost_m, second.rearmost_m)
    for moved, at in (
        (second, start + second.reach_forward_m),
        (first, end - first.reach_rearward_m),
    ):
        state.put(plan.items.index(moved), at)


def _beside(state: State, index: int, sent: Mapping[str, Any], unit: UnitSystem) -> None:
    """Stand beside the nearest item, the two of them on the middle of the deck together."""
    plan = state.plan()
    item, wide = plan.items[index], plan.trailer.deck.width_m
    others = [i for i in plan.items if i is not item]
    if not others:
        raise ActionError("There is nothing to stand beside.")
    other = min(others, key=lambda i: abs(i.placement.reference_m - item.placement.reference_m))
    both, own = _both_widths(item, other, wide)
    # the pair fills from -both/2 to both/2; the item in hand takes the left end of it
    state.put_sideways(index, (both - own) / 2)
    state.put_sideways(plan.items.index(other), -own / 2)
    middle = (other.foremost_m + other.rearmost_m) / 2
    state.put(index, middle + (item.reach_forward_m - item.reach_rearward_m) / 2)


def _both_widths(item: Item, other: Item, wide: float | None) -> tuple[float, float]:
    name = other.name or other.id
    if wide is None:
        raise ActionError("The deck's width is not known. Enter it in the book first.")
    if item.width_m is None or other.width_m is None:
        lacking = item.name or item.id if item.width_m is None else name
        raise ActionError(f"The width of {lacking} is not known. Enter it in the book first.")
    both = item.width_m + other.width_m
    if both > wide:
        raise ActionError("The two together are wider than the deck.")
    return both, item.width_m


MOVES: Final[dict[str, Callable[[State, int, Mapping[str, Any], UnitSystem], None]]] = {
    "drag": _drag,
    "nudge": _nudge,
    "read": _read,
    "drag_side": _drag_side,
    "side": _side,
    "middle": _middle,
    "turn": _turn,
    "aim": _to_aim,
    "swap": _swap,
    "beside": _beside,
}
