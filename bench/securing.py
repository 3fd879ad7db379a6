"""Tying down: every check of a load's ties, and the fewest ties of a rack."""

from __future__ import annotations

import random
from dataclasses import replace

from bench.core import median_seconds
from mechanics.item import BalancePoint, Contact, Item, Placement
from mechanics.plan import Plan
from mechanics.securing import RackPiece, Standard, secure, suggest
from mechanics.tests.outfits import example_plan
from mechanics.ties import Anchor, Point, Securing, SecuringSchool, Tie, TieKind
from mechanics.units import KG_PER_LB

US = SecuringSchool.US_393


def three_items() -> Plan:
    """Twelve ties on three items, each at an anchor of its own with a limit."""
    dice = random.Random(3)
    items, anchors, ties = [], [], []
    for n in range(3):
        corners = [(f"p{k}", ahead, side) for k, (ahead, side) in enumerate(
            [(0.6, 0.5), (0.6, -0.5), (-0.6, 0.5), (-0.6, -0.5)])]  # fmt: skip
        mark = 1.2 + 2.0 * n
        items.append(
            Item(
                id=f"m{n}",
                mass_kg=dice.uniform(900, 1600),
                cg=BalancePoint(ahead_m=0.1, height_m=0.6),
                front_m=0.8,
                rear_m=0.8,
                width_m=1.2,
                contacts=(Contact(ahead_m=-0.5), Contact(ahead_m=0.5)),
                placement=Placement(reference_m=mark),
                points=tuple(
                    Point(id=name, ahead_m=ahead, left_m=side, height_m=0.5, strength_kg=3000.0)
                    for name, ahead, side in corners
                ),
            )
        )
        for k, (name, ahead, side) in enumerate(corners):
            anchors.append(
                Anchor(
                    id=f"a{n}{k}",
                    tape_m=mark - 1.6 * ahead,
                    left_m=1.0 if side > 0 else -1.0,
                    wll_kg=2300.0,
                )
            )
            ties.append(
                Tie(
                    id=f"t{n}{k}",
                    item=f"m{n}",
                    point=name,
                    anchor=f"a{n}{k}",
                    kind=TieKind.CHAIN,
                    wll_kg=2100.0,
                )
            )
    plan = example_plan()
    return replace(
        plan,
        trailer=replace(plan.trailer, anchors=tuple(anchors)),
        items=tuple(items),
        securing=Securing(school=US, ties=tuple(ties)),
    )


def bench_ties() -> float:
    """Seconds of all checks of twelve ties on three items, with each one's loss."""
    plan = three_items()
    return median_seconds(lambda: secure(plan, US), 200)


def _rack() -> list[RackPiece]:
    """Forty pieces of nine kinds."""

    def piece(key: str, kind: TieKind | None, pounds: float, count: int, **more: bool) -> RackPiece:
        return RackPiece(key=key, kind=kind, wll_kg=pounds * KG_PER_LB, count=count, **more)

    chain = TieKind.CHAIN
    return [
        piece("3/8", chain, 6600, 4, needs_binder=True),
        piece("5/16", chain, 4700, 8, needs_binder=True),
        piece("1/4", chain, 3150, 4, needs_binder=True),
        piece("old", chain, 1900, 4, needs_binder=True),
        piece("strap", TieKind.STRAP, 3300, 4),
        piece("wide strap", TieKind.STRAP, 5400, 2),
        piece("lever", None, 5400, 6),
        piece("ratchet", None, 6600, 6),
        piece("small", None, 2600, 2),
    ]


def bench_suggestion() -> list[tuple[float, float, int, bool]]:
    """Mass in kg, seconds, ties and whether proved, for machines from light to heavy: forty
    pieces, sixteen anchors, eight points."""
    plan = example_plan()
    anchors = tuple(
        Anchor(id=f"a{n}{s}", tape_m=0.15 + n * 0.85, left_m=0.95 * s, wll_kg=2268.0)
        for n in range(8)
        for s in (1, -1)
    )
    points = tuple(
        Point(id=f"p{n}{s}", ahead_m=ahead, left_m=0.4 * s, height_m=height)
        for n, (ahead, height) in enumerate(((1.9, 0.5), (1.2, 0.6), (0.0, 0.7), (-0.6, 0.5)))
        for s in (1, -1)
    )
    found = []
    for mass in (1000.0, 2600.0, 5000.0, 9000.0):
        item = Item(
            id="m",
            mass_kg=mass,
            cg=BalancePoint(ahead_m=0.6),
            front_m=2.8,
            rear_m=1.0,
            width_m=1.7,
            contacts=(Contact(ahead_m=0.0), Contact(ahead_m=1.7)),
            placement=Placement(reference_m=4.2),
            points=points,
        )
        load = replace(
            plan,
            trailer=replace(plan.trailer, anchors=anchors),
            items=(item,),
            securing=Securing(school=US),
        )
        best = suggest(load, "m", _rack())
        ties = len(best.ties) if best.standard is not Standard.NONE else 0
        seconds = median_seconds(lambda load=load: suggest(load, "m", _rack()), 3)  # type: ignore[misc]
        found.append((mass, seconds, ties, best.proved))
    return found
