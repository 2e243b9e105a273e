"""The sums of setting a bearing: the nut, where its lock takes it, the shim pack."""

from collections.abc import Mapping
from typing import Any

from hematite.errors import BadQuantity, MeantBackwards
from hematite.language import figure, later, say
from hematite.play import LEAST_READINGS, end_play
from hematite.setting import (
    EndPlayRange,
    Lost,
    Pack,
    Position,
    Positions,
    angle_for_play,
    back_off,
    end_play_from_angle,
    learn,
    measured_gap,
    positions,
    shim_pack,
    shim_total_mm,
    steps_a_turn,
    tighten_on,
    to_order,
    windup,
)
from hematite.setting.slots import aim_mm
from hematite.sums.answer import Answer, spread, wants
from hematite.threads import Thread, read_thread

Given = Mapping[str, Any]
WORDS = {
    "surely": later("surely in the window"),
    "perhaps": later("perhaps in the window"),
    "no": later("outside the window"),
}
LEVEL = {"surely": "good", "perhaps": "doubt", "no": "bad"}
TURNED = {"back": True, "on": False}
ASK_THE_DIAL = later("A range, as threads and clamps differ: three readings of the dial decide.")
MOVED_MM = 0.02  # by locking, before it is said; judgement
SURE = 0.8  # share of the play's distribution in the window that counts as in it; judgement


def nut(given: Given) -> Answer:
    """Return the end play of an angle, or the angle of the wished play; with a dial reading what this hub loses."""
    if "thread" not in given:
        return wants("thread")
    thread = read_thread(given["thread"])
    lost = _lost(given, thread)
    if "angle_deg" not in given:
        return _angle(given, thread, lost)
    try:
        angle = back_off(given["angle_deg"], backwards=TURNED.get(given.get("turned", "")))
    except MeantBackwards as asked:
        return Answer(str(asked), "ask", missing=("turned",))
    play = end_play_from_angle(pitch_mm=thread.pitch_mm, angle_deg=angle, lost=lost)
    if "seen_mm" in given:
        return _learnt(given, thread, angle)
    window = _window(given)
    meets = play.meets(*window) if window else ""
    line = say("{least_mm} end play", least_mm=spread(play.least_mm, play.most_mm, "mm")) + (
        f": {say(WORDS[meets])}" if meets else ""
    )
    return Answer(
        line, LEVEL.get(meets, "plain"), _parts(thread, angle, play, window), (say(ASK_THE_DIAL),),
        picture=_drawn(angle, play, window),
    )  # fmt: skip


def _angle(given: Given, thread: Thread, lost: Lost) -> Answer:
    window = _window(given)
    wished = given.get("play_mm")
    if wished is None and window is None:
        return wants("angle_deg", "play_mm")
    aim = aim_mm(*window, given.get("where", "middle")) if wished is None and window else float(wished or 0)
    found = angle_for_play(pitch_mm=thread.pitch_mm, play_mm=aim, lost=lost)
    line = say("Back off {angle_deg:.0f}° for {aim:.3g} mm", angle_deg=found.angle_deg, aim=aim)
    expects = (say("to be expected"), spread(found.play.least_mm, found.play.most_mm, "mm"))
    working = (expects, *_parts(thread, found.angle_deg, found.play, window))
    return Answer(line, "plain", working, (say(ASK_THE_DIAL),), picture=_drawn(found.angle_deg, found.play, window))


def _learnt(given: Given, thread: Thread, angle: float) -> Answer:
    """Return what the dial teaches: what this hub loses, and the angle to go on by. The dial decides, not the sum."""
    seen, preload = given["seen_mm"], given.get("preload_nm", 0.0)
    says, working, keep = [], [], {}
    try:
        lost = learn(pitch_mm=thread.pitch_mm, angle_deg=angle, play_mm=seen, preload_nm=preload,
                     nut_diameter_mm=thread.diameter_mm)  # fmt: skip
        working = [(say("This hub loses"), spread(lost.least_mm, lost.most_mm, "mm", 3))]
        keep = {"least_mm": lost.least_mm, "most_mm": lost.most_mm, "preload_nm": preload}
    except BadQuantity as contradiction:
        says = [str(contradiction), say("Or the nut’s zero was not where it was taken to be. The dial counts.")]
    window = _window(given)
    picture = _drawn(angle, EndPlayRange(seen, seen, seen, 0, Lost(0, 0)), window)
    if window is None:
        line = say("The dial reads {seen:.2f} mm at {angle:.0f}°", seen=seen, angle=angle)
        return Answer(line, "plain", tuple(working), tuple(says), picture=picture, keep=keep)
    if window[0] <= seen <= window[1]:
        line, says = (
            say("{seen:.2f} mm by the dial: in the window", seen=seen),
            [*says, say("Lock it there, and read it again locked.")],
        )
        return Answer(line, "good", tuple(working), tuple(says), picture=picture, keep=keep)
    aim = given.get("play_mm", aim_mm(*window, given.get("where", "middle")))
    turn = (aim - seen) / thread.pitch_mm * 360
    line = say(
        later("{seen:.2f} mm by the dial: slacken by {turn:.0f}°, to {angle:.0f}°")
        if turn > 0
        else later("{seen:.2f} mm by the dial: tighten by {turn:.0f}°, to {angle:.0f}°"),
        seen=seen,
        turn=abs(turn),
        angle=angle + turn,
    )
    picture["to_deg"] = round(max(angle + turn, 0.0))
    return Answer(line, "doubt", tuple(working), tuple(says), picture=picture, keep=keep)


def _lost(given: Given, thread: Thread) -> Lost:
    """Return what this hub was seen to lose at this torque, else what is usual."""
    usual = windup(preload_nm=given.get("preload_nm", 0.0), nut_diameter_mm=thread.diameter_mm)
    seen = given.get("learnt")
    if not seen or not seen.get("preload_nm") or not given.get("preload_nm"):
        return usual
    share = given["preload_nm"] / seen["preload_nm"]
    return Lost(max(seen["least_mm"] * share, usual.least_mm), min(seen["most_mm"] * share, usual.most_mm), learnt=True)


def _parts(
    thread: Thread, angle: float, play: EndPlayRange, window: tuple[float, float] | None
) -> tuple[tuple[str, str], ...]:
    rows = [
        (say("Thread and angle alone"), f"{thread.pitch_mm:.3g} mm · {angle:.0f}° / 360 = {play.geometric_mm:.3f} mm"),
        (say("Doubt of the angle"), f"± {play.angle_error_mm:.3f} mm"),
        (
            say("Windup as seen at this hub") if play.lost.learnt else say("Windup and friction"),
            say("takes {least_mm}", least_mm=spread(play.lost.least_mm, play.lost.most_mm, "mm", 3)),
        ),
    ]
    rows += [(say("Window"), spread(*window, "mm", 3))] if window else []
    return tuple(rows)


def _window(given: Given) -> tuple[float, float] | None:
    if "high_mm" not in given:
        return None
    low, high = given.get("low_mm", 0.0), given["high_mm"]
    if low > high:
        raise BadQuantity(
            say("The window runs from {low:g} to {high:g} mm: the wrong way round. Swap them.", low=low, high=high)
        )
    return low, high


def _drawn(angle: float, play: EndPlayRange, window: tuple[float, float] | None) -> dict[str, Any]:
    return {
        "angle_deg": angle,
        "least_mm": play.least_mm,
        "most_mm": play.most_mm,
        "window_mm": list(window) if window else [],
    }


def slots(given: Given) -> Answer:
    """Return where a nut can be locked, which place is taken, and what to change where none will do."""
    missing = [key for key in ("thread", "lock", "slots") if key not in given]
    if missing:
        return wants(*missing)
    lock = {"lock": given["lock"], "slots": given["slots"], "ends": given.get("ends", 2)}
    if given.get("clamped"):
        return _clamped(given, lock)
    window = _window(given)
    if window is None:
        return wants("high_mm")
    thread = read_thread(given["thread"])
    found = positions(
        pitch_mm=thread.pitch_mm, window_mm=window, next_deg=given.get("next_deg", 0.0),
        where=given.get("where", "middle"), lost=_lost(given, thread), **lock,
    )  # fmt: skip
    return _placed(found, given, window)


def _clamped(given: Given, lock: dict[str, Any]) -> Answer:
    step = 360 / steps_a_turn(**lock)
    on = tighten_on(past_deg=given.get("next_deg", 0.0), **lock)
    line = say("Tighten on by {on:.0f}° to the next slot", on=on) if on else say("It stands at a slot")
    return Answer(
        line, "good", ((say("A step"), f"{step:.0f}°"),),
        (say("A clamped nut is never backed off to a slot: that takes its clamp away."),),
        picture={**lock, "step_deg": step, "positions": [], "clamped": True},
    )  # fmt: skip


def _placed(found: Positions, given: Given, window: tuple[float, float]) -> Answer:
    working = [
        (
            "A step",
            say(
                "{step_deg:.0f}°, worth {step_mm:.3f} mm; {steps_a_turn} a turn",
                step_deg=found.step_deg,
                step_mm=found.step_mm,
                steps_a_turn=found.steps_a_turn,
            ),
        )
    ]
    working += [(say("{angle:.0f}° back", angle=row.angle_deg), _row_words(row)) for row in found.rows]
    picture = {
        "lock": given["lock"], "slots": given["slots"], "ends": given.get("ends", 2), "step_deg": found.step_deg,
        "clamped": False, "window_mm": list(window), "chosen_deg": found.chosen.angle_deg if found.chosen else None,
        "positions": [
            {"angle_deg": r.angle_deg, "least_mm": r.play.least_mm, "most_mm": r.play.most_mm, "meets": r.meets}
            for r in found.rows
        ],
    }  # fmt: skip
    if found.chosen is None:
        return Answer(say("No slot lies in the window"), "bad", tuple(working), found.instead, picture=picture)
    play = found.chosen.play
    line = say(
        "Lock it {angle_deg:.0f}° back: {least_mm}",
        angle_deg=found.chosen.angle_deg,
        least_mm=spread(play.least_mm, play.most_mm, "mm"),
    )
    line += f", {say(WORDS[found.chosen.meets])}"
    says = (say(ASK_THE_DIAL), say("An adjusting nut slackens to the slot, never tightens."), *found.instead)
    return Answer(line, LEVEL[found.chosen.meets], tuple(working), says, picture=picture)


def _row_words(row: Position) -> str:
    return f"{spread(row.play.least_mm, row.play.most_mm, 'mm')}, {say(WORDS[row.meets])}"


def setting(given: Given) -> Answer:
    """Return what three readings after locking decide, and what locking moved; a hub that drags first is worn."""
    if given.get("drags"):
        return Answer(
            say("It drags before the slack is gone: the set is worn"), "bad",
            says=(say("Finish it safe: the least play that turns free, locked. Say so, and order the parts."),
                  say("Enter it as found: what is decided changes to replacing.")),
        )  # fmt: skip
    window, locked = _window(given), given.get("locked_mm", [])
    if window is None or len(locked) < LEAST_READINGS:
        return wants("high_mm" if window is None else "locked_mm")
    found, before = end_play(locked, window), given.get("open_mm", [])
    working = [(say("Locked"), say("{mean:.3f} mm, within {span:.3f} mm",
                                   mean=found.mean_mm, span=max(locked) - min(locked))),
               (say("Window"), spread(*window, "mm", 3))]  # fmt: skip
    says = []
    if len(before) >= LEAST_READINGS:
        moved = found.mean_mm - sum(before) / len(before) - _turned_mm(given)
        working.append((say("Locking moved it by"), f"{moved:+.3f} mm"))
        if abs(moved) > MOVED_MM:
            says.append(say("Locking moved it: hold the nut while it is locked, or set it that much the other way."))
    share = found.outcomes["within"]
    outside = say("too loose") if found.mean_mm > window[1] else say("too tight")
    level = "good" if share > SURE else "doubt" if share > 1 - SURE else "bad"
    words = {"good": say("in the window"), "doubt": say("at the edge of the window"), "bad": outside}[level]
    if level != "good":
        says.append(say("Set it again, or take more readings: the mean must lie in the window with its spread."))
    picture = {"window_mm": list(window), "least_mm": min(locked), "most_mm": max(locked), "angle_deg": 0}
    line = say("{mean_mm:.2f} mm locked: {words}", mean_mm=found.mean_mm, words=words)
    return Answer(line, level, tuple(working), tuple(says), picture=picture,
                  keep={"play_mm": found.mean_mm})  # fmt: skip


def _turned_mm(given: Given) -> float:
    """Return what the nut's turn to its place is worth, between the readings before it and those after."""
    if not all(key in given for key in ("thread", "open_deg", "locked_deg")):
        return 0.0
    return float(read_thread(given["thread"]).pitch_mm * (given["locked_deg"] - given["open_deg"]) / 360)


def shims(given: Given) -> Answer:
    """Return the pack for a gap from the stock that is there, the next best, and what to order where none will do."""
    places = given.get("places_mm", [])
    if len(places) < 3:
        return wants("places_mm")
    gap = measured_gap(places)
    sides = 2 if given.get("both") else 1
    play = given.get("end_play_mm", 0.0)
    total = shim_total_mm(gap_mm=gap.mean_mm, end_play_mm=play, sides=sides)
    working = [(say("Gap"), say(
        "{mean_mm:.3f} mm, the places within {spread_mm:.3f} mm", mean_mm=gap.mean_mm, spread_mm=gap.spread_mm)),
               (say("Pack"), f"{gap.mean_mm:.3f} + {sides} × {play:.3g} = {total:.3f} mm")]  # fmt: skip
    stock = given.get("stock", {})
    within = {"tolerance_mm": given["tolerance_mm"]} if "tolerance_mm" in given else {}
    try:
        packs = shim_pack(total_mm=total, stock_mm=stock, **within) if stock else ()
    except BadQuantity:
        packs = ()
    if not packs:
        return _ordered(total, stock, within, working)
    working += [(say("Next best"), _sum(pack)) for pack in packs[1:]]
    best = packs[0]
    return Answer(
        say("{total:.2f} mm: {best}", total=total, best=_sum(best)), "good", tuple(working),
        (say("Thick ones outside, thin ones between. Measure the play with all bolts tight."),),
        picture={"total_mm": total, "shims_mm": list(best.shims_mm)},
        keep={"shims_mm": list(best.shims_mm), "gap_mm": gap.mean_mm},
    )  # fmt: skip


def _ordered(total: float, stock: Mapping[float, Any], within: dict[str, float], working: list[Any]) -> Answer:
    pack = to_order(total_mm=total, stock_mm=stock, **within)
    picture = {"total_mm": total, "shims_mm": list(pack.shims_mm) if pack else []}
    head = (
        say("{total:.2f} mm: no pack of the stock makes it", total=total)
        if stock
        else say("{total:.2f} mm of shims", total=total)
    )
    if pack is None:
        return Answer(head, "bad" if stock else "plain", tuple(working),
                      (say("Enter what is in stock, with how many of each."),), picture=picture)  # fmt: skip
    says = (say("Order one of {shims_mm:.2f} mm: {pack}.", shims_mm=pack.shims_mm[-1], pack=_sum(pack)),)
    return Answer(head, "bad" if stock else "plain", tuple(working), says, picture=picture)


def _sum(pack: Pack) -> str:
    off = say(", {error_mm:+.3f} mm off", error_mm=pack.error_mm) if abs(pack.error_mm) > 5e-4 else ""
    shims = " + ".join(figure(shim, ".2f") for shim in pack.shims_mm)
    return f"{shims} mm" + (f" = {figure(pack.total_mm, '.2f')} mm" if off else "") + off
