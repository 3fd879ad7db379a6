"""Will the truck hold on this slope while the machine climbs, and what would you do.

Right is the measure of least effort with which it holds; where it holds as it is, to load.
"""

from __future__ import annotations

import math
import random
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Final

from aspects.on_off.measures import MEASURES
from hauls.climbs import driven
from measures import UnitSystem
from measures.writing import write_mass
from mechanics.checks import Status
from mechanics.loading import Way, way
from mechanics.loading.findings import Subject
from mechanics.site import Surface
from planfile import document
from planfile.climbing import Place
from planfile.draft import Draft
from practice.cases import (
    Answer,
    Case,
    Grade,
    Kind,
    Maker,
    Option,
    Question,
    Situation,
    UnfitError,
    Verdict,
    chosen,
    one_of_each,
    picture,
    words_of,
)
from practice.invented import loaded
from practice.kinds.standing import best_placed
from wording.loading import ground_words, hold_words, holds_words
from wording.phrases import begun, within

HELD: Final = 1.0
"""It holds from this many times what the core asks on."""

CLEAR: Final = 0.05
"""A case whose answer hangs on less than this is nobody's to judge."""

STATIONS: Final = 20

ASKED: Final = ("four_wheel", "chocks", "level", "uphill", "turn")
"""The measures that are asked about, in order of effort."""

NOTHING: Final = "nothing"

FIRST: Final = Question(
    name="holds",
    label="Does it hold as it stands?",
    options=(Option(value="yes", words="yes, it holds"), Option(value="no", words="no, it slides")),
)


@dataclass(frozen=True, kw_only=True)
class SlopeCase(Case):
    """An outfit on a slope. ``held`` is how many times the push holds, as it is and after each
    measure, in order of effort."""

    draft: Draft
    index: int
    held: dict[str, float]

    @property
    def right(self) -> str:
        """The least that makes it hold."""
        return next(code for code, value in self.held.items() if value >= HELD)

    def question(self) -> Question:
        """What to do."""
        titles = {one.code: one.title for one in MEASURES}
        options = [Option(value=NOTHING, words="load it as it is")]
        options += [
            Option(value=code, words=within(titles[code])) for code in self.held if code != NOTHING
        ]
        return Question(
            name="measure", label="What is the least you do before loading?", options=tuple(options)
        )

    def situation(self, unit: UnitSystem) -> Situation:
        plan = self.draft.plan_at(Place.LOADING)
        item = plan.items[self.index]
        return Situation(
            story=(
                f"{item.called} is to be driven on. While it climbs, the truck's rear wheels "
                "lose load, and they are what its parking brake holds.",
            ),
            facts=(
                ("Truck and trailer", f"{self.draft.truck_name}, {self.draft.trailer_name}"),
                ("It weighs", write_mass(item.mass_kg, unit)),
                ("Here", begun(ground_words(plan.site))),
                ("Held by", begun(holds_words(plan))),
            ),
            picture=picture(self.draft, unit),
            questions=(FIRST, self.question()),
        )

    def judge(self, answer: Answer, unit: UnitSystem) -> Verdict:
        said = chosen(answer, FIRST) == "yes"
        code = chosen(answer, self.question())
        known = said is (self.held[NOTHING] >= HELD)
        done = self.held[code] >= HELD
        if known and code == self.right:
            grade = Grade.RIGHT
        elif done:
            grade = Grade.NEARLY
        else:
            grade = Grade.WRONG
        question = self.question()
        chose, least = words_of(question, code), words_of(question, self.right)
        now, then = self.held[NOTHING], self.held[code]
        first = f"As it stands it {'holds' if now >= HELD else 'slides'}: {_words(now)}."
        second = {
            Grade.RIGHT: f"“{begun(chose)}” is the least that holds it.",
            Grade.NEARLY: (
                f"“{begun(chose)}” holds it too."
                if code == self.right
                else f"“{begun(chose)}” holds it, and “{least}” would have been enough."
            ),
            Grade.WRONG: f"“{begun(chose)}” does not hold it: {_words(then)}.",
        }[grade]
        return Verdict(
            grade=grade,
            sentence=f"{first} {second}",
            best=least,
            figures=tuple(
                (begun(words_of(question, one)), _words(value)) for one, value in self.held.items()
            ),
        )

    def every(self) -> Iterator[Answer]:
        yield from one_of_each((FIRST, self.question()))


def held(draft: Draft, index: int) -> float | None:
    """How many times what the core asks the outfit holds at the worst station, endless where
    nothing pushes it; ``None`` where that is not known."""
    found: Way = way(draft.plan_at(Place.LOADING), index, stations=STATIONS)
    finding = found.finding(Subject.HOLD)
    if finding is None or finding.limit is None or finding.status is Status.UNKNOWN:
        return None
    return math.inf if finding.value is None else finding.value / finding.limit


def _words(ratio: float) -> str:
    return hold_words(None if math.isinf(ratio) else ratio)


def site(rng: random.Random) -> document.Site:
    """A place by chance, where loading is a question."""
    surface = rng.choice((Surface.CONCRETE_WET, Surface.GRAVEL, Surface.GRASS_DRY))
    return document.Site(
        slope=rng.choice((-0.12, -0.08, -0.05, -0.03, 0.0, 0.03, 0.05, 0.08)),
        surface=surface.value,
    )


class _Slope(Maker):
    kind = "slope"

    def wish(self, rng: random.Random) -> str:
        return rng.choice((NOTHING, "four_wheel", "chocks"))

    def tried(self, rng: random.Random, haul: Draft | None, wish: str | None) -> SlopeCase:
        draft = haul if haul is not None else best_placed(loaded(rng))
        climbing = driven(draft)
        if not climbing:
            raise UnfitError("Nothing of it is driven on.")
        index = max(climbing, key=lambda n: draft.plan.items[n].mass_kg)
        draft = draft.with_site(site(rng), Place.LOADING)
        now = held(draft, index)
        if now is None:
            raise UnfitError("What getting on takes is not known: see On and off.")
        values = {NOTHING: now}
        for measure in MEASURES:
            if measure.code not in ASKED:
                continue
            made = measure.made(draft, Place.LOADING, index)
            after = None if made is None else held(made, index)
            if after is not None:
                values[measure.code] = after
        if any(abs(value - HELD) < CLEAR for value in values.values()):
            raise UnfitError("Whether it holds hangs by a thread.")
        if len(values) < 3 or all(value < HELD for value in values.values()):
            raise UnfitError("Nothing of what can be done holds it.")
        case = SlopeCase(draft=draft, index=index, held=values)
        if wish is not None and case.right != wish:
            raise UnfitError("Another answer is wished for.")
        return case


SLOPE: Final = Kind(
    slug="slope",
    title="Does it hold on this slope",
    about="The machine climbs, the truck's rear wheels lose load: does it hold, and what would you "
    "do?",
    make=_Slope(),
    of_hauls=True,
)
