"""Holding an answer against the truth: right or not, and what it would have done to the wheel or to the bill."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from hematite.assembly import possible_choices
from hematite.decision.cells import BRAKE_SHOWS, SOUND
from hematite.decision.facts import facts_of
from hematite.decision.rules import decided
from hematite.errors import HematiteError
from hematite.evidence import Observation, inspected, statements_of
from hematite.evidence.witnesses import causes
from hematite.language import say
from hematite.policy import Policy
from hematite.tables import table
from hematite.training.levels import Topic, topic
from hematite.training.nuts import stands_mm
from hematite.training.ordering import Asked, Early, asked, early
from hematite.training.truth import Truth
from hematite.vehicles import Vehicle
from hematite.verdict import choices

PLAYS = {"none": "none", "trace": "within", "clear": "over", "gross": "far_over"}


@dataclass(frozen=True)
class Option:
    """One answer that can be given."""

    key: str
    words: str


@dataclass(frozen=True)
class Mark:
    """How an answer stands: `right`, the answer that is (hub and key), and its `harm`, a key of harms.toml.

    `early`: the steps of an order that stand before what they need; `order`: one that hands can follow.
    """

    right: bool
    hub: str
    key: str
    words: str
    harm: str
    because: str
    order: tuple[str, ...] = ()
    early: tuple[Early, ...] = ()


def options(truth: Truth, vehicle: Vehicle, policy: Policy | None = None) -> list[Option]:
    """Return what can be answered: hubs, the topic's options, choices that some hub allows, or steps, shuffled."""
    about = topic(truth.topic)
    if about.asks == "order":
        question = asked(truth, vehicle, policy or Policy())
        words = question.words()
        return [Option(id, words[id]) for id in question.shown]
    if about.asks == "hub":
        return [Option(hub_id, words) for hub_id, words in vehicle.spoken().items()]
    if about.asks == "options":
        return [Option(key, words) for key, words in about.options.items()]
    hubs = [hub for hub in vehicle.hubs() if asked_at(truth) in ("", hub.id)]
    return [
        Option(key, words)
        for key, words in choices().items()
        if any(key in possible_choices(hub.design_key) for hub in hubs)
    ]


def asked_at(truth: Truth) -> str:
    """Return the hub that a question is about, '' where to find it is the question."""
    return truth.at if topic(truth.topic).key in ("play", "opened", "setting", "order") else ""


def names_a_hub(truth: Truth) -> bool:
    """Return whether an answer names a hub beside its key."""
    return topic(truth.topic).asks == "choice" and not asked_at(truth)


def mark(
    truth: Truth,
    vehicle: Vehicle,
    observations: Sequence[Observation],
    *,
    hub: str,
    key: str,
    order: Sequence[str] = (),
    nut: Mapping[str, Any] | None = None,
    policy: Policy | None = None,
) -> Mark:
    """Return how an answer stands. `observations`: what the learner found; rules are asked with that and the truth.

    `order`: the steps of a job as they were put; `nut`: how one was left that was set (`nuts.stands_mm`); `policy`: the
    workshop's ways, which decide between what is right here and what elsewhere.

    Raises `HematiteError` for an answer that is none.
    """
    if topic(truth.topic).asks == "order":
        return _ordered(truth, asked(truth, vehicle, policy or Policy()), order)
    known = [option.key for option in options(truth, vehicle)]
    if key not in known or (names_a_hub(truth) and key != "leave" and vehicle.hub(hub) is None):
        raise HematiteError(say("That is no answer to this question. Choose one of those shown."))
    about = topic(truth.topic)
    if about.asks == "choice":
        choice = right_choice(truth, vehicle, observations, policy or Policy())
        return _choice(truth, hub if names_a_hub(truth) else truth.at, key, choice)
    if about.key == "setting":
        return _set(truth, vehicle, key, nut)
    best = _told(truth, about)
    words = next(option.words for option in options(truth, vehicle) if option.key == best)
    return Mark(key == best, truth.at, best, words, "", about.matters[truth.matter].label)


def _ordered(truth: Truth, question: Asked, order: Sequence[str]) -> Mark:
    if sorted(order) != sorted(question.shown):
        raise HematiteError(say("Put every step in its place, each once."))
    wrong = early(order, question.needs)
    words = say("Every step comes after all that it needs.")
    if wrong:
        said = {id: text.rstrip(".") for id, text in question.words().items()}
        words = say("“{early}” comes after “{needed}”.", early=said[wrong[0].step], needed=said[wrong[0].after])
    best = tuple(step.id for step in question.steps)
    return Mark(not wrong, truth.at, "", words, _order_harm(wrong, question), matter_words(truth), best, tuple(wrong))


def _order_harm(wrong: Sequence[Early], question: Asked) -> str:
    """Return what an order would have done: somebody worked or drove too soon, or it had to come apart again."""
    row = table("training/harms.toml")["order"]
    takes_off = {step.id for step in question.steps if step.act == "off"}
    too_soon = (one.step in row["after"] or (one.step in takes_off and one.needs & set(row["before"])) for one in wrong)
    unsafe = any(too_soon)
    return "unsafe" if unsafe else "undone" if wrong else ""


def _set(truth: Truth, vehicle: Vehicle, key: str, nut: Mapping[str, Any] | None) -> Mark:
    """Return how a nut that was set stands: by where it was left, and by what the hub is."""
    about, hub = topic(truth.topic), vehicle.hub(truth.at)
    assert hub is not None
    best, label = about.matters[truth.matter].answer, matter_words(truth)
    if key == "set" and nut is None:
        raise HematiteError(say("Set it first, to the last move, and keep the setting."))
    if key != best or nut is None or key != "set":
        harm = "" if key == best else "danger" if best == "drags" else "waste"
        return Mark(key == best, hub.id, best, about.options[best], harm, label)
    low, high = hub.play_window_mm
    play = stands_mm(truth, hub, nut)
    words = say("It stands at {play:.3f} mm; the window is {low:.3f} to {high:.3f} mm.", play=play, low=low, high=high)
    harm = "tight" if play < low else "loose" if play > high else ""
    return Mark(not harm, hub.id, best, words, harm, label)


def _told(truth: Truth, about: Topic) -> str:
    if about.asks == "hub":
        return truth.culprit
    if about.key == "play":
        return PLAYS[truth.values[truth.at]["hub_play"]]
    return about.matters[truth.matter].answer


def _choice(truth: Truth, hub_id: str, key: str, right: tuple[str, str]) -> Mark:
    best, because = right
    at = truth.at if best != "leave" else ""
    hit = key == best and (key == "leave" or hub_id == truth.at)
    done = key if hub_id == truth.at else "leave"  # at the culprit nothing was done
    return Mark(hit, at, best, choices()[best], "" if hit else _harm(done, key, best), because)


def _harm(done: str, key: str, best: str) -> str:
    """Return what a wrong choice would have done; `done`: what was chosen for the hub where something is wrong."""
    row = table("training/harms.toml")
    reach = row["reach"]
    if reach[done] < reach[best]:
        return "danger" if reach[best] >= row["grave"] else "missed"
    return "waste" if reach[key] > reach[best] else ""


def right_choice(
    truth: Truth, vehicle: Vehicle, observations: Sequence[Observation], policy: Policy
) -> tuple[str, str]:
    """Return the right choice where it sits and why: by the rules, told the true fault and play, and what was found.

    Of real work it is what was done there, and what proved it.
    """
    if truth.kept:
        return truth.kept["choice"], truth.kept["because"]
    hub = vehicle.hub(truth.at)
    assert hub is not None
    cause, bearing = truth.causes.get(hub.id, ""), bearing_of(truth)
    if cause and not bearing:
        return "look_elsewhere", str(causes()[cause]["label"])
    said = [one for one in statements_of(observations, vehicle) if one.place == hub.id]
    seen = inspected(observations, vehicle)[hub.id]
    facts = facts_of(hub, vehicle, said, seen, policy=policy, observations=observations)
    facts |= {"spin": "free"} if facts["spin"] in BRAKE_SHOWS else {}
    rule, _, choice = decided({**facts, "cause": bearing or SOUND, "play": truth.values[hub.id]["hub_play"]})
    return choice, rule.because


def bearing_of(truth: Truth) -> str:
    """Return the fault of the bearing that is hidden, '' where none is or something else is at fault."""
    cause = truth.causes.get(truth.culprit, "")
    return cause if cause and causes()[cause]["group"] == "bearing" else ""


def harms() -> dict[str, str]:
    """Return what each harm is called."""
    return dict(table("training/harms.toml")["harm"])


def stops(harm: str) -> bool:
    """Return whether a harm endangers somebody."""
    return harm in table("training/harms.toml")["stops"]


def matter_words(truth: Truth) -> str:
    """Return what was hidden, in words."""
    about = topic(truth.topic)
    return about.label if truth.kept else about.matters[truth.matter].label
