"""Bearings against published orders, an open data set, and the structure of the ISO plan."""

import csv
import math
import unittest
from pathlib import Path

from hematite.bearings import Row, fault_orders, matching_sizes, sizes
from hematite.errors import BadGeometry, BadQuantity, UnknownName
from hypothesis import given
from hypothesis import strategies as st

DATA = Path(__file__).parent / "data"
ORDER_TOLERANCE = 5e-4  # the published figures have four decimals, and their source gives d and D to 0.01 mm


def row(**changes: float) -> Row:
    """Return the row of the published example, with changes."""
    figures = {"elements": 9, "element_diameter_mm": 7.94, "pitch_diameter_mm": 39.04} | changes
    return Row.from_mm(**figures)


class FaultOrders(unittest.TestCase):
    """Fault orders per wheel turn."""

    def test_published_example(self) -> None:
        """Case Western Reserve University Bearing Data Center, 6205-2RS drive end, geometry page [from memory]."""
        orders = fault_orders(row(), rotating="inner")
        self.assertAlmostEqual(orders.bpfo, 3.5848, delta=ORDER_TOLERANCE)
        self.assertAlmostEqual(orders.bpfi, 5.4152, delta=ORDER_TOLERANCE)
        self.assertAlmostEqual(orders.ftf, 0.3983, delta=ORDER_TOLERANCE)
        self.assertAlmostEqual(orders.rolling, 4.7135, delta=ORDER_TOLERANCE)

    def test_rule_of_thumb(self) -> None:
        """Outer about 0.4 n and inner about 0.6 n a turn: common practice, stated by Randall & Antoni (2011)."""
        orders = fault_orders(row(), rotating="inner")
        self.assertAlmostEqual(orders.bpfo / 9, 0.4, delta=0.03)
        self.assertAlmostEqual(orders.bpfi / 9, 0.6, delta=0.03)

    @given(
        elements=st.integers(4, 30),
        ratio=st.floats(0.02, 0.5),
        angle=st.floats(0, 60),
    )
    def test_against_rolling_circles(self, elements: int, ratio: float, angle: float) -> None:
        """Slow twin: speeds of the contact points of rolling circles, not the formulas."""
        if elements > math.pi / ratio:
            return
        figures = {
            "elements": elements, "element_diameter_mm": 40 * ratio,
            "pitch_diameter_mm": 40, "contact_angle_deg": angle,
        }  # fmt: skip
        reach = ratio * math.cos(math.radians(angle))
        inner_radius, outer_radius = (1 - reach) / 2, (1 + reach) / 2
        for rotating, inner_speed, outer_speed in (("inner", 1.0, 0.0), ("outer", 0.0, 1.0)):
            orders = fault_orders(Row.from_mm(**figures), rotating=rotating)
            cage = (inner_speed * inner_radius + outer_speed * outer_radius) / (inner_radius + outer_radius)
            self.assertAlmostEqual(orders.ftf, cage, places=9)
            self.assertAlmostEqual(orders.bpfo, elements * abs(outer_speed - cage), places=7)
            self.assertAlmostEqual(orders.bpfi, elements * abs(inner_speed - cage), places=7)
            self.assertAlmostEqual(orders.bpfo + orders.bpfi, elements, places=7)

    def test_impossible_geometry(self) -> None:
        """Every refusal names the figure and says what to do."""
        cases = [
            ({"element_diameter_mm": 50}, BadGeometry, "Swap or measure"),
            ({"elements": 40}, BadGeometry, "Count them again"),
            ({"contact_angle_deg": 95}, BadGeometry, "contact angle"),
            ({"elements": 2}, BadQuantity, "at least 3"),
            ({"elements": "nine"}, BadQuantity, "nine"),
            ({"pitch_diameter_mm": -39}, BadQuantity, "more than zero"),
            ({"pitch_diameter_mm": float("nan")}, BadQuantity, "finite"),
        ]
        for changes, kind, words in cases:
            with self.subTest(changes), self.assertRaisesRegex(kind, words):
                row(**changes)
        with self.assertRaises(UnknownName):
            fault_orders(row(), rotating="both")


class Catalogue(unittest.TestCase):
    """Boundary dimensions."""

    def test_against_open_data(self) -> None:
        """Ten sizes as the open data set of bd_warehouse 0.4.0 has them."""
        with (DATA / "open_boundary_dimensions.csv").open() as file:
            rows = list(csv.DictReader(line for line in file if not line.startswith("#")))
        known = {size.designation: (size.bore_mm, size.outside_mm, size.width_mm) for size in sizes()}
        self.assertEqual(len(rows), 10)
        for entry in rows:
            expected = tuple(float(entry[name]) for name in ("bore", "outside", "width"))
            self.assertEqual(known[entry["designation"]], expected, entry["designation"])

    def test_bore_codes(self) -> None:
        """ISO 15 bore numbers: 00, 01, 02, 03 are 10, 12, 15, 17 mm, from 04 on five times the number."""
        odd = {"00": 10, "01": 12, "02": 15, "03": 17}
        for size in sizes():
            code = size.designation.rstrip("X")[-2:]
            self.assertEqual(size.bore_mm, odd.get(code, int(code) * 5), size.designation)

    def test_series_grow(self) -> None:
        """In the plan of ISO 15 a heavier diameter series of one bore is larger outside and wider."""
        by_series = {
            series: {s.bore_mm: s for s in sizes() if s.series == series} for series in ("60", "62", "63", "302", "320")
        }
        for light, heavy in (("60", "62"), ("62", "63")):
            for bore in by_series[light]:
                a, b = by_series[light][bore], by_series[heavy][bore]
                self.assertTrue(a.outside_mm < b.outside_mm and a.width_mm < b.width_mm, bore)
        for bore, taper in by_series["302"].items():
            self.assertEqual(taper.outside_mm, by_series["62"][bore].outside_mm)  # one diameter series in both plans

    def test_one_bore_many_sizes(self) -> None:
        """A bore of 25 mm alone does not say which: 25×47×12 and 25×52×15 (ISO 15, as the trade quotes it)."""
        self.assertEqual([s.designation for s in matching_sizes(bore_mm=25.05, outside_mm=47, width_mm=12)], ["6005"])
        self.assertEqual([s.designation for s in matching_sizes(bore_mm=25, outside_mm=52.1, width_mm=15)], ["6205"])
        self.assertEqual(matching_sizes(bore_mm=25, outside_mm=49, width_mm=12), ())
