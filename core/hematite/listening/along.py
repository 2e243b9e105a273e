"""Along a marked run: what the leading noise itself carries, block by block, for the road tests to compare."""

from collections.abc import Sequence

import numpy as np
import numpy.typing as npt
from scipy import signal

from hematite.envelopes import Swell
from hematite.families import AS_LIKELY, TYRE_KINDS, Family
from hematite.listening.heard import Heard
from hematite.listening.road import OWN_LINES, TYRE_HUM, Carried, RoadTest, block_times, pitch_test, road_tests
from hematite.listening.taken import HUM_ORDERS, Taken
from hematite.spectra import Band
from hematite.speed import WheelTurns

Floats = npt.NDArray[np.float64]

TYRE_LINES = 3  # a tyre's highest lines, whose power tells what the surface does to it
WHOLE_SOUND = Band(0.0, HUM_ORDERS, 0.0)
PITCH_RATIO = 1.15  # of the fastest to the slowest speed, for a change of pitch to tell; judgement


def along(heard: Heard, taken: Taken, turns: WheelTurns | None) -> tuple[RoadTest, ...]:
    """Return the road tests of a run, the noise's own lines among what they compare; empty where nothing is marked.

    `turns`: the course on which it was heard.
    """
    if not heard.situation.segments:
        return ()
    lines: list[Carried] = []
    leading = _leading(heard.families)
    if turns is not None and heard.turns_per_s:
        turns = turns.scaled(heard.turns_per_s / turns.mean_rate)
        for family in leading:
            orders = (family.found_order, 2 * family.found_order)
            carried = _line_blocks_db(orders, taken.banded, turns, heard.duration_s)
            lines.append(Carried(OWN_LINES, carried, family.hubs))
        tyre = max((f for f in heard.families if f.kind in TYRE_KINDS), key=_strength, default=None)
        if tyre is not None and tyre.standing != "nothing":
            lines.append(Carried(TYRE_HUM, _hum_blocks_db(tyre, taken, turns, heard.duration_s)))
    pitch = _pitch(leading[0], taken, turns, heard.duration_s) if turns is not None and leading else None
    found = road_tests(
        taken.recording.samples,
        rate=taken.recording.rate,
        segments=heard.situation.segments,
        speed_at=turns.rate_at if turns else None,
        lines=lines,
    )
    return (*found, pitch) if pitch else found


def _leading(families: Sequence[Family]) -> list[Family]:
    """Return a bearing's families that stand about highest, one of each row, the highest first."""
    standing = sorted((f for f in families if f.standing != "nothing" and f.hubs), key=_strength, reverse=True)
    near = [f for f in standing if f.strength > standing[0].strength - AS_LIKELY]
    return list({(f.hubs, f.row): f for f in reversed(near)}.values())[::-1]


def _hum_blocks_db(tyre: Family, taken: Taken, turns: WheelTurns, duration_s: float) -> Floats:
    highest = sorted(tyre.lines, key=lambda line: -line[2])[:TYRE_LINES]
    hum, rate = taken.hum(turns)
    raw = Swell(WHOLE_SOUND, hum, hum, rate, 0.0)
    return _line_blocks_db([order for _, order, _ in highest], [raw], turns, duration_s)


def _pitch(lead: Family, taken: Taken, turns: WheelTurns, duration_s: float) -> RoadTest | None:
    """Return how much better a family's lines stand in step with the wheel than at one pitch; None at one speed."""
    if turns.speed_ratio < PITCH_RATIO:
        return None
    even = WheelTurns(turns.times_s, turns.mean_rate * (turns.times_s - turns.times_s[0]), 0.0)
    orders = (lead.found_order, 2 * lead.found_order)
    in_step, at_one_pitch = (_line_blocks_db(orders, taken.banded, course, duration_s) for course in (turns, even))
    return pitch_test(in_step - at_one_pitch)


def _strength(family: Family) -> float:
    return family.strength


def _line_blocks_db(orders: Sequence[float], banded: Sequence[Swell], turns: WheelTurns, duration_s: float) -> Floats:
    """Return the power of lines at some orders, block by block, in dB: the swell turned back by its own order."""
    times = block_times(duration_s)
    total = np.zeros(len(times))
    for swell in banded:
        clock = np.arange(len(swell.loud)) / swell.rate
        angle = turns.at(clock)
        size = int(4 * (times[0] * 2) * swell.rate) | 1
        window = np.hanning(size) / np.hanning(size).sum()
        for order in orders:
            turned = (swell.loud - swell.mean) * np.exp(-2j * np.pi * order * angle)
            smooth = signal.oaconvolve(turned, window, mode="same")
            total += np.square(np.abs(np.interp(times, clock, smooth.real) + 1j * np.interp(times, clock, smooth.imag)))
    return np.asarray(10 * np.log10(total + 1e-20))
