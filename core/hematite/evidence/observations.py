"""From what was felt, seen and heard to statements: observations in the tables' outcomes."""

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any

from hematite.doors import listed, one_of, within
from hematite.errors import HematiteError, UnknownName
from hematite.evidence.complaint import complaint_statements
from hematite.evidence.statement import Statement
from hematite.evidence.witnesses import PASSES, UNSURE, VEHICLE, of_vehicle, outcomes, witnesses, words_for
from hematite.inspection import Inspection, inspections, read_part
from hematite.language import say
from hematite.play import end_play, hub_movement_mm
from hematite.vehicles import Hub, Vehicle
from hematite.wording import wording

ANSWERED = tuple(
    key
    for key, row in witnesses().items()
    if not row.get("recorded") and "asked_as" not in row and key not in ("fault_lines", "level")
)
PART = "part"  # one part of an opened hub, looked at
CHECK = "check"  # an answer to what is to be proven after a job
PARTS = "parts"  # what a job waits for: ordered, or here
WEIGH_NOTHING = ("note", "made_safe", PARTS)
KINDS = (*ANSWERED, "rock", PART, CHECK, "fault_lines", *WEIGH_NOTHING)  # fault_lines: that no recording was made
AT_HUB = (*(key for key in ANSWERED if not of_vehicle(key)), "rock", PART, CHECK)
# The case format's `rock`, by where the hands were.
ROCKED = {"12_6": "rock_12_6", "3_9": "rock_3_9", "in_out": "in_out"}
LEVER_RATIO = 0.28  # of hub to tyre where nobody measured: 3 mm show as 10 to 13 mm; common practice, no source
LEVER_MM = (0.3, 1.5)  # at the hub: from here on some, from here on much; judgement
OVER_MATE_K = (6.0, 25.0)  # from here on warmer, from here on much hotter; judgement
# Over the air: an unbraked hub is about as cool as it [practice: any warmth asks for a look]. judgement
OVER_AIR_K = {"braked": (45.0, 85.0), "unbraked": (8.0, 30.0)}
SHORT_SHARE = 0.6  # of the mate's time to rest; judgement
ONE_PERSON = 0.85  # how far an answer is believed of one who rocks alone and cannot see what moves; judgement
MOVED = ("nothing",)  # answers that need no second pair of eyes


@dataclass(frozen=True)
class Observation:
    """One thing a mechanic found. `value` has the fields of the case format for its kind.

    `job`: the job after which it was found, '' for what was found before any.
    """

    kind: str
    hub: str
    value: Mapping[str, Any] = field(default_factory=dict)
    source: str = ""
    job: str = ""


def statements_of(observations: Iterable[Observation], vehicle: Vehicle) -> list[Statement]:
    """Return what all observations say. What was seen part by part stands before one word for the whole hub.

    Raises what `statements` and `read_part` raise.
    """
    observations = list(observations)
    seen = [s for one in inspected(observations, vehicle).values() for s in _of_inspection(one)]
    better = {(statement.witness, statement.place) for statement in seen}
    said = [statement for one in observations for statement in statements(one, vehicle)]
    return [*(one for one in said if (one.witness, one.place) not in better), *seen]


def before_any_job(observations: Iterable[Observation]) -> list[Observation]:
    """Return what was found before any job: what the diagnosis rests on, whatever was found later."""
    return [one for one in observations if not one.job]


def counts_now(place: str, job: str, jobs: Mapping[str, str]) -> bool:
    """Return whether what was found at a place after a job ('': before any) counts of the vehicle as it stands.

    At a hub that was worked on (`jobs` by hub: the last job there) only what was found after that job, at every other
    what was found before.
    """
    return job == jobs.get(place, "")


def as_it_stands(observations: Iterable[Observation], jobs: Mapping[str, str]) -> list[Observation]:
    """Return what counts of the vehicle as it stands now; what the driver complained of is past with the first job."""
    return [one for one in observations if one.hub and counts_now(one.hub, one.job, jobs)]


def inspected(observations: Iterable[Observation], vehicle: Vehicle) -> dict[str, Inspection]:
    """Return the inspection of every hub. Raises what `read_part` raises."""
    looked = [(one.hub, one.value, one.source) for one in observations if one.kind == PART]
    return inspections(looked, vehicle.hubs())


def _of_inspection(inspection: Inspection) -> list[Statement]:
    source = inspection.looked[-1].source if inspection.looked else ""
    said = {"opened": inspection.opened, "hand_turned": inspection.in_the_hand, "fastening": inspection.fastening}
    return [Statement(witness, inspection.hub.id, shares, source) for witness, shares in said.items() if shares]


def statements(observation: Observation, vehicle: Vehicle) -> list[Statement]:
    """Return what one observation says; empty when it says nothing of a cause.

    Raises `UnknownName` for a kind or answer that no table lists, `BadQuantity` for readings that cannot be.
    """
    kind = kind_of(observation)
    known = vehicle.hub(observation.hub)
    if kind == PART and known is not None:
        read_part(observation.value, known)  # refused here; spoken for by the inspection as a whole
    if kind == PARTS:
        one_of(str(observation.value.get("answer")), wording()["parts"], say("word about parts"))
    if kind not in ANSWERED or _passed(observation):
        return []
    if kind == "complaint":
        return complaint_statements(observation.value, observation.source)
    if of_vehicle(kind):
        return [_of_vehicle(kind, observation)]
    if known is None:
        return []
    said = _READ.get(kind, _answered)(kind, observation.value, known, vehicle)
    return [Statement(w, known.id, shares, observation.source, trust) for w, shares, trust in said]


def kind_of(observation: Observation) -> str:
    """Return the kind of an observation; a `rock` of the case format is the test by where the hands were.

    Raises `UnknownName`.
    """
    kind = one_of(observation.kind, KINDS, say("kind of observation"))
    if kind != "rock":
        return kind
    return ROCKED[one_of(str(observation.value.get("hands") or "12_6"), ROCKED, say("way of rocking"))]


def _passed(observation: Observation) -> bool:
    return str(observation.value.get("answer")) in PASSES


def _of_vehicle(kind: str, observation: Observation) -> Statement:
    """Return what an ear hears on the road: now and then it hears wrong."""
    answer = _known(kind, observation.value)
    return Statement(kind, VEHICLE, {answer: 1.0}, observation.source, float(witnesses()[kind].get("by_ear", 1.0)))


def _known(kind: str, value: Mapping[str, Any]) -> str:
    answer = str(value.get("answer", ""))
    if answer not in outcomes(kind):
        allowed = ", ".join([*outcomes(kind), UNSURE])
        raise UnknownName(
            say(
                "“{answer}” is no answer to “{label}”. Choose one of: {allowed}.",
                answer=answer,
                label=witnesses()[kind]["label"],
                allowed=allowed,
            )
        )
    return answer


Said = list[tuple[str, Mapping[str, float], float]]  # witness, shares, trust


def _answered(kind: str, value: Mapping[str, Any], hub: Hub, vehicle: Vehicle) -> Said:
    answer = _known(kind, value)
    alone = value.get("how") == "one_person" and "nothing" in outcomes(kind) and answer not in MOVED
    return [(kind, {answer: 1.0}, ONE_PERSON if alone else 1.0)]


def _dial(kind: str, value: Mapping[str, Any], hub: Hub, vehicle: Vehicle) -> Said:
    if "readings_mm" not in value and "answer" in value:  # felt, or read by somebody who noted no figures
        return _answered(kind, value, hub, vehicle)
    resolution = value.get("resolution_mm") or 0.01
    read = end_play(
        listed(value.get("readings_mm", []), say("The readings")), hub.play_window_mm, resolution_mm=resolution
    )
    return [(kind, {name: share for name, share in read.outcomes.items() if share > 0}, 1.0)]


def _lever(kind: str, value: Mapping[str, Any], hub: Hub, vehicle: Vehicle) -> Said:
    """Read movement at the tyre, by the radii where they are given."""
    if "movement_mm" not in value:
        return _answered(kind, value, hub, vehicle)
    movement = within(value["movement_mm"], "tyre_movement_mm")
    if value.get("tyre_radius_mm") and value.get("hub_radius_mm"):
        at_hub = hub_movement_mm(
            tyre_movement_mm=movement, tyre_radius_mm=value["tyre_radius_mm"], hub_radius_mm=value["hub_radius_mm"]
        )
    else:
        at_hub = movement * LEVER_RATIO
    return [(kind, {_step(at_hub, LEVER_MM, outcomes(kind)): 1.0}, 1.0)]


def _heat(kind: str, value: Mapping[str, Any], hub: Hub, vehicle: Vehicle) -> Said:
    """Read a thermometer, °C, against the mate across the axle and against the air: each has its own scale."""
    if "temp_c" not in value:
        return _answered(kind, value, hub, vehicle)
    own = within(value["temp_c"], "temperature_c")
    said: Said = []
    if value.get("mate_c") is not None:
        rise = own - within(value["mate_c"], "temperature_c")
        said.append(("heat_over_mate", {_step(rise, OVER_MATE_K, outcomes("heat_over_mate")): 1.0}, 1.0))
    if value.get("ambient_c") is not None:
        rise = own - within(value["ambient_c"], "temperature_c")
        scale = OVER_AIR_K["unbraked" if vehicle.is_trailer or vehicle.is_cycle else "braked"]
        said.append(("heat_over_air", {_step(rise, scale, outcomes("heat_over_air")): 1.0}, 1.0))
    if not said:
        raise HematiteError(say("A temperature by itself says nothing. Give its mate's across the axle, or the air's."))
    return said


def _coast_down(kind: str, value: Mapping[str, Any], hub: Hub, vehicle: Vehicle) -> Said:
    """Read two stop-watch times, seconds, of a hub and of its mate."""
    if "seconds" not in value:
        return _answered(kind, value, hub, vehicle)
    own = within(value["seconds"], "seconds")
    mate = within(value.get("mate_seconds"), "seconds")
    return [(kind, {"short" if own < SHORT_SHARE * mate else "alike": 1.0}, 1.0)]


def _step(value: float, edges: tuple[float, ...], names: tuple[str, ...]) -> str:
    return names[sum(value >= edge for edge in edges)]


_READ: dict[str, Callable[[str, Mapping[str, Any], Hub, Vehicle], Said]] = {
    "end_play": _dial,
    "lever": _lever,
    "heat": _heat,
    "coast_down": _coast_down,
}


def words_of(observation: Observation, vehicle: Vehicle) -> str:
    """Return an entry of the log in the trade's words; '' for kinds that answer nothing."""
    if _passed(observation):
        return say(PASSES[str(observation.value.get("answer"))])
    hub = vehicle.hub(observation.hub)
    if observation.kind == PART and hub is not None:
        return read_part(observation.value, hub).words
    said = statements(observation, vehicle)
    if observation.kind == PARTS:
        return ": ".join(filter(None, (wording()["parts"][observation.value["answer"]], _text(observation))))
    if observation.kind == "complaint":
        return "; ".join(words_for(one.witness)[name] for one in said for name in one.shares)
    return "; ".join(one.words for one in said)


def _text(observation: Observation) -> str:
    return str(observation.value.get("text") or "").strip()
