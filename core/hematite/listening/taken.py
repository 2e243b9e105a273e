"""A recording as it is worked on."""

from dataclasses import dataclass
from functools import cached_property

from hematite.envelopes import Sound, Swell
from hematite.recordings import Recording
from hematite.recordings.decoding import Samples
from hematite.speed import WheelTurns
from hematite.traces import HIGHEST_HZ, Trace, traces_of

HUM_ORDERS = 100.0  # a tyre's tread blocks


@dataclass(frozen=True)
class Taken:
    """A recording's samples, their spectrum, and the swells of every band."""

    recording: Recording
    sound: Sound
    banded: tuple[Swell, ...]

    @cached_property
    def traces(self) -> tuple[Trace, ...]:
        """Return what a speed is followed by: not by the hum of the mains."""
        return traces_of(self.sound.up_to(HIGHEST_HZ).without_hum(of_mains=True))

    def hum(self, turns: WheelTurns) -> tuple[Samples, float]:
        """Return the sound itself as far up as a tyre hums at the fastest turn, and its sampling rate."""
        return self.sound.below(HUM_ORDERS * turns.fastest_rate * 1.1)
