"""The fleet on the command line: `comebacks` and `workload`."""

import argparse
import csv
import itertools
from collections.abc import Mapping
from dataclasses import asdict
from pathlib import Path
from typing import Any

from hematite.doors import finite
from hematite.errors import BadQuantity, HematiteError
from hematite.fleet.comebacks import WATCHED_DAYS, Repair, comebacks
from hematite.fleet.workload import workload

DAYS = ("ago_days", "seen_days", "back_days")
MOST = 200_000  # repairs in one table


def add_fleet(commands: Any) -> list[argparse.ArgumentParser]:
    """Add the commands of the fleet."""
    back = commands.add_parser("comebacks", help="repairs that came back, by group, and how little that proves")
    back.add_argument(
        "table", type=Path, help="CSV, a repair a line: ago_days, seen_days, back_days (empty: it held), then any group"
    )
    back.add_argument("--within", default=str(WATCHED_DAYS), help="days")
    back.set_defaults(run=_comebacks, say=_say_comebacks)
    work = commands.add_parser("workload", help="weeks of work against hours; what does not fit is carried over")
    work.add_argument("--week", action="append", required=True, metavar="WORK=HOURS", help="minutes, as 900=2700")
    work.set_defaults(run=_workload, say=_say_workload)
    return [back, work]


def _comebacks(arguments: argparse.Namespace) -> dict[str, Any]:
    within = finite(arguments.within, "The days it is watched for")
    if within <= 0:
        raise BadQuantity("It has to be watched for more than no days.")
    try:
        with arguments.table.open(encoding="utf-8-sig", newline="") as file:
            rows = list(itertools.islice(csv.DictReader(file), MOST + 1))
    except (OSError, UnicodeDecodeError, csv.Error):
        raise HematiteError(f"{arguments.table} cannot be read. Give a CSV in UTF-8.") from None
    if len(rows) > MOST:
        raise BadQuantity(f"The table holds more than {MOST:,} repairs. Give it in parts.")
    repairs = [_repair(n, row) for n, row in enumerate(rows, 2)]
    return {"groups": [asdict(one) for one in comebacks(repairs, within_days=within)]}


def _repair(line: int, row: Mapping[str, Any]) -> Repair:
    """Return the repair of one line of a table."""
    if missing := [name for name in DAYS if row.get(name) is None]:
        raise BadQuantity(f"Line {line} lacks {', '.join(missing)}.")
    ago, seen, back = (_days(line, row[name]) for name in DAYS)
    if ago is None or seen is None:
        raise BadQuantity(f"Line {line} does not say how long ago it was done, or when it was last seen.")
    return Repair({by: name for by, name in row.items() if by and by not in DAYS}, ago, seen, back)


def _days(line: int, said: str) -> float | None:
    if not said.strip():
        return None
    days = finite(said, f"Line {line}: the days")
    if days < 0:
        raise BadQuantity(f"Line {line}: {days:g} days are none. Give zero or more.")
    return days


def _say_comebacks(result: dict[str, Any]) -> str:
    lines = [
        f"{one['by']} {one['name']}: {one['back']} of {one['of']} "
        f"({one['low']:.0%} to {one['high']:.0%}). {one['words']}"
        for one in result["groups"]
    ]
    return "\n".join(lines) or "No repair was watched for long enough."


def _workload(arguments: argparse.Namespace) -> dict[str, Any]:
    weeks = [word.partition("=")[::2] for word in arguments.week]
    planned = [finite(work, "The work") for work, _ in weeks]
    found = workload(planned, [finite(hours, "The hours") for _, hours in weeks])
    return {"weeks": [asdict(week) | {"share": week.share if week.there_are else None} for week in found]}


def _say_workload(result: dict[str, Any]) -> str:
    return "\n".join(f"Week {n}: {_say_week(week)}." for n, week in enumerate(result["weeks"], 1))


def _say_week(week: dict[str, Any]) -> str:
    full = "no hours" if week["share"] is None else f"{week['share']:.0%}"
    return f"{week['planned'] + week['carried']:g} of {week['there_are']:g} minutes, {full}"
