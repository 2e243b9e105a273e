"""Hub designs: what can be adjusted or repacked, which ring turns, how much play is normal."""

from dataclasses import dataclass

from hematite.doors import one_of
from hematite.language import say, words_once
from hematite.tables import table


@dataclass(frozen=True)
class Design:
    """A way of building a hub. Play limits in millimetres, with where they come from."""

    key: str
    label: str
    adjusts: str
    slack: str
    repacks: bool
    sealed: bool
    rotating: str
    found_on: str
    play_min_mm: float
    play_max_mm: float
    play_source: str

    @property
    def taper(self) -> bool:
        """Return whether the hub runs on taper rollers, where a trace of play is wanted."""
        return self.key.startswith("taper_")


@words_once
def designs() -> dict[str, Design]:
    """Return every hub design by its key."""
    return {key: Design(key=key, **row) for key, row in table("hubs.toml").items()}


def design(key: str) -> Design:
    """Return one hub design; raises `UnknownName` for a key that no table lists."""
    return designs()[one_of(key, designs(), say("hub design"))]
