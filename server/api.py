"""The API: one router per app; every operation needs a signed-in person unless it says not."""

from __future__ import annotations

from ninja import NinjaAPI
from ninja.security import django_auth

from server import problems
from server.bench.api import router as bench
from server.evidence.api import router as evidence
from server.gateways.api import router as gateways
from server.gridset.api import router as gridset
from server.jobs.api import router as jobs
from server.people.api import router as people
from server.readings.api import router as readings
from server.records.api import router as records
from server.render import QuickJson
from server.shelf.api import router as shelf
from server.testing_files.api import router as testing_files
from server.waking.api import router as waking

api = NinjaAPI(
    title="Long Noon",
    version="1",
    auth=django_auth,
    docs_url=None,
    openapi_url=None,
    renderer=QuickJson(),
)
problems.install(api)
api.add_router("/session", people)
api.add_router("/shelf", shelf)
api.add_router("/bench", bench)
api.add_router("/jobs", jobs)
api.add_router("/jobs", readings)
api.add_router("/jobs", evidence)
api.add_router("/jobs", gridset)
api.add_router("/jobs", gateways)
api.add_router("/jobs", testing_files)
api.add_router("/jobs", waking)
api.add_router("/jobs", records)
