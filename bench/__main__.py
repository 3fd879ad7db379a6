"""``make bench``: the project's figures, measured on this machine as it is now."""

from __future__ import annotations

import os
import statistics
import tempfile
from pathlib import Path

from bench.core import bench_reactions, bench_report
from bench.server import Server, bench_drag, bench_transfer


def line(name: str, figure: str, target: str) -> None:
    """One figure with what it should reach."""
    print(f"{name:<58} {figure:>22}   target {target}")


def main() -> None:
    """Print every figure."""
    print(f"{os.cpu_count()} processors, load {os.getloadavg()[0]:.2f}")
    times = bench_report()
    line("full report of the example plan, median", f"{times * 1e3:.3f} ms", "1 ms")
    ratio, worst = bench_reactions()
    line("reactions, times faster than a general beam solver", f"{ratio:,.0f} x", "100 x")
    line("reactions, largest relative difference", f"{worst:.1e}", "1e-9")
    with tempfile.TemporaryDirectory() as folder, Server(Path(folder)) as server:
        for name, paced in (
            ("as the page paces it", True),
            ("each asking again at once", False),
        ):
            answers, errors = bench_drag(server, clients=8, paced=paced)
            cuts = statistics.quantiles(answers, n=20)
            line(f"drag step, 8 clients {name}, median", f"{cuts[9] * 1e3:.1f} ms", "15 ms")
            line(f"drag step, 8 clients {name}, 95th", f"{cuts[18] * 1e3:.1f} ms", "40 ms")
            line("    answers and errors", f"{len(answers)} and {errors}", "no error")
        first, again = bench_transfer(server)
        line("planner page, first visit", f"{first / 1000:.0f} kB", "350 kB")
        line("planner page, repeat visit", f"{again / 1000:.1f} kB", "30 kB")


if __name__ == "__main__":
    main()
