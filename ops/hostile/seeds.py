"""Good files of every kind that anybody may send, small ones."""

import io

import numpy as np
import soundfile
from hematite.recordings.logs import encode_uff
from PIL import Image, PngImagePlugin

RATE, SECONDS = 16_000, 2
SOUNDS = (
    ("WAV", "PCM_16"), ("WAV", "PCM_24"), ("WAV", "FLOAT"), ("FLAC", "PCM_16"), ("OGG", "VORBIS"),
    ("MP3", "MPEG_LAYER_III"), ("AIFF", "PCM_16"), ("W64", "PCM_16"), ("AU", "ULAW"),
)  # fmt: skip
BOOK = """Date;Kind;Wheel;Odometer (km);Play (mm);Torque (Nm);Part;Note
2024-03-01;adjusted;A1L;120000;0,05;20;;quiet after
2024-09-11;replaced;A1R;131250;;280;unit;growled
"""


def _noise(seconds: float, channels: int = 1) -> np.ndarray:
    return (0.1 * np.random.default_rng(1).standard_normal((int(RATE * seconds), channels))).astype(np.float32)


def sounds(seconds: float = SECONDS) -> list[bytes]:
    """Return sounds of every container, and logs."""
    found = []
    for n, (container, subtype) in enumerate(SOUNDS):
        out = io.BytesIO()
        soundfile.write(out, _noise(seconds, 1 + n % 2), RATE, format=container, subtype=subtype)
        found.append(out.getvalue())
    times = np.arange(int(5000 * seconds)) / 5000
    rows = "\n".join(f"{t:.5f},{np.sin(t * 900):.4f},{np.cos(t * 700):.4f}" for t in times)
    found.append(f"time_s,ax_g,ay_g\n{rows}\n".encode())
    found.append(encode_uff(_noise(min(seconds, 0.3))[:, 0], rate=RATE, name="log"))
    return found


def pictures() -> list[bytes]:
    """Return pictures of every kind, with what cameras write beside them."""
    picture = Image.fromarray(np.random.default_rng(2).integers(0, 255, (120, 160, 3), dtype=np.uint8))
    exif = Image.Exif()
    exif[0x0112], exif[0x010F] = 6, "camera"
    beside = PngImagePlugin.PngInfo()
    beside.add_text("Comment", "of the bench", zip=True)
    kinds: dict[str, dict] = {
        "JPEG": {"exif": exif, "progressive": True}, "PNG": {"pnginfo": beside}, "WEBP": {"exif": exif}, "GIF": {},
        "TIFF": {"compression": "tiff_lzw"}, "BMP": {}, "JPEG2000": {}, "ICO": {},
    }  # fmt: skip
    found = []
    for kind, options in kinds.items():
        out = io.BytesIO()
        picture.save(out, kind, **options)
        found.append(out.getvalue())
    return found


def books() -> list[bytes]:
    """Return logbooks kept elsewhere."""
    return [BOOK.encode(), BOOK.replace(",", ".").replace(";", ",").encode(), BOOK.replace(";", "\t").encode()]


def speed_logs() -> list[bytes]:
    """Return logged courses of speed."""
    rows = "\n".join(f"{n * 0.5:.1f},{40 + n % 7}" for n in range(60))
    fix = '<trkpt lat="50.{n:04d}" lon="8.1"><time>2025-03-01T10:00:{s:02d}Z</time></trkpt>'
    fixes = "".join(fix.format(n=n, s=n) for n in range(40))
    return [
        f"time,speed km/h\n{rows}\n".encode(),
        f'<?xml version="1.0"?><gpx><trk><trkseg>{fixes}</trkseg></trk></gpx>'.encode(),
    ]
