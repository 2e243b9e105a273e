"""Weighing all causes at all places together: against a brute-force twin, and what must never happen."""

import itertools
import math
import unittest
from dataclasses import replace

from hematite.evidence import Statement, weigh
from hematite.evidence.joint import joint_of, layers_of
from hematite.evidence.priors import SAME_AXLE, SECOND, VEHICLE
from hematite.evidence.tables import by_state, chance, in_states, states, witnesses
from hematite.vehicles import Axle, Hub, Vehicle
from hematite.verdict.culprits import name_culprits

TRAILER = Vehicle((Axle((Hub("A1L", "left", "taper_pressurised"), Hub("A1R", "right", "taper_pressurised"))),))
CAR = Vehicle(
    tuple(Axle((Hub(f"A{n}L", "left", "hub_unit"), Hub(f"A{n}R", "right", "hub_unit")), driven=n == 1) for n in (1, 2))
)
QUAD = Vehicle(
    tuple(Axle((Hub(f"A{n}L", "left", "hub_unit"), Hub(f"A{n}R", "right", "hub_unit")), driven=True) for n in (1, 2))
)


def twin(said: list[Statement], vehicle: Vehicle) -> dict[tuple[str, str], float]:
    """Return P(cause at place) by plain enumeration of nothing, one and two faults, and of every hidden state."""
    every = joint_of(vehicle).singles
    worlds = [((), 1 - sum(one.prior for one in every))]
    worlds += [((one,), one.prior) for one in every]
    for a, b in itertools.combinations(every, 2):
        if (a.place, a.group) != (b.place, b.group):
            bearings = a.group == b.group == "bearing"
            factor = SECOND * (SAME_AXLE if bearings and a.axle == b.axle else 1.0)
            worlds.append(((a, b), a.prior * b.prior * factor))

    def of_cause(statements: list[Statement], place: str, cause: str) -> float:
        reads = witnesses()[statements[0].witness].get("reads")
        if not reads:
            return chance(statements[0].witness, statements[0].outcome(place), cause)
        total = 0.0
        for n, state in enumerate(states()[reads]["states"]):
            rows = [by_state(s.witness)[n] for s in statements]
            at = [witnesses()[s.witness]["outcomes"].index(s.outcome(place)) for s in statements]
            total += in_states(reads, cause)[n] * math.prod(row[k] for row, k in zip(rows, at, strict=True))
            assert state
        return total

    def likelihood(statements: list[Statement], world: tuple) -> float:
        said_of = statements[0].said
        default = next(iter(said_of))
        speaks = [one for one in world if one.place in said_of or one.place == VEHICLE]
        if not speaks:
            return of_cause(statements, default, "sound")
        heard = [of_cause(statements, one.place if one.place in said_of else default, one.cause) for one in speaks]
        return sum(heard) / len(heard)

    weights = [p * math.prod(likelihood(own, world) for own in layers_of(said).values()) for world, p in worlds]
    total = sum(weights)
    return {
        (one.cause, one.place): sum(w for (world, _), w in zip(worlds, weights, strict=True) if one in world) / total
        for one in every
    }


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
            (CAR, [sides("coast_test", "falls", "falls"), hard("A1R", "rock_12_6", "joint")]),
            (CAR, [hard("A1R", w, o) for w, o in (("rock_12_6", "hub"), ("in_out", "moves"), ("spin", "rumbles"))]),
            (
                CAR,
                [hard(h, w, "rough") for h in ("A1L", "A1R") for w in ("spring_touch",)]
                + [hard("A1L", "spin", "grinds")],
            ),
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

    def test_one_more_statement_costs_no_second_truth(self) -> None:
        """What a statement more would do, worked out quickly, is what it does when it is made."""
        said = [hard("A1L", "spin", "rumbles"), hard("A1L", "rock_12_6", "hub"), sides("load_test", "here", "away")]
        body = weigh(said, CAR).body
        for more in (
            hard("A1L", "spring_touch", "rough"),
            hard("A2R", "opened", "clean"),
            sides("coast_test", "stays", "stays"),
        ):
            quick, made = body.adding([more])[0], weigh([*said, more], CAR).body.posterior
            with self.subTest(more.witness):
                self.assertLess(float(abs(quick.singles - made.singles).max()), 1e-9)
                self.assertAlmostEqual(quick.nothing, made.nothing, places=9)
        for statement in said:
            rest = weigh([s for s in said if s is not statement], CAR).body.posterior
            self.assertLess(float(abs(body.without(statement).singles - rest.singles).max()), 1e-9)

    def test_several_listens_to_one_noise_are_not_several_noises(self) -> None:
        """A third way of feeling the same roughness adds less than the first did."""
        growls = [
            hard("A1L", "spin", "rumbles"),
            hard("A1L", "spring_touch", "rough"),
            hard("A1L", "stethoscope", "growls"),
        ]
        bits = [math.log2(p / (1 - p)) for p in (weigh(growls[:n], CAR).hubs["A1L"].bearing for n in range(4))]
        gains = [after - before for before, after in itertools.pairwise(bits)]
        self.assertGreater(gains[0], 2 * gains[1])
        self.assertGreater(gains[1], gains[2])
        self.assertGreater(gains[2], 0)

    def test_what_makes_a_cause_likelier_before_any_test(self) -> None:
        """Boats: dry hubs. Age: worn races. Just worked on: loose nuts. A design that is set: loose bearings."""
        prior = lambda vehicle, cause: weigh([], vehicle).hubs["A1L"].probabilities[cause]  # noqa: E731
        for change, cause in (
            ({"duty": ("water",)}, "dry_or_dirty"),
            ({"age_years": 24.0}, "outer_race"),
            ({"duty": ("just_worked_on",)}, "loose_nuts"),
            ({"distance_km": 400e3}, "inner_race"),
        ):
            with self.subTest(change):
                self.assertGreater(prior(replace(TRAILER, **change), cause), 1.1 * prior(TRAILER, cause))
        self.assertGreater(prior(TRAILER, "loose"), 1.5 * weigh([], CAR).hubs["A1L"].probabilities["loose"])


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
        still = [hard(h.id, "rock_12_6", "nothing") for h in CAR.hubs()]
        weighed = weigh([*quiet, *smooth, *still, sides("coast_test", "falls", "falls")], CAR)
        engine = weighed.vehicle.of_group("engine")
        self.assertGreater(engine, 3 * weigh([], CAR).vehicle.of_group("engine"))

    def test_a_tyres_mechanism(self) -> None:
        """Cupped and tread are told apart."""
        for outcome, mechanism in (("whole_orders", "cupped"), ("tread", "tread")):
            found = name_culprits(weigh([hard("A1L", "fault_lines", outcome), hard("A1L", "level", "loud")], CAR), CAR)
            self.assertEqual([(c.cause, c.mechanism) for c in found], [("tyre", mechanism)])
