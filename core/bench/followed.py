"""How good the engine is on made-up cases: told much or little, and following its own advice against a fixed list."""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass

import numpy as np
from hematite.evidence import Observation, Statement
from hematite.following import applicable, minutes_of
from hematite.verdict import Assessment, assess

from bench.plain import Plain
from bench.world import Made, draw_case, usual_list

MOST_TESTS = 60
DEPTHS = {"many": 0.6, "some": 0.25, "few": 0.08}  # shares of all tests that fit, besides the complaint
Answers = list[Observation | Statement]


@dataclass(frozen=True)
class Judged:
    """One case judged: what was right of it, and probabilities said with whether it was so."""

    best: bool
    culprits: bool
    decision: bool
    settled: bool
    accused: int
    sound: int
    tests: int
    minutes: float
    stopped: bool
    bearings: list[tuple[float, bool]]
    choices: list[tuple[float, bool]]


def told(count: int, *, seed: int, depth: str, bent: float) -> Iterator[Judged]:
    """Yield cases in which a random part of all tests was made."""
    for made in cases(count, seed=seed, bent=bent):
        fits = [(witness, place) for place, own in applicable(made.vehicle).items() for witness in own]
        fits = [test for test in fits if test[0] not in ("complaint", "fault_lines", "brake_held")]
        many = max(2, round(DEPTHS[depth] * len(fits)))
        picked = [fits[n] for n in made.dice.choice(len(fits), min(many, len(fits)), replace=False)]
        tests = [("complaint", ""), *picked]
        yield judge(made, [made.answer(*test) for test in tests])


def cases(count: int, *, seed: int, bent: float) -> Iterator[Made]:
    """Yield made-up cases, each from its own seed; `bent`: how far their tables are from ours."""
    for number in range(count):
        dice = np.random.default_rng([seed, number])
        plain = Plain()
        yield draw_case(dice, plain.bent(dice, bent) if bent else plain)


def followed(count: int, *, seed: int, bent: float) -> Iterator[Judged]:
    """Yield cases followed from the complaint to where it says to decide."""
    for made in cases(count, seed=seed, bent=bent):
        answers: Answers = [made.answer("complaint", "")]
        minutes = 1.0
        found = _assessed(made, answers)
        while found.next_test.test != "decide" and len(answers) < MOST_TESTS:
            minutes += found.next_test.minutes
            answers.append(made.answer(found.next_test.test, found.next_test.hub or ""))
            found = _assessed(made, answers)
        yield judge(made, answers, minutes)


def listed(count: int, *, seed: int, bent: float) -> Iterator[Judged]:
    """Yield the same cases by the fixed short list, with two closer looks at the two oddest hubs."""
    for made in cases(count, seed=seed, bent=bent):
        tests = usual_list(made)
        answers = [made.answer(*test) for test in tests]
        odd = [verdict.hub.id for verdict in _assessed(made, answers).hubs[:2]]
        fits = applicable(made.vehicle)
        closer = [(key, hub) for hub in odd for key in ("stethoscope", "end_play") if key in fits[hub]]
        answers += [made.answer(*test) for test in closer]
        yield judge(made, answers, minutes_of([*tests, *closer]))


def _assessed(made: Made, answers: Answers) -> Assessment:
    observations = [one for one in answers if isinstance(one, Observation)]
    return assess(made.vehicle, [], observations, [one for one in answers if isinstance(one, Statement)])


def judge(made: Made, answers: Answers, minutes: float = 0.0) -> Judged:
    """Hold what is said after some answers against the truth."""
    found = _assessed(made, answers)
    faults, right = made.faults, made.right({v.hub.id: v.choice.facts for v in found.hubs})
    ranked = [((c.cause, c.hub or ""), c.probability) for c in found.culprits]
    guess = ranked[0][0] if ranked else _guess(found)
    decision = found.decision
    named = (decision.choice, decision.hub or "")
    good = named in right or (
        decision.choice == "look_elsewhere" and not decision.hub and any(c == "look_elsewhere" for c, _ in right)
    )
    good = good if decision.choice != "leave" else not right
    bearings = [(v.belief.bearing, ("bearing", v.hub.id) in faults) for v in found.hubs]
    return Judged(
        best=guess in faults if guess else not faults,
        culprits={c for c, _ in ranked} == faults,
        decision=good,
        settled=decision.settled,
        accused=sum(c.cause == "bearing" and ("bearing", c.hub or "") not in faults for c in found.culprits if c.hub),
        sound=sum(not so for _, so in bearings),
        tests=len(answers),
        minutes=minutes,
        stopped=found.next_test.test == "decide",
        bearings=bearings,
        choices=[(decision.probability, good)],
    )


def _guess(found: Assessment) -> tuple[str, str] | None:
    chances = {
        (group, v.hub.id): v.belief.of_group(group) for v in found.hubs for group in ("bearing", *found.elsewhere)
    }
    chances |= {(group, ""): found.elsewhere[group] for group in ("engine", "driveline")}
    best = max(chances, key=lambda one: chances[one])
    return None if found.nothing > chances[best] else best


def reliability(said: Iterable[tuple[float, bool]], bins: int = 10) -> list[tuple[int, float, float]]:
    """Return for each tenth of probability how many there were, what was said on average, and how often it was so."""
    rows = np.array([(min(int(p * bins), bins - 1), p, so) for p, so in said], dtype=float).reshape(-1, 3)
    parts = [rows[rows[:, 0] == n] for n in range(bins)]
    return [(len(p), float(p[:, 1].mean()) if len(p) else 0.0, float(p[:, 2].mean()) if len(p) else 0.0) for p in parts]


def summary(found: Iterable[Judged]) -> dict[str, float]:
    """Return the shares over cases."""
    found = list(found)
    settled = [one for one in found if one.settled]
    return {
        "best": _share(one.best for one in found),
        "culprits": _share(one.culprits for one in found),
        "decision": _share(one.decision for one in found),
        "settled": _share(one.settled for one in found),
        "right_when_settled": _share(one.decision for one in settled),
        "accused": sum(one.accused for one in found) / max(sum(one.sound for one in found), 1),
        "tests": float(np.mean([one.tests for one in found])),
        "minutes": float(np.mean([one.minutes for one in found])),
        "stopped": _share(one.stopped for one in found),
    }


def _share(hits: Iterable[bool]) -> float:
    hits = list(hits)
    return sum(hits) / len(hits) if hits else 0.0
