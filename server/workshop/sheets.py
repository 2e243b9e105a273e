"""Tables for spreadsheets."""

import csv
import io
from collections.abc import Iterable, Sequence

FORMULA = ("=", "+", "-", "@", "\t")  # what a spreadsheet takes for one


def as_csv(head: Sequence[str], rows: Iterable[Sequence[str]]) -> str:
    """Return rows below a head as CSV; a cell that begins like a formula is quoted off."""
    text = io.StringIO()
    writer = csv.writer(text)
    writer.writerow(head)
    writer.writerows([f"'{cell}" if cell.startswith(FORMULA) else cell for cell in row] for row in rows)
    return text.getvalue()
