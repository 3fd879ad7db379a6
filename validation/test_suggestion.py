"""Suggested ties against trying every set of them, on a hundred small racks.

Source: the text of the model itself, written out here a second time over plain numbers, and
``itertools``. Nothing of the core's own holding, sharing or searching is used; only what may be
put where (points, anchors, sides) is taken from it.
"""

from __future__ import annotations

import itertools
import math
import random
from collections import Counter
from collections.abc import Iterator
from dataclasses import replace

from django.test import SimpleTestCase

from mechanics.item import BalancePoint, Contact, Item, Placement
from mechanics.plan import Plan
from mechanics.securing import RackPiece, Standard
from mechanics.securing.choices import EITHER
from mechanics.securing.rack import sets_of
from mechanics.securing.search import Search
from mechanics.solver import Allowance
from mechanics.tests.outfits import example_plan
from mechanics.ties import Anchor, Point, Securing, SecuringSchool, TieKind

RACKS = 100
MOST = 5
"""Ties that are tried at most; the racks hold no more."""

STRETCH = {TieKind.CHAIN: 0.01, TieKind.STRAP: 0.05}
WAYS = {"forward": (-1, 0, 0), "rearward": (1, 0, 0), "left": (0, 1, 0), "right": (0, -1, 0)}
US = {"forward": 0.435, "rearward": 0.5, "left": 0.25, "right": 0.25}

One = tuple[tuple[str, str], tuple[float, ...], float, float, float, str, bool, bool]
"""Ends, direction, length, own limit, what it may pull, the piece, whether the point lies left,
whether it pulls forward."""


def small(seed: int) -> tuple[Plan, list[RackPiece]]:
    """A machine with four points between six anchors, and five pieces on the rack."""
    dice = random.Random(seed)
    anchors = tuple(
        Anchor(
            id=f"a{n}{side}",
            tape_m=at,
            left_m=side * 1.0,
            wll_kg=dice.choice([None, 1500.0, 2300.0]),
        )
        for n, at in enumerate((0.2, dice.uniform(1.0, 4.5), 5.8))
        for side in (1, -1)
    )
    points = tuple(
        Point(
            id=f"p{n}{side}",
            ahead_m=ahead,
            left_m=0.45 * side,
            height_m=dice.uniform(0.3, 0.8),
            strength_kg=dice.choice([None, 2500.0]),
        )
        for n, ahead in enumerate((1.6, -0.4))
        for side in (1, -1)
    )
    item = Item(
        id="m",
        mass_kg=dice.uniform(800, 3800),
        cg=BalancePoint(ahead_m=0.6),
        front_m=2.0,
        rear_m=0.9,
        width_m=1.6,
        contacts=(Contact(ahead_m=0.0), Contact(ahead_m=1.5)),
        placement=Placement(reference_m=dice.uniform(3.2, 4.2)),
        points=points,
    )
    plan = example_plan()
    school = dice.choice([SecuringSchool.US_393, SecuringSchool.STRICT])
    rack = [
        RackPiece(
            key="chain",
            kind=TieKind.CHAIN,
            wll_kg=dice.choice([1400.0, 2100.0, 3000.0]),
            count=dice.randint(1, 4),
        ),
        RackPiece(key="strap", kind=TieKind.STRAP, wll_kg=1500.0, count=0),
    ]
    rack[1] = replace(rack[1], count=MOST - rack[0].count)
    return (
        replace(
            plan,
            trailer=replace(plan.trailer, anchors=anchors),
            items=(item,),
            securing=Securing(school=school),
        ),
        rack,
    )


def options(plan: Plan, rack: list[RackPiece]) -> Iterator[One]:
    """Every tie that practice would put on."""
    item = plan.items[0]
    mark = item.placement.reference_m
    middle = mark - 0.75
    for point, anchor, piece in itertools.product(item.points, plan.trailer.anchors, rack):
        assert piece.kind is not None
        at = (mark - point.ahead_m, point.left_m, point.height_m)
        to = (anchor.tape_m, anchor.left_m, anchor.height_m)
        length = math.dist(at, to)
        u = tuple((b - a) / length for a, b in zip(at, to, strict=True))
        if abs(u[2]) > 0.87 or length < 0.3 or (at[0] - middle) * (to[0] - middle) < 0:
            continue
        may = min(piece.wll_kg, anchor.wll_kg or math.inf)
        stiff = piece.wll_kg / (STRETCH[piece.kind] * length)
        ends = (point.id, anchor.id)
        yield ends, u, length, stiff, may, piece.key, point.left_m > 0, u[0] < 0


def shares(ties: tuple[One, ...], way: tuple[int, ...]) -> list[tuple[One, float]]:
    found = []
    for tie in ties:
        c = -sum(a * b for a, b in zip(tie[1], way, strict=True))
        if c > 0:
            found.append((tie, c))
    return found


def capacity(ties: tuple[One, ...], way: tuple[int, ...]) -> float:
    """What they hold along a way, in kg."""
    pulling = shares(ties, way)
    if not pulling:
        return 0.0
    moved = min(tie[4] / (tie[3] * c) for tie, c in pulling)
    return sum(tie[3] * moved * c * c for tie, c in pulling)


def passes(plan: Plan, ties: tuple[One, ...]) -> bool:
    """Whether every check of the item is ok with these ties."""
    item = plan.items[0]
    assert plan.securing is not None
    mass = item.mass_kg
    limits = US if plan.securing.school is SecuringSchool.US_393 else {
        "forward": 0.8, "rearward": 0.5, "left": 0.5, "right": 0.5,
    }  # fmt: skip
    if sum(tie[4] for tie in ties) / 2 < 1.2 * mass / 2:
        return False
    for name, way in WAYS.items():
        if capacity(ties, way) < 1.2 * limits[name] * mass:
            return False
    if capacity(ties, (0, 0, 1)) < 1.2 * 0.2 * mass:
        return False
    for n in range(len(ties)):
        left = ties[:n] + ties[n + 1 :]
        if any(capacity(left, way) < 0.5 * limits[name] * mass for name, way in WAYS.items()):
            return False
    return _loads(plan, ties, limits)


def _loads(plan: Plan, ties: tuple[One, ...], limits: dict[str, float]) -> bool:
    """Whether anchors and points have what they get within nine tenths, and no anchor more than
    it holds."""
    item = plan.items[0]
    limits_at = {(1, a.id): a.wll_kg for a in plan.trailer.anchors if a.wll_kg is not None}
    for anchor in plan.trailer.anchors:
        given = sum(tie[4] for tie in ties if tie[0][1] == anchor.id)
        if anchor.wll_kg is not None and given > anchor.wll_kg * (1 + 1e-9):
            return False
    limits_at |= {(0, p.id): p.strength_kg for p in item.points if p.strength_kg is not None}
    for name, way in WAYS.items():
        pulling = shares(ties, way)
        total = sum(tie[3] * c * c for tie, c in pulling)
        push = limits[name] * item.mass_kg
        for (end, place), most in limits_at.items():
            pulled = sum(tie[3] * c for tie, c in pulling if tie[0][end] == place) * push / total
            if pulled > 0.9 * most:
                return False
    return True


def fewest(plan: Plan, rack: list[RackPiece]) -> int | None:
    """The least number of ties that pass, by trying all: every set of places that has its four
    corners, then every way to deal the pieces out to them."""
    by_ends: dict[tuple[str, str], list[One]] = {}
    for one in options(plan, rack):
        by_ends.setdefault(one[0], []).append(one)
    for number in range(4, MOST + 1):
        for places in itertools.combinations(by_ends.values(), number):
            if len({(here[0][6], here[0][7]) for here in places}) < 4:
                continue
            if max(Counter(here[0][0][0] for here in places).values()) > 2:
                continue
            for ties in itertools.product(*places):
                chains = sum(tie[5] == "chain" for tie in ties)
                enough = chains <= rack[0].count and number - chains <= rack[1].count
                if enough and passes(plan, ties):
                    return number
    return None


class FewestTies(SimpleTestCase):
    def test_as_few_as_trying_all_of_them_finds(self) -> None:
        outcomes: Counter[int | None] = Counter()
        for seed in range(RACKS):
            plan, rack = small(seed)
            tried = fewest(plan, rack)
            search = Search.of(
                plan, plan.items[0], rack, sets_of(rack), Standard.EVERYTHING, EITHER
            )
            found = search.fewest(Allowance(600.0))
            self.assertTrue(search.exhausted, f"rack {seed}")
            if found is None:
                self.assertIsNone(tried, f"rack {seed}")
            else:
                self.assertIs(found.standard, Standard.EVERYTHING, f"rack {seed}")
                self.assertEqual(len(found.ties), tried, f"rack {seed}")
            outcomes[tried] += 1
        # racks that do, that need one tie more, and that do not
        self.assertGreater(outcomes[4], 10)
        self.assertGreater(outcomes[None], 10)
