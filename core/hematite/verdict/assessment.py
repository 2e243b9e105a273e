"""The whole vehicle judged: every hub's beliefs, the culprits, the choice at each, and the next test."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from hematite.evidence import Beliefs, Observation, Statement, heard_statements, statements, weigh
from hematite.evidence.weighing import causes, expected_gain_bits, witnesses
from hematite.listening import Corner, Heard, compare
from hematite.vehicles import Hub, Vehicle
from hematite.verdict.choice import Choice, decide

ACT_AT = 0.7  # act when a wrong replacement costs about twice a needless further test; judgement
SUSPECT_AT = 0.3  # below it a hub is left alone; judgement
ROUGH_SPINS = ("rumbles", "grinds", "clicks")
STANDINGS = {
    "unheard": "not looked at yet",
    "quiet": "nothing against it",
    "suspect": "suspect",
    "culprit": "act on this one",
}
ELSEWHERE = ("brake", "tyre", "ball_joint", "steering_joint")


@dataclass(frozen=True)
class HubVerdict:
    """What is believed of one hub and what to do about it."""

    hub: Hub
    beliefs: Beliefs
    choice: Choice

    @property
    def cause(self) -> str:
        """Return the likeliest group of causes: 'sound', 'bearing', 'brake' …"""
        return max(("sound", "bearing", *ELSEWHERE), key=self.beliefs.of_group)

    @property
    def probability(self) -> float:
        """Return the probability of the likeliest cause that is not soundness."""
        return max(self.beliefs.of_group(group) for group in ("bearing", *ELSEWHERE))

    @property
    def standing(self) -> str:
        """Return how the hub stands: 'unheard', 'quiet', 'suspect' or 'culprit'."""
        if self.probability >= SUSPECT_AT and self.beliefs.weights:
            return "culprit" if self.cause != "sound" and self.probability >= ACT_AT else "suspect"
        return "quiet" if self.beliefs.weights else "unheard"

    @property
    def mechanism(self) -> str:
        """Return the likeliest mechanism of the bearing's fault."""
        mechanisms = self.beliefs.mechanisms
        return max(mechanisms, key=lambda name: mechanisms[name])


@dataclass(frozen=True)
class NextTest:
    """The test worth doing next: a witness's key or 'decide', at a hub, with the reason in a line."""

    test: str
    hub: str | None
    label: str
    why: str
    stage: str
    minutes: float


@dataclass(frozen=True)
class Assessment:
    """Hubs by suspicion, worst first; `statements` by hub id; the next test."""

    hubs: tuple[HubVerdict, ...]
    next_test: NextTest

    @property
    def culprits(self) -> tuple[HubVerdict, ...]:
        """Return the hubs whose cause is certain enough to act on."""
        return tuple(v for v in self.hubs if v.cause != "sound" and v.probability >= ACT_AT)

    @property
    def lead(self) -> HubVerdict:
        """Return the most suspect hub."""
        return self.hubs[0]

    def elsewhere(self) -> dict[str, float]:
        """Return the probability of each cause outside the bearings, at any hub."""
        return {
            group: 1 - _product(1 - verdict.beliefs.of_group(group) for verdict in self.hubs) for group in ELSEWHERE
        }


def _product(values: Any) -> float:
    result = 1.0
    for value in values:
        result *= value
    return result


def assess(vehicle: Vehicle, heard: Sequence[Heard], observations: Sequence[Observation]) -> Assessment:
    """Judge a vehicle from its recordings, already heard, and its observations.

    Recordings whose place is no hub inform the mechanic but convict no corner yet. Raises what the witnesses raise.
    """
    hubs = list(vehicle.hubs())
    corners = compare(heard)
    verdicts = [_judge(hub, corners, observations, len(hubs)) for hub in hubs]
    ranked = tuple(sorted(verdicts, key=lambda verdict: -verdict.probability))
    return Assessment(hubs=ranked, next_test=_next_test(ranked))


def _judge(hub: Hub, corners: Sequence[Corner], observations: Sequence[Observation], hub_count: int) -> HubVerdict:
    own = [corner for corner in corners if corner.heard.situation.place == hub.id]
    said = heard_statements(own)
    for observation in observations:
        if observation.hub == hub.id:
            said += statements(observation, hub)
    said = _one_of_each(said)
    beliefs = weigh(said, hub_count=hub_count)
    return HubVerdict(hub, beliefs, decide(_facts(hub, beliefs, said)))


def _one_of_each(said: Sequence[Statement]) -> list[Statement]:
    """A test done twice is one witness: its statements are averaged, so that order and repeats do not matter.

    Rocking at 12–6 and at 3–9 is one test: where one way something moved, the other way's stillness says little.
    """
    merged = []
    for witness in dict.fromkeys(statement.witness for statement in said):
        own = [statement for statement in said if statement.witness == witness]
        moved = [statement for statement in own if statement.outcome != "nothing"]
        merged.append(_averaged(moved if witness == "rock" and moved else own))
    return merged


def _averaged(said: Sequence[Statement]) -> Statement:
    outcomes = sorted({outcome for statement in said for outcome in statement.shares})
    shares = {o: sum(statement.shares.get(o, 0.0) for statement in said) / len(said) for o in outcomes}
    return Statement(said[0].witness, shares, said[-1].source)


def _facts(hub: Hub, beliefs: Beliefs, said: Sequence[Statement]) -> Mapping[str, Any]:
    bare = HubVerdict(hub, beliefs, Choice("", "", "", "", ""))
    outcomes = {statement.witness: statement.outcome for statement in said}
    design = hub.design
    return {
        "design": design.key,
        "adjusts": design.adjusts,
        "repacks": design.repacks,
        "sealed": design.sealed,
        "taper": design.taper,
        "cause": bare.cause,
        "mechanism": bare.mechanism,
        "decided": bare.cause != "sound" and bare.probability >= ACT_AT,
        "suspect": bare.probability >= SUSPECT_AT,
        "play": outcomes.get("end_play", "unmeasured"),
        "spin": outcomes.get("spin", "untested"),
        "opened": outcomes.get("opened", "closed"),
        "rough": outcomes.get("spin") in ROUGH_SPINS or outcomes.get("fault_lines", "nothing") in _RING_LINES,
    }


_RING_LINES = ("outer_race", "inner_race", "rolling_element", "cage", "some_ring")


def _askable(verdict: HubVerdict) -> list[str]:
    """Return the witnesses not yet heard at a hub, leaving out what its design or the order of work forbids."""
    heard = {statement.witness: statement.outcome for statement, _ in verdict.beliefs.weights}
    closed = verdict.hub.design_key in ("hub_unit", "pressed_double_row")
    return [
        key
        for key, row in witnesses().items()
        if key not in heard
        and not (key == "opened" and closed)
        and (row.get("needs", key) == key or heard.get(row["needs"], "nothing") != "nothing")
    ]


def _next_test(ranked: Sequence[HubVerdict]) -> NextTest:
    """Return the test with the largest expected gain for its minutes; 'decide' when the lead is settled."""
    lead = ranked[0]
    if lead.cause != "sound" and lead.probability >= 0.9 and len(lead.beliefs.weights) > 1:
        why = f"{lead.hub.id} is certain enough; more tests would not change what to do there."
        return NextTest("decide", lead.hub.id, "Read the verdict", why, "decide", 1)
    options = [(verdict, key) for verdict in ranked for key in _askable(verdict)]
    if not options:
        return NextTest("decide", lead.hub.id, "Read the verdict", "Every test has been done.", "decide", 1)
    verdict, key = max(options, key=lambda pair: _worth(*pair))
    row = witnesses()[key]
    return NextTest(key, verdict.hub.id, row["act"], row["why"], row["stage"], float(row["minutes"]))


def _worth(verdict: HubVerdict, key: str) -> float:
    return expected_gain_bits(verdict.beliefs, key) / float(witnesses()[key]["minutes"])


def as_json(assessment: Assessment) -> dict[str, Any]:
    """Return the assessment as the command line and the case format print it."""
    lead = assessment.lead
    return {
        "culprits": [_culprit(verdict) for verdict in assessment.culprits],
        "hubs": {verdict.hub.id: _hub_json(verdict) for verdict in assessment.hubs},
        "elsewhere": {cause: round(p, 4) for cause, p in assessment.elsewhere().items()},
        "decision": {
            "hub": lead.hub.id,
            "choice": lead.choice.choice,
            "label": lead.choice.label,
            "rule": lead.choice.rule,
            "because": lead.choice.because,
            "would_change": lead.choice.change,
        },
        "next_test": {
            "test": assessment.next_test.test,
            "hub": assessment.next_test.hub,
            "label": assessment.next_test.label,
            "why": assessment.next_test.why,
            "stage": assessment.next_test.stage,
            "minutes": assessment.next_test.minutes,
        },
    }


def _culprit(verdict: HubVerdict) -> dict[str, Any]:
    found: dict[str, Any] = {
        "cause": verdict.cause,
        "hub": verdict.hub.id,
        "side": verdict.hub.side,
        "probability": round(verdict.probability, 4),
    }
    if verdict.cause == "bearing":
        found["mechanism"] = verdict.mechanism
    if verdict.cause == "tyre":
        found["mechanism"] = "cupped"
    return found


def _hub_json(verdict: HubVerdict) -> dict[str, Any]:
    return {
        "bearing_fault": round(verdict.beliefs.bearing, 4),
        "standing": verdict.standing,
        "standing_label": STANDINGS[verdict.standing],
        "cause": verdict.cause,
        "cause_label": _cause_words(verdict),
        "probability": round(verdict.probability, 4),
        "mechanisms": {name: round(p, 4) for name, p in verdict.beliefs.mechanisms.items()},
        "causes": {group: round(verdict.beliefs.of_group(group), 4) for group in ("sound", *ELSEWHERE)},
        "choice": verdict.choice.choice,
        "choice_label": verdict.choice.label,
        "rule": verdict.choice.rule,
        "because": verdict.choice.because,
        "would_change": verdict.choice.change,
        "witnesses": [
            {
                "witness": statement.witness,
                "label": witnesses()[statement.witness]["label"],
                "words": statement.words,
                "share": round(statement.shares[statement.outcome], 3),
                "bits": round(bits, 2),
                "source": statement.source,
                "why": witnesses()[statement.witness]["why"],
                "standing": witnesses()[statement.witness]["standing"],
            }
            for statement, bits in verdict.beliefs.weights
        ],
    }


def _cause_words(verdict: HubVerdict) -> str:
    if verdict.cause == "bearing":
        return str(causes()[verdict.mechanism]["label"])
    return str(next(row["label"] for row in causes().values() if row["group"] == verdict.cause))
