"""The strip of one load: what the planner shows at every half inch of the deck around it.

On picking a load up the page asks for it and plays from it, so that figures follow the hand within
a frame; the page computes no load itself. What a strip does not hold (how the trailer rides, the
panels beside, what overlaps, the tape's close-up) comes with the steps of the drag as before, and
dropping stores the exact answer.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from itertools import islice
from typing import Any, Final

from django.template.loader import render_to_string

from aspects.place.moves import DRAG_STEP_M, on_step
from aspects.place.page import settling, share_of
from aspects.place.rows import Row, in_sight, row_of
from aspects.place.state import State
from measures import UnitSystem
from measures.marks import STEPS
from mechanics.landmarks import landmarks, within_snap
from mechanics.placing import within_reach
from mechanics.report import Elsewhere
from pictures.drawing import framed, side_words
from pictures.outfit import Frame
from pictures.pads import load_pads
from planfile.draft import Draft
from wording.phrases import Names, names_of
from wording.places import place_words
from wording.sentences import sentence
from wording.statuses import Verdict, verdict_of

EACH_WAY: Final = 80
"""Places of a strip to either side of where it is asked for: as many as are worked out before a
hand gets there. Beyond them the page asks for another."""

LOOKED_AT: Final = 24
"""Every so many places the order of the limits is looked at, to know which come into sight."""

FAR_M: Final = 1e4
"""Further than any deck: what is within reach of it ends the strip."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Base:
    """What is the same wherever the load in hand stands."""

    elsewhere: Elsewhere
    index: int
    names: Names
    marks: dict[str, str]
    frame: Frame
    unit: UnitSystem
    tail: str
    settles: str
    in_sight: frozenset[tuple[str, str | None]]
    """Limits whose lines are told: those in sight at any of the places looked at."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Seen:
    """What the planner shows with the load at one place, as far as a strip holds it."""

    reference: float
    verdict: Verdict
    said: tuple[str, str, str]
    second: str
    advice: str
    sides: str
    reading: str
    share: str
    share_x: float
    share_word: tuple[str, str]
    share_text: str
    pads: tuple[tuple[str, str, float, float], ...]
    rows: tuple[Row, ...]


def base_of(state: State, unit: UnitSystem, run: range) -> Base | None:
    """What a strip of the load in hand begins with; ``None`` where nothing is in hand."""
    draft, plan, index = state.draft, state.plan, state.selected
    if index is None:
        return None
    elsewhere, names = Elsewhere(plan, index), names_of(plan)
    looked_at = islice(places(state, unit, run), 0, None, LOOKED_AT)
    return Base(
        elsewhere=elsewhere,
        index=index,
        names=names,
        marks=draft.marks,
        frame=framed(plan, unit, draft.look)[0],
        unit=unit,
        tail=draft.look.tail,
        settles=settling(elsewhere.report, index),
        in_sight=frozenset().union(
            *(in_sight(elsewhere.at(draft.plan), names, unit) for draft in looked_at)
        ),
    )


def seen_at(base: Base, draft: Draft) -> Seen:
    """What is shown of a draft in which nothing but the load in hand stands elsewhere."""
    plan, index, unit = draft.plan, base.index, base.unit
    report = base.elsewhere.at(plan)
    verdict, share = verdict_of(report), share_of(report, unit)
    said = sentence(report, index, base.marks, base.names, unit, base.tail, base.settles)
    return Seen(
        reference=draft.held[index].reference or 0.0,
        verdict=verdict,
        said=(said.before, said.figure, said.after),
        second=said.second,
        advice=said.advice,
        sides=side_words(report, unit),
        reading=place_words(report, index, unit),
        share=share.share,
        share_x=share.scale.pointer_x,
        share_word=(share.status, share.word),
        share_text=share.text,
        pads=tuple(
            (pad.status, pad.number, round(pad.fill_y, 1), round(pad.fill_height, 1))
            for pad in load_pads(base.frame, report, unit)
        ),
        rows=tuple(
            row_of(check, "", base.names, unit, likely=check.code in report.unsettled)
            for check in report.checks
            if (check.code, check.item) in base.in_sight
        ),
    )


def places(state: State, unit: UnitSystem, run: range) -> Iterator[Draft]:
    """The draft for each of the places, landed where a step of a drag would land."""
    draft, index = state.draft, state.selected or 0
    marks = landmarks(draft.plan, index, STEPS[unit])
    for n in run:
        at = n * DRAG_STEP_M[unit]
        mark = within_snap(marks, at)
        yield draft.put(index, on_step(at, unit) if mark is None else mark.at_m)


def ends(state: State, unit: UnitSystem) -> range:
    """Numbers of all places within reach, in steps of a drag from the headboard."""
    index, step = state.selected or 0, DRAG_STEP_M[unit]
    least, most = (within_reach(state.plan, index, far) for far in (-FAR_M, FAR_M))
    return range(int(least // step), int(-(-most // step)) + 1)


def around(state: State, unit: UnitSystem, at_m: float) -> range:
    """Numbers of the places around one, as many as a strip holds."""
    reach, middle = ends(state, unit), round(at_m / DRAG_STEP_M[unit])
    middle = min(max(middle, reach.start), reach.stop - 1)
    first = max(reach.start, middle - EACH_WAY)
    return range(first, min(reach.stop, middle + EACH_WAY + 1))


def strip_of(state: State, unit: UnitSystem, at_m: float) -> dict[str, Any] | None:
    """The strip around a place, as the page takes it: where it begins, in the plan's own unit, how
    far apart its places are, and for each thing that is put in place its values, each different
    one once, with the number of the one that holds at each place. ``None`` where there is none."""
    run = around(state, unit, at_m)
    base = base_of(state, unit, run)
    if base is None:
        return None
    # many places land on one
    kept: dict[float, Seen] = {}
    seen: list[Seen] = []
    for draft in places(state, unit, run):
        reference = draft.held[base.index].reference or 0.0
        if reference not in kept:
            kept[reference] = seen_at(base, draft)
        seen.append(kept[reference])
    per, reach = state.draft.units.length.m, ends(state, unit)
    return {
        "item": base.index,
        "first": run.start * DRAG_STEP_M[unit] / per,
        "reach": [n * DRAG_STEP_M[unit] / per for n in (reach.start, reach.stop - 1)],
        "step": DRAG_STEP_M[unit] / per,
        "per": base.frame.scale * per,
        "reference": [one.reference for one in seen],
        "parts": [
            {"at": at, "set": kind, **_column(values)} for at, kind, values in _parts(seen, base)
        ],
    }


def _column(values: list[Any]) -> dict[str, Any]:
    """The different values, and for each place the number of its own."""
    known = {value: n for n, value in enumerate(dict.fromkeys(values))}
    return {"values": list(known), "of": [known[value] for value in values]}


Part = tuple[str, str, list[Any]]


def _parts(seen: list[Seen], base: Base) -> Iterator[Part]:
    """What is put in place: where, how, and its value at each place."""
    verdicts = [(one.verdict, one.verdict.status.value) for one in seen]
    yield "#say", "class", [f"say say-{status}" for _, status in verdicts]
    yield (
        "#say-verdict",
        "class",
        [
            f"verdict verdict-{status}{' verdict-likely' if verdict.likely else ''}"
            for verdict, status in verdicts
        ],
    )
    yield "#say-verdict", "html", [_word(status, verdict.word) for verdict, status in verdicts]
    for n, name in enumerate(("before", "figure", "after")):
        yield f"#said-{name}", "text", [one.said[n] for one in seen]
    yield "#say-second", "text", [one.second for one in seen]
    yield "#reading", "value", [one.reading for one in seen]
    yield "#said-advice", "text", [one.advice for one in seen]
    yield "#above-sides", "text", [one.sides for one in seen]
    yield "#share-figure", "text", [one.share for one in seen]
    yield "#share-pointer", "x", [one.share_x for one in seen]
    yield "#share-word", "class", [f"verdict verdict-{one.share_word[0]}" for one in seen]
    yield "#share-word", "html", [_word(*one.share_word) for one in seen]
    yield "#share-text", "text", [one.share_text for one in seen]
    for n in range(len(seen[0].pads)):
        yield f"#pad-{n}", "class", [f"pad pad-{one.pads[n][0]}" for one in seen]
        yield f"#pad-{n} .pad-number", "text", [one.pads[n][1] for one in seen]
        yield f"#pad-{n} .pad-fill", "y", [one.pads[n][2] for one in seen]
        yield f"#pad-{n} .pad-fill", "height", [one.pads[n][3] for one in seen]
    yield from _limits(seen)


def _limits(seen: list[Seen]) -> Iterator[Part]:
    """The lines in sight of limits that there are at every place, wherever in the list they
    stand."""
    lines = [{row.key: row for row in one.rows} for one in seen]
    for key in lines[0]:
        if not all(key in line for line in lines):
            continue
        rows, at = [line[key] for line in lines], f'[id="limit-{key}"]'
        yield at, "class", [f"limit limit-{row.status}" for row in rows]
        marked = [f"limit-mark{' limit-likely' if row.likely else ''}" for row in rows]
        yield f"{at} .limit-mark", "class", marked
        yield f"{at} .limit-mark", "html", [_word(row.status, row.word, line=True) for row in rows]
        yield f"{at} .limit-figure b", "text", [row.margin for row in rows]
        yield f"{at} .limit-tail", "text", [row.tail for row in rows]
        yield f"{at} .limit-fill", "width", [row.bar.fill for row in rows]


@lru_cache(maxsize=128)
def _word(status: str, word: str, *, line: bool = False) -> str:
    """A status in a word with its sign, as the page has it."""
    template = "place/_limit_mark.html" if line else "place/_verdict.html"
    return render_to_string(template, {"status": status, "word": word}) if status else ""
