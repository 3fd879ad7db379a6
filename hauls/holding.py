"""What a person holds on the planner's page: the document with the page's own places."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from hauls.models import Haul
from hauls.services.haul import placed, set_reference
from mechanics.plan import Plan
from mechanics.rules import TongueSchool, TrailerGvwrSchool
from mechanics.units import LengthUnit
from planfile.reading import read_document

TIMES = ("1", "5", "10")
"""How often tilt and squat can be drawn larger."""


class ActionError(ValueError):
    """An action that cannot be done as asked; the message is for the person.

    ``typed`` is what was entered, to be kept in its box.
    """

    def __init__(self, message: str, typed: str = "") -> None:
        self.typed = typed
        super().__init__(message)


class State:
    """What the person holds: the document with the page's own places and school.

    Built from the stored document and the fields the page sent, so that a page that is
    behind still shows what its person did.
    """

    def __init__(self, haul: Haul, sent: Mapping[str, Any] | None = None) -> None:
        self.haul = haul
        stored = haul.document
        # only places and rules are ever changed here; the rest is shared with what is stored
        self.document: dict[str, Any] = {**stored}
        if "items" in stored:
            self.document["items"] = [
                {**item, "placement": {**item["placement"]}} for item in stored["items"]
            ]
        if "rules" in stored:
            self.document["rules"] = {**stored["rules"]}
        self.base = haul.revision
        self.selected: int | None = 0 if stored.get("items") else None
        self.open = ""
        self.landed = ""
        self.times = 1
        self.undo = ""
        self._plan: Plan | None = None
        if sent is not None:
            self._overlay(sent)

    def _overlay(self, sent: Mapping[str, Any]) -> None:
        self.base = whole(sent.get("base"), self.haul.revision)
        self.open = str(sent.get("open", ""))[:200]
        self.set_times(str(sent.get("tilt", "1")))
        self.undo = str(sent.get("undo", ""))[:200]
        by_id = {item["id"]: item for item in self.document.get("items", [])}
        for n in range(whole(sent.get("count"), 0)):
            item = by_id.get(str(sent.get(f"id-{n}", "")))
            if item is None:
                continue
            placement = item["placement"]
            for name in ("reference", "left"):
                text = sent.get(f"{name}-{n}")
                if text is not None and (
                    name != "left" or float(finite(text)) or "left" in placement
                ):
                    number = finite(text)
                    placement[name] = int(number) if number == int(number) else number
            facing = sent.get(f"facing-{n}")
            if facing in ("forward", "backward") and (facing != "forward" or "facing" in placement):
                placement["facing"] = facing
        if self.selected is not None:
            count = len(self.document["items"])
            self.selected = min(max(whole(sent.get("selected"), 0), 0), count - 1)
        school = str(sent.get("tongue", ""))
        if school:
            self.set_school(school, str(sent.get("share_min", "")), str(sent.get("share_max", "")))
        gvwr = str(sent.get("gvwr", ""))
        if gvwr:
            self.set_gvwr(gvwr)

    def plan(self) -> Plan:
        """The plan as held.

        Raises:
            PlanFileError: what the page sent does not make a valid plan.
        """
        if self._plan is None:
            self._plan = read_document(self.document)
        return self._plan

    def set_times(self, times: str) -> None:
        """How many times tilt and squat are drawn; anything else is as they are."""
        self.times = int(times) if times in TIMES else 1

    def put(self, index: int, reference_m: float, *, turn: bool = False) -> None:
        """Stand an item elsewhere, within reach of the deck; turned round where asked."""
        plan = self.plan()
        if turn:
            plan = placed(plan, index, turn=True)
            placement = self.document["items"][index]["placement"]
            placement["facing"] = plan.items[index].placement.facing.value
        low, high = reach(plan, index)
        set_reference(self.document, index, min(max(reference_m, low), high))
        per = LengthUnit(self.document["units"]["length"]).m
        kept = self.document["items"][index]["placement"]["reference"] * per
        self._plan = placed(plan, index, reference_m=kept)

    def put_sideways(self, index: int, left_m: float) -> None:
        """Stand an item to the driver's left of the middle, within reach of the deck."""
        plan = self.plan()
        most = sideways_reach(plan)
        per = LengthUnit(self.document["units"]["length"]).m
        left = round(min(max(left_m, -most), most) / per, 6)
        placement = self.document["items"][index]["placement"]
        if left or "left" in placement:
            placement["left"] = left
        place = plan.items[index].placement
        self._plan = plan.with_placement(
            plan.items[index].id,
            replace(place, left_m=left * per),
        )

    def set_school(self, school: str, least: str, greatest: str) -> None:
        """Hold another school of tongue share.

        Raises:
            ActionError: an unknown school, or fractions that are none.
        """
        if school not in {s.value for s in TongueSchool}:
            raise ActionError("That school of tongue share is not known.")
        self._plan = None
        rules = self.document.setdefault("rules", {})
        if school == TongueSchool.CUSTOM.value:
            low, high = _percent(least), _percent(greatest)
            if low > high:
                raise ActionError("The least share is above the greatest. Change one of them.")
            rules |= {"tongue": school, "share_min": low, "share_max": high}
        else:
            rules["tongue"] = school
            rules.pop("share_min", None)
            rules.pop("share_max", None)

    def set_gvwr(self, school: str) -> None:
        """Hold the trailer's plate against the whole trailer or against its axles.

        Raises:
            ActionError: an unknown school.
        """
        if school not in {s.value for s in TrailerGvwrSchool}:
            raise ActionError("Choose what counts against the trailer's plate from the list.")
        usual = TrailerGvwrSchool.WHOLE.value
        if self.document.get("rules", {}).get("trailer_gvwr", usual) == school:
            return
        self._plan = None
        self.document.setdefault("rules", {})["trailer_gvwr"] = school


def reach(plan: Plan, index: int) -> tuple[float, float]:
    """How far the mark may be moved: the item stays within reach of the deck."""
    item, deck = plan.items[index], plan.trailer.deck
    return (
        min(item.reach_forward_m - deck.front_overhang_m - 1.0, 0.0),
        max(deck.length_m + deck.rear_overhang_m + 1.0 - item.reach_rearward_m, deck.length_m),
    )


def sideways_reach(plan: Plan) -> float:
    """How far to either side of the middle a balance point's line may be moved."""
    deck = plan.trailer.deck
    return (deck.width_m or plan.trailer.track_width_m) / 2


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


def whole(text: Any, fallback: int) -> int:
    """A whole number that the page sent, or the fallback."""
    try:
        return int(str(text))
    except ValueError:
        return fallback


def _percent(text: str) -> float:
    cleaned = text.replace("%", "").replace(",", ".").strip()
    try:
        number = float(cleaned)
    except ValueError:
        raise ActionError(f"“{text[:20]}” is not a percentage. Write it like 12.", text) from None
    if not 0 <= number <= 100:
        raise ActionError("A share lies between 0 and 100 %.", text)
    return round(number / 100, 10)
