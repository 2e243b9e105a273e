"""More than one machine: two servers, three workers, one of each killed in the middle; what was confirmed is kept."""

import hashlib
import io
import itertools
import json
import os
import signal
import subprocess
import sys
import tempfile
import time
import unittest
import uuid
import wave
from collections.abc import Callable
from contextlib import ExitStack
from pathlib import Path

import numpy as np
import requests

from ops.database import Database, free_port
from ops.made_up import MADE, VAN, WORD
from ops.packages import ensure_packages
from ops.running import MANAGE, Environment, Part, chores, gunicorn, hearing
from ops.say import ROOT

sys.path.insert(0, str(ROOT / "server"))
from workshop.tests.object_store import ObjectStore

RECORDINGS = 24


def noise(seed: int) -> bytes:
    """Return three seconds of noise as WAV."""
    samples = np.random.default_rng(seed).integers(-9000, 9000, 3 * 16000, dtype="<i2")
    out = io.BytesIO()
    with wave.open(out, "wb") as file:
        file.setparams((1, 2, 16000, 0, "NONE", ""))
        file.writeframes(samples.tobytes())
    return out.getvalue()


class Machines(unittest.TestCase):
    """Each process has a disk of its own; what they share is the database, the queue and the store."""

    def setUp(self) -> None:
        """Start what they share."""
        self.stack = ExitStack()
        self.addCleanup(self.stack.close)
        self.folder = Path(self.stack.enter_context(tempfile.TemporaryDirectory()))
        self.running: dict[str, subprocess.Popen[bytes]] = {}
        self.addCleanup(self.stop_all)
        self.store = self.stack.enter_context(ObjectStore())
        database = self.stack.enter_context(Database(self.folder / "shared", throwaway=True))
        clean = {name: value for name, value in os.environ.items() if not name.startswith("HEMATITE")}
        key = {"HEMATITE_SECRET_KEY": "of-this-test-only-" * 3, "HEMATITE_PLAIN_HTTP": "1"}
        self.shared: Environment = clean | database.environment() | self.store.settings() | key
        self.ports = [free_port(), free_port()]

    def machine(self, name: str) -> Environment:
        """Return a machine's environment: its own disk."""
        return self.shared | {"HEMATITE_VAR": str(self.folder / name)}

    def begin(self, part: Part, name: str) -> None:
        """Start a part, its words in a file."""
        with (self.folder / f"{name}.log").open("ab") as log:
            self.running[name] = subprocess.Popen(
                part.command, env=part.environment, stdout=log, stderr=log, start_new_session=True
            )

    def begin_all(self) -> None:
        """Set up, then start two servers, three workers and the chores."""
        subprocess.run([*MANAGE, "migrate", "--no-input"], env=self.machine("a"), check=True, capture_output=True)
        said = ["--workshop", "Ours", "--username", "ours", "--password", WORD]
        subprocess.run([*MANAGE, "set_up", *said], env=self.machine("a"), check=True, capture_output=True)
        for n, port in enumerate(self.ports):
            self.begin(gunicorn(f"127.0.0.1:{port}", self.machine(f"server{n}"), "--threads", "4"), f"server{n}")
        for n in range(3):
            self.begin(hearing(self.machine(f"worker{n}")), f"worker{n}")
        self.begin(chores(self.machine("chores")), "chores")
        self.until(lambda: all(self.answers(port) for port in self.ports), "the servers answer")

    def answers(self, port: int) -> bool:
        """Return whether a server is ready."""
        try:
            return requests.get(f"http://127.0.0.1:{port}/readyz", timeout=5).ok
        except requests.RequestException:
            return False

    def stop_all(self) -> None:
        """Stop what still runs."""
        for process in self.running.values():
            if process.poll() is None:
                os.killpg(process.pid, signal.SIGKILL)
            process.wait(20)

    def kill(self, name: str) -> None:
        """Kill a part with all its processes, as a power cut does."""
        os.killpg(self.running[name].pid, signal.SIGKILL)
        self.running[name].wait(20)

    def until(self, holds: Callable[[], bool], what: str, *, seconds: float = 150) -> None:
        """Wait until something holds."""
        late = time.monotonic() + seconds
        while not holds():
            logs = "\n".join(f"{log.name}: {log.read_text()[-1500:]}" for log in self.folder.glob("*.log"))
            self.assertLess(time.monotonic(), late, f"{what}\n{logs}")
            time.sleep(0.3)

    def at(self, port: int, path: str) -> str:
        """Return an address of one of the servers."""
        return f"http://127.0.0.1:{port}/api/{path}"

    def session(self) -> requests.Session:
        """Return a session that is signed in; both servers know it."""
        session = requests.Session()
        session.get(self.at(self.ports[0], "session"), timeout=20)
        self.send(session, "session", {"username": "ours", "password": WORD})
        return session

    def send(self, session: requests.Session, path: str, body: dict | None = None, **more: object) -> dict:
        """Send until a server takes it, one after the other, as the outbox of a device does."""
        for port in itertools.islice(itertools.cycle(self.ports), 60):
            headers = {"X-CSRFToken": session.cookies.get("csrftoken", "")}
            try:
                answer = session.post(self.at(port, path), json=body, headers=headers, timeout=60, **more)
            except requests.ConnectionError:
                time.sleep(0.2)
                continue
            if answer.status_code < 500:
                self.assertTrue(answer.ok, answer.text)
                return answer.json()
            time.sleep(0.5)
        self.fail(f"no server took {path}")

    def record(self, session: requests.Session, case: str, seed: int) -> str:
        """Upload a recording; return its number once a server has confirmed it."""
        number = str(uuid.uuid4())
        form = {"id": number, "made": json.dumps(MADE)}
        self.send(session, f"cases/{case}/recordings", data=form, files={"sound": ("a.wav", noise(seed))})
        return number

    def states(self, session: requests.Session, case: str) -> dict[str, str]:
        """Return how far each recording of a case is."""
        found = session.get(self.at(self.ports[1], f"cases/{case}/recordings"), timeout=60).json()
        return {one["id"]: one["state"] for one in found}

    def play(self, *, in_the_middle: Callable[[], None]) -> None:
        """Upload while one of each dies; every recording that was confirmed is there, whole, and heard."""
        self.begin_all()
        session = self.session()
        vehicle = self.send(session, "vehicles", VAN)
        case = self.send(session, "cases", {"vehicle": vehicle["id"]})["id"]
        confirmed = []
        for seed in range(RECORDINGS):
            if seed == RECORDINGS // 3:
                self.kill("worker0")
                self.kill("server0")
            if seed == RECORDINGS // 2:
                in_the_middle()
            confirmed.append(self.record(session, case, seed))
        done = dict.fromkeys(confirmed, "done")
        self.until(lambda: self.states(session, case) == done, "all are heard")
        sql = "SELECT MAX(tries), SUM(held_by != '') FROM hematite.recordings_analysis"
        tool = ["mariadb", "--no-defaults", f"--socket={self.shared['HEMATITE_DB_SOCKET']}", "-N", "-e", sql]
        tries, held = subprocess.run(tool, capture_output=True, text=True, check=True).stdout.split()
        self.assertLessEqual(int(tries), 2)  # by the one that was killed, and by another
        self.assertEqual(int(held), 0)
        self.assertEqual(len(self.store.names()), RECORDINGS)
        for seed, number in enumerate(confirmed):
            answer = session.get(self.at(self.ports[1], f"recordings/{number}/export/wav"), timeout=60)
            with wave.open(io.BytesIO(answer.content)) as kept, wave.open(io.BytesIO(noise(seed))) as sent:
                frames = [hashlib.sha256(one.readframes(one.getnframes())).hexdigest() for one in (kept, sent)]
            self.assertEqual(*frames)

    def test_the_queue_in_the_database(self) -> None:
        """The store goes away for a while in the middle."""

        def store_away() -> None:
            self.store.stop()
            self.store.start()

        self.play(in_the_middle=store_away)

    def test_the_queue_in_redis(self) -> None:
        """The queue itself is killed in the middle, and comes back empty."""
        ensure_packages(tests=True)
        port = free_port()
        self.shared["HEMATITE_REDIS"] = f"redis://127.0.0.1:{port}/0"
        command = ["redis-server", "--port", str(port), "--bind", "127.0.0.1", "--save", "", "--appendonly", "no"]
        queue = Part("queue", command, self.shared)
        self.begin(queue, "queue")

        def queue_dies() -> None:
            self.kill("queue")
            self.begin(queue, "queue")

        self.play(in_the_middle=queue_dies)
