"""From what was heard to statements: fault lines, loudness, and what the road tests tell of each side."""

from collections.abc import Mapping, Sequence

import numpy as np
from scipy import special, stats

from hematite.evidence.on_the_road import bend_statements, click_statements, road_statements, turn_statements
from hematite.evidence.statement import Statement
from hematite.evidence.witnesses import VEHICLE, Floats, outcomes, overall
from hematite.families import AS_LIKELY, GEARS, WORN, Family
from hematite.listening import Corner
from hematite.vehicles import Hub, Vehicle

RAISED_DB, LOUD_DB, VERY_LOUD_DB = 3.0, 6.0, 12.0  # twice, four and sixteen times the power; judgement
LEVEL_DOUBT_DB = 1.0
SPUN_DOUBT_DB = 4.0  # a third more or less of speed, at 30 dB a decade; judgement
RING_KINDS = ("outer_race", "inner_race", "rolling_element", "many")
WHEEL_KINDS = ("once_a_turn", "swell", "whole_orders", "tread")
OF_ITS_OWN = ("own_touch", "scrape", "grind", "knock")  # strokes that no other wheel has as deep
STROKES = ("touch", "alike", *OF_ITS_OWN)
# The answers of each witness by the kind of family that makes them.
LINES: Mapping[str, Mapping[str, tuple[str, ...]]] = {
    "fault_lines": {kind: (kind,) for kind in (*RING_KINDS, "cage")},
    "strokes": {"once_a_turn": STROKES},
    "beat": {"once_a_turn": ("beat", "loud_beat", "rub")},
    "swell": {"swell": ("swell", "deep_swell")},
    "hum": {"whole_orders": ("hum", "loud_hum")},
    "tread_song": {"tread": ("song",)},
}
# A wheel in the air has no tyre noise: what touches there is brake or bearing, and of tyres only the road tells.
IN_THE_AIR, ON_THE_ROAD = ("strokes",), ("beat", "hum", "tread_song")
# How much power the lines carry, in dB against the whole sound: a dragging brake is hardly anything but its strokes, a
# pad that whispers is one of many noises; so are a cupped tyre and one a little out of round. From, to, and the doubt;
# judgement.
DEPTH_DB = {
    "touch": (-np.inf, 2.0, 2.0),
    "alike": (2.0, np.inf, 2.0),
    "own_touch": (-np.inf, 2.0, 2.0),
    "scrape": (2.0, 5.0, 2.0),
    "grind": (5.0, np.inf, 2.0),
    "knock": (-4.0, np.inf, 2.0),
    "beat": (-np.inf, -2.0, 1.0),
    "loud_beat": (-2.0, 5.0, 1.0),
    "rub": (5.0, np.inf, 1.0),
    "swell": (-np.inf, -8.0, 2.0),
    "deep_swell": (-8.0, np.inf, 2.0),
    "hum": (-np.inf, -5.0, 2.0),
    "loud_hum": (-5.0, np.inf, 2.0),
    "gear_song": (-np.inf, -5.0, 1.0),
    "loud_gear_song": (-5.0, np.inf, 1.0),
}
# What lasts a twentieth of a turn reaches to a mean order of about six: a pad rubs longer, a knock in play is shorter.
KNOCK_REACH, REACH_DOUBT = 6.2, 0.7  # judgement
# A sound brake whispers at every wheel alike; what is worn strokes at one: so far ahead of any other wheel; judgement.
ALONE_DB, ALONE_DOUBT_DB = 4.0, 2.0
NOT_COMPARED = 0.5  # how likely strokes are a wheel's own where no other was heard; judgement
MOST_NATS = 9.2  # ten thousand to one: beyond, what nobody thought of is likelier than hiss; judgement

Shares = Mapping[str, float]


def heard_statements(corners: Sequence[Corner], vehicle: Vehicle) -> list[Statement]:
    """Return what all usable recordings say: of each hub its lines and level, of the sides what road tests tell.

    Of lines all recordings at a place speak together, of loudness the one that stands out most.
    """
    fit = [corner for corner in corners if corner.heard.usable]
    said: list[Statement] = []
    for place in dict.fromkeys(corner.heard.situation.place for corner in fit):
        own = [corner for corner in fit if corner.heard.situation.place == place]
        hub = vehicle.hub(place)
        said += _of_hub(own, hub, vehicle) if hub else _of_cabin(own, vehicle)
    near = {witness: {one.place for one in said if one.witness == witness and one.place} for witness in LINES}
    # What a pickup heard at the hub itself the cabin hears again: one noise is one witness.
    said = [one for one in said if not (one.witness in LINES and one.of_vehicle and near[one.witness] >= one.hubs)]
    heard = [corner.heard for corner in fit]
    on_the_road = [
        one
        for of in (bend_statements, turn_statements, click_statements, road_statements)
        for one in of(heard, vehicle)
    ]
    return said + _tones(fit) + _gear_song(fit) + on_the_road


def _of_hub(own: Sequence[Corner], hub: Hub, vehicle: Vehicle) -> list[Statement]:
    said = []
    with_lines = [corner for corner in own if corner.heard.families]
    if with_lines:
        driven = vehicle.drives(hub.id)
        for witness in LINES:
            asked = _asked(with_lines, witness)
            if asked:
                source = max(asked, key=_standing_out).heard.situation.id
                shares = line_shares(asked, witness, driven=driven)
                said.append(Statement(witness, hub.id, shares, source))
    levels = [corner for corner in own if corner.relative_db is not None]
    if levels:
        loudest = max(levels, key=lambda corner: corner.relative_db or 0.0)
        said.append(Statement("level", hub.id, _level_shares(loudest), loudest.heard.situation.id))
    return said


def _of_cabin(own: Sequence[Corner], vehicle: Vehicle) -> list[Statement]:
    """A recording at no hub speaks of every hub that its lines fit; of the others it says that they are silent."""
    everywhere = {hub.id for hub in vehicle.hubs()}
    said = []
    for witness, kinds in LINES.items():
        speaking = _asked([corner for corner in own if corner.heard.families], witness)
        if not speaking:
            continue
        source = max(speaking, key=_standing_out).heard
        found = [f for f in source.families if f.kind in kinds and f.standing != "nothing"]
        lead = max(found, key=lambda f: f.strength, default=None)
        near = [f for f in found if lead and f.kind == lead.kind and f.strength > lead.strength - AS_LIKELY]
        hubs = {hub for f in near for hub in f.hubs} or everywhere
        shares = line_shares(speaking, witness, driven=True)
        said.append(Statement(witness, VEHICLE, shares, source.situation.id, hubs=frozenset(hubs)))
    return said


def _asked(own: Sequence[Corner], witness: str) -> list[Corner]:
    """Return the recordings that a witness can speak from: those of a wheel in the air, or on the road, or all."""
    unasked = {True: IN_THE_AIR, False: ON_THE_ROAD}  # by whether it was made on the road
    return [corner for corner in own if witness not in unasked[corner.heard.situation.situation == "road"]]


def _standing_out(corner: Corner) -> float:
    strongest = corner.heard.strongest
    return strongest.strength if strongest else 0.0


def line_shares(corners: Sequence[Corner], witness: str, *, driven: bool) -> Shares:
    """Return how likely each kind of line makes what was recorded at one place, as shares of a witness's answers.

    Each kind's odds add up over the recordings: hiss is another every time. What a mate carries with more power
    leaked in and convicts nobody. Every answer counts by how often it is given at all, as the weighing undoes.
    `driven`: a wheel spun here turns its mate.
    """
    names = outcomes(witness)
    odds = np.zeros(len(names))
    for kind, answers in LINES[witness].items():
        own = [
            (corner, [f for f in corner.heard.families if f.kind == kind and kind not in _leaked(corner, driven)])
            for corner in corners
        ]
        own = [(corner, families) for corner, families in own if families]
        together = sum(_one_of(families, corner) for corner, families in own)
        deepest = max(own, key=lambda pair: _depth(*pair), default=None)
        for name in answers:
            share = _share(name, *deepest) if deepest else 1.0
            odds[names.index(name)] = together + np.log(share)
    return _by_bayes(witness, odds)


def _by_bayes(witness: str, odds: Floats) -> Shares:
    """Return shares of a witness's answers from their odds, of which the first is of nothing.

    What is heard most is held against nothing, by `MOST_NATS` at most, and the rest against it.
    """
    heard = odds - max(float(odds.max()) - MOST_NATS, 0.0)
    heard[0] = 0.0
    shares = overall(witness) * np.exp(heard)
    return {name: float(share) for name, share in zip(outcomes(witness), shares / shares.sum(), strict=True)}


def _leaked(corner: Corner, driven: bool) -> frozenset[str]:
    """Return the kinds that came from elsewhere; nothing came to a wheel that was spun and turned no other."""
    alone = corner.heard.situation.situation == "stand_spin" and not driven
    return frozenset() if alone else corner.echoes


def _one_of(families: Sequence[Family], corner: Corner) -> float:
    """Return the odds of a kind of which several families were looked for: it may be any of them.

    A song that is louder here than at every other corner is no luck.
    """
    led = WORN in corner.leads
    each = [f.strength if led and f.kind == WORN else f.odds for f in families]
    return float(special.logsumexp(each) - np.log(len(each)))


def _depth(corner: Corner, families: Sequence[Family]) -> float:
    """Return how much power the strongest of several families carries, in dB against the whole sound."""
    return _strongest(families).power_db - corner.heard.level_db


def _strongest(families: Sequence[Family]) -> Family:
    return max(families, key=lambda f: f.strength)


def _share(answer: str, corner: Corner, families: Sequence[Family]) -> float:
    """Return how far such lines are what an answer says: by their depth in the sound, of strokes by more than that."""
    share = _within(answer, _depth(corner, families)) if answer in DEPTH_DB else 1.0
    if answer in STROKES:
        share *= _stroke_share(answer, corner, families)
    return max(share, 1e-4)


def _within(answer: str, depth_db: float) -> float:
    low, high, doubt = DEPTH_DB[answer]
    return float(np.diff(stats.norm.cdf(np.array([low, high]), loc=depth_db, scale=doubt))[0])


def _stroke_share(answer: str, corner: Corner, families: Sequence[Family]) -> float:
    """Return how far strokes are this wheel's own, and short as a knock or long as a scrape."""
    short = float(stats.norm.cdf(_strongest(families).reach, loc=KNOCK_REACH, scale=REACH_DOUBT))
    lead = corner.stroke_lead_db
    own = NOT_COMPARED if lead is None else float(stats.norm.cdf(lead, loc=ALONE_DB, scale=ALONE_DOUBT_DB))
    if answer not in OF_ITS_OWN:
        return 1 - own
    knocks = short * _within("knock", _depth(corner, families))
    return own * {"knock": short, "own_touch": 1 - knocks}.get(answer, 1 - short)


def _level_shares(corner: Corner) -> Shares:
    """State how loud a corner is, with the doubt that the wheels did not turn alike: an arm never spins two alike."""
    spun = corner.heard.situation.situation == "stand_spin"
    doubt = SPUN_DOUBT_DB if spun and not corner.heard.turns_per_s else LEVEL_DOUBT_DB
    edges = np.array([-np.inf, RAISED_DB, LOUD_DB, VERY_LOUD_DB, np.inf])
    below = stats.norm.cdf(edges, loc=corner.relative_db or 0.0, scale=doubt)
    shares = dict(zip(("quiet", "raised", "loud", "very_loud"), (float(s) for s in np.diff(below)), strict=True))
    if corner.overheard:
        return {"quiet": shares["quiet"], "overheard": 1 - shares["quiet"]}
    return shares


def _gear_song(fit: Sequence[Corner]) -> list[Statement]:
    """A final drive is one noise, however many recordings hear it: it is as loud as where it is loudest."""
    found = [(corner, f) for corner in fit for f in corner.heard.families if f.kind == GEARS]
    if not found:
        return []
    corner, song = max(found, key=lambda pair: (pair[1].standing != "nothing", _depth(pair[0], [pair[1]])))
    odds = [song.strength + np.log(_share(name, corner, [song])) for name in outcomes("gear_song")[1:]]
    said = _by_bayes("gear_song", np.array([0.0, *odds]))
    return [Statement("gear_song", VEHICLE, said, corner.heard.situation.id)]


def _tones(fit: Sequence[Corner]) -> list[Statement]:
    """On the road an engine runs; what it sings is one noise, however many recordings hear it."""
    road = [corner.heard for corner in fit if corner.heard.situation.situation == "road" and corner.heard.turns_per_s]
    if not road:
        return []
    source = next((heard for heard in road if heard.tones), road[0])
    outcome = "heard" if source.tones else "none"
    return [Statement("tones", VEHICLE, {outcome: 1.0}, source.situation.id)]
