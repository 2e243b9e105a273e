"""Prices by hand: sums that can be done on the back of an invoice, and what must hold whatever the figures."""

import unittest

from hematite.errors import BadQuantity, UnknownName
from hematite.hubs import designs
from hematite.policy import known_only, read_policy, schools
from hematite.prices import Pricing, Rates, figures, price, read_rates
from hypothesis import given
from hypothesis import strategies as st

OWN = {
    "hour": 50.0,
    "press": 20.0,
    "day": 0.0,
    "again_hours": 1.0,
    "elsewhere": 100.0,
    "recovery": 80.0,
    "mate_within": 0.5,
}
CASTLE = {"bearing": 40.0, "seal": 5.0, "consumables": 5.0, "hours.adjust": 1.0, "hours.replace_bearing": 2.0}
OWN |= {f"taper_castle.{key}": value for key, value in CASTLE.items()} | {"taper_castle.wait.bearing": 0.0}
RATES = Rates(OWN)


def priced(loose: float, rates: Rates = RATES) -> Pricing:
    """Return the prices at a castle-nut hub that is loose with this probability, and else has a marked race."""
    beliefs = {"loose": loose, "outer_race": 1 - loose}
    right = {"loose": "adjust", "outer_race": "replace_bearing"}
    best = "adjust" if loose >= 0.5 else "replace_bearing"
    other = "replace_bearing" if best == "adjust" else "adjust"
    return price(
        "taper_castle", recommended=best, possible=[other], beliefs=beliefs, right=right, rates=rates, mate=0.0
    )


def marked(design: str, choice: str, rates: Rates) -> Pricing:
    """Return the price of one choice at a hub whose race is marked."""
    beliefs, right = {"outer_race": 1.0}, {"outer_race": "replace_bearing"}
    return price(design, recommended=choice, possible=[], beliefs=beliefs, right=right, rates=rates)


class ByHand(unittest.TestCase):
    """One hour costs 50, the set 40 with a seal for 5, grease 5; days cost nothing."""

    def test_now(self) -> None:
        """Adjust: an hour and the pin and grease. Replace: two hours, bearing, seal, grease."""
        rows = {row.choice: row for row in priced(0.8).rows}
        self.assertEqual(rows["adjust"].now, 50 + 5)
        self.assertEqual(rows["replace_bearing"].now, 100 + 40 + 5 + 5)

    def test_comeback(self) -> None:
        """Adjusting comes back in 8 of 100 when it was loose and 95 of 100 when a race was marked (the table's own)."""
        adjust = priced(0.8).rows[0]
        self.assertAlmostEqual(adjust.comeback, 0.8 * 0.08 + 0.2 * 0.95)
        again = 0.8 * 0.08 * (55 + 50) + 0.2 * 0.95 * (150 + 50)
        self.assertAlmostEqual(adjust.expected, 55 + again)

    def test_flip(self) -> None:
        """At the chance that is named, both cost the same; below it the other costs less."""
        (flip,) = priced(0.8).flips
        at = flip.below_probability
        self.assertIsNotNone(at)
        rows = {row.choice: row.expected for row in priced(max(at, 0.5)).rows}
        if at >= 0.5:
            self.assertAlmostEqual(rows["adjust"], rows["replace_bearing"], places=6)
        under = {row.choice: row.expected for row in priced(at - 0.02).rows}
        self.assertLess(under["replace_bearing"], under["adjust"])

    def test_flip_by_the_price_of_parts(self) -> None:
        """At the price that is named, seal included, both cost the same, comebacks that need the part counted too."""
        (flip,) = priced(0.3).flips
        self.assertIsNotNone(flip.parts_above)
        dear = priced(0.3, Rates(OWN | {"taper_castle.bearing": flip.parts_above - OWN["taper_castle.seal"]}))
        rows = {row.choice: row.expected for row in dear.rows}
        self.assertAlmostEqual(rows["adjust"], rows["replace_bearing"], places=6)

    def test_both_sides(self) -> None:
        """The second side saves a quarter of the hours; the mate follows in one of two."""
        sides = priced(0.1).sides
        self.assertEqual(sides.both_now, 150 + 150 - 0.25 * 100)
        self.assertEqual(sides.one_now, 150 + 0.5 * 150)
        self.assertIsNone(priced(0.9).sides)

    def test_press_and_machine(self) -> None:
        """A pressed bearing takes the press; a castle nut does not."""
        for design, fee in (("pressed_double_row", 20.0), ("taper_castle", 0.0)):
            self.assertEqual(marked(design, "replace_bearing", RATES).rows[0].fees, fee)


class Whatever(unittest.TestCase):
    """What must hold for any figures."""

    @given(st.floats(0.01, 0.99), st.floats(1, 500), st.floats(1, 500))
    def test_dearer_parts_never_make_a_replacement_cheaper(self, loose: float, bearing: float, more: float) -> None:
        """And no cost is negative, no chance outside 0 to 1."""
        cheap, dear = (
            {row.choice: row for row in priced(loose, Rates(OWN | {"taper_castle.bearing": b})).rows}
            for b in (bearing, bearing + more)
        )
        self.assertLess(cheap["replace_bearing"].expected, dear["replace_bearing"].expected)
        for row in dear.values():
            self.assertTrue(0 <= row.comeback <= 1 and row.expected >= row.now >= 0)

    def test_examples_are_marked(self) -> None:
        """Every default is an example until the workshop enters its own; a price made of any example says so."""
        self.assertTrue(all(figure.example for figure in figures(Rates())))
        self.assertFalse(next(f for f in figures(RATES) if f.key == "hour").example)
        self.assertTrue(priced(0.8, Rates()).rows[0].example)
        self.assertFalse(priced(0.8).rows[0].example)

    def test_every_design_has_its_figures(self) -> None:
        """For every design a price of leaving and of both replacements can be made."""
        for design in designs():
            for choice in ("leave", "replace_bearing", "replace_unit", "look_elsewhere", "off_road"):
                self.assertGreaterEqual(marked(design, choice, Rates()).rows[0].now, 0)


class Policies(unittest.TestCase):
    """Reading what a workshop entered."""

    def test_ten_differences_default_first(self) -> None:
        """Ten schools, each option with what it gains and costs."""
        self.assertEqual(len(schools()), 10)
        self.assertEqual(read_policy({}).schools["rusted_unit"], "unit")
        for school in schools().values():
            self.assertGreaterEqual(len(school.options), 2)
            self.assertTrue(all(option.gains and option.costs for option in school.options), school.key)

    def test_refusals(self) -> None:
        """Each in words."""
        cases = [
            ({"schools": {"sides": "three"}}, UnknownName, "One side or both"),
            ({"schools": {"colour": "blue"}}, UnknownName, "difference of practice"),
            ({"limits": {"taper_castle": {"least_mm": 0.3, "most_mm": 0.1, "source": "x"}}}, BadQuantity, "Swap them"),
            ({"limits": {"taper_castle": {"most_mm": 0.1}}}, BadQuantity, "where the limit came from"),
            ({"limits": {"taper_castle": {"most_mm": -0.1, "source": "x"}}}, BadQuantity, "cannot be negative"),
            ({"prices": {"figures": {"hour": "a lot"}}}, BadQuantity, "must be a number"),
            ({"prices": {"figures": {"hour": -3}}}, BadQuantity, "cannot be negative"),
            ({"prices": {"figures": {"mate_within": 2}}}, BadQuantity, "too much"),
            ({"prices": {"figures": {"lunch": 3}}}, UnknownName, "price list"),
        ]
        for data, kind, words in cases:
            with self.subTest(data), self.assertRaisesRegex(kind, words):
                read_policy(data)

    def test_what_no_table_lists_any_more_is_left_out(self) -> None:
        """A stored policy outlives its tables; what they still list stands."""
        old = {
            "schools": {"sides": "both", "colour": "blue", "slack": "none"},
            "limits": {"taper_wooden": {"most_mm": 1}},
            "prices": {"currency": "Kr", "figures": {"hour": 700, "lunch": 3}},
        }
        policy = read_policy(known_only(old))
        self.assertEqual((policy.schools["sides"], policy.schools["slack"]), ("both", "middle"))
        self.assertEqual((policy.rates.own, policy.rates.currency, policy.limits), ({"hour": 700.0}, "Kr", {}))

    def test_a_case_departs(self) -> None:
        """One difference changes, the others stay."""
        policy = read_policy({"schools": {"slack": "tight"}}).departing({"sides": "both"})
        self.assertEqual((policy.schools["slack"], policy.schools["sides"]), ("tight", "both"))
        self.assertEqual(read_rates({"currency": " Kr "}).currency, "Kr")
