"""A server and its database that are killed with kill -9 and begun again, and people who send recordings meanwhile."""

import contextlib
import io
import json
import os
import random
import signal
import subprocess
import threading
import time
import uuid
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path

import numpy as np
import requests
import soundfile

from ops.database import Database, free_port
from ops.made_up import MADE, VAN, WORD
from ops.running import MANAGE, VAR_LOG, Environment, gunicorn, hearing
from ops.say import run

RATE = 16_000
PATIENCE_S = 60
KINDS = ("server", "database", "both")


class Cut(Database):
    """A database that can be killed; it begins again by itself, as one that a start has begun does."""

    def kill(self) -> None:
        """Kill it, as a power cut does."""
        assert self._process is not None
        self._process.kill()
        self._process.wait(30)

    def wait(self) -> None:
        """Wait until it answers again, with what was committed."""
        late = time.monotonic() + PATIENCE_S
        while self._admin("ping").returncode:
            if time.monotonic() > late:
                raise TimeoutError("the database does not come back")
            time.sleep(0.05)


def noise(dice: random.Random) -> np.ndarray:
    """Return a third of a second of noise that no other recording has."""
    return np.random.default_rng(dice.getrandbits(64)).integers(-9000, 9000, RATE // 3, dtype="<i2")


def as_wav(samples: np.ndarray) -> bytes:
    """Return samples as WAV, 16 bit."""
    out = io.BytesIO()
    soundfile.write(out, samples, RATE, format="WAV", subtype="PCM_16")
    return out.getvalue()


@dataclass
class Site:
    """One installation in a folder: its database and its server, with somebody signed in."""

    folder: Path
    database: Cut
    environment: Environment
    port: int
    session: requests.Session = field(default_factory=requests.Session)
    case: str = ""
    sent: dict[str, np.ndarray] = field(default_factory=dict)  # all of them
    confirmed: set[str] = field(default_factory=set)
    server: subprocess.Popen[bytes] | None = None
    worker: subprocess.Popen[bytes] | None = None

    def begin(self) -> None:
        """Start the server, and wait until it answers."""
        part = gunicorn(f"127.0.0.1:{self.port}", self.environment, "--threads", "4")
        self.server = part.begin()
        late = time.monotonic() + PATIENCE_S
        while time.monotonic() < late:
            with contextlib.suppress(requests.RequestException):
                if requests.get(self.at("readyz"), timeout=10).ok:
                    return
            time.sleep(0.05)
        raise TimeoutError("the server does not come back")

    def begin_hearing(self) -> None:
        """Start what hears the recordings, until the end."""
        self.worker = hearing(self.environment).begin()

    def kill(self) -> None:
        """Kill the server with all its processes."""
        assert self.server is not None
        with contextlib.suppress(ProcessLookupError):
            os.killpg(self.server.pid, signal.SIGKILL)
        self.server.wait(30)

    def at(self, path: str) -> str:
        """Return an address of the server."""
        return f"http://127.0.0.1:{self.port}/{path}"

    def post(self, path: str, **more: object) -> requests.Response:
        """Send as the pages do."""
        headers = {"X-CSRFToken": self.session.cookies.get("csrftoken", "")}
        return self.session.post(self.at(f"api/{path}"), headers=headers, timeout=PATIENCE_S, **more)

    def open(self) -> None:
        """Sign in, with a vehicle and a case."""
        self.session.get(self.at("api/session"), timeout=PATIENCE_S)
        self.post("session", json={"username": "ours", "password": WORD}).raise_for_status()
        self.another_case()

    def another_case(self) -> None:
        """Open a case to send into."""
        vehicle = self.post("vehicles", json=VAN).json()["id"]
        self.case = self.post("cases", json={"vehicle": vehicle, "complaint": "Growls"}).json()["id"]

    def send(self, number: str) -> int:
        """Send a recording; return what was answered."""
        said = {"id": number, "made": json.dumps(MADE)}
        sound = {"sound": ("s", as_wav(self.sent[number]))}
        status = self.post(f"cases/{self.case}/recordings", data=said, files=sound).status_code
        if status == 201:
            self.confirmed.add(number)
        return status

    def send_on(self, dice: random.Random, done: threading.Event) -> None:
        """Send one after the other until something breaks, or it is enough."""
        while not done.is_set():
            number = str(uuid.UUID(int=dice.getrandbits(128), version=4))
            self.sent[number] = noise(dice)
            with contextlib.suppress(requests.RequestException):
                if self.send(number) == 201:
                    continue
            return

    @contextlib.contextmanager
    def two_who_send(self, dice: random.Random) -> Iterator[None]:
        """Have two people send one recording after the other for the moment."""
        done = threading.Event()
        people = [threading.Thread(target=self.send_on, args=(random.Random(dice.random()), done)) for _ in range(2)]
        for one in people:
            one.start()
        try:
            yield
        finally:
            done.set()
            for one in people:
                one.join()

    def lost_of(self, numbers: set[str]) -> list[str]:
        """Return those that were confirmed and are lost; send the others again, as a device does, and look at all."""
        wrong = self.lost(numbers & self.confirmed)
        wrong += [f"{number}, sent again" for number in numbers - self.confirmed if self.send(number) != 201]
        return wrong + self.lost(numbers)

    def lost(self, numbers: set[str]) -> list[str]:
        """Return those that are not there, or are not what was sent."""
        return [number for number in sorted(numbers) if not self._is_whole(number)]

    def _is_whole(self, number: str) -> bool:
        answer = self.session.get(self.at(f"api/recordings/{number}/audio"), timeout=PATIENCE_S)
        if not answer.ok:
            return False
        samples, _ = soundfile.read(io.BytesIO(answer.content), dtype="int16")
        return bool(np.array_equal(samples, self.sent[number]))


@contextlib.contextmanager
def site(folder: Path, *, data: Path | None = None) -> Iterator[Site]:
    """Give an installation that is set up and serves. `data`: where its database lies, if elsewhere."""
    folder.mkdir(parents=True, exist_ok=True)
    clean = {name: value for name, value in os.environ.items() if not name.startswith("HEMATITE")}
    told = {"HEMATITE_VAR": str(folder), "HEMATITE_SECRET_KEY": "of-this-trial-only-" * 3, "HEMATITE_PLAIN_HTTP": "1"}
    told |= {VAR_LOG: str(folder / "logs"), "HEMATITE_KEEP_FREE_MB": "0"}
    with Cut(data or folder) as database:
        here = Site(folder, database, clean | told | database.environment(), free_port())
        run([*MANAGE, "bring_up_to_date"], what="Bringing the database up to date", env=here.environment)
        made = ["--workshop", "Ours", "--username", "ours", "--password", WORD]
        subprocess.run([*MANAGE, "set_up", *made], env=here.environment, check=False, capture_output=True)
        here.begin()
        try:
            here.open()
            yield here
        finally:
            here.kill()
            if here.worker:
                here.worker.terminate()
                here.worker.wait(PATIENCE_S)


def cut(here: Site, dice: random.Random, kind: str) -> list[str]:
    """Cut the power at a random moment while two send; return what was confirmed and is lost."""
    before = set(here.sent)
    with here.two_who_send(dice):
        time.sleep(dice.random() * 0.7)
        if kind != "server":
            here.database.kill()
        if kind != "database":
            here.kill()
    if kind != "server":
        here.database.wait()
    if kind != "database":
        here.begin()
    return here.lost_of(set(here.sent) - before)
