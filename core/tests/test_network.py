"""The joint of all faults: against a slow twin, against a Bayesian-network library, and the laws it must keep."""

import itertools
import unittest
from dataclasses import replace

import numpy as np
import pyagrum
from bench.plain import Plain
from hematite.beliefs import Network, weigh
from hematite.beliefs.likelihood import overall
from hematite.decision import name_culprits
from hematite.evidence import Observation, Statement, statements, statements_of
from hematite.evidence.witnesses import VEHICLE, outcomes, witnesses
from hematite.following import Progress, applicable, looks
from hematite.following.looks import now
from hematite.vehicles import Axle, Hub, Vehicle
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.network_twin import Twin


def vehicle(*designs: str, driven: tuple[int, ...] = (), **more: object) -> Vehicle:
    """Return axles of two wheels, front to back, the first one steered."""
    axles = [
        Axle(
            (Hub(f"A{n}L", "left", design), Hub(f"A{n}R", "right", design)),
            driven=n in driven,
            steered=n == 1 and bool(driven),
        )
        for n, design in enumerate(designs, start=1)
    ]
    return Vehicle(tuple(axles), **more)


PAIR = vehicle("hub_unit", duty=("water",))
TAPERS = vehicle("taper_pressurised")
CAR = vehicle("hub_unit", "hub_unit", driven=(1,))
VAN = vehicle("hub_unit", "taper_clamp", driven=(1,))
TANDEM = vehicle("taper_pressurised", "taper_pressurised")


def say(kind: str, answer: str, hub: str = "", **more: object) -> Observation:
    """Return one answer."""
    return Observation(kind, hub, {"answer": answer} | more)


BODIES = (
    [],
    [say("spin", "rumbles", "A1L"), say("complaint", "growl"), say("load_test", "right")],
    [
        say("heat", "warm", "A1L"),
        say("heat", "cool", "A1R"),
        say("coast_down", "short", "A1L"),
        say("spin", "drags", "A1L"),
    ],
    [
        say("turn_clicks", "left"),
        say("rock_12_6", "hub", "A1R", how="one_person"),
        say("brake_held", "vanishes", "A1R"),
        say("opened", "marked", "A1L"),
        say("complaint_side", "left"),
    ],
    [say("spin", "rumbles", hub) for hub in ("A1L", "A1R")] + [say("rock_3_9", "trace", "A1L")],
)
LOUD = [Statement("level", "A1L", {"loud": 1.0}), Statement("level", "A1R", {"quiet": 1.0})]

FRONT = frozenset({"A1L", "A1R"})
CABIN = [
    Statement("fault_lines", "", {"outer_race": 1.0}, hubs=FRONT),
    Statement("hum", "", {"loud_hum": 1.0}, hubs=FRONT),
    Statement("swell", "", {"deep_swell": 1.0}, hubs=frozenset({"A1R"})),
    Statement("spin", "A1L", {"rumbles": 1.0}),
]


def said_of(body: list[Observation], of: Vehicle) -> list[Statement]:
    """Return the statements of a body; what is asked as another test is made straight away."""
    plain = [one for one in body if "asked_as" not in witnesses()[one.kind]]
    other = [Statement(one.kind, one.hub, {one.value["answer"]: 1.0}) for one in body if one not in plain]
    return [*statements_of(plain, of), *other]


class AgainstTheTwin(unittest.TestCase):
    """The factored sums are those of plain enumeration, to ten digits and more."""

    def test_same_probabilities(self) -> None:
        """Every fault at every hub, and nothing at all: with certain answers, doubtful people, mates and levels."""
        bodies = [said_of(body, PAIR) for body in BODIES] + [LOUD, CABIN]
        for of in (PAIR, TAPERS):
            for said in bodies:
                twin, found = Twin(of, said), weigh(said, of)
                with self.subTest(said=[one.witness for one in said]):
                    self.assertAlmostEqual(found.nothing, twin.nothing, places=10)
                    for hub, belief in found.hubs.items():
                        for cause, p in belief.causes.items():
                            self.assertAlmostEqual(p, twin.probability(hub, cause), places=10, msg=f"{hub} {cause}")


class AgainstALibrary(unittest.TestCase):
    """The same model as a Bayesian network in pyAgrum (lazy propagation), which shares nothing with ours but tables."""

    def network(self, of: Vehicle) -> tuple[pyagrum.BayesNet, Plain, list[list]]:
        """Return life, age, both hubs' states, how each rolls, and the noise's source, as one network."""
        plain, net, hubs = Plain(), pyagrum.BayesNet(), list(of.hubs())
        rates = [plain.rates(of, hub.id) for hub in hubs]
        worlds = [plain.worlds(list(own)) for own in rates]
        for name, own in zip(("life", "age"), plain.couplings(of), strict=True):
            net.add(pyagrum.LabelizedVariable(name, "", 2))
            net.cpt(name)[:] = [p for p, _ in own]
        for hub, own, states in zip(hubs, rates, worlds, strict=True):
            net.add(pyagrum.LabelizedVariable(hub.id, "", len(states)))
            net.addArc("life", hub.id)
            net.addArc("age", hub.id)
            for (a, (_, hard)), (b, (_, old)) in itertools.product(*(enumerate(one) for one in plain.couplings(of))):
                net.cpt(hub.id)[{"life": a, "age": b}] = [plain.prior(own, world, hard * old) for world in states]
            values = plain.hidden_worlds(hub, (), "rolling")
            net.add(pyagrum.LabelizedVariable(f"{hub.id} rolls", "", len(values)))
            net.addArc(hub.id, f"{hub.id} rolls")
            for n, world in enumerate(states):
                net.cpt(f"{hub.id} rolls")[{hub.id: n}] = [p for _, p in plain.hidden_worlds(hub, world, "rolling")]
        self.add_source(net, plain, hubs, worlds)
        return net, plain, worlds

    def add_source(self, net: pyagrum.BayesNet, plain: Plain, hubs: list[Hub], worlds: list[list]) -> None:
        """Add which fault is the noise: none, or any fault of either hub by its loudness."""
        faults = [("", "")] + [
            (h.id, c) for h, own in zip(hubs, worlds, strict=True) for c in {c for w in own for c in w}
        ]
        net.add(pyagrum.LabelizedVariable("source", "", len(faults)))
        for hub in hubs:
            net.addArc(hub.id, "source")
        table = np.zeros((len(worlds[1]), len(worlds[0]), len(faults)))
        for (b, second), (a, first) in itertools.product(enumerate(worlds[1]), enumerate(worlds[0])):
            there = dict.fromkeys((hubs[0].id, c) for c in first) | dict.fromkeys((hubs[1].id, c) for c in second)
            row = [1.0 if not c else plain.causes[c]["loud"] if (h, c) in there else 0.0 for h, c in faults]
            table[b, a] = np.array(row) / sum(row)
        names = [name for name in net.cpt("source").names if name != "source"]
        order = [hubs[1].id, hubs[0].id]
        axes = [order.index(name) for name in reversed(names)]
        net.cpt("source")[:] = table.transpose([*axes, 2])
        self.faults = faults

    def add_answer(self, net: pyagrum.BayesNet, plain: Plain, said: Statement, of: Vehicle) -> list[float]:
        """Add what one witness may say; return the evidence on it."""
        name, answers = f"{said.witness} {said.place}", plain.answers(said.witness)
        net.add(pyagrum.LabelizedVariable(name, "", len(answers)))
        parent = f"{said.place} rolls" if said.place else "source"
        net.addArc(parent, name)
        if said.place:
            hub = of.hub(said.place)
            for n, (values, _) in enumerate(plain.hidden_worlds(hub, (), "rolling")):
                showing = [f"{thing}.{value}" for thing, value in values.items()]
                rows = [plain.answer_chance(said.witness, showing, k) for k in range(len(answers))]
                net.cpt(name)[{parent: n}] = rows
        else:
            for n, (place, cause) in enumerate(self.faults):
                side = of.hub(place).side if place else ""
                rows = [plain.source_chance(said.witness, cause, side, k) for k in range(len(answers))]
                ear = [said.trust * p + (1 - said.trust) / len(answers) for p in rows]
                net.cpt(name)[{parent: n}] = ear
        if len(said.shares) == 1:
            return [said.shares.get(one, 0.0) for one in answers]
        usual = overall(said.witness)
        return [said.shares.get(one, 0.0) / usual[n] for n, one in enumerate(answers)]

    def test_certain_and_doubtful_answers(self) -> None:
        """Spins, a stethoscope left open between two answers, and the road: to nine digits."""
        body = [say("complaint", "growl"), say("load_test", "right"), say("speed_test", "road")]
        hands = [say("spin", "rumbles", "A1L"), say("spring_touch", "smooth", "A1R")]
        doubtful = Statement("stethoscope", "A1L", {"growls": 0.6, "clicks": 0.4})
        said = [*statements_of(body + hands, TAPERS), doubtful]
        net, plain, worlds = self.network(TAPERS)
        evidence = {f"{one.witness} {one.place}": self.add_answer(net, plain, one, TAPERS) for one in said}
        engine = pyagrum.LazyPropagation(net)
        engine.setEvidence(evidence)
        engine.makeInference()
        found = weigh(said, TAPERS)
        for hub, own in zip(TAPERS.hubs(), worlds, strict=True):
            posterior = engine.posterior(hub.id).toarray()
            for cause, p in found.hubs[hub.id].causes.items():
                expected = sum(q for q, world in zip(posterior, own, strict=True) if cause in world)
                self.assertAlmostEqual(p, float(expected), delta=1e-9, msg=f"{hub.id} {cause}")


ANSWERS = [
    (witness, answer)
    for witness in (
        "rock_12_6",
        "in_out",
        "spin",
        "spring_touch",
        "heat",
        "coast_down",
        "opened",
        "tyre_edge",
        "end_play",
    )
    for answer in outcomes(witness)
]
ROAD = [(w, a) for w in ("complaint", "load_test", "coast_test", "turn_clicks", "brake_test") for a in outcomes(w)]
HUBS = ("A1L", "A1R", "A2L", "A2R")
LOGS = st.lists(
    st.one_of(
        st.tuples(st.sampled_from(ANSWERS), st.sampled_from(HUBS)).map(lambda one: say(*one[0], one[1])),
        st.sampled_from(ROAD).map(lambda one: say(*one)),
    ),
    max_size=7,
)
MIRROR = {"left": "right", "right": "left"}


def beliefs(log: list[Observation], of: Vehicle) -> dict[tuple[str, str], float]:
    """Return every fault's probability at every place."""
    found = weigh(statements_of(log, of), of)
    return {(place, cause): p for place, belief in found.places.items() for cause, p in belief.causes.items()}


class Laws(unittest.TestCase):
    """What holds whatever is said."""

    def same(self, one: dict, other: dict, names=lambda key: key) -> None:
        """Check two sets of beliefs against each other."""
        for key, p in one.items():
            self.assertAlmostEqual(p, other[names(key)], places=9, msg=str(key))

    @settings(max_examples=25)
    @given(LOGS, st.randoms(use_true_random=False))
    def test_order_and_repeats_never_matter(self, log: list[Observation], dice) -> None:
        """Shuffled, and every entry twice."""
        twice = log * 2
        dice.shuffle(twice)
        self.same(beliefs(log, VAN), beliefs(twice, VAN))

    @settings(max_examples=25)
    @given(LOGS)
    def test_a_mirrored_vehicle_has_mirrored_answers(self, log: list[Observation]) -> None:
        """Left for right in every hub and every bend."""
        flip = {"A1L": "A1R", "A1R": "A1L", "A2L": "A2R", "A2R": "A2L", "": ""}
        mirrored = [say(one.kind, MIRROR.get(one.value["answer"], one.value["answer"]), flip[one.hub]) for one in log]
        self.same(beliefs(log, VAN), beliefs(mirrored, VAN), lambda key: (flip[key[0]], key[1]))

    @settings(max_examples=15)
    @given(LOGS)
    def test_swapping_axles_changes_nothing_but_names(self, log: list[Observation]) -> None:
        """A trailer's axles change places."""
        swap = {"A1L": "A2L", "A1R": "A2R", "A2L": "A1L", "A2R": "A1R", "": ""}
        log = [one for one in log if one.kind != "tyre_edge"]
        moved = [say(one.kind, one.value["answer"], swap[one.hub]) for one in log]
        self.same(beliefs(log, TANDEM), beliefs(moved, TANDEM), lambda key: (swap[key[0]], key[1]))

    @settings(max_examples=12)
    @given(LOGS)
    def test_the_expected_posterior_is_the_prior(self, log: list[Observation]) -> None:
        """For every test that could still be made: over its answers nothing is believed more or less on average."""
        found = weigh(statements_of(log, VAN), VAN)
        before = now(found)
        for tried in looks(found, Progress.of(log, found.network.said)):
            self.assertAlmostEqual(sum(look.chance for look in tried), 1.0)
            after = sum(look.chance * look.classes for look in tried)
            self.assertLess(float(abs(after - before).max()), 1e-8, tried[0].witness)

    def test_what_a_look_says_is_what_its_answer_does(self) -> None:
        """What one answer more would do, worked out quickly, is what it does when it is given.

        Before anybody spoke of a noise, and where heat ties two mates together already.
        """
        for log in ([say("spin", "rumbles", "A1L")], [say("complaint", "growl"), say("heat", "warm", "A2L")]):
            found = weigh(statements_of(log, VAN), VAN)
            for look in (look for tried in looks(found, Progress.of(log, found.network.said)) for look in tried[::3]):
                if look.witness != "fault_lines":
                    made = now(weigh(statements_of([*log, say(look.witness, look.answer, look.place)], VAN), VAN))
                    self.assertLess(float(abs(made - look.classes).max()), 1e-10, f"{look.witness} {look.place}")

    @settings(max_examples=20)
    @given(LOGS, st.sampled_from(HUBS))
    def test_a_fine_answer_never_raises_suspicion(self, log: list[Observation], hub: str) -> None:
        """Smooth, free, still, even: the bearing there is no likelier than before."""
        log = [one for one in log if not (one.hub == hub and one.kind in ("spin", "spring_touch", "rock_12_6"))]
        before = weigh(statements_of(log, VAN), VAN).hubs[hub].bearing
        for kind, fine in (("spin", "free"), ("spring_touch", "smooth"), ("rock_12_6", "nothing")):
            after = weigh(statements_of([*log, say(kind, fine, hub)], VAN), VAN).hubs[hub].bearing
            self.assertLessEqual(after, before + 1e-9, kind)

    def test_road_answers_clear_what_they_should(self) -> None:
        """Stays when coasting lowers the engine, falls raises it; the brake changes nothing lowers the brake."""
        engine = lambda log: beliefs(log, CAR)["", "engine"]  # noqa: E731
        start = engine([])
        self.assertLess(engine([say("coast_test", "stays")]), start)
        self.assertGreater(engine([say("coast_test", "falls")]), start)
        brake = lambda log: weigh(statements_of(log, CAR), CAR).any_of_group("brake")  # noqa: E731
        growl = [say("complaint", "growl")]
        self.assertLess(brake([*growl, say("brake_test", "same")]), brake(growl))

    def test_four_equally_bad_hubs_are_four_culprits(self) -> None:
        """Rumbling, rough and growling everywhere; or marked everywhere."""
        growls = [
            say(k, a, hub)
            for hub in HUBS
            for k, a in (("spin", "rumbles"), ("spring_touch", "rough"), ("stethoscope", "growls"))
        ]
        for log in (growls, [say("opened", "marked", hub) for hub in HUBS]):
            for of in (VAN, TANDEM):
                named = name_culprits(weigh(statements_of(log, of), of), of)
                self.assertEqual({one.hub for one in named if one.cause == "bearing"}, set(HUBS))

    def test_two_faults_at_one_hub_are_both_named(self) -> None:
        """A marked race and a dragging brake."""
        log = [say("opened", "marked", "A2L"), say("spin", "scrapes", "A2L"), say("heat", "hot", "A2L"),
               say("coast_down", "short", "A2L"), say("brake_test", "changes"), say("complaint", "grind")]  # fmt: skip
        named = {(one.cause, one.hub) for one in name_culprits(weigh(statements_of(log, VAN), VAN), VAN)}
        self.assertLessEqual({("bearing", "A2L"), ("brake", "A2L")}, named)

    def test_nobody_is_named_on_the_prior_alone(self) -> None:
        """Not the one wheel of a barrow, nor the hub that nobody touched."""
        barrow = Vehicle((Axle((Hub("A1C", "centre", "taper_castle"),)),))
        self.assertEqual(name_culprits(weigh([], barrow), barrow), ())
        log = [say("complaint", "growl"), say("load_test", "left"), *(say(k, a, "A1L") for k, a in FINE)]
        named = name_culprits(weigh(statements_of(log, TAPERS), TAPERS), TAPERS)
        self.assertNotIn("A1R", [one.hub for one in named])

    def test_what_is_named_is_a_marginal_of_one_joint(self) -> None:
        """A bearing somewhere is never likelier than the hubs' sum, nor less likely than the likeliest hub."""
        for body in BODIES:
            found = weigh(said_of(body, CAR), CAR)
            each = [belief.bearing for belief in found.hubs.values()]
            anywhere = found.any_of_group("bearing")
            self.assertGreaterEqual(anywhere, max(each) - 1e-9)
            self.assertLessEqual(anywhere, min(sum(each), 1.0) + 1e-9)
            self.assertLessEqual(found.nothing, 1 - anywhere + 1e-9)

    def test_eight_fine_tests_at_every_hub_clear_a_vehicle(self) -> None:
        """Little doubt is left: what stays is what nobody looked at, the engine and the tyres."""
        for of in (CAR, TANDEM):
            log = [say(k, a, hub.id) for hub in of.hubs() for k, a in (*FINE, ("tyre_edge", "even"))]
            log += [say("complaint", "nothing")]
            found = weigh(statements_of(log, of), of)
            self.assertGreater(found.nothing, 0.9)
            self.assertLess(max(belief.bearing for belief in found.hubs.values()), 0.02)


FINE = (("rock_12_6", "nothing"), ("rock_3_9", "nothing"), ("in_out", "nothing"), ("spin", "free"),
        ("spring_touch", "smooth"), ("stethoscope", "quiet"), ("heat", "cool"), ("coast_down", "alike"))  # fmt: skip


class Coupling(unittest.TestCase):
    """What ties hubs together."""

    def test_bearings_of_one_axle_age_together(self) -> None:
        """One seen marked makes its mate likelier than the other axle's, and that likelier than before."""
        before, after = (
            weigh(statements_of(log, TANDEM), TANDEM).hubs for log in ([], [say("opened", "marked", "A1L")])
        )
        self.assertGreater(after["A1R"].bearing, 1.3 * after["A2R"].bearing)
        self.assertGreater(after["A2R"].bearing, before["A2R"].bearing)

    def test_two_hot_hubs_hide_each_other(self) -> None:
        """Each is as warm as its mate by the thermometer: that clears neither."""
        level = Observation("heat", "A1L", {"temp_c": 70, "mate_c": 70})
        hot = [say("heat", "hot", "A1L"), say("heat", "hot", "A1R")]
        alone = weigh(statements_of(hot, TAPERS), TAPERS).hubs["A1L"].bearing
        beside = weigh(statements_of([*hot, level], TAPERS), TAPERS).hubs["A1L"].bearing
        self.assertAlmostEqual(alone, beside, delta=0.05)

    def test_what_makes_a_fault_likelier_before_any_test(self) -> None:
        """Boats: dry hubs. Age: worn races. Just worked on: loose nuts. A design that is set: loose bearings."""
        prior = lambda of, cause: weigh([], of).hubs["A1L"].causes[cause]  # noqa: E731
        for change, cause in (
            ({"duty": ("water",)}, "dry_or_dirty"),
            ({"age_years": 24.0}, "outer_race"),
            ({"duty": ("just_worked_on",)}, "loose_nuts"),
            ({"distance_km": 400e3}, "inner_race"),
        ):
            with self.subTest(change):
                self.assertGreater(prior(replace(TAPERS, **change), cause), 1.1 * prior(TAPERS, cause))
        self.assertNotIn("drive_joint", weigh([], TAPERS).hubs["A1L"].causes)
        self.assertNotIn("too_tight", weigh([], CAR).hubs["A1L"].causes)

    def test_one_noise_is_one_noise(self) -> None:
        """A third way of feeling the same roughness adds less than the first did."""
        ways = [say("spin", "rumbles", "A1L"), say("spring_touch", "rough", "A1L"), say("stethoscope", "growls", "A1L")]
        bits = [
            np.log2(p / (1 - p))
            for p in (weigh(statements_of(ways[:n], CAR), CAR).hubs["A1L"].bearing for n in range(4))
        ]
        gains = np.diff(bits)
        self.assertTrue(gains[0] > gains[1] > gains[2] > 0)

    def test_what_the_cabin_hears_of_one_thing_does_not_clear_another(self) -> None:
        """Lines of a bearing and a tyre's hum, heard at once from the cabin: neither explains the other away."""
        of, hubs = vehicle("hub_unit", "hub_unit"), frozenset({"A1L", "A1R", "A2L", "A2R"})
        lines = Statement("fault_lines", "", {"outer_race": 1.0}, hubs=hubs)
        hum = Statement("hum", "", {"loud_hum": 1.0}, hubs=hubs)
        for alone, group in ((lines, "bearing"), (hum, "tyre")):
            both = weigh([lines, hum], of).any_of_group(group)
            self.assertAlmostEqual(both, weigh([alone], of).any_of_group(group), delta=0.05)
            self.assertGreater(both, 0.7)

    def test_duals(self) -> None:
        """Four wheels on one axle, two couples read beside each other: sums still agree with leaving one out."""
        hubs = tuple(
            Hub(f"A1{n}", "left" if n[0] == "L" else "right", "taper_locknut") for n in ("LO", "LI", "RI", "RO")
        )
        duals = Vehicle((Axle(hubs, driven=True),))
        log = [say("heat", "hot", "A1LO"), say("heat", "warm", "A1RI"), say("complaint", "heat")]
        found = weigh(statements_of(log, duals), duals)
        self.assertGreater(found.hubs["A1LO"].bearing, found.hubs["A1RO"].bearing)
        for one, bits in found.hubs["A1LO"].weights:
            rest = Network(duals, [other for other in found.network.said if other is not one])
            bearing = found.hubs["A1LO"].space.group("bearing")
            p, q = (float(net.marginal("A1LO") @ bearing) for net in (found.network, rest))
            self.assertAlmostEqual(bits, np.log2(p / (1 - p)) - np.log2(q / (1 - q)), places=8)

    def test_every_applicable_test_can_be_answered_and_tells_of_its_place(self) -> None:
        """On every kind of vehicle, each answer leaves probabilities that are such."""
        cycle = Vehicle(
            (Axle((Hub("A1C", "centre", "cup_cone"),)), Axle((Hub("A2C", "centre", "cup_cone"),), driven=True))
        )
        for of in (CAR, TANDEM, cycle):
            for place, tests in applicable(of).items():
                for test in tests:
                    for answer in outcomes(test) if test != "fault_lines" else ():
                        said = statements(say(test, answer, place), of)
                        found = weigh(said, of)
                        self.assertTrue(0 <= found.nothing <= 1, test)
                        self.assertTrue(all(one.place in (place, VEHICLE) for one in said))
