"""From what was felt, seen and heard to statements: observations in the tables' outcomes."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from hematite.doors import finite, listed, not_negative, one_of, positive
from hematite.errors import UnknownName
from hematite.evidence.statement import Statement
from hematite.evidence.tables import ALL_DRIVEN_SHARE, PASSES, UNSURE, witnesses
from hematite.inspection import Inspection, inspections, read_part
from hematite.play import end_play, hub_movement_mm
from hematite.vehicles import Hub, Vehicle

ANSWERED = tuple(
    key for key, row in witnesses().items() if not row.get("recorded") and key not in ("fault_lines", "level")
)
PART = "part"  # one part of an opened hub, looked at
KINDS = (*ANSWERED, "rock", PART, "fault_lines", "made_safe", "note")  # fault_lines: that no recording was made
AT_HUB = (*(key for key in ANSWERED if witnesses()[key].get("place", "hub") == "hub"), "rock", PART)
# The case format's `rock`, by where the hands were.
ROCKED = {"12_6": "rock_12_6", "3_9": "rock_3_9", "in_out": "in_out"}
LEVER_RATIO = 0.28  # of hub to tyre where nobody measured: 3 mm show as 10 to 13 mm; common practice, no source
LEVER_MM = (0.3, 1.5)  # at the hub: from here on some, from here on much; judgement
WARM_K, HOT_K = 6.0, 25.0  # over mate or air; judgement
SHORT_SHARE = 0.6  # of the mate's time to rest; judgement
ONE_PERSON = 0.85  # how far an answer is believed of one who rocks alone and cannot see what moves; judgement


@dataclass(frozen=True)
class Observation:
    """One thing a mechanic found. `value` has the fields of the case format for its kind."""

    kind: str
    hub: str
    value: Mapping[str, Any] = field(default_factory=dict)
    source: str = ""


def statements_of(observations: Iterable[Observation], vehicle: Vehicle) -> list[Statement]:
    """Return what all observations say. What was seen part by part stands before one word for the whole hub.

    Raises what `statements` and `read_part` raise.
    """
    observations = list(observations)
    seen = [s for one in inspected(observations, vehicle).values() for s in _of_inspection(one)]
    better = {(statement.witness, statement.places) for statement in seen}
    said = [statement for one in observations for statement in statements(one, vehicle)]
    return [*(one for one in said if (one.witness, one.places) not in better), *seen]


def inspected(observations: Iterable[Observation], vehicle: Vehicle) -> dict[str, Inspection]:
    """Return the inspection of every hub. Raises what `read_part` raises."""
    looked = [(one.hub, one.value, one.source) for one in observations if one.kind == PART]
    return inspections(looked, vehicle.hubs())


def _of_inspection(inspection: Inspection) -> list[Statement]:
    source = inspection.looked[-1].source if inspection.looked else ""
    said = {"opened": inspection.opened, "hand_turned": inspection.in_the_hand}
    return [Statement.at(inspection.hub.id, witness, shares, source) for witness, shares in said.items() if shares]


def statements(observation: Observation, vehicle: Vehicle) -> list[Statement]:
    """Return what one observation says; empty when it says nothing of a cause.

    Raises `UnknownName` for a kind or answer that no table lists, `BadQuantity` for readings that cannot be.
    """
    one_of(observation.kind, KINDS, "kind of observation")
    kind = observation.kind
    known = vehicle.hub(observation.hub)
    if kind == PART and known is not None:
        read_part(observation.value, known)  # refused here; spoken for by the inspection as a whole
    if kind == "rock":
        kind = one_of(str(observation.value.get("hands") or "12_6"), ROCKED, "way of rocking")
        kind = ROCKED[kind]
    if kind not in ANSWERED or _passed(observation):
        return []
    if witnesses()[kind].get("place") == "vehicle":
        return _of_vehicle(kind, observation, vehicle)
    if known is None:
        return []
    shares = _READ.get(kind, _answer)(kind, observation.value, known)
    return [Statement.at(known.id, kind, shares, observation.source)]


def _passed(observation: Observation) -> bool:
    return str(observation.value.get("answer")) in PASSES


Shares = dict[str, float]


def _answer(kind: str, value: Mapping[str, Any], hub: Hub) -> Shares:
    row = witnesses()[kind]
    answer = str(value.get("answer", ""))
    if answer not in row["outcomes"]:
        allowed = ", ".join([*row["outcomes"], UNSURE])
        raise UnknownName(f"“{answer}” is no answer to “{row['label']}”. Choose one of: {allowed}.")
    alone = value.get("how") == "one_person" and "nothing" in row["outcomes"] and answer != "nothing"
    return {answer: ONE_PERSON, "nothing": 1 - ONE_PERSON} if alone else {answer: 1.0}


def _dial(kind: str, value: Mapping[str, Any], hub: Hub) -> Shares:
    if "readings_mm" not in value and "answer" in value:  # felt, or read by somebody who noted no figures
        return _answer(kind, value, hub)
    resolution = value.get("resolution_mm") or 0.01
    return dict(end_play(listed(value.get("readings_mm", []), "The readings"), hub, resolution_mm=resolution).outcomes)


def _lever(kind: str, value: Mapping[str, Any], hub: Hub) -> Shares:
    """Read movement at the tyre, by the radii where they are given."""
    if "movement_mm" not in value:
        return _answer(kind, value, hub)
    movement = not_negative(value["movement_mm"], "The movement at the tyre")
    if value.get("tyre_radius_mm") and value.get("hub_radius_mm"):
        at_hub = hub_movement_mm(
            tyre_movement_mm=movement, tyre_radius_mm=value["tyre_radius_mm"], hub_radius_mm=value["hub_radius_mm"]
        )
    else:
        at_hub = movement * LEVER_RATIO
    return {"none" if at_hub < LEVER_MM[0] else "some" if at_hub < LEVER_MM[1] else "much": 1.0}


def _heat(kind: str, value: Mapping[str, Any], hub: Hub) -> Shares:
    """Read a thermometer, °C, against the mate across the axle, else against the air."""
    if "temp_c" not in value:
        return _answer(kind, value, hub)
    beside = value["mate_c"] if value.get("mate_c") is not None else value.get("ambient_c")
    rise = finite(value["temp_c"], "The hub's temperature") - finite(beside, "The temperature of its mate or the air")
    return {"cool" if rise < WARM_K else "warm" if rise < HOT_K else "hot": 1.0}


def _coast_down(kind: str, value: Mapping[str, Any], hub: Hub) -> Shares:
    """Read two stop-watch times, seconds, of a hub and of its mate."""
    if "seconds" not in value:
        return _answer(kind, value, hub)
    own = positive(value["seconds"], "The time to rest")
    mate = positive(value.get("mate_seconds"), "The mate's time to rest")
    return {"short" if own < SHORT_SHARE * mate else "alike": 1.0}


_READ = {"end_play": _dial, "lever": _lever, "heat": _heat, "coast_down": _coast_down}


def _of_vehicle(kind: str, observation: Observation, vehicle: Vehicle) -> list[Statement]:
    """Return a statement about every hub, for what the driver says or an ear hears on the road."""
    row = witnesses()[kind]
    hubs = list(vehicle.hubs())
    if kind == "complaint":
        shares = _complaint(observation.value)
        said = dict.fromkeys((hub.id for hub in hubs), shares)
        return [Statement(kind, said, observation.source)] if shares else []
    sure = float(row.get("by_ear", 1.0))
    answers = row.get("asked") or dict.fromkeys(row["outcomes"])
    answer = one_of(str(observation.value.get("answer", "")), answers, f"answer to “{row['label']}”")
    if "here_for" not in row:
        shares = {answer: sure} | _rest(row["outcomes"], answer, 1 - sure)
        return [Statement(kind, dict.fromkeys((hub.id for hub in hubs), shares), observation.source)]
    neutral = next(name for name in row["outcomes"] if name not in ("here", "away"))
    at = row["here_for"].get(answer)
    if row.get("driveline_misleads") and vehicle.all_driven:
        sure *= ALL_DRIVEN_SHARE
    by_hub = {hub.id: _sided(hub, at, neutral, sure) for hub in hubs}
    return [Statement(kind, by_hub, observation.source)]


def _sided(hub: Hub, at: str | None, neutral: str, sure: float) -> Shares:
    if at is None or hub.side not in ("left", "right"):
        return {neutral: 1.0}
    return {"here" if hub.side == at else "away": sure, neutral: 1 - sure}


def _rest(outcomes: Sequence[str], answer: str, left: float) -> Shares:
    others = [name for name in outcomes if name != answer]
    return {name: left / len(others) for name in others} if left > 0 else {}


def _complaint(value: Mapping[str, Any]) -> Shares:
    """Share out several words of one driver evenly: they tell of one fault. Free `text` is searched for known words."""
    said = value.get("words") or ([value["answer"]] if value.get("answer") else [])
    words = [str(word).lower() for word in listed(said, "The driver's words")]
    called = witnesses()["complaint"]["called"]
    outcomes = witnesses()["complaint"]["outcomes"]
    named = [next((name for name, said in called.items() if word in said), word) for word in words]
    named = [one_of(word, outcomes, "kind of complaint") for word in named]
    text = str(value.get("text") or "").lower()
    named += [name for name, said in called.items() if any(word in text for word in said)]
    return {word: 1 / len(set(named)) for word in dict.fromkeys(named)}


def words_of(observation: Observation, vehicle: Vehicle) -> str:
    """Return an entry of the log in the trade's words; '' for kinds that answer nothing."""
    answer = observation.value.get("answer")
    if _passed(observation):
        return PASSES[str(answer)]
    hub = vehicle.hub(observation.hub)
    if observation.kind == PART and hub is not None:
        return read_part(observation.value, hub).words
    said = statements(observation, vehicle)
    if not said:
        return ""
    row = witnesses()[said[0].witness]
    asked = row.get("asked") or dict(zip(row["outcomes"], row["words"], strict=True))
    if observation.kind == "complaint":
        return "; ".join(asked[word] for word in next(iter(said[0].said.values())))
    if answer in asked:
        return str(asked[answer])
    return said[0].words(observation.hub)
