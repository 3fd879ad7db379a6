"""What installed apps bring along, found by the name of a module and of a tuple in it.

Whoever frames pages asks here and knows no app by name; an app registers itself by having
the module.
"""

from __future__ import annotations

from functools import lru_cache
from importlib import import_module
from typing import Any

from django.apps import apps
from django.utils.module_loading import module_has_submodule


def brought(module: str, name: str) -> tuple[Any, ...]:
    """The entries of a tuple of that name in every app's module of that name, in the order of
    the apps; an app without the module, or without the tuple, brings nothing."""
    return _brought(tuple(config.name for config in apps.get_app_configs()), module, name)


@lru_cache(maxsize=64)
def _brought(installed: tuple[str, ...], module: str, name: str) -> tuple[Any, ...]:
    found: list[Any] = []
    for config in apps.get_app_configs():
        if config.module is not None and module_has_submodule(config.module, module):
            found += getattr(import_module(f"{config.name}.{module}"), name, ())
    return tuple(found)
