"""Limits of figures in the API's schemas: read from the core's table, so that both doors refuse the same."""

from typing import Any

from hematite.doors import limits
from ninja import Field


def limited(key: str, default: Any = None) -> Any:
    """Return a field whose figure lies within its limits of the core's `limits.toml`."""
    least, most = limits(key)
    return Field(default, ge=least, le=most)
