"""The strip of a load: at every place exactly what a step of a drag would show there."""

from __future__ import annotations

import gzip
import random
from copy import deepcopy
from typing import Any

from aspects.place.moves import DRAG_STEP_M, Asked, act
from aspects.place.page import present
from aspects.place.state import State
from aspects.place.strip import (
    EACH_WAY,
    around,
    base_of,
    ends,
    places,
    seen_at,
    strip_of,
)
from hauls.models import Haul
from hauls.tests.yard_case import YardCase
from measures import UnitSystem
from mechanics.report import evaluate
from planfile.draft import Draft


def roughly(document: dict[str, Any]) -> dict[str, Any]:
    """A haul's document with its trailer and its first load known to no more than a guess."""
    found = deepcopy(document)
    found["trailer"] |= {
        "estimates": ["empty_mass"],
        "empty_mass_tolerance": 150,
        "empty_tongue_mass_tolerance": 40,
    }
    load = found["items"][0]
    load |= {"estimates": ["mass", "cg.ahead"], "mass_tolerance": 250}
    load["cg"]["ahead_tolerance"] = 4
    return found


class Strips(YardCase):
    def held(self, name: str, index: int) -> State:
        """A haul's planner with a load in hand."""
        state = State(Haul.objects.get(name=name))
        state.pick(index)
        return state

    def values(self, strip: dict[str, Any], at: int) -> dict[tuple[str, str], Any]:
        """What a strip puts in place at one of its places."""
        return {
            (part["at"], part["set"]): part["values"][part["of"][at]] for part in strip["parts"]
        }

    def test_it_shows_what_a_step_of_a_drag_shows(self) -> None:
        rng = random.Random(7)
        checked = 0
        for haul in Haul.objects.filter(yard=self.yard):
            for index in range(len(haul.draft.plan.items)):
                # every load, in one unit or the other
                unit = tuple(UnitSystem)[checked // 4 % 2]
                state = self.held(haul.name, index)
                reach = ends(state, unit)
                middle = rng.uniform(reach.start, reach.stop) * DRAG_STEP_M[unit]
                strip = strip_of(state, unit, middle)
                assert strip is not None
                for at in rng.sample(range(len(strip["reference"])), 4):
                    checked += 1
                    with self.subTest(haul=haul.name, index=index, unit=unit, at=at):
                        self.assert_same(self.held(haul.name, index), strip, at, unit)
        self.assertGreater(checked, 60)

    def test_it_does_where_figures_are_estimated(self) -> None:
        """On one haul of the yard, as roughly known as a first evening leaves it, with doubts that
        leave limits open at some places and not at others."""
        self.haul.document = roughly(self.haul.document)
        self.haul.revision += 1
        self.haul.save()
        self.assertTrue(self.haul.draft.plan.estimated)
        seen: set[str] = set()
        for unit in UnitSystem:
            state = self.held(self.haul.name, 0)
            mark = state.plan.items[0].placement.reference_m
            for middle in (mark, mark + 2 * EACH_WAY * DRAG_STEP_M[unit]):
                strip = strip_of(state, unit, middle)
                assert strip is not None
                for at in range(0, len(strip["reference"]), 16):
                    with self.subTest(unit=unit, at=at):
                        self.assert_same(self.held(self.haul.name, 0), strip, at, unit)
                        seen.add(self.values(strip, at)["#say-verdict", "class"])
        self.assertIn("verdict verdict-ok verdict-likely", seen)
        self.assertIn("verdict verdict-over", seen)

    def test_it_says_what_makes_a_place_sure_where_none_is(self) -> None:
        """As the page does where figures were measured, and not closely enough."""
        document = roughly(self.haul.document)
        for part in (document["trailer"], *document["items"]):
            del part["estimates"]
        self.haul.document = document
        self.haul.revision += 1
        self.haul.save()
        self.assertFalse(self.haul.draft.plan.estimated)
        state = self.held(self.haul.name, 0)
        window = evaluate(state.plan).windows[0]
        self.assertEqual(window.sure, ())
        at_m = window.intervals[0].start_m + 0.1
        strip = strip_of(state, UnitSystem.US, at_m)
        assert strip is not None
        at = len(strip["reference"]) // 2
        self.assert_same(state, strip, at, UnitSystem.US)
        self.assertIn("No place is sure until", self.values(strip, at)["#said-advice", "text"])

    def assert_same(self, state: State, strip: dict[str, Any], at: int, unit: UnitSystem) -> None:
        index = state.selected or 0
        to = strip["first"] + at * strip["step"]
        act(state, Asked("drag", sent={"to": repr(to), "do": "drag"}), unit)
        page = present(state, unit)
        found = self.values(strip, at)
        self.assertEqual(strip["reference"][at], page.held[index][1].reference)
        self.assertEqual(found["#say", "class"], f"say say-{page.verdict}")
        self.assertIn(page.verdict_word, found["#say-verdict", "html"])
        likely = " verdict-likely" if page.likely else ""
        said = f"verdict verdict-{page.verdict}{likely}"
        self.assertEqual(found["#say-verdict", "class"], said)
        for name in ("before", "figure", "after"):
            self.assertEqual(found[f"#said-{name}", "text"], getattr(page.said, name))
        self.assertEqual(found["#say-second", "text"], page.said.second)
        self.assertEqual(found["#reading", "value"], page.current.reading)
        self.assertEqual(found["#share-figure", "text"], page.share.share)
        self.assertEqual(found["#share-pointer", "x"], page.share.scale.pointer_x)
        self.assertEqual(found["#share-text", "text"], page.share.text)
        self.assertIn(page.share.word, found["#share-word", "html"])
        self.assertEqual(found["#said-advice", "text"], page.said.advice)
        self.assertEqual(found["#above-sides", "text"], page.drawing.above_sides)
        for n, pad in enumerate(page.drawing.pads):
            self.assertEqual(found[f"#pad-{n} .pad-number", "text"], pad.number)
            self.assertEqual(found[f"#pad-{n}", "class"], f"pad pad-{pad.status}")
            self.assertEqual(found[f"#pad-{n} .pad-fill", "y"], round(pad.fill_y, 1))
        rows = {row.key: row for row in (*page.rows, *page.more_rows)}
        told = {at for at, _ in found if at.startswith("[id=") and at.endswith("]")}
        self.assertGreaterEqual(len(told), 3)
        for place in told:
            row = rows[place.removeprefix('[id="limit-').removesuffix('"]')]
            self.assertEqual(found[place, "class"], f"limit limit-{row.status}")
            self.assertEqual(found[f"{place} .limit-figure b", "text"], row.margin)
            self.assertEqual(found[f"{place} .limit-tail", "text"], row.tail)
            self.assertEqual(found[f"{place} .limit-fill", "width"], row.bar.fill)
            self.assertIn(row.word, found[f"{place} .limit-mark", "html"])
            likely = found[f"{place} .limit-mark", "class"]
            self.assertEqual(likely, f"limit-mark{' limit-likely' if row.likely else ''}")

    def test_it_runs_from_one_end_of_the_reach_to_the_other(self) -> None:
        for unit in UnitSystem:
            state = self.held(self.haul.name, 0)
            reach = ends(state, unit)
            found = list(places(state, unit, reach))
            self.assertEqual(len(found), len(reach))
            references = [self.placed(draft) for draft in found]
            self.assertEqual(references, sorted(references))
            self.assertGreater(len(found) * DRAG_STEP_M[unit], 4)

    def placed(self, draft: Draft) -> float:
        return draft.held[0].reference or 0.0

    def test_one_strip_goes_on_where_another_ends(self) -> None:
        state, unit = self.held(self.haul.name, 0), UnitSystem.US
        reach = ends(state, unit)
        seen: set[int] = set()
        at = reach.start
        while at < reach.stop:
            run = around(state, unit, at * DRAG_STEP_M[unit])
            self.assertIn(at, run)
            self.assertLessEqual(len(run), 2 * EACH_WAY + 1)
            seen |= set(run)
            at = run.stop
        self.assertEqual(seen, set(reach))
        # beyond all reach it is the last of them
        self.assertEqual(around(state, unit, 1e3).stop, reach.stop)
        self.assertEqual(around(state, unit, -1e3).start, reach.start)

    def test_what_it_begins_with_is_left_as_it_is(self) -> None:
        state = self.held(self.haul.name, 0)
        before = state.draft
        strip_of(state, UnitSystem.US, 1.0)
        self.assertIs(state.draft, before)
        base = base_of(state, UnitSystem.US, ends(state, UnitSystem.US))
        assert base is not None
        seen = seen_at(base, before)
        self.assertEqual(seen.reference, self.placed(before))


class Asking(YardCase):
    def ask(self, **more: str) -> Any:
        page = self.client.get(f"/hauls/{self.haul.pk}/")
        sent = {
            "base": str(self.haul.revision),
            "count": str(page.context["count"]),
            "selected": "0",
            "to": "100",
            "tongue": page.context["schools"].tongue,
            "gvwr": page.context["schools"].gvwr,
        }
        for n, item in page.context["held"]:
            sent |= {f"id-{n}": item.id, f"reference-{n}": str(item.reference)}
            sent |= {f"facing-{n}": item.facing, f"left-{n}": str(item.left)}
        return self.client.post(f"/hauls/{self.haul.pk}/strip/", {**sent, **more})

    def test_it_is_sent_once_and_small(self) -> None:
        answer = self.client.post(
            f"/hauls/{self.haul.pk}/strip/",
            {"base": str(self.haul.revision), "selected": "0"},
            headers={"accept-encoding": "gzip"},
        )
        whole = self.ask()
        self.assertEqual(whole.status_code, 200)
        self.assertEqual(whole.json()["item"], 0)
        self.assertIn(answer.status_code, (200, 204))
        packed = gzip.compress(whole.content, 6)
        self.assertLess(len(packed), 60_000)

    def test_there_is_none_where_nothing_is_in_hand_or_the_page_is_behind(self) -> None:
        for more in (
            {"to": ""},
            {"to": "x"},
            {"to": "1e999"},
            {"base": "0"},
            {"base": "999"},
            {"base": "²"},
        ):
            self.assertEqual(self.ask(**more).status_code, 204, more)
