"""Sound files to mono floats and back. libsndfile (through soundfile) does the decoding."""

import io
import re
from dataclasses import dataclass
from pathlib import Path

import numpy as np
import numpy.typing as npt
import soundfile

from hematite.errors import BadRecording
from hematite.recordings.logs import Log, read_csv, read_uff

Samples = npt.NDArray[np.float32]

LONGEST_S = 15 * 60.0  # judgement: longer than any stand spin or road run
HEAD = 2000  # bytes looked at to tell text from sound
_PRINTABLE = re.compile(rb"[\t\r\n\x20-\x7e\x80-\xff]*")
PIECE = 1 << 18  # frames
EMPTY = "The file is empty. Record again, or choose another file."
HOLDS_NOTHING = "The file holds no sound at all. Record again, or choose another file."
UNREADABLE = (
    "This is no sound file that can be read, or it is damaged. Give WAV, FLAC, OGG, MP3, a CSV log or a universal "
    "file, or record again."
)
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
    """Decode WAV, FLAC, OGG, MP3 or AIFF of any rate, depth and channel count, a CSV log, or a universal file.

    Channels are averaged unless they cancel; then the loudest one is taken. Raises `BadRecording` for an empty,
    unreadable or endless file, for sampling too slow to hear a bearing, and for samples that are no numbers.
    """
    if source == b"":
        raise BadRecording(EMPTY)
    data, rate = _read_log(source) or _read(source)
    _check_samples(data)
    return Recording(samples=_to_mono(data), rate=rate, channels=data.shape[1])


def measure(file: Path) -> tuple[int, float]:
    """Return a file's samples a second and its length in s, read a piece at a time. Refuses what `decode` refuses."""
    if not file.stat().st_size:
        raise BadRecording(EMPTY)
    if log := _read_log(file):  # text is read whole
        _check_samples(log[0])
        return log[1], len(log[0]) / log[1]
    try:
        with soundfile.SoundFile(file) as sound:
            _check_header(sound.samplerate, sound.frames)
            frames = 0
            for block in sound.blocks(PIECE, dtype="float32", always_2d=True):
                _check_samples(block)
                frames += len(block)
            if not frames:
                raise BadRecording(HOLDS_NOTHING)
            return int(sound.samplerate), frames / sound.samplerate
    except (soundfile.LibsndfileError, RuntimeError, TypeError, OSError):
        raise BadRecording(UNREADABLE) from None


def _check_samples(data: Samples) -> None:
    if not len(data):
        raise BadRecording(HOLDS_NOTHING)
    if not np.isfinite(data).all():
        raise BadRecording("The file holds values that are no sound. Export it again as WAV or FLAC.")


def _read_log(source: bytes | Path) -> Log | None:
    """Return a log's samples and rate when the file is text that looks like one, else None."""
    head = source[:HEAD] if isinstance(source, bytes) else _head(source)
    if b"\0" in head or not _PRINTABLE.fullmatch(head):
        return None
    data = source if isinstance(source, bytes) else source.read_bytes()
    if b"-1" in head[:80].split() and b"58" in head[:400].split():
        found = read_uff(data)
    elif b"," in head or b";" in head or b"\t" in head:
        found = read_csv(data)
    else:
        return None
    _check_header(found[1], len(found[0]))
    return found


def _head(path: Path) -> bytes:
    try:
        with path.open("rb") as file:
            return file.read(HEAD)
    except OSError:
        return b"\0"


def _read(source: bytes | Path) -> tuple[Samples, int]:
    handle: io.BytesIO | str = io.BytesIO(source) if isinstance(source, bytes) else str(source)
    try:
        with soundfile.SoundFile(handle) as sound:
            _check_header(sound.samplerate, sound.frames)
            return sound.read(dtype="float32", always_2d=True), int(sound.samplerate)
    except (soundfile.LibsndfileError, RuntimeError, TypeError, OSError):
        raise BadRecording(UNREADABLE) from None


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
