"""Place the machine: by eye, or by a gauge with a budget of moves.

What is hidden is its balance point, and with it the tongue. Right is where every limit holds,
nearly so within half a foot of there.
"""

from __future__ import annotations

import math
import random
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Final

from measures import UnitSystem
from measures.marks import STEPS, write_ends, write_place
from measures.writing import write_mass
from mechanics.codes import Family
from mechanics.loads import compute_loads
from mechanics.placing import moved, reach
from mechanics.plan import Plan
from mechanics.report import Report, evaluate
from mechanics.scales import HITCH_GAUGE
from mechanics.standing import best_standing
from mechanics.units import M_PER_IN
from mechanics.windows import Interval
from pictures.drawing import Drawing
from planfile.draft import Draft
from practice.cases import (
    Answer,
    AnswerError,
    Case,
    Grade,
    Kind,
    Maker,
    Question,
    Situation,
    Slide,
    UnfitError,
    Verdict,
    passed,
    picture,
    shares,
)
from practice.invented import loaded
from wording.limits import label
from wording.schools import range_words

NEAR_M: Final = 6 * M_PER_IN
"""Nearly right within this of where every limit holds."""

LEAST_ROOM_M: Final = 3 * M_PER_IN
"""A window narrower than this is nobody's to find by eye."""

AWAY_M: Final = 18 * M_PER_IN
"""The machine starts at least so far from where it belongs."""

READ_OUT_M: Final = {UnitSystem.US: 6 * M_PER_IN, UnitSystem.METRIC: 0.2}
"""Between places for which a sheet has the gauge's reading."""

MOVES: Final = 3
"""What a gauge may be asked."""

PLATES: Final = (
    Family.PART_TONGUE,
    Family.TRUCK_AXLE,
    Family.TRUCK_GVWR,
    Family.TRAILER_GVWR,
)
"""The ratings that a machine in the wrong place passes first."""

PLACE: Final = "place"


def heaviest(plan: Plan) -> int:
    """The load that is placed.

    Raises:
        UnfitError: there is none.
    """
    if not plan.items:
        raise UnfitError("Nothing stands on this deck.")
    return max(range(len(plan.items)), key=lambda n: plan.items[n].mass_kg)


def away(draft: Draft, index: int, window: tuple[Interval, ...], rng: random.Random) -> float:
    """Where it stands at first: on the deck and well away from its window.

    Raises:
        UnfitError: there is no such place.
    """
    item, deck = draft.plan.items[index], draft.plan.trailer.deck
    low, high = item.reach_forward_m, deck.length_m - item.reach_rearward_m
    places = [high, low] if rng.random() < 0.7 else [low, high]
    for at in places:
        if all(at < one.start_m - AWAY_M or at > one.end_m + AWAY_M for one in window):
            return at
    raise UnfitError("Wherever it stands on this deck is near its place.")


def plates(plan: Plan, unit: UnitSystem) -> Iterator[tuple[str, str]]:
    """The ratings that are passed first, in words."""
    for check in evaluate(plan).checks:
        if check.about.family in PLATES and check.limit is not None:
            yield f"{label(check.code, unit=unit)}, at most", write_mass(check.limit, unit)


@dataclass(frozen=True, kw_only=True)
class PlaceCase(Case):
    """A machine to be placed. ``draft`` has it where it stands at first."""

    draft: Draft
    index: int
    window: tuple[Interval, ...]
    by_gauge: bool

    @property
    def moves(self) -> int:
        return MOVES if self.by_gauge else 0

    def question(self) -> Question:
        """Where its mark is to stop."""
        low, high = reach(self.draft.plan, self.index)
        item = self.draft.plan.items[self.index]
        mark = self.draft.drawn[self.index].mark
        return Question(
            name=PLACE,
            label=f"Stop the {mark} of the {item.called} at",
            slide=Slide(low_m=low, high_m=high, start_m=item.placement.reference_m),
        )

    def situation(self, unit: UnitSystem) -> Situation:
        plan = self.draft.plan
        item = plan.items[self.index]
        told = f"{range_words(*plan.share_range)} of the trailer with its load"
        loads = compute_loads(plan)
        facts = [
            ("Truck and trailer", f"{self.draft.truck_name}, {self.draft.trailer_name}"),
            ("To be placed", item.called),
        ]
        if self.by_gauge:
            facts += [
                ("Trailer with its load", write_mass(loads.trailer.mass_kg, unit)),
                ("Empty trailer's tongue", write_mass(plan.trailer.empty_tongue_mass_kg, unit)),
                ("Moves", str(self.moves)),
            ]
            story = (
                f"A gauge under the tongue is read after each move, and there are {self.moves}. "
                f"The tongue is to carry {told}, and no rating may be passed.",
            )
        else:
            facts += [
                ("It weighs", write_mass(item.mass_kg, unit)),
                ("Empty trailer", write_mass(plan.trailer.empty_mass_kg, unit)),
            ]
            story = (
                f"No scale, no gauge, one try. The tongue is to carry {told}, and no rating may "
                "be passed.",
            )
        return Situation(
            story=story,
            facts=(*facts, *plates(plan, unit)),
            picture=picture(self.draft, unit, self.index),
            questions=(self.question(),),
        )

    def _at(self, place_m: float) -> Report:
        return evaluate(moved(self.draft.plan, self.index, place_m))

    def grade(self, answer: Answer) -> Grade:
        return self.grade_at(self.read(answer))

    def grade_at(self, place_m: float) -> Grade:
        """What a place is worth."""
        off = min(max(one.start_m - place_m, place_m - one.end_m) for one in self.window)
        if off <= 1e-9:
            return Grade.RIGHT
        return Grade.NEARLY if off <= NEAR_M else Grade.WRONG

    def judge(self, answer: Answer, unit: UnitSystem) -> Verdict:
        place = self.read(answer)
        grade, report = self.grade_at(place), self._at(place)
        pieces = " or ".join(
            "{} to {}".format(*write_ends(one.start_m, one.end_m, unit)) for one in self.window
        )
        mark = self.draft.drawn[self.index].mark
        at = write_place(place, unit)
        why = passed(report, unit)
        words = {
            Grade.RIGHT: f"With the {mark} at {at} every limit holds. {why}",
            Grade.NEARLY: f"With the {mark} at {at} it is not right yet. {why}",
            Grade.WRONG: f"With the {mark} at {at} it may not go. {why}",
        }
        best = best_standing(self.draft.plan, self.index, STEPS[unit])
        aim = f", best at {write_place(best.at_m, unit)}" if best is not None else ""
        return Verdict(
            grade=grade,
            sentence=words[grade],
            best=f"{mark} from {pieces}{aim}",
            figures=shares(report, unit),
            picture=self.pictured(place, unit),
        )

    def read(self, answer: Answer) -> float:
        """The place that was answered.

        Raises:
            AnswerError: it is none.
        """
        given = answer.get(PLACE, ())
        low, high = reach(self.draft.plan, self.index)
        try:
            place = float(given[0])
        except (IndexError, ValueError) as error:
            raise AnswerError("Say where it is to stop.", PLACE) from error
        if not low - NEAR_M <= place <= high + NEAR_M:
            raise AnswerError("Stop it on the deck.", PLACE)
        return place

    def every(self) -> Iterator[Answer]:
        low, high = reach(self.draft.plan, self.index)
        count = int((high - low) / M_PER_IN)
        for n in range(count + 1):
            yield self.left_at(low + n * M_PER_IN)

    def best(self) -> Answer:
        found = best_standing(self.draft.plan, self.index, STEPS[UnitSystem.US])
        if found is None:
            raise ValueError("no answer is right")
        return self.left_at(found.at_m)

    def taken(self, place_m: float, unit: UnitSystem) -> str:
        tongue = compute_loads(moved(self.draft.plan, self.index, place_m)).trailer.tongue_kg
        step = HITCH_GAUGE.step_kg
        return write_mass(round(tongue / step) * step, unit)

    def left_at(self, place_m: float) -> Answer:
        return {PLACE: (repr(place_m),)}

    def readings(self, unit: UnitSystem) -> tuple[tuple[str, str], ...]:
        if not self.by_gauge:
            return ()
        low, high = reach(self.draft.plan, self.index)
        step = READ_OUT_M[unit]
        places = [n * step for n in range(math.ceil(low / step), math.floor(high / step) + 1)]
        return tuple((write_place(at, unit), self.taken(at, unit)) for at in places)

    def pictured(self, place_m: float, unit: UnitSystem) -> Drawing:
        return picture(self.draft.put(self.index, place_m), unit, self.index)


class _Placing(Maker):
    def __init__(self, kind: str, *, by_gauge: bool) -> None:
        self.kind, self.by_gauge = kind, by_gauge

    def tried(self, rng: random.Random, haul: Draft | None, wish: str | None) -> PlaceCase:
        draft = haul if haul is not None else loaded(rng)
        index = heaviest(draft.plan)
        if draft.plan.estimated:
            raise UnfitError("Some of its figures are estimates: weigh or tape them first.")
        window = evaluate(draft.plan).windows[index].intervals
        if len(window) != 1 or window[0].end_m - window[0].start_m < LEAST_ROOM_M:
            raise UnfitError(
                "On this deck it has no place, or hardly any, where every limit holds."
            )
        start = away(draft, index, window, rng)
        return PlaceCase(
            draft=draft.put(index, start),
            index=index,
            window=window,
            by_gauge=self.by_gauge,
        )


BY_EYE: Final = Kind(
    slug="eye",
    title="Place it by eye",
    about="One try, no gauge: where does the machine belong on this deck?",
    make=_Placing("eye", by_gauge=False),
    of_hauls=True,
)

BY_GAUGE: Final = Kind(
    slug="gauge",
    title="Place it by gauge",
    about=f"{MOVES} readings of the tongue, then it stands.",
    make=_Placing("gauge", by_gauge=True),
    of_hauls=True,
)
