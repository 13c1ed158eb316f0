"""gunicorn: two workers of several threads, so that a silent inverter holds up nobody else."""

from __future__ import annotations

import math
import os
import subprocess
import sys
import threading
import time
from collections.abc import Callable
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
NIGHT_HOURS = range(1, 5)
LOOK_EVERY_S = 1800.0
A_DAY_H, LATE_H = 20.0, 36.0


def on_starting(arbiter: Arbiter) -> None:
    """Hold the installation's file: nobody else serves or replaces it meanwhile."""
    from server.keeping.files import Unfit, hold

    try:
        arbiter.held = hold("served")
    except Unfit as unfit:
        sys.stderr.write(f"{unfit}\n")
        raise SystemExit(1) from None


def _every_night() -> None:
    """A backup in the small hours; by day too, where the last is older than a day and a half."""
    from django.conf import settings

    from server.keeping.backup import age_of_last

    age = age_of_last(settings.BACKUPS)
    hours = age.total_seconds() / 3600 if age is not None else math.inf
    if hours > LATE_H or (hours > A_DAY_H and time.localtime().tm_hour in NIGHT_HOURS):
        subprocess.run([sys.executable, "-m", "server", "backup", "--nightly"], check=False)
    _later(_every_night)


def _later(work: Callable[[], None]) -> None:
    later = threading.Timer(LOOK_EVERY_S, work)
    later.daemon = True
    later.start()


def when_ready(arbiter: Arbiter) -> None:
    """Begin the nightly backups; in the demo, load its jobs before the workers begin: one process
    starts up, not two."""
    if os.environ.get("LONG_NOON_DEMO") != "1":
        _later(_every_night)
    else:
        from django.core.management import call_command
        from django.db import connections

        call_command("load_demo")
        connections.close_all()


def post_worker_init(worker: Worker) -> None:
    """Load the sun's library and work the latest jobs' lines out in the background: the first page
    need not wait for them."""
    from server.jobs.views import warm_lines
    from sun.clear_sky import warm_up

    def warmed() -> None:
        warm_up()
        warm_lines()

    later = threading.Timer(WARM_UP_AFTER_S, warmed)
    later.daemon = True
    later.start()
