"""The two lifts: what must be so before anything is pushed or taken off."""

from dataclasses import dataclass

from hematite.tables import table


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
