"""What a pickup hears at a vehicle that hides something."""

from collections.abc import Mapping, Sequence
from typing import Any

from hematite.recordings.decoding import Recording
from hematite.simulator.scenes import Drive, Scene, Trouble, coast_down, record, road_run, steady
from hematite.training.drawing import condition_of
from hematite.training.truth import Truth
from hematite.vehicles import Vehicle

RATE = 32_000
SECONDS = 8.0
DRIFT, BEND = 0.004, 1.2  # how a speed held by hand wanders, how a wheel that was let go slows down; judgement
CIRCUMFERENCE_M = 2.0  # where nobody knows the tyre
# The road test that comes with a case: straight on, both bends, coasting; at a speed that a road allows.
ROAD: Sequence[Mapping[str, Any]] = [
    {"start_s": 3.0 * n, "end_s": 3.0 * (n + 1), "state": state, "speed_kmh": 70.0}
    for n, state in enumerate(("straight", "left", "right", "left", "right", "coast"))
]


def on_stands(
    truth: Truth, vehicle: Vehicle, *, place: str, turns_per_s: float, let_go: bool, number: int
) -> Recording:
    """Return what is heard at a hub on stands, its wheel turned evenly or spun and let go. `number` seeds the noise."""
    if let_go:
        drive = coast_down(rate=RATE, seconds=SECONDS, turns_per_s=turns_per_s, stops_after_s=SECONDS * 1.15, bend=BEND)
    else:
        drive = steady(rate=RATE, seconds=SECONDS, turns_per_s=turns_per_s, drift=DRIFT, seed=number)
    return _recorded(truth, vehicle, drive, place, number, alone=let_go, road=False)


def on_the_road(truth: Truth, vehicle: Vehicle, *, place: str, number: int) -> Recording:
    """Return what is heard on the road test `ROAD`, at a hub or in the 'cabin'."""
    circumference = vehicle.circumference or CIRCUMFERENCE_M
    drive = road_run(rate=RATE, segments=ROAD, circumference_m=circumference, seed=number)
    return _recorded(truth, vehicle, drive, place, number, alone=False, road=True)


def _recorded(
    truth: Truth, vehicle: Vehicle, drive: Drive, place: str, number: int, *, alone: bool, road: bool
) -> Recording:
    hidden = {hub: condition_of(cause, road=road) for hub, cause in truth.causes.items()}
    scene = Scene(vehicle, hidden, Trouble(**truth.trouble), truth.seed)
    return record(scene, drive, place=place, number=number, alone=alone)
