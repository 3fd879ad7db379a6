"""The page of getting on and off: one machine, at one of the haul's two ends."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any, Final
from urllib.parse import urlencode

from django.urls import reverse

from aspects.on_off.around import Around, around
from aspects.on_off.curves import Chart, chart, nearest
from aspects.on_off.measures import Offered, offered
from aspects.on_off.pulling import PullPage, pull_page
from aspects.on_off.scene import Painter, Scene
from aspects.on_off.site_form import (
    HOW_TO,
    SURFACE_CHOICES,
    TOO_STEEP,
    Held,
    SiteBoxes,
    boxes_of,
)
from aspects.on_off.stations import Teller
from aspects.on_off.words import Said, finding_rows, said
from book.kinds import slug_of
from hauls.climbs import clear_by_usual, driven, verdict
from hauls.loads import linked_loads
from hauls.models import Haul
from measures.writing import UnitSystem, in_units_of
from mechanics.checks import Status
from mechanics.errors import InputError
from mechanics.loading import Way, way
from mechanics.plan import Plan
from mechanics.truck import Drive
from pictures.drawing import Drawing, plain_picture
from planfile.climbing import Place
from planfile.draft import Draft
from wording.inputs import missing_of
from wording.loading import FindingWords, slope_words, way_up_words
from wording.phrases import begun

TIMES: Final = ((1, "true"), (5, "5 times"), (10, "10 times"))
"""How often larger truck and trailer are tilted in the picture."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Choice:
    """One of several to look at: what it is called, its address, whether it is shown."""

    words: str
    address: str
    here: bool
    status: str = ""


@dataclass(frozen=True, kw_only=True, slots=True)
class Wanted:
    """Something that is not known, and where the book has room for it."""

    words: str
    address: str


@dataclass(frozen=True, kw_only=True)
class OnOffPage:
    """Everything the page shows.

    ``machines`` are those that are driven on, in their order; ``carried`` what is set down
    and not driven. With something ``wanted`` there is the ``plain`` picture of the haul and no
    ``scene``.
    """

    said: Said
    end: str
    places: list[Choice]
    machines: list[Choice]
    carried: list[str]
    item: str
    wanted: list[Wanted] = field(default_factory=list)
    scene: Scene | None = None
    plain: Drawing | None = None
    chart: Chart | None = None
    strip: dict[str, Any] = field(default_factory=dict)
    rows: list[FindingWords] = field(default_factory=list)
    measures: list[Offered] = field(default_factory=list)
    around: Around | None = None
    pull: PullPage | None = None
    left_out: list[str] = field(default_factory=list)
    tilts: list[Choice] = field(default_factory=list)
    boxes: SiteBoxes
    surfaces: tuple[tuple[str, str], ...] = SURFACE_CHOICES
    axles: list[Held] = field(default_factory=list)
    has_stands: bool = False
    two_wheel: bool = False
    how_to: str = ""
    way_up: str = ""
    off: bool = False
    times: int = 1
    base: int
    address: str
    conflict: str = ""


@dataclass(frozen=True, kw_only=True, slots=True)
class Asked:
    """What of the haul is looked at: which machine, which end, how large the tilt is drawn."""

    item: str = ""
    place: Place = Place.LOADING
    times: int = 1

    @classmethod
    def of(cls, data: Mapping[str, Any]) -> Asked:
        """As an address or a form says it; anything else is as it is at first."""
        place = Place.UNLOADING if data.get("at") == Place.UNLOADING.value else Place.LOADING
        times = str(data.get("times", ""))
        return cls(
            item=str(data.get("item", ""))[:100],
            place=place,
            times=int(times) if times in {"5", "10"} else 1,
        )


@dataclass(frozen=True, kw_only=True)
class _Looking:
    """A haul as it is looked at: the plan at one of its ends, every machine's way there."""

    haul: Haul
    draft: Draft
    plan: Plan
    asked: Asked
    unit: UnitSystem
    order: list[int]
    ways: dict[int, Way]
    refused: str
    index: int

    @classmethod
    def at(cls, haul: Haul, asked: Asked, unit: UnitSystem) -> _Looking:
        """The haul, with the machine that is asked for or the first one."""
        draft = haul.draft
        plan, order = draft.plan_at(asked.place), driven(draft)
        chosen = (n for n in order if plan.items[n].id == asked.item)
        ways, refused = _ways(plan, order)
        return cls(
            haul=haul,
            draft=draft,
            plan=plan,
            asked=asked,
            unit=unit,
            order=order,
            ways=ways,
            refused=refused,
            index=next(chosen, order[0] if order else -1),
        )

    @property
    def way(self) -> Way | None:
        """The way of the machine that is looked at; ``None`` where there is none."""
        return self.ways.get(self.index)

    def status(self, index: int) -> Status:
        """What is said of one machine's way."""
        one = self.ways.get(index)
        if one is None:
            return Status.UNKNOWN
        usual = None if one.missing else clear_by_usual(self.plan, self.draft, index)
        return verdict(one, usual)

    def address(self, **changed: Any) -> str:
        """The page's own address, looking at something else."""
        return address_of(self.haul, self.asked, **changed)


def address_of(haul: Haul, asked: Asked, **changed: Any) -> str:
    """The page of a haul, as it is looked at, or otherwise."""
    values = {"item": asked.item, "at": asked.place.value, "times": asked.times, **changed}
    usual = {"item": "", "at": Place.LOADING.value, "times": 1}
    query = urlencode({k: v for k, v in values.items() if v != usual.get(k)})
    address = reverse("haul_on_off", args=[haul.pk])
    return f"{address}?{query}" if query else address


def on_off_page(
    haul: Haul,
    asked: Asked,
    unit: UnitSystem,
    *,
    boxes: SiteBoxes | None = None,
    winch: Mapping[str, Any] | None = None,
    conflict: str = "",
) -> OnOffPage:
    """The page; ``boxes`` are those of a place that could not be read, ``winch`` what was asked
    of the winch."""
    looking = _Looking.at(haul, asked, unit)
    common = _common(looking, boxes, conflict)
    one, plan, index = looking.way, looking.plan, looking.index
    if one is None or one.walk is None or one.path is None:
        return OnOffPage(
            said=_unsaid(looking),
            plain=plain_picture(
                looking.draft.plan, looking.draft.drawn, looking.draft.look, looking.unit
            ),
            wanted=_wanted(looking, () if one is None else one.missing),
            **common,
        )
    draft = looking.draft
    teller = Teller(plan.items[index], one.walk, unit)
    painter = Painter(
        plan, index, one, drawn=draft.drawn, look=draft.look, unit=unit, times=asked.times
    )
    strip = painter.strip()
    curves = chart(
        one.walk,
        one.path,
        painter.stations,
        unit,
        left_words="at its mark",
        right_words=f"{teller.wheels.lead} meet the {teller.ramp}",
    )
    usual = clear_by_usual(plan, draft, index)
    return OnOffPage(
        said=said(plan, one, teller, unit, usual),
        scene=painter.scene(nearest(painter.stations, one.path.lowest)),
        chart=curves,
        strip=strip | curves.strip,
        rows=finding_rows(plan, one, teller, unit, usual),
        measures=offered(haul, draft, asked.place, index, one, unit),
        around=around(haul, draft, plan, index, one, unit),
        pull=pull_page(draft, plan, index, one, winch or {}, unit),
        tilts=[
            Choice(words=words, address=looking.address(times=times), here=times == asked.times)
            for times, words in TIMES
        ],
        left_out=_left_out(looking, one),
        **common,
    )


def _ways(plan: Plan, order: list[int]) -> tuple[dict[int, Way], str]:
    """The way of each machine that is driven on, and what is refused of all of them."""
    try:
        return {n: way(plan, n) for n in order}, ""
    except InputError as error:
        return {}, refused(error)


def refused(error: InputError) -> str:
    """What is said of figures that no way can be made of, and what to do about it."""
    return REFUSED.get(error.path, str(error))


REFUSED: Final = {
    "trailer.ramp.length": "The ramp is shorter than the height it has to reach. Measure it again, "
    "from the tail edge to its foot, and the deck's height above the ground.",
}
"""What is said of figures that no way can be made of."""


def _unsaid(looking: _Looking) -> Said:
    """The sentence where there is nothing to drive on, or something is not known."""
    status = Status.UNKNOWN
    if looking.refused:
        before = "Cannot say how it gets on."
    elif looking.index >= 0:
        before = "Cannot say how it gets on: some figures are not known."
    else:
        status = Status.OK
        items = looking.plan.items
        before = "Nothing of this load is driven on." if items else "Nothing is on the deck."
    return Said(status=status.value, before=before, figure="", after="", second=looking.refused)


def _common(looking: _Looking, boxes: SiteBoxes | None, conflict: str) -> dict[str, Any]:
    """What every state of the page has."""
    draft, plan, asked, order = looking.draft, looking.plan, looking.asked, looking.order
    shown = boxes or boxes_of(draft.site(asked.place), draft.units, looking.unit)
    loading = asked.place is Place.LOADING
    return {
        "end": asked.place.value,
        "places": [
            Choice(words=words, address=looking.address(at=place.value), here=place is asked.place)
            for place, words in PLACES.items()
        ],
        "machines": [
            Choice(
                words=plan.items[n].called,
                address=looking.address(item=plan.items[n].id),
                here=n == looking.index,
                status=looking.status(n).value,
            )
            for n in (order if loading else reversed(order))
        ],
        "carried": [i.called for n, i in enumerate(plan.items) if n not in order],
        "item": plan.items[looking.index].id if looking.index >= 0 else "",
        "boxes": shown,
        "axles": [
            Held(number=n, ticked=n in shown.held) for n in range(1, len(plan.trailer.axles) + 1)
        ],
        "has_stands": plan.trailer.stands is not None,
        "two_wheel": plan.truck.drive is Drive.TWO_WHEEL,
        "how_to": in_units_of(HOW_TO, looking.unit),
        "way_up": way_up_words(plan, looking.unit),
        "off": not loading,
        "times": asked.times,
        "base": looking.haul.revision,
        "address": reverse("haul_on_off", args=[looking.haul.pk]),
        "conflict": conflict,
    }


PLACES: Final = {
    Place.LOADING: "On, where it is loaded",
    Place.UNLOADING: "Off, where it goes",
}
"""What the two ends of a haul are called."""


def _wanted(looking: _Looking, missing: tuple[str, ...]) -> list[Wanted]:
    """What is not known, each with the book's page that has a box for it."""
    plan, haul = looking.plan, looking.haul
    loads = linked_loads(haul)
    found = []
    for path, words in zip(missing, missing_of(missing, plan), strict=True):
        thing: Any = haul.trailer
        if path.startswith("items["):
            load = loads.get(plan.items[looking.index].id)
            thing = None if load is None else load.machine
        address = "" if thing is None else reverse("edit_thing", args=[slug_of(thing), thing.pk])
        found.append(Wanted(words=words, address=address))
    return found


def _left_out(looking: _Looking, one: Way) -> list[str]:
    """What this way does not count because it is not known, and what is odd about it."""
    plan, found = looking.plan, []
    trailer, site, walk = plan.trailer, plan.site, one.walk
    if abs(site.slope) > TOO_STEEP:
        found.append(
            f"{begun(slope_words(site))}: too steep to load on. Nothing is sure to hold there."
        )
    stands = trailer.stands
    if site.stands_down and stands is not None and walk is not None and walk.outfit.prop is None:
        at = stands.position_m
        if at is not None and at <= trailer.couple_lever_m:
            found.append(
                "The stands are not counted: stands ahead of the axles, or at them, hold no "
                "tail up. Measure where they stand."
            )
        else:
            found.append(
                "The stands are not counted: how far the tail sinks before they bear follows from "
                "the truck's springs, which are not known."
            )
    if walk is not None and walk.machine.apart_m > trailer.deck.length_m + (
        walk.ground.foot_m - walk.ground.edge_m
    ):
        found.append(
            "Its wheels stand further apart than ramp and deck are long: it never stands on the "
            "trailer whole. Measure its wheelbase again."
        )
    if one.path is not None and one.path.lowest.carried.slope_shift_kg is None:
        found.append(
            "What the slope does to the tongue is left out: the coupler's height, or how high "
            "something aboard balances, is not known."
        )
    if plan.truck.ride is None:
        found.append("The truck's springs are not known: nothing is drawn tilting.")
    return found
