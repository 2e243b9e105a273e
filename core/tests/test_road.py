"""Road runs: what marked bends, coasting and braking tell, and what they may not tell."""

import unittest

import numpy as np
from hematite.bearings import Row, fault_orders
from hematite.beliefs import weigh
from hematite.errors import BadSpeed, UnknownName
from hematite.evidence import Statement, heard_statements
from hematite.listening import Segment, Situation, compare, listen
from hematite.listening.road import road_tests
from hematite.listening.situation import segments_from_json
from hematite.recordings import Recording
from hematite.simulator.scenes import Scene, Trouble, record, road_run
from hematite.speed import Bends, wheel_turns
from hematite.vehicles import Axle, Hub, Vehicle
from hematite.verdict import assess
from scipy import stats

RATE = 16_000
PLAN = ("straight", "left", "right", "left", "right", "coast")
ROWS = [{"start_s": 5.0 * n, "end_s": 5.0 * n + 5.0, "state": s, "speed_kmh": 60.0} for n, s in enumerate(PLAN)]
FRONT = Row.from_mm(elements=13, element_diameter_mm=12.7, pitch_diameter_mm=62.0, contact_angle_deg=36.0)
REAR = Row.from_mm(elements=16, element_diameter_mm=8.4, pitch_diameter_mm=53.0, contact_angle_deg=14.0)


def car(*, all_driven: bool = False, known: bool = True) -> Vehicle:
    """Return a car whose front and rear bearings differ."""
    axles = []
    for n, row in ((1, FRONT), (2, REAR)):
        rows = (row,) if known else ()
        hubs = tuple(Hub(f"A{n}{s[0].upper()}", s, "hub_unit", rows) for s in ("left", "right"))
        axles.append(Axle(hubs, driven=n == 1 or all_driven, steered=n == 1))
    return Vehicle(tuple(axles), rolling_circumference_m=2.0)


def drive(hidden: dict[str, str], *, elsewhere: frozenset[str] = frozenset(), vehicle: Vehicle | None = None):
    """Hear a cabin run through bends and a coast."""
    vehicle = vehicle or car()
    scene = Scene(vehicle, hidden, Trouble(leak_db=-3.0), seed=6, elsewhere=elsewhere)
    run = road_run(rate=RATE, segments=ROWS, circumference_m=2.0, seed=6)
    sound = record(scene, run, place="cabin", number=0)
    made = Situation("r", "cabin", sensor="air", situation="road", segments=segments_from_json(ROWS))
    return listen(sound, made, vehicle=vehicle)


class InBends(unittest.TestCase):
    """Turning loads the outer wheels (common practice, no source)."""

    def test_growl_that_swells_in_one_bend_names_the_other_side(self) -> None:
        """Right-hand bends louder: left; and the front's own geometry tells which of the two left hubs."""
        for hub, sign in (("A1L", 1), ("A1R", -1)):
            heard = drive({hub: "outer_race"})
            load = next(test for test in heard.road if test.kind == "load")
            with self.subTest(hub):
                self.assertGreater(sign * load.db, 2.0)
                self.assertGreater(abs(load.deviations), 4.0)
                culprits = assess(car(), [heard], []).culprits
                self.assertEqual([(c.hub, c.cause) for c in culprits], [(hub, "bearing")])

    def test_only_the_side_is_named_where_no_more_is_known(self) -> None:
        """Without geometry a cabin run names the side and no hub."""
        blind = car(known=False)
        culprits = assess(blind, [drive({"A2L": "outer_race"}, vehicle=blind)], []).culprits
        self.assertEqual([(c.cause, c.hub) for c in culprits], [("bearing", None)])
        self.assertNotEqual(culprits[0].side, "right")

    def test_four_wheel_drive_counts_for_less(self) -> None:
        """The same difference tells less of the side where all wheels are driven: noise travels along the driveline."""
        said = Statement("load_test", "", {"right": 1.0})
        ratios = []
        for vehicle in (car(), car(all_driven=True)):
            hubs = weigh([said], vehicle).hubs
            ratios.append(hubs["A1L"].bearing / hubs["A1R"].bearing)
        self.assertGreater(ratios[0], 1.5 * ratios[1])
        self.assertGreater(ratios[1], 1.2)

    def test_pitch_follows_the_wheel(self) -> None:
        """A run at two speeds: the lines stand in step with the wheel. At one speed nothing is said."""
        vehicle = car()
        rows = [row | {"speed_kmh": 80.0 if row["start_s"] < 10 else 60.0} for row in ROWS]
        run = road_run(rate=RATE, segments=rows, circumference_m=2.0, seed=6)
        scene = Scene(vehicle, {"A1L": "outer_race"}, Trouble(leak_db=-3.0), seed=6)
        made = Situation("r", "cabin", sensor="air", situation="road", segments=segments_from_json(rows))
        heard = listen(record(scene, run, place="cabin", number=0), made, vehicle=vehicle)
        pitch = next(test for test in heard.road if test.kind == "pitch")
        self.assertGreater(pitch.deviations, 4.0)
        self.assertIn("follows the wheel", pitch.words)
        self.assertNotIn("pitch", [test.kind for test in drive({"A1L": "outer_race"}).road])

    def test_what_the_stretches_say_of_speed(self) -> None:
        """Where they say more than one figure for the run, a profile of them, each reached at 1.5 m/s²."""
        rows = [row | {"speed_kmh": 80.0 if row["start_s"] < 10 else 60.0} for row in ROWS[:3]]
        for speed, expected in (
            (
                {"kind": "road", "kmh": 70.0},
                [[0.01, 80.0], [5.0, 80.0], [5.01, 80.0], [10.0, 80.0], [10.01 + 20 / 3.6 / 1.5, 60.0], [15.0, 60.0]],
            ),
            ({"kind": "wheel", "turns_per_s": 9.0}, None),
            ({"kind": "profile", "points": [[0.0, 80.0], [15.0, 60.0]]}, None),
        ):
            made = Situation("r", "cabin", situation="road", speed=speed, segments=segments_from_json(rows))
            found = made.effective_speed
            if expected is None:
                self.assertEqual(found, speed)
            else:
                self.assertEqual(found["kind"], "profile")
                np.testing.assert_allclose(found["points"], expected)
        for row, kinds in (({}, ("road", "unknown")), ({"speed_kmh": 40.0}, ("road", "profile"))):
            segments = segments_from_json([{"start_s": 0, "end_s": 5, "state": "left"} | row])
            for speed, kind in zip(({"kind": "road", "kmh": 70.0}, {"kind": "unknown"}), kinds, strict=True):
                one = Situation("r", "cabin", situation="road", speed=speed, segments=segments)
                self.assertEqual(one.effective_speed["kind"], kind)

    def test_bends_make_no_difference_to_a_sound_car(self) -> None:
        """Nothing is accused; no side."""
        heard = drive({})
        load = next(test for test in heard.road if test.kind == "load")
        self.assertLess(abs(load.db), 1.5)
        self.assertEqual(assess(car(), [heard], []).culprits, ())

    def test_a_click_in_one_bend_under_power_is_the_drive_joint(self) -> None:
        """Clicks in right-hand bends only, none straight on: a drive joint of either side, and no bearing."""
        heard = drive({"A1R": "drive_joint"})
        culprits = assess(car(), [heard], []).culprits
        self.assertEqual([(c.cause, c.hub) for c in culprits], [("drive_joint", None)])

    def test_an_engine_is_not_a_bearing(self) -> None:
        """Loud tones that fall away when coasting accuse no bearing; the coast test says so."""
        heard = drive({}, elsewhere=frozenset({"engine"}))
        coast = next(test for test in heard.road if test.kind == "coast")
        self.assertLess(coast.db, -5.0)
        found = assess(car(), [heard], [])
        self.assertEqual([c for c in found.culprits if c.cause == "bearing"], [])
        self.assertGreater(found.elsewhere["engine"], 0.2)


class Turns(unittest.TestCase):
    """In a bend the outer wheel turns faster: a·track/2v² (kinematics)."""

    BENDS = (
        ("straight", 0, 4),
        ("right", 4, 8),
        ("left", 8, 12),
        ("straight", 12, 14),
        ("left", 14, 17),
        ("right", 17, 20),
    )

    def test_courses_of_each_side(self) -> None:
        """At 10 m/s, with 1.8 m/s² across, the outer wheel is 1.3 % faster: the left one in right-hand bends."""
        even = wheel_turns({"kind": "wheel", "turns_per_s": 5.0}, duration_s=20.0, circumference_m=None)
        marked = [(4.0, 8.0, 1), (14.0, 17.0, -1)]
        bends = Bends.of(even, marked, speed_m_s=10.0)
        for shift in (-2, 1):
            course = bends.shifted(even, shift)
            for start, end, sense in ((1.0, 3.0, 0), (5.0, 7.0, 1), (9.5, 12.5, 0), (15.0, 16.0, -1)):
                rate = (course.at(np.array(end)) - course.at(np.array(start))) / (end - start)
                self.assertAlmostEqual(rate, 5.0 * (1 + shift * sense * 1.8 * 0.72 / 100), delta=2e-4)
        at_a_walk = Bends.of(even, marked, speed_m_s=0.0).shifted(even, 1)
        self.assertAlmostEqual(float(at_a_walk.rate_at(np.array([6.0]))[0]), 5.0 * 1.1, places=3)

    def test_whose_course_was_followed(self) -> None:
        """A course that leans as the left wheel's would is the left one's, by Bayes; one as stated is the middle's."""
        even = wheel_turns({"kind": "wheel", "turns_per_s": 5.0}, duration_s=20.0, circumference_m=None)
        bends = Bends.of(even, [(4.0, 8.0, 1), (10.0, 14.0, -1)], speed_m_s=14.0)
        usual = 1.8 * 0.72 / 14.0**2
        for shift in (1, 0, -1):
            odds = bends.whose(bends.shifted(even, shift), even, logged=True)
            doubt = 0.004 / np.sqrt(2)
            expected = np.array([0.25, 0.5, 0.25]) * stats.norm.pdf(shift * usual, usual * np.array([1, 0, -1]), doubt)
            np.testing.assert_allclose(np.exp(odds), expected / expected.sum(), atol=0.02)
        self.assertEqual(np.exp(bends.whose(even, even, logged=False)).tolist(), [0.0, 1.0, 0.0])

    def heard(self, side: str, place: str):
        """Hear hiss that swells at the front's inner race on one side, at 50 km/h, where bends shift it by 0.8 %."""
        rows = [{"state": state, "start_s": a, "end_s": b} for state, a, b in self.BENDS]
        times = np.arange(20 * RATE) / RATE
        to_the_right = sum(
            np.where((times >= a) & (times < b), {"right": 1.0, "left": -1.0}[state], 0.0)
            for state, a, b in self.BENDS if state != "straight"
        )  # fmt: skip
        angle = np.cumsum(50 / 3.6 / 2.0 * (1 + {"left": 0.008, "right": -0.008}[side] * to_the_right)) / RATE
        order = fault_orders(FRONT, rotating="inner").bpfi
        swell = 1 + sum(np.cos(2 * np.pi * k * order * angle) for k in (1, 2, 3)) / 6
        sound = 0.05 * swell * np.random.default_rng(5).standard_normal(len(times))
        speed = {"kind": "profile", "points": [[0.0, 50.0], [20.0, 50.0]]}
        made = Situation("r", place, sensor="air", situation="road", speed=speed, segments=segments_from_json(rows))
        return listen(Recording(sound.astype(np.float32), RATE), made, vehicle=car())

    def test_lines_tell_their_side(self) -> None:
        """From the cabin a bearing's lines say with which side's wheels they turn, and so which hub's they are."""
        for side, sense in (("left", 1), ("right", -1)):
            found = self.heard(side, "cabin")
            lead = found.strongest
            self.assertEqual(lead.kind, "inner_race")
            self.assertGreater(sense * lead.leftward, 3.0, side)
            front = {v.hub.side: v.belief.bearing for v in assess(car(), [found], []).hubs if v.hub.id.startswith("A1")}
            other = "right" if side == "left" else "left"
            self.assertGreater(front[side], 1.3 * front[other])  # no more: bends leave its loudness as it is

    def test_at_a_hub_its_own_side_is_heard(self) -> None:
        """There the same lines stand at least as high as from the cabin, and no side is told."""
        found = self.heard("left", "A1L").strongest
        self.assertEqual((found.kind, found.leftward), ("inner_race", 0.0))
        self.assertGreater(found.strength, self.heard("right", "A1L").strongest.strength)


class Surfaces(unittest.TestCase):
    """Tyre noise changes with the surface; a bearing's does not (common practice, no source)."""

    def surface(self, hidden: dict[str, str]) -> dict[str, float]:
        """Return what the surface test says of a run over smooth and then rough road, at two speeds."""
        plan = [("smooth", 80.0), ("rough", 80.0), ("smooth", 80.0), ("rough", 80.0), ("", 60.0)]
        rows = [
            {"start_s": 4.0 * n, "end_s": 4.0 * n + 4.0, "state": "straight", "speed_kmh": kmh, "surface": surface}
            for n, (surface, kmh) in enumerate(plan)
        ]
        scene = Scene(car(), hidden, Trouble(leak_db=-3.0, severity=1.5), seed=6)
        sound = record(scene, road_run(rate=RATE, segments=rows, circumference_m=2.0, seed=6), place="cabin", number=0)
        made = Situation("r", "cabin", sensor="air", situation="road", segments=segments_from_json(rows))
        said = heard_statements(compare([listen(sound, made, vehicle=car())]), car())
        return dict(next((s.shares for s in said if s.witness == "surface_test"), {}))

    def test_a_tyre_changes_and_a_bearing_does_not(self) -> None:
        """The cupped tyre's hum grows, the ring mark's lines do not; a sound car says nothing of it."""
        self.assertGreater(self.surface({"A1L": "tyre"}).get("changes", 0.0), 0.85)
        self.assertLess(self.surface({"A1L": "outer_race"}).get("changes", 0.0), 0.1)
        self.assertEqual(self.surface({}), {})

    def test_an_unknown_surface_is_refused(self) -> None:
        """Only what the table lists."""
        with self.assertRaises(UnknownName):
            segments_from_json([{"start_s": 0, "end_s": 2, "state": "straight", "surface": "ice"}])


class Arithmetic(unittest.TestCase):
    """Levels of known sounds."""

    def run_of(self, gains_db: dict[str, float]) -> np.ndarray:
        """Return hiss whose level follows the state."""
        dice = np.random.default_rng(1)
        sound = 0.02 * dice.standard_normal(RATE * 30)
        for row in ROWS:
            part = slice(int(row["start_s"] * RATE), int(row["end_s"] * RATE))
            sound[part] *= 10 ** (gains_db.get(row["state"], 0.0) / 20)
        return sound.astype(np.float32)

    def test_a_known_difference(self) -> None:
        """Four dB put in come out as four, within the doubt that is stated, and that doubt is below one."""
        segments = segments_from_json(ROWS)
        tests = road_tests(self.run_of({"right": 4.0}), rate=RATE, segments=segments, speed_at=None)
        load = next(test for test in tests if test.kind == "load")
        self.assertAlmostEqual(load.db, 4.0, delta=3 * load.doubt_db)
        self.assertLess(load.doubt_db, 1.0)

    def test_speed_is_allowed_for(self) -> None:
        """A bend taken at twice the speed is louder for that reason alone: the doubt grows, nothing is certain."""
        segments = segments_from_json(ROWS)
        double = lambda t: np.where((t // 5).astype(int) % 6 == 2, 2.0, 1.0)  # noqa: E731
        tests = road_tests(self.run_of({"right": 9.0}), rate=RATE, segments=segments, speed_at=double)
        load = next(test for test in tests if test.kind == "load")
        self.assertLess(abs(load.deviations), 4.0)

    def test_no_marks_no_tests(self) -> None:
        """Without stretches, or with one kind only, nothing is compared."""
        sound = self.run_of({})
        self.assertEqual(road_tests(sound, rate=RATE, segments=(), speed_at=None), ())
        straight = (Segment(0.0, 18.0, "straight"),)
        self.assertEqual(road_tests(sound, rate=RATE, segments=straight, speed_at=None), ())

    def test_wrong_marks(self) -> None:
        """An end before its start, and a state that no table lists, are refused."""
        with self.assertRaisesRegex(BadSpeed, "Mark it again"):
            segments_from_json([{"start_s": 4, "end_s": 2, "state": "left"}])
        with self.assertRaises(UnknownName):
            segments_from_json([{"start_s": 0, "end_s": 2, "state": "uphill"}])
