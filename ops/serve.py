"""`make serve`: a workshop's own server on its network, over TLS, so that a phone may use its microphone at the car."""

import json
import os
import subprocess
import sys
from pathlib import Path

from ops.build import PYTHON, ensure_python, ensure_web
from ops.packages import ensure_packages
from ops.running import (
    MANAGE,
    VAR,
    Environment,
    Part,
    Running,
    check_port,
    chores,
    counting,
    database,
    gunicorn,
    hearing,
    keep_secret_key,
    only_one,
    port_from,
    set_up_code,
    stop_like_ctrl_c,
)
from ops.say import ROOT, CannotGoOn, run, say


def main() -> None:
    """Serve and stay until told to stop."""
    port, plain = port_from("HEMATITE_PORT", 8443), port_from("HEMATITE_PLAIN_PORT", 8080)
    host = os.environ.get("HEMATITE_BIND", "0.0.0.0")  # noqa: S104 - the workshop's network is what it is for
    stop_like_ctrl_c()
    with only_one():
        check_port(port, host=host, variable="HEMATITE_PORT")
        check_port(plain, host=host, variable="HEMATITE_PLAIN_PORT")
        ensure_packages(tests=False)
        ensure_python()
        ensure_web()
        keep_secret_key()
        tls = certificates()
        with database() as found:
            environment = _environment(found, tls, port, plain)
            run([*MANAGE, "bring_up_to_date"], what="Bringing the database up to date", env=environment)
            code = set_up_code(environment)
            with Running(_parts(host, port, plain, environment, tls), VAR / "start.pids") as running:
                running.wait_for(f"http://{_nearest(host)}:{plain}/healthz")
                _greet(tls, port, plain, code)
                try:
                    running.watch()
                except KeyboardInterrupt:
                    say("\nStopping …")


def name() -> str:
    """Return the name that phones find the server by."""
    return os.environ.get("HEMATITE_NAME") or "hematite.local"


def certificates() -> dict:
    """Return the `certificate` and `key` to serve with, the `authority` that they are of ('' for the user's own),
    its `fingerprint` and this machine's `addresses`.
    """
    own = {"certificate": os.environ.get("HEMATITE_CERTIFICATE"), "key": os.environ.get("HEMATITE_CERTIFICATE_KEY")}
    if any(own.values()):
        for what, path in own.items():
            if not path or not Path(path).is_file():
                raise CannotGoOn(
                    f"the {what} is not there: HEMATITE_CERTIFICATE and HEMATITE_CERTIFICATE_KEY name both."
                )
        return own | {"authority": "", "fingerprint": "", "addresses": []}
    command = [str(PYTHON), "-m", "ops.authority", str(VAR / "tls"), name()]
    done = subprocess.run(command, cwd=ROOT, capture_output=True, text=True, check=False)
    if done.returncode:
        raise CannotGoOn(f"the certificate could not be made.\n{done.stderr}")
    return json.loads(done.stdout)


def _environment(found: Environment, tls: dict, port: int, plain: int) -> Environment:
    hosts = [name(), *tls["addresses"], "localhost", "127.0.0.1"]
    usual = {
        "HEMATITE_LOGS": str(VAR / "log"),
        "HEMATITE_HOSTS": ",".join(hosts),
        "HEMATITE_ADDRESS": f"https://{name()}:{port}",
    }
    fixed = {
        "HEMATITE_DEMO": os.environ.get("HEMATITE_DEMO", "0"),
        "HEMATITE_TLS": "1",
        "HEMATITE_AUTHORITY": tls["authority"],
        "HEMATITE_AT": " ".join(tls["addresses"]),
        "HEMATITE_PORT": str(port),
        "HEMATITE_PLAIN_PORT": str(plain),
    }
    return usual | found | fixed


def _parts(host: str, port: int, plain: int, environment: Environment, tls: dict) -> list[Part]:
    keys = ["--certfile", tls["certificate"], "--keyfile", tls["key"]]
    hands = ["--workers", os.environ.get("HEMATITE_SERVERS", "2"), "--threads", "8"]
    parts = [
        gunicorn(f"{host}:{port}", counting(environment), *keys, *hands),
        gunicorn(f"{host}:{plain}", environment | {"HEMATITE_TLS": "0"}, "--threads", "4", name="door without TLS",
                 app="workshop.plain"),
        hearing(environment),
        chores(environment),
    ]  # fmt: skip
    if name().endswith(".local") and tls["addresses"]:
        announce = [str(PYTHON), "-m", "ops.announce", name(), str(port), *tls["addresses"]]
        parts.append(Part("what announces the name", announce, environment | {"PYTHONPATH": str(ROOT)}))
    return parts


def _nearest(host: str) -> str:
    return "127.0.0.1" if host == "0.0.0.0" else host  # noqa: S104


def _greet(tls: dict, port: int, plain: int, code: str) -> None:
    say(f"\nHematite is ready: https://{name()}:{port}")
    for address in tls["addresses"]:
        say(f"                   https://{address}:{port}")
    if tls["authority"]:
        at = tls["addresses"][0] if tls["addresses"] else name()
        say(f"A phone or computer trusts it once, by: http://{at}:{plain}/phone")
        say(f"The certificate authority's SHA-256 fingerprint: {tls['fingerprint']}")
    if code:
        say(f"Nobody can sign in yet. Set up your workshop, once: https://{name()}:{port}/set-up#{code}")
    say(f"Ctrl-C stops it. Your data stays in {VAR}.")


if __name__ == "__main__":
    try:
        main()
    except KeyboardInterrupt:
        say("\nStopped.")
    sys.stdout.flush()
