"""Weighing all causes at all places together: against a brute-force twin, and what must never happen."""

import itertools
import math
import unittest

from hematite.evidence import Statement, weigh
from hematite.evidence.weighing import SECOND, VEHICLE, causes, chance, witnesses
from hematite.vehicles import Axle, Hub, Vehicle
from hematite.verdict.culprits import name_culprits

TRAILER = Vehicle((Axle((Hub("A1L", "left", "taper_pressurised"), Hub("A1R", "right", "taper_pressurised"))),))
CAR = Vehicle(
    tuple(Axle((Hub(f"A{n}L", "left", "hub_unit"), Hub(f"A{n}R", "right", "hub_unit")), driven=n == 1) for n in (1, 2))
)
QUAD = Vehicle(
    tuple(Axle((Hub(f"A{n}L", "left", "hub_unit"), Hub(f"A{n}R", "right", "hub_unit")), driven=True) for n in (1, 2))
)


def singles(vehicle: Vehicle) -> list[tuple[str, str, float]]:
    """Return (cause, place, prior) of everything that can be wrong."""
    places = {
        "hub": [hub.id for hub in vehicle.hubs()],
        "driven_hub": [hub.id for axle in vehicle.axles if axle.driven for hub in axle.hubs],
        "vehicle": [VEHICLE],
    }
    return [
        (cause, place, row["prior"] / len(places[row["at"]]))
        for cause, row in causes().items()
        if cause != "sound"
        for place in places[row["at"]]
    ]


def twin(said: list[Statement], vehicle: Vehicle) -> dict[tuple[str, str], float]:
    """Return P(cause at place) by plain enumeration of nothing, one and two faults, hard statements only."""
    every = singles(vehicle)
    group = lambda one: (one[1], causes()[one[0]]["group"])  # noqa: E731
    worlds = [((), 1 - sum(p for *_, p in every))]
    worlds += [((one,), one[2]) for one in every]
    worlds += [((a, b), a[2] * b[2] * SECOND) for a, b in itertools.combinations(every, 2) if group(a) != group(b)]

    def likelihood(statement: Statement, world: tuple) -> float:
        speaks = [one for one in world if one[1] in statement.said or one[1] == VEHICLE]
        default = next(iter(statement.said))
        if not speaks:
            return chance(statement.witness, statement.outcome(default), "sound")
        heard = [
            chance(statement.witness, statement.outcome(p if p in statement.said else default), c) for c, p, _ in speaks
        ]
        return sum(heard) / len(heard)

    weights = []
    for world, prior in worlds:
        weights.append(prior * math.prod(likelihood(statement, world) for statement in said))
    total = sum(weights)
    return {
        (cause, place): sum(w for (world, _), w in zip(worlds, weights, strict=True) if any(
            one[:2] == (cause, place) for one in world)) / total
        for cause, place, _ in every
    }  # fmt: skip


def hard(hub: str, witness: str, outcome: str) -> Statement:
    """Return a certain statement about one hub."""
    return Statement.at(hub, witness, {outcome: 1.0})


def sides(witness: str, left: str, right: str, vehicle: Vehicle = CAR) -> Statement:
    """Return a certain statement that speaks of every hub by its side."""
    return Statement(witness, {h.id: {left if h.side == "left" else right: 1.0} for h in vehicle.hubs()})


class AgainstTheTwin(unittest.TestCase):
    """The vectorised sums are those of plain enumeration."""

    def test_same_probabilities(self) -> None:
        """For several bodies of evidence, on a trailer and a car, every cause at every place to ten digits."""
        bodies = [
            (TRAILER, []),
            (TRAILER, [hard("A1L", "spin", "rumbles"), hard("A1R", "spin", "free")]),
            (TRAILER, [hard("A1L", "opened", "marked"), hard("A1R", "opened", "marked")]),
            (CAR, [sides("load_test", "here", "away"), hard("A2L", "fault_lines", "nothing")]),
            (CAR, [sides("coast_test", "falls", "falls"), hard("A1R", "rock", "joint")]),
        ]
        for vehicle, said in bodies:
            weighed, plain = weigh(said, vehicle), twin(said, vehicle)
            for (cause, place), expected in plain.items():
                beliefs = weighed.vehicle if place == VEHICLE else weighed.hubs[place]
                with self.subTest(cause=cause, place=place, said=len(said)):
                    self.assertAlmostEqual(beliefs.probabilities[cause], expected, places=10)


class Promises(unittest.TestCase):
    """What holds whatever is said."""

    def test_nothing_said_leaves_the_priors(self) -> None:
        """The same at mirror hubs, and something wrong somewhere is likelier than not."""
        weighed = weigh([], CAR)
        self.assertAlmostEqual(weighed.hubs["A1L"].bearing, weighed.hubs["A1R"].bearing)
        self.assertLess(weighed.nothing, 0.5)

    def test_two_bad_hubs_are_both_named(self) -> None:
        """Marks seen in both hubs of an axle convict both, though one fault is the rule."""
        weighed = weigh([hard("A1L", "opened", "marked"), hard("A1R", "opened", "marked")], TRAILER)
        self.assertGreater(min(weighed.hubs[hub].bearing for hub in ("A1L", "A1R")), 0.8)

    def test_a_brake_explains_its_scrape_away_from_the_bearing(self) -> None:
        """A scrape lowers the suspicion of that hub's bearing below what it was."""
        before, after = (
            weigh(said, CAR).hubs["A1L"].bearing for said in ([], [hard("A1L", "fault_lines", "once_a_turn")])
        )
        self.assertLess(after, before)

    def test_only_driven_hubs_have_drive_joints(self) -> None:
        """A trailer has none, a car's rear neither."""
        self.assertNotIn("drive_joint", weigh([], TRAILER).hubs["A1L"].probabilities)
        self.assertNotIn("drive_joint", weigh([], CAR).hubs["A2L"].probabilities)
        self.assertIn("drive_joint", weigh([], CAR).hubs["A1L"].probabilities)

    def test_weights_say_what_each_witness_did(self) -> None:
        """A rumble weighs for, free rolling against; the larger stands first; another hub's witness is not listed."""
        said = [hard("A1L", "spin", "rumbles"), hard("A1L", "level", "quiet"), hard("A1R", "spin", "free")]
        weights = weigh(said, CAR).hubs["A1L"].weights
        self.assertEqual([s.witness for s, _ in weights], ["spin", "level"])
        self.assertGreater(weights[0][1], 0)
        self.assertLess(weights[1][1], 0)

    def test_recorded_witnesses_are_never_asked_for(self) -> None:
        """What only a recording can say is marked so, and the road witnesses name every outcome in words."""
        for key in ("rhythm", "load_test", "coast_test", "turn_clicks", "brake_test"):
            self.assertTrue(witnesses()[key]["recorded"])


class Naming(unittest.TestCase):
    """Culprits are named as narrowly as is certain enough to act on."""

    def named(self, said: list[Statement], vehicle: Vehicle = CAR) -> list[tuple]:
        """Return cause, hub and side of the culprits."""
        return [(c.cause, c.hub, c.side) for c in name_culprits(weigh(said, vehicle), vehicle)]

    def test_hub_side_kind_or_nobody(self) -> None:
        """Opened and marked: the hub. Lines and bends in the cabin: the side. Lines alone: the kind."""
        lines = Statement("fault_lines", {h.id: {"outer_race": 1.0} for h in CAR.hubs()})
        self.assertEqual(self.named([hard("A2R", "opened", "marked")]), [("bearing", "A2R", "right")])
        self.assertEqual(self.named([lines, sides("load_test", "here", "away")]), [("bearing", None, "left")])
        self.assertEqual(self.named([lines]), [("bearing", None, None)])
        self.assertEqual(self.named([]), [])

    def test_what_sits_at_no_hub(self) -> None:
        """With every hub quiet, smooth and still, noise that falls when coasting raises the engine threefold."""
        quiet = [hard(h.id, "fault_lines", "nothing") for h in CAR.hubs()]
        smooth = [hard(h.id, "spin", "free") for h in CAR.hubs()]
        still = [hard(h.id, "rock", "nothing") for h in CAR.hubs()]
        weighed = weigh([*quiet, *smooth, *still, sides("coast_test", "falls", "falls")], CAR)
        engine = weighed.vehicle.of_group("engine")
        self.assertGreater(engine, 3 * weigh([], CAR).vehicle.of_group("engine"))

    def test_a_tyres_mechanism(self) -> None:
        """Cupped and tread are told apart."""
        for outcome, mechanism in (("whole_orders", "cupped"), ("tread", "tread")):
            found = name_culprits(weigh([hard("A1L", "fault_lines", outcome), hard("A1L", "level", "loud")], CAR), CAR)
            self.assertEqual([(c.cause, c.mechanism) for c in found], [("tyre", mechanism)])
