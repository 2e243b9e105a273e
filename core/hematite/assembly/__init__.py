"""Assemblies: each hub design as it is put together, part by part, and what may be fitted to it or not."""

from hematite.assembly.depth import Depth, depth_of, possible_choices
from hematite.assembly.facts import Facts, hub_facts, questions
from hematite.assembly.fittings import Fitting, asked, fittings, read_fittings, with_usual
from hematite.assembly.hub import Placed, assembly
from hematite.assembly.parts import Act, Part, holds, library, parts_of

__all__ = [
    "Act",
    "Depth",
    "Facts",
    "Fitting",
    "Part",
    "Placed",
    "asked",
    "assembly",
    "depth_of",
    "fittings",
    "holds",
    "hub_facts",
    "library",
    "parts_of",
    "possible_choices",
    "questions",
    "read_fittings",
    "with_usual",
]
