"""The lists of a haul, made from its own outfit: what to do and look at in each of its steps."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date
from typing import Final

from aspects.tied_down.driver_list import Line, key_of, list_page
from aspects.tied_down.ticking import Ticks
from book.models import Trailer
from book.tires import years_old
from hauls.hookup import WEATHERS, OfTheTrailer, Weather, hookup_chores, round_chores
from hauls.models import Haul
from hauls.premove import Chore
from hauls.road_rules import ListRules, RoadRules
from measures import UnitSystem
from measures.writing import write_given
from road.inspections import Due, dues_of
from road.models import HaulWeather, Step
from wording.phrases import begun

OWN: Final = "own"
"""What the keys of a yard's own lines begin with."""

TITLES: Final = {
    Step.HOOK_UP: "Hook up",
    Step.LOAD: "The load",
    Step.TIE_DOWN: "Tie down",
    Step.WALK_ROUND: "Walk round",
    Step.FIRST_STOP: "At a stop",
}
"""The steps that have a list, with its title."""

AT_STOPS: Final = (
    Chore(key="hubs", words="Hubs and brakes", detail="hand near them: none hot"),
    Chore(key="tires", words="Tires", detail="none low, none hot"),
    Chore(key="lights", words="Lights still on"),
    Chore(key="latch", words="Latch, chains and plug"),
)
"""What is looked at on the way, besides the ties. Common practice, no source."""


@dataclass(frozen=True, kw_only=True, slots=True)
class WeatherGroup:
    """Lines of a walk round that one kind of weather adds."""

    key: str
    name: str
    lines: tuple[Line, ...]


@dataclass(frozen=True, kw_only=True, slots=True)
class RoadList:
    """One list; ``left`` is how many of its lines are open."""

    step: str
    title: str
    lines: tuple[Line, ...]
    weather: tuple[WeatherGroup, ...] = ()
    note: str = ""

    @property
    def every(self) -> tuple[Line, ...]:
        """All lines that count: those of the weather that was chosen too."""
        return (*self.lines, *(line for group in self.weather for line in group.lines))

    @property
    def left(self) -> int:
        """How many lines are open."""
        return sum(not line.done for line in self.every)


def lists_of(haul: Haul, unit: UnitSystem, today: date) -> tuple[RoadList, ...]:
    """Every list of a haul, in the order of its steps.

    Raises:
        PlanFileError: the haul's plan cannot be read.
    """
    rules, ticks, draft = RoadRules.of(haul.yard), Ticks(haul), haul.draft
    tied = list_page(haul, unit)
    several = len(tied.machines) > 1
    machines = [
        replace(line, words=f"{one.name}: {line.words}") if several else line
        for one in tied.machines
        for line in one.lines
    ]
    hookup = _lines("hook", hookup_chores(draft, unit), rules.of_list(Step.HOOK_UP))
    walk = _lines(
        "walk",
        (*round_chores(draft, _of_trailer(haul.trailer, unit, today)), *_overdue(haul, today)),
        rules.of_list(Step.WALK_ROUND),
    )
    stop = _lines("stop", AT_STOPS, rules.of_list(Step.FIRST_STOP))
    heights = tuple(c.words for one in tied.machines for c in one.road)

    def ticked(lines: Iterable[Line]) -> tuple[Line, ...]:
        found = ((line, ticks.of(line.key)) for line in lines)
        return tuple(
            replace(line, done=t.done, by=t.by, at=t.at, wants=t.wants) for line, t in found
        )

    def of(step: Step, lines: Sequence[Line], note: str = "") -> RoadList:
        own = [
            Line(key=key_of(OWN, step.value, words), words=words)
            for words in rules.of_list(step).own
        ]
        return RoadList(
            step=step.value, title=TITLES[step], lines=ticked([*lines, *own]), note=note
        )

    return (
        of(Step.HOOK_UP, hookup),
        of(Step.LOAD, machines),
        of(Step.TIE_DOWN, [*tied.take, *tied.ties], note=begun(tied.verdict_words)),
        replace(
            of(Step.WALK_ROUND, walk, note=" ".join(dict.fromkeys(heights))),
            weather=tuple(
                WeatherGroup(
                    key=one.key, name=one.name, lines=ticked(_lines("sky", one.adds, ListRules()))
                )
                for one in _weathers(haul)
            ),
        ),
        of(Step.FIRST_STOP, [*tied.again, *stop]),
    )


def keys_of_lists(lists: Iterable[RoadList]) -> frozenset[str]:
    """Every line that can be ticked."""
    return frozenset(line.key for one in lists for line in one.every)


def line_with(lists: Iterable[RoadList], key: str) -> Line | None:
    """The line with a key; ``None`` where there is none."""
    return next((line for one in lists for line in one.every if line.key == key), None)


def weather_of(haul: Haul) -> str:
    """What weather a haul goes out in, as somebody said; empty where nobody has."""
    return next(iter(HaulWeather.objects.filter(haul=haul).values_list("kind", flat=True)), "")


def _weathers(haul: Haul) -> Iterator[Weather]:
    said = weather_of(haul)
    return (one for one in WEATHERS if one.key == said and one.adds)


def _lines(prefix: str, chores: Iterable[Chore], rules: ListRules) -> list[Line]:
    """Standard lines as the yard wants them."""
    found = []
    for chore in chores:
        if chore.key in rules.left_out:
            continue
        words = rules.words(chore.key, chore.words)
        key = key_of(f"{prefix}-{chore.key}"[:20], words, chore.detail)
        found.append(Line(key=key, words=words, detail=chore.detail))
    return found


def _of_trailer(trailer: Trailer | None, unit: UnitSystem, today: date) -> OfTheTrailer:
    if trailer is None:
        return OfTheTrailer()
    pressure = trailer.tire_pressure
    return OfTheTrailer(
        pressure="" if pressure is None else write_given(pressure, unit),
        years=years_old(trailer.tires_made, today),
        bed=trailer.bed_hinge is not None and trailer.kind == Trailer.Kind.DUMP,
    )


def _overdue(haul: Haul, today: date) -> Iterator[Chore]:
    """What was to be inspected by now, to be looked at before it goes out."""
    for due in dues_of(haul.yard, today, truck=haul.truck, trailer=haul.trailer):
        if due.overdue:
            yield Chore(key=f"due-{due.pk}", words=due.what, detail=_since(due))


def _since(due: Due) -> str:
    return f"inspection due, {due.thing}: {due.words}"


def stop_words(rules: RoadRules, unit: UnitSystem) -> str:
    """When a yard stops, in words."""
    first, later = (write_given(way, unit) for way in (rules.first_way, rules.later_way))
    return (
        f"First after {rules.first_minutes} minutes or {first}, then every {rules.later_hours} "
        f"hours or {later}."
    )
