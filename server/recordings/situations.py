"""How a recording was made, as the core knows it."""

from hematite.listening import Situation
from hematite.listening.situation import segments_from_json

from recordings.models import Recording


def situation_of(recording: Recording) -> Situation:
    """Return how a recording was made, as the core knows it."""
    return Situation(
        id=str(recording.id),
        place=recording.place,
        sensor=recording.sensor,
        situation=recording.situation,
        gain_group=recording.gain_group,
        speed=recording.speed,
        segments=segments_from_json(recording.segments),
    )
