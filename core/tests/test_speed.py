"""Speed: tapped by a trembling hand, logged, followed as it wanders, found in the sound of a wheel running down."""

import re
import unittest

import numpy as np
from hematite.bearings import Row
from hematite.envelopes import Sound
from hematite.errors import BadSpeed
from hematite.families import MARKS
from hematite.listening import Situation, listen
from hematite.recordings import Recording
from hematite.simulator.scenes import Scene, Trouble, coast_down, record, steady
from hematite.speed import Lines, find_spun, find_sung, follow, sung, tracking, wheel_turns
from hematite.speed.courses import read_speed_log
from hematite.speed.spun import STARTS_S
from hematite.traces import Trace, traces_of
from hematite.vehicles import Axle, Hub, Vehicle
from scipy import signal, special, stats

RATE = 16_000
ROW = Row.from_mm(elements=13, element_diameter_mm=12.7, pitch_diameter_mm=62.0, contact_angle_deg=36.0)
HUBS = (Hub("A1L", "left", "hub_unit", (ROW,)), Hub("A1R", "right", "hub_unit", (ROW,)))
KNOWN = Vehicle((Axle(HUBS),), rolling_circumference_m=2.0)
BLIND = Vehicle((Axle(tuple(Hub(h.id, h.side, h.design_key) for h in HUBS)),), rolling_circumference_m=2.0)


def running_down(
    condition: str,
    *,
    seed: int = 4,
    turns_per_s: float = 5.2,
    vehicle: Vehicle = KNOWN,
    miscounted: float | None = None,
):
    """Hear a wheel spun by hand that slows to rest: its turns counted, so many too many, or its speed unknown."""
    scene = Scene(KNOWN, {"A1L": condition}, Trouble(), seed=seed)
    drive = coast_down(rate=RATE, seconds=11.0, turns_per_s=turns_per_s, stops_after_s=14.0, bend=1.3)
    sound = record(scene, drive, place="A1L", number=0, alone=True)
    whole = float(np.sum(drive.rates) / RATE)
    speed = {"kind": "unknown"} if miscounted is None else {"kind": "counted", "turns": round(whole + miscounted)}
    return listen(sound, Situation("r", "A1L", situation="stand_spin", speed=speed), vehicle=vehicle), drive


class RunningDown(unittest.TestCase):
    """A hand-spun wheel whose speed nobody knows."""

    def test_speed_and_fault_are_found(self) -> None:
        """Marks, balls and a scrape: the speed at first within 4 %, and the right lines, though it slows all along."""
        for condition, kind in (
            ("outer_race", "outer_race"),
            ("inner_race", "inner_race"),
            ("rolling_element", "rolling_element"),
            ("brake", "once_a_turn"),
        ):
            with self.subTest(condition):
                heard, drive = running_down(condition)
                self.assertIn("Found in the sound", heard.speed_words)
                stated = float(re.search(r"([0-9.]+) turns", heard.speed_words)[1])
                starts = [drive.rates[int(start * RATE)] for start in STARTS_S]
                self.assertLess(min(abs(stated / rate - 1) for rate in starts), 0.04)
                standing = [f for f in heard.families if f.standing != "nothing" and f.kind != "swell"]
                self.assertEqual(max(standing, key=lambda f: f.strength).kind, kind)

    def test_turns_counted_tell_how_many_the_sound_how_they_were_shared_out(self) -> None:
        """A turn too many or too few; and with no geometry, where the sound alone could not settle the speed."""
        for miscounted, vehicle in ((0.0, KNOWN), (1.0, KNOWN), (-1.0, BLIND)):
            with self.subTest(miscounted=miscounted, known=vehicle is KNOWN):
                heard, drive = running_down("outer_race", vehicle=vehicle, miscounted=miscounted)
                self.assertIn("its run-down found", heard.speed_words)
                stated = float(re.search(r"([0-9.]+) turns", heard.speed_words)[1])
                starts = [drive.rates[int(start * RATE)] for start in STARTS_S]
                self.assertLess(min(abs(stated / rate - 1) for rate in starts), 0.06)
                standing = [f for f in heard.families if f.standing == "clear" and f.kind != "swell"]
                self.assertEqual(max(standing, key=lambda f: f.strength).kind, "outer_race")

    def test_what_is_not_heard_is_said(self) -> None:
        """A sound wheel gives nothing to tell its course by, counted or not; plain hiss accuses nobody."""
        for miscounted, words in ((None, "Nothing repeats"), (0.0, "Counted; nothing repeats")):
            for seed in range(3):
                heard, _ = running_down("sound", miscounted=miscounted, seed=seed)
                self.assertIn(words, heard.speed_words)
                self.assertIsNone(heard.drag)
                self.assertEqual(heard.turns_per_s is None, miscounted is None)
                self.assertTrue(all(f.strength >= 0 for f in heard.families))  # nothing was ruled out either
                self.assertEqual([f.kind for f in heard.families if f.standing == "clear"], [])

    def test_more_turns_than_an_arm_gives(self) -> None:
        """Two hundred turns in eleven seconds: no course makes them, and nothing is said of how it ran down."""
        heard, _ = running_down("outer_race", miscounted=200.0)
        self.assertIn("Counted; nothing repeats", heard.speed_words)
        self.assertEqual([f.kind for f in heard.families if f.standing == "clear"], [])

    def test_taps_are_bettered_by_the_sound(self) -> None:
        """A hand that trembles by 35 ms: what it tapped is a course, and near it the sound tells it to a hair."""
        scene = Scene(KNOWN, {"A1L": "inner_race"}, Trouble(), seed=4)
        drive = coast_down(rate=RATE, seconds=11.0, turns_per_s=3.4, stops_after_s=14.0, bend=1.3)
        sound = record(scene, drive, place="A1L", number=0, alone=True)
        turns = np.cumsum(drive.rates) / RATE
        taps = np.interp(np.arange(1.0, turns[-1]), turns, drive.times) + 0.035 * np.random.default_rng(2).normal(
            size=int(turns[-1] - 1e-9)
        )
        speed = {"kind": "marks", "times_s": sorted(float(t) for t in taps if 0 < t < 11)}
        heard = listen(sound, Situation("r", "A1L", situation="stand_spin", speed=speed), vehicle=KNOWN)
        self.assertIn("As timed", heard.speed_words)
        self.assertEqual(heard.families[0].kind, "inner_race")

    def test_taps_begin_when_the_wheel_is_slow(self) -> None:
        """A hand follows three turns a second, no more: the quick part is heard from before its first tap."""
        scene = Scene(KNOWN, {"A1L": "outer_race"}, Trouble(), seed=4)
        drive = coast_down(rate=RATE, seconds=11.0, turns_per_s=5.2, stops_after_s=14.0, bend=1.3)
        sound = record(scene, drive, place="A1L", number=0, alone=True)
        turns = np.cumsum(drive.rates) / RATE
        taps = np.interp(np.arange(1.0, turns[-1]), turns, drive.times)
        slow = np.interp(taps, drive.times, drive.rates) < 3.0
        speed = {"kind": "marks", "times_s": [float(t) for t in taps[slow]]}
        heard = listen(sound, Situation("r", "A1L", situation="stand_spin", speed=speed), vehicle=KNOWN)
        self.assertGreater(taps[slow][0], 3.0)
        self.assertGreater(float(re.search(r"([0-9.]+) turns", heard.speed_words)[1]), 4.0)
        self.assertEqual((heard.families[0].kind, heard.families[0].standing), ("outer_race", "clear"))

    def test_drag_is_timed(self) -> None:
        """The time to half the speed is that of the drive, within 5 %: what is compared with the mate for drag."""
        heard, drive = running_down("rolling_element")
        rates = np.interp(np.arange(0.0, 11.0, 0.01), drive.times, drive.rates)
        start = min(STARTS_S, key=lambda s: abs(rates[int(s * 100)] - heard.drag.from_turns_per_s))
        half = float(np.interp(-rates[int(start * 100)] / 2, -drive.rates, drive.times)) - start
        self.assertAlmostEqual(heard.drag.halving_s / half, 1.0, delta=0.05)

    def test_without_geometry_lines_tell_no_speed(self) -> None:
        """Marks of an unknown bearing settle no speed: it says so, how often they come, and not of which ring."""
        heard, _ = running_down("outer_race", vehicle=BLIND)
        self.assertIsNone(heard.turns_per_s)
        hertz = float(re.search(r"([0-9]+) times a second", heard.speed_words)[1])
        self.assertAlmostEqual(hertz / (5.2 * 5.4226), 1.0, delta=0.06)  # of the hidden row; it has slowed a little
        self.assertIsNone(heard.drag)
        self.assertEqual({f.kind for f in heard.families if f.standing == "clear"}, set(MARKS))

    def test_honest_could_not(self) -> None:
        """Plain hiss, or too little of it, has no speed to be found."""
        hiss = (0.05 * np.random.default_rng(3).standard_normal(RATE * 10)).astype(np.float32)
        self.assertEqual(find_spun(traces_of(Sound.of(hiss[:RATE], rate=RATE)), [Lines(np.ones(1), np.ones(1))]), ())

    def test_a_driven_wheel_has_no_speed_but_what_is_stated(self) -> None:
        """Engine and gears keep step too, at any speed: it is said what to write down, and no line told."""
        scene = Scene(KNOWN, {"A1L": "outer_race"}, Trouble(), seed=4)
        sound = record(scene, steady(rate=RATE, seconds=6.0, turns_per_s=6.0, drift=0.0, seed=4), place="A1L", number=0)
        heard = listen(sound, Situation("r", "A1L", situation="stand_driven"), vehicle=KNOWN)
        self.assertEqual((heard.turns_per_s, heard.families), (None, ()))
        self.assertIn("write the speed down", heard.speed_words)


class Song(unittest.TestCase):
    """The song of a worn ring tells the course of a wheel that is pushed again and again."""

    COMB = Lines(5.42 * np.arange(1.0, 4.0), np.ones(3), tonal=True)

    def tones(self, rates: np.ndarray, *, loud: float = 0.5, hum: float = 0.0) -> Trace:
        """Return a low sound of 1 kHz in which a ring sings as the wheel turns so fast, in hiss."""
        turns, clock = np.cumsum(rates) / 1000, np.arange(len(rates)) / 1000
        sung = sum(np.cos(2 * np.pi * order * turns + order) for order in self.COMB.orders)
        steady = np.cos(2 * np.pi * 50.0 * clock)
        return Trace(loud * sung + hum * steady + np.random.default_rng(3).standard_normal(len(rates)), 1000.0)

    def pushed(self) -> np.ndarray:
        """Return turns a second of a stiff wheel, twelve seconds: it loses a fifth in a second and is pushed twice."""
        rates = [3.5]
        for n in range(1, 12_000):
            rates.append(rates[-1] * (1 - 0.2 / 1000) + (1.2 / 400 if 4000 <= n < 4400 or 8000 <= n < 8400 else 0.0))
        return np.array(rates)

    def test_a_wheel_pushed_again(self) -> None:
        """Speed within 3 % three quarters of the time, pushes and all, hum or not; turns counted bear it out or not."""
        rates = self.pushed()
        for hum in (0.0, 1.0):
            found = find_sung(self.tones(rates, hum=hum), [self.COMB])[0]
            true = np.interp(found.turns.times_s, np.arange(len(rates)) / 1000, rates)
            off = np.abs(found.turns.rate_at(found.turns.times_s) / true - 1)
            self.assertGreater(float(np.mean(off[1:-1] < 0.03)), 0.75)
            self.assertGreater(found.odds, 10.0)
        count = float(rates.sum() / 1000)
        near, far = (find_sung(self.tones(rates), [self.COMB], counted=n)[0].odds for n in (count, count + 4))
        self.assertGreater(near, far + 4.0)

    def test_what_does_not_sing_tells_nothing(self) -> None:
        """Hiss, hum that holds its pitch, a ring that sings at one speed all along, too little of it."""
        even = np.full(12_000, 3.5)
        for tones in (self.tones(even, loud=0.0), self.tones(even, loud=0.0, hum=2.0), self.tones(even, loud=1.0)):
            self.assertEqual(find_sung(tones, [self.COMB]), ())
        self.assertEqual(find_sung(self.tones(even[:2000]), [self.COMB]), ())

    def test_of_an_unknown_bearing_the_song_is_told_and_no_speed(self) -> None:
        """Nobody said how fast, nor what bearing it is: wear all round, and it says that the speed is not told."""
        turns = np.cumsum(np.linspace(5.0, 2.5, 11 * RATE)) / RATE
        sung = sum(np.cos(2 * np.pi * order * turns + order) for order in self.COMB.orders)
        hiss = np.random.default_rng(6).standard_normal(len(turns))
        sound = Recording((0.05 * sung + 0.02 * hiss).astype(np.float32), RATE)
        heard = listen(sound, Situation("r", "A1L", situation="stand_spin"), vehicle=BLIND)
        self.assertEqual((heard.strongest.kind, heard.strongest.standing), ("many", "clear"))
        self.assertIsNone(heard.turns_per_s)
        self.assertIn("not how many turns a second", heard.speed_words)
        counted = {"kind": "counted", "turns": float(turns[-1])}
        heard = listen(sound, Situation("r", "A1L", situation="stand_spin", speed=counted), vehicle=BLIND)
        self.assertAlmostEqual(heard.turns_per_s / (turns[-1] / 11), 1.0, delta=0.1)

    def test_all_courses_are_added_up(self) -> None:
        """The forward algorithm by dense matrices, another way round: the same odds."""
        frames = sung._frames(self.tones(self.pushed()[:4000]))
        assert frames is not None
        _, odds, step = frames
        moves, count = sung._moves(), len(sung.RATES)
        change = np.full((count, count), -np.inf)
        for n, move in enumerate(range(-sung.SLOWS, sung.PUSHED + 1)):
            for came in range(max(0, -move), min(count, count - move)):
                change[came, came + move] = moves[n]
        usual = -0.5 * np.square(np.log(sung.RATES / sung.USUAL_RATE) / sung.RATE_SPREAD)
        together = usual - special.logsumexp(usual)
        for n, row in enumerate(odds):
            if n:
                together = special.logsumexp(together[:, None] + change, axis=0)
            places = np.rint(np.outer(self.COMB.orders, sung.RATES) / step).astype(int)
            together = together + sung.SHARED_FRAMES * sum(
                np.where(line < len(row), row[np.minimum(line, len(row) - 1)], 0.0) for line in places
            )
        self.assertAlmostEqual(float(special.logsumexp(together)), sung._course(odds, step, self.COMB)[0], places=6)

    def test_hum_is_taken_out_of_a_spun_wheels_sound(self) -> None:
        """Mains and its multiples lose 20 dB; tones that sweep as a wheel slows keep their power within 1 dB."""
        clock = np.arange(RATE * 10) / RATE
        hiss = 0.02 * np.random.default_rng(4).standard_normal(len(clock))
        sweep = signal.chirp(clock, 90.0, 10.0, 60.0)
        hum = sum(np.cos(2 * np.pi * 50.0 * k * clock) for k in (1, 2, 3))

        def power(sound: np.ndarray) -> float:
            kept, _ = Sound.of(sound.astype(np.float32), rate=RATE).without_hum().below(200.0)
            return float(10 * np.log10(np.mean(np.square(kept))))

        plain = 10 * np.log10(np.mean(np.square(signal.sosfilt(signal.butter(6, 200, fs=RATE, output="sos"), sweep))))
        self.assertAlmostEqual(power(sweep + hiss), plain, delta=1.0)
        self.assertLess(power(hum + hiss), 10 * np.log10(1.5) - 20.0)


class Following(unittest.TestCase):
    """A stated speed whose wandering is read from the lines."""

    def driven(self, rates: np.ndarray, seed: int) -> np.ndarray:
        """Return the sound of a driven wheel: hiss that swells at order 5.3, and a gear's tones at 7.7 and 15.4."""
        turns = np.cumsum(rates) / RATE
        dice = np.random.default_rng(seed)
        swell = 1 + sum(np.cos(2 * np.pi * k * 5.3 * turns) / k for k in (1, 2, 3)) / 2
        tones = sum(np.sin(2 * np.pi * k * 7.7 * turns) for k in (1, 2))
        return (0.05 * swell * dice.standard_normal(len(rates)) + 0.01 * tones).astype(np.float32)

    def test_a_speed_that_was_not_kept_to(self) -> None:
        """A wheel that wanders, or runs half as fast again from the middle on: a fifth of a turn is left, or less."""
        times = np.arange(20 * RATE) / RATE
        courses = {
            "wanders": 8.0 * (1 + 0.1 * np.sin(2 * np.pi * times / 9)),
            "changes": np.interp(times, [9.0, 10.0], [6.0, 9.0]),
        }
        for words, rates in courses.items():
            with self.subTest(words):
                true = np.cumsum(rates) / RATE
                speed = {"kind": "wheel", "turns_per_s": float(rates.mean())}
                stated = wheel_turns(speed, duration_s=20.0, circumference_m=None)
                sound = self.driven(rates, seed=2)
                found = follow(traces_of(Sound.of(sound, rate=RATE)), stated, reach=0.5, doubt=0.15)
                left = [np.polyfit(course.at(times), true, 1, full=True)[1][0] for course in (stated, found)]
                self.assertLess(np.sqrt(left[1] / len(times)), 0.2)
                self.assertGreater(np.sqrt(left[0] / len(times)), 0.5)
                self.assertAlmostEqual(found.count, stated.count, places=6)
                situation = Situation("r", "A1L", situation="stand_driven", speed=speed)
                self.assertIn("not kept to", listen(Recording(sound, RATE), situation, vehicle=KNOWN).speed_words)

    def test_all_courses_are_added_up(self) -> None:
        """The forward-backward algorithm against dense matrices: odds, and how likely each shift is at each frame."""
        gains = np.random.default_rng(3).normal(0.0, 3.0, (7, 21))
        steps = np.arange(21)
        apart = (steps[:, None] - steps[None, :]) * tracking.STEP
        moves = sum(
            share * stats.norm.pdf(apart, scale=spread) * tracking.STEP
            for share, spread in ((1 - tracking.JUMP_SHARE, tracking.WANDERS), (tracking.JUMP_SHARE, tracking.JUMPS))
        )
        ahead = [np.full(21, 1 / 21) * np.exp(gains[0])]
        for row in gains[1:]:
            ahead.append(moves @ ahead[-1] * np.exp(row))
        back = [np.ones(21)]
        for row in gains[:0:-1]:
            back.append(moves.T @ (back[-1] * np.exp(row)))
        chances = np.array(ahead) * np.array(back[::-1])
        odds, found = tracking._courses(gains)
        self.assertAlmostEqual(odds, float(np.log(ahead[-1].sum())), places=8)
        np.testing.assert_allclose(found, chances / chances.sum(axis=1, keepdims=True), atol=1e-9)

    def test_hiss_moves_nothing(self) -> None:
        """White, brown and gusty hiss tell nothing of speed: it stays exactly as stated."""
        stated = wheel_turns({"kind": "wheel", "turns_per_s": 8.0}, duration_s=12.0, circumference_m=None)
        for seed in range(9):
            dice = np.random.default_rng(seed)
            hiss = dice.standard_normal(12 * RATE)
            if seed % 3 == 1:
                hiss = signal.lfilter([1.0], [1.0, -0.98], hiss)
            if seed % 3 == 2:
                hiss *= np.exp(np.interp(np.arange(len(hiss)), np.arange(49) * RATE / 4, dice.standard_normal(49) / 2))
            with self.subTest(seed=seed):
                traces = traces_of(Sound.of(hiss.astype(np.float32), rate=RATE))
                self.assertIs(follow(traces, stated, reach=0.5, doubt=0.15), stated)


class Taps(unittest.TestCase):
    """One tap a turn."""

    def test_taps_that_are_missing_or_came_twice(self) -> None:
        """Of a wheel running down some taps are left out or made twice: the turns come out right all the same."""
        clock = np.linspace(0.0, 14.0, 2000)
        true = 4.0 * 20 / 3 * (1 - (1 - clock / 20) ** 3)  # 4 turns a second at first, (1 - t/20)²
        rng = np.random.default_rng(5)
        taps = np.interp(np.arange(0.0, true[-1]), true, clock) + rng.normal(0, 0.02, int(true[-1]) + 1)
        cases = {"all": taps, "one missing": np.delete(taps, 9), "two missing at once": np.delete(taps, [11, 12])}
        cases |= {"twice": np.sort([*taps, taps[12] + 0.09]), "both": np.sort([*np.delete(taps, 9), taps[17] + 0.12])}
        for words, times in cases.items():
            with self.subTest(words):
                found = wheel_turns({"kind": "marks", "times_s": list(times)}, duration_s=14.0, circumference_m=None)
                self.assertEqual(found.count, len(taps) - 1)
                inside = (clock > times[0]) & (clock < times[-1])
                self.assertLess(np.ptp(found.at(clock[inside]) - true[inside]), 0.25)

    def test_a_pull_is_no_missing_tap(self) -> None:
        """While the hand speeds a wheel up gaps halve from one to the next: every tap counts one turn."""
        times = np.cumsum([0.0, 1.6, 0.8, 0.45, 0.4, 0.4, 0.41, 0.42, 0.43, 0.44])
        found = wheel_turns({"kind": "marks", "times_s": list(times)}, duration_s=6.0, circumference_m=None)
        self.assertEqual(found.count, 9)

    def test_a_hand_that_was_away(self) -> None:
        """While it pushes the wheel again a hand taps no turns: only the longer stretch is read, each tap one turn."""
        before, after = np.cumsum([0.5, 0.4, 0.42, 0.44]), np.cumsum([7.0, *np.linspace(0.3, 0.5, 24)])
        speed = {"kind": "marks", "times_s": [*before, *after]}
        found = wheel_turns(speed, duration_s=18.0, circumference_m=None)
        self.assertEqual(found.count, 24)
        self.assertAlmostEqual(found.times_s[0], 7.0, places=4)
        slow = {"kind": "marks", "times_s": list(np.cumsum([0.5, 1.2, 1.35, 1.55, 1.8, 2.1]))}  # it only runs down
        self.assertEqual(wheel_turns(slow, duration_s=12.0, circumference_m=None).count, 5)

    def test_trembling_is_smoothed_and_exact_marks_stay(self) -> None:
        """25 ms of trembling (common practice, no source) is cut to less than half; exact marks stay."""
        true = np.cumsum(1 / np.linspace(3.0, 2.0, 40))
        dice = np.random.default_rng(7)
        trembled = np.sort(true + dice.normal(0, 0.025, len(true)))

        def off(marks: np.ndarray) -> float:
            course = wheel_turns({"kind": "marks", "times_s": list(marks)}, duration_s=20.0, circumference_m=None)
            return float(np.std(course.times_s - true))

        self.assertLess(off(trembled), 0.025 / 2.5)
        self.assertLess(off(true), 0.001)


GPX = """<?xml version="1.0"?><gpx version="1.1" xmlns="http://www.topografix.com/GPX/1/1"><trk><trkseg>
{}</trkseg></trk></gpx>"""


class Logs(unittest.TestCase):
    """Logged courses of speed."""

    def test_csv(self) -> None:
        """Commas, semicolons with decimal commas, miles an hour by the header: all the same course."""
        for text in (
            "time,speed km/h\n0,40\n1,50\n2,60\n",
            "t;v\n0,0;40,0\n1,0;50,0\n2,0;60,0\n",
            f"seconds,mph\n5,{40 / 1.609344}\n6,{50 / 1.609344}\n7,{60 / 1.609344}\n",
        ):
            with self.subTest(text[:12]):
                self.assertEqual(read_speed_log(text.encode()), [[0.0, 40.0], [1.0, 50.0], [2.0, 60.0]])

    def test_gpx(self) -> None:
        """A minute of latitude is a nautical mile, 1852 m: a minute an hour is a knot, 1.852 km/h (definition)."""
        step = 20 / 3600 / 60  # degrees a second at twenty knots
        points = "".join(
            f'<trkpt lat="{51 + n * step}" lon="7"><time>2026-05-01T10:00:{n:02d}Z</time></trkpt>' for n in range(30)
        )
        speeds = [v for _, v in read_speed_log(GPX.format(points).encode())]
        self.assertAlmostEqual(float(np.mean(speeds)), 20 * 1.852, delta=0.1)

    def test_refusals(self) -> None:
        """Nonsense is refused in words that say what to do."""
        for data, words in (
            (b"", "hardly any points"),
            (b"a,b\nx,y\n", "hardly any points"),
            (b"t,v\n0,10\n0,20\n", "do not rise"),
            (b"t,v\n0,10\n1,900\n", "Check its unit"),
            (b"<gpx><trk>", "damaged"),
            (b'<!DOCTYPE x [<!ENTITY a "b">]><gpx></gpx>', "entities"),
            (GPX.format("").encode(), "hardly any points"),
        ):
            with self.subTest(words), self.assertRaisesRegex(BadSpeed, words):
                read_speed_log(data)
