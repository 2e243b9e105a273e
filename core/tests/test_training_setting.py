"""Setting a practice nut: what turns with it, what locking moves, and what counts as set. Figures reckoned by hand."""

import itertools
import unittest

from hematite.errors import HematiteError
from hematite.setting import LOCKS, positions, windup
from hematite.threads import read_thread
from hematite.training import Truth, draw, levels, mark, observe, stops, topics, vehicle_of
from hematite.training.nuts import has_nut, known_of, stands_mm, turned

MATTERS = list(topics()["setting"].matters)
EVERY = list(itertools.product(MATTERS, levels(), range(20)))


def drawn(matter: str, number: int, seed: int):
    """Return a drawn truth, its vehicle and its hub."""
    name, truth = draw("setting", matter, number=number, seed=seed)
    vehicle = vehicle_of(name)
    hub = vehicle.hub(truth.at)
    assert hub is not None
    return truth, vehicle, hub


def on_a_car(matter: str):
    """Return the same on the car, whose nut is an M20×1.5 with a castle, set from 12 N·m."""
    return next(
        drawn(matter, 1, seed) for seed in range(99) if draw("setting", matter, number=1, seed=seed)[0] == "car"
    )


class Turning(unittest.TestCase):
    """What the dial and the hand find."""

    def test_by_hand(self) -> None:
        """M20×1.5, a quarter turn from 12 N·m: 0.375 mm less the windup, a straight line in between; locked, moved."""
        truth, _, hub = on_a_car("free")
        # 12 N·m over K·d, by 0.12 and 0.25 times 20 mm: 5,000 and 2,400 N; over 1.5e8 and 6e8 N/m: 0.0333 and 0.004 mm
        for share, lost in ((0.0, 0.004), (1.0, 12 / (0.12 * 0.02) / 1.5e8 * 1000)):
            given = Truth.from_json(truth.to_json() | {"nut": {"loses": share, "locks_mm": -0.03}})
            nut = {"thread": "M20×1.5", "angle_deg": 90.0, "preload_nm": 12.0}
            found = turned(given, hub, **nut)
            self.assertAlmostEqual(found.play_mm, 0.375 - lost, 6)
            self.assertAlmostEqual(stands_mm(given, hub, nut), 0.375 - lost - 0.03, 6)
            self.assertFalse(found.drags)
            self.assertEqual(turned(given, hub, **nut | {"thread": "M20×1"}), found)  # a slip in the sum turns no nut
            self.assertEqual(turned(given, hub, thread="M20×1.5", angle_deg=0).play_mm, 0.0)
            self.assertTrue(turned(given, hub, thread="M20×1.5", angle_deg=0).drags)

    def test_a_worn_set_drags_with_play(self) -> None:
        """Wherever in its window it stands, it drags; a good one does not."""
        for matter, number, seed in EVERY:
            truth, vehicle, hub = drawn(matter, number, seed)
            known = known_of(hub, vehicle)
            pitch = read_thread(known["thread"]).pitch_mm
            for play in hub.play_window_mm:
                angle = play / pitch * 360
                found = turned(truth, hub, thread=known["thread"], angle_deg=angle, preload_nm=0.0)
                self.assertEqual(found.drags, matter == "worn", (matter, found))

    def test_a_place_of_the_lock_lies_in_the_window(self) -> None:
        """Of every drawn nut that is locked in places one suits, by the sum's own list of them."""
        with_places = 0
        for matter, number, seed in EVERY:
            truth, vehicle, hub = drawn(matter, number, seed)
            self.assertTrue(has_nut(hub, vehicle))
            known = known_of(hub, vehicle)
            if known.get("lock") not in LOCKS:
                self.assertNotIn("next_deg", truth.nut)
                continue
            with_places += 1
            thread = read_thread(known["thread"])
            found = positions(
                pitch_mm=thread.pitch_mm, window_mm=hub.play_window_mm, lock=known["lock"], slots=known["slots"],
                ends=known["ends"], next_deg=truth.nut["next_deg"],
                lost=windup(preload_nm=known["preload_nm"], nut_diameter_mm=thread.diameter_mm),
            )  # fmt: skip
            nut = {"thread": known["thread"], "preload_nm": known["preload_nm"]}
            low, high = hub.play_window_mm
            stands = [stands_mm(truth, hub, nut | {"angle_deg": row.angle_deg}) for row in found.rows]
            self.assertTrue(any(low <= play <= high for play in stands), (truth, stands))
        self.assertGreater(with_places, 50)


class Marking(unittest.TestCase):
    """What is right, and what the others would have done."""

    def test_where_it_was_left_counts(self) -> None:
        """Inside the window right, below it hot, above loose; a worn one set a danger, a good one condemned waste."""
        truth, vehicle, _ = on_a_car("free")
        given = Truth.from_json(truth.to_json() | {"nut": {"loses": 0.0, "locks_mm": 0.0}})
        for angle, harm in ((18.0, ""), (4.0, "tight"), (60.0, "loose"), (0.0, "tight")):  # 0.071, 0.013, 0.246, 0 mm
            nut = {"thread": "M20×1.5", "angle_deg": angle, "preload_nm": 12.0}
            found = mark(given, vehicle, (), hub="", key="set", nut=nut)
            self.assertEqual((found.harm, found.right), (harm, not harm), angle)
            self.assertEqual(stops(found.harm), harm == "tight")  # a loose one knocks, a tight one seizes
        self.assertEqual(mark(given, vehicle, (), hub="", key="drags").harm, "waste")
        with self.assertRaises(HematiteError):
            mark(given, vehicle, (), hub="", key="set")
        worn, vehicle, _ = on_a_car("worn")
        self.assertTrue(mark(worn, vehicle, (), hub="", key="drags").right)
        nut = {"thread": "M20×1.5", "angle_deg": 20.0}
        self.assertEqual(mark(worn, vehicle, (), hub="", key="set", nut=nut).harm, "danger")

    def test_nobody_complains(self) -> None:
        """What the driver says is the same for a worn set: it is only being set."""
        for seed in range(20):
            said = {matter: drawn(matter, 2, seed)[0].complaint["text"] for matter in MATTERS}
            self.assertEqual(len(set(said.values())), 1, said)

    def test_the_bench_sets_them(self) -> None:
        """By moves, dial and places the bench sets or refuses all but a few; locking is made up for."""
        right = 0
        for matter, number, seed in EVERY:
            truth, vehicle, _ = drawn(matter, number, seed)
            found = observe(truth, vehicle)
            right += mark(truth, vehicle, (), hub="", key=found.key, **found.given).right
            self.assertTrue(found.steps)
        self.assertGreater(right, 0.97 * len(EVERY))
