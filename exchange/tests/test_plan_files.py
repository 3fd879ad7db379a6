"""Plan files out and in."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile

from hauls.models import Haul
from hauls.tests.yard_case import YardCase
from planfile.tests.test_reading import EXAMPLE, changed


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
        self.assertEqual(Haul.objects.count(), 34)

    def test_when_and_where_it_goes_comes_with_the_file(self) -> None:
        said = {"day": "2026-06-01", "starts": "06:10", "to": "Long Drain", "purpose": "To dig"}
        document = changed("extra", {"job": said, "colour": "red"})
        self.hand_in(json.dumps(document).encode())
        haul = Haul.objects.get(hitch=None)
        self.assertEqual((str(haul.starts), haul.purpose), ("06:10:00", "To dig"))
        self.assertEqual(haul.taken_to.name, "Long Drain")  # type: ignore[union-attr]
        # what is said anew goes out with it, and what is not said any more does not
        Haul.objects.filter(pk=haul.pk).update(day=None, starts=None, taken_to=None, purpose="")
        exported = json.loads(self.client.get(f"/hauls/{haul.pk}/plan.json").content)
        self.assertEqual(exported["extra"], {"colour": "red"})
        haul.delete()
        document = changed("extra", {"job": {**said, "to": "Nowhere"}})
        file = SimpleUploadedFile("plan.json", json.dumps(document).encode())
        answer = self.client.post("/hauls/import/", {"file": file}, follow=True)
        self.assertContains(answer, "expected the name of a place")
        haul = Haul.objects.get(hitch=None)
        self.assertEqual((haul.purpose, haul.taken_to), ("To dig", None))

    def test_a_moved_import_keeps_everything_else(self) -> None:
        self.hand_in(json.dumps(EXAMPLE).encode())
        self.haul = Haul.objects.get(hitch=None)
        self.act("nudge 1", **{"id-0": "tractor"})
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
        self.assertEqual(Haul.objects.count(), 17)
        empty = self.client.post("/hauls/import/", {})
        self.assertContains(empty, "This field is required", status_code=422)

    def test_example_file_of_the_format_imports(self) -> None:
        data = (Path(__file__).parents[2] / "planfile/tests/example.json").read_bytes()
        self.assertEqual(self.hand_in(data).status_code, 302)
