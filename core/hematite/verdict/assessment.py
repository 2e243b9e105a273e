"""The whole vehicle judged: every hub's beliefs, the culprits, the choice at each, and the next test."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace

from hematite.evidence import (
    Beliefs,
    Observation,
    Statement,
    Weighed,
    heard_statements,
    inspected,
    statements_of,
    weigh,
)
from hematite.evidence.tables import causes
from hematite.inspection import Inspection
from hematite.listening import Heard, compare
from hematite.policy import Policy
from hematite.vehicles import Hub, Vehicle
from hematite.verdict.choice import ROADS, Choice, recommend
from hematite.verdict.culprits import ACT_AT, ELSEWHERE, Culprit, name_culprits
from hematite.verdict.facts import facts_of
from hematite.verdict.following import NextTest, next_test, settling_test
from hematite.verdict.looking import Look, Progress, applicable, looks
from hematite.verdict.overturning import Contradiction, Overturner, contradictions, overturners

SUSPECT_AT = 0.3  # below it a hub is left alone; judgement
STANDINGS = {
    "unheard": "not looked at yet",
    "quiet": "nothing against it",
    "suspect": "suspect",
    "culprit": "act on this one",
}
AT_HUBS = tuple(dict.fromkeys(row["group"] for row in causes().values() if row["at"] != "vehicle"))


@dataclass(frozen=True)
class HubVerdict:
    """What is believed of one hub and what to do about it."""

    hub: Hub
    beliefs: Beliefs
    choice: Choice
    inspection: Inspection
    settle: NextTest | None = None  # the test that would settle most here, while the choice is not settled

    @property
    def cause(self) -> str:
        """Return the likeliest group of causes: 'sound', 'bearing', 'brake' …"""
        return str(max(AT_HUBS, key=self.beliefs.of_group))

    @property
    def probability(self) -> float:
        """Return the probability of the likeliest cause that is not soundness."""
        return max(self.beliefs.of_group(group) for group in AT_HUBS if group != "sound")

    @property
    def standing(self) -> str:
        """Return how the hub stands: 'unheard', 'quiet', 'suspect' or 'culprit'."""
        if self.probability >= SUSPECT_AT and self.beliefs.weights:
            return "culprit" if self.cause != "sound" and self.probability >= ACT_AT else "suspect"
        return "quiet" if self.beliefs.weights else "unheard"

    @property
    def mechanism(self) -> str:
        """Return the likeliest mechanism of the bearing's fault."""
        return self.beliefs.likeliest


@dataclass(frozen=True)
class Assessment:
    """Hubs by suspicion, worst first; the culprits worth acting on; each cause outside the bearings; the next test.

    `nothing` is the probability that nothing at all is wrong; `overturned_by` what would overturn the lead,
    `tests` which tests make sense at each hub and, under '', of the vehicle.
    """

    hubs: tuple[HubVerdict, ...]
    culprits: tuple[Culprit, ...]
    elsewhere: Mapping[str, float]
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
        """Return the most suspect hub."""
        return self.hubs[0]


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
    said = _one_of_each([*heard_statements(compare(heard), vehicle), *statements_of(observations, vehicle), *also])
    weighed = weigh(said, vehicle)
    seen = inspected(observations, vehicle)
    places = [*weighed.hubs.values(), weighed.vehicle]
    progress = Progress.of(observations, said)
    tests = looks(weighed, vehicle, progress)
    verdicts = [_verdict(hub, weighed.hubs[hub.id], seen[hub.id], policy) for hub in vehicle.hubs()]
    verdicts = [_settling(verdict, weighed, vehicle, progress, tests) for verdict in verdicts]
    return Assessment(
        hubs=tuple(sorted(verdicts, key=lambda verdict: -verdict.probability)),
        culprits=name_culprits(weighed, vehicle),
        elsewhere={group: min(sum(p.of_group(group) for p in places), 1.0) for group in ELSEWHERE},
        next_test=next_test(weighed, vehicle, progress, tests),
        nothing=weighed.nothing,
        contradictions=contradictions(weighed),
        overturned_by=overturners(weighed, vehicle, tests),
        tests=applicable(vehicle),
    )


def _verdict(hub: Hub, beliefs: Beliefs, inspection: Inspection, policy: Policy) -> HubVerdict:
    facts = facts_of(hub, beliefs, inspection, policy)
    at_hub = [statement for statement, _ in beliefs.weights if statement.places == {hub.id}]
    looked_at = bool(at_hub or inspection.looked)
    choice = recommend(facts, beliefs.probabilities, act_at=ACT_AT, looked_at=looked_at)
    return HubVerdict(hub, beliefs, choice, inspection)


def _settling(
    verdict: HubVerdict, weighed: Weighed, vehicle: Vehicle, progress: Progress, tests: Sequence[Sequence[Look]]
) -> HubVerdict:
    if verdict.choice.settled:
        return verdict
    return replace(verdict, settle=settling_test(verdict.hub.id, weighed, vehicle, progress, tests))


def _one_of_each(said: Sequence[Statement]) -> list[Statement]:
    """A test done twice is one witness: its statements are averaged, so that order and repeats do not matter."""
    alike: dict[tuple[str, frozenset[str]], list[Statement]] = {}
    for statement in said:
        alike.setdefault((statement.witness, statement.places), []).append(statement)
    return [_averaged(own) for own in alike.values()]


def _averaged(said: Sequence[Statement]) -> Statement:
    hubs = {hub: _mean([statement.shares(hub) for statement in said]) for hub in said[0].said}
    return Statement(said[0].witness, hubs, said[-1].source)


def _mean(all_shares: Sequence[Mapping[str, float]]) -> dict[str, float]:
    outcomes = sorted({outcome for shares in all_shares for outcome in shares})
    return {o: sum(shares.get(o, 0.0) for shares in all_shares) / len(all_shares) for o in outcomes}
