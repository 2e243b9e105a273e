"""Pairs for the ear: A, B, and an X that is one of them, told by hearing alone; and whether one listens by headphones.

Loudness is matched by ITU-R BS.1770, as the library pyloudnorm reckons it, so that nobody tells them by that.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any
from zlib import crc32

import numpy as np
import numpy.typing as npt
import pyloudnorm
from scipy import stats

from hematite.doors import one_of
from hematite.language import say
from hematite.recordings.decoding import Recording
from hematite.simulator import PLAYED_TURNS_PER_S
from hematite.tables import table
from hematite.training.drawing import draw
from hematite.training.levels import level
from hematite.training.sounds import RATE, on_stands, on_the_road
from hematite.training.truth import Truth
from hematite.training.vehicles import vehicle_of

HEADPHONES = "headphones"
LOUDNESS_LUFS, LOUDEST = -26.0, 0.95  # quiet enough that knocks are not cut off
FROM_S, TO_S = 0.5, 4.5  # what is heard of a recording: the ear keeps some seconds
TONES = ("1", "2", "3")
Samples = npt.NDArray[np.float32]


@dataclass(frozen=True)
class Pair:
    """A difference: its words, the cause of each, whether it is heard on the road, and how it is told."""

    key: str
    label: str
    one: str
    other: str
    tell: str
    road: bool = False


@dataclass(frozen=True)
class Trial:
    """One trial: which sounds there are, what can be answered, and which answer is right."""

    sounds: tuple[str, ...]
    answers: tuple[str, ...]
    right: str


def pairs() -> dict[str, Pair]:
    """Return every pair by its key."""
    return {key: Pair(key, **row) for key, row in table("training/pairs.toml")["pair"].items()}


def trial(key: str, *, seed: int) -> Trial:
    """Return a trial of a pair, or of the headphones. Raises `UnknownName`."""
    one_of(key, [*pairs(), HEADPHONES], say("pair to listen to"))
    dice = np.random.default_rng([seed, crc32(key.encode())])
    if key == HEADPHONES:
        return Trial(TONES, TONES, str(dice.choice(TONES)))
    return Trial(("a", "b", "x"), ("a", "b"), str(dice.choice(("a", "b"))))


def sound_of(key: str, which: str, *, number: int, seed: int) -> tuple[Samples, int]:
    """Return one sound of a trial: shape (n,) or, of the headphones, (n, 2), and its rate in Hz.

    `number`: the level. A and B change sides by the seed; X is another take, so that its samples are those of neither.
    """
    known = trial(key, seed=seed)
    one_of(which, known.sounds, say("sound of this pair"))
    if key == HEADPHONES:
        return _tone(which, known.right, seed), RATE
    own = known.right if which == "x" else which
    row = pairs()[key]
    swapped = bool(np.random.default_rng([seed, 1]).integers(2))
    cause = row.other if (own == "b") != swapped else row.one
    return _take(cause, row.road, number, seed, crc32(f"{seed} {which}".encode())), RATE


def named(key: str, which: str, *, seed: int) -> str:
    """Return the cause that A or B is, '' for a sound bearing."""
    row = pairs()[key]
    swapped = bool(np.random.default_rng([seed, 1]).integers(2))
    return row.other if (which == "b") != swapped else row.one


@lru_cache(maxsize=16)
def _take(cause: str, road: bool, number: int, seed: int, take: int) -> Samples:
    level(number)
    name, drawn = draw("corner", "outer_race", number=number, seed=seed)
    truth = Truth.from_json(drawn.to_json() | {"causes": {drawn.at: cause} if cause else {}})
    vehicle = vehicle_of(name)
    if road:
        found = on_the_road(truth, vehicle, place=truth.at, number=take)
    else:
        found = on_stands(truth, vehicle, place=truth.at, turns_per_s=PLAYED_TURNS_PER_S, let_go=False, number=take)
    return matched(_part(found))


def _part(found: Recording) -> Samples:
    return np.asarray(found.samples[int(FROM_S * found.rate) : int(TO_S * found.rate)], dtype=np.float32)


def matched(samples: Samples, *, rate: int = RATE) -> Samples:
    """Return sound at the common loudness, less where it would be cut off."""
    loudness = pyloudnorm.Meter(rate).integrated_loudness(samples.astype(float))
    gain = 10 ** ((LOUDNESS_LUFS - loudness) / 20) if np.isfinite(loudness) else 1.0
    return np.asarray(samples * min(gain, LOUDEST / max(float(np.abs(samples).max()), 1e-9)), dtype=np.float32)


def _tone(which: str, quiet: str, seed: int) -> Samples:
    row = table("training/pairs.toml")[HEADPHONES]
    others = [name for name in TONES if name != quiet]
    turned = others[seed % 2]
    times = np.arange(int(row["seconds"] * RATE)) / RATE
    ramp = np.minimum(1.0, np.minimum(times, times[::-1]) / row["ramp_s"])
    tone = 0.2 * ramp * np.sin(2 * np.pi * row["tone_hz"] * times)
    tone = tone * 10 ** (row["quieter_db"] / 20) if which == quiet else tone
    return np.stack([tone, -tone if which == turned else tone], axis=1).astype(np.float32)


def by_chance(right: int, of: int, answers: int = 2) -> float:
    """Return how often somebody who only guesses is right at least so often (binomial)."""
    return float(stats.binomtest(right, of, 1 / answers, alternative="greater").pvalue) if of else 1.0


def through_headphones(right: Sequence[bool]) -> bool | None:
    """Return whether somebody listens by headphones, by their last trials; None where there are not enough."""
    row: dict[str, Any] = table("training/pairs.toml")[HEADPHONES]
    last = list(right)[-row["of"] :]
    return sum(last) >= row["pass"] if len(last) >= row["of"] else None
