"""The grease of a hub: its amount from the free volume, whether two thickeners may meet, the interval by duty."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

from hematite.doors import not_negative, one_of, positive
from hematite.errors import BadGeometry, BadQuantity
from hematite.language import later, say
from hematite.tables import table

TABLE = "grease/grease.toml"
MOST_MM = 500.0
MOST_CM3 = 5000.0


@dataclass(frozen=True)
class Amount:
    """How much grease, as a range: cubic centimetres of the bearings, of the cavity, and grams in all."""

    bearings_cm3: tuple[float, float]
    cavity_cm3: tuple[float, float]
    grams: tuple[float, float]
    guessed: bool


@dataclass(frozen=True)
class Meeting:
    """Whether an old and a new grease may meet: 'same', 'yes', 'perhaps', 'no' or 'unknown', and what to do."""

    answer: str
    words: str


@dataclass(frozen=True)
class Interval:
    """When to look at the grease again, whichever comes first, and what shortened it."""

    months: float
    km: float
    because: tuple[str, ...]
    source: str


def thickeners() -> dict[str, str]:
    """Return what thickens greases, in words, by its key."""
    return dict(table(TABLE)["thickener"])


def free_volume_cm3(
    *, bore_mm: float, outside_mm: float, width_mm: float, mass_g: float | None = None
) -> tuple[float, float]:
    """Return the free volume of a bearing, least and most.

    V = π/4·B·(D² − d²) − m/ρ [published: bearing makers' handbooks, from memory]; a share of the envelope where nobody
    weighed it. Raises `BadGeometry`, `BadQuantity`.
    """
    bore, outside, width = (
        positive(value, say("The {name} in mm", name=name))
        for name, value in ((say("bore"), bore_mm), (say("outside diameter"), outside_mm), (say("width"), width_mm))
    )
    if bore >= outside or outside > MOST_MM:
        raise BadGeometry(
            say(
                "A bore of {bore:g} mm in an outside of {outside:g} mm is no wheel bearing. Measure again.",
                bore=bore,
                outside=outside,
            )
        )
    envelope = math.pi / 4 * width * (outside**2 - bore**2) / 1000
    rows = table(TABLE)["amount"]
    if mass_g is None:
        least, most = rows["free"]
        return envelope * least, envelope * most
    free = envelope - positive(mass_g, say("The bearing's mass in g")) / rows["steel_g_cm3"]
    if free <= 0:
        raise BadQuantity(
            say(
                "A bearing of {mass_g:g} g leaves no room for grease in {envelope:.0f} cm³. Weigh it again.",
                mass_g=mass_g,
                envelope=envelope,
            )
        )
    return free, free


def amount(*, free_cm3: Sequence[tuple[float, float]], cavity_cm3: float = 0.0) -> Amount:
    """Return the grease of a hub from its bearings' free volumes and its cavity. Raises `BadQuantity`."""
    cavity = not_negative(cavity_cm3, say("The hub's cavity in cm³"))
    if cavity > MOST_CM3:
        raise BadQuantity(say("A cavity of {cavity:g} cm³ is a bucket. Check the unit.", cavity=cavity))
    rows = table(TABLE)["amount"]
    bearings = tuple(sum(row[n] for row in free_cm3) * share for n, share in enumerate(rows["bearing_share"]))
    hollow = tuple(cavity * share for share in rows["cavity_share"])
    grams = tuple((bearings[n] + hollow[n]) * rows["grease_g_cm3"] for n in (0, 1))
    guessed = any(least != most for least, most in free_cm3)
    return Amount((bearings[0], bearings[1]), (hollow[0], hollow[1]), (grams[0], grams[1]), guessed)


def meet(old: str, new: str) -> Meeting:
    """Return whether a new grease may go on an old one. Raises `UnknownName`; '' is a grease that nobody knows."""
    known = thickeners()
    for key in (old, new):
        if key:
            one_of(key, known, say("thickener"))
    if not old or not new:
        return Meeting("unknown", say("Nobody knows what was in there: wash it out, dry it, then one grease only."))
    if old == new:
        return Meeting(
            "same",
            say(
                "Both {known}: they may meet. The same grease, not only the same thickener, is best.", known=known[old]
            ),
        )
    rows = table(TABLE)["meets"]
    answer = rows.get(old, {}).get(new) or rows.get(new, {}).get(old) or "unknown"
    pair = say("{old} and {new}", old=known[old].capitalize(), new=known[new])
    return Meeting(answer, f"{pair}: {say(_WORDS[answer])}")


_WORDS = {
    "yes": later("they usually agree. Push the old one out as far as it goes; the makers' word comes first."),
    "perhaps": later("borderline. Wash the old one out."),
    "no": later("they do not agree: together they turn soft and run out. Wash the old one out."),
    "unknown": later("no table says. Wash the old one out."),
}


def duties() -> dict[str, str]:
    """Return what shortens the interval, in words, by its key."""
    return {key: row["label"] for key, row in table(TABLE)["interval"]["duty"].items()}


def interval(duty: Sequence[str] = ()) -> Interval:
    """Return when to look at the grease again under a duty. What shortens it most counts; any other by half."""
    rows = table(TABLE)["interval"]
    chosen = [rows["duty"][one_of(key, rows["duty"], "duty")] for key in dict.fromkeys(duty)]
    times = 1.0
    for n, row in enumerate(sorted(chosen, key=lambda row: row["times"])):
        times *= row["times"] if n == 0 else (1 + row["times"]) / 2
    because = tuple(row["label"] for row in chosen)
    return Interval(max(rows["months"] * times, 1.0), rows["km"] * times, because, rows["source"])
