"""Tie it down from this rack: which pieces, and where the front and the rear pair go.

Right is the lightest piece of the rack with which every rule holds, however it is hooked so that it
holds; heavier ones are nearly right.
"""

from __future__ import annotations

import random
from collections.abc import Iterator
from dataclasses import dataclass, replace
from itertools import product
from typing import Final

from measures import UnitSystem
from measures.marks import write_place
from measures.writing import write_length, write_mass
from mechanics.checks import Status
from mechanics.item import Item
from mechanics.plan import Plan
from mechanics.securing.findings import Finding
from mechanics.securing.report import secure, tied_of
from mechanics.ties import Securing, SecuringSchool, Tie, TieKind
from mechanics.trailer import Trailer
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
    chosen,
    one_of_each,
    picture,
)
from practice.invented import loaded
from practice.kinds.placing import heaviest
from practice.kinds.standing import best_placed
from wording.securing import Teller

SAME_M: Final = 6 * M_PER_IN
"""Two places this near along the deck are a pair, left and right."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Piece:
    """A kind of piece in the rack and its working load limit (49 CFR 393.108, from memory)."""

    value: str
    kind: TieKind
    size_m: float
    wll_kg: float

    def words(self, unit: UnitSystem) -> str:
        """What several of them are called."""
        size = write_length(self.size_m, unit, step=16)
        return f"straps, {size} wide" if self.kind is TieKind.STRAP else f"chains, {size}, grade 70"


PIECES: Final = tuple(
    Piece(value=value, kind=kind, size_m=size * M_PER_IN, wll_kg=wll * KG_PER_LB)
    for value, kind, size, wll in (
        ("strap2", TieKind.STRAP, 2, 2000),
        ("strap4", TieKind.STRAP, 4, 4000),
        ("chain5", TieKind.CHAIN, 5 / 16, 4700),
        ("chain6", TieKind.CHAIN, 3 / 8, 6600),
    )
)
"""What a rack may hold, lightest first."""

SIDES: Final = (1, -1)

Ends = tuple[str, str]


@dataclass(frozen=True, kw_only=True, slots=True)
class Rings:
    """A pair of anchors, left and right, so far behind the headboard."""

    value: str
    at_m: float
    ids: Ends


@dataclass(frozen=True, kw_only=True)
class TieCase(Case):
    """A machine in its place, the pieces of a rack, rings to hook to. ``lightest`` is the piece
    that holds."""

    draft: Draft
    index: int
    rack: tuple[Piece, ...]
    front: Ends
    rear: Ends
    rings: tuple[Rings, ...]
    lightest: str

    def questions(self, unit: UnitSystem) -> tuple[Question, ...]:
        """Which piece, and to which rings."""
        rings = tuple(
            Option(value=one.value, words=f"rings at {write_place(one.at_m, unit)}")
            for one in self.rings
        )
        return (
            Question(
                name="piece",
                label="Four of which?",
                options=tuple(
                    Option(
                        value=one.value,
                        words=one.words(unit),
                        note=f"working load limit {write_mass(one.wll_kg, unit)}",
                    )
                    for one in self.rack
                ),
            ),
            Question(name="front", label="From its front end, left and right, to", options=rings),
            Question(name="rear", label="From its rear end, left and right, to", options=rings),
        )

    def situation(self, unit: UnitSystem) -> Situation:
        item = self.draft.plan.items[self.index]
        ahead = {one.id: one.ahead_m for one in item.points}
        way = item.direction
        at = {
            name: item.placement.reference_m + way * ahead[ends[0]]
            for name, ends in (("front", self.front), ("rear", self.rear))
        }
        return Situation(
            story=(
                "Four ties, direct, one at each corner. Use the lightest piece that does, and "
                "hook it so that it holds forward, rearward and sideways.",
            ),
            facts=(
                ("On", self.draft.trailer_name),
                (item.called, write_mass(item.mass_kg, unit)),
                ("Its front eyes stand at", write_place(at["front"], unit)),
                ("Its rear eyes stand at", write_place(at["rear"], unit)),
                ("Deck", write_length(self.draft.plan.trailer.deck.length_m, unit)),
            ),
            picture=picture(self.draft, unit),
            questions=self.questions(unit),
        )

    def tied(self, answer: Answer) -> Plan:
        """The plan tied as answered."""
        piece, front, rear = (chosen(answer, one) for one in self.questions(UnitSystem.US))
        return tied(self.draft.plan, self.index, _piece(piece), self._ends(front, rear))

    def _ends(self, front: str, rear: str) -> tuple[tuple[Ends, Ends], tuple[Ends, Ends]]:
        by = {one.value: one.ids for one in self.rings}
        return (self.front, by[front]), (self.rear, by[rear])

    def judge(self, answer: Answer, unit: UnitSystem) -> Verdict:
        plan = self.tied(answer)
        piece = answer["piece"][0]
        report = secure(plan, SecuringSchool.US_393)
        item = plan.items[self.index]
        found = next(one for one in report.items if one.item == item.id)
        teller = Teller(
            plan=plan,
            tied=tied_of(plan, item.id),
            numbers={tie.id: n for n, tie in enumerate(plan.securing.ties, start=1)}
            if plan.securing
            else {},
            unit=unit,
        )
        over = [one for one in found.findings if one.status is Status.OVER]
        if over:
            grade = Grade.WRONG
            row = teller.row(over[0])
            said = f"It does not hold. {row.label}: {row.figure}."
        elif piece == self.lightest:
            grade, said = Grade.RIGHT, "It holds every way, with the lightest piece that does."
        else:
            grade = Grade.NEARLY
            lighter = _piece(self.lightest).words(unit)
            said = f"It holds every way, and {lighter} would have been enough."
        return Verdict(
            grade=grade,
            sentence=said,
            best=self._best_words(unit),
            figures=tuple(
                (row.label, row.figure)
                for row in (teller.row(one) for one in _told(found.findings))
            ),
        )

    def _best_words(self, unit: UnitSystem) -> str:
        answer = self.best()
        words = {
            question.name: next(
                one.words for one in question.options if one.value == answer[question.name][0]
            )
            for question in self.questions(unit)
        }
        return f"four {words['piece']}, front to {words['front']}, rear to {words['rear']}"

    def best(self) -> Answer:
        for answer in self.every():
            if answer["piece"][0] == self.lightest and holds(self.tied(answer)):
                return answer
        raise ValueError("no answer is right")

    def every(self) -> Iterator[Answer]:
        yield from one_of_each(self.questions(UnitSystem.US))


def _told(findings: tuple[Finding, ...]) -> list[Finding]:
    """What is told of ties: what they hold each way, and what is passed."""
    return [
        one
        for one in findings
        if one.status is Status.OVER
        or one.family in ("forward", "rearward", "left", "right", "up", "aggregate", "number")
    ]


def _piece(value: str) -> Piece:
    return next(one for one in PIECES if one.value == value)


def tied(
    plan: Plan, index: int, piece: Piece, pairs: tuple[tuple[Ends, Ends], tuple[Ends, Ends]]
) -> Plan:
    """A plan with a machine tied by four pieces of a kind, each pair of points to a pair of
    anchors, left to left."""
    item = plan.items[index]
    ties = tuple(
        Tie(
            id=f"{n}{side}",
            item=item.id,
            point=points[side],
            anchor=anchors[side],
            kind=piece.kind,
            wll_kg=piece.wll_kg,
        )
        for n, (points, anchors) in enumerate(pairs)
        for side in range(2)
    )
    return replace(plan, securing=Securing(school=SecuringSchool.US_393, ties=ties))


def holds(plan: Plan) -> bool:
    """Whether nothing is passed and nothing unknown."""
    return secure(plan, SecuringSchool.US_393).verdict in (Status.OK, Status.NEAR)


def pairs_of(item: Item) -> tuple[Ends, Ends]:
    """Its foremost and its rearmost points, left and right.

    Raises:
        UnfitError: it has no such four.
    """
    sides = [
        {point.ahead_m: point.id for point in item.points if point.left_m * side > 0}
        for side in SIDES
    ]
    if any(len(one) < 2 for one in sides):
        raise UnfitError("Its points for ties, two on each side, are not in the book.")
    left, right = sides
    # of a machine that faces the tail, its own left is on the other side of the deck
    if item.direction > 0:
        left, right = right, left
    return (left[max(left)], right[max(right)]), (left[min(left)], right[min(right)])


def rings_of(trailer: Trailer) -> tuple[Rings, ...]:
    """Pairs of anchors, left and right at one place of the deck; at most six.

    Raises:
        UnfitError: there are fewer than three.
    """
    found: list[Rings] = []
    for left in (one for one in trailer.anchors if one.left_m > 0 and one.wll_kg is not None):
        for right in trailer.anchors:
            if right.left_m < 0 and abs(right.tape_m - left.tape_m) < SAME_M:
                ids = (left.id, right.id)
                found.append(Rings(value=left.id, at_m=left.tape_m, ids=ids))
                break
    if len(found) < 3:
        raise UnfitError("Its anchors, three pairs or more with their limits, are not in the book.")
    return tuple(sorted(found, key=lambda one: one.at_m)[:6])


class _TieDown(Maker):
    kind = "tie"

    def wish(self, rng: random.Random) -> str:
        return rng.choice(PIECES[:3]).value

    def tried(self, rng: random.Random, haul: Draft | None, wish: str | None) -> TieCase:
        draft = haul if haul is not None else best_placed(loaded(rng))
        index = heaviest(draft.plan)
        front, rear = pairs_of(draft.plan.items[index])
        rings = rings_of(draft.plan.trailer)
        rack = tuple(sorted(rng.sample(PIECES, 3), key=lambda one: one.wll_kg))
        lightest = None
        for piece in rack:
            ways = product(rings, rings)
            if any(
                holds(tied(draft.plan, index, piece, ((front, one.ids), (rear, other.ids))))
                for one, other in ways
            ):
                lightest = piece
                break
        if lightest is None:
            raise UnfitError("Nothing of this rack holds it with four.")
        if wish is not None and lightest.value != wish:
            raise UnfitError("Another answer is wished for.")
        return TieCase(
            draft=draft,
            index=index,
            rack=rack,
            front=front,
            rear=rear,
            rings=rings,
            lightest=lightest.value,
        )


TIE_DOWN: Final = Kind(
    slug="tie",
    title="Tie it down",
    about="Four pieces from this rack, and where to hook them so that they hold every way.",
    make=_TieDown(),
    of_hauls=True,
    decides=("piece",),
)
