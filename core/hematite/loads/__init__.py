"""Loads: what a wheel's place and the bends put on a hub's rows, and what that leaves of its life, as a ratio."""

from hematite.loads.life import Change, basic_life_mrev, change, life_ratio, rows_of
from hematite.loads.rows import Rows, mean_loads, row_loads

__all__ = ["Change", "Rows", "basic_life_mrev", "change", "life_ratio", "mean_loads", "row_loads", "rows_of"]
