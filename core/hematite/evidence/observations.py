"""From what was heard and felt to statements: recordings and observations in the table's outcomes."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from hematite.doors import one_of
from hematite.errors import UnknownName
from hematite.evidence.weighing import UNSURE, Statement, witnesses
from hematite.families import CLEAR, FAINT, Family
from hematite.listening import Corner
from hematite.play import end_play
from hematite.vehicles import Hub

RAISED_DB, LOUD_DB, VERY_LOUD_DB = 3.0, 6.0, 12.0  # twice, four and sixteen times the power; judgement
HISS_DB = 10.0  # height of the once-a-turn line over its floor that the ear calls a swell; judgement

CHOICE_KINDS = ("rock", "brake_held", "spin", "opened")
KINDS = ("end_play", *CHOICE_KINDS, "made_safe", "note")


@dataclass(frozen=True)
class Observation:
    """One thing a mechanic found. `value` has the fields of the case format for its kind."""

    kind: str
    hub: str
    value: Mapping[str, Any] = field(default_factory=dict)
    source: str = ""


def statements(observation: Observation, hub: Hub) -> list[Statement]:
    """Return what one observation says; empty when it says nothing of a cause.

    Raises `UnknownName` for a kind or answer that no table lists, `BadQuantity` for readings that cannot be.
    """
    one_of(observation.kind, KINDS, "kind of observation")
    if observation.kind == "end_play":
        measured = _measured(observation, hub)
        return [Statement("end_play", measured.outcomes, observation.source)]
    if observation.kind in CHOICE_KINDS:
        return _choice(observation)
    return []


def _measured(observation: Observation, hub: Hub) -> Any:
    resolution = observation.value.get("resolution_mm") or 0.01
    return end_play(observation.value.get("readings_mm", []), hub, resolution_mm=resolution)


def _choice(observation: Observation) -> list[Statement]:
    answer = str(observation.value.get("answer", ""))
    if answer == UNSURE:
        return []
    row = witnesses()[observation.kind]
    if answer not in row["outcomes"]:
        allowed = ", ".join([*row["outcomes"], UNSURE])
        raise UnknownName(f"“{answer}” is no answer to “{row['label']}”. Choose one of: {allowed}.")
    return [Statement(observation.kind, {answer: 1.0}, observation.source)]


def heard_statements(corners: Sequence[Corner]) -> list[Statement]:
    """Return what all usable recordings of one hub say together: one statement on lines, one on level.

    Several listens to one noise are one witness: the listen that stands out most speaks.
    """
    fit = [corner for corner in corners if corner.heard.usable]
    said = []
    with_lines = [corner for corner in fit if corner.heard.families]
    if with_lines:
        loudest = max(with_lines, key=_standing_out)
        said.append(_lines(loudest))
    levels = [corner for corner in fit if corner.relative_db is not None]
    if levels:
        said.append(_level(max(levels, key=lambda corner: corner.relative_db or 0.0)))
    return said


def _standing_out(corner: Corner) -> float:
    strongest = corner.heard.strongest
    return strongest.strength if strongest else 0.0


def _lines(corner: Corner) -> Statement:
    """State the leading family, with the doubt that its strength leaves; a neighbour's noise convicts nobody."""
    kind, sureness = _leading([f for f in corner.heard.families if f.kind not in corner.echoes])
    shares = {kind: sureness, "nothing": 1 - sureness} if kind != "nothing" else {"nothing": 1.0}
    return Statement("fault_lines", shares, corner.heard.situation.id)


def _leading(families: Sequence[Family]) -> tuple[str, float]:
    """Return the kind that speaks and how sure it is: a bearing's own lines come before whole orders.

    A mark on a turning ring is heard once a turn too, so whole orders count only where no bearing line stands.
    """
    whole = ("once_a_turn", "whole_orders")
    bearing = [f for f in families if f.kind not in whole and f.strength >= FAINT]
    others = [f for f in families if f.kind in whole and f.strength >= FAINT]
    if bearing or others:
        best = max(bearing or others, key=lambda f: f.strength)
        return best.kind, _sureness(best.strength)
    return ("hiss", 0.8) if _hisses(families) else ("nothing", 1.0)


def _sureness(strength: float) -> float:
    """Return 0.3 at the faint limit, 0.7 at the clear one, 0.99 well above it; judgement."""
    return min(0.99, 0.3 + 0.4 * (strength - FAINT) / (CLEAR - FAINT))


def _hisses(families: Sequence[Family]) -> bool:
    """A dry bearing swells once a turn and has no harmonics of it: one line, not a comb."""
    turns = [family for family in families if family.kind == "once_a_turn"]
    return any(family.lines[0][2] >= HISS_DB for family in turns)


def _level(corner: Corner) -> Statement:
    above = corner.relative_db or 0.0
    if above < RAISED_DB:
        outcome = "quiet"
    elif corner.overheard:
        outcome = "overheard"
    else:
        outcome = "raised" if above < LOUD_DB else "loud" if above < VERY_LOUD_DB else "very_loud"
    return Statement("level", {outcome: 1.0}, corner.heard.situation.id)
