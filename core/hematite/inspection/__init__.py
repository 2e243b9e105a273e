"""Inspection: an opened hub, part by part in the order they come off, and what the finds tell."""

from hematite.assembly import Part, parts_of
from hematite.inspection.finds import Find, finds, finds_of, shuts_out
from hematite.inspection.inspection import FACTS, Inspection, PartLooked, inspections, read_part

__all__ = [
    "FACTS",
    "Find",
    "Inspection",
    "Part",
    "PartLooked",
    "finds",
    "finds_of",
    "inspections",
    "parts_of",
    "read_part",
    "shuts_out",
]
