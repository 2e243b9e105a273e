"""Is this recording fit to judge a bearing by, and if not, what to change."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
from scipy import signal

from hematite.language import say
from hematite.recordings.decoding import Recording, Samples
from hematite.tables import table

Floats = npt.NDArray[np.float64]

MAINS_HZ = (50.0, 60.0)
MINUTE_S = 60
MAINS_OVER = 300.0  # times the power around it: 25 dB; judgement
EDGE_HZ, EDGE_FROM_HZ = 400.0, 2000.0  # how steep a codec's edge is, and from where one is looked for; judgement
STRAY_OVER = 4.0  # times the middle block's peak: 12 dB; judgement


@dataclass(frozen=True)
class Finding:
    """One thing wrong with a recording. `level` is 'stop' or 'warn'; `value` is in the table's unit."""

    id: str
    level: str
    value: float
    words: str
    hint: str


def assess_quality(recording: Recording, *, road: bool = False) -> tuple[Finding, ...]:
    """Return what is wrong with a recording; an empty tuple is a good one. Limits: `quality.toml`.

    `road`: made on the road, where the level of everything moves with speed and surface.
    """
    if _level_db(recording.samples) < _limit("silent"):
        return (_finding("silent", max(_level_db(recording.samples), -200.0)),)
    short = tuple(_length(recording))
    if not usable(short):  # nothing else can be told of it
        return short
    checks = [check for check in _CHECKS if not (road and check is _level_moves)]
    return (*short, *(finding for check in checks for finding in check(recording)))


def usable(findings: tuple[Finding, ...]) -> bool:
    """Return whether nothing among the findings forbids judging by the recording."""
    return not any(finding.level == "stop" for finding in findings)


def _limit(name: str) -> float:
    return float(table("recordings/quality.toml")[name]["limit"])


def _finding(name: str, value: float) -> Finding:
    row = table("recordings/quality.toml")[name]
    return Finding(name, row["level"], float(value), say(row["words"], value=value), row["hint"])


def _level_db(samples: Samples) -> float:
    return float(10 * np.log10(np.var(samples) + 1e-30))


def _length(recording: Recording) -> Iterator[Finding]:
    for name in ("too_short", "short"):
        if recording.duration < _limit(name):
            yield _finding(name, recording.duration)
            return


def _clipping(recording: Recording) -> Iterator[Finding]:
    """A clipped wave stays at its own peak for several samples; a loud clean one touches it once."""
    level = np.abs(recording.samples)
    peak = float(level.max())
    at_top = level >= 0.999 * peak
    flat = at_top[:-2] & at_top[1:-1] & at_top[2:]
    share = float(flat.mean()) if peak > 0.25 else 0.0
    for name in ("overdriven", "clipped", "touched_ceiling"):
        if share > _limit(name):
            yield _finding(name, share)
            return


def _offset(recording: Recording) -> Iterator[Finding]:
    offset = abs(float(recording.samples.mean(dtype=np.float64)))
    if offset > _limit("offset"):
        yield _finding("offset", offset)


def _dropouts(recording: Recording) -> Iterator[Finding]:
    """A gap repeats one value exactly; sound through a real converter never does for 5 ms."""
    same = np.zeros(len(recording.samples) + 1, dtype=bool)
    np.equal(recording.samples[1:], recording.samples[:-1], out=same[1:-1])
    edges = np.flatnonzero(same[1:] != same[:-1])  # where a run of one value begins, and where it ends
    runs = edges[1::2] - edges[::2] + 1
    missing = float(runs[runs > max(0.005 * recording.rate, 8)].sum()) / recording.rate
    if missing > _limit("dropouts"):
        yield _finding("dropouts", missing)


def _band_levels_db(recording: Recording) -> Samples:
    """Return levels in dB, shape (bands, half seconds), of seven equal slices of the spectrum."""
    window = min(1024, len(recording.samples))
    _, _, power = signal.spectrogram(recording.samples, recording.rate, nperseg=window, noverlap=0)
    per_frame = max(int(0.5 * recording.rate / window), 1)
    frames = power.shape[1] // per_frame * per_frame
    bands = np.array_split(power[1:, :frames], 7)
    joined = np.array([band.mean(axis=0).reshape(-1, per_frame).mean(axis=1) for band in bands])
    return np.asarray(10 * np.log10(joined + 1e-20), dtype=np.float32)


def _level_moves(recording: Recording) -> Iterator[Finding]:
    """A hand or a gain moves every band by the same dB; a machine that slows down never does."""
    levels = _band_levels_db(recording)
    if levels.shape[1] < 6:
        return
    moves = levels - np.median(levels, axis=1, keepdims=True)
    common = np.median(moves, axis=0)
    swing = float(np.percentile(common, 95) - np.percentile(common, 5))
    strays = float(np.std(moves - common))
    if swing > _limit("level_moves") and strays < swing / 8:
        yield _finding("level_moves", swing)


def _mean_power(recording: Recording, size: int) -> tuple[Floats, Floats]:
    """Return frequencies and the mean power of pieces of `size` samples, a minute at a time to spare memory."""
    pieces = max(MINUTE_S * recording.rate // size, 1) * size
    starts = [n for n in range(0, len(recording.samples), pieces) if len(recording.samples) - n >= size]
    parts = [recording.samples[n : n + pieces] for n in starts]
    found = [signal.welch(part, recording.rate, nperseg=size, noverlap=0) for part in parts]
    return found[0][0], np.average([power for _, power in found], axis=0, weights=[len(part) for part in parts])


def _narrow(recording: Recording) -> Iterator[Finding]:
    """Half the sampling rate is the highest frequency that samples can hold."""
    highest = recording.rate / 2000
    if highest < _limit("narrow"):
        yield _finding("narrow", highest)


def _by_spectrum(recording: Recording) -> Iterator[Finding]:
    freqs, power = _mean_power(recording, min(4096, len(recording.samples)))
    yield from _cut_off(freqs, power)
    yield from _wind(freqs, power)


def _cut_off(freqs: Floats, power: Floats) -> Iterator[Finding]:
    """A codec leaves nothing at all above an edge, less than a converter's own noise; no sound in air ends so."""
    level = 10 * np.log10(power + 1e-20)
    reach = max(round(EDGE_HZ / freqs[1]), 1)
    falls = np.where(freqs[:-reach] > EDGE_FROM_HZ, level[:-reach] - level[reach:], 0.0)
    edge = int(falls.argmax())
    above = level[edge + reach :]
    if falls[edge] > _limit("cut_off") and level[edge] - np.median(above) > _limit("cut_off"):
        yield _finding("cut_off", freqs[edge] / 1000)


def _wind(freqs: Floats, power: Floats) -> Iterator[Finding]:
    share = float(power[(freqs > 0) & (freqs < 80)].sum() / power[freqs > 0].sum())
    if share > _limit("windy"):
        yield _finding("windy", share)


def _mains_hum(recording: Recording) -> Iterator[Finding]:
    """Mains is a line of 50 or 60 Hz that never moves, narrow as no wheel is, and with it much of the energy."""
    size = min(2 * recording.rate, len(recording.samples))
    if size < recording.rate:
        return
    freqs, power = _mean_power(recording, size)
    for mains in MAINS_HZ:
        line = np.abs(freqs - mains) <= 0.6
        around = (np.abs(freqs - mains) > 1.5) & (np.abs(freqs - mains) < 8)
        share = float(power[line].sum() / (power[freqs > 0].sum() + 1e-30))
        if share > _limit("mains_hum") and power[line].max() > MAINS_OVER * np.median(power[around]):
            yield _finding("mains_hum", share)
            return


def _stray_knocks(recording: Recording) -> Iterator[Finding]:
    """A dropped tool is far above everything else and rare; a bearing's knocks come many a second and alike."""
    size = max(int(0.05 * recording.rate), 1)
    blocks = np.abs(recording.samples[: len(recording.samples) // size * size]).reshape(-1, size).max(axis=1)
    high = blocks > STRAY_OVER * np.median(blocks)
    starts = int(np.count_nonzero(high[1:] & ~high[:-1])) + int(high[0]) if len(high) else 0
    if _limit("stray_knocks") <= starts <= recording.duration / 3:
        yield _finding("stray_knocks", starts)


_CHECKS: tuple[Callable[[Recording], Iterator[Finding]], ...] = (
    _clipping,
    _offset,
    _dropouts,
    _level_moves,
    _narrow,
    _by_spectrum,
    _mains_hum,
    _stray_knocks,
)
