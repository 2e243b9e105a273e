"""Recordings: decoding sound files, and saying whether they are good enough to judge by."""

from hematite.recordings.decoding import Recording, decode, encode_flac, encode_wav, measure
from hematite.recordings.logs import encode_uff
from hematite.recordings.quality import Finding, assess_quality, usable

__all__ = [
    "Finding",
    "Recording",
    "assess_quality",
    "decode",
    "encode_flac",
    "encode_uff",
    "encode_wav",
    "measure",
    "usable",
]
