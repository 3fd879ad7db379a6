"""Plan files: what is read, what is refused, and in which words."""

from __future__ import annotations

import copy
import json
from pathlib import Path
from typing import Any

from django.test import SimpleTestCase

from mechanics.report import evaluate
from planfile.convert import Scale
from planfile.errors import PlanFileError
from planfile.reading import MAX_BYTES, MAX_DEPTH, read_document, read_plan
from planfile.writing import report_document

EXAMPLE = json.loads((Path(__file__).parent / "example.json").read_text(encoding="utf-8"))


def example() -> dict[str, Any]:
    """The example plan, to be changed freely."""
    return copy.deepcopy(EXAMPLE)


def changed(path: str, value: Any) -> dict[str, Any]:
    """The example with one field set; ``...`` takes it out."""
    document = example()
    *way, last = path.split(".")
    node: Any = document
    for step in way:
        node = node[int(step)] if step.isdigit() else node[step]
    if value is ...:
        del node[last]
    else:
        node[last] = value
    return document


def in_metric(document: dict[str, Any]) -> dict[str, Any]:
    """The same plan written in kilograms and millimetres."""
    masses = {
        "mass", "mass_tolerance", "front_axle_mass", "rear_axle_mass", "front_gawr", "rear_gawr",
        "gvwr", "gcwr", "max_trailer_mass", "payload", "max_tongue_mass", "empty_mass",
        "empty_mass_tolerance", "empty_tongue_mass", "empty_tongue_mass_tolerance", "gawr",
        "tire_capacity",
    }  # fmt: skip

    def convert(node: Any, key: str = "") -> Any:
        if isinstance(node, dict):
            return {k: convert(v, k) for k, v in node.items()}
        if isinstance(node, list):
            return [convert(v) for v in node]
        if isinstance(node, (int, float)) and key != "version":
            return node * 0.45359237 if key in masses else node * 25.4
        return node

    made = convert(document)
    made["units"] = {"mass": "kg", "length": "mm"}
    return made


class ReadingPlans(SimpleTestCase):
    def test_read_plan_keeps_the_document_untouched(self) -> None:
        document = changed("items.0.extra", {"colour": ["red", {"deep": 1.50}]})
        raw, plan = read_plan(json.dumps(document).encode())
        self.assertEqual(raw, document)
        self.assertEqual(plan.items[0].id, "tractor")

    def test_read_plan_accepts_a_byte_order_mark(self) -> None:
        raw, _ = read_plan(b"\xef\xbb\xbf" + json.dumps(example()).encode())
        self.assertEqual(raw["format"], "eyebolt.plan")

    def test_every_object_may_hold_extra(self) -> None:
        for path in (
            "extra", "units.extra", "truck.extra", "truck.cargo.0.extra", "hitch.extra",
            "hitch.components.0.extra", "trailer.extra", "trailer.axles.0.extra",
            "trailer.deck.extra", "items.0.extra", "items.0.cg.extra", "items.0.placement.extra",
            "rules.extra",
        ):  # fmt: skip
            with self.subTest(path=path):
                self.assertEqual(len(read_document(changed(path, {"ours": 1})).items), 1)

    def test_optional_parts_may_be_left_out(self) -> None:
        for path in ("name", "rules", "items", "truck.name", "truck.cargo", "truck.gvwr",
                     "hitch.components", "hitch.mass", "trailer.kind", "trailer.gvwr",
                     "trailer.suspension", "trailer.deck.width", "items.0.name", "items.0.width",
                     "items.0.placement.facing", "items.0.cg.height"):  # fmt: skip
            with self.subTest(path=path):
                evaluate(read_document(changed(path, ...)))

    def test_weight_distribution_may_be_null(self) -> None:
        self.assertIsNone(
            read_document(changed("hitch.weight_distribution", None)).hitch.weight_distribution
        )
        bars = changed("hitch.weight_distribution", {"front_axle_restoration": 0.5})
        self.assertIsNotNone(read_document(bars).hitch.weight_distribution)

    def test_lb_in_and_kg_mm_give_the_same_report(self) -> None:
        us = evaluate(read_document(example()))
        metric = evaluate(read_document(in_metric(example())))
        for one, two in zip(us.checks, metric.checks, strict=True):
            self.assertEqual((one.code, one.status), (two.code, two.status))
            self.assertAlmostEqual(one.value, two.value, delta=1e-9 * max(abs(one.value), 1))
        for here, there in zip(us.windows[0].sure, metric.windows[0].sure, strict=True):
            self.assertAlmostEqual(here.start_m, there.start_m, places=9)
            self.assertEqual(here.start_limit, there.start_limit)
        report = report_document(metric, Scale("kg", "mm"))
        self.assertAlmostEqual(report["tongue"]["mass"], 1129 * 0.45359237, places=6)
        self.assertAlmostEqual(report["windows"][0]["aim"], us.windows[0].aim_m * 1000, places=4)


class RefusedPlans(SimpleTestCase):
    CASES: tuple[tuple[str, Any, str], ...] = (
        ("truck", ..., "truck: expected this field to be given, got nothing"),
        ("truck.wheelbase", ..., "truck.wheelbase: expected this field to be given, got nothing"),
        ("truck.wheelbase", 0, "truck.wheelbase: expected a number greater than zero"),
        ("truck.wheelbase", "160", "truck.wheelbase: expected a number, got text"),
        ("truck.wheelbase", True, "truck.wheelbase: expected a number, got true or false"),
        ("truck.gvwr", None, "truck.gvwr: expected a number, got null (leave the field out"),
        ("truck.gvwr", -1, "truck.gvwr: expected zero or more"),
        ("truck.wings", 2, "truck.wings: expected a field of the format"),
        ("truck.cargo.1.mass", -5, "truck.cargo[1].mass: expected a number greater than zero"),
        ("truck.hitch_offset", 1e300, "truck.hitch_offset: expected a number of at most"),
        ("hitch.name", "receiver", "hitch.name: expected a field of the format"),
        ("hitch.type", "rope", "hitch.type: expected one of the words the format lists, got rope"),
        ("hitch.components.2.name", ..., "hitch.components[2].name: expected this field"),
        (
            "hitch.weight_distribution",
            {"front_axle_restoration": 1.5},
            "front_axle_restoration: expected a number from 0 to 1",
        ),
        ("trailer.axles", [], "trailer.axles: expected at least one"),
        ("trailer.axles.0.position", -183, "trailer.axles[0].position: expected a number greater"),
        ("trailer.empty_tongue_mass", 2900, "trailer.empty_tongue_mass: expected less than"),
        ("trailer.deck.length", 0, "trailer.deck.length: expected a number greater than zero"),
        ("trailer.deck.rear_overhang", -1, "trailer.deck.rear_overhang: expected zero or more"),
        ("items.0.mass", 0, "items[0].mass: expected a number greater than zero"),
        ("items.0.cg.ahead_tolerance", -1, "items[0].cg.ahead_tolerance: expected zero or more"),
        ("items.0.placement", [], "items[0].placement: expected an object, got a list"),
        ("items", {}, "items: expected a list, got an object"),
        ("rules.tongue", "custom", "rules.share_min: expected a fraction"),
        ("rules.share_min", 0.1, "rules.share_min: expected to be left out"),
        ("format", "other.plan", 'format: expected "eyebolt.plan", got "other.plan"'),
        ("version", 2, "version: expected 1"),
        ("version", True, "version: expected 1"),
        ("units.mass", "stone", "units.mass: expected one of the words the format lists"),
        ("extra", 3, "extra: expected an object, got a whole number"),
    )

    def test_each_bad_field_is_named_with_what_was_expected(self) -> None:
        for path, value, message in self.CASES:
            with self.subTest(path=path, value=value):
                with self.assertRaises(PlanFileError) as caught:
                    read_document(changed(path, value))
                self.assertIn(message, str(caught.exception))

    def test_two_items_of_one_id(self) -> None:
        document = example()
        document["items"].append(document["items"][0])
        with self.assertRaisesMessage(PlanFileError, "items[1].id"):
            read_document(document)

    def test_files_that_are_no_plan(self) -> None:
        whole = json.dumps(example())
        for data, message in (
            (b"", "the file: expected JSON, got a mistake in line 1"),
            (b"{", "the file: expected JSON, got a mistake in line 1"),
            (b"[]", "the file: expected an object, got a list"),
            (b"null", "the file: expected an object, got null"),
            (b"12", "the file: expected an object, got a number"),
            (whole.encode("utf-16"), "the file: expected text in UTF-8"),
            (whole.replace("5350", "NaN").encode(), "expected finite numbers, got NaN"),
            (whole.replace("5350", "1e999").encode(), "items[0].mass: expected a finite number"),
            (whole.replace("5350", "9" * 5000).encode(), "expected numbers of ordinary length"),
            (
                whole.replace('"version": 1', '"version": 1, "version": 1').encode(),
                "version: expected each field once",
            ),
            (b'{"a":' * (MAX_DEPTH + 1) + b"1" + b"}" * (MAX_DEPTH + 1), "inside one another"),
            (b" " * (MAX_BYTES + 1), "the file: expected a file of at most 1000 kB"),
        ):
            with self.subTest(message=message):
                with self.assertRaises(PlanFileError) as caught:
                    read_plan(data)
                self.assertIn(message, str(caught.exception))

    def test_brackets_inside_text_are_not_depth(self) -> None:
        document = changed("notes", "[" * 500 + '"' + "{" * 500)
        self.assertEqual(len(read_plan(json.dumps(document).encode())[1].items), 1)


class HalfCharacters(SimpleTestCase):
    def test_half_a_character_is_refused_wherever_it_stands(self) -> None:
        text = json.dumps(example())
        for broken, place in (
            (text.replace('"name": "', '"name": "\\ud800', 1), "name"),
            (text.replace('"units":', '"\\udc00": 1, "units":', 1), ""),
        ):
            with self.assertRaises(PlanFileError) as caught:
                read_plan(broken.encode())
            self.assertIn("whole characters", str(caught.exception))
            self.assertIn(place, str(caught.exception))
