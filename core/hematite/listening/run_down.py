"""A wheel spun by hand and let go: heard on the course that explains most of it, beside what others would explain."""

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from hematite.bearings import fault_orders
from hematite.families import FAINT, MARKS, WORN, WORN_HARMONICS, Family, combs
from hematite.language import later, say
from hematite.listening.by_order import OUTSTANDS, Bearing, by_order
from hematite.listening.heard import Drag, Heard
from hematite.listening.lasting import lasting
from hematite.listening.taken import Taken
from hematite.speed import Lines, Spun, WheelTurns, find_spun, find_sung
from hematite.traces import Trace

WHOLE_LINES = 12
AS_STATED = later("as stated")
SPUN_TIMED = later(
    "As timed; between the marks its run-down was found in the sound: {rate:.1f} turns a second at first."
)
SPUN_FOUND = later("Found in the sound: {rate:.1f} turns a second at first.")
SPUN_COUNTED = later("Counted; its run-down found in the sound: {rate:.1f} turns a second at first.")
SUNG_ALONE = later("A ring's song tells how it ran down, not how many turns a second that was.")
LINES_ALONE = later(
    "What repeats slows as a wheel does, {hz:.0f} times a second at first; that tells no speed of the wheel."
)
WHICH_RING = later("at an unknown speed it does not show of which ring, or of a ball")
NOT_FOUND = later("Nothing repeats clearly enough to find the speed by.")
NOT_FOUND_COUNTED = later("Counted; nothing repeats clearly enough to tell how it ran down.")
NOT_TOLD_BY = ("cage", "swell", "tread", "whole_orders")  # kinds by which no speed is told
SEARCHED = 3.4  # nats: some thirty courses that differ are tried; of 60 recordings of hiss none then stood
AS_LIKELY = 5.0  # nats: speeds that explain so nearly as much are not told apart; judgement
PITCHED = 2.0  # a comb at one pitch has half as many lines as a fault's; judgement
NEAR_TIMED = 0.06  # of a timed speed, within which a song's course is the same; judgement
AS_FAST = 0.04  # of the speed at first, within which two courses begin alike; judgement
RIVAL_SHARE = 0.1  # how likely a rival explanation is before anything is heard; judgement


def heard_spun(
    heard: Heard, taken: Taken, bearings: Sequence[Bearing], stated: WheelTurns | None, counted: float | None
) -> Heard:
    """Return what is heard of a wheel let go, on the course and at the speed at which most is explained."""
    swelling = [Trace(one.values.astype(np.float64) - 1, one.rate) for one in taken.banded[1:]]
    timed = stated if not counted else None
    known = stated is not None or any(bearing.rows for bearing in bearings)
    tried = find_spun([*swelling, *taken.traces], _laid_lines(bearings), counted=counted, timed=timed)
    at_each = [_searched(by_order(heard, taken, one.turns, bearings), one) for one in tried]
    sung = heard_sung(heard, taken, bearings, counted, timed)
    if timed:
        at_each.append(by_order(heard, taken, timed, bearings))
    courses = [*(one.turns for one in tried), *([timed] if timed else [])]
    best, at_each = _that_lasts(at_each, courses, taken, bearings)
    if sung and (not at_each or _explains(sung) > _explains(at_each[best])):
        return sung
    if timed:
        return _as_timed(at_each[best], tried[best] if best < len(tried) else None)
    if tried:
        found = _as_found(best, at_each, tried, counted)
        return found if known else _of_some_ring(found, tried[best])
    if stated:  # no wheel spun by hand makes as many turns in that time, or it is too short to ask
        return _unheard(by_order(heard, taken, stated, bearings), counted)
    return replace(heard, speed_words="The recording is too short to find the speed in it.")


def _that_lasts(
    at_each: Sequence[Heard], courses: Sequence[WheelTurns], taken: Taken, bearings: Sequence[Bearing]
) -> tuple[int, list[Heard]]:
    """Return which course explains most, once what does not last is left out, and what was heard on each.

    Only of what leads is it asked whether it lasts: another course comes first where it does not.
    """
    told, asked = list(at_each), set[int]()
    while len(asked) < len(told):
        best = max(range(len(told)), key=lambda n: _explains(told[n]))
        if best in asked:
            return best, told
        told[best] = lasting(told[best], taken, courses[best], bearings)
        asked.add(best)
    return max(range(len(told)), key=lambda n: _explains(told[n]), default=0), told


def heard_sung(
    heard: Heard,
    taken: Taken,
    bearings: Sequence[Bearing],
    counted: float | None,
    timed: WheelTurns | None,
) -> Heard | None:
    """Return what is heard on the course that a worn ring's song tells; None where none sings, or not as was timed."""
    sung = find_sung(taken.traces[-1], _laid_lines(bearings), counted=counted)
    sung = tuple(one for one in sung if timed is None or _keeps_to(one.turns, timed))
    at_each = [_as_sung(by_order(heard, taken, one.turns, bearings), one.odds) for one in sung]
    if not sung or _lead(at_each[0].families) is None:
        return None
    found = _as_found(0, at_each, sung, counted)
    known = counted or timed or any(bearing.rows for bearing in bearings)
    return found if known else _of_some_ring(found, sung[0])


def _keeps_to(turns: WheelTurns, timed: WheelTurns) -> bool:
    times = np.linspace(max(turns.times_s[0], timed.times_s[0]), min(turns.times_s[-1], timed.times_s[-1]), 50)
    apart = np.abs(np.log(np.maximum(turns.rate_at(times), 0.1) / np.maximum(timed.rate_at(times), 0.1)))
    return bool(np.median(apart) < NEAR_TIMED)


def _as_timed(found: Heard, course: Spun | None) -> Heard:
    """Return what was heard as it was timed, or on a course found near that."""
    if course is None:
        return replace(found, speed_words=say(AS_STATED))
    rate = _first_rate(found, course)
    return replace(found, speed_words=say(SPUN_TIMED, rate=rate), drag=_slowed(rate, course))


def _as_found(best: int, at_each: Sequence[Heard], tried: Sequence[Spun], counted: float | None) -> Heard:
    """Return what was heard on the likeliest course beside what others would explain as well."""
    found, course = at_each[best], tried[best]
    if _lead(found.families) is None:
        return _unheard(found, counted)
    families = found.families
    for n, rival in enumerate(at_each):
        if n != best:
            families = _beside_rival(families, rival, _explains(found) - _explains(rival))
    rate = _first_rate(found, course)
    return replace(
        found,
        families=families,
        speed_words=say(SPUN_COUNTED if counted else SPUN_FOUND, rate=rate),
        drag=_slowed(rate, _longest(course, tried)),
    )


def _of_some_ring(found: Heard, course: Spun) -> Heard:
    """Return what is told of lines at an unknown speed where no sizes are known: that they are there, not of what.

    Strokes at whole orders tell the speed themselves.
    """
    lead = _lead(found.families)
    if lead is None or lead.kind == "once_a_turn":
        return found
    if lead.kind == WORN:
        return replace(found, turns_per_s=None, speed_words=say(SUNG_ALONE), spectrum=None, drag=None)
    words = say(LINES_ALONE, hz=lead.found_order * _first_rate(found, course))
    any_ring = tuple(replace(lead, kind=kind, note=say(WHICH_RING)) for kind in MARKS)
    return replace(found, families=any_ring, turns_per_s=None, speed_words=words, spectrum=None, drag=None)


def _unheard(found: Heard, counted: float | None) -> Heard:
    """Return what is left where no course is told: no speed but what was counted, and no line is missing either."""
    families = tuple(replace(f, strength=max(min(f.strength, FAINT), 0.0)) for f in found.families)
    rate = counted / found.duration_s if counted else None
    words = say(NOT_FOUND_COUNTED if counted else NOT_FOUND)
    return replace(found, families=families, turns_per_s=rate, speed_words=words, spectrum=None, road=())


def _first_rate(found: Heard, course: Spun) -> float:
    """Return the speed where a course begins, in turns a second, as the wheel's own whole orders have it."""
    return course.first_rate * (found.turns_per_s or 0.0) / course.turns.mean_rate


def _longest(course: Spun, tried: Sequence[Spun]) -> Spun:
    """Return a course, or one as fast that was followed until half its speed where this one ends before."""
    as_fast = (one for one in tried if abs(one.first_rate / course.first_rate - 1) < AS_FAST)
    return course if course.halving_s else next((one for one in as_fast if one.halving_s), course)


def _slowed(rate: float, course: Spun) -> Drag | None:
    return Drag(rate, course.halving_s, course.odds) if course.halving_s else None


def _lead(families: Sequence[Family]) -> Family | None:
    """Return what stands highest of that by which a course can be told; None where nothing of it stands."""
    standing = (f for f in families if f.kind not in NOT_TOLD_BY and f.standing != "nothing")
    return max(standing, key=lambda f: f.strength, default=None)


def _explains(heard: Heard) -> float:
    """Return how much a course explains, to be held against another: strokes are read from four lines, marks from nine.

    At another speed a stroke's lines lie where a ring's are due, and the other way round.
    """
    told = (f for f in heard.families if f.kind not in NOT_TOLD_BY)
    return max((f.strength * (OUTSTANDS if f.kind == "once_a_turn" else 1.0) for f in told), default=0.0)


def _searched(heard: Heard, course: Spun) -> Heard:
    """Return what was heard on a course that was searched for: among so many some would fit hiss.

    It stands as strong as it is beside something that repeats at one pitch while the wheel slows.
    """
    most = max(course.odds - PITCHED * course.at_one_pitch, 0.0) - float(np.log(RIVAL_SHARE))
    return replace(heard, families=tuple(replace(f, strength=min(f.strength - SEARCHED, most)) for f in heard.families))


def _as_sung(heard: Heard, odds: float) -> Heard:
    """Return what was heard on a course read from a ring's song, which all courses together make so likely.

    Where the song stands beside what lies elsewhere in the recording, it is as strong as that.
    """
    return replace(
        heard,
        families=tuple(
            replace(f, strength=odds if f.kind == WORN and f.standing != "nothing" else min(f.strength, odds))
            for f in heard.families
        ),
    )


def _beside_rival(families: tuple[Family, ...], rival: Heard, behind: float) -> tuple[Family, ...]:
    """Return families beside what else would explain the same sound, were the speed another, `behind` nats less well.

    Marks that would be another ring's are told too. A bearing's lines that may be a stroke once a turn, or the other
    way round, count for no more than how likely a rival is from the start leaves.
    """
    lead = _lead(rival.families)
    if lead is None or behind > AS_LIKELY:
        return families
    stroke = lead.kind == "once_a_turn"
    most = behind - float(np.log(RIVAL_SHARE))
    against = [(f.kind == "once_a_turn") != stroke and f.kind not in NOT_TOLD_BY for f in families]
    kept = tuple(
        replace(f, strength=min(f.strength, most)) if other else f for f, other in zip(families, against, strict=True)
    )
    if stroke or any(f.kind == lead.kind and f.standing != "nothing" for f in families):
        return kept
    note = say("were it at {rate:.1f} turns a second", rate=rival.turns_per_s or 0.0)
    top = max((f.strength for f in families if f.kind not in NOT_TOLD_BY), default=0.0)
    note = "; ".join(filter(None, (lead.note, note)))
    return (*kept, replace(lead, strength=min(lead.strength, top) - behind, note=note))


def _laid_lines(bearings: Sequence[Bearing]) -> list[Lines]:
    """Return the combs by which a course is found: whole orders, and what the bearing's own faults would make."""
    found = [Lines(np.arange(1.0, WHOLE_LINES + 1), np.ones(WHOLE_LINES))]
    if not all(bearing.rows for bearing in bearings):
        found.append(Lines(np.arange(1.0, 5.0), np.ones(4), free=True))
        found.append(Lines(np.arange(1.0, 4.0), np.ones(3), tonal=True, free=True))
    for bearing in bearings:
        for row in bearing.rows:
            for comb in combs(fault_orders(row, rotating=bearing.rotating)):
                if comb.kind == "cage":
                    continue
                multiples, offsets, weights = comb.due()
                found.append(Lines(multiples * comb.order + offsets, weights))
                if comb.kind != "rolling_element":
                    worn = comb.order * np.arange(1.0, WORN_HARMONICS + 1)
                    found.append(Lines(worn, np.ones(WORN_HARMONICS), tonal=True))
    return found
