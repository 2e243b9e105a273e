"""Fault families: which lines of a faulty ring, ball or cage, brake or tyre stand out of what was heard."""

from hematite.families.combs import AS_LIKELY, CLEAR, FAINT, LUCK, UNSIZED, Comb, Family, combs
from hematite.families.ear import Ear
from hematite.families.gears import GEARS, gear_family, song_of
from hematite.families.rings import (
    BEARING_KINDS,
    MARKS,
    WORN,
    WORN_HARMONICS,
    bearing_families,
    surest_first,
    unknown_families,
)
from hematite.families.tones import geared_tones, steady_tones_hz
from hematite.families.whole import (
    SURE,
    TYRE_KINDS,
    Turning,
    hum_family,
    in_nats,
    once_a_turn,
    tread_family,
    wheel_scale,
    whole_families,
)

__all__ = [
    "AS_LIKELY",
    "BEARING_KINDS",
    "CLEAR",
    "FAINT",
    "GEARS",
    "LUCK",
    "MARKS",
    "SURE",
    "TYRE_KINDS",
    "UNSIZED",
    "WORN",
    "WORN_HARMONICS",
    "Comb",
    "Ear",
    "Family",
    "Turning",
    "bearing_families",
    "combs",
    "gear_family",
    "geared_tones",
    "hum_family",
    "in_nats",
    "once_a_turn",
    "song_of",
    "steady_tones_hz",
    "surest_first",
    "tread_family",
    "unknown_families",
    "wheel_scale",
    "whole_families",
]
