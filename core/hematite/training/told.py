"""What each thing that was found says of one kind of fault at one hub: what would be believed without it."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from hematite.beliefs.weighing import bits
from hematite.evidence import Observation, words_of
from hematite.evidence.observations import WEIGH_NOTHING
from hematite.evidence.witnesses import VEHICLE, causes
from hematite.language import later, say, small
from hematite.listening import Heard
from hematite.policy import Policy
from hematite.training.truth import Truth
from hematite.vehicles import Vehicle
from hematite.verdict import assess
from hematite.verdict.printed import group_label

BEARING = "bearing"
MOST = 4  # named of a kind
# From how many bits on something speaks so; what speaks less says next to nothing. Judgement.
STRENGTHS = {"strongly": 3.0, "clearly": 1.5, "faintly": 0.5}
STRENGTH_WORDS = {
    "strongly": (later("speaks strongly for: {fault}"), later("speaks strongly against: {fault}")),
    "clearly": (later("speaks clearly for: {fault}"), later("speaks clearly against: {fault}")),
    "faintly": (later("speaks faintly for: {fault}"), later("speaks faintly against: {fault}")),
}


@dataclass(frozen=True)
class Spoke:
    """What one entry or recording says of a group of causes at a place: in words, and in bits (below 0: against).

    `recording`: its number, '' for an entry.
    """

    place: str
    words: str
    group: str
    bits: float
    recording: str = ""

    @property
    def speaks(self) -> str:
        """Return how strongly it speaks, for what or against."""
        how = next(name for name, least in STRENGTHS.items() if abs(self.bits) >= least)
        return say(STRENGTH_WORDS[how][self.bits < 0], fault=small(group_label(self.group)))


def witnessed(
    truth: Truth,
    vehicle: Vehicle,
    heard: Sequence[Heard],
    observations: Sequence[Observation],
    *,
    answered: str,
    policy: Policy,
) -> tuple[list[Spoke], list[Spoke]]:
    """Return what spoke for the truth and what misled: of the fault at its hub, of a bearing where one was sought.

    `answered`: the hub that was named, '' for none.
    """
    cause = truth.causes.get(truth.at, "")
    asked = {truth.at: str(causes()[cause]["group"]) if cause else BEARING}
    asked |= {answered: BEARING} if answered and answered not in asked else {}
    spoke: list[Spoke] = []
    misled: list[Spoke] = []
    for place, group in asked.items():
        there = bool(cause) and place == truth.at
        for one in spoken(vehicle, heard, observations, place=place, group=group, policy=policy):
            if abs(one.bits) >= STRENGTHS["faintly"]:
                (spoke if (one.bits > 0) == there else misled).append(one)
    return spoke[:MOST], misled[:MOST]


def spoken(
    vehicle: Vehicle,
    heard: Sequence[Heard],
    observations: Sequence[Observation],
    *,
    place: str,
    group: str,
    policy: Policy,
) -> list[Spoke]:
    """Return what everything found at a hub or of the vehicle says of a group of causes there, the weightiest first."""

    def believed(sounds: Sequence[Heard], entries: Sequence[Observation]) -> float:
        return bits(assess(vehicle, sounds, entries, policy=policy).at(place).belief.of_group(group))

    now = believed(heard, observations)
    found = [
        Spoke(place, words, group, now - believed(sounds, entries), recording)
        for words, recording, sounds, entries in _without_each(vehicle, heard, observations, place)
    ]
    return sorted(found, key=lambda one: -abs(one.bits))


Left = tuple[str, str, Sequence[Heard], Sequence[Observation]]


def _without_each(
    vehicle: Vehicle, heard: Sequence[Heard], observations: Sequence[Observation], place: str
) -> Iterator[Left]:
    """Yield the words of each, the number of a recording, and what is left without it."""
    for n, one in enumerate(observations):
        if one.hub in (VEHICLE, place) and one.kind not in WEIGH_NOTHING:
            yield words_of(one, vehicle), "", heard, [*observations[:n], *observations[n + 1 :]]
    for n, sound in enumerate(heard):
        at = sound.situation.place
        if at == place or vehicle.hub(at) is None:
            words = say("what was heard at {place}", place=at) if at == place else say("what was heard on the road")
            yield words, sound.situation.id, [*heard[:n], *heard[n + 1 :]], observations
