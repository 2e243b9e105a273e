"""The core's own command line: `python -m hematite orders …`, `python -m hematite assess BUNDLE`."""

import argparse
import json
import sys
from collections.abc import Mapping, Sequence
from dataclasses import asdict
from pathlib import Path
from typing import Any

from hematite.assembly import library, read_fittings
from hematite.bearings import RINGS, Row, fault_orders, find_bearing
from hematite.bundles import assess_case, read_bundle, read_parcel
from hematite.doors import count, one_of, read_json
from hematite.errors import BadBundle, BadQuantity, HematiteError
from hematite.families.words import family_words
from hematite.fleet.commands import add_fleet
from hematite.jobs import HubJob, Means, both_sides, day, day_json, ladder, plan, plan_json
from hematite.language import say
from hematite.listening import as_it_goes_on
from hematite.policy import read_policy
from hematite.sums.commands import add_sums
from hematite.training.commands import add_training
from hematite.upkeep.commands import add_upkeep
from hematite.vehicles import Axle, Hub, Vehicle
from hematite.verdict import as_json


def _orders(arguments: argparse.Namespace) -> dict[str, Any]:
    row = Row.from_mm(
        elements=arguments.elements,
        element_diameter_mm=arguments.element_diameter,
        pitch_diameter_mm=arguments.pitch_diameter,
        contact_angle_deg=arguments.angle,
    )
    return asdict(fault_orders(row, rotating=arguments.rotating))


def _assess(arguments: argparse.Namespace) -> dict[str, Any]:
    case = read_bundle(arguments.bundle)
    policy = read_policy(_read_json(arguments.policy)) if arguments.policy else None
    assessment, left_out = assess_case(case, policy)
    return as_json(assessment) | {"left_out": list(left_out)}


def _contents(arguments: argparse.Namespace) -> dict[str, Any]:
    return read_parcel(arguments.bundle).contents()


def _live(arguments: argparse.Namespace) -> dict[str, Any]:
    case = read_bundle(arguments.bundle)
    known = {one.id: one for one in case.situations}
    situation = known[one_of(arguments.recording, known, say("recording of the bundle"))]
    steps = as_it_goes_on(case.sounds[situation.id](), situation, vehicle=case.vehicle)
    return {
        "steps": [
            {
                "seconds": round(one.seconds, 2),
                "turns_per_s": one.heard.turns_per_s if one.heard else None,
                "families": [{"kind": f.kind, "odds": f.odds, "words": family_words(f)} for f in one.standing],
                "decided": one.decided,
                "words": one.words,
            }
            for one in steps
        ]
    }


def _read_json(path: Path) -> Mapping[str, Any]:
    try:
        data = read_json(path.read_bytes(), str(path))
    except (OSError, BadBundle):
        raise HematiteError(f"{path} cannot be read. Give the policy as docs/formats.md has it.") from None
    if not isinstance(data, Mapping):
        raise HematiteError(f"{path} is no policy. Give it as docs/formats.md has it.")
    return data


def _bearing(arguments: argparse.Namespace) -> dict[str, Any]:
    found = find_bearing(bore_mm=arguments.bore, outside_mm=arguments.outside, width_mm=arguments.width)
    return {
        "fits": [asdict(size) for size in found.fits],
        "near": [asdict(miss.size) | {"why": miss.why} for miss in found.near],
        "missing": list(found.missing),
    }


def _plan(arguments: argparse.Namespace) -> dict[str, Any]:
    said = read_fittings(_pairs(arguments.fitted) | ({"brake": arguments.brake} if arguments.brake else {}))
    hubs = tuple(Hub(f"A1{side[0].upper()}", side, arguments.design, fittings=said) for side in ("left", "right"))
    axles: tuple[Axle, ...] = (Axle(hubs, driven=arguments.driven, steered=arguments.steered),)
    if arguments.powered and not arguments.driven:
        axles = (*axles, Axle(tuple(Hub(f"A2{s[0].upper()}", s, "hub_unit") for s in ("left", "right")), driven=True))
    vehicle = Vehicle(axles)
    own = _pairs(arguments.way) | ({"sides": "both"} if arguments.both else {})
    ways = read_policy({"schools": own}).schools
    freed = _pairs(arguments.freed)
    job = HubJob("A1L", arguments.choice, cause=arguments.cause, repair=arguments.repair, ways=ways, freed=freed)
    jobs = both_sides(vehicle, [job])
    made = plan(vehicle, jobs)
    return plan_json(made, vehicle, jobs) | {
        "day": day_json(day(made.steps, Means(hands=count(arguments.hands, "The pairs of hands"))))
    }


def _stuck(arguments: argparse.Namespace) -> dict[str, Any]:
    part = library()[one_of(arguments.part, library(), say("part"))]
    rungs = [
        {
            "key": rung.key,
            "label": rung.label,
            "do": rung.act.do,
            "stop": rung.stop,
            "minutes": rung.act.minutes,
            "ruins": list(rung.ruins),
        }
        for rung in ladder(part)
    ]
    return {"part": part.label, "rungs": rungs}


def _pairs(words: Sequence[str]) -> dict[str, str]:
    pairs = [word.partition("=") for word in words]
    for key, equals, value in pairs:
        if not equals or not value:
            raise BadQuantity(f"“{key}” says nothing. Write it as brake=drum.")
    return {key: value for key, _, value in pairs}


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="hematite", description="Wheel bearings, judged from the command line.")
    commands = parser.add_subparsers(required=True, metavar="COMMAND")
    orders = commands.add_parser("orders", help="fault orders per wheel turn of one row")
    orders.add_argument("--elements", required=True)
    orders.add_argument("--element-diameter", required=True, help="mm")
    orders.add_argument("--pitch-diameter", required=True, help="mm")
    orders.add_argument("--angle", default="0", help="contact angle, degrees")
    orders.add_argument("--rotating", choices=RINGS, default="inner", help="the ring that turns with the wheel")
    orders.set_defaults(run=_orders, say=_say_orders)
    assess = commands.add_parser("assess", help="judge a case bundle")
    assess.add_argument("bundle", type=Path, help="folder or .zip")
    assess.add_argument("--policy", type=Path, help="a workshop's schools, limits and prices, as JSON")
    assess.set_defaults(run=_assess, say=_say_assessment)
    bearing = commands.add_parser("bearing", help="which bearing fits a caliper's figures, in mm")
    for name in ("bore", "outside", "width"):
        bearing.add_argument(f"--{name}", help="mm")
    bearing.set_defaults(run=_bearing, say=_say_bearing)
    held = commands.add_parser("bundle", help="what is in the bundle of a case or of a whole vehicle")
    held.add_argument("bundle", type=Path, help="folder or .zip")
    held.set_defaults(run=_contents, say=_say_contents)
    live = commands.add_parser("live", help="what one recording of a bundle tells as it goes on")
    live.add_argument("bundle", type=Path, help="folder or .zip")
    live.add_argument("recording", help="its id in the bundle")
    live.set_defaults(run=_live, say=_say_live)
    job = commands.add_parser("plan", help="the steps of a job at a hub, in an order that follows from how it is built")
    job.add_argument("--design", required=True)
    job.add_argument("--choice", required=True)
    job.add_argument("--driven", action="store_true", help="the axle drives")
    job.add_argument("--steered", action="store_true", help="the axle steers")
    job.add_argument("--trailer", dest="powered", action="store_false", help="nothing drives: a trailer or a cycle")
    job.add_argument("--both", action="store_true", help="both sides of the axle")
    job.add_argument("--cause", default="", help="where it is looked for elsewhere: brake, fasteners, tyre …")
    job.add_argument("--repair", default="", help="what is to be done once it stands off the road")
    job.add_argument("--fitted", action="append", default=[], metavar="WHAT=HOW", help="as brake=drum, rust=yes")
    job.add_argument("--brake", help="disc, drum or none")
    job.add_argument("--way", action="append", default=[], metavar="SCHOOL=WAY", help="as races_out=weld")
    job.add_argument("--freed", action="append", default=[], metavar="STEP=RUNG", help="as A1L.unit.off=heat")
    job.add_argument("--hands", default="1", help="pairs of hands on the job")
    job.set_defaults(run=_plan, say=_say_plan)
    stuck = commands.add_parser("stuck", help="what is tried, in rising order, when a part will not move")
    stuck.add_argument("--part", required=True, help="as unit, pin, sealed_bearing")
    stuck.set_defaults(run=_stuck, say=_say_stuck)
    more = (*add_sums(commands), *add_upkeep(commands), *add_fleet(commands), *add_training(commands))
    for command in (orders, assess, bearing, held, live, job, stuck, *more):
        command.add_argument("--json", action="store_true", help="print JSON")
    return parser


def _say_orders(result: dict[str, Any]) -> str:
    rows = (
        ("Outer race", "bpfo"),
        ("Inner race", "bpfi"),
        ("Ball or roller spin", "bsf"),
        ("Cage", "ftf"),
    )
    return "\n".join(f"{name:<20} {result[key]:.4f} a wheel turn" for name, key in rows)


def _say_assessment(result: dict[str, Any]) -> str:
    lines = [f"{_where(c['hub'], c['side'])}: {c['cause_label']}, {c['probability']:.0%}" for c in result["culprits"]]
    lines = lines or ["No culprit yet."]
    decision, following = result["decision"], result["next_test"]
    doubt = "" if decision["settled"] else f" (not settled: right in {decision['choice_probability']:.0%})"
    lines.append(f"{_where(decision['hub'], None)}: {decision['label']}{doubt}. {decision['because']}")
    lines.append(f"How far it can go: {result['road']['label']} ({result['road']['hub']}).")
    lines.append(
        f"Next: {following['label']}{' at ' + following['hub'] if following['hub'] else ''}. {following['why']}"
    )
    return "\n".join(lines)


def _where(hub: str | None, side: str | None) -> str:
    return hub or (f"{side} side" if side else "The vehicle")


def _say_bearing(result: dict[str, Any]) -> str:
    lines = [f"It fits: {size['designation']}" for size in result["fits"]] or ["Nothing in the catalogue fits."]
    lines += [f"Not {size['designation']}: {size['why']}" for size in result["near"]]
    return "\n".join([*lines, *(f"Still to be measured: {name}." for name in result["missing"])])


def _say_contents(result: dict[str, Any]) -> str:
    lines = [f"{result['vehicle']}: {', '.join(result['hubs'])}", *_said_counts(result["kept"])]
    for case in result["cases"]:
        lines += [
            case["folder"] or "One case",
            f"  {case['recordings']} recordings, {case['observations']} observations",
        ]
        lines += [
            f"  {words}" for words in (*_said_counts(case["kept"]), *(f"left out: {w}" for w in case["left_out"]))
        ]
    return "\n".join(lines)


def _said_counts(kept: dict[str, int]) -> list[str]:
    return [", ".join(f"{count} {name}" for name, count in kept.items())] if kept else []


def _say_live(result: dict[str, Any]) -> str:
    said = [(step["seconds"], step["words"], *(f["words"] for f in step["families"][:1])) for step in result["steps"]]
    return "\n".join(f"{seconds:6.1f} s  {' '.join(words)}" for seconds, *words in said)


def _say_stuck(result: dict[str, Any]) -> str:
    rungs = [f"{n}. {one['label']}: {one['do']} Stop: {one['stop']}" for n, one in enumerate(result["rungs"], 1)]
    return "\n".join(rungs) or f"{result['part']}: it has no hold to stick in."


def _say_plan(result: dict[str, Any]) -> str:
    lines = [f"{n:3}. {step['hub'] or '-':4} {step['do']}" for n, step in enumerate(result["steps"], 1)]
    lists = result["lists"]
    buy = [
        f"{item['label']}{' ' + item['size'] if item['size'] else ''} ({item['hubs'][0]})" for item in lists["parts"]
    ]
    sooner = "" if result["day"]["proven"] else ", or sooner"
    lines += ["", f"By hand {lists['minutes']:g} min, done after {result['day']['end']:g} min{sooner}."]
    lines += [f"To buy: {', '.join(buy)}."] if buy else []
    lines += [f"To lay out: {', '.join(item['label'] for item in lists['tools'])}."] if lists["tools"] else []
    unsaid = dict.fromkeys(row["label"] for rows in result["assumed"].values() for row in rows)
    lines += [f"Nobody said, so the usual was taken: {', '.join(unsaid)}."] if unsaid else []
    return "\n".join([*lines, *result["day"]["blocked"]])


def main(argv: Sequence[str] | None = None) -> int:
    """Run the command line; 0 when it answered, 2 when the input was refused, with the reason on stderr."""
    arguments = _parser().parse_args(argv)
    try:
        result = arguments.run(arguments)
    except HematiteError as refusal:
        sys.stderr.write(f"{refusal}\n")
        return 2
    sys.stdout.write((json.dumps(result, ensure_ascii=False) if arguments.json else arguments.say(result)) + "\n")
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
