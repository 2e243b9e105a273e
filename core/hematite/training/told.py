"""What each thing that was found says of one kind of fault at one hub: what would be believed without it."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from hematite.beliefs.weighing import bits
from hematite.evidence import Observation, words_of
from hematite.evidence.observations import WEIGH_NOTHING
from hematite.evidence.witnesses import VEHICLE
from hematite.language import say
from hematite.listening import Heard
from hematite.policy import Policy
from hematite.vehicles import Vehicle
from hematite.verdict import assess


@dataclass(frozen=True)
class Spoke:
    """What one entry or recording says: in words, and by how many bits it makes the fault likelier (below 0: less)."""

    words: str
    bits: float
    source: str


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
        Spoke(words, now - believed(sounds, entries), source)
        for words, source, sounds, entries in _without_each(vehicle, heard, observations, place)
    ]
    return sorted(found, key=lambda one: -abs(one.bits))


Left = tuple[str, str, Sequence[Heard], Sequence[Observation]]


def _without_each(
    vehicle: Vehicle, heard: Sequence[Heard], observations: Sequence[Observation], place: str
) -> Iterator[Left]:
    """Yield the words and the source of each, and what is left without it."""
    for n, one in enumerate(observations):
        if one.hub in (VEHICLE, place) and one.kind not in WEIGH_NOTHING:
            yield words_of(one, vehicle), one.source, heard, [*observations[:n], *observations[n + 1 :]]
    for n, sound in enumerate(heard):
        at = sound.situation.place
        if at == place or vehicle.hub(at) is None:
            words = say("what was heard at {place}", place=at) if at == place else say("what was heard on the road")
            yield words, sound.situation.id, [*heard[:n], *heard[n + 1 :]], observations
