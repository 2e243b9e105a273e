"""The figures that prices are made of: examples, until a workshop enters its own."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from typing import Any

from hematite.doors import not_negative, one_of
from hematite.errors import BadQuantity
from hematite.hubs import designs
from hematite.language import later, say, words_once
from hematite.tables import table

WORKING_DAY_H = 8.0  # so many hours is a day, where a wait of under half of one is told; judgement
HIGHEST = 100_000.0  # judgement: more than this is a slip of the finger
PART_WORDS = {
    "bearing": later("Bearing, one side"),
    "unit": later("Hub or unit, one side"),
    "seal": later("Seal"),
    "consumables": later("Grease, pins and other consumables"),
}


@dataclass(frozen=True)
class Figure:
    """One figure of the price list. `example` is True until the workshop enters its own."""

    key: str
    label: str
    unit: str
    value: float
    example: bool


@dataclass(frozen=True)
class Rates:
    """A workshop's own figures by key, such as 'hour' or 'hub_unit.bearing'; its word for money."""

    own: Mapping[str, float] = field(default_factory=dict)
    currency: str = "€"

    def of(self, key: str) -> float:
        """Return a figure: the workshop's own, else the example."""
        return self.own.get(key, _examples()[key].value)

    def example(self, *keys: str) -> bool:
        """Return whether any of these figures is still an example."""
        return any(key not in self.own for key in keys)


def read_rates(data: Mapping[str, Any]) -> Rates:
    """Check a price list: `currency`, and `figures` by key. Raises `UnknownName`, `BadQuantity`."""
    own = {}
    for key, value in (data.get("figures") or {}).items():
        row = _examples()[one_of(key, _examples(), say("figure of the price list"))]
        own[key] = not_negative(value, row.label)
        if own[key] > (1.0 if row.unit == "share" else HIGHEST):
            raise BadQuantity(
                say("{label}: {own:g} is too much. Check the decimal point.", label=row.label, own=own[key])
            )
    return Rates(own, str(data.get("currency") or "€").strip()[:6])


def figures(rates: Rates) -> list[Figure]:
    """Return the whole price list: the workshop's own where it has them, examples elsewhere."""
    return [
        Figure(row.key, row.label, row.unit, rates.of(row.key), rates.example(row.key)) for row in _examples().values()
    ]


@words_once
def _examples() -> dict[str, Figure]:
    return {figure.key: figure for figure in _rows()}


def _rows() -> Iterator[Figure]:
    rows = table("prices/prices.toml")
    for key, row in rows["rates"].items():
        yield Figure(key, row["label"], row["unit"], row["value"], example=True)
    for design, row in rows["design"].items():
        label = designs()[design].label
        for part, words in PART_WORDS.items():
            yield Figure(f"{design}.{part}", f"{say(words)} ({label})", "money", row[part], example=True)
        for choice, hours in row["hours"].items():
            words = say("Hours to {work} ({label})", work=say(WORK[choice]), label=label)
            yield Figure(f"{design}.hours.{choice}", words, "hours", hours, example=True)
        for part, days in row["wait_days"].items():
            yield Figure(
                f"{design}.wait.{part}",
                say(WAIT[part], label=label),
                "days",
                days,
                example=True,
            )


WAIT = {
    "bearing": later("Wait for the bearing ({label})"),
    "unit": later("Wait for the unit ({label})"),
    "seal": later("Wait for the seal ({label})"),
}
WORK = {
    "leave": later("look again"),
    "top_up": later("top up the grease"),
    "adjust": later("adjust"),
    "repack": later("clean and repack"),
    "replace_bearing": later("replace the bearing"),
    "replace_unit": later("replace the hub or unit"),
}
