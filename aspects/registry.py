"""What views a haul has: every installed app with a module ``aspect`` brings its own.

The head of a haul's pages, the side panels of the planner, the addresses, the list of
figures and the test of who may do what all read this; none of them knows a view by name.
"""

from __future__ import annotations

from collections.abc import Callable, Hashable
from dataclasses import dataclass
from typing import Final

from hauls.models import Haul
from measures import UnitSystem
from mechanics.attitude import Attitude
from mechanics.report import Report
from planfile.draft import Draft
from web.registry import brought
from wording.figures import FIGURES, Figure

MODULE: Final = "aspect"
"""The module of an app that names its views of a haul."""


@dataclass(frozen=True, kw_only=True)
class Ground:
    """What a side panel of the planner is made of; ``times`` is how often tilt is drawn.

    ``draft`` is the haul as the page holds it, stored or not, ``report`` what is said of it.
    """

    haul: Haul
    draft: Draft
    report: Report
    riding: Attitude | None
    unit: UnitSystem
    times: int


@dataclass(frozen=True, kw_only=True)
class Panel:
    """A side panel of the planner: its template and ``it``, all that the template needs.

    It is drawn once for each ``it``, which has to be hashable.
    """

    template: str
    it: Hashable


@dataclass(frozen=True, kw_only=True, slots=True)
class CardFigure:
    """A figure on the load card: what it is of, the figure, and what it is held against."""

    label: str
    figure: str
    note: str = ""


@dataclass(frozen=True, kw_only=True, slots=True)
class CardTie:
    """One tie on the load card: its number, what it is, from where to where, its limit."""

    number: int
    gear: str
    way: str
    limit: str


@dataclass(frozen=True, kw_only=True, slots=True)
class CardPart:
    """What a view has to say on the load card.

    ``warnings`` are what happens, and what to do about it; ``ties`` in the order to put them on
    with what is said of them together; ``before`` is to be done to the loads before the outfit
    moves.
    """

    figures: tuple[CardFigure, ...] = ()
    warnings: tuple[tuple[str, str], ...] = ()
    ties: tuple[CardTie, ...] = ()
    ties_said: str = ""
    before: tuple[str, ...] = ()


@dataclass(frozen=True, kw_only=True)
class Aspect:
    """One view of a haul.

    ``address`` is the name of its page's URL, which takes the haul's key; ``urls`` the module
    of its addresses below the haul's. With ``menu`` it stands in the head's menu instead of
    the row of views; one that ``changes`` the haul is only shown to whoever may.
    ``looks`` are addresses that whoever may only look may open; the others
    are for planners. ``figures`` are its own, to be opened into their arithmetic. ``card`` is what
    it has to say on the load card.
    """

    slug: str
    title: str
    order: int
    address: str
    urls: str
    menu: bool = False
    changes: bool = False
    panel: Callable[[Ground], Panel | None] | None = None
    card: Callable[[Ground], CardPart] | None = None
    looks: tuple[str, ...] = ()
    figures: tuple[Figure, ...] = ()


def aspects() -> tuple[Aspect, ...]:
    """Every view of a haul, in their order."""
    found: tuple[Aspect, ...] = brought(MODULE, "ASPECTS")
    return tuple(sorted(found, key=lambda aspect: (aspect.order, aspect.slug)))


def figures() -> tuple[Figure, ...]:
    """Every figure that can be opened: of loads and places, then each view's own."""
    return (*FIGURES, *(figure for aspect in aspects() for figure in aspect.figures))


def panels(ground: Ground) -> list[Panel]:
    """The side panels of the planner, in the order of their views."""
    made = (aspect.panel(ground) for aspect in aspects() if aspect.panel is not None)
    return [panel for panel in made if panel is not None]


def card_parts(ground: Ground) -> list[CardPart]:
    """What the views have to say on the load card, in their order."""
    return [aspect.card(ground) for aspect in aspects() if aspect.card is not None]
