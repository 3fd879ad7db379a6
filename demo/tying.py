"""Brings :mod:`demo.rack` into the yard: gear, anchors, points, ties."""

from __future__ import annotations

from datetime import timedelta

from django.utils import timezone

from book.models import Gear, Machine, MachinePoint, Trailer, TrailerAnchor
from book.ties import usual_anchors
from demo.given import inches, pounds
from demo.rack import ANCHORS, FROM_THE_RACK, GEAR, POINTS, TIED
from hauls.models import Haul
from hauls.rack import Rack
from hauls.tying import (
    answered,
    made_of,
    securing_of,
    suggested,
    with_changed,
    with_suggestion,
    with_tie,
)
from planfile.document import Securing
from planfile.draft import Draft
from yards.models import Yard


def make_gear(yard: Yard) -> list[Gear]:
    """What hangs on the rack."""
    return [
        Gear.objects.create(
            yard=yard,
            name=entry["name"],
            kind=entry["kind"],
            size=inches(entry.get("size")),
            grade=entry.get("grade", ""),
            wll=pounds(entry.get("wll")),
            length=inches(entry.get("length")),
            ratchet=entry.get("ratchet", False),
            count=entry.get("count", 1),
            inspected_on=timezone.localdate() - timedelta(days=entry["seen"])
            if "seen" in entry
            else None,
            inspected_by="Jo Marsh" if "seen" in entry else "",
            retired=entry.get("retired", ""),
        )
        for entry in GEAR
    ]


def make_anchors(trailer: Trailer) -> None:
    """A trailer's anchors: as measured, or the usual ones as guesses."""
    if trailer.name not in ANCHORS:
        for anchor in usual_anchors(trailer):
            anchor.save()
        return
    for name, kind, tape, off, holds in ANCHORS[trailer.name]:
        TrailerAnchor.objects.create(
            trailer=trailer,
            name=name,
            kind=kind,
            tape=inches(tape),
            off=inches(off),
            wll=pounds(holds),
        )


def make_points(machine: Machine) -> None:
    """A machine's points, and the places that must not be used."""
    for name, kind, ahead, off, height, more in POINTS.get(machine.name, ()):
        MachinePoint.objects.create(
            machine=machine,
            name=name,
            kind=kind,
            ahead=inches(ahead),
            off=inches(off),
            height=inches(height),
            both=off != 0,
            strength=pounds(more.get("strength")),
            with_part=more.get("with", ""),
            hidden_by=more.get("hidden", ""),
        )


def tied(haul: Haul, draft: Draft) -> Draft:
    """A haul of the yard's story tied down; others as they are."""
    if haul.name not in TIED and haul.name not in FROM_THE_RACK:
        return draft
    draft = draft.with_securing(Securing(school="us_393"))
    for item in draft.item_ids:
        if haul.name in FROM_THE_RACK:
            rack = Rack.of(haul.yard, securing_of(draft))
            draft = with_suggestion(draft, rack, item, suggested(draft, rack, item))
        for point, anchor, pieces, answers in TIED.get(haul.name, ()):
            rack = Rack.of(haul.yard, securing_of(draft))
            draft = with_tie(draft, rack, item=item, point=point, anchor=anchor)
            tie = securing_of(draft).ties[-1]
            draft = with_changed(draft, made_of(tie, pieces, rack, draft))
            draft = answered(draft, tie.id, answers)
    return draft
