"""A whole vehicle's bundle: its description and every case of it, each a case bundle in a folder of its own."""

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from hematite.bundles.case import Case
from hematite.bundles.reading import case_in, opened, read_case
from hematite.doors import few, mapped, read_json
from hematite.errors import BadBundle
from hematite.language import say
from hematite.vehicles import Vehicle

FORMAT = "hematite-vehicle"
FOLDER = re.compile(r"cases/[A-Za-z0-9-]{1,64}")


@dataclass(frozen=True)
class Parcel:
    """What a bundle brings: a vehicle and its cases by the folder in which each lies, '' for a bundle of one case.

    `kept`: what a workshop kept of the vehicle beside its cases, as it was written; `read_file` reads a member.
    """

    vehicle: Vehicle
    cases: Mapping[str, Case]
    kept: Mapping[str, Any]
    read_file: Callable[[str], bytes]

    def contents(self) -> dict[str, Any]:
        """Return how much of what is in it, and in words what cannot be read."""
        return {
            "vehicle": self.vehicle.label,
            "hubs": [hub.id for hub in self.vehicle.hubs()],
            "cases": [_contents(folder, case) for folder, case in self.cases.items()],
            "kept": _counts(self.kept),
        }


def _contents(folder: str, case: Case) -> dict[str, Any]:
    return {
        "folder": folder,
        "recordings": len(case.source.get("recordings", [])),
        "observations": len(case.source.get("observations", [])),
        "kept": _counts(case.source.get("kept") or {}),
        "left_out": list(case.left_out),
    }


def _counts(kept: Mapping[str, Any]) -> dict[str, int]:
    return {name: len(rows) for name, rows in kept.items() if isinstance(rows, list)}


def read_parcel(path: Path) -> Parcel:
    """Read a bundle of a vehicle or of one case, a folder or a .zip. Raises `BadBundle`."""
    read_file, names = opened(path)
    if "vehicle.json" not in names:
        case = case_in(read_file, "")
        return Parcel(case.vehicle, {"": case}, {}, read_file)
    data = read_json(read_file("vehicle.json"), "vehicle.json")
    if not isinstance(data, dict) or data.get("format") != FORMAT:
        raise BadBundle(say("vehicle.json does not say “{format}”: this is another kind of file.", format=FORMAT))
    if data.get("version") != 1:
        raise BadBundle(
            say("The bundle is of version {version!r}; this program reads version 1.", version=data.get("version"))
        )
    folders = few(data.get("cases", []), "cases", say("The cases"))
    if len(set(map(str, folders))) != len(folders):
        raise BadBundle(say("The bundle names one case twice."))
    kept = mapped(data.get("kept") or {}, say("What was kept"))
    cases = {folder: case_in(read_file, _folder(folder)) for folder in folders}
    known = [(case.vehicle, folder) for folder, case in cases.items()]
    vehicle = known[0][0] if known else _alone(data.get("vehicle"), read_file)
    for other, folder in known:
        if [hub.id for hub in other.hubs()] != [hub.id for hub in vehicle.hubs()]:
            raise BadBundle(say("{folder} is of another vehicle than the bundle's other cases.", folder=folder))
    return Parcel(vehicle, cases, kept, read_file)


def _alone(vehicle: object, read_file: Callable[[str], bytes]) -> Vehicle:
    """Return a vehicle that comes without a case, checked as that of a case is."""
    return read_case({"format": "hematite-case", "version": 1, "vehicle": vehicle}, read_file).vehicle


def _folder(name: object) -> str:
    if not isinstance(name, str) or not FOLDER.fullmatch(name):
        raise BadBundle(say("“{name}” is no folder of a case in a bundle.", name=str(name)[:60]))
    return f"{name}/"
