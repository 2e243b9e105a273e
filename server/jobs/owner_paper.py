"""The owner's page on paper: one page in plain words, with pictures and the sound before and after."""

from collections.abc import Iterable, Mapping

from hematite.language import say, small
from photos.models import Photo
from reportlab.graphics.charts.lineplots import LinePlot
from reportlab.graphics.shapes import Drawing, Line, String
from reportlab.lib import colors
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Image, Spacer, Table
from upkeep.models import Recheck
from upkeep.words import by_when, label_of, why_of
from workshop import media
from workshop.paper import BODY, HEAD, SMALL, TITLE, bullets, grid, line, made, section

from jobs.owner import curve

WIDE, HIGH = 170 * mm, 42 * mm
PICTURE = 40 * mm
BEFORE, AFTER = colors.HexColor("#22343f"), colors.HexColor("#93301b")


def pdf(page: Mapping, rechecks: Iterable[Recheck], liked: Mapping[str, str]) -> bytes:
    """Return the owner's page as PDF, distances as `liked`."""
    plate = f" ({page['plate']})" if page["plate"] else ""
    story = [
        line(f"{page['workshop']} · {page['person']}", SMALL),
        line(page["vehicle_label"] + plate, TITLE),
        *([line(say("You told us: {complaint}", complaint=page["complaint"]))] if page["complaint"] else []),
        *(flowable for job in page["jobs"] for flowable in _job(job)),
        *([line(say("How it ended: {outcome}", outcome=page["outcome"]))] if page["outcome"] else []),
        *_pictures(page["photos"]),
        *_open(page),
        *section(say("Please come back"), bullets(_again(row, liked) for row in rechecks)),
        Spacer(1, 4),
        line(page["nothing_above"], SMALL),
    ]
    label = page["vehicle_label"]
    return made(
        story, liked=liked, title=say("For the owner: {label}", label=label), author=page["person"], subject=label
    )


def _job(job: Mapping) -> list[Flowable]:
    rows = [[c["label"], "; ".join(c["before"]) or say("nothing noted"), c["after"]] for c in job["checks"]]
    return [
        line(f"{job['where'].capitalize()} ({job['hub']}): {small(job['decided'])}", HEAD),
        *section(say("What we found"), bullets(job["found"])),
        *([line(say("New: {parts}.", parts=", ".join(job["parts"])))] if job["parts"] and not job["untouched"] else []),
        *([grid([[say("Checked"), say("Before"), say("After")], *rows], (48 * mm, 72 * mm, 50 * mm))] if rows else []),
        *([line(say("By its sound: {sound}", sound=job["sound"]), BODY)] if job["sound"] else []),
        *_sounds(job),
    ]


def _sounds(job: Mapping) -> list[Flowable]:
    """Return both sounds over each other, by what repeats in a turn of the wheel."""
    both = [
        (name, colour, curve(job[key]))
        for name, colour, key in (("before", BEFORE, "before"), ("after", AFTER, "after"))
    ]
    known = [(name, colour, found) for name, colour, found in both if found]
    if not job["after"] or not known:
        return []
    drawing, plot = Drawing(WIDE, HIGH), LinePlot()
    plot.x, plot.y, plot.width, plot.height = 12 * mm, 8 * mm, WIDE - 16 * mm, HIGH - 14 * mm
    # What lies below the floor says nothing, and would run over the text below.
    plot.data = [[(x, max(0.0, y)) for x, y in zip(*found, strict=True)] for _, _, found in known]
    for n, (_, colour, _) in enumerate(known):
        plot.lines[n].strokeColor, plot.lines[n].strokeWidth = colour, 0.7
    for axis in (plot.xValueAxis, plot.yValueAxis):
        axis.labels.fontName, axis.labels.fontSize = "Paper", 6
    plot.yValueAxis.valueMin = 0
    drawing.add(plot)
    drawing.add(String(12 * mm, HIGH - 4 * mm, say("What repeats, dB over the floor"), fontName="Paper", fontSize=6.5))
    drawing.add(String(WIDE - 40 * mm, 0.5 * mm, say("times a turn of the wheel"), fontName="Paper", fontSize=6.5))
    for n, (name, colour, _) in enumerate(known):
        x = WIDE - (50 - 24 * n) * mm
        drawing.add(Line(x, HIGH - 3 * mm, x + 6 * mm, HIGH - 3 * mm, strokeColor=colour, strokeWidth=1.4))
        drawing.add(String(x + 7 * mm, HIGH - 4 * mm, name, fontName="Paper", fontSize=6.5))
    return [drawing]


def _pictures(ids: list) -> list[Flowable]:
    rows = list(Photo.objects.filter(id__in=ids).order_by("at"))
    if not rows:
        return []
    made_small = [Image(str(media.path(r.file)), width=PICTURE, height=PICTURE * r.height / r.width) for r in rows]
    return [Spacer(1, 3), Table([made_small], hAlign="LEFT")]


def _open(page: Mapping) -> list[Flowable]:
    left = [f"{job['hub']}: {small(words)}" for job in page["jobs"] for words in job["open"]]
    why = (
        [line(say("Why: {unproven_because}", unproven_because=page["unproven_because"]))]
        if left and page["unproven_because"]
        else []
    )
    return [*section(say("Still open"), bullets(left)), *why]


def _again(row: Recheck, liked: Mapping[str, str]) -> str:
    where = f" ({row.hub})" if row.hub else ""
    return f"{label_of(row)}{where}: {by_when(row, liked)}. {why_of(row)}"
