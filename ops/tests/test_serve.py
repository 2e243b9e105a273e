"""A phone at the car: a real server with TLS, a browser that trusts its authority, and the microphone."""

import datetime
import os
import re
import shutil
import subprocess
import sys
import tempfile
import time
import unittest
import urllib.error
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from cryptography import x509
from cryptography.hazmat.primitives import hashes
from playwright.sync_api import Page, expect, sync_playwright
from zeroconf import NonUniqueNameException, Zeroconf

from ops import authority
from ops.announce import announce
from ops.database import free_port
from ops.say import ROOT

NAME = "hematite.local"
PHONE = {"width": 390, "height": 844}
PASSWORD = "bench-vice-42"
# Asks the API as the pages do.
SEND = """async ([path, body]) => {
    const token = document.cookie.match(/csrftoken=([^;]+)/)[1];
    const headers = { 'Content-Type': 'application/json', 'X-CSRFToken': token };
    const answer = await fetch(`/api/${path}`, { method: 'POST', headers, body: JSON.stringify(body) });
    if (!answer.ok) throw new Error(await answer.text());
    return answer.json();
}"""
HUB = {"design": "hub_unit", "bearings": []}
HUBS = [HUB | {"id": f"A1{side[0].upper()}", "side": side} for side in ("left", "right")]
VAN = {"label": "Test van", "tyre": "215/65 R16", "axles": [{"driven": True, "steered": True, "hubs": HUBS}]}


class Authority(unittest.TestCase):
    """The workshop's own certificate authority, held against OpenSSL."""

    def setUp(self) -> None:
        """Make a folder."""
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name) / "tls"

    def verify(self, *more: str, certificate: str = "certificate.pem") -> bool:
        """Return whether OpenSSL takes a certificate of the folder."""
        command = ["openssl", "verify", "-CAfile", str(self.folder / "authority.pem"), *more]
        return (
            subprocess.run([*command, str(self.folder / certificate)], capture_output=True, check=False).returncode == 0
        )

    def test_openssl_takes_it_for_its_names_only(self) -> None:
        """By name and by address, and for no other; keys are their owner's alone."""
        authority.keep(self.folder, [NAME], ["192.168.7.4"])
        self.assertTrue(self.verify("-verify_hostname", NAME, "-purpose", "sslserver"))
        self.assertTrue(self.verify("-verify_ip", "192.168.7.4"))
        self.assertFalse(self.verify("-verify_hostname", "other.local"))
        for secret in ("authority-key.pem", "key.pem"):
            self.assertEqual((self.folder / secret).stat().st_mode & 0o777, 0o600)

    def test_a_stolen_key_speaks_for_the_house_only(self) -> None:
        """A certificate that the authority signs for a name outside is refused (RFC 5280 section 4.2.1.10)."""
        with self.assertRaisesRegex(SystemExit, "world outside"):
            authority.keep(self.folder, ["bank.example"], [])
        now = datetime.datetime.now(datetime.UTC)
        files = {name: self.folder / f"{name}.pem" for name in ("authority", "authority-key", "certificate", "key")}
        authority.keep(self.folder, [NAME], [])
        signer = x509.load_pem_x509_certificate(files["authority"].read_bytes())
        authority._make_certificate(files, signer, ["bank.example"], [], now)
        self.assertFalse(self.verify())

    def test_renewed_in_time_and_for_new_addresses(self) -> None:
        """The authority stays, so that no phone has to trust it again; the certificate is made anew in time."""
        kept = authority.keep(self.folder, [NAME], ["192.168.7.4"])
        paths = [Path(kept[name]) for name in ("authority", "certificate")]
        of, first = (path.read_bytes() for path in paths)
        authority.keep(self.folder, [NAME], ["192.168.7.4"])
        self.assertEqual(paths[1].read_bytes(), first)
        authority.keep(self.folder, [NAME], ["192.168.7.9"])
        second = paths[1].read_bytes()
        self.assertNotEqual(second, first)
        later = datetime.datetime.now(datetime.UTC) + datetime.timedelta(days=340)
        authority.keep(self.folder, [NAME], ["192.168.7.9"], now=later)
        self.assertNotEqual(paths[1].read_bytes(), second)
        self.assertEqual(paths[0].read_bytes(), of)


class PhoneAtTheCar(unittest.TestCase):
    """From the address on a slip of paper to a recording that is kept: over our own TLS, then behind nginx."""

    @classmethod
    def setUpClass(cls) -> None:
        """Choose ports, and a home whose browser knows no authority yet."""
        folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(folder.cleanup)
        cls.folder = Path(folder.name)
        cls.home, cls.var = cls.folder / "home", cls.folder / "var"
        cls.port, cls.plain, cls.behind = free_port(), free_port(), free_port()

    @contextmanager
    def running(self, module: str, **environment: str) -> Iterator[str]:
        """Give what a start command says until it is ready; stop it afterwards."""
        clean = {k: v for k, v in os.environ.items() if not k.startswith("HEMATITE")}
        told = (
            clean | {"HEMATITE_VAR": str(self.var), "HEMATITE_BIND": "127.0.0.1", "HEMATITE_NAME": NAME} | environment
        )
        log = self.folder / f"{module}.log"
        with log.open("w") as out:
            process = subprocess.Popen([sys.executable, "-m", module], cwd=ROOT, env=told, stdout=out, stderr=out)
            try:
                deadline = time.monotonic() + 120
                while "Ctrl-C stops it" not in log.read_text():
                    self.assertTrue(process.poll() is None and time.monotonic() < deadline, log.read_text())
                    time.sleep(0.2)
                yield log.read_text()
            finally:
                process.terminate()
                process.wait(60)

    @contextmanager
    def nginx(self) -> Iterator[None]:
        """Run nginx with the configuration of the documents, its names, ports and paths filled in."""
        tls = self.var / "tls"
        text = (ROOT / "docs" / "nginx.conf").read_text()
        for said, here in {
            "listen 80;": f"listen 127.0.0.1:{free_port()};",
            "listen 443 ssl;": f"listen 127.0.0.1:{self.port} ssl;",
            "hematite.example": NAME,
            "/etc/ssl/certs/hematite.pem": str(tls / "certificate.pem"),
            "/etc/ssl/private/hematite.pem": str(tls / "key.pem"),
            "127.0.0.1:8000": f"127.0.0.1:{self.behind}",
        }.items():
            self.assertIn(said, text)
            text = text.replace(said, here)
        kinds = ("client_body", "proxy", "fastcgi", "uwsgi", "scgi")
        aside = "".join(f"{kind}_temp_path {self.folder}/{kind};\n" for kind in kinds)
        conf = self.folder / "nginx.conf"
        conf.write_text(
            f"daemon off;\npid {self.folder}/nginx.pid;\nevents {{}}\nhttp {{\naccess_log off;\n{aside}{text}\n}}\n"
        )
        command = [
            shutil.which("nginx", path="/usr/sbin:/usr/bin") or "nginx",
            "-c",
            str(conf),
            "-e",
            str(self.folder / "nginx.log"),
        ]
        process = subprocess.Popen(command)
        try:
            yield
        finally:
            process.terminate()
            process.wait(20)

    def trust(self) -> None:
        """Trust the authority as a person would: in the browser's own list."""
        folder = self.home / ".pki" / "nssdb"
        folder.mkdir(parents=True)
        base = ["certutil", "-d", f"sql:{folder}"]
        subprocess.run([*base, "-N", "--empty-password"], check=True, capture_output=True)
        add = ["-A", "-t", "C,,", "-n", "Hematite", "-i", str(self.folder / "authority.crt")]
        subprocess.run([*base, *add], check=True, capture_output=True)

    @contextmanager
    def phone(self) -> Iterator[Page]:
        """Give a page of a browser of that home, which finds the name and has a microphone."""
        arguments = [
            "--no-sandbox", "--disable-gpu", "--use-fake-ui-for-media-stream", "--use-fake-device-for-media-stream",
            f"--host-resolver-rules=MAP {NAME} 127.0.0.1",
        ]  # fmt: skip
        home = {"HOME": str(self.home)}
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(
                executable_path="/usr/bin/chromium", args=arguments, env=os.environ | home
            )
            context = browser.new_context(viewport=PHONE, permissions=["microphone"])
            context.set_default_timeout(30_000)
            yield context.new_page()
            browser.close()

    def record(self, page: Page, case: str) -> None:
        """Record three seconds of the microphone at A1L and keep them; wait until the server has them."""
        page.goto(f"{case}/hear?hub=A1L")
        page.get_by_role("radio", name="Microphone or pickup").click()
        page.get_by_role("button", name="Record A1L").click()
        expect(page.get_by_role("timer")).to_have_text(re.compile(r"^[3-9]\."), timeout=20_000)
        page.get_by_role("button", name="Stop").click()
        page.get_by_role("button", name="Keep", exact=True).click()
        expect(page.get_by_role("status").filter(has_text="waiting")).to_have_count(0)

    def recordings(self, page: Page, case: str) -> int:
        """Return how many recordings the server has of a case."""
        return page.evaluate(f"fetch('/api/cases/{case}/recordings').then(r => r.json()).then(c => c.length)")

    def test_from_a_slip_of_paper_to_a_kept_recording(self) -> None:
        """Untrusted it is refused; trusted once it records; behind nginx the same person goes on with the same case."""
        ports = {"HEMATITE_PORT": str(self.port), "HEMATITE_PLAIN_PORT": str(self.plain)}
        here = f"https://{NAME}:{self.port}"
        with self.running("ops.serve", **ports) as said:
            code = re.search(r"/set-up#(\S+)", said)
            assert code is not None
            with self.phone() as page:
                self.refuse_what_is_sent_in_the_clear()
                self.take_the_authority(page)
                with self.assertRaisesRegex(Exception, "ERR_CERT_AUTHORITY_INVALID"):
                    page.goto(here)
            self.trust()
            with self.phone() as page:
                page.goto(f"http://{NAME}:{self.plain}/vehicles")
                page.wait_for_url(f"{here}/sign-in*")  # sent on, and safe
                case = self.set_up(page, f"{here}/set-up#{code[1]}")
                self.assertEqual(self.recordings(page, case), 1)
        behind = {"PORT": str(self.behind), "HEMATITE_DEMO": "0", "HEMATITE_PROXIES": "1", "HEMATITE_TLS": "1"}
        with self.running("ops.start", HEMATITE_HOSTS=NAME, **behind), self.nginx(), self.phone() as page:
            page.goto(f"{here}/sign-in")
            page.get_by_label("Name").fill("first")
            page.get_by_label("Password").fill(PASSWORD)
            page.get_by_role("button", name="Sign in").click()
            expect(page.get_by_role("heading", name="open case")).to_be_visible()
            self.record(page, f"{here}/cases/{case}")
            self.assertEqual(self.recordings(page, case), 2)

    def refuse_what_is_sent_in_the_clear(self) -> None:
        """A password sent to the door without TLS is answered no, and never looked at."""
        sent = urllib.request.Request(f"http://127.0.0.1:{self.plain}/api/session", b"{}", method="POST")
        with self.assertRaises(urllib.error.HTTPError) as refused:
            urllib.request.urlopen(sent, timeout=20)
        self.assertEqual(refused.exception.code, 403)

    def take_the_authority(self, page: Page) -> None:
        """Begin where the QR code leads: take the certificate, whose fingerprint the page says."""
        page.goto(f"http://{NAME}:{self.plain}/phone")
        shown = page.get_by_text(re.compile(r"^([0-9A-F]{2}:){31}[0-9A-F]{2}$")).inner_text()
        with page.expect_download() as taken:
            page.get_by_role("link", name="Take it").click()
        taken.value.save_as(self.folder / "authority.crt")
        found = x509.load_der_x509_certificate((self.folder / "authority.crt").read_bytes())
        self.assertEqual(shown, found.fingerprint(hashes.SHA256()).hex(":").upper())
        expect(page.get_by_role("link", name=f"https://{NAME}:{self.port}")).to_be_visible()

    def set_up(self, page: Page, address: str) -> str:
        """Set the workshop up, open a case and record in it. Returns the case."""
        page.goto(address)
        page.get_by_label("What the workshop is called").fill("Test workshop")
        page.get_by_label("Your name, as others read it").fill("First")
        page.get_by_label("A name to sign in with").fill("first")
        page.get_by_label("A password").fill(PASSWORD)
        page.get_by_role("button", name="Come in").click()
        expect(page.get_by_role("heading", name="open case")).to_be_visible()
        self.assertTrue(page.evaluate("isSecureContext && 'serviceWorker' in navigator"))
        vehicle = page.evaluate(SEND, ["vehicles", VAN])
        case = page.evaluate(SEND, ["cases", {"vehicle": vehicle["id"], "complaint": "Growls"}])["id"]
        self.record(page, address.partition("/set-up")[0] + f"/cases/{case}")
        return case


class NameInTheHouse(unittest.TestCase):
    """Multicast DNS, asked by a resolver of its own on loopback."""

    def test_found_by_name_and_taken_once(self) -> None:
        """The name leads to the address and port; a second machine of that name is told."""
        label = f"hematite-{os.getpid()}"
        first = announce(f"{label}.local", 8443, ["127.0.0.1"])
        self.addCleanup(first.close)
        asking = Zeroconf(interfaces=["127.0.0.1"])
        self.addCleanup(asking.close)
        found = asking.get_service_info("_https._tcp.local.", f"{label}._https._tcp.local.", timeout=5000)
        assert found is not None
        self.assertEqual((found.server, found.port), (f"{label}.local.", 8443))
        self.assertEqual(found.parsed_addresses(), ["127.0.0.1"])
        with self.assertRaises(NonUniqueNameException):  # at an address of its own, as the answer is sent there
            announce(f"{label}.local", 8444, ["127.0.0.2"])
