"""One recording heard: level, band, envelope on the wheel's axis, fault families, and the corners compared."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

import numpy as np

from hematite.envelopes import HIGHEST_ORDER, OrderSpectrum, band_envelope, low_band, order_spectrum, per_turn
from hematite.families import Family, Scorer, bearing_families, unknown_family
from hematite.recordings import Finding, Recording, assess_quality, usable
from hematite.spectra import Band, knocking_band, level_db, plain_band_levels_db
from hematite.speed import WheelTurns, wheel_turns
from hematite.vehicles import Hub

SHOWN_ORDERS = 30.0
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


def listen(
    recording: Recording, situation: Situation, *, hub: Hub | None, circumference_m: float | None
) -> Heard:
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
    spectrum = order_spectrum(per_turn(envelope, rate=rate, turns=turns))
    heard = replace(heard, band=band, turns_per_s=turns.mean_rate)
    if spectrum is None:
        return heard
    scorer = Scorer(spectrum, spread=turns.spread)
    rows = hub.rows if hub else ()
    found = bearing_families(scorer, rows, rotating=hub.rotating) if hub and rows else (unknown_family(scorer),)
    whole = (scorer.whole_orders("once_a_turn"), _hum(recording, turns))
    return replace(heard, spectrum=spectrum, families=(*found, *(family for family in whole if family)))


def _hum(recording: Recording, turns: WheelTurns) -> Family | None:
    """Return whole orders in the sound itself, not its envelope: a cupped tyre pushes, it does not knock.

    Order 1 is left out: every wheel has a little unbalance.
    """
    low, rate = low_band(recording.samples, rate=recording.rate, top_hz=HIGHEST_ORDER * turns.mean_rate * 1.2)
    spectrum = order_spectrum(per_turn(low, rate=rate, turns=turns))
    return Scorer(spectrum, spread=turns.spread).whole_orders("whole_orders", first=2) if spectrum else None


@dataclass(frozen=True)
class Corner:
    """One recording among its mates: dB over the quietest, and whether it may only be hearing the loudest."""

    heard: Heard
    relative_db: float | None
    overheard: bool


def compare(all_heard: Sequence[Heard]) -> tuple[Corner, ...]:
    """Set each recording against those that may fairly be compared with it; input order is kept.

    A single recording, one without a gain group, or an unusable one gets no relative level.
    """
    return tuple(_corner(heard, all_heard) for heard in all_heard)


def _corner(heard: Heard, all_heard: Sequence[Heard]) -> Corner:
    key = heard.situation.comparable_as
    mates = [h for h in all_heard if h.usable and h.situation.comparable_as == key]
    places = {mate.situation.place for mate in mates}
    if key is None or not heard.usable or len(places) < 2:
        return Corner(heard, None, False)
    levels = [mate.level_db for mate in mates]
    own = [m.level_db for m in mates if m.situation.place == heard.situation.place]
    overheard = max(levels) - max(own) > OVERHEARD_DB
    return Corner(heard, heard.level_db - min(levels), overheard)


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
