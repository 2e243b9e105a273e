"""The bench's own answer to a practice question: what one who weighs every witness well would say, and on what way.

It hears the same sounds, feels the same hubs and knows no more than a learner can find; so it is no oracle, and errs.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field
from zlib import crc32

from hematite.assembly import parts_of
from hematite.evidence import Observation
from hematite.evidence.observations import PART
from hematite.evidence.witnesses import VEHICLE, words_for
from hematite.following import Progress
from hematite.listening import Heard, Situation, listen
from hematite.listening.situation import segments_from_json
from hematite.play import LEAST_READINGS, end_play
from hematite.policy import Policy
from hematite.simulator import PLAYED_TURNS_PER_S
from hematite.training.hands import can_be_felt, felt, seen, strokes_mm
from hematite.training.levels import topic
from hematite.training.observed import Observed, Step
from hematite.training.ordering import asked
from hematite.training.set_nut import set_nut
from hematite.training.sounds import ROAD, on_stands, on_the_road
from hematite.training.truth import Truth
from hematite.vehicles import Vehicle
from hematite.verdict import Assessment, assess

MOST_TESTS = 40
RECORDING = "fault_lines"
OPENS = ("opened", "hand_turned", "fastening", "part")
CABIN = "cabin"


def observe(truth: Truth, vehicle: Vehicle, heard: Sequence[Heard] = ()) -> Observed:
    """Return the bench's own answer to a practice question. `heard`: what was recorded of it, in real work."""
    about = topic(truth.topic)
    if about.asks == "order":  # its own plan, by the usual ways
        order = [step.id for step in asked(truth, vehicle, Policy()).steps]
        return Observed(truth.at, "", 1.0, (), {"order": order})
    if about.key == "setting":
        return set_nut(truth, vehicle)
    if about.key == "play":
        return _measured(truth, vehicle)
    if about.key == "opened":
        return _opened(truth, vehicle)
    if about.key in ("decide", "real"):
        return _followed(truth, vehicle, heard)
    return _listened(truth, vehicle)


def stand_situation(place: str) -> Situation:
    """Return how a hub is recorded on stands, at a stated speed."""
    speed = {"kind": "wheel", "turns_per_s": PLAYED_TURNS_PER_S}
    return Situation(f"stand-{place}", place, situation="stand_driven", gain_group="stand", speed=speed)


def road_situation() -> Situation:
    """Return how the road test was recorded."""
    return Situation("road", CABIN, sensor="air", situation="road", segments=segments_from_json(ROAD))


def heard_on_stands(truth: Truth, vehicle: Vehicle, place: str) -> Heard:
    """Return what is heard at a hub on stands."""
    number = crc32(place.encode())
    sound = on_stands(truth, vehicle, place=place, turns_per_s=PLAYED_TURNS_PER_S, let_go=False, number=number)
    return listen(sound, stand_situation(place), vehicle=vehicle)


def _listened(truth: Truth, vehicle: Vehicle) -> Observed:
    about = topic(truth.topic)
    heard = [heard_on_stands(truth, vehicle, hub.id) for hub in vehicle.hubs()]
    # What comes with the question was recorded by somebody else.
    steps = [] if "stands" in about.given else _recorded([one.situation.place for one in heard])
    if "road" in about.given:
        sound = on_the_road(truth, vehicle, place=CABIN, number=crc32(b"road"))
        heard.append(listen(sound, road_situation(), vehicle=vehicle))
    found = assess(vehicle, heard, [Observation("complaint", VEHICLE, _said(truth))])
    if about.asks == "hub":
        chances = {verdict.hub.id: verdict.belief.bearing for verdict in found.hubs}
    else:
        chances = {
            key: found.elsewhere[key] if key in found.elsewhere else max(v.belief.of_group(key) for v in found.hubs)
            for key in about.options
        }
    best = max(chances, key=lambda key: chances[key])
    return Observed(truth.at, best, chances[best] / max(sum(chances.values()), 1e-9), tuple(steps))


def _said(truth: Truth) -> dict[str, object]:
    return {name: value for name, value in truth.complaint.items() if name != "text"}


def _recorded(places: Sequence[str]) -> list[Step]:
    return [
        Step(RECORDING, place, "", Progress(lifted=n > 0).minutes(RECORDING, place)) for n, place in enumerate(places)
    ]


def _measured(truth: Truth, vehicle: Vehicle) -> Observed:
    hub = vehicle.hub(truth.at)
    assert hub is not None
    read = end_play(strokes_mm(truth, hub.id)[:LEAST_READINGS], hub.play_window_mm)
    words = words_for("end_play")[read.outcome]
    step = Step("end_play", hub.id, words, Progress().minutes("end_play", hub.id))
    return Observed(hub.id, read.outcome, read.outcomes[read.outcome], (step,))


def looked(truth: Truth, vehicle: Vehicle, hub_id: str) -> list[Observation]:
    """Return what is found at every part of an opened hub."""
    hub = vehicle.hub(hub_id)
    assert hub is not None
    return [
        Observation("part", hub.id, {"part": part.key, "finds": finds})
        for part in parts_of(hub.design_key)
        if part.kind and (finds := seen(truth, hub, part.key))
    ]


def _opened(truth: Truth, vehicle: Vehicle) -> Observed:
    found = assess(vehicle, [], looked(truth, vehicle, truth.at))
    choice = found.at(truth.at).choice
    step = Step("opened", truth.at, "", Progress().minutes("opened", truth.at))
    return Observed(truth.at, choice.choice, choice.probability, (step,))


@dataclass
class _Way:
    """What was done on the way so far."""

    truth: Truth
    vehicle: Vehicle
    observations: list[Observation]
    heard: list[Heard] = field(default_factory=list)
    steps: list[Step] = field(default_factory=list)

    def judged(self) -> Assessment:
        return assess(self.vehicle, self.heard, self.observations)

    def do(self, test: str, hub: str, minutes: float) -> None:
        """Make a test, and note what came of it."""
        words = ""
        if self.truth.kept:
            self.observations += self._of_work(test, hub)
        elif test == RECORDING and hub:
            self.heard.append(heard_on_stands(self.truth, self.vehicle, hub))
        elif test in OPENS and hub:
            self.observations += looked(self.truth, self.vehicle, hub)
        else:
            value = self._found(test, hub)
            self.observations.append(Observation(test, hub, value))
            words = words_for(test).get(str(value.get("answer", "")), "")
        self.steps.append(Step(test, hub, words, minutes))

    def _of_work(self, test: str, hub: str) -> list[Observation]:
        """Return what real work found by a test, or that nobody made it."""
        kinds = (PART, *OPENS) if test in OPENS else (test,)
        rows = [row for row in self.truth.kept["found"] if row["hub"] == hub and row["kind"] in kinds]
        return [Observation(**row) for row in rows] or [Observation(test, hub, {"answer": "not_done"})]

    def _found(self, test: str, hub: str) -> dict[str, object]:
        if test == "end_play":
            return {"readings_mm": strokes_mm(self.truth, hub)[:LEAST_READINGS]}
        return {"answer": felt(self.truth, self.vehicle, test, hub) if can_be_felt(test) else "not_done"}


def _followed(truth: Truth, vehicle: Vehicle, heard: Sequence[Heard]) -> Observed:
    """Follow the bench's own advice from the complaint to where it says to decide."""
    way = _Way(truth, vehicle, [Observation("complaint", VEHICLE, _said(truth))], list(heard))
    found = way.judged()
    while found.next_test.test != "decide" and len(way.steps) < MOST_TESTS:
        way.do(found.next_test.test, found.next_test.hub or "", found.next_test.minutes)
        found = way.judged()
    return _decided(found, tuple(way.steps))


def _decided(found: Assessment, steps: Sequence[Step]) -> Observed:
    decision = found.decision
    return Observed(decision.hub or "", decision.choice, decision.probability, tuple(steps))
