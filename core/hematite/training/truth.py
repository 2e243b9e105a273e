"""What is hidden in a vehicle to learn on: known to the bench, and to nobody who learns before the answer."""

from collections.abc import Mapping
from dataclasses import asdict, dataclass, field
from typing import Any

from hematite.doors import mapped


@dataclass(frozen=True)
class Truth:
    """The hidden faults and what they make of each hub.

    `causes` by hub (those with none are left out), `values` the hidden things of states.toml by hub, `play_mm` the end
    play by hub, `opened` what each hub looks like inside; `noise` the hub and cause that is complained of, both '' for
    none; `trouble` what the pickup hears (simulator.scenes.Trouble); `errs` whether hands and drivers err; `nut` what
    the nut at `at` hides, where one is set (`nuts.hidden_nut`); `kept` what real work found, decided and proved: then
    nothing is drawn, and what nobody did there cannot be asked (`kept.keep`).
    """

    topic: str
    matter: str
    level: int
    seed: int
    at: str
    causes: Mapping[str, str]
    values: Mapping[str, Mapping[str, str]]
    play_mm: Mapping[str, float]
    opened: Mapping[str, str]
    noise: tuple[str, str]
    trouble: Mapping[str, float]
    errs: bool
    complaint: Mapping[str, Any] = field(default_factory=dict)
    nut: Mapping[str, float] = field(default_factory=dict)
    kept: Mapping[str, Any] = field(default_factory=dict)

    @property
    def culprit(self) -> str:
        """Return the hub where something is wrong, '' where nothing is."""
        return next(iter(self.causes), "")

    def to_json(self) -> dict[str, Any]:
        """Return it as it is kept."""
        return asdict(self)

    @classmethod
    def from_json(cls, kept: object) -> "Truth":
        """Read what `to_json` made. Raises `BadBundle` for what is none."""
        said = dict(mapped(kept, "What a practice hub hides"))
        return cls(**said | {"noise": tuple(said["noise"])})
