"""A case of real work to learn on: what was found, decided and proven, without people, plates and free words."""

import re
from collections.abc import Iterable, Mapping, Sequence
from typing import Any
from zlib import crc32

from hematite.errors import HematiteError
from hematite.evidence import Observation
from hematite.evidence.complaint import read_text
from hematite.evidence.observations import PART, WEIGH_NOTHING, kind_of
from hematite.language import say
from hematite.training.drawing import spoken
from hematite.training.truth import Truth

TOPIC, AS_IT_CAME = "real", 2  # the level that its questions have
OF_A_TABLE = re.compile(r"[a-z0-9_.]{1,24}")  # any other text may be somebody's own words
VEHICLE_SAYS = ("tyre", "rolling_circumference_m", "age_years", "distance_km", "duty")
HUB_SAYS = (
    "id", "side", "design", "rotating_ring", "play_min_mm", "play_max_mm", "seal", "fittings", "bearings",
)  # fmt: skip
BOOK_SAYS = ("least_nm", "most_nm", "source", "thread", "grade", "socket_mm", "one_time", "slots", "holes", "count")
SAYS_WHERE = ("side", "end", "bends")
YEARS, KM = 5.0, 50_000.0  # a vehicle is not told by its age and distance, which wear goes by only roughly


def stripped(vehicle: Mapping[str, Any]) -> dict[str, Any]:
    """Return a vehicle of the case format without what tells whose it is: label, plate, pages, and exact figures."""
    found = {name: vehicle[name] for name in VEHICLE_SAYS if name in vehicle}
    for name, step in (("age_years", YEARS), ("distance_km", KM)):
        if found.get(name) is not None:
            found[name] = round(found[name] / step) * step
    axles = [
        {"driven": axle["driven"], "steered": axle["steered"], "hubs": [_hub(hub) for hub in axle["hubs"]]}
        for axle in vehicle["axles"]
    ]
    return found | {"label": say("From our own work"), "axles": axles}


def _hub(hub: Mapping[str, Any]) -> dict[str, Any]:
    book = {
        key: {name: row[name] for name in BOOK_SAYS if name in row}
        for key, row in (hub.get("fastenings") or {}).items()
    }
    return {name: hub[name] for name in HUB_SAYS if name in hub} | {"fastenings": book}


def wordless(value: Any) -> Any:
    """Return an entry's value without free text: figures, and words that are keys of a table."""
    if isinstance(value, Mapping):
        return {key: left for key, own in value.items() if (left := wordless(own)) is not None}
    if isinstance(value, Sequence) and not isinstance(value, str):
        return [left for own in value if (left := wordless(own)) is not None]
    return None if isinstance(value, str) and not OF_A_TABLE.fullmatch(value) else value


def keep(
    vehicle: Mapping[str, Any],
    found: Iterable[Observation],
    *,
    number: str,
    hub: str,
    choice: str,
    cause: str,
    because: str,
    recorded: Sequence[str],
) -> Truth:
    """Return a case as something to learn on.

    `vehicle` in the case format; `found` before any job; `choice` at `hub` that was decided, done and proven, with the
    `cause` that was believed; `because`: what proved it; `recorded`: the numbers of its recordings.
    """
    found = list(found)
    rows = [
        {"kind": kind_of(one), "hub": one.hub, "value": wordless(one.value)}
        for one in found
        if one.kind not in ("complaint", *WEIGH_NOTHING)
    ]
    said = [one.value for one in found if one.kind == "complaint"]
    return Truth(
        topic=TOPIC, matter=number, level=AS_IT_CAME, seed=crc32(number.encode()), at=hub, causes={hub: cause},
        values={}, play_mm={}, opened={}, noise=(hub, cause), trouble={}, errs=True, complaint=_complaint(said),
        kept={"vehicle": stripped(vehicle), "found": rows, "choice": choice, "because": because,
              "recorded": list(recorded)},
    )  # fmt: skip


def _complaint(said: Sequence[Mapping[str, Any]]) -> dict[str, Any]:
    """Return what a driver said in the words of the tables."""
    kinds: dict[str, None] = {}
    where: dict[str, str] = {}
    for value in said:
        read = read_text(str(value.get("text") or ""))
        named = [*(value.get("words") or []), *([value["answer"]] if value.get("answer") else []), *read["kinds"]]
        kinds |= dict.fromkeys(word for word in named if OF_A_TABLE.fullmatch(word))
        where |= {key: value.get(key) or read[key] for key in SAYS_WHERE if value.get(key) or read[key]}
    words = list(kinds)
    return {"text": spoken(words[0] if words else "other", where.get("bends", "even")), "words": words} | where


def found_of(truth: Truth, kind: str, place: str) -> dict[str, Any]:
    """Return what was found by a test at a hub, or of the vehicle with place ''. Raises `HematiteError` for nothing."""
    rows = [row for row in truth.kept["found"] if row["kind"] == kind and row["hub"] == place]
    if not rows:
        raise HematiteError(say("Nobody did that on this vehicle. Say “not done”, and go on."))
    return dict(rows[-1]["value"])


def seen_of(truth: Truth, place: str, part: str) -> list[str]:
    """Return the finds at a part of a hub that was opened. Raises `HematiteError` where nobody looked."""
    rows = [
        row["value"]
        for row in truth.kept["found"]
        if row["kind"] == PART and row["hub"] == place and row["value"].get("part") == part
    ]
    if not rows:
        raise HematiteError(say("Nobody looked at this part on this vehicle."))
    return list(rows[-1].get("finds", ()))
