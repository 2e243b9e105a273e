"""Verdicts as the screens and the paper show them: from the frozen snapshot alone."""

from django.http import Http404
from django.utils.functional import cached_property
from hematite.bundles import vehicle_from_json
from hematite.hubs import design
from hematite.play import end_play
from hematite.policy import schools
from hematite.verdict import choices
from policies.shown import schools_out

from verdicts.models import Departure, Verdict

# What a verdict of before rules had levels did not know.
NEVER_ASKED = {
    "road": {"key": "", "label": "Not asked then", "because": [], "cautions": []},
    "inspection": {"complete": False, "looked": []},
}


def verdict_out(row: Verdict, news: int = 0) -> dict:
    """Return a verdict for a list."""
    return {
        "id": row.id,
        "hub": row.hub,
        "choice": row.choice,
        "choice_label": choices()[row.choice],
        "advised": row.advised,
        "reason": row.reason,
        "because": row.assessment["hubs"][row.hub]["because"],
        "core_version": row.core_version,
        "person": row.person.shown_name,
        "at": row.at,
        "news": news,
    }


def departure_out(row: Departure) -> dict:
    """Return a departure for the screen."""
    return {
        "school": row.school,
        "option": row.option,
        "reason": row.reason,
        "person": row.person.shown_name,
        "at": row.at,
    }


def deciding_out(found: dict) -> dict:
    """Return what there is to decide with."""
    return {
        "prices": found["prices"],
        "schools": schools_out(found["policy"]),
        "departures": [departure_out(row) for row in found["departures"]],
    }


class VerdictPage:
    """One verdict, read from its snapshot."""

    def __init__(self, row: Verdict, news: int = 0) -> None:
        """Take a verdict with its case and person; `news`: what came since."""
        self.row, self.news = row, news

    @cached_property
    def judged(self) -> dict:
        """Return what was believed of the hub."""
        return NEVER_ASKED | self.row.assessment["hubs"][self.row.hub]

    @cached_property
    def vehicle(self):
        """Return the vehicle as it was then."""
        return vehicle_from_json(self.row.snapshot["vehicle"]) if self.row.snapshot else None

    @property
    def ways(self) -> list[dict]:
        """Return the workshop's ways, this case's own with their reasons."""
        own = {one["school"]: one["reason"] for one in self.row.snapshot.get("departures", [])}
        chosen = self.row.snapshot.get("policy", {}).get("schools", {})
        return [
            {"school": schools()[key].label, "way": option.label, "reason": own.get(key, "")}
            for key, way in chosen.items()
            if key in schools() and (option := schools()[key].option(way))
        ]

    @property
    def readings(self) -> list[dict]:
        """Return the dial readings of the hub and its neighbours, against their windows."""
        found = []
        for one in self.row.snapshot.get("observations", []):
            hub = self.vehicle.hub(one["hub"])
            if one["kind"] != "end_play" or "readings_mm" not in one or hub is None:
                continue
            play = end_play(one["readings_mm"], hub.play_window_mm, resolution_mm=one.get("resolution_mm") or 0.01)
            found.append(
                {
                    "hub": hub.id,
                    "mean_mm": play.mean_mm,
                    "spread_mm": play.spread_mm,
                    "least_mm": play.low_mm,
                    "most_mm": play.high_mm,
                    "source": hub.window_source,
                }
            )
        return found

    def out(self) -> dict:
        """Return the whole page."""
        row, case = self.row, self.row.case
        hub = self.vehicle.hub(row.hub) if self.vehicle else None
        same = [other.id for other in case.verdicts.all() if other.hub == row.hub]
        if row.id not in same:
            raise Http404  # deleted in this moment
        at = same.index(row.id)
        return verdict_out(row, self.news) | {
            "case": case.id,
            "vehicle_label": case.vehicle.label,
            "complaint": case.complaint,
            "workshop": case.workshop.name,
            "design_label": design(hub.design_key).label if hub else "",
            "side": hub.side if hub else "",
            "advised_label": choices().get(row.advised, row.advised),
            "judged": self.judged,
            "road": row.assessment.get("road") or self.judged["road"] | {"hub": row.hub},
            "overturned_by": row.assessment.get("overturned_by", []),
            "prices": row.snapshot.get("prices"),
            "ways": self.ways,
            "readings": self.readings,
            "photos": [one["id"] for one in row.snapshot.get("photos", []) if one["hub"] == row.hub],
            "recordings": len(row.snapshot.get("recordings", [])),
            "newer": same[at + 1] if at + 1 < len(same) else None,
            "older": same[at - 1] if at else None,
        }
