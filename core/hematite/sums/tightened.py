"""The sums of tightening: the wrench and what is on it, and the nuts of a wheel."""

from collections.abc import Mapping
from typing import Any

from hematite.errors import BadQuantity
from hematite.language import figure, later, say
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
NOT_FOR_UNDOING = later(
    "A torque wrench is not for undoing, and what a nut takes to break loose is not what it was tightened to. "
    "Draw steadily and stop at the click."
)


def torque(given: Given) -> Answer:
    """Return what to set: the middle of a range, less what an extension adds, in stages, with its angle."""
    if "torque_nm" not in given:
        return wants("torque_nm")
    least, most = given["torque_nm"], given.get("most_nm", given["torque_nm"])
    if least > most:
        raise BadQuantity(
            say("The least, {least:g} N·m, is more than the most, {most:g} N·m. Swap them.", least=least, most=most)
        )
    aim = (least + most) / 2
    to_set, working = aim, [(say("In other units"), _units(aim))]
    if least != most:
        working.insert(
            0,
            (
                say("Aimed at"),
                say("the middle of {least:g} to {most:g} N·m: {aim:.1f} N·m", least=least, most=most, aim=aim),
            ),
        )
    extension, length = given.get("extension_mm", 0.0), given.get("length_mm", 0.0)
    angle = given.get("angle_deg", 0.0)
    if extension and not length:
        return wants("length_mm", line=f"{figure(aim, '.1f')} N·m")
    if extension:
        to_set = set_with_extension(torque_nm=aim, length_mm=length, extension_mm=extension, angle_deg=angle)
        working.append(
            (
                say("With the extension"),
                say(
                    "{aim:.1f} · {length:g} / ({length:g} + {extension:g} · cos {angle:g}°)",
                    aim=aim,
                    length=length,
                    extension=extension,
                    angle=angle,
                ),
            )
        )
    working.append((say("In stages"), ", ".join(f"{stage:.0f}" for stage in stages(to_set)) + " N·m"))
    line, says = say("Set {to_set:.1f} N·m", to_set=to_set), [say(NOT_FOR_UNDOING)]
    if "turn_on_deg" in given:
        turns = strokes(given["turn_on_deg"])
        line += say(", then {turn_on_deg:g}° on", turn_on_deg=given["turn_on_deg"])
        working.append((say("Turned on in"), " + ".join(f"{stroke:.0f}°" for stroke in turns)))
        says.append(say("Mark nut and seat before turning on. A bolt that was stretched so is new each time."))
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
        return "bad", say("None of the workshop’s wrenches is to be trusted at {to_set:.0f} N·m.", to_set=to_set)
    return "good", say(
        "Take: {label} ({least_nm:g} to {most_nm:g} N·m).",
        label=taken.label,
        least_nm=taken.least_nm,
        most_nm=taken.most_nm,
    )


def _own(given: Given, to_set: float) -> tuple[str, str]:
    own = Wrench(say("this wrench"), given.get("wrench_least_nm", 0.0), given["wrench_most_nm"])
    if choose_wrench(to_set, [own]):
        return "good", ""
    if to_set > own.most_nm:
        return "bad", say("{to_set:.0f} N·m is more than this wrench gives. Take a larger one.", to_set=to_set)
    return "bad", (
        say(
            "{to_set:.0f} N·m lies in the lowest part of this wrench, where it is not to be trusted. Take a "
            "smaller one.",
            to_set=to_set,
        )
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
        say("Hand-start each nut three turns at least. Seats clean and dry, nothing on the studs."),
        say("Wheel on the ground for the last round."),
    ]
    working = [
        (say("In turn, counted clockwise"), ", ".join(str(n + 1) for n in order)),
        (say("First round"), say("{first:.0f} N·m all round", first=first)),
        (say("Second round"), say("{whole:.0f} N·m all round", whole=whole)),
    ]
    level, line = "plain", say("{whole:.0f} N·m all round, in a star", whole=whole)
    if "moved_at_nm" in given:
        moved = retightened(torque_nm=given["torque_nm"], moved_at_nm=given["moved_at_nm"])
        working.append((say("Tightened again"), moved))
    if "minutes_since" in given:
        known = {name: given.get(name) for name in ("then_km", "now_km")}
        due = again(minutes_since=given["minutes_since"], times=given.get("times", 1), **known)
        working.append((say("Again"), due.words))
        level = {"early": "plain", "due": "doubt", "late": "bad", "done": "good"}[due.state]
        line = due.words
    keep = {name: given[name] for name in ("torque_nm", "wrench", "now_km") if name in given}
    return Answer(
        line, level, tuple(working), tuple(says), picture={"nuts": given["nuts"], "order": list(order)}, keep=keep
    )
