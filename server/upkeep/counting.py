"""Readings that count, in order of their days: what a new one has to go with."""

from bisect import bisect_left, bisect_right, insort
from collections.abc import Iterable, Iterator
from datetime import date
from uuid import UUID

from hematite.language import say
from workshop.languages import day
from workshop.refusals import Refusal

from upkeep.models import Reading


def _day(row: Reading) -> date:
    return row.on


class Counting:
    """What stands of one vehicle; thousands may be added without reading them again."""

    def __init__(self, rows: Iterable[Reading]) -> None:
        self._rows = sorted(rows, key=_day)

    def add(self, row: Reading) -> None:
        """Let a new one stand."""
        insort(self._rows, row, key=_day)

    def of_day(self, on: date) -> list[Reading]:
        """Return those of a day."""
        return self._rows[bisect_left(self._rows, on, key=_day) : bisect_right(self._rows, on, key=_day)]

    def refuse_a_way_back(self, row: Reading) -> None:
        """Refuse one that reads less than one before, or more than one after it; the one that it corrects is none."""
        first, last = bisect_left(self._rows, row.on, key=_day), bisect_right(self._rows, row.on, key=_day)
        for name, unit in (("km", "km"), ("hours", "h")):
            value = getattr(row, name)
            if value is None:
                continue
            wrong = [
                one
                for one in self._nearest(range(first - 1, -1, -1), name, row.supersedes_id)
                if getattr(one, name) > value
            ]
            wrong += [
                one
                for one in self._nearest(range(last, len(self._rows)), name, row.supersedes_id)
                if getattr(one, name) < value
            ]
            for one in wrong[:1]:
                words = say(
                    "On {day} it stood at {stood:,.0f} {unit}; {value:,.0f} does not go with that. "
                    "Correct the one that is wrong.",
                    day=day(one.on),
                    stood=getattr(one, name),
                    unit=unit,
                    value=value,
                )
                raise Refusal("goes_back", words, status=422)

    def _nearest(self, places: range, name: str, without: UUID | None) -> Iterator[Reading]:
        """Give those of the first day that has a figure: the days beyond it went with it when they were entered."""
        here = None
        for one in map(self._rows.__getitem__, places):
            if getattr(one, name) is None or one.id == without:
                continue
            if here is not None and one.on != here:
                return
            here = one.on
            yield one
