"""The figures of a haul that nobody measured, each with its band and where to replace it."""

from __future__ import annotations

from dataclasses import dataclass
from urllib.parse import urlencode

from django.urls import reverse

from book.estimates import box_of
from hauls.estimates import Kept, estimates_title, kept_estimates
from hauls.loads import linked_loads
from hauls.models import Haul
from measures import UnitSystem
from mechanics.plan import Plan


@dataclass(frozen=True, kw_only=True, slots=True)
class Line:
    """One estimated figure: whose, its name, its band, why; ``address`` is where the figure itself
    goes, empty for a haul that is not of the book."""

    whose: str
    words: str
    band: str
    why: str
    instead: str
    address: str
    seats: str = ""
    """Where one tap says who rides in the truck; empty for any other figure."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Estimated:
    """All of them, for the list that the verdict opens."""

    lines: tuple[Line, ...]

    @property
    def title(self) -> str:
        """``3 figures are estimates``."""
        return estimates_title(len(self.lines))


def estimated(haul: Haul, plan: Plan, unit: UnitSystem) -> Estimated | None:
    """What of a haul is estimated; ``None`` where nothing is."""
    if not plan.estimated:
        return None
    pages = _Pages(haul)
    lines = [
        Line(
            whose=kept.whose,
            words=kept.told.words,
            band=kept.band(unit),
            why=kept.told.why,
            instead=kept.told.instead,
            address=pages.of(kept),
            seats=reverse("aboard", args=[haul.pk])
            if kept.name == "cargo" and haul.truck_id
            else "",
        )
        for kept in kept_estimates(plan)
    ]
    return Estimated(lines=tuple(lines)) if lines else None


class _Pages:
    """Pages of the book that a haul's figures came from; each comes back to the haul."""

    def __init__(self, haul: Haul) -> None:
        self._haul = haul
        self._back = urlencode({"back": reverse("haul", args=[haul.pk])})
        self._loads = linked_loads(haul)

    def of(self, kept: Kept) -> str:
        """Where one figure is entered."""
        box = box_of(kept.of, kept.name)
        if kept.of == "truck" and self._haul.truck_id:
            if box == "hitches" and self._haul.hitch_id:
                where = reverse("edit_hitch", args=[self._haul.truck_id, self._haul.hitch_id])
                return f"{where}?{self._back}#id_offset"
            return self._page("trucks", self._haul.truck_id, box)
        if kept.of == "trailer" and self._haul.trailer_id:
            return self._page("trailers", self._haul.trailer_id, box)
        load = self._loads.get(kept.item or "")
        if load is not None and load.machine is not None:
            return self._page("machines", load.machine.pk, box)
        return ""

    def _page(self, slug: str, pk: int, box: str) -> str:
        anchor = "id_loads-0-name" if box == "loads" else f"id_{box}"
        return f"{reverse('edit_thing', args=[slug, pk])}?{self._back}#{anchor}"
