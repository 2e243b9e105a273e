"""Paper: the font, the styles and the few pieces that every printed page is made of."""

import io
from collections.abc import Iterable, Mapping, Sequence
from pathlib import Path
from xml.sax.saxutils import escape

from hematite.language import figure
from hematite.units import from_si, quantities
from reportlab.lib import colors
from reportlab.lib.pagesizes import A4, LETTER
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.platypus import Flowable, Paragraph, SimpleDocTemplate, Table

UNITS = {
    "metric": {name: row["units"][0]["key"] for name, row in quantities().items()},
    "imperial": {"length": "in", "torque": "lbf_ft", "temperature": "f", "speed": "mph"},
}
MARGIN = 15 * mm

# A free font that is as wide as the one that every reader has, and writes Latin, Greek and Cyrillic: embedded.
FONTS = Path(__file__).parent / "fonts"
for _name, _file in (("Paper", "LiberationSans-Regular"), ("Paper-Bold", "LiberationSans-Bold")):
    pdfmetrics.registerFont(TTFont(_name, FONTS / f"{_file}.ttf"))
pdfmetrics.registerFontFamily("Paper", normal="Paper", bold="Paper-Bold", italic="Paper", boldItalic="Paper-Bold")
WRITES = frozenset(pdfmetrics.getFont("Paper").face.charToGlyph)

BODY = ParagraphStyle("body", fontName="Paper", fontSize=8.6, leading=10.8)
SMALL = ParagraphStyle("small", parent=BODY, fontSize=7.4, leading=9.2)
BULLET = ParagraphStyle("bullet", parent=BODY, leftIndent=9)
HEAD = ParagraphStyle("head", parent=BODY, fontName="Paper-Bold", fontSize=9.6, spaceBefore=5, spaceAfter=1.5)
TITLE = ParagraphStyle("title", parent=BODY, fontName="Paper-Bold", fontSize=17, leading=20)
CHOICE = ParagraphStyle("choice", parent=TITLE, fontSize=14, leading=17)


def distance(km: float, liked: Mapping[str, str]) -> str:
    """Return a distance in km, or in miles where miles an hour are liked."""
    if liked.get("speed") != "mph":
        return f"{figure(km, ',.0f')} km"
    return f"{figure(from_si(km / 3.6, quantity='speed', unit='mph'), ',.0f')} mi"  # an hour of so many km/h, in mph


def text(words: object) -> str:
    """Return words fit for the page's font; a letter that it lacks becomes a question mark, markup stays text."""
    return escape("".join(letter if ord(letter) in WRITES else "?" for letter in str(words)))


def line(words: object, style: ParagraphStyle = BODY) -> Paragraph:
    """Return a paragraph."""
    return Paragraph(text(words), style)


def bullets(lines: Iterable[object]) -> list[Flowable]:
    """Return a list, a bullet each."""
    return [Paragraph(text(line), BULLET, bulletText="•") for line in lines]


def section(title: str, rows: Sequence[Flowable]) -> list[Flowable]:
    """Return rows under a title; nothing where there are none."""
    return [line(title, HEAD), *rows] if rows else []


def grid(rows: Sequence[Sequence[object]], widths: Sequence[float] | None = None) -> Table:
    """Return a table, its first row the head."""
    cells = [[line(cell, SMALL) for cell in row] for row in rows]
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


def made(story: Sequence[Flowable], *, liked: Mapping[str, str], title: str, author: str, subject: str) -> bytes:
    """Return a PDF of what is told; inches are printed on letter paper."""
    buffer = io.BytesIO()
    size = LETTER if liked.get("length") == "in" else A4
    page = SimpleDocTemplate(
        buffer, pagesize=size, leftMargin=MARGIN, rightMargin=MARGIN, topMargin=12 * mm, bottomMargin=12 * mm,
        title=title, author=author, subject=subject,
    )  # fmt: skip
    page.build(list(story))
    return buffer.getvalue()
