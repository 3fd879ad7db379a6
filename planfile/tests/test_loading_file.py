"""The loading command, its schema, and the fields of the plan file it reads."""

from __future__ import annotations

import copy
import io
import json
from typing import Any
from unittest import mock

from django.core.management import call_command
from django.test import SimpleTestCase
from jsonschema import Draft202012Validator

from mechanics.site import Surface
from planfile.errors import PlanFileError
from planfile.reading import read_document
from planfile.schema import loading_schema
from planfile.tests.test_reading import EXAMPLE


def climbing(**site: Any) -> dict[str, Any]:
    """The example with everything that loading asks for."""
    document = copy.deepcopy(EXAMPLE)
    trailer, item = document["trailer"], document["items"][0]
    trailer["deck"]["height"] = 26
    trailer |= {
        "coupler_height": 20,
        "ramp": {"kind": "ramps", "length": 66, "rating": 6000},
        "stands": {"gap": 0, "rating": 5000},
    }
    item["cg"]["height"] = 31
    item["contacts"] = [{"ahead": 0}, {"ahead": 73}]
    item["underside"] = [{"ahead": -46, "clearance": 18}, {"ahead": 36, "clearance": 15}]
    document["site"] = site
    return document


def answer_to(document: dict[str, Any]) -> dict[str, Any]:
    """What the command prints for a document on standard input."""
    out = io.StringIO()
    stream = io.TextIOWrapper(io.BytesIO(json.dumps(document).encode()))
    with mock.patch("sys.stdin", stream):
        call_command("loading", "-", stdout=out)
    return json.loads(out.getvalue())


class LoadingCommand(SimpleTestCase):
    def test_an_ordinary_tractor_on_an_ordinary_trailer_pulls_the_tongue_up(self) -> None:
        answer = answer_to(climbing(surface="grass_wet"))
        way = answer["items"][0]
        # all on the deck but the rear wheels, which stand on its edge
        front, rear = 5350 * 30 / 73, 5350 * 43 / 73
        expected = 380 + 5350 - (front * 219 + rear * 292) / 200
        self.assertAlmostEqual(way["lowest"]["tongue"], expected, places=2)
        self.assertAlmostEqual(way["lowest"]["trail"], 292, places=4)
        self.assertEqual(answer["verdict"], "over")
        self.assertEqual(way["missing"], [])
        self.assertEqual(
            [check["code"] for check in way["checks"]],
            [
                "loading.truck_rear",
                "loading.tongue",
                "loading.hold",
                "loading.ramp",
                "loading.axle_1",
                "loading.axle_2",
                "loading.tip",
                "loading.clearance",
                "loading.angle",
            ],
        )

    def test_schema_accepts_every_kind_of_answer(self) -> None:
        schema = loading_schema()
        Draft202012Validator.check_schema(schema)
        validator = Draft202012Validator(schema)
        bare = climbing()
        del bare["items"][0]["contacts"]
        unmeasured = climbing(push=0, slope=0.02)
        del unmeasured["items"][0]["underside"], unmeasured["trailer"]["coupler_height"]
        empty = climbing() | {"items": []}
        for document in (
            climbing(slope=-0.04, stands_down=True, held_trailer_axles=[1, 2]),
            unmeasured,
            bare,
            empty,
        ):
            answer = answer_to(document)
            self.assertEqual([e.message for e in validator.iter_errors(answer)], [])

    def test_what_is_missing_is_named_and_makes_it_unknown(self) -> None:
        document = climbing()
        del document["items"][0]["contacts"], document["trailer"]["ramp"]
        answer = answer_to(document)
        self.assertEqual(
            answer["items"],
            [{"item": "tractor", "missing": ["trailer.ramp", "items[0].contacts"]}],
        )
        self.assertEqual(answer["verdict"], "unknown")

    def test_a_ramp_shorter_than_its_rise_is_refused_in_one_line(self) -> None:
        document = climbing()
        document["trailer"]["ramp"]["length"] = 20
        errors = io.StringIO()
        stream = io.TextIOWrapper(io.BytesIO(json.dumps(document).encode()))
        with mock.patch("sys.stdin", stream), self.assertRaises(SystemExit) as ended:
            call_command("loading", "-", stderr=errors, stdout=io.StringIO())
        self.assertEqual(ended.exception.code, 2)
        self.assertIn("trailer.ramp.length: expected longer than", errors.getvalue())

    def test_units_of_the_file(self) -> None:
        document = climbing()
        answer = answer_to(document)
        feet = copy.deepcopy(document)
        feet["units"]["length"] = "ft"
        for holder, names in (
            (feet["truck"], ("wheelbase", "hitch_offset")),
            (feet["trailer"], ("track_width", "coupler_height")),
            (feet["trailer"]["deck"], ("start", "length", "width", "height")),
            (feet["trailer"]["ramp"], ("length",)),
            (feet["items"][0], ("front", "rear", "width")),
            (feet["items"][0]["placement"], ("reference", "left")),
            (feet["items"][0]["cg"], ("ahead", "ahead_tolerance", "left", "height")),
            *((cargo, ("ahead_of_rear_axle",)) for cargo in feet["truck"]["cargo"]),
            *((axle, ("position",)) for axle in feet["trailer"]["axles"]),
            *((contact, ("ahead",)) for contact in feet["items"][0]["contacts"]),
            *((p, ("ahead", "clearance")) for p in feet["items"][0]["underside"]),
        ):
            for name in names:
                holder[name] /= 12
        other = answer_to(feet)
        one, two = answer["items"][0], other["items"][0]
        self.assertAlmostEqual(one["lowest"]["tongue"], two["lowest"]["tongue"], places=6)
        self.assertAlmostEqual(one["lowest"]["lead"], two["lowest"]["lead"] * 12, places=6)
        self.assertAlmostEqual(one["clearance"]["least"], two["clearance"]["least"] * 12, places=6)


class PlanFields(SimpleTestCase):
    def test_site_defaults_to_level_dry_concrete_and_the_parking_brake(self) -> None:
        site = read_document(EXAMPLE).site
        self.assertEqual(
            (site.slope, site.surface, site.parking_brake, site.stands_down, site.push),
            (0, Surface.CONCRETE_DRY, True, False, 0.1),
        )

    def test_refusals_name_the_field(self) -> None:
        for change, line in (
            ({"site": {"slope": 20}}, "site.slope: expected a number of at most 10"),
            ({"site": {"surface": "moon"}}, "site.surface: expected one of the words"),
            (
                {"site": {"held_trailer_axles": [0]}},
                "site.held_trailer_axles[0]: expected a whole number from 1",
            ),
            ({"site": {"held_trailer_axles": [3]}}, "site.held_trailer_axles: expected numbers"),
            ({"site": {"friction": -1}}, "site.friction: expected zero or more"),
            ({"ramp": {"kind": "ramps", "length": 0}}, "trailer.ramp.length: expected a number"),
            ({"ramp": {"length": 5}}, "trailer.ramp.kind: expected this field to be given"),
            (
                {"dovetail": {"length": 400, "drop": 3}},
                "trailer.dovetail.length: expected a length within",
            ),
            ({"stands": {"gap": -1}}, "trailer.stands.gap: expected zero or more"),
            ({"bed": {"hinge": 1, "mass": 0, "balance": 1}}, "trailer.bed.mass: expected a"),
            (
                {"underside": [{"ahead": 1, "clearance": 2}, {"ahead": 1, "clearance": -2}]},
                "items[0].underside[1].clearance: expected zero or more",
            ),
            (
                {"underside": [{"ahead": 1, "clearance": 2, "up": 1}]},
                "items[0].underside[0].up: expected a field of the format",
            ),
        ):
            document = climbing()
            for name, value in change.items():
                if name == "site":
                    document["site"] = value
                elif name == "underside":
                    document["items"][0][name] = value
                else:
                    document["trailer"][name] = value
            with self.subTest(line=line), self.assertRaises(PlanFileError) as refused:
                read_document(document)
            self.assertIn(line, str(refused.exception))
