"""``make bench``: the project's figures, measured on this machine as it is now."""

from __future__ import annotations

import os
import statistics
import tempfile
import time
from pathlib import Path
from typing import Any

from bench.core import bench_climb, bench_reactions, bench_report
from bench.crowd import CROWD_S, FLAT_S, bench_strip, bench_table, crowd, memory_mb
from bench.day import bench_day
from bench.gauge import bench_fit, bench_gauge
from bench.search import bench_arrange
from bench.securing import bench_suggestion, bench_ties
from bench.server import (
    Server,
    bench_browser,
    bench_drag,
    bench_lists,
    bench_slider,
    bench_transfer,
    haul_of_three,
)
from bench.sway import bench_damping, bench_frames, bench_motion


def line(name: str, figure: str, target: str) -> None:
    """One figure with what it should reach."""
    print(f"{name:<58} {figure:>22}   target {target}")


def speed() -> float:
    """Seconds of ten million additions: what to hold figures of other days and machines by."""
    begin, total = time.perf_counter(), 0
    for n in range(10_000_000):
        total += n
    return time.perf_counter() - begin


def day_lines(day: dict[str, Any]) -> None:
    """The figures of the board and of a day's plan."""
    line(f"board of {day['cards']} hauls, median", f"{day['board'] * 1e3:.0f} ms", "100 ms")
    line("    its clashes", f"{day['clashes'] * 1e3:.1f} ms", "50 ms")
    for count, target in ((8, "5 s"), (20, "30 s")):
        proved = "proved" if day[f"proved {count}"] else "not proved"
        took = f"{day[f'plan {count}']:.1f} s, {proved}"
        line(f"a day's plan, {count} machines, 3 outfits", took, target)
        line(f"    {day[f'told {count}']}", "", "")


def sway_lines(server: Server) -> None:
    """The figures of how an outfit tows."""
    line("damping at 40 speeds with its band, median", f"{bench_damping() * 1e3:.1f} ms", "50 ms")
    line("twelve seconds on three courses, median", f"{bench_motion() * 1e3:.1f} ms", "")
    frames = statistics.quantiles(bench_frames(server), n=100)
    line("frame of the moving view, 99th", f"{frames[98]:.1f} ms", "16 ms")


def main() -> None:
    """Print every figure."""
    print(f"{os.cpu_count()} processors, load {os.getloadavg()[0]:.2f}")
    line("ten million additions, seconds of this machine now", f"{speed():.2f} s", "")
    times = bench_report()
    line("full report of the example plan, median", f"{times * 1e3:.3f} ms", "1 ms")
    climb, stations = bench_climb()
    line(f"a machine's way on, {stations} stations, median", f"{climb * 1e3:.1f} ms", "10 ms")
    ratio, worst = bench_reactions()
    line("reactions, times faster than a general beam solver", f"{ratio:,.0f} x", "100 x")
    line("reactions, largest relative difference", f"{worst:.1e}", "1e-9")
    for count, runs, target in ((6, 40, "1 s"), (8, 20, "5 s")):
        searched, unproved = bench_arrange(count, runs)
        line(f"arranging {count} loads, median", f"{statistics.median(searched):.2f} s", target)
        line(f"arranging {count} loads, longest", f"{max(searched):.2f} s", target)
        line("    searches and not proved", f"{runs} and {unproved}", "all proved")
    line("fit of 200 readings, median", f"{bench_fit() * 1e3:.1f} ms", "50 ms")
    line("checks of 12 ties on 3 items, median", f"{bench_ties() * 1e3:.1f} ms", "5 ms")
    for mass, seconds, ties, proved in bench_suggestion():
        what = f"{ties} ties for {mass:,.0f} kg of 40 pieces{'' if proved else ', not proved'}"
        line(what, f"{seconds:.2f} s", "2 s")
    with tempfile.TemporaryDirectory() as folder, Server(Path(folder)) as server:
        for name, paced in (
            ("as the page paces it", True),
            ("each asking again at once", False),
        ):
            answers, errors = bench_drag(server, clients=8, paced=paced)
            cuts = statistics.quantiles(answers, n=20)
            line(f"drag step, 8 clients {name}, median", f"{cuts[9] * 1e3:.1f} ms", "")
            line(f"drag step, 8 clients {name}, 95th", f"{cuts[18] * 1e3:.1f} ms", "")
            line("    answers and errors", f"{len(answers)} and {errors}", "no error")
        three = haul_of_three(server)
        for clients, strips in ((1, False), (8, False), (8, True)):
            answers, errors = bench_drag(
                server, clients=clients, paced=True, only=three, strips=strips
            )
            cuts = statistics.quantiles(answers, n=20)
            who = f"{clients} client{'s' * (clients > 1)}{', with strips' * strips}"
            # while strips are worked out they play already: what is asked beside them may wait
            targets = ("", "") if strips else ("20 ms", "50 ms")
            what = f"drag step, three loads, {who}"
            line(f"{what}, median", f"{cuts[9] * 1e3:.1f} ms", targets[0])
            line(f"{what}, 95th", f"{cuts[18] * 1e3:.1f} ms", targets[1])
            line("    answers and errors", f"{len(answers)} and {errors}", "no error")
        redrawn, paint = bench_browser(server)
        cuts = statistics.quantiles(redrawn, n=20)
        line("pointer's move to figures redrawn, median", f"{cuts[9]:.0f} ms", "33 ms")
        line("pointer's move to figures redrawn, 95th", f"{cuts[18]:.0f} ms", "70 ms")
        took, size = bench_strip(server)
        line("strip of one of three loads, median", f"{took * 1e3:.0f} ms", "250 ms")
        line("strip of one of three loads, packed", f"{size / 1000:.0f} kB", "60 kB")
        line("planner page, first content, cold cache", f"{paint:.0f} ms", "1,000 ms")
        slid = bench_slider(server)
        cuts = statistics.quantiles(slid, n=20)
        line("slider of on and off to the frame that shows it, 95th", f"{cuts[18]:.0f} ms", "33 ms")
        sway_lines(server)
        told, lost = bench_gauge(server)
        cuts = statistics.quantiles(told, n=20)
        line("gauge line to figure, 20 pages watching, median", f"{cuts[9]:.0f} ms", "150 ms")
        line("gauge line to figure, 20 pages watching, 95th", f"{cuts[18]:.0f} ms", "")
        line("    figures and lost ones", f"{len(told)} and {lost}", "none lost")
        first, again = bench_transfer(server)
        line("planner page, first visit", f"{first / 1000:.0f} kB", "200 kB")
        line("planner page, repeat visit", f"{again / 1000:.1f} kB", "30 kB")
        pages, steps, wrong = crowd(server, browsing=50, dragging=8, seconds=CROWD_S)
        cuts = statistics.quantiles(pages, n=20)
        line(
            "50 people browsing, 8 dragging, 60 s: pages, 95th",
            f"{cuts[18] * 1e3:.0f} ms",
            "500 ms",
        )
        cuts = statistics.quantiles(steps, n=20)
        line("    steps of a drag, 95th", f"{cuts[18] * 1e3:.0f} ms", "")
        line("    pages, steps and errors", f"{len(pages)}, {len(steps)} and {wrong}", "no error")
        before = memory_mb(server)
        crowd(server, browsing=20, dragging=4, seconds=FLAT_S - CROWD_S)
        after = memory_mb(server)
        line("memory after 1 and after 5 minutes", f"{before:.0f} and {after:.0f} MB", "flat")
        took, longest = bench_table(server)
        line("5,000-row table, dry run", f"{took:.1f} s", "20 s")
        line("    others' longest write meanwhile", f"{longest * 1e3:.0f} ms", "1,000 ms")
        day_lines(bench_day(server.environment))
        for path, seconds in bench_lists(server):
            line(f"500 machines, 5,000 hauls: {path}, median", f"{seconds * 1e3:.0f} ms", "60 ms")


if __name__ == "__main__":
    main()
