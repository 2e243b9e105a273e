"""Topics, what each has to tell apart, and how hard a drawn hub is."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from hematite.doors import one_of
from hematite.errors import UnknownName
from hematite.language import say, words_once
from hematite.tables import table

Span = tuple[float, float]


@dataclass(frozen=True)
class Matter:
    """One thing to tell: the cause that is hidden ('' for none), what it makes of hidden things, and its answer.

    `choice`: the job whose steps are put in order; `loses`: where a nut is set, which share of the usual windup its
    clamp takes; of a hub that is only set nobody complains.
    """

    key: str
    label: str
    cause: str
    hub_play: str = ""
    opened: str = ""
    answer: str = ""
    choice: str = ""
    loses: Span | None = None


@dataclass(frozen=True)
class Topic:
    """What is learnt: the question, where one begins, what the answer names, by which ways, and the matters."""

    key: str
    label: str
    ask: str
    stage: str
    by_ear: bool
    asks: str
    given: tuple[str, ...]
    options: Mapping[str, str]
    ways: Mapping[str, str]
    matters: Mapping[str, Matter]


@dataclass(frozen=True)
class Level:
    """How hard it is: spans to draw from, whether hands err, and which vehicles come.

    `steps`: how many steps of a job are put in order, and among how many that follow one another they lie.
    """

    number: int
    label: str
    errs: bool
    severity: Span
    leak_db: Span
    hiss: Span
    hum: Span
    knocks: Span
    steps: tuple[int, int]
    vehicles: tuple[str, ...]


@words_once
def topics() -> dict[str, Topic]:
    """Return every topic by its key."""
    return {key: _topic(key, row) for key, row in table("training/topics.toml")["topic"].items()}


def _topic(key: str, row: Mapping[str, Any]) -> Topic:
    matters = {
        name: Matter(name, **{"cause": name} | {field: _held(value) for field, value in own.items()})
        for name, own in row.get("matter", {}).items()
    }
    named = {name: row[name] for name in ("label", "ask", "stage", "by_ear", "asks")}
    told = {name: row.get(name, {}) for name in ("options", "ways")}
    return Topic(key=key, given=tuple(row["given"]), matters=matters, **told, **named)


def topic(key: str) -> Topic:
    """Return one topic. Raises `UnknownName`."""
    return topics()[one_of(key, topics(), say("topic"))]


@words_once
def levels() -> dict[int, Level]:
    """Return every level by its number."""
    rows = table("training/levels.toml")["level"]
    return {row["number"]: Level(**{name: _held(value) for name, value in row.items()}) for row in rows}


def _held(value: Any) -> Any:
    return tuple(value) if isinstance(value, list) else value


def level(number: int) -> Level:
    """Return one level. Raises `UnknownName`."""
    if number not in levels():
        raise UnknownName(say("There is no level {number}. Choose one of: {known}.", number=number, known=_known()))
    return levels()[number]


def _known() -> str:
    return ", ".join(str(number) for number in levels())


def sure_steps() -> dict[int, str]:
    """Return how sure one may say to be, in percent, with words."""
    return {int(percent): words for percent, words in table("training/topics.toml")["sure"].items()}
