"""A job on paper: one step a line with room to tick by hand, and its lists; the lists as CSV as well."""

from collections.abc import Iterator, Mapping

from cases.models import Case
from hematite.language import later, say, small
from hematite.units import shown
from hematite.wording import wording
from reportlab.lib import colors
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Paragraph, Spacer, Table
from workshop.paper import BODY, SMALL, TITLE, line, made, section, text
from workshop.sheets import as_csv

LISTS = {"tools": later("To lay out"), "parts": later("To buy"), "uses": later("Used up")}
UNITS_OF_TORQUE = "nm"


def sheet(case: Case, work: Mapping, liked: Mapping[str, str]) -> bytes:
    """Return a job's sheet as PDF; `work`: as the screen sees it; torques in the unit that is liked."""
    unit = liked.get("torque", UNITS_OF_TORQUE)
    minutes = work["lists"]["minutes"]
    story = [
        line(say("{name} · job sheet", name=case.workshop.name), SMALL),
        line(case.vehicle.label + (f" ({case.vehicle.plate})" if case.vehicle.plate else ""), TITLE),
        *(line(_job(row)) for row in work["jobs"]),
        line(
            say(
                "By hand about {minutes:.0f} minutes; {waiting:.0f} minutes of waiting, partly beside it.",
                minutes=minutes,
                waiting=work["lists"]["waiting"],
            )
        ),
        *(line(words) for words in work["day"]["blocked"]),
        *(_list(say(title), work["lists"][key]) for key, title in LISTS.items() if work["lists"][key]),
        *section(say("Steps"), [_steps(work["steps"], unit)]),
        Spacer(1, 6),
        line(wording()["no_torque_made_up"], SMALL),
        line(wording()["nothing_above"], SMALL),
    ]
    return made(
        story,
        liked=liked,
        title=say("Job sheet: {label}", label=case.vehicle.label),
        author="",
        subject=case.vehicle.label,
    )


def _job(row: Mapping) -> str:
    then = say(", then {repair_label}", repair_label=small(row["repair_label"])) if row["repair_label"] else ""
    return f"{row['hub']}: {row['choice_label']}{then}"


def _list(title: str, items: list[Mapping]) -> Flowable:
    words = [" ".join(part for part in (i["label"], i["size"], *(f"({h})" for h in i["hubs"])) if part) for i in items]
    return Paragraph(f"<b>{text(title)}:</b> {text(', '.join(words))}", BODY)


def _steps(steps: list[Mapping], unit: str) -> Table:
    rows = [["", line(step["hub"] or say("all"), SMALL), _step(n, step, unit), ""] for n, step in enumerate(steps, 1)]
    table = Table(rows, colWidths=[6 * mm, 12 * mm, 130 * mm, 28 * mm], hAlign="LEFT")
    boxes = [("BOX", (0, n), (0, n), 0.8, colors.black) for n in range(len(rows))]
    done = [("BACKGROUND", (0, n), (0, n), colors.black) for n, step in enumerate(steps) if step["done"]]
    table.setStyle(
        [
            ("LINEBELOW", (1, 0), (-1, -1), 0.25, colors.grey),
            ("VALIGN", (0, 0), (-1, -1), "TOP"),
            *boxes,
            *done,
            *[(f"{side}PADDING", (0, 0), (-1, -1), 2) for side in ("TOP", "BOTTOM", "LEFT", "RIGHT")],
        ]
    )
    return table


def _step(n: int, step: Mapping, unit: str) -> Paragraph:
    torque = torque_words(step["torque"], unit) if step["torque"] else ""
    more = [words for words in (step["see"], torque, *step["cautions"]) if words]
    small = "".join(f"<br/><font size='7.4'>{text(words)}</font>" for words in more)
    return Paragraph(f"{n}. {text(step['do'])}{small}", BODY)


def torque_words(torque: Mapping, unit: str) -> str:
    """Return a torque in words: what to set and its source, else that nobody knows it, a stop-gap marked as that."""
    torque_in = lambda nm: shown(nm, quantity="torque", unit=unit)  # noqa: E731
    if torque["aim_nm"] is not None:
        return f"{torque['label']}: {torque_in(torque['aim_nm'])} ({torque['source']})"
    gap = torque["stop_gap"]
    if gap:
        return say(
            "{label}: not known. Stop-gap {least} to {most}; {source}",
            label=torque["label"],
            least=torque_in(gap["least_nm"]),
            most=torque_in(gap["most_nm"]),
            source=gap["source"],
        )
    return say("{label}: not known; look it up: ______", label=torque["label"])


def lists_csv(work: Mapping) -> str:
    """Return a job's lists as CSV: which list, what, its size, at which hubs, and why."""
    return as_csv(("list", "what", "size", "hubs", "why"), _rows(work["lists"]))


def _rows(lists: Mapping) -> Iterator[list[str]]:
    for key, title in LISTS.items():
        for item in lists[key]:
            yield [say(title), item["label"], item["size"], " ".join(item["hubs"]), item["why"]]
