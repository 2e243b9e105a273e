"""Fits: how much a ring is too large for its seat, what it takes to press it there, or to warm it until it drops in."""

from hematite.fits.heat import Warming, seconds_in_air, warming
from hematite.fits.lame import Ring, contact_pressure_mpa, hoop_at_bore_mpa
from hematite.fits.limits import Limits, bearing_limits, limits_of
from hematite.fits.press import Fit, Press, Sleeve, measured_fit, press, seat_fit, sleeves

__all__ = [
    "Fit",
    "Limits",
    "Press",
    "Ring",
    "Sleeve",
    "Warming",
    "bearing_limits",
    "contact_pressure_mpa",
    "hoop_at_bore_mpa",
    "limits_of",
    "measured_fit",
    "press",
    "seat_fit",
    "seconds_in_air",
    "sleeves",
    "warming",
]
