"""Which way each answer points: common practice, no source. A row each, so that no table is turned round unseen."""

import unittest

from hematite.beliefs import weigh
from hematite.evidence import Statement, statements_of
from hematite.evidence.witnesses import causes, outcomes, states, witnesses

from tests.test_network import CAR, TANDEM, VAN, say, vehicle

REAR = vehicle("taper_castle", "axle_retained", driven=(2,))
# Vehicle, witness, answer, place, the fault or group that it makes likelier (up) or less likely (down).
POINTS = [
    (CAR, "speed_test", "engine", "", "engine", "up"),
    (CAR, "speed_test", "road", "", "engine", "down"),
    (CAR, "speed_test", "road", "", "outer_race", "up"),
    (CAR, "speed_test", "neither", "", "steering_joint", "up"),
    (CAR, "wheel_swap", "moves", "", "tyre", "up"),
    (CAR, "wheel_swap", "stays", "", "tyre", "down"),
    (CAR, "wheel_swap", "stays", "", "outer_race", "up"),
    (CAR, "coast_test", "falls", "", "engine", "up"),
    (CAR, "coast_test", "stays", "", "engine", "down"),
    (CAR, "brake_test", "changes", "", "brake", "up"),
    (CAR, "brake_test", "same", "", "brake", "down"),
    (CAR, "surface_test", "changes", "", "tread", "up"),
    (CAR, "surface_test", "same", "", "tyre", "down"),
    (CAR, "turn_clicks", "left", "", "drive_joint", "up"),
    (CAR, "turn_clicks", "none", "", "drive_joint", "down"),
    (CAR, "complaint", "growl", "", "distributed_wear", "up"),
    (CAR, "complaint", "click", "", "drive_joint", "up"),
    (CAR, "complaint", "joint", "", "ball_joint", "up"),
    (CAR, "complaint", "heat", "", "overheated", "up"),
    (CAR, "complaint", "wobble", "", "loose_nuts", "up"),
    (CAR, "complaint", "pull", "", "brake", "up"),
    (CAR, "complaint", "nothing", "", "outer_race", "down"),
    (CAR, "rock_12_6", "hub", "A1L", "loose", "up"),
    (CAR, "rock_12_6", "joint", "A1L", "ball_joint", "up"),
    (CAR, "rock_12_6", "wheel", "A1L", "loose_nuts", "up"),
    (CAR, "rock_3_9", "steering", "A1L", "steering_joint", "up"),
    (CAR, "rock_3_9", "nothing", "A1L", "steering_joint", "down"),
    (CAR, "rock_12_6", "nothing", "A1L", "ball_joint", "down"),
    (CAR, "in_out", "moves", "A1L", "loose", "up"),
    (CAR, "in_out", "nothing", "A1L", "loose", "down"),
    (CAR, "lever", "much", "A1L", "loose", "up"),
    (CAR, "lever", "none", "A1L", "loose", "down"),
    (CAR, "end_play", "far_over", "A1L", "loose", "up"),
    (TANDEM, "end_play", "within", "A1L", "loose", "down"),
    (TANDEM, "end_play", "none", "A1L", "too_tight", "up"),
    (TANDEM, "in_out", "trace", "A1L", "too_tight", "down"),
    (CAR, "spin", "rumbles", "A1L", "distributed_wear", "up"),
    (CAR, "spin", "clicks", "A1L", "cage", "up"),
    (CAR, "spin", "drags", "A1L", "brake", "up"),
    (TANDEM, "spin", "drags", "A1L", "too_tight", "up"),
    (CAR, "spin", "scrapes", "A1L", "brake", "up"),
    (CAR, "spin", "free", "A1L", "distributed_wear", "down"),
    (CAR, "spring_touch", "rough", "A1L", "outer_race", "up"),
    (CAR, "spring_touch", "smooth", "A1L", "outer_race", "down"),
    (CAR, "stethoscope", "growls", "A1L", "inner_race", "up"),
    (CAR, "stethoscope", "scrapes", "A1L", "brake", "up"),
    (CAR, "in_gear", "growls", "A1L", "inner_race", "up"),
    (CAR, "in_gear", "quiet", "A1L", "inner_race", "down"),
    (CAR, "coast_down", "short", "A1L", "brake", "up"),
    (CAR, "coast_down", "alike", "A1L", "brake", "down"),
    (TANDEM, "heat", "hot", "A1L", "overheated", "up"),
    (CAR, "heat", "hot", "A1L", "brake", "up"),
    (CAR, "heat", "cool", "A1L", "brake", "down"),
    (TANDEM, "cap_button", "flush", "A1L", "dry_or_dirty", "up"),
    (TANDEM, "cap_button", "proud", "A1L", "dry_or_dirty", "down"),
    (CAR, "tyre_edge", "cupped", "A1L", "tyre", "up"),
    (CAR, "tyre_edge", "inside", "A1L", "ball_joint", "up"),
    (CAR, "tyre_edge", "even", "A1L", "tyre", "down"),
    (CAR, "abs_lamp", "on", "A1L", "loose", "up"),
    (CAR, "abs_lamp", "off", "A1L", "loose", "down"),
    (CAR, "wheel_nuts", "loose", "A1L", "loose_nuts", "up"),
    (CAR, "wheel_nuts", "tight", "A1L", "loose_nuts", "down"),
    (REAR, "half_shaft", "bolts_loose", "A2L", "loose_bolts", "up"),
    (REAR, "half_shaft", "bolts_tight", "A2L", "loose", "up"),
    (REAR, "half_shaft", "none", "A2L", "loose", "down"),
    (REAR, "half_shaft", "none", "A2L", "loose_bolts", "down"),
    (CAR, "danger_signs", "smokes", "A1L", "brake", "up"),
    (CAR, "danger_signs", "wobbles", "A1L", "loose_nuts", "up"),
    (CAR, "danger_signs", "seizes", "A1L", "overheated", "up"),
    (VAN, "opened", "marked", "A2L", "outer_race", "up"),
    (VAN, "opened", "dry", "A2L", "dry_or_dirty", "up"),
    (VAN, "opened", "burnt", "A2L", "overheated", "up"),
    (VAN, "opened", "clean", "A2L", "distributed_wear", "down"),
    (VAN, "opened", "metal", "A2L", "cage", "up"),
    (VAN, "hand_turned", "gritty", "A2L", "dry_or_dirty", "up"),
    (VAN, "hand_turned", "smooth", "A2L", "distributed_wear", "down"),
    (TANDEM, "set_by_nut", "drags_first", "A1L", "distributed_wear", "up"),
    (TANDEM, "set_by_nut", "goes", "A1L", "distributed_wear", "down"),
    (TANDEM, "fastening", "lost", "A1L", "unlocked", "up"),
    (TANDEM, "fastening", "wide", "A1L", "loose", "up"),
    (TANDEM, "fastening", "good", "A1L", "unlocked", "down"),
    *(
        (CAR, "fault_lines", kind, "A1L", kind, "up")
        for kind in ("outer_race", "inner_race", "rolling_element", "cage")
    ),
    (CAR, "fault_lines", "many", "A1L", "distributed_wear", "up"),
    (CAR, "strokes", "scrape", "A1L", "brake", "up"),
    (CAR, "strokes", "grind", "A1L", "brake", "up"),
    (CAR, "strokes", "knock", "A1L", "loose", "up"),
    (CAR, "strokes", "own_touch", "A1L", "brake", "up"),
    (CAR, "strokes", "nothing", "A1L", "brake", "down"),
    (CAR, "beat", "rub", "A1L", "brake", "up"),
    (CAR, "beat", "loud_beat", "A1L", "tyre", "up"),
    (CAR, "beat", "nothing", "A1L", "tyre", "down"),
    (CAR, "lines_in_bends", "here", "A1L", "outer_race", "up"),
    (CAR, "lines_in_bends", "away", "A1L", "outer_race", "down"),
    (CAR, "lines_in_bends", "even", "A1L", "inner_race", "down"),
    (CAR, "lines_turn", "here", "A1L", "inner_race", "up"),
    (CAR, "lines_turn", "away", "A1L", "inner_race", "down"),
    (CAR, "hum_turns", "here", "A1L", "tyre", "up"),
    (CAR, "hum_turns", "away", "A1L", "tyre", "down"),
    (CAR, "hum_in_bends", "here", "A1L", "tyre", "up"),
    (CAR, "hum_in_bends", "away", "A1L", "tread", "down"),
    (CAR, "hum_in_bends", "even", "A1L", "tyre", "down"),
    (CAR, "clicks_loudest", "here", "A1L", "drive_joint", "up"),
    (CAR, "clicks_loudest", "away", "A1L", "drive_joint", "down"),
    (CAR, "swell", "swell", "A1L", "dry_or_dirty", "up"),
    (CAR, "swell", "nothing", "A1L", "dry_or_dirty", "down"),
    (CAR, "swell", "deep_swell", "A1L", "dry_or_dirty", "up"),
    (CAR, "hum", "hum", "A1L", "tyre", "up"),
    (CAR, "hum", "loud_hum", "A1L", "tyre", "up"),
    (CAR, "hum", "nothing", "A1L", "tyre", "down"),
    (CAR, "tread_song", "song", "A1L", "tread", "up"),
    (CAR, "tread_song", "nothing", "A1L", "tread", "down"),
    (CAR, "fault_lines", "nothing", "A1L", "outer_race", "down"),
    (CAR, "tones", "heard", "", "engine", "up"),
    (CAR, "gear_song", "loud_gear_song", "", "driveline", "up"),
    (CAR, "gear_song", "nothing", "", "driveline", "down"),
    (CAR, "tones", "none", "", "engine", "down"),
]
# Of two faults the one that an answer points at more.
RATHER = [
    ("fault_lines", "outer_race", "outer_race", "inner_race"),
    ("fault_lines", "inner_race", "inner_race", "outer_race"),
    ("spin", "scrapes", "brake", "outer_race"),
    ("rock_12_6", "joint", "ball_joint", "loose"),
    ("rock_3_9", "steering", "steering_joint", "ball_joint"),
    ("tyre_edge", "cupped", "tyre", "tread"),
]


def raised(of, witness: str, answer: str, place: str) -> dict[str, float]:
    """Return by how much an answer raises each fault, over all places where it can be, as a ratio of probabilities."""
    asked = "asked_as" in witnesses()[witness] or witnesses()[witness].get("recorded") or witness == "fault_lines"
    said = [Statement(witness, place, {answer: 1.0})] if asked else statements_of([say(witness, answer, place)], of)
    before, after = (weigh(one, of) for one in ([], said))
    found = {}
    for cause in causes():
        at = [p for p in (after.places if not place else {place: None}) if cause in after.places[p].causes]
        if at:
            p, q = (sum(one.places[x].causes[cause] for x in at) for one in (before, after))
            found[cause] = q / p
    return found


class Points(unittest.TestCase):
    """By some hundredths at least, alone, on a vehicle of which nothing else is known."""

    def test_each_answer_points_its_way(self) -> None:
        """Up or down."""
        for of, witness, answer, place, cause, way in POINTS:
            with self.subTest(witness, answer=answer, cause=cause):
                ratio = raised(of, witness, answer, place)[cause]
                self.assertTrue(ratio > 1.03 if way == "up" else ratio < 0.97, ratio)

    def test_of_two_the_one_it_points_at(self) -> None:
        """Half as much again."""
        for witness, answer, more, less in RATHER:
            with self.subTest(witness, answer=answer):
                ratios = raised(CAR, witness, answer, "A1L")
                self.assertGreater(ratios[more], 1.5 * ratios[less])

    def test_every_witness_points_somewhere(self) -> None:
        """None that hands or ears can ask stands without a row here."""
        named = {witness for _, witness, *_ in POINTS}
        elsewhere = {"level", "load_test", "brake_held", "heat_over_mate", "heat_over_air"}
        elsewhere |= {"complaint_side", "complaint_end", "complaint_bends"}
        self.assertEqual(set(witnesses()) - named - elsewhere, set())

    def test_levels(self) -> None:
        """Loud against quiet mates is suspect, the louder the more; quiet is less than before."""
        chances = []
        for answer in ("quiet", "raised", "loud", "very_loud"):
            said = [
                Statement("level", "A1L", {answer: 1.0}),
                *(Statement("level", h, {"quiet": 1.0}) for h in ("A1R", "A2L", "A2R")),
            ]
            chances.append(weigh(said, CAR).hubs["A1L"].bearing)
        self.assertEqual(chances, sorted(chances))
        self.assertLess(chances[0], weigh([], CAR).hubs["A1L"].bearing)

    def test_heat_by_thermometer(self) -> None:
        """Over its mate and over the air, each points at hub and brake."""
        for witness in ("heat_over_mate", "heat_over_air"):
            ratios = [raised(TANDEM, witness, answer, "A1L")["overheated"] for answer in outcomes(witness)]
            self.assertEqual(ratios, sorted(ratios))
            self.assertLess(ratios[0], 0.5, witness)
            self.assertGreater(ratios[-1], 1.5, witness)

    def test_words_of_the_driver_about_place(self) -> None:
        """Left, behind, in right-hand bends: each raises its own hubs."""
        for witness, answer, more, less in (
            ("complaint_side", "left", "A1L", "A1R"),
            ("complaint_end", "rear", "A2L", "A1L"),
            ("complaint_bends", "right", "A1L", "A1R"),
        ):
            said = [*statements_of([say("complaint", "growl")], CAR), Statement(witness, "", {answer: 1.0})]
            hubs = weigh(said, CAR).hubs
            self.assertGreater(hubs[more].bearing, 1.3 * hubs[less].bearing, witness)

    def test_mildest_first(self) -> None:
        """Every hidden thing: no fault makes the sound value likelier than the base does; too tight hides the base."""
        for name, row in states().items():
            bases = row.get("base_by_slack", {"": row["chances"].get("base")})
            for cause, chances in row["chances"].items():
                if cause not in ("base", *row.get("hides_base", ())):
                    self.assertLess(chances[0], max(base[0] for base in bases.values()), (name, cause))
