"""One haul whole: truck, hitch, trailer, items, rules."""

from __future__ import annotations

from dataclasses import dataclass, field, replace

from mechanics.errors import InputError
from mechanics.hitch import Hitch
from mechanics.item import Item, Placement
from mechanics.rules import Rules
from mechanics.site import Site
from mechanics.trailer import Trailer
from mechanics.truck import Truck


@dataclass(frozen=True, kw_only=True, slots=True)
class Plan:
    """Everything a report needs. Item ids are unique; no items is a plan too.

    ``site`` is where it is loaded; nothing of it matters on the road.
    """

    truck: Truck
    hitch: Hitch
    trailer: Trailer
    items: tuple[Item, ...] = ()
    rules: Rules = field(default_factory=Rules)
    site: Site = field(default_factory=Site)

    def __post_init__(self) -> None:
        if any(number > len(self.trailer.axles) for number in self.site.held_trailer_axles):
            raise InputError("site.held_trailer_axles", "numbers of axles the trailer has")
        seen: set[str] = set()
        for index, item in enumerate(self.items):
            if item.id in seen:
                raise InputError(f"items[{index}].id", "an id that no other item has")
            seen.add(item.id)

    @property
    def share_range(self) -> tuple[float, float]:
        """Least and greatest tongue share under the plan's school."""
        return self.rules.share_range(self.hitch.type, len(self.trailer.axles))

    def item(self, item_id: str) -> Item:
        """The item of that id.

        Raises:
            KeyError: no item has it.
        """
        for item in self.items:
            if item.id == item_id:
                return item
        raise KeyError(item_id)

    def with_placement(self, item_id: str, placement: Placement) -> Plan:
        """The same plan with one item standing elsewhere."""
        self.item(item_id)
        items = tuple(replace(i, placement=placement) if i.id == item_id else i for i in self.items)
        return replace(self, items=items)
