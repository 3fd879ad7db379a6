"""The command line, the schemas, and the report as a file."""

from __future__ import annotations

import io
import json
import os
import subprocess
import sys
import tempfile
from pathlib import Path
from typing import Any
from unittest import mock

from django.core.management import call_command
from django.test import SimpleTestCase
from jsonschema import Draft202012Validator

from planfile.schema import SCHEMAS, made_schemas, plan_schema, report_schema, schema_path
from planfile.tests.test_reading import EXAMPLE, changed

ROOT = Path(__file__).resolve().parent.parent.parent
FILE = Path(__file__).parent / "example.json"


def report_of(document: dict[str, Any]) -> dict[str, Any]:
    """The report that the command prints for a document on standard input."""
    out = io.StringIO()
    stream = io.TextIOWrapper(io.BytesIO(json.dumps(document).encode()))
    with mock.patch("sys.stdin", stream):
        call_command("evaluate", "-", stdout=out)
    return json.loads(out.getvalue())


class EvaluateCommand(SimpleTestCase):
    def test_prints_the_report_of_a_file(self) -> None:
        out = io.StringIO()
        call_command("evaluate", str(FILE), stdout=out)
        report = json.loads(out.getvalue())
        self.assertEqual(report["format"], "eyebolt.report")
        self.assertAlmostEqual(report["tongue"]["mass"], 1129)
        self.assertAlmostEqual(report["tongue"]["mass_per_length"], 26.75)
        self.assertEqual(report["verdict"], "ok")
        self.assertEqual(report["windows"][0]["intervals"][0]["from_limit"], "tongue.share_max")

    def test_whole_process_exits_with_2_and_one_line_for_a_bad_file(self) -> None:
        """From outside, without a database or a key."""
        with tempfile.TemporaryDirectory() as folder:
            bad = Path(folder) / "bad.json"
            bad.write_text(json.dumps(changed("truck.wheelbase", 0)), encoding="utf-8")
            environment = {**os.environ, "EYEBOLT_DATA": folder}
            for name, line in (
                (str(bad), "truck.wheelbase: expected a number greater than zero"),
                (str(bad) + ".not", "cannot be read: No such file or directory"),
            ):
                done = subprocess.run(
                    [sys.executable, "manage.py", "evaluate", name],
                    cwd=ROOT,
                    env=environment,
                    capture_output=True,
                    text=True,
                    check=False,
                )
                self.assertEqual(done.returncode, 2)
                self.assertEqual(done.stdout, "")
                self.assertIn(line, done.stderr)
                self.assertEqual(len(done.stderr.strip().splitlines()), 1)
            self.assertFalse((Path(folder) / "eyebolt.sqlite3").exists())

    def test_over_is_a_finding_and_not_a_failure(self) -> None:
        report = report_of(changed("trailer.gvwr", 100))
        self.assertEqual(report["verdict"], "over")
        self.assertEqual(report["windows"][0]["contradiction"], ["trailer.gvwr", "trailer.gvwr"])

    def test_no_items(self) -> None:
        report = report_of(changed("items", []))
        self.assertEqual(report["windows"], [])
        self.assertIsNone(report["tongue"]["mass_per_length"])
        self.assertIsNone(report["tongue"]["added_share"])


class Schemas(SimpleTestCase):
    def test_shipped_schemas_are_current(self) -> None:
        for name, made in made_schemas().items():
            self.assertEqual(json.loads(schema_path(name).read_text(encoding="utf-8")), made)
            Draft202012Validator.check_schema(made)

    def test_plan_schema_accepts_the_example_and_refuses_what_reading_refuses(self) -> None:
        validator = Draft202012Validator(plan_schema())
        self.assertTrue(validator.is_valid(EXAMPLE))
        for path, value in (
            ("truck.wheelbase", 0),
            ("truck.wings", 2),
            ("truck", ...),
            ("hitch.type", "rope"),
            ("trailer.axles", []),
            ("units.mass", "stone"),
        ):
            with self.subTest(path=path):
                self.assertFalse(validator.is_valid(changed(path, value)))

    def test_report_schema_accepts_every_kind_of_report(self) -> None:
        validator = Draft202012Validator(report_schema())
        for document in (
            EXAMPLE,
            changed("items", []),
            changed("truck.gvwr", ...),
            changed("trailer.gvwr", 10),
        ):
            report = report_of(document)
            self.assertEqual([e.message for e in validator.iter_errors(report)], [])

    def test_schemas_are_published_to_everyone(self) -> None:
        for name in SCHEMAS:
            answer = self.client.get(f"/formats/{name}.schema.json")
            self.assertEqual(answer.status_code, 200)
            self.assertEqual(json.loads(answer.content)["$schema"][-6:], "schema")
        self.assertEqual(self.client.get("/formats/nothing.schema.json").status_code, 404)
