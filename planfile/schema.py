"""JSON Schemas (2020-12) of the formats, made from the definitions that read them."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any, Final

import msgspec

from planfile.document import PlanDocument

SCHEMAS: Final = ("plan", "report", "loading", "securing", "sway")
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


NUMBER: Final[dict[str, Any]] = {"type": "number"}
TEXT: Final[dict[str, Any]] = {"type": "string"}
STATUS: Final[dict[str, Any]] = {"enum": ["ok", "near", "over", "unknown"]}


def _closed(required: dict[str, Any]) -> dict[str, Any]:
    """An object that has exactly these fields."""
    return {
        "type": "object",
        "properties": required,
        "required": list(required),
        "additionalProperties": False,
    }


def _or_null(schema: dict[str, Any]) -> dict[str, Any]:
    return {"anyOf": [schema, {"type": "null"}]}


def _listed(schema: dict[str, Any]) -> dict[str, Any]:
    return {"type": "array", "items": schema}


def _file(title: str, name: str, fields: dict[str, Any]) -> dict[str, Any]:
    """The schema of a file of ours: its head, then its own fields."""
    units = _closed(
        {"mass": {"enum": ["lb", "kg"]}, "length": {"enum": ["in", "ft", "mm", "cm", "m"]}}
    )
    head = {"format": {"const": name}, "version": {"const": 1}, "units": units}
    return {"$schema": DIALECT, "title": title, **_closed(head | fields)}


def loading_schema() -> dict[str, Any]:
    """The loading file's schema."""
    masses = (
        "lead_load",
        "trail_load",
        "tail_edge",
        "tongue",
        "tongue_free",
        "stand",
        "truck_front",
        "truck_rear",
    )
    station = _closed(
        dict.fromkeys(("lead", "trail", "pitch", *masses), NUMBER)
        | {
            "axles": _listed(NUMBER),
            "hold": _or_null(NUMBER),
            "state": {"enum": ["free", "propped", "lifted"]},
        }
    )
    check = _loose_check()
    clearance = _closed({"least": NUMBER, "lead": NUMBER, "at": {"enum": ["underside", "terrain"]}})
    way = _closed(
        {
            "item": TEXT,
            "missing": {**_listed(TEXT), "maxItems": 0},
            "ramp_angle": NUMBER,
            "stations": _listed(station),
            "lowest": station,
            "worst_hold": _or_null(station),
            "slope_shift": _or_null(NUMBER),
            "clearance": _or_null(clearance),
            "checks": _listed(check),
        }
    )
    wanting = _closed({"item": TEXT, "missing": {**_listed(TEXT), "minItems": 1}})
    return _file(
        "Eyebolt loading, version 1",
        "eyebolt.loading",
        {"items": _listed({"anyOf": [way, wanting]}), "verdict": STATUS},
    )


def securing_schema() -> dict[str, Any]:
    """The securing file's schema."""
    ways = ("forward", "rearward", "left", "right")
    tie = _closed(
        {"id": TEXT}
        | dict.fromkeys(("length", "along", "left", "up"), NUMBER)
        | {
            "wll": _or_null(NUMBER),
            "use": _closed(dict.fromkeys(ways, _or_null(NUMBER))),
        }
    )
    item = _closed({"item": TEXT, "ties": _listed(tie), "checks": _listed(_loose_check())})
    return _file(
        "Eyebolt securing, version 1",
        "eyebolt.securing",
        {
            "school": {"enum": ["us_393", "strict", "en_12195"]},
            "items": _listed(item),
            "verdict": STATUS,
        },
    )


def sway_schema() -> dict[str, Any]:
    """The sway file's schema."""
    figures = ("damping", "frequency", "half_life")
    swing = _closed({"speed": NUMBER} | dict.fromkeys(figures, _or_null(NUMBER)))
    ends = ("critical_speed", "divergence_speed")
    case = _closed(
        {"case": {"enum": ["low", "mid", "high"]}}
        | dict.fromkeys(ends, _or_null(NUMBER))
        | {"speeds": _listed(swing)}
    )
    trailer = _closed(dict.fromkeys(("mass", "centre", "yaw_inertia"), NUMBER))
    fields = {
        "format": {"const": "eyebolt.sway"},
        "version": {"const": 1},
        "units": _closed({"speed": {"enum": ["mph", "km/h"]}}),
        "missing": _listed({"enum": ["load"]}),
        "trailer": _or_null(trailer),
        "cases": _listed(case),
    }
    return {"$schema": DIALECT, "title": "Eyebolt sway, version 1", **_closed(fields)}


def _loose_check() -> dict[str, Any]:
    """A check of which every figure may be unknown."""
    return _closed(
        {"code": TEXT, "status": STATUS, "missing": _listed(TEXT)}
        | dict.fromkeys(("value", "limit", "margin"), _or_null(NUMBER))
    )


def report_schema() -> dict[str, Any]:
    """The report's schema."""
    interval = _closed({"from": NUMBER, "to": NUMBER, "from_limit": TEXT, "to_limit": TEXT})
    return _file(
        "Eyebolt report, version 1",
        "eyebolt.report",
        {
            "tongue": _closed(
                {
                    "mass": NUMBER,
                    "share": NUMBER,
                    "share_min": NUMBER,
                    "share_max": NUMBER,
                    "added_share": _or_null(NUMBER),
                    "mass_per_length": _or_null(NUMBER),
                }
            ),
            "trailer": _closed(
                {
                    "mass": NUMBER,
                    "axles_mass": NUMBER,
                    "axles": _listed(NUMBER),
                    "left": NUMBER,
                    "right": NUMBER,
                }
            ),
            "truck": _closed(
                dict.fromkeys(
                    (
                        "front",
                        "rear",
                        "mass",
                        "front_unhitched",
                        "rear_unhitched",
                        "payload_used",
                    ),
                    NUMBER,
                )
            ),
            "combination": _closed({"mass": NUMBER}),
            "checks": _listed(
                _closed(
                    {
                        "code": TEXT,
                        "item": _or_null(TEXT),
                        "status": STATUS,
                        "value": NUMBER,
                        "limit": _or_null(NUMBER),
                        "margin": _or_null(NUMBER),
                        "missing": _listed(TEXT),
                    }
                )
            ),
            "windows": _listed(
                _closed(
                    {
                        "item": TEXT,
                        "intervals": _listed(interval),
                        "aim": _or_null(NUMBER),
                        "sure": _listed(interval),
                        "contradiction": _or_null({**_listed(TEXT), "minItems": 2, "maxItems": 2}),
                    }
                )
            ),
            "verdict": STATUS,
        },
    )


def made_schemas() -> dict[str, dict[str, Any]]:
    """Every schema by its name."""
    return {
        "plan": plan_schema(),
        "report": report_schema(),
        "loading": loading_schema(),
        "securing": securing_schema(),
        "sway": sway_schema(),
    }


def write_schemas() -> None:
    """Write the schemas where they are shipped; a test proves that they are current."""
    FOLDER.mkdir(exist_ok=True)
    for name, schema in made_schemas().items():
        schema_path(name).write_text(json.dumps(schema, indent=2) + "\n", encoding="utf-8")


if __name__ == "__main__":
    write_schemas()
