"""Bearings: geometry and fault orders, and the catalogue of boundary dimensions."""

from hematite.bearings.catalogue import Size, matching_sizes, sizes
from hematite.bearings.geometry import RINGS, FaultOrders, Row, fault_orders

__all__ = ["RINGS", "FaultOrders", "Row", "Size", "fault_orders", "matching_sizes", "sizes"]
