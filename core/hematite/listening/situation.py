"""How a recording was made: where, with what, doing what, and what is known of the speed."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from hematite.doors import finite, one_of
from hematite.errors import BadSpeed
from hematite.language import say
from hematite.tables import table

_CAPTURES = table("listening/captures.toml")
STATES, SURFACES = tuple(_CAPTURES["states"]), ("", *_CAPTURES["surfaces"])
SENSORS = tuple(_CAPTURES["sensors"])
SITUATIONS = tuple(dict.fromkeys(row["situation"] for row in _CAPTURES.values() if "situation" in row))
# Kinds of speed that say less than so many stretches with speeds of their own: one does not speak for a whole run.
SAYS_LESS = {"unknown": 1, "road": 2}
EASY_M_S2 = 1.5  # how a driver speeds up or slows down between stretches of a test drive; judgement
MOST_OF, AT_LEAST_S = 0.8, 0.01  # of a stretch that a change of speed takes


@dataclass(frozen=True)
class Segment:
    """A stretch of a road run: from `start_s` to `end_s` in `state`, at `speed_kmh` and on a `surface` where known."""

    start_s: float
    end_s: float
    state: str
    speed_kmh: float | None = None
    surface: str = ""


@dataclass(frozen=True)
class Situation:
    """How a recording was made. Levels may be compared only within one `gain_group`, sensor and situation."""

    id: str
    place: str
    sensor: str = "clip"
    situation: str = "stand_driven"
    gain_group: str = ""
    speed: Mapping[str, Any] = field(default_factory=lambda: {"kind": "unknown"})
    segments: tuple[Segment, ...] = ()
    job: str = ""  # after which it was made, '' for before any

    @property
    def comparable_as(self) -> tuple[str, str, str] | None:
        """Return the key under which levels compare, or None when they do not."""
        return (self.gain_group, self.sensor, self.situation) if self.gain_group else None

    @property
    def effective_speed(self) -> Mapping[str, Any]:
        """Return the stated speed, or the profile that the road's stretches make where they tell more."""
        timed = [s for s in self.segments if s.speed_kmh]
        kind = self.speed.get("kind", "unknown")
        if len(timed) < SAYS_LESS.get(kind, len(timed) + 1):
            return self.speed
        return {"kind": "profile", "points": _profile(timed)}


def _profile(stretches: Sequence[Segment]) -> list[tuple[float, float]]:
    """Return points of [s, km/h]: each stretch begins as fast as the one before was, and comes easily to its speed."""
    points: list[tuple[float, float]] = []
    for stretch in stretches:
        kmh = float(stretch.speed_kmh or 0.0)
        takes = abs(kmh - points[-1][1]) / 3.6 / EASY_M_S2 if points else 0.0
        settled = min(takes, MOST_OF * (stretch.end_s - stretch.start_s)) + AT_LEAST_S
        points += [(stretch.start_s + settled, kmh), (stretch.end_s, kmh)]
    return sorted(dict(points).items())  # stretches may overlap a little, as a passenger's clock has them


def segments_from_json(rows: Iterable[Mapping[str, Any]]) -> tuple[Segment, ...]:
    """Read segments of the case format. Raises `BadSpeed` for an end before its start, `UnknownName` for a state."""
    found = []
    for row in rows:
        start = finite(row.get("start_s", 0.0), say("The start of a stretch"))
        end = finite(row.get("end_s", 0.0), say("The end of a stretch"))
        if end <= start or start < 0:
            raise BadSpeed(
                say("A stretch of the road runs from {start:g} s to {end:g} s. Mark it again.", start=start, end=end)
            )
        state = one_of(str(row.get("state", "straight")), STATES, say("state of a stretch"))
        speed = row.get("speed_kmh")
        kmh = None if speed is None else finite(speed, say("The speed of a stretch"))
        found.append(Segment(start, end, state, kmh, one_of(row.get("surface") or "", SURFACES, "surface")))
    return tuple(sorted(found, key=lambda segment: segment.start_s))
