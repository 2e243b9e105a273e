"""The adjusting nut of a practice hub: what it loses, where its lock takes it, and what is found when it is turned."""

from collections.abc import Mapping
from typing import Any

import numpy as np

from hematite.assembly import hub_facts
from hematite.policy import Policy
from hematite.setting import LOCKS, lock_of, steps_a_turn, windup
from hematite.simulator import DRAGS_UNDER_MM, WORN, Turned, turned_nut, usual_loss
from hematite.sums.filled import SETTING, filled
from hematite.tables import table
from hematite.threads import read_thread
from hematite.training.truth import Truth
from hematite.vehicles import Hub, Vehicle

INSIDE = 0.15  # how far from the ends of the window, in shares of it, a place of the lock is drawn; judgement
DRAGS_PAST = 1.3  # a worn set drags to this many times its window at least; judgement


def known_of(hub: Hub, vehicle: Vehicle) -> dict[str, Any]:
    """Return what the torque book and the window say of a hub's nut: the fields of the sum of slots."""
    return filled("slots", hub, vehicle, Policy().schools)


def has_nut(hub: Hub, vehicle: Vehicle) -> bool:
    """Return whether a hub has a nut that is set, of a known thread."""
    return bool(hub.design.adjusts == "nut" and known_of(hub, vehicle).get("thread"))


def hidden_nut(hub: Hub, vehicle: Vehicle, loses: tuple[float, float], dice: np.random.Generator) -> dict[str, float]:
    """Return what a nut hides: `loses`, the share of the usual windup; `locks_mm`, what locking moves it by, in mm;
    `next_deg`, how far back from zero the first place of its lock lies. One place at least lies in the window.
    """
    known = known_of(hub, vehicle)
    lock = lock_of(hub.design_key, hub_facts(hub, vehicle, Policy().schools))
    thread = read_thread(known["thread"])
    share = float(dice.uniform(*loses))
    moved = float(dice.uniform(*table("training/topics.toml")["locking_mm"][lock]))
    found = {"loses": round(share, 4), "locks_mm": round(moved, 4)}
    if lock not in LOCKS:
        return found
    low, high = hub.play_window_mm
    edge = INSIDE * (high - low)
    play = float(dice.uniform(low + edge, high - edge))
    usual = windup(preload_nm=known.get("preload_nm", 0.0), nut_diameter_mm=thread.diameter_mm)
    lost = usual.least_mm + (usual.most_mm - usual.least_mm) * found["loses"] - found["locks_mm"]
    step = 360 / steps_a_turn(lock=lock, slots=known["slots"], ends=known.get("ends", 2))
    return found | {"next_deg": float(round((play + lost) / thread.pitch_mm * 360 % step))}


def turned(
    truth: Truth, hub: Hub, *, thread: str, angle_deg: float, preload_nm: float = 0.0, locked: bool = False
) -> Turned:
    """Return what is found at a practice hub when its nut is turned back, and locked. Raises `BadQuantity`.

    `thread`: as it was entered; where the torque book knows it, the nut turns by that one all the same.
    """
    own = truth.nut if hub.id == truth.at else {}
    books = (hub.fastenings[key].thread for key in SETTING if key in hub.fastenings)
    return turned_nut(
        loses=own.get("loses", usual_loss(hub.id)),
        worn=truth.causes.get(hub.id, "") in WORN,
        thread=next((known for known in books if known), thread),
        angle_deg=angle_deg,
        preload_nm=preload_nm,
        locking_mm=own.get("locks_mm", 0.0) if locked else 0.0,
        drags_under_mm=max(DRAGS_UNDER_MM, DRAGS_PAST * hub.play_window_mm[1]),
    )


def stands_mm(truth: Truth, hub: Hub, nut: Mapping[str, Any]) -> float:
    """Return the play at which a nut was left: `thread`, `angle_deg` and `preload_nm` as they were kept, locked."""
    left = {name: nut[name] for name in ("thread", "angle_deg", "preload_nm") if name in nut}
    return turned(truth, hub, locked=True, **left).play_mm
