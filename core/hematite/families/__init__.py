"""Fault families: which lines of a faulty ring, ball or cage, brake or tyre stand out of what was heard."""

from hematite.families.combs import CLEAR, FAINT, Comb, Family, combs
from hematite.families.scoring import SOFT, WHOLE_SMEAR, Scorer, bearing_families, unknown_families
from hematite.families.tones import geared_tones, steady_tones_hz
from hematite.families.whole import Turning, tread_family, wheel_scale, whole_families

__all__ = [
    "CLEAR",
    "FAINT",
    "SOFT",
    "WHOLE_SMEAR",
    "Comb",
    "Family",
    "Scorer",
    "Turning",
    "bearing_families",
    "combs",
    "geared_tones",
    "steady_tones_hz",
    "tread_family",
    "unknown_families",
    "wheel_scale",
    "whole_families",
]
