"""What of a haul nobody measured, as its plan keeps it: every figure with its band."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from book.estimates import Measure
from measures import UnitSystem
from mechanics.item import Item
from mechanics.plan import Plan
from mechanics.typical import FRONT_PART, Estimate
from wording.estimates import TOLD, Told, band


@dataclass(frozen=True, kw_only=True, slots=True)
class Kept:
    """One estimated figure of a plan: whose, by the item's id of an item, and its band."""

    of: str
    name: str
    whose: str
    item: str | None
    measure: Measure
    estimate: Estimate

    @property
    def told(self) -> Told:
        """Its words."""
        return TOLD[self.of, self.name]

    def band(self, unit: UnitSystem) -> str:
        """Its band in the person's units."""
        return band(self.measure.value, self.estimate, unit)


def kept_estimates(plan: Plan) -> list[Kept]:
    """Every figure of a plan that was not measured: truck, trailer, then the items."""
    return [*_of_the_truck(plan), *_of_the_trailer(plan), *_of_the_items(plan)]


def estimates_title(count: int) -> str:
    """``3 figures are estimates``; empty of none."""
    if not count:
        return ""
    return "1 figure is an estimate" if count == 1 else f"{count} figures are estimates"


def _around(value: float, off: float) -> Estimate:
    return Estimate(least=value - off, most=value + off)


def _of_the_truck(plan: Plan) -> Iterator[Kept]:
    truck = plan.truck
    seated = next((c for c in truck.cargo if c.ahead_tolerance_m), None)
    bands = {
        "empty_mass": (Measure.MASS, _around(truck.empty_mass_kg, truck.empty_off_kg)),
        "front_share": (Measure.PART, FRONT_PART),
        "wheelbase": (Measure.LENGTH, _around(truck.wheelbase_m, truck.wheelbase_tolerance_m)),
        "hitch_offset": (
            Measure.LENGTH,
            _around(truck.hitch_offset_m, truck.hitch_offset_tolerance_m),
        ),
        "cargo": (
            Measure.MASS,
            _around(0.0, 0.0)
            if seated is None
            else _around(seated.mass_kg, seated.mass_tolerance_kg),
        ),
        "cargo.ahead_of_rear_axle": (
            Measure.LENGTH,
            _around(0.0, 0.0)
            if seated is None
            else _around(seated.ahead_of_rear_axle_m, seated.ahead_tolerance_m),
        ),
    }
    yield from _kept("truck", truck.name or "truck", None, truck.estimates, bands)


def _of_the_trailer(plan: Plan) -> Iterator[Kept]:
    trailer = plan.trailer
    bands = {
        "empty_mass": (
            Measure.MASS,
            _around(trailer.empty_mass_kg, trailer.empty_mass_tolerance_kg),
        ),
        "empty_tongue_mass": (
            Measure.MASS,
            _around(trailer.empty_tongue_mass_kg, trailer.empty_tongue_mass_tolerance_kg),
        ),
        "axles": (Measure.LENGTH, _around(trailer.axle_centre_m, trailer.axles_tolerance_m)),
        "deck.start": (
            Measure.LENGTH,
            _around(trailer.deck.start_m, trailer.deck.start_tolerance_m),
        ),
        "track_width": (
            Measure.LENGTH,
            _around(trailer.track_width_m, trailer.track_width_tolerance_m),
        ),
    }
    yield from _kept("trailer", trailer.name or "trailer", None, trailer.estimates, bands)


def _of_the_items(plan: Plan) -> Iterator[Kept]:
    for item in plan.items:
        yield from _kept("item", item.called, item.id, item.estimates, _item_bands(item))


def _item_bands(item: Item) -> dict[str, tuple[Measure, Estimate]]:
    height = item.cg.height_m or 0.0
    return {
        "mass": (Measure.MASS, _around(item.mass_kg, item.mass_tolerance_kg)),
        "cg.ahead": (Measure.AHEAD, _around(item.cg.ahead_m, item.cg.ahead_tolerance_m)),
        "cg.height": (Measure.LENGTH, _around(height, item.cg.height_tolerance_m)),
    }


def _kept(
    of: str,
    whose: str,
    item: str | None,
    names: tuple[str, ...],
    bands: dict[str, tuple[Measure, Estimate]],
) -> Iterator[Kept]:
    for name in names:
        if name in bands:
            measure, estimate = bands[name]
            yield Kept(of=of, name=name, whose=whose, item=item, measure=measure, estimate=estimate)
