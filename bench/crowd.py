"""Many people at once: browsing, dragging, taking a table in; what the server needs for it."""

from __future__ import annotations

import gzip
import random
import statistics
import threading
import time
from pathlib import Path
from typing import Final
from urllib.parse import urlencode

from bench.server import Client, Server, haul_of_three, token

CROWD_S: Final = 60.0
FLAT_S: Final = 300.0
PAGES: Final = ("/", "/book/", "/weigh/", "/match/", "/hauls/new/", "/?q=tractor")
ROWS: Final = 5_000


def planner_fields(person: Client, haul: str) -> dict[str, str]:
    """The hidden boxes of a haul's planner."""
    import re

    page = person.ask("GET", haul)[1]
    inner = page[page.index('id="planner"') :]
    return dict(re.findall(r'type="hidden" name="([^"]+)" value="([^"]*)"', inner))


def bench_strip(server: Server, runs: int = 15) -> tuple[float, int]:
    """Median seconds of a strip of one of three loads, and its size as it is sent."""
    person = Client(server)
    haul = haul_of_three(server)
    fields = planner_fields(person, haul) | {"selected": "0"}
    times, size = [], 0
    for n in range(runs + 1):
        fields["to"] = str(float(fields["reference-0"]) + n)
        begin = time.perf_counter()
        status, text = person.ask("POST", f"{haul}strip/", fields)
        times.append(time.perf_counter() - begin)
        if status != 200:
            raise RuntimeError(f"a strip was answered with {status}")
        size = len(gzip.compress(text.encode(), 6))
    return statistics.median(times[1:]), size


def crowd(
    server: Server, *, browsing: int, dragging: int, seconds: float
) -> tuple[list[float], list[float], int]:
    """Seconds of pages and of steps of drags, of so many people at once, and what went wrong.

    Who browses reads a page for a few seconds before the next; who drags keeps the page's pace.
    """
    import re

    pages: list[float] = []
    steps: list[float] = []
    errors = [0]
    end = time.perf_counter() + seconds
    first = Client(server)
    hauls = sorted(set(re.findall(r'href="(/hauls/\d+/)"', first.ask("GET", "/")[1])))

    def browse(seed: int) -> None:
        rng = random.Random(seed)
        person = Client(server, first)
        time.sleep(rng.uniform(0, 3))
        while time.perf_counter() < end:
            begin = time.perf_counter()
            status, _ = person.ask("GET", rng.choice((*PAGES, *hauls)))
            pages.append(time.perf_counter() - begin)
            errors[0] += status != 200
            time.sleep(rng.uniform(2, 5))

    def drag(seed: int) -> None:
        person, haul = Client(server, first), hauls[seed % len(hauls)]
        fields = planner_fields(person, haul) | {"do": "drag", "commit": "0"}
        begin_at, step = float(fields.get("reference-0", "0")), 0
        while time.perf_counter() < end:
            step += 1
            fields["to"] = str(begin_at + step % 40 - 20)
            begin = time.perf_counter()
            status, _ = person.ask("POST", f"{haul}preview/", fields)
            steps.append(time.perf_counter() - begin)
            errors[0] += status != 200
            # what stands beside is asked for so often while a strip is played
            time.sleep(0.3)

    threads = [threading.Thread(target=browse, args=(n,)) for n in range(browsing)]
    threads += [threading.Thread(target=drag, args=(n,)) for n in range(dragging)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return pages, steps, errors[0]


def memory_mb(server: Server) -> float:
    """What the server's processes hold together."""
    total = 0
    for status in Path("/proc").glob("[0-9]*/status"):
        try:
            words = dict(
                line.split(":", 1) for line in status.read_text().splitlines() if ":" in line
            )
            command = (status.parent / "cmdline").read_text()
        except OSError:
            continue
        if f":{server.port}" in command and "gunicorn" in command:
            total += int(words.get("VmRSS", "0").split()[0])
    return total / 1024


def bench_table(server: Server) -> tuple[float, float]:
    """Seconds of a dry run of a table of 5,000 rows, and the longest that another person's write
    took meanwhile."""
    owner = Client(server)
    other = Client(server, owner)
    lines = [f"Hired {n},tractor,{3000 + n},70,25" for n in range(ROWS)]
    head = "name,shape,mass (lb),wheelbase (in),balance ahead (in)"
    page = owner.ask("GET", "/book/tables/machines/")[1]
    begin = time.perf_counter()
    sent = {"text": "\n".join([head, *lines]), "csrfmiddlewaretoken": token(page)}
    owner.connection.request(
        "POST",
        "/book/tables/machines/",
        urlencode(sent),
        {
            "Cookie": "; ".join(f"{k}={v}" for k, v in owner.cookies.items()),
            "Content-Type": "application/x-www-form-urlencoded",
        },
    )
    answer = owner.connection.getresponse()
    answer.read()
    address = answer.getheader("Location")
    if answer.status != 302 or address is None:
        raise RuntimeError(f"the table was answered with {answer.status}")
    writes = []
    form = token(other.ask("GET", "/book/")[1])
    while "hx-trigger" in owner.ask("GET", address)[1]:
        at = time.perf_counter()
        status, _ = other.ask("POST", "/units/", {"units": "us", "csrfmiddlewaretoken": form})
        writes.append(time.perf_counter() - at)
        if status not in (200, 302):
            raise RuntimeError(f"a write was answered with {status}")
        time.sleep(0.2)
    return time.perf_counter() - begin, max(writes)
