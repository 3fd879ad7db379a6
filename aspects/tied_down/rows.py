"""The ties of an item in a table: where each runs, of what gear, what was answered about it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Final

from book.gear import gear_limit
from book.models import Gear
from hauls.rack import Rack
from hauls.tied import Judged
from measures.writing import UnitSystem, write_length, write_mass
from mechanics.securing import TieUse
from planfile.document import Securing
from planfile.tying import JOINED, kept_of
from wording.securing import KIND_WORDS

Typed = tuple[str, str] | None
"""A button and what was typed beside it, where that could not be read."""


QUESTIONS: Final[dict[str, tuple[str, tuple[tuple[str, str], ...]]]] = {
    "edge": (
        "Edge under the strap",
        (("", "not asked yet"), ("none", "runs over none"), ("padded", "padded"), ("bare", "bare")),
    ),
    "hooks": (
        "Hooks",
        (
            ("", "not asked yet"),
            ("up", "up and over: slack does not drop them"),
            ("latched", "with a latch"),
            ("loose", "may drop out when slack"),
        ),
    ),
    "slack": (
        "Loose end",
        (("", "not asked yet"), ("secured", "wrapped and tied"), ("loose", "hangs free")),
    ),
}
"""What is asked about a tie and remembered; it changes no figure."""

LOOSE: Final = {
    ("edge", "bare"): "a bare edge cuts webbing: pad it",
    ("hooks", "loose"): "its hooks may drop out: turn them up and over",
    ("slack", "loose"): "its loose end hangs free: wrap and tie it",
}
"""Answers that leave something to be done."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Option:
    """Something to choose in a box."""

    value: str
    words: str
    chosen: bool = False


@dataclass(frozen=True, kw_only=True, slots=True)
class Question:
    """One thing asked about a tie, with its answers."""

    name: str
    words: str
    options: tuple[Option, ...]


@dataclass(frozen=True, kw_only=True, slots=True)
class TieRow:
    """A tie in the table: where it runs, of what, what that holds."""

    id: str
    number: int
    point: str
    anchor: str
    gear: str
    limit: str
    length: str
    fault: str
    running: tuple[Option, ...]
    joining: tuple[tuple[Option, ...], ...]
    questions: tuple[Question, ...]
    pretension: str
    answered: tuple[str, ...]
    loose: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class Tables:
    """What rows of ties are made of; ``judged`` is what is said of the item they hold."""

    securing: Securing
    rack: Rack
    numbers: Mapping[str, int]
    judged: Judged
    unit: UnitSystem

    def row(self, use: TieUse, typed: Typed) -> TieRow:
        """One tie with its boxes."""
        tie = next(one for one in self.securing.ties if one.id == use.rope.tie.id)
        kept, said = kept_of(tie), self.judged.ties[tie.id]
        running = kept.pieces[0] if kept.pieces else ""
        joining = [*kept.pieces[1:], "", ""][: max(2, len(kept.pieces))]
        limit, tight = use.rope.tie.wll_kg, use.rope.tie.pretension_kg
        pretension = write_mass(tight, self.unit) if tight else ""
        if typed is not None and typed[0] == f"gear:{tie.id}":
            pretension = typed[1]
        strap = tie.kind == "strap"
        asked = [name for name in QUESTIONS if strap or name != "edge"]
        return TieRow(
            id=tie.id,
            number=self.numbers[tie.id],
            point=use.rope.machine_point.id,
            anchor=" and ".join(a.id for a in use.rope.anchors),
            gear=JOINED.join(kept.pieces) or use.rope.tie.name or KIND_WORDS[use.rope.tie.kind],
            limit="not known" if limit is None else write_mass(limit, self.unit),
            length=write_length(use.rope.length_m, self.unit, step=1),
            fault=" ".join(said.faults),
            running=self._options(self.rack.running(), running, "choose a chain or strap"),
            joining=tuple(
                self._options(self.rack.joining(), one, "nothing more") for one in joining
            ),
            questions=tuple(
                Question(
                    name=name,
                    words=QUESTIONS[name][0],
                    options=tuple(
                        Option(value=v, words=w, chosen=kept.answers.get(name, "") == v)
                        for v, w in QUESTIONS[name][1]
                    ),
                )
                for name in asked
            ),
            pretension=pretension,
            answered=tuple(
                f"{QUESTIONS[name][0].lower()}: {dict(QUESTIONS[name][1])[answer]}"
                for name, answer in kept.answers.items()
                if name in asked and answer in dict(QUESTIONS[name][1])
            ),
            loose=(
                *(words.removesuffix(".") for words in said.doubts),
                *(LOOSE[one] for one in kept.answers.items() if one in LOOSE),
            ),
        )

    def _options(self, gear: Sequence[Gear], chosen: str, none: str) -> tuple[Option, ...]:
        found = [Option(value="", words=none, chosen=not chosen)]
        for one in gear:
            limit = gear_limit(one).kg
            free = self.rack.free(one.name)
            if not free and one.name != chosen:
                continue
            holds = "counts nothing" if limit is None else write_mass(limit, self.unit)
            found.append(
                Option(
                    value=one.name,
                    words=f"{one.name}, {holds}, {free} free",
                    chosen=one.name == chosen,
                )
            )
        if chosen and chosen not in self.rack.gear:
            found.append(Option(value=chosen, words=f"{chosen}, not in the book", chosen=True))
        return tuple(found)
