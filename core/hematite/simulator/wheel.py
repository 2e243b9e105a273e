"""The sound of one wheel at one speed, or slowing to rest, from a seed: what the simulated pickup plays."""

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from hematite.doors import one_of, positive
from hematite.language import say
from hematite.recordings.decoding import Recording
from hematite.simulator.sources import CONDITIONS, MODES_HZ, Wheel, rolling
from hematite.vehicles import Hub

SLIP_SHARE = 0.01
PLAYED_S, PLAYED_TURNS_PER_S = 8.0, 8.0  # what the simulated pickup plays, where no speed is stated
LEAK_DB = -16.0  # what one corner's noise loses on its way to the next; judgement


@dataclass(frozen=True)
class Pickup:
    """How the sound is taken: rate in Hz, gain as a factor, hiss of the pickup itself as RMS of full scale."""

    rate: int = 48_000
    gain: float = 1.0
    hiss: float = 0.0008


def simulate(
    hub: Hub,
    *,
    condition: str,
    turns_per_s: float,
    duration_s: float,
    seed: int,
    severity: float = 1.0,
    coast: bool = False,
    pickup: Pickup | None = None,
) -> Recording:
    """Return the sound at a hub in a hidden `condition` (a key of `CONDITIONS`).

    With `coast` the wheel starts at `turns_per_s` and slows to rest. Raises `UnknownName` or `BadQuantity`.
    """
    one_of(condition, CONDITIONS, say("hidden condition"))
    pickup = pickup or Pickup()
    dice = np.random.default_rng(seed)
    start = positive(turns_per_s, "Wheel turns a second")
    times = np.arange(int(positive(duration_s, "The length of the recording") * pickup.rate)) / pickup.rate
    rates = start * (1 - times / times[-1]) if coast else np.full_like(times, start)
    ones, zeros = np.ones_like(times), np.zeros_like(times)
    wheel = Wheel(
        hub=hub, times=times, turns=np.cumsum(rates) / pickup.rate, rates=rates, load=ones, torque=zeros,
        steer=zeros, braking=zeros, rate=pickup.rate, severity=severity, slip=SLIP_SHARE, dice=dice,
        modes_hz=tuple(mode * dice.uniform(0.92, 1.08) for mode in MODES_HZ),
    )  # fmt: skip
    sound = rolling(wheel) + CONDITIONS[condition](wheel)
    sound = pickup.gain * sound + pickup.hiss * dice.standard_normal(len(sound))
    return Recording(samples=np.clip(sound, -1, 1).astype(np.float32), rate=pickup.rate)


def simulate_corners(
    hubs: Mapping[str, tuple[Hub, str]],
    *,
    turns_per_s: float,
    duration_s: float,
    seed: int,
    severity: float = 1.0,
    pickup: Pickup | None = None,
) -> dict[str, Recording]:
    """Return one recording per hub id, for hubs given with their conditions; each leaks faintly into the others."""
    pickup = pickup or Pickup()
    own = {
        hub_id: simulate(
            hub, condition=condition, turns_per_s=turns_per_s, duration_s=duration_s, seed=seed + index,
            severity=severity, pickup=pickup,
        )
        for index, (hub_id, (hub, condition)) in enumerate(sorted(hubs.items()))
    }  # fmt: skip
    leak = 10 ** (LEAK_DB / 20)
    total = np.sum([recording.samples for recording in own.values()], axis=0)
    return {
        hub_id: Recording(np.clip((1 - leak) * recording.samples + leak * total, -1, 1).astype(np.float32), pickup.rate)
        for hub_id, recording in own.items()
    }


def simulated_play_mm(hub: Hub, condition: str) -> float:
    """Return the end play in mm that a gauge finds at a hub: within its window, far over it when it is `loose`."""
    low, high = hub.play_window_mm
    return 2.4 * high if condition == "loose" else (low + high) / 2
