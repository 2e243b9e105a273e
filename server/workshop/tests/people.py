"""People, vehicles and cases for tests: two workshops, so that every test has a neighbour to keep out."""

import json
import uuid

from cases.services import open_case
from django.test import Client, TestCase
from garage.services import add_vehicle
from hematite.recordings import encode_wav
from hematite.simulator import simulate
from hematite.vehicles import Hub
from people.models import Role, User, Workshop

PASSWORD = "bench-vice-42"
ROW = {"row": "one", "elements": 13, "element_diameter_mm": 12.7, "pitch_diameter_mm": 62.0, "contact_angle_deg": 36.0}
WHEEL = {"kind": "wheel", "turns_per_s": 8.0}
AGAIN = {"label": "Look again", "after_km": 50}  # a recheck to close a case with


def hub_data(name: str, side: str, design: str = "hub_unit") -> dict:
    """Return a hub as the API takes it."""
    return {"id": name, "side": side, "design": design, "bearings": [ROW]}


def vehicle_data(label: str = "Test van", design: str = "hub_unit", axles: int = 2) -> dict:
    """Return a vehicle as the API takes it."""
    return {
        "label": label,
        "tyre": "215/65 R16",
        "rolling_circumference_m": None,
        "axles": [
            {
                "driven": n == 1,
                "steered": n == 1,
                "hubs": [hub_data(f"A{n}L", "left", design), hub_data(f"A{n}R", "right", design)],
            }
            for n in range(1, axles + 1)
        ],
    }


def wav(condition: str = "sound", *, seconds: float = 6.0, seed: int = 1, severity: float = 1.0) -> bytes:
    """Return the simulated sound of a hub unit's wheel at eight turns a second."""
    from hematite.bundles import vehicle_from_json  # noqa: PLC0415

    hub = vehicle_from_json(vehicle_data()).hub("A1L")
    assert isinstance(hub, Hub)
    recording = simulate(hub, condition=condition, turns_per_s=8.0, duration_s=seconds, seed=seed, severity=severity)
    return encode_wav(recording)


class WorkshopTestCase(TestCase):
    """Two workshops with a person each; `self.client` is signed in to the first, `self.neighbour` to the second."""

    def setUp(self) -> None:
        """Make people, a vehicle and an open case."""
        self.user, self.client = self.person("ours")
        self.other, self.neighbour = self.person("theirs")
        self.vehicle = add_vehicle(self.user, vehicle_data())
        self.case = open_case(self.user, self.vehicle.id, "Since the wheels were changed")

    def person(self, name: str) -> tuple[User, Client]:
        """Return a person of a workshop of that name, and a client signed in as them."""
        workshop, _ = Workshop.objects.get_or_create(name=name)
        user = User.objects.create_user(name, password=PASSWORD, workshop=workshop, role=Role.OWNER)
        client = Client()
        client.force_login(user)
        return user, client

    def send(self, path: str, data: dict | None = None, *, client: Client | None = None, method: str = "post"):
        """Send JSON to the API."""
        call = getattr(client or self.client, method)
        return call(f"/api/{path}", json.dumps(data or {}), content_type="application/json")

    def observe(self, hub: str, kind: str, value: dict, **more: object):
        """Log an observation in the open case."""
        body = {"id": str(uuid.uuid4()), "hub": hub, "kind": kind, "value": value} | more
        return self.send(f"cases/{self.case.id}/observations", body)

    def record(self, hub: str, data: bytes, *, recording_id: str | None = None, **made: object):
        """Upload a sound at a hub of the open case."""
        from django.core.files.uploadedfile import SimpleUploadedFile  # noqa: PLC0415

        how = {"place": hub, "gain_group": "g", "speed": WHEEL} | made
        form = {
            "id": recording_id or str(uuid.uuid4()),
            "made": json.dumps(how),
            "sound": SimpleUploadedFile("a.wav", data),
        }
        with self.captureOnCommitCallbacks(execute=True):
            return self.client.post(f"/api/cases/{self.case.id}/recordings", form)
