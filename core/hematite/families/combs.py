"""Families and combs: where a fault's lines are due, and what was found of them."""

from dataclasses import dataclass

from scipy import stats

from hematite.bearings import FaultOrders

HARMONICS = 4
CLEAR, FAINT = 6.0, 4.0  # robust standard deviations over chance: about 1 in 1300 and 1 in 140, see `by_chance`
GUMBEL_SPREAD = 1.137  # robust standard deviation of a Gumbel distribution over its scale: 1.4826 × 0.7670


@dataclass(frozen=True)
class Family:
    """One family of lines and how far it stands out of chance.

    `order` is where it was expected, `found_order` where it stood best, `lines` the orders with their heights
    in dB; `power_db` is what its lines carry together, dB of full scale², to compare corners by. `note` says more of it
    in the trade's words, such as how many balls it implies; `hubs` names the hubs whose bearings it fits. `hump_db` is
    how far its first two lines stand over the whole orders around them, where those are a scrape's.
    """

    kind: str
    order: float
    found_order: float
    score_db: float
    strength: float
    lines: tuple[tuple[str, float, float], ...]
    power_db: float = -300.0
    row: str = ""
    note: str = ""
    hubs: tuple[str, ...] = ()
    hump_db: float | None = None

    @property
    def standing(self) -> str:
        """Return 'clear', 'faint' or 'nothing'."""
        return "clear" if self.strength >= CLEAR else "faint" if self.strength >= FAINT else "nothing"

    @property
    def rank(self) -> tuple[int, float]:
        """Return what to sort by: of families that stand clear the higher one is the noise, the others its skirts."""
        if self.standing == "clear":
            return 2, self.score_db
        return int(self.standing == "faint"), self.strength

    @property
    def by_chance(self) -> float:
        """Return how often a recording with nothing there shows as strong a family.

        The best of many looks is Gumbel-distributed (Gumbel, Statistics of Extremes, 1958); its scale is read from
        the decoys' median and median deviation.
        """
        return float(stats.gumbel_r.sf(self.strength * GUMBEL_SPREAD + stats.gumbel_r.median()))


@dataclass(frozen=True)
class Comb:
    """Where a family's lines are due: harmonics of `order`, each with side lines at ±`side` when that is not zero."""

    kind: str
    order: float
    side: float = 0.0
    harmonics: int = HARMONICS

    def lines(self, scale: float, highest: float) -> list[tuple[str, float]]:
        """Return (name, order) of every line up to `highest`, with the fundamental moved by `scale`."""
        named: list[tuple[str, float]] = []
        for k in range(1, self.harmonics + 1):
            centre = k * self.order * scale
            named.append((f"{k}×", centre))
            if self.side:
                named += [(f"{k}×−", centre - self.side), (f"{k}×+", centre + self.side)]
        return [(name, order) for name, order in named if 0.2 < order < highest]


def combs(orders: FaultOrders) -> tuple[Comb, ...]:
    """Return the four combs of one row. The turning ring's faults carry side lines one wheel turn apart.

    Source: Randall & Antoni (2011), section 2: a defect that passes through the load zone is amplitude-modulated.
    """
    outer_side = 1.0 if orders.rotating == "outer" else 0.0
    inner_side = 1.0 if orders.rotating == "inner" else 0.0
    return (
        Comb("outer_race", orders.bpfo, outer_side),
        Comb("inner_race", orders.bpfi, inner_side),
        Comb("rolling_element", orders.rolling, orders.ftf),
        Comb("cage", orders.ftf, harmonics=3),
    )
