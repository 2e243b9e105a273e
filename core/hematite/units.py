"""Units as the user likes them, SI inside. Factors and their sources stand in `units.toml`."""

from collections.abc import Mapping
from typing import Any

from hematite.doors import finite, one_of
from hematite.language import figure, say
from hematite.tables import table


def quantities() -> Mapping[str, Any]:
    """Return every quantity with its units, factors and sources, as the table has them."""
    return table("units.toml")


def _unit(quantity: str, key: str) -> Mapping[str, Any]:
    one_of(quantity, quantities(), say("quantity"))
    units = {row["key"]: row for row in quantities()[quantity]["units"]}
    return dict(units[one_of(key, units, say("unit of {quantity}", quantity=quantity))])


def first_unit(quantity: str) -> str:
    """Return the unit that a quantity is written in where nobody chose one. Raises `UnknownName`."""
    return str(quantities()[one_of(quantity, quantities(), say("quantity"))]["units"][0]["key"])


def to_si(value: float, *, quantity: str, unit: str) -> float:
    """Turn a shown value into SI (m, N·m, K, m/s). Raises `BadQuantity` or `UnknownName`."""
    row = _unit(quantity, unit)
    return finite(value, quantity) * float(row["factor"]) + float(row.get("offset", 0.0))


def from_si(value: float, *, quantity: str, unit: str) -> float:
    """Turn an SI value into the shown unit. Raises `BadQuantity` or `UnknownName`."""
    row = _unit(quantity, unit)
    return (finite(value, quantity) - float(row.get("offset", 0.0))) / float(row["factor"])


def shown(value: float, *, quantity: str, unit: str) -> str:
    """Return an SI value as it is shown in a unit, with the unit's label: '0.30 mm'."""
    row = _unit(quantity, unit)
    spec = f".{row['decimals']}f"
    return f"{figure(from_si(value, quantity=quantity, unit=unit), spec)} {row['label']}"
