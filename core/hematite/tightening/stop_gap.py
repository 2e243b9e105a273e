"""A stop-gap torque for a bolt whose own is not known, by size and grade: a range, never the maker's figure."""

import math
from dataclasses import dataclass

from hematite.doors import one_of
from hematite.errors import BadQuantity
from hematite.language import say
from hematite.tables import table
from hematite.threads import read_thread

LEAST_MM, MOST_MM = 5.0, 36.0  # the sizes that the standard’s table of proof loads has and a wheel needs


@dataclass(frozen=True)
class StopGap:
    """A range in N·m for a bolt of a size and grade, with what it assumes and where it comes from."""

    least_nm: float
    most_nm: float
    assumes: str
    source: str


def grades() -> tuple[str, ...]:
    """Return the grades of which a proof stress is known."""
    return tuple(table("tightening/stop_gap.toml")["proof_mpa"])


def stress_area_mm2(diameter_mm: float, pitch_mm: float) -> float:
    """Return the tensile stress area of a metric thread, π/4·(d − 0.9382·P)² [published: ISO 898-1, 9.1.6.1]."""
    return math.pi / 4 * (diameter_mm - 0.9382 * pitch_mm) ** 2


def proof_load_kn(thread: str, grade: str) -> float:
    """Return the proof load of a bolt in kN. Raises `BadQuantity`, `UnknownName`."""
    diameter, pitch = _sizes(thread)
    low, high = table("tightening/stop_gap.toml")["proof_mpa"][one_of(grade, grades(), say("grade of bolt"))]
    return float(stress_area_mm2(diameter, pitch) * (low if diameter <= 16 else high) / 1000)


def stop_gap(thread: str, grade: str) -> StopGap:
    """Return the range for a bolt of a thread, as M12×1.5, and a grade, as 8.8: T = K·d·F with F = 0.75 proof loads.

    Raises `BadQuantity` for a thread that is not known here, `UnknownName` for a grade.
    """
    rows = table("tightening/stop_gap.toml")
    force = proof_load_kn(thread, grade) * 1000 * rows["share_of_proof"]
    diameter = _sizes(thread)[0] / 1000
    least, most = (factor * diameter * force for factor in rows["nut_factors"])
    assumes = say(
        "A steel bolt {thread} of grade {grade} in steel, its thread clean and lightly oiled or zinc-plated. "
        "Not for wheel nuts, axle nuts or what sets a bearing.",
        thread=thread,
        grade=grade,
    )
    return StopGap(round(least, 1), round(most, 1), assumes, rows["source"])


def _sizes(thread: str) -> tuple[float, float]:
    read = read_thread(thread)
    if not thread.strip().upper().startswith("M") or not LEAST_MM <= read.diameter_mm <= MOST_MM:
        raise BadQuantity(
            say(
                "No stop-gap is known for {words}: metric bolts from M{least_mm:g} to M{most_mm:g} only.",
                words=read.words,
                least_mm=LEAST_MM,
                most_mm=MOST_MM,
            )
        )
    return read.diameter_mm, read.pitch_mm
