"""Ties that are suggested, judged as any plan is."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from enum import Enum

from mechanics.checks import Status
from mechanics.item import Item
from mechanics.plan import Plan
from mechanics.securing.choices import Choice
from mechanics.securing.findings import Finding
from mechanics.securing.hold import securing_of
from mechanics.securing.rack import RackPiece, dealt
from mechanics.securing.report import secure
from mechanics.ties import Tie


class Standard(Enum):
    """How much of what is asked a suggestion holds.

    ``EVERYTHING``: every check of the item is ok; ``NOTHING_OVER``: some are near; ``PAIR``: the
    two ties that resist braking, as practice has it where there is no more; ``NONE``.
    """

    EVERYTHING = "everything"
    NOTHING_OVER = "nothing_over"
    PAIR = "pair"
    NONE = "none"


@dataclass(frozen=True, kw_only=True, slots=True)
class Suggestion:
    """Ties for one item, in the order to put them on, and the pieces of the rack each takes.

    ``proved`` says that no fewer would do; ``findings`` are those of the item tied so that are
    not ok.
    """

    standard: Standard
    ties: tuple[Tie, ...] = ()
    pieces: tuple[tuple[str, ...], ...] = ()
    proved: bool = True
    findings: tuple[Finding, ...] = ()


def suggested(
    plan: Plan,
    item: Item,
    rack: Sequence[RackPiece],
    picked: Sequence[Choice],
    standard: Standard,
) -> Suggestion:
    """The suggestion, judged as any plan is."""
    before = securing_of(plan)
    others = tuple(tie for tie in before.ties if tie.item != item.id)
    taken = {tie.id for tie in others}
    names = (f"t{n}" for n in range(1, len(taken) + len(picked) + 1) if f"t{n}" not in taken)
    ties = tuple(replace(one.rope.tie, id=name) for one, name in zip(picked, names, strict=False))
    tied = replace(plan, securing=replace(before, ties=(*others, *ties)))
    report = next(i for i in secure(tied, before.school).items if i.item == item.id)
    wrong = tuple(f for f in report.findings if f.status is not Status.OK)
    if standard is Standard.EVERYTHING and not all(untied(finding) for finding in wrong):
        standard = Standard.NOTHING_OVER
    return Suggestion(
        standard=standard,
        ties=ties,
        pieces=dealt([one.gear for one in picked], rack),
        findings=wrong,
    )


def untied(finding: Finding) -> bool:
    """Whether a finding is of the item alone: no tie makes it any better."""
    return finding.family == "tip"
