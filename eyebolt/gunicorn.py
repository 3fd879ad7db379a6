"""The server: two processes with threads, enough for a yard on two cores, and beside them
the service that gauges send to."""

import os
import subprocess
import sys
import threading
import time
from typing import Any

from gauge.hub import CANNOT_LISTEN

workers = int(os.environ.get("EYEBOLT_WORKERS", "2"))
# a page that watches a gauge holds a thread; the settings leave some of them free
threads = int(os.environ.get("EYEBOLT_THREADS", "24"))
# the workers read it from their settings: some threads stay free of streams
os.environ.setdefault("EYEBOLT_GAUGE_STREAMS", str(max(threads - 4, 1)))
worker_class = "eyebolt.worker.Worker"
# what is in hand when the server is told to stop
graceful_timeout = 5
loglevel = "warning"
control_socket_disable = True

_ended = threading.Event()
_hub: list[subprocess.Popen[bytes]] = []


def _keep_hub() -> None:
    """Run the gauge service, and again where it fell: soon, and less and less soon where it
    falls again and again, or cannot listen because its port is taken. It has said why."""
    pause = SOONEST_S
    while not _ended.is_set():
        begun = time.monotonic()
        process = subprocess.Popen([sys.executable, "manage.py", "gauge_hub"])
        _hub[:] = [process]
        found = process.wait()
        pause = next_pause(pause, ran_s=time.monotonic() - begun, found=found)
        _ended.wait(pause)


SOONEST_S, LATEST_S, LONG_S = 1.0, 300.0, 120.0


def next_pause(last: float, *, ran_s: float, found: int) -> float:
    """Seconds until the service is tried again, that ran for ``ran_s`` and ended with ``found``.

    One that ran for long starts soon; how long it takes to find its port taken says how busy the
    machine is, and nothing else.
    """
    if found != CANNOT_LISTEN and ran_s > LONG_S:
        return SOONEST_S
    return min(2 * last, LATEST_S)


SWITCH_S = 0.001
"""Seconds after which a thread that works makes room for one that waits: what is quick asks the
database several times, and would wait each time for what takes long beside it."""


def post_worker_init(worker: Any) -> None:
    """Let quick requests through between the steps of long ones."""
    sys.setswitchinterval(SWITCH_S)


def when_ready(server: Any) -> None:
    """Start the gauge service beside the workers."""
    if os.environ.get("EYEBOLT_GAUGE_PORT", "8765") != "0":
        threading.Thread(target=_keep_hub, daemon=True).start()


def on_exit(server: Any) -> None:
    """End it with the server."""
    _ended.set()
    for process in _hub:
        process.terminate()
        process.wait(5)
