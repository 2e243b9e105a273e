"""The choice at a hub priced, the hub across the axle, and the facts that the rules are given."""

import unittest

from hematite.decision.rules import domains
from hematite.evidence import Observation
from hematite.hubs import designs
from hematite.inspection import FACTS
from hematite.policy import Policy, read_policy
from hematite.prices import Rates
from hematite.units import shown
from hematite.vehicles import Axle, Hub, Vehicle
from hematite.verdict import Assessment, assess, price_choice, pricing_json

from tests.test_decisions import CLEAN, LOOSE, part
from tests.test_verdict import found, van


def lorry(*hubs: tuple[str, str, str]) -> Vehicle:
    """Return one axle of (id, side, design)."""
    return Vehicle((Axle(tuple(Hub(*hub) for hub in hubs)),))


class AcrossTheAxle(unittest.TestCase):
    """Which hub ages beside which."""

    def test_mates(self) -> None:
        """Two wheels; four wheels mirrored; a centre hub has none; nor has one whose neighbour is built otherwise."""
        pair = van("hub_unit")
        self.assertEqual([pair.mate(hub).id for hub in ("A1L", "A1R", "A2L")], ["A1R", "A1L", "A2R"])
        names = ("LO", "LI", "RI", "RO")
        duals = lorry(*((f"A1{n}", "left" if n[0] == "L" else "right", "taper_locknut") for n in names))
        self.assertEqual([duals.mate(f"A1{n}").id for n in names], ["A1RO", "A1RI", "A1LI", "A1LO"])
        self.assertIsNone(lorry(("A1C", "centre", "cup_cone")).mate("A1C"))
        self.assertIsNone(lorry(("A1L", "left", "hub_unit"), ("A1R", "right", "taper_castle")).mate("A1L"))
        self.assertIsNone(pair.mate("A9L"))


class Priced(unittest.TestCase):
    """From an assessment to the table of prices."""

    def priced(self, design: str, *said: Observation) -> tuple[Assessment, dict]:
        """Return the assessment and the prices of the front left hub as JSON."""
        vehicle, rates = van(design), Rates()
        assessment = assess(vehicle, [], list(said))
        return assessment, pricing_json(price_choice(assessment, vehicle, "A1L", rates), rates)

    def test_every_design_and_outcome_has_a_price(self) -> None:
        """Whatever was found, the advised choice stands first, and nothing that the design forbids is offered."""
        for key, design in designs().items():
            for said in ([], found("A1L", spin="rumbles"), found("A1L", danger_signs="smokes")):
                assessment, prices = self.priced(key, *said)
                verdict = next(v for v in assessment.hubs if v.hub.id == "A1L")
                offered = [row["choice"] for row in prices["rows"]]
                self.assertEqual(offered[0], verdict.choice.choice)
                self.assertEqual(len(set(offered)), len(offered))
                self.assertTrue(design.adjusts or "adjust" not in offered, key)
                self.assertTrue(design.repacks or "repack" not in offered, key)
                self.assertIn(prices["cheapest"], offered)

    def test_parts_of_a_price_add_up(self) -> None:
        """Now is parts, labour, fees and consumables; days are the wait and the work."""
        _, prices = self.priced("pressed_double_row", *found("A1L", spin="rumbles", stethoscope="growls"))
        for row in prices["rows"]:
            self.assertAlmostEqual(
                row["now"], row["parts"] + row["labour"] + row["fees"] + row["consumables"], places=2
            )
            self.assertAlmostEqual(row["days"], row["wait_days"] + row["hours"] / 8, places=2)

    def test_off_the_road_is_carried_in_and_mended(self) -> None:
        """Its price is that of what comes next, and of carrying it in; the next job is not offered beside it."""
        said = found("A1L", danger_signs="wobbles", half_shaft="bolts_tight", in_out="moves")
        _, prices = self.priced("axle_retained", *said)
        first = prices["rows"][0]
        self.assertEqual(first["choice"], "off_road")
        self.assertEqual(first["fees"], Rates().of("recovery") + Rates().of("press"))
        self.assertNotIn("replace_bearing", [row["choice"] for row in prices["rows"]])

    def test_both_sides_only_of_what_is_done_in_pairs(self) -> None:
        """A repack may be done on both sides at once; a nut is set alone; a centre hub has no other side."""
        self.assertIsNotNone(self.priced("taper_castle", part("outer_bearing", "dry"))[1]["sides"])
        self.assertIsNone(self.priced("taper_castle", *LOOSE, *CLEAN)[1]["sides"])
        trike = lorry(("A1C", "centre", "cup_cone"))
        assessment = assess(trike, [], [part("right_race", "pits", hub="A1C")])
        self.assertIsNone(price_choice(assessment, trike, "A1C", Rates()).sides)

    def test_a_doubtful_mate_makes_both_sides_dearer_to_put_off(self) -> None:
        """The mate rumbles as well: the chance that it follows is higher than the table's own."""
        alone = self.priced("taper_castle", part("outer_cup", "pits"))[1]["sides"]
        beside = self.priced("taper_castle", part("outer_cup", "pits"), part("outer_cup", "pits", hub="A1R"))[1][
            "sides"
        ]
        self.assertGreater(beside["chance"], alone["chance"])
        self.assertGreater(beside["one_now"], alone["one_now"])
        self.assertEqual(beside["both_now"], alone["both_now"])


class Facts(unittest.TestCase):
    """What the rules are told."""

    def facts(self, *said: Observation, policy: Policy | None = None) -> dict:
        """Return the facts of the front left hub of a van with castle nuts."""
        verdict = next(v for v in assess(van("taper_castle"), [], list(said), policy=policy).hubs if v.hub.id == "A1L")
        return dict(verdict.choice.facts)

    def test_every_fact_but_fault_and_play_is_given(self) -> None:
        """And every value is one that the rules know."""
        given = self.facts(*LOOSE, part("outer_cup", "pits"))
        self.assertEqual(set(domains()) - set(given), {"cause", "play"})
        for name in set(domains()) - {"cause", "play"}:
            self.assertIn(given[name], domains()[name], name)
        self.assertLessEqual(set(FACTS), set(given))

    def test_from_the_log_to_a_fact(self) -> None:
        """One entry each, and the fact that it makes."""
        cases = [
            (found("A1L", spin="grinds"), "rough", True),
            (found("A1L", stethoscope="growls"), "rough", True),
            (found("A1L", spin="drags"), "rough", False),
            (found("A1L", spin="drags"), "spin", "drags"),
            ([part("outer_bearing", "turns_gritty")], "rough", True),
            (found("A1L", opened="burnt"), "heat", True),
            (found("A1L", opened="milky"), "water", True),
            ([part("hub", "coating")], "seat_worn", True),
            ([part("spindle", "shaft_groove")], "land_worn", True),
            (found("A1L", wheel_nuts="loose"), "danger", "nut_loose"),
            ([part("nut", "fast_loose")], "danger", "fastening_lost"),
            ([*found("A1L", danger_signs="smokes"), part("nut", "fast_loose")], "danger", "fastening_lost"),
            (found("A1L", danger_signs="seizes"), "danger", "seizes"),
            ([part("cap", "cap_good")], "open", True),
            (found("A1L", spin="free"), "open", False),
            (found("A1R", spin="grinds"), "rough", False),
        ]
        for said, name, value in cases:
            with self.subTest(said=said, fact=name):
                self.assertEqual(self.facts(*said)[name], value)

    def test_a_flush_button_is_grease_lost(self) -> None:
        """Only a spring-loaded cap has one."""
        trailer = van("taper_pressurised")
        verdict = next(v for v in assess(trailer, [], found("A1L", cap_button="flush")).hubs if v.hub.id == "A1L")
        self.assertTrue(verdict.choice.facts["grease_lost"])

    def test_the_schools_are_facts(self) -> None:
        """Those that the rules ask about, as the workshop chose."""
        policy = read_policy({"schools": {"slack": "tight", "sides": "both"}})
        given = self.facts(policy=policy)
        self.assertEqual((given["slack"], given["sides"], given["repack"]), ("tight", "both", "when_open"))


class Settling(unittest.TestCase):
    """The test that would settle a hub."""

    def settle(self, *said: Observation, hub: str = "A1L"):
        """Return the settling test of a hub of a van."""
        return next(v for v in assess(van("taper_castle"), [], list(said)).hubs if v.hub.id == hub).settle

    def test_it_is_at_the_hub_or_of_the_whole_vehicle(self) -> None:
        """Never at another corner, and not one that was made."""
        said = found("A1L", spin="rumbles")
        test = self.settle(*said)
        self.assertIn(test.hub, (None, "A1L"))
        self.assertNotEqual(test.test, "spin")
        self.assertGreater(test.gain_bits, 0)

    def test_a_settled_hub_asks_for_none(self) -> None:
        """A marked race is seen, not guessed."""
        self.assertIsNone(self.settle(part("outer_cup", "pits")))


class Shown(unittest.TestCase):
    """Figures on paper."""

    def test_lengths_and_torques(self) -> None:
        """TMC RP 618's upper limit in both units, from memory; a torque of practice: 24 N·m is 18 lbf·ft."""
        self.assertEqual(shown(0.000127, quantity="length", unit="in"), "0.0050 in")
        self.assertEqual(shown(0.000125, quantity="length", unit="mm"), "0.125 mm")
        value, unit = shown(24, quantity="torque", unit="lbf_ft").split()
        self.assertEqual((round(float(value)), unit), (18, "lbf·ft"))
