"""The practice yard's pages: answering, moves and their budget, records, courses, sheets."""

from __future__ import annotations

import re

from demo.practised import CASES, COURSE
from hauls.models import Haul
from hauls.tests.yard_case import CREW, YardCase
from practice.kinds import KINDS
from practice.models import Attempt, Course, Part, Terms
from practice.sources import OWN, made
from yards.models import Membership, Role, User


class PracticeCase(YardCase):
    def driver(self) -> User:
        """The yard's driver, signed in."""
        driver = User.objects.get(username="demo-driver")
        self.client.force_login(driver)
        return driver


class Answering(PracticeCase):
    def test_every_kind_is_shown_answered_and_explained(self) -> None:
        for kind in KINDS:
            address = f"/practice/{kind.slug}/21/"
            with self.subTest(kind=kind.slug):
                self.assertContains(self.client.get(address), kind.title)
                best = kind.make(21).best()
                sent = {name: list(values) for name, values in best.items()}
                if "place" in sent:
                    sent["place"] = [str(round(float(sent["place"][0]) / (0.0254 / 2)))]
                page = self.client.post(address, {"do": "answer", **sent}, follow=True)
                self.assertContains(page, "Right")
                attempt = Attempt.objects.get(kind=kind.slug, seed=21)
                self.assertEqual((attempt.grade, attempt.person), ("right", self.user))

    def test_nothing_chosen_says_so_and_keeps_what_was(self) -> None:
        before = Attempt.objects.count()
        page = self.client.post("/practice/sways/21/", {"do": "answer", "now": "truck"})
        self.assertContains(page, "Choose one.", status_code=422)
        self.assertRegex(page.content.decode(), r'name="now" value="truck" checked')
        page = self.client.post("/practice/eye/21/", {"do": "answer", "place": "far"})
        self.assertContains(page, "Say where it is to stop.", status_code=422)
        self.assertEqual(Attempt.objects.count(), before)

    def test_a_second_answer_does_not_count(self) -> None:
        for now in ("truck", "foot"):
            self.client.post("/practice/sways/22/", {"do": "answer", "now": now, "then": "forward"})
        told = list(Attempt.objects.filter(seed=22).order_by("pk").values_list("grade", "first"))
        self.assertEqual(told, [("wrong", True), ("right", False)])
        page = self.client.get("/practice/record/")
        self.assertContains(page, "1 tried: 1 not so")
        self.assertContains(page, "never a certificate")

    def test_numbers_and_kinds_that_there_are_not(self) -> None:
        for address in ("/practice/nonsense/3/", "/practice/eye/0/", "/practice/eye/9999999/"):
            self.assertEqual(self.client.get(address).status_code, 404, address)
        self.assertEqual(self.client.get("/practice/begin/?kind=x").status_code, 404)
        page = self.client.get("/practice/begin/?kind=eye&number=-3&source=own")
        self.assertContains(page, "A case has a number from 1 to 999999", status_code=422)
        self.assertContains(page, 'value="-3"', status_code=422)
        self.assertContains(page, 'value="own" selected', status_code=422)
        page = self.client.get("/practice/begin/?number=44&source=own")
        self.assertContains(page, "Choose a kind", status_code=422)
        self.assertContains(page, 'value="44"', status_code=422)
        # choosing an outfit is made up, whatever is chosen
        answer = self.client.get("/practice/begin/?kind=outfit&number=17&source=own")
        self.assertRedirects(answer, "/practice/outfit/17/", fetch_redirect_response=False)
        answer = self.client.get("/practice/begin/?kind=eye&number=17&source=own")
        self.assertRedirects(answer, "/practice/eye/17/?source=own", fetch_redirect_response=False)
        answer = self.client.get("/practice/begin/?kind=eye")
        self.assertRegex(answer.headers["Location"], r"^/practice/eye/\d+/$")


class Moves(PracticeCase):
    def move(self, place: int, moved: int) -> int:
        sent = {"do": "move", "place": place, "moved": moved}
        return self.client.post("/practice/gauge/31/", sent).status_code

    def test_three_readings_then_it_stands(self) -> None:
        for n, place in enumerate((300, 280, 270)):
            self.assertEqual(self.move(place, n), 302)
            page = self.client.get("/practice/gauge/31/")
            self.assertContains(page, f"Move {n + 1}, ")
        self.assertNotContains(page, "Move it there and read")
        # no fourth, and no move twice from two pages
        self.assertEqual(self.move(260, 3), 409)
        self.assertEqual(self.move(260, 1), 409)
        attempt = Attempt.objects.get(kind="gauge", seed=31)
        self.assertEqual(len(attempt.moves), 3)
        # a slider that is not to be moved any more sends nothing
        page = self.client.post("/practice/gauge/31/", {"do": "answer"}, follow=True)
        attempt.refresh_from_db()
        self.assertAlmostEqual(float(attempt.answer["place"][0]), attempt.moves[-1])
        self.assertContains(page, "The figures")
        # now it is told where it may stand
        self.assertContains(page, 'class="window"')
        # and the same number begins anew
        self.assertNotContains(self.client.get("/practice/gauge/31/"), "Move 1, ")

    def test_after_a_move_the_slider_is_no_answer(self) -> None:
        self.assertEqual(self.move(300, 0), 302)
        self.client.post("/practice/gauge/31/", {"do": "answer", "place": 100})
        attempt = Attempt.objects.get(kind="gauge", seed=31)
        self.assertAlmostEqual(float(attempt.answer["place"][0]), 300 * 0.0254 / 2)

    def test_the_picture_goes_with_the_slider_and_tells_no_tongue(self) -> None:
        page = self.client.get("/practice/eye/31/placed/?place=200")
        self.assertContains(page, "8 ft 4 in")
        self.assertNotContains(page, "%")
        self.assertNotContains(page, 'class="window"')
        self.assertEqual(self.client.get("/practice/ticket/31/placed/?place=9").status_code, 404)
        self.assertEqual(self.client.get("/practice/eye/31/placed/").status_code, 404)


class OfTheYard(PracticeCase):
    def test_cases_of_its_own_book_and_of_a_haul(self) -> None:
        found = made(self.yard, "eye", 5, OWN)
        names = {*self.yard.trailer_set.values_list("name", flat=True)}
        self.assertIn(found.case.draft.trailer_name, names)  # type: ignore[attr-defined]
        page = self.client.get("/practice/eye/5/?source=own")
        self.assertContains(page, "our own outfits and machines")
        haul = f"haul-{self.haul.pk}"
        page = self.client.get(f"/practice/gauge/5/?source={haul}")
        self.assertContains(page, f"haul: {self.haul.name}")
        # its figures stay hidden: neither the share nor where it may stand
        self.assertNotContains(page, 'class="window"')

    def test_a_haul_that_has_changed_since_keeps_the_grade_alone(self) -> None:
        source = f"haul-{self.haul.pk}"
        self.client.post(
            f"/practice/gauge/6/?source={source}", {"do": "answer", "place": 300, "moved": 0}
        )
        attempt = Attempt.objects.get(source=source)
        address = f"/practice/answers/{attempt.pk}/"
        self.assertContains(self.client.get(address), "The figures")
        self.assertEqual(self.act("nudge 1").status_code, 200)
        page = self.client.get(address)
        self.assertContains(page, "has been changed since")
        self.assertNotContains(page, "The figures")
        Haul.objects.filter(pk=self.haul.pk).delete()
        self.assertContains(self.client.get(address), "a haul that is gone")
        page = self.client.get(f"/practice/gauge/6/?source={source}")
        self.assertContains(page, "That haul is gone", status_code=422)

    def test_another_yards_haul_is_none(self) -> None:
        self.client.force_login(self.stranger)
        page = self.client.get(f"/practice/eye/5/?source=haul-{self.haul.pk}")
        self.assertContains(page, "That haul is gone", status_code=422)
        page = self.client.get("/practice/eye/5/?source=own")
        self.assertContains(page, "The book needs a truck", status_code=422)
        for odd in ("haul-", "haul-x", "haul-99999999999999", "nonsense", "haul-²"):
            page = self.client.get("/practice/eye/5/", {"source": odd})
            self.assertEqual(page.status_code, 422, odd)

    def test_from_here_to_how_a_haul_tows(self) -> None:
        page = self.client.get("/practice/")
        self.assertContains(page, f'value="haul-{self.haul.pk}"')
        answer = self.client.get(f"/practice/tows/?haul=haul-{self.haul.pk}")
        self.assertRedirects(answer, f"/hauls/{self.haul.pk}/sway/", fetch_redirect_response=False)
        self.client.force_login(self.stranger)
        for key in (f"haul-{self.haul.pk}", "", "x"):
            self.assertEqual(self.client.get("/practice/tows/", {"haul": key}).status_code, 404)


class Records(PracticeCase):
    def test_a_record_is_its_persons_own_unless_the_yard_agrees(self) -> None:
        driver = User.objects.get(username="demo-driver")
        theirs = Attempt.objects.filter(person=driver).first()
        assert theirs is not None
        address = f"/practice/record/{driver.pk}/"
        self.assertEqual(self.client.get(address).status_code, 404)
        self.assertEqual(self.client.get(f"/practice/answers/{theirs.pk}/").status_code, 404)
        self.client.post("/practice/terms/", {"sees": "yes"})
        self.assertContains(self.client.get(address), "Jo Marsh: record of practice")
        self.assertContains(self.client.get(f"/practice/answers/{theirs.pk}/"), "Jo Marsh")
        self.assertContains(self.client.get("/practice/record/"), address)
        # whoever is seen is told
        self.client.force_login(driver)
        self.assertContains(self.client.get("/practice/record/"), "and by the owners of")
        self.assertEqual(self.client.post("/practice/terms/", {"sees": "no"}).status_code, 403)
        # a planner sees nobody else's
        self.client.force_login(User.objects.get(username="demo-planner"))
        self.assertEqual(self.client.get(address).status_code, 404)
        self.assertTrue(Terms.objects.get(yard=self.yard).owner_sees)

    def test_owners_of_another_yard_see_nothing(self) -> None:
        Membership.objects.filter(user=self.stranger).update(role=Role.OWNER)
        self.client.force_login(self.stranger)
        self.client.post("/practice/terms/", {"sees": "yes"})
        driver = User.objects.get(username="demo-driver")
        self.assertEqual(self.client.get(f"/practice/record/{driver.pk}/").status_code, 404)


class Courses(PracticeCase):
    def course(self) -> Course:
        return Course.objects.get(name=COURSE)

    def test_the_demo_yard_has_one_of_each_kind(self) -> None:
        kinds = [kind for kind, _ in CASES]
        self.assertEqual(sorted(kinds), sorted(kind.slug for kind in KINDS))
        self.assertEqual([one.kind for one in self.course().parts.all()], kinds)

    def test_a_driver_goes_on_where_he_stopped(self) -> None:
        self.driver()
        page = self.client.get("/practice/")
        self.assertContains(page, f"{len(CASES)} cases, 4 tried")
        open_one = self.course().parts.get(kind="eye")
        self.assertContains(page, f"/practice/parts/{open_one.pk}/")
        page = self.client.get(f"/practice/parts/{open_one.pk}/", follow=True)
        self.assertContains(page, f"{COURSE}, case 3 of {len(CASES)}")
        page = self.client.post(
            f"/practice/eye/13/?part={open_one.pk}", {"do": "answer", "place": 250}, follow=True
        )
        self.assertContains(page, "Next case of the course")
        self.assertNotContains(self.client.get(f"/practice/courses/{open_one.course_id}/"), "Up<")

    def test_owners_see_how_the_crew_did_where_the_yard_agrees(self) -> None:
        address = f"/practice/courses/{self.course().pk}/"
        self.assertNotContains(self.client.get(address), "How the crew did")
        self.client.post("/practice/terms/", {"sees": "yes"})
        page = self.client.get(address)
        self.assertContains(page, "How the crew did")
        self.assertContains(page, "Jo Marsh")
        self.driver()
        self.assertNotContains(self.client.get(address), "How the crew did")

    def test_made_ordered_and_taken_apart(self) -> None:
        page = self.client.post("/practice/courses/new/", {"name": ""})
        self.assertContains(page, "This field is required", status_code=422)
        self.client.post("/practice/courses/new/", {"name": "Winter", "note": "For the new ones"})
        course = Course.objects.get(name="Winter")
        address = f"/practice/courses/{course.pk}/"
        for kind, number in (("eye", "5"), ("tie", "")):
            self.client.post(f"{address}add/", {"kind": kind, "number": number, "source": ""})
        one, other = course.parts.all()
        self.assertEqual((one.kind, one.seed, other.kind), ("eye", 5, "tie"))
        self.client.post(f"/practice/parts/{other.pk}/change/", {"do": "up"})
        self.assertEqual([part.kind for part in course.parts.all()], ["tie", "eye"])
        self.client.post(f"/practice/parts/{other.pk}/change/", {"do": "up"})
        self.assertEqual([part.kind for part in course.parts.all()], ["tie", "eye"])
        self.client.post(f"/practice/parts/{other.pk}/change/", {"do": "out"})
        self.assertEqual([part.kind for part in course.parts.all()], ["eye"])
        self.client.post(f"{address}remove/")
        self.assertFalse(Part.objects.filter(course_id=course.pk).exists())

    def test_what_cannot_be_put_in_is_said_and_kept(self) -> None:
        address = f"/practice/courses/{self.course().pk}/add/"
        sent = {"kind": "outfit", "number": "77", "source": OWN}
        page = self.client.post(address, sent)
        self.assertContains(page, "is made up only", status_code=422)
        self.assertContains(page, 'value="77"', status_code=422)
        page = self.client.post(address, {"kind": "eye", "number": "0", "source": ""})
        self.assertEqual(page.status_code, 422)
        several = Haul.objects.get(name=CREW)
        sent = {"kind": "round", "number": "1", "source": f"haul-{several.pk}"}
        page = self.client.post(address, sent)
        self.assertContains(page, "It takes a haul of one machine.", status_code=422)
        self.assertEqual(self.course().parts.count(), len(CASES))

    def test_two_who_rename_it_at_once(self) -> None:
        course = self.course()
        address = f"/practice/courses/{course.pk}/edit/"
        self.client.post(address, {"name": "Theirs", "note": "", "version": course.version})
        page = self.client.post(address, {"name": "Mine", "version": course.version})
        self.assertContains(page, "Somebody else changed it", status_code=409)
        self.assertContains(page, 'value="Mine"', status_code=409)
        course.refresh_from_db()
        self.assertEqual(course.name, "Theirs")

    def test_sheets_with_answers_and_without(self) -> None:
        address = f"/practice/courses/{self.course().pk}/sheets/"
        bare, told = self.client.get(address), self.client.get(f"{address}?answers=1")
        for page in (bare, told):
            self.assertEqual(len(re.findall("<article", page.content.decode())), len(CASES))
        self.assertNotContains(bare, "Best:")
        self.assertNotContains(bare, "Read out")
        self.assertContains(told, "Best:", count=len(CASES))
        self.assertContains(told, "Read out after each move", count=1)
        self.driver()
        self.assertEqual(self.client.get(address).status_code, 403)
