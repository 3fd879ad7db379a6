"""What a person holds on the planner's page: the draft with the page's own places."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Final

from aspects.rooms import ActionError, whole
from hauls.models import Haul
from mechanics.bounds import MOST_ITEMS
from mechanics.item import Facing
from mechanics.plan import Plan
from mechanics.rules import TongueSchool, TrailerGvwrSchool
from planfile.draft import Draft, Held

TIMES: Final = ("1", "5", "10")
"""How often tilt and squat can be drawn larger."""

FACINGS: Final = tuple(facing.value for facing in Facing)


class State:
    """What the person holds: the draft with the page's own places and school.

    Built from what is stored and the fields the page sent, so that a page that is behind
    still shows what its person did.
    """

    def __init__(self, haul: Haul, sent: Mapping[str, Any] | None = None) -> None:
        self.haul = haul
        self.draft: Draft = haul.draft
        self.base = haul.revision
        self.selected: int | None = 0 if self.draft.plan.items else None
        self.open = ""
        self.landed = ""
        self.times = 1
        self.undo = ""
        if sent is not None:
            self._overlay(sent)

    def _overlay(self, sent: Mapping[str, Any]) -> None:
        self.base = whole(sent.get("base"), self.haul.revision)
        self.open = str(sent.get("open", ""))[:200]
        self.set_times(str(sent.get("tilt", "1")))
        self.undo = str(sent.get("undo", ""))[:200]
        self.draft = self.draft.holding(
            [_held(sent, n) for n in range(min(whole(sent.get("count"), 0), MOST_ITEMS))]
        )
        self.pick(whole(sent.get("selected"), 0))
        school = str(sent.get("tongue", ""))
        if school:
            self.set_school(school, str(sent.get("share_min", "")), str(sent.get("share_max", "")))
        gvwr = str(sent.get("gvwr", ""))
        if gvwr:
            self.set_gvwr(gvwr)

    @property
    def plan(self) -> Plan:
        """The plan as held."""
        return self.draft.plan

    @property
    def changed(self) -> bool:
        """Whether what is held differs from what is stored."""
        return self.draft != self.haul.draft

    def pick(self, index: int) -> None:
        """Take an item in hand; of an index past either end, the one at that end."""
        if self.selected is not None:
            self.selected = min(max(index, 0), len(self.plan.items) - 1)

    def set_times(self, times: str) -> None:
        """How many times tilt and squat are drawn; anything else is as they are."""
        self.times = int(times) if times in TIMES else 1

    def set_school(self, school: str, least: str, greatest: str) -> None:
        """Hold another school of tongue share.

        Raises:
            ActionError: an unknown school, or fractions that are none.
        """
        if school not in {s.value for s in TongueSchool}:
            raise ActionError("That rule of tongue share is not known.")
        share = None
        if school == TongueSchool.CUSTOM.value:
            share = _percent(least), _percent(greatest)
            if share[0] > share[1]:
                raise ActionError("The least share is above the greatest. Change one of them.")
        rules = self.plan.rules
        own = None if rules.share_min is None else (rules.share_min, rules.share_max)
        if (rules.tongue.value, own) != (school, share):
            self.draft = self.draft.with_school(TongueSchool(school), share)

    def set_gvwr(self, school: str) -> None:
        """Hold the trailer's plate against the whole trailer or against its axles.

        Raises:
            ActionError: an unknown school.
        """
        if school not in {s.value for s in TrailerGvwrSchool}:
            raise ActionError("Choose what counts against the trailer's plate from the list.")
        self.draft = self.draft.with_gvwr_school(TrailerGvwrSchool(school))


def _held(sent: Mapping[str, Any], n: int) -> Held:
    """The place of the n-th item as the page sent it; what it did not send stays."""
    numbers = {}
    for name in ("reference", "left"):
        text = sent.get(f"{name}-{n}")
        numbers[name] = None if text is None else finite(text)
    facing = sent.get(f"facing-{n}")
    return Held(
        id=str(sent.get(f"id-{n}", "")),
        facing=facing if facing in FACINGS else None,
        **numbers,
    )


def finite(text: Any) -> float:
    """A number that the page sent.

    Raises:
        ActionError: it is none.
    """
    try:
        number = float(str(text))
    except ValueError:
        raise ActionError("The page sent a place that is not a number. Reload it.") from None
    if not abs(number) < 1e9:
        raise ActionError("The page sent a place that is not a number. Reload it.")
    return number


def _percent(text: str) -> float:
    cleaned = text.replace("%", "").replace(",", ".").strip()
    try:
        number = float(cleaned)
    except ValueError:
        raise ActionError(f"“{text[:20]}” is not a percentage. Write it like 12.", text) from None
    if not 0 <= number <= 100:
        raise ActionError("A share lies between 0 and 100 %.", text)
    return round(number / 100, 10)
