"""Proof: the repaired hub heard and felt again, held against before."""

from hematite.proof.checks import Check, Closing, check_words, checks, closing, read_check
from hematite.proof.sound import OUTCOMES, LineChange, SoundProof, choose_before, prove_sound

__all__ = [
    "OUTCOMES",
    "Check",
    "Closing",
    "LineChange",
    "SoundProof",
    "check_words",
    "checks",
    "choose_before",
    "closing",
    "prove_sound",
    "read_check",
]
