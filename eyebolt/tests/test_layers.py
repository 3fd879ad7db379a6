"""Arrows point down: of imports, of addresses and partials that templates name."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from pathlib import Path

from django.test import SimpleTestCase
from django.urls import URLPattern, URLResolver, get_resolver

ROOT = Path(__file__).resolve().parent.parent.parent

LAYERS = (
    "mechanics",
    "measures",
    "planfile",
    "wording",
    "pictures",
    "web",
    "yards",
    "longwork",
    "offline",
    "book",
    "hauls",
    "aspects",
    "walk",
    "exchange",
    "planning",
    "matching",
    "weighing",
    "gauge",
    "road",
    "day",
    "fleet",
    "practice",
    "api",
    "finding",
    "upkeep",
    "demo",
)
"""Packages; each may use those before it, and itself."""

PURE = ("mechanics", "measures", "wording", "pictures")
"""Packages that know nothing of the web framework."""

ROOMS = tuple(
    path.name for path in sorted((ROOT / "aspects").iterdir()) if (path / "aspect.py").exists()
)
"""Views of a haul: none of them imports another, unless it says so here."""

ROOMS_USE: dict[str, set[str]] = {}

KNOWN_EVERYWHERE = {"home", "sign_in"}
"""Addresses that the settings name: where a person begins."""


def modules(package: str) -> Iterator[Path]:
    """Every module of a package, its tests and migrations aside."""
    for path in (ROOT / package).rglob("*.py"):
        if not {"tests", "migrations"} & set(path.relative_to(ROOT).parts):
            yield path


def templates(package: str) -> Iterator[Path]:
    """Every template of a package, those of tests aside."""
    for path in (ROOT / package).rglob("templates/**/*.html"):
        if "tests" not in path.relative_to(ROOT).parts:
            yield path


def imported(path: Path) -> set[str]:
    """Dotted names of every module that a file imports."""
    names: set[str] = set()
    for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
        if isinstance(node, ast.Import):
            names |= {alias.name for alias in node.names}
        elif isinstance(node, ast.ImportFrom):
            module = node.module or ""
            names |= {f"{module}.{alias.name}" for alias in node.names} | {module}
    return names


def owners() -> dict[str, str]:
    """Names of addresses and the package whose view answers them."""
    found: dict[str, str] = {}

    def walk(patterns: list[URLPattern | URLResolver]) -> None:
        for pattern in patterns:
            if isinstance(pattern, URLResolver):
                walk(pattern.url_patterns)
            elif pattern.name:
                callback = pattern.callback
                view = getattr(callback, "view_class", callback)
                package = view.__module__.split(".")[0]
                found[pattern.name] = package if package in LAYERS else "yards"

    walk(get_resolver().url_patterns)
    return found


def above(package: str) -> set[str]:
    """What a package may not use."""
    return set(LAYERS[LAYERS.index(package) + 1 :])


class Layers(SimpleTestCase):
    def test_every_package_has_its_layer(self) -> None:
        apart = {"bench", "e2e", "scripts", "validation", "eyebolt", "build"}
        packages = {path.parent.name for path in ROOT.glob("*/__init__.py")} - apart
        self.assertEqual(set(LAYERS), packages)

    def test_imports_point_down(self) -> None:
        for package in LAYERS:
            for path in modules(package):
                with self.subTest(module=str(path.relative_to(ROOT))):
                    names = {name.split(".")[0] for name in imported(path)}
                    self.assertFalse(names & above(package))

    def test_what_knows_nothing_of_the_web_imports_nothing_of_it(self) -> None:
        for package in PURE:
            for path in modules(package):
                with self.subTest(module=str(path.relative_to(ROOT))):
                    self.assertNotIn("django", {n.split(".")[0] for n in imported(path)})

    def test_rooms_do_without_each_other(self) -> None:
        for room in ROOMS:
            others = {f"aspects.{one}" for one in set(ROOMS) - {room} - ROOMS_USE.get(room, set())}
            for path in modules(f"aspects/{room}"):
                with self.subTest(module=str(path.relative_to(ROOT))):
                    names = {".".join(name.split(".")[:2]) for name in imported(path)}
                    self.assertFalse(names & others)

    def test_addresses_in_templates_point_down(self) -> None:
        owned = owners()
        for package in LAYERS:
            for path in templates(package):
                text = path.read_text(encoding="utf-8")
                with self.subTest(template=str(path.relative_to(ROOT))):
                    named = set(re.findall(r"\{% url ['\"]([\w-]+)['\"]", text))
                    self.assertLessEqual(named, set(owned))
                    up = {n for n in named - KNOWN_EVERYWHERE if owned[n] in above(package)}
                    self.assertFalse(up)

    def test_partials_and_tags_of_templates_point_down(self) -> None:
        tags = {"web": "web", "static": "web"}
        for package in LAYERS:
            for path in templates(package):
                text = path.read_text(encoding="utf-8")
                with self.subTest(template=str(path.relative_to(ROOT))):
                    used = re.findall(r"\{% (?:include|extends|kept) ['\"]([^'\"]+)['\"]", text)
                    homes = {self.home(name) for name in used}
                    loaded = " ".join(re.findall(r"\{% load ([\w ]+) %\}", text)).split()
                    self.assertFalse((homes | {tags[name] for name in loaded}) & above(package))

    def home(self, template: str) -> str:
        """The package that a template lies in."""
        for package in LAYERS:
            for path in templates(package):
                if str(path).endswith(f"/templates/{template}"):
                    return package
        self.fail(f"no template {template}")
