"""The sums of how a hub runs on: its grease, and what its load leaves of its life."""

from collections.abc import Mapping
from typing import Any

from hematite.grease import amount, interval, meet
from hematite.grease.grease import free_volume_cm3
from hematite.language import say
from hematite.loads import change
from hematite.sums.answer import Answer, spread, wants

Given = Mapping[str, Any]
GRAVITY = 9.80665  # m/s², standard [published: ISO 80000-3]
USUAL_OFFSET_MM = 0.0
MEETS = {"same": "good", "yes": "good", "perhaps": "doubt", "no": "bad", "unknown": "doubt"}


def grease(given: Given) -> Answer:
    """Return how much grease, whether old and new may meet, and when to look again."""
    sizes = [size for size in (given.get("inner_mm"), given.get("outer_mm")) if size]
    met = meet(given.get("old", ""), given.get("new", "")) if given.get("new") else None
    due = interval(given.get("duty", ()))
    says = [met.words] if met else []
    look = say("{months:.0f} months or {km:.0f} km", months=due.months, km=due.km)
    working = [(say("Look again after"), look + (f": {'; '.join(due.because)}" if due.because else ""))]
    if not sizes or any(len(size) < 3 for size in sizes):
        return Answer(
            met.words if met else "", MEETS[met.answer] if met else "plain", tuple(working), missing=("inner_mm",)
        )
    free = [free_volume_cm3(bore_mm=bore, outside_mm=outside, width_mm=width) for bore, outside, width in sizes]
    found = amount(free_cm3=free, cavity_cm3=given.get("cavity_cm3", 0.0))
    working = [
        (say("In the bearings"), spread(*found.bearings_cm3, "cm³", 0)),
        (say("In the hollow of the hub"), spread(*found.cavity_cm3, "cm³", 0)),
        *working,
    ]
    says += [
        say("Packed through the rollers until it shows all round at the far side: the hand decides, not the scale."),
        say("None on brake surfaces. A sealed unit that came greased needs none."),
    ]
    level = MEETS[met.answer] if met else "plain"
    keep = {"new": given["new"]} if given.get("new") else {}
    line = say("{spread} of grease", spread=spread(*found.grams, "g", 0)) + (
        say(", the old one washed out") if level in ("bad", "doubt") else ""
    )
    return Answer(line, level, tuple(working), tuple(says), picture={"grams": list(found.grams)}, keep=keep)


def life(given: Given) -> Answer:
    """Return what setting a wheel outward, or another load, leaves of its bearing's life, as a ratio."""
    missing = [key for key in ("load_kg", "span_mm", "radius_mm") if key not in given]
    if missing:
        return wants(*missing)
    before, after = given["load_kg"] * GRAVITY, given.get("load_after_kg", given["load_kg"]) * GRAVITY
    found = change(
        load_n=before, load_after_n=after, offset_mm=given.get("offset_mm", USUAL_OFFSET_MM),
        outward_mm=given.get("outward_mm", 0.0), span_mm=given["span_mm"], radius_mm=given["radius_mm"],
        kind=given.get("rows", "roller"), spoilt=given.get("spoilt", "clean"),
    )  # fmt: skip
    working = (
        (
            say("Outer row"),
            _then(found.before.outer_n, found.after.outer_n, found.outer_ratio),
        ),
        (
            say("Inner row"),
            _then(found.before.inner_n, found.after.inner_n, found.inner_ratio),
        ),
        (say("Both together"), _times(found.ratio)),
        (say("With its grease as it is"), say("{with_dirt}, a stated guess", with_dirt=_times(found.with_dirt))),
    )
    shorter = min(found.ratio, found.with_dirt)
    level = "good" if shorter > 0.95 else "doubt" if shorter > 0.6 else "bad"
    says = [say("A ratio, no promise of km or hours.")]
    if shorter < 0.95:
        says.insert(
            0, say("Intervals for looking and greasing: {times} what they were.", times=_times(min(shorter, 1.0)))
        )
    loads = [[rows.outer_n, rows.inner_n] for rows in (found.before, found.after)]
    line, keep = (
        say("{shorter} the life. {words}", shorter=_times(shorter), words=found.words),
        {"life_ratio": round(shorter, 4)},
    )
    return Answer(line, level, working, tuple(says), picture={"loads_n": loads}, keep=keep)


def _then(before: float, after: float, ratio: float) -> str:
    return say("{before:.0f} N, then {after:.0f} N: {ratio}", before=before, after=after, ratio=_times(ratio))


def _times(ratio: float) -> str:
    return say("{ratio:.2g} times", ratio=ratio) if ratio < 10 else say("{ratio:.0f} times", ratio=ratio)
