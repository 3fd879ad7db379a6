"""A haul's document as one immutable value over its typed plan.

The only place that places, turns, converts and rounds what a document holds. A
:class:`Draft` keeps the document exactly as it was read, ``extra`` objects and all, and
the plan in SI that it stands for; every change gives another draft, valid from birth.
Whoever stores it asks for :meth:`Draft.json`.
"""

from __future__ import annotations

import copy
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any, Final, Self

from mechanics.item import Facing
from mechanics.placing import moved, reach, sideways_reach, turned, within_reach
from mechanics.plan import Plan
from mechanics.rules import TongueSchool, TrailerGvwrSchool
from mechanics.units import LengthUnit, MassUnit
from planfile import climbing, tying
from planfile.climbing import Place, RampSet, Tread, UsualUnderside, Winch, inner
from planfile.convert import Scale, to_site
from planfile.document import (
    Hitch,
    Item,
    PlanDocument,
    Rules,
    Securing,
    Site,
    Trailer,
    Truck,
)
from planfile.plain import plain
from planfile.reading import parse_document, read_document, read_plan
from planfile.tying import keeping_places, without_loose_ties

DIGITS: Final = 6
"""Decimals of a length or mass that is worked out: far below any scale or tape."""

USUAL_MARK: Final = "mark"
"""What a mark is called that has no word of its own."""


def tidy(number: float) -> float | int:
    """A worked-out figure, rounded far below what any scale or tape can show."""
    rounded = round(number, DIGITS)
    return int(rounded) if rounded == int(rounded) else rounded


@dataclass(frozen=True, kw_only=True, slots=True)
class Units:
    """The units one document is written in, and figures in them."""

    mass: MassUnit
    length: LengthUnit

    def kg(self, kilograms: float) -> float | int:
        """A worked-out mass in the document's unit."""
        return tidy(kilograms / self.mass.kg)

    def rate(self, kg_per_m: float) -> float | int:
        """A worked-out mass per length in the document's units."""
        return tidy(kg_per_m / self.mass.kg * self.length.m)

    def metres(self, metres: float) -> float | int:
        """A worked-out length in the document's unit."""
        return tidy(metres / self.length.m)


@dataclass(frozen=True, kw_only=True, slots=True)
class Drawn:
    """How an item is drawn, and the word for its mark; none of it takes part in a figure."""

    shape: str = "tractor"
    mark: str = USUAL_MARK
    wheelbase_m: float | None = None

    @property
    def drives(self) -> bool:
        """Whether it is driven or pulled on; anything else is set down."""
        return self.shape not in ("pallet", "implement") and not self.shape.startswith("heap")


@dataclass(frozen=True, kw_only=True, slots=True)
class Look:
    """What of an outfit is only drawn or told: the trailer's tail, sides and fenders, the length of
    gate or ramps, its kind where the format has no word for it; the truck's cab, and whether it has
    dual rear wheels."""

    tail: str = ""
    sides: str = ""
    fenders: str = ""
    ramp_m: float = 1.2
    kind: str = ""
    cab: str = ""
    dual: bool = False


@dataclass(frozen=True, kw_only=True, slots=True)
class Held:
    """An item's place as a page holds it, in the document's own unit; ``None``: as it is."""

    id: str
    reference: float | None = None
    facing: str | None = None
    left: float | None = None


@dataclass(frozen=True, slots=True)
class Draft:
    """A haul's document and its plan."""

    _raw: dict[str, Any]
    plan: Plan

    @classmethod
    def read(cls, raw: Any) -> Self:
        """The draft of a document that is already parsed.

        Raises:
            PlanFileError: the document is not a valid plan.
        """
        return cls(raw, read_document(raw))

    @classmethod
    def of_file(cls, data: bytes) -> Self:
        """The draft of a plan file, kept exactly as the file has it.

        Raises:
            PlanFileError: the file is not a valid plan.
        """
        return cls(*read_plan(data))

    @classmethod
    def bare(
        cls,
        *,
        name: str,
        units: Units,
        truck: Truck,
        hitch: Hitch,
        trailer: Trailer,
        rules: Rules,
    ) -> Self:
        """A draft with nothing on the deck.

        Raises:
            PlanFileError: the figures do not make a valid plan.
        """
        return cls.read(
            {
                "format": "eyebolt.plan",
                "version": 1,
                "name": name,
                "units": {"mass": units.mass.value, "length": units.length.value},
                "truck": plain(truck),
                "hitch": plain(hitch),
                "trailer": plain(trailer),
                "items": [],
                "rules": plain(rules),
            }
        )

    def json(self) -> dict[str, Any]:
        """The document to keep or hand out; a copy, so that nobody changes this one."""
        return copy.deepcopy(self._raw)

    # --- what it says beside the plan ---

    @property
    def name(self) -> str:
        """What the haul is called; may be empty."""
        return str(self._raw.get("name") or "")

    @property
    def units(self) -> Units:
        """The units it is written in."""
        units = self._raw["units"]
        return Units(mass=MassUnit(units["mass"]), length=LengthUnit(units["length"]))

    @property
    def truck_name(self) -> str:
        """What the truck is called."""
        return self.plan.truck.name or "truck"

    @property
    def trailer_name(self) -> str:
        """What the trailer is called."""
        return self.plan.trailer.name or "trailer"

    @property
    def item_ids(self) -> tuple[str, ...]:
        """The items' ids, in their order."""
        return tuple(item.id for item in self.plan.items)

    @property
    def drawn(self) -> tuple[Drawn, ...]:
        """How each item is drawn, in their order."""
        return tuple(self._drawn(item) for item in self._items)

    def _drawn(self, item: dict[str, Any]) -> Drawn:
        kept = inner(inner(item, "extra"), "drawn")
        return Drawn(
            shape=str(kept.get("shape", Drawn().shape)),
            mark=str(kept.get("mark", USUAL_MARK)),
            wheelbase_m=self._length(kept.get("wheelbase")),
        )

    @property
    def marks(self) -> dict[str, str]:
        """The word for each item's mark, by the item's id."""
        return dict(zip(self.item_ids, (drawn.mark for drawn in self.drawn), strict=True))

    @property
    def look(self) -> Look:
        """How truck and trailer are drawn."""
        truck = inner(inner(self._raw["truck"], "extra"), "drawn")
        kept = inner(inner(self._raw["trailer"], "extra"), "drawn")
        ramp = self.plan.trailer.ramp
        length = self._length(kept.get("ramp_length")) if ramp is None else ramp.length_m
        return Look(
            tail=str(kept.get("tail", "")),
            sides=str(kept.get("sides", "")),
            fenders=str(kept.get("fenders", "")),
            ramp_m=Look().ramp_m if length is None else length,
            kind=str(kept.get("kind", "")),
            cab=str(truck.get("cab", "")),
            dual=truck.get("rear_wheels") == "dual",
        )

    @property
    def unbraked(self) -> bool:
        """Whether the book said that no axle of the trailer has a brake."""
        return bool(inner(self._raw["trailer"], "extra").get("brakes") == "none")

    @property
    def ramps(self) -> RampSet:
        """How wide the ramps are and how far apart they go."""
        return climbing.ramp_set(inner(self._raw["trailer"], "extra"), self._length)

    @property
    def winch(self) -> Winch | None:
        """The trailer's winch."""
        extra = inner(self._raw["trailer"], "extra")
        return climbing.winch(extra, self._length, self._mass)

    @property
    def treads(self) -> tuple[Tread, ...]:
        """How wide each item stands, in their order."""
        return tuple(climbing.tread(inner(i, "extra"), self._length) for i in self._items)

    @property
    def usual_undersides(self) -> tuple[UsualUnderside | None, ...]:
        """Usual low points of each item that has none of its own, in their order."""
        per_m = self.units.length.m
        return tuple(climbing.usual_underside(inner(i, "extra"), per_m) for i in self._items)

    def site(self, place: Place) -> Site:
        """Where it is loaded, or unloaded: the same place where none is kept."""
        found = climbing.unloading_site(inner(self._raw, "extra"))
        if place is Place.LOADING or found is None:
            return self.parsed().site
        return found

    @property
    def forbidden(self) -> tuple[tuple[tying.Forbidden, ...], ...]:
        """Places of each item that nothing may be hooked to, in their order."""
        per_m = self.units.length.m
        return tuple(tying.forbidden(inner(item, "extra"), per_m) for item in self._items)

    @property
    def guesses(self) -> tying.Guesses:
        """Anchors and points that are not taped."""
        return tying.guesses(self.parsed())

    def plan_at(self, place: Place) -> Plan:
        """The plan, standing where it is loaded or unloaded."""
        if place is Place.LOADING:
            return self.plan
        units = self.units
        site = to_site(self.site(place), Scale(units.mass.value, units.length.value))
        axles = len(self.plan.trailer.axles)
        held = tuple(number for number in site.held_trailer_axles if number <= axles)
        return replace(self.plan, site=replace(site, held_trailer_axles=held))

    @property
    def bar_length_m(self) -> float | None:
        """How long spring bars are that hang slack, no give-back being chosen."""
        return self._length(inner(self._raw["hitch"], "extra").get("bar_length"))

    @property
    def held(self) -> tuple[Held, ...]:
        """The items' places in the document's own unit."""
        found = []
        for item in self._items:
            placement = item["placement"]
            found.append(
                Held(
                    id=item["id"],
                    reference=placement["reference"],
                    facing=placement.get("facing", Facing.FORWARD.value),
                    left=placement.get("left", 0),
                )
            )
        return tuple(found)

    @property
    def _items(self) -> Sequence[dict[str, Any]]:
        items: Sequence[dict[str, Any]] = self._raw.get("items", ())
        return items

    def parsed(self) -> PlanDocument:
        """The document as typed structures: what it leaves to the format's defaults and what it
        writes out are alike there."""
        return parse_document(self._raw)

    def _length(self, number: Any) -> float | None:
        """Metres of a length kept in an ``extra`` object; ``None`` for anything else."""
        if isinstance(number, bool) or not isinstance(number, (int, float)) or number <= 0:
            return None
        return float(number) * self.units.length.m

    def _mass(self, number: Any) -> float | None:
        """The same of kilograms."""
        metres = self._length(number)
        return None if metres is None else metres / self.units.length.m * self.units.mass.kg

    # --- the same otherwise ---

    def renamed(self, name: str) -> Self:
        """Under another name."""
        return type(self)({**self._raw, "name": name}, self.plan)

    def stood(self, plan: Plan) -> Self:
        """With the items standing as ``plan`` has them, brought to the document's digits."""
        length = self.units.length
        items = []
        for item in self._items:
            place = plan.item(item["id"]).placement
            if place == self.plan.item(item["id"]).placement:
                # what stays keeps the digits it was given
                items.append(item)
                continue
            items.append(
                _placed(
                    item,
                    reference=round(place.reference_m / length.m, DIGITS),
                    facing=place.facing.value,
                    left=round(place.left_m / length.m, DIGITS),
                )
            )
        return self._with_items(items)

    def put(self, index: int, reference_m: float, *, turn: bool = False) -> Self:
        """With one item's mark elsewhere, within reach of the deck; turned round where asked."""
        plan = turned(self.plan, index) if turn else self.plan
        at = round(within_reach(plan, index, reference_m) / self.units.length.m, DIGITS)
        facing = plan.items[index].placement.facing.value if turn else None
        item = _placed(self._items[index], reference=at, facing=facing)
        return self._with_item(index, item, moved(plan, index, at * self.units.length.m))

    def put_sideways(self, index: int, left_m: float) -> Self:
        """With one item elsewhere across the deck, within reach of it."""
        most = sideways_reach(self.plan)
        per = self.units.length.m
        left = round(min(max(left_m, -most), most) / per, DIGITS)
        item = self.plan.items[index]
        place = replace(item.placement, left_m=left * per)
        plan = self.plan.with_placement(item.id, place)
        return self._with_item(index, _placed(self._items[index], left=left), plan)

    def turned(self, index: int) -> Self:
        """With one item turned round on the piece of deck it covers."""
        at = turned(self.plan, index).items[index].placement.reference_m
        return self.put(index, at, turn=True)

    def holding(self, held: Sequence[Held]) -> Self:
        """With the items' places as a page holds them; items it does not name stay."""
        by_id = {one.id: one for one in held}
        items, plan, per = [], self.plan, self.units.length.m
        for standing in self._items:
            item, one = standing, by_id.get(standing["id"])
            if one is not None:
                item = _placed(item, reference=one.reference, facing=one.facing, left=one.left)
                place = plan.item(one.id).placement
                plan = plan.with_placement(
                    one.id,
                    replace(
                        place,
                        reference_m=item["placement"]["reference"] * per,
                        facing=Facing(item["placement"].get("facing", Facing.FORWARD.value)),
                        left_m=item["placement"].get("left", 0) * per,
                    ),
                )
            items.append(item)
        return type(self)({**self._raw, "items": items}, plan) if items else self

    def reach(self, index: int) -> tuple[float, float]:
        """How far an item's mark may be moved, in metres."""
        return reach(self.plan, index)

    def with_school(self, school: TongueSchool, share: tuple[float, float] | None = None) -> Self:
        """Under another school of tongue share; ``share`` goes with the yard's own numbers.

        Raises:
            PlanFileError: the two shares do not go together.
        """
        kept = self._raw.get("rules", {})
        rules = {k: v for k, v in kept.items() if k not in ("share_min", "share_max")}
        rules["tongue"] = school.value
        if share is not None:
            rules |= {"share_min": share[0], "share_max": share[1]}
        return self._again({"rules": rules})

    def with_gvwr_school(self, school: TrailerGvwrSchool) -> Self:
        """With the trailer's plate held against the whole trailer or against its axles."""
        if self.plan.rules.trailer_gvwr is school:
            return self
        rules = {**self._raw.get("rules", {}), "trailer_gvwr": school.value}
        return self._again({"rules": rules})

    def with_site(self, site: Site, place: Place) -> Self:
        """With another place of loading, or of unloading.

        Raises:
            PlanFileError: its figures do not make a valid place.
        """
        if place is Place.LOADING:
            return self._again({"site": plain(site)})
        extra = {**inner(self._raw, "extra"), climbing.UNLOADING: plain(site)}
        return self._again({"extra": extra})

    def with_securing(self, securing: Securing) -> Self:
        """Tied down otherwise.

        Raises:
            PlanFileError: its figures do not make a valid plan.
        """
        return self._again({"securing": plain(securing)})

    def with_bars(self, part: float | None) -> Self:
        """With spring bars that give a part back; with ``None`` hung slack.

        How long they are is remembered either way.
        """
        hitch = dict(self._raw["hitch"])
        bars = hitch.pop("weight_distribution", None) or {}
        extra = inner(hitch, "extra")
        length = bars.get("bar_length", extra.get("bar_length"))
        if part is not None:
            kept = bars or ({} if length is None else {"bar_length": length})
            hitch["weight_distribution"] = {**kept, "front_axle_restoration": round(part, 4)}
        elif length is not None:
            hitch["extra"] = {**extra, "bar_length": length}
        return self._again({"hitch": hitch})

    def with_outfit(
        self,
        *,
        truck: Truck | None = None,
        hitch: Hitch | None = None,
        trailer: Trailer | None = None,
    ) -> Self:
        """With another truck, hitch or trailer; ``None`` leaves one as it is.

        Raises:
            PlanFileError: the figures do not make a valid plan.
        """
        parts = {"truck": truck, "hitch": hitch, "trailer": trailer}
        changed = {k: plain(part) for k, part in parts.items() if part is not None}
        before = self._raw["trailer"]
        if "trailer" in changed and changed["trailer"].get("name") == before.get("name"):
            changed["trailer"] = keeping_places(changed["trailer"], before, "anchors")
        held = inner(self._raw, "site").get("held_trailer_axles", [])
        if trailer is not None and any(number > len(trailer.axles) for number in held):
            kept = [number for number in held if number <= len(trailer.axles)]
            changed["site"] = {**self._raw["site"], "held_trailer_axles": kept}
        return self._again(changed)

    def with_item(self, item: Item) -> Self:
        """With one more item, as it is placed, or in place of the one with its id.

        Raises:
            PlanFileError: its figures do not make a valid item.
        """
        section = plain(item)
        items = [section if one["id"] == item.id else one for one in self._items]
        if item.id not in self.item_ids:
            items.append(section)
        return self._again({"items": items})

    def with_figures(self, item: Item) -> Self:
        """With other figures of the item of that id, standing where it stands.

        How near its mark it stops goes with the figures.

        Raises:
            PlanFileError: its figures do not make a valid item.
        """
        section, items = plain(item), []
        for standing in self._items:
            one = standing
            if one["id"] == item.id:
                placement = {**one["placement"]}
                placement.pop("reference_tolerance", None)
                doubt = section["placement"].get("reference_tolerance")
                if doubt:
                    placement["reference_tolerance"] = doubt
                one = keeping_places({**section, "placement": placement}, standing, "points")
            items.append(one)
        return self._again({"items": items})

    def keeping(self, item_ids: Sequence[str]) -> Self:
        """With only the items of those ids, in the order they have."""
        return self._with_items([item for item in self._items if item["id"] in item_ids])

    def free_id(self) -> str:
        """An id that no item has yet."""
        taken = set(self.item_ids)
        return next(f"m{n}" for n in range(1, len(taken) + 2) if f"m{n}" not in taken)

    def _with_item(self, index: int, item: dict[str, Any], plan: Plan) -> Self:
        items = [item if k == index else one for k, one in enumerate(self._items)]
        return type(self)({**self._raw, "items": items}, plan)

    def _with_items(self, items: list[dict[str, Any]]) -> Self:
        return self._again({"items": items})

    def _again(self, changed: dict[str, Any]) -> Self:
        return self.read(without_loose_ties({**self._raw, **changed}))


def _placed(
    item: dict[str, Any],
    *,
    reference: float | None = None,
    facing: str | None = None,
    left: float | None = None,
) -> dict[str, Any]:
    """An item of the document standing elsewhere; what is usual is only written where it was."""
    placement = {**item["placement"]}
    if reference is not None:
        placement["reference"] = _whole(reference)
    if facing is not None and (facing != Facing.FORWARD.value or "facing" in placement):
        placement["facing"] = facing
    if left is not None and (left or "left" in placement):
        placement["left"] = _whole(left)
    return {**item, "placement": placement}


def _whole(number: float) -> float | int:
    """A whole number without its decimal point, as people write it."""
    return int(number) if number == int(number) else number


@dataclass(frozen=True, kw_only=True, slots=True)
class Glance:
    """What a document calls its parts, read without reading the rest; it may be no valid plan."""

    truck: str
    trailer: str
    items: tuple[str, ...]


def glance(raw: Any) -> Glance:
    """The names in a document, for a list of many."""
    document = raw if isinstance(raw, dict) else {}
    items = document.get("items")
    return Glance(
        truck=str(inner(document, "truck").get("name") or "truck"),
        trailer=str(inner(document, "trailer").get("name") or "trailer"),
        items=tuple(
            str(item.get("name") or item.get("id", ""))
            for item in (items if isinstance(items, list) else ())
            if isinstance(item, dict)
        ),
    )
