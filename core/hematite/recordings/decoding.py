"""Sound files to mono floats and back. libsndfile (through soundfile) does the decoding."""

import io
import re
from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path

import numpy as np
import numpy.typing as npt
import soundfile

from hematite.errors import BadRecording
from hematite.language import later, say
from hematite.recordings.logs import Log, read_csv, read_uff

Samples = npt.NDArray[np.float32]

LONGEST_S = 15 * 60.0  # judgement: longer than any stand spin or road run
HIGHEST = 1e6  # times full scale: floats may be of any unit, m/s² or millivolts, and none reaches so far; judgement
MOST_FRAMES = int(LONGEST_S) * 48_000  # hearing them takes 1.4 GB
CANCELLED = 0.1  # of the loudest channel's power: less in the mean says that channels cancel; judgement
HEAD = 2000  # bytes looked at to tell text from sound
_PRINTABLE = re.compile(rb"[\t\r\n\x20-\x7e\x80-\xff]*")
PIECE = 1 << 18  # frames
EMPTY = later("The file is empty. Record again, or choose another file.")
HOLDS_NOTHING = later("The file holds no sound at all. Record again, or choose another file.")
UNREADABLE = later(
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
        raise BadRecording(say(EMPTY))
    if log := _read_log(source):
        found, rate = _Mixed(log[0].shape[1]), log[1]
        found.add(log[0])
        return Recording(found.mono(lambda: [log[0]]), rate, found.channels)
    with _opened(io.BytesIO(source) if isinstance(source, bytes) else source) as sound:
        found = _Mixed(sound.channels)
        for block in _blocks(sound):
            found.add(block)
        return Recording(found.mono(lambda: _blocks(sound)), int(sound.samplerate), sound.channels)


def measure(file: Path) -> tuple[int, float]:
    """Return a file's samples a second and its length in s, read a piece at a time. Refuses what `decode` refuses."""
    if not file.stat().st_size:
        raise BadRecording(say(EMPTY))
    if log := _read_log(file):  # text is read whole
        return log[1], len(log[0]) / log[1]
    with _opened(file) as sound:
        return int(sound.samplerate), sum(map(len, _blocks(sound))) / sound.samplerate


@contextmanager
def _opened(source: io.BytesIO | Path) -> Iterator[soundfile.SoundFile]:
    """Give an opened sound; whatever its library trips over is a file that cannot be read."""
    try:
        with soundfile.SoundFile(source) as sound:
            _check_length(int(sound.samplerate), sound.frames)
            yield sound
    except (soundfile.LibsndfileError, RuntimeError, TypeError, OSError):
        raise BadRecording(say(UNREADABLE)) from None


def _blocks(sound: soundfile.SoundFile) -> Iterator[Samples]:
    """Give a sound from its start, a piece at a time, shape (n, channels): a header may promise anything."""
    sound.seek(0)
    frames = 0
    for block in sound.blocks(max(PIECE // sound.channels, 1), dtype="float32", always_2d=True):
        frames += len(block)
        _check_length(int(sound.samplerate), frames)
        _check_samples(block)
        yield block
    if not frames:
        raise BadRecording(say(HOLDS_NOTHING))


class _Mixed:
    """Channels as they are read, to one: their mean unless they cancel; then the loudest one is taken."""

    def __init__(self, channels: int) -> None:
        self.channels, self.means, self.energies = channels, list[Samples](), np.zeros(channels)

    def add(self, block: Samples) -> None:
        """Add a piece, shape (n, channels)."""
        self.means.append(block[:, 0] if self.channels == 1 else block.mean(axis=1))
        if self.channels > 1:
            self.energies += np.square(block).sum(axis=0, dtype=np.float64)

    def mono(self, again: Callable[[], Iterable[Samples]]) -> Samples:
        """Return one channel; `again` gives the pieces once more, for no more than one channel need be held."""
        mean = np.concatenate(self.means)
        self.means.clear()
        if self.channels == 1 or np.square(mean).sum(dtype=np.float64) >= CANCELLED * self.energies.max():
            return mean
        loudest = int(self.energies.argmax())
        return np.concatenate([block[:, loudest] for block in again()])


def _check_samples(data: Samples) -> None:
    if not (np.abs(data) < HIGHEST).all():  # nor what is no number
        raise BadRecording(say("The file holds values that are no sound. Export it again as WAV or FLAC."))


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
    _check_length(found[1], len(found[0]))
    _check_samples(found[0])
    return found


def _head(path: Path) -> bytes:
    try:
        with path.open("rb") as file:
            return file.read(HEAD)
    except OSError:
        return b"\0"


def _check_length(rate: int, frames: int) -> None:
    if rate < LOWEST_RATE_HZ:
        raise BadRecording(
            say("Sampled {rate} times a second: too slow to hear a bearing. Record at 44 100 or 48 000.", rate=rate)
        )
    longest_s = min(LONGEST_S, MOST_FRAMES / rate)
    if frames / rate > longest_s:
        at = say(" at {rate} samples a second", rate=rate) if longest_s < LONGEST_S else ""
        raise BadRecording(
            say(
                "The recording is {minutes:.3g} minutes long; {most:.3g} is the most{rate}. Cut it.",
                minutes=frames / rate / 60,
                most=longest_s / 60,
                rate=at,
            )
        )


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
