"""The whole vehicle judged: beliefs, the choice at each hub, the culprits, the decision, and the next test."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace

from hematite.beliefs import HubBelief, Weighed, weigh
from hematite.decision import (
    ELSEWHERE,
    GROUPS,
    ROADS,
    SUSPECT_AT,
    Choice,
    Culprit,
    Decision,
    act_at,
    decide,
    facts_of,
    name_culprits,
    recommend,
    touched,
)
from hematite.evidence import Observation, Statement, heard_statements, inspected, statements_of
from hematite.following import (
    Contradiction,
    Look,
    NextTest,
    Overturner,
    Progress,
    applicable,
    contradictions,
    looks,
    next_test,
    overturners,
    settling_test,
)
from hematite.inspection import Inspection
from hematite.language import later
from hematite.listening import Heard, compare
from hematite.policy import Policy
from hematite.vehicles import Hub, Vehicle

STANDINGS = {  # gravest first
    "danger": later("danger: not to be driven"),
    "culprit": later("act on this one"),
    "suspect": later("suspect"),
    "quiet": later("nothing against it"),
    "unheard": later("not looked at yet"),
}
AT_HUBS = tuple(group for group in GROUPS if group not in ("engine", "driveline"))


@dataclass(frozen=True)
class HubVerdict:
    """What is believed of one hub and what to do about it."""

    hub: Hub
    belief: HubBelief
    choice: Choice
    inspection: Inspection
    settle: NextTest | None = None  # the test that would settle most here, while the choice is not settled

    @property
    def cause(self) -> str:
        """Return the likeliest group of causes, 'sound' where none is suspect."""
        lead = max(AT_HUBS, key=self.belief.of_group)
        return lead if self.belief.of_group(lead) >= SUSPECT_AT else "sound"

    @property
    def probability(self) -> float:
        """Return the probability of the likeliest group of causes."""
        return max(self.belief.of_group(group) for group in AT_HUBS)

    @property
    def standing(self) -> str:
        """Return how the hub stands, a key of `STANDINGS`. Who was never touched is at most suspect."""
        if self.choice.off_road:
            return "danger"
        sure = any(self.belief.of_group(group) >= act_at(group) for group in AT_HUBS)
        if not touched(self.belief):
            return "suspect" if sure else "unheard"
        if sure:
            return "culprit"
        return "suspect" if self.probability >= SUSPECT_AT else "quiet"

    @property
    def mechanism(self) -> str:
        """Return the likeliest mechanism of the bearing's fault, as its table names it."""
        return self.belief.likeliest("bearing")


@dataclass(frozen=True)
class Assessment:
    """Hubs by gravity, worst first; the culprits; each cause outside the bearings; what to do, and next.

    `nothing` is the probability that nothing at all is wrong; `overturned_by` what would overturn the lead,
    `tests` which tests make sense at each hub and, under '', of the vehicle.
    """

    hubs: tuple[HubVerdict, ...]
    culprits: tuple[Culprit, ...]
    elsewhere: Mapping[str, float]
    decision: Decision
    next_test: NextTest
    nothing: float = 0.0
    contradictions: tuple[Contradiction, ...] = ()
    overturned_by: tuple[Overturner, ...] = ()
    tests: Mapping[str, Sequence[str]] = field(default_factory=dict)

    @property
    def strictest(self) -> HubVerdict:
        """Return the hub whose road is the strictest: how far the vehicle as a whole can go."""
        return max(self.hubs, key=lambda verdict: ROADS.index(verdict.choice.road.key))

    @property
    def lead(self) -> HubVerdict:
        """Return the hub with the gravest finding."""
        return self.hubs[0]

    def at(self, hub: str) -> HubVerdict:
        """Return the verdict of one hub."""
        return next(verdict for verdict in self.hubs if verdict.hub.id == hub)


def assess(
    vehicle: Vehicle,
    heard: Sequence[Heard],
    observations: Sequence[Observation],
    also: Sequence[Statement] = (),
    policy: Policy | None = None,
) -> Assessment:
    """Judge a vehicle from its recordings, already heard, and its observations; `also`: statements made already.

    A workshop's `policy` gives its schools and its limits of play. Raises what the witnesses raise.
    """
    policy = policy or Policy()
    vehicle = policy.limited(vehicle)
    said = [*heard_statements(compare(heard), vehicle), *statements_of(observations, vehicle), *also]
    weighed = weigh(said, vehicle)
    verdicts = _verdicts(weighed, vehicle, observations, policy)
    progress = Progress.of(observations, said)
    tests = looks(weighed, progress)
    culprits = name_culprits(weighed, vehicle)
    looked = all(touched(belief) for belief in weighed.hubs.values())
    decision = decide(weighed, {v.hub.id: v.choice for v in verdicts}, culprits, looked)
    return Assessment(
        hubs=tuple(sorted((_settling(v, weighed, progress, tests) for v in verdicts), key=_gravity)),
        culprits=culprits,
        elsewhere={group: weighed.any_of_group(group) for group in ELSEWHERE},
        decision=decision,
        next_test=next_test(weighed, decision, progress, tests),
        nothing=weighed.nothing,
        contradictions=contradictions(weighed),
        overturned_by=overturners(weighed, tests),
        tests=applicable(vehicle),
    )


def _verdicts(
    weighed: Weighed, vehicle: Vehicle, observations: Sequence[Observation], policy: Policy
) -> list[HubVerdict]:
    seen = inspected(observations, vehicle)
    found = []
    for hub in vehicle.hubs():
        belief, inspection = weighed.hubs[hub.id], seen[hub.id]
        said = [one for one, _ in belief.weights if not one.of_vehicle]
        facts = facts_of(hub, vehicle, said, inspection, policy=policy, observations=observations)
        choice = recommend(facts, belief, looked_at=touched(belief) or bool(inspection.looked))
        found.append(HubVerdict(hub, belief, choice, inspection))
    return found


def _gravity(verdict: HubVerdict) -> tuple[int, float]:
    return list(STANDINGS).index(verdict.standing), -verdict.probability


def _settling(verdict: HubVerdict, weighed: Weighed, progress: Progress, tests: Sequence[Sequence[Look]]) -> HubVerdict:
    if verdict.choice.settled:
        return verdict
    return replace(verdict, settle=settling_test(verdict.hub.id, weighed, progress, tests))
