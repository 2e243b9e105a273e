"""From the press of an answer to the screen that shows what is believed now: server and browser, and where it goes."""

import os
import socket
import statistics
import subprocess
import sys
import time
import urllib.request
import uuid
from contextlib import suppress
from pathlib import Path

from cases.models import Case, Observation
from cases.services import open_case
from django.contrib.auth.hashers import PBKDF2PasswordHasher
from django.db import connection
from garage.core import core_vehicle
from garage.services import add_vehicle
from hematite.evidence.witnesses import outcomes, witnesses
from hematite.following import applicable
from people.models import User, Workshop
from playwright.sync_api import Page

from workshop.tests.browser import BrowserTestCase
from workshop.tests.people import PASSWORD, vehicle_data

PRESSES = 15
# Presses an answer. Resolves once its reply, which carries the case judged anew, has changed the page and nothing has
# changed for ten frames, with how long it took until the last change was painted, and what of that was the server.
PRESS = """
async (key) => {
  performance.clearResourceTimings();
  const replies = () => performance.getEntriesByType('resource').filter((one) => one.name.includes('/api/'));
  let painted = 0, changed = 0, since = 0;
  const watcher = new MutationObserver(() => {
    changed = performance.now(), since = 0;
    requestAnimationFrame(() => setTimeout(() => (painted = performance.now())));
  });
  watcher.observe(document.body, { subtree: true, childList: true, attributes: true, characterData: true });
  const begun = performance.now();
  document.body.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
  while (!replies().length || changed < replies()[0].responseEnd || ++since < 10) {
    if (performance.now() - begun > 10000) throw new Error('no answer to the press');
    await new Promise(requestAnimationFrame);
  }
  watcher.disconnect();
  if (replies().length > 1 || !replies()[0].name.endsWith('?judged=true')) throw new Error('it asked for more');
  return [painted - begun, replies()[0].responseEnd - replies()[0].requestStart];
}
"""


class RedrawBench(BrowserTestCase):
    """Prints; asserts nothing about time."""

    def setUp(self) -> None:
        """Serve it as `make start` does, and make a person."""
        self.live_server_url = self.served()
        workshop = Workshop.objects.create(name="ours")
        self.user = User.objects.create(username="ours", workshop=workshop)
        hashed = PBKDF2PasswordHasher().encode(PASSWORD, "salt")  # tests hash in another way, which it does not know
        User.objects.filter(id=self.user.id).update(password=hashed)

    def served(self) -> str:
        """Return the address of a server like that of `make start`: Django's own for tests shares this process."""
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            port = free.getsockname()[1]
        running = subprocess.Popen(
            [sys.executable, "-m", "gunicorn", "workshop.wsgi", "--chdir", Path(__file__).parents[2], "--bind",
             f"127.0.0.1:{port}", "--workers", "2", "--threads", "4", "--log-level", "warning"],
            env=os.environ | {"HEMATITE_DB_NAME": str(connection.settings_dict["NAME"])},
        )  # fmt: skip
        self.addCleanup(running.wait, 10)
        self.addCleanup(running.terminate)
        address = f"http://localhost:{port}"
        for _ in range(100):
            with suppress(OSError):
                return urllib.request.urlopen(address, timeout=5) and address
            time.sleep(0.1)
        raise RuntimeError("The server did not start.")

    def case(self, design: str, entries: int) -> Case:
        """Return a case with so many answers, the first that each test knows, test by test."""
        data = vehicle_data(f"{entries} of {design}", design=design)
        if design == "taper_pressurised":
            data["axles"] = [axle | {"driven": False, "steered": False} for axle in data["axles"]]
        case = open_case(self.user, add_vehicle(self.user, data).id, "growl from the left")
        tests = [(w, hub) for hub, own in applicable(core_vehicle(case.vehicle)).items() for w in own if hub]
        tests = [(w, hub) for w, hub in tests if "figures" not in witnesses()[w]]
        for witness, hub in sorted(tests)[:entries]:
            row = {"hub": hub, "kind": witness, "value": {"answer": outcomes(witness)[0]}, "person": self.user}
            Observation.objects.create(id=uuid.uuid4(), case=case, **row)
        return case

    def milliseconds(self, page: Page, case: Case) -> list[float]:
        """Return the medians from press to screen: all, and what of it is the server."""
        page.goto(f"/cases/{case.id}/spin?hub=A1L")
        page.get_by_role("radiogroup", name="Spun by hand").first.wait_for()
        self.settle(page)
        rows = [page.evaluate(PRESS, key) for key in ("a", "c") * ((PRESSES + 1) // 2)]
        return [statistics.median(column) for column in zip(*rows[1:], strict=True)]

    def test_print(self) -> None:
        """A trailer told everything, a car told a dozen answers, and an empty case as the baseline."""
        page = self.open()
        self.sign_in(page)
        base, *_ = self.milliseconds(page, self.case("taper_pressurised", 0))
        print(f"\nFrom an answer to the screen; baseline, a trailer with no other answer: {base:.0f} ms")
        for words, design, entries in (("tandem trailer", "taper_pressurised", 60), ("car", "hub_unit", 12)):
            whole, server = self.milliseconds(page, self.case(design, entries))
            print(
                f"{words}, {entries} answers: {whole:.0f} ms, {whole / base:.1f} times the baseline; the server, "
                f"write and judgement, {server:.0f} ms, the browser {whole - server:.0f} ms"
            )
