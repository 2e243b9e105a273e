"""Fault families: lines put in come out named, chance stays chance, and the wheel's own orders accuse no bearing."""

import itertools
import unittest
from dataclasses import replace

import numpy as np
from hematite.bearings import Row, fault_orders
from hematite.envelopes import POINTS_PER_TURN, OrderSpectrum, order_spectrum
from hematite.families import (
    CLEAR,
    FAINT,
    SURE,
    Ear,
    Family,
    Turning,
    bearing_families,
    combs,
    gear_family,
    geared_tones,
    once_a_turn,
    song_of,
    steady_tones_hz,
    tread_family,
    unknown_families,
    wheel_scale,
    whole_families,
)
from hematite.families.whole import in_nats
from hematite.families.words import family_words
from hematite.odds import STRENGTHS, held_against, line_odds, odds_of, odds_of_chance, own_share
from hematite.tables import table
from scipy import stats

ROW = Row.from_mm(elements=13, element_diameter_mm=12.7, pitch_diameter_mm=62.0, contact_angle_deg=36.0)
INNER, OUTER = (fault_orders(ROW, rotating=ring) for ring in ("inner", "outer"))
TURNS = 160


def angle() -> np.ndarray:
    """Return wheel angle in turns."""
    return np.arange(TURNS * POINTS_PER_TURN) / POINTS_PER_TURN


def knocks(order: float, *, side: float = 0.0, harmonics: int = 4, depth: float = 0.3) -> np.ndarray:
    """Return a swell of so many harmonics, each modulated at `side` orders."""
    turns = angle()
    modulation = 1 + (0.8 * np.cos(2 * np.pi * side * turns) if side else 0)
    return depth * modulation * sum(np.cos(2 * np.pi * k * order * turns) for k in range(1, harmonics + 1))


def heard(signal: np.ndarray, *, seed: int = 1, hiss: float = 1.0) -> OrderSpectrum:
    """Return the order spectrum of a signal in hiss."""
    found = order_spectrum(signal + hiss * np.random.default_rng(seed).standard_normal(len(angle())))
    assert found is not None
    return found


def hummed(signal: np.ndarray) -> OrderSpectrum:
    """Return the low sound's own order spectrum, as far up as a tyre hums."""
    found = order_spectrum(signal + np.random.default_rng(2).standard_normal(len(signal)), highest=100.0)
    assert found is not None
    return found


def ear(*signals: np.ndarray, tones: np.ndarray | None = None, seed: int = 1, spread: float = 0.005) -> Ear:
    """Return an ear with one band for each signal, two bands of hiss beside them, and the low sound's own tones."""
    spectra = [heard(signal, seed=seed + n) for n, signal in enumerate((*signals, 0 * angle(), 0 * angle()))]
    return Ear(tuple(spectra), heard(0 * angle() if tones is None else tones, seed=seed + 99), spread=spread)


class Bearings(unittest.TestCase):
    """Families of known and unknown geometry."""

    def test_each_family_for_each_turning_ring(self) -> None:
        """What is put in at a family's order, with its side lines, leads and stands clear; whichever ring turns."""
        for orders in (INNER, OUTER):
            for comb in combs(orders):
                if comb.kind == "cage":
                    continue
                with self.subTest(comb.kind, rotating=orders.rotating):
                    found = bearing_families(ear(knocks(comb.order, side=comb.side)), (ROW,), rotating=orders.rotating)
                    self.assertEqual((found[0].kind, found[0].standing), (comb.kind, "clear"))
                    self.assertEqual([f.kind for f in found[1:] if f.standing == "clear"], [])

    def test_what_has_lines_at_half_its_order_is_slower(self) -> None:
        """An engine's cycle is two of its turns: knocks there tell; of tones one may be anything's, two are not."""
        order, turns = 5.27, angle()
        tone = [0.5 * np.cos(2 * np.pi * k * order * turns) for k in (0.5, 1.5)]
        for found, least, most in (
            (ear(knocks(order)), -9.0, 0.0),
            (ear(knocks(order / 2, harmonics=8)), 5.0, 99.0),
            (ear(knocks(order), tones=tone[0]), -9.0, 1.0),
            (ear(knocks(order), tones=tone[0] + tone[1]), 3.0, 99.0),
        ):
            self.assertTrue(least < found.at_halves(order) < most, found.at_halves(order))
        slower = ear(knocks(order / 2, harmonics=8))
        self.assertLess(slower.at_halves(order, knocks=False), 0.0)

    def test_slip_is_searched(self) -> None:
        """A cage 1.5 % behind meets the standing ring less often, the turning one more; the order says so.

        Kinematics: n (1 - c) passes a turn for a ring that turns past a cage at c turns (Harris, chapter 8, recalled).
        """
        behind = 0.985 * INNER.ftf
        for order, kind in ((13 * behind, "outer_race"), (13 * (1 - behind), "inner_race")):
            found = bearing_families(ear(knocks(order, side=float(kind == "inner_race"))), (ROW,), rotating="inner")[0]
            self.assertEqual(found.kind, kind)
            self.assertAlmostEqual(found.found_order / order, 1.0, delta=0.004)

    def test_the_ring_of_an_unknown_bearing(self) -> None:
        """Side lines a turn apart mean the turning ring, a cage turn apart a ball, none the standing ring."""
        for rotating, side, kind in (
            ("inner", 0.0, "outer_race"), ("inner", 1.0, "inner_race"), ("inner", 0.41, "rolling_element"),
            ("outer", 0.0, "inner_race"), ("outer", 1.0, "outer_race"),
        ):  # fmt: skip
            with self.subTest(rotating=rotating, side=side):
                found = unknown_families(ear(knocks(5.27, side=side)), rotating=rotating)[0]
                self.assertEqual((found.kind, found.standing), (kind, "clear"))
                self.assertAlmostEqual(found.found_order, 5.27, delta=0.06)

    def test_how_many_balls_it_implies(self) -> None:
        """0.4 n for an outer race: order 5.2 fits 13 balls, and neighbours are named: common practice, no source."""
        self.assertIn("13", unknown_families(ear(knocks(5.2)), rotating="inner")[0].note)

    def test_only_a_cage_that_goes_with_its_order_makes_it_a_ball(self) -> None:
        """Cage and ball follow from one share of the pitch circle: at 9.8 a turn no ball has lines 0.35 beside it."""
        for order, side, kind in (
            (5.27, 0.41, "rolling_element"),
            (9.8, 0.35, "outer_race"),
            (5.27, 0.63, "outer_race"),
        ):
            with self.subTest(order=order, side=side):
                self.assertEqual(unknown_families(ear(knocks(order, side=side)), rotating="inner")[0].kind, kind)

    def test_a_bearing_of_which_only_the_count_is_known(self) -> None:
        """Its rings are heard wherever a usual ratio of sizes puts them, and told apart; hiss is nothing.

        Nine balls of Case Western Reserve's drive end, orders 3.5848 and 5.4152 [published with the data; recalled].
        """
        for count, orders in ((9, (3.5848, 5.4152)), (13, (0.44 * 13, 0.56 * 13)), (13, (0.37 * 13, 0.63 * 13))):
            for kind, order, side in zip(("outer_race", "inner_race"), orders, (0.0, 1.0), strict=True):
                with self.subTest(kind, order=order):
                    found = bearing_families(ear(knocks(order, side=side)), (), counts=(count,), rotating="inner")[0]
                    self.assertEqual((found.kind, found.standing), (kind, "clear"))
                    self.assertAlmostEqual(found.found_order, order, delta=0.03)
        for seed in range(6):
            found = bearing_families(ear(0 * angle(), seed=7 * seed), (), counts=(13,), rotating="inner")
            self.assertEqual([f.kind for f in found if f.standing != "nothing"], [])

    def test_two_lines_in_every_band_are_two_lines(self) -> None:
        """Something else that turns may make them; of a wheel that turns alone they are the wheel's."""
        driven = ear(*[knocks(INNER.bpfo, harmonics=2)] * 7)
        alone = replace(driven, alone=True)
        strengths = [bearing_families(one, (ROW,), rotating="inner")[0].strength for one in (driven, alone)]
        self.assertLess(strengths[0], 10.0)
        self.assertGreater(strengths[1], strengths[0] + 3.0)

    def test_wear_sings(self) -> None:
        """A ring worn wavy all round sings at its order: tones in the low sound, no knocks."""
        song = sum(2 * np.cos(2 * np.pi * k * INNER.bpfo * 0.99 * angle()) for k in (1, 2, 3))
        found = bearing_families(ear(0 * angle(), tones=song), (ROW,), rotating="inner")
        self.assertEqual((found[0].kind, found[0].standing), ("many", "clear"))
        self.assertAlmostEqual(found[0].order, INNER.bpfo)
        self.assertEqual([f.kind for f in found[1:] if f.standing != "nothing"], [])

    def test_two_rows(self) -> None:
        """A mark in the second of two different rows is named with its row."""
        other = Row.from_mm(elements=17, element_diameter_mm=8.4, pitch_diameter_mm=53.0, contact_angle_deg=14.0)
        rows = (replace(ROW, name="inboard"), replace(other, name="outboard"))
        order = fault_orders(other, rotating="outer").bpfi
        found = bearing_families(ear(knocks(order)), rows, rotating="outer")[0]
        self.assertEqual((found.kind, found.row), ("inner_race", "outboard"))


class Chance(unittest.TestCase):
    """The null made out of the same recording."""

    def test_hiss_earns_no_more_than_one(self) -> None:
        """Odds held against hiss are one on average, or less: none clear, few faint in 60 spectra, known row or not."""
        found = [
            family.strength
            for seed in range(60)
            for one in (ear(0 * angle(), seed=10 * seed),)
            for family in (*bearing_families(one, (ROW,), rotating="inner"), *unknown_families(one, rotating="inner"))
        ]
        self.assertLessEqual(float(np.mean(np.exp(found))), 1.5)
        self.assertEqual(sum(s >= CLEAR for s in found), 0)
        self.assertLessEqual(sum(s >= FAINT for s in found), 0.02 * len(found))

    def test_by_chance_is_markovs(self) -> None:
        """Odds that are one on average exceed a hundred once in a hundred times at most."""
        said = {s: Family("cage", 1, 1, 0, s, ()).by_chance for s in (-2.0, FAINT, CLEAR)}
        self.assertEqual(said[-2.0], 1.0)
        self.assertAlmostEqual(1 / said[FAINT], 10, delta=0.1)
        self.assertAlmostEqual(1 / said[CLEAR], 100, delta=1)

    def test_odds_of_a_line_are_those_of_gamma_densities(self) -> None:
        """Against scipy's gamma: the mean density with a line over that without, half the lines missing."""
        hiss = heard(0 * angle())
        looks = 0.85 * hiss.blocks
        flat = OrderSpectrum(hiss.orders, np.linspace(0.2, 6.0, len(hiss.orders)), hiss.power, hiss.blocks)
        mean = flat.ratio * stats.gamma.median(looks) / looks
        without = stats.gamma.pdf(mean, looks, scale=1 / looks)
        present = np.mean([stats.gamma.pdf(mean, looks, scale=(1 + a) / looks) for a in STRENGTHS], axis=0)
        expected = np.log(0.5 + 0.5 * present / without)
        np.testing.assert_allclose(odds_of(mean, np.full(len(mean), looks)), expected, atol=1e-9)
        found = line_odds([flat])[0, 0]  # read from a curve
        within = flat.orders > 0.25
        np.testing.assert_allclose(found[within], np.minimum(expected, 5.0)[within], atol=1e-3)

    def test_chance_makes_odds_as_published(self) -> None:
        """Sellke, Bayarri & Berger (2001), table 1, recalled: p = 0.05, 0.01, 0.001 give at most 2.5, 8, 53 to one."""
        for p, odds in ((0.05, 2.46), (0.01, 7.99), (0.001, 53.3)):
            self.assertAlmostEqual(np.exp(odds_of_chance(np.log(p))), odds, delta=0.01 * odds + 0.01)
        self.assertEqual(odds_of_chance(np.log(0.5)), 0.0)

    def test_what_chance_makes_elsewhere_caps_the_odds(self) -> None:
        """By hand: the upper fifth starts at 8 and falls off over 1; 12 is e⁻⁴/5 by chance. In hiss odds stay."""
        elsewhere = np.concatenate([np.zeros(80), np.full(20, 9.0)])
        elsewhere[79] = 8.0
        start = float(np.quantile(elsewhere, 0.8))
        falls = max(float((elsewhere[elsewhere > start] - start).mean()), 1.0)
        chance = -(12.0 - start) / falls + np.log(0.2)
        self.assertAlmostEqual(held_against(12.0, elsewhere), odds_of_chance(chance))
        self.assertLess(held_against(12.0, elsewhere), 5.0)
        self.assertEqual(held_against(0.5, np.full(100, -2.0)), 0.5)

    def test_bands_that_hear_the_same_gust_count_once(self) -> None:
        """Of four bands with hiss of their own all four count, of four copies one; the published effective number."""
        dice, half = np.random.default_rng(5), np.full(4000, 100.0)
        own = np.log(dice.exponential(size=(4, 4000)))
        for shared, counts in ((0.0, 4.0), (1.0, 1.0)):
            found = own_share(own if not shared else np.repeat(own[:1], 4, axis=0), half)
            self.assertAlmostEqual(float(4 * found.mean()), counts, delta=0.1)
        mixed = np.sqrt(0.5) * dice.standard_normal((4, 4000)) + np.sqrt(0.5) * dice.standard_normal(4000)
        squared = np.square(np.corrcoef(np.clip(mixed, -2, 2)))
        self.assertAlmostEqual(float(4 * own_share(mixed, half).mean()), 16 / float(squared.sum()), delta=0.1)

    def test_what_is_filled_with_hiss_is_exponential_over_its_median(self) -> None:
        """As hiss has it: scipy's gamma of as many looks, over its median."""
        spectrum = heard(knocks(5.0))
        filled = spectrum.as_hiss(np.ones(len(spectrum.orders), dtype=bool), np.random.default_rng(1)).ratio
        law = stats.gamma(spectrum.looks, scale=1 / stats.gamma(spectrum.looks).median())
        self.assertGreater(stats.kstest(filled, law.cdf).pvalue, 0.01)

    def test_slip_is_usual_or_not(self) -> None:
        """Over all slips the odds average to none; one per cent counts for more than three and a half."""
        comb = combs(INNER)[0]
        scales = comb.scales(0.0)
        usual = comb.usual(scales, 0.0)
        self.assertAlmostEqual(float(np.exp(usual).mean()), 1.0)
        self.assertGreater(usual[np.abs(scales - 0.99).argmin()], usual[np.abs(scales - 0.965).argmin()] + 2.0)

    def test_deviations_are_gumbels(self) -> None:
        """The best of many looks: the middle says nothing; six deviations are 1 in 1320 by chance, some 70 to one."""
        self.assertEqual(in_nats(0.0), 0.0)
        self.assertAlmostEqual(in_nats(6.0), odds_of_chance(-np.log(1320)), delta=0.05)

    def test_one_fault_does_not_hide_another(self) -> None:
        """With marks on both rings the second stands clear too: the first one's lines are not taken for hiss."""
        both = knocks(INNER.bpfo, depth=0.5) + knocks(INNER.bpfi, side=1.0, depth=0.4)
        found = bearing_families(ear(both), (ROW,), rotating="inner")
        clear = {family.kind for family in found if family.standing == "clear"}
        self.assertLessEqual({"outer_race", "inner_race"}, clear)


def scrape(width: float = 0.025) -> np.ndarray:
    """Return a touch once a turn at a fixed angle."""
    return 6 * np.exp(-np.square((angle() % 1 - 0.5) / width))


def turning(knocking: np.ndarray, hum: np.ndarray | None = None) -> Turning:
    """Return spectra of one band's knocks and of the low sound."""
    spectrum = heard(knocking)
    low = order_spectrum(
        (hum if hum is not None else 0) + np.random.default_rng(9).standard_normal(len(angle())), highest=100.0
    )
    assert low is not None
    return Turning((spectrum,), (spectrum,), low, heard(0 * angle(), seed=7))


def standing(one: Turning, *, varied: bool = False) -> set[str]:
    """Return the kinds that stand of the wheel itself."""
    geared = geared_tones(one.hum)
    strokes = once_a_turn(Ear(one.knocks, one.tones))
    families = (strokes, *whole_families(one), tread_family(one.hum, speed_varied=varied, geared=geared))
    return {family.kind for family in families if family.standing != "nothing"}


def deaf(one: Ear) -> Ear:
    """Return an ear deaf to whole orders, as it is made where something of the wheel itself stands."""
    return one.without(one.whole_orders())


class Wheels(unittest.TestCase):
    """What repeats once a turn."""

    def test_a_scrape(self) -> None:
        """Once and twice a turn it is a scrape, and no swell."""
        twice = scrape() + np.roll(scrape(), POINTS_PER_TURN // 2)
        for signal in (scrape(), twice):
            self.assertEqual(standing(turning(signal)), {"once_a_turn"})

    def test_a_rub_for_half_a_turn(self) -> None:
        """Of a rub over half a turn two orders are left: it is a stroke; one order alone is none."""
        rub = np.exp(-np.square((angle() % 1 - 0.5) / 0.18))
        self.assertIn("once_a_turn", standing(turning(2 * (rub - rub.mean()))))
        self.assertNotIn("once_a_turn", standing(turning(np.cos(2 * np.pi * angle()))))

    def test_a_knock_is_shorter_than_a_scrape(self) -> None:
        """What lasts a hundredth of a turn reaches far up in orders, what lasts a tenth does not."""
        short, long = (once_a_turn(ear(scrape(width))).reach for width in (0.008, 0.08))
        self.assertGreater(short, 8.0)
        self.assertLess(long, 4.0)

    def test_a_swell(self) -> None:
        """Hiss that swells once a turn is a swell, and no scrape."""
        self.assertEqual(standing(turning(0.6 * np.cos(2 * np.pi * angle()))), {"swell"})

    def test_a_cupped_tyre(self) -> None:
        """Three neighbouring orders of the low sound; tones three orders apart, as an engine's, are none."""
        tones = lambda orders: sum(np.cos(2 * np.pi * k * angle() + k) for k in orders)  # noqa: E731
        self.assertEqual(standing(turning(0 * angle(), tones((6, 7, 8)))), {"whole_orders"})
        self.assertEqual(standing(turning(0 * angle(), tones((3, 6, 9, 12)))), set())

    def test_tread(self) -> None:
        """A cluster one order apart high up is tread; one lone tone there is not."""
        cluster = sum(np.cos(2 * np.pi * k * angle() + k) for k in (61, 62, 63, 64))
        self.assertIn("tread", standing(turning(0 * angle(), cluster)))
        self.assertNotIn("tread", standing(turning(0 * angle(), 2 * np.cos(2 * np.pi * 62 * angle()))))

    def test_tread_smeared_by_a_wandering_speed(self) -> None:
        """A hump a whole order wide is tread where the speed varied; below, where an engine sings, it is not."""
        for order, expected in ((62.0, True), (30.0, False)):
            wander = 0.25 * np.sin(2 * np.pi * angle() / 7) / order
            hump = 1.5 * np.cos(2 * np.pi * order * (angle() + wander * 8))
            found = standing(turning(0 * angle(), hump), varied=True)
            self.assertEqual("tread" in found, expected, order)

    def test_tones_of_an_engine(self) -> None:
        """1×, 2× and 4× of an order that is none of the wheel's are an engine; whole orders or a lone tone are not."""
        tones = lambda *orders: sum(2 * np.cos(2 * np.pi * k * angle() + k) for k in orders)  # noqa: E731
        engine = geared_tones(turning(0 * angle(), tones(4.31, 8.62, 17.24)).hum)
        self.assertEqual(engine.standing, "clear")
        self.assertAlmostEqual(engine.order, 4.31, delta=0.03)
        for orders in ((4.0, 8.0, 16.0), (4.31,), (4.31, 7.1, 19.9)):
            self.assertNotEqual(geared_tones(turning(0 * angle(), tones(*orders)).hum).standing, "clear", orders)

    def test_the_song_of_a_final_drive(self) -> None:
        """Teeth of 43 over 11 sing at 43 and 86 with lines a pinion turn beside; a tread or hiss does not."""
        turns, pinion = angle(), 43 / 11
        song = sum(
            np.cos(2 * np.pi * order * turns + order) for order in (43 - pinion, 43, 43 + pinion, 86, 86 - pinion)
        )
        found = gear_family(hummed(0.5 * song))
        self.assertEqual((found.standing, found.order), ("clear", 43.0))
        self.assertEqual(found.found_order, 43.0)
        self.assertAlmostEqual(found.lines[1][1] - found.lines[0][1], pinion)
        self.assertTrue(song_of(found, np.array([43.1, 39.0, 86.0])).all())
        self.assertFalse(song_of(found, np.array([41.0, 20.0])).any())
        tread = sum(np.cos(2 * np.pi * order * turns + order) for order in range(60, 84))
        for other in (0.3 * tread, 0 * turns):
            self.assertEqual(gear_family(hummed(other)).standing, "nothing")

    def test_tones_that_keep_their_pitch(self) -> None:
        """A steady 90 Hz tone is named where the wheel's speed changed; mains hum and a steady run name none."""
        rate, clock = 1000.0, np.arange(16_000) / 1000.0
        hiss = np.random.default_rng(4).standard_normal(len(clock))
        heard_hz = lambda hz, ratio: steady_tones_hz(  # noqa: E731
            (hiss + 2 * np.sin(2 * np.pi * hz * clock)).astype(np.float32), rate=rate, fastest_over_slowest=ratio
        )
        self.assertEqual([round(hz) for hz in heard_hz(90.0, 1.6)], [90])
        self.assertEqual(heard_hz(150.0, 1.6), [])
        self.assertEqual(heard_hz(90.0, 1.0), [])

    def test_a_ring_mark_is_no_scrape(self) -> None:
        """Lines near three whole orders, giant ones, make no scrape: the middle of twelve counts."""
        self.assertNotIn("once_a_turn", standing(turning(knocks(3.01, depth=3.0))))

    def test_the_wheels_speed_from_its_scrape(self) -> None:
        """A wheel 2 % faster than stated is found so; a ring mark's lines are not taken for whole orders."""
        stretched = heard(np.interp(angle() * 1.02 % TURNS, angle(), scrape()))
        scale, sure = wheel_scale(Turning((stretched,), (stretched,), stretched, stretched), spread=0.04)
        self.assertAlmostEqual(scale, 1.02, delta=0.003)
        self.assertGreater(sure, SURE)
        mark = heard(knocks(5.87, side=1.0, depth=1.0))
        self.assertEqual(wheel_scale(Turning((mark,), (mark,), mark, mark), spread=0.04)[1], 0.0)

    def test_scrapes_accuse_no_bearing(self) -> None:
        """Over both turning rings and several seeds no bearing family stands clear beside a scrape."""
        for rotating, seed in itertools.product(("inner", "outer"), range(6)):
            found = bearing_families(deaf(ear(scrape(), seed=seed)), (ROW,), rotating=rotating)
            with self.subTest(rotating=rotating, seed=seed):
                self.assertEqual([f.kind for f in found if f.standing == "clear"], [])

    def test_side_lines_tell_a_ball_from_a_ring_at_one_order(self) -> None:
        """Ten balls at γ = 1/4: outer race and ball strikes fall on order 3.75; a cage turn beside means the ball."""
        alike = Row.from_mm(elements=10, element_diameter_mm=9.25, pitch_diameter_mm=37.0, contact_angle_deg=0.0)
        orders = fault_orders(alike, rotating="inner")
        self.assertAlmostEqual(orders.rolling, orders.bpfo, places=9)
        for side, kind in ((orders.ftf, "rolling_element"), (0.0, "outer_race")):
            found = bearing_families(ear(knocks(3.75, side=side, depth=0.6)), (alike,), rotating="inner")
            self.assertEqual(found[0].kind, kind)


class Words(unittest.TestCase):
    """Findings in the trade's words."""

    def test_every_kind_has_words(self) -> None:
        """And says how strongly; what is not there is said not to be."""
        for kind in table("families/kinds.toml"):
            said = {s: family_words(Family(kind, 1, 1, 0, s, ())) for s in (0.0, 3.0, 7.0, 20.0)}
            self.assertIn("not to be heard", said[0.0])
            self.assertTrue(said[3.0].endswith("faint") and said[7.0].endswith("strong"), said)
            self.assertTrue(said[20.0].endswith("very strong"))
        noted = family_words(Family("outer_race", 5.2, 5.2, 9, 7.0, (), note="it fits 13 balls or rollers"))
        self.assertEqual(noted, "a mark on the outer race, strong; it fits 13 balls or rollers")
