"""The trainer on the command line: `practise` draws a question and answers it as the bench would, or tallies many."""

import argparse
from collections.abc import Iterator
from dataclasses import asdict
from pathlib import Path
from typing import Any

from hematite.assembly import possible_choices
from hematite.bundles import hear_case, read_bundle, vehicle_to_json
from hematite.doors import count, one_of
from hematite.evidence.observations import before_any_job
from hematite.language import say
from hematite.policy import Policy
from hematite.training.drawing import draw
from hematite.training.kept import keep
from hematite.training.levels import level, levels, topic, topics
from hematite.training.marking import Mark, mark, matter_words, names_a_hub, options
from hematite.training.observed import Observed
from hematite.training.observer import looked, observe
from hematite.training.ordering import asked
from hematite.training.scoring import score
from hematite.training.truth import Truth
from hematite.training.vehicles import vehicle_of
from hematite.verdict import assess, choices


def add_training(commands: Any) -> list[argparse.ArgumentParser]:
    """Add the commands of the trainer."""
    one = commands.add_parser("practise", help="a made-up hub that hides something, and how the bench itself answers")
    one.add_argument("--topic", default="decide", help=", ".join(topics()))
    one.add_argument("--matter", default="", help="what is hidden; drawn if not said")
    one.add_argument("--level", default="1", help=", ".join(str(number) for number in levels()))
    one.add_argument("--seed", default="1")
    one.add_argument(
        "--many", default="1", help="so many seeds from there on: how often the bench is right, by chance too"
    )
    one.set_defaults(run=_practise, say=_say)
    work = commands.add_parser("lesson", help="a bundle of real work to learn on, without whose it was")
    work.add_argument("bundle", type=Path)
    work.add_argument("--at", required=True, help="the hub that was worked on")
    work.add_argument("--done", required=True, help="what was decided there, done and proven: " + ", ".join(choices()))
    work.set_defaults(run=_lesson, say=_say)
    return [one, work]


def _lesson(arguments: argparse.Namespace) -> dict[str, Any]:
    case = read_bundle(arguments.bundle)
    hub = case.vehicle.hub(one_of(arguments.at, [hub.id for hub in case.vehicle.hubs()], say("hub of this vehicle")))
    assert hub is not None
    done = one_of(arguments.done, possible_choices(hub.design_key), say("choice"))
    heard, _ = hear_case(case)
    found = before_any_job(case.observations)
    cause = assess(case.vehicle, heard, found).at(hub.id).mechanism
    truth = keep(
        vehicle_to_json(case.vehicle), found, number=arguments.bundle.name, hub=hub.id, choice=done, cause=cause,
        because="", recorded=[one.situation.id for one in heard],
    )  # fmt: skip
    own = observe(truth, case.vehicle, heard)
    how = mark(truth, case.vehicle, found, hub=own.hub, key=own.key)
    return _told(truth.kept["vehicle"]["label"], truth, own, how)


def _practise(arguments: argparse.Namespace) -> dict[str, Any]:
    topic(arguments.topic)
    number, seed = count(arguments.level, say("The level")), count(arguments.seed, say("The seed"), least=0)
    many = count(arguments.many, say("How many"))
    level(number)
    if many > 1:
        return {"tally": tally(arguments.topic, number, many, seed=seed)}
    return _told(*answered(arguments.topic, arguments.matter, number, seed))


def _told(vehicle: str, truth: Truth, found: Observed, how: Mark) -> dict[str, Any]:
    return {
        "vehicle": vehicle,
        "truth": truth.to_json(),
        "hidden": matter_words(truth),
        "answer": asdict(found) | {"minutes": found.minutes, "right": how.right},
        "best": asdict(how),
    }


def answered(key: str, matter: str, number: int, seed: int) -> tuple[str, Truth, Observed, Mark]:
    """Return a question's vehicle and truth, the bench's own answer, and how it stands."""
    name, truth = draw(key, matter, number=number, seed=seed)
    vehicle = vehicle_of(name)
    found = observe(truth, vehicle)
    seen = looked(truth, vehicle, truth.at) if key == "opened" else []
    return name, truth, found, mark(truth, vehicle, seen, hub=found.hub, key=found.key, **found.given)


def chance_of(truth: Truth, vehicle: str) -> float:
    """Return how often somebody is right who picks any answer."""
    stands = vehicle_of(vehicle)
    if topic(truth.topic).asks == "order":
        return asked(truth, stands, Policy()).by_chance
    hubs = len(list(stands.hubs())) if names_a_hub(truth) else 1
    return 1 / (len(options(truth, stands)) * hubs)


def tally(key: str, number: int, many: int, *, seed: int) -> dict[str, Any]:
    """Return how often the bench itself is right on many questions of a topic and level, beside chance, with scores."""
    rows = list(_rows(key, number, many, seed))
    found = score((sure, right) for sure, right, _, _ in rows)
    assert found is not None
    chance = sum(by_chance for _, _, by_chance, _ in rows) / len(rows)
    minutes = sum(spent for *_, spent in rows) / len(rows)
    return {
        "topic": key, "level": number, "of": found.of, "right": found.right, "share": found.right / found.of,
        "chance": chance, "brier": found.brier, "log": found.log, "minutes": minutes,
    }  # fmt: skip


def _rows(key: str, number: int, many: int, seed: int) -> Iterator[tuple[float, bool, float, float]]:
    for n in range(many):
        vehicle, truth, found, how = answered(key, "", number, seed + n)
        yield found.probability, how.right, chance_of(truth, vehicle), found.minutes


def _say(result: dict[str, Any]) -> str:
    if "tally" in result:
        row = result["tally"]
        return (
            f"{topic(row['topic']).label}, level {row['level']}: the bench is right {row['right']} of {row['of']}"
            f" ({row['share']:.0%}; by chance {row['chance']:.0%}),"
            f" Brier {row['brier']:.3f}, {row['minutes']:.0f} min each"
        )
    own, best = result["answer"], result["best"]
    steps = "\n".join(f"  {one['test']} {one['hub']} {one['words']}".rstrip() for one in own["steps"])
    where = f"{best['hub']}: " if best["hub"] else ""
    return (
        f"Hidden: {result['hidden']}, at {result['truth']['at']}. Right is {where}{best['words']}.\n{steps}\n"
        f"The bench says {own['hub']} {own['key']}, {own['probability']:.0%}:"
        f" {'right' if own['right'] else 'not right'}."
    )
