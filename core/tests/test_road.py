"""Road runs: what marked bends, coasting and braking tell, and what they may not tell."""

import unittest

import numpy as np
from hematite.bearings import Row
from hematite.beliefs import weigh
from hematite.errors import BadSpeed, UnknownName
from hematite.evidence import Statement, heard_statements
from hematite.listening import Segment, Situation, compare, listen
from hematite.listening.road import road_tests
from hematite.listening.situation import segments_from_json
from hematite.simulator.scenes import Scene, Trouble, record, road_run
from hematite.vehicles import Axle, Hub, Vehicle
from hematite.verdict import assess

RATE = 16_000
PLAN = ("straight", "left", "right", "left", "right", "coast")
ROWS = [{"start_s": 3.0 * n, "end_s": 3.0 * n + 3.0, "state": s, "speed_kmh": 60.0} for n, s in enumerate(PLAN)]
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


class Bends(unittest.TestCase):
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
        rows = [row | {"speed_kmh": 80.0 if row["start_s"] < 6 else 60.0} for row in ROWS]
        run = road_run(rate=RATE, segments=rows, circumference_m=2.0, seed=6)
        scene = Scene(vehicle, {"A1L": "outer_race"}, Trouble(leak_db=-3.0), seed=6)
        made = Situation("r", "cabin", sensor="air", situation="road", segments=segments_from_json(rows))
        heard = listen(record(scene, run, place="cabin", number=0), made, vehicle=vehicle)
        pitch = next(test for test in heard.road if test.kind == "pitch")
        self.assertGreater(pitch.deviations, 4.0)
        self.assertIn("follows the wheel", pitch.words)
        self.assertNotIn("pitch", [test.kind for test in drive({"A1L": "outer_race"}).road])

    def test_bends_make_no_difference_to_a_sound_car(self) -> None:
        """Nothing is accused; no side."""
        heard = drive({})
        load = next(test for test in heard.road if test.kind == "load")
        self.assertLess(abs(load.db), 1.5)
        self.assertEqual(assess(car(), [heard], []).culprits, ())

    def test_a_click_in_one_bend_under_power_is_the_drive_joint(self) -> None:
        """Clicks in right-hand bends only, none straight on: the right drive joint, and no bearing."""
        heard = drive({"A1R": "drive_joint"})
        culprits = assess(car(), [heard], []).culprits
        self.assertEqual([(c.cause, c.hub) for c in culprits], [("drive_joint", "A1R")])

    def test_an_engine_is_not_a_bearing(self) -> None:
        """Loud tones that fall away when coasting accuse no bearing; the coast test says so."""
        heard = drive({}, elsewhere=frozenset({"engine"}))
        coast = next(test for test in heard.road if test.kind == "coast")
        self.assertLess(coast.db, -5.0)
        found = assess(car(), [heard], [])
        self.assertEqual([c for c in found.culprits if c.cause == "bearing"], [])
        self.assertGreater(found.elsewhere["engine"], 0.2)


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
        self.assertGreater(self.surface({"A1L": "tyre"}).get("changes", 0.0), 0.9)
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
        sound = 0.02 * dice.standard_normal(RATE * 18)
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
        double = lambda t: np.where((t // 3).astype(int) % 6 == 2, 2.0, 1.0)  # noqa: E731
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
