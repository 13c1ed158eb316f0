"""gunicorn: two workers of several threads, so that a silent inverter holds up nobody else."""

from __future__ import annotations

import os
import threading
from pathlib import Path

from gunicorn.arbiter import Arbiter
from gunicorn.workers.base import Worker

from server.platform.secret import make_secret

preload_app = True
workers = 2
worker_class = "gthread"
threads = 6
timeout = 60
graceful_timeout = 3
loglevel = "warning"

make_secret(Path(os.environ.get("LONG_NOON_VAR", Path(__file__).parent.parent / "var")))

# The first page comes before the sun.
WARM_UP_AFTER_S = 1.0


def when_ready(arbiter: Arbiter) -> None:
    """In the demo, load its jobs before the workers begin: one process starts up, not two."""
    if os.environ.get("LONG_NOON_DEMO") == "1":
        from django.core.management import call_command
        from django.db import connections

        call_command("load_demo")
        connections.close_all()


def post_worker_init(worker: Worker) -> None:
    """Load the sun's library in the background: the first page need not wait for it."""
    from sun.clear_sky import warm_up

    later = threading.Timer(WARM_UP_AFTER_S, warm_up)
    later.daemon = True
    later.start()
