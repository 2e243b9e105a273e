"""No address, guessed id or body crosses the line between workshops: every operation of the API, as others."""

import itertools
import json
import re
import uuid

from cases.models import Case, Observation
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from garage.models import Vehicle
from logbook.models import Entry
from people.models import User
from photos.models import Photo
from photos.tests.test_photos import camera_jpeg
from policies.models import WorkshopPolicy
from recordings.models import Recording
from sums.models import Worked
from training.models import Card, Exercise, Heard, Lesson, Round
from upkeep.models import Feel, Reading, Recheck
from verdicts.models import Departure, Verdict

from workshop.api import api
from workshop.tests.people import AGAIN, PASSWORD, WHEEL, WorkshopTestCase, vehicle_data, wav

# A calendar has no session: its secret address is the key, and a wrong one is as unknown as any.
SECRET = ("get", "/api/calendar/{secret}.ics")
BY_LINK = {("post", f"/api/{way}") for way in ("set-up", "join", "reset", "forgotten", "invitations/look")}
PHONE = {("get", "/api/phone"), ("get", "/api/phone/authority.crt")}  # where the server is, before anybody signs in
OPEN_TO_ALL = {("get", "/api/session"), ("post", "/api/session"), SECRET, *BY_LINK, *PHONE}
# Operations that name no row: what they answer depends on the asker only.
OWN_ONLY = {
    ("delete", "/api/session"),
    ("put", "/api/preferences"),
    ("post", "/api/password"),
    ("put", "/api/mail"),
    ("put", "/api/workshop/language"),
    ("get", "/api/second"),
    ("post", "/api/second"),
    ("post", "/api/second/begin"),
    ("post", "/api/second/off"),
    ("get", "/api/devices"),
    ("get", "/api/people"),
    ("post", "/api/people/invitations"),
    ("get", "/api/reference"),
    ("post", "/api/vehicles"),
    ("get", "/api/yard"),
    ("get", "/api/due"),
    ("get", "/api/fleet"),
    ("get", "/api/fleet/past"),
    ("get", "/api/fleet/{table}.csv"),
    ("get", "/api/calendar"),
    ("post", "/api/calendar/renew"),
    ("get", "/api/calendar.ics"),
    ("post", "/api/speed-logs"),
    ("post", "/api/bundles"),
    ("post", "/api/bundles/look"),
    ("post", "/api/sums/{key}"),
    ("post", "/api/sums/lever"),
    ("get", "/api/policy"),
    ("put", "/api/policy"),
    ("get", "/api/bearings"),
    ("get", "/api/training"),
    ("post", "/api/training/rounds"),
    ("get", "/api/training/pairs"),
    ("get", "/api/training/group"),
    ("post", "/api/training/pairs"),
    ("get", "/api/keeping"),
    ("put", "/api/keeping"),
    ("post", "/api/keeping/hear-again"),
    ("get", "/api/keeping/traces.csv"),
    ("get", "/api/workshop/archive"),
    ("post", "/api/workshop/archive"),
}
# What changes something, by what it needs of a role; written down here by hand, so that no slip opens a door.
DECIDES = {("post", f"/api/cases/{{case_id}}/{what}") for what in ("departures", "verdicts", "finish")}
DECIDES |= {
    ("put", "/api/cases/{case_id}/lesson"),
    ("post", "/api/bundles"),
    ("get", "/api/training/group"),
    ("post", "/api/training/group/rounds"),
}
RULES = {
    ("put", "/api/policy"),
    ("put", "/api/workshop/language"),
    ("post", "/api/calendar/renew"),
    ("post", "/api/people/invitations"),
    ("put", "/api/people/{person_id}"),
    ("post", "/api/people/{person_id}/reset"),
    ("post", "/api/people/{person_id}/erase"),
    ("post", "/api/people/{person_id}/second/off"),
    ("get", "/api/keeping"),
    ("get", "/api/keeping/traces.csv"),
    ("get", "/api/workshop/archive"),
    ("put", "/api/keeping"),
    ("post", "/api/keeping/hear-again"),
    ("post", "/api/vehicles/{vehicle_id}/sold"),
    ("post", "/api/vehicles/{vehicle_id}/delete"),
    ("post", "/api/cases/{case_id}/delete"),
    ("post", "/api/photos/{photo_id}/delete"),
    ("post", "/api/workshop/archive"),
}
ONLY_READS = {
    ("post", f"/api/{what}")
    for what in ("speed-logs", "bundles/look", "sums/{key}", "sums/lever", "vehicles/{vehicle_id}/logbook/table/look")
}
OWN = {
    ("delete", "/api/session"),
    ("put", "/api/preferences"),
    ("post", "/api/password"),
    ("put", "/api/mail"),
    ("post", "/api/second"),
    ("post", "/api/second/begin"),
    ("post", "/api/second/off"),
    ("delete", "/api/devices/{device_id}"),
    ("post", "/api/training/rounds"),
    ("post", "/api/training/pairs"),
    ("post", "/api/training/pairs/{trial_id}/said"),
    *(("post", f"/api/training/exercises/{{exercise_id}}/{what}") for what in ("begin", "ear", "answer")),
}
WORKS = {
    ("post", f"/api/{what}")
    for what in (
        "cases", "cases/{case_id}/observations", "cases/{case_id}/worked", "cases/{case_id}/simulated/nut",
        "cases/{case_id}/simulated/hand", "cases/{case_id}/simulated/part",
        "cases/{case_id}/job/entries", "cases/{case_id}/recordings", "cases/{case_id}/live",
        "cases/{case_id}/recordings/simulated", "cases/{case_id}/photos", "vehicles", "vehicles/{vehicle_id}/bearings",
        "vehicles/{vehicle_id}/hubs/{hub}/book", "vehicles/{vehicle_id}/book/copy", "vehicles/{vehicle_id}/logbook",
        "vehicles/{vehicle_id}/logbook/table", "vehicles/{vehicle_id}/feels", "vehicles/{vehicle_id}/odometer",
        "vehicles/{vehicle_id}/rechecks", "vehicles/{vehicle_id}/events", "rechecks/{recheck_id}/answer",
        "rechecks/{recheck_id}/drop", "recordings/{recording_id}/made", "recordings/{recording_id}/hear",
        "recordings/{recording_id}/withdraw", "photos/{photo_id}/withdraw",
    )
}  # fmt: skip
WORKS.add(("put", "/api/vehicles/{vehicle_id}"))
KEPT = (
    Vehicle, Case, Observation, Recording, Verdict, Photo, Departure, WorkshopPolicy, Worked, Recheck, Reading, Feel,
    Entry, Round, Exercise, Card, Heard, Lesson,
)  # fmt: skip


class EveryOperation(WorkshopTestCase):
    """Walks the OpenAPI document, so that a new operation cannot be forgotten."""

    def setUp(self) -> None:
        """Fill the first workshop."""
        super().setUp()
        self.recording = str(uuid.uuid4())
        self.record("A1L", wav(), recording_id=self.recording)
        self.observe("A1L", "spin", {"answer": "rumbles"})
        decided = self.send(
            f"cases/{self.case.id}/verdicts", {"hub": "A1L", "choice": "replace_unit", "reason": "sure"}
        )
        self.verdict = decided.json()["id"]
        self.recheck = self.send(f"vehicles/{self.vehicle.id}/rechecks", AGAIN).json()["id"]
        self.photo = str(uuid.uuid4())
        self.client.post("/api/session", {"username": "ours", "password": PASSWORD}, content_type="application/json")
        self.device = self.user.devices.get().pk
        self.client.post(f"/api/cases/{self.case.id}/photos", self.picture(self.photo))
        self.round = self.send("training/rounds", {"topic": "play"}).json()
        self.trial = self.send("training/pairs", {"pair": "rings"}).json()["id"]

    def picture(self, photo_id: str) -> dict:
        """Return the form that sends a photograph."""
        picture = SimpleUploadedFile("a.jpg", camera_jpeg((40, 30)))
        return {"id": photo_id, "hub": "A1L", "part": "unit", "picture": picture}

    def operations(self) -> list[tuple[str, str]]:
        """Return every (method, path) of the API."""
        paths = api.get_openapi_schema()["paths"]
        return [(method, path) for path, methods in paths.items() for method in methods]

    def body(self, path: str) -> dict:
        """Return a body that would be right for the first workshop's people."""
        bodies = {
            "observations": {"id": str(uuid.uuid4()), "hub": "A1L", "kind": "spin", "value": {"answer": "free"}},
            "verdicts": {"hub": "A1L", "choice": "leave", "reason": "x"},
            "departures": {"school": "sides", "option": "both", "reason": "x"},
            "bearings": {"hub": "A1L", "row": "one", "designation": "6206"},
            "policy": {"revision": 0},
            "close": {"outcome": "x"},
            "finish": {"outcome": "x", "rechecks": [{"label": "Look again", "after_km": 30}]},
            "entries": {"id": str(uuid.uuid4()), "step": "lift.off", "kind": "done"},
            "book": {"fittings": {"brake": "drum"}},
            "copy": {"vehicle": str(self.vehicle.id)},
            "withdraw": {"withdrawn": True},
            "made": {"place": "A1L", "speed": WHEEL},
            "simulated": {"id": str(uuid.uuid4()), "made": {"place": "A1L", "speed": WHEEL}},
            "cases": {"vehicle": str(self.vehicle.id)},
            "worked": {"id": str(uuid.uuid4()), "hub": "A1L", "sum": "torque", "values": {"torque_nm": 100}},
            "nut": {"hub": "A1L", "thread": "M24×1.5", "angle_deg": 30},
            "odometer": {"id": str(uuid.uuid4()), "on": "2026-01-05", "km": 100},
            "rechecks": AGAIN,
            "feels": {"id": str(uuid.uuid4()), "trip": str(uuid.uuid4()), "hub": "A1L", "felt": "cold"},
            "logbook": {"id": str(uuid.uuid4()), "on": "2026-01-05", "kind": "note", "words": "x"},
            "events": {"id": str(uuid.uuid4()), "duty": "water"},
            "answer": {"case": str(uuid.uuid4()), "answer": "bad", "key": "over", "sure": 50},
            "ear": {"key": "over", "sure": 50},
            "hand": {"id": str(uuid.uuid4()), "hub": "A1L", "kind": "spin"},
            "part": {"id": str(uuid.uuid4()), "hub": "A1L", "part": "unit"},
            "rounds": {"topic": "play"},
            "pairs": {"pair": "rings"},
            "said": {"said": "a"},
            "lesson": {"kept": True},
            "drop": {"because": "sold"},
            "invitations": {"role": "reader"},
            "password": {"old": "x", "new": "y"},
            "preferences": {"light": "day"},
            "session": {"username": "x", "password": "y"},
            "{person_id}": {"role": "owner", "active": True},
        }
        return bodies.get(path.rstrip("/").rsplit("/", 1)[-1], vehicle_data() | {"revision": 1})

    def ask(self, client: Client, method: str, path: str):
        """Ask for an operation on the first workshop's rows."""
        ids = {"vehicle_id": self.vehicle.id, "case_id": self.case.id, "recording_id": self.recording, "form": "wav"}
        ids |= {"verdict_id": self.verdict, "photo_id": self.photo, "hub": "A1L", "key": "nut"}
        ids |= {"recheck_id": self.recheck, "table": "weeks", "person_id": self.user.pk, "device_id": self.device}
        ids |= {"trial_id": self.trial, "which": "a"}
        ids |= {"round_id": self.round["id"], "exercise_id": self.round["exercises"][0]["id"]}
        address = re.sub(r"{(\w+)}", lambda found: str(ids[found[1]]), path)
        if path.endswith("/band"):
            address += "?low_hz=1000&high_hz=3000"
        if path.endswith("/deciding") or (method == "get" and path.endswith(("/sums", "/strokes"))):
            address += "?hub=A1L"
        if path == "/api/training/group/rounds":
            return client.post(address, {"person": self.user.pk}, content_type="application/json")
        if method == "post" and path.endswith("/photos"):
            return client.post(address, self.picture(str(uuid.uuid4())))
        if path.endswith(("/table", "/table/look")):
            return client.post(address, {"table": SimpleUploadedFile("a.csv", b"date,note\n2026-01-05,x")})
        if method == "post" and path.endswith(("/recordings", "/live")):
            made = json.dumps({"place": "A1L", "speed": WHEEL})
            form = {"id": str(uuid.uuid4()), "made": made, "sound": SimpleUploadedFile("a.wav", wav(seconds=3))}
            return client.post(address, form)
        if method == "get":
            return client.get(address)
        return getattr(client, method)(address, json.dumps(self.body(path)), content_type="application/json")

    def counts(self) -> tuple[int, ...]:
        """Return how many rows of each kind there are."""
        return tuple(model.objects.count() for model in KEPT)

    def test_as_nobody(self) -> None:
        """Signed out, everything but the session answers 401, and nothing is stored."""
        before = self.counts()
        for method, path in self.operations():
            if (method, path) not in OPEN_TO_ALL:
                with self.subTest(method=method, path=path):
                    self.assertEqual(self.ask(Client(), method, path).status_code, 401)
        self.assertEqual(self.counts(), before)

    def test_as_another_workshop(self) -> None:
        """Signed in elsewhere, every operation on a row answers 404, nothing is told and nothing is stored."""
        before = self.counts()
        walked = 0
        for method, path in self.operations():
            if (method, path) in OPEN_TO_ALL | OWN_ONLY:
                continue
            with self.subTest(method=method, path=path):
                answer = self.ask(self.neighbour, method, path)
                self.assertEqual(answer.status_code, 404, answer.content[:200])
                self.assertEqual(answer.json()["code"], "not_found")
            walked += 1
        self.assertGreater(walked, 15)
        self.assertEqual(self.counts(), before)

    def test_as_every_role(self) -> None:
        """What a role may not is refused in words, and nothing is stored; what it may is not refused for the role."""
        roles = {"reader": WORKS | DECIDES | RULES, "apprentice": DECIDES | RULES, "mechanic": RULES}
        for role, may_not in roles.items():
            client = self.colleague(role)
            before = self.counts()
            for method, path in sorted(may_not):
                with self.subTest(role=role, method=method, path=path):
                    answer = self.ask(client, method, path)
                    self.assertEqual((answer.status_code, answer.json()["code"]), (403, "not_allowed"))
                    self.assertIn(f"As {role} you may not", answer.json()["message"])
            self.assertEqual(self.counts(), before)
            for method, path in self.operations():
                if (method, path) not in may_not | {("delete", "/api/session"), SECRET}:
                    with self.subTest(role=role, method=method, path=path):
                        answer = self.ask(client, method, path)
                        self.assertNotIn(b"not_allowed", b"" if answer.streaming else answer.content[:200])

    def test_every_operation_has_its_need(self) -> None:
        """Nothing that writes was forgotten in the lists above."""
        writes = {(method, path) for method, path in self.operations() if method != "get"}
        by_anybody = {one for one in OPEN_TO_ALL if one[0] != "get"}
        ruled = {one for one in RULES | DECIDES if one[0] != "get"}
        self.assertEqual(writes, WORKS | ruled | ONLY_READS | OWN | by_anybody)

    def colleague(self, role: str) -> Client:
        """Return a client of somebody of our workshop in a role."""
        user = User.objects.create_user(role, password=PASSWORD, workshop=self.user.workshop, role=role)
        client = Client()
        client.force_login(user)
        return client

    def test_lists_are_ones_own(self) -> None:
        """The neighbour's yard is empty."""
        yard = self.neighbour.get("/api/yard").json()
        self.assertEqual((yard["vehicle_count"], yard["open_count"]), (0, 0))

    def test_ids_in_bodies(self) -> None:
        """Another workshop's ids in a body are as unknown as in an address; taken ids tell nothing."""
        self.assertEqual(self.send("cases", {"vehicle": str(self.vehicle.id)}, client=self.neighbour).status_code, 404)
        their_case = self.send("cases", {"vehicle": self.their_vehicle()}, client=self.neighbour).json()["id"]
        ours = str(Observation.objects.get().id)
        body = {"id": str(uuid.uuid4()), "hub": "A1L", "kind": "spin", "value": {"answer": "free"}, "supersedes": ours}
        path = f"cases/{their_case}/observations"
        self.assertEqual(self.send(path, body, client=self.neighbour).status_code, 404)
        stolen = self.send(path, body | {"id": ours, "supersedes": None}, client=self.neighbour)
        self.assertEqual(stolen.status_code, 409)
        self.assertNotIn("rumbles", stolen.content.decode())

    def their_vehicle(self) -> str:
        """Add a vehicle next door."""
        return self.send("vehicles", vehicle_data("Theirs"), client=self.neighbour).json()["id"]

    def test_media_addresses(self) -> None:
        """Sounds are served only through the API, to their own workshop."""
        self.assertEqual(self.client.get(f"/api/recordings/{self.recording}/audio").status_code, 200)
        for client, address in itertools.product(
            (self.client, self.neighbour), ("/media/", "/sounds/1/", "/photos/1/", "/var/media/")
        ):
            self.assertTrue(client.get(address)["Content-Type"].startswith("text/html"))
