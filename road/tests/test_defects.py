"""Defects hold an outfit up until somebody who may has decided; inspections come due."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile
from django.utils import timezone

from demo.login import DRIVER, PLANNER
from demo.plate import plate_photo
from hauls.models import Haul
from hauls.tests.yard_case import YardCase
from measures import Quantity, UnitSystem
from road.inspections import Due, dues_of
from road.models import Defect, Inspection, Looked, Step, StepDone, Trip
from road.services import HeldUpError, do_step
from yards.models import User


class Telling(YardCase):
    def setUp(self) -> None:
        super().setUp()
        Defect.objects.all().delete()
        self.driver = User.objects.get(username=DRIVER)

    def tell(self, **boxes: Any) -> Any:
        told = {"defect-on": "trailer", "defect-what": "Right rear tire", **boxes}
        self.client.force_login(self.driver)
        return self.client.post(f"/hauls/{self.haul.pk}/road/defect/", told)

    def decide(self, decision: str, reason: str, login: str = PLANNER, was: str = "") -> Any:
        self.client.force_login(User.objects.get(username=login))
        return self.client.post(
            f"/road/defects/{Defect.objects.get().pk}/decide/",
            {"decision": decision, "reason": reason, "was": was},
        )

    def test_told_with_a_photo_it_holds_every_haul_of_the_trailer_up(self) -> None:
        photo = SimpleUploadedFile("t.png", plate_photo(("TIRE",)).read(), "image/png")
        answer = self.tell(**{"defect-note": "31 psi, plate says 80", "defect-photo": photo})
        self.assertEqual(answer.status_code, 302)
        defect = Defect.objects.get()
        self.assertEqual((defect.trailer, defect.by), (self.haul.trailer, self.driver))
        self.assertEqual(defect.photos.count(), 1)
        with self.assertRaises(HeldUpError):
            do_step(self.haul, Step.HOOK_UP, user=self.user)
        other = Haul.objects.filter(trailer=self.haul.trailer).exclude(pk=self.haul.pk).first()
        page = self.client.get(f"/hauls/{other.pk}/road/")
        self.assertContains(page, "It must not go yet.")
        sent = self.client.post(f"/hauls/{other.pk}/road/do/", {"step": "hook_up"})
        self.assertContains(sent, "An owner or planner has to decide", status_code=409)
        self.assertFalse(StepDone.objects.exists())

    def test_a_planner_decides_with_a_reason(self) -> None:
        self.tell()
        self.assertEqual(self.decide("go", "Aired up, holds.", login=DRIVER).status_code, 403)
        self.assertContains(self.decide("go", ""), "Give the reason", status_code=422)
        self.assertContains(self.decide("maybe", "x"), "Choose whether", status_code=422)
        self.assertEqual(self.decide("go", "Aired up, holds.").status_code, 302)
        do_step(self.haul, Step.HOOK_UP, user=self.driver)
        page = self.client.get(f"/hauls/{self.haul.pk}/road/")
        self.assertContains(page, "May go: Aired up, holds. (Tam Reedy)")
        # decided on a page that is behind
        late = self.decide("stop", "No.", was="stop")
        self.assertContains(late, "Somebody else decided", status_code=409)
        self.assertContains(late, 'value="No."', status_code=409)

    def test_stopped_it_has_to_be_mended(self) -> None:
        self.tell()
        self.decide("stop", "Cord shows.")
        with self.assertRaises(HeldUpError) as held:
            do_step(self.haul, Step.HOOK_UP, user=self.driver)
        self.assertIn("mended first", str(held.exception))
        pk = Defect.objects.get().pk
        self.client.force_login(self.driver)
        self.assertEqual(self.client.post(f"/road/defects/{pk}/mend/").status_code, 403)
        self.client.force_login(self.user)
        self.client.post(f"/road/defects/{pk}/mend/")
        do_step(self.haul, Step.HOOK_UP, user=self.driver)
        self.assertContains(self.client.get("/road/defects/"), "Mended")

    def test_found_while_loading_it_stops_setting_off_and_nothing_before(self) -> None:
        do_step(self.haul, Step.HOOK_UP, user=self.driver)
        self.tell()
        for step in (Step.LOAD, Step.TIE_DOWN, Step.WALK_ROUND):
            do_step(self.haul, step, user=self.driver)
        with self.assertRaises(HeldUpError):
            do_step(self.haul, Step.GO, user=self.driver)

    def test_what_is_wrong_with_the_boxes_is_said(self) -> None:
        self.assertContains(self.tell(**{"defect-what": ""}), "Say what is wrong", status_code=422)
        bad = SimpleUploadedFile("t.png", b"no picture", "image/png")
        answer = self.tell(**{"defect-photo": bad, "defect-note": "kept words"})
        self.assertContains(answer, "not a JPEG, PNG or WebP", status_code=422)
        self.assertContains(answer, "kept words", status_code=422)
        self.assertFalse(Defect.objects.exists())
        Haul.objects.filter(pk=self.haul.pk).update(trailer=None)
        self.assertContains(self.tell(), "not in the book any more", status_code=409)

    def test_another_yard_sees_nothing(self) -> None:
        self.tell()
        self.client.force_login(self.stranger)
        self.assertNotContains(self.client.get("/road/defects/"), "Right rear tire")
        pk = Defect.objects.get().pk
        self.assertEqual(self.client.post(f"/road/defects/{pk}/mend/").status_code, 404)

    def test_a_line_of_the_list_is_remembered(self) -> None:
        self.tell(**{"defect-what": "Wheel nuts"})
        self.assertTrue(Defect.objects.get().key.startswith("walk-nuts"))


class Inspecting(YardCase):
    TODAY = date(2026, 11, 27)

    def setUp(self) -> None:
        super().setUp()
        Inspection.objects.all().delete()
        Trip.objects.all().delete()

    def due(self, ago: int | None, **rule: Any) -> Due:
        """What is said of one that was done so many days ago; ``None`` never."""
        row = Inspection.objects.create(
            yard=self.yard, trailer=self.haul.trailer, what="Hubs", **rule
        )
        if ago is not None:
            Looked.objects.create(inspection=row, on=self.TODAY - timedelta(days=ago))
        (found,) = dues_of(self.yard, self.TODAY, UnitSystem.US, trailer=self.haul.trailer)
        row.delete()
        return found

    def test_by_date(self) -> None:
        for ago, overdue, soon, words in (
            (100, False, False, "due 19 Aug 2027"),
            (350, False, True, "due 12 Dec 2026"),
            (365, False, True, "due 27 Nov 2026"),
            (366, True, False, "was due 26 Nov 2026"),
            (None, True, False, "never inspected"),
        ):
            with self.subTest(ago=ago):
                due = self.due(ago, every_days=365)
                self.assertEqual((due.overdue, due.soon, due.words), (overdue, soon, words))

    def test_by_miles_of_the_road_log(self) -> None:
        for miles in (400, 550):
            Trip.objects.create(
                yard=self.yard,
                trailer=self.haul.trailer,
                driven_on=self.TODAY - timedelta(days=3),
                distance=Quantity.parse(f"{miles} mi"),
            )
        way = Quantity.parse("1000 mi")
        self.assertEqual(self.due(10, every_way=way).words, "50.0 mi left")
        self.assertTrue(self.due(10, every_way=way).soon)
        # driven before it was inspected counts for nothing
        self.assertEqual(self.due(1, every_way=way).words, "1,000 mi left")
        over = self.due(10, every_way=Quantity.parse("900 mi"))
        self.assertEqual((over.words, over.overdue), ("50.0 mi over", True))

    def test_entered_done_and_removed_on_the_page(self) -> None:
        trailer = self.haul.trailer
        boxes = {"of": f"trailer-{trailer.pk}", "what": "Bearings", "every_days": "365"}
        self.assertContains(
            self.client.post("/road/inspections/", {**boxes, "every_days": ""}),
            "how often",
            status_code=422,
        )
        tomorrow = timezone.localdate() + timedelta(days=3)
        late = self.client.post("/road/inspections/", {**boxes, "last": str(tomorrow)})
        self.assertContains(late, "still to come", status_code=422)
        self.assertEqual(self.client.post("/road/inspections/", boxes).status_code, 302)
        row = Inspection.objects.get()
        self.assertContains(self.client.get("/road/"), "Bearings never inspected")
        self.client.force_login(User.objects.get(username=DRIVER))
        self.assertEqual(self.client.post("/road/inspections/", boxes).status_code, 403)
        done = {"on": str(timezone.localdate()), "note": "fine"}
        self.assertEqual(
            self.client.post(f"/road/inspections/{row.pk}/done/", {**done, "on": "x"}).status_code,
            422,
        )
        self.client.post(f"/road/inspections/{row.pk}/done/", done)
        self.assertEqual(row.looked.get().note, "fine")
        self.client.force_login(self.user)
        self.client.post(f"/road/inspections/{row.pk}/remove/")
        self.assertFalse(Inspection.objects.exists())
