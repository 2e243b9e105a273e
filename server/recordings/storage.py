"""Sounds on disk: lossless, by workshop and hash, written whole or not at all."""

import hashlib
import io

import numpy as np
import soundfile
from workshop.media import write_once

# Already packed, some of them with loss: packing again would gain nothing and could only lose.
AS_THEY_CAME = ((b"fLaC", ".flac"), (b"OggS", ".ogg"), (b"ID3", ".mp3"), (b"\xff\xfb", ".mp3"), (b"\xff\xf3", ".mp3"))
PLAYABLE = {".flac": "audio/flac", ".wav": "audio/wav", ".ogg": "audio/ogg", ".mp3": "audio/mpeg"}


def sha256(data: bytes) -> str:
    """Return the hash that a sound is known by."""
    return hashlib.sha256(data).hexdigest()


def losslessly(data: bytes) -> tuple[bytes, str]:
    """Return the sound as FLAC when FLAC gives back every sample, else the file as it came; and its suffix."""
    for start, suffix in AS_THEY_CAME:
        if data.startswith(start):
            return data, suffix
    try:
        samples, rate = soundfile.read(io.BytesIO(data), dtype="int32", always_2d=True)
        subtype = soundfile.info(io.BytesIO(data)).subtype
        if subtype not in {"PCM_16", "PCM_24", "PCM_U8", "PCM_S8"}:
            return data, ".wav"
        packed = io.BytesIO()
        soundfile.write(packed, samples, rate, format="FLAC", subtype="PCM_24" if subtype == "PCM_24" else "PCM_16")
        back, _ = soundfile.read(io.BytesIO(packed.getvalue()), dtype="int32", always_2d=True)
    except (soundfile.LibsndfileError, RuntimeError, ValueError):
        return data, ".wav" if data[:4] == b"RIFF" else ".log"
    return (packed.getvalue(), ".flac") if np.array_equal(samples, back) else (data, ".wav")


def keep(workshop_id: int, digest: str, data: bytes) -> str:
    """Write a sound below MEDIA_ROOT and return its name there; a sound already there is left alone."""
    packed, suffix = losslessly(data)
    return write_once(f"sounds/{workshop_id}/{digest[:2]}/{digest}{suffix}", packed)
