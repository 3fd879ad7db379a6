"""Which truck and trailer can take a load: every pair of the yard, judged by its plan."""

from __future__ import annotations

import copy
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

from book.errors import IncompleteError
from book.models import Hitch, Trailer
from hauls.compose import Load
from hauls.pairs import pairs_of
from hauls.saying import summary, verdict_word, why_no_place
from hauls.services.haul import append_item, bare_document, stand_best, turn_to_aim
from hauls.standing import place_words
from hauls.wording import STATUS_WORDS
from measures import UnitSystem
from measures.marks import write_width
from measures.writing import write_percent
from mechanics.checks import Status
from mechanics.item import Facing
from mechanics.limits import Quantity
from mechanics.report import Report, evaluate
from planfile.reading import read_document
from yards.models import Yard

SEARCH_S: Final = 0.3
"""Time for arranging several loads on one pair."""

PAIRS: Final = 150
"""Pairs of hitch and trailer that are judged; a yard has a dozen."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Match:
    """One truck, hitch and trailer under the load, at the best place found.

    ``reserve`` is the least part that is left of any rating, ``None`` where nothing could
    be computed; ``place`` and ``sure`` are of a single load.
    """

    hitch: Hitch
    trailer: Trailer
    status: str
    word: str
    line: str
    reserve: float | None = None
    reserve_words: str = ""
    place: str = ""
    sure: str = ""
    backward: bool = False


def matches(yard: Yard, loads: Sequence[Load], unit: UnitSystem) -> tuple[list[Match], bool]:
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
            Status(m.status).severity,
            -(m.reserve or 0.0),
            m.hitch.truck.name,
            m.trailer.name,
        )
    )
    return found, len(pairs) > PAIRS


def _match(hitch: Hitch, trailer: Trailer, loads: Sequence[Load], unit: UnitSystem) -> Match:
    try:
        best = _best(hitch, trailer, loads, unit)
    except IncompleteError as error:
        words = ", ".join(error.lacks)
        return Match(
            hitch=hitch,
            trailer=trailer,
            status=Status.UNKNOWN.value,
            word=STATUS_WORDS[Status.UNKNOWN],
            line=f"{error.thing} lacks {words}.",
        )
    names = {item.id: item.name for item in best.plan.items}
    single = best.windows[0] if len(best.windows) == 1 else None
    reserve = least_reserve(best)
    return Match(
        hitch=hitch,
        trailer=trailer,
        status=best.verdict.value,
        word=verdict_word(best),
        line=("" if single is None else why_no_place(best, 0, names, unit))
        or summary(best, names, unit),
        reserve=reserve,
        reserve_words="" if reserve is None else write_percent(reserve),
        place="" if single is None or single.aim_m is None else place_words(best, 0, unit),
        sure=""
        if single is None
        else write_width(sum(p.end_m - p.start_m for p in single.sure), unit),
        backward=single is not None and best.plan.items[0].placement.facing is Facing.BACKWARD,
    )


def least_reserve(report: Report) -> float | None:
    """The least part that any rating has left; negative where one is passed."""
    known = [
        check.reserve
        for check in report.checks
        if check.quantity is Quantity.MASS and check.reserve is not None
    ]
    return min(known, default=None)


def _best(hitch: Hitch, trailer: Trailer, loads: Sequence[Load], unit: UnitSystem) -> Report:
    document = bare_document("", hitch, trailer, unit)
    for load in loads:
        append_item(document, load)
    if len(loads) != 1:
        if loads:
            stand_best(document, seconds=SEARCH_S)
        return evaluate(read_document(document))
    forward = evaluate(read_document(document))
    turned = copy.deepcopy(document)
    turn_to_aim(turned)
    backward = evaluate(read_document(turned))
    return min((forward, backward), key=_worse)


def _worse(report: Report) -> tuple[int, int, float]:
    """Sorts reports: worse verdicts, more limits passed, less reserve come later."""
    reserve = least_reserve(report)
    passed = sum(check.status is Status.OVER for check in report.checks)
    return report.verdict.severity, passed, -(reserve if reserve is not None else -1.0)
