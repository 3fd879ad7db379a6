"""Other things to do from the page of ways to weigh; an app brings its own.

A module ``weigh_tools`` with ``TOOLS``.
"""

from __future__ import annotations

from dataclasses import dataclass

from web.registry import brought


@dataclass(frozen=True, kw_only=True)
class Tool:
    """A button for planners."""

    title: str
    address: str


def tools() -> tuple[Tool, ...]:
    """The buttons, in the order of the apps."""
    return brought("weigh_tools", "TOOLS")
