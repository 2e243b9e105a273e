"""The trade's tables: TOML files that stand beside the code that reads them, their prose in the language spoken."""

import tomllib
from collections.abc import Iterator
from functools import cache
from pathlib import Path
from typing import Any

from hematite.language import say, spoken

_ROOM = Path(__file__).parent
# Keys whose texts are words for a reader though they may be one word in small letters, and keys whose texts never are.
PROSE = {"label", "words", "short", "what", "of", "by", "good", "bad", "left", "right", "group_label", "captive"}
NO_PROSE = {"key", "si", "source", "tyre_code"}
# Of some tables: words that a driver's text is searched for, sizes of threads.
NO_PROSE_OF = {"evidence/hands.toml": {"called", "side", "end", "bends"}, "training/vehicles.toml": {"thread"}}
ALL_PROSE = ("wording.toml", "assembly/words.toml")  # tables of nothing but words


def table(name: str) -> dict[str, Any]:
    """Read a table once, by its path below the core, for example `bearings/catalogue.toml`."""
    return _table(name, spoken())


def tables() -> list[str]:
    """Return the name of every table."""
    return sorted(str(path.relative_to(_ROOM)) for path in _ROOM.rglob("*.toml"))


def prose_of(name: str) -> Iterator[str]:
    """Yield every text of a table that is words for a reader."""
    found: list[str] = []

    def note(text: str) -> str:
        found.append(text)
        return text

    _each(_read(name), name, "", note)
    yield from found


@cache
def _table(name: str, language: str) -> dict[str, Any]:
    said: dict[str, Any] = _each(_read(name), name, "", say)
    return said


@cache
def _read(name: str) -> dict[str, Any]:
    return tomllib.loads((_ROOM / name).read_text(encoding="utf-8"))


def _each(value: Any, name: str, key: str, use: Any) -> Any:
    """Return a copy of a table's value, with `use` made of every text in it that is prose."""
    if isinstance(value, dict):
        return {one: inner if _never(name, one) else _each(inner, name, one, use) for one, inner in value.items()}
    if isinstance(value, list):
        return [_each(one, name, key, use) for one in value]
    return use(value) if isinstance(value, str) and _is_prose(value, name, key) else value


def _never(name: str, key: str) -> bool:
    return key in NO_PROSE or key in NO_PROSE_OF.get(name, ())


def _is_prose(text: str, name: str, key: str) -> bool:
    return bool(text) and (name in ALL_PROSE or key in PROSE or " " in text.strip() or text[0].isupper())
