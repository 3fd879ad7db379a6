"""The sway command and its schema."""

from __future__ import annotations

import copy
import io
import json
from typing import Any
from unittest import mock

from django.core.management import call_command
from django.test import SimpleTestCase
from jsonschema import Draft202012Validator

from planfile.schema import sway_schema
from planfile.tests.test_reading import EXAMPLE, changed


def answer_to(document: dict[str, Any]) -> dict[str, Any]:
    """What the command prints for a document on standard input."""
    out = io.StringIO()
    data = json.dumps(document).encode()
    with mock.patch("sys.stdin", mock.Mock(buffer=io.BytesIO(data))):
        call_command("sway", "-", stdout=out)
    found: dict[str, Any] = json.loads(out.getvalue())
    return found


class SwayFile(SimpleTestCase):
    def test_the_example_swings_and_keeps_to_the_schema(self) -> None:
        found = answer_to(EXAMPLE)
        Draft202012Validator(sway_schema()).validate(found)
        self.assertEqual([case["case"] for case in found["cases"]], ["low", "mid", "high"])
        self.assertEqual(found["units"], {"speed": "mph"})
        speeds = [one["speed"] for one in found["cases"][0]["speeds"]]
        self.assertEqual(speeds, list(range(20, 81, 5)))
        # the plan says so: 250 lb at 12 ft and 5,800 lb at a tape of its own
        self.assertEqual(found["trailer"]["mass"], 8250)

    def test_a_plan_in_kilograms_is_told_in_kilometres_an_hour(self) -> None:
        document = changed("units", {"mass": "kg", "length": "mm"})
        found = answer_to(document)
        self.assertEqual(found["units"], {"speed": "km/h"})
        speeds = [one["speed"] for one in found["cases"][0]["speeds"]]
        self.assertEqual(speeds, list(range(30, 131, 10)))

    def test_an_axle_that_carries_nothing_has_no_result(self) -> None:
        document = copy.deepcopy(EXAMPLE)
        document["items"][0]["placement"]["reference"] = 5000
        document["items"][0]["mass"] = 90000
        found = answer_to(document)
        Draft202012Validator(sway_schema()).validate(found)
        self.assertEqual((found["missing"], found["trailer"], found["cases"]), (["load"], None, []))

    def test_no_plan_ends_with_status_2(self) -> None:
        with self.assertRaises(SystemExit) as ended:
            answer_to({"format": "no plan"})
        self.assertEqual(ended.exception.code, 2)
