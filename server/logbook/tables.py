"""Reading a book that was kept elsewhere: a CSV of any delimiter, with its own words for the columns."""

import csv
import io
import re
import tomllib
from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import date, datetime
from functools import cache
from pathlib import Path
from typing import Any

from hematite.errors import BadQuantity
from hematite.language import say
from hematite.units import from_si, to_si
from workshop.refusals import Refusal

MOST_LINES = 5000
MOST_BYTES = 4 * 1024 * 1024
SAMPLE = 8192
ORDERS = {"day_first": ("%d/%m/%Y", "%d/%m/%y"), "month_first": ("%m/%d/%Y", "%m/%d/%y")}
PLAIN = ("%Y/%m/%d", "%d %b %Y", "%d %B %Y", "%b %d, %Y", "%B %d, %Y")  # leave nothing open
HEADING = re.compile(r"(?P<name>[^(\[]*?)\s*[(\[](?P<unit>[^)\]]+)[)\]]\s*$")
SLASHED = re.compile(r"\d{1,2}/\d{1,2}/\d{2,4}")
FIGURES = ("km", "play_mm", "torque_nm")


@dataclass
class Table:
    """What was read: columns with what each was taken for ('' for none), lines by number, and what is amiss.

    `open_dates`: every date could be read day first or month first, and nobody said which.
    """

    columns: list[tuple[str, str]]
    lines: list[tuple[int, dict[str, Any]]] = field(default_factory=list)
    amiss: list[str] = field(default_factory=list)
    open_dates: bool = False


@cache
def _known() -> dict[str, Any]:
    return tomllib.loads((Path(__file__).parent / "columns.toml").read_text(encoding="utf-8"))


def read_table(data: bytes, dates: str = "") -> Table:
    """Read a CSV. `dates`: `day_first` or `month_first`, '' where nobody said. Refuses what is no table."""
    if len(data) > MOST_BYTES:
        raise Refusal("too_large", say("The table is larger than 4 MB. Bring it in by parts."), status=413)
    rows = _rows(data)
    if len(rows) < 2:
        raise Refusal(
            "no_table", say("There is no line below a heading in it. Save it as CSV with headings."), status=422
        )
    if len(rows) > MOST_LINES:
        raise Refusal(
            "too_large",
            say("The table has more than {most_lines} lines. Bring it in by parts.", most_lines=MOST_LINES),
            status=413,
        )
    taken = [_column(name) for name in rows[0]]
    found = Table([(name, key) for name, (key, _) in zip(rows[0], taken, strict=True)])
    keys = [key for key, _ in taken if key]
    if "on" not in keys:
        raise Refusal("no_dates", say("No column of it is a date. Call one “date”."), status=422)
    twice = {key for key in keys if keys.count(key) > 1}
    if twice:
        names = ", ".join(f"“{name}”" for name, key in found.columns if key in twice)
        raise Refusal(
            "twice", say("{names} would be the same. Give the one that counts its name alone.", names=names), status=422
        )
    at = [key for key, _ in taken].index("on")
    cells = [row[at] for row in rows[1:] if len(row) > at]
    order = dates or _order(cells)
    found.open_dates = not order
    for n, row in enumerate(rows[1:], 2):
        _line(found, n, row, taken, order or "day_first")
    return found


def _rows(data: bytes) -> list[list[str]]:
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        text = data.decode("cp1252", "replace")
    if "\0" in text:
        raise Refusal("no_table", say("This is no table of text. Save it as CSV."), status=422)
    try:
        dialect: Any = csv.Sniffer().sniff(text[:SAMPLE], ",;\t|")
    except csv.Error:
        dialect = csv.excel
    try:
        rows = [[cell.strip() for cell in row] for row in csv.reader(io.StringIO(text), dialect)]
    except csv.Error:
        raise Refusal("no_table", say("This table cannot be read. Save it as CSV again."), status=422) from None
    return [row for row in rows if any(row)]


def _bare(words: str) -> str:
    return re.sub(r"[\s._:-]+", " ", words).strip().lower()


def _column(heading: str) -> tuple[str, str]:
    """Return what a column is and in which unit, '' for neither."""
    match = HEADING.match(heading)
    name, unit = (match["name"], match["unit"]) if match else (heading, "")
    name, columns = _bare(name), _known()["columns"]
    for key, names in columns.items():
        if name in names:
            return key, _unit(key, unit or ("mi" if name == "miles" else ""))
        for one in names if key in FIGURES and not unit else ():
            if name.startswith(f"{one} ") and (found := _unit(key, name.removeprefix(f"{one} "), strict=False)):
                return key, found
    return "", ""


def _unit(key: str, written: str, *, strict: bool = True) -> str:
    """Return the unit that is meant; the one that is kept where none is written. Refuses an unknown one."""
    if key not in FIGURES:
        return ""
    known = _known()["units"][key]
    if not written:
        return str(known["kept"])
    plain = re.sub(r"[\s.·*-]", "", written).lower()
    for unit, names in known["written"].items():
        if plain in {re.sub(r"[\s.·*-]", "", one).lower() for one in names}:
            return str(unit)
    if strict:
        raise Refusal(
            "unknown_unit",
            say("“{written}” is no unit that is known here for {column}.", written=written, column=key[:-3] or key),
            status=422,
        )
    return ""


def _order(cells: Sequence[str]) -> str:
    """Return in which order day and month stand in all of a column, '' where both would do."""
    slashed = [day for day in map(_slashed, cells) if SLASHED.fullmatch(day)]  # another cell says nothing of the order
    if any("." in cell for cell in cells):
        return "day_first"  # with dots nobody writes the month first
    fit = [name for name in ORDERS if all(_by(cell, ORDERS[name]) for cell in slashed)]
    return fit[0] if len(fit) == 1 or not slashed else "" if fit else "day_first"


def _slashed(cell: str) -> str:
    """Return a day without the hour behind it, its parts between slashes."""
    return re.sub(r"[.-]", "/", cell.split(" ", maxsplit=1)[0])


def _plain(cell: str) -> date | None:
    try:
        return datetime.fromisoformat(cell).date()
    except ValueError:
        return _by(cell.replace("-", "/") if cell[:4].isdigit() else cell, PLAIN)


def _by(cell: str, formats: Sequence[str]) -> date | None:
    for one in formats:
        try:
            return datetime.strptime(cell, one).date()
        except ValueError:
            continue
    return None


def _line(found: Table, n: int, row: list[str], taken: list[tuple[str, str]], order: str) -> None:
    """Read one line into the table, or name what is amiss with it."""
    if len(row) > len(taken):
        found.amiss.append(say("Line {n}: it has more cells than there are headings.", n=n))
        return
    data: dict[str, Any] = {}
    try:
        for (key, unit), cell in zip(taken, row, strict=False):
            if key and cell:
                data[key] = _cell(key, unit, cell, order)
    except (Refusal, BadQuantity) as wrong:
        found.amiss.append(say("Line {n}: {wrong}", n=n, wrong=wrong))
        return
    if "on" not in data:
        found.amiss.append(say("Line {n}: it has no date.", n=n))
        return
    found.lines.append((n, data | {"kind": _kind(data)}))


def _cell(key: str, unit: str, cell: str, order: str) -> Any:
    if key == "on":
        day = _plain(cell) or _by(_slashed(cell), ORDERS[order])
        if day is None:
            raise Refusal("no_date", say("“{cell}” is no date.", cell=cell[:30]))
        return day
    if key not in FIGURES:
        return cell.lstrip("'") if cell[:1] == "'" else cell
    known = _known()["units"][key]
    si = to_si(_number(cell, whole=key == "km"), quantity=known["quantity"], unit=unit)
    return from_si(si, quantity=known["quantity"], unit=known["kept"])


def _number(cell: str, *, whole: bool) -> float:
    """Return a figure with decimal point or comma. `whole`: no odometer has three decimals, 87.654 are thousands."""
    plain = re.sub(r"[\s\u00a0\u202f']", "", cell)
    if "," in plain and "." in plain:
        thousands = "," if plain.rindex(".") > plain.rindex(",") else "."
        plain = plain.replace(thousands, "")
    elif whole and re.fullmatch(r"[1-9]\d{0,2}([.,]\d{3})+", plain):
        plain = re.sub(r"[.,]", "", plain)
    try:
        return float(plain.replace(",", "."))
    except ValueError:
        raise BadQuantity(say("“{cell}” is no figure.", cell=cell[:30])) from None


def _kind(data: dict[str, Any]) -> str:
    """Return what was done, by the word of the line, else by what it gives."""
    said = _bare(str(data.get("kind") or ""))
    for key, words in _known()["kinds"].items():
        if any(said == word or said.startswith(f"{word} ") for word in words):
            return key
    if said:
        return "note"
    given = (("part", "fitted"), ("play_mm", "measured"), ("torque_nm", "torqued"), ("grease", "greased"))
    by_figure = next((kind for name, kind in given if name in data), "")
    return by_figure or ("odometer" if set(data) <= {"on", "km", "by"} and "km" in data else "note")
