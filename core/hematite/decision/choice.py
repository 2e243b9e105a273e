"""The choice at one hub: by rule for all that may be so there, each with its probability."""

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from hematite.beliefs import HubBelief
from hematite.decision.cells import SOUND, Asked, ask, others, shares, wanted
from hematite.decision.rules import STOPS, Facts, Rule, besides, decided
from hematite.evidence.witnesses import Floats, slot_of
from hematite.language import later, say
from hematite.tables import table

OVERRULED_AT = 0.2  # a rule that lost is worth naming when as much of the belief stood behind it; judgement
UNTOUCHED = ("leave", "look_elsewhere")  # choices after which there is no job at the hub to prove
SETTLED_AT = 0.9  # following stops as soon as this is crossed, so what is settled is right about as often; judgement
NEXT = later("It comes next, once the vehicle stands.")
ONLY_IF_ASKED = ("look_elsewhere", "off_road")  # no way to treat a bearing, so never offered where no rule asks for it
WORTH_SAYING = 0.005  # a rarer one is as good as none: it would read 0 %
LIKELY = 0.5  # more likely than not
ROADS = ("drive", "unknown", "gently", "no")  # mildest first
STRICT_AT = {"no": 0.1, "gently": 0.3}  # strictest first: how likely a road must be to be given; judgement


@dataclass(frozen=True)
class Fired:
    """A rule that spoke, and how much of the belief it speaks for."""

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


@dataclass(frozen=True, eq=False)
class Choice:
    """The choice at a hub with what made it.

    `probability`: how likely it is to be the right one. `settled`: whether that is enough to act on. `right` is the
    right choice for each cause that may be the matter, `mutual` how likely each is, one at a time. Where it only stops
    the vehicle, `repair` is what is likeliest to be mended then, and `then` the rule that says so; None while nothing
    says what is wrong. `asks`: by choice the share of each state of the hub in which it is right; `leads` the rule that
    says so; `facts` what the rules were told for certain.
    """

    choice: str
    probability: float
    settled: bool
    fired: tuple[Fired, ...]
    overruled: tuple[Fired, ...]
    also: tuple[str, ...]
    alternatives: tuple[Alternative, ...]
    road: Road
    right: Mapping[str, str]
    mutual: Mapping[str, float]
    asks: Mapping[str, Floats]
    leads: Mapping[str, Rule]
    facts: Facts
    then: Rule | None = None
    repair: str = ""

    @property
    def label(self) -> str:
        """Return the choice in words; what may not be driven says so first."""
        words = choices()[self.choice]
        if self.off_road and self.choice != "off_road":
            return say("Off the road now. {words}", words=words)
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
    return dict(table("decision/rules.toml")["choices"])


def recommend(facts: Facts, belief: HubBelief, *, looked_at: bool) -> Choice:
    """Return the choice for a hub from the facts and what is believed of it.

    While nobody has looked at this hub itself (`looked_at`) nothing is settled, nor is it said that it may be driven.
    """
    asked = ask(belief, facts)
    likely = shares(belief, asked, lambda one: one.choice)
    best = max(likely, key=lambda choice: likely[choice])
    repairs = shares(belief, asked, lambda one: one.repair) if best == STOPS else likely
    repair = max(repairs, key=lambda choice: repairs[choice])
    road = _road(facts, belief, asked, looked_at=looked_at)
    known = {**facts, **_likeliest(asked), "choice": best, "road": road.key}
    return Choice(
        choice=best,
        probability=likely[best],
        settled=likely[best] >= SETTLED_AT and looked_at,
        fired=_fired(best, asked, facts, belief),
        overruled=() if best == STOPS else _overruled(best, asked),  # what it stops comes next
        also=tuple(row["words"] for rule, row in besides("also") if rule.fires(known)),
        alternatives=tuple(_alternative(other, likely, known, repair) for other in choices() if other != best),
        road=road,
        right=_right(belief, asked),
        mutual=_mutual(belief),
        asks=wanted(belief, asked, lambda one: one.choice),
        leads={choice: _fired(choice, asked, facts, belief)[0].rule for choice in likely},
        facts=facts,
        then=_then(repair, asked) if best == STOPS else None,
        repair=repair,
    )


def _likeliest(asked: tuple[Asked, ...]) -> dict[str, str]:
    plays: dict[str, float] = {}
    for one in asked:
        plays[one.cell.play] = plays.get(one.cell.play, 0.0) + one.cell.share
    return {"cause": asked[0].cell.cause, "play": max(plays, key=lambda play: plays[play])}


def _right(belief: HubBelief, asked: tuple[Asked, ...]) -> dict[str, str]:
    """Return for each fault what is right for it: of one that moves more or less, what is likeliest right."""
    found: dict[str, dict[str, float]] = {}
    for one in asked:
        own = found.setdefault(one.cell.cause, {})
        own[one.repair] = own.get(one.repair, 0.0) + one.cell.share
    right = {cause: max(own, key=lambda choice: own[choice]) for cause, own in found.items()}
    return right | dict.fromkeys(others(belief), "look_elsewhere")


def _mutual(belief: HubBelief) -> dict[str, float]:
    """Return the faults as if one at a time, adding up to 1: the bearing's, and what sits beside a sound one."""
    space = belief.space
    bearing = {cause: p for cause, p in belief.causes.items() if slot_of(cause) == "bearing"}
    healthy = ~space.any_of(bearing)
    beside = {cause: belief.of(space.present[cause] & healthy) for cause in others(belief)}
    left = max(1.0 - sum(bearing.values()) - belief.sound, 0.0)
    scale = left / sum(beside.values()) if sum(beside.values()) else 0.0
    return bearing | {cause: p * scale for cause, p in beside.items()} | {SOUND: belief.sound}


def _fired(best: str, asked: tuple[Asked, ...], facts: Facts, belief: HubBelief) -> tuple[Fired, ...]:
    found: dict[Rule, float] = {}
    for one in asked:
        if one.choice == best:
            for rule in (rule for rule in one.fired if rule.level == one.deciding.level):
                found[rule] = found.get(rule, 0.0) + one.cell.share
    if not found:  # a sound bearing beside another fault
        beside = max(others(belief), key=lambda cause: belief.causes[cause])
        found = {decided({**asked[0].cell.facts(facts), "cause": beside, "play": "none"})[0]: 1.0}
    return tuple(Fired(rule, min(found[rule], 1.0)) for rule in sorted(found, key=lambda rule: -found[rule]))


def _then(repair: str, asked: tuple[Asked, ...]) -> Rule | None:
    """Return the rule by which the likeliest repair follows once the vehicle stands."""
    if repair == "leave":
        return None
    own = [one for one in asked if one.repair == repair]
    firing = [rule for one in own for rule in one.fired if rule.choice != STOPS]
    return max(firing, key=lambda rule: rule.level, default=None)


def _overruled(best: str, asked: tuple[Asked, ...]) -> tuple[Fired, ...]:
    """Return the rules that fired for another choice, at a lower level than the one that decided, if likely enough."""
    found: dict[Rule, float] = {}
    for one in asked:
        for rule in one.fired if one.choice == best else ():
            if rule.level < one.deciding.level and rule.choice != one.deciding.choice:
                found[rule] = found.get(rule, 0.0) + one.cell.share
    return tuple(Fired(rule, share) for rule, share in found.items() if share >= OVERRULED_AT)


def _alternative(other: str, likely: Mapping[str, float], facts: Facts, repair: str) -> Alternative:
    share = likely.get(other, 0.0)
    if other == repair:  # the vehicle is stopped first
        return Alternative(other, share, say(NEXT), possible=False)
    reasons = [str(row["because"]) for rule, row in besides("against") if rule.choice == other and rule.fires(facts)]
    unasked = str(table("decision/besides.toml")["unasked"][other])
    words = (
        say("Likely to be the right one in {share:.0f} % of cases like this.", share=share * 100)
        if share >= WORTH_SAYING
        else unasked
    )
    asked_for = share > 0 or other not in ONLY_IF_ASKED
    return Alternative(other, share, reasons[0] if reasons else words, possible=not reasons and asked_for)


def _road(facts: Facts, belief: HubBelief, asked: tuple[Asked, ...], *, looked_at: bool) -> Road:
    """Return the road: the strictest that is likely enough over all that may be so at the hub."""
    cells = [(one.cell.weights, _asked_road({**one.cell.facts(facts), "choice": one.choice})) for one in asked]
    beside = [
        (
            belief.space.present[cause].astype(float),
            _asked_road({**facts, "cause": cause, "play": "none", "choice": ""}),
        )
        for cause in others(belief)
    ]
    for key, enough in STRICT_AT.items():
        asking, anyhow = (_asking(rows, _no_milder(key)) for rows in (cells, beside))
        # In any one state the cells exclude each other; what sits beside the bearing comes on top.
        share = belief.of(np.where(_any(anyhow, belief), 1.0, sum((w for w, _ in asking), _none(belief))))
        if share >= enough:
            reasons: dict[str, float] = {}
            for weights, said in (*asking, *anyhow):
                for words in said.get(key, ()):
                    reasons[words] = reasons.get(words, 0.0) + belief.of(weights)
            return _as_road(key, share, reasons)
    if not looked_at:
        return _as_road("unknown", 1.0, {"Nothing was tried at this hub itself.": 1.0})
    return _as_road("drive", 1.0, {"No sign of danger, and no play or roughness that would make it one.": 1.0})


Rows = list[tuple[Floats, dict[str, list[str]]]]


def _asking(rows: Rows, roads: tuple[str, ...]) -> Rows:
    return [(weights, reasons) for weights, reasons in rows if any(road in reasons for road in roads)]


def _none(belief: HubBelief) -> Floats:
    return np.zeros(len(belief.space.states))


def _any(rows: Rows, belief: HubBelief) -> Floats:
    return np.asarray(np.max([weights for weights, _ in rows] or [_none(belief)], axis=0) > 0)


def _as_road(key: str, share: float, reasons: Mapping[str, float]) -> Road:
    rows = table("decision/besides.toml")
    weighty = [words for words, p in reasons.items() if p >= STRICT_AT["no"]] or list(reasons)
    because = tuple(sorted(weighty, key=lambda words: -reasons[words]))
    return Road(key, rows["roads"][key], min(share, 1.0), because, tuple(rows["cautions"][key]))


def _no_milder(key: str) -> tuple[str, ...]:
    return tuple(STRICT_AT)[: list(STRICT_AT).index(key) + 1]


def _asked_road(facts: Facts) -> dict[str, list[str]]:
    """Return the reasons for each road, were these the facts."""
    found: dict[str, list[str]] = {}
    for rule, row in besides("road"):
        if rule.fires(facts):
            found.setdefault(row["road"], []).append(row["because"])
    return found
