"""What a part can look like, in the trade's words and by the damage classes of ISO 15243."""

from dataclasses import dataclass

from hematite.assembly import Part
from hematite.language import words_once
from hematite.tables import table


@dataclass(frozen=True)
class Find:
    """One thing to be found: `facts` are what it tells the rules, `damage` its class by ISO 15243, '' for none."""

    key: str
    label: str
    means: str
    kinds: tuple[str, ...]
    facts: tuple[str, ...] = ()
    damage: str = ""
    hand: str = ""
    fine: bool = False
    parts: tuple[str, ...] = ()


@words_once
def finds() -> dict[str, Find]:
    """Return every find by its key."""
    rows = table("inspection/finds.toml")
    return {
        key: Find(
            key=key,
            label=row["label"],
            means=row["means"],
            kinds=tuple(row["kinds"]),
            facts=tuple(row.get("facts", ())),
            damage=rows["class"][row["class"]] if "class" in row else "",
            hand=row.get("hand", ""),
            fine=row.get("fine", False),
            parts=tuple(row.get("parts", ())),
        )
        for key, row in rows["find"].items()
    }


@words_once
def finds_of(part: Part) -> tuple[Find, ...]:
    """Return what can be found at a part."""
    return tuple(f for f in finds().values() if part.kind in f.kinds and part.key in (f.parts or (part.key,)))


def shuts_out(find: Find) -> tuple[str, ...]:
    """Return the finds that cannot be at a part beside one: fine and damaged to the eye, or to the hand.

    What the eye sees and what the hand feels go together.
    """
    alike = (other for other in finds().values() if other != find and bool(other.hand) == bool(find.hand))
    return tuple(other.key for other in alike if other.fine != find.fine)
