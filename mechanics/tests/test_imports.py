"""The core stands alone: nothing of the web, no files, no clock, no settings."""

from __future__ import annotations

import ast
from pathlib import Path

from django.test import SimpleTestCase

ALLOWED = {
    "__future__",
    "collections",
    "contextlib",
    "contextvars",
    "dataclasses",
    "enum",
    "functools",
    "itertools",
    "math",
    "re",
    "typing",
}
SOLVER = {
    "solver.py": {"highspy", "numpy"},
    "fit.py": {"numpy"},
    "sway.py": {"numpy"},
    "motion.py": {"numpy"},
}
"""Modules that hand their numbers to a general solver."""

CORE = Path(__file__).resolve().parent.parent


def modules() -> list[Path]:
    """Every module of the core, its tests aside."""
    return [path for path in CORE.rglob("*.py") if "tests" not in path.parts]


def imported(path: Path) -> set[str]:
    """Top-level names of every module a file imports."""
    names: set[str] = set()
    for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
        if isinstance(node, ast.Import):
            names |= {alias.name.split(".")[0] for alias in node.names}
        elif isinstance(node, ast.ImportFrom):
            names.add((node.module or "").split(".")[0])
    return names


class CoreImports(SimpleTestCase):
    def test_core_imports_only_itself_and_pure_modules(self) -> None:
        for path in modules():
            with self.subTest(module=path.name):
                allowed = ALLOWED | {"mechanics"} | SOLVER.get(path.name, set())
                self.assertLessEqual(imported(path), allowed)

    def test_core_prints_and_opens_nothing(self) -> None:
        for path in modules():
            calls = {
                node.func.id
                for node in ast.walk(ast.parse(path.read_text(encoding="utf-8")))
                if isinstance(node, ast.Call) and isinstance(node.func, ast.Name)
            }
            with self.subTest(module=path.name):
                self.assertFalse(calls & {"print", "open", "input", "eval", "exec"})
