"""A haul's ties as a table: written with the unit in its header, read back whole."""

from __future__ import annotations

from typing import Final

import msgspec
import tablib

from aspects.rooms import ActionError
from book.sheet import (
    TableError,
    either_number,
    needs_unit,
    sheet,
    split_thousands,
    title_and_unit,
)
from book.tables import quoted, unquoted
from hauls.rack import Rack
from hauls.tying import TyingError, made_of, securing_of, with_changed, with_tie
from hauls.units import FileUnits
from measures import ReadingError
from measures.quantity import UNIT_TABLES
from measures.reading import read_mass
from measures.writing import UnitSystem
from planfile.document import Tie
from planfile.draft import Draft
from planfile.tying import JOINED, kept_of

TIGHT: Final = "tightened to"
COLUMNS: Final = ("machine", "point", "anchor", "over to", "made of", TIGHT)
NEEDED: Final = COLUMNS[:3]
MOST: Final = 200
"""Rows of one table; no plan holds more ties."""


def write_ties(draft: Draft, unit: UnitSystem) -> str:
    """The ties as CSV text, in the order to put them on; where two items are called the same,
    each goes by its id."""
    headers = [*COLUMNS[:-1], f"{COLUMNS[-1]} ({unit.mass_unit})"]
    dataset = tablib.Dataset(headers=headers)
    called = {item.id: item.called for item in draft.plan.items}
    names = list(called.values())
    for tie in securing_of(draft).ties:
        name = called[tie.item]
        over = tie.over if isinstance(tie.over, str) else ""
        tight = tie.pretension * draft.units.mass.kg / unit.kg
        dataset.append(
            [
                quoted(name if names.count(name) == 1 else tie.item),
                quoted(tie.point),
                quoted(tie.anchor),
                quoted(over),
                quoted(JOINED.join(kept_of(tie).pieces)),
                f"{tight:.6g}" if tight else "",
            ]
        )
    return str(dataset.export("csv"))


def read_ties(draft: Draft, rack: Rack, text: str) -> Draft:
    """The haul tied as a table says, in place of all ties it had. A tie between the same places
    starts as it was: what the table does not say of it stays.

    Raises:
        ActionError: naming every line that is not right.
    """
    try:
        header, rows, semicolons = sheet(text)
        names, unit = _columns(header)
    except TableError as error:
        raise ActionError(str(error), typed=text) from None
    if len(rows) > MOST:
        raise ActionError(f"More than {MOST} ties: no plan holds so many.", typed=text)
    securing = securing_of(draft)
    before = {_ends(tie): tie for tie in securing.ties}
    draft = draft.with_securing(msgspec.structs.replace(securing, ties=[]))
    problems = []
    for number, row in enumerate(rows, 2):
        cells = {name: unquoted(cell.strip()) for name, cell in zip(names, row, strict=False)}
        try:
            if any(cell.strip() for cell in row[len(names) :]):
                raise TyingError("More cells than the header. Is a comma not in quotes?")
            if semicolons and split_thousands(cells.get(TIGHT, "")):
                raise TyingError(either_number(cells[TIGHT]))
            draft = _with_row(draft, rack, cells, before, unit)
        except (TyingError, ReadingError) as error:
            problems.append(f"Line {number}: {error}")
    if problems:
        raise ActionError(" ".join(problems[:10]), typed=text)
    return draft


def _columns(header: list[str]) -> tuple[list[str], str]:
    """The columns' names, and the unit of the bare numbers of how tight a tie is.

    Raises:
        TableError: a column is wanting, not known or there twice, or a number has no unit.
    """
    titled = [title_and_unit(one) for one in header]
    names = [name for name, _ in titled]
    lacking = [name for name in NEEDED if name not in names]
    strange = [name for name in names if name not in COLUMNS]
    if lacking or strange:
        raise TableError(
            "The first line names the columns: "
            f"{', '.join(COLUMNS)}. Wanting: {', '.join(lacking) or 'none'}; "
            f"not known: {', '.join(strange)[:200] or 'none'}."
        )
    twice = [name for name in COLUMNS if names.count(name) > 1]
    if twice:
        raise TableError(f"Column “{twice[0]}” stands in the table twice.")
    unit = dict(titled).get(TIGHT)
    if unit is not None and unit not in UNIT_TABLES["mass"]:
        raise TableError(needs_unit(TIGHT, "mass"))
    return names, unit or ""


def _ends(tie: Tie) -> tuple[str, str, str, str]:
    over = tie.over if isinstance(tie.over, str) else ""
    return tie.item, tie.point, tie.anchor, over


def _item_of(draft: Draft, called: str) -> str:
    """The id of the item a row is about.

    Raises:
        TyingError: nothing on the deck is called so, or more than one thing is.
    """
    if called in draft.item_ids:
        return called
    found = [item.id for item in draft.plan.items if item.called == called]
    if not found:
        raise TyingError(f"“{called[:60]}” is not on the deck.")
    if len(found) > 1:
        raise TyingError(
            f"{len(found)} are called “{called[:60]}”. Write which: {' or '.join(found)}."
        )
    return found[0]


def _with_row(
    draft: Draft,
    rack: Rack,
    cells: dict[str, str],
    before: dict[tuple[str, str, str, str], Tie],
    unit: str,
) -> Draft:
    draft = with_tie(
        draft,
        rack,
        item=_item_of(draft, cells.get("machine", "")),
        point=cells.get("point", ""),
        anchor=cells.get("anchor", ""),
        over=cells.get("over to", ""),
        # an empty cell says that nobody knows, and the strongest of the rack is no answer to it
        pieces=() if "made of" in cells else None,
    )
    tie = securing_of(draft).ties[-1]
    was = before.get(_ends(tie))
    if was is not None:
        tie = msgspec.structs.replace(was, id=tie.id)
    chosen = [name.strip() for name in cells.get("made of", "").split(JOINED) if name.strip()]
    if chosen and tuple(chosen) != kept_of(tie).pieces:
        tie = made_of(tie, chosen, rack, draft)
    tight = cells.get(TIGHT)
    if tight is not None:
        found = FileUnits.of_draft(draft).m(read_mass(tight, unit)) if tight else 0.0
        tie = msgspec.structs.replace(tie, pretension=found)
    return with_changed(draft, tie)
