"""The corners set against each other: who is louder, and what may only have leaked in."""

from collections.abc import Sequence
from dataclasses import dataclass

from hematite.families import Family
from hematite.listening.heard import Heard

SAME_SPEED = 1.15  # rolling noise grows by 2 dB over this ratio; further apart loudness is not compared; judgement
SAME_ORDER = 0.03  # two corners turn nearly alike; judgement
OVERHEARD_DB = 3.0  # a corner this much quieter than the loudest may only be hearing it; judgement


@dataclass(frozen=True)
class Corner:
    """One recording among its mates: dB over the quietest, whether it may only be hearing the loudest, and the kinds
    of families that a mate carries with more power (`echoes`): noise that leaked in and convicts nobody here.

    `thirds_db` are the third octaves over the quietest corner's, empty when levels may not be compared.
    """

    heard: Heard
    relative_db: float | None
    overheard: bool
    echoes: frozenset[str] = frozenset()
    thirds_db: tuple[float, ...] = ()


def compare(all_heard: Sequence[Heard]) -> tuple[Corner, ...]:
    """Set each recording against those that may fairly be compared with it; input order is kept.

    A single recording, one without a gain group, or an unusable one gets no relative level.
    """
    return tuple(_corner(heard, all_heard) for heard in all_heard)


def _corner(heard: Heard, all_heard: Sequence[Heard]) -> Corner:
    key = heard.situation.comparable_as
    mates = [h for h in all_heard if h.usable and h.situation.comparable_as == key]
    others = [mate for mate in mates if mate.situation.place != heard.situation.place]
    if key is None or not heard.usable or not others:
        return Corner(heard, None, False)
    # A wheel spun by hand turns alone: nothing that repeats with it can have leaked in from another.
    alone = heard.situation.situation == "stand_spin"
    echoes = frozenset(f.kind for f in heard.families if not alone and any(_louder_at(mate, f) for mate in others))
    mates = [mate for mate in mates if _alike_fast(mate, heard)]
    levels = [mate.level_db for mate in mates]
    if all(mate.situation.place == heard.situation.place for mate in mates):
        return Corner(heard, None, False, echoes)
    own = [m.level_db for m in mates if m.situation.place == heard.situation.place]
    overheard = not alone and max(levels) - max(own) > OVERHEARD_DB
    return Corner(heard, heard.level_db - min(levels), overheard, echoes, _thirds(heard, mates))


def _alike_fast(mate: Heard, heard: Heard) -> bool:
    """Return whether two wheels turned about equally fast; those of unknown speed are taken on trust."""
    if not (mate.turns_per_s and heard.turns_per_s):
        return True
    return 1 / SAME_SPEED <= mate.turns_per_s / heard.turns_per_s <= SAME_SPEED


def _thirds(heard: Heard, mates: Sequence[Heard]) -> tuple[float, ...]:
    all_thirds = [mate.third_octaves_db for mate in mates if len(mate.third_octaves_db) == len(heard.third_octaves_db)]
    return tuple(own - min(other) for own, *other in zip(heard.third_octaves_db, *all_thirds, strict=True))


def _louder_at(mate: Heard, family: Family) -> bool:
    """Return whether a mate carries the same lines with clearly more power, under whatever name."""
    return any(
        other.standing != "nothing"
        and (other.kind == family.kind or (_of_a_bearing(other) and _of_a_bearing(family)))
        and any(abs(other.found_order / max(family.found_order, 1e-9) / m - 1) < SAME_ORDER for m in (0.5, 1.0, 2.0))
        and other.power_db > family.power_db + OVERHEARD_DB
        for other in mate.families
    )


def _of_a_bearing(family: Family) -> bool:
    return family.kind in ("outer_race", "inner_race", "rolling_element", "cage")
