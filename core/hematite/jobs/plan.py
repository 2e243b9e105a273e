"""A job's plan: the rows of `steps.toml` that belong to a choice and a hub design, in order."""

from collections.abc import Mapping
from dataclasses import dataclass

from hematite.decision.choice import choices
from hematite.doors import one_of
from hematite.hubs import designs
from hematite.policy import defaults
from hematite.tables import table


@dataclass(frozen=True)
class Step:
    """One physical step. `torque_nm` is a range as practised (empty: the vehicle's own manual decides)."""

    id: str
    text: str
    caution: str = ""
    torque_nm: tuple[float, ...] = ()
    torque_note: str = ""
    sum: str = ""
    source: str = "common practice"


def plan(choice: str, design: str, ways: Mapping[str, str] | None = None) -> tuple[Step, ...]:
    """Return the steps of a choice for a hub design, in the order of work; `ways`: the school of each difference.

    Raises `UnknownName`.
    """
    one_of(choice, choices(), "choice")
    one_of(design, designs(), "hub design")
    ways = defaults() | dict(ways or {})
    return tuple(
        _step(row) for row in table("jobs/steps.toml")["step"] if _applies(row, "choices", choice)
        and _applies(row, "designs", design) and row.get("schools", {}).items() <= ways.items()
    )  # fmt: skip


def _applies(row: dict[str, list[str]], column: str, key: str) -> bool:
    return column not in row or key in row[column]


def _step(row: dict[str, object]) -> Step:
    fields = {name: value for name, value in row.items() if name not in ("choices", "designs", "schools")}
    torque = fields.pop("torque_nm", ())
    return Step(torque_nm=tuple(torque), **fields)  # type: ignore[arg-type]


@dataclass(frozen=True)
class Lift:
    """One of the two lifts, to test or to work: why it is as it is, and what must be so, in order."""

    key: str
    label: str
    why: str
    steps: tuple[str, ...]


def making_safe() -> tuple[Lift, ...]:
    """Return the two lifts: nuts stay tight to test, as slack ones feel like play; they are slackened first to work."""
    rows = table("jobs/making_safe.toml")
    return tuple(Lift(key, row["label"], row["why"], tuple(row["steps"])) for key, row in rows.items())
