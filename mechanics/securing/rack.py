"""Gear at hand, and the sets of it that make a tie."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Final

from mechanics.ties import TieKind

BOUGHT: Final = "bought"
"""The key of pieces that the rack does not have."""


@dataclass(frozen=True, kw_only=True, slots=True)
class RackPiece:
    """Pieces that are alike: ``count`` of them are free.

    ``kind`` is what runs from a machine to the trailer, ``None`` of a binder. ``length_m`` is
    ``None`` where it is not known: it is then taken to reach.
    """

    key: str
    kind: TieKind | None
    wll_kg: float
    count: int
    length_m: float | None = None
    needs_binder: bool = False


@dataclass(frozen=True, kw_only=True, slots=True)
class GearSet:
    """A piece that runs, with any of the ``binders`` where it needs one; ``wll_kg`` is what it
    holds with each of them, ``runs_kg`` what the piece that runs would hold by itself."""

    kind: TieKind
    wll_kg: float
    runs_kg: float
    runs: str
    binders: tuple[str, ...] = ()
    length_m: float | None = None

    def reaches(self, length_m: float) -> bool:
        """Whether it is long enough."""
        return self.length_m is None or self.length_m >= length_m


def sets_of(rack: Sequence[RackPiece]) -> tuple[GearSet, ...]:
    """Every set that can be made of the rack, the weakest first."""
    return tuple(sorted(_sets(rack), key=lambda one: (one.wll_kg, one.runs)))


def _sets(rack: Sequence[RackPiece]) -> Iterator[GearSet]:
    binders = [piece for piece in rack if piece.kind is None and piece.count > 0]
    for piece in rack:
        if piece.kind is None or piece.count < 1:
            continue
        if not piece.needs_binder:
            yield GearSet(
                kind=piece.kind,
                wll_kg=piece.wll_kg,
                runs_kg=piece.wll_kg,
                runs=piece.key,
                length_m=piece.length_m,
            )
            continue
        by_limit: dict[float, list[str]] = {}
        for binder in binders:
            by_limit.setdefault(min(piece.wll_kg, binder.wll_kg), []).append(binder.key)
        for limit, keys in by_limit.items():
            yield GearSet(
                kind=piece.kind,
                wll_kg=limit,
                runs_kg=piece.wll_kg,
                runs=piece.key,
                binders=tuple(keys),
                length_m=piece.length_m,
            )


def dealt(sets: Sequence[GearSet], rack: Sequence[RackPiece]) -> tuple[tuple[str, ...], ...]:
    """The pieces of each of several sets taken together, for which the rack has enough.

    A set that takes one kind of binder alone is served first, then the stronger ones: whatever
    suits a strong one suits a weaker one too.
    """
    free = {piece.key: piece.count for piece in rack if piece.kind is None}
    limits = {piece.key: piece.wll_kg for piece in rack}
    found: dict[int, tuple[str, ...]] = {}
    for n, one in sorted(
        enumerate(sets), key=lambda pair: (len(pair[1].binders) > 1, -pair[1].wll_kg)
    ):
        found[n] = (one.runs,)
        if one.binders:
            suits = [key for key in one.binders if free[key] > 0]
            binder = min(suits, key=lambda key: limits[key])
            free[binder] -= 1
            found[n] = one.runs, binder
    return tuple(found[n] for n in range(len(sets)))
