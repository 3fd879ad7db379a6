"""The mechanics alone, in this process."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

from mechanics.item import Underside
from mechanics.loading import way
from mechanics.loads import compute_loads
from mechanics.report import evaluate
from mechanics.site import Surface
from mechanics.tests.climbing import climbing_plan
from planfile.reading import read_plan
from validation.test_beam_solvers import trailer_loads, two_supports_sympy

EXAMPLE = Path(__file__).resolve().parent.parent / "planfile" / "tests" / "example.json"


def median_seconds(work: Callable[[], object], runs: int) -> float:
    """Median time of one call, after a tenth of the runs as warm-up."""
    for _ in range(max(runs // 10, 1)):
        work()
    times = []
    for _ in range(runs):
        begin = time.perf_counter()
        work()
        times.append(time.perf_counter() - begin)
    return statistics.median(times)


def bench_report() -> float:
    """Seconds of one full report: checks, windows, sure windows."""
    _, plan = read_plan(EXAMPLE.read_bytes())
    return median_seconds(lambda: evaluate(plan), 2000)


def bench_climb() -> tuple[float, int]:
    """Seconds of one machine's way on with every check, and its stations."""
    plan = climbing_plan(surface=Surface.GRAVEL, slope=0.03)
    low = tuple(Underside(ahead_m=at, clearance_m=0.4) for at in (-1.1, 0.0, 1.8, 2.9))
    plan = replace(plan, items=(replace(plan.items[0], underside=low),))
    path = way(plan, 0).path
    return median_seconds(lambda: way(plan, 0), 200), len(path.stations) if path else 0


def bench_reactions() -> tuple[float, float]:
    """How many times faster than a general solver, and the largest relative difference.

    The solver is given the trailer alone; ours computes trailer and truck in its time.
    """
    _, plan = read_plan(EXAMPLE.read_bytes())
    points, supports = trailer_loads(plan), (0.0, plan.trailer.axle_centre_m)
    ours = median_seconds(lambda: compute_loads(plan), 2000)
    theirs = median_seconds(lambda: two_supports_sympy(points, supports, []), 5)
    loads = compute_loads(plan).trailer
    ball, axles = two_supports_sympy(points, supports, [])
    worst = max(
        abs(loads.tongue_kg - ball) / abs(ball), abs(loads.axles_mass_kg - axles) / abs(axles)
    )
    return theirs / ours, worst
