"""A verdict on paper: one page as PDF, black on white, photographs after it."""

import io
from collections.abc import Iterable, Mapping, Sequence
from datetime import datetime
from pathlib import Path
from xml.sax.saxutils import escape

from hematite.units import quantities, shown
from hematite.wording import hardly_moves, percent, wording
from photos.models import Photo
from reportlab.lib import colors
from reportlab.lib.pagesizes import A4, LETTER
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.platypus import Flowable, HRFlowable, Image, PageBreak, Paragraph, SimpleDocTemplate, Spacer, Table
from workshop import media

UNITS = {
    "metric": {name: row["units"][0]["key"] for name, row in quantities().items()},
    "imperial": {"length": "in", "torque": "lbf_ft", "temperature": "f", "speed": "mph"},
}
MARGIN = 15 * mm
MOST_WITNESSES = 7

# A free font that is as wide as the one that every reader has, and writes Latin, Greek and Cyrillic: embedded.
FONTS = Path(__file__).parent / "fonts"
for _name, _file in (("Paper", "LiberationSans-Regular"), ("Paper-Bold", "LiberationSans-Bold")):
    pdfmetrics.registerFont(TTFont(_name, FONTS / f"{_file}.ttf"))
pdfmetrics.registerFontFamily("Paper", normal="Paper", bold="Paper-Bold", italic="Paper", boldItalic="Paper-Bold")
WRITES = frozenset(pdfmetrics.getFont("Paper").face.charToGlyph)

_BODY = ParagraphStyle("body", fontName="Paper", fontSize=8.6, leading=10.8)
_SMALL = ParagraphStyle("small", parent=_BODY, fontSize=7.4, leading=9.2)
_BULLET = ParagraphStyle("bullet", parent=_BODY, leftIndent=9)
_HEAD = ParagraphStyle("head", parent=_BODY, fontName="Paper-Bold", fontSize=9.6, spaceBefore=5, spaceAfter=1.5)
_TITLE = ParagraphStyle("title", parent=_BODY, fontName="Paper-Bold", fontSize=17, leading=20)
_CHOICE = ParagraphStyle("choice", parent=_TITLE, fontSize=14, leading=17)


def pdf(page: Mapping, liked: Mapping[str, str]) -> bytes:
    """Return the verdict's page as PDF. `liked`: the unit for each quantity; inches are printed on letter paper."""
    unit = {"length": liked.get("length", "mm")}
    buffer = io.BytesIO()
    size = LETTER if unit["length"] == "in" else A4
    made = SimpleDocTemplate(
        buffer, pagesize=size, leftMargin=MARGIN, rightMargin=MARGIN, topMargin=12 * mm, bottomMargin=12 * mm,
        title=f"Verdict {page['hub']}: {page['choice_label']}", author=page["person"], subject=page["vehicle_label"],
    )  # fmt: skip
    story = [*_top(page), *_reasons(page), *_facts(page, unit["length"]), *_money(page), *_end(page)]
    made.build([*story, *_photographs(page, made.width)])
    return buffer.getvalue()


def _text(words: object) -> str:
    """Return words fit for the page's font; a letter that it lacks becomes a question mark, markup stays text."""
    return escape("".join(letter if ord(letter) in WRITES else "?" for letter in str(words)))


def _line(words: object, style: ParagraphStyle = _BODY) -> Paragraph:
    return Paragraph(_text(words), style)


def _bullets(lines: Iterable[object]) -> list[Flowable]:
    return [Paragraph(_text(line), _BULLET, bulletText="•") for line in lines]


def _section(title: str, rows: Sequence[Flowable]) -> list[Flowable]:
    return [_line(title, _HEAD), *rows] if rows else []


def _grid(rows: Sequence[Sequence[object]], widths: Sequence[float] | None = None) -> Table:
    cells = [[_line(cell, _SMALL) for cell in row] for row in rows]
    table = Table(cells, colWidths=widths, hAlign="LEFT")
    table.setStyle(
        [
            ("LINEBELOW", (0, 0), (-1, 0), 0.8, colors.black),
            ("LINEBELOW", (0, 1), (-1, -1), 0.25, colors.grey),
            ("VALIGN", (0, 0), (-1, -1), "TOP"),
            *[(f"{side}PADDING", (0, 0), (-1, -1), 1.4) for side in ("TOP", "BOTTOM", "LEFT", "RIGHT")],
        ]
    )
    return table


def _top(page: Mapping) -> list[Flowable]:
    judged = page["judged"]
    at: datetime = page["at"]
    road = page["road"]
    where_from = "" if road["hub"] == page["hub"] else f", for {road['hub']}"
    cause = judged["standing_label"] if judged["cause"] == "sound" else judged["cause_label"]
    certain = "" if judged["cause"] == "sound" else f", {percent(judged['probability'])} likely"
    if judged["cause"] == "bearing" and judged.get("mechanism_label"):
        certain += f"; likeliest {judged['mechanism_label']}, {percent(judged['mechanism_probability'])}"
    where = f"{page['vehicle_label']}, {wording()['sides'].get(page['side'], '')}. {page['design_label']}."
    against = (
        [_line(f"Decided against the advice ({page['advised_label']}): {page['reason']}")] if page["reason"] else []
    )
    return [
        _line(f"{page['workshop']} · verdict of {at:%d %B %Y, %H:%M} UTC, by {page['person']}", _SMALL),
        _line(f"{page['hub']}: {cause}{certain}", _TITLE),
        _line(where),
        *([_line(f"The driver says: {page['complaint']}")] if page["complaint"] else []),
        Spacer(1, 3),
        HRFlowable(width="100%", thickness=2, color=colors.black, spaceAfter=3),
        _line(f"To do: {page['choice_label']}", _CHOICE),
        *against,
        _line(f"How far it can go until then: {road['label']}{where_from}. {' '.join(road['because'])}"),
        HRFlowable(width="100%", thickness=2, color=colors.black, spaceBefore=4),
    ]


def _reasons(page: Mapping) -> list[Flowable]:
    judged = page["judged"]
    rules = judged.get("rules") or [{"because": judged["because"]}]
    others = [f"{other['label']}: {other['because']}" for other in judged.get("alternatives", [])]
    overturned = [f"{one['words']} ({one['hub'] or 'the vehicle'})" for one in page["overturned_by"]]
    return [
        *_section("Reasons", _bullets(rule["because"] for rule in rules[:4])),
        *_section("Then", _bullets([judged["then"]] if judged.get("then") else [])),
        *_section("With it", _bullets(judged.get("also", []))),
        *_section("Why not otherwise", _bullets(others)),
        *_section("What would change it", _bullets([judged["would_change"], *overturned])),
    ]


def _facts(page: Mapping, length: str) -> list[Flowable]:
    judged = page["judged"]
    heavy = sorted(judged["witnesses"], key=lambda row: -abs(row["bits"]))[:MOST_WITNESSES]
    heavy = [row for row in heavy if not hardly_moves(row["bits"])]
    rows = [[row["label"], row["words"], _times(row["bits"])] for row in heavy]
    looked = [f"{one['words']}{_damage(one)}" for one in judged["inspection"]["looked"]]
    read = [
        f"End play at {one['hub']}: mean {_mm(one['mean_mm'], length)}, spread {_mm(one['spread_mm'], length)}; "
        f"window {_mm(one['least_mm'], length)} to {_mm(one['most_mm'], length)} ({one['source']})."
        for one in page["readings"]
    ]
    table = (
        [_grid([["Witness", "Says", "Odds of a bearing fault"], *rows], [43 * mm, 93 * mm, 36 * mm])] if rows else []
    )
    return [*_section("Witnesses", table), *_section("Seen and measured", _bullets([*looked, *read]))]


def _damage(one: Mapping) -> str:
    return f" — {', '.join(one['damage'])}" if one["damage"] else ""


def _times(bits: float) -> str:
    times = 2 ** abs(bits)
    if hardly_moves(bits):
        return "hardly moved"
    return f"{'times' if bits > 0 else 'divided by'} {times:.1f}" if times < 10 else (
        f"{'times' if bits > 0 else 'divided by'} {times:.0f}"
    )  # fmt: skip


def _mm(value: float, unit: str) -> str:
    return shown(value / 1000, quantity="length", unit=unit)


def _money(page: Mapping) -> list[Flowable]:
    prices = page["prices"]
    if not prices:
        return []
    coin = prices["currency"]
    head = ["Choice", f"Now, {coin}", "Days", "Comes back", f"In the end, {coin}", "Days in the end"]
    rows = [
        [
            row["label"] + (" (example figures)" if row["example"] else ""), f"{row['now']:.0f}", f"{row['days']:.1f}",
            percent(row["comeback"]), f"{row['expected']:.0f}", f"{row['expected_days']:.1f}",
        ]
        for row in prices["rows"]
    ]  # fmt: skip
    return _section("What it costs", [_grid([head, *rows], [62 * mm, 20 * mm, 16 * mm, 24 * mm, 28 * mm, 22 * mm])])


def _end(page: Mapping) -> list[Flowable]:
    own = [f"{way['school']}: {way['way']} ({way['reason']})" for way in page["ways"] if way["reason"]]
    return [
        *_section("Cautions", _bullets(page["road"]["cautions"])),
        *_section("Otherwise than the workshop's way", _bullets(own)),
        Spacer(1, 10),
        _line("Signed ______________________________     Date ______________"),
        Spacer(1, 3),
        _line(
            f"{wording()['nothing_above']} Judged by Hematite's core {page['core_version']}; verdict {page['id']}.",
            _SMALL,
        ),
    ]


def _photographs(page: Mapping, width: float) -> list[Flowable]:
    rows = list(Photo.objects.filter(case=page["case"], id__in=page["photos"]))
    if not rows:
        return []
    found: list[Flowable] = [PageBreak(), _line("Photographs", _HEAD)]
    for row in rows:
        wide = min(width, 110 * mm * row.width / max(row.height, 1))
        found += [Image(str(media.path(row.file)), width=wide, height=wide * row.height / row.width), Spacer(1, 2)]
        found += [_line(f"{row.hub}, {row.part.replace('_', ' ')}, {row.at:%d %B %Y, %H:%M} UTC", _SMALL), Spacer(1, 6)]
    return found
