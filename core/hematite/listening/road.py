"""Road tests: what bends, coasting and braking do to the sound of one run whose stretches are marked.

Every test is a difference of levels between two sorts of stretches, in the plain band where it shows most, with its
own doubt from the blocks' scatter. Speed is allowed for: sound power of rolling grows with about the third power of
speed, and the doubt grows with how far the speeds lie apart.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np
import numpy.typing as npt

from hematite.language import later, say
from hematite.listening.situation import Segment
from hematite.recordings.decoding import Samples
from hematite.spectra import PLAIN_BAND_NAMES, PLAIN_BANDS_HZ

Floats = npt.NDArray[np.float64]

BLOCK_S = 0.25
MARGIN_S = 0.4  # left out at each end of a stretch, where one state passes into the next; judgement
SPEED_POWER_DB = 30.0  # dB for ten times the speed, and so many dB of doubt for twice the speed below; judgement
SPEED_DOUBT_DB = 6.0
LEAST_BLOCKS = 4
LEAST_DOUBT_DB = 0.35
QUIET_CREST_DB = 15.5  # of hiss without knocks, a quarter of a second long: about 13; judgement
OWN_LINES, TYRE_HUM = later("the fault lines themselves"), later("the tyre's hum itself")
IN_BENDS = {OWN_LINES: "lines_in_bends", TYRE_HUM: "hum_in_bends"}
CLICKY = 4.0  # crest of quarter-second blocks against the run's middle; judgement


@dataclass(frozen=True)
class RoadTest:
    """One comparison: its kind, the difference and its doubt. Kinds:

    `load` is right-hand bends less left-hand bends: positive points left; `lines_in_bends` and `hum_in_bends` are that
    of what a bearing's lines or a tyre's hum carry by themselves. `coast` and `brake` are that state less
    driving straight on. `surface` is rough road less smooth, of what the noise itself carries where that is known.
    `clicks_…` is how much more the bend clicks than the rest. `pitch` is how much better the lines stand in step with
    the wheel than at one pitch. `words` say it for a mechanic; `hubs` are those that lines may come from.
    """

    kind: str
    db: float
    doubt_db: float
    band: str
    words: str
    hubs: tuple[str, ...] = ()

    @property
    def deviations(self) -> float:
        """Return the difference in its own standard deviations."""
        return self.db / self.doubt_db


@dataclass(frozen=True)
class Carried:
    """What a noise's own lines carry: what they are, in dB by block, shape (blocks,), and the hubs they may be of."""

    name: str
    power_db: Floats
    hubs: tuple[str, ...] = ()


def road_tests(
    samples: Samples,
    *,
    rate: int,
    segments: Sequence[Segment],
    speed_at: Callable[[Floats], Floats] | None,
    lines: Sequence[Carried] = (),
) -> tuple[RoadTest, ...]:
    """Return the tests that the marked stretches allow. `speed_at` gives a relative speed at times in seconds.

    `lines` may add what a noise's own lines carry, those of what leads first. The surface test uses nothing else: the
    road's own roar changes with the surface whatever is worn.
    """
    if not segments:
        return ()
    blocks, crests = _blocks(samples, rate)
    times = block_times(len(samples) / rate)
    speeds = np.maximum(speed_at(times), 1e-3) if speed_at else np.ones(len(times))
    plain = dict(zip(PLAIN_BAND_NAMES, blocks, strict=True))
    carried = {one.name: one.power_db[: len(times)] for one in reversed(lines)}
    named = plain | carried
    state, surface = _states(times, segments), _surfaces(times, segments)
    found = [
        _difference("load", plain, speeds, state == "right", state == "left"),
        *(_in_bends(one, speeds, state) for one in lines),
        _difference("coast", named, speeds, state == "coast", state == "straight"),
        _difference("brake", named, speeds, state == "brake", (state == "straight") | (state == "coast")),
        _clicks("left", crests, state),
        _clicks("right", crests, state),
        _difference("surface", carried, speeds, surface == "rough", surface == "smooth"),
    ]
    return tuple(test for test in found if test is not None)


def pitch_test(gains_db: Floats) -> RoadTest:
    """Return the speed test: lines in step with the wheel against the same lines at one pitch, block by block, in dB.

    A wheel's or bearing's noise rises in pitch with road speed (common practice); an engine's own does not.
    """
    db, doubt = float(np.mean(gains_db)), float(np.hypot(_doubt(gains_db), LEAST_DOUBT_DB))
    follows = say("follows the wheel's speed") if db > 0 else say("keeps its pitch while the speed changes")
    return RoadTest(
        "pitch",
        db,
        doubt,
        OWN_LINES,
        say("What repeats {follows} ({db:.0f} dB).", follows=follows, db=abs(db)),
    )


def block_times(duration_s: float) -> Floats:
    """Return the middles of the blocks that road tests compare, in seconds."""
    return np.asarray((np.arange(int(duration_s / BLOCK_S)) + 0.5) * BLOCK_S)


def _blocks(samples: Samples, rate: int) -> tuple[Floats, Floats]:
    """Return levels in dB, shape (bands, blocks), and crests (peak over RMS above 500 Hz, dB), shape (blocks,)."""
    size = int(BLOCK_S * rate)
    count = len(samples) // size
    frames = samples[: count * size].reshape(count, size)
    bins = np.fft.rfft(frames * np.hanning(size).astype(np.float32), axis=1)
    power = np.square(np.abs(bins)).astype(np.float64)
    freqs = np.arange(power.shape[1]) * rate / size
    levels = [power[:, (freqs >= low) & (freqs < high)].sum(axis=1) for low, high in PLAIN_BANDS_HZ]
    bins = np.fft.rfft(frames, axis=1)
    bins[:, freqs < 500] = 0
    high_part = np.abs(np.fft.irfft(bins, size, axis=1)).astype(np.float64)
    rms = np.sqrt(np.square(high_part).mean(axis=1, dtype=np.float64)) + 1e-12
    crests = high_part.max(axis=1) / rms
    return np.asarray(10 * np.log10(np.array(levels) + 1e-20)), np.asarray(20 * np.log10(crests + 1e-12))


def _states(times: Floats, segments: Sequence[Segment]) -> npt.NDArray[np.str_]:
    return _marked(times, [(segment, segment.state) for segment in segments])


def _surfaces(times: Floats, segments: Sequence[Segment]) -> npt.NDArray[np.str_]:
    """Return the surface where the vehicle neither turned nor braked: a bend would change the noise by itself."""
    return _marked(times, [(s, s.surface if s.state in ("straight", "coast") else "") for s in segments])


def _marked(times: Floats, marks: Sequence[tuple[Segment, str]]) -> npt.NDArray[np.str_]:
    named = np.full(len(times), "", dtype="<U8")
    for segment, name in marks:
        named[(times >= segment.start_s + MARGIN_S) & (times <= segment.end_s - MARGIN_S)] = name
    return named


def _difference(
    kind: str, named: Mapping[str, Floats], speeds: Floats, one: npt.NDArray[np.bool_], other: npt.NDArray[np.bool_]
) -> RoadTest | None:
    if not named or one.sum() < LEAST_BLOCKS or other.sum() < LEAST_BLOCKS:
        return None
    apart = float(np.log2(speeds[one].mean() / speeds[other].mean()))
    allowed = SPEED_POWER_DB * np.log10(2.0) * apart
    tests = []
    for name, row in named.items():
        db = float(np.median(row[one]) - np.median(row[other])) - allowed
        scatter = np.hypot(_doubt(row[one]), _doubt(row[other]))
        tests.append((db, float(np.hypot(np.hypot(scatter, LEAST_DOUBT_DB), SPEED_DOUBT_DB * apart)), name))
    db, doubt, band = max(tests, key=lambda t: abs(t[0]) / t[1])
    return RoadTest(kind, db, doubt, band, _WORDS[kind](db, band))


def _in_bends(lines: Carried, speeds: Floats, state: npt.NDArray[np.str_]) -> RoadTest | None:
    row = {lines.name: lines.power_db[: len(speeds)]}
    found = _difference(IN_BENDS[lines.name], row, speeds, state == "right", state == "left")
    return replace(found, hubs=lines.hubs) if found else None


def _doubt(values: Floats) -> float:
    """Return the standard error of a median of blocks, neighbours counted half: they hear the same gust."""
    return float(1.2533 * np.std(values, ddof=1) / np.sqrt(len(values) / 2))


def _clicks(bend: str, crests: Floats, state: npt.NDArray[np.str_]) -> RoadTest | None:
    inside, rest = state == bend, (state != bend) & (state != "")
    if inside.sum() < LEAST_BLOCKS or rest.sum() < LEAST_BLOCKS:
        return None
    db = float(np.median(crests[inside]) - np.median(crests[rest]))
    if np.median(crests[rest]) > QUIET_CREST_DB:  # it knocks straight on as well: no joint does
        db = 0.0
    doubt = float(np.hypot(np.hypot(_doubt(crests[inside]), _doubt(crests[rest])), LEAST_DOUBT_DB))
    words = say(_SHARPER[bend], db=db) if db > CLICKY else ""
    return RoadTest(f"clicks_{bend}", db, doubt, later("above 500 Hz"), words)


def _either(louder: str, quieter: str) -> Callable[[float, str], str]:
    return lambda db, band: say(louder if db > 0 else quieter, db=abs(db), band=say(band))


_IN_BENDS_WORDS = _either(
    later("{db:.1f} dB louder in right-hand bends ({band})."), later("{db:.1f} dB louder in left-hand bends ({band}).")
)
_SHARPER = {
    "left": later("Knocks stand {db:.0f} dB sharper in left-hand bends."),
    "right": later("Knocks stand {db:.0f} dB sharper in right-hand bends."),
}
_WORDS: Mapping[str, Callable[[float, str], str]] = {
    "load": _IN_BENDS_WORDS,
    "lines_in_bends": _IN_BENDS_WORDS,
    "hum_in_bends": _IN_BENDS_WORDS,
    "coast": _either(
        later("{db:.1f} dB louder coasting than driving straight on ({band})."),
        later("{db:.1f} dB quieter coasting than driving straight on ({band})."),
    ),
    "brake": _either(
        later("{db:.1f} dB louder braking than driving straight on ({band})."),
        later("{db:.1f} dB quieter braking than driving straight on ({band})."),
    ),
    "surface": _either(
        later("On the rough surface {db:.1f} dB louder than on the smooth one ({band})."),
        later("On the rough surface {db:.1f} dB quieter than on the smooth one ({band})."),
    ),
}
