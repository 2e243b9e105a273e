"""The two years before the demo's today: driven, looked at, mended. Every figure here is invented."""

from typing import Any


def _set_right(day: int, complaint: str, *hubs: str, mm: float = 0.3) -> dict[str, Any]:
    """Return a visit of the past at which loose tapers were set."""
    felt = [(hub, kind, {"answer": "hub"}) for hub in hubs for kind in ("rock_12_6", "rock_3_9")]
    return {
        "day": day,
        "complaint": complaint,
        "found": felt + [(hub, "spin", {"answer": "free"}) for hub in hubs],
        "play": dict.fromkeys(hubs, mm),
        "mend": dict.fromkeys(hubs, "adjust"),
        "after_play": dict.fromkeys(hubs, 0.05),
        "outcome": f"Nuts set at {' and '.join(hubs)}; 0.05 mm after.",
    }


def _renewed(day: int, complaint: str, hub: str, number: str) -> dict[str, Any]:
    """Return a visit of the past at which a bearing unit was renewed."""
    return {
        "day": day,
        "complaint": complaint,
        "found": [
            ("", "complaint", {"words": ["growl"]}),
            (hub, "spin", {"answer": "rumbles"}),
            (hub, "spring_touch", {"answer": "rough"}),
            (hub, "stethoscope", {"answer": "growls"}),
        ],
        "play": {hub: 0.02},
        "mend": {hub: "replace_unit"},
        "fitted": {hub: number},
        "outcome": f"New bearing unit at {hub}.",
    }


# The two years before today: how far each is driven, what was measured when, and what is still to be looked at.
HISTORY: dict[str, dict[str, Any]] = {
    "trailer": {
        "days": 720,
        "began_km": 31_400,
        "km_a_day": 14.0,
        "visits": [
            {
                "day": day,
                "complaint": "Looked at before the season.",
                "play": {"A2L": left, "A2R": right, "A1L": 0.05, "A1R": 0.06},
                "outcome": "Left as it is.",
            }
            for day, left, right in (
                (20, 0.05, 0.05),
                (150, 0.06, 0.05),
                (260, 0.07, 0.06),
                (390, 0.08, 0.05),
                (520, 0.09, 0.06),
                (650, 0.1, 0.06),
            )
        ]
        + [_set_right(8, "Wanders behind the car.", "A1L", "A1R", "A2L", "A2R")],
        "rechecks": [
            {
                "hub": "A2L",
                "key": "next_service",
                "label": "Play and sound at the next service",
                "asks": "play",
                "why": "Growth over visits gives a date to act by.",
                "days_ago": 200,
                "after_days": 190,
            },
        ],
    },
    "heritage": {
        "days": 700,
        "began_km": 88_120,
        "km_a_day": 6.0,
        "visits": [
            {
                "day": day,
                "complaint": "Yearly look at the front wheels.",
                "play": {"A1L": left, "A1R": right},
                "outcome": outcome,
            }
            for day, left, right, outcome in (
                (15, 0.07, 0.09, "Left as it is."),
                (190, 0.06, 0.14, "Right one near its end; looked at again in half a year."),
                (380, 0.07, 0.2, "Right one loose; the owner takes it slowly until it is set."),
                (560, 0.07, 0.26, "Right one looser still; booked in."),
            )
        ]
        + [_set_right(4, "Steering is vague.", "A1L", "A1R", mm=0.25)],
    },
    "van": {
        "days": 740,
        "began_km": 142_300,
        "km_a_day": 58.0,
        "visits": [
            {
                "day": day,
                "complaint": "Service.",
                "play": {"A2L": play, "A2R": 0.05},
                "outcome": "Left as it is.",
            }
            for day, play in ((60, 0.05), (240, 0.06), (420, 0.06), (600, 0.07))
        ]
        + [
            _set_right(20, "Knocks at the back over kerbs.", "A2L", "A2R"),
            _renewed(95, "Growls from 60 km/h up.", "A1R", "QU-4410"),
            _renewed(285, "Growls again, from the same side.", "A1R", "QU-4410"),
            _renewed(330, "Growls in left-hand bends.", "A1L", "QU-4418"),
        ],
        "rechecks": [
            {
                "hub": "A1R",
                "key": "mate",
                "label": "The other side, left alone",
                "asks": "listen",
                "why": "Bearings of one axle age together.",
                "days_ago": 60,
                "after_days": 180,
                "after_km": 5000,
            },
        ],
    },
    "outreach": {
        "days": 600,
        "began_km": 200_500,
        "km_a_day": 33.0,
        "visits": [
            _set_right(30, "Front wheels shake on the washboard road.", "A1L", "A1R"),
            _set_right(140, "Front left shakes again.", "A1L"),
        ],
    },
    "quad": {
        "days": 300,
        "began_km": 4_100,
        "km_a_day": 4.0,
        "rechecks": [
            {
                "hub": "",
                "key": "water",
                "label": "Look at every hub after the water",
                "asks": "look",
                "why": "Milky grease is found now or not at all.",
                "days_ago": 1,
                "after_days": 1,
            },
        ],
    },
}
