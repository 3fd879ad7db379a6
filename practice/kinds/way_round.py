"""Which way round: nose to the truck, nose to the tail, or not on this trailer."""

from __future__ import annotations

import random
from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Final

from measures import UnitSystem
from measures.marks import STEPS
from measures.writing import write_length, write_mass, write_percent
from mechanics.checks import Status
from mechanics.item import Facing
from mechanics.report import evaluate
from mechanics.standing import stood, stood_turned
from planfile.draft import Draft
from practice import invented
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
    passed,
    picture,
    shares,
)
from practice.kinds.placing import plates
from practice.kinds.standing import Judged
from wording.phrases import begun

APART: Final = 0.03
"""The two ways' least reserves are told apart by this."""

WAY: Final = Question(
    name="way",
    label="Which way round does it go on?",
    options=(
        Option(value="forward", words="nose to the truck"),
        Option(value="backward", words="nose to the tail"),
        Option(value="neither", words="neither: not on this trailer"),
    ),
)


@dataclass(frozen=True, kw_only=True)
class WayRoundCase(Case):
    """Both ways round; ``right`` is the option that is best."""

    rounds: dict[str, Judged]
    right: str

    @property
    def _shown(self) -> Draft:
        return self.rounds["forward"].draft

    def situation(self, unit: UnitSystem) -> Situation:
        plan = self._shown.plan
        item = plan.items[0]
        over = item.cg.ahead_m
        where = f"{write_length(abs(over), unit)} {'ahead of' if over >= 0 else 'behind'} its mark"
        return Situation(
            story=(
                f"{item.called} may go on either way round, and will stand where it is best. "
                "Which way leaves most in hand, the tongue's share counted too?",
            ),
            facts=(
                ("Truck and trailer", f"{self._shown.truck_name}, {self._shown.trailer_name}"),
                ("It weighs", write_mass(item.mass_kg, unit)),
                (f"Its balance point, from the {self._shown.drawn[0].mark}", where),
                (
                    "Its reach ahead and behind",
                    f"{write_length(item.front_m, unit)}, {write_length(item.rear_m, unit)}",
                ),
                ("Deck", write_length(plan.trailer.deck.length_m, unit)),
                (
                    "Middle of the trailer's axles, behind the headboard",
                    write_length(plan.trailer.axle_centre_m - plan.trailer.deck.start_m, unit),
                ),
                ("Empty trailer", write_mass(plan.trailer.empty_mass_kg, unit)),
                ("Its tongue", write_mass(plan.trailer.empty_tongue_mass_kg, unit)),
                *plates(plan, unit),
            ),
            picture=picture(self._shown.put(0, plan.trailer.deck.length_m / 2), unit),
            questions=(WAY,),
        )

    def judge(self, answer: Answer, unit: UnitSystem) -> Verdict:
        way = chosen(answer, WAY)
        taken = self.rounds.get(way)
        if way == self.right:
            grade = Grade.RIGHT
        elif taken is not None and taken.holds:
            grade = Grade.NEARLY
        else:
            grade = Grade.WRONG
        told = [
            (begun(one.words), self._left(self.rounds[one.value]))
            for one in WAY.options
            if one.value in self.rounds
        ]
        shown = taken or self.rounds["forward"]
        if way == "neither":
            said = "Neither holds." if grade is Grade.RIGHT else "It does go on this trailer."
            shown = self.rounds.get(self.right, shown)
        elif shown.holds:
            said = "It holds so." if grade is Grade.RIGHT else "It holds so, with less in hand."
        else:
            said = "It does not hold so."
        return Verdict(
            grade=grade,
            sentence=f"{said} {passed(shown.report, unit)}",
            best=next(one.words for one in WAY.options if one.value == self.right),
            figures=(*told, *shares(shown.report, unit)),
            picture=picture(shown.draft, unit),
        )

    def _left(self, way: Judged) -> str:
        left = write_percent(way.reserve(share=True))
        return f"{left} left of what is tightest" if way.holds else "does not hold"

    def every(self) -> Iterator[Answer]:
        yield from one_of_each((WAY,))


def long_machine(rng: random.Random) -> Draft:
    """An outfit with a machine nearly as long as its deck: which way round it stands decides where
    its weight can come."""
    kind = rng.choice(invented.TRAILERS)
    draft = invented.outfit(rng, rng.choice(invented.TRUCKS), kind)
    like = rng.choice(invented.MACHINES)
    ahead = rng.uniform(0.4, 0.66)
    machine = replace(
        like,
        front=round(kind.length * ahead),
        rear=round(kind.length * (rng.uniform(0.86, 0.97) - ahead)),
    )
    return draft.with_item(invented.machine(rng, machine, at=round(kind.length * 0.6)))


class _WayRound(Maker):
    kind = "round"

    def wish(self, rng: random.Random) -> str:
        return rng.choice(("forward", "forward", "backward", "backward", "neither"))

    def tried(self, rng: random.Random, haul: Draft | None, wish: str | None) -> WayRoundCase:
        draft = haul if haul is not None else long_machine(rng)
        if len(draft.plan.items) != 1:
            raise UnfitError("It takes a haul of one machine.")
        steps = STEPS[UnitSystem.US]
        rounds = {}
        for made in (stood(draft.plan, 0, steps), stood_turned(draft.plan, 0, steps)):
            standing = draft.stood(made)
            forward = made.items[0].placement.facing is Facing.FORWARD
            rounds["forward" if forward else "backward"] = Judged(
                draft=standing, report=evaluate(standing.plan)
            )
        if any(one.report.verdict is Status.UNKNOWN for one in rounds.values()):
            raise UnfitError("Something of it is not known.")
        left = {name: one.reserve(share=True) for name, one in rounds.items() if one.holds}
        holding = sorted(left, key=lambda name: -left[name])
        if len(holding) == 2 and left[holding[0]] - left[holding[1]] < APART:
            raise UnfitError("Both ways are as good.")
        right = holding[0] if holding else "neither"
        if wish is not None and right != wish:
            raise UnfitError("Another answer is wished for.")
        return WayRoundCase(rounds=rounds, right=right)


WAY_ROUND: Final = Kind(
    slug="round",
    title="Which way round",
    about="Nose to the truck or nose to the tail: which leaves most in hand?",
    make=_WayRound(),
    of_hauls=True,
)
