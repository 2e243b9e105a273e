"""What each sum is asked with: its fields, and what was given for them, checked at the door."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from hematite.doors import SHOWN, count, finite, listed, mapped, one_of
from hematite.errors import BadQuantity
from hematite.language import say, small, words_once
from hematite.tables import table

TABLE = "sums/sums.toml"
MOST_TEXT = 40
MOST_ROWS = 40
# Choices whose words another table has; '' stands for what nobody knows.
ELSEWHERE = {
    "heat": ("fits/heat.toml", ("part",)),
    "thickener": ("grease/grease.toml", ("thickener",)),
    "grease_duty": ("grease/grease.toml", ("interval", "duty")),
    "spoilt": ("loads/loads.toml", ("spoilt",)),
}


@dataclass(frozen=True)
class Field:
    """One field of a sum. `kind` as the table has it; `options`: what can be chosen, in words, by its key."""

    key: str
    label: str
    kind: str
    unit: str = ""
    least: float = 0.0
    most: float = 0.0
    whole: bool = False
    count: int = 0
    options: tuple[tuple[str, str], ...] = ()
    hint: str = ""
    more: bool = False


@dataclass(frozen=True)
class Sum:
    """A sum: what it is called, its fields, and where its rule comes from."""

    key: str
    label: str
    source: str
    fields: tuple[Field, ...]


@words_once
def sums() -> dict[str, Sum]:
    """Return every sum by its key."""
    return {
        key: Sum(key, row["label"], row["source"], tuple(_field(field) for field in row["fields"]))
        for key, row in table(TABLE).items()
    }


def label_of(key: str) -> str:
    """Return what a sum is called; of one that was kept and no table has any more, its key."""
    return sums()[key].label if key in sums() else key.replace("_", " ")


def _field(row: Mapping[str, Any]) -> Field:
    options = tuple((one["key"], one["words"]) for one in row.get("options", ()))
    return Field(
        row["key"], row["label"], row["kind"], row.get("unit", ""), row.get("least", 0), row.get("most", 0),
        row.get("step", False), row.get("count", 0), options or _elsewhere(row.get("from", "")),
        row.get("hint", ""), row.get("more", False),
    )  # fmt: skip


def _elsewhere(name: str) -> tuple[tuple[str, str], ...]:
    if not name:
        return ()
    file, path = ELSEWHERE[name]
    rows: Any = table(file)
    for step in path:
        rows = rows[step]
    words = tuple((key, row if isinstance(row, str) else row["label"]) for key, row in rows.items())
    return (("", say("not known")), *words) if name == "thickener" else words


def read(key: str, given: object) -> dict[str, Any]:
    """Return what was given for a sum, checked field by field; what was left empty is not there.

    Raises `UnknownName` for a sum or field that no table lists, `BadQuantity` for what cannot be.
    """
    one = sums()[one_of(key, sums(), say("sum"))]
    known = {field.key: field for field in one.fields}
    values = {
        name: _read(known[one_of(str(name), known, say("figure of {label}", label=small(one.label)))], value)
        for name, value in mapped(given or {}, say("What a sum is asked with")).items()
    }
    return {name: value for name, value in values.items() if value not in (None, "", [], {})}


def _read(field: Field, value: object) -> Any:
    if value is None or value == "":
        return None
    return _READERS[field.kind](field, value)


def _number(field: Field, value: object) -> float | int:
    number = count(value, field.label, least=0) if field.whole else finite(value, field.label)
    if not field.least <= number <= field.most:
        unit = f" {field.unit}" if field.unit else ""
        raise BadQuantity(
            say(
                "{label}: between {least:g} and {most:g}{unit}; got {number:g}. Check the unit and the decimal point.",
                label=field.label,
                least=field.least,
                most=field.most,
                unit=unit,
                number=number,
            )
        )
    return number


def _text(field: Field, value: object) -> str:
    text = " ".join(str(value).split())
    if len(text) > MOST_TEXT:
        raise BadQuantity(say("{label}: “{text}…” is too long.", label=field.label, text=text[:SHOWN]))
    return text


def _tick(field: Field, value: object) -> bool | None:
    if value not in (True, False):
        raise BadQuantity(say("{label}: say yes or no.", label=field.label))
    return True if value else None


def _choice(field: Field, value: object) -> str:
    return one_of(str(value), [key for key, _ in field.options], say("answer ({label})", label=small(field.label)))


def _choices(field: Field, value: object) -> list[str]:
    return [_choice(field, one) for one in listed(value, field.label)]


def _numbers(field: Field, value: object) -> list[float]:
    rows = [row for row in listed(value, field.label) if row is not None]
    if len(rows) > MOST_ROWS:
        raise BadQuantity(say("{label}: {rows} are too many.", label=field.label, rows=len(rows)))
    return [float(_number(field, row)) for row in rows]


def _stock(field: Field, value: object) -> dict[float, int | None]:
    stock: dict[float, int | None] = {}
    for row in listed(value, field.label):
        thickness, many = (row, None) if isinstance(row, int | float) else _pair(field, row)
        if thickness is not None:
            stock[float(_number(field, thickness))] = None if many is None else count(many, field.label, least=0)
    return stock


def _pair(field: Field, row: object) -> tuple[Any, Any]:
    plain = mapped(row, field.label)
    return plain.get("mm"), plain.get("count")


_READERS = {
    "number": _number,
    "text": _text,
    "tick": _tick,
    "choice": _choice,
    "choices": _choices,
    "numbers": _numbers,
    "stock": _stock,
}
