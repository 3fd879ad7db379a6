"""The driver's day: what comes next, who did what, two at once, and what a planner sees of it."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any

from django.db import connection
from django.test import SimpleTestCase
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from book.models import Removed
from demo.login import DRIVER
from hauls.models import Haul
from hauls.tests.yard_case import YardCase
from road.models import ORDER, Step, StepDone, Stopped
from road.services import NotNextError, do_step, last_step, next_step, state_of, take_back
from yards.models import User

OVER = "Excavator home from Low Fields"


class Order(SimpleTestCase):
    def test_one_comes_after_the_other(self) -> None:
        done: set[Step] = set()
        states = []
        for step in ORDER:
            self.assertIs(next_step(done), step)
            done.add(step)
            self.assertIs(last_step(done), step)
            states.append(state_of(done).value)
        self.assertIsNone(next_step(done))
        expected = ["planned"] * 3 + ["ready", "road", "road", "delivered", "back"]
        self.assertEqual(states, expected)
        self.assertIs(state_of(set()), Haul.State.PLANNED)


class Doing(YardCase):
    def done(self) -> list[str]:
        return list(StepDone.objects.filter(haul=self.haul).values_list("step", flat=True))

    def post(self, step: str, what: str = "do") -> Any:
        return self.client.post(f"/hauls/{self.haul.pk}/road/{what}/", {"step": step})

    def test_a_driver_goes_through_a_haul_and_the_planner_sees_it(self) -> None:
        self.client.force_login(User.objects.get(username=DRIVER))
        for step in ORDER[:5]:
            page = self.client.get(f"/hauls/{self.haul.pk}/road/")
            self.assertContains(page, f'value="{step.value}"')
            self.assertRedirects(self.post(step.value), f"/hauls/{self.haul.pk}/road/")
        self.haul.refresh_from_db()
        self.assertEqual(self.haul.state, Haul.State.ON_THE_ROAD)
        self.client.force_login(self.user)
        self.assertContains(self.client.get("/"), '<span class="card-state">on the road</span>')
        page = self.client.get(f"/hauls/{self.haul.pk}/road/")
        self.assertContains(page, "Set off: Jo Marsh")
        self.assertContains(page, "next: first stop")

    def test_done_twice_it_stays_as_it_was_noted(self) -> None:
        self.post("hook_up")
        first = StepDone.objects.get(haul=self.haul)
        self.client.force_login(User.objects.get(username=DRIVER))
        self.assertEqual(self.post("hook_up").status_code, 302)
        self.assertEqual(StepDone.objects.get(haul=self.haul).by, first.by)

    def test_what_is_not_next_is_refused_with_a_word(self) -> None:
        self.assertContains(self.post("go"), "look again", status_code=409)
        for step in ("nothing", "", "²", "9" * 5000):
            self.assertContains(self.post(step), "no step of a haul", status_code=422)
        self.assertEqual(self.done(), [])
        with self.assertRaises(NotNextError):
            do_step(self.haul, Step.LOAD, user=self.user)

    def test_only_the_last_step_is_taken_back(self) -> None:
        for step in ORDER[:4]:
            do_step(self.haul, step, user=self.user)
        self.assertEqual(self.post("load", "take-back").status_code, 409)
        self.assertEqual(self.post("walk_round", "take-back").status_code, 302)
        self.haul.refresh_from_db()
        self.assertEqual(self.haul.state, Haul.State.PLANNED)
        self.assertEqual(self.done(), ["hook_up", "load", "tie_down"])
        # once more, from a page that is behind
        take_back(self.haul, Step.WALK_ROUND)
        self.assertEqual(len(self.done()), 3)

    def test_a_plan_changed_after_loading_is_said(self) -> None:
        for step in ORDER[:2]:
            do_step(self.haul, step, user=self.user)
        address = f"/hauls/{self.haul.pk}/road/"
        self.assertNotContains(self.client.get(address), "The plan was changed")
        self.act("nudge 1")
        self.assertContains(self.client.get(address), "The plan was changed after it was loaded")

    def test_what_is_over_is_not_to_be_hauled(self) -> None:
        over = Haul.objects.get(name=OVER)
        self.assertContains(self.client.get(f"/hauls/{over.pk}/road/"), "Do not haul it like this.")
        page = self.client.get(f"/hauls/{self.haul.pk}/road/")
        self.assertNotContains(page, "Do not haul it like this.")

    def test_a_plan_that_cannot_be_read_is_said_and_steps_go_on(self) -> None:
        Haul.objects.filter(pk=self.haul.pk).update(document={"format": "x"})
        page = self.client.get(f"/hauls/{self.haul.pk}/road/")
        self.assertContains(page, "Its plan cannot be read.")
        self.assertEqual(self.post("hook_up").status_code, 302)

    def test_another_yard_sees_nothing_of_it(self) -> None:
        self.client.force_login(self.stranger)
        self.assertEqual(self.client.get(f"/hauls/{self.haul.pk}/road/").status_code, 404)
        self.assertEqual(self.post("hook_up").status_code, 404)
        self.assertNotContains(self.client.get("/road/?who=all"), self.haul.name)


class WhereItStopped(YardCase):
    def post(self, **boxes: str) -> Any:
        return self.client.post(f"/hauls/{self.haul.pk}/road/stopped/", boxes)

    def test_planned_and_done_stand_side_by_side(self) -> None:
        self.client.force_login(User.objects.get(username=DRIVER))
        answer = self.post(
            **{"mark-0": "12 ft 5 in", "gauge": "1150", "arch_rear": "37 1/2", "note": "wet"}
        )
        self.assertRedirects(answer, f"/hauls/{self.haul.pk}/road/")
        page = self.client.get(f"/hauls/{self.haul.pk}/road/")
        for words in (
            "stopped at, planned 12 ft 6 in",
            "<b>12 ft 5 in</b>",
            "1 in further forward",
            "gauge, planned 1,129 lb",
            "<b>1,150 lb</b>",
            "rear arch",
            "wet",
            "Jo Marsh",
        ):
            self.assertContains(page, words)
        kept = Stopped.objects.get()
        self.assertEqual(str(kept.gauge), "1150 lb")
        self.assertEqual(kept.revision, self.haul.revision)

    def test_the_newest_counts_and_the_plan_may_move_on(self) -> None:
        self.post(**{"mark-0": "12 ft 6 in"})
        self.act("nudge 1")
        page = self.client.get(f"/hauls/{self.haul.pk}/road/")
        self.assertContains(page, "stopped at, planned 12 ft 6 in")
        self.assertContains(page, "as planned")
        self.post(**{"mark-0": "3.86 m"})
        page = self.client.get(f"/hauls/{self.haul.pk}/road/")
        self.assertContains(page, "stopped at, planned 12 ft 7 in")
        self.assertEqual(Stopped.objects.count(), 2)

    def test_bad_boxes_say_what_is_wrong_and_keep_what_was_typed(self) -> None:
        for boxes, words in (
            ({}, "Tape at least one mark"),
            ({"note": "   "}, "Tape at least one mark"),
            ({"mark-0": "far back"}, "far back"),
            ({"gauge": "-5", "mark-0": "12 ft"}, "is not a mass"),
            ({"gauge": "9999999999"}, "larger than anything"),
            ({"arch_rear": "0"}, "more than zero"),
        ):
            with self.subTest(boxes=boxes):
                answer = self.post(**boxes)
                self.assertContains(answer, words, status_code=422)
                for typed in boxes.values():
                    self.assertContains(answer, typed.strip(), status_code=422)
        self.assertFalse(Stopped.objects.exists())

    def test_a_removed_haul_comes_back_with_all_that_was_noted(self) -> None:
        do_step(self.haul, Step.HOOK_UP, user=self.user)
        self.post(**{"mark-0": "12 ft 5 in", "gauge": "1150"})
        self.client.post(f"/hauls/{self.haul.pk}/remove/")
        self.assertFalse(Stopped.objects.exists())
        gone = Removed.objects.get(what="haul")
        self.client.post(f"/book/removed/{gone.pk}/back/")
        page = self.client.get(f"/hauls/{self.haul.pk}/road/")
        self.assertContains(page, "<b>12 ft 5 in</b>")
        self.assertContains(page, "hooked up")

    def test_each_of_several_loads_has_its_box(self) -> None:
        self.haul = Haul.objects.get(name="Drain crew to the Long Drain")
        page = self.client.get(f"/hauls/{self.haul.pk}/road/stopped/")
        self.assertContains(page, "Trench plough: lower pins behind the headboard")
        self.post(**{"mark-1": "4 ft"})
        kept = Stopped.objects.get().loads.get()
        self.assertEqual((kept.name, str(kept.mark)), ("Pallet of drain pipe", "4 ft"))

    def test_another_yard_sees_nothing_of_it(self) -> None:
        self.client.force_login(self.stranger)
        self.assertEqual(self.post(gauge="1150").status_code, 404)


class Day(YardCase):
    def setUp(self) -> None:
        super().setUp()
        Haul.objects.update(day=None, driver=None)
        self.today = timezone.localdate()

    def give(self, name: str, day: date | None, driver: User | None = None) -> Haul:
        haul = Haul.objects.get(name=name)
        haul.day, haul.driver = day, driver or self.user
        haul.save()
        return haul

    def test_his_hauls_by_day_the_first_of_them_whole(self) -> None:
        later = self.give("Roller to the Chapel Field gate", self.today + timedelta(days=1))
        first = self.give(self.haul.name, self.today)
        self.give("Gravel to the ford", self.today - timedelta(days=2))
        other = User.objects.get(username=DRIVER)
        self.give("Drain crew to the Long Drain", self.today, other)
        page = self.client.get("/road/")
        self.assertEqual(page.context["first"].name, "Gravel to the ford")
        self.assertContains(page, "1 haul of yours today.")
        listed = [(one.title, [row.pk for row in one.rows]) for one in page.context["days"]]
        self.assertEqual(listed, [("Today", [first.pk]), ("Tomorrow", [later.pk])])
        everybody = self.client.get("/road/?who=all")
        self.assertContains(everybody, "Drain crew to the Long Drain")
        self.assertContains(everybody, "Jo Marsh")
        self.assertContains(everybody, "No day yet")

    def test_what_is_back_or_put_away_is_not_listed(self) -> None:
        for step in ORDER:
            do_step(self.haul, step, user=self.user)
        self.give(self.haul.name, self.today)
        away = self.give("Gravel to the ford", self.today)
        Haul.objects.filter(pk=away.pk).update(archived=True)
        page = self.client.get("/road/")
        self.assertIsNone(page.context["first"])
        self.assertContains(page, "Nothing is yours to haul.")
        self.assertContains(page, "No hauls of yours today.")

    def test_few_queries_however_many_hauls(self) -> None:
        Haul.objects.update(driver=self.user, day=self.today)

        def asked() -> int:
            with CaptureQueriesContext(connection) as queries:
                self.client.get("/road/?who=all")
            return len(queries)

        # what is looked up once and kept is there from then on
        asked()
        many = asked()
        self.assertLess(many, 20)
        first = Haul.objects.earliest("pk")
        Haul.objects.exclude(pk=first.pk).update(archived=True)
        self.assertGreaterEqual(asked(), many - 2)

    def test_what_to_do_when_it_sways_is_at_hand_for_a_driver(self) -> None:
        page = self.client.get("/road/sways/")
        for words in ("Hands still", "Off the accelerator", "No truck brake", "Squeeze"):
            self.assertContains(page, words)
        self.assertNotContains(self.client.get("/book/"), 'class="at-hand')
        self.client.force_login(User.objects.get(username=DRIVER))
        for path in ("/", "/book/", "/road/", "/weigh/"):
            self.assertContains(self.client.get(path), 'class="at-hand')
