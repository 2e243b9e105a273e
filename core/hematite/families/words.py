"""Families in the trade's words: what it is, how strongly it stands, and what it fits."""

from hematite.families.combs import Family
from hematite.language import say
from hematite.tables import table

VERY_STRONG = 9.2  # nats: ten thousand to one; judgement


def family_words(family: Family) -> str:
    """Return a family as a mechanic would say it: "a ring mark on the outer race, strong; it fits 13 balls"."""
    parts = [str(table("families/kinds.toml")[family.kind]["words"])]
    if family.standing == "nothing":
        parts.append(say("not to be heard"))
    elif family.may_be_luck:
        parts.append(say("unless engine, gears or a tyre make it"))
    else:
        parts.append(
            say("very strong")
            if family.odds >= VERY_STRONG
            else say("strong")
            if family.standing == "clear"
            else say("faint")
        )
    return "; ".join(filter(None, (", ".join(parts), family.note)))
