"""The tables that a mechanic could argue with, and the doors that check what comes in."""

import math
import unittest

from hematite import doors
from hematite.errors import BadQuantity, HematiteError, UnknownName
from hematite.evidence.witnesses import witnesses
from hematite.hubs import design, designs
from hematite.simulator import CONDITIONS
from hematite.tables import table
from hematite.units import quantities
from hematite.vehicles import Axle, Hub, Vehicle
from hypothesis import given
from hypothesis import strategies as st


class Designs(unittest.TestCase):
    """Hub designs as the trade knows them; common practice, no source."""

    def test_sealed_units_are_never_adjusted_or_repacked(self) -> None:
        """Sealed units and pressed bearings leave nothing to set."""
        for key in ("hub_unit", "pressed_double_row", "axle_retained"):
            self.assertEqual((design(key).adjusts, design(key).repacks), ("", False), key)

    def test_tapers(self) -> None:
        """Every opposed taper is set by its nut and turns its outer ring; the shimmed axle turns its inner."""
        for key, row in designs().items():
            if row.taper and key != "taper_shimmed":
                self.assertEqual((row.adjusts, row.repacks, row.rotating), ("nut", True, "outer"), key)
        self.assertEqual((design("taper_shimmed").adjusts, design("taper_shimmed").rotating), ("shims", "inner"))

    def test_limits_have_sources(self) -> None:
        """No window without a source, none upside down."""
        for key, row in designs().items():
            self.assertTrue(row.play_source, key)
            self.assertLessEqual(row.play_min_mm, row.play_max_mm, key)

    def test_all_ten(self) -> None:
        """The ten designs of the trade's table."""
        self.assertEqual(len(designs()), 10)
        with self.assertRaisesRegex(UnknownName, "hub_unit"):
            design("magnetic_levitation")


class Vehicles(unittest.TestCase):
    """Vehicles of any layout."""

    def test_layouts(self) -> None:
        """One to four wheels an axle, front to back, found by name."""
        axles = (
            Axle((Hub("A1C", "centre", "cup_cone"),)),
            Axle(tuple(Hub(f"A2{s}", "left", "hub_unit") for s in "abcd")),
        )
        trike = Vehicle(axles, tyre="47-406")
        self.assertEqual([hub.id for hub in trike.hubs()], ["A1C", "A2a", "A2b", "A2c", "A2d"])
        self.assertIsNone(trike.hub("A3L"))
        self.assertAlmostEqual(trike.circumference, 3.05 * 0.5)
        self.assertIsNone(Vehicle(axles).circumference)
        self.assertEqual(Vehicle(axles, tyre="47-406", rolling_circumference_m=1.6).circumference, 1.6)

    def test_the_manual_overrides(self) -> None:
        """Play limits and the turning ring of the vehicle's own manual come before the design's defaults."""
        hub = Hub("A1L", "left", "taper_castle", (), "inner", 0.0, 0.2)
        self.assertEqual((hub.play_window_mm, hub.rotating), ((0.0, 0.2), "inner"))
        self.assertEqual(Hub("A1L", "left", "taper_castle").play_window_mm, (0.025, 0.125))


class Tables(unittest.TestCase):
    """Every row says where it comes from."""

    def test_quality_rows(self) -> None:
        """Every finding has a level, a limit, words that take a value, and a hint of what to change."""
        for key, row in table("recordings/quality.toml").items():
            with self.subTest(key):
                self.assertIn(row["level"], ("stop", "warn"))
                self.assertNotIn("{", row["words"].format(value=1.0))
                self.assertTrue(row["hint"].endswith("."))
                self.assertTrue(math.isfinite(row["limit"]))

    def test_units_have_sources(self) -> None:
        """Every factor names its source, and the first unit of each quantity is metric."""
        for name, quantity in quantities().items():
            self.assertTrue(all(unit["source"] for unit in quantity["units"]), name)
        self.assertEqual([q["units"][0]["key"] for q in quantities().values()], ["mm", "nm", "c", "kmh"])

    def test_catalogue_and_rules_have_standing(self) -> None:
        """Sizes name their plan; every rule has a reason and says what would change it; every witness says why."""
        self.assertTrue(all("memory" in series["source"] for series in table("bearings/catalogue.toml")["series"]))
        rules = table("decision/rules.toml")
        for rule in rules["rule"]:
            self.assertIn(rule["choice"], [*rules["choices"], "replace"])
            self.assertTrue(rule["because"] and rule["change"], rule["id"])
        self.assertEqual(len({rule["id"] for rule in rules["rule"]}), len(rules["rule"]))
        for key, row in witnesses().items():
            self.assertTrue(row["why"] and row["standing"] and row["minutes"] > 0, key)

    def test_conditions(self) -> None:
        """The simulated pickup hides what a bench must tell apart."""
        rings = {"outer_race", "inner_race", "rolling_element", "cage", "distributed_wear"}
        wanted = rings | {"sound", "loose", "dry", "brake", "tyre", "tread"}
        self.assertEqual(set(CONDITIONS), wanted)


class Doors(unittest.TestCase):
    """One small check per kind of input."""

    def test_what_is_no_number(self) -> None:
        """Text, nothing, infinities: refused with the value in the message."""
        for value in ("loose", None, [], float("inf"), float("nan")):
            with self.subTest(value=value), self.assertRaises(BadQuantity):
                doors.finite(value, "The play")
        with self.assertRaisesRegex(BadQuantity, "loose"):
            doors.finite("loose", "The play")

    @given(st.floats(allow_nan=True, allow_infinity=True))
    def test_any_float(self, value: float) -> None:
        """Every float is either returned or refused in words, by each door alike."""
        for door in (doors.finite, doors.positive, doors.not_negative):
            try:
                self.assertEqual(door(value, "It"), value)
            except HematiteError as refusal:
                self.assertIn("It", str(refusal))

    def test_counts(self) -> None:
        """Whole numbers only."""
        self.assertEqual(doors.count("13", "Balls"), 13)
        for value in (2.5, 0, "many"):
            with self.assertRaises(BadQuantity):
                doors.count(value, "Balls")
