"""Tyres and units against published factors and worked sizes."""

import contextlib
import unittest

from hematite.errors import BadQuantity, BadTyreCode, UnknownName
from hematite.tyres import read_code, wheel_turns_per_second
from hematite.units import from_si, quantities, to_si
from hypothesis import given
from hypothesis import strategies as st


class Tyres(unittest.TestCase):
    """Size code → diameter → rolling circumference → wheel turns."""

    def test_worked_size(self) -> None:
        """205/55 R16 → 16·25.4 + 2·0.55·205 = 631.9 mm: arithmetic of the code itself."""
        self.assertAlmostEqual(read_code("205/55 R16").diameter * 1000, 631.9, places=6)

    def test_rolling_circumference(self) -> None:
        """3.05 × unladen diameter [memory: tyre standards manual]: 1.927 m, and 14.4 turns a second at 100 km/h."""
        tyre = read_code("205/55R16 91V")
        self.assertAlmostEqual(tyre.rolling_circumference, 1.9273, places=4)
        turns = wheel_turns_per_second(speed_kmh=100, rolling_circumference=tyre.rolling_circumference)
        self.assertAlmostEqual(turns, 14.41, places=2)

    def test_other_codes(self) -> None:
        """Light truck, flotation, quad and cycle sizes; the cycle's by ISO 5775 (bead seat plus two sections)."""
        cases = {"195 R14C": 675.4, "31x10.50 R15": 787.4, "AT25x8-12": 635.0, "47-406": 500.0, "lt235/85r16": 805.9}
        for code, diameter_mm in cases.items():
            with self.subTest(code):
                self.assertAlmostEqual(read_code(code).diameter * 1000, diameter_mm, delta=0.1)

    def test_nonsense(self) -> None:
        """Refused in plain words."""
        for code in ("", "a big one", "205/5 R16", "205/55 R99", "999/99 R26", "R16", "205/55", "<script>"):
            with self.subTest(code), self.assertRaisesRegex(BadTyreCode, "again|sidewall"):
                read_code(code)

    @given(st.text(max_size=40))
    def test_any_text(self, text: str) -> None:
        """Any text is read or refused; never anything else."""
        with contextlib.suppress(BadTyreCode):
            self.assertTrue(0.15 <= read_code(text).diameter <= 1.4)


class Units(unittest.TestCase):
    """NIST Special Publication 811 (2008), appendix B.8."""

    def test_published_factors(self) -> None:
        """Factors as printed there, to their printed digits."""
        cases = [
            ("torque", "lbf_ft", 1.355818, 6),
            ("torque", "lbf_in", 0.1129848, 7),
            ("torque", "kgf_m", 9.80665, 5),
            ("length", "in", 0.0254, 9),
            ("speed", "mph", 0.44704, 9),
            ("speed", "kmh", 0.2777778, 7),
        ]
        for quantity, unit, factor, digits in cases:
            with self.subTest(unit):
                self.assertAlmostEqual(to_si(1, quantity=quantity, unit=unit), factor, places=digits)
        self.assertAlmostEqual(to_si(212, quantity="temperature", unit="f"), 373.15, places=9)

    def test_trade_pairs(self) -> None:
        """Pairs that the trade quotes together, common practice, no source."""
        self.assertAlmostEqual(from_si(175, quantity="torque", unit="lbf_ft"), 129, delta=0.1)
        self.assertAlmostEqual(from_si(2.3, quantity="torque", unit="lbf_in"), 20, delta=0.5)
        self.assertAlmostEqual(from_si(98, quantity="torque", unit="kgf_m"), 10, delta=0.01)
        self.assertAlmostEqual(from_si(393.15, quantity="temperature", unit="f"), 248, places=9)

    @given(st.floats(-1e6, 1e6))
    def test_round_trip(self, value: float) -> None:
        """There and back in every unit."""
        for quantity, table in quantities().items():
            for unit in table["units"]:
                there = to_si(value, quantity=quantity, unit=unit["key"])
                self.assertAlmostEqual(from_si(there, quantity=quantity, unit=unit["key"]), value, places=5)

    def test_refusals(self) -> None:
        """Unknown units and text for a number."""
        with self.assertRaises(UnknownName):
            to_si(1, quantity="torque", unit="ugga")
        with self.assertRaises(BadQuantity):
            to_si("tight", quantity="torque", unit="nm")  # type: ignore[arg-type]
