"""The load card as a value: what stands on it, in words, for the page and for the paper."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Final

from django.utils.formats import date_format

from aspects.card.picture import CardPicture, picture_of
from aspects.registry import CardFigure, CardTie, Ground, card_parts
from hauls.assigning import hour_words, where_words
from hauls.estimates import estimates_title, kept_estimates
from hauls.hookup import hookup
from hauls.models import Haul
from hauls.stopping import braking
from measures.writing import UnitSystem, in_units_of, write_excess, write_mass
from mechanics.attitude import attitude
from mechanics.checks import Status
from mechanics.codes import Family
from mechanics.item import Facing
from mechanics.report import Report, evaluate
from mechanics.standing import piece_at
from planfile.draft import Drawn
from wording.inputs import missing_words
from wording.limits import Telling, fault, in_sentence, light_words
from wording.phrases import begun, names_of, tongue_word, within
from wording.places import SIDEWAYS_M, place_words, sideways_words, way_words
from wording.road import FIRST_STOP, LATER_STOPS
from wording.sentences import faults_of, tightest_of
from wording.statuses import Verdict, before_hauling, verdict_of
from wording.stopping import room_words
from wording.swaying import AFTER, sways

MOST_TIGHT: Final = 3
"""Limits that are named on the card; the others are on the haul's page."""

STOPS: Final = f"{FIRST_STOP}: ties, hubs, lights. Then every {LATER_STOPS}."

CAUTION: Final = "A planning aid. Plates, handbooks, the scale and the law prevail."


@dataclass(frozen=True, kw_only=True, slots=True)
class CardLoad:
    """One load: where it stands, in the words of a driver."""

    number: int
    name: str
    mass: str
    way: str
    figure: str
    to: str
    numbered: bool


@dataclass(frozen=True, kw_only=True, slots=True)
class Alarm:
    """Why it must not be hauled so, or cannot be said to be right: a word, and sentences."""

    word: str
    words: str


@dataclass(frozen=True, kw_only=True, slots=True)
class CardList:
    """Lines to tick before the outfit moves, under a title."""

    title: str
    lines: tuple[str, ...]


@dataclass(frozen=True, kw_only=True, slots=True)
class LoadCard:
    """Everything on the card, in words; ``alarm`` is ``None`` where all is well."""

    name: str
    who: str
    outfit: str
    loads: tuple[CardLoad, ...]
    verdict: Verdict
    alarm: Alarm | None
    picture: CardPicture
    figures: tuple[CardFigure, ...]
    warnings: tuple[tuple[str, str], ...]
    ties: tuple[CardTie, ...]
    ties_said: tuple[str, ...]
    lists: tuple[CardList, ...]
    sways: str
    room: str
    stops: str
    yard: str
    phone: str
    foot: str
    address: str
    printed: datetime

    @property
    def several(self) -> bool:
        """Whether more than one load stands on the deck."""
        return len(self.loads) > 1

    @property
    def told(self) -> str:
        """The picture in words."""
        loads = (f"{load.name}, {load.way}, {load.figure} {load.to}" for load in self.loads)
        return "; ".join((self.outfit, *loads))


def load_card(haul: Haul, unit: UnitSystem, *, address: str, now: datetime) -> LoadCard:
    """The card of a haul as it is planned now.

    ``address`` is where the haul opens, ``now`` when the card is made.

    Raises:
        PlanFileError: the haul's plan cannot be read.
    """
    draft = haul.draft
    plan = draft.plan
    report = evaluate(plan)
    ground = Ground(
        haul=haul, draft=draft, report=report, riding=attitude(plan), unit=unit, times=1
    )
    parts = card_parts(ground)
    loads = tuple(_load(report, index, drawn, unit) for index, drawn in enumerate(draft.drawn))
    outfit = f"{draft.truck_name}, {draft.trailer_name}"
    by = f" by {haul.changed_by.shown_name}" if haul.changed_by else ""
    return LoadCard(
        name=haul.name,
        who=" · ".join(
            words for words in (_when(haul), _who(haul), outfit, where_words(haul)) if words
        ),
        outfit=outfit,
        loads=loads,
        verdict=verdict_of(report),
        alarm=_alarm(report, unit),
        picture=picture_of(report, draft, [load.figure for load in loads], unit),
        figures=(
            _tongue(report, unit),
            *(f for p in parts for f in p.figures),
            *_rest(report, unit),
        ),
        warnings=tuple(w for part in parts for w in part.warnings),
        ties=tuple(t for part in parts for t in part.ties),
        ties_said=tuple(part.ties_said for part in parts if part.ties_said),
        lists=_lists([line for part in parts for line in part.before], hookup(draft, unit)),
        sways=f"{' · '.join(within(line) for line in sways(braked=not draft.unbraked))}. {AFTER}.",
        room=room_words(plan, braking(haul, report), unit),
        stops=in_units_of(STOPS, unit),
        yard=haul.yard.name,
        phone=haul.yard.phone,
        foot=f"{CAUTION} Printed {date_format(now, 'j F Y H:i')} from revision {haul.revision}"
        f"{by}; the haul may have moved on: scan.",
        address=address,
        printed=now,
    )


def _lists(loads: Sequence[str], coupling: Sequence[str]) -> tuple[CardList, ...]:
    """What is done before the outfit moves: to the loads, then from the ball back."""
    found = (("Before it moves: the load", loads), ("Before it moves: hooked up", coupling))
    return tuple(CardList(title=title, lines=tuple(lines)) for title, lines in found if lines)


def _when(haul: Haul) -> str:
    day = date_format(haul.day, "l j F Y") if haul.day else "no day yet"
    return ", ".join(words for words in (day, hour_words(haul.starts)) if words)


def _who(haul: Haul) -> str:
    return f"driver {haul.driver.shown_name}" if haul.driver else "no driver yet"


def _load(report: Report, index: int, drawn: Drawn, unit: UnitSystem) -> CardLoad:
    item = report.plan.items[index]
    forward, left = item.placement.facing is Facing.FORWARD, item.placement.left_m
    across = sideways_words(left, unit)
    return CardLoad(
        number=index + 1,
        name=item.called,
        mass=write_mass(item.mass_kg, unit),
        way=way_words(drives=drawn.drives, forward=forward),
        figure=place_words(report, index, unit),
        to=f"headboard to the {drawn.mark}{'' if abs(left) < SIDEWAYS_M else f', {across}'}",
        numbered=len(report.plan.items) > 1,
    )


def _alarm(report: Report, unit: UnitSystem) -> Alarm | None:
    """What has to be said before anything else."""
    verdict = verdict_of(report)
    words = _alarm_words(report, verdict, unit)
    return Alarm(word=begun(verdict.word), words=" ".join(words)) if words else None


def _alarm_words(report: Report, verdict: Verdict, unit: UnitSystem) -> tuple[str, ...]:
    faults = faults_of(report)[:MOST_TIGHT]
    if faults:
        telling = Telling.of(report.plan, unit, names_of(report.plan))
        return (*(fault(c, telling) for c in faults), before_hauling(verdict))
    unknown = [c for c in report.checks if c.status is Status.UNKNOWN]
    if unknown:
        lacking = ", ".join(missing_words(c.missing[0], unit) for c in unknown[:MOST_TIGHT])
        return (f"Not known: {lacking}.",)
    if report.plan.estimated:
        number = estimates_title(len(kept_estimates(report.plan)))
        return (f"{begun(number)}: weigh at the first scale.",)
    return ()


def _tongue(report: Report, unit: UnitSystem) -> CardFigure:
    """What gauge or scale should show at the coupling, and between which readings it is right."""
    word = tongue_word(report.plan.hitch.type)
    trailer = report.loads.trailer
    note = ""
    if report.plan.items:
        right = _right_tongue(report)
        asked = [part * trailer.mass_kg for part in report.plan.share_range]
        low, high = (write_mass(kg, unit) for kg in (right or asked))
        note = f"{'right from' if right else 'the share asks'} {low} to {high}"
    # hung, they take weight off a gauge in the hitch
    bars = report.plan.hitch.weight_distribution is not None
    return CardFigure(
        label=f"{word}, bars slack" if bars else f"{word}, gauge or scale",
        figure=write_mass(trailer.tongue_kg, unit),
        note=note,
    )


def _right_tongue(report: Report) -> tuple[float, float] | None:
    """The least and the greatest tongue weight at which all holds: what it comes to at the ends of
    the window that the only load stands in. ``None`` of several loads, and outside of it."""
    trailer, per_m = report.loads.trailer, report.tongue_per_metre_kg
    if len(report.plan.items) != 1 or per_m is None:
        return None
    window, at = report.windows[0], report.plan.items[0].placement.reference_m
    piece = piece_at(window.intervals, at)
    if piece is None:
        return None
    ends = [trailer.tongue_kg + per_m * (at - end) for end in (piece.start_m, piece.end_m)]
    return min(ends), max(ends)


def _rest(report: Report, unit: UnitSystem) -> list[CardFigure]:
    """The whole trailer against its plate, and what is tightest."""
    trailer, plate = report.loads.trailer, report.plan.trailer.gvwr_kg
    found = [
        CardFigure(
            label="trailer, loaded",
            figure=write_mass(trailer.mass_kg, unit),
            note="plate not known" if plate is None else f"plate {write_mass(plate, unit)}",
        )
    ]
    tightest = tightest_of(report)
    if tightest is not None:
        what, margin = in_sentence(tightest.code, unit), tightest.margin or 0.0
        if tightest.about.family is Family.TRUCK_LIGHT:
            figure, note = begun(what), light_words(tightest, unit)
        else:
            left = margin >= 0
            amount = write_mass(margin, unit) if left else write_excess(margin, unit)
            figure, note = f"{amount} {'left' if left else 'over'}", what
        found.append(CardFigure(label="tightest", figure=figure, note=note))
    return found
