"""What of an outfit is tried: a speed, the load elsewhere, something hung behind the tail, what
tires hold, what sets it swinging and what is done about the speed."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any, Final

from aspects.sway.speeds import SPEEDS_IN
from measures import UnitSystem
from measures.writing import write_inches, write_mass
from mechanics.motion import Course, Push
from mechanics.placing import hung_behind, reach
from mechanics.plan import Plan
from mechanics.sway import CORNERING
from mechanics.units import KG_PER_LB, M_PER_IN
from web.sent import whole_number
from wording.sway import COURSES, PUSHES, TIRES

STEP_M: Final = {UnitSystem.US: 3 * M_PER_IN, UnitSystem.METRIC: 0.1}
"""How far the load is shifted by one step."""

MOST_STEPS: Final = 30

RACKS: Final = {
    UnitSystem.US: tuple(n * 50 * KG_PER_LB for n in range(17)),
    UnitSystem.METRIC: tuple(n * 25.0 for n in range(17)),
}
"""What may be hung behind the tail."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Run:
    """One run as it is asked for; ``shift`` in steps rearward, ``rack`` in steps of its mass."""

    speed: int
    shift: int = 0
    rack: int = 0
    tires: str = "mid"
    push: Push = Push.GUST
    course: Course = Course.HELD

    @classmethod
    def of(cls, data: Mapping[str, Any], plan: Plan, unit: UnitSystem) -> Run:
        """As an address or a form says it; anything else is as it is at first."""

        def within(name: str, usual: int, low: int, high: int) -> int:
            found = whole_number(data.get(name))
            return usual if found is None else min(max(found, low), high)

        low, high = shifts(plan, unit)
        tires = str(data.get("tires", ""))
        return cls(
            speed=SPEEDS_IN[unit].nearest(whole_number(data.get("speed"))),
            shift=within("shift", 0, low, high),
            rack=within("rack", 0, 0, len(RACKS[unit]) - 1),
            tires=tires if tires in CORNERING else "mid",
            push=_of(Push, data.get("push"), Push.GUST),
            course=_of(Course, data.get("course"), Course.HELD),
        )

    @property
    def changed(self) -> bool:
        """Whether the outfit is another than the plan's."""
        return bool(self.shift or self.rack)

    def plan(self, plan: Plan, unit: UnitSystem) -> Plan:
        """The plan's outfit as it is tried."""
        by = self.shift * STEP_M[unit]
        items = [
            replace(
                one,
                placement=replace(one.placement, reference_m=one.placement.reference_m + by),
            )
            for one in plan.items
        ]
        mass, shifted = RACKS[unit][self.rack], plan.carrying(items)
        return hung_behind(shifted, mass) if mass else shifted

    def shift_words(self, unit: UnitSystem) -> str:
        """How far the load is shifted."""
        if not self.shift:
            return "as it stands"
        way = "further back" if self.shift > 0 else "further forward"
        return f"{write_inches(abs(self.shift) * STEP_M[unit], unit)} {way}"

    def rack_words(self, unit: UnitSystem) -> str:
        """What hangs behind the tail."""
        mass = RACKS[unit][self.rack]
        return write_mass(mass, unit) if mass else "nothing"


def _of(kind: Any, value: Any, usual: Any) -> Any:
    return kind(value) if value in {one.value for one in kind} else usual


def shifts(plan: Plan, unit: UnitSystem) -> tuple[int, int]:
    """The fewest and the most steps by which all loads together may be shifted within reach of the
    deck."""
    low, high = -MOST_STEPS, MOST_STEPS
    for index, item in enumerate(plan.items):
        first, last = reach(plan, index)
        at = item.placement.reference_m
        low = max(low, -int((at - first) / STEP_M[unit]))
        high = min(high, int((last - at) / STEP_M[unit]))
    return min(low, 0), max(high, 0)


TIRE_CHOICES: Final = tuple((name, TIRES[name]) for name in CORNERING)
PUSH_CHOICES: Final = tuple((one.value, PUSHES[one]) for one in Push)
COURSE_CHOICES: Final = tuple((one.value, COURSES[one]) for one in Course)
