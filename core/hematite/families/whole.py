"""What repeats once a wheel turn: the wheel's own speed, a brake's scrape, a swell of hiss, a tyre's cups and tread."""

from dataclasses import dataclass, replace

import numpy as np
import numpy.typing as npt
from scipy import ndimage, stats

from hematite.envelopes import OrderSpectrum
from hematite.families.combs import Comb, Family
from hematite.families.ear import Ear
from hematite.odds import held_against, mean_odds, odds_of_chance

Floats = npt.NDArray[np.float64]

LEAST_SPREAD_DB = 0.5
CEILING_DB = 25.0
STANDS_DB = 6.0  # four times the floor's power: a line that stands; judgement
WHOLE_CEILING_DB = 10.0  # so that many middling whole orders tell the speed, not one giant line; judgement
TIE_DB = 0.05
LEAST_WHOLE_LINES = 4  # of the first twelve whole orders
LAST_WHOLE = 12
REACHES_TO = 24  # the highest order that is asked whether a stroke reaches it
OVER_CHANCE = 3.0  # times the floor: what the highest of three neighbours makes of hiss; judgement
# Every so many turns, of the lowest so many lines so many stand: a stroke's lowest stand highest, further up a turning
# mark's side lines may meet whole orders, and near one a ring mark makes a few giant ones. What lasts for half a turn
# has no more than three.
STROKES = ((1, 6, 4), (2, 6, 4), (1, 3, 2))
STROKE_LINES = 6
GUMBEL_SPREAD = 1.137  # robust standard deviation of a Gumbel distribution over its scale: 1.4826 × 0.7670
SURE = 4.0  # robust deviations of a speed read from whole orders
SWELL_SHARE = 0.9  # of the first twelve orders' power in the first two: it swells, it does not scrape; judgement
HUMP_ORDERS, HUMP_FLOOR_ORDERS = 0.8, 14.0  # one per cent of order 65, and its surroundings; judgement
BEST_HUMP = 3.0  # the highest of some ninety looks stands that many deviations high by chance
HUMP_FROM = 40.0  # below, an engine geared some five to one smears alike; judgement
ENGINE_SINGS_TO = 8.5  # times its own turns; what it sings above is faint; judgement
TYRE_KINDS = ("whole_orders", "tread")
TREAD_ORDERS = (24.0, 95.0)  # tread blocks round a tyre; common practice, no source


@dataclass(frozen=True)
class Turning:
    """Order spectra by what they are of: `knocks` the bands' envelopes, `hum` the sound itself at low frequency.

    `high` are the knocks of the bands above a tyre's hum: what scrapes or lacks grease hisses there. `tones` are of the
    low sound made even in pitch, on the axis of the knocks.
    """

    knocks: tuple[OrderSpectrum, ...]
    high: tuple[OrderSpectrum, ...]
    hum: OrderSpectrum
    tones: OrderSpectrum

    def rescaled(self, wheel: float) -> "Turning":
        """Return the same when the wheel turned `wheel` times as fast as was stated."""
        knocks, high = (tuple(s.rescaled(wheel) for s in spectra) for spectra in (self.knocks, self.high))
        return Turning(knocks, high, self.hum.rescaled(wheel), self.tones.rescaled(wheel))


def wheel_scale(turning: Turning, *, spread: float) -> tuple[float, float]:
    """Return how much faster than stated the wheel turned, read from its own whole orders, and how surely.

    A stated speed is a percent or four off; the comb of whole orders is laid at every speed within `spread`. The best
    is held against the same comb laid between the orders, once its own lines are taken out. Sureness in robust
    standard deviations; zero when fewer than `LEAST_WHOLE_LINES` stand, or more than one of the first four is
    missing: the lines of a ring mark, stretched, can meet whole orders too, but not the lowest.
    """
    return max((_scale(s, spread) for s in (*turning.knocks, turning.hum)), key=lambda found: found[1])


def _scale(spectrum: OrderSpectrum, spread: float) -> tuple[float, float]:
    db = np.clip(spectrum.db(), 0.0, WHOLE_CEILING_DB)
    scales = np.arange(1 - spread, 1 + spread, 0.001)
    places = np.arange(1.0, LAST_WHOLE + 1)[:, None] * scales
    heights = comb_heights(db, places, spectrum.step)
    scores = heights.mean(axis=0)
    best = float(scales[scores >= scores.max() - TIE_DB].mean())  # strong lines tie over a few steps: their middle
    stands = heights[:, scores.argmax()] >= STANDS_DB
    if stands.sum() < LEAST_WHOLE_LINES or stands[:LEAST_WHOLE_LINES].sum() < LEAST_WHOLE_LINES - 1:
        return best, 0.0
    away = np.abs(spectrum.orders / best - np.round(spectrum.orders / best)) >= max(0.06, 2.5 * spectrum.step)
    rest = np.where(away, db, 0.0)
    shifts = np.linspace(0.0, 1.0, 41)
    between = np.array([comb_heights(rest, places + s, spectrum.step).mean(axis=0).max() for s in shifts])
    return best, (float(scores.max()) - float(np.median(between))) / robust_spread(between)


def robust_spread(values: Floats, least: float = LEAST_SPREAD_DB) -> float:
    """Return the median deviation scaled to a standard deviation, at least `least`."""
    return max(float(stats.median_abs_deviation(values, scale="normal")), least)


def comb_heights(db: Floats, orders: Floats, step: float) -> Floats:
    """Return the height of a curve of `step` between its points at each of some orders, or at a neighbouring point."""
    index = np.clip((orders / step).round().astype(np.int64), 0, len(db) - 1)
    return np.asarray(ndimage.maximum_filter1d(db, 3)[index])


def in_nats(deviations: float) -> float:
    """Return the odds, at most, of what stands so many robust deviations over the middle of the best of many looks.

    The best of many looks is Gumbel-distributed (Gumbel, Statistics of Extremes, 1958); its scale is read from the
    median deviation.
    """
    return odds_of_chance(float(stats.gumbel_r.logsf(deviations * GUMBEL_SPREAD + stats.gumbel_r.median())))


def once_a_turn(ear: Ear) -> Family:
    """Return how what touches once a turn, or twice, for a moment or for long, stands out of the knocks.

    Held against the same comb laid between the whole orders; it may be any of them.
    """
    tried = [_strokes(ear, *stroke) for stroke in STROKES]
    strength = float(mean_odds(np.array([f.strength for f in tried])))
    return replace(max(tried, key=lambda f: f.strength), strength=strength, reach=_reach(ear))


def _reach(ear: Ear) -> float:
    """Return the mean order of what keeps to whole orders, by amplitude, in the band where it stands highest.

    What lasts for a share of a turn reaches to about the inverse of that share: a knock is short, a scrape is long.
    """
    orders = np.arange(1, REACHES_TO + 1)
    index = np.minimum(np.rint(orders / ear.step).astype(np.int64), len(ear.orders) - 1)
    over = np.array([ndimage.maximum_filter1d(one.ratio, 3)[index] for one in ear.knocks]) - OVER_CHANCE
    floors = np.array([(one.power / (one.ratio + 1e-30))[index] for one in ear.knocks])
    amplitudes = np.sqrt(np.clip(over, 0.0, None) * floors)
    best = amplitudes[int(over[:, :STROKE_LINES].mean(axis=1).argmax())]
    return float((orders * best).sum() / max(float(best.sum()), 1e-30))


def _strokes(ear: Ear, every: int, lines: int, stand: int) -> Family:
    comb = Comb("once_a_turn", float(every), harmonics=STROKE_LINES)
    odds, orders = ear.odds(tonal=False), every * np.arange(1.0, lines + 1)
    laid = ear.all_along(odds, orders[:, None], stand)
    away = ear.without(ear.whole_orders()).odds(tonal=False)
    shifted = orders[:, None] - every * np.linspace(0.2, 0.8, 25)
    elsewhere = mean_odds(ear.all_along(away, shifted, stand), axis=0)
    return ear.told(comb, 1.0, held_against(float(mean_odds(laid)), elsewhere))


def whole_families(turning: Turning) -> tuple[Family, ...]:
    """Return the swell of the knocks, and the hum of the sound itself.

    A cupped tyre pushes, it does not knock; its order 1 is left out, as every wheel has a little unbalance.
    """
    return max((_swell(s) for s in turning.high), key=lambda f: f.strength), hum_family(turning.hum)


def hum_family(spectrum: OrderSpectrum) -> Family:
    """Return how whole orders stand in the sound itself against the same orders shifted between them.

    A tyre's stand in a cluster around its number of cups, so three neighbours count; the tones of an engine geared to
    the wheels lie further apart.
    """
    db = np.clip(spectrum.db(), 0.0, CEILING_DB)
    orders = np.arange(2.0, LAST_WHOLE + 1)
    away = np.abs(spectrum.orders - np.round(spectrum.orders)) >= max(0.06, 2.5 * spectrum.step)
    rest = np.where(away, db, 0.0)
    heights = comb_heights(db, orders, spectrum.step)
    shifts = np.linspace(0.2, 0.8, 25)
    shifted = np.array([_clustered(comb_heights(rest, orders + s, spectrum.step)) for s in shifts])
    score = _clustered(heights)
    strength = (score - float(np.median(shifted))) / robust_spread(shifted)
    return _family(spectrum, "whole_orders", orders, heights, strength if score >= STANDS_DB else 0.0)


def _clustered(heights: Floats) -> float:
    """Return the least height of the three neighbours that stand highest together."""
    return float(np.lib.stride_tricks.sliding_window_view(heights, 3).min(axis=1).max())


def _family(spectrum: OrderSpectrum, kind: str, orders: Floats, heights: Floats, deviations: float) -> Family:
    lines = tuple((f"{o:.0f}×", float(o), float(h)) for o, h in zip(orders, heights, strict=True))
    index = np.clip((orders / spectrum.step).round().astype(np.int64), 0, len(spectrum.power) - 1)
    power = ndimage.maximum_filter1d(spectrum.power, 5)[index].sum()
    level = float(10 * np.log10(power + 1e-30))
    return Family(kind, 1.0, 1.0, float(heights.mean()), in_nats(deviations), lines, level)


def _swell(spectrum: OrderSpectrum) -> Family:
    """Return the swell once a turn: hiss that rises and falls smoothly, its first two orders carrying nearly all."""
    orders = np.arange(1.0, LAST_WHOLE + 1)
    index = (orders / spectrum.step).round().astype(np.int64)
    power = ndimage.maximum_filter1d(spectrum.power, 3)[index]
    heights = comb_heights(np.clip(spectrum.db(), 0.0, CEILING_DB), orders, spectrum.step)
    elsewhere = np.clip(spectrum.db()[(spectrum.orders > 0.6) & (spectrum.orders < LAST_WHOLE)], 0.0, CEILING_DB)
    chance = ndimage.maximum_filter1d(elsewhere, 3)
    smooth = float(power[:2].sum() / (power.sum() + 1e-30)) >= SWELL_SHARE
    strength = (float(heights[0]) - float(np.median(chance))) / robust_spread(chance) if smooth else 0.0
    return _family(spectrum, "swell", orders[:2], heights[:2], strength)


def tread_family(hum: OrderSpectrum, *, speed_varied: bool, geared: Family) -> Family:
    """Return the tyre's tread: lines high up, in the sound itself, either one turn apart or smeared into a hump.

    The pitch sequence repeats once a turn, so the lines beside the tread's own stand exactly one order apart; the same
    cluster laid with other spacings gives chance. Where the speed wandered they run into one hump, which only something
    in step with the wheel leaves in a run at several speeds: nothing that rings stays at one order then. The tones of
    an engine `geared` to the wheel lie below.
    """
    clustered = _clustered_tread(hum)
    return max(clustered, _tread_hump(hum, geared), key=lambda f: f.strength) if speed_varied else clustered


def _tread_hump(hum: OrderSpectrum, geared: Family) -> Family:
    lowest = max(HUMP_FROM, ENGINE_SINGS_TO * geared.order if geared.standing != "nothing" else 0.0)
    inside = (hum.orders >= lowest) & (hum.orders <= min(TREAD_ORDERS[1], float(hum.orders[-1]) - 3))
    if inside.sum() < 200:
        return Family("tread", 0.0, 0.0, 0.0, 0.0, ())
    smooth = 10 * np.log10(ndimage.uniform_filter1d(hum.power, max(int(HUMP_ORDERS / hum.step), 1)) + 1e-30)
    over = smooth - ndimage.median_filter(smooth, size=int(HUMP_FLOOR_ORDERS / hum.step) | 1, mode="nearest")
    heights = over[inside]
    best = float(hum.orders[inside][heights.argmax()])
    strength = (float(heights.max()) - float(np.median(heights))) / robust_spread(heights) - BEST_HUMP
    orders = best + np.arange(-1.0, 2.0)
    return _family(hum, "tread", orders, comb_heights(np.clip(over, 0.0, CEILING_DB), orders, hum.step), strength)


def _clustered_tread(hum: OrderSpectrum) -> Family:
    db = np.clip(hum.db(), 0.0, CEILING_DB)
    last = min(TREAD_ORDERS[1], float(hum.orders[-1]) - 3)
    centres = np.arange(TREAD_ORDERS[0], last, hum.step)
    if last <= TREAD_ORDERS[0]:
        return Family("tread", 0.0, 0.0, 0.0, 0.0, ())
    apart = {s: _cluster(db, centres, s, hum.step) for s in (0.63, 0.71, 0.81, 0.89, 1.0, 1.13, 1.27, 1.37, 1.49)}
    chance = np.array([scores.max() for spacing, scores in apart.items() if spacing != 1.0])
    best = int(apart[1.0].argmax())
    strength = (float(apart[1.0][best]) - float(np.median(chance))) / robust_spread(chance, 1.0)
    orders = centres[best] + np.arange(-1.0, 2.0)
    heights = comb_heights(db, orders, hum.step)
    return _family(hum, "tread", orders, heights, strength)


def _cluster(db: Floats, centres: Floats, spacing: float, step: float) -> Floats:
    places = centres[None, :] + spacing * np.arange(-1.0, 2.0)[:, None]
    return np.asarray(comb_heights(db, places, step).mean(axis=0))
