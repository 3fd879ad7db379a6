"""A haul's ties as a table: written with the unit in its header, read back whole."""

from __future__ import annotations

from typing import Final

import msgspec
import tablib

from aspects.rooms import ActionError
from book.table_reading import TableError, sheet
from book.tables import quoted, unquoted
from hauls.rack import Rack
from hauls.tying import TyingError, made_of, securing_of, with_changed, with_tie, without_ties_of
from hauls.units import FileUnits
from measures import ReadingError
from measures.reading import read_mass
from measures.writing import UnitSystem
from planfile.document import Tie
from planfile.draft import Draft
from planfile.tying import JOINED, kept_of

COLUMNS: Final = ("machine", "point", "anchor", "over to", "made of", "tightened to")
NEEDED: Final = COLUMNS[:3]
MOST: Final = 200
"""Rows of one table; no plan holds more ties."""


def write_ties(draft: Draft, unit: UnitSystem) -> str:
    """The ties as CSV text, in the order to put them on."""
    headers = [*COLUMNS[:-1], f"{COLUMNS[-1]} ({unit.mass_unit})"]
    dataset = tablib.Dataset(headers=headers)
    for tie in securing_of(draft).ties:
        called = draft.plan.item(tie.item).called
        over = tie.over if isinstance(tie.over, str) else ""
        tight = tie.pretension * draft.units.mass.kg / unit.kg
        dataset.append(
            [
                quoted(called),
                quoted(tie.point),
                quoted(tie.anchor),
                quoted(over),
                quoted(JOINED.join(kept_of(tie).pieces)),
                f"{tight:.6g}" if tight else "",
            ]
        )
    return str(dataset.export("csv"))


def read_ties(draft: Draft, rack: Rack, text: str, unit: UnitSystem) -> Draft:
    """The haul tied as a table says, in place of all ties it had; what was answered about a tie
    between the same places stays.

    Raises:
        ActionError: naming every line that is not right.
    """
    try:
        header, rows, _ = sheet(text)
    except TableError as error:
        raise ActionError(str(error), typed=text) from None
    names = [name.strip().lower().split(" (")[0] for name in header]
    lacking = [name for name in NEEDED if name not in names]
    strange = [name for name in names if name not in COLUMNS]
    if lacking or strange:
        raise ActionError(
            "The first line names the columns: "
            f"{', '.join(COLUMNS)}. Wanting: {', '.join(lacking) or 'none'}; "
            f"not known: {', '.join(strange)[:200] or 'none'}.",
            typed=text,
        )
    if len(rows) > MOST:
        raise ActionError(f"More than {MOST} ties: no plan holds so many.", typed=text)
    before = {_ends(tie): tie for tie in securing_of(draft).ties}
    for item_id in draft.item_ids:
        draft = without_ties_of(draft, item_id)
    problems = []
    for number, row in enumerate(rows, 2):
        cells = {name: unquoted(cell.strip()) for name, cell in zip(names, row, strict=False)}
        try:
            draft = _with_row(draft, rack, cells, before, unit)
        except (TyingError, ReadingError) as error:
            problems.append(f"Line {number}: {error}")
    if problems:
        raise ActionError(" ".join(problems[:10]), typed=text)
    return draft


def _ends(tie: Tie) -> tuple[str, str, str, str]:
    over = tie.over if isinstance(tie.over, str) else ""
    return tie.item, tie.point, tie.anchor, over


def _with_row(
    draft: Draft,
    rack: Rack,
    cells: dict[str, str],
    before: dict[tuple[str, str, str, str], Tie],
    unit: UnitSystem,
) -> Draft:
    called = cells.get("machine", "")
    item = next((i.id for i in draft.plan.items if called in (i.id, i.called)), None)
    if item is None:
        raise TyingError(f"“{called[:60]}” is not on the deck.")
    draft = with_tie(
        draft,
        rack,
        item=item,
        point=cells.get("point", ""),
        anchor=cells.get("anchor", ""),
        over=cells.get("over to", ""),
    )
    tie = securing_of(draft).ties[-1]
    was = before.get(_ends(tie))
    if was is not None:
        tie = msgspec.structs.replace(tie, extra=was.extra)
    pieces = [name.strip() for name in cells.get("made of", "").split(JOINED.strip())]
    chosen = [name for name in pieces if name]
    if chosen:
        tie = made_of(tie, chosen, rack, draft)
    tight = cells.get("tightened to", "")
    if tight:
        found = FileUnits.of_draft(draft).m(read_mass(tight, unit.mass_unit))
        tie = msgspec.structs.replace(tie, pretension=found)
    return with_changed(draft, tie)
