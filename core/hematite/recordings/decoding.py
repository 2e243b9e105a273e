"""Sound files to mono floats and back. libsndfile (through soundfile) does the decoding."""

import io
from dataclasses import dataclass
from pathlib import Path

import numpy as np
import numpy.typing as npt
import soundfile

from hematite.errors import BadRecording

Samples = npt.NDArray[np.float32]

LONGEST_S = 15 * 60.0  # judgement: longer than any stand spin or road run
LOWEST_RATE_HZ = 4000  # judgement: below it a bearing's ring cannot be heard at all


@dataclass(frozen=True)
class Recording:
    """Mono samples, shape (n,), full scale ±1, at `rate` samples a second; `channels` as found in the file."""

    samples: Samples
    rate: int
    channels: int = 1

    @property
    def duration(self) -> float:
        """Return the length in seconds."""
        return len(self.samples) / self.rate


def decode(source: bytes | Path) -> Recording:
    """Decode WAV or FLAC of any rate, depth and channel count.

    Channels are averaged unless they cancel; then the loudest one is taken. Raises `BadRecording` for an empty,
    unreadable or endless file, for sampling too slow to hear a bearing, and for samples that are no numbers.
    """
    if source == b"":
        raise BadRecording("The file is empty. Record again, or choose another file.")
    data, rate = _read(source)
    if not len(data):
        raise BadRecording("The file holds no sound at all. Record again, or choose another file.")
    if not np.isfinite(data).all():
        raise BadRecording("The file holds values that are no sound. Export it again as WAV or FLAC.")
    return Recording(samples=_to_mono(data), rate=rate, channels=data.shape[1])


def _read(source: bytes | Path) -> tuple[Samples, int]:
    handle: io.BytesIO | str = io.BytesIO(source) if isinstance(source, bytes) else str(source)
    try:
        with soundfile.SoundFile(handle) as sound:
            _check_header(sound.samplerate, sound.frames)
            return sound.read(dtype="float32", always_2d=True), int(sound.samplerate)
    except (soundfile.LibsndfileError, RuntimeError, TypeError, OSError):
        raise BadRecording(
            "This is no sound file that can be read, or it is damaged. Give a WAV or FLAC file, or record again."
        ) from None


def _check_header(rate: int, frames: int) -> None:
    if rate < LOWEST_RATE_HZ:
        raise BadRecording(f"Sampled {rate} times a second: too slow to hear a bearing. Record at 44 100 or 48 000.")
    if frames / rate > LONGEST_S:
        raise BadRecording(
            f"The recording is {frames / rate / 60:.0f} minutes long; {LONGEST_S / 60:.0f} is the most. Cut it."
        )


def _to_mono(data: Samples) -> Samples:
    mean = data.mean(axis=1)
    energies = np.square(data).mean(axis=0)
    cancelled = np.square(mean).mean() < 0.1 * energies.max()
    picked = data[:, int(energies.argmax())] if cancelled else mean
    return np.ascontiguousarray(picked, dtype=np.float32)


def _encode(recording: Recording, **options: str) -> bytes:
    buffer = io.BytesIO()
    soundfile.write(buffer, recording.samples, recording.rate, **options)
    return buffer.getvalue()


def encode_flac(recording: Recording) -> bytes:
    """Return the recording as FLAC, 24 bit. Samples beyond full scale clip."""
    return _encode(recording, format="FLAC", subtype="PCM_24")


def encode_wav(recording: Recording) -> bytes:
    """Return the recording as WAV, 16 bit. Samples beyond full scale clip."""
    return _encode(recording, format="WAV", subtype="PCM_16")
