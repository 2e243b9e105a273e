"""What is heard while a recording is still made: growing evidence, a stopping rule, and what would help."""

import unittest
from dataclasses import replace

import numpy as np
from hematite.bearings import Row
from hematite.listening import Situation, as_it_goes_on, hear_so_far
from hematite.listening.so_far import BY_LUCK, ENOUGH, LOOK_EVERY_S, MORE, NO_SPEED, NOTHING, ON_THE_ROAD, WAIT
from hematite.recordings import Recording
from hematite.simulator import simulate
from hematite.vehicles import Axle, Hub, Vehicle

ROW = Row.from_mm(elements=13, element_diameter_mm=12.7, pitch_diameter_mm=62.0, contact_angle_deg=36.0)
HUB = Hub("A1L", "left", "hub_unit", (ROW,))
CAR = Vehicle((Axle((HUB, Hub("A1R", "right", "hub_unit", (ROW,)))),), rolling_circumference_m=2.0)
WHEEL = {"kind": "wheel", "turns_per_s": 8.0}


def situation(**made: object) -> Situation:
    """Return a recording at the left hub, turned at eight turns a second."""
    return Situation("r", **({"place": "A1L", "speed": WHEEL} | made))


class SoFar(unittest.TestCase):
    """Looks at one sound as it grows."""

    def test_evidence_grows_until_it_is_decided(self) -> None:
        """Too short to ask; then a mark that stands ever higher; decided at ten thousand to one, no sooner."""
        sound = simulate(HUB, condition="outer_race", turns_per_s=8.0, duration_s=11.0, seed=2)
        looks = as_it_goes_on(sound, situation(), vehicle=CAR)
        self.assertEqual([round(one.seconds / LOOK_EVERY_S, 1) for one in looks], [1.0, 2.0, 3.0, 4.0, 4.4])
        self.assertEqual((looks[0].words, looks[0].standing, looks[0].decided), (WAIT, [], False))
        for one in looks[1:]:
            lead = one.standing[0]
            self.assertEqual(lead.kind, "outer_race")
            self.assertEqual(one.decided, lead.strength >= 9.2 and lead.odds >= 4.6)
            words = ENOUGH if one.decided else BY_LUCK if lead.strength >= 9.2 else MORE
            self.assertEqual(one.words, words)
        self.assertEqual(looks[-1].words, BY_LUCK)  # a drive turns here too; a wheel let go is alone
        alone = hear_so_far(sound, situation(situation="stand_spin"), vehicle=CAR)
        self.assertEqual((alone.standing[0].kind, alone.decided, alone.words), ("outer_race", True, ENOUGH))

    def test_what_would_help(self) -> None:
        """Hiss decides nothing, and says so with and without a speed; a run on the road goes on; clipping is told."""
        hiss = Recording(0.1 * np.random.default_rng(3).standard_normal(9 * 16_000).astype(np.float32), 16_000)
        for made, words in (
            (situation(), NOTHING),
            (situation(speed={"kind": "unknown"}), NO_SPEED),
            (situation(speed={"kind": "marks", "times_s": [0.5]}), NO_SPEED),
            (situation(speed={"kind": "counted", "turns": 60}), NO_SPEED),
            (situation(place="cabin", situation="road"), ON_THE_ROAD),
        ):
            found = hear_so_far(hiss, made, vehicle=CAR)
            self.assertEqual((found.words, found.decided), (words, False))
        for louder, words in ((8.0, "Too loud"), (40.0, "Far too loud")):
            clipped = replace(hiss, samples=np.clip(louder * hiss.samples, -1.0, 1.0))
            self.assertIn(words, hear_so_far(clipped, situation(), vehicle=CAR).words)

    def test_hiss_is_not_stopped_for(self) -> None:
        """Every look at hiss, white and brown, of a driven wheel and of one let go: none is decided."""
        for seed in range(4):
            hiss = np.random.default_rng(seed).standard_normal(10 * 8_000)
            hiss = np.cumsum(hiss) - np.cumsum(hiss).mean() if seed % 2 else hiss
            sound = Recording((0.2 * hiss / np.abs(hiss).max()).astype(np.float32), 8_000)
            unknown = situation(situation=("stand_driven", "stand_spin")[seed // 2], speed={"kind": "unknown"})
            looks = as_it_goes_on(sound, unknown, vehicle=CAR)
            self.assertFalse(any(one.decided for one in looks), seed)
