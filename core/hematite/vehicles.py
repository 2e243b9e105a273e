"""A vehicle as the core sees it: axles front to back, each with its hubs."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field

from hematite import tyres
from hematite.bearings import Row
from hematite.errors import BadQuantity
from hematite.fastenings import Fastening
from hematite.hubs import Design, design
from hematite.language import later, say


@dataclass(frozen=True)
class Hub:
    """One wheel position. `side` is 'left', 'right' or 'centre', seen from the seat.

    `counts`: balls or rollers in rows of which nobody knows more. `fittings`: what was said to be fitted
    (assembly/fittings.toml); `fastenings`: torques, threads and sockets by whose they are; `designations` by row;
    `seal_mm`: shaft, housing and width.
    """

    id: str
    side: str
    design_key: str
    rows: tuple[Row, ...] = ()
    rotating_ring: str = ""
    play_min_mm: float | None = None
    play_max_mm: float | None = None
    play_source: str = ""
    counts: tuple[int, ...] = ()
    fittings: Mapping[str, str] = field(default_factory=dict, hash=False)
    fastenings: Mapping[str, Fastening] = field(default_factory=dict, hash=False)
    designations: Mapping[str, str] = field(default_factory=dict, hash=False)
    seal_mm: tuple[float | None, float | None, float | None] = (None, None, None)

    @property
    def design(self) -> Design:
        """Return the design's row in the table."""
        return design(self.design_key)

    @property
    def rotating(self) -> str:
        """Return the ring that turns with the wheel: the hub's own statement, else the design's."""
        return self.rotating_ring or self.design.rotating

    @property
    def play_window_mm(self) -> tuple[float, float]:
        """Return the window of normal end play: the manual's where given, else the design's default."""
        low = self.design.play_min_mm if self.play_min_mm is None else self.play_min_mm
        high = self.design.play_max_mm if self.play_max_mm is None else self.play_max_mm
        return low, high

    @property
    def window_source(self) -> str:
        """Return where the window came from: the hub's own statement, else the design's."""
        own = self.play_min_mm is not None or self.play_max_mm is not None
        return (self.play_source or say("entered for this vehicle")) if own else self.design.play_source


# What the hubs of one side of an axle are called, by how many there are, from left to right.
ON_A_SIDE = {"left": ("L", "LO LI"), "centre": ("C",), "right": ("R", "RI RO")}


def hub_names(axle: int, sides: Sequence[str]) -> list[str]:
    """Return what the hubs of an axle are called, given their sides from left to right; axles count from 1 in front.

    Raises `BadQuantity` for more hubs on a side than an axle has there, or in another order.
    """
    counts = {side: list(sides).count(side) for side in ON_A_SIDE}
    known = [side for side in ON_A_SIDE for _ in range(counts[side])]
    if known != list(sides) or any(count > len(ON_A_SIDE[side]) for side, count in counts.items()):
        raise BadQuantity(
            say("Axle {axle}: name its wheels from left to right, at most two on a side, one in the middle.", axle=axle)
        )
    return [f"A{axle}{name}" for side, n in counts.items() if n for name in ON_A_SIDE[side][n - 1].split()]


@dataclass(frozen=True)
class Axle:
    """One axle with its hubs from left to right."""

    hubs: tuple[Hub, ...]
    driven: bool = False
    steered: bool = False


TWINS = {
    ("left", True): later("left outer"),
    ("left", False): later("left inner"),
    ("right", True): later("right outer"),
    ("right", False): later("right inner"),
}


def _beside(hub: Hub, axle: Axle) -> str:
    """Return where a hub is on its axle; of twin wheels also whether it is the inner or the outer one."""
    if hub.side == "centre":
        return say("wheel")
    own = [other.id for other in axle.hubs if other.side == hub.side]
    outermost = own[0] if hub.side == "left" else own[-1]
    if len(own) == 1:
        return say(hub.side)
    return say(TWINS[hub.side, hub.id == outermost])


@dataclass(frozen=True)
class Vehicle:
    """Axles from front to back. `rolling_circumference` in metres; None when neither it nor the tyre is known.

    Age in years, distance in km and `duty` (words of beliefs/priors.toml) shift what is likely before any test.
    """

    axles: tuple[Axle, ...]
    label: str = ""
    tyre: str = ""
    rolling_circumference_m: float | None = None
    age_years: float | None = None
    distance_km: float | None = None
    duty: tuple[str, ...] = ()

    def hubs(self) -> Iterator[Hub]:
        """Yield every hub, front to back and left to right."""
        for axle in self.axles:
            yield from axle.hubs

    def hub(self, hub_id: str) -> Hub | None:
        """Return the hub of that id, or None."""
        return next((hub for hub in self.hubs() if hub.id == hub_id), None)

    def mate(self, hub_id: str) -> Hub | None:
        """Return the hub across the axle: of the same design, the mirror image first; None where there is none."""
        hubs = next((axle.hubs for axle in self.axles if any(hub.id == hub_id for hub in axle.hubs)), ())
        own = next((n for n, hub in enumerate(hubs) if hub.id == hub_id), None)
        if own is None:
            return None
        side, design_key = hubs[own].side, hubs[own].design_key
        mirrored_first = (hubs[len(hubs) - 1 - own], *hubs)
        return next((hub for hub in mirrored_first if hub.side != side and hub.design_key == design_key), None)

    def spoken(self) -> dict[str, str]:
        """Return what people call each hub, by its id: front left, rear wheel, axle 2 right."""
        return {
            hub.id: " ".join(part for part in (self._end(n), _beside(hub, axle)) if part)
            for n, axle in enumerate(self.axles, 1)
            for hub in axle.hubs
        }

    def _end(self, axle: int) -> str:
        if len(self.axles) == 1:
            return ""
        if self.is_trailer and len(self.axles) == 2:
            return (say("front axle"), say("rear axle"))[axle - 1]
        if axle == 1:
            return say("front")
        return say("rear") if axle == len(self.axles) else say("axle {axle}", axle=axle)

    @property
    def all_driven(self) -> bool:
        """Return whether every one of several axles drives."""
        return len(self.axles) > 1 and all(axle.driven for axle in self.axles)

    @property
    def is_cycle(self) -> bool:
        """Return whether it is a bicycle or a trike: cones to set somewhere, or no axle with two wheels."""
        hubs = list(self.hubs())
        return any(hub.design_key == "cup_cone" for hub in hubs) or all(len(axle.hubs) == 1 for axle in self.axles)

    @property
    def is_trailer(self) -> bool:
        """Return whether it has no drive of its own."""
        return not self.is_cycle and not any(axle.driven for axle in self.axles)

    @property
    def kind(self) -> str:
        """Return 'cycle', 'trailer' or 'powered': what tests and checks make sense on it."""
        return "cycle" if self.is_cycle else "trailer" if self.is_trailer else "powered"

    def steers(self, hub_id: str) -> bool:
        """Return whether a hub's axle steers."""
        return any(axle.steered and any(hub.id == hub_id for hub in axle.hubs) for axle in self.axles)

    def drives(self, hub_id: str) -> bool:
        """Return whether a hub's axle is driven."""
        return any(axle.driven and any(hub.id == hub_id for hub in axle.hubs) for axle in self.axles)

    @property
    def circumference(self) -> float | None:
        """Return metres per wheel turn: measured, else from the tyre's size, else None."""
        if self.rolling_circumference_m:
            return self.rolling_circumference_m
        return tyres.read_code(self.tyre).rolling_circumference if self.tyre else None
