"""The sticker on the door post: vehicle, what is due when, and a code that leads to the vehicle."""

import io
from collections.abc import Mapping, Sequence

import segno
from garage.models import Vehicle
from hematite.language import say
from reportlab.lib.units import mm
from reportlab.lib.utils import ImageReader, simpleSplit
from reportlab.pdfgen.canvas import Canvas
from workshop.paper import WRITES

from upkeep.models import Recheck
from upkeep.words import by_when, label_of

WIDE, HIGH = 74 * mm, 52 * mm  # an eighth of a small sheet
CODE, EDGE = 27 * mm, 3 * mm
MOST = 4  # lines that fit
DOTS = 8  # a module of the code


def qr_png(address: str) -> bytes:
    """Return an address as a QR code, its correction level high enough for greasy fingers."""
    picture = io.BytesIO()
    segno.make(address, error="q", micro=False).save(picture, kind="png", scale=DOTS, border=4)
    return picture.getvalue()


def sticker(vehicle: Vehicle, rows: Sequence[Recheck], *, address: str, liked: Mapping[str, str]) -> bytes:
    """Return a vehicle's sticker as PDF: what is due next, in the reader's own distances, and the code."""
    regular, bold = "Paper", "Paper-Bold"
    buffer = io.BytesIO()
    page = Canvas(buffer, pagesize=(WIDE, HIGH))
    page.setTitle(say("Sticker: {label}", label=vehicle.label))
    page.setFont(bold, 11)
    page.drawString(EDGE, HIGH - EDGE - 9, _cut(vehicle.label, bold, 11, WIDE - 2 * EDGE))
    page.setFont(regular, 7)
    whose = ", ".join(filter(None, (vehicle.workshop.name, vehicle.plate)))
    page.drawString(EDGE, HIGH - EDGE - 18, _cut(whose, regular, 7, WIDE - 2 * EDGE))
    page.drawImage(ImageReader(io.BytesIO(qr_png(address))), WIDE - CODE - EDGE, EDGE, CODE, CODE)
    y, across = HIGH - EDGE - 30, WIDE - CODE - 3 * EDGE
    for row in rows[:MOST]:
        page.setFont(bold, 7.5)
        page.drawString(
            EDGE, y, _cut(f"{row.hub} {label_of(row)}".strip(), bold, 7.5, across if y < CODE else WIDE - 6)
        )
        page.setFont(regular, 7.5)
        page.drawString(EDGE, y - 9, by_when(row, liked))
        y -= 21
    page.save()
    return buffer.getvalue()


def _cut(words: str, font: str, size: float, width: float) -> str:
    lines = simpleSplit("".join(letter if ord(letter) in WRITES else "?" for letter in words), font, size, width)
    return lines[0] + ("…" if len(lines) > 1 else "") if lines else ""
