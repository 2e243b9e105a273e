"""The bench's own way of setting a practice nut."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from hematite.following import Progress
from hematite.language import later, say
from hematite.play import LEAST_READINGS, end_play
from hematite.setting import angle_for_play, steps_a_turn, windup
from hematite.setting.slots import aim_mm
from hematite.threads import read_thread
from hematite.training.hands import SCATTER_MM, scattered_mm
from hematite.training.nuts import known_of, turned
from hematite.training.observed import Observed, Step
from hematite.training.truth import Truth
from hematite.vehicles import Hub, Vehicle

MOST_TRIES = 3  # of a place for a nut
SEEN_TO_DRAG = 0.95  # a dial that reads play at a hub that drags seldom deceives; judgement


def set_nut(truth: Truth, vehicle: Vehicle) -> Observed:
    """Set a practice nut: by the angle, by the dial, to the lock's place, and by the dial once it is locked.

    Where locking takes it out of the window the next place is tried, or it is set that much the other way.
    """
    hub = vehicle.hub(truth.at)
    assert hub is not None
    known = known_of(hub, vehicle)
    thread, low, high = read_thread(known["thread"]), *hub.play_window_mm
    left = {"thread": known["thread"], "preload_nm": known.get("preload_nm", 0.0)}
    lost = windup(preload_nm=left["preload_nm"], nut_diameter_mm=thread.diameter_mm)
    aim = aim_mm(low, high, known.get("where", "middle"))
    angle = float(round(angle_for_play(pitch_mm=thread.pitch_mm, play_mm=aim, lost=lost).angle_deg))
    minutes = Progress().minutes("end_play", hub.id)
    steps = [_read(truth, hub, left | {"angle_deg": angle}, minutes, locked=False)]
    read = steps[0].mean_mm
    if turned(truth, hub, angle_deg=angle, **left).drags and read > 2 * SCATTER_MM:
        return Observed(hub.id, "drags", SEEN_TO_DRAG, tuple(one.step for one in steps))
    moved = 0.0
    for _ in range(MOST_TRIES):
        wished = angle + (aim - moved - read) / thread.pitch_mm * 360
        angle_now = _place(truth, known, wished)
        steps.append(_read(truth, hub, left | {"angle_deg": angle_now}, minutes, locked=True))
        found = steps[-1]
        if found.inside > 0.5:
            break
        moved = found.mean_mm - read - (angle_now - angle) * thread.pitch_mm / 360
    nut = left | {"angle_deg": angle_now}
    return Observed(hub.id, "set", found.inside, tuple(one.step for one in steps), {"nut": nut})


def _place(truth: Truth, known: Mapping[str, Any], wished_deg: float) -> float:
    """Return the place of the lock that is nearest to an angle; any angle where the lock takes the nut everywhere."""
    if "next_deg" not in truth.nut:
        return max(round(wished_deg), 0)
    step = 360 / steps_a_turn(lock=known["lock"], slots=known["slots"], ends=known.get("ends", 2))
    return float(max(round((wished_deg - truth.nut["next_deg"]) / step), 0) * step + truth.nut["next_deg"])


@dataclass(frozen=True)
class _Read:
    """Three readings of a dial: their mean, and how surely they lie in the window."""

    step: Step
    mean_mm: float
    inside: float


def _read(truth: Truth, hub: Hub, nut: Mapping[str, Any], minutes: float, *, locked: bool) -> _Read:
    play = turned(truth, hub, locked=locked, **nut).play_mm
    found = end_play(scattered_mm(play, seed=truth.seed, what=f"{nut} {locked}")[:LEAST_READINGS], hub.play_window_mm)
    words = say(later("{mean:.3f} mm, locked") if locked else later("{mean:.3f} mm"), mean=found.mean_mm)
    return _Read(Step("end_play", hub.id, words, minutes), found.mean_mm, found.outcomes["within"])
