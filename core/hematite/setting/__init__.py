"""Setting: the sums done by hand today, with the range that each really has."""

from hematite.setting.nut import EndPlayRange, end_play_from_angle
from hematite.setting.shims import Pack, shim_pack, shim_total_mm
from hematite.setting.star import star_order
from hematite.setting.stop_gap import StopGap, grades, proof_load_kn, stop_gap

__all__ = [
    "EndPlayRange",
    "Pack",
    "StopGap",
    "end_play_from_angle",
    "grades",
    "proof_load_kn",
    "shim_pack",
    "shim_total_mm",
    "star_order",
    "stop_gap",
]
