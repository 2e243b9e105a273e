"""A case as an open bundle, to take along."""

from cases.models import Case
from cases.services import core_observation, standing
from hematite.bundles import write_bundle

from recordings.services import situation_of
from recordings.storage import file_of


def bundle(case: Case) -> bytes:
    """Return a case's vehicle, standing recordings and observations as a zipped case bundle."""
    rows = [row for row in case.recorded if not row.withdrawn and not row.after_repair]
    sounds = {}
    for row in rows:
        kept = file_of(row)
        sounds[str(row.id)] = (f"{row.place}-{str(row.id)[:8]}{kept.suffix}", kept.read_bytes())
    observations = [core_observation(row) for row in standing(case)]
    return write_bundle(case.core, [situation_of(row) for row in rows], sounds, observations)
