"""What is wrong on this walk round: everything that is seen, and some of it must not go.

What has a figure (ball, chains, tires) is judged by the core with that figure in the plan; the rest
is what every walk round looks for (common practice, no source).
"""

from __future__ import annotations

import random
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from itertools import combinations
from typing import Final

from hauls.hookup import BALLS, CHAINED
from measures import UnitSystem
from measures.writing import write_length, write_mass
from mechanics.checks import Status
from mechanics.codes import Family
from mechanics.hitch import HitchPart, HitchType
from mechanics.loads import compute_loads
from mechanics.plan import Plan
from mechanics.report import evaluate
from mechanics.units import KG_PER_LB, M_PER_IN
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
    picture,
    ticked,
)
from practice.invented import loaded
from practice.kinds.standing import best_placed
from wording.limits import Telling, fault
from wording.phrases import begun, listed

SEEN: Final = 8
"""What is looked at on a walk."""

MOST_WRONG: Final = 3


@dataclass(frozen=True, kw_only=True, slots=True)
class Look:
    """Something that can be seen: as it should be, and as it must not be, with why. ``of`` says of
    which outfits: ``braked`` or ``chained`` trailers, ``driven`` loads, or all."""

    value: str
    name: str
    good: str
    bad: str
    why: str
    of: str = ""

    def fits(self, draft: Draft) -> bool:
        """Whether there is such a thing to be seen."""
        there = {
            "": True,
            "braked": not draft.unbraked,
            "chained": draft.plan.hitch.type in CHAINED,
            "driven": any(one.drives for one in draft.drawn),
        }
        return there[self.of]


LOOKS: Final = (
    Look(
        value="latch",
        name="coupler latch",
        good="closed, pin through it, lifted on the jack to prove it",
        bad="closed, a bolt lies beside the hole for the pin",
        why="a latch without its pin can jump open",
    ),
    Look(
        value="crossed",
        name="safety chains",
        good="crossed under the tongue, clear of the road",
        bad="hooked side by side, one link touches the road",
        why="crossed they catch the tongue, and what drags wears through",
        of="chained",
    ),
    Look(
        value="breakaway",
        name="breakaway cable",
        good="clipped to the truck's frame",
        bad="looped over the ball mount",
        why="if the mount comes off, the cable goes with it and brakes nothing",
        of="braked",
    ),
    Look(
        value="jack",
        name="tongue jack",
        good="wound up and swung away",
        bad="a hand's breadth above the road",
        why="it meets the first bump",
    ),
    Look(
        value="lights",
        name="lights",
        good="tail, brake and turn on both sides",
        bad="right brake light dark, the rest works",
        why="nobody behind sees it stop",
    ),
    Look(
        value="nuts",
        name="wheel nuts",
        good="all there, no bright rings",
        bad="rust runs out from under two nuts of one wheel",
        why="rust streaks are nuts that have worked loose",
    ),
    Look(
        value="hubs",
        name="hubs",
        good="dry, hand warm after the last trip",
        bad="grease thrown over the inside of one rim",
        why="a seal is gone, and the bearing is next",
    ),
    Look(
        value="sidewall",
        name="sidewalls",
        good="smooth, seven years old by the mark, no cracks",
        bad="a bulge as large as an egg on the left rear",
        why="the cords under a bulge are broken",
    ),
    Look(
        value="ramps",
        name="ramps or gate",
        good="up, both pins in",
        bad="up, held by a rubber strap",
        why="what comes down on the road hits whoever follows",
    ),
    Look(
        value="machine",
        name="machine",
        good="in park, brake set, all that lifts is down",
        bad="in park, what lifts is held up by its hydraulics",
        why="hydraulics sink, and the ties go slack",
        of="driven",
    ),
    Look(
        value="plug",
        name="plug",
        good="in, clear of the road, trailer brake answers the manual lever",
        bad="in, the manual lever brings no tug",
        why="the trailer's brakes do not work",
        of="braked",
    ),
)


@dataclass(frozen=True, kw_only=True, slots=True)
class Sight:
    """Something seen in a case. Wrong ones say why, by the core where it has a figure."""

    value: str
    name: str
    words: Callable[[UnitSystem], str]
    wrong: bool
    why: Callable[[UnitSystem], str]


WRONG: Final = "wrong"


@dataclass(frozen=True, kw_only=True)
class WalkCase(Case):
    """What is seen on one walk round."""

    draft: Draft
    sights: tuple[Sight, ...]

    def question(self, unit: UnitSystem) -> Question:
        """What of it must not go."""
        return Question(
            name=WRONG,
            label="What has to be put right before it goes?",
            options=tuple(
                Option(value=one.value, words=begun(one.name), note=one.words(unit))
                for one in self.sights
            ),
            many=True,
        )

    @property
    def right(self) -> frozenset[str]:
        """What is wrong."""
        return frozenset(one.value for one in self.sights if one.wrong)

    def situation(self, unit: UnitSystem) -> Situation:
        loads = compute_loads(self.draft.plan)
        return Situation(
            story=("Before it leaves you walk round once. This is what you see.",),
            facts=(
                ("Truck and trailer", f"{self.draft.truck_name}, {self.draft.trailer_name}"),
                ("Trailer with its load", write_mass(loads.trailer.mass_kg, unit)),
                ("Each trailer axle", write_mass(max(loads.trailer.axles_kg), unit)),
            ),
            picture=picture(self.draft, unit),
            questions=(self.question(unit),),
        )

    def judge(self, answer: Answer, unit: UnitSystem) -> Verdict:
        found = ticked(answer, self.question(unit))
        missed, false = self.right - found, found - self.right
        grade = Grade.WRONG if missed else Grade.NEARLY if false else Grade.RIGHT

        def names(values: frozenset[str]) -> str:
            return listed([one.name for one in self.sights if one.value in values])

        said = {
            Grade.RIGHT: "All of it found, and nothing else stopped.",
            Grade.NEARLY: f"All of it found; what is as it should be: {names(false)}.",
            Grade.WRONG: f"Gone past: {names(missed)}.",
        }[grade]
        first = missed or self.right
        why = next(one.why(unit) for one in self.sights if one.value in first)
        return Verdict(
            grade=grade,
            sentence=f"{said} {why}",
            best=names(self.right),
            figures=tuple((begun(one.name), one.why(unit)) for one in self.sights if one.wrong),
        )

    def every(self) -> Iterator[Answer]:
        values = [one.value for one in self.sights]
        for count in range(len(values) + 1):
            for some in combinations(values, count):
                yield {WRONG: some}

    def best(self) -> Answer:
        return {WRONG: tuple(sorted(self.right))}


def _told(look: Look, *, wrong: bool) -> Sight:
    return Sight(
        value=look.value,
        name=look.name,
        words=lambda unit: look.bad if wrong else look.good,
        wrong=wrong,
        why=lambda unit: f"{begun(look.why)}.",
    )


def _judged(
    value: str, name: str, plan: Plan, family: Family, words: Callable[[UnitSystem], str]
) -> Sight:
    """Something with a figure: the core says of the plan with it whether it may go.

    Raises:
        UnfitError: it hangs by a thread.
    """
    checks = [one for one in evaluate(plan).checks if one.about.family is family]
    if not checks:
        raise UnfitError(f"This outfit has no {name} to be judged.")
    worst = max(checks, key=lambda one: one.status.severity)
    if worst.status in (Status.NEAR, Status.UNKNOWN):
        raise UnfitError("A figure hangs by a thread.")
    return Sight(
        value=value,
        name=name,
        words=words,
        wrong=worst.status is Status.OVER,
        why=lambda unit: fault(worst, Telling.of(plan, unit)),
    )


def _ball(plan: Plan, rng: random.Random) -> Sight:
    size = rng.choice((2.0, 2.3125, 2.3125)) * M_PER_IN
    tried = replace(plan, hitch=replace(plan.hitch, ball_diameter_m=size))
    coupler = plan.trailer.coupler_size_m or size

    def words(unit: UnitSystem) -> str:
        ball, other = (write_length(one, unit, step=16) for one in (size, coupler))
        return f"ball stamped {ball}, coupler {other}"

    return _judged("ball", "ball and coupler", tried, Family.BALL_SIZE, words)


def _chains(plan: Plan, rng: random.Random) -> Sight:
    rated = rng.choice((3500, 5000, 9000, 13000, 16000)) * KG_PER_LB
    chains = HitchPart(name="Safety chains", max_trailer_mass_kg=rated)
    tried = replace(plan, hitch=replace(plan.hitch, parts=(chains,)))
    return _judged(
        "chains",
        "safety chains' marking",
        tried,
        Family.PART_TRAILER,
        lambda unit: f"marked for a trailer of {write_mass(rated, unit)}",
    )


def _tires(plan: Plan, rng: random.Random) -> Sight:
    each = rng.choice((1100, 1500, 1820, 2540, 3520)) * KG_PER_LB
    axles = tuple(replace(one, tire_capacity_kg=2 * each) for one in plan.trailer.axles)
    tried = replace(plan, trailer=replace(plan.trailer, axles=axles))
    return _judged(
        "tires",
        "load marked on the trailer's tires",
        tried,
        Family.TRAILER_TIRES,
        lambda unit: f"{write_mass(each, unit)} each, two on an axle",
    )


FIGURES: Final = ((_ball, BALLS), (_chains, CHAINED), (_tires, HitchType))
"""What has a figure, and the hitches that have such a thing."""


class _WalkRound(Maker):
    kind = "walk"

    def tried(self, rng: random.Random, haul: Draft | None, wish: str | None) -> WalkCase:
        draft = haul if haul is not None else best_placed(loaded(rng))
        if not draft.plan.items:
            raise UnfitError("Nothing stands on this deck.")
        coupled = draft.plan.hitch.type
        able = [make for make, hitches in FIGURES if coupled in hitches]
        figures = [make(draft.plan, rng) for make in rng.sample(able, min(2, len(able)))]
        there = [one for one in LOOKS if one.fits(draft)]
        looks = rng.sample(there, SEEN - len(figures))
        count = rng.randint(0, MOST_WRONG)
        wrong = set(rng.sample([one.value for one in looks], count))
        sights = [*figures, *(_told(one, wrong=one.value in wrong) for one in looks)]
        rng.shuffle(sights)
        if not 1 <= sum(one.wrong for one in sights) <= MOST_WRONG:
            raise UnfitError("Nothing is wrong, or too much.")
        return WalkCase(draft=draft, sights=tuple(sights))


WALK_ROUND: Final = Kind(
    slug="walk",
    title="What is wrong on this walk round",
    about="Eight things seen, one to three of them must not go.",
    make=_WalkRound(),
    of_hauls=True,
)
