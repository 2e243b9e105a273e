"""Bearings against published orders, an open data set, and the structure of the ISO plan."""

import csv
import itertools
import math
import unittest
from pathlib import Path

from hematite.bearings import Row, Size, counted, estimate_orders, fault_orders, find_bearing, sizes, sizes_by_name
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

    def test_published_bearings(self) -> None:
        """Twenty-two bearings of open data sets, each with its source: `tests/data/fault_orders.csv`."""
        lines = (DATA / "fault_orders.csv").read_text(encoding="utf-8").splitlines()
        known = list(csv.DictReader(line for line in lines if not line.startswith("#")))
        self.assertEqual((len(known), sum(one["orders"] == "published" for one in known)), (22, 5))
        for one in known:
            figures = (one[name] for name in ("element_mm", "pitch_mm", "contact_deg"))
            element, pitch, angle = map(float, figures)
            found = fault_orders(
                row(elements=int(one["elements"]), element_diameter_mm=element, pitch_diameter_mm=pitch,
                    contact_angle_deg=angle), rotating="inner",
            )  # fmt: skip
            for name in ("bpfo", "bpfi", "bsf", "ftf"):
                if one[name]:
                    half_a_digit = 0.5001 * 10.0 ** -len(one[name].split(".")[1])
                    rounded = ORDER_TOLERANCE if one["orders"] == "published" else 0.0  # sizes are given to 0.01 mm
                    with self.subTest(one["bearing"], order=name):
                        self.assertAlmostEqual(getattr(found, name), float(one[name]), delta=half_a_digit + rounded)

    def test_rule_of_thumb(self) -> None:
        """Outer about 0.4 n and inner about 0.6 n a turn: common practice, no source."""
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
        """Every size that two open data sets and the catalogue share; sources in the file."""
        with (DATA / "open_boundary_dimensions.csv").open() as file:
            rows = list(csv.DictReader(line for line in file if not line.startswith("#")))
        known = sizes_by_name()
        self.assertGreaterEqual(len({entry["designation"] for entry in rows}), 60)
        for entry in rows:
            expected = tuple(float(entry[name]) for name in ("bore", "outside", "width"))
            self.assertEqual(known[entry["designation"]].dimensions_mm, expected, entry["designation"])

    def test_bore_codes(self) -> None:
        """ISO 15 bore numbers: 00 to 03 are 10, 12, 15, 17 mm, from 04 on five times the number, /22 is 22 mm."""
        odd = {"00": 10, "01": 12, "02": 15, "03": 17}
        for size in sizes():
            name = size.designation.rstrip("X")
            if size.kind == "double_row" or size.series == "inch":
                continue
            if len(name) == 3:
                self.assertEqual(size.bore_mm, int(name[-1]), name)
            elif "/" in name:
                self.assertEqual(size.bore_mm, int(name.split("/")[1]), name)
            else:
                self.assertEqual(size.bore_mm, odd.get(name[-2:], int(name[-2:]) * 5), name)

    def test_series_grow(self) -> None:
        """In the plan of ISO 15 a heavier diameter series of one bore is larger outside and wider."""
        by_series = {
            series: {s.bore_mm: s for s in sizes() if s.series == series} for series in {s.series for s in sizes()}
        }
        chains = (("68", "69"), ("69", "60"), ("60", "62"), ("62", "63"), ("63", "64"))
        for light, heavy in chains:
            for bore in set(by_series[light]) & set(by_series[heavy]):
                a, b = by_series[light][bore], by_series[heavy][bore]
                self.assertTrue(a.outside_mm < b.outside_mm and a.width_mm <= b.width_mm, (light, heavy, bore))
        for taper, ball in (
            ("302", "62"),
            ("322", "62"),
            ("332", "62"),
            ("303", "63"),
            ("323", "63"),
            ("320", "60"),
            ("330", "60"),
        ):
            for bore in set(by_series[taper]) & set(by_series[ball]):  # one diameter series in both plans
                self.assertEqual(by_series[taper][bore].outside_mm, by_series[ball][bore].outside_mm, (taper, bore))

    def test_inch_tapers(self) -> None:
        """Trailer sets as the trade asks for them by cone and cup, in inches (ANSI/ABMA 19.2, from memory)."""
        inches = {
            "L44649": (1.0625, 1.98),
            "LM67048": (1.25, 2.328),
            "L68149": (1.3775, 2.328),
            "LM11949": (0.75, 1.781),
        }
        by_cone = {size.pair[0]: size for size in sizes() if size.pair}
        for cone, (bore, outside) in inches.items():
            self.assertAlmostEqual(by_cone[cone].bore_mm / 25.4, bore, delta=5e-4)
            self.assertAlmostEqual(by_cone[cone].outside_mm / 25.4, outside, delta=5e-4)


class Finder(unittest.TestCase):
    """Which of the same-looking bearings is it?"""

    def names(self, *dimensions: float | None) -> list[str]:
        """Return what fits."""
        return [size.designation for size in measured(*dimensions).fits]

    def test_one_bore_many_sizes(self) -> None:
        """A bore of 25 mm alone does not say which: 25×47×12 and 25×52×15 (ISO 15, as the trade quotes it)."""
        self.assertEqual(self.names(25.05, 47, 12), ["6005"])
        self.assertEqual(self.names(25, 52.1, 15), ["6205"])
        self.assertEqual(self.names(25, 49, 12), [])
        with self.assertRaisesRegex(BadGeometry, "One figure does not tell"):
            measured(25)

    def test_two_figures_leave_it_open_and_say_what_is_missing(self) -> None:
        """25 by 47 is a ball bearing of two widths or a taper of two."""
        found = measured(25, 47)
        self.assertEqual({s.designation for s in found.fits}, {"6005", "16005", "32005X", "33005"})
        self.assertEqual(found.missing, ("width",))

    def test_near_misses_say_why(self) -> None:
        """Nearest first, with the figure that is off."""
        near = {miss.size.designation: miss.why for miss in measured(25, 47, 12).near}
        self.assertEqual(near["32005X"], "It is 3 mm wider.")
        self.assertIn("larger outside", near["L44643/L44610"])

    def test_one_cup_serves_several_cones(self) -> None:
        """Two cones of one cup differ by the bore alone."""
        pairs = [size.pair for size in sizes() if size.pair and size.pair[1] == "L44610"]
        self.assertEqual({cone for cone, _ in pairs}, {"L44643", "L44649"})
        self.assertEqual(self.names(26.99, 50.29, 14.22), ["L44649/L44610"])

    @given(st.sampled_from(sizes()), st.tuples(*[st.floats(-0.15, 0.15)] * 3))
    def test_every_size_is_found_by_a_caliper(self, size: Size, slips: tuple[float, float, float]) -> None:
        """Whatever the caliper slips by."""
        dimensions = [own + slip for own, slip in zip(size.dimensions_mm, slips, strict=True)]
        self.assertIn(size, measured(*dimensions).fits)

    def test_refusals(self) -> None:
        """A bore larger than the outside, text, a negative width."""
        with self.assertRaisesRegex(BadGeometry, "Swap or measure"):
            measured(47, 25, 12)
        with self.assertRaisesRegex(BadQuantity, "number"):
            measured("thick", 47, 12)
        with self.assertRaisesRegex(BadQuantity, "more than zero"):
            measured(25, 47, -12)

    def test_estimates_against_counted_rows(self) -> None:
        """Every size whose balls somebody counted; sources in the table."""
        rows = {name: counted(name) for name in ("6203", "6204", "6205", "6206", "6207")}
        for name, known in rows.items():
            estimate = estimate_orders(sizes_by_name()[name], rotating="inner").row
            self.assertEqual(estimate.elements, known["elements"], name)
            self.assertAlmostEqual(estimate.element_diameter * 1000 / known["element_diameter_mm"], 1, delta=0.05)
            self.assertAlmostEqual(estimate.pitch_diameter * 1000 / known["pitch_diameter_mm"], 1, delta=0.02)
            Row.from_mm(**known)
        self.assertEqual(counted("6208"), {})

    def test_an_estimate_s_range_holds_what_was_counted(self) -> None:
        """All four orders of every counted size, whichever ring turns; none is certain."""
        for designation, ring in itertools.product(("6203", "6204", "6205", "6206", "6207"), ("inner", "outer")):
            estimate = estimate_orders(sizes_by_name()[designation], rotating=ring)
            truth = fault_orders(Row.from_mm(**counted(designation)), rotating=ring)
            for name in ("bpfo", "bpfi", "bsf", "ftf"):
                with self.subTest(designation, ring=ring, order=name):
                    least, most = getattr(estimate.least, name), getattr(estimate.most, name)
                    self.assertTrue(least < getattr(truth, name) < most)
                    self.assertTrue(least < getattr(estimate.likeliest, name) < most)

    @given(st.sampled_from(sizes()))
    def test_estimated_rows_could_exist(self, size: Size) -> None:
        """Elements fit on their pitch circle, and inside the section."""
        estimate = estimate_orders(size, rotating="outer").row
        Row.from_mm(
            elements=estimate.elements,
            element_diameter_mm=estimate.element_diameter * 1000,
            pitch_diameter_mm=estimate.pitch_diameter * 1000,
        )
        self.assertLess(estimate.element_diameter * 1000, (size.outside_mm - size.bore_mm) / 2)


def measured(*dimensions: object):
    """Return what the finder says of up to three dimensions, in order."""
    return find_bearing(**dict(zip(("bore_mm", "outside_mm", "width_mm"), dimensions, strict=False)))
