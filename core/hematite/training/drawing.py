"""Drawing a vehicle that hides something: by topic, matter and level, all chance from one seed."""

from dataclasses import replace
from typing import Any

import numpy as np

from hematite.assembly import possible_choices
from hematite.beliefs.frame import frame_of
from hematite.beliefs.noise import answers, whereabouts
from hematite.beliefs.space import Space
from hematite.doors import one_of
from hematite.errors import HematiteError
from hematite.evidence.witnesses import outcomes, rows_of, states
from hematite.language import say
from hematite.play import far_over_mm
from hematite.policy import Policy
from hematite.simulator.sources import ROAD_CONDITIONS
from hematite.tables import table
from hematite.training.levels import Level, Matter, level, topic
from hematite.training.nuts import has_nut, hidden_nut
from hematite.training.truth import Truth
from hematite.training.vehicles import vehicle_of
from hematite.vehicles import Hub, Vehicle

Dice = np.random.Generator
LEAST_MM, CLEARLY_MM = 0.006, 0.03  # the least play that a dial shows, and how far over a window is clearly over it
GROSS_TIMES = 1.6  # how far beyond gross the grossest goes; judgement


def draw(
    topic_key: str, matter: str = "", *, number: int = 1, seed: int, policy: Policy | None = None
) -> tuple[str, Truth]:
    """Return a vehicle to learn on, by its key, and what it hides. Without a `matter` one is drawn.

    `policy`: the workshop's ways: what is inside a window and what over it goes by its windows. The same arguments give
    the same. Raises `UnknownName`.
    """
    about, hard = topic(topic_key), level(number)
    dice = np.random.default_rng([seed, number])
    if not about.matters:
        raise HematiteError(say("Questions from real work are not drawn: a closed case is made one."))
    key = one_of(matter, about.matters, say("matter")) if matter else str(dice.choice(list(about.matters)))
    told = about.matters[key]
    name = _vehicle(told, hard, dice)
    vehicle = (policy or Policy()).limited(vehicle_of(name))
    return name, replace(_hidden(told, hard, vehicle, dice), topic=topic_key, seed=seed)


def _vehicle(told: Matter, hard: Level, dice: Dice) -> str:
    """Return a vehicle that can hide it: what is set or opened needs a hub that can be."""
    fits = [name for name in hard.vehicles if _places(told, vehicle_of(name))]
    return str(dice.choice(fits))


def _places(told: Matter, vehicle: Vehicle) -> list[Hub]:
    """Return the hubs at which a matter can sit."""
    spaces = frame_of(vehicle).spaces
    return [
        hub
        for hub in vehicle.hubs()
        if (not told.cause or told.cause in spaces[hub.id].faults)
        and not (told.opened and (hub.design.sealed or not hub.design.repacks))
        and not (told.hub_play and hub.design.slack != "wanted")
        and not (told.loses and not has_nut(hub, vehicle))
        and not (told.choice and told.choice not in possible_choices(hub.design_key))
    ]


def _hidden(told: Matter, hard: Level, vehicle: Vehicle, dice: Dice) -> Truth:
    places = _places(told, vehicle)
    at = places[int(dice.integers(len(places)))]
    causes = {at.id: told.cause} if told.cause else {}
    values = {
        hub.id: _values(frame_of(vehicle).spaces[hub.id], causes.get(hub.id, ""), dice, errs=hard.errs)
        for hub in vehicle.hubs()
    }
    if told.hub_play:
        values[at.id]["hub_play"] = told.hub_play
    inside = {hub.id: _inside(causes.get(hub.id, ""), dice, errs=hard.errs) for hub in vehicle.hubs()}
    if told.opened:
        inside[at.id] = told.opened
    spans = {name: getattr(hard, name) for name in ("severity", "leak_db", "hiss", "hum", "knocks")}
    noise = (at.id, told.cause) if told.cause and not told.loses else ("", "")
    return Truth(
        topic="",
        matter=told.key,
        level=hard.number,
        seed=0,
        at=at.id,
        causes=causes,
        values=values,
        play_mm={hub.id: _play_mm(values[hub.id]["hub_play"], hub, dice) for hub in vehicle.hubs()},
        opened=inside,
        noise=noise,
        trouble={name: round(float(dice.uniform(*span)), 6) for name, span in spans.items()},
        errs=hard.errs,
        complaint=_complaint(vehicle, noise, dice, errs=hard.errs),
        nut=hidden_nut(at, vehicle, told.loses, dice) if told.loses else {},
    )


def pick(names: tuple[str, ...], chances: Any, dice: Dice, *, errs: bool) -> str:
    """Return one of some names by its chance, or, where nothing errs, the likeliest."""
    p = np.clip(np.asarray(chances, dtype=float), 0, None)
    return names[int(dice.choice(len(names), p=p / p.sum()) if errs else p.argmax())]


def _values(space: Space, cause: str, dice: Dice, *, errs: bool) -> dict[str, str]:
    at = space.states.index(frozenset({cause} if cause else ()))
    return {name: pick(tuple(row["values"]), space.hidden[name][at], dice, errs=errs) for name, row in states().items()}


def _inside(cause: str, dice: Dice, *, errs: bool) -> str:
    rows = rows_of("opened")
    return pick(outcomes("opened"), rows.get(cause, rows["base"]), dice, errs=errs)


def _play_mm(value: str, hub: Hub, dice: Dice) -> float:
    low, high = hub.play_window_mm
    most = far_over_mm(high)
    spans = {
        "none": (0.0, 0.6 * max(low, LEAST_MM / 2)),
        "trace": (max(1.1 * low, LEAST_MM), max(0.9 * high, 1.5 * LEAST_MM)),
        "clear": (high + CLEARLY_MM, 0.9 * most),
        "gross": (1.1 * most, GROSS_TIMES * most),
    }
    return round(float(dice.uniform(*spans[value])), 4)


def _complaint(vehicle: Vehicle, noise: tuple[str, str], dice: Dice, *, errs: bool) -> dict[str, Any]:
    """Return what the driver says: a word for it, and perhaps in which bends."""
    place, cause = noise
    word = pick(outcomes("complaint"), answers("complaint", cause, "", misled=False), dice, errs=errs)
    side = whereabouts(vehicle, place).side if place else ""
    chances = answers("complaint_bends", cause, side, misled=False)
    bends = pick(outcomes("complaint_bends"), chances, dice, errs=errs) if word in ("growl", "grind") else "even"
    return {"text": spoken(word, bends), "words": [word]} | ({"bends": bends} if bends != "even" else {})


def spoken(word: str, bends: str) -> str:
    """Return what a driver says of one kind of trouble, and of bends."""
    said = table("training/complaints.toml")
    return " ".join(text for text in (said["said"][word], said["bends"][bends]) if text)


CONDITIONS = {"dry_or_dirty": "dry", "overheated": "dry"}  # causes that the pickup knows by another name
SILENT_ON_STANDS = ("tyre", "tread")  # in the air a tyre touches nothing


def condition_of(cause: str, *, road: bool) -> str:
    """Return what the simulated pickup plays of a cause: 'sound' for one that is not to be heard there."""
    key = CONDITIONS.get(cause, cause)
    return "sound" if key not in ROAD_CONDITIONS or (not road and key in SILENT_ON_STANDS) else key
