"""The corners set against each other: who is louder, and what may only have leaked in."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

from hematite.families import BEARING_KINDS, FAINT, WORN, Family
from hematite.listening.heard import Heard

SAME_SPEED = 1.15  # rolling noise grows by 2 dB over this ratio; further apart loudness is not compared; judgement
SAME_ORDER = 0.03  # two corners turn nearly alike; judgement
TRACE = 1.0  # nats: too few to be heard by itself, enough to be the source of what others hear
SPUN_DB = 6.0  # a wheel that is spun twice as fast sounds so much louder, and more; judgement
STANDS_BETTER = 1.5  # times the odds, in nats; judgement
LEADS_DB = 6.0  # four times the power of any other corner; judgement
OVERHEARD_DB = 3.0  # a corner this much quieter than the loudest may only be hearing it; judgement


@dataclass(frozen=True)
class Corner:
    """One recording among its mates: dB over the quietest, whether it may only be hearing the loudest, and the kinds
    of families that a mate carries with more power (`echoes`): noise that leaked in and convicts nobody here. `leads`
    are the kinds that no mate carries with nearly as much power. `stroke_lead_db`: by how much what touches once a turn
    is deeper in the sound than at any other wheel, and louder where that compares; None where no other was heard.

    `thirds_db` are the third octaves over the quietest corner's, empty when levels may not be compared.
    """

    heard: Heard
    relative_db: float | None
    overheard: bool
    echoes: frozenset[str] = frozenset()
    leads: frozenset[str] = frozenset()
    thirds_db: tuple[float, ...] = ()
    stroke_lead_db: float | None = None


def compare(all_heard: Sequence[Heard]) -> tuple[Corner, ...]:
    """Set each recording against those that may fairly be compared with it; input order is kept.

    A single recording, one without a gain group, or an unusable one gets no relative level.
    """
    return tuple(replace(_corner(one, all_heard), stroke_lead_db=_stroke_lead_db(one, all_heard)) for one in all_heard)


def _stroke_lead_db(heard: Heard, all_heard: Sequence[Heard]) -> float | None:
    """Return by how much a wheel's strokes lead all others that were heard in the same situation, in dB.

    Each is held against its own sound, since gains may differ; where they do not, the louder must lead in power too.
    """
    here, own = heard.situation, _strokes_db(heard)
    if own is None or here.situation == "road":
        return None
    leads = []
    for mate in all_heard:
        other = _strokes_db(mate)
        if other is not None and mate.usable and _alike(mate, heard):
            deeper = own - other + mate.level_db - heard.level_db
            same_gain = heard.comparable_as is not None and mate.comparable_as == heard.comparable_as
            leads.append(min(deeper, own - other) if same_gain else deeper)
    return min(leads, default=None)


def _strokes_db(heard: Heard) -> float | None:
    return max((f.power_db for f in heard.families if f.kind == "once_a_turn"), default=None)


def _alike(mate: Heard, heard: Heard) -> bool:
    """Return whether another wheel was recorded in the same situation."""
    there, here = mate.situation, heard.situation
    return there.situation == here.situation and there.place not in (here.place, "cabin")


def _corner(heard: Heard, all_heard: Sequence[Heard]) -> Corner:
    key = heard.comparable_as
    mates = [h for h in all_heard if h.usable and h.comparable_as == key]
    others = [mate for mate in mates if mate.situation.place != heard.situation.place]
    if key is None or not heard.usable or not others:
        apart = [h for h in all_heard if h.usable and _alike(h, heard)]
        leads = frozenset(f.kind for f in heard.families if apart and _leads(f, heard, apart, same_gain=False))
        return Corner(heard, None, False, _by_strength(heard, all_heard), leads)
    alone = heard.situation.situation == "stand_spin"
    near = [mate for mate in others if not alone or _axle(mate) == _axle(heard)]
    echoes = frozenset(f.kind for f in heard.families if any(_louder_at(mate, f, alone=alone) for mate in near))
    leads = frozenset(f.kind for f in heard.families if _leads(f, heard, others, same_gain=True))
    heard = heard if alone else replace(heard, families=tuple(_confirmed(f, others) for f in heard.families))
    mates = [mate for mate in mates if _alike_fast(mate, heard)]
    levels = [mate.level_db for mate in mates]
    if all(mate.situation.place == heard.situation.place for mate in mates):
        return Corner(heard, None, False, echoes, leads)
    own = [m.level_db for m in mates if m.situation.place == heard.situation.place]
    overheard = not alone and max(levels) - max(own) > OVERHEARD_DB
    return Corner(heard, heard.level_db - min(levels), overheard, echoes, leads, _thirds(heard, mates))


def _confirmed(family: Family, others: Sequence[Heard]) -> Family:
    """Return a family as strong as it is in all recordings together, where the others only hear it from here.

    The same lines, fainter, in several recordings are several looks at one noise, each with its own hiss.
    """
    if family.kind not in BEARING_KINDS or family.strength < TRACE:
        return family
    if any(_louder_at(mate, family, alone=False) for mate in others):
        return family
    same = [max((f for f in mate.families if _same(f, family)), key=_strength, default=None) for mate in others]
    looks = [f for f in same if f and f.strength >= FAINT and f.power_db < family.power_db - OVERHEARD_DB]
    if not looks:
        return family
    strength = math.hypot(family.strength, *map(_strength, looks))
    return replace(family, strength=strength, score_db=max(f.score_db for f in (family, *looks)))


def _axle(heard: Heard) -> str:
    """Return the axle of a hub's place: all but its side."""
    return heard.situation.place[:-1]


def _strength(family: Family) -> float:
    return family.strength


def _alike_fast(mate: Heard, heard: Heard) -> bool:
    """Return whether two wheels turned about equally fast; those of unknown speed are taken on trust."""
    if not (mate.turns_per_s and heard.turns_per_s):
        return True
    return 1 / SAME_SPEED <= mate.turns_per_s / heard.turns_per_s <= SAME_SPEED


def _thirds(heard: Heard, mates: Sequence[Heard]) -> tuple[float, ...]:
    all_thirds = [mate.third_octaves_db for mate in mates if len(mate.third_octaves_db) == len(heard.third_octaves_db)]
    return tuple(own - min(other) for own, *other in zip(heard.third_octaves_db, *all_thirds, strict=True))


def _louder_at(mate: Heard, family: Family, *, alone: bool) -> bool:
    """Return whether a mate carries the same lines with clearly more power, under whatever name.

    A wheel spun by hand turns `alone`, or its mate turns with it through the differential: a bearing's lines may come
    from there, no two wheels are spun alike, and what touches is its own.
    """
    if alone and family.kind not in BEARING_KINDS:
        return False
    least = SPUN_DB if alone else OVERHEARD_DB
    return any(
        other.strength >= TRACE and _same(other, family) and other.power_db > family.power_db + least
        for other in mate.families
    )


def _leads(family: Family, heard: Heard, others: Sequence[Heard], *, same_gain: bool) -> bool:
    """Return whether no mate carries a family with nearly as much power; by its depth where gains may differ.

    A known bearing's song must be heard elsewhere and be quieter there: an engine's lies elsewhere in another gear.
    What another recording names as an engine's or gearbox's own tone leads nowhere.
    """
    if family.kind == WORN and any(_names_as_tone(mate, family) for mate in others):
        return False
    elsewhere = any(_same(other, family) for mate in others for other in mate.families)
    quieter = all(_quieter_at(m, family, 0.0 if same_gain else m.level_db - heard.level_db) for m in others)
    return quieter and (elsewhere or family.kind != WORN or family.blind)


def _names_as_tone(mate: Heard, family: Family) -> bool:
    ratios = [family.found_order / tone.at for tone in mate.tones if tone.kind == "geared" and tone.at]
    return any(abs(ratio / m - 1) < SAME_ORDER for ratio in ratios for m in (0.5, 1.0, 2.0))


def _quieter_at(mate: Heard, family: Family, louder_db: float) -> bool:
    """Return whether a mate, whose sound is kept so much louder, has the same lines clearly less strong."""
    own = [other for other in mate.families if other.kind == family.kind]
    same = [other.power_db for other in own if _same(other, family)]
    if not same:  # another bearing has no lines there; of one that nobody knows it cannot be told
        return not any(other.blind for other in own)
    return max(same) - louder_db < family.power_db - LEADS_DB


def _by_strength(heard: Heard, all_heard: Sequence[Heard]) -> frozenset[str]:
    """Return the kinds that stand so much better in another recording, where levels do not compare, that they are its.

    One noise is heard all over a vehicle that runs; it stands out most where it comes from.
    """
    here = heard.situation
    if here.situation == "stand_spin":
        return frozenset()
    others = [h for h in all_heard if h.usable and _alike(h, heard)]
    return frozenset(
        family.kind
        for family in heard.families
        for mate in others
        for other in mate.families
        if _same(other, family) and other.strength > max(STANDS_BETTER * family.strength, FAINT)
    )


def _same(other: Family, family: Family) -> bool:
    """Return whether two families are one noise, under whatever name: a bearing's, at the order, its double or half.

    A song and knocks are two: their powers do not compare.
    """
    if (other.kind == WORN) != (family.kind == WORN):
        return False
    if not (other.kind == family.kind or {other.kind, family.kind} <= BEARING_KINDS):
        return False
    ratio = other.found_order / max(family.found_order, 1e-9)
    return any(abs(ratio / m - 1) < SAME_ORDER for m in (0.5, 1.0, 2.0))
