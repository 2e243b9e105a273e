"""Pictures on disk: turned upright, made smaller, and stripped of all that a camera writes beside the picture."""

import hashlib
import io
import struct
from pathlib import Path

from hematite.language import say
from PIL import Image, ImageOps, UnidentifiedImageError
from workshop.media import path, verified, write_once
from workshop.refusals import Refusal

LONGEST_PX = 2000  # judgement: a pit of a millimetre is seen in a picture of a whole cup
MOST_PIXELS = 80_000_000
SMALL_PX = 480
QUALITY = 88
BARE = {"jfif", "jfif_version", "jfif_unit", "jfif_density"}  # what says nothing of where, when and by what
END_OF_JPEG = b"\xff\xd9"


def cleaned(data: bytes) -> tuple[bytes, int, int]:
    """Return a picture as a plain JPEG of at most 2000 px with its size; place, time and camera are gone.

    Refuses what is no picture, or one too large to open.
    """
    try:
        with Image.open(io.BytesIO(data)) as picture:
            if picture.width * picture.height > MOST_PIXELS:
                raise Refusal("too_large", say("The picture has too many pixels. Take it again, smaller."), status=413)
            upright = ImageOps.exif_transpose(picture).convert("RGB")
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, struct.error, Image.DecompressionBombError):
        words = say("This is no picture that can be opened. Send a JPEG, PNG or WebP.")
        raise Refusal("no_picture", words, status=422) from None
    upright.thumbnail((LONGEST_PX, LONGEST_PX))
    return _jpeg(upright), upright.width, upright.height


def as_it_is(data: bytes) -> tuple[bytes, int, int]:
    """Return a picture that was cleaned before, byte for byte, with its size; any other is cleaned. Refuses as that."""
    clean, width, height = cleaned(data)
    with Image.open(io.BytesIO(data)) as picture:
        bare = picture.format == "JPEG" and set(picture.info) <= BARE and data.endswith(END_OF_JPEG)
        return (data if bare and picture.size == (width, height) else clean), width, height


def _jpeg(picture: Image.Image) -> bytes:
    # A new picture of the same pixels: nothing that the old one carried comes along.
    bare = Image.new("RGB", picture.size)
    bare.paste(picture)
    buffer = io.BytesIO()
    bare.save(buffer, "JPEG", quality=QUALITY)
    return buffer.getvalue()


def keep(workshop_id: int, data: bytes) -> str:
    """Write a cleaned picture below MEDIA_ROOT and return its name there."""
    digest = hashlib.sha256(data).hexdigest()
    return write_once(f"photos/{workshop_id}/{digest[:2]}/{digest}.jpg", data)


def whole(name: str) -> Path:
    """Return where a kept picture lies, named by its hash. Refuses one that is gone or damaged."""
    return verified(name, Path(name).stem)


def small(name: str) -> Path:
    """Return where a kept picture lies small enough for a list; made when it is first asked for."""
    reduced = name.removesuffix(".jpg") + "-small.jpg"
    if not path(reduced).exists():
        with Image.open(whole(name)) as picture:
            picture.thumbnail((SMALL_PX, SMALL_PX))
            write_once(reduced, _jpeg(picture))
    return path(reduced)
