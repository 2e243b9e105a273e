"""The sums of tightening: the wrench and what is on it, and the nuts of a wheel."""

from collections.abc import Mapping
from typing import Any

from hematite.errors import BadQuantity
from hematite.sums.answer import Answer, wants
from hematite.tightening import (
    Wrench,
    again,
    choose_wrench,
    retightened,
    set_with_extension,
    stages,
    star_order,
    strokes,
)
from hematite.units import quantities

Given = Mapping[str, Any]
NOT_FOR_UNDOING = (
    "A torque wrench is not for undoing, and what a nut takes to break loose is not what it was tightened to. "
    "Draw steadily and stop at the click."
)


def torque(given: Given) -> Answer:
    """Return what to set: the middle of a range, less what an extension adds, in stages, with its angle."""
    if "torque_nm" not in given:
        return wants("torque_nm")
    least, most = given["torque_nm"], given.get("most_nm", given["torque_nm"])
    if least > most:
        raise BadQuantity(f"The least, {least:g} N·m, is more than the most, {most:g} N·m. Swap them.")
    aim = (least + most) / 2
    to_set, working = aim, [("In other units", _units(aim))]
    if least != most:
        working.insert(0, ("Aimed at", f"the middle of {least:g} to {most:g} N·m: {aim:.1f} N·m"))
    extension, length = given.get("extension_mm", 0.0), given.get("length_mm", 0.0)
    angle = given.get("angle_deg", 0.0)
    if extension and not length:
        return wants("length_mm", line=f"{aim:.1f} N·m")
    if extension:
        to_set = set_with_extension(torque_nm=aim, length_mm=length, extension_mm=extension, angle_deg=angle)
        working.append(
            ("With the extension", f"{aim:.1f} · {length:g} / ({length:g} + {extension:g} · cos {angle:g}°)")
        )
    working.append(("In stages", ", ".join(f"{stage:.0f}" for stage in stages(to_set)) + " N·m"))
    line, says = f"Set {to_set:.1f} N·m", [NOT_FOR_UNDOING]
    if "turn_on_deg" in given:
        turns = strokes(given["turn_on_deg"])
        line += f", then {given['turn_on_deg']:g}° on"
        working.append(("Turned on in", " + ".join(f"{stroke:.0f}°" for stroke in turns)))
        says.append("Mark nut and seat before turning on. A bolt that was stretched so is new each time.")
    level, word = _own(given, to_set) if "wrench_most_nm" in given else _of_the_workshop(given, to_set)
    says = [word, *says] if word else says
    picture = {"length_mm": length, "extension_mm": extension, "angle_deg": angle, "set_nm": to_set, "aim_nm": aim}
    return Answer(line, level, tuple(working), tuple(says), picture=picture)


def _of_the_workshop(given: Given, to_set: float) -> tuple[str, str]:
    """Return which of the workshop's wrenches is taken, where it said which it has."""
    if not given.get("wrenches"):
        return "plain", ""
    taken = choose_wrench(to_set, given["wrenches"])
    if taken is None:
        return "bad", f"None of the workshop’s wrenches is to be trusted at {to_set:.0f} N·m."
    return "good", f"Take: {taken.label} ({taken.least_nm:g} to {taken.most_nm:g} N·m)."


def _own(given: Given, to_set: float) -> tuple[str, str]:
    own = Wrench("this wrench", given.get("wrench_least_nm", 0.0), given["wrench_most_nm"])
    if choose_wrench(to_set, [own]):
        return "good", ""
    if to_set > own.most_nm:
        return "bad", f"{to_set:.0f} N·m is more than this wrench gives. Take a larger one."
    return "bad", (
        f"{to_set:.0f} N·m lies in the lowest part of this wrench, where it is not to be trusted. Take a smaller one."
    )


def _units(nm: float) -> str:
    """Return a torque in every unit: shown as it is, as these are the units themselves."""
    rows = quantities()["torque"]["units"]
    return " = ".join(f"{nm / row['factor']:.{row['decimals']}f}\u00a0{row['label']}" for row in rows)


def wheel_nuts(given: Given) -> Answer:
    """Return the order and the stages of a wheel's nuts, and whether they are due again."""
    missing = [key for key in ("nuts", "torque_nm") if key not in given]
    if missing:
        return wants(*missing)
    order = star_order(given["nuts"])
    first, whole = stages(given["torque_nm"], of="wheel")
    says = [
        "Hand-start each nut three turns at least. Seats clean and dry, nothing on the studs.",
        "Wheel on the ground for the last round.",
    ]
    working = [
        ("In turn, counted clockwise", ", ".join(str(n + 1) for n in order)),
        ("First round", f"{first:.0f} N·m all round"),
        ("Second round", f"{whole:.0f} N·m all round"),
    ]
    level, line = "plain", f"{whole:.0f} N·m all round, in a star"
    if "moved_at_nm" in given:
        moved = retightened(torque_nm=given["torque_nm"], moved_at_nm=given["moved_at_nm"])
        working.append(("Tightened again", moved))
    if "minutes_since" in given:
        known = {name: given.get(name) for name in ("then_km", "now_km")}
        due = again(minutes_since=given["minutes_since"], times=given.get("times", 1), **known)
        working.append(("Again", due.words))
        level = {"early": "plain", "due": "doubt", "late": "bad", "done": "good"}[due.state]
        line = due.words
    keep = {name: given[name] for name in ("torque_nm", "wrench", "now_km") if name in given}
    return Answer(
        line, level, tuple(working), tuple(says), picture={"nuts": given["nuts"], "order": list(order)}, keep=keep
    )
