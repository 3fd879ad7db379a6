"""One haul on its way, whole: its lists, what is wrong, where it stopped, gain, trips."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from django.utils import timezone

from hauls.hookup import WEATHERS
from hauls.models import Haul
from hauls.road_rules import RoadRules
from measures import UnitSystem
from planfile.errors import PlanFileError
from road.defects import Shown, defects_of
from road.defects import shown as defect_shown
from road.forms import DecisionForm, DefectForm, GainForm, StoppedForm, TripForm
from road.gain import GainStep, KeptGain, kept_gains, steps
from road.inspections import Due, dues_of
from road.lists import RoadList, lists_of, stop_words, weather_of
from road.models import Trip
from road.page import OnTheWay, on_the_way
from road.trip_page import TripLine, trip_line


@dataclass(frozen=True, kw_only=True)
class Decided:
    """A defect with the boxes that decide about it; ``None`` for whoever may not."""

    it: Shown
    form: DecisionForm | None


@dataclass(frozen=True, kw_only=True)
class HaulPage:
    """One haul on its way; ``wrong`` says what could not be noted. Boxes of what stands on the deck
    are ``None`` where the plan cannot be read. ``base`` is the reading of where it stopped that the
    page knows of."""

    it: OnTheWay
    wrong: str
    lists: tuple[RoadList, ...]
    words: tuple[str, ...]
    weather: str
    weathers: tuple[tuple[str, str], ...]
    defects: list[Decided]
    dues: list[Due]
    stops_said: str
    stopped: StoppedForm | None
    base: int
    defect: DefectForm
    trip: TripForm
    trips: list[TripLine]
    gain: GainForm
    gains: list[KeptGain]
    gain_steps: tuple[GainStep, ...]
    two_people: bool
    plans: bool


Forms = Mapping[str, Any]


def haul_page(
    haul: Haul,
    unit: UnitSystem,
    *,
    plans: bool,
    wrong: str = "",
    forms: Forms | None = None,
) -> HaulPage:
    """The page of a haul; ``forms`` are those that were sent and not right, by their name here."""
    sent = forms or {}
    today = timezone.localdate()
    it = on_the_way(haul, unit, today)
    rules = RoadRules.of(haul.yard)
    lists: tuple[RoadList, ...] = ()
    stopped: StoppedForm | None = None
    try:
        lists = lists_of(haul, unit, today)
        stopped = StoppedForm(draft=haul.draft, units=unit)
    except PlanFileError:
        # said already, in the words of the plan's own fault
        lists = ()
    trips = Trip.objects.filter(haul=haul).select_related("by")
    return HaulPage(
        it=it,
        wrong=wrong,
        lists=lists,
        words=tuple(line.words for one in lists for line in one.lines),
        weather=weather_of(haul),
        weathers=tuple((one.key, one.name) for one in WEATHERS),
        defects=[
            Decided(
                it=defect_shown(one),
                form=sent.get(f"decision-{one.pk}") or DecisionForm(units=unit) if plans else None,
            )
            for one in defects_of(haul)
        ],
        dues=[
            due
            for due in dues_of(haul.yard, today, unit, truck=haul.truck, trailer=haul.trailer)
            if due.overdue or due.soon
        ],
        stops_said=stop_words(rules, unit),
        stopped=sent.get("stopped") or stopped,
        base=it.stopped.pk if it.stopped else 0,
        defect=sent.get("defect") or DefectForm(units=unit),
        trip=sent.get("trip")
        or TripForm(units=unit, initial={"driven_on": today, "weather": weather_of(haul)}),
        trips=[trip_line(trip, unit) for trip in trips],
        gain=sent.get("gain") or GainForm(units=unit),
        gains=list(kept_gains(haul, unit)),
        gain_steps=steps(unit),
        two_people=rules.two_people,
        plans=plans,
    )
