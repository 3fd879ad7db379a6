"""The load card: on its page, on paper, and who drives."""

from __future__ import annotations

import re
from copy import deepcopy
from datetime import UTC, date, datetime
from io import BytesIO
from typing import Any

from pypdf import PdfReader

from aspects.card.ink import inked
from aspects.card.page import LoadCard, load_card
from aspects.card.paper import printed
from demo.login import DRIVER
from hauls.assigning import AlreadyChangedError, Job, assign, assigned
from hauls.models import Haul
from hauls.tests.yard_case import YardCase
from measures import UnitSystem
from mechanics.placing import moved
from mechanics.report import evaluate
from wording.sentences import _tightest
from wording.statuses import DO_NOT, WEIGH_FIRST
from yards.models import User, Yard

NOW = datetime(2026, 5, 31, 6, 5, tzinfo=UTC)
US = UnitSystem.US


def card_of(haul: Haul, unit: UnitSystem = US) -> LoadCard:
    return load_card(haul, unit, address="https://yard.example/hauls/1/", now=NOW)


def text_of(data: bytes) -> tuple[str, int]:
    """What a PDF says, on one line, and how many pages it has."""
    reader = PdfReader(BytesIO(data))
    words = " ".join(page.extract_text() for page in reader.pages)
    return " ".join(words.split()), len(reader.pages)


class Cards(YardCase):
    def changed(self, **items: Any) -> Haul:
        """The haul with its first load otherwise."""
        document = deepcopy(self.haul.document)
        document["items"][0] |= items
        self.haul.document = document
        self.haul.revision += 1
        self.haul.save()
        return self.haul

    def test_every_haul_of_the_yard_fits_on_one_sheet_in_both_units(self) -> None:
        checked = 0
        for haul in Haul.objects.filter(yard=self.yard).with_book():
            for unit in UnitSystem:
                with self.subTest(haul=haul.name, unit=unit):
                    card = card_of(haul, unit)
                    data = printed(card, unit)
                    words, pages = text_of(data)
                    self.assertEqual(pages, 1)
                    self.assertLess(len(data), 300_000)
                    self.assertIn(haul.name, words)
                    for load in card.loads:
                        self.assertIn(load.figure, words)
                        self.assertIn(load.way, words)
                    for figure in card.figures:
                        self.assertIn(figure.figure, words)
                    for one in card.lists:
                        for line in one.lines:
                            self.assertIn(line, words)
                    for tie in card.ties:
                        self.assertIn(tie.way, words)
                    self.assertIn("off the accelerator", words)
                    self.assertIn(card.room, words)
                    checked += 1
        self.assertGreater(checked, 20)

    def test_the_page_says_what_the_paper_says(self) -> None:
        page = self.client.get(f"/hauls/{self.haul.pk}/card/")
        card = page.context["card"]
        self.assertContains(page, card.loads[0].figure)
        self.assertContains(page, "headboard to the rear axle")
        self.assertContains(page, "opens this haul")
        paper = self.client.get(f"/hauls/{self.haul.pk}/card/load-card.pdf")
        self.assertEqual(paper["Content-Type"], "application/pdf")
        words, _ = text_of(paper.content)
        self.assertIn(f"{card.loads[0].figure} headboard to the rear axle", words)

    def test_the_tongue_is_right_between_what_it_is_at_the_ends_of_its_window(self) -> None:
        plan = self.haul.draft.plan
        window = evaluate(plan).windows[0].intervals[0]
        tongues = [
            evaluate(moved(plan, 0, end)).loads.trailer.tongue_kg / US.kg
            for end in (window.start_m, window.end_m)
        ]
        note = card_of(self.haul).figures[0].note
        self.assertTrue(note.startswith("right from "))
        said = [int(figure.replace(",", "")) for figure in re.findall(r"[\d,]+", note)]
        for figure, tongue in zip(said, sorted(tongues), strict=True):
            self.assertAlmostEqual(figure, tongue, delta=0.51)

    def test_what_is_over_is_said_before_anything_else(self) -> None:
        card = card_of(self.changed(mass=12_000))
        assert card.alarm is not None
        self.assertEqual(card.alarm.word, "Over")
        self.assertIn("Do not haul it like this.", card.alarm.words)
        words, _ = text_of(printed(card, US))
        self.assertIn(f"Over. {card.alarm.words}", words)

    def test_the_tightest_is_the_one_that_the_planner_names(self) -> None:
        checked = 0
        for haul in Haul.objects.filter(yard=self.yard).with_book():
            report = evaluate(haul.draft.plan)
            line = _tightest(report, US)
            found = [one for one in card_of(haul).figures if one.label == "tightest"]
            self.assertEqual(bool(line), bool(found))
            for one in found:
                checked += 1
                self.assertIn(f", {one.figure}.", line, haul.name)
        self.assertGreater(checked, 10)

    def test_what_is_over_by_its_estimates_alone_is_to_be_weighed(self) -> None:
        plan = self.haul.draft.plan
        per = plan.trailer.gvwr_kg or 0.0
        room = (per - evaluate(plan).loads.trailer.mass_kg) / US.kg
        mass = self.haul.document["items"][0]["mass"] + room + 50
        card = card_of(self.changed(mass=mass, estimates=["mass"], mass_tolerance=2_000))
        assert card.alarm is not None
        self.assertEqual(card.alarm.word.split()[0], "Likely")
        self.assertIn(WEIGH_FIRST, card.alarm.words)
        self.assertNotIn(DO_NOT, card.alarm.words)

    def test_hung_spring_bars_are_said_beside_the_tongue(self) -> None:
        self.haul.document["hitch"]["weight_distribution"] = {"front_axle_restoration": 0.5}
        self.assertEqual(card_of(self.haul).figures[0].label, "tongue, bars slack")

    def test_estimates_and_what_is_not_known_are_said(self) -> None:
        estimated = card_of(self.changed(estimates=["mass"], mass_tolerance=200))
        assert estimated.alarm is not None
        self.assertIn("estimate", estimated.alarm.words)
        document = deepcopy(self.haul.document)
        del document["truck"]["gvwr"]
        self.haul.document = document
        unknown = card_of(self.haul)
        assert unknown.alarm is not None
        self.assertEqual(unknown.alarm.word, "Cannot say")
        self.assertIn("Not known: the truck's GVWR.", unknown.alarm.words)

    def test_letters_of_any_kind_and_no_loads_make_a_card(self) -> None:
        self.haul.name = "Łąka **Żółta** — поле 🚜 <b>"
        card = card_of(self.haul)
        words, pages = text_of(printed(card, US))
        self.assertEqual(pages, 1)
        self.assertIn("Łąka **Żółta** —", words)
        document = deepcopy(self.haul.document)
        document["items"] = []
        document.pop("securing", None)
        self.haul.document = document
        empty = card_of(self.haul)
        self.assertEqual(empty.loads, ())
        self.assertIn("nothing stands on the deck", text_of(printed(empty, US))[0])

    def test_many_loads_run_over_to_another_sheet_and_lose_nothing(self) -> None:
        document = deepcopy(self.haul.document)
        first = document["items"][0]
        document.pop("securing", None)
        document["items"] = [
            {**deepcopy(first), "id": f"m{n}", "name": f"Load {n}"} for n in range(40)
        ]
        self.haul.document = document
        card = card_of(self.haul)
        words, pages = text_of(printed(card, US))
        self.assertGreater(pages, 1)
        for n in range(40):
            self.assertIn(f"Load {n},", words)

    def test_the_picture_stands_by_itself(self) -> None:
        lines = inked(card_of(self.haul).picture)
        self.assertIn("viewBox=", lines)
        self.assertGreater(lines.count("<path"), 8)
        self.assertNotIn("<text", lines)
        self.assertIn('stroke-dasharray="4 3"', lines)


class WhoDrives(YardCase):
    def post(self, **fields: str) -> Any:
        data = {"was": assigned(self.haul), "day": "", "driver": "", **fields}
        return self.client.post(f"/hauls/{self.haul.pk}/card/who/", data)

    def test_a_day_and_somebody_of_the_yard(self) -> None:
        answer = self.post(day="2026-06-02", driver=str(self.user.pk))
        self.assertEqual(answer.status_code, 302)
        self.haul.refresh_from_db()
        self.assertEqual((self.haul.day, self.haul.driver), (date(2026, 6, 2), self.user))
        page = self.client.get(f"/hauls/{self.haul.pk}/card/")
        self.assertContains(page, f"Tuesday 2 June 2026, 9:00 · driver {self.user.shown_name}")
        self.post()
        self.haul.refresh_from_db()
        self.assertIsNone(self.haul.day)

    def test_two_at_once_notice_each_other(self) -> None:
        was = assigned(self.haul)
        assign(Haul.objects.get(pk=self.haul.pk), Job(day=date(2026, 6, 1)), was=was)
        answer = self.post(day="2026-06-02", was=was)
        self.assertContains(answer, "Somebody else said who drives", status_code=422)
        self.assertContains(answer, 'value="2026-06-02"', status_code=422)
        self.haul.refresh_from_db()
        self.assertEqual(self.haul.day, date(2026, 6, 1))
        # between looking and writing
        stale = Haul.objects.get(pk=self.haul.pk)
        Haul.objects.filter(pk=self.haul.pk).update(day=date(2026, 6, 5))
        with self.assertRaises(AlreadyChangedError):
            assign(stale, Job(), was=assigned(stale))

    def test_what_makes_no_sense_is_told_and_kept_in_its_box(self) -> None:
        answer = self.post(day="sometime")
        self.assertContains(answer, "Write the day like 2026-05-31.", status_code=422)
        self.assertContains(answer, 'value="sometime"', status_code=422)
        answer = self.post(driver=str(self.stranger.pk))
        self.assertContains(answer, "Choose somebody of this yard.", status_code=422)

    def test_a_driver_reads_it_and_says_nothing(self) -> None:
        driver = User.objects.get(username=DRIVER)
        self.client.force_login(driver)
        self.assertNotContains(self.client.get(f"/hauls/{self.haul.pk}/card/"), "Keep both")
        self.assertEqual(self.post(day="2026-06-02").status_code, 403)

    def test_another_yard_sees_nothing_of_it(self) -> None:
        self.client.force_login(self.stranger)
        for path in ("", "load-card.pdf"):
            self.assertEqual(self.client.get(f"/hauls/{self.haul.pk}/card/{path}").status_code, 404)
        self.assertEqual(self.post().status_code, 404)

    def test_the_yards_telephone_stands_on_it(self) -> None:
        Yard.objects.filter(pk=self.yard.pk).update(phone="555 0147")
        self.assertContains(self.client.get(f"/hauls/{self.haul.pk}/card/"), "555 0147")
