"""What is done with a sound that anybody may have sent, without a database: run by `workshop.confined`."""

import json
from pathlib import Path

import numpy as np
import soundfile
from hematite.listening import Situation, SoFar, hear_so_far, heard_to_json, listen, only_band, shown_spectrum
from hematite.listening.band import spectrum_in_band
from hematite.recordings import decode, encode_flac, encode_uff, encode_wav
from hematite.vehicles import Vehicle

PACKED = {"PCM_16": "PCM_16", "PCM_24": "PCM_24", "PCM_U8": "PCM_16", "PCM_S8": "PCM_16"}  # by what FLAC holds them
BLOCK = 1 << 18  # values read at once: a long file must not fill the memory


def packs(source: Path, packed: Path) -> bool:
    """Write a sound as FLAC; return whether that gives back every sample."""
    try:
        with soundfile.SoundFile(source) as sound:
            subtype = PACKED.get(sound.subtype)
            if subtype is None:
                return False
            frames = max(BLOCK // sound.channels, 1)
            options = {"samplerate": sound.samplerate, "channels": sound.channels, "format": "FLAC"}
            with soundfile.SoundFile(packed, "w", subtype=subtype, **options) as out:
                for block in sound.blocks(frames, dtype="int32", always_2d=True):
                    out.write(block)
        with soundfile.SoundFile(source) as sound, soundfile.SoundFile(packed) as back:
            both = (one.blocks(frames, dtype="int32", always_2d=True) for one in (sound, back))
            return sound.frames == back.frames and all(np.array_equal(*pair) for pair in zip(*both, strict=True))
    except (soundfile.LibsndfileError, RuntimeError, ValueError):
        return False


def heard(source: Path, situation: Situation, vehicle: Vehicle) -> tuple[dict, dict]:
    """Return what is heard in a kept sound, and its spectrum for the screen."""
    found = listen(decode(source), situation, vehicle=vehicle)
    said = heard_to_json(found), shown_spectrum(found)
    json.dumps(said, allow_nan=False)  # no database keeps a figure that is none
    return said


def heard_so_far(data: bytes, situation: Situation, vehicle: Vehicle) -> SoFar:
    """Return what is heard in a sound that is still being made."""
    return hear_so_far(decode(data), situation, vehicle=vehicle)


def encoded(source: Path, form: str, name: str) -> bytes:
    """Return a kept sound as WAV, FLAC or a universal file, in which it has a name."""
    sound = decode(source)
    if form == "uff":
        return encode_uff(sound.samples, rate=sound.rate, name=name)
    return encode_flac(sound) if form == "flac" else encode_wav(sound)


def band_as_wav(source: Path, low_hz: float, high_hz: float) -> bytes:
    """Return one band of a kept sound alone."""
    return encode_wav(only_band(decode(source), low_hz=low_hz, high_hz=high_hz))


def band_spectrum(source: Path, situation: Situation, vehicle: Vehicle, low_hz: float, high_hz: float) -> dict:
    """Return the order spectrum of one band of a kept sound."""
    return spectrum_in_band(decode(source), situation, vehicle=vehicle, low_hz=low_hz, high_hz=high_hz)
