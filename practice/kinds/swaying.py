"""It sways, what now: what the driver does with it, and what is changed before going on.

What slowing down, holding and speeding up make of the swing, and which change calms it most, is the
core's; that nobody brakes with the truck or steers against it is common practice, no source.
"""

from __future__ import annotations

import random
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Final

from aspects.sway.speeds import SPEEDS_IN
from measures import UnitSystem
from measures.marks import STEPS
from measures.writing import write_inches, write_mass, write_percent
from mechanics.loads import compute_loads
from mechanics.motion import Push, motions
from mechanics.placing import hung_behind, moved
from mechanics.plan import Plan
from mechanics.standing import best_standing
from mechanics.sway import CORNERING, swings, towing_of
from mechanics.units import KG_PER_LB, M_PER_IN, M_S_PER_MPH
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
from practice.kinds.placing import heaviest
from wording.phrases import begun
from wording.sway import COURSES, half_words, left_words

SECONDS: Final = 6.0

CALMER: Final = 0.8
"""The best change leaves a half-life of at most this part of the next best."""

SLOW_S: Final = 1.0
"""A swing that takes longer than this to halve is felt as one that does not stop."""

FOOT: Final = "foot"

NOW: Final = Question(
    name="now",
    label="What do you do now?",
    options=(
        Option(value=FOOT, words="hands still, foot off the accelerator"),
        Option(value="truck", words="brake hard with the truck"),
        Option(value="faster", words="speed up and pull it straight"),
        Option(value="steer", words="steer against each swing"),
    ),
)

WHY: Final = {
    FOOT: "slower calms it",
    "truck": "a truck that brakes is pushed by the trailer behind it, and the swing grows "
    "(common practice, no source)",
    "faster": "a swing dies out more slowly the faster it goes",
    "steer": "a driver is later than the swing and feeds it (common practice, no source)",
}


@dataclass(frozen=True, kw_only=True, slots=True)
class Change:
    """Something done after stopping; ``half_life_s`` is what a swing takes to halve then, at the
    same speed, endless where it never does."""

    value: str
    half_life_s: float
    halves: str


@dataclass(frozen=True, kw_only=True)
class SwayCase(Case):
    """An outfit that sways at a speed, and what could be changed."""

    draft: Draft
    index: int
    speed_m_s: float
    shift_m: float
    rack_kg: float
    changes: tuple[Change, ...]

    @property
    def right(self) -> Change:
        """The change that calms most."""
        return min(self.changes, key=lambda one: one.half_life_s)

    def then(self, unit: UnitSystem) -> Question:
        """What to change after stopping."""
        item = self.draft.plan.items[self.index]
        by, half = (write_inches(one, unit) for one in (self.shift_m, self.shift_m / 2))
        words = {
            "forward": f"move the {item.called} {by} forward",
            "back": f"move the {item.called} {half} back",
            "tail": f"hang {write_mass(self.rack_kg, unit)} of gear behind the tail",
            "nothing": "change nothing and keep an eye on it",
        }
        return Question(
            name="then",
            label="It has calmed down and stands. What do you change before going on?",
            options=tuple(Option(value=one.value, words=words[one.value]) for one in self.changes),
        )

    def situation(self, unit: UnitSystem) -> Situation:
        plan = self.draft.plan
        item = plan.items[self.index]
        speeds = SPEEDS_IN[unit]
        speed = speeds.words(round(self.speed_m_s / speeds.m_s))
        return Situation(
            story=(
                f"At {speed} on a level road, a gust: the trailer swings, and it is slow to stop.",
            ),
            facts=(
                ("Truck and trailer", f"{self.draft.truck_name}, {self.draft.trailer_name}"),
                (item.called, write_mass(item.mass_kg, unit)),
                ("Trailer with its load", write_mass(compute_loads(plan).trailer.mass_kg, unit)),
            ),
            picture=picture(self.draft, unit),
            questions=(NOW, self.then(unit)),
        )

    def judge(self, answer: Answer, unit: UnitSystem) -> Verdict:
        then = self.then(unit)
        now, change = chosen(answer, NOW), chosen(answer, then)
        steady, calms = now == FOOT, change == self.right.value
        grade = Grade.WRONG if not steady else Grade.RIGHT if calms else Grade.NEARLY
        towing = towing_of(self.draft.plan)
        runs = motions(towing, CORNERING["mid"], self.speed_m_s, Push.GUST, seconds=SECONDS)
        share = compute_loads(self.draft.plan).trailer.share
        by = {one.value: one for one in self.changes}
        said = (
            f"{begun(words_of(NOW, now))}: {WHY[now]}. As it stood a swing "
            f"{by['nothing'].halves} at this speed, and {by['forward'].halves} with the load where "
            "it belongs."
        )
        if steady and not calms:
            said = (
                f"The hands were right. “{begun(words_of(then, change))}” does not calm it "
                f"most: the tongue carries {write_percent(share)}."
            )
        return Verdict(
            grade=grade,
            sentence=said,
            best=f"{words_of(NOW, FOOT)}; then {words_of(then, self.right.value)}",
            figures=(
                ("Tongue share as it stood", write_percent(share)),
                *((begun(COURSES[one.course]), f"{left_words(one, Push.GUST)}") for one in runs),
                *(
                    (begun(words_of(then, one.value)), f"a swing {one.halves}")
                    for one in self.changes
                ),
            ),
        )

    def every(self) -> Iterator[Answer]:
        yield from one_of_each((NOW, self.then(UnitSystem.US)))


def _change(value: str, plan: Plan, speed: float) -> Change:
    """How fast a swing dies out after a change, by the middle case.

    Raises:
        UnfitError: an axle carries nothing then.
    """
    towing = towing_of(plan)
    if not towing.stands:
        raise UnfitError("A change lifts an axle.")
    found = swings(towing, speed)
    middle = found[1]
    half = 0.0 if middle.damping is None else middle.half_life_s
    return Change(
        value=value, half_life_s=float("inf") if half is None else half, halves=half_words(found)
    )


class _Swaying(Maker):
    kind = "sways"

    def tried(self, rng: random.Random, haul: Draft | None, wish: str | None) -> SwayCase:
        draft = haul if haul is not None else loaded(rng)
        index = heaviest(draft.plan)
        best = best_standing(draft.plan, index, STEPS[UnitSystem.US])
        if best is None:
            raise UnfitError("It has no place on this deck.")
        shift = rng.choice((18, 24, 30, 36)) * M_PER_IN
        at = best.at_m + shift
        item, deck = draft.plan.items[index], draft.plan.trailer.deck
        if at + item.reach_rearward_m > deck.length_m:
            raise UnfitError("There is no room behind its place.")
        standing = draft.put(index, at)
        plan, rack = standing.plan, rng.choice((100, 200, 300)) * KG_PER_LB
        speed = rng.choice((55, 60, 65)) * M_S_PER_MPH
        changes = [
            _change("forward", moved(plan, index, best.at_m), speed),
            _change("back", moved(plan, index, at + shift / 2), speed),
            _change("tail", hung_behind(plan, rack), speed),
            _change("nothing", plan, speed),
        ]
        rng.shuffle(changes)
        found = sorted(changes, key=lambda one: one.half_life_s)
        if found[0].value != "forward" or found[0].half_life_s > CALMER * found[1].half_life_s:
            raise UnfitError("Its place makes too little of a difference.")
        here = next(one for one in changes if one.value == "nothing")
        if not here.half_life_s >= SLOW_S:
            raise UnfitError("It hardly swings as it stands.")
        return SwayCase(
            draft=standing,
            index=index,
            speed_m_s=speed,
            shift_m=shift,
            rack_kg=rack,
            changes=tuple(changes),
        )


SWAYING: Final = Kind(
    slug="sways",
    title="It sways",
    about="A gust at speed and a swing that does not stop: what now, and what afterwards?",
    make=_Swaying(),
    of_hauls=True,
)
