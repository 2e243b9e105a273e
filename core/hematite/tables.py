"""The trade's tables: TOML files that stand beside the code that reads them."""

import tomllib
from functools import cache
from pathlib import Path
from typing import Any

_ROOM = Path(__file__).parent


@cache
def table(name: str) -> dict[str, Any]:
    """Read a table once, by its path below the core, for example `bearings/catalogue.toml`."""
    return tomllib.loads((_ROOM / name).read_text(encoding="utf-8"))
