"""The simulator of whole vehicles: its physics, its seeds, its courses against plain integration."""

import unittest

import numpy as np
from hematite.simulator.scenes import Scene, Trouble, coast_down, record, road_run, steady
from hematite.speed.spun import Course
from hematite.vehicles import Axle, Hub, Vehicle
from hypothesis import given, settings
from hypothesis import strategies as st

RATE = 8000
HUBS = tuple(Hub(f"A1{s[0].upper()}", s, "hub_unit") for s in ("left", "right"))
CAR = Vehicle((Axle(HUBS, driven=True),), rolling_circumference_m=2.0)
EVEN = steady(rate=RATE, seconds=3.0, turns_per_s=8.0, drift=0.0, seed=1)


def rms_db(samples: np.ndarray) -> float:
    """Return the level of samples in dB."""
    return float(10 * np.log10(np.mean(np.square(samples.astype(np.float64)))))


class Physics(unittest.TestCase):
    """What leaks, what loads, what falls silent."""

    def test_same_seed_same_sound(self) -> None:
        """And another number of recording is another sound of the same scene."""
        scene = Scene(CAR, {"A1L": "outer_race"}, Trouble(), seed=3)
        one, again, other = (record(scene, EVEN, place="A1L", number=n).samples for n in (0, 0, 1))
        np.testing.assert_array_equal(one, again)
        self.assertFalse(np.array_equal(one, other))

    def test_leak(self) -> None:
        """The neighbour hears the worn hub about as many dB down as the scene says, within the 3 dB of its own path."""
        for leak in (-8.0, -20.0):
            scene = Scene(CAR, {"A1L": "dry"}, Trouble(leak_db=leak, hiss=0.0, severity=6.0), seed=3)
            near, far = (record(scene, EVEN, place=place, number=0).samples for place in ("A1L", "A1R"))
            self.assertAlmostEqual(rms_db(far) - rms_db(near), leak, delta=3.5)

    def test_a_wheel_spun_alone_hears_no_other(self) -> None:
        """The neighbour's fault is not in it."""
        quiet, worn = (
            record(Scene(CAR, hidden, Trouble(), seed=3), EVEN, place="A1R", number=0, alone=True).samples
            for hidden in ({}, {"A1L": "dry"})
        )
        np.testing.assert_array_equal(quiet, worn)

    def test_bends_load_the_outer_side(self) -> None:
        """A left hub's mark is louder in a right-hand bend than in a left-hand one."""
        rows = [
            {"start_s": 3.0 * n, "end_s": 3.0 * n + 3, "state": state, "speed_kmh": 60.0}
            for n, state in enumerate(("left", "right"))
        ]
        drive = road_run(rate=RATE, segments=rows, circumference_m=2.0, seed=1)
        scene = Scene(CAR, {"A1L": "outer_race"}, Trouble(hiss=0.0), seed=3)
        samples = record(scene, drive, place="A1L", number=0).samples
        left, right = samples[RATE : 2 * RATE], samples[4 * RATE : 5 * RATE]
        self.assertGreater(rms_db(right) - rms_db(left), 6.0)

    def test_an_engine_idles_while_coasting(self) -> None:
        """Its tones fall when the torque goes."""
        rows = [
            {"start_s": 3.0 * n, "end_s": 3.0 * n + 3, "state": state, "speed_kmh": 60.0}
            for n, state in enumerate(("straight", "coast"))
        ]
        drive = road_run(rate=RATE, segments=rows, circumference_m=2.0, seed=1)
        scene = Scene(CAR, {}, Trouble(), seed=3, elsewhere=frozenset({"engine"}))
        samples = record(scene, drive, place="A1L", number=0).samples
        self.assertGreater(rms_db(samples[RATE : 2 * RATE]) - rms_db(samples[4 * RATE : 5 * RATE]), 6.0)

    def test_a_joint_clicks_in_one_bend_only(self) -> None:
        """The right one in right-hand bends under power."""
        rows = [
            {"start_s": 3.0 * n, "end_s": 3.0 * n + 3, "state": state, "speed_kmh": 40.0}
            for n, state in enumerate(("left", "right"))
        ]
        drive = road_run(rate=RATE, segments=rows, circumference_m=2.0, seed=1)
        samples = record(Scene(CAR, {"A1R": "drive_joint"}, Trouble(), seed=3), drive, place="A1R", number=0).samples
        peaks = [float(np.abs(part).max()) for part in (samples[RATE : 2 * RATE], samples[4 * RATE : 5 * RATE])]
        self.assertGreater(peaks[1], 5 * peaks[0])


class Courses(unittest.TestCase):
    """A wheel that runs down."""

    @settings(max_examples=30, deadline=None)
    @given(st.floats(2.0, 40.0), st.floats(0.5, 4.0))
    def test_turns_are_the_integral_of_the_rate(self, stops_s: float, bend: float) -> None:
        """The closed form against the trapezoid rule, within a thousandth, for any stop and bend."""
        course = Course(0.0, stops_s, stops_s, bend)
        times = np.linspace(0.0, 0.9 * stops_s, 4000)
        rate = np.power(1 - times / stops_s, bend)
        summed = np.concatenate([[0.0], np.cumsum(np.diff(times) * (rate[1:] + rate[:-1]) / 2)])
        np.testing.assert_allclose(course.turns(times), summed, atol=1e-3 * stops_s)

    def test_it_stops_and_stays(self) -> None:
        """It starts at its speed, only slows, and stands from the stop on."""
        drive = coast_down(rate=RATE, seconds=10.0, turns_per_s=5.0, stops_after_s=8.0, bend=1.5)
        self.assertAlmostEqual(float(drive.rates[0]), 5.0)
        self.assertTrue((np.diff(drive.rates) <= 0).all())
        self.assertEqual(float(drive.rates[-1]), 0.0)
