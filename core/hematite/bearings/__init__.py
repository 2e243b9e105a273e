"""Rolling bearings: geometry, fault orders, boundary dimensions, and which one it is."""

from hematite.bearings.catalogue import KINDS, Size, counted, sizes, sizes_by_name
from hematite.bearings.finder import Estimate, Found, NearMiss, estimate_orders, find_bearing
from hematite.bearings.geometry import RINGS, FaultOrders, Row, element_count, fault_orders

__all__ = [
    "KINDS",
    "RINGS",
    "Estimate",
    "FaultOrders",
    "Found",
    "NearMiss",
    "Row",
    "Size",
    "counted",
    "element_count",
    "estimate_orders",
    "fault_orders",
    "find_bearing",
    "sizes",
    "sizes_by_name",
]
