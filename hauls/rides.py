"""Loads of the book on outfits of the book, stood where they leave most: what a day's plan asks
again and again of the same few."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Final

from book.errors import IncompleteError
from book.models import Hitch, Trailer
from hauls.drafting import bare_draft, with_load
from hauls.loads import Load
from measures import UnitSystem
from mechanics.arrange import Wishes, arrange, lines_of, passed_everywhere
from mechanics.checks import Status
from mechanics.errors import MechanicsError
from mechanics.placing import ROOM_BETWEEN_M
from mechanics.report import evaluate
from mechanics.tidying import on_the_tape
from planfile.draft import Draft
from planfile.errors import PlanFileError

SEARCH_S: Final = 0.3
"""Time for arranging several loads on one outfit."""

Pairs = tuple[tuple[str, str], ...]


def outfit_key(hitch: Hitch, trailer: Trailer) -> str:
    """Which outfit it is."""
    return f"{hitch.pk}-{trailer.pk}"


class Riding:
    """Loads, each of its own key, on outfits of the book.

    What has to be known and is not counts as not holding, unless ``unknown_too``.
    """

    def __init__(
        self,
        outfits: Mapping[str, tuple[Hitch, Trailer]],
        loads: Mapping[str, Load],
        units: UnitSystem,
        *,
        unknown_too: bool = False,
    ) -> None:
        self.outfits, self.loads, self.units = outfits, loads, units
        self.unknown_too = unknown_too
        self._bare: dict[str, Draft | None] = {}
        self._found: dict[tuple[str, tuple[str, ...], Pairs], tuple[Draft, float] | None] = {}

    def hope(self, outfit: str, aboard: tuple[str, ...]) -> float | None:
        """The most reserve that these loads could have however they stand; ``None`` where it is
        sure that they may not ride so."""
        draft = self._put_on(outfit, aboard)
        if draft is None:
            return None
        plan = draft.plan
        lines = lines_of(plan)
        if passed_everywhere(plan, lines):
            return None
        report = evaluate(plan)
        fixed = {line.code for line in lines if line.fixed}
        reserves = [
            check.reserve
            for check in report.checks
            if check.code in fixed and check.reserve is not None and check.limit
        ]
        return min(reserves, default=1.0)

    def reserve(self, outfit: str, aboard: tuple[str, ...], comes_off: Pairs) -> float | None:
        """The least part that is left of any rating where the loads stand best; ``None`` where no
        arrangement holds."""
        found = self._ride(outfit, aboard, comes_off)
        return None if found is None else found[1]

    def draft(self, outfit: str, aboard: tuple[str, ...], comes_off: Pairs) -> Draft | None:
        """How they stand then."""
        found = self._ride(outfit, aboard, comes_off)
        return None if found is None else found[0]

    def _put_on(self, outfit: str, aboard: tuple[str, ...]) -> Draft | None:
        if outfit not in self._bare:
            try:
                self._bare[outfit] = bare_draft("", *self.outfits[outfit], self.units)
            except (IncompleteError, PlanFileError, MechanicsError):
                self._bare[outfit] = None
        draft = self._bare[outfit]
        if draft is None:
            return None
        try:
            for key in aboard:
                draft = with_load(draft, self.loads[key])
        except (IncompleteError, PlanFileError, MechanicsError):
            return None
        return draft

    def _ride(
        self, outfit: str, aboard: tuple[str, ...], comes_off: Pairs
    ) -> tuple[Draft, float] | None:
        key = (outfit, aboard, comes_off)
        if key not in self._found:
            self._found[key] = self._stood(outfit, aboard, comes_off)
        return self._found[key]

    def _stood(
        self, outfit: str, aboard: tuple[str, ...], comes_off: Pairs
    ) -> tuple[Draft, float] | None:
        draft = self._put_on(outfit, aboard)
        if draft is None:
            return None
        ids = dict(zip(aboard, draft.item_ids, strict=True))
        pairs = tuple((ids[first], ids[then]) for first, then in comes_off)
        wishes = Wishes(room_m=ROOM_BETWEEN_M, comes_off=pairs)
        try:
            found = arrange(draft.plan, wishes, seconds=SEARCH_S).found
        except MechanicsError:
            return None
        if not found:
            return None
        stood = draft.stood(on_the_tape(found[0].plan))
        report = evaluate(stood.plan)
        if report.verdict is Status.OVER:
            return None
        if report.verdict is Status.UNKNOWN and not self.unknown_too:
            return None
        reserve = report.least_reserve()
        return stood, 0.0 if reserve is None else reserve
