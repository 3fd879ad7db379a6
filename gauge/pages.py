"""What the gauge's page and its parts show, as typed values."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from gauge.coaching import Aim, Coach, Panel, TailWords
from gauge.forms import DialForm, FrozenForm
from gauge.models import Gauge
from hauls.models import Haul
from measures import Quantity
from mechanics.item import Item
from mechanics.plan import Plan
from weighing.models import HaulTicket


@dataclass(frozen=True, kw_only=True)
class Held:
    """A reading on its way to a ticket: the form, what was moved, and what may spoil it.

    ``typed`` off a dial; ``mass`` is shown where a gauge has sent it, ``settled`` whether it
    stood still then.
    """

    form: FrozenForm
    item: Item
    ramps_down: bool
    tail: TailWords | None
    typed: bool
    settled: bool = True
    mass: Quantity | None = None


def held(
    form: FrozenForm,
    coach: Coach,
    plan: Plan,
    *,
    typed: bool,
    settled: bool = True,
    mass: Quantity | None = None,
) -> Held:
    """What the form of a held reading shows."""
    return Held(
        form=form,
        item=plan.items[coach.aim.index],
        ramps_down=coach.ramps_down,
        tail=coach.aim.tail_words,
        typed=typed,
        settled=settled,
        mass=mass,
    )


@dataclass(frozen=True, kw_only=True)
class Frozen:
    """The part of the page that holds a reading, or says ``why`` there is none."""

    haul: Haul
    gauge: Gauge | None
    index: int
    held: Held | None = None
    why: str = ""


@dataclass(frozen=True, kw_only=True)
class Dialled:
    """What is answered to a figure off a dial; without a ``panel`` it was no mass."""

    haul: Haul
    gauge: Gauge | None
    index: int
    dial: DialForm
    panel: Panel | None
    held: Held


@dataclass(frozen=True, kw_only=True)
class Gone:
    """No word from the gauge, and why."""

    why: str


@dataclass(frozen=True, kw_only=True)
class Live:
    """The live part of the page."""

    panel: Panel


@dataclass(frozen=True, kw_only=True)
class CoachPage:
    """The page for the phone on the tractor.

    ``down`` whether ramps or gate count as down; ``corrections`` is what kept readings have
    changed. With something ``answered`` without script, ``panel`` and ``held`` are its.
    """

    gauge: Gauge | None
    gauges: Iterable[Gauge]
    items: Sequence[Item]
    index: int
    kept: Iterable[HaulTicket]
    dial: DialForm
    mark: str = ""
    aim: Aim | None = None
    moved: Item | None = None
    corrections: Sequence[str] = ()
    down: bool = True
    answered: bool = False
    panel: Panel | None = None
    held: Held | None = None
