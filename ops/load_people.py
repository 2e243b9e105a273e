"""Mechanics, as Locust plays them: the yard, a case at the car, answers, now and then a recording. See `ops.load`."""

import io
import itertools
import json
import os
import uuid
import wave
from typing import Any

import numpy as np
from locust import HttpUser, between, task

from ops.made_up import MADE, VAN

HOSTS = os.environ["HEMATITE_LOAD_HOSTS"].split()
PEOPLE = itertools.count()
SECONDS, RATE = 6, 44_100


def sound() -> bytes:
    """Return six seconds of noise as WAV, another each time: what is sent twice is kept once."""
    samples = np.random.default_rng().integers(-9000, 9000, SECONDS * RATE, dtype="<i2")
    out = io.BytesIO()
    with wave.open(out, "wb") as file:
        file.setparams((1, 2, RATE, 0, "NONE", ""))
        file.writeframes(samples.tobytes())
    return out.getvalue()


class Mechanic(HttpUser):
    """One person at one car after another, who looks, thinks and types."""

    wait_time = between(2, 8)
    host = HOSTS[0]

    def on_start(self) -> None:
        """Sign in at one of the servers, add a van and open a case of it."""
        number = next(PEOPLE)
        self.client.base_url = HOSTS[number % len(HOSTS)]
        self.client.get("/api/session")
        self.send("session", {"username": f"load-{number}", "password": os.environ["HEMATITE_LOAD_WORD"]}, "sign in")
        self.vehicle = self.send("vehicles", VAN, "add a vehicle")["id"]
        self.open_case()

    def send(self, path: str, body: dict[str, Any], name: str) -> dict[str, Any]:
        """Send as the pages do."""
        headers = {"X-CSRFToken": self.client.cookies.get("csrftoken", "")}
        return self.client.post(f"/api/{path}", json=body, headers=headers, name=name).json()

    def open_case(self) -> None:
        """Begin another case."""
        self.case = self.send("cases", {"vehicle": self.vehicle, "complaint": "Growls"}, "open a case")["id"]
        self.entered = 0

    @task(4)
    def look_at_the_yard(self) -> None:
        """The day's board."""
        self.client.get("/api/yard", name="the yard")

    @task(6)
    def look_at_the_case(self) -> None:
        """What the walkround asks for."""
        self.client.get(f"/api/cases/{self.case}", name="a case")
        self.client.get(f"/api/cases/{self.case}/recordings", name="its recordings")
        self.client.get(f"/api/cases/{self.case}/state", name="its state")

    @task(6)
    def answer(self) -> None:
        """A tap."""
        body = {
            "id": str(uuid.uuid4()),
            "hub": "A1R",
            "kind": "spin",
            "value": {"answer": ("free", "rumbles")[self.entered % 2]},
        }
        self.send(f"cases/{self.case}/observations", body, "an answer")
        self.entered += 1
        if self.entered == 12:
            self.open_case()

    @task(1)
    def record(self) -> None:
        """A recording sent; it is heard by a worker while others go on."""
        form = {"id": str(uuid.uuid4()), "made": json.dumps(MADE)}
        headers = {"X-CSRFToken": self.client.cookies.get("csrftoken", "")}
        files = {"sound": ("a.wav", sound())}
        self.client.post(
            f"/api/cases/{self.case}/recordings", data=form, files=files, headers=headers, name="a recording"
        )

    @task(1)
    def look_ahead(self) -> None:
        """What is due."""
        self.client.get("/api/due", name="what is due")
