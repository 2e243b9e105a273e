"""The schools of practice: each difference with its options, what they gain and what they cost."""

from dataclasses import dataclass

from hematite.language import words_once
from hematite.tables import table


@dataclass(frozen=True)
class Option:
    """One way of doing it."""

    key: str
    label: str
    gains: str
    costs: str


@dataclass(frozen=True)
class School:
    """One difference; its first option is the default."""

    key: str
    label: str
    options: tuple[Option, ...]

    def option(self, key: str) -> Option | None:
        """Return an option by its key, or None."""
        return next((option for option in self.options if option.key == key), None)


@words_once
def schools() -> dict[str, School]:
    """Return every difference by its key."""
    rows = table("policy/schools.toml")
    return {
        key: School(key, row["label"], tuple(Option(**option) for option in row["options"]))
        for key, row in rows.items()
    }


def defaults() -> dict[str, str]:
    """Return the default option of every difference."""
    return {key: school.options[0].key for key, school in schools().items()}
