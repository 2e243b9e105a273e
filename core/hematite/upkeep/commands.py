"""Upkeep on the command line: `recheck`, `odometer`, `trend`, `kit` and `stops`."""

import argparse
from dataclasses import asdict
from pathlib import Path
from typing import Any

from hematite.bundles import read_bundle
from hematite.doors import finite
from hematite.errors import BadQuantity
from hematite.upkeep.kit import kit
from hematite.upkeep.odometer import Entry, rate, reached
from hematite.upkeep.rechecks import rechecks
from hematite.upkeep.stops import judge_stop, stops
from hematite.upkeep.trend import Visit, trend
from hematite.vehicles import Axle, Hub, Vehicle


def add_upkeep(commands: Any) -> list[argparse.ArgumentParser]:
    """Add the commands of upkeep."""
    again = commands.add_parser("recheck", help="when to look again after a job, and why")
    again.add_argument("--design", required=True)
    again.add_argument("--choice", required=True)
    again.add_argument("--both", action="store_true", help="both sides of the axle were done")
    again.add_argument("--driven", action="store_true", help="the axle drives")
    again.add_argument("--duty", action="append", default=[], help="as water, dust, long_tows")
    again.add_argument("--life-ratio", help="what ISO 281 leaves of its life, where wheels were set outward")
    again.set_defaults(run=_recheck, say=_say_recheck)
    odometer = commands.add_parser("odometer", help="how fast distance is gathered, and when a distance is reached")
    odometer.add_argument("--read", action="append", required=True, metavar="DAY=KM", help="any day may be 0")
    odometer.add_argument("--to-go", help="km from the last reading")
    odometer.set_defaults(run=_odometer, say=_say_odometer)
    grows = commands.add_parser("trend", help="growth over visits, and a date to act by as a range")
    grows.add_argument("--visit", action="append", required=True, metavar="DAY=FIGURE")
    grows.add_argument("--limit")
    grows.add_argument("--repaired", action="append", default=[], metavar="DAY", help="the day of a repair")
    grows.set_defaults(run=_trend, say=_say_trend)
    goes_along = commands.add_parser("kit", help="what goes along on the road for a bundle's vehicle")
    goes_along.add_argument("bundle", type=Path, help="folder or .zip")
    goes_along.set_defaults(run=_kit, say=_say_kit)
    halts = commands.add_parser("stops", help="where to stop and feel the hubs; what to do when one is warm")
    halts.add_argument("--km", help="of the trip")
    halts.add_argument("--just-worked-on", action="store_true")
    halts.add_argument("--design", default="taper_castle", help="of the axle whose hubs were felt")
    halts.add_argument("--trailer", dest="powered", action="store_false", help="nothing drives, nothing brakes hard")
    halts.add_argument("--felt", action="append", default=[], metavar="HUB=WARMTH", help="as A1L=warm, A1R=cold")
    halts.set_defaults(run=_stops, say=_say_stops)
    return [again, odometer, grows, goes_along, halts]


def _axle(design: str, *, driven: bool, duty: list[str] | None = None) -> Vehicle:
    hubs = tuple(Hub(f"A1{side[0].upper()}", side, design) for side in ("left", "right"))
    return Vehicle((Axle(hubs, driven=driven),), duty=tuple(duty or ()))


def _recheck(arguments: argparse.Namespace) -> dict[str, Any]:
    vehicle = _axle(arguments.design, driven=arguments.driven, duty=arguments.duty)
    hubs = [hub.id for hub in vehicle.hubs()]
    ratio = None if arguments.life_ratio is None else finite(arguments.life_ratio, "What is left of its life")
    ratios = dict.fromkeys(hubs, ratio) if ratio is not None else {}
    done = [(hub, arguments.choice) for hub in (hubs if arguments.both else hubs[:1])]
    return {"rechecks": [asdict(one) for one in rechecks(vehicle, done, life_ratios=ratios)]}


def _say_recheck(result: dict[str, Any]) -> str:
    return "\n".join(_one_line(row) for row in result["rechecks"]) or "Nothing to look at again."


def _one_line(row: dict[str, Any]) -> str:
    after = [f"{row[unit]} {unit}" for unit in ("minutes", "km", "days", "hours") if row[unit]]
    sooner = f" Sooner than usual: {'; '.join(row['shortened'])}." if row["shortened"] else ""
    return f"{row['hub']} {row['label']}: after {' or '.join(after)}. {row['why']}{sooner}"


def _pairs(words: list[str], what: str) -> list[tuple[float, float]]:
    pairs = [word.partition("=") for word in words]
    for word, (_, equals, value) in zip(words, pairs, strict=True):
        if not equals or not value:
            raise BadQuantity(f"“{word}” says nothing. Write it as 0=54000: the day, then {what}.")
    return [(finite(day, "The day"), finite(value, what.capitalize())) for day, _, value in pairs]


def _odometer(arguments: argparse.Namespace) -> dict[str, Any]:
    known = rate([Entry(day, km) for day, km in _pairs(arguments.read, "the reading")])
    if known is None:
        return {"rate": None, "reached": None}
    to_go = arguments.to_go
    found = reached(known, finite(to_go, "The distance")) if to_go is not None else None
    return {"rate": asdict(known), "reached": asdict(found) if found else None}


def _say_odometer(result: dict[str, Any]) -> str:
    known, found = result["rate"], result["reached"]
    if known is None:
        return "Too little to say: it takes readings over two weeks."
    doubt = f" ({known['low']:.1f} to {known['high']:.1f})" if known["low"] is not None else ""
    lines = [f"{known['per_day']:.1f} km a day{doubt}. {known['words']}"]
    if found:
        days = [f"{found[key]:.0f}" if found[key] is not None else "nobody can say" for key in ("soonest", "latest")]
        lines.append(f"There in {found['expected']:.0f} days" if found["expected"] is not None else "Not in sight")
        lines[-1] += f", from {days[0]} to {days[1]}."
    return "\n".join(lines)


def _trend(arguments: argparse.Namespace) -> dict[str, Any]:
    visits = [Visit(day, value) for day, value in _pairs(arguments.visit, "the figure")]
    limit = finite(arguments.limit, "The limit") if arguments.limit is not None else None
    return asdict(trend(visits, limit=limit, breaks=[finite(day, "The day") for day in arguments.repaired]))


def _say_trend(result: dict[str, Any]) -> str:
    if result["slope"] is None:
        return str(result["words"])
    lines = [f"{result['slope']:.3g} a year ({result['low']:.3g} to {result['high']:.3g}). {result['words']}"]
    if result["soonest"] is not None:
        latest = f"{result['latest']:.0f} days" if result["latest"] is not None else "no end"
        lines.append(f"From {result['soonest']:.0f} days after the last visit to {latest}.")
    return "\n".join(lines)


def _kit(arguments: argparse.Namespace) -> dict[str, Any]:
    return asdict(kit(read_bundle(arguments.bundle).vehicle))


def _say_kit(result: dict[str, Any]) -> str:
    lines = [f"{i['label']}{' ' + i['size'] if i['size'] else ''} ({', '.join(i['hubs'])})" for i in result["parts"]]
    lines += [f"Tools: {', '.join(i['label'] for i in result['tools'])}."]
    lines += [f"Which it is, nobody wrote down: {', '.join(result['unknown'])}."] if result["unknown"] else []
    return "\n".join([*lines, *(f"{hubs}: {why}" for hubs, why in result["not_on_the_road"])])


def _stops(arguments: argparse.Namespace) -> dict[str, Any]:
    vehicle = _axle(arguments.design, driven=arguments.powered)
    felt = dict(word.partition("=")[::2] for word in arguments.felt)
    far = finite(arguments.km, "The distance") if arguments.km is not None else None
    return {
        "after_km": list(stops(far, just_worked_on=arguments.just_worked_on)) if far is not None else [],
        "felt": [asdict(one) for one in judge_stop(vehicle, felt)],
    }


def _say_stops(result: dict[str, Any]) -> str:
    lines = [f"Stop and feel every hub after {', '.join(f'{km:g}' for km in result['after_km'])} km."]
    lines = lines if result["after_km"] else []
    return "\n".join([*lines, *(f"{one['hub']}: {one['do']} {one['why']}" for one in result["felt"])])
