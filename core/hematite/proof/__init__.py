"""Proof: the repaired hub heard and felt again, held against before."""

from hematite.proof.checks import UNTOUCHED, Check, Closing, checks, closing, read_check
from hematite.proof.sound import OUTCOMES, LineChange, SoundProof, prove_sound

__all__ = [
    "OUTCOMES",
    "UNTOUCHED",
    "Check",
    "Closing",
    "LineChange",
    "SoundProof",
    "checks",
    "closing",
    "prove_sound",
    "read_check",
]
