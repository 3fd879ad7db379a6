"""Which truck and trailer can take a load: every pair of the yard, judged by its plan."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import Enum
from typing import Final

from book.errors import IncompleteError
from book.models import Hitch, Trailer
from hauls.climbs import Climb, climb_of
from hauls.drafting import bare_draft, turned_to_aim, with_loads
from hauls.loads import Load
from hauls.pairs import pairs_of
from matching.by_mass import ByMass, by_mass
from measures import UnitSystem
from measures.marks import write_width
from measures.writing import write_percent
from mechanics.checks import Status
from mechanics.item import Facing
from mechanics.report import Report, evaluate
from mechanics.windows import Window
from planfile.draft import Draft
from wording.phrases import names_of
from wording.places import place_words
from wording.sentences import summary, why_no_place
from wording.statuses import STATUS_WORDS, verdict_of
from yards.models import Yard

SEARCH_S: Final = 0.3
"""Time for arranging several loads on one pair."""

PAIRS: Final = 150
"""Pairs of hitch and trailer that are judged; a yard has a dozen."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Match:
    """One truck, hitch and trailer under the load, at the best place found.

    ``reserve`` is the least part that is left of any rating, ``None`` where nothing could
    be computed; ``place`` and ``sure`` are of a single load. ``climb`` is how it gets on, on
    level dry concrete.
    """

    hitch: Hitch
    trailer: Trailer
    status: str
    word: str
    likely: bool = False
    line: str
    reserve: float | None = None
    reserve_words: str = ""
    place: str = ""
    sure: str = ""
    backward: bool = False
    climb: Climb | None = None


class Order(Enum):
    """What the pairs are sorted by: what they leave on the road, or how they get on."""

    ROAD = "road"
    CLIMB = "climb"


def matches(
    yard: Yard, loads: Sequence[Load], unit: UnitSystem, order: Order = Order.ROAD
) -> tuple[list[Match], bool]:
    """Every pair that can be coupled, the best first; whether some were left out.

    Better is the lesser verdict, then the greater least reserve. Pairs of which something
    is not known come after those that can be judged. A single load is tried both ways
    round, at its aim; several are arranged where they leave most.
    """
    pairs = pairs_of(yard)
    found = [_match(hitch, trailer, loads, unit) for hitch, trailer in pairs[:PAIRS]]
    found.sort(
        key=lambda m: (
            m.reserve is None,
            m.climb.rank if order is Order.CLIMB and m.climb is not None else (0, 0.0),
            Status(m.status).severity,
            m.likely,
            -(m.reserve or 0.0),
            m.hitch.truck.name,
            m.trailer.name,
        )
    )
    return found, len(pairs) > PAIRS


def _match(hitch: Hitch, trailer: Trailer, loads: Sequence[Load], unit: UnitSystem) -> Match:
    try:
        draft, best = _best(hitch, trailer, loads, unit)
    except IncompleteError as error:
        found = by_mass(hitch, trailer, loads, unit)
        if found is None:
            found = ByMass(status=Status.UNKNOWN, word=STATUS_WORDS[Status.UNKNOWN], line="")
        return Match(
            hitch=hitch,
            trailer=trailer,
            status=found.status.value,
            word=found.word,
            likely=True,
            line=f"{found.line} {error}.".strip(),
        )
    names = names_of(best.plan)
    single = best.windows[0] if len(best.windows) == 1 else None
    reserve, verdict = best.least_reserve(), verdict_of(best)
    return Match(
        hitch=hitch,
        trailer=trailer,
        status=verdict.status.value,
        word=verdict.word,
        likely=verdict.likely,
        line=("" if single is None else why_no_place(best, 0, names, unit))
        or summary(best, names, unit),
        reserve=reserve,
        reserve_words="" if reserve is None else write_percent(reserve),
        place="" if single is None or single.aim_m is None else place_words(best, 0, unit),
        sure=_sure_width(single, unit),
        backward=single is not None and best.plan.items[0].placement.facing is Facing.BACKWARD,
        climb=climb_of(draft),
    )


def _sure_width(window: Window | None, unit: UnitSystem) -> str:
    """How wide the sure window of a single load is."""
    if window is None:
        return ""
    if not window.sure:
        return "none"
    return write_width(sum(piece.end_m - piece.start_m for piece in window.sure), unit)


def _best(
    hitch: Hitch, trailer: Trailer, loads: Sequence[Load], unit: UnitSystem
) -> tuple[Draft, Report]:
    draft = with_loads(bare_draft("", hitch, trailer, unit), loads, seconds=SEARCH_S)
    if len(loads) != 1:
        return draft, evaluate(draft.plan)
    both = [(one, evaluate(one.plan)) for one in (draft, turned_to_aim(draft))]
    return min(both, key=lambda found: _worse(found[1]))


def _worse(report: Report) -> tuple[int, int, float]:
    """Sorts reports: worse verdicts, more limits passed, less reserve come later."""
    reserve = report.least_reserve()
    passed = sum(check.status is Status.OVER for check in report.checks)
    return report.verdict.severity, passed, -(reserve if reserve is not None else -1.0)
