"""gunicorn: two workers of several threads, so that a silent inverter holds up nobody else."""

from __future__ import annotations

import threading

from gunicorn.workers.base import Worker

workers = 2
worker_class = "gthread"
threads = 6
timeout = 60
graceful_timeout = 3
loglevel = "warning"


def post_worker_init(worker: Worker) -> None:
    """Load the sun's library in the background: the first page need not wait for it."""
    from sun.clear_sky import warm_up

    threading.Thread(target=warm_up, daemon=True).start()
