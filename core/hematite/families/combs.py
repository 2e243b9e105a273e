"""Families and combs: where a fault's lines are due, and what was found of them."""

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
from scipy import special

from hematite.bearings import FaultOrders

Floats = npt.NDArray[np.float64]

HARMONICS = 5
SIDED = 2  # harmonics whose side lines are looked for
SIDE_WEIGHT = 0.7  # judgement
CLEAR, FAINT = 4.6, 2.3  # nats: odds of a hundred and of ten to one
AS_LIKELY = 4.6  # nats: what stands so much higher than another is likelier a hundred to one
# Where other things turn, engine, gears, tyres, one of them keeps step with a fault's lines by luck: how common that is
# beside a fault, and the nats in which such luck grows e times rarer, where hiss's does in one; of a bearing whose
# sizes nobody stated it is so much commoner. Judgement, see docs/method.md.
LUCK, LUCK_FALLS, UNSIZED = 0.75, 4.0, 3.0
# Balls and rollers slip: the cage falls behind by so much. Randall & Antoni, MSSP 25 (2011) 485-520: 1 to 2 %; the
# lower end allows for a catalogue's figures, the upper for light loads; judgement.
SLIPS = np.arange(-0.012, 0.0351, 0.0015)
USUAL_SLIP = (0.01, 0.012)  # and how far it scatters, the catalogue's errors with it; judgement on the same source
# Elements over pitch circle, times the cosine of the contact angle, and how far it scatters: the rule of 0.4 and 0.6 of
# the elements a turn (common practice, no source) is a ratio of 0.2; tapers have less.
USUAL_RATIO = (0.18, 0.045)
FURTHEST = 2.0  # of its doubt that an order is sought away from where it is due


@dataclass(frozen=True)
class Family:
    """One family of lines and how far it stands out of chance.

    `order` is where it was expected, `found_order` where it stood best, `lines` the orders with their heights
    in dB; `power_db` is what its lines carry together, dB of full scale², to compare corners by. `strength` is how much
    likelier the recording is with it than with nothing, in nats. `note` says more of it in the trade's words, such as
    how many balls it implies; `hubs` names the hubs whose bearings it fits. `blind`: of a bearing whose geometry nobody
    stated. `reach`: of what touches once a turn, how high its lines reach: their mean order. `leftward`: how much
    likelier it turns with the left side's wheels in bends than with the right side's, in nats. `luck`: how common it
    is, beside a fault, that something else stands so by luck, 0 where nothing else turns; `halves`: how much likelier
    it has lines at half its order as well, in nats.
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
    blind: bool = False
    reach: float = 0.0
    leftward: float = 0.0
    luck: float = 0.0
    halves: float = 0.0

    @property
    def odds(self) -> float:
        """Return how much likelier the recording is with it than with nothing or something else by luck, in nats.

        What has lines at half its order too is likely something else: an engine's working cycle is two of its turns.
        """
        by_luck = self.strength * (1 - 1 / LUCK_FALLS) + max(self.halves, 0.0)
        return float(self.strength) - float(np.log1p(self.luck * np.exp(min(by_luck, 50.0))))

    @property
    def standing(self) -> str:
        """Return 'clear', 'faint' or 'nothing'; what luck may explain is no clearer than faint."""
        return "clear" if self.odds >= CLEAR else "faint" if self.strength >= FAINT else "nothing"

    @property
    def may_be_luck(self) -> bool:
        """Return whether it stands clear out of hiss, and only something else that turns may explain it as well."""
        return self.strength >= CLEAR and self.standing == "faint"

    @property
    def by_chance(self) -> float:
        """Return how often, at most, a recording with nothing there shows as strong a family (Markov's bound)."""
        return float(np.exp(-max(self.odds, 0.0)))


@dataclass(frozen=True)
class Comb:
    """Where a family's lines are due: harmonics of `order`, each with side lines at ±`side` when that is not zero.

    `slips`: by how much the order rises for each unit that the cage falls behind. `doubt`: how far the order itself may
    be off, relatively, where a bearing's sizes are not known.
    """

    kind: str
    order: float
    side: float = 0.0
    harmonics: int = HARMONICS
    slips: float = -1.0
    doubt: float = 0.0

    def scales(self, spread: float) -> Floats:
        """Return what slip, and a `spread` of the speed either way, make of the order; shape (n,)."""
        slipped = 1 + self.slips * SLIPS
        spread += FURTHEST * self.doubt
        if spread < 0.002:
            return np.asarray(slipped)
        return np.arange(slipped.min() * (1 - spread), slipped.max() * (1 + spread), 0.0025)

    def usual(self, scales: Floats, spread: float) -> Floats:
        """Return the log of how usual each scale is by slip and speed, over their mean; shape (n,).

        A speed is within its `spread` nineteen times of twenty: two standard deviations.
        """
        doubt = np.sqrt(np.square(USUAL_SLIP[1] * self.slips) + (spread / 2) ** 2 + self.doubt**2)
        odds = -0.5 * np.square((scales - 1 - self.slips * USUAL_SLIP[0]) / doubt)
        return np.asarray(odds - special.logsumexp(odds) + np.log(len(odds)))

    def due(self) -> tuple[Floats, Floats, Floats]:
        """Return multiples of the order, offsets and weights of the lines that are laid, each of shape (lines,)."""
        rows = [(float(k), 0.0, 1.0) for k in range(1, self.harmonics + 1)]
        if self.side:
            rows += [(float(k), sign * self.side, SIDE_WEIGHT) for k in range(1, SIDED + 1) for sign in (-1.0, 1.0)]
        multiples, offsets, weights = np.array(rows).T
        return multiples, offsets, weights

    def lines(self, scale: float, highest: float) -> list[tuple[str, float]]:
        """Return (name, order) of every line up to `highest`, with the fundamental moved by `scale`."""
        named: list[tuple[str, float]] = []
        for k in range(1, self.harmonics + 1):
            centre = k * self.order * scale
            named.append((f"{k}×", centre))
            if self.side and k <= SIDED:
                named += [(f"{k}×−", centre - self.side), (f"{k}×+", centre + self.side)]
        return [(name, order) for name, order in named if 0.2 < order < highest]


def combs_of_count(elements: int, *, rotating: str) -> tuple[Comb, ...]:
    """Return the combs of the rings of a row of which only the number of balls or rollers is known.

    The outer race meets n/2·(1 − γ) of them a turn, the inner one n/2·(1 + γ); γ, the elements' share of the pitch
    circle, is much alike in all wheel bearings.
    """
    ratio, doubt = USUAL_RATIO
    outer, inner = (1.0, 0.0) if rotating == "outer" else (0.0, 1.0)
    return (
        Comb("outer_race", elements / 2 * (1 - ratio), outer, harmonics=4, doubt=doubt / (1 - ratio)),
        Comb("inner_race", elements / 2 * (1 + ratio), inner, harmonics=4, doubt=doubt / (1 + ratio)),
    )


def combs(orders: FaultOrders) -> tuple[Comb, ...]:
    """Return the four combs of one row. The turning ring's faults carry side lines one wheel turn apart.

    Source: Randall & Antoni (2011), section 2: a defect that passes through the load zone is amplitude-modulated. A
    cage that falls behind meets the standing ring less often and the turning one more often.
    """
    meets = orders.ftf / (1 - orders.ftf)
    standing, turning = (0.0, -1.0), (1.0, meets)
    outer, inner = (turning, standing) if orders.rotating == "outer" else (standing, turning)
    return (
        Comb("outer_race", orders.bpfo, outer[0], slips=outer[1]),
        Comb("inner_race", orders.bpfi, inner[0], slips=inner[1]),
        Comb("rolling_element", orders.rolling, orders.ftf, harmonics=4),
        Comb("cage", orders.ftf, harmonics=6),
    )
