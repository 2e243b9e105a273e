"""The sums of fitting a ring: what it takes to press it, how warm it must be to drop on."""

from collections.abc import Mapping
from typing import Any

from hematite.fits import Fit, Press, measured_fit, press, seat_fit, sleeves, warming
from hematite.fits.heat import USUAL_AMBIENT_C, USUAL_CLEARANCE_MM, seconds_in_air, seconds_in_oven
from hematite.fits.press import material, rings
from hematite.language import say
from hematite.sums.answer import Answer, spread, wants
from hematite.tables import table

Given = Mapping[str, Any]


def press_(given: Given) -> Answer:
    """Return the force and the press that suffice, the sleeve, and what an old ring may take to come out."""
    missing = [key for key in ("ring", "bore_mm", "outside_mm", "width_mm") if key not in given]
    if missing:
        return wants(*missing)
    ring, bore, outside, width = (given[key] for key in ("ring", "bore_mm", "outside_mm", "width_mm"))
    fit, said = _fit(given)
    partner = given.get("partner", "steel")
    inside, around = rings(
        ring=ring, bore_mm=bore, outside_mm=outside, partner=partner, partner_mm=given.get("around_mm")
    )
    made = press(inside=inside, outside=around, width_mm=width, fit=fit)
    tool = sleeves(ring=ring, bore_mm=bore, outside_mm=outside, width_mm=width)
    working = (
        (say("Tighter by"), f"{spread(fit.least_um / 1000, fit.most_um / 1000, 'mm', 3)} ({fit.of})"),
        (say("Pressure on the seat"), spread(*made.pressure_mpa, "MPa", 1)),
        (say("To press on"), spread(*made.on_kn, "kN", 1)),
        (say("To press off"), f"{spread(*made.off_kn, 'kN', 1)}, {_tonnes(made.off_tonnes)}"),
        (say("Off, rusted"), f"{spread(*made.rusted_kn, 'kN', 0)}, {_tonnes(made.rusted_tonnes)}"),
        (say("Sleeve"), say("{inside:.1f} mm inside or more, {outside:.1f} mm outside or less",
                            inside=tool.sleeve_inside_least_mm, outside=tool.sleeve_outside_most_mm)),
        (say("Support"), say("{inside:.1f} mm inside or more", inside=tool.support_inside_least_mm)),
        (say("Travel"), f"{tool.travel_mm:.0f} mm"),
    )  # fmt: skip
    says = [say("Push on {push_on}. {never}", push_on=tool.push_on, never=tool.never), *said]
    if made.yields:
        gives = say("the housing of {label}", label=material(partner)["label"]) if ring == "outer" else say("the ring")
        says.append(say("At its tightest {gives} gives way: measure both before pressing.", gives=gives))
    if fit.most_um <= 0:
        says.append(
            say(
                "It is loose in its seat: a ring that turns there wears it out. The seat is worn, or the part is wrong."
            )
        )
    return Answer(
        _press_line(fit, made), _press_level(fit, made), working, tuple(says),
        picture={"ring": ring, "bore_mm": bore, "outside_mm": outside, "width_mm": width,
                 "sleeve_mm": [tool.sleeve_inside_least_mm, tool.sleeve_outside_most_mm]},
    )  # fmt: skip


def _press_line(fit: Fit, made: Press) -> str:
    if fit.most_um <= 0:
        return say("Loose: nothing holds it there")
    return say(
        "{on_tonnes} presses it on; {rusted_tonnes} for a rusted one off",
        on_tonnes=_tonnes(made.on_tonnes).capitalize(),
        rusted_tonnes=_tonnes(made.rusted_tonnes),
    )


def _press_level(fit: Fit, made: Press) -> str:
    return "bad" if made.yields or fit.most_um <= 0 else "plain"


def _tonnes(tonnes: float | None) -> str:
    return say("no press here") if tonnes is None else f"a {tonnes:g} t press"


def _fit(given: Given) -> tuple[Fit, list[str]]:
    """Return the fit: of measured sizes, of the class that was given, or of the usual one, which is said."""
    if "shaft_mm" in given and "hole_mm" in given:
        return measured_fit(shaft_mm=given["shaft_mm"], hole_mm=given["hole_mm"]), []
    usual = table("fits/press.toml")["usual"][given["ring"]]["fit"]
    fit = given.get("fit") or usual
    said = (
        []
        if "fit" in given
        else [say("Nobody said its fit; {usual} is usual. Measure both where it matters.", usual=usual)]
    )
    return seat_fit(ring=given["ring"], bore_mm=given["bore_mm"], outside_mm=given["outside_mm"], fit=fit), said


def heat(given: Given) -> Answer:
    """Return how warm a part must be, by what, how long that takes and how long it lasts."""
    missing = [k for k in ("part", "bore_mm", "outside_mm", "width_mm", "interference_mm") if k not in given]
    if missing:
        return wants(*missing)
    ambient = given.get("ambient_c", USUAL_AMBIENT_C)
    room = given.get("clearance_mm", USUAL_CLEARANCE_MM)
    housing = given["part"].startswith("housing")
    seat = given["outside_mm"] if housing else given["bore_mm"]
    found = warming(part=given["part"], diameter_mm=seat, interference_mm=given["interference_mm"],
                    clearance_mm=room, ambient_c=ambient)  # fmt: skip
    to = min(found.to_c, found.most_c)
    size = {key: given[key] for key in ("bore_mm", "outside_mm", "width_mm")}
    air = seconds_in_air(**size, from_c=to, until_c=found.grips_c, ambient_c=ambient)
    oven = seconds_in_oven(**size, to_c=to, ambient_c=ambient)
    working: tuple[tuple[str, str], ...] = (
        (say("Warmer by"), say("{rise_k:.0f} K, to {to_c:.0f} °C", rise_k=found.rise_k, to_c=found.to_c)),
        (say("At most"), f"{found.most_c:.0f} °C: {found.why}"),
        (say("It grips again at"), f"{found.grips_c:.0f} °C"),
    )
    if not housing:  # nobody weighs a housing
        working += ((say("In the oven"), say("roughly {oven}", oven=_minutes(oven))),)
    says = [
        say("By {by}.", by="; ".join(found.by)),
        found.never,
        say("Once it touches the cold seat it grips within seconds."),
    ]
    picture = {"to_c": found.to_c, "most_c": found.most_c, "grips_c": found.grips_c, "ambient_c": ambient}
    if found.enough:
        lasts = "" if housing else say(": {air} in the air before it grips", air=_minutes(air))
        line = say("Warm it to {to_c:.0f} °C{lasts}", to_c=found.to_c, lasts=lasts)
        return Answer(line, "good", working, tuple(says), picture=picture)
    if found.chill is not None:
        says.insert(
            0,
            say("With its mate out of {chill}, {to_c:.0f} °C are enough.", chill=found.chill[0], to_c=found.chill[1]),
        )
    else:
        says.insert(
            0,
            say(
                "At {most_c:.0f} °C {left_mm:.3f} mm of it are left: the press does the rest.",
                most_c=found.most_c,
                left_mm=found.left_mm,
            ),
        )
    line = say("{to_c:.0f} °C would be needed, {most_c:.0f} °C is the most", to_c=found.to_c, most_c=found.most_c)
    return Answer(line, "bad", working, tuple(says), picture=picture)


def _minutes(seconds: tuple[float, float]) -> str:
    if seconds[1] < 90:
        return spread(*seconds, "s", 0)
    return spread(seconds[0] / 60, seconds[1] / 60, "min", 1 if seconds[0] < 300 else 0)
