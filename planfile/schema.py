"""JSON Schemas (2020-12) of the formats, made from the definitions that read them."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any, Final

import msgspec

from planfile.document import PlanDocument

SCHEMAS: Final = ("plan", "report")
DIALECT: Final = "https://json-schema.org/draft/2020-12/schema"
FOLDER: Final = Path(__file__).resolve().parent / "schemas"


def schema_path(name: str) -> Path:
    """Where a schema is shipped."""
    return FOLDER / f"eyebolt.{name}.schema.json"


def plan_schema() -> dict[str, Any]:
    """The plan's schema. What a schema cannot say (the tongue below the whole, unique
    ids, fractions only with ``custom``) is checked on reading."""
    (reference,), definitions = msgspec.json.schema_components(
        [PlanDocument], ref_template="#/$defs/{name}"
    )
    return {
        "$schema": DIALECT,
        "title": "Eyebolt plan, version 1",
        **reference,
        "$defs": definitions,
    }


def report_schema() -> dict[str, Any]:
    """The report's schema."""
    number, text = {"type": "number"}, {"type": "string"}

    def closed(required: dict[str, Any]) -> dict[str, Any]:
        return {
            "type": "object",
            "properties": required,
            "required": list(required),
            "additionalProperties": False,
        }

    def or_null(schema: dict[str, Any]) -> dict[str, Any]:
        return {"anyOf": [schema, {"type": "null"}]}

    def listed(schema: dict[str, Any]) -> dict[str, Any]:
        return {"type": "array", "items": schema}

    status = {"enum": ["ok", "near", "over", "unknown"]}
    interval = closed({"from": number, "to": number, "from_limit": text, "to_limit": text})
    return {
        "$schema": DIALECT,
        "title": "Eyebolt report, version 1",
        **closed(
            {
                "format": {"const": "eyebolt.report"},
                "version": {"const": 1},
                "units": closed(
                    {
                        "mass": {"enum": ["lb", "kg"]},
                        "length": {"enum": ["in", "ft", "mm", "cm", "m"]},
                    }
                ),
                "tongue": closed(
                    {
                        "mass": number,
                        "share": number,
                        "share_min": number,
                        "share_max": number,
                        "added_share": or_null(number),
                        "mass_per_length": or_null(number),
                    }
                ),
                "trailer": closed(
                    {
                        "mass": number,
                        "axles_mass": number,
                        "axles": listed(number),
                        "left": number,
                        "right": number,
                    }
                ),
                "truck": closed(
                    dict.fromkeys(
                        (
                            "front",
                            "rear",
                            "mass",
                            "front_unhitched",
                            "rear_unhitched",
                            "payload_used",
                        ),
                        number,
                    )
                ),
                "combination": closed({"mass": number}),
                "checks": listed(
                    closed(
                        {
                            "code": text,
                            "item": or_null(text),
                            "status": status,
                            "value": number,
                            "limit": or_null(number),
                            "margin": or_null(number),
                            "missing": listed(text),
                        }
                    )
                ),
                "windows": listed(
                    closed(
                        {
                            "item": text,
                            "intervals": listed(interval),
                            "aim": or_null(number),
                            "sure": listed(interval),
                            "contradiction": or_null(
                                {**listed(text), "minItems": 2, "maxItems": 2}
                            ),
                        }
                    )
                ),
                "verdict": status,
            }
        ),
    }


def write_schemas() -> None:
    """Write both schemas where they are shipped; a test proves that they are current."""
    FOLDER.mkdir(exist_ok=True)
    for name, schema in (("plan", plan_schema()), ("report", report_schema())):
        schema_path(name).write_text(json.dumps(schema, indent=2) + "\n", encoding="utf-8")


if __name__ == "__main__":
    write_schemas()
