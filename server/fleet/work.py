"""The work to come: rechecks by week and what is left of open jobs against the hours there are; parts to order."""

from collections import defaultdict
from datetime import date, timedelta
from uuid import UUID

from cases.left import Left, left_of
from cases.models import Case, Observation
from cases.services import listed
from django.db.models import Count, Exists, OuterRef, Subquery
from django.db.models.functions import TruncWeek
from django.utils import timezone
from hematite.evidence.observations import PARTS
from hematite.fleet import workload
from hematite.upkeep import asks
from people.models import User
from policies.services import policy_of
from upkeep.models import Recheck
from verdicts.models import Verdict

WEEKS = 8
MOST = 1000  # open cases with a job that are counted
WORKDAYS = 5  # of a week: judgement, until a workshop says otherwise


def open_work(user: User) -> tuple[list[tuple[Case, Left]], int]:
    """Return the open cases in which something was decided and is not yet done, each with what is left of it.

    And how many more there are than are counted.
    """
    parts = Observation.objects.filter(case=OuterRef("pk"), kind=PARTS, withdrawn=False, superseded_by=None)
    decided = Verdict.objects.filter(case=OuterRef("pk"))
    rows = Case.objects.seen_by(user).filter(Exists(decided), closed_at=None)
    rows = rows.annotate(said=Subquery(parts.order_by("-at").values("value")[:1]))
    cases = list(listed(rows)[:MOST])
    more = rows.count() - MOST if len(cases) == MOST else 0
    lefts = left_of(cases)
    return [(case, lefts[case.id]) for case in cases if not lefts[case.id].finished], more


def weeks(user: User, jobs: list[tuple[Case, Left]]) -> list[dict]:
    """Return the weeks from this one on: minutes of rechecks and of jobs, and how full each is."""
    today = timezone.localdate()
    first = today - timedelta(days=today.weekday())
    looks = _looks(user, first)
    left = sum(work.minutes for _, work in jobs)
    planned = [looks[n] + (left if n == 0 else 0.0) for n in range(WEEKS)]
    found = workload(planned, _hours(user, today))
    return [
        {
            "begins": first + timedelta(weeks=n),
            "looks": looks[n],
            "jobs": left if n == 0 else 0.0,
            "carried": week.carried,
            "there_are": week.there_are,
            "share": week.share if week.there_are else None,
        }
        for n, week in enumerate(found)
    ]


def _looks(user: User, first: date) -> list[float]:
    """Return the minutes of the rechecks of each week; what is overdue is this week's."""
    rows = Recheck.objects.seen_by(user).filter(done_at=None, expected_on__lt=first + timedelta(weeks=WEEKS))
    counted = rows.annotate(week=TruncWeek("expected_on")).values_list("week", "asks").annotate(Count("id"))
    minutes = [0.0] * WEEKS
    for week, kind, count in counted.order_by():
        known = asks().get(kind)
        minutes[max(0, (week - first).days // 7)] += count * (known.minutes if known else 0.0)
    return minutes


def _hours(user: User, today: date) -> list[float]:
    """Return the minutes of hands that each week has; of this one what is left of it."""
    shop = policy_of(user.workshop_id).shop
    a_day = (shop.closes_h - shop.opens_h) * 60.0 * shop.hands
    left = max(0, WORKDAYS - today.weekday())
    return [a_day * left, *[a_day * WORKDAYS] * (WEEKS - 1)]


def parts(jobs: list[tuple[Case, Left]]) -> list[dict]:
    """Return the parts of all open jobs, alike ones together; what was ordered already, or is here, is left out.

    Of parts of which nobody wrote down which they are nobody knows either whether they are alike.
    """
    found: dict[tuple[str, str, UUID | None], list[tuple[Case, tuple[str, ...]]]] = defaultdict(list)
    for case, left in jobs:
        if (case.said or {}).get("answer") in ("ordered", "here"):
            continue
        for item in left.parts:
            found[item.label, item.size, None if item.size else case.id].append((case, item.hubs))
    rows = [
        {
            "label": label,
            "size": size,
            "count": sum(len(hubs) for _, hubs in wanted),
            "wanted": [
                {"case": case.id, "vehicle_label": case.vehicle.label, "hubs": list(hubs)} for case, hubs in wanted
            ],
        }
        for (label, size, _), wanted in found.items()
    ]
    return sorted(rows, key=lambda row: (row["label"], row["size"]))
