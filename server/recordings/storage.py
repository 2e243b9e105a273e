"""Sounds on disk: lossless, by workshop and hash, written whole or not at all."""

import shutil
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from hematite.language import say
from workshop import confined, media
from workshop.refusals import Refusal

from recordings import decoded
from recordings.models import Recording, Sound

# Already packed, some of them with loss: packing again would gain nothing and could only lose.
AS_THEY_CAME = ((b"fLaC", ".flac"), (b"OggS", ".ogg"), (b"ID3", ".mp3"), (b"\xff\xfb", ".mp3"), (b"\xff\xf3", ".mp3"))
PLAYABLE = {".flac": "audio/flac", ".wav": "audio/wav", ".ogg": "audio/ogg", ".mp3": "audio/mpeg"}


@contextmanager
def as_file(source: bytes | Path) -> Iterator[Path]:
    """Give a sound as a file, for as long as it is looked at."""
    if isinstance(source, Path):
        yield source
        return
    with tempfile.NamedTemporaryFile(prefix="sound") as held:
        held.write(source)
        held.flush()
        yield Path(held.name)


def keep(workshop_id: int, digest: str, source: Path) -> dict[str, str]:
    """Keep a sound below MEDIA_ROOT; return its `file` there and that file's own hash.

    As FLAC when FLAC gives back every sample, else as it came; a sound already there is left alone.
    """
    stem = f"sounds/{workshop_id}/{digest[:2]}/{digest}"
    with media.a_part(stem) as part:
        packed = Path(part.name)
        suffix = _suffix(source)
        if not suffix and not confined.read(decoded.packs, source, packed):
            suffix = ".wav" if _head(source)[:4] == b"RIFF" else ".log"
        if suffix:
            shutil.copyfile(source, packed)
        name = media.move_once(packed, stem + (suffix or ".flac"))
    return {"file": name, "file_sha256": media.sha256(media.path(name))}


def row_of(workshop_id: int, digest: str, kept: dict) -> Sound:
    """Return the row of a sound that was kept; one that had been taken away has its file again."""
    row, made = Sound.objects.get_or_create(workshop_id=workshop_id, sha256=digest, defaults=kept)
    if not made and not row.file and kept["file"]:
        row.file, row.file_sha256, row.ended_at = kept["file"], kept["file_sha256"], None
        row.save(update_fields=["file", "file_sha256", "ended_at"])
    return row


def _head(file: Path) -> bytes:
    with file.open("rb") as opened:
        return opened.read(4)


def _suffix(file: Path) -> str:
    """Return the suffix of a sound that is kept as it came, '' of one that may be packed."""
    head = _head(file)
    return next((suffix for start, suffix in AS_THEY_CAME if head.startswith(start)), "")


def file_of(recording: Recording) -> Path:
    """Return a recording's kept file, as it was kept. Refuses one that is gone or damaged."""
    if ended := recording.sound.ended_at:
        words = say(
            "This sound was taken away on {ended:%Y-%m-%d} by the workshop’s rule of years. What was heard stays.",
            ended=ended,
        )
        raise Refusal("sound_ended", words, status=410)
    return media.verified(recording.sound.file, recording.sound.file_sha256)
