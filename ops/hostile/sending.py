"""Changed files and bodies sent to a server, thousands of them: no fault, no end that does not come, no memory gone.

Run by `make fuzz` with the server's address; prints a line for each kind, keeps what went wrong, returns 1 for any.
"""

import argparse
import itertools
import json
import random
import threading
import time
import uuid
from collections import Counter
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from functools import cached_property, partial
from pathlib import Path
from typing import Any

import requests

from ops.hostile import mutations, seeds
from ops.made_up import MADE, VAN

PATIENCE_S = 60  # an answer later than that is none
MOST_BYTES = 1024**3  # of one process
AT_ONCE = 4
MOST_CASES = 100
SHARES = {"sound": 30, "picture": 15, "bundle": 12, "archive": 3, "book": 8, "speed log": 7, "body": 25}  # of a hundred
CHANGES = {
    "sound": mutations.of_bytes, "picture": mutations.of_bytes, "book": mutations.of_text,
    "speed log": mutations.of_text, "bundle": mutations.of_archive, "archive": mutations.of_archive,
}  # fmt: skip
LOOKED_AT = {  # where a file is sent to, and under which name
    "bundle": ("bundles/look", "bundle"), "archive": ("workshop/archive", "archive"),
    "book": ("vehicles/{vehicle}/logbook/table/look", "table"), "speed log": ("speed-logs", "log"),
}  # fmt: skip
FINDS: tuple[dict[str, Any], ...] = (
    {"kind": "spin", "hub": "A1L", "value": {"answer": "free"}},
    {"kind": "end_play", "hub": "A1L", "value": {"readings_mm": [0.02, 0.03, 0.02], "resolution_mm": 0.01}},
    {"kind": "part", "hub": "A1L", "value": {"part": "unit", "finds": ["glitter"]}},
    {"kind": "note", "hub": "", "value": {"words": "growls in left bends"}},
)


@dataclass
class Sender:
    """One signed-in person, and what is sent for them."""

    address: str
    session: requests.Session
    vehicle: str
    case: str
    cases: list[str] = field(default_factory=list)  # what is entered goes into them, no more to one than people make
    good: dict[str, list[Any]] = field(default_factory=dict)

    @cached_property
    def places(self) -> Iterator[str]:
        """Give the cases in turn."""
        return itertools.cycle(self.cases)

    @classmethod
    def at(cls, address: str, word: str, *, name: str = "ours") -> "Sender":
        """Sign in by a name, and have a vehicle, a case, a recording, and what of them can be taken along."""
        sender = cls(address, requests.Session(), "", "")
        # A line that is kept may be closed by the server while it is taken up again, which is no fault of what is sent.
        sender.session.headers["Connection"] = "close"
        sender.session.get(f"{address}/api/session", timeout=PATIENCE_S)
        sender.ask("session", json={"username": name, "password": word}).raise_for_status()
        sender.vehicle = sender.ask("vehicles", json=VAN).json()["id"]
        sender.case = sender.ask("cases", json={"vehicle": sender.vehicle, "complaint": "Growls"}).json()["id"]
        for find in FINDS:
            said = {"id": str(uuid.uuid4()), **find}
            sender.ask(f"cases/{sender.case}/observations", json=said).raise_for_status()
        sounds, pictures = seeds.sounds(), seeds.pictures()
        sender.cases.append(sender.case)
        sender.sound(sounds[0]).raise_for_status()  # a small case: each of its files is looked at again in a bundle
        sender.picture(pictures[0]).raise_for_status()
        sender.good = {"sound": sounds, "picture": pictures, "book": seeds.books(), "speed log": seeds.speed_logs()}
        bundles = [f"cases/{sender.case}/bundle", f"vehicles/{sender.vehicle}/bundle"]
        sender.good |= {"bundle": [sender.got(path) for path in bundles], "archive": [sender.got("workshop/archive")]}
        for _ in range(MOST_CASES):
            vehicle = sender.ask("vehicles", json=VAN).json()["id"]
            sender.cases.append(sender.ask("cases", json={"vehicle": vehicle, "complaint": "Growls"}).json()["id"])
        sender.good["body"] = [("vehicles", VAN), ("cases", {"vehicle": sender.vehicle, "complaint": "Growls"})]
        sender.good["body"] += [("observations", find) for find in FINDS]
        sender.refuse_bad_seeds()
        return sender

    def refuse_bad_seeds(self) -> None:
        """Send each good file as it is: one that is refused unchanged would try nothing when it is changed."""
        for kind, files in self.good.items():
            for good in files:
                sent = json.dumps({"id": str(uuid.uuid4()), **good[1]}).encode() if kind == "body" else good
                self.sending(kind, good, sent)().raise_for_status()

    def ask(self, path: str, **more: Any) -> requests.Response:
        """Send as the pages do."""
        headers = {"X-CSRFToken": self.session.cookies.get("csrftoken", ""), **more.pop("headers", {})}
        return self.session.post(f"{self.address}/api/{path}", headers=headers, timeout=PATIENCE_S, **more)

    def got(self, path: str) -> bytes:
        """Return what an address gives."""
        answer = self.session.get(f"{self.address}/api/{path}", timeout=PATIENCE_S)
        answer.raise_for_status()
        return answer.content

    def sound(self, data: bytes) -> requests.Response:
        """Send a recording."""
        made = {"id": str(uuid.uuid4()), "made": json.dumps(MADE)}
        return self.ask(f"cases/{next(self.places)}/recordings", data=made, files={"sound": ("s", data)})

    def picture(self, data: bytes) -> requests.Response:
        """Send a photograph."""
        said = {"id": str(uuid.uuid4()), "part": "unit", "hub": "A1L"}
        return self.ask(f"cases/{self.case}/photos", data=said, files={"picture": ("p", data)})

    def body(self, path: str, data: bytes) -> requests.Response:
        """Send a body as JSON."""
        return self.ask(path, data=data, headers={"Content-Type": "application/json"})

    def one(self, kind: str, dice: random.Random) -> tuple[bytes, Callable[[], requests.Response]]:
        """Return a changed file or body, and what sends it."""
        good = dice.choice(self.good[kind])
        if kind == "body":
            data = mutations.of_body({"id": str(uuid.UUID(int=dice.getrandbits(128), version=4)), **good[1]}, dice)
        else:
            change = mutations.of_text if good[:4] == b"time" else CHANGES[kind]  # a log of accelerations is a table
            data = change(good, dice)
        return data, self.sending(kind, good, data)

    def sending(self, kind: str, good: Any, data: bytes) -> Callable[[], requests.Response]:
        """Return what sends a file or a body of a kind; `good`: what it was made of."""
        if kind == "body":
            path = f"cases/{next(self.places)}/observations" if good[0] == "observations" else good[0]
            return partial(self.body, path, data)
        if kind in ("sound", "picture"):
            return partial(getattr(self, kind), data)
        path, name = LOOKED_AT[kind]
        return partial(self.ask, path.format(vehicle=self.vehicle), files={name: ("f", data)})


class Watched:
    """The most memory that a process of some groups had, looked at all the time."""

    def __init__(self, groups: list[int]) -> None:
        self.groups, self.most, self._done = groups, 0, threading.Event()
        self._thread = threading.Thread(target=self._watch, daemon=True)

    def __enter__(self) -> "Watched":
        self._thread.start()
        return self

    def __exit__(self, *_: object) -> None:
        self._done.set()
        self._thread.join()

    def _watch(self) -> None:
        while not self._done.wait(0.05):
            for stat in Path("/proc").glob("[0-9]*/stat"):
                try:
                    if int(stat.read_text().rpartition(")")[2].split()[2]) in self.groups:
                        status = (stat.parent / "status").read_text()
                        self.most = max(self.most, 1024 * int(status.partition("VmHWM:")[2].split()[0]))
                except (OSError, IndexError, ValueError):
                    continue  # it ended while it was looked at


def main() -> int:
    """Send it all."""
    parser = argparse.ArgumentParser()
    parser.add_argument("address")
    parser.add_argument("word")
    parser.add_argument("kept", type=Path)
    parser.add_argument("--many", type=int, default=10_000)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--groups", type=int, nargs="*", default=[])
    said = parser.parse_args()
    said.kept.mkdir(parents=True, exist_ok=True)
    sender = Sender.at(said.address, said.word)
    found: Counter[tuple[str, str]] = Counter()
    slowest: dict[str, float] = {}
    numbers = itertools.count()

    def send(kind: str) -> None:
        number = next(numbers)
        dice = random.Random(f"{said.seed}/{kind}/{number}")
        data, sending = sender.one(kind, dice)
        begun = time.monotonic()
        try:
            answer = sending()
            words = f"{answer.status_code}"
            amiss = answer.status_code >= 500 or b"Traceback" in answer.content
        except requests.RequestException as fault:
            words, amiss = type(fault).__name__, True
        slowest[kind] = max(slowest.get(kind, 0), time.monotonic() - begun)
        found[kind, words] += 1
        if amiss:
            found[kind, "amiss"] += 1
            (said.kept / f"{kind.replace(' ', '-')}-{words}-{number}").write_bytes(data)

    with Watched(said.groups) as watched, ThreadPoolExecutor(AT_ONCE) as pool:
        kinds = [kind for kind, share in SHARES.items() for _ in range(said.many * share // 100)]
        random.Random(said.seed).shuffle(kinds)
        list(pool.map(send, kinds))
        unheard = _heard_out(sender)
    for kind in SHARES:
        answers = ", ".join(f"{words}: {n}" for (of, words), n in sorted(found.items()) if of == kind)
        print(f"{kind:10} {answers}; slowest {slowest.get(kind, 0):.1f} s", flush=True)
    print(f"Most memory of one process: {watched.most / 1024**2:.0f} MB; faults while hearing: {unheard}", flush=True)
    amiss = sum(n for (_, words), n in found.items() if words == "amiss") + unheard
    return 1 if amiss or watched.most > MOST_BYTES else 0


def _heard_out(sender: Sender) -> int:
    """Wait until all that was kept is heard; return how often that was a fault of the program."""
    faults = 0
    for case in sender.cases:
        while True:
            rows = json.loads(sender.got(f"cases/{case}/recordings"))
            if all(row["state"] != "waiting" for row in rows):
                break
            time.sleep(2)
        faults += sum("fault of the program" in (row.get("error") or "") for row in rows)
    return faults


if __name__ == "__main__":
    raise SystemExit(main())
