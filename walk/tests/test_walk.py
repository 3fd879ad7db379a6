"""The tape walk by its addresses: what is answered stands in the book, what is not is estimated."""

from __future__ import annotations

import json
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import TestCase

from book.chain import coupler_size
from book.models import HitchPart, Known, Machine, Trailer, Truck
from exchange.taking_in import load_whole
from exchange.yard_file import dump_whole
from hauls.models import Haul
from measures import Quantity, UnitSystem
from walk.answers import MeanwhileError, answer, asked
from walk.models import Walk
from walk.page import offer, step_page
from walk.progress import open_steps, stands, wanting
from walk.services import plan
from walk.steps import BY_SLUG, STEPS, Answer, Part, steps_of
from yards.models import Membership, Role, User, Yard

ANSWERS = {
    "truck-gvwr": "9,900",
    "front-axle": "5,200",
    "rear-axle": "6,100",
    "payload": "2,600 lb",
    "ball-size": "2.3125 in",
    "trailer-kind": "flatbed",
    "trailer-gvwr": "10000",
    "axles": "2",
    "axle-rating": "5200",
    "coupler-ball": "2.3125 in",
    "coupler-to-deck": "52",
    "deck-length": "20 ft",
    "coupler-to-axles": "16 ft 8",
    "machine-kind": "tractor",
    "what-hangs-on-it": "front",
    "brochure-weight": "3100",
    "counted": "no",
    "wheel-to-wheel": "65",
    "reach-ahead": "9 ft 8",
    "reach-behind": "46",
}


class WalkCase(TestCase):
    """A yard on its first day, and somebody with a tape."""

    def setUp(self) -> None:
        self.yard = Yard.objects.create(name="First day")
        self.user = User.objects.create_user("newcomer", password="first-day-1")
        Membership.objects.create(yard=self.yard, user=self.user, role=Role.OWNER)
        self.client.force_login(self.user)
        self.client.post("/walk/")
        self.walk = Walk.objects.get(yard=self.yard)

    def now(self) -> Walk:
        """The walk as it stands."""
        return Walk.objects.select_related("truck", "hitch", "trailer", "machine").get(
            pk=self.walk.pk
        )

    def put(self, slug: str, typed: str, **more: Any) -> Any:
        """Answer a step as its page would."""
        address = f"/walk/{self.walk.pk}/{slug}/"
        was = self.client.get(address).context["was"]
        return self.client.post(address, {"answer": typed, "was": was, **more})

    def all(self) -> None:
        """Everything that sticker, plate, tape and brochure say."""
        for slug, typed in ANSWERS.items():
            self.assertEqual(302, self.put(slug, typed).status_code, slug)


class Walking(WalkCase):
    def test_every_step_can_be_looked_at_before_anything_is_known(self) -> None:
        for step in STEPS:
            page = self.client.get(f"/walk/{self.walk.pk}/{step.slug}/")
            self.assertContains(page, step.title)
        self.assertEqual(404, self.client.get(f"/walk/{self.walk.pk}/nonsense/").status_code)

    def test_answers_stand_in_the_book_as_they_were_typed(self) -> None:
        self.all()
        truck, trailer = Truck.objects.get(), Trailer.objects.get()
        machine = Machine.objects.get()
        self.assertEqual((str(truck.gvwr), str(truck.payload)), ("9900 lb", "2600 lb"))
        self.assertEqual(truck.empty_from, Truck.EmptyFrom.STICKER)
        self.assertEqual(
            [(str(a.gawr), a.position) for a in trailer.axles.all()], [("5200 lb", None)] * 2
        )
        self.assertEqual(str(trailer.axles_at), "200 in")
        self.assertEqual(str(coupler_size(trailer)), "2.3125 in")
        ball = HitchPart.objects.get(kind="ball")
        self.assertEqual(str(ball.ball_size), "2.3125 in")
        self.assertEqual((machine.name, machine.hung), ("Tractor", "front"))
        self.assertEqual((machine.mass_known, machine.hung_counted), (Known.BROCHURE, False))
        self.assertEqual(machine.mark_name, "rear axle")

    def test_it_goes_on_with_the_next_open_step_and_ends_with_the_whole(self) -> None:
        answer = self.put("truck-gvwr", "9900")
        self.assertRedirects(answer, f"/walk/{self.walk.pk}/front-axle/")
        self.put("rear-axle", "6100")
        answer = self.put("front-axle", "5200")
        self.assertRedirects(answer, f"/walk/{self.walk.pk}/payload/")
        self.all()
        for step in open_steps(self.now()):
            last = self.put(step.slug, "", do="leave")
        self.assertRedirects(last, f"/walk/{self.walk.pk}/")
        page = self.client.get(f"/walk/{self.walk.pk}/")
        self.assertContains(page, "See where it goes")
        self.assertContains(page, "left out")

    def test_what_cannot_be_read_stays_in_the_box(self) -> None:
        for slug, typed, words in (
            ("truck-gvwr", "heavy", "is not a mass"),
            ("truck-gvwr", "0", "more than zero"),
            ("truck-gvwr", "", "Type what the tape or plate says"),
            ("deck-length", "20 lb", "not a length"),
            ("trailer-kind", "sledge", "Choose one of the buttons"),
        ):
            with self.subTest(typed=typed):
                page = self.put(slug, typed)
                self.assertContains(page, words, status_code=422)
                if typed and slug != "trailer-kind":
                    self.assertContains(page, f'value="{typed}"', status_code=422)
        self.assertFalse(Truck.objects.exists())

    def test_a_ball_in_the_bed_makes_a_gooseneck_hitch(self) -> None:
        self.put("ball-size", "2 in")
        self.put("ball-size", "bed 2.3125 in")
        hitch = self.now().hitch
        assert hitch is not None
        self.assertEqual((hitch.type, hitch.name), ("gooseneck", "Bed ball"))
        kinds = [link.part.kind for link in hitch.links.all()]
        self.assertEqual(kinds, ["gooseneck_ball"])
        self.put("trailer-kind", "utility")
        page = self.client.get(f"/walk/{self.walk.pk}/")
        self.assertContains(page, "The ball is in the bed")
        self.assertNotContains(page, "See where it goes")

    def test_nobody_is_asked_what_a_thing_does_not_have(self) -> None:
        self.put("machine-kind", "pallet")
        slugs = {step.slug for step in asked(self.now())}
        self.assertFalse(slugs & {"wheel-to-wheel", "what-hangs-on-it", "counted"})
        self.put("machine-kind", "excavator")
        machine = Machine.objects.get()
        self.assertEqual((machine.running, machine.mark_name), ("tracks", "track centre"))
        self.assertEqual(machine.name, "Excavator")

    def test_a_kind_that_nobody_chose_is_still_asked(self) -> None:
        self.put("trailer-gvwr", "7000")
        self.assertIn(BY_SLUG["trailer-kind"], open_steps(self.now()))
        self.put("trailer-kind", "utility")
        self.assertNotIn(BY_SLUG["trailer-kind"], open_steps(self.now()))

    def test_the_number_of_axles_may_be_put_right(self) -> None:
        self.put("axles", "3")
        self.put("axle-rating", "5200")
        self.put("axles", "2")
        trailer = Trailer.objects.get()
        self.assertEqual([str(a.gawr) for a in trailer.axles.all()], ["5200 lb"] * 2)
        self.put("axles", "3")
        self.assertEqual([str(a.gawr) for a in trailer.axles.all()], ["5200 lb"] * 3)


class Estimating(WalkCase):
    def test_what_is_left_out_is_offered_as_a_band(self) -> None:
        self.put("truck-gvwr", "9900")
        walk = self.now()
        for slug in ("payload", "wheelbase", "rear-axle-to-ball"):
            self.assertRegex(offer(walk, BY_SLUG[slug], UnitSystem.US), r"\d.* to \d")
        self.assertEqual("", offer(walk, BY_SLUG["coupler-to-axles"], UnitSystem.US))
        page = self.client.get(f"/walk/{self.walk.pk}/wheelbase/")
        self.assertContains(page, "No tape now?")
        self.assertContains(page, "use it")

    def test_a_haul_is_planned_with_estimates_and_names_them(self) -> None:
        self.all()
        answer = self.client.post(f"/walk/{self.walk.pk}/", {"do": "plan", "name": "To the mill"})
        haul = Haul.objects.get()
        self.assertRedirects(answer, f"/hauls/{haul.pk}/")
        self.assertEqual(haul.name, "To the mill")
        planned = haul.draft.plan
        self.assertIn("wheelbase", planned.truck.estimates)
        self.assertIn("empty_mass", planned.trailer.estimates)
        self.assertEqual(planned.items[0].estimates, ("mass", "cg.ahead"))
        page = self.client.get(f"/hauls/{haul.pk}/")
        self.assertContains(page, "figures are estimates")
        self.assertContains(page, "Likely right with the rear axle at about")
        self.assertContains(page, "The best place lies between")
        self.assertTrue(self.now().over)

    def test_two_who_plan_it_at_once_have_one_haul(self) -> None:
        self.all()
        early = self.now()
        first = plan(early, user=self.user, name="To the mill")
        second = plan(early, user=self.user, name="Mill")
        self.assertEqual((first.pk, "To the mill"), (second.pk, second.name))
        self.assertEqual(1, Haul.objects.count())

    def test_with_the_tow_rating_and_gcwr_it_is_likely_ok(self) -> None:
        self.all()
        self.put("tow-rating", "13000")
        self.put("gcwr", "22000")
        self.client.post(f"/walk/{self.walk.pk}/", {"do": "plan"})
        page = self.client.get(Haul.objects.get().get_absolute_url())
        self.assertEqual(page.context["verdict_word"], "likely ok")
        self.assertTrue(page.context["likely"])

    def test_what_is_wanting_is_listed_and_nothing_is_planned(self) -> None:
        self.put("truck-gvwr", "9900")
        page = self.client.get(f"/walk/{self.walk.pk}/")
        self.assertContains(page, "Wanted before it can be planned")
        self.assertIn(BY_SLUG["deck-length"], wanting(self.now()))
        answer = self.client.post(f"/walk/{self.walk.pk}/", {"do": "plan"})
        self.assertContains(answer, "each need a figure first", status_code=422)
        self.all()
        Machine.objects.update(reach_rear=None)
        answer = self.client.post(f"/walk/{self.walk.pk}/", {"do": "plan"})
        self.assertContains(answer, "lacks reach behind", status_code=422)
        self.assertFalse(Haul.objects.exists())


class Together(WalkCase):
    def test_several_people_each_do_a_part(self) -> None:
        other = User.objects.create_user("mate", password="second-day-2")
        Membership.objects.create(yard=self.yard, user=other, role=Role.PLANNER)
        self.put("truck-gvwr", "9900")
        self.client.force_login(other)
        self.assertContains(self.client.get("/walk/"), "Go on with")
        self.put("trailer-gvwr", "10000")
        self.client.force_login(self.user)
        self.put("front-axle", "5200")
        walk = self.now()
        assert walk.truck is not None
        assert walk.trailer is not None
        self.assertEqual(str(walk.truck.front_gawr), "5200 lb")
        self.assertEqual(str(walk.trailer.gvwr), "10000 lb")

    def test_two_answers_to_one_step_are_both_shown(self) -> None:
        address = f"/walk/{self.walk.pk}/truck-gvwr/"
        was = self.client.get(address).context["was"]
        self.put("truck-gvwr", "9900")
        page = self.client.post(address, {"answer": "10100", "was": was})
        self.assertContains(page, "Somebody put 9,900 lb there", status_code=409)
        self.assertContains(page, 'value="10100"', status_code=409)
        self.assertEqual(str(Truck.objects.get().gvwr), "9900 lb")
        self.client.post(address, {"answer": "10100", "was": page.context["was"]})
        self.assertEqual(str(Truck.objects.get().gvwr), "10100 lb")

    def test_the_same_answer_twice_is_no_quarrel(self) -> None:
        value = Quantity.parse("9900 lb")
        answer(self.walk, BY_SLUG["truck-gvwr"], value, was="", user=self.user)
        answer(self.walk, BY_SLUG["truck-gvwr"], value, was="", user=self.user)
        with self.assertRaises(MeanwhileError):
            answer(
                self.walk,
                BY_SLUG["truck-gvwr"],
                Quantity.parse("9000 lb"),
                was="",
                user=self.user,
            )

    def test_another_yards_walk_is_not_there(self) -> None:
        stranger = User.objects.create_user("stranger", password="other-yard-3")
        theirs = Yard.objects.create(name="Other")
        Membership.objects.create(yard=theirs, user=stranger, role=Role.OWNER)
        self.client.force_login(stranger)
        for address in (f"/walk/{self.walk.pk}/", f"/walk/{self.walk.pk}/truck-gvwr/"):
            self.assertEqual(404, self.client.get(address).status_code)
            self.assertEqual(404, self.client.post(address, {"answer": "1"}).status_code)

    def test_a_driver_looks_at_no_walk(self) -> None:
        Membership.objects.update(role=Role.DRIVER)
        self.assertEqual(403, self.client.get(f"/walk/{self.walk.pk}/").status_code)


class RoundTheBook(WalkCase):
    def test_what_the_book_knows_counts_as_done(self) -> None:
        truck = Truck.objects.create(
            yard=self.yard, name="Farm pickup", gvwr=Quantity.parse("9900 lb")
        )
        hitch = truck.hitches.create(name="Receiver", offset=Quantity.parse("50 in"))
        address = f"/walk/{self.walk.pk}/"
        self.client.post(address, {"do": "take", "part": "truck", "thing": truck.pk})
        walk = self.now()
        self.assertEqual((walk.truck, walk.hitch), (truck, hitch))
        bars = {bar.part: bar for bar in stands(walk)}
        self.assertEqual(bars[Part.TRUCK].done, 1)
        self.assertEqual(bars[Part.BALL].done, 1)
        self.put("front-axle", "5200")
        self.assertEqual(Truck.objects.count(), 1)
        self.client.post(address, {"do": "take", "part": "truck", "thing": ""})
        self.assertIsNone(self.now().truck)

    def test_axles_taped_one_by_one_are_their_middle(self) -> None:
        trailer = Trailer.objects.create(yard=self.yard, name="T", kind="dump")
        for at in ("183 in", "217 in"):
            trailer.axles.create(position=Quantity.parse(at))
        address = f"/walk/{self.walk.pk}/"
        self.client.post(address, {"do": "take", "part": "trailer", "thing": trailer.pk})
        walk = self.now()
        page = step_page(walk, BY_SLUG["coupler-to-axles"], UnitSystem.US)
        self.assertEqual(page.typed, "200 in")
        self.assertNotIn(BY_SLUG["trailer-kind"], open_steps(walk))

    def test_what_is_not_the_yards_cannot_be_taken(self) -> None:
        theirs = Truck.objects.create(yard=Yard.objects.create(name="Other"), name="Theirs")
        for thing in (theirs.pk, "x", "9" * 30, "²"):
            answer = self.client.post(
                f"/walk/{self.walk.pk}/",
                {"do": "take", "part": "truck", "thing": thing},
                follow=True,
            )
            self.assertEqual(200, answer.status_code)
            self.assertIsNone(self.now().truck)
        answer = self.client.post(
            f"/walk/{self.walk.pk}/", {"do": "take", "part": "hull", "thing": "1"}, follow=True
        )
        self.assertContains(answer, "not in the book any more")


class TheSteps(TestCase):
    def test_every_step_asks_for_one_thing_and_says_what_leaving_it_out_costs(self) -> None:
        self.assertEqual(len(BY_SLUG), len(STEPS))
        for step in STEPS:
            self.assertTrue(step.hook, step.slug)
            if step.answer is Answer.CHOICE:
                self.assertGreater(len(step.choices), 1)
            else:
                self.assertTrue(step.estimate or step.without, step.slug)
        self.assertEqual(sum(len(steps_of(part)) for part in Part), len(STEPS))


class OutAndIn(WalkCase):
    def test_a_walked_yard_goes_out_as_a_file_and_comes_back(self) -> None:
        """Axles without a place of their own, a hitch nobody taped, a brochure not counted."""
        self.all()
        self.client.post(f"/walk/{self.walk.pk}/", {"do": "plan"})
        document = json.loads(json.dumps(dump_whole(self.yard, photos=False)))
        other = Yard.objects.create(name="Copy")
        load_whole(document, yard=other, user=self.user)
        trailer = Trailer.objects.get(yard=other)
        self.assertEqual([axle.position for axle in trailer.axles.all()], [None, None])
        self.assertEqual(str(trailer.axles_at), "200 in")
        machine = Machine.objects.get(yard=other)
        self.assertEqual((machine.hung, machine.hung_counted), ("front", False))
        self.assertIsNone(Truck.objects.get(yard=other).hitches.get().offset)
        here, there = Haul.objects.get(yard=self.yard), Haul.objects.get(yard=other)
        self.assertEqual(here.document["trailer"], there.document["trailer"])

    def test_its_tables_come_back_as_they_went_out(self) -> None:
        self.all()
        before = json.dumps(dump_whole(self.yard, photos=False), sort_keys=True)
        for slug in ("trailers", "trailer-axles", "hitches", "machines"):
            table = self.client.get(f"/book/tables/{slug}.csv")
            file = SimpleUploadedFile(f"{slug}.csv", table.content)
            page = self.client.post(f"/book/tables/{slug}/", {"file": file})
            self.assertEqual(page.status_code, 200, page.content[-600:])
            self.assertNotContains(page, "note-error")
        after = json.dumps(dump_whole(self.yard, photos=False), sort_keys=True)
        self.assertEqual(before, after)
