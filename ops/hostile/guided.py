"""A coverage-guided fuzzer on what decodes: `python -m ops.hostile.guided TARGET CORPUS -max_total_time=60 …`.

What a target refuses in words is no fault; anything else that it raises is, and libFuzzer keeps what did it.
"""

import contextlib
import io
import os
import sys
import tempfile
import zipfile
from collections.abc import Callable
from pathlib import Path

import atheris

ROOT = Path(__file__).resolve().parents[2]
sys.path[:0] = [str(ROOT / "core"), str(ROOT / "server"), str(ROOT)]
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "workshop.settings")

with atheris.instrument_imports(include=["hematite", "photos", "logbook", "PIL", "pyuff"]):
    from hematite.bundles import read_parcel
    from hematite.bundles.reading import read_case
    from hematite.doors import read_json
    from hematite.errors import HematiteError
    from hematite.recordings import decode
    from hematite.recordings.logs import read_csv, read_uff
    from hematite.speed.courses import read_speed_log
    from logbook.tables import read_table
    from photos.pictures import cleaned
    from workshop.refusals import Refusal

from ops.hostile import seeds  # noqa: E402


def _parcel(data: bytes) -> None:
    with tempfile.NamedTemporaryFile(suffix=".zip") as file:
        file.write(data)
        file.flush()
        read_parcel(Path(file.name))


def _case(data: bytes) -> None:
    read_case(read_json(data, "case.json"), lambda _: b"")


def _zipped() -> list[bytes]:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        archive.writestr("case.json", CASE)
    return [out.getvalue()]


SHORT_S = 0.1  # of a sound: a small file is changed where it matters
CASE = (
    b'{"format":"hematite-case","version":1,"vehicle":{"label":"Van","tyre":"215/65 R16","axles":[{"driven":true,'
    b'"hubs":[{"id":"A1L","side":"left","design":"hub_unit","bearings":[{"row":"one","elements":13,'
    b'"element_diameter_mm":12.7,"pitch_diameter_mm":62.0,"contact_angle_deg":36.0}]},{"id":"A1R","side":"right",'
    b'"design":"hub_unit"}]}]},"recordings":[{"id":"r1","file":"r1.flac","place":"A1L","speed":{"kind":"wheel",'
    b'"turns_per_s":8.0}}],"observations":[{"kind":"spin","hub":"A1L","answer":"free"}]}'
)
TARGETS: dict[str, tuple[Callable[[bytes], object], Callable[[], list[bytes]]]] = {
    "sound": (decode, lambda: seeds.sounds(SHORT_S)),
    "log": (read_csv, lambda: [one for one in seeds.sounds(SHORT_S) if one.startswith(b"time")]),
    "universal file": (read_uff, lambda: seeds.sounds(SHORT_S)[-1:]),
    "speed log": (read_speed_log, seeds.speed_logs),
    "book": (read_table, seeds.books),
    "picture": (cleaned, seeds.pictures),
    "bundle": (_parcel, _zipped),
    "case": (_case, lambda: [CASE]),
}


def main() -> None:
    """Fuzz one target from its good files on."""
    name, corpus = sys.argv[1], Path(sys.argv[2])
    target, good = TARGETS[name]
    corpus.mkdir(parents=True, exist_ok=True)
    for n, seed in enumerate(good()):
        (corpus / f"good-{n}").write_bytes(seed)

    def one(data: bytes) -> None:
        with contextlib.suppress(HematiteError, Refusal):
            target(data)

    atheris.Setup([sys.argv[0], str(corpus), *sys.argv[3:]], one)
    atheris.Fuzz()


if __name__ == "__main__":
    main()
