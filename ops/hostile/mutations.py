"""What becomes of a good file or body in hostile hands: bytes, cells and values changed by a seeded dice."""

import copy
import io
import json
import random
import zipfile
from collections.abc import Callable
from typing import Any

WORDS = (b"\x00\x00\x00\x00", b"\xff\xff\xff\xff", b"\xff\xff\xff\x7f", b"\x00\x00\x00\x80", b"\x01\x00\x00\x00")
CELLS = (
    "",
    "-1",
    "1e308",
    "1e-320",
    "nan",
    "inf",
    "0x10",
    "٣",
    "=1+1",
    '"',
    "\x00",
    "9" * 400,
    "31/02/2025",
    "ß" * 3000,
)
VALUES: tuple[Any, ...] = (
    None, True, 0, -1, 2**63, -(2**70), 1e308, 5e-324, "", "NaN", "\x00", "\ud800", "A1L\r\nX: y", "../../etc/passwd",
    "<script>", "x" * 70_000, [], {}, [[[[[]]]]], [None] * 500, {"": {}}, {"__proto__": 1},
)  # fmt: skip
FEW = (1, 1, 2, 3, 8)  # changes to one file


def of_bytes(data: bytes, dice: random.Random) -> bytes:
    """Flip, cut, repeat and overwrite bytes."""
    changed = bytearray(data)
    for _ in range(dice.choice(FEW)):
        at = dice.randrange(len(changed) + 1) if dice.random() < 0.5 else dice.randrange(min(len(changed), 200) + 1)
        dice.choice(BYTES)(changed, at, dice)
        if not changed:
            break
    return bytes(changed)


def _flip(data: bytearray, at: int, dice: random.Random) -> None:
    if at < len(data):
        data[at] ^= 1 << dice.randrange(8)


def _overwrite(data: bytearray, at: int, dice: random.Random) -> None:
    data[at : at + 4] = dice.choice(WORDS)


def _noise(data: bytearray, at: int, dice: random.Random) -> None:
    length = dice.randrange(64)
    data[at : at + length] = dice.randbytes(length)


def _cut(data: bytearray, at: int, dice: random.Random) -> None:
    del data[at : at + dice.randrange(1, 2000)]


def _end(data: bytearray, at: int, _: random.Random) -> None:
    del data[at:]


def _repeat(data: bytearray, at: int, dice: random.Random) -> None:
    data[at:at] = data[at : at + dice.randrange(1, 400)] * dice.randrange(1, 20)


BYTES: tuple[Callable[[bytearray, int, random.Random], None], ...] = (_flip, _overwrite, _noise, _cut, _end, _repeat)


def of_text(data: bytes, dice: random.Random) -> bytes:
    """Change cells, marks and lines of a table; now and then its bytes."""
    if dice.random() < 0.3:
        return of_bytes(data, dice)
    lines = data.decode().split("\n")
    mark = next((mark for mark in ";\t," if mark in lines[0]), ",")
    for _ in range(dice.choice(FEW)):
        at = dice.randrange(len(lines)) if dice.random() < 0.6 else 0
        cells = lines[at].split(mark)
        cells[dice.randrange(len(cells))] = dice.choice(CELLS)
        lines[at] = dice.choice((mark, mark, mark, ";", "\t", " ")).join(cells)
        if dice.random() < 0.2:
            lines[at:at] = [lines[at]] * dice.randrange(2000)
    return "\n".join(lines).encode(errors="surrogatepass")


def of_value(value: Any, dice: random.Random) -> Any:
    """Put something else where a value of a body stands; leave one out; add one."""
    changed = json.loads(json.dumps(value))
    for _ in range(dice.choice(FEW)):
        holder, key = _place(changed, dice)
        if holder is None:
            return _value(dice)
        done = dice.random()
        if done < 0.7:
            holder[key] = _value(dice)
        elif done < 0.85:
            del holder[key]
        elif isinstance(holder, list):
            holder.append(_value(dice))
        else:
            holder[dice.choice(("id", "kind", "\x00", "x" * 300))] = _value(dice)
    return changed


def _value(dice: random.Random) -> Any:
    return copy.deepcopy(dice.choice(VALUES))


def _place(value: Any, dice: random.Random) -> tuple[Any, Any]:
    """Return a list or an object within a value and a place in it, deep ones as likely as others."""
    places: list[tuple[Any, Any]] = []
    waiting = [value]
    while waiting:
        holder = waiting.pop()
        keys = list(holder) if isinstance(holder, dict) else range(len(holder)) if isinstance(holder, list) else []
        places += [(holder, key) for key in keys]
        waiting += [holder[key] for key in keys]
    return dice.choice(places) if places else (None, None)


def of_body(value: Any, dice: random.Random) -> bytes:
    """Return a changed body as it is sent, now and then no JSON at all."""
    sent = json.dumps(of_value(value, dice)).encode()
    return of_bytes(sent, dice) if dice.random() < 0.15 else sent


def of_archive(data: bytes, dice: random.Random) -> bytes:
    """Change the members of a .zip, its list, or its bytes."""
    if dice.random() < 0.35:
        return of_bytes(data, dice)
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        members = {name: archive.read(name) for name in archive.namelist()}
    name = dice.choice(list(members))
    done = dice.random()
    if done < 0.15:
        members[dice.choice(("../x", "/etc/x", "case.json/", name + "\n", "x" * 900))] = members.pop(name)
    elif done < 0.25:
        del members[name]
    elif name.endswith(".json"):
        members[name] = of_body(json.loads(members[name]), dice)
    elif name.endswith(".zip"):
        members[name] = of_archive(members[name], dice)
    else:
        members[name] = of_bytes(members[name], dice)
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", dice.choice((zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED))) as archive:
        for member, content in members.items():
            archive.writestr(member, content)
    return out.getvalue()
