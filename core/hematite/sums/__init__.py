"""The setting bench: each sum with its fields, and its answer in words."""

from collections.abc import Callable, Mapping
from typing import Any

from hematite.sums.answer import Answer
from hematite.sums.fields import Field, Sum, label_of, read, sums
from hematite.sums.fitting import heat, press_
from hematite.sums.running import grease, life
from hematite.sums.setting import nut, setting, shims, slots
from hematite.sums.tightened import torque, wheel_nuts

RULES: dict[str, Callable[[Mapping[str, Any]], Answer]] = {
    "nut": nut,
    "slots": slots,
    "setting": setting,
    "shims": shims,
    "press": press_,
    "heat": heat,
    "torque": torque,
    "wheel_nuts": wheel_nuts,
    "grease": grease,
    "life": life,
}


def work_out(key: str, given: object, *, known: Mapping[str, Any] | None = None) -> Answer:
    """Return the answer of a sum; `known`: what the vehicle has learnt of this hub and nobody types.

    Raises `UnknownName`, `BadQuantity`, `BadGeometry`, each in the trade's words.
    """
    values = read(key, given)
    return RULES[key]({**values, **(known or {})})


__all__ = ["Answer", "Field", "Sum", "label_of", "read", "sums", "work_out"]
