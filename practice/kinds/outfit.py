"""Choose truck and trailer for a machine: one pair holds with most to spare."""

from __future__ import annotations

import random
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Final

from measures import UnitSystem
from measures.marks import STEPS
from measures.writing import write_mass, write_percent
from mechanics.report import evaluate
from mechanics.standing import stood
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
    Table,
    UnfitError,
    Verdict,
    chosen,
    one_of_each,
    passed,
    picture,
    shares,
)
from practice.kinds.standing import Judged

PAIRS: Final = 4
"""Pairs to choose from."""

PLATES: Final = (
    "truck empty",
    "people in it",
    "truck GVWR",
    "its front axle, at most",
    "its rear axle, at most",
    "it may tow",
    "with its trailer, at most",
    "receiver, trailer at most",
    "receiver, tongue at most",
    "trailer empty",
    "its tongue empty",
    "trailer GVWR",
    "each of its axles, at most",
)
"""What the plates and the book have of a pair."""

APART: Final = 0.03
"""Two pairs' least reserves are told apart by this."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Pair(Judged):
    """A truck and a trailer under the load, which stands as well as it can there."""

    value: str

    @property
    def words(self) -> str:
        """What it is called."""
        return f"{self.draft.truck_name} with the {self.draft.trailer_name}"


@dataclass(frozen=True, kw_only=True)
class OutfitCase(Case):
    """Some pairs and a machine; ``right`` is the pair with most reserve."""

    pairs: tuple[Pair, ...]
    right: Pair

    def question(self) -> Question:
        """Which pair."""
        return Question(
            name="pair",
            label="Which pair do you send?",
            options=tuple(
                Option(value=one.value, words=f"{one.value}: {one.words}") for one in self.pairs
            ),
        )

    def situation(self, unit: UnitSystem) -> Situation:
        item = self.right.draft.plan.items[0]
        return Situation(
            story=(
                f"{item.called}, {write_mass(item.mass_kg, unit)}, has to be hauled. It will "
                "stand where it is best on each. Send the pair that holds with most to spare.",
            ),
            table=Table(
                head=("", *(one.value for one in self.pairs)),
                rows=tuple(zip(PLATES, *(_plates(one, unit) for one in self.pairs), strict=True)),
            ),
            questions=(self.question(),),
        )

    def judge(self, answer: Answer, unit: UnitSystem) -> Verdict:
        value = chosen(answer, self.question())
        pair = next(one for one in self.pairs if one.value == value)
        if pair is self.right:
            grade, said = Grade.RIGHT, "It holds with most to spare."
        elif pair.holds:
            grade, said = Grade.NEARLY, "It holds, but another has more to spare."
        else:
            grade, said = Grade.WRONG, "It does not hold, wherever the machine stands."
        left = (
            ("Least left of a rating", f"{write_percent(pair.reserve())}"),
            (f"With the {self.right.words}", f"{write_percent(self.right.reserve())}"),
        )
        return Verdict(
            grade=grade,
            sentence=f"{said} {passed(pair.report, unit)}",
            best=self.right.words,
            figures=(*shares(pair.report, unit), *left),
            picture=picture(pair.draft, unit),
        )

    def every(self) -> Iterator[Answer]:
        yield from one_of_each((self.question(),))


def _plates(pair: Pair, unit: UnitSystem) -> tuple[str, ...]:
    """A pair's figures, in the order of :data:`PLATES`."""
    plan = pair.draft.plan
    truck, trailer, part = plan.truck, plan.trailer, plan.hitch.parts[0]
    masses = (
        truck.front_axle_mass_kg + truck.rear_axle_mass_kg,
        sum(one.mass_kg for one in truck.cargo),
        truck.gvwr_kg,
        truck.front_gawr_kg,
        truck.rear_gawr_kg,
        truck.max_trailer_mass_kg,
        truck.gcwr_kg,
        part.max_trailer_mass_kg,
        part.max_tongue_mass_kg,
        trailer.empty_mass_kg,
        trailer.empty_tongue_mass_kg,
        trailer.gvwr_kg,
        trailer.axles[0].gawr_kg,
    )
    return tuple("?" if one is None else write_mass(one, unit) for one in masses)


class _Outfit(Maker):
    kind = "outfit"

    def tried(self, rng: random.Random, haul: Draft | None, wish: str | None) -> OutfitCase:
        trucks = [invented.truck(rng, kind) for kind in invented.TRUCKS]
        trailers = [invented.trailer(rng, kind) for kind in invented.TRAILERS]
        every = [(t, n) for t in range(len(trucks)) for n in range(len(trailers))]
        machine = invented.machine(rng, rng.choice(invented.MACHINES), at=100)
        pairs = []
        for number, (t, n) in enumerate(rng.sample(every, PAIRS)):
            hitch = invented.hitch(invented.TRUCKS[t])
            draft = invented.coupled(trucks[t], hitch, trailers[n]).with_item(machine)
            draft = draft.stood(stood(draft.plan, 0, STEPS[UnitSystem.US]))
            report = evaluate(draft.plan)
            pairs.append(Pair(value=str(number + 1), draft=draft, report=report))
        holding = sorted((one for one in pairs if one.holds), key=lambda one: -one.reserve())
        if not holding or len(holding) == len(pairs):
            raise UnfitError("All of them hold, or none.")
        if len(holding) > 1 and holding[0].reserve() - holding[1].reserve() < APART:
            raise UnfitError("Two of them are as good.")
        return OutfitCase(pairs=tuple(pairs), right=holding[0])


OUTFIT: Final = Kind(
    slug="outfit",
    title="Choose truck and trailer",
    about="Four pairs, one machine, plates to read: which one do you send?",
    make=_Outfit(),
    of_hauls=False,
)
