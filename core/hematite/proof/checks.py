"""Proof by the hands: what is to be answered after a job, beside what was found before it, and what that proves."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from hematite.doors import one_of
from hematite.evidence import Observation, words_of
from hematite.evidence.observations import CHECK
from hematite.evidence.witnesses import witnesses
from hematite.language import say, small, words_once
from hematite.tables import table
from hematite.vehicles import Hub, Vehicle

ANSWERS = ("good", "bad", "not_done")


@dataclass(frozen=True)
class Check:
    """One check: what was found before, in words, and the answer after, '' while there is none.

    `convicting`: it answers the witness that weighed most; `proves`: that the bearing is well, and not only
    that it was done.
    """

    key: str
    label: str
    ask: str
    words: Mapping[str, str]
    before: tuple[str, ...] = field(default=())
    answer: str = ""
    note: str = ""
    later: bool = False
    convicting: bool = False
    proves: bool = False


@words_once
def rows() -> dict[str, Any]:
    """Return the checks as they stand in their table."""
    return table("proof/checks.toml")


def checks(
    hub: Hub,
    vehicle: Vehicle,
    before: Iterable[Observation],
    after: Iterable[Observation],
    *,
    weighed: Sequence[str] = (),
) -> tuple[Check, ...]:
    """Return the checks of a job at a hub: what was found `before` it, and what was answered `after` it.

    `weighed`: the witnesses that spoke for the fault, the heaviest first; what answers them comes in their order.
    """
    before, after = list(before), list(after)
    answered = {one.value.get("check"): one.value for one in after if one.kind == CHECK and one.hub == hub.id}
    fits = [
        (key, row)
        for key, row in rows().items()
        if vehicle.kind not in row.get("not_on", ())
        and hub.design_key in row.get("only", (hub.design_key,))
        and (vehicle.drives(hub.id) or not row.get("driven"))
    ]
    spoke = [str(witnesses()[one].get("asked_as", one)) for one in weighed if one in witnesses()]
    rank = {key: _rank(row.get("before", ()), spoke) for key, row in fits}
    return tuple(
        Check(
            key=key,
            label=row["label"],
            ask=row["ask"],
            words={"good": row["good"], "bad": row["bad"], "not_done": say("not done")},
            before=_found(row.get("before", ()), hub, vehicle, before),
            answer=str(answered.get(key, {}).get("answer", "")),
            note=str(answered.get(key, {}).get("note", "")),
            later=row.get("later", False),
            proves=row.get("proves", False),
            convicting=bool(spoke) and rank[key] == 0,
        )
        for key, row in sorted(fits, key=lambda one: rank[one[0]])
    )


def _rank(kinds: Iterable[str], spoke: Sequence[str]) -> int:
    """Return the place of the heaviest witness among some kinds; after all of them where none of these spoke."""
    return min((spoke.index(kind) for kind in kinds if kind in spoke), default=len(spoke))


def _found(kinds: Iterable[str], hub: Hub, vehicle: Vehicle, before: Iterable[Observation]) -> tuple[str, ...]:
    """Return in words what was found before the job by some kinds of observation, at the hub or of the vehicle."""
    found = [one for one in before if one.kind in kinds and one.hub in (hub.id, "")]
    return tuple(dict.fromkeys(words for one in found if (words := words_of(one, vehicle))))


def read_check(value: Mapping[str, Any]) -> None:
    """Refuse an answer to a check that is none. Raises `UnknownName`."""
    one_of(str(value.get("check", "")), rows(), "check")
    one_of(str(value.get("answer", "")), ANSWERS, say("answer to a check"))


def check_words(value: Mapping[str, Any]) -> str:
    """Return an answer to a check in words: 'After the job: spins free and even: free and even'."""
    row = rows()[str(value["check"])]
    answer = row.get(str(value["answer"]), "not done")
    note = f" ({value['note']})" if value.get("note") else ""
    return say("After the job: {check}: {answer}{note}", check=small(row["label"]), answer=answer, note=note)


@dataclass(frozen=True)
class Closing:
    """What closing says: what was proven, what speaks against it, what was not done; and all that in a sentence.

    `mended`: whether hand or ear found the bearing well, and nothing speaks against it.
    """

    proven: tuple[str, ...]
    against: tuple[str, ...]
    open: tuple[str, ...]
    mended: bool = False

    @property
    def complete(self) -> bool:
        """Return whether nothing is left open and nothing speaks against it."""
        return not (self.against or self.open)

    @property
    def words(self) -> str:
        """Return the closing words."""
        parts = [
            f"{said}: {', '.join(labels)}."
            for said, labels in (
                (say("Proven"), _lower(self.proven)),
                (say("Against it"), _lower(self.against)),
                (say("Not done"), _lower(self.open)),
            )
            if labels
        ]
        return " ".join(parts) or say("Nothing was proven.")


def _lower(labels: Iterable[str]) -> list[str]:
    return [small(label) for label in labels]


def closing(made: Iterable[Check], *, sound: str, open_steps: Iterable[str] = ()) -> Closing:
    """Return what closing says of a job, from its checks, the sound's outcome ('' for none) and the open steps."""
    made = list(made)
    proven = [one.label for one in made if one.answer == "good"]
    against = [one.label for one in made if one.answer == "bad"]
    left = [one.label for one in made if one.answer in ("", "not_done")]
    heard = say("Heard again")
    if sound == "better":
        proven.append(heard)
    elif sound == "same":
        against.append(heard)
    else:
        left.append(heard)
    well = sound == "better" or any(one.proves and one.answer == "good" for one in made)
    return Closing(tuple(proven), tuple(against), (*left, *open_steps), mended=well and not against)
