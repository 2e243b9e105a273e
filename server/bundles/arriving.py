"""Taking in a bundle: what is new is added, what is here stays as it is, and what cannot be read is named."""

import logging
from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any
from uuid import UUID

from audit.services import What, trace
from cases.models import Case, Observation
from django.db import DatabaseError, models, transaction
from django.utils import timezone
from garage.models import Vehicle
from garage.schemas import VehicleIn
from garage.services import add_vehicle, get_vehicle, vehicles_of
from hematite.bundles import Case as CoreCase
from hematite.bundles import Parcel, read_parcel
from hematite.doors import mapped
from hematite.errors import BadBundle, HematiteError
from hematite.language import say
from logbook.models import Entry
from people.models import User
from people.services import somebody_elsewhere
from photos.models import Photo
from pydantic import ValidationError as ShapeError
from recordings.models import Recording
from upkeep.models import Reading, Recheck
from upkeep.services import renew
from verdicts.models import Verdict
from workshop import confined
from workshop.media import sha256
from workshop.refusals import Refusal
from workshop.trying import tried

from bundles import files
from bundles.carried import OF_A_CASE, OF_A_VEHICLE, WORDS, row_in
from bundles.numbers import Numbers
from bundles.shows import refuse_what_cannot_be_shown

log = logging.getLogger(__name__)
MOST_PEOPLE = 200
MOST_ROWS = 20_000  # of one kind: far above what a vehicle gathers in its life


@dataclass
class Taken:
    """What became of a bundle: the vehicle, its cases, and in words what was left out."""

    workshop: str
    made_at: str
    vehicle: Vehicle | None = None
    new_vehicle: bool = False
    same_plate: list[Vehicle] = field(default_factory=list)
    cases: list[dict[str, Any]] = field(default_factory=list)
    counts: Counter = field(default_factory=Counter)  # of rows that are new, by kind
    here: Counter = field(default_factory=Counter)  # of rows that were here already
    left_out: list[str] = field(default_factory=list)


def look_at(user: User, path: Path, *, onto: UUID | None = None) -> Taken:
    """Return what taking a bundle in would do, by doing it and taking all of it back. Raises `BadBundle`."""
    return tried(lambda: _Arrival(user, path, keep=False).run(onto))


def take_in(user: User, path: Path, *, onto: UUID | None = None) -> Taken:
    """Take a bundle in: all of it or nothing. `onto`: a vehicle of the workshop that it is of."""
    with transaction.atomic():
        taken = _Arrival(user, path, keep=True).run(onto)
        trace(
            user,
            What.TAKEN_IN,
            taken.vehicle,
            [say("from {workshop}", workshop=taken.workshop)] if taken.workshop else [],
        )
    return taken


class _Arrival:
    """One bundle on its way in."""

    def __init__(self, user: User, path: Path, *, keep: bool) -> None:
        self.user, self.keep = user, keep
        self.people: dict[str, User] = {}
        self.jobs: set[UUID] = set()  # of the case at hand
        self.parcel: Parcel = confined.read(read_parcel, path)
        self.numbers = Numbers(user, sha256(path))
        first = next(iter(self.parcel.cases.values()), None)
        origin = self.parcel.kept or (_kept(first) if first else {})
        self.origin = origin
        self.found = Taken(str(origin.get("workshop") or "")[:120], str(origin.get("made_at") or "")[:40])

    def run(self, onto: UUID | None) -> Taken:
        cases = [(folder, case, _kept(case)) for folder, case in self.parcel.cases.items()]
        self._learn(cases)
        vehicle = self.found.vehicle = self._vehicle(onto)
        for folder, case, kept in cases:
            self.found.left_out += [*case.left_out, *map(str, kept.get("lost") or [])]
            self._case(vehicle, folder, case, kept)
        for name, model in OF_A_VEHICLE.items():
            more = {"workshop": vehicle.workshop} if model is Recheck else {}
            self._rows(name, model, _listed(self.parcel.kept, name), more | {"vehicle": vehicle})
        renew(vehicle)
        refuse_what_cannot_be_shown(self.user, vehicle, [one["id"] for one in self.found.cases])
        return self.found

    def _learn(self, cases: list) -> None:
        """Learn of every row of the bundle whether it is here."""
        self.numbers.learn(Vehicle, [str(self._description()["id"])])
        self.numbers.learn(Case, [str(kept["case"]["id"]) for _, _, kept in cases])
        for name, model in {**OF_A_CASE, **OF_A_VEHICLE}.items():
            rows = [row for _, _, kept in cases for row in _listed(kept, name)]
            if name in OF_A_VEHICLE:
                rows += _listed(self.parcel.kept, name)
            self.numbers.learn(model, [str(row.get("id")) for row in rows])

    def _description(self) -> Mapping[str, Any]:
        """Return the vehicle as the workshop kept it, or as the core reads it, with a number."""
        first = next(iter(self.parcel.cases.values()), None)
        kept = self.origin.get("vehicle")
        plain = first.source["vehicle"] if first else {}
        return {"id": "vehicle"} | dict(mapped(kept, say("The vehicle")) if kept else plain)

    def _vehicle(self, onto: UUID | None) -> Vehicle:
        """Return the vehicle of the workshop that the bundle is of: one that is here, as it is, or a new one."""
        data, hubs = self._description(), {hub.id: hub.design_key for hub in self.parcel.vehicle.hubs()}
        number = self.numbers.of(str(data["id"]))
        if onto is not None or number in self.numbers.here:
            vehicle = get_vehicle(self.user, onto or number)
            gone = set(hubs) - {hub.name for axle in vehicle.axles.all() for hub in axle.hubs.all()}
            if gone:
                words = say(
                    "{label} has no {gone}, which the bundle speaks of.",
                    label=vehicle.label,
                    gone=", ".join(sorted(gone)),
                )
                raise Refusal(
                    "other_vehicle", say("{words} Take it in as a vehicle of its own.", words=words), status=422
                )
            return vehicle
        try:
            wanted = VehicleIn(
                **{**data, "id": number, "label": data.get("label") or say("Vehicle from a bundle")}
            ).dict()
        except (ShapeError, TypeError) as wrong:
            raise BadBundle(say("The vehicle in the bundle cannot be read: {wrong}", wrong=_first(wrong))) from None
        if wanted["plate"]:
            self.found.same_plate = list(vehicles_of(self.user).filter(plate__iexact=wanted["plate"]))
        vehicle = add_vehicle(self.user, wanted)
        if {hub.name for axle in vehicle.axles.all() for hub in axle.hubs.all()} != set(hubs):
            raise BadBundle(say("The bundle names its hubs in another way than by axle and side: A1L, A1R, A2L …"))
        self.found.new_vehicle = True
        return vehicle

    def _case(self, vehicle: Vehicle, folder: str, read: CoreCase, kept: Mapping[str, Any]) -> None:
        """Take in one case: a new one with all its rows, or what is new of one that is here."""
        number = self.numbers.of(str(kept["case"]["id"]))
        case = Case.objects.seen_by(self.user).filter(id=number).first()
        if case is not None and case.vehicle_id != vehicle.id:
            words = say(
                "The case of {opened_at:%Y-%m-%d} in the bundle is here already, of another vehicle.",
                opened_at=case.opened_at,
            )
            raise Refusal("other_vehicle", words, status=422)
        known, before = case is not None, sum(self.found.counts.values())
        if case is None:
            case = self._read(Case, kept["case"])
            case.vehicle, case.workshop_id = vehicle, self.user.workshop_id
            case.came_from = self._came_from()
            case.save(force_insert=True)
        self.jobs = set(case.verdicts.values_list("id", flat=True))
        for name, model in OF_A_CASE.items():
            more = {"vehicle": vehicle, "workshop": vehicle.workshop} if model is Recheck else {}
            self._rows(name, model, _listed(kept, name), more | {"case": case}, folder=folder)
        added = sum(self.found.counts.values()) - before
        self.found.cases.append(
            {"id": case.id, "complaint": case.complaint, "opened_at": case.opened_at, "known": known, "added": added}
        )

    def _came_from(self) -> dict[str, str]:
        now, who = timezone.now().isoformat(timespec="seconds"), self.user.shown_name
        return {"workshop": self.found.workshop, "made_at": self.found.made_at, "taken_at": now, "by": who}

    def _rows(
        self, name: str, model: type[models.Model], rows: list, more: Mapping[str, Any], folder: str = ""
    ) -> None:
        """Take in the rows of one kind that are not here; what corrects another is tied to it once both are there."""
        ties: list[tuple[models.Model, UUID]] = []
        of = say(", case of {opened_at:%Y-%m-%d}", opened_at=more["case"].opened_at) if "case" in more else ""
        for n, data in enumerate(rows, 1):
            what = say("{words}, number {n}{of}", words=say(WORDS[name]), n=n, of=of)
            if self.numbers.of(str(data.get("id"))) in self.numbers.here:
                self.found.here[name] += 1
                continue
            try:
                row = self._read(model, data)  # not undone with the row: who it names may be named by others too
                with transaction.atomic():
                    for key, value in more.items():
                        setattr(row, key, value)
                    corrected = self._untied(row)
                    self._store(row, data, folder)
            except (HematiteError, Refusal, DatabaseError) as refusal:
                words = str(refusal)
                if isinstance(refusal, DatabaseError):
                    log.warning("A row of a bundle was left out: %s: %r", what, refusal)
                    words = say("it cannot be kept here.")
                self.found.left_out.append(f"{what}: {words}")
                continue
            self.found.counts[name] += 1
            if corrected:
                ties.append((row, corrected))
        for row, corrected in ties:
            self._tie(row, corrected, name)

    def _read(self, model: type[models.Model], data: object) -> models.Model:
        row = row_in(model, data, number=self.numbers.of, person=self._person)
        for one in model._meta.concrete_fields:
            if isinstance(one, models.JSONField):
                setattr(row, one.attname, self.numbers.within(getattr(row, one.attname)))
        return row

    def _person(self, name: str) -> User:
        if name not in self.people:
            if len(self.people) == MOST_PEOPLE:
                raise BadBundle(say("The bundle names more than {most_people} people.", most_people=MOST_PEOPLE))
            self.people[name] = somebody_elsewhere(self.user.workshop_id, name, self.found.workshop)
        return self.people[name]

    def _untied(self, row: models.Model) -> UUID | None:
        """Return which row this one corrects, taken off it until that one is there."""
        opened = Case.objects.seen_by(self.user).filter(id=row.opened_id) if isinstance(row, Recheck) else None
        if opened is not None and not opened.exists():
            row.opened_id = None  # the case that it opened did not come along
        if not isinstance(row, Observation | Reading | Entry):
            return None
        corrected, row.supersedes_id = row.supersedes_id, None
        return corrected

    def _tie(self, row: Observation | Reading | Entry, corrected: UUID, name: str) -> None:
        """Let a row correct the one that it corrected, if that came; what was corrected otherwise here stays so."""
        model = type(row)
        same = {"case_id": row.case_id} if isinstance(row, Observation) else {"vehicle_id": row.vehicle_id}
        if not model.objects.filter(supersedes_id=corrected).exists():
            there = model.objects.filter(pk=corrected, **same)
            model.objects.filter(pk=row.pk).update(supersedes_id=there.values_list("pk", flat=True).first())
            return
        model.objects.filter(pk=row.pk).delete()
        self.found.counts[name] -= 1
        self.found.left_out.append(say("{row}: what it corrects was corrected otherwise here", row=row))

    def _store(self, row: models.Model, data: Mapping[str, Any], folder: str) -> None:
        hubs = {hub.id for hub in self.parcel.vehicle.hubs()}
        at = row.place if isinstance(row, Recording) else getattr(row, "hub", "")
        if at and at not in hubs | {"cabin"}:
            raise BadBundle(say("this vehicle has no hub {at}", at=at))
        if getattr(row, "job", None) not in {None, *self.jobs}:
            raise BadBundle(say("the job that it was found after is not in the bundle"))
        if isinstance(row, Recording | Photo):
            name = str(data.get("file") or "")
            if not name:
                raise BadBundle(say("its file is not in the bundle"))
            content = self.parcel.read_file(f"{folder}/{name}" if folder else name)
            files.fill(row, content, keep=self.keep)
        row.save(force_insert=True)
        if isinstance(row, Verdict):
            self.jobs.add(row.pk)
        if isinstance(row, Recording):
            files.have_heard(row)


def _kept(case: CoreCase) -> Mapping[str, Any]:
    """Return what a workshop kept of a case; of a bundle that no workshop wrote, what the core reads, as rows."""
    kept = case.source.get("kept")
    if kept is not None:
        kept = mapped(kept, say("What was kept"))
        mapped(kept.get("case"), say("The case"))
        return {**kept, "case": {"id": "case", **kept["case"]}}
    found = [_plain_observation(n, one) for n, one in enumerate(case.source.get("observations", []))]
    heard = [{**one, "after_repair": bool(one.get("job"))} for one in case.source.get("recordings", [])]
    return {"case": {"id": "case"}, "observations": found, "recordings": heard}


def _plain_observation(n: int, data: Mapping[str, Any]) -> dict[str, Any]:
    value = {name: one for name, one in data.items() if name not in ("kind", "hub", "job", "id")}
    return {"id": say("observation {n}", n=n), "kind": data["kind"], "hub": data.get("hub") or "", "value": value}


def _listed(kept: Mapping[str, Any], name: str) -> list[Mapping[str, Any]]:
    rows = kept.get(name) or []
    if not isinstance(rows, list) or len(rows) > MOST_ROWS:
        raise BadBundle(say("{name} in the bundle are no list, or too long a one.", name=name))
    return [mapped(row, name) for row in rows]


def _first(wrong: Exception) -> str:
    if not isinstance(wrong, ShapeError):
        return str(wrong)
    error = wrong.errors()[0]
    return f"{'.'.join(map(str, error['loc']))}: {error['msg']}."
