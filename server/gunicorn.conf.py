"""How the server runs: as many workers as JOLLY_WORKERS says, each with a few threads; no state in any of them."""

import os
import socket
import struct
import tempfile
from typing import Any

wsgi_app = "config.wsgi"
pythonpath = ".."
worker_class = "gthread"
workers = int(os.environ.get("JOLLY_WORKERS") or 2)
threads = int(os.environ.get("JOLLY_THREADS") or 4)
loglevel = "warning"
keepalive = 30  # seconds; longer than a page is silent while somebody plays
timeout = 60  # a worker that says nothing for so long is replaced: longer than any request may take
graceful_timeout = 25  # for what is being answered when it is told to stop
max_requests, max_requests_jitter = 50_000, 5_000  # then a worker is replaced: whatever it gathered is let go
limit_request_line, limit_request_fields, limit_request_field_size = 4_096, 60, 8_190

_SILENT = 10  # seconds within which something has to come from who has begun to send

if os.environ.get("JOLLY_METRICS_TOKEN"):
    # Workers count together, in files of a folder that lasts as long as the server.
    os.environ.setdefault("PROMETHEUS_MULTIPROC_DIR", tempfile.mkdtemp(prefix="jolly-lattice-metrics-"))


def when_ready(server: Any) -> None:
    """Have the system end a wait for more of a half-sent request: accepted connections inherit it."""
    for listener in server.LISTENERS:
        listener.sock.setsockopt(socket.SOL_SOCKET, socket.SO_RCVTIMEO, struct.pack("ll", _SILENT, 0))


def child_exit(server: Any, worker: Any) -> None:
    """Forget what only a worker that has ended could say of itself."""
    if os.environ.get("PROMETHEUS_MULTIPROC_DIR"):
        from prometheus_client.multiprocess import mark_process_dead  # noqa: PLC0415 - after the folder is known

        mark_process_dead(worker.pid)  # type: ignore[no-untyped-call]
