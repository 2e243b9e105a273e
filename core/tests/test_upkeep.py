"""When to come back, how fast a vehicle and its wear go on, and what goes along on the road."""

import contextlib
import io
import json
import tempfile
import unittest
from pathlib import Path
from typing import Any

import numpy as np
import statsmodels.api as statsmodels
from hematite.__main__ import main
from hematite.decision import UNTOUCHED, choices
from hematite.errors import BadQuantity, HematiteError, UnknownName
from hematite.fastenings import Fastening
from hematite.hubs import designs
from hematite.upkeep import (
    Entry,
    Gauge,
    Visit,
    asks,
    due,
    due_at_once,
    judge,
    judge_stop,
    kit,
    rate,
    reached,
    rechecks,
    shortening,
    stops,
    trend,
)
from hematite.upkeep.trend import orders
from hematite.vehicles import Axle, Hub, Vehicle
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats


def axle(design: str, *, driven: bool = False, duty: tuple[str, ...] = ()) -> Vehicle:
    """Return an axle of two hubs of a design, with a driven one behind it so that it is no trailer."""
    front = Axle(tuple(Hub(f"A1{side[0].upper()}", side, design) for side in ("left", "right")), driven=driven)
    rear = Axle(tuple(Hub(f"A2{side[0].upper()}", side, "hub_unit") for side in ("left", "right")), driven=True)
    return Vehicle((front, rear), duty=duty)


def trailer(design: str = "taper_pressurised", duty: tuple[str, ...] = ()) -> Vehicle:
    """Return a trailer of one axle."""
    return Vehicle((Axle((Hub("A1L", "left", design), Hub("A1R", "right", design))),), duty=duty)


class Rechecks(unittest.TestCase):
    """By design and job: common practice, no source."""

    def keys(self, vehicle: Vehicle, *jobs: tuple[str, str]) -> dict[str, str]:
        """Return the hub of each recheck by its key."""
        return {one.key: one.hub for one in rechecks(vehicle, jobs)}

    def test_a_set_nut_is_looked_at_after_thirty_km_and_only_where_there_is_one(self) -> None:
        """New tapers settle as set ones do; a cartridge pair has no nut to set, a shimmed axle has its pack."""
        (nut,) = [one for one in rechecks(axle("taper_clamp"), [("A1L", "replace_bearing")]) if one.key == "set_nut"]
        self.assertEqual((nut.km, nut.hub, nut.asks), (30, "A1L", "play"))
        self.assertNotIn("set_nut", self.keys(axle("cartridge_pair"), ("A1L", "repack")))
        self.assertNotIn("set_nut", self.keys(axle("hub_unit"), ("A1L", "replace_unit")))
        self.assertIn("shims", self.keys(axle("taper_shimmed"), ("A1L", "adjust")))

    def test_wheel_nuts_after_half_an_hour_and_on_the_road_but_not_of_a_cycle(self) -> None:
        """The half hour comes first of all."""
        first, *_ = rechecks(axle("hub_unit"), [("A1L", "replace_unit")])
        self.assertEqual((first.key, first.minutes), ("wheel_nuts_soon", 30))
        cycle = Vehicle((Axle((Hub("A1C", "centre", "cup_cone"),)),))
        found = self.keys(cycle, ("A1C", "adjust"))
        self.assertFalse([key for key in found if key.startswith("wheel_nuts")])
        self.assertIn("set_nut", found)

    def test_the_mate_is_asked_for_only_where_it_was_left_alone(self) -> None:
        """Bearings of one axle age together."""
        self.assertEqual(self.keys(axle("hub_unit"), ("A1L", "replace_unit"))["mate"], "A1R")
        both = rechecks(axle("hub_unit"), [("A1L", "replace_unit"), ("A1R", "replace_unit")])
        self.assertNotIn("mate", {one.key for one in both})
        self.assertEqual(len({(one.hub, one.key) for one in both}), len(both))

    def test_the_button_of_a_pressurised_hub(self) -> None:
        """And of no other."""
        for design in designs():
            found = self.keys(axle(design), ("A1L", "repack"))
            self.assertEqual("button" in found, design == "taper_pressurised", design)

    def test_every_choice_at_every_design_has_one_by_days_and_none_says_what_the_hub_has_not(self) -> None:
        """What was left alone is never called set, torqued or renewed."""
        for design in designs():
            for choice in choices():
                found = rechecks(axle(design), [("A1L", choice)])
                self.assertTrue(found, (design, choice))
                self.assertTrue(all(one.days >= 1 and one.asks in asks() for one in found), (design, choice))
                if choice in UNTOUCHED:
                    self.assertFalse([one for one in found if one.asks in ("wheel_nuts", "button")], (design, choice))

    def test_duty_shortens_what_wears_and_says_why(self) -> None:
        """Not what settles: thirty km stay thirty km."""
        usual = {one.key: one for one in rechecks(trailer(), [("A1L", "repack")])}
        hard = {one.key: one for one in rechecks(trailer(duty=("water", "long_tows")), [("A1L", "repack")])}
        self.assertEqual(hard["set_nut"], usual["set_nut"])
        self.assertEqual((hard["next_service"].km, len(hard["next_service"].shortened)), (2000, 2))
        self.assertLess(hard["grease"].days, usual["grease"].days)

    def test_loads_worked_out_stand_in_the_place_of_a_guess(self) -> None:
        """ISO 281 as a ratio: half of the life, half of the interval; a gain lengthens nothing."""
        self.assertAlmostEqual(shortening(("spacers",), life_ratio=0.5).times, 0.5)
        self.assertEqual(shortening((), life_ratio=1.4).times, 1.0)
        self.assertGreaterEqual(shortening(("water", "dust", "overload", "long_tows", "spacers", "stood")).times, 0.1)
        after_water = due_at_once("water")
        self.assertEqual(after_water and after_water["days"], 1)
        self.assertIsNone(due_at_once("dust"))
        for wrong in ({"duty": ("flying",)}, {"life_ratio": -1.0}, {"life_ratio": float("nan")}):
            with self.assertRaises(HematiteError):
                shortening(**wrong)  # type: ignore[arg-type]

    def test_what_is_not_known_is_refused(self) -> None:
        """A hub or a choice of nobody's."""
        for job in (("A9L", "adjust"), ("A1L", "undecided")):
            with self.assertRaises(UnknownName):
                rechecks(axle("hub_unit"), [job])


class Answers(unittest.TestCase):
    """A recheck is answered in words or by a reading."""

    def test_a_reading_is_judged_by_the_hubs_own_window(self) -> None:
        """TMC RP 618's window for tapers, from memory: 0.025 to 0.125 mm."""
        good = judge("play", "A1L", trailer(), reading={"readings_mm": [0.07, 0.08, 0.07]})
        loose = judge("play", "A1L", trailer(), answer="good", reading={"readings_mm": [0.31, 0.30, 0.31]})
        self.assertEqual((good.outside, loose.outside), (False, True))
        self.assertEqual(loose.observation and loose.observation.kind, "end_play")

    def test_words_say_no_more_than_was_said(self) -> None:
        """A button flush is that witness; a thing that moves may be anything, and is no witness."""
        flush = judge("button", "A1L", trailer(), answer="bad").observation
        self.assertEqual(flush and dict(flush.value), {"answer": "flush"})
        self.assertIsNone(judge("play", "A1L", trailer(), answer="bad").observation)
        self.assertIsNone(judge("button", "A1L", trailer(), answer="good").observation)

    def test_a_thermometer_against_the_air(self) -> None:
        """An unbraked hub is about as cool as it: common practice, no source."""
        warm = judge("warmth", "A1L", trailer(), reading={"temp_c": 62.0, "ambient_c": 18.0})
        cool = judge("warmth", "A1L", trailer(), reading={"temp_c": 21.0, "ambient_c": 18.0})
        self.assertEqual((warm.outside, cool.outside), (True, False))

    def test_refusals(self) -> None:
        """No answer, a reading of what is not measured, a reading that is none."""
        for wrong in ({}, {"answer": "perhaps"}, {"reading": {"readings_mm": [float("nan")]}}):
            with self.assertRaises(HematiteError):
                judge("play", "A1L", trailer(), **wrong)  # type: ignore[arg-type]
        with self.assertRaises(UnknownName):  # nobody's limits to judge by: never "good"
            judge("play", "A9L", trailer(), reading={"readings_mm": [0.3]})
        with self.assertRaises(BadQuantity):
            judge("button", "A1L", trailer(), reading={"readings_mm": [0.1]})


class WhatIsDue(unittest.TestCase):
    """Whichever comes first."""

    READ = (Entry(0, 1000), Entry(30, 1900), Entry(60, 2800), Entry(90, 3700))  # thirty a day, evenly

    def test_date_or_distance(self) -> None:
        """Three hundred km at thirty a day are ten days; two of them are past."""
        far = Gauge(300.0, rate(self.READ), days_since=2.0)
        self.assertEqual((due(days_left=40, km=far).by, round(due(days_left=40, km=far).expected or 0)), ("km", 8))
        self.assertEqual(due(days_left=5, km=far).by, "date")
        self.assertEqual(due(days_left=40, km=far).state, "soon")

    def test_overdue_only_where_somebody_read_it_or_the_date_has_passed(self) -> None:
        """By rate alone it is due, never overdue."""
        self.assertEqual(due(days_left=20, km=Gauge(-5.0)).state, "overdue")
        self.assertEqual(due(days_left=-1).state, "overdue")
        self.assertEqual(due(days_left=20, km=Gauge(30.0, rate(self.READ), days_since=9.0)).state, "due")

    def test_nothing_to_go_by(self) -> None:
        """A distance without any reading says nothing; hours of work do as km."""
        self.assertEqual(due(days_left=None, km=Gauge(300.0)).by, "")
        self.assertEqual(due(days_left=None, hours=Gauge(30.0, rate(self.READ))).by, "hours")


class Odometer(unittest.TestCase):
    """A rate with its doubt."""

    READ = ((0, 81_200), (31, 82_350), (58, 83_010), (97, 84_900), (140, 86_000), (171, 87_340))

    def test_rate_and_range_against_a_statistics_library(self) -> None:
        """Weighted least squares through nothing, weights 1/t, on the same stretches [statsmodels]."""
        known = rate([Entry(*one) for one in self.READ])
        days, gained = np.diff(np.array(self.READ, dtype=float), axis=0).T
        fitted = statsmodels.WLS(gained, days, weights=1 / days).fit()
        assert known is not None
        low, high = fitted.conf_int(alpha=0.2)[0]
        np.testing.assert_allclose((known.per_day, known.low, known.high), (fitted.params[0], low, high), rtol=1e-9)

    def test_the_day_a_distance_is_reached_against_its_prediction(self) -> None:
        """At the soonest day the upper end of the library's prediction is the distance, at the latest the lower."""
        known = rate([Entry(*one) for one in self.READ])
        days, gained = np.diff(np.array(self.READ, dtype=float), axis=0).T
        fitted = statsmodels.WLS(gained, days, weights=1 / days).fit()
        assert known is not None
        found = reached(known, 4000.0)
        assert found.soonest and found.latest
        for day, end in ((found.soonest, "obs_ci_upper"), (found.latest, "obs_ci_lower")):
            told = fitted.get_prediction([[day]], weights=[1 / day]).summary_frame(alpha=0.2)[end].iloc[0]
            self.assertAlmostEqual(told / 4000.0, 1.0, delta=0.01)
        self.assertTrue(found.soonest < 4000.0 / known.per_day < found.latest)

    def test_the_ranges_hold_as_often_as_they_say(self) -> None:
        """Four times in five, for even and uneven use: nominal 80 %, got 75 to 85 %."""
        dice = np.random.default_rng(15)
        per_day, uneven, far, held, arrived, many = 40.0, 90.0, 3000.0, 0, 0, 600
        for n in range(many):
            days = dice.uniform(10, 120, 3 + n % 6)
            gained = dice.gamma(days * (per_day / uneven) ** 2, uneven**2 / per_day)
            read = [Entry(0, 0), *(Entry(a, b) for a, b in zip(np.cumsum(days), np.cumsum(gained), strict=True))]
            known = rate(read)
            assert known is not None and known.low is not None and known.high is not None
            held += known.low <= per_day <= known.high
            path = np.cumsum(dice.gamma(np.full(2000, (per_day / uneven) ** 2), uneven**2 / per_day))
            there, told = int(np.argmax(path >= far)) + 1, reached(known, far)
            arrived += (told.soonest or 1e9) <= there <= (told.latest or 1e9)
        for share in (held / many, arrived / many):
            self.assertTrue(0.75 <= share <= 0.85, share)

    def test_too_little_is_said_to_be(self) -> None:
        """One reading or a week is no rate; two readings are one without a doubt that anybody knows."""
        self.assertIsNone(rate([Entry(0, 81_000)]))
        self.assertIsNone(rate([Entry(0, 81_000), Entry(7, 81_500)]))
        two = rate([Entry(0, 81_000), Entry(60, 82_800)])
        assert two is not None
        self.assertEqual((two.per_day, two.low), (30.0, None))
        self.assertEqual(reached(two, 300).expected, 10.0)

    def test_refusals(self) -> None:
        """An odometer does not go back, nor below nothing."""
        for wrong in ([(0, 900), (30, 800)], [(0, -5), (30, 100)], [(0, float("nan")), (30, 100)]):
            with self.assertRaises(BadQuantity):
                rate([Entry(*one) for one in wrong])

    def test_one_that_stands(self) -> None:
        """Never gets there."""
        still = rate([Entry(day, 500) for day in (0, 40, 90, 150)])
        assert still is not None
        self.assertIsNone(reached(still, 100).expected)


class Trends(unittest.TestCase):
    """Growth over visits."""

    @given(st.lists(st.floats(-1, 1), min_size=4, max_size=12))
    def test_the_slope_is_the_librarys(self, values: list[float]) -> None:
        """Theil and Sen [scipy.stats.theilslopes], and each other where all visits are put upside down."""
        days = [30.0 * n + 3.0 * (n % 3) for n in range(len(values))]
        made = trend([Visit(*one) for one in zip(days, values, strict=True)])
        assert made.slope is not None and made.low is not None and made.high is not None
        theirs = stats.theilslopes(values, days).slope * 365.25
        self.assertAlmostEqual(made.slope, theirs, places=9)
        self.assertTrue(made.low <= made.slope + 1e-12 and made.slope <= made.high + 1e-12)
        turned = trend([Visit(day, -value) for day, value in zip(days, values, strict=True)])
        assert turned.low is not None
        self.assertAlmostEqual(turned.low, -made.high, places=9)

    def test_the_count_of_orders_is_kendalls(self) -> None:
        """Its exact chances [scipy.stats.kendalltau], two-sided, for four to nine figures."""
        for n in range(4, 10):
            inverted = list(range(n))
            inverted[0], inverted[1] = 1, 0  # one pair in the wrong order
            theirs = stats.kendalltau(range(n), inverted, method="exact").pvalue
            self.assertAlmostEqual(2 * sum(orders(n)[:2]), theirs, places=12)

    def test_the_ranges_hold_as_often_as_they_say(self) -> None:
        """Slope and date, with a dial's error and its last digit: nominal 80 %, got 75 to 85 %."""
        dice, growth, many = np.random.default_rng(16), 0.00012, 900
        held, dated, told = 0, 0, 0
        for n in range(many):
            days = np.cumsum(dice.uniform(60, 250, 4 + n % 7))
            play = np.round(0.03 + growth * days + dice.normal(0, 0.01, len(days)), 2)
            limit = 0.03 + growth * (days[-1] + 400)
            made = trend([Visit(*one) for one in zip(days, play, strict=True)], limit=limit)
            assert made.low is not None and made.high is not None
            held += made.low <= growth * 365.25 <= made.high
            if not made.outside:
                told += 1
                dated += (made.soonest or 1e9) <= 400 and (made.latest is None or made.latest >= 400)
        for share in (held / many, dated / told):
            self.assertTrue(0.75 <= share <= 0.85, share)

    def test_what_was_before_a_repair_says_nothing_of_what_came_after(self) -> None:
        """A new bearing begins anew: too little to say."""
        visits = [Visit(100.0 * n, 0.03 + 0.02 * n) for n in range(6)]
        self.assertEqual(trend(visits, limit=0.2).grows, "surely")
        after = trend(visits, limit=0.2, breaks=[350.0])
        self.assertEqual((after.visits, after.slope), (2, None))
        self.assertIn("Too little to say", after.words)

    def test_one_odd_reading_changes_little(self) -> None:
        """A line of least squares would follow it."""
        visits = [Visit(90.0 * n, 0.05 + 0.005 * n) for n in range(8)]
        odd = [*visits[:3], Visit(visits[3].day, 0.4), *visits[4:]]
        plain, robust = trend(visits).slope, trend(odd).slope
        assert plain and robust
        self.assertLess(abs(robust / plain - 1), 0.25)

    def test_the_words(self) -> None:
        """Over it now; not at all; perhaps."""
        self.assertIn("over its limit now", trend([Visit(0, 0.3)], limit=0.2).words)
        flat = [Visit(90.0 * n, value) for n, value in enumerate((0.06, 0.05, 0.05, 0.04, 0.04, 0.03))]
        self.assertEqual((trend(flat, limit=0.2).grows, trend(flat, limit=0.2).soonest), ("no", None))
        with self.assertRaises(BadQuantity):
            trend([Visit(0, float("nan"))])


class OnTheRoad(unittest.TestCase):
    """The kit, the stops, and a hub that is warm."""

    def test_the_kit_is_for_these_hubs(self) -> None:
        """Their bearings by designation, their seal by size, one-time parts, and the setting on a card."""
        own = {"designations": {"inboard": "30205", "outboard": "30203"}, "seal_mm": (40.0, 62.0, 8.0)}
        nut = {"nut_set": Fastening("nut_set", least_nm=2.0, most_nm=2.3, source="plate")}
        hubs = tuple(Hub(f"A1{s[0].upper()}", s, "taper_castle", fastenings=nut, **own) for s in ("left", "right"))
        found = kit(Vehicle((Axle(hubs),)))
        sizes = {item.size for item in found.parts}
        self.assertLessEqual({"30205", "30203", "40×62×8"}, sizes)
        self.assertIn("Cotter pin", {item.label for item in found.parts})
        (card,) = found.cards
        self.assertEqual(card.hubs, ("A1L", "A1R"))
        self.assertIn(2.15, [round(line.torque_nm or 0, 3) for line in card.torques])

    def test_what_needs_a_press_is_not_promised_beside_the_road(self) -> None:
        """And what nobody wrote down is said to be unknown, never guessed."""
        found = kit(axle("pressed_double_row"))
        self.assertIn("A1L", found.not_on_the_road[0][0])
        self.assertNotIn("press", {item.key for item in found.tools})
        self.assertTrue(kit(trailer()).unknown)

    def test_every_design_has_a_kit_whose_tools_are_listed_once(self) -> None:
        """A thing that lies there twice was counted twice."""
        for design in designs():
            labels = [item.label for item in kit(axle(design)).tools]
            self.assertEqual(len(labels), len(set(labels)), design)

    def test_a_hub_is_judged_against_its_mate(self) -> None:
        """Hot stops; warm against a cold mate is its own; both warm are the brakes, where there are any."""
        level = lambda vehicle, **felt: {one.hub: one.level for one in judge_stop(vehicle, felt)}  # noqa: E731
        self.assertEqual(level(axle("taper_castle"), A1L="hot", A1R="cold"), {"A1L": "stop", "A1R": "good"})
        self.assertEqual(level(axle("taper_castle"), A1L="warm", A1R="cold")["A1L"], "look")
        self.assertEqual(level(axle("taper_castle"), A1L="warm", A1R="warm")["A1L"], "watch")
        self.assertEqual(level(trailer(), A1L="warm", A1R="warm")["A1L"], "look")
        self.assertEqual(level(trailer(), A1L="warm")["A1L"], "look")
        with self.assertRaises(UnknownName):
            judge_stop(trailer(), {"A1L": "lukewarm"})

    def test_stops_by_distance(self) -> None:
        """The first is early, earlier after work; none at the journey's end."""
        self.assertEqual(stops(300), (25.0, 145.0, 265.0))
        self.assertEqual(stops(100, just_worked_on=True), (5.0, 25.0))
        self.assertLessEqual(len(stops(10**9)), 61)
        for wrong in (0, -5, float("nan")):
            with self.assertRaises(BadQuantity):
                stops(wrong)


class OnTheCommandLine(unittest.TestCase):
    """What the core can do, its command line can do."""

    def run_it(self, *words: str) -> dict[str, Any]:
        """Return what a command prints as JSON; it must say the same in words."""
        out = io.StringIO()
        with contextlib.redirect_stdout(out):
            self.assertEqual((main([*words, "--json"]), main(list(words))), (0, 0))
        first, *said = out.getvalue().splitlines()
        self.assertTrue(said)
        return dict(json.loads(first))

    def test_each(self) -> None:
        """As JSON and in words."""
        run = self.run_it
        found = run("recheck", "--design", "taper_castle", "--choice", "repack", "--duty", "water")
        self.assertIn("set_nut", {row["key"] for row in found["rechecks"]})
        found = run("odometer", "--read", "0=1000", "--read", "30=2000", "--read", "60=2900", "--to-go", "500")
        self.assertAlmostEqual(found["rate"]["per_day"], 31.67, delta=0.01)
        visits = [word for n in range(5) for word in ("--visit", f"{90 * n}={0.05 + 0.01 * n}")]
        self.assertEqual(run("trend", *visits, "--limit", "0.2")["grows"], "surely")
        with tempfile.TemporaryDirectory() as folder:
            hubs = [
                {"id": f"A1{side[0].upper()}", "side": side, "design": "taper_castle"} for side in ("left", "right")
            ]
            case = {"format": "hematite-case", "version": 1, "vehicle": {"axles": [{"hubs": hubs}]}}
            (Path(folder) / "case.json").write_text(json.dumps(case))
            self.assertIn("Cotter pin", [item["label"] for item in run("kit", folder)["parts"]])
        self.assertEqual(run("stops", "--km", "300", "--felt", "A1L=hot")["felt"][0]["level"], "stop")
