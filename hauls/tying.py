"""Tie a haul's load down: each function gives the draft tied otherwise; nothing is stored."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

import msgspec
from msgspec import UNSET

from book.models import Gear, Trailer
from hauls.loads import Load
from hauls.rack import RUNS, Rack
from hauls.ties import anchor_sections, beside_points, point_sections
from hauls.units import FileUnits
from mechanics.securing import Crossing, Suggestion, suggest
from planfile.document import Securing, Tie
from planfile.draft import Draft
from planfile.plain import plain
from planfile.tying import (
    FORBIDDEN,
    JOINED,
    Kept,
    free_tie_id,
    keeping,
    kept_of,
    without_loose_ties,
)

CROSSING = "crossing"
"""Where it stands in the securing's ``extra`` object which side ties are wished to go to."""

CROSSINGS: dict[str, Crossing] = {
    "crossed": Crossing(straight=False),
    "straight": Crossing(crossed=False),
    "either": Crossing(),
}
"""Ties to the other side of the machine, to their own, or either."""


class TyingError(ValueError):
    """A tie that cannot be put on as asked; the message is for the person."""


def securing_of(draft: Draft) -> Securing:
    """How a haul is tied down; nothing yet where it says nothing."""
    found = draft.parsed().securing
    return found if isinstance(found, Securing) else Securing()


def crossing_of(securing: Securing) -> str:
    """Which side ties are wished to go to."""
    kept = {} if securing.extra is UNSET else securing.extra
    word = str(kept.get(CROSSING, ""))
    return word if word in CROSSINGS else "either"


def made_of(tie: Tie, names: Sequence[str], rack: Rack, draft: Draft) -> Tie:
    """A tie made of these pieces, the one that runs first.

    Raises:
        TyingError: the first does not run anywhere, or a piece is not in the book.
    """
    found: list[Gear] = []
    for name in names:
        gear = rack.gear.get(name)
        if gear is None:
            raise TyingError(f"The book has no gear called “{name[:60]}”. Choose from the list.")
        found.append(gear)
    if not found or not found[0].runs:
        raise TyingError("Choose a chain, a strap or a wire rope first, then what tightens it.")
    limit = rack.limit_kg(names)
    kind: Any = RUNS[Gear.Kind(found[0].kind)].value
    loose = found[0].needs_binder and not any(g.kind == Gear.Kind.BINDER for g in found)
    made = msgspec.structs.replace(
        tie,
        kind=kind,
        # nothing that is loose holds anything
        wll=UNSET if limit is None or loose else FileUnits.of_draft(draft).kg(limit),
        name=JOINED.join(names)[:200],
    )
    return keeping(made, msgspec.structs.replace(kept_of(tie), pieces=tuple(names)))


def with_book_places(draft: Draft, trailer: Trailer | None, loads: Mapping[str, Load]) -> Draft:
    """With anchors and points as the book has them now, every other figure as it is; a tie whose
    end is gone goes too."""
    raw, units = draft.json(), FileUnits.of_draft(draft)
    if trailer is not None:
        raw["trailer"]["anchors"] = [plain(one) for one in anchor_sections(trailer, units)]
    for item in raw["items"]:
        load = loads.get(item["id"])
        machine = None if load is None else load.machine
        if load is None or machine is None:
            continue
        points = point_sections(machine, load.configuration, units)
        item["points"] = [plain(one) for one in points]
        extra = {k: v for k, v in item.get("extra", {}).items() if k != FORBIDDEN}
        item["extra"] = extra | beside_points(machine, load.configuration, units)
    return Draft.read(without_loose_ties(raw))


def places_of(draft: Draft) -> list[Any]:
    """Anchors, points and places that must not be used, to see whether two drafts agree."""
    parsed = draft.parsed()
    return [parsed.trailer.anchors, [item.points for item in parsed.items], draft.forbidden]


def usual_pieces(rack: Rack) -> tuple[str, ...]:
    """What a new tie is made of until somebody chooses: the strongest chain that is free with the
    strongest binder that is; any other gear where there is no chain."""
    running = [gear for gear in rack.running() if rack.free(gear.name) > 0]
    running.sort(key=lambda gear: gear.kind != Gear.Kind.CHAIN)
    if not running:
        return ()
    first = running[0]
    if not first.needs_binder:
        return (first.name,)
    binders = [g for g in rack.joining() if g.kind == Gear.Kind.BINDER and rack.free(g.name) > 0]
    return (first.name, *(gear.name for gear in binders[:1]))


def with_tie(
    draft: Draft,
    rack: Rack,
    *,
    item: str,
    point: str,
    anchor: str,
    over: str = "",
    pieces: Sequence[str] | None = None,
) -> Draft:
    """With one more tie of the rack; ``over``: from the anchor over the point to a second one;
    ``pieces``: what it is made of, the usual ones where nobody says.

    Raises:
        TyingError: there is no such place, or they are tied together already.
    """
    plan, securing = draft.plan, securing_of(draft)
    points = {one.id for i in plan.items if i.id == item for one in i.points}
    anchors = {one.id for one in plan.trailer.anchors}
    if point not in points or anchor not in anchors or (over and over not in anchors):
        raise TyingError("Choose a point of the machine and an anchor of the trailer.")
    if over == anchor:
        raise TyingError("A tie that runs over it ends at another anchor. Choose that one.")
    second = over or UNSET
    new = (item, point, {anchor, second})
    if any((t.item, t.point, {t.anchor, t.over}) == new for t in securing.ties):
        raise TyingError(f"A tie runs from {point} to {anchor} already.")
    tie = Tie(
        id=free_tie_id(securing),
        item=item,
        point=point,
        anchor=anchor,
        over=second,
        kind="chain",
    )
    if pieces is None:
        pieces = usual_pieces(rack)
    if pieces:
        tie = made_of(tie, pieces, rack, draft)
    return draft.with_securing(msgspec.structs.replace(securing, ties=[*securing.ties, tie]))


def with_changed(draft: Draft, tie: Tie) -> Draft:
    """With one tie otherwise."""
    securing = securing_of(draft)
    ties = [tie if one.id == tie.id else one for one in securing.ties]
    return draft.with_securing(msgspec.structs.replace(securing, ties=ties))


def without_tie(draft: Draft, tie_id: str) -> Draft:
    """With one tie less."""
    securing = securing_of(draft)
    ties = [one for one in securing.ties if one.id != tie_id]
    return draft.with_securing(msgspec.structs.replace(securing, ties=ties))


def without_ties_of(draft: Draft, item_id: str) -> Draft:
    """With nothing tied to one item."""
    securing = securing_of(draft)
    ties = [one for one in securing.ties if one.item != item_id]
    return draft.with_securing(msgspec.structs.replace(securing, ties=ties))


def moved_tie(draft: Draft, tie_id: str, by: int) -> Draft:
    """With one tie earlier or later in the order to put them on."""
    securing = securing_of(draft)
    ties = list(securing.ties)
    at = next((n for n, one in enumerate(ties) if one.id == tie_id), None)
    if at is None:
        return draft
    tie = ties.pop(at)
    ties.insert(max(0, min(len(ties), at + by)), tie)
    return draft.with_securing(msgspec.structs.replace(securing, ties=ties))


def answered(draft: Draft, tie_id: str, answers: dict[str, str]) -> Draft:
    """With what was answered about a tie; an empty answer takes one back."""
    tie = next(one for one in securing_of(draft).ties if one.id == tie_id)
    kept = kept_of(tie)
    both = {k: v for k, v in {**kept.answers, **answers}.items() if v}
    return with_changed(draft, keeping(tie, Kept(pieces=kept.pieces, answers=both)))


def suggested(draft: Draft, rack: Rack, item_id: str) -> Suggestion:
    """What the rack would be used for at one item, its own ties taken off first."""
    securing = securing_of(draft)
    back = [n for tie in securing.ties if tie.item == item_id for n in kept_of(tie).pieces]
    return suggest(
        draft.plan, item_id, rack.pieces(back), crossing=CROSSINGS[crossing_of(securing)]
    )


def with_suggestion(draft: Draft, rack: Rack, item_id: str, found: Suggestion) -> Draft:
    """Tied as suggested: one item's ties in place of those it had."""
    bare = without_ties_of(draft, item_id)
    securing = securing_of(bare)
    ties = list(securing.ties)
    for tie, pieces in zip(found.ties, found.pieces, strict=True):
        kind: Any = tie.kind.value
        made = Tie(
            id=tie.id,
            item=item_id,
            point=tie.point,
            anchor=tie.anchor,
            kind=kind,
        )
        ties.append(made_of(made, pieces, rack, draft))
    return bare.with_securing(msgspec.structs.replace(securing, ties=ties))
