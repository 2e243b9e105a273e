"""Setting: the sums done by hand today, with the range that each really has."""

from hematite.setting.nut import EndPlayRange, end_play_from_angle
from hematite.setting.shims import Pack, shim_pack, shim_total_mm

__all__ = ["EndPlayRange", "Pack", "end_play_from_angle", "shim_pack", "shim_total_mm"]
