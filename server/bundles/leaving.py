"""A case, or a vehicle with all its cases, written as an open bundle to take along."""

import json
import tempfile
from collections.abc import Callable, Mapping
from functools import partial
from pathlib import Path
from typing import IO, Any
from uuid import UUID
from zipfile import ZIP_DEFLATED, ZIP_STORED, ZipFile

from audit.services import What, trace
from cases.models import Case
from cases.services import core_observation, get_case, standing
from django.db.models import Model, QuerySet
from django.utils import timezone
from garage.core import core_vehicle, vehicle_json
from garage.models import Vehicle
from garage.services import get_vehicle
from hematite.bundles import FORMAT, case_json, vehicle_to_json
from people.models import User
from photos import pictures
from recordings.models import Recording
from recordings.situations import situation_of
from recordings.storage import file_of
from workshop.refusals import Refusal

from bundles.carried import OF_A_CASE, OF_A_VEHICLE, fields_of, is_person, row_out
from bundles.numbers import own, renumbered

NONE: Mapping[str, str] = {}


def case_bundle(user: User, case_id: UUID) -> IO[bytes]:
    """Return the bundle of one case as an open file. Raises Http404 for one of another workshop."""
    case = get_case(user, case_id)
    trace(user, What.TAKEN_ALONG, case)
    return _archive(lambda archive: _write_case(archive, case, ""))


def vehicle_bundle(user: User, vehicle_id: UUID) -> IO[bytes]:
    """Return the bundle of a vehicle and all its cases as an open file. Raises Http404 for one of another workshop."""
    vehicle = get_vehicle(user, vehicle_id)
    trace(user, What.TAKEN_ALONG, vehicle)
    numbers = list(vehicle.cases.order_by("opened_at").values_list("id", flat=True))

    def write(archive: ZipFile) -> None:
        for number in numbers:
            _write_case(archive, get_case(user, number), f"cases/{own(number, user.workshop_id)}/")
        data = {
            "format": FORMAT,
            "version": 1,
            "vehicle": vehicle_to_json(core_vehicle(vehicle)),
            "cases": [f"cases/{own(number, user.workshop_id)}" for number in numbers],
            "kept": _made(vehicle) | {name: _rows(vehicle, model) for name, model in OF_A_VEHICLE.items()},
        }
        archive.writestr("vehicle.json", _text(data))

    return _archive(write)


def _archive(write: Callable[[ZipFile], None]) -> IO[bytes]:
    file = tempfile.TemporaryFile()  # noqa: SIM115 - whoever sends it closes it
    with ZipFile(file, "w", ZIP_DEFLATED) as archive:
        write(archive)
    file.seek(0)
    return file


def _write_case(archive: ZipFile, case: Case, folder: str) -> None:
    """Write a case: what the core reads, and beside it all that the workshop kept, with every file."""
    files: dict[str, str] = {}
    lost: list[str] = []
    number = partial(own, workshop_id=case.workshop_id)

    def put(row: UUID, name: str, found: Callable[[], Path]) -> None:
        try:
            kept = found()
        except Refusal as refusal:
            lost.append(f"{name}: {refusal}")
            return
        files[str(row)] = f"{name}{kept.suffix}"
        archive.write(kept, f"{folder}{name}{kept.suffix}", ZIP_STORED)

    for row in case.recorded:
        put(row.id, f"audio/{row.place}-{number(row.id)}", lambda row=row: file_of(row))
    for row in case.photos.all():
        put(row.id, f"photos/{row.part}-{number(row.id)}", lambda row=row: pictures.whole(row.file))
    heard = [row for row in case.recorded if _weighs(row) and str(row.id) in files]
    read = case_json(case.core, map(situation_of, heard), files, map(core_observation, standing(case)))
    data = renumbered(read, number)
    rows = {name: _rows(case, model, files) for name, model in OF_A_CASE.items()}
    data["kept"] = _made(case.vehicle) | {"case": row_out(case, number), "lost": lost} | rows
    archive.writestr(f"{folder}case.json", _text(data))


def _weighs(row: Recording) -> bool:
    return not row.withdrawn and not row.after_repair


def _rows(owner: Case | Vehicle, model: type[Model], files: Mapping[str, str] = NONE) -> list[dict[str, Any]]:
    """Return one kind of row of a case or of a vehicle, each with where its file lies, if it has one."""
    rows = _of(owner, model)
    number = partial(own, workshop_id=owner.workshop_id)
    return [row_out(row, number) | ({"file": files[str(row.pk)]} if str(row.pk) in files else {}) for row in rows]


def _of(owner: Case | Vehicle, model: type[Model]) -> QuerySet:
    people = [field.name for field in fields_of(model) if is_person(field)]
    path = "case" if isinstance(owner, Case) else "vehicle"
    rows = model.objects.filter(**{path: owner}).select_related(*people)
    # A recheck of a case goes with its case.
    return rows.filter(case=None) if path == "vehicle" and "case" in {f.name for f in model._meta.fields} else rows


def _made(vehicle: Vehicle) -> dict[str, Any]:
    """Return whence a bundle comes, and the vehicle as the workshop keeps it."""
    return {
        "workshop": vehicle.workshop.name,
        "made_at": timezone.now().isoformat(timespec="seconds"),
        "vehicle": vehicle_json(vehicle) | {"id": str(own(vehicle.id, vehicle.workshop_id)), "plate": vehicle.plate},
    }


def _text(data: dict[str, Any]) -> str:
    return json.dumps(data, indent=1, ensure_ascii=False)
