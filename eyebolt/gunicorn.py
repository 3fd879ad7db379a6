"""The server: two processes with threads, enough for a yard on two cores."""

import os

workers = int(os.environ.get("EYEBOLT_WORKERS", "2"))
threads = int(os.environ.get("EYEBOLT_THREADS", "2"))
worker_class = "gthread"
keepalive = 30
loglevel = "warning"
control_socket_disable = True
