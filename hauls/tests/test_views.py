"""Hauls through the pages: yards apart, saving, conflicts, import and export."""

from __future__ import annotations

import json
import re
from pathlib import Path
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import TestCase

from book.models import Bulk, Configuration, HitchPart, Machine, Trailer, Truck
from demo.yard import make_demo_yard
from hauls.models import Haul
from hauls.services.haul import StaleRevision, save_haul
from measures import Quantity
from planfile.tests.test_reading import EXAMPLE, changed
from yards.models import Membership, User, Yard

VERDICTS = {
    "Orchard tractor to the Quarry Lane block": ("ok", "Tightest: truck GVWR, 1,346 lb left."),
    "Compact loader to the Stony Bank culvert": ("near", "Tightest: trailer GVWR, 620 lb left."),
    "Excavator home from Low Fields": ("over", "The tongue carries 8.7 %, and 10 % is the least."),
    "Orchard tractor back from Mill Ponds": ("over", "The tongue carries 2.0 %"),
    "Big tractor to Upper Fern on the gooseneck": ("over", "Truck payload is passed by 380 lb."),
    "Plough and pipe to the spring chamber": (
        "unknown",
        "The combination rating (GCWR) is not known.",
    ),
    "Compact loader on the tilt, in a hurry": ("over", "Trailer GVWR is passed by 1,120 lb."),
    "Plough out behind the half-ton": (
        "over",
        "The ball is 2 in and the coupler is made for 2 5/16 in: it can jump off.",
    ),
    "Roller to the Ash Lane yard, with the sleeve": ("over", "Sleeve, tongue is passed by"),
    "Gravel to the ford": ("ok", "Tightest: trailer GVWR, 1,170 lb left."),
    "Gravel to the ford, second trip": ("over", "The tongue lifts: −1.2 %"),
    "Drain crew to the Long Drain": ("near", "Tightest: trailer GVWR,"),
}


class YardCase(TestCase):
    """The demo yard with its person signed in, and a stranger's yard."""

    @classmethod
    def setUpTestData(cls) -> None:
        make_demo_yard()
        cls.user = User.objects.get(username="demo")
        cls.yard = Yard.objects.get(members=cls.user)
        cls.stranger = User.objects.create_user("stranger", password="elsewhere-1")
        other = Yard.objects.create(name="Another yard")
        Membership.objects.create(yard=other, user=cls.stranger)
        cls.haul = Haul.objects.get(name="Orchard tractor to the Quarry Lane block")

    def setUp(self) -> None:
        self.client.force_login(self.user)

    def act(self, do: str, base: int | None = None, **fields: Any) -> Any:
        """One action as the page sends it, saved."""
        self.haul.refresh_from_db()
        place = self.haul.document["items"][0]["placement"]
        data = {
            "do": do,
            "commit": "1",
            "base": self.haul.revision if base is None else base,
            "count": 1,
            "selected": 0,
            "id-0": self.haul.document["items"][0]["id"],
            "reference-0": place["reference"],
            "facing-0": place.get("facing", "forward"),
            "left-0": 0,
            **fields,
        }
        return self.client.post(
            f"/hauls/{self.haul.pk}/change/", data, headers={"X-Requested-With": "planner"}
        )

    def reference(self) -> float:
        """Where the mark is stored, in inches."""
        self.haul.refresh_from_db()
        return float(self.haul.document["items"][0]["placement"]["reference"])


class DemoYard(YardCase):
    def test_each_haul_shows_its_own_verdict(self) -> None:
        page = self.client.get("/").content.decode()
        for name, (verdict, line) in VERDICTS.items():
            with self.subTest(haul=name):
                self.assertEqual(Haul.objects.get(name=name).verdict, verdict)
                self.assertIn(name, page)
                self.assertIn(line, page)

    def test_the_impossible_one_says_what_would_open_it(self) -> None:
        haul = Haul.objects.get(name="Excavator home from Low Fields")
        page = self.client.get(f"/hauls/{haul.pk}/").content.decode()
        self.assertIn("No place on this deck is right", page)
        self.assertIn("it runs past the front of the deck", page)
        self.assertIn("less it has a place", page)

    def test_loading_it_again_touches_nothing(self) -> None:
        self.haul.name = "Renamed by the yard"
        self.haul.save()
        self.assertFalse(make_demo_yard())
        self.assertEqual(Haul.objects.count(), 12)
        self.assertTrue(Haul.objects.filter(name="Renamed by the yard").exists())

    def test_yard_holds_what_it_should(self) -> None:
        self.assertEqual(
            (
                Truck.objects.count(),
                Trailer.objects.count(),
                Machine.objects.count(),
                Configuration.objects.count(),
                Bulk.objects.count(),
                HitchPart.objects.count(),
            ),
            (3, 4, 8, 4, 3, 18),
        )


class UnreadablePlan(YardCase):
    def test_a_stored_plan_that_cannot_be_read_stops_neither_list_nor_export(self) -> None:
        haul = Haul.objects.create(
            yard=self.yard, name="From elsewhere", document=changed("truck.wings", 2)
        )
        self.assertContains(self.client.get("/"), "Its plan cannot be read. truck.wings")
        answer = self.client.get(f"/hauls/{haul.pk}/", follow=True)
        self.assertContains(answer, "export it, mend the file and import it again")
        self.assertEqual(self.client.get(f"/hauls/{haul.pk}/plan.json").status_code, 200)


class Searching(YardCase):
    def test_hauls_are_found_by_name_truck_trailer_and_machine(self) -> None:
        for words, found in (
            ("Low Fields", 1),
            ("half-ton", 2),
            ("gooseneck", 4),
            ("plough", 3),
            ("pipe", 2),
            ("tail", 1),
        ):
            answer = self.client.get("/", {"q": words}, headers={"HX-Request": "true"})
            with self.subTest(words=words):
                self.assertEqual(answer.content.decode().count("card-haul"), found)
                self.assertNotContains(answer, "<html")

    def test_the_list_comes_in_pages(self) -> None:
        Haul.objects.bulk_create(
            Haul(yard=self.yard, name=f"H {n}", document=EXAMPLE) for n in range(50)
        )
        first = self.client.get("/")
        self.assertContains(first, "1 to 48 of 62")
        second = self.client.get("/", {"page": "2"})
        self.assertContains(second, "49 to 62 of 62")
        found = self.client.get("/", {"q": "H ", "page": "zebra"})
        self.assertContains(found, "1 to 48 of")
        self.assertContains(found, "?q=H+&amp;page=2")

    def test_nothing_found_says_what_was_looked_for(self) -> None:
        self.assertContains(self.client.get("/", {"q": "<zebra>"}), "No haul has “&lt;zebra&gt;”")


class YardsApart(YardCase):
    def test_another_yards_rows_are_not_there(self) -> None:
        truck, trailer = Truck.objects.first(), Trailer.objects.first()
        hitch = truck.hitches.first()
        gets = (
            f"/hauls/{self.haul.pk}/",
            f"/hauls/{self.haul.pk}/outfit/",
            f"/hauls/{self.haul.pk}/plan.json",
            f"/book/trucks/{truck.pk}/",
            f"/book/trailers/{trailer.pk}/",
            f"/book/trucks/{truck.pk}/hitches/new/",
            f"/book/trucks/{truck.pk}/hitches/{hitch.pk}/",
        )
        posts = (
            f"/hauls/{self.haul.pk}/change/",
            f"/hauls/{self.haul.pk}/copy/",
            f"/hauls/{self.haul.pk}/book/",
            f"/hauls/{self.haul.pk}/remove/",
            f"/book/trucks/{truck.pk}/remove/",
            f"/book/trucks/{truck.pk}/hitches/{hitch.pk}/remove/",
        )
        self.client.force_login(self.stranger)
        for address in gets:
            with self.subTest(address=address):
                self.assertEqual(self.client.get(address).status_code, 404)
        for address in posts:
            with self.subTest(address=address):
                self.assertEqual(self.client.post(address).status_code, 404)
        self.assertNotIn("Quarry Lane", self.client.get("/").content.decode())
        self.assertNotIn("Work truck", self.client.get("/hauls/new/").content.decode())
        self.assertTrue(Haul.objects.filter(pk=self.haul.pk).exists())

    def test_a_haul_cannot_take_another_yards_things(self) -> None:
        data = {
            "name": "Borrowed",
            "hitch": Truck.objects.first().hitches.first().pk,
            "trailer": Trailer.objects.first().pk,
        }
        self.client.force_login(self.stranger)
        self.client.post("/hauls/new/", data)
        self.assertFalse(Haul.objects.filter(name="Borrowed").exists())

    def test_nobody_signed_in_is_sent_to_sign_in(self) -> None:
        self.client.logout()
        for address in ("/", "/book/", f"/hauls/{self.haul.pk}/", "/hauls/import/"):
            answer = self.client.get(address)
            self.assertRedirects(answer, f"/sign-in/?next={address}")

    def test_a_person_without_a_yard_is_told(self) -> None:
        self.client.force_login(User.objects.create_user("new", password="nowhere-1"))
        answer = self.client.get("/")
        self.assertContains(answer, "You are in no yard yet", status_code=403)


class PlannerActions(YardCase):
    def test_page_takes_few_queries(self) -> None:
        with self.assertNumQueries(16):
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
            f"/hauls/{self.haul.pk}/preview/", data, headers={"X-Requested-With": "planner"}
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

    def test_preview_of_a_page_that_is_behind_is_still_answered(self) -> None:
        self.assertContains(self.preview(base=0), "12 ft 9 in")
        self.assertEqual(self.preview(to="nan").status_code, 422)

    def test_preview_gives_nothing_to_another_yard_or_to_nobody(self) -> None:
        self.preview()
        self.client.force_login(self.stranger)
        self.assertEqual(self.preview().status_code, 404)
        self.assertEqual(self.preview().status_code, 404)
        self.client.logout()
        self.assertEqual(self.preview().status_code, 302)

    def test_drag_is_saved_when_dropped(self) -> None:
        answer = self.act("drag", to="153.2")
        self.assertContains(answer, 'data-state="saved"')
        self.assertEqual(self.reference(), 153)

    def test_nudges_are_an_inch_and_six(self) -> None:
        self.act("nudge", by="1")
        self.assertEqual(self.reference(), 151)
        self.act("nudge", by="-2")
        self.assertEqual(self.reference(), 145)

    def test_nudges_are_25_and_150_mm_in_metric(self) -> None:
        self.user.units = "metric"
        self.user.save()
        self.act("nudge", by="2")
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
        self.assertContains(page, "Go to the best place")
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
        self.assertEqual(self.haul.document["rules"], {"tongue": "default"})

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
            {"do": "nudge", "by": "900"},
            {"do": "fly"},
            {"do": "nudge", "by": "1", "reference-0": "inf"},
            {"do": "school", "new_tongue": "ours"},
        ):
            with self.subTest(fields=fields):
                do = fields.pop("do")
                self.assertEqual(self.act(do, **fields).status_code, 422)
                self.assertEqual(self.reference(), 150)

    def test_opening_a_limit_shows_its_arithmetic(self) -> None:
        answer = self.act("open", code="truck.payload", commit="0")
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
                self.assertContains(self.act("open", code=code, commit="0"), "comes to")

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
        answer = self.act("side", by="1")
        self.assertContains(answer, "1 in left of the middle")
        self.assertEqual(self.left(), 1)
        self.act("side", by="-1", **{"left-0": "1"})
        self.act("side", by="-1")
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
        self.assertContains(self.act("side", by="1"), "25 mm left of the middle")

    def test_refusals(self) -> None:
        for fields, words in (
            ({"by": "3"}, "one to the left or one to the right"),
            ({"by": "far"}, "not a number"),
        ):
            answer = self.act("side", **fields)
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
            save_haul(self.haul, EXAMPLE, base=self.haul.revision - 1, user=self.user)
        self.haul.refresh_from_db()
        self.assertNotEqual(self.haul.document, EXAMPLE)


class PlanFiles(YardCase):
    def hand_in(self, data: bytes, name: str = "plan.json") -> Any:
        """Import a file through the page."""
        return self.client.post("/hauls/import/", {"file": SimpleUploadedFile(name, data)})

    def test_import_then_export_gives_back_the_same_plan(self) -> None:
        document = changed("items.0.extra", {"colour": "red", "deep": [1, 2.5, None]})
        self.hand_in(json.dumps(document).encode())
        haul = Haul.objects.get(hitch=None)
        exported = json.loads(self.client.get(f"/hauls/{haul.pk}/plan.json").content)
        self.assertEqual(exported, document)
        self.assertEqual(json.dumps(exported), json.dumps(document))
        self.assertEqual(self.client.get(f"/hauls/{haul.pk}/").status_code, 200)

    def test_every_demo_haul_exports_a_plan_that_imports(self) -> None:
        for haul in Haul.objects.filter(yard=self.yard):
            answer = self.client.get(f"/hauls/{haul.pk}/plan.json")
            self.assertIn("attachment", answer["Content-Disposition"])
            self.assertEqual(self.hand_in(answer.content).status_code, 302)
        self.assertEqual(Haul.objects.count(), 24)

    def test_a_moved_import_keeps_everything_else(self) -> None:
        self.hand_in(json.dumps(EXAMPLE).encode())
        self.haul = Haul.objects.get(hitch=None)
        self.act("nudge", by="1", **{"id-0": "tractor"})
        self.haul.refresh_from_db()
        expected = changed("items.0.placement.reference", 151)
        self.assertEqual(self.haul.document, expected)

    def test_bad_files_are_named_and_nothing_is_stored(self) -> None:
        for data, words in (
            (json.dumps(changed("truck.wheelbase", 0)).encode(), "truck.wheelbase: expected"),
            (b"not json", "the file: expected JSON"),
            (b" " * 1_000_001, "at most 1000 kB"),
            (b"\xff\xfe\x00", "expected text in UTF-8"),
        ):
            with self.subTest(words=words):
                answer = self.hand_in(data)
                self.assertContains(answer, words, status_code=422)
                self.assertContains(answer, "Nothing was stored", status_code=422)
        self.assertEqual(Haul.objects.count(), 12)
        empty = self.client.post("/hauls/import/", {})
        self.assertContains(empty, "This field is required", status_code=422)

    def test_example_file_of_the_format_imports(self) -> None:
        data = (Path(__file__).parents[2] / "planfile/tests/example.json").read_bytes()
        self.assertEqual(self.hand_in(data).status_code, 302)


class Outfits(YardCase):
    def choices(self, **more: Any) -> dict[str, Any]:
        """A filled outfit form."""
        truck = Truck.objects.get(name="Work truck 3")
        trailer = Trailer.objects.get(name="20 ft equipment trailer")
        return {"name": "New one", "hitch": truck.hitches.first().pk, "trailer": trailer.pk, **more}

    def test_a_new_haul_puts_machines_at_their_aims_clear_of_each_other(self) -> None:
        plough = Machine.objects.get(name="Trench plough")
        pipe = Bulk.objects.get(name="Pallet of drain pipe")
        answer = self.client.post(
            "/hauls/new/",
            self.choices(load_1=f"machine-{plough.pk}", load_2=f"bulk-{pipe.pk}"),
        )
        haul = Haul.objects.get(name="New one")
        self.assertRedirects(answer, f"/hauls/{haul.pk}/")
        self.assertEqual([i["id"] for i in haul.document["items"]], ["m1", "m2"])
        self.assertNotIn("overlap", self.client.get(f"/hauls/{haul.pk}/").content.decode())

    def test_a_new_haul_with_nothing_on_it(self) -> None:
        self.client.post("/hauls/new/", self.choices())
        haul = Haul.objects.get(name="New one")
        self.assertContains(self.client.get(f"/hauls/{haul.pk}/"), "Nothing on the deck yet")

    def test_swapping_the_truck_keeps_places(self) -> None:
        other = Truck.objects.get(name="Gooseneck truck").hitches.get(type="ball")
        link = self.haul.links.get()
        answer = self.client.post(
            f"/hauls/{self.haul.pk}/outfit/",
            self.choices(
                hitch=other.pk, load_1=f"machine-{link.machine_id}", base=self.haul.revision
            ),
        )
        self.assertRedirects(answer, f"/hauls/{self.haul.pk}/")
        self.assertEqual(self.reference(), 150)
        self.assertEqual(self.haul.document["truck"]["name"], "Gooseneck truck")

    def test_another_configuration_of_the_same_machine_keeps_its_place(self) -> None:
        forks = Configuration.objects.get(name="with forks")
        self.client.post(
            f"/hauls/{self.haul.pk}/outfit/",
            self.choices(load_1=f"machine-{forks.machine_id}-{forks.pk}", base=self.haul.revision),
        )
        self.assertEqual(self.reference(), 150)
        item = self.haul.document["items"][0]
        self.assertEqual(item["name"], "Harrow 48 tractor with loader, with forks")
        self.assertEqual(item["mass"], 5260)
        self.assertEqual(self.haul.links.get().configuration, forks)
        self.assertEqual(
            [p["name"] for p in item["extra"]["made_of"]], ["whole machine", "Bucket", "Forks"]
        )

    def test_what_the_book_lacks_is_named_and_what_was_chosen_stays(self) -> None:
        dumper = Machine.objects.get(name="Wren 9 mini dumper")
        answer = self.client.post("/hauls/new/", self.choices(load_1=f"machine-{dumper.pk}"))
        self.assertContains(
            answer, "Wren 9 mini dumper lacks where it balances. Enter it in the book"
        )
        self.assertContains(answer, f'value="machine-{dumper.pk}" selected')
        self.assertFalse(Haul.objects.filter(name="New one").exists())

    def test_what_is_offered_is_the_yards_own(self) -> None:
        theirs = Machine.objects.create(
            yard=Yard.objects.get(name="Another yard"), name="Not yours"
        )
        self.assertNotContains(self.client.get("/hauls/new/"), "Not yours")
        answer = self.client.post("/hauls/new/", self.choices(load_1=f"machine-{theirs.pk}"))
        self.assertContains(answer, "Select a valid choice")

    def test_a_built_up_machine_is_offered_by_its_configurations_alone(self) -> None:
        page = self.client.get("/hauls/new/").content.decode()
        self.assertIn("Harrow 60 backhoe tractor, backhoe on", page)
        self.assertNotIn(">Harrow 60 backhoe tractor<", page)
        self.assertIn(">Harrow 48 tractor with loader<", page)

    def test_swapping_on_an_old_page_is_told(self) -> None:
        answer = self.client.post(f"/hauls/{self.haul.pk}/outfit/", self.choices(base=0))
        self.assertContains(answer, "changed this haul in between")

    def test_the_book_moving_on_is_told_and_taken_over_on_request(self) -> None:
        truck = Truck.objects.get(name="Work truck 3")
        truck.payload = Quantity.parse("2000 lb")
        truck.save()
        page = self.client.get(f"/hauls/{self.haul.pk}/")
        self.assertContains(page, "The book has moved on for Work truck 3")
        self.haul.refresh_from_db()
        self.assertEqual(self.haul.document["truck"]["payload"], 2700)
        self.client.post(f"/hauls/{self.haul.pk}/book/", {"base": self.haul.revision})
        self.haul.refresh_from_db()
        self.assertEqual(self.haul.document["truck"]["payload"], 2000)
        self.assertEqual(self.reference(), 150)

    def test_removing_a_haul(self) -> None:
        self.client.post(f"/hauls/{self.haul.pk}/remove/")
        self.assertFalse(Haul.objects.filter(pk=self.haul.pk).exists())


class EmptyYard(TestCase):
    def test_first_steps_lead_through(self) -> None:
        user = User.objects.create_user("first", password="first-steps-1")
        yard = Yard.objects.create(name="New yard")
        Membership.objects.create(yard=yard, user=user)
        self.client.force_login(user)
        page = self.client.get("/")
        for words in ("Add a truck", "Add a trailer", "Add a machine", "Plan a haul"):
            self.assertContains(page, words)
        self.assertContains(self.client.get("/book/"), "The door sticker or papers, and a tape")
