"""How an installation grows: one of ten jobs beside a large one, each made up in its own folder.

python -m tools.scale            50 crews, 5,000 jobs, a million readings, 20,000 pictures
python -m tools.scale people     fifty people at work for a minute on 300 jobs
"""

from __future__ import annotations

import http.client
import json
import os
import random
import statistics
import subprocess
import sys
import tempfile
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Any
from uuid import UUID, uuid4

ROOT = Path(__file__).resolve().parent.parent
JOB = ROOT / "server" / "demo" / "jobs" / "gull-terrace-2.json"
LOOKS, PICTURE_BYTES, AT_ONCE = 15, 2048, 5000
PEOPLE, MINUTE_S, PORT = 50, 60.0, 8799
# What of ten calls are looks at the list, and readings kept; the rest are looks at a job.
LISTS, READINGS = 0.1, 0.3
READING = {"kind": "supply_voltage", "subject": "L-N"}


@dataclass(frozen=True, kw_only=True)
class Size:
    """What an installation holds."""

    crews: int
    jobs: int
    readings: int
    pictures: int


SMALL = Size(crews=1, jobs=10, readings=2_000, pictures=40)
LARGE = Size(crews=50, jobs=5_000, readings=1_000_000, pictures=20_000)
BUSY = Size(crews=1, jobs=300, readings=15_000, pictures=0)


def made(size: Size) -> list[UUID]:
    """An installation of that size, in the folder that the settings name; the first crew's jobs."""
    from django.contrib.auth.models import User
    from django.core.management import call_command

    from core.files.job import read_job
    from server.evidence.models import EvidenceRow, PictureRow, digest
    from server.jobs.models import JobRow
    from server.jobs.stored import plan_of
    from server.people.membership import found_crew
    from server.people.models import Member
    from server.readings.models import ReadingRow

    call_command("migrate", verbosity=0)
    plan = plan_of(read_job(JOB.read_bytes()))
    crews = [found_crew(f"Crew {number}") for number in range(size.crews)]
    people = User.objects.bulk_create(
        [User(username=f"p{n}") for n in range(max(size.crews, PEOPLE))]
    )
    Member.objects.bulk_create(
        Member(person=one, crew=crews[at % size.crews], role="owner")
        for at, one in enumerate(people)
    )
    rows = [
        JobRow(
            id=(job_id := uuid4()),
            plan=plan | {"id": str(job_id), "name": f"House {number}"},
            crew=crews[number % size.crews],
            created_by=people[0],
        )
        for number in range(size.jobs)
    ]
    JobRow.objects.bulk_create(rows, batch_size=200)
    _readings(ReadingRow, rows, size.readings)
    template = {
        "step": "permit",
        "name": "a.jpg",
        "form": "image/jpeg",
        "note": "",
        "located": False,
    }
    for start in range(0, size.pictures, AT_ONCE):
        numbers = range(start, min(start + AT_ONCE, size.pictures))
        data = [os.urandom(PICTURE_BYTES) for _ in numbers]
        PictureRow.objects.bulk_create(PictureRow(sha256=digest(one), data=one) for one in data)
        EvidenceRow.objects.bulk_create(
            EvidenceRow(
                job=rows[number % len(rows)],
                identity=(identity := str(uuid4())),
                kept=template
                | {
                    "id": identity,
                    "sha256": digest(one),
                    "size_bytes": PICTURE_BYTES,
                    "kept_at": "2026-11-24T12:00:00+00:00",
                    "by": "p0",
                },
            )
            for number, one in zip(numbers, data, strict=True)
        )
    return [row.id for row in rows if row.crew_id == crews[0].pk]


def _readings(model: Any, rows: list[Any], count: int) -> None:
    from datetime import UTC, datetime, timedelta

    each, begun = count // len(rows), datetime.now(UTC) - timedelta(days=20)
    pile: list[Any] = []
    for row in rows:
        for number in range(each):
            at = begun + timedelta(minutes=number)
            pile.append(
                model(
                    job=row, identity=str(uuid4()), kind="supply_voltage", subject="L-N",
                    value=230.0 + number % 20, basis="measured", taken_at=at, kept_at=at, by="p0",
                )
            )  # fmt: skip
        if len(pile) >= AT_ONCE:
            model.objects.bulk_create(pile)
            pile.clear()
    model.objects.bulk_create(pile)


def grown(size: Size) -> dict[str, float]:
    """What the first crew's owner waits for, in ms; the backup in s."""
    from django.contrib.auth.models import User
    from django.test import Client

    from server.keeping.backup import back_up
    from server.keeping.files import database_file

    ids = made(size)
    client = Client(SERVER_NAME="localhost")
    client.force_login(User.objects.get(username="p0"))
    some = random.Random(1).sample(ids, min(len(ids), LOOKS))

    def read(job_id: UUID) -> None:
        body = READING | {"entered": f"{random.uniform(225, 245):.1f} V"}
        answer = client.post(f"/api/jobs/{job_id}/readings", body, "application/json")
        assert answer.status_code == http.client.OK, answer.content[:300]

    figures = {
        "home, nothing kept ready": _ms(lambda: client.get("/api/jobs")),
        "home": statistics.median(_ms(lambda: client.get("/api/jobs")) for _ in range(LOOKS)),
        "a job": statistics.median(_ms(lambda i=one: client.get(f"/api/jobs/{i}")) for one in some),
        "a reading kept": statistics.median(_ms(lambda i=one: read(i)) for one in some),
    }
    begun = time.perf_counter()
    back_up(Path(os.environ["LONG_NOON_VAR"]) / "a.backup")
    figures["backup, s"] = time.perf_counter() - begun
    figures["file, MB"] = database_file().stat().st_size / 1e6
    figures["jobs of the crew"] = len(ids)
    return figures


def _ms(does: Callable[[], Any]) -> float:
    begun = time.perf_counter()
    does()
    return 1000 * (time.perf_counter() - begun)


def people() -> dict[str, float]:
    """Fifty people at once for a minute against the real server: p95 in ms."""
    from importlib import import_module

    from django.conf import settings
    from django.contrib.auth import BACKEND_SESSION_KEY, HASH_SESSION_KEY, SESSION_KEY
    from django.contrib.auth.models import User
    from django.db import connections

    ids = made(BUSY)
    store = import_module(settings.SESSION_ENGINE).SessionStore
    keys = []
    for one in User.objects.order_by("id")[:PEOPLE]:
        session = store()
        session[SESSION_KEY] = str(one.pk)
        session[BACKEND_SESSION_KEY] = "django.contrib.auth.backends.ModelBackend"
        session[HASH_SESSION_KEY] = one.get_session_auth_hash()
        session.save()
        keys.append(session.session_key)
    connections.close_all()
    command = [sys.executable, "-m", "gunicorn", "server.wsgi:application"]
    config = ["--config", "server/gunicorn_conf.py", "--bind", f"127.0.0.1:{PORT}"]
    server = subprocess.Popen([*command, *config], cwd=ROOT)
    try:
        _answers(keys[0])
        # The minute is one of a working day, not the first after a start.
        for key in keys:
            _call("GET", "/api/jobs", key)
        took: dict[str, list[float]] = {"job": [], "reading": [], "list": []}
        until = time.monotonic() + MINUTE_S
        threads = [threading.Thread(target=_works, args=(key, ids, until, took)) for key in keys]
        for one in threads:
            one.start()
        for one in threads:
            one.join()
    finally:
        server.terminate()
        server.wait()
    every = sorted(ms for some in took.values() for ms in some)
    return {
        "calls in a minute": len(every),
        "all, p95": _p95(every),
        **{f"{what}, p95": _p95(sorted(some)) for what, some in took.items()},
    }


def _p95(sorted_ms: list[float]) -> float:
    return sorted_ms[int(0.95 * (len(sorted_ms) - 1))] if sorted_ms else 0.0


def _answers(key: str) -> None:
    for _ in range(100):
        try:
            _call("GET", "/api/jobs", key)
        except OSError:
            time.sleep(0.2)
        else:
            return


def _works(key: str, ids: list[UUID], until: float, took: dict[str, list[float]]) -> None:
    dice = random.Random(key)
    own = dice.sample(ids, 3)
    time.sleep(dice.uniform(0, 1))
    while time.monotonic() < until:
        job_id, roll = dice.choice(own), dice.random()
        if roll < LISTS:
            what, call = "list", ("GET", "/api/jobs", key)
        elif roll < LISTS + READINGS:
            entered = f"{dice.uniform(225, 245):.1f}"
            body = json.dumps(READING | {"entered": entered}).encode()
            what, call = "reading", ("POST", f"/api/jobs/{job_id}/readings", key, body)
        else:
            what, call = "job", ("GET", f"/api/jobs/{job_id}", key)
        took[what].append(_ms(lambda call=call: _call(*call)))
        time.sleep(dice.uniform(0.6, 1.8))


def _call(method: str, path: str, key: str, body: bytes | None = None) -> None:
    line = http.client.HTTPConnection("127.0.0.1", PORT, timeout=30)
    token = "t" * 32
    headers = {"Cookie": f"sessionid={key}; csrftoken={token}", "X-CSRFToken": token}
    if body is not None:
        headers["Content-Type"] = "application/json"
    line.request(method, path, body, headers)
    answer = line.getresponse()
    answer.read()
    line.close()
    if answer.status != http.client.OK:
        raise RuntimeError(f"{method} {path}: {answer.status}")


def main(words: list[str]) -> int:
    """Make it up, measure, print."""
    if words[:1] == ["--one"]:
        import django

        from server.platform.secret import make_secret

        make_secret(Path(os.environ["LONG_NOON_VAR"]))
        django.setup()
        made_of = {"small": SMALL, "large": LARGE}
        found = people() if words[1] == "people" else grown(made_of[words[1]])
        print(json.dumps(found))
        return 0
    names = ["people"] if words == ["people"] else ["small", "large"]
    told = {name: _in_a_folder(name) for name in names}
    for what in told[names[0]]:
        print(f"{what:28}" + "".join(f"{told[name][what]:12.1f}" for name in names))
    return 0


def _in_a_folder(name: str) -> dict[str, float]:
    with tempfile.TemporaryDirectory() as folder:
        settings = {"LONG_NOON_VAR": folder, "DJANGO_SETTINGS_MODULE": "server.settings"}
        made_in = subprocess.run(
            [sys.executable, "-W", "ignore", "-m", "tools.scale", "--one", name],
            cwd=ROOT, env=os.environ | settings, check=True, capture_output=True, text=True,
        )  # fmt: skip
    found: dict[str, float] = json.loads(made_in.stdout.splitlines()[-1])
    return found


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
