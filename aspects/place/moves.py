"""The planner's actions: everything a person can do to what they hold, apart from the book."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any, Final, Self

from aspects.place.state import State, finite
from aspects.rooms import ActionError, whole
from measures import ReadingError, UnitSystem, read_length
from measures.marks import STEPS
from measures.writing import write_inches, write_length
from mechanics.landmarks import SNAP_M, Kind, Landmark, landed
from mechanics.placing import ROOM_BETWEEN_M, Obstacle, PlacingError, beside, traded
from mechanics.plan import Plan
from mechanics.rules import TongueSchool
from mechanics.standing import best_standing
from mechanics.units import M_PER_IN

NUDGE_IN: Final = {UnitSystem.US: (1, 6), UnitSystem.METRIC: (25, 150)}
"""A small and a large step, in inches or millimetres."""

UNIT_M: Final = {UnitSystem.US: M_PER_IN, UnitSystem.METRIC: 0.001}
"""The unit of a nudge's step, in metres."""

DRAG_STEP_M: Final = {UnitSystem.US: M_PER_IN / 2, UnitSystem.METRIC: 0.01}
"""A drag goes by half inches, or by centimetres."""

LOOKING: Final = ("", "show", "pick", "open", "tilt")
"""Actions that change what is shown and nothing that is stored."""

UNMOVED: Final = (*LOOKING, "overwrite", "arranged")
"""Actions that move nothing."""


@dataclass(frozen=True, slots=True)
class Asked:
    """An action as a button or a hand asks for it.

    A button's value is the action and what it is done by or with, as in ``nudge -1`` or
    ``open figure.share``; ``sent`` is all that came with it.
    """

    action: str
    by: str = ""
    sent: Mapping[str, Any] = field(default_factory=dict)

    @classmethod
    def of(cls, sent: Mapping[str, Any]) -> Self:
        """What a page sent."""
        action, _, by = str(sent.get("do", "")).partition(" ")
        return cls(action, by, sent)

    @property
    def looks(self) -> bool:
        """Whether it is about what is shown alone."""
        return self.action in LOOKING


def act(state: State, asked: Asked, unit: UnitSystem) -> None:
    """Do one action of the planner to the state.

    Raises:
        ActionError: it cannot be done as asked; the state is as it was.
        PlanFileError: what the page sent does not make a valid plan.
    """
    sent = asked.sent
    match asked.action:
        case "open":
            state.open = "" if state.open == asked.by else asked.by[:200]
        case "tilt":
            state.set_times(asked.by)
        case "pick":
            state.pick(whole(asked.by, 0))
        case "school":
            state.set_school(
                str(sent.get("new_tongue", "")),
                str(sent.get("new_share_min", "")),
                str(sent.get("new_share_max", "")),
            )
        case "gvwr":
            state.set_gvwr(str(sent.get("new_gvwr", "")))
        case "suggested":
            state.set_school(TongueSchool.NOSE_4_7.value, "", "")
        case action if action not in UNMOVED:
            _move(state, asked, unit)


def _move(state: State, asked: Asked, unit: UnitSystem) -> None:
    """Move the item in hand."""
    if state.selected is None:
        raise ActionError("There is nothing on the deck to move. Add a machine first.")
    try:
        move = MOVES[asked.action]
    except KeyError:
        raise ActionError("The planner does not know that action.") from None
    move(state, state.selected, asked, unit)


def done(state: State, action: str) -> str:
    """What an action did, as the list of steps names it."""
    whole = {
        "school": "another rule of share",
        "suggested": "another rule of share",
        "gvwr": "another way to count the plate",
        "overwrite": "mine put in place",
        "arranged": "arranged anew",
    }
    if state.selected is None or action in whole:
        return whole.get(action, "a change")
    name = state.plan.items[state.selected].name or "the load"
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


def _to(state: State, asked: Asked) -> float:
    """The place a drag asks for, in metres."""
    return finite(asked.sent.get("to")) * state.draft.units.length.m


def on_step(metres: float, unit: UnitSystem) -> float:
    """The step of a drag that is nearest to a place."""
    step = DRAG_STEP_M[unit]
    return round(metres / step) * step


def _drag(state: State, index: int, asked: Asked, unit: UnitSystem) -> None:
    at = _to(state, asked)
    free = str(asked.sent.get("free", "")) == "1"
    mark = None if free else landed(state.plan, index, at, STEPS[unit])
    if mark is None:
        state.draft = state.draft.put(index, on_step(at, unit))
        return
    state.landed = _landed_words(mark, state.plan, unit)
    state.draft = state.draft.put(index, mark.at_m)


def _landed_words(mark: Landmark, plan: Plan, unit: UnitSystem) -> str:
    """What a drag has landed on."""
    if mark.item:
        room = write_inches(ROOM_BETWEEN_M, unit)
        return f"{room} {mark.kind.value} {plan.item(mark.item).called}"
    return {
        Kind.AIM: "at its aim",
        Kind.BEST: "at its best place",
        Kind.HEADBOARD: "against the headboard",
        Kind.TAIL: "flush with the tail",
    }[mark.kind]


def _nudge(state: State, index: int, asked: Asked, unit: UnitSystem) -> None:
    by = finite(asked.by)
    small, large = NUDGE_IN[unit]
    if abs(by) not in (1.0, 2.0):
        raise ActionError("A nudge is one small or one large step.")
    size = (small if abs(by) == 1.0 else large) * UNIT_M[unit]
    here = state.plan.items[index].placement.reference_m
    state.draft = state.draft.put(index, here + (size if by > 0 else -size))


def _read(state: State, index: int, asked: Asked, unit: UnitSystem) -> None:
    typed = str(asked.sent.get("reading", ""))
    try:
        reading = read_length(typed, unit.length_unit)
    except ReadingError as error:
        raise ActionError(str(error), typed) from None
    metres = float(reading.si)
    low, high = state.draft.reach(index)
    if not low <= metres <= high:
        raise ActionError(
            f"{write_length(metres, unit)} is off this deck, which is "
            f"{write_length(state.plan.trailer.deck.length_m, unit)} long. Nothing was moved.",
            typed,
        )
    state.draft = state.draft.put(index, metres)


def _drag_side(state: State, index: int, asked: Asked, unit: UnitSystem) -> None:
    to = _to(state, asked)
    if abs(to) <= SNAP_M and str(asked.sent.get("free", "")) != "1":
        to = 0.0
    state.draft = state.draft.put_sideways(index, on_step(to, unit))


def _side(state: State, index: int, asked: Asked, unit: UnitSystem) -> None:
    by = finite(asked.by)
    small = NUDGE_IN[unit][0] * UNIT_M[unit]
    if abs(by) != 1.0:
        raise ActionError("A step sideways is one to the left or one to the right.")
    here = state.plan.items[index].placement.left_m
    state.draft = state.draft.put_sideways(index, here + (small if by > 0 else -small))


def _middle(state: State, index: int, asked: Asked, unit: UnitSystem) -> None:
    state.draft = state.draft.put_sideways(index, 0.0)


def _turn(state: State, index: int, asked: Asked, unit: UnitSystem) -> None:
    state.draft = state.draft.turned(index)


def _to_aim(state: State, index: int, asked: Asked, unit: UnitSystem) -> None:
    best = best_standing(state.plan, index, STEPS[unit])
    if best is None:
        raise ActionError("There is no room on this deck for it. Take something off, or turn it.")
    state.draft = state.draft.put(index, best.at_m)


def _swap(state: State, index: int, asked: Asked, unit: UnitSystem) -> None:
    """Trade places with the next item towards the truck (by -1) or the tail (by 1)."""
    by = finite(asked.by)
    if abs(by) != 1.0:
        raise ActionError("Items trade places with the next one ahead or behind.")
    try:
        state.draft = state.draft.stood(traded(state.plan, index, ahead=by < 0))
    except PlacingError as error:
        raise ActionError(_obstacle_words(error, state.plan)) from None


def _beside(state: State, index: int, asked: Asked, unit: UnitSystem) -> None:
    """Stand beside the nearest item, the two of them on the middle of the deck together."""
    try:
        state.draft = state.draft.stood(beside(state.plan, index))
    except PlacingError as error:
        raise ActionError(_obstacle_words(error, state.plan)) from None


def _obstacle_words(error: PlacingError, plan: Plan) -> str:
    """Why items cannot be put as asked, and what to do."""
    if error.obstacle is Obstacle.ITEM_WIDTH:
        name = plan.item(error.item).called
        return f"The width of {name} is not known. Enter it in the book first."
    return {
        Obstacle.NOTHING_AHEAD: "Nothing stands ahead of it.",
        Obstacle.NOTHING_BEHIND: "Nothing stands behind it.",
        Obstacle.ALONE: "There is nothing to stand beside.",
        Obstacle.DECK_WIDTH: "The deck's width is not known. Enter it in the book first.",
        Obstacle.TOO_WIDE: "The two together are wider than the deck.",
    }[error.obstacle]


MOVES: Final[dict[str, Callable[[State, int, Asked, UnitSystem], None]]] = {
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
