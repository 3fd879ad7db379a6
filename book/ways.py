"""How far it is between two places of the book."""

from __future__ import annotations

from dataclasses import dataclass

from book.models import Place
from measures import UnitSystem
from measures.writing import write_in
from mechanics.typical import Estimate
from mechanics.way import by_road_m


@dataclass(frozen=True, kw_only=True, slots=True)
class Way:
    """A way in m, as typed or about, and ``how`` that is known."""

    length: Estimate
    how: str

    @property
    def sure(self) -> bool:
        """Whether somebody drove it."""
        return self.length.tolerance == 0


def way_between(one: Place, other: Place) -> Way | None:
    """By road from one to another: as typed where one of them is the yard itself, else by the
    coordinates of both; ``None`` where neither is known."""
    typed = _typed(one, other) or _typed(other, one)
    if typed is not None:
        return typed
    here, there = _degrees(one), _degrees(other)
    if here is None or there is None:
        return None
    return Way(length=by_road_m(here, there), how="by the coordinates, and what roads usually add")


def _typed(home: Place, place: Place) -> Way | None:
    if not home.home or place.from_yard is None:
        return None
    far = float(place.from_yard.si)
    return Way(length=Estimate(least=far, most=far), how="as it was driven")


def _degrees(place: Place) -> tuple[float, float] | None:
    if place.latitude is None or place.longitude is None:
        return None
    return float(place.latitude), float(place.longitude)


def way_words(way: Way, units: UnitSystem) -> str:
    """``18 mi``, ``about 16 to 22 mi``."""
    unit = units.bare_unit("distance")
    if way.sure:
        return write_in(way.length.value, unit)
    return f"about {write_in(way.length.least, unit)} to {write_in(way.length.most, unit)}"
