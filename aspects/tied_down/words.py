"""The sentences of tying down: what holds, what asks most, what is left when one fails."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Final

from hauls.tied import Judged
from measures.writing import write_percent
from mechanics.checks import Status
from mechanics.plan import Plan
from mechanics.securing import Finding, ItemTied, TieUse
from mechanics.securing.hold import WAYS
from wording.phrases import begun
from wording.securing import KIND_WORDS, WAY_WORDS, Teller, times
from wording.statuses import STATUS_WORDS

NUMBER_WORDS: Final = {
    1: "one",
    2: "two",
    3: "three",
    4: "four",
    5: "five",
    6: "six",
    7: "seven",
    8: "eight",
    9: "nine",
    10: "ten",
    11: "eleven",
    12: "twelve",
}

ASKS: Final = {
    "forward": "braking",
    "rearward": "pulling away",
    "left": "a push to the left",
    "right": "a push to the right",
    "up": "a jolt upward",
}
"""What pushes a load each way."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Said:
    """The sentence on top: status, its word, what is said, what follows from it."""

    status: str
    word: str
    first: str
    second: str


def counted(kinds: Sequence[str]) -> str:
    """``four chains``, or ``two chains and one strap``."""
    found = []
    for kind, number in Counter(kinds).items():
        word = NUMBER_WORDS.get(number, str(number))
        found.append(f"{word} {kind}{'s' if number > 1 else ''}")
    return " and ".join(found)


def said(plan: Plan, tied: ItemTied, numbers: Mapping[str, int], judged: Judged) -> Said:
    """What is said of one item's ties."""
    if plan.securing is None or not tied.ties:
        status = Status.UNKNOWN if plan.securing is None else Status.OVER
        return Said(
            status=status.value,
            word=STATUS_WORDS[status],
            first=f"Nothing ties {plan.item(tied.item).called} down yet.",
            second="Drag from a point of the machine to an anchor, or have it suggested from the "
            "rack.",
        )
    kinds = counted([KIND_WORDS[use.rope.tie.kind] for use in tied.ties])
    return Said(
        status=judged.status.value,
        word=judged.word,
        first=judged.faults[0] if judged.faults else _first(tied, kinds, judged.status, numbers),
        second=" ".join([_second(tied), *judged.doubts[:1]]),
    )


def _first(tied: ItemTied, kinds: str, status: Status, numbers: Mapping[str, int]) -> str:
    if status is Status.UNKNOWN:
        return f"Cannot say what {kinds} hold: a limit is not known."
    if status is Status.OVER:
        return f"{begun(kinds)}: {_worst(tied.by_family)}"
    asked = _asks_most(tied, numbers)
    return f"{begun(kinds)} {'hold' if len(tied.ties) > 1 else 'holds'} it{asked}."


def _worst(found: Mapping[str, Finding]) -> str:
    """What is over, the way that is held worst first."""
    ways = {
        name: (f.value or 0.0) / (f.limit or 1.0)
        for name in ASKS
        if (f := found.get(name)) is not None and f.status is Status.OVER
    }
    if ways:
        name = min(ways, key=lambda one: ways[one])
        if ways[name] == 0:
            return f"nothing holds it against {ASKS[name]}."
        return f"{ASKS[name]} is held by only {times(ways[name])} what the rule asks."
    if (number := found["number"]).status is Status.OVER:
        return f"the rule asks for {int(number.limit or 0)} ties."
    if found["corners"].status is Status.OVER:
        return "what stops it under braking pulls from one side only."
    if (total := found.get("aggregate")) is not None and total.status is Status.OVER:
        return "all together hold less than the rule asks."
    return "more is asked of a piece than it holds."


def _asks_most(tied: ItemTied, numbers: Mapping[str, int]) -> str:
    """``; braking asks most of ties 3 and 4``."""
    parts = {
        name: {numbers[u.rope.tie.id]: p for u in tied.ties if (p := u.use[name]) is not None}
        for name in WAYS
    }
    most = max((part for by_tie in parts.values() for part in by_tie.values()), default=0.0)
    if most <= 0:
        return ""
    ways = [name for name in WAYS if max(parts[name].values(), default=0.0) >= ALIKE * most]
    near = sorted({n for name in ways for n, part in parts[name].items() if part >= ALIKE * most})
    pushes = "a push to either side" if ways == ["left", "right"] else ASKS[ways[0]]
    listed = " and ".join(
        [", ".join(str(n) for n in near[:-1]), str(near[-1])] if len(near) > 1 else [str(near[0])]
    )
    return f"; {pushes} asks most of {'ties' if len(near) > 1 else 'tie'} {listed}"


ALIKE: Final = 0.95
"""Ties and ways that take this part of the most are told with it."""


def _second(tied: ItemTied) -> str:
    """What is left when any one fails."""
    left = [f.value for f in tied.findings if f.family == "without" and f.value is not None]
    if not left:
        return ""
    return (
        f"If any one fails, still {write_percent(min(left), 0)} of what the rule asks in every "
        "direction."
    )


@dataclass(frozen=True, kw_only=True, slots=True)
class RingFigure:
    """What is left with one tie gone, on a ring about the machine."""

    number: int
    figure: str
    status: str
    x: float
    y: float
    words: str


RING: Final = 78.0
"""Radius of the ring, in its drawing's own units; its middle is the origin."""


def ring(tied: ItemTied, teller: Teller) -> tuple[RingFigure, ...]:
    """Each tie's loss, about where the tie pulls from the machine."""
    losses = {f.which: f for f in tied.findings if f.family == "without"}
    count = len(tied.ties)
    found = []
    for place, use in enumerate(sorted(tied.ties, key=_bearing)):
        finding = losses[use.rope.tie.id]
        row = teller.row(finding)
        x, y = _on_ring(place, count)
        number = teller.numbers[use.rope.tie.id]
        found.append(
            RingFigure(
                number=number,
                figure="?" if finding.value is None else times(finding.value),
                status=finding.status.value,
                x=x,
                y=y,
                words=f"{row.label}: {row.figure} {row.detail}",
            )
        )
    return tuple(found)


def _bearing(use: TieUse) -> float:
    """Which way a tie pulls, seen from above: all round from the truck's side."""
    leg = use.rope.legs[0]
    return math.atan2(leg.y, leg.x)


def _on_ring(place: int, count: int) -> tuple[float, float]:
    turn = math.pi + (place + 0.5) * 2 * math.pi / count
    return RING * math.cos(turn), RING * math.sin(turn)


def barred(tied: ItemTied) -> tuple[Finding, ...]:
    """The checks that have a bar, in the order of the list."""
    found = tied.by_family
    return tuple(found[name] for name in ("aggregate", *WAY_WORDS) if name in found)
