"""One haul whole: truck, hitch, trailer, items, rules."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace

from mechanics.bounds import MOST_ITEMS
from mechanics.errors import InputError
from mechanics.hitch import Hitch
from mechanics.item import Item, Placement
from mechanics.rules import Rules
from mechanics.site import Site
from mechanics.ties import Securing
from mechanics.trailer import Trailer
from mechanics.truck import Truck


@dataclass(frozen=True, kw_only=True, slots=True)
class Plan:
    """Everything a report needs. Item ids are unique; no items is a plan too.

    ``site`` is where it is loaded; nothing of it matters on the road. ``securing`` is how it is
    tied down, ``None`` where the plan says nothing of that.
    """

    truck: Truck
    hitch: Hitch
    trailer: Trailer
    items: tuple[Item, ...] = ()
    rules: Rules = field(default_factory=Rules)
    site: Site = field(default_factory=Site)
    securing: Securing | None = None

    def __post_init__(self) -> None:
        if any(number > len(self.trailer.axles) for number in self.site.held_trailer_axles):
            raise InputError("site.held_trailer_axles", "numbers of axles the trailer has")
        if len(self.items) > MOST_ITEMS:
            raise InputError("items", f"at most {MOST_ITEMS} loads")
        seen: set[str] = set()
        for index, item in enumerate(self.items):
            if item.id in seen:
                raise InputError(f"items[{index}].id", "an id that no other item has")
            seen.add(item.id)
        if self.securing is not None:
            self._check_ties(self.securing)

    def _check_ties(self, securing: Securing) -> None:
        """Ties run between places that there are."""
        points = {item.id: {point.id for point in item.points} for item in self.items}
        anchors = {anchor.id for anchor in self.trailer.anchors}
        seen: set[str] = set()
        for n, tie in enumerate(securing.ties):
            path = f"securing.ties[{n}]"
            if tie.id in seen:
                raise InputError(f"{path}.id", "an id that no other tie has")
            seen.add(tie.id)
            if tie.item not in points:
                raise InputError(f"{path}.item", "the id of an item")
            if tie.point not in points[tie.item]:
                raise InputError(f"{path}.point", "the id of a point of that item")
            if tie.anchor not in anchors:
                raise InputError(f"{path}.anchor", "the id of an anchor of the trailer")
            if tie.over is not None and tie.over not in anchors:
                raise InputError(f"{path}.over", "the id of an anchor of the trailer")

    @property
    def estimated(self) -> bool:
        """Whether any figure of it is one that nobody measured."""
        return bool(
            self.truck.estimates
            or self.trailer.estimates
            or any(item.estimates for item in self.items)
        )

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

    def carrying(self, items: Sequence[Item]) -> Plan:
        """The same plan with these items aboard, and the ties of those that it still has points
        for."""
        securing = self.securing
        if securing is not None:
            points = {(item.id, point.id) for item in items for point in item.points}
            ties = tuple(tie for tie in securing.ties if (tie.item, tie.point) in points)
            securing = replace(securing, ties=ties)
        return replace(self, items=tuple(items), securing=securing)

    def with_placement(self, item_id: str, placement: Placement) -> Plan:
        """The same plan with one item standing elsewhere."""
        self.item(item_id)
        items = tuple(replace(i, placement=placement) if i.id == item_id else i for i in self.items)
        return replace(self, items=items)
