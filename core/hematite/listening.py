"""One recording heard: level, band, envelope on the wheel's axis, fault families, and the corners compared."""

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass, field, replace
from typing import Any

import numpy as np

from hematite.envelopes import HIGHEST_ORDER, OrderSpectrum, band_envelope, low_band, order_spectrum, per_turn
from hematite.families import FAINT, Family, Scorer, bearing_families, unknown_family, wheel_scale
from hematite.recordings import Finding, Recording, assess_quality, usable
from hematite.spectra import Band, knocking_band, level_db, plain_band_levels_db
from hematite.speed import WheelTurns, wheel_turns
from hematite.vehicles import Hub

SHOWN_ORDERS = 30.0
KNOWN_SPREAD = 0.005  # what is left of the doubt about speed once the wheel's own orders are found; judgement
SAME_ORDER = 0.03  # two corners turn nearly alike; judgement
OVERHEARD_DB = 3.0  # a corner this much quieter than the loudest may only be hearing it; judgement


@dataclass(frozen=True)
class Situation:
    """How a recording was made. Levels may be compared only within one `gain_group`, sensor and situation."""

    id: str
    place: str
    sensor: str = "clip"
    situation: str = "stand_driven"
    gain_group: str = ""
    speed: Mapping[str, Any] = field(default_factory=lambda: {"kind": "unknown"})

    @property
    def comparable_as(self) -> tuple[str, str, str] | None:
        """Return the key under which levels compare, or None when they do not."""
        return (self.gain_group, self.sensor, self.situation) if self.gain_group else None


@dataclass(frozen=True)
class Heard:
    """What one recording tells. Levels in dB of full scale; `spectrum` is None when no speed is known."""

    situation: Situation
    duration_s: float
    quality: tuple[Finding, ...]
    level_db: float
    band_levels_db: tuple[float, ...]
    band: Band | None = None
    turns_per_s: float | None = None
    families: tuple[Family, ...] = ()
    spectrum: OrderSpectrum | None = None

    @property
    def usable(self) -> bool:
        """Return whether the recording may be judged by."""
        return usable(self.quality)

    @property
    def strongest(self) -> Family | None:
        """Return the family that stands out most, if any does."""
        standing = [family for family in self.families if family.standing != "nothing"]
        return max(standing, key=lambda family: family.strength, default=None)


def listen(recording: Recording, situation: Situation, *, hub: Hub | None, circumference_m: float | None) -> Heard:
    """Hear one recording. Raises `BadSpeed` when its stated speed cannot be used."""
    quality = assess_quality(recording)
    heard = Heard(
        situation=situation,
        duration_s=recording.duration,
        quality=quality,
        level_db=level_db(recording.samples),
        band_levels_db=plain_band_levels_db(recording.samples, rate=recording.rate),
    )
    turns = wheel_turns(situation.speed, duration_s=recording.duration, circumference_m=circumference_m)
    if not usable(quality) or turns is None:
        return heard
    return _heard_by_order(heard, recording, turns, hub)


def _heard_by_order(heard: Heard, recording: Recording, turns: WheelTurns, hub: Hub | None) -> Heard:
    band = knocking_band(recording.samples, rate=recording.rate)
    envelope, rate = band_envelope(recording.samples, rate=recording.rate, band=band)
    knocks = order_spectrum(per_turn(envelope, rate=rate, turns=turns))
    top_hz = HIGHEST_ORDER * turns.mean_rate * 1.2
    low, low_rate = low_band(recording.samples, rate=recording.rate, top_hz=top_hz)
    hum = order_spectrum(per_turn(low, rate=low_rate, turns=turns))
    heard = replace(heard, band=band, turns_per_s=turns.mean_rate)
    if knocks is None or hum is None:
        return heard
    wheel, spread = _true_speed(knocks, hum, turns.spread)
    knocks, hum = knocks.rescaled(wheel), hum.rescaled(wheel)
    families = _families(Scorer(knocks, spread=spread), Scorer(hum, spread=spread), hub)
    return replace(heard, spectrum=knocks, families=families, turns_per_s=turns.mean_rate * wheel)


def _true_speed(knocks: OrderSpectrum, hum: OrderSpectrum, spread: float) -> tuple[float, float]:
    """Return the wheel's speed over the stated one and what doubt is left: its whole orders tell, if they stand."""
    scale, sureness = max((wheel_scale(s, spread=spread) for s in (knocks, hum)), key=lambda found: found[1])
    return (scale, KNOWN_SPREAD) if sureness >= FAINT else (1.0, spread)


def _families(knocks: Scorer, hum: Scorer, hub: Hub | None) -> tuple[Family, ...]:
    """Return the bearing's families, the scrape (whole orders of the knocks) and the hum (of the sound itself).

    A cupped tyre pushes, it does not knock. Its order 1 is left out: every wheel has a little unbalance.
    """
    bearing = bearing_families(knocks, hub.rows, rotating=hub.rotating) if hub and hub.rows else ()
    return (
        *(bearing or (unknown_family(knocks),)),
        knocks.whole_orders("once_a_turn"),
        hum.whole_orders("whole_orders", first=2),
    )


@dataclass(frozen=True)
class Corner:
    """One recording among its mates: dB over the quietest, whether it may only be hearing the loudest, and the kinds
    of families that a mate carries with more power (`echoes`): noise that leaked in and convicts nobody here."""

    heard: Heard
    relative_db: float | None
    overheard: bool
    echoes: frozenset[str] = frozenset()


def compare(all_heard: Sequence[Heard]) -> tuple[Corner, ...]:
    """Set each recording against those that may fairly be compared with it; input order is kept.

    A single recording, one without a gain group, or an unusable one gets no relative level.
    """
    return tuple(_corner(heard, all_heard) for heard in all_heard)


def _corner(heard: Heard, all_heard: Sequence[Heard]) -> Corner:
    key = heard.situation.comparable_as
    mates = [h for h in all_heard if h.usable and h.situation.comparable_as == key]
    others = [mate for mate in mates if mate.situation.place != heard.situation.place]
    if key is None or not heard.usable or not others:
        return Corner(heard, None, False)
    levels = [mate.level_db for mate in mates]
    own = [m.level_db for m in mates if m.situation.place == heard.situation.place]
    echoes = frozenset(f.kind for f in heard.families if any(_louder_at(mate, f) for mate in others))
    return Corner(heard, heard.level_db - min(levels), max(levels) - max(own) > OVERHEARD_DB, echoes)


def _louder_at(mate: Heard, family: Family) -> bool:
    """Return whether a mate carries the same family with clearly more power."""
    return any(
        other.kind == family.kind
        and other.standing != "nothing"
        and abs(other.found_order / family.found_order - 1) < SAME_ORDER
        and other.power_db > family.power_db + OVERHEARD_DB
        for other in mate.families
    )


def shown_spectrum(heard: Heard, *, points: int = 1500) -> dict[str, list[float]]:
    """Return the order spectrum for a plot: `orders` and `db`, thinned by maxima to at most `points`."""
    if heard.spectrum is None:
        return {"orders": [], "db": []}
    keep = heard.spectrum.orders <= SHOWN_ORDERS
    orders, db = heard.spectrum.orders[keep], heard.spectrum.db()[keep]
    step = max(int(np.ceil(len(orders) / points)), 1)
    usable_length = len(orders) // step * step
    tops = db[:usable_length].reshape(-1, step).max(axis=1)
    return {
        "orders": [round(float(o), 4) for o in orders[:usable_length:step]],
        "db": [round(float(v), 2) for v in tops],
    }


def heard_to_json(heard: Heard) -> dict[str, Any]:
    """Return what was heard as plain JSON, to be kept and judged again later without listening again."""
    kept = {name: value for name, value in asdict(replace(heard, spectrum=None)).items() if name != "spectrum"}
    kept["situation"]["speed"] = dict(heard.situation.speed)
    return kept


def heard_from_json(data: Mapping[str, Any]) -> Heard:
    """Return what `heard_to_json` kept; its plot is not part of it."""
    fields = dict(data)
    fields["situation"] = Situation(**data["situation"])
    fields["quality"] = tuple(Finding(**finding) for finding in data["quality"])
    fields["band"] = Band(**data["band"]) if data["band"] else None
    fields["band_levels_db"] = tuple(data["band_levels_db"])
    fields["families"] = tuple(
        Family(**{**family, "lines": tuple((n, o, h) for n, o, h in family["lines"])}) for family in data["families"]
    )
    return Heard(**fields)
