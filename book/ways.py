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
    """By road from one to another: as typed at either, or as ``from_yard`` where one of them is the
    yard itself, else by the coordinates of both; without those, of two places whose way from the
    yard is typed, no farther than by way of it. ``None`` where none of that is known."""
    typed = _typed(one, other) or _typed(other, one)
    if typed is not None:
        return typed
    here, there = _degrees(one), _degrees(other)
    if here is not None and there is not None:
        how = "by the coordinates, and what roads usually add"
        return Way(length=by_road_m(here, there), how=how)
    if one.from_yard is None or other.from_yard is None:
        return None
    far, near = float(one.from_yard.si), float(other.from_yard.si)
    return Way(
        length=Estimate(least=abs(far - near), most=far + near), how="by way of the yard at most"
    )


def _typed(one: Place, other: Place) -> Way | None:
    lengths = [way.distance for way in one.ways.all() if way.name == other.name]
    if one.home and other.from_yard is not None:
        lengths.insert(0, other.from_yard)
    if not lengths:
        return None
    far = float(lengths[0].si)
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
