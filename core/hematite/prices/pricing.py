"""Pricing a choice: the job now, the chance that it comes back, and both sides at once against one."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from hematite.evidence.witnesses import causes
from hematite.prices.rates import Rates
from hematite.tables import table

DAY_HOURS = 8.0  # hours of work in a day; common practice, no source
PARTS = {"replace_bearing": "bearing", "replace_unit": "unit"}
IN_PAIRS = (*PARTS, "repack")  # what both sides of an axle get where that is the school


@dataclass(frozen=True)
class Priced:
    """One choice priced. Money in the workshop's currency; `days` without the vehicle; `comeback` a probability.

    `expected` and `expected_days` count what a comeback would cost, weighted by its chance.
    """

    choice: str
    parts: float
    labour: float
    fees: float
    consumables: float
    hours: float
    wait_days: float
    comeback: float
    expected: float
    expected_days: float
    example: bool

    @property
    def now(self) -> float:
        """Return what is to be paid for the job itself."""
        return self.parts + self.labour + self.fees + self.consumables

    @property
    def days(self) -> float:
        """Return the days without the vehicle for the job itself."""
        return self.wait_days + self.hours / DAY_HOURS


@dataclass(frozen=True)
class Flip:
    """Where another choice would cost less: the chance that the recommended one is right, or the price of its parts."""

    choice: str
    below_probability: float | None
    parts_above: float | None


@dataclass(frozen=True)
class Sides:
    """Both sides of the axle at once against one now and the other when it follows; `chance` that it follows."""

    both_now: float
    one_now: float
    chance: float


@dataclass(frozen=True)
class Pricing:
    """Every possible choice priced, the recommended one first; where it would flip; one side against both."""

    rows: tuple[Priced, ...]
    flips: tuple[Flip, ...]
    sides: Sides | None

    @property
    def cheapest(self) -> str:
        """Return the choice with the least expected cost."""
        return min(self.rows, key=lambda row: row.expected).choice


@dataclass(frozen=True)
class _Job:
    parts: float
    hours: float
    fees: float
    consumables: float
    wait_days: float
    keys: tuple[str, ...]

    def cost(self, rates: Rates) -> float:
        return self.parts + self.hours * rates.of("hour") + self.fees + self.consumables

    @property
    def days(self) -> float:
        return self.wait_days + self.hours / DAY_HOURS


def price(
    design: str,
    *,
    recommended: str,
    possible: Sequence[str],
    beliefs: Mapping[str, float],
    right: Mapping[str, str],
    rates: Rates,
    repair: str = "replace_bearing",
    mate: float | None = None,
) -> Pricing:
    """Price the recommended and every other possible choice at a hub.

    `beliefs`: the probability of each cause; `right`: the right choice for each. `repair`: what is mended once the
    vehicle is off the road. `mate`: the probability that the hub
    across the axle is at fault too, None where there is none.
    """
    total = sum(beliefs[cause] for cause in right) or 1.0
    likely = {cause: beliefs[cause] / total for cause in right}
    jobs = {choice: _job(design, choice, rates, repair) for choice in {recommended, *possible, *right.values()}}
    case = _Case(jobs, likely, right, rates)
    order = [recommended, *(choice for choice in possible if choice != recommended)]
    rows = tuple(_priced(choice, case) for choice in order)
    flips = [_flip(rows[0], row, case) for row in rows[1:]]
    sides = _sides(rows[0], design, mate, rates) if mate is not None and recommended in IN_PAIRS else None
    return Pricing(rows, tuple(flip for flip in flips if flip), sides)


@dataclass(frozen=True)
class _Case:
    """The jobs, how likely each cause is, the right job for each, and the figures."""

    jobs: Mapping[str, _Job]
    likely: Mapping[str, float]
    right: Mapping[str, str]
    rates: Rates

    def expected(self, choice: str, likely: Mapping[str, float]) -> float:
        """Return what a choice costs in the end, a comeback counted by its chance."""
        job = self.jobs[choice]
        later = sum(p * _comes_back(choice, cause) * self.mending(cause) for cause, p in likely.items())
        return job.cost(self.rates) + job.days * self.rates.of("day") + later

    def mending(self, cause: str) -> float:
        """Return what a comeback costs: looking again, the right job, and a day more without the vehicle."""
        job = self.jobs[self.right[cause]]
        again = self.rates.of("again_hours") * self.rates.of("hour") + self.rates.of("day") * (1 + job.days)
        return job.cost(self.rates) + again

    def uses(self, choice: str, part: str) -> float:
        """Return how many of a part a choice uses in the end, a comeback counted by its chance."""
        later = (
            p * _comes_back(choice, cause) for cause, p in self.likely.items() if PARTS.get(self.right[cause]) == part
        )
        return float(PARTS.get(choice) == part) + sum(later)


def _job(design: str, choice: str, rates: Rates, repair: str) -> _Job:
    """Return what a job takes, with the keys of the figures it is made of."""
    if choice == "look_elsewhere":
        return _Job(rates.of("elsewhere"), 0.0, 0.0, 0.0, 1.0, ("elsewhere",))
    if choice == "off_road":
        mend = _job(design, repair, rates, repair)
        return replace(mend, fees=mend.fees + rates.of("recovery"), keys=(*mend.keys, "recovery"))
    pressed = choice == "replace_bearing" and table("prices/prices.toml")["design"][design].get("press", False)
    part = PARTS.get(choice)
    used = {
        "hours": [f"{design}.hours.{choice}"],
        "consumables": [f"{design}.consumables"] if choice != "leave" else [],
        "parts": [f"{design}.seal"] * (choice in IN_PAIRS) + [f"{design}.{part}"] * bool(part),
        "fees": ["press"] * pressed,
        "wait_days": [f"{design}.wait.{part}"] * bool(part),
    }
    keys = ("hour", *(key for own in used.values() for key in own))
    return _Job(**{name: sum(map(rates.of, own)) for name, own in used.items()}, keys=keys)


def _comes_back(choice: str, cause: str) -> float:
    """Return the chance of a comeback after a choice when that was the matter. Table: prices.toml, judgement."""
    rows = table("prices/prices.toml")["comeback"][choice]
    group = causes()[cause]["group"]
    return float(rows.get(cause, rows.get(group, rows["other"])))


def _priced(choice: str, case: _Case) -> Priced:
    job, rates = case.jobs[choice], case.rates
    comes_back = {cause: p * _comes_back(choice, cause) for cause, p in case.likely.items()}
    later_days = sum(p * (1 + case.jobs[case.right[cause]].days) for cause, p in comes_back.items())
    return Priced(
        choice=choice,
        parts=job.parts,
        labour=job.hours * rates.of("hour"),
        fees=job.fees,
        consumables=job.consumables,
        hours=job.hours,
        wait_days=job.wait_days,
        comeback=sum(comes_back.values()),
        expected=case.expected(choice, case.likely),
        expected_days=job.days + later_days,
        example=rates.example(*job.keys, "day", "again_hours"),
    )


def _flip(best: Priced, other: Priced, case: _Case) -> Flip | None:
    """Return where `other` would cost less than `best`; None where nowhere."""
    below, above = _flip_chance(best.choice, other.choice, case), _flip_parts(best, other, case)
    return Flip(other.choice, below, above) if below is not None or above is not None else None


def _flip_chance(best: str, other: str, case: _Case) -> float | None:
    """Return the chance that `best` is right at which both cost the same, the other causes in their proportions."""
    mine = {cause: p for cause, p in case.likely.items() if case.right[cause] == best}
    share = sum(mine.values())
    if not 0 < share < 1:
        return None
    parts = ((mine, share), ({c: p for c, p in case.likely.items() if c not in mine}, 1 - share))
    when_right, when_not = (
        case.expected(other, scaled) - case.expected(best, scaled)
        for scaled in ({cause: p / weight for cause, p in among.items()} for among, weight in parts)
    )
    return -when_not / (when_right - when_not) if when_right > 0 > when_not else None


def _flip_parts(best: Priced, other: Priced, case: _Case) -> float | None:
    """Return the price of the part at which both cost the same; None when no price would do."""
    part = PARTS.get(best.choice)
    if part is None:
        return None
    more = case.uses(best.choice, part) - case.uses(other.choice, part)
    ahead = other.expected - best.expected
    return best.parts + ahead / more if more > 0 and ahead > 0 else None


def _sides(best: Priced, design: str, mate: float, rates: Rates) -> Sides:
    """Return both sides now against one. Bearings of one axle age together; how often the mate follows is judgement."""
    shared = float(table("prices/prices.toml")["design"][design]["shared"])
    chance = mate + (1 - mate) * rates.of("mate_within")
    second = best.now - shared * best.labour
    again = best.now + best.days * rates.of("day")
    return Sides(both_now=best.now + second, one_now=best.now + chance * again, chance=chance)
