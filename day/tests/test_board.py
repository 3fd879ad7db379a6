"""The board of a week, and moving what stands on it."""

from __future__ import annotations

from datetime import date, time, timedelta
from typing import Any

from django.urls import reverse

from book.models import Place, Truck
from day.board import board, monday
from day.forms import minutes_words, read_minutes
from hauls.assigning import Job, assign, assigned
from hauls.models import Haul
from hauls.tests.yard_case import YardCase
from measures import UnitSystem
from planfile.climbing import Place as End
from road.defects import holding_up
from yards.models import User

FIRST = date(2026, 6, 1)


class OnBoard(YardCase):
    def setUp(self) -> None:
        super().setUp()
        Haul.objects.filter(yard=self.yard).update(
            day=None, starts=None, takes_minutes=None, fetched_from=None, taken_to=None
        )
        self.haul.refresh_from_db()
        self.other = Haul.objects.get(name="Compact loader to the Stony Bank culvert")
        self.half_ton = Truck.objects.get(name="Old half-ton")
        self.gooseneck = Truck.objects.get(name="Gooseneck truck")

    def say(self, haul: Haul, **said: Any) -> None:
        """What is said of a haul, and nothing else."""
        haul.refresh_from_db()
        assign(haul, Job(**said), was=assigned(haul))

    def shown(self, by: str = "truck") -> Any:
        return board(self.yard, FIRST, by=by, today=FIRST, units=UnitSystem.US)

    def sent(self, haul: Haul) -> dict[str, Any]:
        """What the form on a card sends, moved nowhere yet."""
        haul.refresh_from_db()
        return {
            "haul": haul.pk,
            "day": "",
            "key": str(haul.truck_id or ""),
            "by": "truck",
            "was": assigned(haul),
            "base": haul.revision,
            "week": FIRST.isoformat(),
        }

    def move(self, haul: Haul, day: str, key: str, **other: Any) -> Any:
        """A card put somewhere."""
        sent = {**self.sent(haul), "day": day, "key": key, **other}
        return self.client.post(reverse("move_card"), sent)


class Weeks(OnBoard):
    def test_each_haul_is_in_the_field_of_its_day_and_its_truck(self) -> None:
        self.say(self.haul, day=FIRST + timedelta(days=2))
        shown = self.shown()
        self.assertEqual(shown.title, "1 Jun to 7 Jun 2026")
        for row in shown.rows:
            for column, cards in row.days:
                there = column.iso == "2026-06-03" and row.field.title == "Work truck 3"
                self.assertEqual([card.pk for card in cards], [self.haul.pk] if there else [])
        self.assertNotIn(self.haul.pk, [card.pk for card in shown.waiting])
        self.assertIn(self.other.pk, [card.pk for card in shown.waiting])
        by_driver = self.shown("driver")
        nobody = next(row for row in by_driver.rows if row.field.title == "Nobody yet")
        self.assertEqual([c.pk for c in nobody.days[2][1]], [self.haul.pk])

    def test_what_is_promised_twice_is_said_first_and_on_the_cards(self) -> None:
        self.say(self.haul, day=FIRST, starts=time(9), takes_minutes=60)
        self.say(self.other, day=FIRST, starts=time(9, 30))
        shown = self.shown()
        self.assertEqual(
            shown.clashes,
            (
                "Monday 1: Work truck 3 and 20 ft equipment trailer are promised for 9:00 and for "
                "9:30.",
            ),
        )
        cards = [card for row in shown.rows for _, there in row.days for card in there]
        for card in cards:
            self.assertIn("Work truck 3 and 20 ft equipment trailer promised twice", card.problems)
        page = self.client.get(f"/day/?week={FIRST}")
        self.assertContains(page, "are promised for 9:00 and for 9:30.</h1>")
        self.say(self.other, day=FIRST, starts=time(10))
        self.assertEqual(self.shown().clashes, ())
        # without an hour nobody can say, which is not the same as right
        self.say(self.other, day=FIRST)
        self.assertEqual((len(self.shown().clashes), len(self.shown().questions)), (0, 1))

    def test_what_is_done_is_promised_to_nobody(self) -> None:
        self.say(self.haul, day=FIRST, starts=time(9))
        self.say(self.other, day=FIRST, starts=time(9))
        self.assertEqual(len(self.shown().clashes), 1)
        Haul.objects.filter(pk=self.other.pk).update(state=Haul.State.BACK)
        self.assertEqual(self.shown().clashes, ())

    def test_a_machine_that_is_somewhere_else(self) -> None:
        home, far = (
            Place.objects.create(yard=self.yard, name=name) for name in ("Here", "Far field")
        )
        self.say(self.haul, day=FIRST, starts=time(9), fetched_from=home, taken_to=far)
        again = Haul.objects.get(name="Orchard tractor back from Mill Ponds")
        self.say(again, day=FIRST + timedelta(days=1), fetched_from=home)
        problems = {
            card.pk: card.problems
            for row in self.shown().rows
            for _, there in row.days
            for card in there
        }
        self.assertEqual(problems[self.haul.pk], ())
        self.assertIn("Harrow 48 tractor with loader is at Far field by then", problems[again.pk])
        self.say(again, day=FIRST + timedelta(days=1), fetched_from=far)
        found = [c for row in self.shown().rows for _, there in row.days for c in there]
        self.assertEqual([c.problems for c in found if c.pk == again.pk], [()])

    def test_a_defect_and_an_inspection_are_on_every_card_of_the_trailer(self) -> None:
        (held,) = holding_up(self.yard, 9)
        haul = Haul.objects.filter(yard=self.yard, trailer=held.thing)[0]
        self.say(haul, day=FIRST)
        (card,) = [c for row in self.shown().rows for _, there in row.days for c in there]
        self.assertIn(f"{held.thing.name}: held up: {held.what}", card.problems)

    def test_no_address_is_a_fault_of_ours(self) -> None:
        for query in ("week=x", "week=2026-13-40", "week=0001-01-01", "week=9999-12-31", "by=moon"):
            self.assertEqual(self.client.get(f"/day/?{query}").status_code, 200, query)
        for day in ("0001-01-01", "9999-12-31"):
            self.assertEqual(self.move(self.haul, day, "").status_code, 422, day)
            self.assertEqual(self.move(self.haul, "", "", week=day).status_code, 422, day)


class Moves(OnBoard):
    def test_to_another_day_and_back_beside_the_board(self) -> None:
        key = str(self.haul.truck_id)
        answer = self.move(self.haul, "2026-06-04", key)
        self.assertRedirects(answer, "/day/?week=2026-06-01&by=truck")
        self.haul.refresh_from_db()
        self.assertEqual(self.haul.day, date(2026, 6, 4))
        self.move(self.haul, "", key)
        self.haul.refresh_from_db()
        self.assertIsNone(self.haul.day)

    def test_to_another_truck_its_plan_is_worked_out_anew_and_can_be_undone(self) -> None:
        before, place = self.haul.verdict, self.haul.document["items"][0]["placement"]
        self.move(self.haul, "2026-06-04", str(self.gooseneck.pk))
        self.haul.refresh_from_db()
        self.assertEqual(self.haul.truck, self.gooseneck)
        self.assertEqual(self.haul.hitch.truck, self.gooseneck)  # type: ignore[union-attr]
        self.assertEqual(self.haul.document["truck"]["name"], "Gooseneck truck")
        self.assertEqual(self.haul.document["items"][0]["placement"], place)
        self.assertEqual(self.haul.step, 1)
        self.client.post(
            reverse("change_haul", args=[self.haul.pk]),
            {"do": "undo", "base": self.haul.revision, "commit": "1"},
        )
        self.haul.refresh_from_db()
        self.assertEqual((self.haul.truck.name, self.haul.verdict), ("Work truck 3", before))  # type: ignore[union-attr]

    def test_a_trailer_that_the_truck_cannot_take_stays(self) -> None:
        haul = Haul.objects.get(name="Big tractor to Upper Fern on the gooseneck")
        answer = self.move(haul, "2026-06-04", str(self.half_ton.pk))
        self.assertContains(
            answer, "Old half-ton has no hitch that 25 ft gooseneck can be", status_code=422
        )
        haul.refresh_from_db()
        self.assertIsNone(haul.day)

    def test_to_a_driver(self) -> None:
        driver = User.objects.get(username="demo-driver")
        self.move(self.haul, "2026-06-04", str(driver.pk), by="driver")
        self.haul.refresh_from_db()
        self.assertEqual(self.haul.driver, driver)
        stranger = str(self.stranger.pk)
        answer = self.move(self.haul, "2026-06-04", stranger, by="driver")
        self.assertContains(answer, "Choose somebody of this yard", status_code=422)

    def test_somebody_moved_it_in_between(self) -> None:
        was = assigned(self.haul)
        self.say(self.haul, day=FIRST)
        answer = self.move(self.haul, "2026-06-04", str(self.haul.truck_id), was=was)
        self.assertContains(answer, "Somebody else changed that haul", status_code=409)
        self.haul.refresh_from_db()
        self.assertEqual(self.haul.day, FIRST)
        stale = self.move(self.haul, "2026-06-04", str(self.gooseneck.pk), base=99)
        self.assertContains(stale, "Somebody else changed that haul", status_code=409)
        self.haul.refresh_from_db()
        self.assertEqual(self.haul.day, FIRST)

    def test_what_is_no_place_on_the_board(self) -> None:
        for sent in ({"day": "soon"}, {"by": "moon"}, {"haul": "x"}, {"base": "-1"}, {"week": ""}):
            answer = self.client.post(reverse("move_card"), {**self.sent(self.haul), **sent})
            self.assertEqual(answer.status_code, 422, sent)
        for key in ("99999999999999999999", "x"):
            self.assertEqual(self.move(self.haul, "2026-06-04", key).status_code, 422, key)

    def test_a_driver_looks_and_another_yard_sees_nothing(self) -> None:
        self.client.force_login(User.objects.get(username="demo-driver"))
        self.assertNotContains(self.client.get("/day/"), "board-move")
        self.assertNotContains(self.client.get(f"/day/?move={self.haul.pk}"), "Move it")
        self.assertEqual(self.move(self.haul, "2026-06-04", "1").status_code, 403)
        self.client.force_login(self.stranger)
        self.assertNotContains(self.client.get(f"/day/?week={FIRST}"), self.haul.name)
        self.assertEqual(self.move(self.haul, "2026-06-04", "1").status_code, 404)


class Jobs(OnBoard):
    def post(self, **said: str) -> Any:
        sent = {"was": assigned(self.haul), **said}
        return self.client.post(f"/hauls/{self.haul.pk}/job/", sent)

    def test_kept_as_it_was_said(self) -> None:
        place = Place.objects.get(yard=self.yard, name="Low Fields")
        self.post(
            day="2026-06-02",
            starts="07:45",
            takes_minutes="2 h 30",
            taken_to=str(place.pk),
            purpose="To dig the sump",
        )
        self.haul.refresh_from_db()
        said = (self.haul.day, self.haul.starts, self.haul.takes_minutes, self.haul.taken_to)
        self.assertEqual(said, (date(2026, 6, 2), time(7, 45), 150, place))
        self.assertContains(self.client.get(f"/hauls/{self.haul.pk}/job/"), 'value="2 h 30"')
        self.assertContains(self.client.get("/day/?week=2026-06-02"), "to Low Fields")

    def test_the_ground_of_a_place_comes_into_the_plan_once(self) -> None:
        places = {one.name: one.pk for one in Place.objects.filter(yard=self.yard)}
        self.haul.refresh_from_db()
        before = self.haul.revision
        sent = {
            "was": assigned(self.haul),
            "fetched_from": places["Stony Bank culvert"],
            "taken_to": places["Upper Fern"],
        }
        self.client.post(f"/hauls/{self.haul.pk}/job/", sent)
        self.haul.refresh_from_db()
        site = self.haul.draft.site(End.LOADING)
        self.assertEqual((site.surface, site.slope), ("gravel", 0.04))
        self.assertEqual(self.haul.revision, before + 1)
        # of where it goes the book says nothing, and what is said again changes nothing
        sent["was"] = assigned(self.haul)
        self.client.post(f"/hauls/{self.haul.pk}/job/", sent)
        self.haul.refresh_from_db()
        self.assertEqual(self.haul.revision, before + 1)

    def test_what_is_wrong_is_said_and_kept_in_its_box(self) -> None:
        answer = self.post(takes_minutes="a while", purpose="Home")
        self.assertContains(answer, "is not how long it takes", status_code=422)
        self.assertContains(answer, 'value="Home"', status_code=422)
        elsewhere = Place.objects.create(yard=self.empty_yard(), name="Elsewhere")
        wrong = self.post(taken_to=str(elsewhere.pk))
        self.assertContains(wrong, "Choose one of this yard", status_code=422)
        stale = self.post(was="x", purpose="Home")
        self.assertContains(stale, "in between", status_code=422)

    def empty_yard(self) -> Any:
        return type(self.yard).objects.create(name="Another")

    def test_how_long_is_read_as_it_is_written(self) -> None:
        for text, minutes in (
            ("2 h 30", 150), ("2:30", 150), ("2.5 h", 150), ("2,5", 150), ("150 min", 150),
            ("3", 180), ("45 m", 45), ("2h", 120),
        ):  # fmt: skip
            self.assertEqual(read_minutes(text), minutes, text)
        for minutes in (1, 45, 60, 61, 150, 1440):
            self.assertEqual(read_minutes(minutes_words(minutes)), minutes)
        for text in ("", "soon", "-2", "2 h 30 s", "1e3", "²"):
            with self.assertRaises(ValueError):
                read_minutes(text)

    def test_the_first_day_of_a_week(self) -> None:
        for day in range(1, 8):
            self.assertEqual(monday(date(2026, 6, day)), FIRST)
