"""What the page of the gauge says: the figure, the band, the move, and how far to trust it."""

from __future__ import annotations

from collections import deque
from dataclasses import dataclass, replace
from typing import Any, Final

from book.figures import si
from book.models import Aboard, Ticket
from gauge.wire import KINDS
from hauls.models import Haul
from measures import UnitSystem
from measures.writing import write_inches, write_length, write_mass, write_number, write_percent
from mechanics.coach import (
    Advice,
    Band,
    Gauge,
    Move,
    Shown,
    Taped,
    advise,
    band,
    carried_by_ramps,
    corrected,
    other_unit,
)
from mechanics.fit import Fitted
from mechanics.item import Facing
from mechanics.loads import bar_factor_m, compute_loads
from mechanics.plan import Plan
from mechanics.units import M_PER_IN

METHOD: Final = "gauge"
KEPT: Final = 60
"""Readings that the coach looks back on."""

STALE_S: Final = 1.5
"""A reading older than this is shown grey; the page adds at most half a second."""

WIDTH: Final = 360.0
"""Width of the band's picture."""

DIALLED_S: Final = 2.0
"""A dial that was read stood still for at least so long."""


@dataclass(frozen=True, kw_only=True, slots=True)
class TailWords:
    """How the tail of a trailer is spoken of: its name, and what is still to be done."""

    name: str
    down: str
    up: str
    first: str
    them: str


TAILS: Final = {
    "ramps": TailWords(
        name="Ramps",
        down="Still down",
        up="Up and pinned",
        first="Put the ramps up",
        them="they",
    ),
    "gate": TailWords(
        name="Gate", down="Still down", up="Up and latched", first="Put the gate up", them="it"
    ),
    "tilts": TailWords(
        name="Deck",
        down="Still tilted",
        up="Down and latched",
        first="Let the deck down and latch it",
        them="it",
    ),
    "": TailWords(
        name="Ramps or gate",
        down="Still down",
        up="Up, or none",
        first="Put the ramps or the gate up",
        them="they",
    ),
}
"""Tails by what the trailer is drawn with; ``""``: nobody has said. An open tail has nothing
that could carry a part."""


@dataclass(frozen=True, kw_only=True)
class Aim:
    """What the coach goes by: the plan as corrected, its band, and by what it was corrected."""

    plan: Plan
    index: int
    band: Band
    fitted: Fitted | None
    taped: tuple[Taped, ...]
    tail: str

    @property
    def tail_words(self) -> TailWords | None:
        """What of the tail may carry a part of the load; ``None`` for an open one."""
        return TAILS.get(self.tail)

    @property
    def item_name(self) -> str:
        """What is being moved."""
        return self.plan.items[self.index].called


def aim_of(haul: Haul, index: int, gauge: Gauge) -> Aim:
    """The aim for one item of a haul, corrected by the gauge's readings that were kept."""
    plan = haul.draft.plan
    taped = taped_readings(haul, plan, index)
    fitted = None
    if taped:
        better, fitted = corrected(plan, index, taped, gauge)
        # readings that cannot all be right correct nothing
        plan = plan if fitted.contradict else better
    return Aim(
        plan=plan,
        index=index,
        band=band(plan, index, gauge),
        fitted=fitted,
        taped=tuple(taped),
        tail=haul.draft.look.tail,
    )


def taped_readings(haul: Haul, plan: Plan, index: int) -> list[Taped]:
    """Readings of the gauge kept with this haul: with the item at its place, or empty.

    One is only of use while the haul holds the same loads as it did then.
    """
    found = []
    kept = (
        Ticket.objects.filter(of_haul__haul=haul, method=METHOD)
        .prefetch_related("loads__machine", "loads__configuration")
        .order_by("weighed_on", "pk")
    )
    names = [item.called for item in plan.items]
    for ticket in kept:
        if ticket.tongue_mass is None:
            continue
        items = [load for load in ticket.loads.all() if load.kind == Aboard.Kind.ITEM]
        kg = si(ticket.tongue_mass)
        if not items:
            found.append(Taped(kg=kg, reference_m=None))
        elif [str(load) for load in items] == names and items[index].reference is not None:
            found.append(
                Taped(
                    kg=kg,
                    reference_m=si(items[index].reference),
                    facing=Facing(items[index].facing),
                )
            )
    return found


@dataclass(frozen=True, kw_only=True, slots=True)
class BandPicture:
    """The tongue scale: where the band, the aim and the pointer lie, in the picture's units."""

    low: float
    high: float
    aim: float
    pointer: float | None
    low_words: str
    high_words: str
    aim_words: str

    @property
    def width(self) -> float:
        """How wide the band is drawn."""
        return self.high - self.low


def band_picture(target: Band, now_kg: float | None, unit: UnitSystem) -> BandPicture | None:
    """The picture of a band; ``None`` where there is no place for the item.

    The band takes the middle third, so that a move towards it is seen from afar; a pointer
    beyond the picture stands at its edge.
    """
    if target.target_kg is None:
        return None
    width = max(target.high_kg - target.low_kg, 1.0)
    start = target.low_kg - width

    def x(kg: float) -> float:
        return min(max((kg - start) / (3 * width), 0.0), 1.0) * WIDTH

    return BandPicture(
        low=x(target.low_kg),
        high=x(target.high_kg),
        aim=x(target.target_kg),
        pointer=None if now_kg is None else x(now_kg),
        low_words=write_mass(target.low_kg, unit),
        high_words=write_mass(target.high_kg, unit),
        aim_words=write_mass(target.target_kg, unit),
    )


def distance(metres: float, unit: UnitSystem) -> str:
    """How far to move, as called out: whole inches, near the aim halves; or centimetres."""
    if unit is UnitSystem.METRIC:
        return f"{max(round(metres * 100), 1)} cm"
    inches = metres / M_PER_IN
    if inches < 3:
        return write_inches(max(metres, M_PER_IN / 2), unit)
    whole = round(inches)
    if whole < 24:
        return f"{whole} in"
    feet, rest = divmod(whole, 12)
    return f"{feet} ft {rest} in" if rest else f"{feet} ft"


@dataclass(frozen=True, kw_only=True, slots=True)
class Panel:
    """The live part of the page: the figure, how far to trust it, and the move.

    ``figure`` as written, ``kg`` as read; ``silence`` says how long nothing came, ``full``
    that the gauge is at its rating. ``notes`` are kind and words, the gravest first;
    ``dropped`` counts lines that were no readings, ``lying`` says that they are dropped for
    their unit. ``typed``: a person read it off a dial.
    """

    figure: str | None
    kg: float | None
    unit: UnitSystem
    stale: bool
    silence: str
    full: bool
    move: str
    say: str
    settled: bool
    picture: BandPicture | None
    share: str
    notes: list[tuple[str, str]]
    dropped: list[str]
    lying: bool
    sure: bool
    typed: bool = False


class Coach:
    """Follows one gauge for one page and says what to do."""

    def __init__(
        self, aim: Aim, unit: UnitSystem, *, ramps_down: bool = True, down_kg: float = 0.0
    ) -> None:
        self.aim = aim
        self.unit = unit
        self.ramps_down = ramps_down and aim.tail_words is not None
        self.down_kg = down_kg
        self.readings: deque[Shown] = deque(maxlen=KEPT)
        self.gauge = Gauge()

    def see(self, event: dict[str, Any]) -> None:
        """Take in what the hub told."""
        self.gauge = Gauge(step_kg=event["step_kg"], lag_s=event["lag_s"])
        for at, kg, full in event.get("past", ()):
            self._add(at, kg, full)
        if "at" in event:
            self._add(event["at"], event["kg"], event["full"])

    def read_dial(self, kg: float) -> Panel:
        """What the panel shows for a dial that somebody read: it stood still, and is new.

        A dial has the step that a gauge has where nothing else is known of it.
        """
        gauge = Gauge()
        count = 10
        past = [(DIALLED_S * n / count, kg, False) for n in range(count + 1)]
        event: dict[str, Any] = {
            "connected": True,
            "now": DIALLED_S,
            "step_kg": gauge.step_kg,
            "lag_s": gauge.lag_s,
            "dropped": {},
            "lying": False,
            "past": past,
        }
        self.see(event)
        return replace(self.panel(event), typed=True)

    def _add(self, at: float, kg: float, full: bool) -> None:
        if not self.readings or at > self.readings[-1].at_s:
            self.readings.append(Shown(at_s=at, kg=kg, saturated=full))

    def recent(self) -> list[Shown]:
        """Readings since the last gap: what came before a silence says nothing of now."""
        found: list[Shown] = []
        for reading in reversed(self.readings):
            if found and found[-1].at_s - reading.at_s > STALE_S:
                break
            found.append(reading)
        return found[::-1]

    def panel(self, event: dict[str, Any]) -> Panel:
        """Everything the panel shows for what the hub just told."""
        recent = self.recent()
        silent = event["now"] - recent[-1].at_s if recent else None
        stale = silent is None or silent > STALE_S
        advice = advise(recent, self.aim.band, self.gauge)
        shown = recent[-1].kg if recent else None
        move = "wait" if stale else advice.move.value
        if self.ramps_down and advice.move is Move.STOP and not stale:
            # what they carry is not known: nothing is right before they are up
            move = "ramps"
        return Panel(
            figure=None if shown is None else write_number(shown / self.unit.kg),
            kg=shown,
            unit=self.unit,
            stale=stale,
            silence=self._silence(event, silent),
            full=bool(recent) and recent[-1].saturated,
            move=move,
            say="" if stale else self.say(advice),
            settled=advice.settled and not stale,
            picture=band_picture(self.aim.band, shown, self.unit),
            share=self._share(advice, stale=stale),
            notes=self._notes(event, shown, stale=stale, settled=advice.settled),
            dropped=[f"{count:,} {KINDS[why]}" for why, count in sorted(event["dropped"].items())],
            lying=event["lying"],
            sure=self.aim.band.sure,
        )

    def say(self, advice: Advice) -> str:
        """The move in the words that are read at arm's length."""
        tail = self.aim.tail_words
        if advice.move is Move.STOP:
            return f"Stop. {tail.first}" if self.ramps_down and tail else "Stop"
        if advice.move is Move.NO_PLACE:
            return "No place is right"
        if advice.move is Move.WAIT:
            return "Wait"
        inches = distance(abs(advice.by_m), self.unit)
        about = "about " if self.ramps_down else ""
        least = "at least " if advice.at_least else about
        return f"{self.way(advice.move)} {least}{inches}"

    def way(self, move: Move) -> str:
        """Which way the driver has to go, for how the machine faces."""
        item = self.aim.plan.items[self.aim.index]
        rearward = move is Move.REARWARD
        if not item.contacts:
            # nothing with wheels or tracks of its own: it is carried, not driven
            return "Move it back" if rearward else "Move it ahead"
        backs = rearward == (item.placement.facing is Facing.FORWARD)
        return "Back up" if backs else "Pull ahead"

    def _silence(self, event: dict[str, Any], silent: float | None) -> str:
        if silent is None:
            return (
                "The gauge is connected and has sent no reading yet."
                if event["connected"]
                else "The gauge is not connected."
            )
        if silent <= STALE_S:
            return ""
        seconds = f"{silent:.0f} s"
        if not event["connected"]:
            return f"The gauge has been gone for {seconds}. The figure is the last one it sent."
        return f"No reading for {seconds}. The figure is the last one."

    def _share(self, advice: Advice, *, stale: bool) -> str:
        if stale:
            return ""
        mass = compute_loads(self.aim.plan).trailer.mass_kg
        return f"{write_percent(advice.now_kg / mass)} of the loaded trailer"

    def _notes(
        self, event: dict[str, Any], shown: float | None, *, stale: bool, settled: bool
    ) -> list[tuple[str, str]]:
        """What keeps the figure from being trusted, the gravest first."""
        found = []
        plan = self.aim.plan
        if event["lying"]:
            found.append(
                (
                    "lying",
                    "The gauge jumped by just the factor between pounds and kilograms. Its lines "
                    "are dropped until it is back, or you say that it is right.",
                )
            )
        if shown is not None and not stale and other_unit(shown, self.aim.band):
            found.append(
                (
                    "unit",
                    f"{write_mass(shown, self.unit)} fits no place on this deck, and would in the "
                    "other unit. Which unit does the gauge show?",
                )
            )
        tail = self.aim.tail_words
        if self.ramps_down and tail:
            found.append(
                (
                    "ramps",
                    f"{tail.first} before you trust this: standing on the ground, "
                    f"{tail.them} can make the gauge read far too high.",
                )
            )
        elif shown is not None and settled and not stale and self.down_kg:
            kg = carried(self.aim, self.down_kg, shown)
            if kg > self.gauge.step_kg:
                found.append(
                    (
                        "carried",
                        "If the machine stands where it stood then, the tail carried about "
                        f"{write_mass(kg, self.unit)} while it rested on the ground.",
                    )
                )
        if shown is not None and not stale and self.readings and self.readings[-1].saturated:
            found.append(
                ("full", "The gauge is at its rating and shows no more, whatever stands on it.")
            )
        if bar_factor_m(plan):
            found.append(("bars", "Slack the spring bars: hung, they lift what the gauge shows."))
        if self.aim.band.target_kg is None:
            found.append(
                ("no_place", "This haul has no place where every limit holds. See its planner.")
            )
        elif self._coarse():
            found.append(
                (
                    "coarse",
                    f"The gauge steps by {write_mass(self.gauge.step_kg, self.unit)}, the band is "
                    "hardly wider. Check the place with the tape.",
                )
            )
        return found

    def _coarse(self) -> bool:
        return self.aim.band.high_kg - self.aim.band.low_kg < 2 * self.gauge.step_kg


def carried(aim: Aim, down_kg: float, up_kg: float) -> float:
    """What ramps or stands carried, from settled readings with them down and up."""
    trailer = aim.plan.trailer
    tail = trailer.deck.start_m + trailer.deck.length_m
    return carried_by_ramps(down_kg, up_kg, tail_m=tail, lever_m=trailer.couple_lever_m)


def correction_words(aim: Aim, haul: Haul, unit: UnitSystem) -> list[str]:
    """What the kept readings have changed, in words; empty without any."""
    if aim.fitted is None:
        return []
    if aim.fitted.contradict:
        return [
            "The readings kept with this haul cannot all be right: the coach goes by the plan",
            "see them put together",
        ]
    was = haul.draft.plan
    item, now = was.items[aim.index], aim.plan.items[aim.index]
    count = len(aim.taped)
    words = [f"Corrected by {count} reading{'s' * (count > 1)} kept with this haul"]
    words.append(_changed("mass", item.mass_kg, now.mass_kg, unit))
    shift = now.cg.ahead_m - item.cg.ahead_m
    if abs(shift) > 0.006:
        way = "further ahead" if shift > 0 else "further back"
        words.append(f"balance point {write_inches(abs(shift), unit)} {way} than planned")
    words.append(
        _changed(
            "empty tongue",
            was.trailer.empty_tongue_mass_kg,
            aim.plan.trailer.empty_tongue_mass_kg,
            unit,
        )
    )
    return [w for w in words if w]


def _changed(name: str, was: float, now: float, unit: UnitSystem) -> str:
    if abs(now - was) < 0.5 * unit.kg:
        return ""
    return f"{name} {write_mass(now, unit)}, planned {write_mass(was, unit)}"


def mark_words(plan: Plan, index: int, unit: UnitSystem) -> str:
    """Where the item is planned to stand, as a tape reads."""
    return write_length(plan.items[index].placement.reference_m, unit)
