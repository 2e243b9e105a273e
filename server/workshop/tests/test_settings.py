"""What differs between machines: settings from the environment, as a deployment has them."""

import json
import os
import subprocess
import sys
from pathlib import Path

from django.test import Client, RequestFactory, SimpleTestCase, override_settings

from workshop.proxies import client_address
from workshop.tests.people import PASSWORD, WorkshopTestCase

MANAGE = Path(__file__).resolve().parents[2] / "manage.py"
DEPLOYED = {"HEMATITE_SECRET_KEY": "aB3-dE6_gH9.jK2,mN5;" * 3, "HEMATITE_TLS": "1", "HEMATITE_HSTS_SECONDS": "31536000"}


class Deployed(SimpleTestCase):
    """In a process of its own, as settings are read once."""

    def run_it(self, *words: str, **more: str) -> subprocess.CompletedProcess[str]:
        """Return what a command under other settings said."""
        of_tests = ("HEMATITE_DB", "DJANGO_")  # browser tests allow themselves what a deployment may not
        environment = {key: value for key, value in os.environ.items() if not key.startswith(of_tests)}
        return subprocess.run(
            [sys.executable, *words], env=environment | DEPLOYED | more, capture_output=True, text=True, check=False
        )

    def test_check_deploy_is_clean(self) -> None:
        """Nothing is warned of; without TLS it is."""
        check = [str(MANAGE), "check", "--deploy", "--fail-level", "WARNING"]
        done = self.run_it(*check)
        self.assertEqual(done.returncode, 0, done.stderr)
        self.assertNotEqual(self.run_it(*check, HEMATITE_TLS="0").returncode, 0)

    def test_database_elsewhere(self) -> None:
        """A host, a port and an authority, else the socket."""
        tell = "from django.conf import settings as s; import json; d = s.DATABASES['default']; "
        tell += "print(json.dumps([d['HOST'], d['PORT'], d['OPTIONS'].get('ssl_mode'), d['OPTIONS'].get('ssl')]))"

        def ask(**more: str) -> list:
            return json.loads(self.run_it("-c", tell, DJANGO_SETTINGS_MODULE="workshop.settings", **more).stdout)

        there = ask(HEMATITE_DB_HOST="db.example", HEMATITE_DB_PORT="3307", HEMATITE_DB_CA="/etc/ca.pem")
        self.assertEqual(there, ["db.example", "3307", "VERIFY_IDENTITY", {"ca": "/etc/ca.pem"}])
        self.assertEqual(ask(HEMATITE_DB_SOCKET="/run/x.sock"), ["/run/x.sock", "", None, None])


class BehindProxies(WorkshopTestCase):
    """Who is it that tries?"""

    def test_the_address_that_our_outermost_proxy_saw(self) -> None:
        """What a browser makes up before it is not believed; without a proxy nothing is."""
        ask = RequestFactory().get("/", headers={"x-forwarded-for": "1.1.1.1, 2.2.2.2, 3.3.3.3"})
        for proxies, address in ((0, "127.0.0.1"), (1, "3.3.3.3"), (2, "2.2.2.2"), (4, "127.0.0.1")):
            with self.subTest(proxies), override_settings(PROXIES=proxies):
                self.assertEqual(client_address(ask), address)

    def test_one_who_guesses_locks_nobody_else_out(self) -> None:
        """Six wrong tries from one place; from another the right words open."""

        def enter(password: str, place: str) -> int:
            body = json.dumps({"username": "ours", "password": password})
            headers = {"x-forwarded-for": f"9.9.9.9, {place}"}
            return Client().post("/api/session", body, content_type="application/json", headers=headers).status_code

        with override_settings(PROXIES=1):
            self.assertEqual([enter("wrong", "5.5.5.5") for _ in range(7)][-1], 429)
            self.assertEqual((enter(PASSWORD, "5.5.5.5"), enter(PASSWORD, "6.6.6.6")), (429, 200))

    def test_plain_http_is_sent_on(self) -> None:
        """To https, but for what watches over it; what came to the proxy by https is let through."""
        with override_settings(SECURE_SSL_REDIRECT=True, SECURE_PROXY_SSL_HEADER=("HTTP_X_FORWARDED_PROTO", "https")):
            self.assertEqual(self.client.get("/").status_code, 301)
            self.assertEqual(self.client.get("/healthz").status_code, 200)
            self.assertEqual(self.client.get("/", headers={"x-forwarded-proto": "https"}).status_code, 200)
