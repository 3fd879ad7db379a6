"""Whoever waits for a long calculation may end it; the core itself has no clock.

Calculations that go round many times say so at each round with :func:`go_on`. Without anybody who
set :func:`asked`, that does nothing.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar

_may: ContextVar[Callable[[], None] | None] = ContextVar("may_go_on", default=None)


@contextmanager
def asked(may: Callable[[], None]) -> Iterator[None]:
    """Ask ``may`` at each round of what is calculated inside; it ends that by raising.

    What is raised leaves the calculation as it is, and nothing half done behind.
    """
    token = _may.set(may)
    try:
        yield
    finally:
        _may.reset(token)


def go_on() -> None:
    """One more round: whatever the one who waits raises, else nothing."""
    may = _may.get()
    if may is not None:
        may()
