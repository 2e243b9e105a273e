"""The web app's API types: made from the OpenAPI document, committed, and checked to be fresh."""

import json
import os
import subprocess
import sys
import tempfile
from pathlib import Path

from ops.build import PYTHON, WEB, ensure_node_modules, ensure_python
from ops.say import ROOT, CannotGoOn, run, say

TYPES = WEB / "src" / "lib" / "api" / "schema.d.ts"
_DUMP = "import django; django.setup(); from workshop.api import api; import json; print(json.dumps(api.get_openapi_schema(), default=str))"  # noqa: E501


def generate() -> str:
    """Return the types of the API as it stands."""
    settings = os.environ | {"DJANGO_SETTINGS_MODULE": "workshop.settings"}
    dumped = subprocess.run([PYTHON, "-c", _DUMP], capture_output=True, text=True, check=False, env=settings)
    if dumped.returncode:
        raise CannotGoOn(f"the API document could not be made.\n{dumped.stderr[-2000:]}")
    with tempfile.TemporaryDirectory() as folder:
        document, types = Path(folder, "openapi.json"), Path(folder, "schema.d.ts")
        document.write_text(json.dumps(json.loads(dumped.stdout)))
        run(["npx", "openapi-typescript", document, "-o", types], what="Making the API types", cwd=WEB)
        return types.read_text()


def main(*, write: bool) -> int:
    """Write the types, or return 1 when the committed ones are stale."""
    ensure_python()
    ensure_node_modules()
    fresh = generate()
    if write:
        TYPES.parent.mkdir(parents=True, exist_ok=True)
        TYPES.write_text(fresh)
        say(f"Wrote {TYPES.relative_to(ROOT)}")
        return 0
    if not TYPES.is_file() or TYPES.read_text() != fresh:
        say("The web app's API types are stale. Run: make api")
        return 1
    return 0


if __name__ == "__main__":
    raise SystemExit(main(write="--write" in sys.argv))
