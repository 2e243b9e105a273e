"""What one recording tells, and that as plain JSON, to be kept and judged again later without listening again."""

from collections.abc import Mapping
from dataclasses import asdict, dataclass, fields, replace
from typing import Any

from hematite.envelopes import OrderSpectrum
from hematite.families import Family, in_nats
from hematite.listening.road import RoadTest
from hematite.listening.situation import Segment, Situation
from hematite.recordings import Finding, usable
from hematite.spectra import Band

NATS = "nats"  # what strengths are kept in


@dataclass(frozen=True)
class Drag:
    """A coast-down: seconds from one wheel speed to half of it, and how surely the course was followed."""

    from_turns_per_s: float
    halving_s: float
    sureness: float


@dataclass(frozen=True)
class Tone:
    """A tone that is not the wheel's, in words; `at` is its order for a 'geared' one, its Hz for a 'steady' one."""

    kind: str
    at: float
    words: str


@dataclass(frozen=True)
class Heard:
    """What one recording tells. Levels in dB of full scale; `spectrum` is None when no speed is known.

    `speed_words` says how the speed came about. `third_octaves_db` lie at `spectra.THIRD_OCTAVES_HZ`. `tones` are an
    engine's or others', named and not counted.
    """

    situation: Situation
    duration_s: float
    quality: tuple[Finding, ...]
    level_db: float
    band_levels_db: tuple[float, ...]
    third_octaves_db: tuple[float, ...] = ()
    band: Band | None = None
    turns_per_s: float | None = None
    speed_words: str = ""
    drag: Drag | None = None
    families: tuple[Family, ...] = ()
    tones: tuple[Tone, ...] = ()
    road: tuple[RoadTest, ...] = ()
    spectrum: OrderSpectrum | None = None

    @property
    def usable(self) -> bool:
        """Return whether the recording may be judged by."""
        return usable(self.quality)

    @property
    def clipped(self) -> bool:
        """Return whether so much was cut off that its loudness tells nothing."""
        return any(finding.id == "clipped" for finding in self.quality)

    @property
    def comparable_as(self) -> tuple[str, str, str] | None:
        """Return the key under which levels compare, or None when they do not."""
        return None if self.clipped else self.situation.comparable_as

    @property
    def strongest(self) -> Family | None:
        """Return the family that stands out most, if any does."""
        standing = [family for family in self.families if family.standing != "nothing"]
        return max(standing, key=lambda family: family.odds, default=None)


def heard_to_json(heard: Heard) -> dict[str, Any]:
    """Return what was heard as plain JSON; its plot is not part of it."""
    kept = {name: value for name, value in asdict(replace(heard, spectrum=None)).items() if name != "spectrum"}
    kept["situation"]["speed"] = dict(heard.situation.speed)
    return kept | {"strengths": NATS}


def heard_from_json(data: Mapping[str, Any]) -> Heard:
    """Return what `heard_to_json` kept; strengths that it once kept in robust deviations become odds."""
    kept = _known(Heard, data)
    made = dict(data["situation"])
    made["segments"] = tuple(Segment(**segment) for segment in made.get("segments", ()))
    kept["situation"] = Situation(**made)
    kept["quality"] = tuple(Finding(**finding) for finding in data["quality"])
    kept["band"] = Band(**data["band"]) if data["band"] else None
    kept["drag"] = Drag(**data["drag"]) if data.get("drag") else None
    kept["tones"] = tuple(Tone(**tone) for tone in data.get("tones", ()))
    kept["road"] = tuple(RoadTest(**{**test, "hubs": tuple(test.get("hubs", ()))}) for test in data.get("road", ()))
    for name in ("band_levels_db", "third_octaves_db"):
        kept[name] = tuple(data.get(name, ()))
    as_kept = (lambda strength: strength) if data.get("strengths") == NATS else in_nats
    kept["families"] = tuple(_family(family, as_kept(family["strength"])) for family in data["families"])
    return Heard(**kept)


def _family(data: Mapping[str, Any], strength: float) -> Family:
    lines, hubs = tuple((n, o, h) for n, o, h in data["lines"]), tuple(data.get("hubs", ()))
    return Family(**{**_known(Family, data), "lines": lines, "hubs": hubs, "strength": strength})


def _known(made: type, data: Mapping[str, Any]) -> dict[str, Any]:
    """Return what a class still has of what was kept, perhaps by an earlier version."""
    return {name: value for name, value in data.items() if name in {field.name for field in fields(made)}}
