"""Wheel nuts tightened again: after half an hour, and after 50 to 100 km by the odometer."""

from dataclasses import dataclass

from hematite.doors import count, finite, not_negative, within
from hematite.errors import BadQuantity
from hematite.language import say
from hematite.tables import table

TWICE = 2  # once after half an hour, once on the road: then nothing more is due


@dataclass(frozen=True)
class Again:
    """Whether wheel nuts are due again. `state`: early, due, late or done; `words` say when."""

    state: str
    words: str


def again(*, minutes_since: float, times: int = 1, then_km: float | None = None, now_km: float | None = None) -> Again:
    """Return whether wheel nuts are due again, by the clock and the odometer. Raises `BadQuantity`.

    `times`: how often they were tightened; `minutes_since` the last time; `then_km`: the odometer at the first.
    """
    rows = table("tightening/tightening.toml")["again"]
    left = max(rows["minutes"] - not_negative(minutes_since, say("The minutes since")), 0.0)
    if count(times, say("How often they were tightened")) > TWICE:
        return Again("done", say("Tightened again after half an hour and on the road: nothing more is due."))
    driven = _driven(then_km, now_km)
    by_road = _by_road(driven, then_km, *rows["km"])
    if times >= TWICE or by_road.state != "early":
        return by_road
    return (
        Again("early", say("Due again in {left:.0f} min.", left=left))
        if left
        else Again("due", say("Half an hour is up: due now."))
    )


def _by_road(driven: float | None, then_km: float | None, least: float, most: float) -> Again:
    if driven is None:
        on = (
            say("between {least:.0f} and {most:.0f} km on the odometer", least=then_km + least, most=then_km + most)
            if then_km is not None
            else ""
        )
        return Again(
            "early",
            say(
                "Due again {when}.",
                when=on or say("after {least} to {most} km: note the odometer", least=least, most=most),
            ),
        )
    if driven < least:
        return Again(
            "early", say("{driven:.0f} km driven: due in {least:.0f} km.", driven=driven, least=least - driven)
        )
    if driven <= most:
        return Again("due", say("{driven:.0f} km driven: due now.", driven=driven))
    return Again("late", say("{driven:.0f} km driven: late. Tighten them now, before it drives on.", driven=driven))


def _driven(then_km: float | None, now_km: float | None) -> float | None:
    if then_km is None or now_km is None:
        return None
    start, now = within(then_km, "distance_km"), within(now_km, "distance_km")
    if now < start:
        raise BadQuantity(
            say(
                "The odometer runs backwards: {start:.0f} km then, {now:.0f} km now. Read it again.",
                start=start,
                now=now,
            )
        )
    return now - start


def retightened(*, torque_nm: float, moved_at_nm: float) -> str:
    """Return what it says that a nut moved on at a torque when it was tightened again to its own.

    A click without a movement says only that no less than the torque is there; a nut that moves early has lost. What
    a nut takes to break loose is not what it was tightened to.
    """
    torque, moved = within(torque_nm, "torque_nm"), finite(moved_at_nm, say("The torque at which it moved"))
    if moved < 0:
        raise BadQuantity(say("A torque cannot be negative. Type it again."))
    if moved >= torque:
        return say("It held: the wrench clicked before the nut moved.")
    below = table("tightening/tightening.toml")["again"]["lost_below"] * torque
    if moved >= below:
        return say(
            "It moved at {moved:g} N·m and was brought back: settling, as is usual after the first run.", moved=moved
        )
    return say(
        "It had fallen to {moved:g} N·m of {torque:g} N·m: more than settling. Look at its seat, the faces and "
        "the studs, and tighten it once more after the next 50 km.",
        moved=moved,
        torque=torque,
    )
