"""Wheel nuts tightened again: after half an hour, and after 50 to 100 km by the odometer."""

from dataclasses import dataclass

from hematite.doors import finite, not_negative, within
from hematite.errors import BadQuantity
from hematite.tables import table


@dataclass(frozen=True)
class Again:
    """What is due again: `minutes_left`, the odometer in km between which it is due; `state`: early, due or late."""

    minutes_left: float
    from_km: float | None
    to_km: float | None
    state: str
    words: str


def again(*, minutes_since: float, then_km: float | None = None, now_km: float | None = None) -> Again:
    """Return whether wheel nuts are due again, by the clock and the odometer. Raises `BadQuantity`."""
    rows = table("tightening/tightening.toml")["again"]
    left = max(rows["minutes"] - not_negative(minutes_since, "The minutes since"), 0.0)
    if then_km is None:
        words = "Due again now: half an hour has passed." if not left else f"Due again in {left:.0f} min."
        return Again(left, None, None, "early" if left else "due", words)
    start = within(then_km, "distance_km")
    least, most = (start + km for km in rows["km"])
    if now_km is None:
        return Again(left, least, most, "early", f"Due again between {least:.0f} and {most:.0f} km on the odometer.")
    driven = within(now_km, "distance_km") - start
    if driven < 0:
        raise BadQuantity(f"The odometer runs backwards: {start:.0f} km then, {now_km:.0f} km now. Read it again.")
    state = "early" if driven < rows["km"][0] else "due" if driven <= rows["km"][1] else "late"
    said = {
        "early": f"{driven:.0f} km driven: due in {rows['km'][0] - driven:.0f} km.",
        "due": f"{driven:.0f} km driven: due now.",
        "late": f"{driven:.0f} km driven: late. Tighten them now, before it drives on.",
    }
    return Again(left, least, most, state, said[state])


def retightened(*, torque_nm: float, moved_at_nm: float) -> str:
    """Return what it says that a nut moved on at a torque when it was tightened again to its own.

    A click without a movement says only that no less than the torque is there; a nut that moves early has lost. What
    a nut takes to break loose is not what it was tightened to.
    """
    torque, moved = within(torque_nm, "torque_nm"), finite(moved_at_nm, "The torque at which it moved")
    if moved < 0:
        raise BadQuantity("A torque cannot be negative. Type it again.")
    if moved >= torque:
        return "It held: the wrench clicked before the nut moved."
    below = table("tightening/tightening.toml")["again"]["lost_below"] * torque
    if moved >= below:
        return f"It moved at {moved:g} N·m and was brought back: settling, as is usual after the first run."
    return (
        f"It had fallen to {moved:g} N·m of {torque:g} N·m: more than settling. Look at its seat, the faces and the "
        "studs, and tighten it once more after the next 50 km."
    )
