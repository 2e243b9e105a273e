"""Where a nut can be locked: slots over a pin's hole, a retainer's slots, a plate's holes, a tab on a flat."""

import math
from dataclasses import dataclass

from hematite.doors import count, finite, one_of, positive
from hematite.errors import BadQuantity
from hematite.language import later, say
from hematite.setting.nut import EndPlayRange, Lost, end_play_from_angle

HEX = 6  # flats that a stamped retainer sits on
MOST = 60
SHOWN_PAST = 1  # how many positions past the window are shown as well

# What a lock's count is of.
LOCKS = {
    "castle": later("slots of the castle nut"),
    "retainer": later("slots of the stamped retainer"),
    "plate": later("holes of the lock plate"),
    "tab": later("flats that a tab can be bent on"),
}


@dataclass(frozen=True)
class Position:
    """A place where the lock takes the nut: degrees back from zero, and the end play to be expected there."""

    angle_deg: float
    play: EndPlayRange
    meets: str


@dataclass(frozen=True)
class Positions:
    """What can be reached. `step_deg`, and what a step is worth; `chosen`: which one by the school, None for none.

    `instead`: what to change where none lies in the window.
    """

    steps_a_turn: int
    step_deg: float
    step_mm: float
    rows: tuple[Position, ...]
    chosen: Position | None
    instead: tuple[str, ...] = ()


def steps_a_turn(*, lock: str, slots: int, ends: int = 2) -> int:
    """Return how many alignments a turn has. Raises `BadQuantity`, `UnknownName`.

    `slots` and `ends`, both evenly spaced, align lcm(slots, ends) times a turn: each end of a pin's hole counts. A
    stamped retainer can be put on its nut six ways, so its slots count with the flats. A plate's screws sit as far
    apart as its holes do, or some of its holes would be of no use: it aligns once a hole.
    """
    kind = one_of(lock, LOCKS, say("lock"))
    slots, ends = (_few(slots, say("The {locks}", locks=say(LOCKS[kind]))), _few(ends, say("The ends of the hole")))
    if kind == "plate":
        return slots
    return math.lcm(slots, HEX, ends) if kind == "retainer" else math.lcm(slots, ends)


def _few(value: object, what: str) -> int:
    number = count(value, what)
    if number > MOST:
        raise BadQuantity(say("{what}: {number} are too many. Count them again.", what=what, number=number))
    return number


def tighten_on(*, lock: str, slots: int, ends: int = 2, past_deg: float = 0.0) -> float:
    """Return how far a clamped nut is tightened on to its next slot, in degrees: it is never backed off to one.

    `past_deg`: how far it stands past the last slot, in the direction of tightening.
    """
    step = 360 / steps_a_turn(lock=lock, slots=slots, ends=ends)
    past = _phase(past_deg, step)
    return (step - past) % step


def positions(
    *,
    pitch_mm: float,
    window_mm: tuple[float, float],
    lock: str,
    slots: int,
    ends: int = 2,
    next_deg: float = 0.0,
    where: str = "middle",
    lost: Lost | None = None,
) -> Positions:
    """Return where an adjusting nut can be locked when it is slackened from zero, and which is taken by the school.

    `next_deg`: how far back the first alignment lies; `where`: middle, tight or loose, the school of slack. An
    adjusting nut slackens to the next slot. Raises `BadQuantity`, `UnknownName`.
    """
    pitch = positive(pitch_mm, say("The thread pitch in mm"))
    a_turn = steps_a_turn(lock=lock, slots=slots, ends=ends)
    step = 360 / a_turn
    low, high = window_mm
    first = _phase(next_deg, step)

    def at(angle: float) -> Position:
        play = end_play_from_angle(pitch_mm=pitch, angle_deg=angle, lost=lost)
        return Position(angle, play, play.meets(low, high))

    angles = [first + n * step for n in range(a_turn)]
    near = [at(angle) for angle in angles if at(angle).play.least_mm <= high]
    rows = near + [at(angle) for angle in angles[len(near) :][:SHOWN_PAST]]
    aim = aim_mm(low, high, where)
    inside = [row for row in rows if row.meets != "no"]
    chosen = min(inside, key=lambda row: (row.meets != "surely", abs(_middle(row) - aim)), default=None)
    if chosen is not None and chosen.meets == "surely":
        return Positions(a_turn, step, pitch / a_turn, tuple(rows), chosen)
    half = [(angle + step / 2) % 360 for angle in angles] if lock == "retainer" else []
    over = [at(angle) for angle in sorted(half)]
    return Positions(a_turn, step, pitch / a_turn, tuple(rows), chosen, _instead(rows, over, lock, aim))


def _instead(rows: list[Position], over: list[Position], lock: str, aim: float) -> tuple[str, ...]:
    """Return what to change where no position lies surely in the window."""
    words = []
    better = [row for row in over if row.meets == "surely"]
    if better:
        words.append(
            say(
                "Turn the retainer over: its slots sit half a step on, and one comes at {angle_deg:.0f}°.",
                angle_deg=better[0].angle_deg,
            )
        )
    elif lock == "retainer":
        words.append(say("Another retainer, with more slots."))
    if lock == "tab":
        words.append(say("Bend another tab: one that stands between two of these."))
    nearest = min(rows, key=lambda row: abs(_middle(row) - aim), default=None)
    if nearest is not None and lock != "plate":
        shift = abs(aim - _middle(nearest))
        words.append(
            say("A washer {shift:.2f} mm thicker or thinner brings a slot to where the play is wished.", shift=shift)
        )
    if lock == "plate":
        words.append(say("The plate the other way up, or another plate: its holes sit elsewhere."))
    return tuple(words)


def _middle(row: Position) -> float:
    return (row.play.least_mm + row.play.most_mm) / 2


def aim_mm(low: float, high: float, where: str) -> float:
    """Return the play that a school aims at: the middle of the window, or a quarter from its tight or loose end."""
    shares = {"middle": 0.5, "tight": 0.25, "loose": 0.75}
    return low + (high - low) * shares[one_of(where, shares, say("place in the window"))]


def _phase(value: object, step: float) -> float:
    angle = finite(value, say("The angle to the next slot"))
    if not 0 <= angle <= 360:
        raise BadQuantity(say("The angle to the next slot lies between 0 and 360°; got {angle:g}.", angle=angle))
    return angle % step
