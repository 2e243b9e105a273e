"""The API asked by its own description, with bodies that are right and bodies that are wrong, by schemathesis."""

import json
import subprocess
import sys
from pathlib import Path

from ops.hostile.sending import Sender

# What would end the run itself: signing out, another password, whoever asks switched off, what it asks with deleted;
# and a whole archive.
LEFT_OUT = (
    "/api/session",
    "/api/password",
    "/api/people",
    "/api/me",
    "/api/second",
    "/api/workshop/archive",
    "/api/devices/",
)
CONFIG = """
[parameters]
"path.case_id" = "{case}"
"path.vehicle_id" = "{vehicle}"
"path.recording_id" = "{recording}"
"""


def main() -> int:
    """Ask, signed in as an owner with a whole case; return 1 where a fault was answered."""
    address, word, folder, examples = sys.argv[1], sys.argv[2], Path(sys.argv[3]), sys.argv[4]
    sender = Sender.at(address, word, name="described")  # a workshop of its own: it fills it
    recording = json.loads(sender.got(f"cases/{sender.case}/recordings"))[0]["id"]
    schema, config = folder / "openapi.json", folder / "schemathesis.toml"
    schema.write_bytes(sender.got("openapi.json"))
    config.write_text(CONFIG.format(case=sender.case, vehicle=sender.vehicle, recording=recording))
    cookies = "; ".join(f"{name}={value}" for name, value in sender.session.cookies.items())
    told = ["-H", f"Cookie: {cookies}", "-H", f"X-CSRFToken: {sender.session.cookies['csrftoken']}"]
    told += ["--checks", "not_a_server_error", "--phases", "coverage,fuzzing", "--max-examples", examples]
    told += ["--workers", "2", "--seed", "1", "--generation-database", "none", "--request-timeout", "60"]
    told += ["--exclude-path-regex", f"^({'|'.join(LEFT_OUT)})|/(delete|sold|close)$"]
    command = [str(Path(sys.executable).with_name("st")), "--config-file", str(config), "run", str(schema)]
    return subprocess.run([*command, "--url", address, *told], check=False, cwd=folder).returncode


if __name__ == "__main__":
    raise SystemExit(main())
