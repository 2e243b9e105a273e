"""A case as an open bundle, to take along."""

from cases.models import Case
from cases.services import core_observation, standing
from hematite.bundles import write_bundle
from workshop import media

from recordings.services import recordings_of, situation_of


def bundle(case: Case) -> bytes:
    """Return a case's vehicle, standing recordings and observations as a zipped case bundle."""
    rows = [row for row in recordings_of(case) if not row.withdrawn and not row.after_repair]
    sounds = {}
    for row in rows:
        kept = media.path(row.sound.file)
        sounds[str(row.id)] = (f"{row.place}-{str(row.id)[:8]}{kept.suffix}", kept.read_bytes())
    observations = [core_observation(row) for row in standing(case)]
    return write_bundle(case.core, [situation_of(row) for row in rows], sounds, observations)
