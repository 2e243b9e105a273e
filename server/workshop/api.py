"""The API: one router per noun."""

from bundles.api import router as bundles
from cases.api import router as cases
from fleet.api import router as fleet
from garage.api import router as garage
from jobs.api import router as jobs
from keeping.api import router as keeping
from logbook.api import router as logbook
from ninja import NinjaAPI
from people.api import router as people
from people.permissions import May
from photos.api import router as photos
from policies.api import router as policies
from recordings.api import router as recordings
from reference.api import router as reference
from sums.api import router as sums
from training.api import router as training
from upkeep.api import router as upkeep
from verdicts.api import router as verdicts

from workshop import refusals
from workshop.doorstep import router as doorstep

api = NinjaAPI(title="Hematite", version="1", auth=May(), openapi_url="/openapi.json", docs_url=None)
ROUTERS = (
    people,
    policies,
    reference,
    garage,
    cases,
    photos,
    recordings,
    verdicts,
    jobs,
    sums,
    upkeep,
    logbook,
    bundles,
    fleet,
    training,
    keeping,
    doorstep,
)
for router in ROUTERS:
    api.add_router("", router)
refusals.install(api)
