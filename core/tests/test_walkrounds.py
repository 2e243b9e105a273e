"""Whole walkrounds: four corners, one hidden condition, leaks between them, a stated speed that is a little off.

The sounds come from our own simulator, so this checks that the parts work together, not how well they do on a real car.
"""

import unittest

from hematite.bearings import Row
from hematite.listening import Situation, listen
from hematite.simulator import Pickup, simulate_corners
from hematite.vehicles import Axle, Hub, Vehicle
from hematite.verdict import Assessment, assess

ROW = Row.from_mm(elements=13, element_diameter_mm=12.7, pitch_diameter_mm=62.0, contact_angle_deg=36.0)
TURNS, CIRCUMFERENCE_M = 8.3, 2.0
SPEED_ERROR = 0.98  # the speedometer reads two percent low
GEOMETRY_ERROR_DEG = 1.5  # the catalogue's contact angle is off by a degree or two


def vehicle(design: str, row: Row) -> Vehicle:
    """Return four hubs of one design, with the geometry that the catalogue gives."""
    axles = tuple(Axle((Hub(f"A{n}L", "left", design, (row,)), Hub(f"A{n}R", "right", design, (row,)))) for n in (1, 2))
    return Vehicle(axles, rolling_circumference_m=CIRCUMFERENCE_M)


def walk(design: str, condition: str, *, culprit: str, seed: int, known: Row = ROW) -> Assessment:
    """Record all corners of a vehicle that hides a condition at one hub, and judge it with the known geometry.

    On stands; only a tyre is asked for on the road, since in the air it makes no noise.
    """
    situation = "road" if condition == "tyre" else "stand_driven"
    truth, believed = vehicle(design, ROW), vehicle(design, known)
    hidden = {hub.id: (hub, condition if hub.id == culprit else "sound") for hub in truth.hubs()}
    sounds = simulate_corners(hidden, turns_per_s=TURNS, duration_s=6.0, seed=seed, pickup=Pickup(rate=44_100))
    kmh = TURNS * CIRCUMFERENCE_M * 3.6 * SPEED_ERROR
    heard = [
        listen(
            sound,
            Situation(name, name, situation=situation, gain_group="g", speed={"kind": "road", "kmh": kmh}),
            vehicle=believed,
        )
        for name, sound in sounds.items()
    ]
    return assess(believed, heard, [])


class Walkrounds(unittest.TestCase):
    """The corner, the mechanism, and nobody else."""

    def test_ring_marks_and_balls(self) -> None:
        """Sealed units and tapers: the right corner and mechanism, and only that corner."""
        off = Row.from_mm(
            elements=13,
            element_diameter_mm=12.7,
            pitch_diameter_mm=62.0,
            contact_angle_deg=36.0 + GEOMETRY_ERROR_DEG,
        )
        for design in ("hub_unit", "taper_castle"):
            for seed, condition in enumerate(("outer_race", "inner_race", "rolling_element")):
                with self.subTest(design=design, condition=condition):
                    found = walk(design, condition, culprit="A2R", seed=20 + seed, known=off)
                    named = [(c.hub, c.cause, c.mechanism) for c in found.culprits]
                    self.assertEqual(named, [("A2R", "bearing", condition)])

    def test_no_bearing_is_accused_where_none_is_at_fault(self) -> None:
        """Sound vehicles, brakes and tyres: no bearing among the culprits; the right corner leads."""
        for design in ("hub_unit", "taper_castle"):
            for seed, condition in ((40, "sound"), (41, "brake"), (43, "tyre")):
                with self.subTest(design=design, condition=condition):
                    found = walk(design, condition, culprit="A1L", seed=seed)
                    self.assertEqual([c.hub for c in found.culprits if c.cause == "bearing"], [])
                    if condition != "sound":
                        self.assertEqual((found.lead.hub.id, found.lead.cause), ("A1L", condition))

    def test_louder_after_leaking(self) -> None:
        """The neighbours of a loud corner stay below suspicion though they hear it."""
        found = walk("hub_unit", "outer_race", culprit="A1R", seed=60)
        others = [v.probability for v in found.hubs if v.hub.id != "A1R"]
        self.assertLess(max(others), 0.12)
