"""The securing command, its schema, and ties when what they run between changes."""

from __future__ import annotations

import copy
import io
import json
from typing import Any
from unittest import mock

import msgspec
from django.core.management import call_command
from django.test import SimpleTestCase
from jsonschema import Draft202012Validator

from planfile.draft import Draft
from planfile.errors import PlanFileError
from planfile.reading import read_document
from planfile.schema import securing_schema
from planfile.tests.test_reading import EXAMPLE

CORNERS = (("fl", 60, 30), ("fr", 60, -30), ("rl", -20, 30), ("rr", -20, -30))


def tied(**securing: Any) -> dict[str, Any]:
    """The example with four chains from the tractor's corners to the deck's rings."""
    document = copy.deepcopy(EXAMPLE)
    document["items"][0]["points"] = [
        {"id": name, "ahead": ahead, "left": left, "height": 24, "kind": "frame"}
        for name, ahead, left in CORNERS
    ]
    # it faces the truck: what is ahead of the mark is nearer the headboard
    document["trailer"]["anchors"] = [
        {"id": name, "tape": 150 - ahead * 1.6, "left": left * 1.25, "wll": 5000}
        for name, ahead, left in CORNERS
    ]
    document["securing"] = {
        "ties": [
            {"id": name, "item": "tractor", "point": name, "anchor": name, "kind": "chain"}
            | {"wll": 4700}
            for name, _, _ in CORNERS
        ],
        **securing,
    }
    return document


def answer_to(document: dict[str, Any]) -> dict[str, Any]:
    """What the command prints for a document on standard input."""
    out = io.StringIO()
    stream = io.TextIOWrapper(io.BytesIO(json.dumps(document).encode()))
    with mock.patch("sys.stdin", stream):
        call_command("securing", "-", stdout=out)
    return json.loads(out.getvalue())


class SecuringCommand(SimpleTestCase):
    def test_four_chains(self) -> None:
        answer = answer_to(tied())
        self.assertEqual(answer["school"], "us_393")
        item = answer["items"][0]
        self.assertEqual([tie["id"] for tie in item["ties"]], ["fl", "fr", "rl", "rr"])
        codes = [check["code"] for check in item["checks"]]
        self.assertEqual(
            codes[:8],
            [
                f"securing.{name}"
                for name in (
                    "number",
                    "corners",
                    "aggregate",
                    "forward",
                    "rearward",
                    "left",
                    "right",
                    "up",
                )
            ],
        )
        by_code = {check["code"]: check for check in item["checks"]}
        self.assertAlmostEqual(by_code["securing.aggregate"]["value"], 4 * 4700 / 2)
        self.assertAlmostEqual(by_code["securing.aggregate"]["limit"], (5350 + 250) / 2)
        self.assertEqual(by_code["securing.number"]["value"], 4)
        self.assertIn("securing.anchor_rr", by_code)

    def test_a_metric_file_goes_by_the_metric_school(self) -> None:
        document = tied()
        document["units"] = {"mass": "kg", "length": "mm"}
        self.assertEqual(answer_to(document)["school"], "en_12195")
        del document["securing"]
        self.assertEqual(answer_to(document)["school"], "en_12195")

    def test_schema_accepts_every_kind_of_answer(self) -> None:
        schema = securing_schema()
        Draft202012Validator.check_schema(schema)
        validator = Draft202012Validator(schema)
        unmarked = tied(school="strict")
        del unmarked["securing"]["ties"][0]["wll"]
        for document in (tied(), tied(school="en_12195", friction=0.3), unmarked, EXAMPLE):
            answer = answer_to(document)
            self.assertEqual([e.message for e in validator.iter_errors(answer)], [])
        self.assertEqual(answer_to(EXAMPLE)["verdict"], "unknown")

    def test_refusals_name_the_field(self) -> None:
        for path, value, line in (
            ("anchor", "x", "securing.ties[1].anchor: expected the id of an anchor"),
            ("point", "x", "securing.ties[1].point: expected the id of a point"),
            ("kind", "string", "securing.ties[1].kind: expected one of the words"),
            ("wll", 0, "securing.ties[1].wll: expected a number greater than zero"),
            ("over", "fr", "securing.ties.over: expected another anchor"),
        ):
            document = tied()
            document["securing"]["ties"][1][path] = value
            with self.subTest(path=path), self.assertRaises(PlanFileError) as refused:
                read_document(document)
            self.assertIn(line, str(refused.exception))


class LooseTies(SimpleTestCase):
    def ties(self, draft: Draft) -> list[str]:
        """The ties that are left."""
        return [tie["id"] for tie in draft.json()["securing"]["ties"]]

    def test_an_item_takes_its_ties_along_when_it_goes(self) -> None:
        draft = Draft.read(tied())
        self.assertEqual(self.ties(draft.keeping([])), [])
        self.assertEqual(len(self.ties(draft.keeping(["tractor"]))), 4)

    def test_the_same_trailer_anew_keeps_its_anchors_and_another_has_none(self) -> None:
        draft = Draft.read(tied())
        trailer = draft.parsed().trailer
        bare = msgspec.structs.replace(trailer, anchors=[])
        self.assertEqual(len(self.ties(draft.with_outfit(trailer=bare))), 4)
        other = msgspec.structs.replace(bare, name="Another")
        self.assertEqual(self.ties(draft.with_outfit(trailer=other)), [])

    def test_other_figures_of_a_machine_keep_its_points(self) -> None:
        draft = Draft.read(tied())
        item = msgspec.structs.replace(draft.parsed().items[0], points=[], mass=5000)
        self.assertEqual(len(self.ties(draft.with_figures(item))), 4)
        one = msgspec.structs.replace(item, points=draft.parsed().items[0].points[:1])
        self.assertEqual(self.ties(draft.with_figures(one)), ["fl"])
