"""A whole workshop as one open archive: its ways, and a bundle of each vehicle; written as it is read, and taken in."""

import json
import tempfile
from collections.abc import Iterator
from dataclasses import dataclass, field
from functools import partial
from pathlib import Path
from typing import Any
from uuid import uuid4
from zipfile import ZIP_STORED, ZipFile

from audit.services import What, trace
from bundles import arriving, leaving
from django.conf import settings
from django.db import transaction
from django.http import Http404
from django.utils import timezone
from garage.services import vehicles_of
from hematite.bundles.reading import DAMAGED
from hematite.doors import mapped, read_json
from hematite.errors import BadBundle, HematiteError
from hematite.language import say
from people import staff
from people.models import User
from policies.schemas import PolicyIn
from policies.services import change_policy, policy_row
from pydantic import ValidationError as ShapeError
from workshop.refusals import Refusal

FORMAT, VERSION = "hematite-workshop", 1
ABOUT = "workshop.json"
MOST_ABOUT_BYTES = 20 * 1024**2
MOST_VEHICLES = 100_000
PIECE = 1 << 20  # bytes


@dataclass
class Arrived:
    """What became of an archive: vehicles that are new or were here, and in words what was left out."""

    workshop: str
    vehicles: int = 0
    new_vehicles: int = 0
    cases: int = 0
    rows: int = 0
    ways: bool = False
    left_out: list[str] = field(default_factory=list)


class _Pipe:
    """Takes what an archive writes, and gives it on in the order in which it came."""

    def __init__(self) -> None:
        self._held: list[bytes] = []

    def write(self, data: bytes) -> int:
        self._held.append(bytes(data))
        return len(data)

    def flush(self) -> None:
        """Nothing is held back."""

    def taken(self) -> bytes:
        held, self._held = b"".join(self._held), []
        return held


def leave(user: User) -> Iterator[bytes]:
    """Give the archive piece by piece, a vehicle at a time: of any size, it needs the room of one vehicle."""
    numbers = list(vehicles_of(user).order_by("added_at", "id").values_list("id", flat=True))
    trace(user, What.TAKEN_ALONG, user.workshop.name, [say("vehicles: {numbers}", numbers=len(numbers))])
    pipe = _Pipe()
    written: list[dict[str, str]] = []
    with ZipFile(pipe, "w", ZIP_STORED) as archive:  # type: ignore[call-overload]
        for number in numbers:
            try:
                bundle = leaving.vehicle_bundle(user, number)
            except Http404:
                continue  # deleted meanwhile
            name = f"vehicles/{number}.zip"
            with bundle, archive.open(name, "w", force_zip64=True) as there:
                while piece := bundle.read(1 << 20):
                    there.write(piece)
                    yield pipe.taken()
            written.append({"file": name})
        archive.writestr(ABOUT, json.dumps(_about(user, written), ensure_ascii=False, indent=1))
    yield pipe.taken()


def _about(user: User, vehicles: list[dict[str, str]]) -> dict[str, Any]:
    row = policy_row(user.workshop_id)
    return {
        "format": FORMAT,
        "version": VERSION,
        "workshop": user.workshop.name,
        "made_at": timezone.now().isoformat(timespec="seconds"),
        "ways": row.data if row else None,
        "people": [{"name": one.shown_name, "role": one.role, "here": one.is_active} for one in staff.staff(user)],
        "vehicles": vehicles,
    }


def take_in(user: User, path: Path) -> Arrived:
    """Take an archive in, vehicle by vehicle, each all or nothing; what cannot be read is named, and the rest goes on.

    Taken in twice the second time adds nothing. The ways of a workshop that has its own stay. Raises `BadBundle`.
    """
    with _opened(path) as archive:
        about = _read(archive)
        arrived = Arrived(str(about.get("workshop") or "")[:120])
        _take_ways(user, about.get("ways"), arrived)
        for name in _vehicles(about):
            _take_vehicle(user, archive, name, arrived)
        return arrived


def _opened(path: Path) -> ZipFile:
    try:
        return ZipFile(path)
    except DAMAGED:
        raise BadBundle(say("This is no archive of a workshop, or it is damaged. Nothing was stored.")) from None


def _read(archive: ZipFile) -> dict:
    if ABOUT not in archive.namelist() or archive.getinfo(ABOUT).file_size > MOST_ABOUT_BYTES:
        raise BadBundle(
            say(
                "This is no archive of a workshop: it has no {about}. The yard takes in a vehicle or a case.",
                about=ABOUT,
            )
        )
    try:
        content = archive.read(ABOUT)
    except DAMAGED:
        raise BadBundle(say("{about} cannot be read.", about=ABOUT)) from None
    about = dict(mapped(read_json(content, ABOUT), ABOUT))
    if about.get("format") != FORMAT or about.get("version") != VERSION:
        raise BadBundle(
            say(
                "{about} is of another kind: this reads {format}, version {version}.",
                about=ABOUT,
                format=FORMAT,
                version=VERSION,
            )
        )
    return about


def _vehicles(about: dict) -> list[str]:
    listed = about.get("vehicles")
    if not isinstance(listed, list) or len(listed) > MOST_VEHICLES:
        raise BadBundle(say("The list of vehicles cannot be read."))
    return [str(mapped(one, "A vehicle").get("file")) for one in listed]


def _take_ways(user: User, ways: Any, arrived: Arrived) -> None:
    if ways is None:
        return
    if policy_row(user.workshop_id) is not None:
        arrived.left_out.append(say("The ways: this workshop has its own."))
        return
    try:
        parts = {
            name: mapped(part, say("The ways, {name}", name=name))
            for name, part in mapped(ways, say("The ways")).items()
        }
        said = PolicyIn(**parts, change=uuid4(), revision=0, after=None)
        change_policy(user, said.dict())
    except (HematiteError, ShapeError, TypeError) as refusal:
        arrived.left_out.append(say("The ways: {refusal}", refusal=refusal)[:400])
        return
    arrived.ways = True


def _take_vehicle(user: User, archive: ZipFile, name: str, arrived: Arrived) -> None:
    try:
        with tempfile.NamedTemporaryFile(prefix="vehicle", suffix=".zip") as held:
            for piece in _pieces(archive, name):
                held.write(piece)
            held.flush()
            with transaction.atomic():
                taken = arriving.take_in(user, Path(held.name))
    except (HematiteError, Refusal) as refusal:
        arrived.left_out.append(f"{name}: {refusal}")
        return
    arrived.vehicles += 1
    arrived.new_vehicles += taken.new_vehicle
    arrived.cases += sum(not case["known"] for case in taken.cases)
    arrived.rows += sum(taken.counts.values())
    arrived.left_out += taken.left_out


def _pieces(archive: ZipFile, name: str) -> Iterator[bytes]:
    """Give a member piece by piece. Raises `BadBundle` where it is not there, too large or damaged."""
    if name not in archive.NameToInfo:
        raise BadBundle(say("it is not in the archive."))
    if archive.getinfo(name).file_size > settings.LARGEST_BUNDLE_BYTES:
        raise BadBundle(say("it is larger than 2 GB."))
    try:
        with archive.open(name) as there:
            yield from iter(partial(there.read, PIECE), b"")
    except DAMAGED:
        raise BadBundle(say("it is damaged.")) from None
