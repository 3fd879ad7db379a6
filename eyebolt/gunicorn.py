"""The server: two processes with threads, enough for a yard on two cores, and beside them
the service that gauges send to."""

import os
import subprocess
import sys
import threading
import time
from typing import Any

workers = int(os.environ.get("EYEBOLT_WORKERS", "2"))
# a page that watches a gauge holds a thread; the settings leave some of them free
threads = int(os.environ.get("EYEBOLT_THREADS", "24"))
# the workers read it from their settings: some threads stay free of streams
os.environ.setdefault("EYEBOLT_GAUGE_STREAMS", str(max(threads - 4, 1)))
worker_class = "gthread"
keepalive = 30
loglevel = "warning"
control_socket_disable = True

_ended = threading.Event()
_hub: list[subprocess.Popen[bytes]] = []


def _keep_hub() -> None:
    """Run the gauge service, and again where it fell."""
    while not _ended.is_set():
        begun = time.monotonic()
        process = subprocess.Popen([sys.executable, "manage.py", "gauge_hub"])
        _hub[:] = [process]
        process.wait()
        # one that cannot even start (its port is taken) has said why, and says it seldom
        _ended.wait(1 if time.monotonic() - begun > 10 else 120)


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
