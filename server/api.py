"""The API: one router per app; every operation needs a signed-in person unless it says not."""

from __future__ import annotations

from server.begin.api import router as begin
from server.bench.api import router as bench
from server.catalogue.api import router as catalogue
from server.day.api import router as day
from server.documents.api import router as documents
from server.door import Door
from server.erasure.api import router as erasure
from server.evidence.api import router as evidence
from server.gateways.api import router as gateways
from server.grid_settings.api import router as grid_settings
from server.guests.api import router as guests
from server.hand.api import router as hand
from server.jobs.api import router as jobs
from server.keeping.api import router as keeping
from server.meters.api import router as meters
from server.people.api import router as people
from server.people.current import signed_in
from server.platform import problems
from server.platform.description import DescribedApi
from server.platform.render import QuickJson, StrictJson
from server.portals.api import router as portals
from server.readings.api import router as readings
from server.signing.api import router as signing
from server.switching.api import router as switching
from server.tester_files.api import router as tester_files
from server.weeks.api import router as weeks
from server.yields.api import router as yields

api: DescribedApi = DescribedApi(
    title="Long Noon",
    version="1",
    auth=Door(lambda: api),
    docs_url="/docs",
    docs_decorator=signed_in,
    openapi_url="/openapi.json",
    renderer=QuickJson(),
    parser=StrictJson(),
)
problems.install(api)
api.add_router("", people)
api.add_router("/shelf", catalogue)
api.add_router("/bench", bench)
api.add_router("/begin", begin)
api.add_router("/jobs", jobs)
api.add_router("/jobs", readings)
api.add_router("/jobs", hand)
api.add_router("/jobs", evidence)
api.add_router("/jobs", grid_settings)
api.add_router("/jobs", gateways)
api.add_router("/jobs", portals)
api.add_router("/jobs", meters)
api.add_router("/jobs", tester_files)
api.add_router("/jobs", switching)
api.add_router("/jobs", documents)
api.add_router("/jobs", day)
api.add_router("/weeks", weeks)
api.add_router("/jobs", signing)
api.add_router("/jobs", yields)
api.add_router("/jobs", erasure)
api.add_router("/standing", keeping)
api.add_router("", guests)
