"""One band of a recording: heard alone, and seen per wheel turn."""

import numpy as np
import scipy.fft

from hematite.envelopes import Sound, order_spectrum, per_turn, swells
from hematite.errors import BadQuantity
from hematite.language import say
from hematite.listening.hearing import followed
from hematite.listening.shown import thinned
from hematite.listening.situation import Situation
from hematite.listening.taken import Taken
from hematite.recordings import Recording
from hematite.spectra import Band
from hematite.speed import wheel_turns
from hematite.vehicles import Vehicle

HEARD_RMS = 0.1  # of full scale: loud enough for a phone, with room for knocks of ten times that; judgement
LOWEST_HZ, NARROWEST = 20.0, 1.05  # and high over low


def _as_band(recording: Recording, low_hz: float, high_hz: float) -> Band:
    top = 0.49 * recording.rate
    if not LOWEST_HZ <= low_hz < high_hz or high_hz < NARROWEST * low_hz:
        raise BadQuantity(
            say("From {low_hz:g} to {high_hz:g} Hz is no band. Drag its edges apart.", low_hz=low_hz, high_hz=high_hz)
        )
    if low_hz >= top:
        raise BadQuantity(say("This recording holds nothing above {top:.0f} Hz. Move the band down.", top=top))
    return Band(low_hz, min(high_hz, top), 0.0)


def only_band(recording: Recording, *, low_hz: float, high_hz: float) -> Recording:
    """Return one band alone, brought to a common loudness so that corners can be told apart by their sound.

    Raises `BadQuantity` for a band that is none or lies beyond the recording.
    """
    band = _as_band(recording, low_hz, high_hz)
    sound = Sound.of(recording.samples, rate=recording.rate)
    freqs = np.arange(len(sound.bins)) * sound.rate / sound.padded
    bins = np.where((freqs >= band.low_hz) & (freqs <= band.high_hz), sound.bins, 0)
    samples = scipy.fft.irfft(bins, sound.padded)[: sound.length]
    loudness = HEARD_RMS / (float(np.sqrt(np.mean(np.square(samples)))) + 1e-9)
    return Recording(np.clip(samples * min(loudness, 1e4), -1, 1).astype(np.float32), recording.rate)


def spectrum_in_band(
    recording: Recording, situation: Situation, *, vehicle: Vehicle, low_hz: float, high_hz: float
) -> dict[str, list[float]]:
    """Return the order spectrum of one band for a plot; empty where no speed is stated. Raises `BadQuantity`."""
    band = _as_band(recording, low_hz, high_hz)
    turns = wheel_turns(situation.effective_speed, duration_s=recording.duration, circumference_m=vehicle.circumference)
    if turns is None:
        return {"orders": [], "db": []}
    sound = Sound.of(recording.samples, rate=recording.rate)
    banded = swells(sound, [band], fastest_turns_per_s=turns.fastest_rate)
    found = order_spectrum(
        per_turn(
            banded[0].values,
            rate=banded[0].rate,
            turns=followed(Taken(recording, sound, tuple(banded)), turns, situation),
        )
    )
    return thinned(found) if found else {"orders": [], "db": []}
