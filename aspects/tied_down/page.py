"""The page of tying down: the deck, its ties, what they hold, what they are made of."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, Final
from urllib.parse import urlencode

from django.urls import reverse

from aspects.tied_down.rows import Option, Tables, TieRow, Typed
from aspects.tied_down.scene import Held, Painter, Scene
from aspects.tied_down.words import RingFigure, Said, barred, ring, said
from book.kinds import slug_of
from book.models import MachinePoint
from book.ties import pair_of
from hauls.loads import linked_loads
from hauls.models import Haul
from hauls.rack import Rack
from hauls.tied import Judged, judged, school_of
from hauls.tying import CROSSINGS, crossing_of, places_of, securing_of, with_book_places
from measures.writing import UnitSystem, write_number
from mechanics.checks import Status
from mechanics.errors import InputError
from mechanics.plan import Plan
from mechanics.securing import ItemTied, SecuringReport, secure
from mechanics.securing.report import tied_of
from planfile.document import Securing
from planfile.draft import Draft
from planfile.errors import PlanFileError
from wording.securing import SCHOOL_NOTES, SCHOOLS, FindingRow, Teller

NEVER_WORDS: Final = {
    kind.value: str(kind.label).removeprefix("Never: ") for kind in MachinePoint.FORBIDDEN
}
"""What places that must not be used are."""

CROSSING_WORDS: Final = {
    "either": "either way",
    "crossed": "crossed: they hold better sideways",
    "straight": "straight, each to its own side",
}


@dataclass(frozen=True, kw_only=True, slots=True)
class Choice:
    """One of several items to look at."""

    words: str
    address: str
    here: bool
    status: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Wanted:
    """Something that is not known or only guessed, and where the book has room for it."""

    words: str
    address: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Told:
    """What came of a suggestion: a sentence, what it lacks, what to buy."""

    status: str
    first: str
    lacks: tuple[str, ...] = ()
    buy: str = ""


@dataclass(frozen=True, kw_only=True)
class TiedPage:
    """Everything the page shows; without a ``scene`` there is nothing to tie down."""

    said: Said
    machines: list[Choice]
    item: str
    item_name: str
    scene: Scene | None = None
    rows: list[FindingRow] = field(default_factory=list)
    more: list[FindingRow] = field(default_factory=list)
    ring: tuple[RingFigure, ...] = ()
    ties: list[TieRow] = field(default_factory=list)
    others: int = 0
    points: list[Option] = field(default_factory=list)
    anchors: list[Option] = field(default_factory=list)
    schools: list[Option] = field(default_factory=list)
    crossings: list[Option] = field(default_factory=list)
    school_note: str = ""
    friction: str = ""
    bulkhead: bool = False
    wanted: list[Wanted] = field(default_factory=list)
    book_moved: bool = False
    table: str = ""
    rack: int = 0
    told: Told | None = None
    wrong: str = ""
    conflict: str = ""
    base: int
    list_address: str


def tied_page(
    haul: Haul,
    item_id: str,
    unit: UnitSystem,
    *,
    told: Told | None = None,
    wrong: str = "",
    typed: Typed = None,
    conflict: str = "",
) -> TiedPage:
    """The page with one item in hand: the one asked for, or the first; ``typed`` is what stood in
    a box that could not be read."""
    draft = haul.draft
    plan, securing = draft.plan, securing_of(draft)
    ids = [item.id for item in plan.items]
    chosen = item_id if item_id in ids else ids[0] if ids else ""
    common: dict[str, Any] = {
        "item": chosen,
        "base": haul.revision,
        "list_address": reverse("haul_tied_list", args=[haul.pk]),
        "told": told,
        "wrong": wrong,
        "conflict": conflict,
    }
    if not chosen:
        return TiedPage(
            said=Said(status="ok", word="ok", first="Nothing is on the deck.", second=""),
            machines=[],
            item_name="",
            **common,
        )
    try:
        report = secure(plan, school_of(haul))
    except InputError as error:
        return TiedPage(
            said=Said(
                status="unknown",
                word="cannot say",
                first="Cannot say what holds.",
                second=str(error),
            ),
            machines=[],
            item_name=plan.item(chosen).called,
            **common,
        )
    rack = Rack.of(haul.yard, securing)
    looking = _Looking(
        haul=haul,
        draft=draft,
        securing=securing,
        report=report,
        item_id=chosen,
        rack=rack,
        judged=judged(draft, report, rack, unit),
        unit=unit,
    )
    return TiedPage(**looking.shown(typed), **common)


@dataclass(frozen=True, kw_only=True)
class _Looking:
    """A haul's ties as they are looked at, one item in hand."""

    haul: Haul
    draft: Draft
    securing: Securing
    report: SecuringReport
    item_id: str
    rack: Rack
    judged: Mapping[str, Judged]
    unit: UnitSystem

    @property
    def plan(self) -> Plan:
        """The plan they belong to."""
        return self.draft.plan

    @property
    def tied(self) -> ItemTied:
        """The item in hand."""
        return next(one for one in self.report.items if one.item == self.item_id)

    @property
    def numbers(self) -> dict[str, int]:
        """What ties are called by: their place in the order to put them on."""
        return {tie.id: n for n, tie in enumerate(self.securing.ties, 1)}

    def shown(self, typed: Typed) -> dict[str, Any]:
        """The page's parts."""
        plan, tied, numbers = self.plan, self.tied, self.numbers
        item = plan.item(self.item_id)
        judgement = self.judged[self.item_id]
        tables = Tables(
            securing=self.securing,
            rack=self.rack,
            numbers=numbers,
            judged=judgement,
            unit=self.unit,
        )
        rows: list[FindingRow] = []
        more: list[FindingRow] = []
        figures: tuple[RingFigure, ...] = ()
        held: dict[str, Held] = {}
        if plan.securing is not None:
            teller = Teller(
                plan=plan, tied=tied_of(plan, self.item_id), numbers=numbers, unit=self.unit
            )
            with_bar = barred(tied)
            rows = [teller.row(finding) for finding in with_bar]
            more = sorted(
                (teller.row(f) for f in tied.findings if f not in with_bar),
                key=lambda row: -Status(row.status).severity,
            )
            figures = ring(tied, teller) if tied.ties else ()
            held = {
                finding.family: Held(words=row.label, figure=row.figure, status=finding.status)
                for finding, row in zip(with_bar, rows, strict=True)
            }
        uses = [use for one in self.report.items for use in one.ties]
        scene = Painter(
            plan=plan,
            item=item if held else None,
            drawn=self.draft.drawn,
            forbidden=self.draft.forbidden,
            uses=sorted(uses, key=lambda use: numbers[use.rope.tie.id]),
            numbers=numbers,
            guesses=self.draft.guesses,
            never_words=NEVER_WORDS,
            unit=self.unit,
        ).scene(held)
        return {
            "said": said(plan, tied, numbers, judgement),
            "machines": self._machines(),
            "item_name": item.called,
            "scene": scene,
            "rows": rows,
            "more": more,
            "ring": figures,
            "ties": [tables.row(use, typed) for use in tied.ties],
            "others": len(self.securing.ties) - len(tied.ties),
            "points": [Option(value=p.id, words=p.id) for p in item.points],
            "anchors": [Option(value=a.id, words=a.id) for a in plan.trailer.anchors],
            "schools": [
                Option(value=s.value, words=words, chosen=s is self.report.school)
                for s, words in SCHOOLS.items()
            ],
            "crossings": [
                Option(value=c, words=CROSSING_WORDS[c], chosen=c == crossing_of(self.securing))
                for c in ("either", *(c for c in CROSSINGS if c != "either"))
            ],
            "school_note": f"{SCHOOLS[self.report.school]}: {SCHOOL_NOTES[self.report.school]}.",
            "friction": typed[1]
            if typed is not None and typed[0] == "settings"
            else write_number(self.securing.friction, 2).rstrip("0").rstrip("."),
            "bulkhead": self.securing.bulkhead,
            "wanted": self._wanted(),
            "book_moved": self._book_moved(),
            "table": typed[1] if typed is not None and typed[0] == "table" else "",
            "rack": sum(self.rack.free(gear.name) for gear in self.rack.running()),
        }

    def _machines(self) -> list[Choice]:
        address = reverse("haul_tied", args=[self.haul.pk])
        return [
            Choice(
                words=self.plan.item(one.item).called,
                address=f"{address}?{urlencode({'item': one.item})}",
                here=one.item == self.item_id,
                status=self.judged[one.item].status.value,
            )
            for one in self.report.items
        ]

    def _book_moved(self) -> bool:
        """Whether the book has other anchors or points by now."""
        loads = linked_loads(self.haul)
        try:
            now = with_book_places(self.draft, self.haul.trailer, loads)
        except PlanFileError:
            # taking them says what is wrong with them
            return True
        return places_of(now) != places_of(self.draft)

    def _wanted(self) -> list[Wanted]:
        """What the book lacks of this trailer, this machine and the rack."""
        plan, loads, guesses = self.plan, linked_loads(self.haul), self.draft.guesses
        trailer = self.haul.trailer
        load = loads.get(self.item_id)
        thing = None if load is None else load.machine
        item = plan.item(self.item_id)
        found = []

        def want(words: str, of: Any) -> None:
            address = "" if of is None else reverse("edit_thing", args=[slug_of(of), of.pk])
            found.append(Wanted(words=words, address=address))

        if not plan.trailer.anchors:
            want("The trailer has no anchors yet.", trailer)
        if not item.points:
            want(f"{item.called} has no points to tie it by yet.", thing)
        anchors = [a.id for a in plan.trailer.anchors if a.id in guesses.anchors]
        if anchors:
            want(f"A guess, not taped: the place of {_listed(anchors)}.", trailer)
        points = [p.id for p in item.points if (item.id, p.id) in guesses.points]
        if points:
            want(f"A guess, not taped: the place of {_listed(points)}.", thing)
        unrated = [a.id for a in plan.trailer.anchors if a.wll_kg is None]
        if unrated:
            want(f"Not known, and not counted: what {_listed(unrated)} can hold.", trailer)
        if not self.rack.running():
            found.append(
                Wanted(
                    words="The rack is empty: no chain or strap is in the book.",
                    address=reverse("add_thing", args=["gear"]),
                )
            )
        return found


def _listed(ids: Sequence[str]) -> str:
    """Places by their names, a pair once; a few, and how many more."""
    names = list(dict.fromkeys(pair_of(one) for one in ids))
    few = ", ".join(names[:4])
    return few if len(names) <= 4 else f"{few} and {len(names) - 4} more"
