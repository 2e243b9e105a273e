"""One recording heard: level, speed, bands, envelopes on the wheel's axis, fault families, road tests."""

from collections.abc import Sequence
from dataclasses import replace

import numpy as np
import numpy.typing as npt

from hematite.envelopes import Sound, swells
from hematite.families import BEARING_KINDS, GEARS, LUCK, MARKS, UNSIZED, Family
from hematite.language import later, say
from hematite.listening.along import along
from hematite.listening.at_its_side import Course, at_its_side
from hematite.listening.by_order import Bearing, bearings_at, by_order
from hematite.listening.heard import Heard
from hematite.listening.lasting import lasting
from hematite.listening.run_down import AS_STATED, heard_spun
from hematite.listening.situation import Situation
from hematite.listening.taken import Taken
from hematite.recordings import Recording, assess_quality, usable
from hematite.spectra import heard_bands, level_db, plain_band_levels_db
from hematite.speed import WheelTurns, follow, wheel_turns
from hematite.vehicles import Vehicle

Floats = npt.NDArray[np.float64]

# How far a speed may be from what was stated, in its logarithm, and how far it usually is: a dial is read once, a log
# comes late; judgement.
KEPT_TO = {
    "road": (0.5, 0.15),
    "wheel": (0.5, 0.15),
    "counted": (0.5, 0.15),
    "profile": (0.08, 0.015),
    "marks": (0.08, 0.02),
}
FASTEST_SPUN = 9.0  # turns a second; an arm does no more
FASTEST_DRIVEN = 20.0
# Asked of 38 driven recordings of another author's whose speed was kept back, a search named 3 right and 11 wrong.
NOT_STATED = later(
    "Not stated, and the sound of a driven wheel does not tell it: write the speed down, or mark its turns."
)
CHANGED = later("; it was not kept to, and how it changed was read from the sound")


NEED_THE_TYRE = ("road", "profile")  # kinds of speed; a size that cannot be read hinders no other


def listen(recording: Recording, situation: Situation, *, vehicle: Vehicle) -> Heard:
    """Hear one recording of a vehicle. Raises `BadSpeed` when its stated speed cannot be used."""
    quality = assess_quality(recording, road=situation.situation == "road")
    heard = Heard(
        situation=situation,
        duration_s=recording.duration,
        quality=quality,
        level_db=level_db(recording.samples),
        band_levels_db=plain_band_levels_db(recording.samples, rate=recording.rate),
    )
    speed = situation.effective_speed
    size = vehicle.circumference if speed.get("kind") in NEED_THE_TYRE else None
    stated = wheel_turns(speed, duration_s=recording.duration, circumference_m=size)
    if not usable(quality):
        return heard
    found = _heard(heard, recording, stated, vehicle)
    families = [f for f in found.families if f.kind != GEARS or vehicle.kind == "powered"]  # what has no gears
    if situation.situation != "stand_spin":
        families = [_by_luck(family) for family in families]
    return replace(found, families=tuple(families))


def _by_luck(family: Family) -> Family:
    """Return a bearing's family with how common it is that something else that turns stands so."""
    unsized = family.blind or (family.kind in MARKS and not family.row)
    return replace(family, luck=LUCK * (UNSIZED if unsized else 1.0)) if family.kind in BEARING_KINDS else family


def _heard(heard: Heard, recording: Recording, stated: WheelTurns | None, vehicle: Vehicle) -> Heard:
    bearings = bearings_at(heard.situation.place, vehicle)
    spun = heard.situation.situation == "stand_spin"
    counted = stated.count if stated and spun and heard.situation.effective_speed.get("kind") == "counted" else None
    even = stated if not counted else None  # turns counted say nothing of how a wheel let go shares them out
    fastest = even.fastest_rate if even else FASTEST_SPUN if spun else FASTEST_DRIVEN
    sound = Sound.of(recording.samples, rate=recording.rate)
    bands = heard_bands(recording.samples, rate=recording.rate)
    heard = replace(heard, band=bands[0], third_octaves_db=sound.third_octaves_db())
    sound = sound.without_hum() if spun else sound
    taken = Taken(recording, sound, tuple(swells(sound, bands, fastest_turns_per_s=fastest)))
    if spun:
        return heard_spun(heard, taken, bearings, stated, counted)
    if stated is None:
        return replace(heard, speed_words=say(NOT_STATED), road=along(heard, taken, None))
    found, kept_to = _on_its_course(replace(heard, speed_words=say(AS_STATED)), taken, stated, bearings)
    found = lasting(found, taken, kept_to, bearings)
    heard, kept_to = at_its_side((found, kept_to), taken, stated, bearings, vehicle)
    return replace(heard, road=along(heard, taken, kept_to))


def _on_its_course(heard: Heard, taken: Taken, turns: WheelTurns, bearings: Sequence[Bearing]) -> Course:
    """Return what is heard at the speed as it was stated, with the changes that it left out where the sound tells."""
    kept_to = followed(taken, turns, heard.situation)
    if kept_to is not turns:
        heard = replace(heard, speed_words=heard.speed_words + say(CHANGED))
    return by_order(heard, taken, kept_to, bearings), kept_to


def followed(taken: Taken, turns: WheelTurns, situation: Situation) -> WheelTurns:
    """Return the turns with the changes that a stated speed left out."""
    reach, doubt = KEPT_TO[str(situation.effective_speed.get("kind"))]
    return follow(taken.traces, turns, reach=reach, doubt=doubt)
