"""Undo and redo of whole changes."""

from __future__ import annotations

from django.test import Client

from book.models import Configuration, Machine
from hauls.models import Haul
from hauls.steps import KEPT, around
from hauls.store import save_haul
from hauls.tests.yard_case import CREW, CrewCase


class UndoAndRedo(CrewCase):
    def test_over_everything_and_back_again(self) -> None:
        """Moves, turns, the school, loads put on and taken off, another outfit."""
        self.haul.refresh_from_db()
        start = self.haul.document
        plough = Machine.objects.get(name="Trench plough")
        hitch, trailer = self.haul.hitch_id, self.haul.trailer_id
        self.change("nudge 1")
        self.change("turn", selected=1)
        self.change("school", new_tongue="gooseneck_13_15")
        self.change("take_off", selected=2)
        self.change("put_on", load=f"machine-{plough.pk}")
        configuration = Configuration.objects.get(name="backhoe off")
        self.client.post(
            f"/hauls/{self.haul.pk}/outfit/",
            {
                "name": "Renamed",
                "hitch": hitch,
                "trailer": trailer,
                "load_1": f"machine-{configuration.machine_id}-{configuration.pk}",
                "base": Haul.objects.get(pk=self.haul.pk).revision,
            },
        )
        self.haul.refresh_from_db()
        end, links = self.haul.document, set(self.haul.links.values_list("item_id", "machine"))
        self.assertEqual(("Renamed", 1), (self.haul.name, len(end["items"])))
        for _ in range(6):
            self.assertEqual(200, self.change("undo").status_code)
        self.haul.refresh_from_db()
        self.assertEqual(start, self.haul.document)
        self.assertEqual(CREW, self.haul.name)
        self.assertEqual(3, self.haul.links.count())
        self.assertContains(self.change("undo"), "nothing to undo", status_code=422)
        for _ in range(6):
            self.assertEqual(200, self.change("redo").status_code)
        self.haul.refresh_from_db()
        self.assertEqual(end, self.haul.document)
        self.assertEqual(links, set(self.haul.links.values_list("item_id", "machine")))
        self.assertContains(self.change("redo"), "nothing to do again", status_code=422)

    def test_a_new_change_drops_what_could_be_done_again(self) -> None:
        self.change("nudge 1")
        self.change("undo")
        self.change("nudge -1")
        self.assertContains(self.change("redo"), "nothing to do again", status_code=422)
        self.assertEqual("moved Harrow 60 backhoe tractor, backhoe off", around(self.haul).undo)

    def test_the_button_says_what_it_would_undo(self) -> None:
        self.change("turn", selected=2)
        page = self.client.get(f"/hauls/{self.haul.pk}/")
        self.assertContains(page, 'title="Undo: turned Trench plough round"')

    def test_only_so_many_steps_are_kept(self) -> None:
        self.haul.refresh_from_db()
        for _ in range(KEPT + 5):
            save_haul(self.haul, self.haul.draft, base=self.haul.revision, user=self.user)
        self.assertLessEqual(self.haul.steps.count(), KEPT + 1)
        self.assertTrue(around(self.haul).undo)

    def test_what_was_deleted_from_the_book_comes_back_without_its_link(self) -> None:
        self.change("take_off", selected=2)
        Machine.objects.get(name="Trench plough").delete()
        self.change("undo")
        self.assertIn("Trench plough", self.names())
        self.assertEqual(2, self.haul.links.count())

    def test_undo_on_a_page_that_is_behind_is_a_conflict(self) -> None:
        self.change("nudge 1")
        fields = self.fields(do="undo")
        self.change("nudge 1")
        answer = self.client.post(
            f"/hauls/{self.haul.pk}/change/", fields, headers={"HX-Request": "true"}
        )
        self.assertEqual(409, answer.status_code)

    def test_a_driver_stores_nothing(self) -> None:
        driver = Client()
        driver.login(username="demo-driver", password="fernbeck-demo")
        for do in ("undo", "redo", "take_off", "put_on", "turn"):
            with self.subTest(do=do):
                self.assertEqual(403, self.change(do, client=driver).status_code)
