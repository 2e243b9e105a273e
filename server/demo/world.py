"""The Quillmere Library Service: a made-up county's travelling library. Every figure here is invented."""

from typing import Any

SEALED_13 = [
    {"row": row, "elements": 13, "element_diameter_mm": 12.7, "pitch_diameter_mm": 62.0, "contact_angle_deg": 36.0}
    for row in ("inboard", "outboard")
]
TAPERS = [
    {
        "row": "inboard",
        "elements": 17,
        "element_diameter_mm": 8.4,
        "pitch_diameter_mm": 53.0,
        "contact_angle_deg": 14.0,
    },
    {
        "row": "outboard",
        "elements": 15,
        "element_diameter_mm": 7.2,
        "pitch_diameter_mm": 40.0,
        "contact_angle_deg": 13.0,
    },
]
PRESSED_12 = [
    {"row": row, "elements": 12, "element_diameter_mm": 9.5, "pitch_diameter_mm": 48.0, "contact_angle_deg": 32.0}
    for row in ("inboard", "outboard")
]
CARTRIDGE_9 = [
    {"row": "left", "elements": 9, "element_diameter_mm": 7.94, "pitch_diameter_mm": 38.5},
    {"row": "right", "elements": 9, "element_diameter_mm": 7.94, "pitch_diameter_mm": 38.5},
]


# What is fitted at the bookmobile's front wheels, and its torque book there: invented like everything here.
VAN_FRONT = {
    "fittings": {"brake": "disc", "wear_sensor": "no", "sensor": "yes", "wheel_spacer": "no", "anti_roll_bar": "yes"},
    "fastenings": {
        "wheel_nut": {
            "least_nm": 150.0,
            "most_nm": 170.0,
            "source": "manual",
            "page": "p. 212",
            "socket_mm": 21.0,
            "count": 5,
        },
        "axle_nut": {"least_nm": 290.0, "source": "manual", "page": "p. 214", "socket_mm": 36.0, "one_time": True},
        "unit_bolts": {"least_nm": 95.0, "most_nm": 105.0, "source": "manual", "page": "p. 214", "count": 4},
        "caliper_bracket": {"thread": "M12×1.75", "grade": "10.9"},
    },
}
# The adjusting nuts of the others: thread, castle and the torque before it is backed off.
TRAILER_NUT = {
    "fastenings": {
        "nut_set": {"least_nm": 2.0, "most_nm": 2.3, "source": "plate", "thread": "1-14 UNS", "slots": 6, "holes": 2},
        "wheel_nut": {"least_nm": 110.0, "source": "plate", "count": 5},
    },
}
HERITAGE_NUT = {
    "fastenings": {
        "nut_set": {"least_nm": 12.0, "source": "told", "thread": "3/4-16 UNF", "slots": 6, "holes": 2},
        "wheel_nut": {"least_nm": 95.0, "source": "manual", "page": "p. 31", "count": 6},
    },
}
OUTREACH_NUT = {
    "fittings": {"nut_lock": "plate"},
    "fastenings": {
        "nut_seat": {"least_nm": 175.0, "source": "manual", "page": "p. 96", "thread": "M50×1.5"},
        "nut_set": {"least_nm": 24.0, "source": "manual", "page": "p. 96", "slots": 12},
        "wheel_nut": {"least_nm": 140.0, "source": "manual", "page": "p. 12", "count": 6},
    },
}


def _axle(
    number: int,
    design: str,
    bearings: list[dict],
    *,
    driven: bool = False,
    steered: bool = False,
    book: dict[str, Any] | None = None,
) -> dict:
    hubs = [
        {"id": f"A{number}{side[0].upper()}", "side": side, "design": design, "bearings": bearings} | (book or {})
        for side in ("left", "right")
    ]
    return {"driven": driven, "steered": steered, "hubs": hubs}


def _centre(number: int, design: str, bearings: list[dict], *, steered: bool = False) -> dict:
    hub = {"id": f"A{number}C", "side": "centre", "design": design, "bearings": bearings}
    return {"driven": False, "steered": steered, "hubs": [hub]}


VEHICLES: dict[str, dict[str, Any]] = {
    "van": {
        "label": "Bookmobile 2",
        "tyre": "215/65 R16",
        "axles": [
            _axle(1, "hub_unit", SEALED_13, driven=True, steered=True, book=VAN_FRONT),
            _axle(2, "taper_clamp", TAPERS),
        ],
    },
    "outreach": {
        "label": "Outreach 4x4",
        "tyre": "235/85 R16",
        "axles": [
            _axle(1, "taper_locknut", TAPERS, driven=True, steered=True, book=OUTREACH_NUT),
            _axle(2, "axle_retained", [], driven=True),
        ],
    },
    "trailer": {
        "label": "Reading-room trailer",
        "tyre": "185 R14C",
        "age_years": 11.0,
        "duty": ["long_tows", "stood"],
        "axles": [_axle(n, "taper_pressurised", TAPERS, book=TRAILER_NUT) for n in (1, 2)],
    },
    "heritage": {
        "label": "Heritage display van",
        "tyre": "165 R15",
        "axles": [
            _axle(1, "taper_castle", TAPERS, steered=True, book=HERITAGE_NUT),
            _axle(2, "taper_shimmed", [], driven=True),
        ],
    },
    "quad": {
        "label": "Grounds quad",
        "tyre": "AT25x8-12",
        "duty": ["water", "dust"],
        "axles": [
            _axle(1, "pressed_double_row", PRESSED_12, driven=True, steered=True),
            _axle(2, "pressed_double_row", PRESSED_12, driven=True),
        ],
    },
    "trike": {
        "label": "Story trike",
        "tyre": "47-406",
        "axles": [_axle(1, "cartridge_pair", CARTRIDGE_9, steered=True), _centre(2, "cup_cone", [])],
    },
}

# What the workshop has.
SHOP: dict[str, Any] = {
    "press_t": 12.0,
    "wrenches": [
        {"label": "Small, inch-pounds", "least_nm": 1.0, "most_nm": 6.0},
        {"label": "Half-inch", "least_nm": 20.0, "most_nm": 200.0},
        {"label": "Long bar", "least_nm": 100.0, "most_nm": 500.0},
    ],
    "shims": [{"mm": mm, "count": many} for mm, many in ((0.1, 6), (0.15, 4), (0.25, 4), (0.5, 3), (1.0, 4))],
}

# A run on a quiet road at 80 km/h, with bends both ways and a coast, as a helper marked it.
ROAD_BENDS = [
    {"start_s": 3.5 * n, "end_s": 3.5 * (n + 1), "state": state, "speed_kmh": 80.0}
    for n, state in enumerate(("straight", "left", "right", "left", "right", "coast"))
]

# Cases: who, what is hidden where, what is recorded and found, and how far the work is.
CASES: list[dict[str, Any]] = [
    {
        "vehicle": "van",
        "complaint": "Growl from 60 km/h up, swells in right-hand bends. Reads worst with a full load of books.",
        "hidden": {"A1L": "outer_race"},
        "record": ["A1L", "A1R", "A2L", "A2R"],
        "road": ROAD_BENDS,
        "found": [
            ("", "complaint", {"words": ["growl"]}),
            ("", "load_test", {"answer": "right"}),
            ("A1L", "spin", {"answer": "rumbles"}),
            ("A1R", "spin", {"answer": "free"}),
        ],
        "play": {"A1L": [0.02, 0.01, 0.02], "A1R": [0.01, 0.01, 0.01]},
        "decide": ("A1L", "replace_unit"),
        "done": 4,  # steps of the job that are ticked already
    },
    {
        "vehicle": "heritage",
        "complaint": "Vague steering; failed its inspection for a ball joint, front right.",
        "hidden": {"A1R": "loose"},
        "record": ["A1L", "A1R"],
        "found": [
            ("", "complaint", {"words": ["joint", "wobble"]}),
            ("A1R", "rock_12_6", {"answer": "hub"}),
            ("A1R", "rock_3_9", {"answer": "hub"}),
            ("A1R", "brake_held", {"answer": "vanishes"}),
            ("A1R", "spin", {"answer": "free"}),
        ],
        "play": {"A1R": [0.31, 0.29, 0.30], "A1L": [0.06, 0.07, 0.06]},
        "decide": ("A1R", "adjust"),
        "after_play": {"A1R": [0.07, 0.06, 0.07]},
        "close": "Nut set from 0.30 to 0.07 mm. The joint was sound; only the nut was loose.",
    },
    {
        "vehicle": "outreach",
        "complaint": "Scraping grind from the front, once a turn, after a week on gravel.",
        "hidden": {"A1R": "brake"},
        "record": ["A1L", "A1R"],
        "found": [
            ("", "complaint", {"words": ["grind"]}),
            ("A1R", "spin", {"answer": "scrapes"}),
            ("A1L", "spin", {"answer": "free"}),
        ],
        "play": {"A1R": [0.06, 0.05, 0.06]},
        "decide": ("A1R", "look_elsewhere"),
    },
    {
        "vehicle": "trailer",
        "complaint": "Warm cap on one wheel after the coast tour.",
        "hidden": {"A2R": "dry"},
        "record": ["A1L", "A1R"],
        "found": [
            ("", "complaint", {"words": ["heat"]}),
            ("A2R", "heat", {"temp_c": 41.0, "mate_c": 23.0}),
            ("A2R", "part", {"part": "spring_cap", "finds": ["button_flush"]}),
            ("A2R", "part", {"part": "pin", "finds": ["fast_good"]}),
            ("A2R", "part", {"part": "nut", "finds": ["fast_good"]}),
            ("A2R", "part", {"part": "outer_bearing", "finds": ["dry", "turns_gritty"], "note": "stiff as wax"}),
        ],
        "photographed": [("A2R", "outer_bearing")],
        "play": {},
    },
    {
        "vehicle": "trailer",
        "complaint": "Looked over before the season: the button of one cap is flush.",
        "hidden": {},
        "record": [],
        "found": [
            ("A1L", "cap_button", {"answer": "flush"}),
            *((hub, "spin", {"answer": "free"}) for hub in ("A1L", "A1R", "A2L", "A2R")),
            *((hub, "rock_12_6", {"answer": "nothing"}) for hub in ("A1L", "A1R", "A2L", "A2R")),
            ("A1L", "rock_3_9", {"answer": "nothing"}),
            ("A1L", "spring_touch", {"answer": "smooth"}),
        ],
        "play": {"A1L": [0.06, 0.05, 0.06]},
        "decide": ("A1L", "top_up"),
    },
    {
        "vehicle": "quad",
        "complaint": "Rumbles since the autumn stream crossings; the gardener says it comes from the back.",
        "hidden": {"A2L": "outer_race"},
        "record": [],
        "spun": ["A1L", "A1R", "A2L", "A2R"],
        "found": [
            *(
                (hub, "spring_touch", {"answer": "rough" if hub == "A2L" else "smooth"})
                for hub in ("A1L", "A1R", "A2L", "A2R")
            ),
            ("A2L", "stethoscope", {"answer": "growls"}),
        ],
        "play": {},
        "decide": ("A2L", "replace_bearing"),
    },
    {
        "vehicle": "trike",
        "complaint": "Grinds in front since it was washed with the hose.",
        "hidden": {"A1L": "dry"},
        "record": [],
        "found": [
            ("", "complaint", {"words": ["grind"]}),
            *((hub, "in_out", {"answer": "nothing"}) for hub in ("A1L", "A1R")),
            ("A1L", "spin", {"answer": "grinds"}),
            ("A1R", "spin", {"answer": "free"}),
            ("A1L", "part", {"part": "first_cartridge", "finds": ["dry", "turns_gritty"]}),
            ("A1L", "part", {"part": "second_cartridge", "finds": ["dry", "turns_smooth"]}),
        ],
        "play": {"A1L": [0.0, 0.0, 0.0]},
        "decide": ("A1L", "repack"),
    },
    {
        "vehicle": "outreach",
        "complaint": "Leans and knocks at the back since the stream crossing; the brake is greasy.",
        "hidden": {"A2L": "loose"},
        "record": [],
        "found": [
            ("", "complaint", {"words": ["clunk", "wobble"]}),
            ("A2L", "danger_signs", {"answer": "wobbles"}),
            ("A2L", "half_shaft", {"answer": "bolts_tight"}),
            ("A2R", "half_shaft", {"answer": "none"}),
        ],
        "play": {},
        "decide": ("A2L", "off_road"),
    },
    {
        "vehicle": "van",
        "complaint": "Looked at before the long tour: are the back wheels good for it?",
        "hidden": {},
        "record": [],
        "found": [
            *((hub, "spin", {"answer": "free"}) for hub in ("A1L", "A1R", "A2L", "A2R")),
            *((hub, "spring_touch", {"answer": "smooth"}) for hub in ("A1L", "A1R", "A2L", "A2R")),
            *((hub, "rock_12_6", {"answer": "nothing"}) for hub in ("A1L", "A1R", "A2L", "A2R")),
        ],
        "play": {"A2L": [0.07, 0.06, 0.07], "A2R": [0.05, 0.06, 0.05]},
        "decide": ("A2L", "leave"),
        "close": "Nothing wrong: a trace of play on the tapers, as it should be.",
    },
]
