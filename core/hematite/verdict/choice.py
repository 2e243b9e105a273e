"""The choice at one hub: by rule for every cause that may be the matter, each with its probability."""

from collections.abc import Mapping
from dataclasses import dataclass

from hematite.evidence.tables import causes
from hematite.tables import table
from hematite.verdict.rules import STOPS, Facts, Rule, besides, decided

OVERRULED_AT = 0.2  # a rule that lost is worth naming when as much of the belief stood behind it; judgement
LEAST_SHARE = 0.01  # a cause less likely than that gives no choice of its own; judgement
NEXT = "It comes next, once the vehicle stands."
ONLY_IF_ASKED = ("look_elsewhere", "off_road")  # no way to treat a bearing, so never offered where no rule asks for it
LIKELY = 0.5  # more likely than not
ROADS = ("drive", "unknown", "gently", "no")  # mildest first
STRICT_AT = {"no": 0.1, "gently": 0.3}  # strictest first: how likely a road must be to be given; judgement


@dataclass(frozen=True)
class Fired:
    """A rule that spoke for the choice, and how much of the belief it speaks for."""

    rule: Rule
    share: float


@dataclass(frozen=True)
class Alternative:
    """Another choice: how likely it is to be right, why it is not the one, and whether it could be done at all."""

    choice: str
    probability: float
    because: str
    possible: bool


@dataclass(frozen=True)
class Road:
    """How far the vehicle can go until it is mended, with reasons and cautions: a key of `ROADS`.

    `probability`: how likely one of the causes is that ask for this road, or a stricter one.
    """

    key: str
    label: str
    probability: float
    because: tuple[str, ...]
    cautions: tuple[str, ...]


@dataclass(frozen=True)
class Choice:
    """The choice at a hub with what made it.

    `probability`: how likely it is to be the right one. `settled`: whether that is enough to act on. `right` is the
    right choice for each cause that may be the matter. Where it only stops the vehicle, `repair` is what is likeliest
    to be mended then, and `then` the rule that says so; None while nothing says what is wrong.
    """

    choice: str
    probability: float
    settled: bool
    fired: tuple[Fired, ...]
    overruled: tuple[Rule, ...]
    also: tuple[str, ...]
    alternatives: tuple[Alternative, ...]
    road: Road
    right: Mapping[str, str]
    then: Rule | None = None
    repair: str = ""

    @property
    def label(self) -> str:
        """Return the choice in words; what may not be driven says so first."""
        words = choices()[self.choice]
        if self.off_road and self.choice != "off_road":
            return f"Off the road now. {words}"
        return words

    @property
    def off_road(self) -> bool:
        """Return whether the vehicle may not move until it is done."""
        return self.road.key == "no" and self.road.probability >= LIKELY

    @property
    def lead(self) -> Rule:
        """Return the rule that speaks for most of the belief in the choice."""
        return self.fired[0].rule


def choices() -> dict[str, str]:
    """Return every choice with its words."""
    return dict(table("verdict/rules.toml")["choices"])


def recommend(facts: Facts, beliefs: Mapping[str, float], *, act_at: float, looked_at: bool) -> Choice:
    """Return the choice for a hub: `facts` without the cause, and the probability of every cause there.

    Not settled below `act_at`; and while nobody has looked at this hub itself (`looked_at`) it is never settled that
    it may be left, nor said that it may be driven.
    """
    likely = _likely(beliefs)
    made = {cause: decided({**facts, "cause": cause}) for cause in likely}
    shares = _shares(made, likely)
    best = max(shares, key=lambda choice: shares[choice])
    mended = {cause: decided({**facts, "cause": cause}, repair=True) for cause in likely} if best == STOPS else made
    repairs = _shares(mended, likely)
    repair = max(repairs, key=lambda choice: repairs[choice])
    road = _road({**facts, "choice": best}, likely, looked_at=looked_at)
    facts = {**facts, "choice": best, "road": road.key}
    return Choice(
        choice=best,
        probability=shares[best],
        settled=shares[best] >= act_at and (looked_at or best != "leave"),
        fired=_fired(best, made, likely),
        overruled=() if best == STOPS else _overruled(best, made, likely),  # what it stops comes next
        also=tuple(row["words"] for rule, row in besides("also") if rule.fires(facts)),
        alternatives=tuple(_alternative(other, shares, facts, repair) for other in choices() if other != best),
        road=road,
        right={cause: choice for cause, (_, _, choice) in mended.items()},
        then=_fired(repair, mended, likely)[0].rule if best == STOPS and repair != "leave" else None,
        repair=repair,
    )


def _likely(beliefs: Mapping[str, float]) -> dict[str, float]:
    """Return the causes worth a thought, adding up to 1. What sits at no hub is no matter of this hub."""
    total = sum(beliefs.values()) or 1.0
    kept = {
        cause: p / total
        for cause, p in beliefs.items()
        if p / total >= LEAST_SHARE and causes()[cause]["at"] != "vehicle"
    }
    return {cause: p / sum(kept.values()) for cause, p in kept.items()}


Made = Mapping[str, tuple[Rule, tuple[Rule, ...], str]]


def _shares(made: Made, likely: Mapping[str, float]) -> dict[str, float]:
    """Return how likely each choice is to be the right one."""
    shares: dict[str, float] = {}
    for cause, (_, _, choice) in made.items():
        shares[choice] = shares.get(choice, 0.0) + likely[cause]
    return shares


def _fired(best: str, made: Made, likely: Mapping[str, float]) -> tuple[Fired, ...]:
    shares: dict[Rule, float] = {}
    for cause, (deciding, fired, choice) in made.items():
        if choice == best:
            for rule in fired:
                if rule.level == deciding.level:
                    shares[rule] = shares.get(rule, 0.0) + likely[cause]
    return tuple(Fired(rule, shares[rule]) for rule in sorted(shares, key=lambda rule: -shares[rule]))


def _overruled(best: str, made: Made, likely: Mapping[str, float]) -> tuple[Rule, ...]:
    """Return the rules that fired for another choice, at a lower level than the one that decided, if likely enough."""
    shares: dict[Rule, float] = {}
    for cause, (deciding, fired, choice) in made.items():
        for rule in fired if choice == best else ():
            if rule.level < deciding.level and rule.choice != deciding.choice:
                shares[rule] = shares.get(rule, 0.0) + likely[cause]
    return tuple(rule for rule, share in shares.items() if share >= OVERRULED_AT)


def _alternative(other: str, shares: Mapping[str, float], facts: Facts, repair: str) -> Alternative:
    if other == repair:  # the vehicle is stopped first
        return Alternative(other, shares.get(other, 0.0), NEXT, possible=False)
    reasons = [str(row["because"]) for rule, row in besides("against") if rule.choice == other and rule.fires(facts)]
    share = shares.get(other, 0.0)
    unasked = str(table("verdict/besides.toml")["unasked"][other])
    words = f"Likely to be the right one in {share * 100:.0f} % of cases like this." if share else unasked
    asked_for = share > 0 or other not in ONLY_IF_ASKED
    return Alternative(other, share, reasons[0] if reasons else words, possible=not reasons and asked_for)


def _road(facts: Facts, likely: Mapping[str, float], *, looked_at: bool) -> Road:
    """Return the road: the strictest that is likely enough over the causes that may be the matter."""
    asked = {cause: _asked(facts, cause) for cause in likely}
    for key, enough in STRICT_AT.items():
        reasons: dict[str, float] = {}
        for cause, rows in asked.items():
            for words in rows.get(key, ()):
                reasons[words] = reasons.get(words, 0.0) + likely[cause]
        share = sum(p for cause, p in likely.items() if any(k in asked[cause] for k in _no_milder(key)))
        if share >= enough:
            return _as_road(key, share, reasons)
    if not looked_at:
        return _as_road("unknown", 1.0, {"Nothing was tried at this hub itself.": 1.0})
    return _as_road("drive", 1.0, {"No sign of danger, and no play or roughness that would make it one.": 1.0})


def _as_road(key: str, share: float, reasons: Mapping[str, float]) -> Road:
    rows = table("verdict/besides.toml")
    weighty = [words for words, p in reasons.items() if p >= STRICT_AT["no"]] or list(reasons)
    because = tuple(sorted(weighty, key=lambda words: -reasons[words]))
    return Road(key, rows["roads"][key], min(share, 1.0), because, tuple(rows["cautions"][key]))


def _no_milder(key: str) -> tuple[str, ...]:
    return tuple(STRICT_AT)[: list(STRICT_AT).index(key) + 1]


def _asked(facts: Facts, cause: str) -> dict[str, list[str]]:
    """Return the reasons for each road, were this cause the matter."""
    known = {**facts, "cause": cause}
    found: dict[str, list[str]] = {}
    for rule, row in besides("road"):
        if rule.fires(known):
            found.setdefault(row["road"], []).append(row["because"])
    return found
