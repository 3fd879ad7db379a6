"""The planner's actions, one by one, and two people at once."""

from __future__ import annotations

import json
import re
from typing import Any

from book.models import Trailer
from hauls.models import Haul
from hauls.steps import StaleRevision
from hauls.store import save_haul
from hauls.tests.yard_case import YardCase
from planfile.draft import Draft
from planfile.tests.test_reading import EXAMPLE, changed


class PlannerActions(YardCase):
    def test_page_takes_few_queries(self) -> None:
        with self.assertNumQueries(18):
            self.client.get(f"/hauls/{self.haul.pk}/")

    def test_a_drag_step_takes_three_queries(self) -> None:
        fields = {"do": "drag", "to": "155", "base": 2, "count": 1, "selected": 0}
        with self.assertNumQueries(3):
            self.client.post(f"/hauls/{self.haul.pk}/change/", fields)

    def test_drag_without_commit_stores_nothing(self) -> None:
        answer = self.act("drag", to="153.2", commit="0")
        self.assertContains(answer, "12 ft 9")
        self.assertContains(answer, "not saved")
        self.assertEqual(self.reference(), 150)

    def preview(self, **fields: Any) -> Any:
        """One step of a drag as the page asks for it."""
        data = {"base": self.haul.revision, "count": 1, "selected": 0, "id-0": "m1"}
        data |= {"do": "drag", "commit": "0", "reference-0": 150, "to": "153", **fields}
        return self.client.post(
            f"/hauls/{self.haul.pk}/preview/", data, headers={"HX-Request": "true"}
        )

    def test_preview_draws_what_change_draws_and_stores_nothing(self) -> None:
        step = self.preview()
        self.assertContains(step, "12 ft 9 in")
        self.assertEqual(self.reference(), 150)
        with self.assertNumQueries(0):
            again = self.preview()
        whole = self.act("drag", to="153", commit="0")

        def figures(answer: Any) -> str:
            return answer.content.decode().split('id="say"')[1]

        self.assertEqual(figures(again), figures(whole))

    def test_an_answer_leaves_out_the_pieces_that_the_page_has(self) -> None:
        """What the page puts together of them is what it would have been sent."""

        def preview(to: str, names: str | None) -> str:
            said = {} if names is None else {"Eyebolt-Has": names}
            data = {"base": self.haul.revision, "count": 1, "selected": 0, "id-0": "m1"}
            data |= {"do": "drag", "commit": "0", "reference-0": 150, "to": to, "more": "folded"}
            answer = self.client.post(f"/hauls/{self.haul.pk}/preview/", data, headers=said)
            return re.sub(r'token" value="\w+"', "", answer.content.decode())

        brought = re.compile(r"<!--\+([\w-]{12})-->(.*?)<!--/\1-->", re.DOTALL)
        first = preview("150", "")
        pieces = dict(brought.findall(first))
        self.assertGreater(len(pieces), 8)
        self.assertEqual(brought.sub(r"\2", first), preview("150", None))

        second = preview("150.5", ",".join(pieces))
        named = re.findall(r"<!--=([\w-]{12})-->", second)
        self.assertGreater(len(named), 8)
        self.assertLess(len(second), len(first))
        self.assertLess(len(second), 0.6 * len(self.preview(to="150.5").content))
        whole = re.sub(r"<!--=([\w-]{12})-->", lambda m: pieces[m[1]], second)
        self.assertEqual(brought.sub(r"\2", whole), preview("150.5", None))

    def test_a_load_past_an_open_tail_says_where_that_is_allowed(self) -> None:
        self.haul.trailer = Trailer.objects.filter(yard=self.yard).first()
        for may, words in (
            (0, ">let a load reach past it<"),
            (6, ">let a load reach further past"),
        ):
            self.haul.document = {**self.haul.document, "extra": {"tail": "open"}}
            self.haul.document["trailer"]["deck"]["rear_overhang"] = may
            self.haul.revision += 1
            self.haul.save()
            self.assertContains(self.preview(to="270"), words)
            self.assertNotContains(self.preview(to="150"), "The tail is open")

    def test_preview_of_a_page_that_is_behind_is_still_answered(self) -> None:
        self.assertContains(self.preview(base=0), "12 ft 9 in")
        self.assertEqual(self.preview(to="nan").status_code, 422)

    def test_preview_gives_nothing_to_another_yard_or_to_nobody(self) -> None:
        self.preview()
        self.client.force_login(self.stranger)
        self.assertEqual(self.preview().status_code, 404)
        self.assertEqual(self.preview().status_code, 404)
        self.client.logout()
        # a part of a page cannot be a page to sign in on
        self.assertContains(self.preview(), "Sign in again", status_code=401)
        self.assertEqual(self.client.get(f"/hauls/{self.haul.pk}/").status_code, 302)

    def test_drag_is_saved_when_dropped(self) -> None:
        answer = self.act("drag", to="153.2")
        self.assertContains(answer, 'data-state="saved"')
        self.assertEqual(self.reference(), 153)

    def test_nudges_are_an_inch_and_six(self) -> None:
        self.act("nudge 1")
        self.assertEqual(self.reference(), 151)
        self.act("nudge -2")
        self.assertEqual(self.reference(), 145)

    def test_nudges_are_25_and_150_mm_in_metric(self) -> None:
        self.user.units = "metric"
        self.user.save()
        self.act("nudge 2")
        self.assertAlmostEqual(self.reference(), 150 + 150 / 25.4, places=5)

    def test_a_typed_reading_moves_the_mark(self) -> None:
        for text, expected in (("12' 8 1/2\"", 152.5), ("12-9", 153), ("3.9 m", 3.9 / 0.0254)):
            with self.subTest(text=text):
                self.assertEqual(self.act("read", reading=text).status_code, 200)
                self.assertAlmostEqual(self.reference(), expected, places=4)

    def test_a_reading_that_is_none_keeps_what_was_typed_and_moves_nothing(self) -> None:
        for text, words in (("by the tree", "is not a length"), ("90 ft", "is off this deck")):
            answer = self.act("read", reading=text)
            self.assertContains(answer, words, status_code=422)
            self.assertContains(answer, f'value="{text}"', status_code=422)
            self.assertEqual(self.reference(), 150)

    def test_turn_round_keeps_the_piece_of_deck_it_covers(self) -> None:
        self.act("turn")
        self.assertEqual(self.reference(), 150 - 118 + 46)
        self.assertEqual(self.haul.document["items"][0]["placement"]["facing"], "backward")

    def test_go_to_aim_stands_on_the_nearest_mark_inside(self) -> None:
        """The aim is the sure window's end at 155.40125 in; 155 1/2 lies past it."""
        self.act("aim")
        self.assertEqual(self.reference(), 155)

    def test_going_to_the_best_place_stays_possible_where_none_is_right(self) -> None:
        self.haul = Haul.objects.get(name="Excavator home from Low Fields")
        page = self.client.get(f"/hauls/{self.haul.pk}/")
        self.assertContains(page, "Best there is")
        answer = self.act("aim")
        self.assertContains(answer, "where it stands")
        again = self.reference()
        self.act("aim")
        self.assertEqual(self.reference(), again)

    def test_go_to_aim_without_room_for_it_says_so(self) -> None:
        document = self.haul.document
        document["items"][0]["front"] = 400
        Haul.objects.filter(pk=self.haul.pk).update(document=document)
        self.assertContains(self.act("aim"), "no room on this deck", status_code=422)

    def test_school_is_changed_in_place(self) -> None:
        answer = self.act("school", new_tongue="share_10_12")
        self.assertContains(answer, "10 to 12 %")
        self.haul.refresh_from_db()
        self.assertEqual(self.haul.document["rules"]["tongue"], "share_10_12")
        self.assertEqual(self.haul.verdict, "over")

    def test_own_shares(self) -> None:
        self.act("school", new_tongue="custom", new_share_min="8 %", new_share_max="14,5")
        self.haul.refresh_from_db()
        rules = self.haul.document["rules"]
        self.assertEqual((rules["share_min"], rules["share_max"]), (0.08, 0.145))
        self.act("school", new_tongue="default", tongue="custom", share_min="8", share_max="14.5")
        self.haul.refresh_from_db()
        rules = self.haul.document["rules"]
        self.assertEqual(rules, {"tongue": "default", "trailer_gvwr": "whole"})

    def test_bad_shares_are_refused(self) -> None:
        for low, high, words in (
            ("x", "12", "is not a percentage"),
            ("12", "10", "above the greatest"),
            ("-1", "10", "between 0 and 100"),
        ):
            answer = self.act("school", new_tongue="custom", new_share_min=low, new_share_max=high)
            self.assertContains(answer, words, status_code=422)

    def test_nonsense_from_a_page_is_refused_and_stores_nothing(self) -> None:
        for fields in (
            {"do": "drag", "to": "nan"},
            {"do": "drag", "to": "far"},
            {"do": "nudge 900"},
            {"do": "fly"},
            {"do": "nudge 1", "reference-0": "inf"},
            {"do": "school", "new_tongue": "ours"},
        ):
            with self.subTest(fields=fields):
                do = fields.pop("do")
                self.assertEqual(self.act(do, **fields).status_code, 422)
                self.assertEqual(self.reference(), 150)

    def test_a_look_is_kept_by_nobody_and_shown_without_a_script_too(self) -> None:
        revision = self.haul.revision
        for do, words in (("open truck.payload", "comes to"), ("tilt 5", "drawn 5 times")):
            with self.subTest(do=do):
                looked = self.act(do)
                self.assertContains(looked, words)
                self.assertContains(looked, 'data-state="saved"')
        data = {"do": "open truck.payload", "commit": "1", "base": revision}
        plain = self.client.post(f"/hauls/{self.haul.pk}/change/", data)
        self.assertContains(plain, "comes to")
        self.assertContains(plain, "<h1>")
        self.haul.refresh_from_db()
        self.assertEqual(revision, self.haul.revision)

    def test_opening_a_limit_shows_its_arithmetic(self) -> None:
        answer = self.act("open truck.payload")
        for words in ("Driver", "+ 190 lb", "Tool chest", "tongue on the truck", "+ 1,129 lb",
                      "comes to", "1,534 lb", "2,700 lb", "Door sticker"):  # fmt: skip
            self.assertContains(answer, words)

    def test_every_limit_has_an_arithmetic(self) -> None:
        document = changed("truck.max_tongue_mass", 1400)
        haul = Haul.objects.create(yard=self.yard, name="x", document=document)
        for code in ("trailer.gvwr", "trailer.axle_1.gawr", "trailer.axle_2.tires",
                     "trailer.side_left", "truck.front_gawr", "truck.rear_gawr", "truck.gvwr",
                     "truck.max_trailer_mass", "truck.max_tongue_mass", "combination.gcwr",
                     "hitch.ball mount.max_tongue_mass",
                     "hitch.coupler.max_trailer_mass"):  # fmt: skip
            self.haul = haul
            with self.subTest(code=code):
                self.assertContains(self.act(f"open {code}"), "comes to")

    def test_units_change_what_is_shown_and_nothing_stored(self) -> None:
        before = json.dumps(self.haul.document)
        self.client.post("/units/", {"units": "metric", "next": f"/hauls/{self.haul.pk}/"})
        page = self.client.get(f"/hauls/{self.haul.pk}/")
        self.assertContains(page, "3,810 mm")
        self.assertContains(page, "512 kg of 3,742 kg")
        self.haul.refresh_from_db()
        self.assertEqual(json.dumps(self.haul.document), before)
        self.assertEqual(self.client.post("/units/", {"units": "cubits"}).status_code, 400)
        away = self.client.post("/units/", {"units": "us", "next": "https://elsewhere.example/"})
        self.assertRedirects(away, "/")


class MetricWords(YardCase):
    def test_limits_go_by_the_names_of_metric_plates(self) -> None:
        self.user.units = "metric"
        self.user.save()
        page = self.client.get(f"/hauls/{self.haul.pk}/")
        for words in ("Truck MAM", "Trailer MAM", "Gross train mass", "Towing limit"):
            self.assertContains(page, words)
        for words in ("GVWR", "GCWR", "Tow rating"):
            self.assertNotContains(page, words)
        lacking = Haul.objects.get(name="Plough and pipe to the spring chamber")
        self.assertContains(
            self.client.get(f"/hauls/{lacking.pk}/"), "the gross train mass is not known"
        )
        trailer = Trailer.objects.get(name="14 ft tilt")
        page = self.client.get(f"/book/trailers/{trailer.pk}/")
        self.assertContains(page, "Maximum authorised mass (MAM)")
        self.assertContains(page, "Empty nose weight")


class Sideways(YardCase):
    def left(self) -> float:
        """How far to the driver's left the first item is stored, in inches."""
        self.haul.refresh_from_db()
        return float(self.haul.document["items"][0]["placement"].get("left", 0))

    def test_a_step_to_either_side_and_back_to_the_middle(self) -> None:
        answer = self.act("side 1")
        self.assertContains(answer, "1 in left of the middle")
        self.assertEqual(self.left(), 1)
        self.act("side -1", **{"left-0": "1"})
        self.act("side -1")
        self.assertEqual(self.left(), -1)
        answer = self.act("middle", **{"left-0": "-1"})
        self.assertContains(answer, "on the middle")
        self.assertEqual(self.left(), 0)
        self.assertEqual(self.reference(), 150)

    def test_the_load_goes_to_that_side_of_the_trailer(self) -> None:
        """5,350 lb moved 2 in: each side changes by 5350 x 2 / 84 = 127 lb."""
        after = self.act("drag_side", to="2").content.decode()
        sides = re.search(r"left side ([\d,]+) lb, right side ([\d,]+) lb", after)
        assert sides is not None
        left, right = (int(side.replace(",", "")) for side in sides.groups())
        self.assertAlmostEqual(left - right, 2 * 5350 * 2 / 84, delta=1.5)

    def test_no_further_than_the_deck_is_wide(self) -> None:
        self.act("drag_side", to="900")
        self.assertEqual(self.left(), 41)

    def test_metric_steps(self) -> None:
        self.user.units = "metric"
        self.user.save()
        self.assertContains(self.act("side 1"), "25 mm left of the middle")

    def test_refusals(self) -> None:
        for by, words in (
            ("3", "one to the left or one to the right"),
            ("far", "not a number"),
        ):
            answer = self.act(f"side {by}")
            self.assertContains(answer, words, status_code=422)
        answer = self.act("drag_side", to="nan")
        self.assertContains(answer, "not a number", status_code=422)
        self.assertEqual(self.left(), 0)

    def test_a_drag_step_stores_nothing(self) -> None:
        data = {
            "do": "drag_side",
            "to": "3",
            "base": self.haul.revision,
            "count": 1,
            "selected": 0,
            "id-0": "m1",
            "reference-0": "150",
            "left-0": "0",
        }
        answer = self.client.post(f"/hauls/{self.haul.pk}/preview/", data)
        self.assertContains(answer, "3 in left of the middle")
        self.assertEqual(self.left(), 0)


class TwoPeople(YardCase):
    def test_the_second_is_told_and_loses_nothing(self) -> None:
        base = self.haul.revision
        self.act("read", reading="13 ft")
        answer = self.act("read", base=base, reading="12 ft 8 in")
        self.assertEqual(answer.status_code, 409)
        for words in ("Ida Fern saved this haul", "12 ft 8 in, forward", "13 ft, forward",
                      "Take theirs", "Put mine in its place", "Keep mine as a copy"):  # fmt: skip
            self.assertContains(answer, words, status_code=409)
        self.assertEqual(self.reference(), 156)

    def test_mine_may_be_put_in_its_place(self) -> None:
        base = self.haul.revision
        self.act("read", reading="13 ft")
        self.haul.refresh_from_db()
        answer = self.act(
            "overwrite", base=base, theirs=self.haul.revision, **{"reference-0": "152"}
        )
        self.assertEqual(answer.status_code, 200)
        self.assertEqual(self.reference(), 152)

    def test_mine_may_be_kept_as_a_copy(self) -> None:
        self.act("read", reading="13 ft")
        data = {"count": 1, "id-0": "m1", "reference-0": "152", "facing-0": "forward"}
        self.client.post(f"/hauls/{self.haul.pk}/copy/", data)
        copied = Haul.objects.get(name__endswith=", copy")
        self.assertEqual(copied.document["items"][0]["placement"]["reference"], 152)
        self.assertEqual(copied.links.count(), 1)
        self.assertEqual(self.reference(), 156)

    def test_save_on_an_old_revision_stores_nothing(self) -> None:
        with self.assertRaisesMessage(StaleRevision, "is at revision"):
            save_haul(self.haul, Draft.read(EXAMPLE), base=self.haul.revision - 1, user=self.user)
        self.haul.refresh_from_db()
        self.assertNotEqual(self.haul.document, EXAMPLE)
