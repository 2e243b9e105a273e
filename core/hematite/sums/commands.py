"""The setting bench on the command line: `python -m hematite nut --thread M24×1.5 --angle-deg 30`."""

import argparse
from dataclasses import asdict
from typing import Any

from hematite.errors import BadQuantity
from hematite.sums import Field, sums, work_out


def add_sums(commands: Any) -> list[argparse.ArgumentParser]:
    """Add a command for every sum, its options made from its fields."""
    made = []
    for one in sums().values():
        command = commands.add_parser(one.key.replace("_", "-"), help=one.label.lower())
        for field in one.fields:
            command.add_argument(_option(field), dest=field.key, help=_help(field), **_takes(field))
        command.set_defaults(run=_run, say=_say, sum=one.key)
        made.append(command)
    return made


def _option(field: Field) -> str:
    return f"--{field.key.replace('_', '-')}"


def _help(field: Field) -> str:
    choices = ", ".join(key for key, _ in field.options if key)
    return " ".join(
        part for part in (field.label, f"[{field.unit}]" if field.unit else "", choices, field.hint) if part
    )


def _takes(field: Field) -> dict[str, Any]:
    if field.kind == "tick":
        return {"action": "store_true", "default": None}
    if field.kind in ("numbers", "stock", "choices"):
        return {"action": "append", "metavar": "0.5×4" if field.kind == "stock" else field.key.upper()}
    return {}


def _run(arguments: argparse.Namespace) -> dict[str, Any]:
    one = sums()[arguments.sum]
    given = {field.key: getattr(arguments, field.key) for field in one.fields}
    stocks = [field.key for field in one.fields if field.kind == "stock"]
    given |= {key: [_shim(text) for text in given[key]] for key in stocks if given[key]}
    answer = work_out(arguments.sum, given)
    lacks = {field.key: _option(field) for field in one.fields}
    return asdict(answer) | {"source": one.source, "wants": [lacks[key] for key in answer.missing]}


def _shim(text: str) -> dict[str, Any]:
    """Return a thickness with how many there are of it: 0.5 or 0.5×4. Raises `BadQuantity`."""
    thickness, times, many = text.replace("x", "×").partition("×")
    if times and not many.isdigit():
        raise BadQuantity(f"“{text}” is no thickness with a count. Write it as 0.5×4.")
    return {"mm": thickness, "count": int(many) if times else None}


def _say(result: dict[str, Any]) -> str:
    lines = [result["line"]] if result["line"] else []
    lines += [f"Still to be given: {', '.join(result['wants'])}."] if result["wants"] else []
    lines += [f"  {label}: {words}" for label, words in result["working"]]
    return "\n".join([*lines, *result["says"], f"Source: {result['source']}"])
